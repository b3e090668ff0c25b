using CsCheck;
using Kingcup.Core.Plans;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Plans;

/// <summary>Plans, their periods and what of them is earned (rules, sections 11 and 12).</summary>
public sealed class PlanTests
{
    private static readonly Plan _monthly = new()
    {
        Price = 3000,
        Every = BillingPeriod.Month,
        MinimumTerm = Period.FromMonths(3),
        NoticeDays = 30,
    };

    private static readonly Gen<LocalDate> _dates = Gen.Int[0, 4000].Select(days => new LocalDate(2024, 1, 1).PlusDays(days));

    private static LocalDate Day(int year, int month, int day) => new(year, month, day);

    private static BillingCycle After(BillingCycle cycle, int renewals) =>
        Enumerable.Range(0, renewals).Aggregate(cycle, (period, _) => period.Renewed());

    [Fact]
    public void A_month_keeps_the_day_of_joining_as_far_as_it_is_long_enough()
    {
        BillingCycle cycle = BillingCycle.Joined(BillingPeriod.Month, Day(2027, 1, 31));
        Enumerable.Range(0, 4).Select(n => After(cycle, n).Until).ShouldBe(
            [Day(2027, 2, 28), Day(2027, 3, 31), Day(2027, 4, 30), Day(2027, 5, 31)]
        );
        After(cycle, 3).From.ShouldBe(Day(2027, 4, 30));
    }

    [Theory]
    [InlineData(BillingPeriod.Week, 7)]
    [InlineData(BillingPeriod.FourWeeks, 28)]
    [InlineData(BillingPeriod.Month, 31)]
    [InlineData(BillingPeriod.Quarter, 92)]
    [InlineData(BillingPeriod.Year, 366)] // over a leap day
    public void A_period_is_as_long_as_it_is_called(BillingPeriod every, int days)
    {
        BillingCycle cycle = BillingCycle.Joined(every, Day(2027, 5, 15));
        Period.DaysBetween(cycle.From, cycle.Until).ShouldBe(days);
    }

    [Fact]
    public void Ten_years_of_renewals_are_where_each_date_is_counted_from_the_first() =>
        (from joined in _dates from every in Gen.Enum<BillingPeriod>() select (joined, every)).Sample(world =>
        {
            BillingCycle cycle = BillingCycle.Joined(world.every, world.joined);
            LocalDate end = world.joined.PlusYears(10);
            for (int n = 1; cycle.Until < end; n++, cycle = cycle.Renewed())
            {
                LocalDate counted = world.every switch
                {
                    BillingPeriod.Week => world.joined.PlusDays(7 * n),
                    BillingPeriod.FourWeeks => world.joined.PlusDays(28 * n),
                    BillingPeriod.Month => world.joined.PlusMonths(n),
                    BillingPeriod.Quarter => world.joined.PlusMonths(3 * n),
                    _ => world.joined.PlusYears(n),
                };
                cycle.Until.ShouldBe(counted);
                (LocalDate anchor, int periods) = cycle.ToKeep;
                BillingCycle.Kept(cycle.Every, cycle.From, anchor, periods).ShouldBe(cycle);
            }
        });

    [Fact]
    public void Frozen_days_move_the_next_charge_and_its_day_of_the_month()
    {
        BillingCycle frozen = BillingCycle.Joined(BillingPeriod.Month, Day(2027, 1, 31)).Frozen(10);
        (frozen.From, frozen.Until).ShouldBe((Day(2027, 1, 31), Day(2027, 3, 10)));
        Enumerable.Range(1, 2).Select(n => After(frozen, n).Until).ShouldBe([Day(2027, 4, 10), Day(2027, 5, 10)]);
        BillingCycle.Joined(BillingPeriod.Month, Day(2027, 1, 31)).Frozen(0).Renewed().Until.ShouldBe(Day(2027, 3, 31));
    }

    [Theory]
    [InlineData(5, 0, 4)]
    [InlineData(0, 3, 4)]
    [InlineData(2, 3, 6)]
    [InlineData(2, 1, 5)]
    public void What_goes_over_is_bounded_and_then_the_new_ones_come(int unused, int rollover, int credits) =>
        (_monthly with { Credits = 4, Rollover = rollover }).CreditsAfter(unused).ShouldBe(credits);

    [Fact]
    public void It_ends_with_the_first_period_that_is_not_before_the_term_nor_the_notice()
    {
        LocalDate joined = Day(2027, 1, 31);
        BillingCycle april = After(BillingCycle.Joined(BillingPeriod.Month, joined), 2);
        april.Until.ShouldBe(Day(2027, 4, 30));
        // The example of section 11: 30 April is before 10 May.
        _monthly.EndsOn(joined, april, Day(2027, 4, 10)).ShouldBe(Day(2027, 5, 31));
        _monthly.EndsOn(joined, april, Day(2027, 3, 31)).ShouldBe(Day(2027, 4, 30));
        BillingCycle first = BillingCycle.Joined(BillingPeriod.Month, joined);
        _monthly.EndsOn(joined, first, Day(2027, 1, 31)).ShouldBe(Day(2027, 4, 30));
        _monthly.EndsOn(joined, first.Frozen(10), Day(2027, 1, 31), frozenDays: 10).ShouldBe(Day(2027, 5, 10));
        (_monthly with { MinimumTerm = Period.Zero, NoticeDays = 0 }).EndsOn(joined, first, Day(2027, 2, 10)).ShouldBe(Day(2027, 2, 28));
    }

    [Fact]
    public void An_end_is_the_end_of_a_period_and_no_earlier_one_would_do() =>
        (
            from joined in _dates
            from renewals in Gen.Int[0, 30]
            from after in Gen.Int[0, 27]
            from term in Gen.Int[0, 24]
            from notice in Gen.Int[0, 120]
            select (joined, renewals, after, term, notice)
        ).Sample(world =>
        {
            Plan plan = _monthly with { MinimumTerm = Period.FromMonths(world.term), NoticeDays = world.notice };
            BillingCycle cycle = After(BillingCycle.Joined(plan.Every, world.joined), world.renewals);
            LocalDate given = cycle.From.PlusDays(world.after),
                ends = plan.EndsOn(world.joined, cycle, given);
            LocalDate[] ending = [.. Enumerable.Range(1, 80).Select(n => world.joined.PlusMonths(n)).Where(end => end >= cycle.Until)];
            ends.ShouldBe(ending.First(end => end >= world.joined.PlusMonths(world.term) && end >= given.PlusDays(world.notice)));
        });

    [Fact]
    public void Example_12e()
    {
        // 30.00 less the tax in it, charged on 20 November for 30 days.
        FeeByDay fee = new(2643, Day(2026, 11, 20), Day(2026, 12, 20), []);
        fee.EarnedBy(Day(2026, 11, 30)).ShouldBe(969);
        (fee.EarnedBy(Day(2026, 12, 19)) - fee.EarnedBy(Day(2026, 11, 30))).ShouldBe(1674);
        fee.EarnedBy(Day(2026, 11, 19)).ShouldBe(0);
        fee.EarnedBy(Day(2027, 1, 31)).ShouldBe(2643);
    }

    [Fact]
    public void Frozen_days_earn_nothing_and_the_fee_is_earned_in_the_end() =>
        (
            from fee in Gen.Long[0, 100_000]
            from days in Gen.Int[1, 92]
            from at in Gen.Int[0, 91]
            from frozen in Gen.Int[0, 40]
            select (fee, days, at: Math.Min(at, days - 1), frozen)
        ).Sample(world =>
        {
            LocalDate from = Day(2027, 1, 20),
                stops = from.PlusDays(world.at);
            FeeByDay fee = new(
                world.fee,
                from,
                from.PlusDays(world.days + world.frozen),
                [new Freeze(stops, stops.PlusDays(world.frozen))]
            );
            long before = 0;
            int counted = 0;
            for (LocalDate day = from; day < fee.Until; day = day.PlusDays(1))
            {
                bool isFrozen = day >= stops && day < stops.PlusDays(world.frozen);
                if (!isFrozen) counted++;
                long earned = fee.EarnedBy(day);
                if (isFrozen) earned.ShouldBe(before);
                Math.Abs(earned - (decimal)world.fee * counted / world.days).ShouldBeLessThanOrEqualTo(0.5m);
                before = earned;
            }

            before.ShouldBe(world.fee);
        });

    [Theory]
    [InlineData(3, 10000, 4000, null, new long[] { 3334, 3333, 3333 })] // the price is less than they would cost
    [InlineData(3, 10000, 2500, null, new long[] { 2500, 2500, 2500 })] // the rest is earned by the day
    [InlineData(3, 10000, 2500, 1000L, new long[] { 334, 333, 333 })]
    [InlineData(0, 10000, 2500, null, new long[0])]
    public void The_part_of_a_fee_that_belongs_to_its_credits(int credits, long fee, long listPrice, long? figure, long[] parts) =>
        (_monthly with { Credits = credits }).CreditParts(fee, listPrice, figure).ShouldBe(parts);

    [Fact]
    public void A_failed_charge_is_tried_again_after_1_3_and_7_days_until_it_lapses()
    {
        LocalDate first = Day(2027, 2, 27);
        Enumerable.Range(1, 4).Select(n => (FailedCharge.After(n), FailedCharge.Again(first, n))).ShouldBe([
            (FailedStanding.Holds, first.PlusDays(1)),
            (FailedStanding.Holds, first.PlusDays(3)),
            (FailedStanding.Stopped, first.PlusDays(7)),
            (FailedStanding.Lapsed, (LocalDate?)null),
        ]);
        FailedCharge.After(0).ShouldBe(FailedStanding.Holds);
    }
}
