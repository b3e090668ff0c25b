using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>Which days of the week somebody looks at.</summary>
public enum DaysOfWeek
{
    /// <summary>Any.</summary>
    Any,

    /// <summary>Mondays to Fridays.</summary>
    MondayToFriday,

    /// <summary>Saturdays and Sundays.</summary>
    Weekend,
}

/// <summary>When somebody wants to come, within the days they look at.</summary>
/// <param name="Part">A part of the day, or null for any.</param>
/// <param name="Days">Days of the week.</param>
public sealed record WantedTimes(DayPart? Part, DaysOfWeek Days)
{
    /// <summary>Whether a date is of a weekend.</summary>
    public static bool IsWeekend(LocalDate date) => date.DayOfWeek is IsoDayOfWeek.Saturday or IsoDayOfWeek.Sunday;

    /// <summary>The starts of a day that are wanted.</summary>
    public DaySet Of(BookDay day)
    {
        ArgumentNullException.ThrowIfNull(day);
        if (Days != DaysOfWeek.Any && (Days == DaysOfWeek.Weekend) != IsWeekend(day.Date)) return DaySet.Empty;
        return Part is { } part ? FullnessMap.Of(day, part) : day.Whole;
    }
}

/// <summary>A search that found nothing, and what it failed for.</summary>
public static class UnmetSearch
{
    /// <summary>
    /// The gate that took the last of the starts somebody looked for: of all days the one that got furthest, since that is what would
    /// have to change first.
    /// </summary>
    /// <param name="finder">What is looked for.</param>
    /// <param name="days">The days they look at.</param>
    /// <param name="wanted">When on them.</param>
    /// <param name="audience">Who asks.</param>
    /// <param name="now">The present.</param>
    /// <returns>The gate, or null where something is offered; where no day is wanted at all, the date.</returns>
    public static Gate? TakenBy(
        StartFinder finder,
        IReadOnlyList<DayBook> days,
        WantedTimes wanted,
        Audience audience,
        Instant now
    )
    {
        ArgumentNullException.ThrowIfNull(finder);
        ArgumentNullException.ThrowIfNull(days);
        ArgumentNullException.ThrowIfNull(wanted);
        Gate? furthest = null;
        foreach (DayBook day in days)
        {
            DaySet starts = wanted.Of(day.Day);
            if (starts.IsEmpty) continue;
            if (finder.Explain(day, audience, now).LastGate(starts) is not { } gate) return null;
            if (furthest is null || gate > furthest) furthest = gate;
        }

        return furthest ?? Gate.Date;
    }
}
