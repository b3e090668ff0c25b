using Kingcup.Core.Business;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>Minutes each practitioner has held in the local week around a day, Monday to Sunday, at all locations.</summary>
/// <param name="Minutes">Minutes by practitioner; who is missing has none.</param>
public sealed record WeekLoad(IReadOnlyDictionary<Guid, int> Minutes)
{
    /// <summary>Adds up the days of a week.</summary>
    public static WeekLoad Of(IEnumerable<DayBook> week) => Of(week.SelectMany(day => day.BegunHere));

    /// <summary>Adds up what is held around a week and begins in it.</summary>
    /// <param name="taken">What is held around the week, each once.</param>
    /// <param name="week">From the beginning of its first day to the end of its last.</param>
    public static WeekLoad Of(IEnumerable<TakenTime> taken, Interval week) => Of(taken.Where(claim => claim.BeginsIn(week)));

    private static WeekLoad Of(IEnumerable<TakenTime> begun) =>
        new(begun.GroupBy(claim => claim.ResourceId).ToDictionary(group => group.Key, TakenTime.Minutes));
}

/// <summary>Puts practitioners in the order in which they are taken when nobody was chosen (rules, section 6).</summary>
internal sealed class StaffOrder(DayBook day, Assignment assignment, WeekLoad? week, GapSets? gaps)
{
    /// <summary>How good it is to take somebody, compared number by number, smaller is better. The last is the house order, so ties end in
    /// it.</summary>
    /// <param name="who">Place in the house order, or -1 for nobody in particular.</param>
    /// <param name="from">The grain from which they would really be held.</param>
    /// <param name="until">The grain until which they would be.</param>
    internal long[] KeyOf(int who, int from, int until)
    {
        if (who < 0 || assignment == Assignment.HouseOrder) return [0, 0, 0, who];
        long gap = assignment == Assignment.TightFit && gaps is not null ? gaps.Unusable(who, from, until) : 0;
        return [gap, week?.Minutes.GetValueOrDefault(day.House.Practitioners[who].Id) ?? 0, day.Loads[who].Minutes, who];
    }
}
