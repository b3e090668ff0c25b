using System.Text;
using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>What the assignment under way holds of people and equipment.</summary>
internal sealed partial class VisitSearch
{
    /// <summary>Holds the people of a line, and of the line before what its buffers after hold now that it is known who goes on.</summary>
    private bool HoldPeople(int line)
    {
        PlacedLine placed = _placed[line]!;
        PlacedLine? before = frame.Before[line] < 0 ? null : _placed[frame.Before[line]];
        if (!limits.Practitioners) return true;
        if (before is not null && !HoldAfter(before, frame.Before[line], placed)) return false;
        for (int role = 0; role < placed.Practitioners.Length; role++)
        {
            int who = placed.Practitioners[role];
            IReadOnlyList<GrainSpan> spans = placed.Shape.RoleSpans[role];
            bool goesOn = before?.HasLast(who) == true && !frame.Services[line].BufferAlways;
            for (int i = 0; i < spans.Count; i++)
            {
                int from = spans[i].From - (i == 0 && !goesOn && placed.Shape.Begins(role) ? placed.Shape.BufferBefore : 0);
                // The buffer after comes with the next line; until then the last stretch is held without it.
                if (!Hold(who, line, placed.At + from, placed.At + spans[i].Until)) return false;
            }
        }

        return true;
    }

    /// <summary>The buffer after a line, left out for whoever goes on unless it is marked always.</summary>
    private bool HoldAfter(PlacedLine placed, int line, PlacedLine? next)
    {
        if (placed.Shape.BufferAfter == 0 || !limits.Practitioners) return true;
        int from = placed.At + placed.Shape.LastAttendedUntil;
        foreach (int role in placed.Shape.LastAttended)
        {
            int who = placed.Practitioners[role];
            if (next?.HasFirst(who) == true && !frame.Services[line].BufferAlways) continue;
            if (!Lengthen(who, line, from, from + placed.Shape.BufferAfter)) return false;
        }

        return true;
    }

    private bool Hold(int who, int line, int from, int until)
    {
        if (who < 0 || from >= until) return true;
        _people[who].Add(new UnitNeed(from, until, 0, _house.UnitsOf(who, frame.Services[line])));
        return Fits(who, line, _people[who].Count - 1);
    }

    /// <summary>A buffer behind a stretch is held by the same units as that stretch.</summary>
    private bool Lengthen(int who, int line, int from, int until)
    {
        if (who < 0) return true;
        int i = _people[who].FindLastIndex(need => need.Until == from);
        if (i < 0) return Hold(who, line, from, until);
        _lengthened.Add((who, i, _people[who][i]));
        _people[who][i] = _people[who][i] with { Until = until };
        return Fits(who, line, i);
    }

    private bool Fits(int who, int line, int latest)
    {
        List<UnitNeed> needs = _people[who];
        UnitNeed wanted = needs[latest];
        if (!day.OnShift(who, frame.Services[line]).Covers(wanted.From, wanted.Until)) return false;
        int attention = _house.Practitioners[who].Attention, first = _house.PersonUnits[who];
        if (attention > 1)
            return UnitAssignment.Exists(
                [.. Enumerable.Range(first, attention).Select(unit => day.Free(unit))],
                DaySet.Full,
                [.. needs.OrderBy(need => need.From)]
            );
        if (!day.Free(first).Covers(wanted.From, wanted.Until))
            return false;
        for (int i = 0; i < needs.Count; i++)
            if (i != latest && needs[i].From < wanted.Until && wanted.From < needs[i].Until) return false;
        return true;
    }

    /// <summary>
    /// Everything the lines still to come can depend on, so that a dead end is walked into once; null where the whole assignment counts.
    /// </summary>
    private string? StateOf(int line)
    {
        if (line == 0 || frame.Lines < 3 || limits.Daily || limits.Gaps is not null || limits.ByHold is not null) return null;
        StringBuilder state = new();
        int present = int.MaxValue;
        state.Append(line);
        for (int i = 0; i < line; i++)
        {
            // Lines whose end or people the next of their person will look at.
            if (frame.After[i] >= 0 && frame.After[i] < line) continue;
            PlacedLine placed = _placed[i]!;
            present = Math.Min(present, frame.After[i] < 0 ? int.MaxValue : placed.Until);
            state
                .Append('|')
                .Append(placed.At)
                .Append(',')
                .Append(placed.Until)
                .Append(',')
                .Append(placed.Room)
                .Append(':')
                .AppendJoin(',', placed.Practitioners);
        }

        for (int i = line; i < frame.Lines; i++)
            if (frame.Before[i] < 0) present = Math.Min(present, _start + frame.Offsets[i]);
        // A buffer before may still reach back by this much.
        present -= frame.Services.Max(service => Grain.Count(service.BufferBeforeMinutes));
        Append('p', _people, 0);
        Append('e', _pools, 1);
        for (int i = 0; i < line; i++)
        {
            PlacedLine placed = _placed[i]!;
            if (placed.Room >= 0 && placed.Until + Grain.Count(_house.Rooms[placed.Room].TurnaroundMinutes) > present)
                state.Append(';').Append(i).Append(',').Append(placed.At).Append(',').Append(placed.Until).Append(',').Append(placed.Room);
        }

        return state.ToString();

        void Append(char kind, List<UnitNeed>[] lists, int turnaround)
        {
            for (int i = 0; i < lists.Length; i++)
            {
                foreach (UnitNeed need in lists[i])
                    if (need.Until + (turnaround * need.Turnaround) > present)
                        state
                            .Append(kind)
                            .Append(i)
                            .Append(',')
                            .Append(need.From)
                            .Append(',')
                            .Append(need.Until)
                            .Append(',')
                            .Append(need.Units);
            }
        }
    }

    /// <summary>How far the lists had come, to step back to.</summary>
    private readonly record struct Mark(int[] Counts, int Lengthened);

    private Mark Here(List<UnitNeed>[] lists) => new([.. lists.Select(list => list.Count)], _lengthened.Count);

    private void Release(List<UnitNeed>[] lists, Mark mark)
    {
        for (; ReferenceEquals(lists, _people) && _lengthened.Count > mark.Lengthened; _lengthened.RemoveAt(_lengthened.Count - 1))
        {
            (int who, int index, UnitNeed before) = _lengthened[^1];
            _people[who][index] = before;
        }

        for (int i = 0; i < lists.Length; i++) lists[i].RemoveRange(mark.Counts[i], lists[i].Count - mark.Counts[i]);
    }
}
