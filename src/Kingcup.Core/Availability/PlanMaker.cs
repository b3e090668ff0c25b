using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>Writes a found assignment down as claims, each on units that are free for it.</summary>
internal static class PlanMaker
{
    internal static VisitPlan Make(VisitFrame frame, DayBook day, IReadOnlyList<PlacedLine> placed)
    {
        House house = frame.House;
        List<PlannedClaim> claims = [.. People(frame, day, placed), .. Rooms(frame, day, placed), .. Pools(frame, day, placed)];
        List<PlannedLine> lines = [.. placed.Select((line, i) => new PlannedLine(
            frame.Services[i].Id,
            day.Day.At(line.At),
            day.Day.At(line.Until),
            [.. line.Practitioners.Where(who => who >= 0).Select(who => house.Practitioners[who].Id)],
            line.Room >= 0 ? house.Rooms[line.Room].Id : null)
        {
            Person = frame.Wish.Lines[i].Person,
        })];
        return new VisitPlan(lines.Min(line => line.Start), lines.Max(line => line.End), lines, [.. claims.OrderBy(claim => claim.Line)]);
    }

    /// <summary>A stretch of a line on one resource, before its units are chosen.</summary>
    private sealed record Use(int Line, int? Role, UnitNeed Held, int CoreFrom, int CoreUntil);

    private static IEnumerable<PlannedClaim> People(VisitFrame frame, DayBook day, IReadOnlyList<PlacedLine> placed)
    {
        ILookup<int, Use> uses = Enumerable
            .Range(0, placed.Count)
            .SelectMany(line => PeopleOf(frame, placed, line))
            .ToLookup(pair => pair.Who, pair => pair.Use);
        foreach (IGrouping<int, Use> own in uses)
        {
            int attention = frame.House.Practitioners[own.Key].Attention;
            DaySet[] free = [.. Enumerable.Range(frame.House.PersonUnits[own.Key], attention).Select(unit => day.Free(unit))];
            foreach (PlannedClaim claim in Choose(frame, day, frame.House.Practitioners[own.Key].Id, free, DaySet.Full, [.. own]))
                yield return claim;
        }
    }

    private static IEnumerable<(int Who, Use Use)> PeopleOf(VisitFrame frame, IReadOnlyList<PlacedLine> placed, int i)
    {
        PlacedLine line = placed[i];
        PlacedLine? before = frame.Before[i] < 0 ? null : placed[frame.Before[i]],
            after = frame.After[i] < 0 ? null : placed[frame.After[i]];
        bool always = frame.Services[i].BufferAlways;
        for (int role = 0; role < line.Practitioners.Length; role++)
        {
            int who = line.Practitioners[role];
            if (who < 0)
                continue;
            bool bufferBefore = line.Shape.Begins(role) && (always || before?.HasLast(who) != true),
                bufferAfter = line.Shape.Ends(role) && (always || after?.HasFirst(who) != true);
            IReadOnlyList<GrainSpan> spans = line.Shape.RoleSpans[role];
            for (int span = 0; span < spans.Count; span++)
            {
                int from = line.At + spans[span].From,
                    until = line.At + spans[span].Until;
                int early = bufferBefore && span == 0 ? line.Shape.BufferBefore : 0,
                    late = bufferAfter && span == spans.Count - 1 ? line.Shape.BufferAfter : 0;
                yield return (
                    who,
                    new Use(i, role, new UnitNeed(from - early, until + late, 0, frame.House.UnitsOf(who, frame.Services[i])), from, until)
                );
            }
        }
    }

    private static IEnumerable<PlannedClaim> Rooms(VisitFrame frame, DayBook day, IReadOnlyList<PlacedLine> placed)
    {
        foreach (
            IGrouping<int, int> inRoom in Enumerable
                .Range(0, placed.Count)
                .Where(line => placed[line].Room >= 0)
                .OrderBy(line => placed[line].At)
                .GroupBy(line => placed[line].Room)
        )
        {
            Core.Rooms.Room room = frame.House.Rooms[inRoom.Key];
            List<int> lines = [.. inRoom];
            int turnaround = Grain.Count(room.TurnaroundMinutes);
            DaySet[] free = [.. Enumerable.Range(frame.House.RoomUnits[inRoom.Key], room.Capacity).Select(unit => day.Free(unit))];
            List<Use> uses =
            [
                .. lines.Select(line => new Use(
                    line,
                    null,
                    new UnitNeed(
                        placed[line].At,
                        placed[line].Until,
                        turnaround,
                        frame.Services[line].Room!.Units,
                        lines.IndexOf(frame.Before[line])
                    ),
                    placed[line].At,
                    placed[line].Until
                )),
            ];
            bool unsuited = lines.Exists(line => !frame.Services[line].Room!.Accepts(room));
            foreach (PlannedClaim claim in Choose(frame, day, room.Id, free, day.RoomsOpen, uses))
                yield return unsuited ? claim with { Unsuited = true } : claim;
        }
    }

    private static IEnumerable<PlannedClaim> Pools(VisitFrame frame, DayBook day, IReadOnlyList<PlacedLine> placed)
    {
        for (int pool = 0; pool < frame.House.Pools.Count; pool++)
        {
            Core.Rooms.EquipmentPool equipment = frame.House.Pools[pool];
            int turnaround = Grain.Count(equipment.TurnaroundMinutes);
            List<Use> uses = [.. from line in Enumerable.Range(0, placed.Count)
                                 from need in placed[line].Shape.Equipment
                                 where need.PoolId == equipment.Id
                                 let @from = placed[line].At + need.Span.From
                                 let until = placed[line].At + need.Span.Until
                                 orderby @from
                                 select new Use(line, null, new UnitNeed(@from, until, turnaround, need.Units), @from, until)];
            if (uses.Count == 0) continue;
            DaySet[] free = [.. Enumerable.Range(frame.House.PoolUnits[pool], equipment.Quantity).Select(unit => day.Free(unit))];
            foreach (PlannedClaim claim in Choose(frame, day, equipment.Id, free, day.RoomsOpen, uses)) yield return claim;
        }
    }

    /// <summary>Chooses units for uses of one resource; a unit that goes on from one use into the next is held in one go.</summary>
    private static IEnumerable<PlannedClaim> Choose(
        VisitFrame frame,
        DayBook day,
        Guid resourceId,
        DaySet[] free,
        DaySet open,
        List<Use> uses
    )
    {
        uses = [.. uses.OrderBy(use => use.Held.From)];
        UInt128[] serves =
            free.Length == 1
                ? [(UInt128.One << uses.Count) - 1]
                : UnitAssignment.Find(free, open, [.. uses.Select(use => use.Held)])
                    ?? throw new InvalidOperationException("What the search has found free is not.");
        for (int unit = 0; unit < serves.Length; unit++)
        {
            List<Use> own = [.. uses.Where((_, i) => (serves[unit] >> i & 1) == 1)];
            for (int i = 0; i < own.Count; i++)
            {
                Use first = own[i];
                while (
                    i + 1 < own.Count
                    && own[i + 1].Held.Follows >= 0
                    && uses[own[i + 1].Held.Follows] == own[i]
                    && free[unit].Covers(own[i].Held.From, own[i + 1].Held.Until)
                )
                    i++;
                Use last = own[i];
                yield return new PlannedClaim(
                    first.Line,
                    resourceId,
                    unit,
                    day.Day.Between(first.Held.From, last.Held.Until + last.Held.Turnaround),
                    day.Day.Between(first.CoreFrom, last.CoreUntil),
                    first.Role
                );
            }
        }
    }
}
