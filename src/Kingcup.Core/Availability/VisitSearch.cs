using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>
/// The exact search for starts of a visit on one day. It walks the tree of assignments (wait, practitioner of each role,
/// room units, equipment units, line after line) once for all starts of the day together: at every step the set of starts
/// still possible is cut by the time the chosen unit is free, and a branch ends when it can add nothing new. So it refuses
/// no start that any assignment would serve, and needs no walk per start.
/// </summary>
internal sealed partial class VisitSearch(VisitFrame frame, DayBook day, int[][][] candidates, SearchLimits limits)
{
    private readonly House _house = frame.House;
    private readonly int _longestWait = Grain.Count(frame.House.Location.LongestWaitMinutes);
    private readonly Placed[] _placed = [.. frame.Services.Select(service => new Placed(service.Roles.Count))];
    private readonly List<Held> _held = [];
    private readonly DaySet[]? _reach = frame.Services.Length > 1 ? VisitReach.Of(frame, day, candidates, limits) : null;
    private DaySet _found;
    private int _changesAllowed = int.MaxValue;
    private bool _planning;
    private int _planStart;
    private VisitPlan? _plan;

    /// <summary>Time held on a unit along the present branch, in grains from the start of the visit.</summary>
    private readonly record struct Held(int Unit, int From, int Until);

    /// <summary>A line as placed along the present branch.</summary>
    private sealed class Placed(int roles)
    {
        internal LineShape Shape = null!;
        internal int At;
        internal readonly int[] Practitioners = new int[roles];
        internal int Room = -1;
        internal int[] RoomUnits = [];
        internal bool RoomKept;
        internal readonly List<(EquipmentSpan Span, int Pool, int[] Units)> Equipment = [];

        internal int Until => At + Shape.Grains;

        internal bool HasFirst(int practitioner) => Holds(Shape.FirstAttended, practitioner);

        internal bool HasLast(int practitioner) => Holds(Shape.LastAttended, practitioner);

        /// <summary>Whether somebody takes a role of this line that is with the client at some time.</summary>
        internal bool Attends(int practitioner)
        {
            for (int role = 0; role < Practitioners.Length; role++)
                if (Practitioners[role] == practitioner && Shape.RoleSpans[role].Count > 0) return true;
            return false;
        }

        private bool Holds(IReadOnlyList<int> roles, int practitioner)
        {
            foreach (int role in roles)
                if (Practitioners[role] == practitioner) return true;
            return false;
        }
    }

    /// <summary>All starts out of <paramref name="within"/> that some assignment serves.</summary>
    internal DaySet Starts(DaySet within)
    {
        _found = DaySet.Empty;
        PlaceLine(0, within, 0);
        return _found;
    }

    /// <summary>The preferred assignment at one start, or null: fewest changes of practitioner, then the preferences in order.</summary>
    internal VisitPlan? PlanAt(int start)
    {
        _planning = true;
        _planStart = start;
        for (_changesAllowed = 0; _changesAllowed < frame.Services.Length && _plan is null; _changesAllowed++)
        {
            _found = DaySet.Empty;
            PlaceLine(0, DaySet.Of(start), 0);
        }

        return _plan;
    }

    private void PlaceLine(int line, DaySet starts, int changes)
    {
        if (!StillOpen(ref starts)) return;
        if (line == _placed.Length)
        {
            Finish(starts);
            return;
        }

        int earliest = line == 0 ? 0 : _placed[line - 1].Until;
        int longestWait = line == 0 ? 0 : _longestWait;
        for (int wait = 0; wait <= longestWait; wait++)
        {
            DaySet here = starts;
            if (_reach is not null) here &= _reach[line].Earlier(earliest + wait);
            if (here.IsEmpty) continue;
            foreach (int lead in LeadsOf(line))
            {
                int changed = changes + (line > 0 && lead != _placed[line - 1].Practitioners[0] ? 1 : 0);
                if (changed > _changesAllowed) continue;
                DaySet mine = line == 0 && limits.ByLead is { } byLead ? here & byLead(lead) : here;
                Placed placed = _placed[line];
                placed.Shape = frame.ShapeOf(line, lead);
                placed.At = earliest + wait;
                PlaceRole(line, 0, lead, mine, changed);
            }
        }
    }

    /// <summary>Leads to try; with a plan in mind the one of the line before comes first.</summary>
    private int[] LeadsOf(int line)
    {
        int[] all = candidates[line][0];
        if (!_planning) return all;
        if (limits.Order is { } order) all = order.Order(all, lead => HeldFrom(line, lead));
        if (line == 0) return all;
        int before = _placed[line - 1].Practitioners[0];
        return [.. all.OrderBy(lead => lead == before ? 0 : 1)];
    }

    /// <summary>From when until when a lead would be held who keeps the visit from a line to its end, on the day of the plan.</summary>
    private (int From, int Until) HeldFrom(int line, int lead)
    {
        int at = _planStart + (line == 0 ? 0 : _placed[line - 1].Until);
        (int from, int until) = frame.ShapeOf(line, lead).HeldBy(0);
        (from, until) = (from + at, until + at);
        for (int i = line; i + 1 < _placed.Length; i++)
        {
            at += frame.ShapeOf(i, lead).Grains;
            until = at + frame.ShapeOf(i + 1, lead).HeldBy(0).Until;
        }

        return (from, until);
    }

    private int[] OthersOf(int line, int role)
    {
        int[] all = candidates[line][role];
        return _planning && limits.Order is { } order
            ? order.Order(all, _ =>
            {
                (int from, int until) = _placed[line].Shape.HeldBy(role);
                return (_planStart + _placed[line].At + from, _planStart + _placed[line].At + until);
            })
            : all;
    }

    private bool IsWithinDay(int line, int role, int practitioner)
    {
        DailyLimits most = _house.Practitioners[practitioner].Limits;
        if (most.AreOff || _placed[line].Shape.RoleSpans[role].Count == 0) return true;
        Guid category = frame.Services[line].CategoryId;
        Load load = day.Loads[practitioner];
        int all = load.Appointments + 1, same = load.PerCategory.GetValueOrDefault(category) + 1;
        for (int i = 0; i < line; i++)
        {
            if (!_placed[i].Attends(practitioner)) continue;
            all++;
            if (frame.Services[i].CategoryId == category) same++;
        }

        return !(all > most.Appointments) && !(most.PerCategory.TryGetValue(category, out int bound) && same > bound);
    }

    /// <summary>Minutes of the day and gaps, which depend on the whole assignment.</summary>
    private bool KeepsDay(ref DaySet starts)
    {
        for (int one = 0; one < _house.Practitioners.Count; one++)
        {
            int held = 0, from = int.MaxValue, until = int.MinValue;
            foreach (Held own in _held)
            {
                if (own.Unit != one) continue;
                held += own.Until - own.From;
                (from, until) = (Math.Min(from, own.From), Math.Max(until, own.Until));
            }

            if (held == 0) continue;
            if (limits.Daily && day.Loads[one].Minutes + (held * Grain.Minutes) > _house.Practitioners[one].Limits.Minutes) return false;
            if (limits.Gaps is { } gaps) starts &= gaps.Begins(one).Earlier(from) & gaps.Ends(one).Earlier(until);
        }

        return true;
    }

    private void PlaceRole(int line, int role, int practitioner, DaySet starts, int changes)
    {
        if (!StillOpen(ref starts)) return;
        Placed placed = _placed[line];
        for (int i = 0; i < role; i++)
            if (practitioner >= 0 && placed.Practitioners[i] == practitioner) return;
        if (limits.Daily && practitioner >= 0 && !IsWithinDay(line, role, practitioner)) return;
        placed.Practitioners[role] = practitioner;
        int mark = _held.Count;
        bool holds = true;
        IReadOnlyList<GrainSpan> spans = placed.Shape.RoleSpans[role];
        for (int i = 0; i < spans.Count; i++)
        {
            GrainSpan span = spans[i];
            holds = holds && Hold(practitioner, placed.At + span.From, placed.At + span.Until, limits.Practitioners, ref starts);
        }

        if (holds)
        {
            if (role + 1 == placed.Practitioners.Length)
            {
                PlaceBuffers(line, starts, changes);
            }
            else
            {
                foreach (int next in OthersOf(line, role + 1)) PlaceRole(line, role + 1, next, starts, changes);
            }
        }

        Release(mark);
    }

    /// <summary>The buffer between the line before and this one, left out for whoever goes on unless it is marked always.</summary>
    private void PlaceBuffers(int line, DaySet starts, int changes)
    {
        int mark = _held.Count;
        Placed placed = _placed[line];
        Placed? before = line == 0 ? null : _placed[line - 1];
        bool holds = before is null || HoldAfter(before, frame.Services[line - 1].BufferAlways, placed, ref starts);
        for (int i = 0; i < placed.Shape.FirstAttended.Count; i++)
        {
            int role = placed.Shape.FirstAttended[i];
            int practitioner = placed.Practitioners[role];
            bool goesOn = before is not null && before.HasLast(practitioner) && !frame.Services[line].BufferAlways;
            int from = placed.At + placed.Shape.FirstAttendedFrom;
            if (!goesOn && placed.Shape.BufferBefore > 0)
                holds = holds && Hold(practitioner, from - placed.Shape.BufferBefore, from, limits.Practitioners, ref starts);
        }

        if (holds) PlaceRoom(line, starts, changes);
        Release(mark);
    }

    private bool HoldAfter(Placed line, bool always, Placed? next, ref DaySet starts)
    {
        if (line.Shape.BufferAfter == 0) return true;
        int from = line.At + line.Shape.LastAttendedUntil;
        foreach (int role in line.Shape.LastAttended)
        {
            int practitioner = line.Practitioners[role];
            if (next is not null && !always && next.HasFirst(practitioner)) continue;
            if (!Hold(practitioner, from, from + line.Shape.BufferAfter, limits.Practitioners, ref starts)) return false;
        }

        return true;
    }

    private void Finish(DaySet starts)
    {
        int mark = _held.Count;
        Placed last = _placed[^1];
        bool holds = HoldAfter(last, always: false, next: null, ref starts)
            && (last.Room < 0 || HoldTurnaround(last, ref starts));
        if (holds && (limits.Daily || limits.Gaps is not null)) holds = KeepsDay(ref starts);
        if (holds && limits.Within is { } within) starts &= within.StartsHolding(0, last.Until);
        if (holds)
        {
            _found |= starts;
            if (_planning && _plan is null && !starts.IsEmpty) _plan = PlanMaker.Make(_house, day, frame, _planStart, Branch());
        }

        Release(mark);
    }

    private IReadOnlyList<PlacedLine> Branch() =>
        [.. _placed.Select((line, i) => new PlacedLine(line.Shape, line.At, [.. line.Practitioners], line.Room, line.RoomUnits, line.RoomKept, [.. line.Equipment]))];

    /// <summary>Cuts <paramref name="starts"/> to those at which the unit is free for the stretch; false when none are left.</summary>
    private bool Hold(int unit, int from, int until, bool counts, ref DaySet starts)
    {
        if (!counts || unit < 0 || from >= until) return true;
        foreach (Held other in _held)
            if (other.Unit == unit && other.From < until && from < other.Until) return false;
        starts &= day.Free(unit).StartsHolding(from, until);
        if (starts.IsEmpty) return false;
        _held.Add(new Held(unit, from, until));
        return true;
    }

    private void Release(int mark) => _held.RemoveRange(mark, _held.Count - mark);

    private bool StillOpen(ref DaySet starts)
    {
        if (_plan is not null) return false;
        starts = starts.Except(_found);
        return !starts.IsEmpty;
    }
}
