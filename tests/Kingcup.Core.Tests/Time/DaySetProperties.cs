using CsCheck;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Time;

/// <summary>The bit set against plain lists of numbers.</summary>
public sealed class DaySetProperties
{
    private static readonly Gen<HashSet<int>> _members = Gen.Select(Gen.Int[-30, 495], Gen.Int[0, 80])
        .Array[0, 6]
        .Select(runs =>
            runs.SelectMany(run => Enumerable.Range(run.Item1, run.Item2))
                .Where(grain => grain is >= DaySet.First and <= DaySet.Last)
                .ToHashSet()
        );

    private static DaySet Set(HashSet<int> members) => members.Aggregate(DaySet.Empty, (set, grain) => set | DaySet.Of(grain));

    [Fact]
    public void Holds_what_was_put_in() => _members.Sample(members =>
    {
        DaySet set = Set(members);
        set.ShouldBe(members.Order());
        set.Count.ShouldBe(members.Count);
        set.IsEmpty.ShouldBe(members.Count == 0);
    });

    [Fact]
    public void Starts_holding_a_stretch_are_those_with_every_grain_of_it() =>
        Gen.Select(_members, Gen.Int[-20, 60], Gen.Int[1, 90]).Sample((members, from, length) =>
        {
            DaySet starts = Set(members).StartsHolding(from, from + length);
            for (int s = DaySet.First; s <= DaySet.Last; s++)
                starts.Contains(s).ShouldBe(Enumerable.Range(s + from, length).All(members.Contains));
        });

    [Fact]
    public void Earlier_and_the_operators_work_member_by_member() =>
        Gen.Select(_members, _members, Gen.Int[-200, 200])
            .Sample(
                (a, b, shift) =>
                {
                    (Set(a) & Set(b)).ShouldBe(a.Intersect(b).Order());
                    (Set(a) | Set(b)).ShouldBe(a.Union(b).Order());
                    Set(a).Except(Set(b)).ShouldBe(a.Except(b).Order());
                    Set(a)
                        .Earlier(shift)
                        .ShouldBe(a.Select(grain => grain - shift).Where(grain => grain is >= DaySet.First and <= DaySet.Last).Order());
                }
            );

    [Fact]
    public void At_least_so_many_is_counted_grain_by_grain() =>
        Gen.Select(_members.Array[0, 9], Gen.Int[1, 9])
            .Sample(
                (all, wanted) =>
                    DaySet
                        .AtLeast([.. all.Select(Set)], wanted)
                        .ShouldBe(
                            all.SelectMany(members => members)
                                .GroupBy(grain => grain)
                                .Where(grain => grain.Count() >= wanted)
                                .Select(grain => grain.Key)
                                .Order()
                        )
            );

    [Fact]
    public void Runs_are_maximal_and_in_order() =>
        _members.Sample(members =>
        {
            DaySet set = Set(members);
            List<(int From, int Until)> runs = [.. set.Runs()];
            runs.SelectMany(run => Enumerable.Range(run.From, run.Until - run.From)).ShouldBe(members.Order());
            runs.Zip(runs.Skip(1)).ShouldAllBe(pair => pair.First.Until < pair.Second.From);
            foreach (int member in members.Take(5))
                set.RunAround(member).ShouldBe(runs.Single(run => run.From <= member && member < run.Until));
        });

    [Theory]
    [InlineData("2027-03-28", 276)]
    [InlineData("2027-10-31", 300)]
    [InlineData("2027-06-01", 288)]
    public void A_book_day_has_as_many_grains_as_the_clock_gives_it(string date, int grains)
    {
        BookDay day = new(NodaTime.Text.LocalDatePattern.Iso.Parse(date).Value, DateTimeZoneProviders.Tzdb["Europe/Dublin"]);
        day.GrainCount.ShouldBe(grains);
        day.At(grains).ShouldBe(day.End);
        day.EveryMinutes(60).Count.ShouldBe(grains / 12);
    }

    [Fact]
    public void A_wall_time_that_does_not_exist_moves_forward_and_one_that_happens_twice_is_the_earlier()
    {
        DateTimeZone zone = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
        new BookDay(new LocalDate(2027, 3, 28), zone).Of(new LocalTime(1, 30)).ShouldBe(Instant.FromUtc(2027, 3, 28, 1, 30));
        new BookDay(new LocalDate(2027, 10, 31), zone).Of(new LocalTime(1, 30)).ShouldBe(Instant.FromUtc(2027, 10, 31, 0, 30));
    }

    [Fact]
    public void Time_from_outside_widens_outward_to_the_grain()
    {
        BookDay day = new(new LocalDate(2027, 6, 1), DateTimeZone.Utc);
        Interval odd = new(day.Start + Duration.FromMinutes(61), day.Start + Duration.FromMinutes(69));
        day.Touched(odd).ShouldBe([12, 13]);
        day.Covered(odd).IsEmpty.ShouldBeTrue();
    }
}
