using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>
/// One day explained (rules, section 5, "Why not?"): which starts are left after each gate, and why the others are not. It is
/// made by the search that decides, so what it says cannot differ from what can be booked.
/// </summary>
public sealed class DayReasons
{
    private readonly DayBook _day;
    private readonly DaySet _grid;
    private readonly Dictionary<Gate, DaySet> _alone;
    private readonly Dictionary<Gate, DaySet> _together;
    private readonly ReasonFinder _reasons;

    internal DayReasons(
        DayBook day,
        DaySet grid,
        Dictionary<Gate, DaySet> alone,
        Dictionary<Gate, DaySet> together,
        ReasonFinder reasons
    ) => (_day, _grid, _alone, _together, _reasons) = (day, grid, alone, together, reasons);

    /// <summary>The starts that pass every gate.</summary>
    public DaySet Passing => _together[_together.Keys.Max()];

    /// <summary>
    /// The starts worth showing: every start of the clock grid; for the other grids every start of the day.
    /// </summary>
    public DaySet Grid => _grid;

    /// <summary>How many starts of the grid each gate removed first.</summary>
    public IReadOnlyDictionary<Gate, int> Removed
    {
        get
        {
            Dictionary<Gate, int> removed = [];
            DaySet left = _grid;
            foreach (Gate gate in _together.Keys.Order())
            {
                DaySet still = left & _together[gate];
                removed[gate] = left.Count - still.Count;
                left = still;
            }

            return removed;
        }
    }

    /// <summary>The gate that removed a start first, or null when it passes all.</summary>
    public Gate? FirstGate(int start)
    {
        foreach (Gate gate in _together.Keys.Order())
            if (!_together[gate].Contains(start)) return gate;
        return null;
    }

    /// <summary>The gate at which the last of some starts are gone, or null when one of them passes all.</summary>
    public Gate? LastGate(in DaySet starts)
    {
        foreach (Gate gate in _together.Keys.Order())
            if ((_together[gate] & starts).IsEmpty) return gate;
        return null;
    }

    /// <summary>How many gates refuse a start, each looked at on its own.</summary>
    public int RefusingGates(int start) => Refusing(start).Count();

    /// <summary>Every gate that refuses a start, in order, with its reasons; empty when the start passes.</summary>
    public IReadOnlyList<Refusal> At(int start) =>
        [.. Refusing(start).Select(pair => new Refusal(pair.Gate, _reasons.Of(pair.Gate, start, pair.OnlyTogether)))];

    /// <summary>The day.</summary>
    public DayBook Day => _day;

    // A gate refuses when it would alone, or when it is the one at which the last possible assignment ends.
    private IEnumerable<(Gate Gate, bool OnlyTogether)> Refusing(int start)
    {
        bool open = true;
        foreach (Gate gate in _together.Keys.Order())
        {
            bool alone = _alone[gate].Contains(start), together = _together[gate].Contains(start);
            if (!alone || (open && !together)) yield return (gate, alone);
            open = open && together;
        }
    }
}
