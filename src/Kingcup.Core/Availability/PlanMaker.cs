using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>A line as the search left it: offsets in grains from the start of the visit, people and rooms by place in the house order.</summary>
internal sealed record PlacedLine(
    LineShape Shape,
    int At,
    int[] Practitioners,
    int Room,
    int[] RoomUnits,
    bool RoomKept,
    IReadOnlyList<(EquipmentSpan Span, int Pool, int[] Units)> Equipment)
{
    internal int Until => At + Shape.Grains;

    internal bool HasFirst(int practitioner) => Shape.FirstAttended.Any(role => Practitioners[role] == practitioner);

    internal bool HasLast(int practitioner) => Shape.LastAttended.Any(role => Practitioners[role] == practitioner);
}

/// <summary>Writes a found assignment down as claims.</summary>
internal static class PlanMaker
{
    internal static VisitPlan Make(House house, DayBook day, VisitFrame frame, int start, IReadOnlyList<PlacedLine> placed)
    {
        List<PlannedClaim> claims = [];
        List<PlannedLine> lines = [];
        for (int i = 0; i < placed.Count; i++)
        {
            PlacedLine line = placed[i];
            claims.AddRange(PractitionerClaims(house, day, frame, start, placed, i));
            if (line.Room >= 0 && !line.RoomKept) claims.AddRange(RoomClaims(house, day, start, placed, i));
            foreach ((EquipmentSpan need, int pool, int[] units) in line.Equipment)
            {
                int turnaround = Grain.Count(house.Pools[pool].TurnaroundMinutes);
                int from = start + line.At + need.Span.From, until = start + line.At + need.Span.Until;
                claims.AddRange(units.Select(unit => new PlannedClaim(
                    i, need.PoolId, unit, day.Day.Between(from, until + turnaround), day.Day.Between(from, until), null)));
            }

            lines.Add(new PlannedLine(
                frame.Services[i].Id,
                day.Day.At(start + line.At),
                day.Day.At(start + line.Until),
                [.. line.Practitioners.Select(one => house.Practitioners[one].Id)],
                line.Room >= 0 ? house.Rooms[line.Room].Id : null));
        }

        return new VisitPlan(lines[0].Start, lines[^1].End, lines, claims);
    }

    private static IEnumerable<PlannedClaim> PractitionerClaims(
        House house, DayBook day, VisitFrame frame, int start, IReadOnlyList<PlacedLine> placed, int i)
    {
        PlacedLine line = placed[i];
        PlacedLine? before = i == 0 ? null : placed[i - 1];
        PlacedLine? next = i + 1 < placed.Count ? placed[i + 1] : null;
        bool always = frame.Services[i].BufferAlways;
        for (int role = 0; role < line.Practitioners.Length; role++)
        {
            int one = line.Practitioners[role];
            bool bufferBefore = line.Shape.FirstAttended.Contains(role) && (always || before?.HasLast(one) != true);
            bool bufferAfter = line.Shape.LastAttended.Contains(role) && (always || next?.HasFirst(one) != true);
            foreach (GrainSpan span in line.Shape.RoleSpans[role])
            {
                int from = start + line.At + span.From, until = start + line.At + span.Until;
                int early = bufferBefore && span.From == line.Shape.FirstAttendedFrom ? line.Shape.BufferBefore : 0;
                int late = bufferAfter && span.Until == line.Shape.LastAttendedUntil ? line.Shape.BufferAfter : 0;
                yield return new PlannedClaim(
                    i, house.Practitioners[one].Id, 0, day.Day.Between(from - early, until + late), day.Day.Between(from, until), role);
            }
        }
    }

    private static IEnumerable<PlannedClaim> RoomClaims(House house, DayBook day, int start, IReadOnlyList<PlacedLine> placed, int i)
    {
        PlacedLine line = placed[i];
        int last = i;
        while (last + 1 < placed.Count && placed[last + 1].RoomKept) last++;
        int from = start + line.At, until = start + placed[last].Until;
        int turnaround = Grain.Count(house.Rooms[line.Room].TurnaroundMinutes);
        return line.RoomUnits.Select(unit => new PlannedClaim(
            i, house.Rooms[line.Room].Id, unit, day.Day.Between(from, until + turnaround), day.Day.Between(from, until), null));
    }
}
