using Kingcup.Core.Business;

namespace Kingcup.Core.Availability;

/// <summary>Minutes each practitioner has held in the local week around a day, Monday to Sunday, at all locations.</summary>
/// <param name="Minutes">Minutes by practitioner; who is missing has none.</param>
public sealed record WeekLoad(IReadOnlyDictionary<Guid, int> Minutes)
{
    /// <summary>Adds up the days of a week.</summary>
    public static WeekLoad Of(IEnumerable<DayBook> week) => new(week
        .SelectMany(day => day.House.Practitioners.Select(one => (one.Id, day.LoadOf(one.Id).Minutes)))
        .GroupBy(one => one.Id)
        .ToDictionary(group => group.Key, group => group.Sum(one => one.Minutes)));
}

/// <summary>Puts practitioners in the order in which they are taken when nobody was chosen (rules, section 6).</summary>
internal sealed class StaffOrder(DayBook day, Assignment assignment, WeekLoad? week, GapSets? gaps)
{
    /// <summary>The candidates in order. Their indexes are the house order, so ties end in it.</summary>
    /// <param name="candidates">Places in the house order.</param>
    /// <param name="held">From which grain until which each would be held.</param>
    internal int[] Order(int[] candidates, Func<int, (int From, int Until)> held)
    {
        if (assignment == Assignment.HouseOrder || candidates.Length < 2) return candidates;
        return [.. candidates
            .OrderBy(one => gaps is not null && assignment == Assignment.TightFit && one >= 0 ? gaps.Unusable(one, held(one).From, held(one).Until) : 0)
            .ThenBy(one => one < 0 ? 0 : week?.Minutes.GetValueOrDefault(day.House.Practitioners[one].Id) ?? 0)
            .ThenBy(one => one < 0 ? 0 : day.Loads[one].Minutes)
            .ThenBy(one => one)];
    }
}
