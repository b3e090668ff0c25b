using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Business;

/// <summary>Weekdays in a row that have the same opening hours.</summary>
/// <param name="First">The first of them.</param>
/// <param name="Last">The last of them; the same where it is one alone.</param>
/// <param name="Open">When it is open, in order; empty where it is closed.</param>
public sealed record OpeningDays(IsoDayOfWeek First, IsoDayOfWeek Last, IReadOnlyList<Stretch> Open)
{
    /// <summary>A week of opening hours as people write it on a door: from Monday on, days that are alike said once.</summary>
    public static IReadOnlyList<OpeningDays> Of(IReadOnlyList<OpeningHours> opening)
    {
        ArgumentNullException.ThrowIfNull(opening);
        ILookup<IsoDayOfWeek, Stretch> days = opening.ToLookup(hours => hours.Weekday, hours => hours.During);
        List<OpeningDays> week = [];
        for (IsoDayOfWeek day = IsoDayOfWeek.Monday; day <= IsoDayOfWeek.Sunday; day++)
        {
            List<Stretch> open = Joined(days[day]);
            if (week.Count > 0 && week[^1].Open.SequenceEqual(open))
                week[^1] = week[^1] with { Last = day };
            else
                week.Add(new OpeningDays(day, day, open));
        }

        return week;
    }

    /// <summary>In order, and what touches as one.</summary>
    private static List<Stretch> Joined(IEnumerable<Stretch> stretches)
    {
        List<Stretch> joined = [];
        foreach (Stretch next in stretches.OrderBy(stretch => stretch.FromMinute))
        {
            if (joined.Count > 0 && next.FromMinute <= joined[^1].UntilMinute)
            {
                if (next.UntilMinute > joined[^1].UntilMinute)
                    joined[^1] = joined[^1] with { Until = next.Until };
            }
            else
            {
                joined.Add(next);
            }
        }

        return joined;
    }
}
