using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>Starts found without a search.</summary>
/// <param name="Certain">Starts that some assignment serves.</param>
/// <param name="Possible">Starts that may be served: none outside can be.</param>
internal readonly record struct StartBounds(DaySet Certain, DaySet Possible);

/// <summary>
/// The starts of a day as a product of sets (rules, section 5, gates 4 to 8). Once the lengths of the lines and the waits between
/// them stand, people, rooms and equipment do not depend on each other, so each is worked out for all starts at once. Where that
/// says all, the two bounds meet; what lies between is left to <see cref="VisitSearch"/>. One serves many days, one after another.
/// </summary>
internal sealed class StartSets(VisitFrame frame)
{
    // More ways to lay the lines than this, and only the bound from outside is worked out.
    private const int MostLayouts = 64;

    private readonly House _house = frame.House;
    private readonly PeopleSets _people = new(frame);
    private readonly RoomSets _rooms = new(frame);
    private readonly PoolSets _pools = new(frame);
    private readonly LineShape[] _shapes = new LineShape[frame.Lines];
    private readonly int[] _at = new int[frame.Lines];
    private readonly List<LineShape>[] _kinds = [.. Enumerable.Range(0, frame.Lines).Select(_ => new List<LineShape>())];

    /// <summary>Both bounds of the starts of a day.</summary>
    internal StartBounds Of(DayBook day, int[][][] candidates, SearchLimits limits, DaySet within)
    {
        for (int line = 0; line < frame.Lines; line++)
        {
            _kinds[line].Clear();
            foreach (int lead in candidates[line][0])
                if (!_kinds[line].Contains(frame.ShapeOf(line, lead))) _kinds[line].Add(frame.ShapeOf(line, lead));
            if (_kinds[line].Count == 0) return default;
        }

        bool laysOut = frame.IsForOne && Layouts() <= MostLayouts && (frame.Lines == 1 || limits.ByHold is null)
            && (frame.Lines == 1 || !limits.Practitioners || frame.Services.All(service => service.Roles.Count == 1));
        if (!laysOut) return new StartBounds(DaySet.Empty, within & Outside(day, candidates, limits));
        StartBounds all = default;
        LayOut(0, 0);
        return all;

        void LayOut(int line, int at)
        {
            if (line == frame.Lines)
            {
                StartBounds here = Laid(day, candidates, limits, within);
                all = new StartBounds(all.Certain | here.Certain, all.Possible | here.Possible);
                return;
            }

            for (int wait = 0; wait <= (line == 0 ? 0 : frame.LongestWait); wait++)
            {
                for (int i = 0; i < _kinds[line].Count; i++)
                {
                    _shapes[line] = _kinds[line][i];
                    _at[line] = at + wait + (line == 0 ? frame.Offsets[0] : 0);
                    LayOut(line + 1, _at[line] + _shapes[line].Grains);
                }
            }
        }
    }

    private long Layouts()
    {
        long layouts = 1;
        for (int line = 0; line < frame.Lines && layouts <= MostLayouts; line++)
            layouts *= _kinds[line].Count * (line == 0 ? 1 : frame.LongestWait + 1);
        return layouts;
    }

    /// <summary>Bounds for lines of given lengths at given places after the start.</summary>
    private StartBounds Laid(DayBook day, int[][][] candidates, SearchLimits limits, DaySet within)
    {
        DaySet starts = within;
        if (limits.Within is { } bound) starts &= bound.StartsHolding(0, _at[^1] + _shapes[^1].Grains);
        if (limits.Equipment && !starts.IsEmpty) starts &= _pools.Of(day, _shapes, _at);
        if (starts.IsEmpty) return default;
        StartBounds rooms = limits.Rooms ? _rooms.Of(day, _shapes, _at) : new StartBounds(DaySet.Full, DaySet.Full);
        starts &= rooms.Possible;
        if (starts.IsEmpty) return default;
        StartBounds people = _people.Of(day, candidates, limits, _shapes, _at);
        starts &= people.Possible;
        if (limits.Equipment) starts = _pools.Exactly(day, _shapes, _at, starts);
        return new StartBounds(starts & rooms.Certain & people.Certain, starts);
    }

    /// <summary>
    /// The bound from outside for any lengths and waits: where each line could begin if it stood alone, and the lines behind it in turn.
    /// </summary>
    private DaySet Outside(DayBook day, int[][][] candidates, SearchLimits limits)
    {
        DaySet all = DaySet.Full;
        for (int last = 0; last < frame.Lines; last++)
        {
            if (frame.After[last] >= 0) continue;
            DaySet reach = DaySet.Full;
            int line = last;
            for (; line >= 0; line = frame.Before[line])
            {
                DaySet here = DaySet.Empty;
                foreach (LineShape shape in _kinds[line])
                {
                    DaySet alone = _people.Alone(day, candidates, limits, line, shape);
                    if (limits.Rooms) alone &= _rooms.Alone(day, line, shape);
                    if (limits.Equipment) alone &= _pools.Alone(day, shape);
                    if (limits.Within is { } bound) alone &= bound.StartsHolding(0, shape.Grains);
                    here |= frame.After[line] < 0 ? alone : alone & WithWaits(reach).Earlier(shape.Grains);
                }

                reach = here;
                if (frame.Before[line] < 0) break;
            }

            all &= reach.Earlier(frame.Offsets[line]);
        }

        return all;
    }

    private DaySet WithWaits(DaySet starts)
    {
        DaySet all = starts;
        for (int have = 1; have < frame.LongestWait + 1;)
        {
            int step = Math.Min(have, frame.LongestWait + 1 - have);
            all |= all.Earlier(step);
            have += step;
        }

        return all;
    }
}
