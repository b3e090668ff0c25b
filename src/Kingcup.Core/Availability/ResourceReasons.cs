using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>What stands in the way of a visit among people, rooms and equipment (gates 6 and 7).</summary>
internal sealed class ResourceReasons(VisitFrame frame, DayBook day, bool asClient)
{
    private readonly House _house = frame.House;

    internal List<Reason> Practitioner(int start)
    {
        if (frame.IsElsewhere)
        {
            Service elsewhere = frame.Services.First(service => service.Locations.Count > 0 && !service.Locations.Contains(_house.Location.Id));
            return [new Reason(Gate.Practitioner, ReasonCode.ServiceNotHere, elsewhere.Id, elsewhere.Name) { OwnerKind = OwnerKind.Service, OwnerId = elsewhere.Id, Value = _house.Location.Name }];
        }

        List<Reason> found = [];
        int at = start;
        foreach (int line in Lines())
        {
            Service service = frame.Services[line];
            for (int role = 0; role < service.Roles.Count; role++) found.AddRange(Role(line, role, at));
            at += frame.UsualShapes[line].Grains;
        }

        return [.. found.Distinct()];
    }

    private IEnumerable<Reason> Role(int line, int role, int at)
    {
        Service service = frame.Services[line];
        StaffRule rule = service.Roles[role];
        if (role == 0 && frame.Wish.Lines[line].PractitionerId is { } chosen
            && _house.Practitioners.FirstOrDefault(one => one.Id == chosen) is { } asked && !rule.Allows(asked, day.Day.Date))
        {
            IReadOnlyList<Guid> missing = rule.MissingOn(asked, day.Day.Date);
            ReasonCode code = asked.IsRetiredOn(day.Day.Date) ? ReasonCode.PractitionerRetired
                : missing.Count > 0 && !rule.Excluded.Contains(chosen) ? ReasonCode.NotQualified : ReasonCode.NotChosenForService;
            yield return OfPractitioner(code, asked) with { Value = service.Name };
            yield break;
        }

        int[] candidates = frame.CandidatesOn(line, role, day.Day.Date);
        if (candidates.Length == 0)
            yield return new Reason(Gate.Practitioner, ReasonCode.NobodyQualified, service.Id, service.Name) { Value = rule.Name, OwnerKind = OwnerKind.Service, OwnerId = service.Id };

        foreach (int one in candidates)
        {
            LineShape shape = role == 0 ? frame.ShapeOf(line, one) : frame.UsualShapes[line];
            // A practitioner of a role without any attended phase cannot be the cause.
            if (shape.RoleSpans[role].Count == 0) continue;
            (int from, int until) = shape.HeldBy(role);
            if (Cause(one, at + from, at + until) is { } cause) yield return cause;
            else if (asClient && IsOverLimit(one, service, until - from)) yield return OfPractitioner(ReasonCode.DailyLimit, _house.Practitioners[one]);
        }
    }

    private bool IsOverLimit(int practitioner, Service service, int grains)
    {
        DailyLimits most = _house.Practitioners[practitioner].Limits;
        Load load = day.Loads[practitioner];
        return load.Appointments + 1 > most.Appointments
            || load.Minutes + (grains * Grain.Minutes) > most.Minutes
            || (most.PerCategory.TryGetValue(service.CategoryId, out int bound) && load.PerCategory.GetValueOrDefault(service.CategoryId) + 1 > bound);
    }

    private Reason? Cause(int practitioner, int from, int until)
    {
        Practitioner one = _house.Practitioners[practitioner];
        if (day.Free(practitioner).StartsHolding(0, until - from).Contains(from)) return null;
        if (!day.OnShift(practitioner).StartsHolding(0, until - from).Contains(from)) return ShiftReasons.Of(day, one, from, until);
        return Blocked(OfPractitioner(ReasonCode.PractitionerBlocked, one), from, until)
            ?? Taken(OfPractitioner(ReasonCode.PractitionerTaken, one), from, until);
    }

    internal List<Reason> RoomAndEquipment(int start)
    {
        List<Reason> found = [];
        int at = start;
        foreach (int line in Lines())
        {
            Service service = frame.Services[line];
            LineShape shape = frame.UsualShapes[line];
            if (service.Room is not null && frame.Rooms[line].Length == 0)
            {
                found.Add(new Reason(Gate.RoomAndEquipment, ReasonCode.NoSuchRoom, service.Id, service.Name)
                {
                    Value = string.Join(", ", service.Room.Features),
                    OwnerKind = OwnerKind.Service,
                    OwnerId = service.Id,
                });
            }

            List<Reason> rooms = [.. frame.Rooms[line].Select(room => RoomCause(_house.Rooms[room], service.Room!.Units, at, at + shape.Grains)).OfType<Reason>()];
            // One free room among them, and rooms are not what stands in the way.
            if (rooms.Count == frame.Rooms[line].Length) found.AddRange(rooms);
            foreach (EquipmentSpan need in shape.Equipment) found.AddRange(EquipmentCause(need, at));
            at += shape.Grains;
        }

        return [.. found.Distinct()];
    }

    private Reason? RoomCause(Room room, int units, int from, int until)
    {
        int held = until + Grain.Count(room.TurnaroundMinutes);
        if (FreeUnits(room.Id, room.Capacity, from, held) >= units) return null;
        Reason taken = new(Gate.RoomAndEquipment, ReasonCode.RoomTaken, room.Id, room.Name) { OwnerKind = OwnerKind.Room, OwnerId = room.Id };
        if (day.Day.Date >= room.Retired) return taken with { Code = ReasonCode.RoomRetired };
        return Blocked(taken with { Code = ReasonCode.RoomBlocked }, from, held) ?? Taken(taken, from, held) ?? taken;
    }

    private IEnumerable<Reason> EquipmentCause(EquipmentSpan need, int at)
    {
        EquipmentPool? pool = _house.Pools.FirstOrDefault(one => one.Id == need.PoolId);
        if (pool is null)
        {
            Service service = frame.Services.First(one => one.Phases.Any(phase => phase.Equipment.Any(other => other.PoolId == need.PoolId)));
            yield return new Reason(Gate.RoomAndEquipment, ReasonCode.NoSuchEquipment, service.Id, service.Name) { OwnerKind = OwnerKind.Service, OwnerId = service.Id };
            yield break;
        }

        Reason taken = new(Gate.RoomAndEquipment, ReasonCode.EquipmentTaken, pool.Id, pool.Name) { OwnerKind = OwnerKind.Equipment, OwnerId = pool.Id };
        if (day.Day.Date >= pool.Retired || pool.Quantity < need.Units)
        {
            yield return taken with { Code = ReasonCode.EquipmentRetired };
            yield break;
        }

        int from = at + need.Span.From, until = at + need.Span.Until + Grain.Count(pool.TurnaroundMinutes);
        if (FreeUnits(pool.Id, pool.Quantity, from, until) < need.Units && (Blocked(taken, from, until) ?? Taken(taken, from, until)) is { } cause) yield return cause;
    }

    private int FreeUnits(Guid resourceId, int units, int from, int until) =>
        Enumerable.Range(0, units).Count(unit => day.FreeOf(resourceId, unit).StartsHolding(0, until - from).Contains(from));

    private Reason? Blocked(Reason reason, int from, int until)
    {
        Interval wanted = day.Day.Between(from, until);
        BlockedTime? block = day.Blocked.FirstOrDefault(one => one.ResourceId == reason.SubjectId && Overlap(one.During, wanted));
        return block is null
            ? null
            : reason with
            {
                Code = block.Kind == BlockKind.TimeOff ? ReasonCode.PractitionerAway : reason.Code,
                From = block.During.Start,
                Until = block.During.End,
                Value = block.Reason,
            };
    }

    private Reason? Taken(Reason reason, int from, int until)
    {
        Interval wanted = day.Day.Between(from, until);
        TakenTime? claim = day.Taken.Where(one => one.ResourceId == reason.SubjectId && Overlap(one.During, wanted)).MinBy(one => one.During.Start);
        // Nothing at that very time: what is in the way is the travel from another location.
        bool travels = claim is null;
        claim ??= day.Taken.Where(one => one.ResourceId == reason.SubjectId && one.LocationId != _house.Location.Id).MinBy(one => one.During.Start);
        return claim is null ? null : reason with { Code = travels ? ReasonCode.TravelTooShort : reason.Code, From = claim.During.Start, Until = claim.During.End, AppointmentId = claim.AppointmentId };
    }

    private static Reason OfPractitioner(ReasonCode code, Practitioner one) =>
        new(Gate.Practitioner, code, one.Id, one.Name) { OwnerKind = OwnerKind.Practitioner, OwnerId = one.Id };

    private static bool Overlap(Interval a, Interval b) => a.Start < b.End && b.Start < a.End;

    private IEnumerable<int> Lines() => Enumerable.Range(0, frame.Services.Length);
}
