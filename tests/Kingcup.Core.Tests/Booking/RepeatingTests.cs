using CsCheck;
using Kingcup.Core.Booking;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Booking;

/// <summary>The dates of a visit that repeats.</summary>
public sealed class RepeatingTests
{
    private static readonly LocalDate _first = new(2027, 1, 31);

    private static string[] Dates(Repeating repeat, LocalDate? first = null) =>
        [.. repeat.Dates(first ?? _first).Select(date => date.ToString("d MMM", System.Globalization.CultureInfo.InvariantCulture))];

    private static string[] Fields(Repeating repeat) => [.. repeat.Faults(_first).Select(fault => fault.Field)];

    [Fact]
    public void The_thirty_first_falls_on_the_last_of_a_short_month_and_comes_back_in_a_long_one() =>
        Dates(new Repeating(RepeatUnit.Month, 1, 5, null)).ShouldBe(["31 Jan", "28 Feb", "31 Mar", "30 Apr", "31 May"]);

    [Fact]
    public void A_date_it_repeats_until_may_be_one_of_them()
    {
        Dates(new Repeating(RepeatUnit.Week, 2, null, _first.PlusWeeks(4))).ShouldBe(["31 Jan", "14 Feb", "28 Feb"]);
        Dates(new Repeating(RepeatUnit.Week, 2, null, _first.PlusWeeks(4).PlusDays(-1))).ShouldBe(["31 Jan", "14 Feb"]);
        Dates(new Repeating(RepeatUnit.Day, 10, 3, null)).ShouldBe(["31 Jan", "10 Feb", "20 Feb"]);
    }

    [Fact]
    public void What_makes_no_row_of_visits_is_refused_by_field()
    {
        Fields(new Repeating(RepeatUnit.Week, 1, 6, null)).ShouldBeEmpty();
        Fields(new Repeating(RepeatUnit.Week, 0, 6, null)).ShouldBe(["every"]);
        Fields(new Repeating(RepeatUnit.Week, 53, 6, null)).ShouldBe(["every"]);
        Fields(new Repeating(RepeatUnit.Week, 1, null, null)).ShouldBe(["times"]);
        Fields(new Repeating(RepeatUnit.Week, 1, 6, _first.PlusDays(60))).ShouldBe(["times"]);
        Fields(new Repeating(RepeatUnit.Week, 1, 1, null)).ShouldBe(["times"]);
        Fields(new Repeating(RepeatUnit.Week, 1, 10_000, null)).ShouldBe(["times"]);
        Fields(new Repeating(RepeatUnit.Week, 1, null, _first)).ShouldBe(["until"]);
        Fields(new Repeating(RepeatUnit.Week, 1, null, _first.PlusDays(-1))).ShouldBe(["until"]);
        Fields(new Repeating(RepeatUnit.Week, 1, null, _first.PlusDays(6))).ShouldBe(["until"]);
        Fields(new Repeating(RepeatUnit.Day, 1, null, _first.PlusDays(52))).ShouldBe(["until"]);
        Fields(new Repeating(RepeatUnit.Day, 1, null, _first.PlusDays(51))).ShouldBeEmpty();
    }

    /// <summary>Against a walk from day to day that asks of each whether it is one.</summary>
    [Fact]
    public void Every_repeat_names_the_dates_a_slow_walk_finds() =>
        Gen.Select(Gen.Int[0, 2], Gen.Int[1, 12], Gen.Int[2, 20], Gen.Int[0, 800])
            .Sample(
                (unit, every, times, offset) =>
                {
                    LocalDate first = new LocalDate(2027, 1, 1).PlusDays(offset);
                    Repeating repeat = new((RepeatUnit)unit, every, times, null);
                    List<LocalDate> slow = [];
                    for (LocalDate day = first; slow.Count < times; day = day.PlusDays(1))
                        if (IsOne(repeat, first, day)) slow.Add(day);
                    repeat.Dates(first).ShouldBe(slow);
                    LocalDate until = slow[^1].PlusDays(every - 1);
                    (repeat with { Times = null, Until = until }).Dates(first).ShouldBe(slow);
                },
                iter: 300
            );

    private static bool IsOne(Repeating repeat, LocalDate first, LocalDate day)
    {
        int days = Period.DaysBetween(first, day);
        if (repeat.Unit != RepeatUnit.Month) return days % (repeat.Every * (repeat.Unit == RepeatUnit.Week ? 7 : 1)) == 0;
        int months = ((day.Year - first.Year) * 12) + day.Month - first.Month;
        int last = day.Calendar.GetDaysInMonth(day.Year, day.Month);
        return months % repeat.Every == 0 && day.Day == Math.Min(first.Day, last);
    }
}
