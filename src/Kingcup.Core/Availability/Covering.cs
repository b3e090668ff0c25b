using Kingcup.Core.Services;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>A visit that has lost its place: somebody is away, a room is shut.</summary>
/// <param name="VisitId">Which.</param>
/// <param name="ClientId">Who comes: nobody is at two places at once.</param>
/// <param name="During">When it was to be.</param>
/// <param name="Wishes">
/// What may become of it, the best first: by those who can still do it and in the rooms it is in, then by whoever can.
/// </param>
public sealed record Uncovered(Guid VisitId, Guid ClientId, Interval During, IReadOnlyList<VisitWish> Wishes)
{
    /// <summary>What holds its time in the book: it gives that back when it goes elsewhere.</summary>
    public IReadOnlySet<Guid> Occupations { get; init; } = new HashSet<Guid>();

    /// <summary>When the client comes for something that has not lost its place.</summary>
    public IReadOnlyList<Interval> Elsewhere { get; init; } = [];
}

/// <summary>Where a visit that has lost its place could go.</summary>
/// <param name="VisitId">Which.</param>
/// <param name="Plan">How it would lie, or null where it has no place that day.</param>
/// <param name="Wish">Which of its wishes that is, 0 for the best.</param>
/// <param name="Ways">In how many starts of the day it fitted when its turn came.</param>
public sealed record Cover(Guid VisitId, VisitPlan? Plan, int Wish, int Ways);

/// <summary>
/// Covering for somebody who is away: finds a place on the same day for as many of the visits that have lost theirs as it can. The most
/// constrained comes first, since whoever has only one place left must not lose it to somebody who has ten; each goes as near to its own
/// time as it fits, and takes its time from those after it. What finds no place stays where it is and keeps its room.
/// </summary>
public static class Covering
{
    /// <summary>Proposes a place for each visit. They can be moved one after another in the order given.</summary>
    /// <param name="day">The day as it stands, with the visits that have lost their place still in it.</param>
    /// <param name="visits">The visits.</param>
    /// <param name="earliest">Before this nothing may begin any more.</param>
    /// <returns>First those with a place, in the order in which they are to be moved; then those without.</returns>
    public static IReadOnlyList<Cover> Propose(DayBook day, IReadOnlyCollection<Uncovered> visits, Instant earliest)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(visits);
        Dictionary<Guid, StartFinder[]> finders = visits.ToDictionary(
            visit => visit.VisitId,
            visit => visit.Wishes.Select(wish => new StartFinder(day.House, wish)).ToArray()
        );
        List<Uncovered> left = [.. visits.OrderBy(visit => visit.During.Start).ThenBy(visit => visit.VisitId)];
        // Where each of them is by now, for a client who has lost two places: at their own time until they are moved.
        Dictionary<Guid, Interval> stands = visits.ToDictionary(visit => visit.VisitId, visit => visit.During);
        List<Cover> covered = [];
        DayBook now = day;
        while (left.Count > 0)
        {
            List<(Uncovered Visit, DayBook Book, Place[] Places)> open = [];
            foreach (Uncovered visit in left)
            {
                DayBook without = Without(now, visit);
                Interval[] busy =
                [
                    .. visit.Elsewhere,
                    .. visits.Where(other => other != visit && other.ClientId == visit.ClientId).Select(other => stands[other.VisitId]),
                ];
                Place[] found = Places(finders[visit.VisitId], without, busy, earliest);
                if (found.Length > 0) open.Add((visit, without, found));
            }

            if (open.Count == 0) break;
            (Uncovered next, DayBook book, Place[] places) = open.MinBy(one =>
                (one.Places.Length, one.Visit.During.Start, one.Visit.VisitId)
            );
            // As near to its own time as it fits; at the same time those before others who can do it now; earlier before later.
            Place place = places.MinBy(one => (Distance(one, next, day), one.Wish, one.Start));
            VisitPlan plan = finders[next.VisitId][place.Wish].PlanFeasible(book, place.Start)!;
            covered.Add(new Cover(next.VisitId, plan, place.Wish, places.Length));
            stands[next.VisitId] = new Interval(plan.Start, plan.End);
            now = With(book, plan, next.VisitId);
            left.Remove(next);
        }

        return [.. covered, .. left.Select(visit => new Cover(visit.VisitId, null, 0, 0))];
    }

    private readonly record struct Place(int Start, int Wish);

    private static Place[] Places(StartFinder[] finders, DayBook book, Interval[] busy, Instant earliest)
    {
        Dictionary<int, int> best = [];
        foreach ((int wish, StartFinder finder) in finders.Index())
            foreach (int start in finder.Feasible(book))
                if (book.Day.At(start) >= earliest && !best.ContainsKey(start) && MayCome(finder, book, start, busy))
                    best[start] = wish;
        return [.. best.Select(pair => new Place(pair.Key, pair.Value))];
    }

    private static bool MayCome(StartFinder finder, DayBook book, int start, Interval[] busy)
    {
        if (busy.Length == 0) return true;
        VisitPlan plan = finder.PlanFeasible(book, start)!;
        return busy.All(other => other.End <= plan.Start || plan.End <= other.Start);
    }

    private static long Distance(Place place, Uncovered visit, DayBook day) =>
        Math.Abs((day.Day.At(place.Start) - visit.During.Start).BclCompatibleTicks);

    private static DayBook Without(DayBook day, Uncovered visit) => Of(day, day.Taken.Where(taken => !Holds(visit, taken)));

    private static bool Holds(Uncovered visit, TakenTime taken) =>
        taken.OccupationId is { } occupation && visit.Occupations.Contains(occupation);

    private static DayBook With(DayBook day, VisitPlan plan, Guid visitId) =>
        Of(
            day,
            day.Taken.Concat(
                plan.Claims.Select(claim => new TakenTime(
                    claim.ResourceId,
                    claim.Unit,
                    claim.During,
                    day.House.Location.Id,
                    visitId,
                    plan.Lines[claim.Line].ServiceId
                ))
            )
        );

    private static DayBook Of(DayBook day, IEnumerable<TakenTime> taken) => new(day.House, day.Day.Date, day.Dated, taken);
}
