using Kingcup.Core.Business;
using NodaTime;

namespace Kingcup.Core.Calendar;

/// <summary>Days in a row on which a location is shut although its opening hours say otherwise.</summary>
/// <param name="First">The first of them.</param>
/// <param name="Last">The last of them; the same where it is one alone.</param>
/// <param name="ForClients">What clients read of it, or null for nothing.</param>
public sealed record ClosedDays(LocalDate First, LocalDate Last, string? ForClients)
{
    /// <summary>
    /// What clients ought to know of the days ahead. A day on which it is never open is no news; it parts no days that are.
    /// </summary>
    /// <param name="location">The location.</param>
    /// <param name="closures">Closures, those of other locations too.</param>
    /// <param name="from">The first day looked at.</param>
    /// <param name="days">How many days are looked at.</param>
    public static IReadOnlyList<ClosedDays> Of(Location location, IEnumerable<Closure> closures, LocalDate from, int days)
    {
        ArgumentNullException.ThrowIfNull(location);
        Closure[] own = [.. closures.Where(closure => closure.LocationId == location.Id)];
        HashSet<IsoDayOfWeek> open = [.. location.Opening.Select(hours => hours.Weekday)];
        List<ClosedDays> all = [];
        bool goesOn = false;
        foreach (LocalDate date in Enumerable.Range(0, days).Select(from.PlusDays).Where(date => open.Contains(date.DayOfWeek)))
        {
            Closure[] shut = [.. own.Where(closure => closure.Holds(date))];
            string? words = shut.Select(closure => closure.ForClients).FirstOrDefault(text => text is not null);
            if (shut.Length > 0)
            {
                if (goesOn && all[^1].ForClients == words) all[^1] = all[^1] with { Last = date };
                else all.Add(new ClosedDays(date, date, words));
            }

            goesOn = shut.Length > 0;
        }

        return all;
    }
}
