using System.Globalization;
using Kingcup.Core.Resources;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>Finds the cause behind a gate that has refused a start. It never decides: the search has.</summary>
internal sealed class ReasonFinder(VisitFrame frame, DayBook day, GateRules rules)
{
    private readonly House _house = frame.House;

    /// <summary>The reasons of a gate; at least one.</summary>
    /// <param name="gate">The gate.</param>
    /// <param name="start">The start it refuses.</param>
    /// <param name="onlyTogether">Whether it would let the start pass on its own.</param>
    internal IReadOnlyList<Reason> Of(Gate gate, int start, bool onlyTogether)
    {
        List<Reason> found = gate switch
        {
            Gate.Client => Client(),
            Gate.Service => Service(start),
            Gate.Date => Date(),
            Gate.OpeningHours => Opening(),
            Gate.StartGrid => [Grid()],
            Gate.Practitioner => Practitioner(start),
            _ => RoomAndEquipment(start),
        };
        return found.Count > 0 && !(onlyTogether && gate is Gate.OpeningHours or Gate.StartGrid)
            ? found
            : [new Reason(gate, ReasonCode.NoCombination)];
    }

    private List<Reason> Client()
    {
        if (!_house.Location.BookableOnline)
            return [new Reason(Gate.Client, ReasonCode.LocationNotOnline, _house.Location.Id, _house.Location.Name)];
        return [.. from line in Lines()
                   from one in frame.CandidatesOn(line, 0, day.Day.Date)
                   let code = rules.RefusesLead(line, one)
                   where code is not null
                   select new Reason(Gate.Client, code.Value, _house.Practitioners[one].Id, _house.Practitioners[one].Name)];
    }

    private List<Reason> Service(int start)
    {
        List<Reason> found = [];
        foreach (Service service in frame.Services)
        {
            if (!rules.IsVisible(service)) found.Add(new Reason(Gate.Service, ReasonCode.ServiceNotOnline, service.Id, service.Name));
            if (service.Prerequisite is not { } before || rules.Satisfying(before).Contains(start)) continue;
            found.Add(new Reason(Gate.Service, ReasonCode.PrerequisiteMissing, service.Id, service.Name)
            {
                Value = _house.Services.GetValueOrDefault(before.ServiceId)?.Name,
            });
        }

        return found;
    }

    private List<Reason> Date()
    {
        if (rules.IsTooFar) return [OfFirst(Gate.Date, ReasonCode.TooFarAhead, Number(rules.HorizonDays))];
        List<Reason> weekday = [.. frame.Services.Where(rules.NotToday)
            .Select(service => new Reason(Gate.Date, ReasonCode.NotThatWeekday, service.Id, service.Name))];
        return weekday.Count > 0 ? weekday : [OfFirst(Gate.Date, ReasonCode.TooSoon, Number(rules.LeadMinutes))];
    }

    private List<Reason> Opening()
    {
        if (day.Closure is { } closure)
            return [new Reason(Gate.OpeningHours, ReasonCode.LocationClosed, _house.Location.Id, _house.Location.Name) { Value = closure.Reason }];
        (int from, int until) = day.Opening.Runs().FirstOrDefault();
        Reason reason = new(Gate.OpeningHours, ReasonCode.OutsideOpeningHours, _house.Location.Id, _house.Location.Name);
        return [until > from ? reason with { From = day.Day.At(from), Until = day.Day.At(day.Opening.Runs().Last().Until) } : reason];
    }

    private Reason Grid() =>
        OfFirst(Gate.StartGrid, ReasonCode.OffGrid, rules.Grid == StartGrid.EveryMinutes ? Number(rules.GridMinutes) : rules.Grid.ToString());

    private List<Reason> Practitioner(int start)
    {
        if (frame.IsElsewhere) return [OfFirst(Gate.Practitioner, ReasonCode.ServiceNotHere, _house.Location.Name)];
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
        StaffRule rule = frame.Services[line].Roles[role];
        if (role == 0 && frame.Wish.Lines[line].PractitionerId is { } chosen
            && _house.Practitioners.FirstOrDefault(one => one.Id == chosen) is { } asked && !rule.Allows(asked, day.Day.Date))
        {
            IReadOnlyList<Guid> missing = rule.MissingOn(asked, day.Day.Date);
            ReasonCode code = missing.Count > 0 && !rule.Excluded.Contains(chosen) ? ReasonCode.NotQualified : ReasonCode.NotChosenForService;
            yield return new Reason(Gate.Practitioner, code, asked.Id, asked.Name) { Value = frame.Services[line].Name };
            yield break;
        }

        int[] candidates = frame.CandidatesOn(line, role, day.Day.Date);
        if (candidates.Length == 0)
        {
            yield return new Reason(Gate.Practitioner, ReasonCode.NobodyQualified, frame.Services[line].Id, frame.Services[line].Name) { Value = rule.Name };
        }

        foreach (int one in candidates)
        {
            LineShape shape = role == 0 ? frame.ShapeOf(line, one) : frame.UsualShapes[line];
            // A practitioner of a role without any attended phase cannot be the cause.
            foreach (GrainSpan span in shape.RoleSpans[role].Take(1))
            {
                int from = at + span.From - (span.From == shape.FirstAttendedFrom ? shape.BufferBefore : 0);
                int until = at + shape.RoleSpans[role][^1].Until + shape.BufferAfter;
                if (Cause(one, from, until) is { } cause) yield return cause;
            }
        }
    }

    private Reason? Cause(int practitioner, int from, int until)
    {
        Practitioner one = _house.Practitioners[practitioner];
        if (day.Free(practitioner).StartsHolding(0, until - from).Contains(from)) return null;
        DaySet shift = day.OnShift(practitioner);
        if (!shift.StartsHolding(0, until - from).Contains(from))
        {
            Reason off = new(Gate.Practitioner, ReasonCode.OffShift, one.Id, one.Name);
            DaySet today = shift & day.Day.Whole;
            return today.IsEmpty
                ? off
                : off with { From = day.Day.At(today.Runs().First().From), Until = day.Day.At(today.Runs().Last().Until) };
        }

        return Blocked(Gate.Practitioner, ReasonCode.PractitionerBlocked, one.Id, one.Name, from, until)
            ?? Taken(Gate.Practitioner, ReasonCode.PractitionerTaken, one.Id, one.Name, from, until);
    }

    private List<Reason> RoomAndEquipment(int start)
    {
        List<Reason> found = [];
        int at = start;
        foreach (int line in Lines())
        {
            Service service = frame.Services[line];
            LineShape shape = frame.UsualShapes[line];
            if (service.Room is not null && frame.Rooms[line].Length == 0)
                found.Add(new Reason(Gate.RoomAndEquipment, ReasonCode.NoSuchRoom, service.Id, service.Name) { Value = string.Join(", ", service.Room.Features) });
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
        return Blocked(Gate.RoomAndEquipment, ReasonCode.RoomBlocked, room.Id, room.Name, from, held)
            ?? Taken(Gate.RoomAndEquipment, ReasonCode.RoomTaken, room.Id, room.Name, from, held)
            ?? new Reason(Gate.RoomAndEquipment, ReasonCode.RoomTaken, room.Id, room.Name);
    }

    private IEnumerable<Reason> EquipmentCause(EquipmentSpan need, int at)
    {
        EquipmentPool? pool = _house.Pools.FirstOrDefault(one => one.Id == need.PoolId);
        if (pool is null)
        {
            yield return new Reason(Gate.RoomAndEquipment, ReasonCode.NoSuchEquipment, need.PoolId);
            yield break;
        }

        int from = at + need.Span.From, until = at + need.Span.Until + Grain.Count(pool.TurnaroundMinutes);
        if (FreeUnits(pool.Id, pool.Quantity, from, until) < need.Units && (Blocked(Gate.RoomAndEquipment, ReasonCode.EquipmentTaken, pool.Id, pool.Name, from, until)
            ?? Taken(Gate.RoomAndEquipment, ReasonCode.EquipmentTaken, pool.Id, pool.Name, from, until)) is { } cause) yield return cause;
    }

    private int FreeUnits(Guid resourceId, int units, int from, int until) =>
        Enumerable.Range(0, units).Count(unit => day.FreeOf(resourceId, unit).StartsHolding(0, until - from).Contains(from));

    private Reason? Blocked(Gate gate, ReasonCode code, Guid id, string name, int from, int until)
    {
        Interval wanted = day.Day.Between(from, until);
        BlockedTime? block = day.Blocked.FirstOrDefault(one => one.ResourceId == id && Overlap(one.During, wanted));
        return block is null ? null : new Reason(gate, code, id, name) { From = block.During.Start, Until = block.During.End, Value = block.Reason };
    }

    private Reason? Taken(Gate gate, ReasonCode code, Guid id, string name, int from, int until)
    {
        Interval wanted = day.Day.Between(from, until);
        TakenTime? claim = day.Taken.Where(one => one.ResourceId == id && Overlap(one.During, wanted)).MinBy(one => one.During.Start)
            // Nothing at that very time: what is in the way is the travel from another location.
            ?? day.Taken.Where(one => one.ResourceId == id && one.LocationId != _house.Location.Id).MinBy(one => one.During.Start);
        return claim is null
            ? null
            : new Reason(gate, code, id, name) { From = claim.During.Start, Until = claim.During.End, AppointmentId = claim.AppointmentId };
    }

    private static bool Overlap(Interval a, Interval b) => a.Start < b.End && b.Start < a.End;

    private IEnumerable<int> Lines() => Enumerable.Range(0, frame.Services.Length);

    private Reason OfFirst(Gate gate, ReasonCode code, string? value) =>
        new(gate, code, frame.Services[0].Id, frame.Services[0].Name) { Value = value };

    private static string Number(int value) => value.ToString(CultureInfo.InvariantCulture);
}
