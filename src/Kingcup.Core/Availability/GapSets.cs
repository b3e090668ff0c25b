using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>
/// Where a practitioner's time may begin and end on a day without leaving a gap nobody can use (rules, section 5, gate 8).
/// Looked at are the gap before the first and after the last stretch a visit holds of them; a pause between, such as an
/// unattended phase, is part of the visit whenever it begins and is no gap.
/// </summary>
internal sealed class GapSets(VisitFrame frame, DayBook day, int? shortestMinutes)
{
    private readonly (DaySet Begins, DaySet Ends)?[] _sets = new (DaySet, DaySet)?[frame.House.Practitioners.Count];
    private readonly int?[] _shortest = new int?[frame.House.Practitioners.Count];

    /// <summary>Grains at which a first stretch may begin.</summary>
    internal DaySet Begins(int practitioner) => Of(practitioner).Begins;

    /// <summary>Grains at which a last stretch may end.</summary>
    internal DaySet Ends(int practitioner) => Of(practitioner).Ends;

    /// <summary>Grains of gap nobody can use that a stretch from one grain to another leaves around it.</summary>
    internal int Unusable(int practitioner, int from, int until)
    {
        if (until <= from || frame.House.Practitioners[practitioner].Attention > 1) return 0;
        int shortest = Shortest(practitioner);
        DaySet free = Run(practitioner);
        if (!free.Contains(from) || !free.Contains(until - 1)) return 0;
        int before = from - free.RunAround(from).From, after = free.NextGap(until - 1) - until;
        return (before < shortest ? before : 0) + (after < shortest ? after : 0);
    }

    /// <summary>The first gap nobody can use that a stretch from one grain to another leaves beside it, or null.</summary>
    internal (int From, int Until)? GapOf(int practitioner, int from, int until)
    {
        if (Unusable(practitioner, from, until) == 0) return null;
        int shortest = Shortest(practitioner);
        DaySet free = Run(practitioner);
        int begins = free.RunAround(from).From;
        return from > begins && from - begins < shortest ? (begins, from) : (until, free.NextGap(until - 1));
    }

    /// <summary>
    /// The shortest useful gap in grains: as set, or the shortest service that the practitioner performs here on that date
    /// (in whichever role); 0 when they perform none.
    /// </summary>
    internal int Shortest(int practitioner) =>
        _shortest[practitioner] ??= shortestMinutes is { } set
            ? Grain.Count(set)
            : ShortestService(frame.House.Practitioners[practitioner]);

    private int ShortestService(Practitioner practitioner)
    {
        int shortest = int.MaxValue;
        foreach (Service service in frame.House.Services.Values)
        {
            if (service.IsArchived || (service.Locations.Count > 0 && !service.Locations.Contains(frame.House.Location.Id)))
                continue;
            if (service.Roles.Any(role => role.Allows(practitioner, day.Day.Date)))
                shortest = Math.Min(shortest, Grain.Count(service.MinutesBy(practitioner.Id)));
        }

        return shortest == int.MaxValue ? 0 : shortest;
    }

    private DaySet Run(int practitioner) => day.FreeOf(frame.House.Practitioners[practitioner].Id);

    private (DaySet Begins, DaySet Ends) Of(int practitioner) => _sets[practitioner] ??= Make(practitioner);

    private (DaySet Begins, DaySet Ends) Make(int practitioner)
    {
        // Somebody who looks after several at once has no idle gap to be kept whole.
        if (frame.House.Practitioners[practitioner].Attention > 1) return (DaySet.Full, DaySet.Full);
        int shortest = Shortest(practitioner);
        DaySet begins = DaySet.Empty, ends = DaySet.Empty;
        foreach ((int from, int until) in Run(practitioner).Runs())
        {
            begins |= DaySet.Of(from) | DaySet.Range(from + Math.Max(1, shortest), until);
            ends |= DaySet.Of(until) | DaySet.Range(from, until - Math.Max(1, shortest) + 1);
        }

        return (begins, ends);
    }
}
