using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>The starts at which equipment is free, for lines whose lengths and places stand (rules, section 4).</summary>
internal sealed class PoolSets(VisitFrame frame)
{
    private readonly House _house = frame.House;
    private readonly DaySet[] _units = new DaySet[frame.House.Pools.Select(pool => pool.Quantity).Append(1).Max()];
    private readonly List<UnitNeed> _needs = [];

    /// <summary>The starts at which each use on its own finds its units: all of them where no two uses are in each other's way.</summary>
    internal DaySet Of(DayBook day, LineShape[] shapes, int[] at)
    {
        DaySet all = DaySet.Full;
        for (int line = 0; line < shapes.Length; line++) all &= Alone(day, shapes[line]).Earlier(at[line]);
        return all;
    }

    internal DaySet Alone(DayBook day, LineShape shape)
    {
        DaySet all = DaySet.Full;
        for (int i = 0; i < shape.Equipment.Count; i++)
        {
            EquipmentSpan need = shape.Equipment[i];
            int pool = _house.PoolOf(need.PoolId);
            if (pool < 0)
                return DaySet.Empty;
            int quantity = _house.Pools[pool].Quantity,
                held = need.Span.Until + Grain.Count(_house.Pools[pool].TurnaroundMinutes);
            for (int unit = 0; unit < quantity; unit++)
                _units[unit] = day.Free(_house.PoolUnits[pool] + unit).StartsHolding(need.Span.From, held);
            all &= DaySet.AtLeast(_units.AsSpan(0, quantity), need.Units) & day.RoomsOpen.StartsHolding(need.Span.From, need.Span.Until);
        }

        return all;
    }

    /// <summary>Those of some starts at which the uses find units together; looked at one by one where two are in each other's
    /// way.</summary>
    internal DaySet Exactly(DayBook day, LineShape[] shapes, int[] at, DaySet starts)
    {
        for (int pool = 0; pool < _house.Pools.Count && !starts.IsEmpty; pool++)
        {
            _needs.Clear();
            int turnaround = Grain.Count(_house.Pools[pool].TurnaroundMinutes);
            for (int line = 0; line < shapes.Length; line++)
            {
                for (int i = 0; i < shapes[line].Equipment.Count; i++)
                {
                    EquipmentSpan need = shapes[line].Equipment[i];
                    if (need.PoolId == _house.Pools[pool].Id)
                        _needs.Add(new UnitNeed(at[line] + need.Span.From, at[line] + need.Span.Until, turnaround, need.Units));
                }
            }

            if (_needs.Count < 2 || !Meet()) continue;
            ReadOnlySpan<DaySet> free = Units(day, pool);
            foreach (int start in starts)
            {
                if (
                    !UnitAssignment.Exists(
                        free,
                        day.RoomsOpen,
                        [
                            .. _needs
                                .Select(need => need with { From = need.From + start, Until = need.Until + start })
                                .OrderBy(need => need.From),
                        ]
                    )
                )
                    starts = starts.Except(DaySet.Of(start));
            }
        }

        return starts;
    }

    private bool Meet()
    {
        for (int i = 0; i < _needs.Count; i++)
            for (int j = 0; j < i; j++)
                if (_needs[i].From < _needs[j].Until + _needs[j].Turnaround && _needs[j].From < _needs[i].Until + _needs[i].Turnaround)
                    return true;
        return false;
    }

    private DaySet[] Units(DayBook day, int pool) =>
        [.. Enumerable.Range(_house.PoolUnits[pool], _house.Pools[pool].Quantity).Select(unit => day.Free(unit))];
}
