using System.Collections.Concurrent;
using NodaTime;
using NodaTime.TimeZones;

namespace Kingcup.Core.Time;

/// <summary>
/// One local calendar day of a location, midnight to midnight in its own zone (rules, section 1): 288 grains,
/// fewer or more on a day on which the clocks change.
/// </summary>
public sealed class BookDay
{
    private static readonly ConcurrentDictionary<int, DaySet> _everyMinutes = new();
    private readonly bool _even;

    /// <summary>Makes the day of <paramref name="date"/> in <paramref name="zone"/>.</summary>
    public BookDay(LocalDate date, DateTimeZone zone)
    {
        ArgumentNullException.ThrowIfNull(zone);
        Date = date;
        Zone = zone;
        Start = zone.AtStartOfDay(date).ToInstant();
        End = zone.AtStartOfDay(date.PlusDays(1)).ToInstant();
        GrainCount = (int)((End - Start).TotalMinutes / Grain.Minutes);
        _even = zone.GetZoneInterval(Start) == zone.GetZoneInterval(End - Duration.Epsilon)
            && zone.AtStartOfDay(date).TimeOfDay == LocalTime.Midnight;
    }

    /// <summary>The local date.</summary>
    public LocalDate Date { get; }

    /// <summary>The zone of the location.</summary>
    public DateTimeZone Zone { get; }

    /// <summary>The instant of local midnight.</summary>
    public Instant Start { get; }

    /// <summary>The instant of the next local midnight.</summary>
    public Instant End { get; }

    /// <summary>How many grains the day has.</summary>
    public int GrainCount { get; }

    /// <summary>All grains of the day itself, without the hours around it.</summary>
    public DaySet Whole => DaySet.Range(0, GrainCount);

    /// <summary>The instant at which a grain begins; <paramref name="grain"/> may lie outside the day.</summary>
    public Instant At(int grain) => Start + Duration.FromMinutes((long)grain * Grain.Minutes);

    /// <summary>The interval of a half-open run of grains.</summary>
    public Interval Between(int from, int until) => new(At(from), At(until));

    /// <summary>The grain in which an instant lies (widening to the earlier side).</summary>
    public int Floor(Instant instant) =>
        (int)Math.Clamp(Math.Floor((instant - Start).TotalMinutes / Grain.Minutes), DaySet.First - 1, DaySet.Last + 1);

    /// <summary>The first grain that begins at or after an instant (widening to the later side).</summary>
    public int Ceiling(Instant instant) =>
        (int)Math.Clamp(Math.Ceiling((instant - Start).TotalMinutes / Grain.Minutes), DaySet.First - 1, DaySet.Last + 1);

    /// <summary>The grains an interval touches, widened outward to the grain: for time that is taken.</summary>
    public DaySet Touched(Interval interval) => DaySet.Range(Floor(interval.Start), Ceiling(interval.End));

    /// <summary>The grains an interval covers wholly: for time that is open.</summary>
    public DaySet Covered(Interval interval) => DaySet.Range(Ceiling(interval.Start), Floor(interval.End));

    /// <summary>The grain a start lies on, or null when the instant is not the beginning of a grain of this day.</summary>
    public int? GrainOfStart(Instant start)
    {
        int grain = Floor(start);
        return grain >= 0 && grain < GrainCount && At(grain) == start ? grain : null;
    }

    /// <summary>
    /// The instant of a wall time on this date. A time that does not exist moves forward by the gap; one that happens
    /// twice is the earlier.
    /// </summary>
    public Instant Of(LocalTime wall) =>
        (Date + wall).InZone(Zone, Resolvers.LenientResolver).ToInstant();

    /// <summary>The interval of a stretch of wall time on this date.</summary>
    public Interval Of(Stretch stretch)
    {
        Instant from = Of(stretch.From);
        Instant until = stretch.Until == LocalTime.Midnight ? End : Of(stretch.Until);
        return new Interval(from, Instant.Max(from, until));
    }

    /// <summary>What the clock on the wall shows when a grain of this day begins.</summary>
    public LocalTime WallOf(int grain) =>
        _even && grain >= 0 && grain < GrainCount
            ? LocalTime.FromMinutesSinceMidnight(grain * Grain.Minutes)
            : At(grain).InZone(Zone).TimeOfDay;

    /// <summary>The grains of this day at which the wall clock shows a multiple of <paramref name="minutes"/> since midnight.</summary>
    public DaySet EveryMinutes(int minutes) =>
        // Nearly every day is an even one, and all of those share one set.
        _even && GrainCount == 288 ? _everyMinutes.GetOrAdd(minutes, static (step, day) => day.MakeEvery(step), this) : MakeEvery(minutes);

    private DaySet MakeEvery(int minutes)
    {
        int step = Grain.Count(minutes);
        DaySet set = DaySet.Empty;
        for (int grain = 0; grain < GrainCount; grain += _even ? step : 1)
        {
            if (_even || MinuteOfDay(grain) % minutes == 0) set |= DaySet.Of(grain);
        }

        return set;
    }

    private int MinuteOfDay(int grain)
    {
        LocalTime wall = WallOf(grain);
        return (wall.Hour * 60) + wall.Minute;
    }
}
