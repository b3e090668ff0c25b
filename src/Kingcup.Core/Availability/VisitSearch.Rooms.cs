using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>Rooms, and then equipment, for lines whose people are chosen.</summary>
internal sealed partial class VisitSearch
{
    private void PlaceRoom(int line, DaySet starts, int changes)
    {
        Placed placed = _placed[line];
        Placed? before = line == 0 ? null : _placed[line - 1];
        RoomRule? rule = limits.Rooms ? frame.Services[line].Room : null;
        (placed.Room, placed.RoomUnits, placed.RoomKept) = (-1, [], false);

        bool canKeep = rule is not null && before is { Room: >= 0 } && rule.Accepts(_house.Rooms[before.Room]) && rule.Units == before.RoomUnits.Length;
        if (canKeep)
        {
            int mark = _held.Count;
            (placed.Room, placed.RoomUnits, placed.RoomKept) = (before!.Room, before.RoomUnits, true);
            DaySet kept = starts;
            if (HoldRoom(placed, before.Until, placed.Until, ref kept)) PlaceEquipment(line, 0, kept, changes);
            Release(mark);
            (placed.Room, placed.RoomUnits, placed.RoomKept) = (-1, [], false);
            if (_plan is not null) return;
        }

        int moved = _held.Count;
        // The client leaves the room of the line before, which then needs its cleaning.
        if (before is { Room: >= 0 } && !HoldTurnaround(before, ref starts))
        {
            Release(moved);
            return;
        }

        if (rule is null)
        {
            PlaceEquipment(line, 0, starts, changes);
        }
        else
        {
            foreach ((int room, int[] units) in RoomChoices(line))
            {
                if (canKeep && room == before!.Room && units.AsSpan().SequenceEqual(before.RoomUnits)) continue;
                int mark = _held.Count;
                (placed.Room, placed.RoomUnits) = (room, units);
                DaySet there = starts;
                if (StillOpen(ref there) && HoldRoom(placed, placed.At, placed.Until, ref there)) PlaceEquipment(line, 0, there, changes);
                Release(mark);
                if (_plan is not null) return;
            }
        }

        Release(moved);
    }

    private bool HoldRoom(Placed placed, int from, int until, ref DaySet starts)
    {
        foreach (int unit in placed.RoomUnits)
            if (!Hold(RoomUnit(placed.Room, unit), from, until, true, ref starts)) return false;
        return true;
    }

    private bool HoldTurnaround(Placed placed, ref DaySet starts)
    {
        int turnaround = Grain.Count(_house.Rooms[placed.Room].TurnaroundMinutes);
        return turnaround == 0 || HoldRoom(placed, placed.Until, placed.Until + turnaround, ref starts);
    }

    private int RoomUnit(int room, int unit) => _house.RoomUnits[room] + unit;

    /// <summary>
    /// Rooms and units to try. For a plan, in the order of section 6: fewest spare features, then the least idle gap beside
    /// (the shorter of the two left in the free run), then house order.
    /// </summary>
    private (int Room, int[] Units)[] RoomChoices(int line)
    {
        (int Room, int[] Units)[] choices = frame.RoomChoices[line];
        if (!_planning) return choices;
        Placed placed = _placed[line];
        return [.. choices
            .OrderBy(choice => _house.Rooms[choice.Room].Features.Count)
            .ThenBy(choice => choice.Units.Min(unit => IdleBeside(RoomUnit(choice.Room, unit), _planStart + placed.At, _planStart + placed.Until)))
            .ThenBy(choice => choice.Room)];
    }

    private int IdleBeside(int unit, int from, int until)
    {
        (int runFrom, int runUntil) = day.Free(unit).RunAround(from);
        return Math.Min(from - runFrom, Math.Max(0, runUntil - until));
    }

    private void PlaceEquipment(int line, int index, DaySet starts, int changes)
    {
        if (!StillOpen(ref starts)) return;
        Placed placed = _placed[line];
        if (index == 0) placed.Equipment.Clear();
        if (!limits.Equipment || index == placed.Shape.Equipment.Count)
        {
            PlaceLine(line + 1, starts, changes);
            return;
        }

        EquipmentSpan need = placed.Shape.Equipment[index];
        if (_house.FirstUnitOf(need.PoolId) is not { } first) return;
        int pool = PoolIndex(need.PoolId);
        int turnaround = Grain.Count(_house.Pools[pool].TurnaroundMinutes);
        foreach (int[] units in Combinations(_house.Pools[pool].Quantity, need.Units))
        {
            int mark = _held.Count;
            DaySet there = starts;
            bool holds = true;
            foreach (int unit in units)
                holds = holds && Hold(first + unit, placed.At + need.Span.From, placed.At + need.Span.Until + turnaround, true, ref there);
            if (holds)
            {
                placed.Equipment.RemoveRange(index, placed.Equipment.Count - index);
                placed.Equipment.Add((need, pool, units));
                PlaceEquipment(line, index + 1, there, changes);
            }

            Release(mark);
            if (_plan is not null) return;
        }
    }

    private int PoolIndex(Guid poolId)
    {
        int index = 0;
        while (_house.Pools[index].Id != poolId) index++;
        return index;
    }

    /// <summary>Ways to take <paramref name="wanted"/> of <paramref name="of"/> units, in order.</summary>
    internal static IEnumerable<int[]> Combinations(int of, int wanted)
    {
        if (wanted > of || wanted < 1) yield break;
        int[] pick = [.. Enumerable.Range(0, wanted)];
        while (true)
        {
            yield return [.. pick];
            int i = wanted - 1;
            while (i >= 0 && pick[i] == of - wanted + i) i--;
            if (i < 0) yield break;
            pick[i]++;
            for (int j = i + 1; j < wanted; j++) pick[j] = pick[j - 1] + 1;
        }
    }
}
