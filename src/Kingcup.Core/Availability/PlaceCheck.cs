using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>A claim that stands in the book.</summary>
/// <param name="ResourceId">The resource.</param>
/// <param name="Unit">Which unit.</param>
/// <param name="During">The whole stretch, buffers and turnaround included.</param>
/// <param name="Core">Without them.</param>
/// <param name="Role">The role of a practitioner, or null.</param>
/// <param name="ServiceId">The service of the line that holds it.</param>
public sealed record StandingClaim(Guid ResourceId, int Unit, Interval During, Interval Core, int? Role, Guid ServiceId)
{
    /// <summary>Whether it was knowingly booked outside a shift, or while the location is closed.</summary>
    public bool OutsideShift { get; init; }

    /// <summary>The blocks it was knowingly booked over.</summary>
    public IReadOnlyCollection<Guid> OverBlocks { get; init; } = [];

    /// <summary>Whether it is a room that was knowingly chosen although it is none that the service asks for.</summary>
    public bool Unsuited { get; init; }
}

/// <summary>
/// Says whether a visit that stands in the book still has its place after the setup was changed: its people on shift, not away
/// and qualified, its rooms and equipment there, fit and not blocked. A visit that has lost it is never moved or removed; it is
/// shown as one that needs a place.
/// </summary>
public static class PlaceCheck
{
    /// <summary>Everything a visit has lost; empty when it still has its place.</summary>
    /// <param name="day">The day as it is laid out now; what is booked on it does not matter.</param>
    /// <param name="claims">What the visit holds.</param>
    public static IReadOnlyList<Reason> Of(DayBook day, IEnumerable<StandingClaim> claims)
    {
        ArgumentNullException.ThrowIfNull(day);
        return [.. claims.Select(claim => Lost(day, claim)).OfType<Reason>().Distinct()];
    }

    private static Reason? Lost(DayBook day, StandingClaim claim)
    {
        House house = day.House;
        if (house.Practitioners.FirstOrDefault(item => item.Id == claim.ResourceId) is { } practitioner)
            return Lost(day, claim, practitioner);
        Room? room = house.Rooms.FirstOrDefault(item => item.Id == claim.ResourceId);
        EquipmentPool? pool = house.Pools.FirstOrDefault(equipment => equipment.Id == claim.ResourceId);
        string name = room?.Name ?? pool?.Name ?? "";
        OwnerKind kind = room is null ? OwnerKind.Equipment : OwnerKind.Room;
        Reason reason = new(Gate.RoomAndEquipment, ReasonCode.RoomTaken, claim.ResourceId, name)
        {
            OwnerKind = kind,
            OwnerId = claim.ResourceId,
        };
        bool gone =
            claim.Unit >= (room?.Capacity ?? pool?.Quantity ?? 0)
            || (room?.IsRetiredOn(day.Day.Date) ?? pool?.IsRetiredOn(day.Day.Date) ?? true);
        if (gone)
            return reason with { Code = room is null ? ReasonCode.EquipmentRetired : ReasonCode.RoomRetired };
        RoomRule? rule = claim.Unsuited ? null : house.Services.GetValueOrDefault(claim.ServiceId)?.Room;
        if (room is not null && rule?.Accepts(room) == false)
            return reason with { Code = ReasonCode.NoSuchRoom, Value = string.Join(", ", rule.Features.Except(room.Features).Order()) };
        if (day.Closure is { } closure && !day.RoomsAreOpen && !claim.OutsideShift)
            return new Reason(Gate.OpeningHours, ReasonCode.LocationClosed, house.Location.Id, house.Location.Name)
            {
                OwnerKind = OwnerKind.Location,
                OwnerId = house.Location.Id,
                Value = closure.Reason,
            };
        return Blocked(day, claim, reason with { Code = room is null ? ReasonCode.EquipmentTaken : ReasonCode.RoomBlocked });
    }

    private static Reason? Lost(DayBook day, StandingClaim claim, Practitioner practitioner)
    {
        Reason reason = new(Gate.Practitioner, ReasonCode.OffShift, practitioner.Id, practitioner.Name)
        {
            OwnerKind = OwnerKind.Practitioner,
            OwnerId = practitioner.Id,
        };
        if (practitioner.IsRetiredOn(day.Day.Date))
            return reason with { Code = ReasonCode.PractitionerRetired };
        Service? service = day.House.Services.GetValueOrDefault(claim.ServiceId);
        StaffRule? rule = service is not null && claim.Role < service.Roles.Count ? service.Roles[claim.Role.Value] : null;
        if (rule?.Allows(practitioner, day.Day.Date) == false)
            return reason with
            {
                Code = rule.MissingOn(practitioner, day.Day.Date).Count > 0 ? ReasonCode.NotQualified : ReasonCode.NotChosenForService,
                Value = service!.Name,
            };
        int from = day.Day.Floor(claim.During.Start),
            until = day.Day.Ceiling(claim.During.End);
        bool onShift = service is null
            ? day.OnShift(practitioner.Id).Covers(from, until)
            : day.OnShift(day.House.PlaceOf(practitioner.Id), service).Covers(from, until);
        if (!claim.OutsideShift && !onShift)
        {
            return day.Closure is { } closure && (day.OnShift(practitioner.Id) & day.Day.Whole).IsEmpty
                ? new Reason(Gate.OpeningHours, ReasonCode.LocationClosed, day.House.Location.Id, day.House.Location.Name)
                {
                    OwnerKind = OwnerKind.Location,
                    OwnerId = day.House.Location.Id,
                    Value = closure.Reason,
                }
                : reason with
                {
                    Value = day.Dated.ChangeOn(practitioner.Id, day.Day.Date)?.Reason,
                };
        }

        if (claim.Unit >= practitioner.Attention)
            return reason with { Code = ReasonCode.PractitionerTaken };
        return Blocked(day, claim, reason with { Code = ReasonCode.PractitionerBlocked });
    }

    private static Reason? Blocked(DayBook day, StandingClaim claim, Reason reason)
    {
        BlockedTime? block = day.Blocked.FirstOrDefault(time =>
            time.ResourceId == claim.ResourceId
            && !(time.BlockId is { } id && claim.OverBlocks.Contains(id))
            && time.During.Start < claim.During.End
            && claim.During.Start < time.During.End
        );
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
}
