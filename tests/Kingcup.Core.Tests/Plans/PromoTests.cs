using CsCheck;
using Kingcup.Core.Money;
using Kingcup.Core.Plans;
using Kingcup.Core.Tests.Reference;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Plans;

/// <summary>What promo codes take off (rules, section 8).</summary>
public sealed class PromoTests
{
    private static readonly Guid _massage = Worlds.Id(40),
        _facial = Worlds.Id(41),
        _oil = Worlds.Id(60);
    private static readonly LocalDate _today = new(2027, 3, 1);

    private static Promo Code(PromoKind kind, long value, params Guid[] services) =>
        new()
        {
            Id = Worlds.Id(70),
            Code = "SPRING",
            Kind = kind,
            Value = value,
            Services = services.ToHashSet(),
        };

    private static VisitPrice Of(params long[] prices) =>
        new([.. prices.Select(price => new PricedLine([new(PricePartKind.List, price)]))]);

    private static long[] Off(Promo promo, VisitPrice price, params Guid[] services)
    {
        VisitPrice paid = promo.Off(price, services);
        return [.. price.Lines.Zip(paid.Lines).Select(pair => pair.First.Total - pair.Second.Total)];
    }

    [Theory]
    [InlineData(PromoKind.Percent, 10, new long[] { 333, 333, 333 })] // example 8b, 9.99 in all
    [InlineData(PromoKind.Fixed, 1000, new long[] { 333, 333, 334 })] // example 8b
    public void On_three_lines(PromoKind kind, long value, long[] off) =>
        Off(Code(kind, value), Of(3333, 3333, 3334), _massage, _massage, _massage).ShouldBe(off);

    [Fact]
    public void A_percentage_rounds_half_up_on_the_service_and_on_each_add_on()
    {
        // The sums of example 8a: 84.00 to 71.40, and of 9.50 to 8.07.
        VisitPrice price = new([new PricedLine([new(PricePartKind.List, 8400), new(PricePartKind.AddOn, 950, _oil)])]);
        PricedLine paid = Code(PromoKind.Percent, 15).Off(price, [_massage]).Lines[0];
        (paid.OfService, paid.OfAddOns, paid.OfAddOn(_oil), paid.Total).ShouldBe((7140, 807, 807, 7947));
        paid.Parts.Skip(2)
            .ShouldBe([
                new(PricePartKind.Promo, -1260) { PromoId = Worlds.Id(70) },
                new(PricePartKind.Promo, -143, _oil) { PromoId = Worlds.Id(70) },
            ]);
    }

    [Fact]
    public void Only_the_lines_it_holds_for_cost_less_and_never_less_than_nothing()
    {
        Off(Code(PromoKind.Percent, 50, _facial), Of(8400, 6000), _massage, _facial).ShouldBe([0, 3000]);
        Off(Code(PromoKind.Fixed, 9000, _facial), Of(8400, 6000), _massage, _facial).ShouldBe([0, 6000]);
        Off(Code(PromoKind.Percent, 100), Of(0, 6000), _massage, _facial).ShouldBe([0, 6000]);
        Code(PromoKind.Fixed, 500).Off(Of(0), [_massage]).Lines[0].Parts.Count.ShouldBe(1);
    }

    [Fact]
    public void What_was_agreed_stays_and_a_fixed_sum_is_not_given_twice()
    {
        Promo promo = Code(PromoKind.Fixed, 1000);
        VisitPrice agreed = promo.Off(Of(5000, 5000), [_massage, _facial]);
        promo.Off(agreed, [_massage, _facial], (_, _) => true).ShouldBeEquivalentTo(agreed);
        // Whatever the owner has made of the code since.
        (promo with { Value = 3000 }).Off(agreed, [_massage, _facial], (_, _) => true).Total.ShouldBe(9000);
        Promo half = promo with { Kind = PromoKind.Percent, Value = 50 };
        half.Off(Of(5000, 6000), [_massage, _facial], (line, _) => line == 0).Total.ShouldBe(8000);

        // The second line is done by somebody who asks more: it takes what the first has left of the sum.
        VisitPrice laid = VisitPrice.Laid(Of(5000, 7000), [(agreed.Lines[0], true, new HashSet<Guid>()), null]);
        VisitPrice again = promo.Off(laid, [_massage, _facial], (line, _) => line == 0);
        again.Lines.Select(line => line.Total).ShouldBe([4500, 6500]);
    }

    [Fact]
    public void An_add_on_that_stays_keeps_what_was_taken_off_it()
    {
        PricedLine asBooked = new([new(PricePartKind.List, 8400), new(PricePartKind.AddOn, 950, _oil)]);
        PricedLine agreed = Code(PromoKind.Percent, 10).Off(new VisitPrice([asBooked]), [_massage]).Lines[0];
        VisitPrice laid = VisitPrice.Laid(
            new VisitPrice([new PricedLine([new(PricePartKind.List, 9000), new(PricePartKind.AddOn, 1000, _oil)])]),
            [(agreed, false, new HashSet<Guid> { _oil })]
        );
        (laid.Lines[0].OfService, laid.Lines[0].OfAddOns).ShouldBe((9000, 855));
        VisitPrice
            .Laid(new VisitPrice([asBooked]), [(agreed, true, new HashSet<Guid> { _oil })])
            .Lines[0]
            .Parts.OrderBy(part => part.Amount)
            .ShouldBe(agreed.Parts.OrderBy(part => part.Amount));
    }

    [Fact]
    public void It_says_why_it_takes_nothing_off()
    {
        Promo promo = Code(PromoKind.Percent, 10, _massage) with
        {
            From = new(2027, 3, 10),
            Until = new(2027, 3, 20),
            BookBy = new(2027, 3, 5),
        };
        PromoFault? At(LocalDate today, LocalDate? visit, Guid service) => promo.FaultFor(today, visit, [service]);
        At(_today, null, _massage).ShouldBeNull();
        At(_today, new(2027, 3, 10), _massage).ShouldBeNull();
        At(_today, new(2027, 3, 20), _massage).ShouldBeNull();
        At(_today, new(2027, 3, 9), _massage).ShouldBe(PromoFault.TooEarly);
        At(_today, new(2027, 3, 21), _massage).ShouldBe(PromoFault.TooLate);
        At(_today, new(2027, 3, 10), _facial).ShouldBe(PromoFault.OtherServices);
        At(new(2027, 3, 5), new(2027, 3, 10), _massage).ShouldBeNull();
        At(new(2027, 3, 6), new(2027, 3, 10), _massage).ShouldBe(PromoFault.Over);
        (promo with { IsEnded = true }).FaultFor(_today, null, [_massage]).ShouldBe(PromoFault.Over);
        (promo with { BookBy = null }).FaultFor(new(2027, 3, 21), null, [_massage]).ShouldBe(PromoFault.Over);
        promo.FaultFor(_today, null, [_facial, _massage]).ShouldBeNull();
    }

    [Theory]
    [InlineData(" spring 27 ", "SPRING27", true)]
    [InlineData("a-1", "A-1", true)]
    [InlineData("ab", "AB", false)]
    [InlineData("frühling", "FRÜHLING", false)]
    [InlineData("abcdefghijklmnopqrstuvwxy", "ABCDEFGHIJKLMNOPQRSTUVWXY", false)]
    public void A_code_is_compared_as_it_is_kept(string typed, string kept, bool canBe)
    {
        Promo.Normal(typed).ShouldBe(kept);
        Promo.CanBeCode(Promo.Normal(typed)).ShouldBe(canBe);
    }

    [Fact]
    public void In_any_visit_it_takes_off_what_it_says_and_its_parts_add_up() =>
        Gen.Select(Gen.Bool, Gen.Long[1, 100], Gen.Long[0, 9000].Array[1, 4], Gen.Long[0, 900].Array[0, 3], Gen.Int[0, 15])
            .Sample(
                (isPercent, value, services, extras, held) =>
                {
                    Promo promo = Code(isPercent ? PromoKind.Percent : PromoKind.Fixed, isPercent ? value : value * 100, _massage);
                    Guid[] lines = [.. services.Select((_, i) => (held >> i & 1) == 1 ? _massage : _facial)];
                    VisitPrice price = new([
                        .. services.Select(
                            (service, i) =>
                                new PricedLine([
                                    new(PricePartKind.List, service),
                                    .. extras.Select((extra, k) => new PricePart(PricePartKind.AddOn, extra, Worlds.Id(60 + k))),
                                ])
                        ),
                    ]);
                    VisitPrice paid = promo.Off(price, lines);
                    long[] items = [.. services.Where((_, i) => lines[i] == _massage).SelectMany(service => extras.Prepend(service))];
                    long off = isPercent
                        ? items.Sum(item => (long)Math.Round(item * value / 100m, MidpointRounding.AwayFromZero))
                        : Math.Min(value * 100, items.Sum());
                    (price.Total - paid.Total).ShouldBe(off);
                    foreach ((PricedLine before, PricedLine after) in price.Lines.Zip(paid.Lines))
                    {
                        after.OfService.ShouldBeInRange(0, before.OfService);
                        after.OfAddOns.ShouldBeInRange(0, before.OfAddOns);
                        after.Total.ShouldBe(after.Parts.Sum(part => part.Amount));
                        after.Parts.Take(before.Parts.Count).ShouldBe(before.Parts);
                    }
                },
                iter: 20_000
            );
}
