using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>The starts at which rooms are free, for lines whose lengths and places stand (rules, section 4).</summary>
internal sealed class RoomSets
{
    private readonly VisitFrame _frame;
    private readonly House _house;
    private readonly int[] _turnaround;
    private readonly DaySet[] _units;
    // For a line and a unit of a room: the starts at which the line begins there and all lines behind it find a room too.
    private readonly DaySet[] _here;
    private readonly DaySet[][] _others;
    private readonly DaySet[] _all;
    // For a line, and up to which line behind it: when rooms are open for as long as that.
    private readonly DaySet[] _open;

    internal RoomSets(VisitFrame frame)
    {
        _frame = frame;
        _house = frame.House;
        _turnaround = [.. _house.Rooms.Select(room => Grain.Count(room.TurnaroundMinutes))];
        _units = new DaySet[_house.Rooms.Select(room => room.Capacity).Append(1).Max()];
        int units = _house.Rooms.Sum(room => room.Capacity);
        _here = new DaySet[units];
        _others = [.. Enumerable.Range(0, frame.Lines + 1).Select(_ => new DaySet[frame.Lines > 1 ? units : 0])];
        _all = new DaySet[frame.Lines + 1];
        _open = new DaySet[frame.Lines];
    }

    internal StartBounds Of(DayBook day, LineShape[] shapes, int[] at)
    {
        if (_frame.Lines == 1)
        {
            DaySet alone = _frame.Services[0].Room is null
                ? DaySet.Full
                : Any(day, 0, at[0], at[0] + shapes[0].Grains, withTurnaround: true);
            return new StartBounds(alone, alone);
        }

        bool single = Array.TrueForAll(_frame.Services, service => service.Room is null or { Units: 1 });
        if (single && ComesBackAtEase(shapes, at))
        {
            DaySet exact = Walk(day, shapes, at);
            return new StartBounds(exact, exact);
        }

        DaySet possible = DaySet.Full;
        for (int line = 0; line < _frame.Lines; line++)
        {
            if (_frame.Services[line].Room is null) continue;
            // The last line, and one whose room is certainly left, needs its turnaround.
            bool leaves = line + 1 == _frame.Lines || _frame.Services[line + 1].Room is null;
            possible &= Any(day, line, at[line], at[line] + shapes[line].Grains, leaves);
        }

        return new StartBounds(DaySet.Empty, possible);
    }

    /// <summary>The starts of a line that stands alone; whether it leaves its room is not known, so no turnaround is asked for.</summary>
    internal DaySet Alone(DayBook day, int line, LineShape shape) =>
        _frame.Services[line].Room is null ? DaySet.Full : Any(day, line, 0, shape.Grains, withTurnaround: _frame.After[line] < 0);

    /// <summary>The starts at which some room has as many units free as a line needs.</summary>
    private DaySet Any(DayBook day, int line, int from, int until, bool withTurnaround)
    {
        int wanted = _frame.Services[line].Room!.Units;
        DaySet any = DaySet.Empty;
        foreach (int room in _frame.Rooms[line])
        {
            int first = _house.RoomUnits[room],
                capacity = _house.Rooms[room].Capacity,
                held = until + (withTurnaround ? _turnaround[room] : 0);
            if (capacity == 1)
            {
                any |= day.Free(first).StartsHolding(from, held);
                continue;
            }

            for (int unit = 0; unit < capacity; unit++) _units[unit] = day.Free(first + unit).StartsHolding(from, held);
            any |= DaySet.AtLeast(_units.AsSpan(0, capacity), wanted);
        }

        return any & day.RoomsOpen.StartsHolding(from, until);
    }

    /// <summary>Whether a client who left a room and comes back to it later finds its turnaround over, whichever room it is.</summary>
    private bool ComesBackAtEase(LineShape[] shapes, int[] at)
    {
        int least = int.MaxValue;
        for (int line = 0; line + 2 < _frame.Lines; line++) least = Math.Min(least, at[line + 2] - at[line] - shapes[line].Grains);
        foreach (int turnaround in _turnaround)
            if (turnaround > least) return false;
        return true;
    }

    /// <summary>
    /// Lines of one unit each, walked from the last to the first: each is spent in a unit that is kept for so many lines behind it,
    /// and then left for another (or the same, where the wait is longer than its turnaround).
    /// </summary>
    private DaySet Walk(DayBook day, LineShape[] shapes, int[] at)
    {
        int lines = _frame.Lines;
        _all[lines] = DaySet.Full;
        for (int line = lines - 1; line >= 0; line--)
        {
            if (_frame.Services[line].Room is null)
            {
                _all[line] = _all[line + 1];
                // The room of the line before is left; what that means for it is said where it ends.
                Array.Copy(_others[line + 1], _others[line], _others[line].Length);
                if (line == lines - 1) Array.Fill(_others[line], DaySet.Full);
                continue;
            }

            Array.Clear(_here);
            for (int last = line; last < lines; last++) _open[last] = day.RoomsOpen.StartsHolding(at[line], at[last] + shapes[last].Grains);
            foreach (int room in _frame.Rooms[line])
            {
                int firstUnit = _house.RoomUnits[room];
                for (int unit = firstUnit; unit < firstUnit + _house.Rooms[room].Capacity; unit++)
                    _here[unit - _house.RoomUnits[0]] = From(day, line, room, unit, shapes, at);
            }

            Exclude(line);
        }

        return _all[0];
    }

    private DaySet From(DayBook day, int line, int room, int unit, LineShape[] shapes, int[] at)
    {
        DaySet found = DaySet.Empty;
        for (int last = line; last < _frame.Lines; last++)
        {
            if (last > line && Array.IndexOf(_frame.Rooms[last], room) < 0) break;
            int until = at[last] + shapes[last].Grains;
            DaySet kept = day.Free(unit).StartsHolding(at[line], until + _turnaround[room]) & _open[last];
            if (kept.IsEmpty) continue;
            int next = last + 1;
            while (next < _frame.Lines && _frame.Services[next].Room is null) next++;
            bool mayComeBack = next < _frame.Lines && at[next] >= until + _turnaround[room];
            found |= next >= _frame.Lines ? kept : kept & (mayComeBack ? _all[next] : _others[next][unit - _house.RoomUnits[0]]);
        }

        return found;
    }

    /// <summary>For each unit the starts at which a line begins in another one.</summary>
    private void Exclude(int line)
    {
        DaySet before = DaySet.Empty;
        for (int unit = 0; unit < _here.Length; unit++)
        {
            _others[line][unit] = before;
            before |= _here[unit];
        }

        _all[line] = before;
        DaySet behind = DaySet.Empty;
        for (int unit = _here.Length - 1; unit >= 0; unit--)
        {
            _others[line][unit] |= behind;
            behind |= _here[unit];
        }
    }
}
