using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>The starts at which people for every role are free, for lines whose lengths and places stand (rules, section 5, gate
/// 6).</summary>
internal sealed class PeopleSets(VisitFrame frame)
{
    private readonly House _house = frame.House;
    private readonly DaySet[] _units = new DaySet[frame.House.Practitioners.Select(practitioner => practitioner.Attention).Append(1).Max()];
    private readonly DaySet[] _first = new DaySet[frame.House.Practitioners.Count + 1];
    private readonly DaySet[] _prefix = new DaySet[frame.House.Practitioners.Count + 2];
    private readonly DaySet[] _next = new DaySet[frame.House.Practitioners.Count + 1];
    private readonly DaySet[] _nextGoingOn = new DaySet[frame.House.Practitioners.Count + 1];
    private readonly DaySet[] _here = new DaySet[frame.House.Practitioners.Count + 1];
    private readonly DaySet[] _hereGoingOn = new DaySet[frame.House.Practitioners.Count + 1];

    private DayBook _day = null!;
    private SearchLimits _limits = null!;

    /// <summary>How rules that look at a whole assignment are taken: as if they were laxer, or stricter, than they are.</summary>
    private enum Bound
    {
        Outer,
        Inner,
    }

    internal StartBounds Of(DayBook day, int[][][] candidates, SearchLimits limits, LineShape[] shapes, int[] at)
    {
        (_day, _limits) = (day, limits);
        if (frame.Lines == 1)
        {
            DaySet alone = One(candidates[0], 0, shapes[0]);
            return new StartBounds(alone, alone);
        }

        DaySet possible = Chain(candidates, shapes, at, Bound.Outer);
        if (!limits.Practitioners || possible.IsEmpty) return new StartBounds(possible, possible);
        if (!IsExact(shapes, at) || SomeLookAfterSeveral(candidates)) return new StartBounds(DaySet.Empty, possible);
        return new StartBounds(limits.Daily || limits.Gaps is not null ? Chain(candidates, shapes, at, Bound.Inner) : possible, possible);
    }

    private bool SomeLookAfterSeveral(int[][][] candidates)
    {
        foreach (int[][] line in candidates)
            foreach (int lead in line[0])
                if (lead >= 0 && _house.Practitioners[lead].Attention > 1) return true;
        return false;
    }

    /// <summary>The starts of a line that stands alone, with only those buffers that it keeps whatever comes before and behind
    /// it.</summary>
    internal DaySet Alone(DayBook day, int[][][] candidates, SearchLimits limits, int line, LineShape shape)
    {
        (_day, _limits) = (day, limits);
        Service service = frame.Services[line];
        bool before = service.BufferAlways || frame.Before[line] < 0, after = service.BufferAlways || frame.After[line] < 0;
        DaySet all = DaySet.Full;
        int[][] roles = candidates[line];
        for (int role = 0; role < roles.Length; role++)
        {
            DaySet any = DaySet.Empty;
            foreach (int who in roles[role])
            {
                if (role == 0 && frame.ShapeOf(line, who) != shape) continue;
                DaySet mine = Holds(line, role, who, shape, before, after);
                if (line == 0 && role == 0 && limits.ByLead is { } byLead) mine &= byLead(who);
                any |= mine;
            }

            all &= any;
        }

        return all;
    }

    /// <summary>
    /// Whether walking from line to line says all: nobody who comes back after somebody else can be in the way of themselves. (Whoever
    /// looks after several at once may be held twice at a time, which is counted by the search.)
    /// </summary>
    private static bool IsExact(LineShape[] shapes, int[] at)
    {
        for (int line = 0; line < shapes.Length; line++)
        {
            if (shapes[line].FirstAttended.Count == 0) return false;
            for (int later = line + 2; later < shapes.Length; later++)
            {
                int free = at[later] + shapes[later].FirstAttendedFrom - at[line] - shapes[line].LastAttendedUntil;
                if (shapes[line].BufferAfter + shapes[later].BufferBefore > free) return false;
            }
        }

        return true;
    }

    /// <summary>A single line with all its roles: different people for each.</summary>
    private DaySet One(int[][] roles, int line, LineShape shape)
    {
        int wanted = _limits.Practitioners ? roles.Length : 1;
        DaySet all = DaySet.Empty;
        if (wanted == 1)
        {
            foreach (int lead in roles[0])
                if (frame.ShapeOf(line, lead) == shape) all |= Lead(line, lead, shape);
            return all;
        }

        if (wanted > 2) return Several(roles, line, shape);
        int[] others = roles[1];
        // Whoever leads cannot be the other one too: all others before and all behind them in the list.
        _prefix[0] = DaySet.Empty;
        for (int i = 0; i < others.Length; i++)
        {
            _first[i] = Ruled(line, 1, others[i], shape);
            _prefix[i + 1] = _prefix[i] | _first[i];
        }

        DaySet behind = DaySet.Empty;
        for (int i = others.Length - 1; i >= 0; i--)
        {
            if (Array.IndexOf(roles[0], others[i]) >= 0 && frame.ShapeOf(line, others[i]) == shape)
                all |= Lead(line, others[i], shape) & (_prefix[i] | behind);
            behind |= _first[i];
        }

        foreach (int lead in roles[0])
            if (frame.ShapeOf(line, lead) == shape && Array.IndexOf(others, lead) < 0) all |= Lead(line, lead, shape) & behind;
        return all;
    }

    /// <summary>
    /// Three roles and more: different people for all of them there are exactly where for every choice of roles as many people, or
    /// more, could take one of them (Hall's theorem).
    /// </summary>
    private DaySet Several(int[][] roles, int line, LineShape shape)
    {
        int people = _house.Practitioners.Count;
        DaySet[][] can =
        [
            .. roles.Select(
                (who, role) =>
                {
                    DaySet[] sets = new DaySet[people];
                    foreach (int person in who)
                        if (role > 0 || frame.ShapeOf(line, person) == shape)
                            sets[person] = role == 0 ? Lead(line, person, shape) : Ruled(line, role, person, shape);
                    return sets;
                }
            ),
        ];
        DaySet all = DaySet.Full;
        DaySet[] any = new DaySet[people];
        for (int choice = 1; choice < 1 << roles.Length && !all.IsEmpty; choice++)
        {
            Array.Clear(any);
            for (int role = 0; role < roles.Length; role++)
            {
                if ((choice >> role & 1) == 0) continue;
                for (int number = 0; number < people; number++) any[number] |= can[role][number];
            }

            all &= DaySet.AtLeast(any, System.Numerics.BitOperations.PopCount((uint)choice));
        }

        return all;
    }

    private DaySet Lead(int line, int lead, LineShape shape)
    {
        DaySet mine = Ruled(line, 0, lead, shape);
        if (_limits.ByLead is { } byLead) mine &= byLead(lead);
        if (_limits.ByHold is { } byHold) mine &= byHold(lead, shape.HeldBy(0));
        return mine;
    }

    /// <summary>A role of the only line, with daily limits and gaps.</summary>
    private DaySet Ruled(int line, int role, int who, LineShape shape)
    {
        if (who < 0 || !_limits.Practitioners)
            return DaySet.Full;
        if (
            role == 0
            && _limits.Daily
            && !DailyRule.Allows(
                _house.Practitioners[who],
                _day.Loads[who],
                [new LedLine(frame.Services[line].CategoryId, shape, true, true)]
            )
        )
            return DaySet.Empty;
        DaySet mine = Holds(line, role, who, shape, before: true, after: true);
        return _limits.Gaps is null ? mine : Gapless(mine, who, shape.HeldBy(role), begins: true, ends: true);
    }

    private DaySet Gapless(DaySet starts, int who, GrainSpan held, bool begins, bool ends)
    {
        if (_limits.Gaps is not { } gaps || held.From == held.Until) return starts;
        if (begins) starts &= gaps.Begins(who).Earlier(held.From);
        if (ends) starts &= gaps.Ends(who).Earlier(held.Until);
        return starts;
    }

    /// <summary>
    /// Several lines of one role each, walked from the last to the first: for every person the starts at which they could take a line
    /// and somebody, themselves without the buffers between or another with them, all lines behind it.
    /// </summary>
    private DaySet Chain(int[][][] candidates, LineShape[] shapes, int[] at, Bound bound)
    {
        for (int line = shapes.Length - 1; line >= 0; line--)
        {
            bool last = line == shapes.Length - 1;
            int[] leads = candidates[line][0];
            if (!last) PrefixOf(candidates[line + 1][0]);
            for (int i = 0; i < leads.Length; i++)
            {
                int lead = leads[i], slot = Slot(lead);
                (_here[slot], _hereGoingOn[slot]) = (DaySet.Empty, DaySet.Empty);
                if (
                    frame.ShapeOf(line, lead) != shapes[line]
                    || (bound == Bound.Inner ? !MayTakeAll(lead, shapes) : !MayTakeOne(lead, line, shapes))
                )
                    continue;
                DaySet byLead = line == 0 && _limits.ByLead is { } grid ? grid(lead) : DaySet.Full;
                _here[slot] = byLead & From(line, lead, candidates, shapes, at, bound, goesOn: false);
                if (line > 0 && Array.IndexOf(candidates[line - 1][0], lead) >= 0)
                    _hereGoingOn[slot] = From(line, lead, candidates, shapes, at, bound, goesOn: true);
            }

            foreach (int lead in leads) (_next[Slot(lead)], _nextGoingOn[Slot(lead)]) = (_here[Slot(lead)], _hereGoingOn[Slot(lead)]);
        }

        DaySet all = DaySet.Empty;
        foreach (int lead in candidates[0][0]) all |= _next[Slot(lead)];
        return all;
    }

    /// <summary>The starts at which somebody takes a line and all behind it are taken; <paramref name="goesOn"/> when they had the line
    /// before too.</summary>
    private DaySet From(int line, int lead, int[][][] candidates, LineShape[] shapes, int[] at, Bound bound, bool goesOn)
    {
        Service service = frame.Services[line];
        LineShape shape = shapes[line];
        bool before = !goesOn || service.BufferAlways;
        // Whoever goes on is not in the way of themselves with buffers that are kept always.
        if (goesOn && line > 0)
        {
            int kept =
                (service.BufferAlways ? shape.BufferBefore : 0)
                + (frame.Services[line - 1].BufferAlways ? shapes[line - 1].BufferAfter : 0);
            bool isBusy =
                _limits.Practitioners
                && lead >= 0
                && _house.Practitioners[lead].Attention == 1
                && shape.FirstAttended.Count > 0
                && shapes[line - 1].FirstAttended.Count > 0;
            if (isBusy && at[line] + shape.FirstAttendedFrom - at[line - 1] - shapes[line - 1].LastAttendedUntil < kept)
                return DaySet.Empty;
        }

        bool checkBegin = bound == Bound.Inner ? !goesOn : line == 0;
        if (line == shapes.Length - 1) return Placed(after: true, leaves: true);
        DaySet other = Placed(after: true, leaves: bound == Bound.Inner) & OthersThan(lead, candidates[line + 1][0]);
        if (Array.IndexOf(candidates[line + 1][0], lead) < 0) return other;
        return other | (Placed(after: service.BufferAlways, leaves: false) & _nextGoingOn[Slot(lead)]);

        DaySet Placed(bool after, bool leaves)
        {
            DaySet mine = Holds(line, 0, lead, shape, before, after);
            if (_limits.Gaps is not null && lead >= 0 && _limits.Practitioners)
                mine = Gapless(mine, lead, shape.HeldBy(0, before, after), checkBegin, leaves);
            return mine.Earlier(at[line]);
        }
    }

    private void PrefixOf(int[] leads)
    {
        _prefix[0] = DaySet.Empty;
        for (int i = 0; i < leads.Length; i++) _prefix[i + 1] = _prefix[i] | _next[Slot(leads[i])];
        // From behind, so that one walk gives both sides.
        DaySet behind = DaySet.Empty;
        for (int i = leads.Length - 1; i >= 0; i--)
        {
            _first[i] = _prefix[i] | behind;
            behind |= _next[Slot(leads[i])];
        }
    }

    private DaySet OthersThan(int lead, int[] next)
    {
        int i = Array.IndexOf(next, lead);
        // Nobody in particular may be followed by nobody in particular: it is not the same person.
        return i < 0 || lead < 0 ? _prefix[next.Length] : _first[i];
    }

    private static int Slot(int lead) => lead + 1;

    private bool MayTakeOne(int lead, int line, LineShape[] shapes) =>
        !_limits.Daily
        || lead < 0
        || DailyRule.Allows(
            _house.Practitioners[lead],
            _day.Loads[lead],
            [new LedLine(frame.Services[line].CategoryId, shapes[line], false, false)]
        );

    private bool MayTakeAll(int lead, LineShape[] shapes) =>
        !_limits.Daily || lead < 0 || DailyRule.Allows(_house.Practitioners[lead], _day.Loads[lead],
            [.. shapes.Select((shape, line) => new LedLine(frame.Services[line].CategoryId, shape, true, true))]);

    /// <summary>The starts of a line at which somebody is free for a role of it.</summary>
    private DaySet Holds(int line, int role, int who, LineShape shape, bool before, bool after)
    {
        if (!_limits.Practitioners || who < 0) return DaySet.Full;
        IReadOnlyList<GrainSpan> spans = shape.RoleSpans[role];
        if (spans.Count == 0) return DaySet.Full;
        Service service = frame.Services[line];
        int attention = _house.Practitioners[who].Attention, units = _house.UnitsOf(who, service);
        DaySet shift = _day.OnShift(who, service);
        ref readonly DaySet only = ref _day.Free(_house.PersonUnits[who]);
        DaySet free = attention == 1 ? shift & only : default;
        DaySet all = DaySet.Full;
        for (int i = 0; i < spans.Count; i++)
        {
            int from = spans[i].From - (before && i == 0 && shape.Begins(role) ? shape.BufferBefore : 0);
            int until = spans[i].Until + (after && i == spans.Count - 1 && shape.Ends(role) ? shape.BufferAfter : 0);
            if (attention == 1)
            {
                all &= free.StartsHolding(from, until);
                continue;
            }

            for (int unit = 0; unit < attention; unit++)
                _units[unit] = (_day.Free(_house.PersonUnits[who] + unit) & shift).StartsHolding(from, until);
            all &= DaySet.AtLeast(_units.AsSpan(0, attention), units);
        }

        return all;
    }
}

/// <summary>A line somebody would lead.</summary>
/// <param name="CategoryId">The category of its service.</param>
/// <param name="Shape">Its layout.</param>
/// <param name="Before">Whether the buffer before is held.</param>
/// <param name="After">Whether the buffer after is held.</param>
internal readonly record struct LedLine(Guid CategoryId, LineShape Shape, bool Before, bool After)
{
    /// <summary>Grains it holds of whoever leads it.</summary>
    internal int Held =>
        Shape.RoleSpans[0].Count == 0
            ? 0
            : Shape.RoleSpans[0].Sum(span => span.Until - span.From)
                + (Before && Shape.Begins(0) ? Shape.BufferBefore : 0)
                + (After && Shape.Ends(0) ? Shape.BufferAfter : 0);
}

/// <summary>Whether clients may book so much of somebody's day (rules, section 5, gate 6: of the people of a line, the first
/// role's).</summary>
internal static class DailyRule
{
    internal static bool Allows(Practitioner practitioner, Load load, ReadOnlySpan<LedLine> lines)
    {
        DailyLimits most = practitioner.Limits;
        if (most.AreOff) return true;
        int count = 0, held = 0;
        foreach (LedLine line in lines)
        {
            if (line.Held == 0) continue;
            count++;
            held += line.Held;
            if (!most.PerCategory.TryGetValue(line.CategoryId, out int bound)) continue;
            int same = load.PerCategory.GetValueOrDefault(line.CategoryId);
            foreach (LedLine other in lines)
                if (other.CategoryId == line.CategoryId && other.Held > 0) same++;
            if (same > bound) return false;
        }

        if (count == 0) return true;
        return (most.Appointments is null || load.Appointments + count <= most.Appointments)
            && (most.Minutes is null || load.Minutes + (held * Grain.Minutes) <= most.Minutes);
    }
}
