using Kingcup.Core.Calendar;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>A visit that fits only if somebody knowingly books over something.</summary>
/// <param name="Plan">The visit; its claims are marked by what they go over.</param>
/// <param name="Asks">What has to be allowed for it.</param>
/// <param name="Warnings">What somebody has to be told before; empty when it fits after all.</param>
public sealed record KnowingPlan(VisitPlan Plan, Waivers Asks, IReadOnlyList<Reason> Warnings);

/// <summary>Marks the claims of a plan by what they go over, and says so.</summary>
internal sealed class Overruns(DayBook day)
{
    private readonly House _house = day.House;

    internal KnowingPlan Of(VisitPlan plan)
    {
        List<Reason> warnings = [];
        Waivers asks = Waivers.None;
        List<PlannedClaim> claims = [];
        foreach (PlannedClaim claim in plan.Claims)
        {
            bool outside = OutsideShift(claim, plan.Lines[claim.Line].ServiceId, warnings),
                blocked = OverBlocks(claim, warnings, out Guid[] blocks),
                overbooked = Overbooks(claim, warnings, out bool tooFar),
                unsuited = IsUnsuited(claim, plan, warnings);
            asks |=
                (unsuited ? Waivers.UnsuitedRoom : 0)
                | (outside ? Waivers.OutsideShift : 0)
                | (blocked ? Waivers.OverBlocked : 0) | (overbooked || tooFar ? Waivers.Overbook : 0);
            claims.Add(claim with { OutsideShift = outside, OverBlocks = blocks, Overbooked = overbooked });
        }

        return new KnowingPlan(plan with { Claims = claims }, asks, [.. warnings.Distinct()]);
    }

    private bool OutsideShift(PlannedClaim claim, Guid serviceId, List<Reason> warnings)
    {
        int from = day.Day.Floor(claim.During.Start), until = day.Day.Ceiling(claim.During.End);
        if (_house.Practitioners.FirstOrDefault(item => item.Id == claim.ResourceId) is not { } practitioner)
        {
            if (day.RoomsOpen.Covers(day.Day.Floor(claim.Core.Start), day.Day.Ceiling(claim.Core.End))) return false;
            warnings.Add(Closed());
            return true;
        }

        int who = _house.PlaceOf(practitioner.Id);
        List<Reason> off = [.. ShiftReasons.Of(day, who, _house.Services[serviceId], from, until)];
        if (off.Count == 0) return false;
        warnings.AddRange(day.Closure is not null && (day.OnShift(practitioner.Id) & day.Day.Whole).IsEmpty ? [Closed()] : off);
        return true;
    }

    private bool IsUnsuited(PlannedClaim claim, VisitPlan plan, List<Reason> warnings)
    {
        if (!claim.Unsuited) return false;
        IReadOnlySet<string> has = _house.Rooms.First(room => room.Id == claim.ResourceId).Features;
        IEnumerable<string> missing = plan
            .Lines.Where(line => line.RoomId == claim.ResourceId)
            .SelectMany(line => _house.Services[line.ServiceId].Room!.Features)
            .Where(feature => !has.Contains(feature))
            .Distinct()
            .Order();
        warnings.Add(ReasonOf(claim, ReasonCode.RoomUnsuited) with { Value = string.Join(", ", missing) });
        return true;
    }

    private bool OverBlocks(PlannedClaim claim, List<Reason> warnings, out Guid[] blocks)
    {
        List<BlockedTime> over =
        [
            .. day.Blocked.Where(block => block.ResourceId == claim.ResourceId && Overlap(block.During, claim.During)),
        ];
        blocks = [.. over.Select(block => block.BlockId).OfType<Guid>().Distinct()];
        warnings.AddRange(over.Select(block => ReasonOf(claim, Codes(claim).Blocked) with
        {
            Code = block.Kind == BlockKind.TimeOff ? ReasonCode.PractitionerAway : Codes(claim).Blocked,
            From = block.During.Start,
            Until = block.During.End,
            Value = block.Reason,
        }));
        return over.Count > 0;
    }

    private bool Overbooks(PlannedClaim claim, List<Reason> warnings, out bool tooFar)
    {
        List<TakenTime> own = [.. day.Taken.Where(other => other.ResourceId == claim.ResourceId && other.Unit == claim.Unit)];
        List<TakenTime> over = [.. own.Where(other => Overlap(other.During, claim.During))];
        List<TakenTime> far = [.. own.Except(over).Where(other => Overlap(WithTravel(other), claim.During))];
        warnings.AddRange(over.Select(other => Met(claim, other, Codes(claim).Taken)));
        warnings.AddRange(far.Select(other => Met(claim, other, ReasonCode.TravelTooShort)));
        tooFar = far.Count > 0;
        return over.Count > 0;
    }

    private Interval WithTravel(TakenTime other)
    {
        Duration travel = Duration.FromMinutes(_house.TravelMinutes(other.LocationId, _house.Location.Id));
        return new Interval(other.During.Start - travel, other.During.End + travel);
    }

    private Reason Met(PlannedClaim claim, TakenTime other, ReasonCode code) =>
        ReasonOf(claim, code) with { From = other.During.Start, Until = other.During.End, AppointmentId = other.OccupationId };

    private Reason Closed() =>
        new(Gate.OpeningHours, ReasonCode.LocationClosed, _house.Location.Id, _house.Location.Name)
        {
            OwnerKind = OwnerKind.Location,
            OwnerId = _house.Location.Id,
            Value = day.Closure?.Reason,
        };

    private (ReasonCode Blocked, ReasonCode Taken) Codes(PlannedClaim claim) =>
        claim.Role is not null ? (ReasonCode.PractitionerBlocked, ReasonCode.PractitionerTaken)
        : IsRoom(claim) ? (ReasonCode.RoomBlocked, ReasonCode.RoomTaken)
        : (ReasonCode.EquipmentTaken, ReasonCode.EquipmentTaken);

    private bool IsRoom(PlannedClaim claim) => _house.Rooms.Any(room => room.Id == claim.ResourceId);

    private Reason ReasonOf(PlannedClaim claim, ReasonCode code)
    {
        string name = _house.Practitioners.FirstOrDefault(practitioner => practitioner.Id == claim.ResourceId)?.Name
            ?? _house.Rooms.FirstOrDefault(room => room.Id == claim.ResourceId)?.Name
            ?? _house.Pools.First(pool => pool.Id == claim.ResourceId).Name;
        return new Reason(claim.Role is null ? Gate.RoomAndEquipment : Gate.Practitioner, code, claim.ResourceId, name)
        {
            OwnerKind = claim.Role is not null ? OwnerKind.Practitioner : IsRoom(claim) ? OwnerKind.Room : OwnerKind.Equipment,
            OwnerId = claim.ResourceId,
        };
    }

    private static bool Overlap(Interval a, Interval b) => a.Start < b.End && b.Start < a.End;
}
