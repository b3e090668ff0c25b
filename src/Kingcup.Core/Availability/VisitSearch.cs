using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>
/// The exact search at one start: it walks the tree of assignments (wait, practitioner of each role, room, line after line) and
/// refuses nothing that any assignment would serve. <see cref="StartSets"/> asks it only where sets do not say all; a plan is always
/// made by it.
/// </summary>
internal sealed partial class VisitSearch(VisitFrame frame, DayBook day, int[][][] candidates, SearchLimits limits)
{
    private readonly House _house = frame.House;
    private readonly PlacedLine?[] _placed = new PlacedLine?[frame.Lines];
    private readonly List<UnitNeed>[] _people = Lists(frame.House.Practitioners.Count);
    private readonly List<UnitNeed>[] _pools = Lists(frame.House.Pools.Count);
    private readonly List<(int Who, int Index, UnitNeed Before)> _lengthened = [];
    private readonly HashSet<string> _hopeless = [];
    private int _start;
    private bool _planning;
    private int _changesAllowed;
    private int[]? _leads;
    private VisitPlan? _plan;

    /// <summary>Whether some assignment serves a start.</summary>
    internal bool Exists(int start)
    {
        (_start, _planning, _changesAllowed, _leads) = (start, false, int.MaxValue, null);
        return Walk();
    }

    /// <summary>The preferred assignment at a start, or null: fewest changes of practitioner, then the preferences of section 6 in
    /// order.</summary>
    internal VisitPlan? PlanAt(int start)
    {
        (_start, _planning, _plan) = (start, true, null);
        for (_changesAllowed = 0; _changesAllowed < frame.Lines && _plan is null; _changesAllowed++)
        {
            foreach (int[]? leads in LeadsInOrder())
            {
                _leads = leads;
                if (Walk()) return _plan;
            }
        }

        return _plan;
    }

    /// <summary>Walks the tree from its root; what an earlier walk that came to its end still held is let go.</summary>
    private bool Walk()
    {
        foreach (List<UnitNeed> list in _people) list.Clear();
        foreach (List<UnitNeed> list in _pools) list.Clear();
        Array.Clear(_placed);
        _lengthened.Clear();
        _hopeless.Clear();
        return PlaceLine(0, 0);
    }

    private static List<UnitNeed>[] Lists(int count) => [.. Enumerable.Range(0, count).Select(_ => new List<UnitNeed>())];

    /// <summary>
    /// Who leads each line, the best first by what each would really hold; for more than one change of practitioner the lines are
    /// decided one after another (null).
    /// </summary>
    private IEnumerable<int[]?> LeadsInOrder()
    {
        if (_changesAllowed > 1 || limits.Order is not { } order) return [null];
        List<int[]> all = [];
        Grow([], 0);
        return all.Select(leads => (Leads: leads, Key: KeyOf(order, leads)))
            .OrderBy(pair => pair.Key, Comparer<long[]>.Create(Compare))
            .Select(pair => pair.Leads);

        void Grow(int[] leads, int changes)
        {
            if (leads.Length == frame.Lines)
            {
                if (changes == _changesAllowed) all.Add(leads);
                return;
            }

            int before = frame.Before[leads.Length];
            foreach (int lead in candidates[leads.Length][0])
            {
                int changed = changes + (before >= 0 && leads[before] != lead ? 1 : 0);
                if (changed <= _changesAllowed) Grow([.. leads, lead], changed);
            }
        }
    }

    /// <summary>How good a choice of leads is: person by person in the order in which they come in, smaller is better.</summary>
    private long[] KeyOf(StaffOrder order, int[] leads)
    {
        List<long> key = [];
        foreach (int lead in leads.Distinct())
        {
            (int from, int until) = (int.MaxValue, int.MinValue);
            int[] ends = new int[leads.Length];
            for (int line = 0; line < leads.Length; line++)
            {
                LineShape shape = frame.ShapeOf(line, leads[line]);
                int at = frame.Before[line] < 0 ? _start + frame.Offsets[line] : ends[frame.Before[line]];
                ends[line] = at + shape.Grains;
                if (leads[line] != lead) continue;
                bool before = frame.Before[line] < 0 || leads[frame.Before[line]] != lead || frame.Services[line].BufferAlways;
                bool after = frame.After[line] < 0 || leads[frame.After[line]] != lead || frame.Services[line].BufferAlways;
                GrainSpan held = shape.HeldBy(0, before, after);
                if (held.From == held.Until) continue;
                (from, until) = (Math.Min(from, at + held.From), Math.Max(until, at + held.Until));
            }

            key.AddRange(order.KeyOf(lead, from, Math.Max(from, until)));
        }

        return [.. key];
    }

    private static int Compare(long[]? a, long[]? b)
    {
        for (int i = 0; i < Math.Min(a!.Length, b!.Length); i++)
            if (a[i] != b[i]) return a[i].CompareTo(b[i]);
        return a!.Length.CompareTo(b!.Length);
    }

    private bool PlaceLine(int line, int changes)
    {
        if (line == frame.Lines) return Finish();
        string? state = _planning ? null : StateOf(line);
        if (state is not null && _hopeless.Contains(state)) return false;
        int before = frame.Before[line];
        int earliest = before < 0 ? _start + frame.Offsets[line] : _placed[before]!.Until;
        for (int wait = 0; wait <= (before < 0 ? 0 : frame.LongestWait); wait++)
        {
            foreach (int lead in LeadsOf(line, before))
            {
                int changed = changes + (before >= 0 && lead != _placed[before]!.Practitioners[0] ? 1 : 0);
                if (changed > _changesAllowed) continue;
                if (line == 0 && limits.ByLead is { } byLead && !byLead(lead).Contains(_start)) continue;
                PlacedLine placed = new(frame.ShapeOf(line, lead), earliest + wait, new int[frame.Services[line].Roles.Count]);
                if (limits.Within is { } within && !within.Covers(_start, placed.Until)) continue;
                Array.Fill(placed.Practitioners, -1);
                _placed[line] = placed;
                if (PlaceRole(line, 0, lead, changed)) return true;
                _placed[line] = null;
            }
        }

        if (state is not null) _hopeless.Add(state);
        return false;
    }

    /// <summary>Leads to try; in a plan without a list of them the one of the line before comes first.</summary>
    private int[] LeadsOf(int line, int before)
    {
        if (_leads is not null) return [_leads[line]];
        int[] all = candidates[line][0];
        if (!_planning || before < 0) return all;
        int present = _placed[before]!.Practitioners[0];
        return [.. all.OrderBy(lead => lead == present ? 0 : 1)];
    }

    private bool PlaceRole(int line, int role, int who, int changes)
    {
        PlacedLine placed = _placed[line]!;
        for (int i = 0; i < role; i++)
            if (who >= 0 && placed.Practitioners[i] == who) return false;
        placed.Practitioners[role] = who;
        if (role + 1 < placed.Practitioners.Length)
        {
            foreach (int next in OthersOf(line, role + 1))
                if (PlaceRole(line, role + 1, next, changes)) return true;
            placed.Practitioners[role] = -1;
            return false;
        }

        // Everybody of this line stands, and so what the line before holds behind it.
        Mark mark = Here(_people);
        if (HoldPeople(line) && PlaceRoom(line, changes)) return true;
        Release(_people, mark);
        placed.Practitioners[role] = -1;
        return false;
    }

    private int[] OthersOf(int line, int role)
    {
        int[] all = candidates[line][role];
        if (!_planning || limits.Order is not { } order) return all;
        GrainSpan held = _placed[line]!.Shape.HeldBy(role);
        int at = _placed[line]!.At;
        return [.. all.OrderBy(who => order.KeyOf(who, at + held.From, at + held.Until), Comparer<long[]>.Create(Compare))];
    }

    private bool PlaceRoom(int line, int changes)
    {
        PlacedLine placed = _placed[line]!;
        if (!limits.Rooms || frame.Services[line].Room is null) return PlaceEquipment(line, changes);
        int before = frame.Before[line];
        int present = before < 0 ? -1 : _placed[before]!.Room;
        foreach (int room in RoomsOf(line, present))
        {
            placed.Room = room;
            if (RoomFits(room) && PlaceEquipment(line, changes)) return true;
        }

        placed.Room = -1;
        return false;
    }

    /// <summary>
    /// Rooms to try, the present one first. For a plan, then in the order of section 6: fewest spare features, the least idle gap
    /// beside (the shorter of the two left in the free run, turnaround counted as used), house order.
    /// </summary>
    private IEnumerable<int> RoomsOf(int line, int present)
    {
        int[] rooms = frame.Rooms[line];
        IOrderedEnumerable<int> kept = rooms.OrderBy(room => room == present ? 0 : 1);
        return !_planning
            ? kept
            : kept.ThenBy(room => _house.Rooms[room].Features.Count).ThenBy(room => IdleBeside(room, _placed[line]!)).ThenBy(room => room);
    }

    private int IdleBeside(int room, PlacedLine placed)
    {
        int until = placed.Until + Grain.Count(_house.Rooms[room].TurnaroundMinutes), least = int.MaxValue;
        for (int unit = _house.RoomUnits[room]; unit < _house.RoomUnits[room] + _house.Rooms[room].Capacity; unit++)
        {
            if (!day.Free(unit).Covers(placed.At, until)) continue;
            (int runFrom, int runUntil) = (day.Free(unit) & day.RoomsOpen).RunAround(placed.At);
            least = Math.Min(least, Math.Min(placed.At - runFrom, Math.Max(0, runUntil - until)));
        }

        return least;
    }

    private bool RoomFits(int room) => UnitAssignment.Exists(UnitsOfRoom(room), day.RoomsOpen, RoomNeeds(room).Needs);

    private DaySet[] UnitsOfRoom(int room) =>
        [.. Enumerable.Range(_house.RoomUnits[room], _house.Rooms[room].Capacity).Select(unit => day.Free(unit))];

    /// <summary>What the lines placed so far need of a room, by beginning, and which lines those are.</summary>
    private (List<UnitNeed> Needs, List<int> Lines) RoomNeeds(int room)
    {
        List<int> lines =
        [
            .. Enumerable.Range(0, frame.Lines).Where(line => _placed[line]?.Room == room).OrderBy(line => _placed[line]!.At),
        ];
        int turnaround = Grain.Count(_house.Rooms[room].TurnaroundMinutes);
        return (
            [
                .. lines.Select(line => new UnitNeed(
                    _placed[line]!.At,
                    _placed[line]!.Until,
                    turnaround,
                    frame.Services[line].Room!.Units,
                    lines.IndexOf(frame.Before[line])
                )),
            ],
            lines
        );
    }

    private bool PlaceEquipment(int line, int changes)
    {
        if (!limits.Equipment) return PlaceLine(line + 1, changes);
        PlacedLine placed = _placed[line]!;
        Mark mark = Here(_pools);
        bool fits = true;
        foreach (EquipmentSpan need in placed.Shape.Equipment)
        {
            int pool = _house.PoolOf(need.PoolId);
            if (pool < 0)
            {
                fits = false;
                break;
            }

            _pools[pool]
                .Add(
                    new UnitNeed(
                        placed.At + need.Span.From,
                        placed.At + need.Span.Until,
                        Grain.Count(_house.Pools[pool].TurnaroundMinutes),
                        need.Units
                    )
                );
        }

        for (int pool = 0; fits && pool < _pools.Length; pool++)
            if (_pools[pool].Count > mark.Counts[pool])
                fits = UnitAssignment.Exists(UnitsOfPool(pool), day.RoomsOpen, [.. _pools[pool].OrderBy(need => need.From)]);
        if (fits && PlaceLine(line + 1, changes))
            return true;
        Release(_pools, mark);
        return false;
    }

    private DaySet[] UnitsOfPool(int pool) =>
        [.. Enumerable.Range(_house.PoolUnits[pool], _house.Pools[pool].Quantity).Select(unit => day.Free(unit))];

    private bool Finish()
    {
        Mark mark = Here(_people);
        bool holds = true;
        for (int line = 0; line < frame.Lines && holds; line++)
            if (frame.After[line] < 0) holds = HoldAfter(_placed[line]!, line, next: null);
        holds = holds && KeepsDay() && KeepsGrid();
        if (holds && _planning) _plan = PlanMaker.Make(frame, day, [.. _placed.OfType<PlacedLine>()]);
        Release(_people, mark);
        return holds;
    }

    /// <summary>Daily limits and gaps, which depend on the whole assignment.</summary>
    private bool KeepsDay()
    {
        if (!limits.Practitioners || (!limits.Daily && limits.Gaps is null)) return true;
        for (int who = 0; who < _people.Length; who++)
        {
            List<UnitNeed> held = _people[who];
            if (held.Count == 0)
                continue;
            if (limits.Daily && !DailyRule.Allows(_house.Practitioners[who], day.Loads[who], [.. LedBy(who)]))
                return false;
            if (
                limits.Gaps is { } gaps
                && (!gaps.Begins(who).Contains(held.Min(need => need.From)) || !gaps.Ends(who).Contains(held.Max(need => need.Until)))
            )
                return false;
        }

        return true;
    }

    private IEnumerable<LedLine> LedBy(int who) =>
        from line in Enumerable.Range(0, frame.Lines)
        let placed = _placed[line]!
        where placed.Practitioners[0] == who
        let before = frame.Before[line] < 0 ? null : _placed[frame.Before[line]]
        let after = frame.After[line] < 0 ? null : _placed[frame.After[line]]
        select new LedLine(
            frame.Services[line].CategoryId,
            placed.Shape,
            frame.Services[line].BufferAlways || before?.HasLast(who) != true,
            frame.Services[line].BufferAlways || after?.HasFirst(who) != true
        );

    private bool KeepsGrid()
    {
        if (limits.ByHold is not { } byHold) return true;
        int lead = _placed[0]!.Practitioners[0];
        (int from, int until) = (int.MaxValue, int.MinValue);
        for (int line = 0; line < frame.Lines; line++)
        {
            PlacedLine placed = _placed[line]!;
            for (int role = 0; role < placed.Practitioners.Length; role++)
            {
                if (placed.Practitioners[role] != lead) continue;
                bool before = frame.Services[line].BufferAlways || frame.Before[line] < 0 || !_placed[frame.Before[line]]!.HasLast(lead);
                bool after = frame.Services[line].BufferAlways || frame.After[line] < 0 || !_placed[frame.After[line]]!.HasFirst(lead);
                GrainSpan held = placed.Shape.HeldBy(role, before, after);
                if (held.From < held.Until)
                    (from, until) = (Math.Min(from, placed.At + held.From), Math.Max(until, placed.At + held.Until));
            }
        }

        return byHold(lead, from < until ? new GrainSpan(from - _start, until - _start) : new GrainSpan(0, 0)).Contains(_start);
    }
}
