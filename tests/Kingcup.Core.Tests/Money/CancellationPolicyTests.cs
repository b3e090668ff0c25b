using Kingcup.Core.Money;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>What cancelling costs, and where it comes from (rules, section 9).</summary>
public sealed class CancellationPolicyTests
{
    private static readonly Instant _start = Instant.FromUtc(2027, 3, 10, 18, 0);

    private static readonly CancellationPolicy _policy = new()
    {
        // Not in order, as somebody may have entered them.
        Tiers = [new(24, 50, LosesCredit: true), new(48, 0)],
        Below = new(0, 100, LosesCredit: true),
        NoShow = new(0, 80, LosesCredit: true),
        MoveNoticeHours = 24,
        FreeMoves = 2,
    };

    private static Instant Before(double hours) => _start - Duration.FromHours(hours);

    private static PaidSoFar Paid(long deposit = 2520, bool hasCard = true, params long[] lines) =>
        new(lines.Length > 0 ? lines : [8400], deposit, hasCard);

    [Fact]
    public void Example_9a()
    {
        CancellationFee.Of(_policy, _start, Before(30), Paid()).ShouldBe(new CancellationFee(4200, 2520, 1680, 0, 0, true));
        CancellationFee.Of(_policy, _start, Before(48), Paid()).ShouldBe(new CancellationFee(0, 0, 0, 0, 2520, false));
        CancellationFee.Of(_policy, _start, Before(30), Paid(hasCard: false)).ShouldBe(new CancellationFee(4200, 2520, 0, 1680, 0, true));
    }

    [Theory]
    [InlineData(1000, 0)]
    [InlineData(48, 0)]
    [InlineData(47.999, 50)]
    [InlineData(24, 50)]
    [InlineData(23.999, 100)]
    [InlineData(0, 100)]
    [InlineData(-1, 100)]
    public void The_client_has_the_benefit_of_the_boundary(double hours, int percent) =>
        _policy.TierAt(_start, Before(hours)).Percent.ShouldBe(percent);

    [Fact]
    public void Hours_are_counted_as_they_pass_whatever_clocks_do()
    {
        // The clocks of Dublin go forward in the night before: 24 hours before noon is 11 o'clock on the day before.
        DateTimeZone dublin = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
        Instant noon = new LocalDateTime(2027, 3, 28, 12, 0).InZoneStrictly(dublin).ToInstant();
        Instant Saturday(int hour) => new LocalDateTime(2027, 3, 27, hour, 0).InZoneStrictly(dublin).ToInstant();
        _policy.TierAt(noon, Saturday(11)).Percent.ShouldBe(50);
        _policy.TierAt(noon, Saturday(12)).Percent.ShouldBe(100);
    }

    [Fact]
    public void Not_coming_has_its_own_percent_and_what_the_business_cancels_costs_nothing()
    {
        CancellationFee.OfNoShow(_policy, Paid(10_000)).ShouldBe(new CancellationFee(6720, 6720, 0, 0, 3280, true));
        CancellationFee.ByBusiness(Paid()).ShouldBe(new CancellationFee(0, 0, 0, 0, 2520, false));
        CancellationFee.Of(CancellationPolicy.None, _start, _start, Paid()).Fee.ShouldBe(0);
    }

    [Fact]
    public void Each_line_is_rounded_half_up_on_its_own() =>
        CancellationFee.Of(_policy, _start, Before(30), Paid(0, true, 3333, 3333, 3335)).Fee.ShouldBe(1667 + 1667 + 1668);

    [Theory]
    [InlineData(24, 0, false)]
    [InlineData(23.99, 0, true)]
    [InlineData(100, 1, false)]
    [InlineData(100, 2, true)]
    public void Moving_counts_as_cancelling_inside_the_notice_and_after_the_free_moves(double hours, int moves, bool counts) =>
        _policy.CountsAsCancelling(_start, Before(hours), moves).ShouldBe(counts);

    [Fact]
    public void A_line_over_time_says_the_same_as_each_moment()
    {
        IReadOnlyList<(Instant? From, CancellationTier Tier)> over = _policy.Over(_start);
        over.Select(stretch => stretch.Tier.Percent).ShouldBe([0, 50, 100]);
        over.Select(stretch => stretch.From).ShouldBe([null, Before(48), Before(24)]);
        for (int i = 1; i < over.Count; i++)
        {
            // Exactly at the boundary it still costs what it did before.
            _policy.TierAt(_start, over[i].From!.Value).ShouldBe(over[i - 1].Tier);
            _policy.TierAt(_start, over[i].From!.Value + Duration.FromNanoseconds(1)).ShouldBe(over[i].Tier);
        }
    }

    [Fact]
    public void Whatever_happens_every_cent_is_somewhere_and_waiting_never_makes_it_cheaper_where_tiers_rise()
    {
        Random random = new(11);
        for (int world = 0; world < 20_000; world++)
        {
            int[] percents = [.. Enumerable.Range(0, 4).Select(_ => random.Next(101)).Order()];
            CancellationPolicy policy = new()
            {
                Tiers = [new(72, percents[0]), new(48, percents[1]), new(24, percents[2])],
                Below = new(0, percents[3]),
            };
            long[] lines = [.. Enumerable.Range(0, random.Next(1, 4)).Select(_ => (long)random.Next(30_000))];
            PaidSoFar paid = new(lines, random.NextInt64(lines.Sum() + 1), random.Next(2) == 0);
            long before = 0;
            foreach (double hours in new[] { 100, 72, 60, 48, 30, 24, 10, 0.5 })
            {
                CancellationFee fee = CancellationFee.Of(policy, _start, Before(hours), paid);
                (fee.FromDeposit + fee.Refund).ShouldBe(paid.Deposit);
                (fee.FromDeposit + fee.FromCard + fee.Owed).ShouldBe(fee.Fee);
                fee.Fee.ShouldBeInRange(before, lines.Sum());
                if (paid.HasCard) fee.Owed.ShouldBe(0);
                else fee.FromCard.ShouldBe(0);
                before = fee.Fee;
            }
        }
    }
}
