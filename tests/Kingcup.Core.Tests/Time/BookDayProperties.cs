using CsCheck;
using Kingcup.Core.Time;
using NodaTime;
using NodaTime.TimeZones;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Time;

/// <summary>A book day against the calendar itself, in zones whose clocks change by an hour, by half an hour, at midnight or
/// never.</summary>
public sealed class BookDayProperties
{
    private static readonly string[] _zones =
    [
        "Europe/Dublin",
        "America/New_York",
        "Australia/Lord_Howe",
        "America/Havana",
        "Asia/Kolkata",
        "UTC",
        "Pacific/Auckland",
    ];

    private static readonly Gen<BookDay> _days = Gen.Select(Gen.Int[0, 6], Gen.Int[0, 1100])
        .Select((zone, offset) => new BookDay(new LocalDate(2026, 1, 1).PlusDays(offset), DateTimeZoneProviders.Tzdb[_zones[zone]]));

    [Fact]
    public void A_day_is_as_long_as_its_clocks_make_it_and_begins_where_the_one_before_ends() =>
        _days.Sample(day =>
        {
            day.Start.ShouldBe(day.Zone.AtStartOfDay(day.Date).ToInstant());
            day.End.ShouldBe(day.Zone.AtStartOfDay(day.Date.PlusDays(1)).ToInstant());
            (day.End - day.Start).TotalMinutes.ShouldBe(day.GrainCount * Grain.Minutes);
            new BookDay(day.Date.PlusDays(1), day.Zone).Start.ShouldBe(day.End);
            day.Whole.Count.ShouldBe(day.GrainCount);
        });

    [Fact]
    public void Grains_and_instants_lead_to_each_other() =>
        Gen.Select(_days, Gen.Int[-100, 400])
            .Sample(
                (day, grain) =>
                {
                    Instant at = day.At(grain);
                    day.Floor(at).ShouldBe(grain);
                    day.Ceiling(at).ShouldBe(grain);
                    day.Floor(at + Duration.FromMinutes(4)).ShouldBe(grain);
                    day.Ceiling(at + Duration.FromMinutes(1)).ShouldBe(grain + 1);
                    day.GrainOfStart(at).ShouldBe(grain >= 0 && grain < day.GrainCount ? grain : (int?)null);
                    day.GrainOfStart(at + Duration.FromSeconds(1)).ShouldBeNull();
                }
            );

    [Fact]
    public void A_wall_time_is_what_the_clock_shows_or_lies_after_the_gap_it_falls_into() =>
        Gen.Select(_days, Gen.Int[0, 287])
            .Sample(
                (day, step) =>
                {
                    LocalTime wall = LocalTime.FromMinutesSinceMidnight(step * Grain.Minutes);
                    Instant at = day.Of(wall);
                    ZoneLocalMapping mapping = day.Zone.MapLocal(day.Date + wall);
                    if (mapping.Count > 0)
                    {
                        at.InZone(day.Zone).LocalDateTime.ShouldBe(day.Date + wall);
                        // Of two the earlier.
                        at.ShouldBe(mapping.First().ToInstant());
                    }
                    else
                    {
                        ZoneInterval before = mapping.EarlyInterval,
                            after = mapping.LateInterval;
                        (at.InZone(day.Zone).LocalDateTime - (day.Date + wall))
                            .ToDuration()
                            .ShouldBe(Duration.FromTicks((after.WallOffset - before.WallOffset).Ticks));
                    }
                }
            );

    [Fact]
    public void The_wall_of_a_grain_is_the_clock_of_its_instant() =>
        Gen.Select(_days, Gen.Int[-80, 380]).Sample((day, grain) => day.WallOf(grain).ShouldBe(day.At(grain).InZone(day.Zone).TimeOfDay));

    [Fact]
    public void A_grid_has_the_grains_at_which_the_clock_shows_a_multiple_of_it() =>
        Gen.Select(_days, Gen.Int[1, 24])
            .Sample(
                (day, step) =>
                {
                    int minutes = step * Grain.Minutes;
                    int[] slow =
                    [
                        .. Enumerable
                            .Range(0, day.GrainCount)
                            .Where(grain =>
                            {
                                LocalTime wall = day.At(grain).InZone(day.Zone).TimeOfDay;
                                return ((wall.Hour * 60) + wall.Minute) % minutes == 0;
                            }),
                    ];
                    ((int[])[.. day.EveryMinutes(minutes)]).ShouldBe(slow);
                }
            );

    [Fact]
    public void What_is_taken_widens_to_the_grain_and_what_is_open_narrows() =>
        Gen.Select(_days, Gen.Int[0, 1300], Gen.Int[1, 200])
            .Sample(
                (day, from, length) =>
                {
                    Interval during = new(day.Start + Duration.FromMinutes(from), day.Start + Duration.FromMinutes(from + length));
                    DaySet touched = day.Touched(during),
                        covered = day.Covered(during);
                    foreach (int grain in Enumerable.Range(0, day.GrainCount + 40))
                    {
                        Interval own = day.Between(grain, grain + 1);
                        touched.Contains(grain).ShouldBe(own.Start < during.End && during.Start < own.End);
                        covered.Contains(grain).ShouldBe(during.Start <= own.Start && own.End <= during.End);
                    }
                },
                iter: 60
            );

    [Fact]
    public void A_stretch_to_midnight_reaches_the_end_of_the_day_and_one_that_turns_round_is_empty() =>
        _days.Sample(day =>
        {
            day.Of(new Stretch(LocalTime.Midnight, LocalTime.Midnight)).ShouldBe(new Interval(day.Start, day.End));
            Interval evening = day.Of(Stretch.Between(20, 0, 24, 0));
            evening.End.ShouldBe(day.End);
            Interval none = day.Of(Stretch.Between(12, 0, 11, 0));
            none.Duration.ShouldBe(Duration.Zero);
        });

    [Fact]
    public void Example_5d_a_night_shift_in_spring_has_84_grains_and_in_autumn_108()
    {
        DateTimeZone dublin = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
        Stretch night = Stretch.Between(0, 0, 8, 0);
        int Grains(LocalDate date) => new BookDay(date, dublin) is var day ? day.Covered(day.Of(night)).Count : 0;
        Grains(new LocalDate(2027, 3, 28)).ShouldBe(84);
        Grains(new LocalDate(2027, 3, 27)).ShouldBe(96);
        Grains(new LocalDate(2027, 10, 31)).ShouldBe(108);
    }
}
