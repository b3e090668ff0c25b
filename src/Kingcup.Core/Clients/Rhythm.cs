using NodaTime;

namespace Kingcup.Core.Clients;

/// <summary>How often a client comes.</summary>
/// <param name="EveryDays">How many days usually lie between two visits; null where there are fewer than three to tell it from.</param>
/// <param name="Due">When the next visit would usually be, where none is booked; otherwise null.</param>
public sealed record Rhythm(int? EveryDays, LocalDate? Due)
{
    /// <summary>The fewest visits from which a habit can be told.</summary>
    public const int FewestVisits = 3;

    private const int MostLooked = 9;

    /// <summary>
    /// Reads the habit from the days on which a client came: the middle one of the gaps between the last nine of them. One long gap
    /// (a winter abroad) or two visits in one week say nothing against it.
    /// </summary>
    /// <param name="came">The days on which they came, in any order.</param>
    /// <param name="hasOneAhead">Whether a visit is booked.</param>
    public static Rhythm Of(IEnumerable<LocalDate> came, bool hasOneAhead)
    {
        LocalDate[] days = [.. came.Distinct().Order().TakeLast(MostLooked)];
        if (days.Length < FewestVisits) return new Rhythm(null, null);
        int[] gaps = [.. days.Zip(days.Skip(1), (one, next) => Period.DaysBetween(one, next)).Order()];
        int usual = gaps[(gaps.Length - 1) / 2];
        return new Rhythm(usual, hasOneAhead ? null : days[^1].PlusDays(usual));
    }
}
