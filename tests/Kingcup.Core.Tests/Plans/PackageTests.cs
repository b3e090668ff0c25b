using CsCheck;
using Kingcup.Core.Plans;
using Kingcup.Core.Tests.Reference;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Plans;

/// <summary>Packages and their credits (rules, section 10).</summary>
public sealed class PackageTests
{
    private static readonly Guid _massage = Worlds.Id(40),
        _facial = Worlds.Id(41),
        _body = Worlds.Id(50),
        _skin = Worlds.Id(51);
    private static readonly LocalDate _day = new(2027, 3, 10);

    private static Package Of(long price, params (int Count, long ListPrice)[] items) =>
        new()
        {
            Price = price,
            Items = [.. items.Select(item => new PackageItem(CreditScope.OfService(_massage), item.Count, item.ListPrice))],
        };

    private static Credit Credit(int id, CreditScope scope, LocalDate? lastDay = null, int soldOn = 1) =>
        new(Worlds.Id(id), scope, Instant.FromUtc(2027, 1, soldOn, 9, 0), lastDay);

    private static ServiceToPay Massage(long price = 8400) => new(_massage, _body, price);

    private static ServiceToPay Facial(long price = 7400) => new(_facial, _skin, price);

    private static int?[] Best(IReadOnlyList<Credit> credits, params ServiceToPay?[] lines) =>
        [.. Credits.Best(credits, lines, _day).Select(credit => credit is null ? (int?)null : credits.ToList().IndexOf(credit))];

    [Fact]
    public void Example_10a() =>
        Of(45000, (5, 8400), (1, 10200)).Parts().ShouldBe([7242, 7242, 7241, 7241, 7241, 8793]);

    [Theory]
    [InlineData(PackageRefund.LessUsedAtList, 28200)] // the refunds of section 10 after two of the five
    [InlineData(PackageRefund.PartsLeft, 30516)]
    public void What_goes_back_of_the_unused(PackageRefund way, long back)
    {
        Package package = Of(45000, (5, 8400), (1, 10200)) with { Refund = way };
        long[] lists = [8400, 8400, 8400, 8400, 8400, 10200];
        package.RefundOf(package.Parts().Select((part, i) => new SoldCredit(part, lists[i], IsLeft: i >= 2))).ShouldBe(back);
    }

    [Fact]
    public void What_is_used_up_at_list_price_leaves_nothing_to_give_back()
    {
        Package package = Of(10000, (3, 8400));
        IReadOnlyList<long> parts = package.Parts();
        package.RefundOf(parts.Select((part, i) => new SoldCredit(part, 8400, IsLeft: i == 2))).ShouldBe(0);
        (package with { Refund = PackageRefund.PartsLeft }).RefundOf(parts.Select(part => new SoldCredit(part, 8400, false))).ShouldBe(0);
    }

    [Fact]
    public void What_costs_nothing_by_itself_carries_the_same_part_each() => Of(1000, (3, 0)).Parts().ShouldBe([334, 333, 333]);

    [Fact]
    public void Parts_are_the_price_and_each_is_less_than_a_unit_from_its_share() =>
        (
            from price in Gen.Long[0, 10_000_000]
            from items in Gen.Select(Gen.Int[1, 12], Gen.Long[0, 50_000]).Array[1, 6]
            select (price, items)
        ).Sample(world =>
        {
            long[] weights = [.. world.items.SelectMany(item => Enumerable.Repeat(item.Item2, item.Item1))];
            long[] parts = [.. Of(world.price, world.items).Parts()];
            parts.Sum().ShouldBe(world.price);
            decimal all = weights.Sum();
            if (all == 0) return;
            for (int i = 0; i < parts.Length; i++) Math.Abs(parts[i] - (world.price * weights[i] / all)).ShouldBeLessThan(1);
        });

    [Fact]
    public void It_runs_out_from_the_day_it_was_bought_or_first_used()
    {
        Package package = Of(1000, (1, 1000)) with { ValidFor = Period.FromMonths(6) };
        package.LastDay(new LocalDate(2027, 8, 31), null).ShouldBe(new LocalDate(2028, 2, 29));
        Package used = package with { ValidFrom = ValidFrom.FirstUse };
        used.LastDay(new LocalDate(2027, 3, 1), null).ShouldBeNull();
        used.LastDay(new LocalDate(2027, 3, 1), new LocalDate(2027, 5, 2)).ShouldBe(new LocalDate(2027, 11, 2));
        (package with { ValidFor = null }).LastDay(_day, _day).ShouldBeNull();
    }

    [Fact]
    public void What_runs_out_first_is_used_first_then_the_most_specific_then_the_oldest()
    {
        CreditScope body = CreditScope.OfCategory(_body),
            cheap = CreditScope.OfCategory(_body, 9000),
            massage = CreditScope.OfService(_massage);
        Best([Credit(1, massage), Credit(2, body, _day.PlusDays(30)), Credit(3, massage, _day.PlusDays(31))], Massage()).ShouldBe([1]);
        Best([Credit(1, body), Credit(2, cheap), Credit(3, massage)], Massage()).ShouldBe([2]);
        Best([Credit(1, body), Credit(2, cheap)], Massage()).ShouldBe([1]);
        Best([Credit(1, massage, soldOn: 3), Credit(2, massage, soldOn: 2)], Massage()).ShouldBe([1]);
    }

    [Fact]
    public void A_credit_pays_only_for_what_it_is_for_and_until_its_last_day()
    {
        Best([Credit(1, CreditScope.OfCategory(_body, 8399))], Massage()).ShouldBe([null]);
        Best([Credit(1, CreditScope.OfCategory(_body, 8400))], Massage()).ShouldBe([0]);
        Best([Credit(1, CreditScope.OfCategory(_skin))], Massage()).ShouldBe([null]);
        Best([Credit(1, CreditScope.OfService(_massage), _day.PlusDays(-1))], Massage()).ShouldBe([null]);
        Best([Credit(1, CreditScope.OfService(_massage), _day)], Massage()).ShouldBe([0]);
        Best([Credit(1, CreditScope.OfService(_massage))], null, Massage(), Massage()).ShouldBe([null, 0, null]);
    }

    [Fact]
    public void No_line_takes_the_only_credit_of_another_where_it_has_one_of_its_own()
    {
        // The category's credit runs out first, but it is the only one that pays for the second line.
        ServiceToPay other = new(Worlds.Id(42), _body, 6000);
        Credit[] credits = [Credit(1, CreditScope.OfCategory(_body), _day.PlusDays(3)), Credit(2, CreditScope.OfService(_massage))];
        Best(credits, Massage(), other).ShouldBe([1, 0]);
        Best(credits, other, Massage()).ShouldBe([0, 1]);
        Best(credits, Massage()).ShouldBe([0]);
        Best(credits, Massage(), Facial()).ShouldBe([0, null]);
    }

    [Fact]
    public void As_many_lines_are_paid_as_by_any_way_of_giving_them_credits() =>
        (
            from credits in (
                from kind in Gen.Int[0, 3]
                from days in Gen.Int[-1, 3]
                select (kind, days)
            ).Array[0, 5]
            from lines in Gen.Int[0, 2].Array[1, 4]
            select (credits, lines)
        ).Sample(world =>
        {
            CreditScope[] scopes =
            [
                CreditScope.OfService(_massage),
                CreditScope.OfService(_facial),
                CreditScope.OfCategory(_body),
                CreditScope.OfCategory(_body, 7000),
            ];
            Credit[] credits = [.. world.credits.Select((credit, i) => Credit(i + 1, scopes[credit.kind], _day.PlusDays(credit.days)))];
            ServiceToPay[] kinds = [Massage(), Facial(), new(Worlds.Id(42), _body, 6000)];
            ServiceToPay[] lines = [.. world.lines.Select(line => kinds[line])];
            IReadOnlyList<Credit?> best = Credits.Best(credits, lines, _day);
            best.OfType<Credit>().Distinct().Count().ShouldBe(best.OfType<Credit>().Count());
            best.Zip(lines).All(pair => pair.First is null || pair.First.For.Covers(pair.Second)).ShouldBeTrue();
            best.OfType<Credit>().All(credit => credit.LastDay >= _day).ShouldBeTrue();
            best.OfType<Credit>().Count().ShouldBe(Most([.. credits.Where(credit => credit.LastDay >= _day)], lines));
        });

    /// <summary>The slow way: every line with every credit, or with none.</summary>
    private static int Most(Credit[] left, ReadOnlySpan<ServiceToPay> lines)
    {
        if (lines.Length == 0) return 0;
        int most = Most(left, lines[1..]);
        foreach (Credit credit in left)
            if (credit.For.Covers(lines[0])) most = Math.Max(most, 1 + Most([.. left.Where(other => other != credit)], lines[1..]));
        return most;
    }
}
