using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Core.Availability;

/// <summary>Rooms and equipment.</summary>
internal sealed partial class ResourceReasons
{
    internal List<Reason> RoomAndEquipment(int start, bool onlyTogether)
    {
        List<Reason> lines = [],
            all = [];
        foreach (int line in Enumerable.Range(0, frame.Lines))
        {
            List<Lay> lays = LaysOf(line, start);
            // Those who are free set the length; where nobody is, everybody.
            List<Lay> free = onlyTogether
                ? [.. lays.Where(lay => lay.Lead < 0 || Causes(lay.Lead, 0, lay, frame.Services[line]).Count == 0)]
                : lays;
            if (free.Count > 0)
                lays = free;
            (bool isFound, List<Reason> reasons) = RoomOf(line, lays);
            all.AddRange(reasons);
            if (!isFound)
                lines.AddRange(reasons);
            List<Reason> equipment = EquipmentOf(line, lays);
            all.AddRange(equipment);
            lines.AddRange(equipment);
            if (onlyTogether && (!isFound || equipment.Count > 0))
                lines.AddRange(lays.Where(lay => lay.Lead >= 0 && lay.Shape.Grains != frame.UsualShapes[line].Grains).Select(OwnLength));
        }

        return lines.Count > 0 ? lines : all;
    }

    private (bool IsFound, List<Reason> Reasons) RoomOf(int line, List<Lay> lays)
    {
        Service service = frame.Services[line];
        if (service.Room is not { } rule)
            return (true, []);
        if (frame.Rooms[line].Length == 0)
        {
            return (
                false,
                [
                    new Reason(Gate.RoomAndEquipment, ReasonCode.NoSuchRoom, service.Id, service.Name)
                    {
                        Value = string.Join(", ", rule.Features.Order()),
                        OwnerKind = OwnerKind.Service,
                        OwnerId = service.Id,
                    },
                ]
            );
        }

        List<Reason> reasons = [];
        bool isFound = false;
        foreach (Lay lay in lays.DistinctBy(lay => (lay.At, lay.Shape.Grains)))
        {
            int until = lay.At + lay.Shape.Grains;
            if (!day.RoomsOpen.Covers(lay.At, until))
            {
                reasons.Add(Closed());
                continue;
            }

            foreach (int room in frame.Rooms[line])
            {
                List<Reason> causes = RoomCauses(_house.Rooms[room], _house.RoomUnits[room], rule.Units, lay.At, until);
                isFound |= causes.Count == 0;
                reasons.AddRange(causes);
            }
        }

        return (isFound, reasons);
    }

    private List<Reason> RoomCauses(Room room, int first, int units, int from, int until)
    {
        int held = until + Grain.Count(room.TurnaroundMinutes);
        if (FreeUnits(first, room.Capacity, from, held) >= units)
            return [];
        Reason taken = new(Gate.RoomAndEquipment, ReasonCode.RoomTaken, room.Id, room.Name)
        {
            OwnerKind = OwnerKind.Room,
            OwnerId = room.Id,
        };
        if (room.IsRetiredOn(day.Day.Date))
            return [taken with { Code = ReasonCode.RoomRetired }];
        List<Reason> found = [.. Blocks(taken with { Code = ReasonCode.RoomBlocked }, from, held), .. TakenBy(taken, from, held)];
        return found.Count > 0 ? found : [taken];
    }

    private List<Reason> EquipmentOf(int line, List<Lay> lays)
    {
        List<Reason> reasons = [];
        foreach (Lay lay in lays.DistinctBy(lay => (lay.At, lay.Shape)))
        {
            List<Reason> causes = [.. lay.Shape.Equipment.SelectMany(need => EquipmentCauses(line, need, lay.At))];
            // One way that finds its equipment, and that is not what stands in the way.
            if (causes.Count == 0)
                return [];
            reasons.AddRange(causes);
        }

        return reasons;
    }

    private IEnumerable<Reason> EquipmentCauses(int line, EquipmentSpan need, int at)
    {
        int index = _house.PoolOf(need.PoolId);
        if (index < 0)
        {
            Service service = frame.Services[line];
            yield return new Reason(Gate.RoomAndEquipment, ReasonCode.NoSuchEquipment, service.Id, service.Name)
            {
                OwnerKind = OwnerKind.Service,
                OwnerId = service.Id,
            };
            yield break;
        }

        EquipmentPool pool = _house.Pools[index];
        Reason taken = new(Gate.RoomAndEquipment, ReasonCode.EquipmentTaken, pool.Id, pool.Name)
        {
            OwnerKind = OwnerKind.Equipment,
            OwnerId = pool.Id,
        };
        if (pool.IsRetiredOn(day.Day.Date) || pool.Quantity < need.Units)
        {
            yield return taken with
            {
                Code = ReasonCode.EquipmentRetired,
            };
            yield break;
        }

        int from = at + need.Span.From,
            used = at + need.Span.Until,
            until = used + Grain.Count(pool.TurnaroundMinutes);
        if (!day.RoomsOpen.Covers(from, used))
            yield return Closed();
        if (FreeUnits(_house.PoolUnits[index], pool.Quantity, from, until) >= need.Units)
            yield break;
        foreach (Reason reason in Blocks(taken, from, until))
            yield return reason;
        foreach (Reason reason in TakenBy(taken, from, until))
            yield return reason;
    }

    private Reason Closed()
    {
        Closure? closure = day.Closure ?? day.Dated.ClosureOn(_house.Location.Id, day.After.Date);
        return new Reason(Gate.RoomAndEquipment, ReasonCode.LocationClosed, _house.Location.Id, _house.Location.Name)
        {
            OwnerKind = OwnerKind.Location,
            OwnerId = _house.Location.Id,
            Value = closure?.Reason,
        };
    }
}
