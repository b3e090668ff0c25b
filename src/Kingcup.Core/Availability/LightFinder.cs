using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>Starts at which a visit lies the same way: by the same people, in the same rooms, on the same units.</summary>
/// <param name="First">The grain of the first of them.</param>
/// <param name="Last">The grain of the last.</param>
/// <param name="Plan">How it lies at <paramref name="First"/>; at the others it is the same, so much later.</param>
public sealed record LightRange(int First, int Last, VisitPlan Plan);

/// <summary>Where a visit fits in a lane: with this practitioner leading its first line, or in this room.</summary>
/// <param name="ResourceId">The practitioner or room.</param>
/// <param name="Ranges">The ranges in which it may begin, by time; no two touch where it would lie the same way.</param>
public sealed record LaneLight(Guid ResourceId, IReadOnlyList<LightRange> Ranges);

/// <summary>
/// What glows in the book while something is carried: for every lane it may be put down in, the starts that fit and how it would lie.
/// A practitioner's lane asks for them as the one who leads the first line, a room's lane for that room as the one of the first line
/// that needs any. It is the engine of <see cref="StartFinder"/> that answers, once for each lane.
/// </summary>
public sealed class LightFinder
{
    private readonly List<(Guid ResourceId, StartFinder Finder)> _lanes = [];

    /// <summary>Prepares a wish against a house.</summary>
    /// <param name="house">The house.</param>
    /// <param name="wish">What is carried.</param>
    /// <param name="anyLead">Whether others may take its first line in their lanes, although the wish names who leads it: so a visit
    /// that stands is moved. In the lanes of rooms whoever leads it goes with it.</param>
    /// <exception cref="ArgumentException">The wish has no line or too many.</exception>
    /// <exception cref="KeyNotFoundException">A service of the wish is unknown.</exception>
    public LightFinder(House house, VisitWish wish, bool anyLead = false)
    {
        ArgumentNullException.ThrowIfNull(house);
        ArgumentNullException.ThrowIfNull(wish);
        VisitFrame frame = new(house, wish);
        int[] ends = new int[frame.Lines];
        for (int line = 0; line < frame.Lines; line++)
            ends[line] = (frame.Before[line] < 0 ? frame.Offsets[line] : ends[frame.Before[line]]) + frame.UsualShapes[line].Grains;
        UsualMinutes = ends.Max() * Grain.Minutes;
        foreach (Team.Practitioner practitioner in house.Practitioners)
        {
            bool mayLead = !anyLead && wish.Lines[0].PractitionerId is { } only
                ? only == practitioner.Id
                : frame.Services[0].Roles[0].EverAllows(practitioner, NodaTime.LocalDate.MinIsoValue);
            if (mayLead)
                _lanes.Add((practitioner.Id, With(house, wish, 0, line => line with { PractitionerId = practitioner.Id })));
        }

        int inRoom = Array.FindIndex(frame.Rooms, rooms => rooms.Length > 0);
        if (inRoom < 0) return;
        foreach (int room in frame.Rooms[inRoom].Order())
        {
            Guid id = house.Rooms[room].Id;
            _lanes.Add((id, With(house, wish, inRoom, line => line with { RoomId = id })));
        }
    }

    /// <summary>How long the visit usually takes in minutes, without waits between its lines.</summary>
    public int UsualMinutes { get; }

    /// <summary>Whether practitioners are assigned by load, so that plans want the load of the week.</summary>
    public bool AsksForLoad => _lanes.Any(lane => lane.Finder.AsksForLoad);

    /// <summary>What glows on a day, lanes in house order, people before rooms; a lane in which nothing fits is left out.</summary>
    /// <param name="day">The day.</param>
    /// <param name="within">The grains at which it may begin; all when missing.</param>
    /// <param name="week">The load of the week, for a house that assigns by it.</param>
    public IReadOnlyList<LaneLight> On(DayBook day, DaySet? within = null, WeekLoad? week = null)
    {
        ArgumentNullException.ThrowIfNull(day);
        return
        [
            .. _lanes
                .Select(lane => new LaneLight(lane.ResourceId, [.. RangesOf(lane.Finder, day, within ?? DaySet.Full, week)]))
                .Where(lane => lane.Ranges.Count > 0),
        ];
    }

    private static IEnumerable<LightRange> RangesOf(StartFinder finder, DayBook day, DaySet within, WeekLoad? week)
    {
        LightRange? open = null;
        foreach (int start in finder.Feasible(day) & within)
        {
            VisitPlan plan = finder.PlanFeasible(day, start, week)!;
            if (open is not null && open.Last == start - 1 && LiesTheSame(open.Plan, plan))
            {
                open = open with { Last = start };
                continue;
            }

            if (open is not null) yield return open;
            open = new LightRange(start, start, plan);
        }

        if (open is not null) yield return open;
    }

    private static bool LiesTheSame(VisitPlan a, VisitPlan b)
    {
        NodaTime.Duration later = b.Start - a.Start;
        return a.End + later == b.End
            && a.Claims.Count == b.Claims.Count
            && a.Claims.Zip(b.Claims).All(pair => IsSame(pair.First, pair.Second))
            && a.Lines.Zip(b.Lines).All(pair => pair.First.Start + later == pair.Second.Start && pair.First.RoomId == pair.Second.RoomId);

        bool IsSame(PlannedClaim one, PlannedClaim other) =>
            one.Line == other.Line
            && one.ResourceId == other.ResourceId
            && one.Unit == other.Unit
            && one.Role == other.Role
            && one.During.Start + later == other.During.Start
            && one.During.End + later == other.During.End
            && one.Core.Start + later == other.Core.Start
            && one.Core.End + later == other.Core.End;
    }

    private static StartFinder With(House house, VisitWish wish, int line, Func<LineWish, LineWish> change) =>
        new(house, wish with { Lines = [.. wish.Lines.Select((own, i) => i == line ? change(own) : own)] });
}
