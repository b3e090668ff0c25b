using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>A stretch for which some units of one resource are needed, in grains of the day.</summary>
/// <param name="From">Beginning of the use.</param>
/// <param name="Until">End of the use.</param>
/// <param name="Turnaround">Grains each unit is held after its use, unless it goes on into the stretch that follows.</param>
/// <param name="Units">How many units.</param>
/// <param name="Follows">Index of the stretch a unit may go on from without turnaround and through the wait between, or -1.</param>
internal readonly record struct UnitNeed(int From, int Until, int Turnaround, int Units, int Follows = -1);

/// <summary>
/// Finds units of one resource for several stretches of the same visit. Equal units are interchangeable: those that could serve
/// the same stretches are counted, never tried one by one.
/// </summary>
internal static class UnitAssignment
{
    /// <summary>Whether the stretches can be served.</summary>
    internal static bool Exists(ReadOnlySpan<DaySet> free, in DaySet open, IReadOnlyList<UnitNeed> needs) => Find(free, open, needs) is not null;

    /// <summary>For each unit the stretches it serves, as bits; null when they cannot all be served.</summary>
    /// <param name="free">Free time of each unit.</param>
    /// <param name="open">When a use may take place; turnaround may lie outside.</param>
    /// <param name="needs">What is needed, by beginning.</param>
    internal static int[]? Find(ReadOnlySpan<DaySet> free, in DaySet open, IReadOnlyList<UnitNeed> needs)
    {
        foreach (UnitNeed need in needs)
            if (!open.Covers(need.From, need.Until)) return null;
        return needs.Count == 1 ? FindOne(free, needs[0]) : new Search(free, open, needs).Run();
    }

    private static int[]? FindOne(ReadOnlySpan<DaySet> free, UnitNeed need)
    {
        int[] serves = new int[free.Length];
        int left = need.Units;
        for (int unit = 0; unit < free.Length && left > 0; unit++)
        {
            if (!free[unit].Covers(need.From, need.Until + need.Turnaround)) continue;
            serves[unit] = 1;
            left--;
        }

        return left == 0 ? serves : null;
    }

    /// <summary>What units of a kind can do: every set of stretches that one of them can serve, the fullest first.</summary>
    private sealed record UnitKind(int[] Patterns, List<int> Units);

    private sealed class Search
    {
        private readonly IReadOnlyList<UnitNeed> _needs;
        private readonly List<UnitKind> _kinds = [];
        private readonly int[] _serves;
        private readonly int[] _left;
        private readonly HashSet<string> _failed = [];

        internal Search(ReadOnlySpan<DaySet> free, in DaySet open, IReadOnlyList<UnitNeed> needs)
        {
            _needs = needs;
            _serves = new int[free.Length];
            _left = [.. needs.Select(need => need.Units)];
            Dictionary<string, UnitKind> kinds = [];
            for (int unit = 0; unit < free.Length; unit++)
            {
                int[] patterns = Patterns(free[unit], open);
                string key = string.Join(',', patterns);
                if (!kinds.TryGetValue(key, out UnitKind? kind)) _kinds.Add(kinds[key] = kind = new UnitKind(patterns, []));
                kind.Units.Add(unit);
            }
        }

        internal int[]? Run() => Serve(0, 0, 0) ? _serves : null;

        /// <summary>Takes units of a kind for one pattern after another, as many as are still of use, until nothing is left to serve.</summary>
        private bool Serve(int kind, int pattern, int used)
        {
            if (_left.All(left => left == 0)) return true;
            if (kind == _kinds.Count) return false;
            UnitKind here = _kinds[kind];
            if (pattern == here.Patterns.Length) return Serve(kind + 1, 0, 0);
            string state = $"{kind} {pattern} {used} {string.Join(',', _left)}";
            if (_failed.Contains(state)) return false;
            int bits = here.Patterns[pattern], most = here.Units.Count - used;
            for (int i = 0; i < _left.Length; i++)
                if ((bits >> i & 1) == 1) most = Math.Min(most, _left[i]);
            for (int count = most; count >= 0; count--)
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

        private void Add(int bits, int count)
        {
            for (int i = 0; i < _left.Length; i++)
                if ((bits >> i & 1) == 1) _left[i] += count;
        }

        /// <summary>Every non-empty set of stretches one unit could serve; those that go on without leaving, and the fullest, first.</summary>
        private int[] Patterns(DaySet free, DaySet open)
        {
            List<int> single = [.. Enumerable.Range(0, _needs.Count).Where(i => free.Covers(_needs[i].From, _needs[i].Until))];
            List<int> found = [];
            Grow(0, -1, 0);
            return [.. found.OrderByDescending(bits => System.Numerics.BitOperations.PopCount((uint)bits)).ThenBy(bits => bits)];

            // Stretches are added in order of time; the last one added is still open to go on.
            void Grow(int bits, int last, int next)
            {
                // What serves last needs its turnaround, unless it goes on.
                if (last >= 0 && free.Covers(_needs[last].Until, _needs[last].Until + _needs[last].Turnaround)) found.Add(bits);
                for (int at = next; at < single.Count; at++)
                {
                    int need = single[at];
                    bool goesOn = last >= 0 && _needs[need].Follows == last && free.Covers(_needs[last].From, _needs[need].Until) && open.Covers(_needs[last].From, _needs[need].Until);
                    bool comesBack = last < 0 || (_needs[last].Until + _needs[last].Turnaround <= _needs[need].From
                        && free.Covers(_needs[last].Until, _needs[last].Until + _needs[last].Turnaround));
                    if (goesOn || comesBack) Grow(bits | (1 << need), need, at + 1);
                }
            }
        }
    }
}
