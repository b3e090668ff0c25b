using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>A stretch for which some units of one resource are needed, in grains of the day.</summary>
/// <param name="From">Beginning of the use.</param>
/// <param name="Until">End of the use.</param>
/// <param name="Turnaround">Grains each unit is held after its use, unless it goes on into the stretch that follows.</param>
/// <param name="Units">How many units.</param>
/// <param name="Follows">Index of the stretch a unit may go on from without turnaround and through the wait between, or -1.</param>
internal readonly record struct UnitNeed(int From, int Until, int Turnaround, int Units, int Follows = -1)
{
    /// <summary>When a unit that does not go on is free again.</summary>
    internal int FreeAgain => Until + Turnaround;
}

/// <summary>
/// Finds units of one resource for several stretches of the same visit. Equal units are interchangeable: those that could serve
/// the same stretches are counted, never tried one by one. Stretches that are not in each other's way are found units each for
/// themselves, so that many short uses one after another cost no more than each alone.
/// </summary>
internal static class UnitAssignment
{
    /// <summary>Most stretches of one visit: a bit for each.</summary>
    internal const int MostNeeds = 128;

    /// <summary>Whether the stretches can be served.</summary>
    internal static bool Exists(ReadOnlySpan<DaySet> free, in DaySet open, IReadOnlyList<UnitNeed> needs) =>
        Find(free, open, needs) is not null;

    /// <summary>For each unit the stretches it serves, as bits; null when they cannot all be served.</summary>
    /// <param name="free">Free time of each unit.</param>
    /// <param name="open">When a use may take place; turnaround may lie outside.</param>
    /// <param name="needs">What is needed, by beginning; <see cref="MostNeeds"/> at the most.</param>
    internal static UInt128[]? Find(ReadOnlySpan<DaySet> free, in DaySet open, IReadOnlyList<UnitNeed> needs)
    {
        if (needs.Count > MostNeeds) throw new ArgumentException($"{needs.Count} stretches are too many.", nameof(needs));
        foreach (UnitNeed need in needs)
            if (!open.Covers(need.From, need.Until)) return null;
        UInt128[] serves = new UInt128[free.Length];
        for (int from = 0, until; from < needs.Count; from = until)
        {
            until = EndOfGroup(needs, from);
            bool found =
                until == from + 1 ? ServeOne(free, needs[from], from, serves) : new UnitSearch(free, open, needs, from, until).Run(serves);
            if (!found)
                return null;
        }

        return serves;
    }

    /// <summary>Where the first stretch stands that begins when all units of those before are free again; one that goes on stays with
    /// them.</summary>
    private static int EndOfGroup(IReadOnlyList<UnitNeed> needs, int from)
    {
        int busy = needs[from].FreeAgain,
            until = from + 1;
        for (; until < needs.Count && (needs[until].From < busy || needs[until].Follows >= 0); until++)
            busy = Math.Max(busy, needs[until].FreeAgain);
        return until;
    }

    private static bool ServeOne(ReadOnlySpan<DaySet> free, UnitNeed need, int index, UInt128[] serves)
    {
        int left = need.Units;
        for (int unit = 0; unit < free.Length && left > 0; unit++)
        {
            if (!free[unit].Covers(need.From, need.FreeAgain)) continue;
            serves[unit] |= UInt128.One << index;
            left--;
        }

        return left == 0;
    }
}
