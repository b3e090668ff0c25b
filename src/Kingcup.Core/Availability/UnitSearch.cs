using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>
/// Units for stretches that are in each other's way. For every kind of unit it is listed which sets of stretches one of them can
/// serve; then it is counted how many of a kind serve which.
/// </summary>
internal sealed class UnitSearch
{
    private readonly IReadOnlyList<UnitNeed> _needs;
    private readonly int _from;
    private readonly int _until;
    private readonly bool _goOn;
    private readonly List<UnitKind> _kinds = [];
    private readonly UInt128[] _serves;
    // How many units each stretch still needs. Where none goes on a unit may serve more than is needed, and this falls below 0.
    private readonly int[] _left;
    private readonly HashSet<string> _failed = [];

    /// <summary>What units of a kind can do: the sets of stretches that one of them can serve, as bits, the fullest first.</summary>
    private sealed record UnitKind(UInt128[] Patterns, List<int> Units);

    /// <summary>Prepares a search for the stretches from one index to another, which is not included.</summary>
    internal UnitSearch(ReadOnlySpan<DaySet> free, in DaySet open, IReadOnlyList<UnitNeed> needs, int from, int until)
    {
        (_needs, _from, _until) = (needs, from, until);
        _goOn = Group().Any(i => needs[i].Follows >= 0);
        _serves = new UInt128[free.Length];
        _left = [.. needs.Select(need => need.Units)];
        Dictionary<string, UnitKind> kinds = [];
        for (int unit = 0; unit < free.Length; unit++)
        {
            UInt128[] patterns = _goOn ? AllPatterns(free[unit], open) : FullestPatterns(free[unit]);
            string key = string.Join(',', patterns);
            if (!kinds.TryGetValue(key, out UnitKind? kind)) _kinds.Add(kinds[key] = kind = new UnitKind(patterns, []));
            kind.Units.Add(unit);
        }
    }

    private IEnumerable<int> Group() => Enumerable.Range(_from, _until - _from);

    /// <summary>Finds units and notes for each the stretches it serves; false when there are not enough.</summary>
    internal bool Run(UInt128[] serves)
    {
        if (!Serve(0, 0, 0)) return false;
        foreach (int need in Group())
            for (int unit = _serves.Length - 1; unit >= 0 && _left[need] < 0; unit--) LetGo(unit, need);
        for (int unit = 0; unit < serves.Length; unit++) serves[unit] |= _serves[unit];
        return true;
    }

    private void LetGo(int unit, int need)
    {
        if (!Has(_serves[unit], need)) return;
        _serves[unit] &= ~(UInt128.One << need);
        _left[need]++;
    }

    /// <summary>Takes units of a kind for one pattern after another, as many as are of use, until nothing is left to serve.</summary>
    private bool Serve(int kind, int pattern, int used)
    {
        if (Group().All(need => _left[need] <= 0)) return true;
        if (kind == _kinds.Count) return false;
        UnitKind here = _kinds[kind];
        if (pattern == here.Patterns.Length || used == here.Units.Count) return Serve(kind + 1, 0, 0);
        string state = $"{kind} {pattern} {used} {string.Join(',', Group().Select(need => Math.Max(0, _left[need])))}";
        if (_failed.Contains(state)) return false;
        UInt128 bits = here.Patterns[pattern];
        for (int count = MostOfUse(bits, here.Units.Count - used); count >= 0; count--)
        {
            Add(bits, -count);
            for (int i = 0; i < count; i++) _serves[here.Units[used + i]] = bits;
            if (Serve(kind, pattern + 1, used + count)) return true;
            for (int i = 0; i < count; i++) _serves[here.Units[used + i]] = 0;
            Add(bits, count);
        }

        _failed.Add(state);
        return false;
    }

    /// <summary>How many units are of use for a pattern: where one goes on each has to be needed for all of it, elsewhere for some of
    /// it.</summary>
    private int MostOfUse(UInt128 bits, int units)
    {
        IEnumerable<int> left = Group().Where(need => Has(bits, need)).Select(need => _left[need]);
        return Math.Clamp(_goOn ? left.Min() : left.Max(), 0, units);
    }

    private void Add(UInt128 bits, int count)
    {
        foreach (int need in Group())
            if (Has(bits, need)) _left[need] += count;
    }

    private static bool Has(UInt128 bits, int need) => (bits >> need & 1) == 1;

    private static UInt128[] FullestFirst(List<UInt128> found) => [.. found.OrderByDescending(UInt128.PopCount).ThenBy(bits => bits)];

    /// <summary>
    /// The sets to which no further stretch can be added. Serving more than is needed does no harm where no unit goes on, so smaller
    /// ones need not be looked at.
    /// </summary>
    private UInt128[] FullestPatterns(DaySet free)
    {
        List<int> mine = [.. Group().Where(i => free.Covers(_needs[i].From, _needs[i].FreeAgain))];
        List<UInt128> found = [];
        if (mine.Count > 0) Grow(0, int.MinValue, 0);
        return FullestFirst(found);

        void Grow(UInt128 bits, int busy, int next)
        {
            // Something that ends before another could begin would fit in front of it: whoever leaves it out is not full.
            int firstEnd = int.MaxValue;
            for (int at = next; at < mine.Count; at++)
            {
                UnitNeed need = _needs[mine[at]];
                if (need.From >= firstEnd) break;
                if (need.From < busy) continue;
                firstEnd = Math.Min(firstEnd, need.FreeAgain);
                Grow(bits | (UInt128.One << mine[at]), need.FreeAgain, at + 1);
            }

            if (firstEnd == int.MaxValue) found.Add(bits);
        }
    }

    /// <summary>Every set of stretches one unit could serve, where it may go on from one into the next without turnaround.</summary>
    private UInt128[] AllPatterns(DaySet free, DaySet open)
    {
        List<int> mine = [.. Group().Where(i => free.Covers(_needs[i].From, _needs[i].Until))];
        List<UInt128> found = [];
        Grow(0, -1, 0);
        return FullestFirst(found);

        // Stretches are added in order of time; the last one added is still open to go on.
        void Grow(UInt128 bits, int last, int next)
        {
            // What serves last needs its turnaround, unless it goes on.
            bool isOver = last >= 0 && free.Covers(_needs[last].Until, _needs[last].FreeAgain);
            if (isOver) found.Add(bits);
            for (int at = next; at < mine.Count; at++)
            {
                UnitNeed need = _needs[mine[at]];
                bool goesOn =
                    last >= 0
                    && need.Follows == last
                    && free.Covers(_needs[last].From, need.Until)
                    && open.Covers(_needs[last].From, need.Until);
                bool comesBack = last < 0 || (isOver && _needs[last].FreeAgain <= need.From);
                if (goesOn || comesBack) Grow(bits | (UInt128.One << mine[at]), mine[at], at + 1);
            }
        }
    }
}
