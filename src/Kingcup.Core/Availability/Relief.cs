using Kingcup.Core.Team;

namespace Kingcup.Core.Availability;

/// <summary>
/// A day as it would be if what some reasons name were not in the way: the visit elsewhere, the block lifted, the shift long enough, the
/// setting changed. It says whether what was named is all there is.
/// </summary>
internal sealed class Relief(DayBook day)
{
    // Settings are few and starts are many: a house without some of them is made once.
    private readonly Dictionary<string, House> _houses = [];

    /// <summary>The day without it; null where nobody may do it at all, and so nobody's time could be named.</summary>
    internal DayBook? Of(IReadOnlyCollection<Reason> reasons)
    {
        if (reasons.Any(reason => reason.Code is ReasonCode.NobodyQualified or ReasonCode.NoSuchEquipment)) return null;
        return day.Relieved(
            HouseWithout([.. reasons.Where(reason => Settles(reason.Code))]),
            claim => !reasons.Any(reason => reason.SubjectId == claim.ResourceId
                && reason.From == claim.During.Start && reason.Until == claim.During.End),
            block => !reasons.Any(reason => reason.SubjectId == block.ResourceId
                && reason.From == block.During.Start && reason.Until == block.During.End),
            reasons
                .Where(reason => reason.Code is ReasonCode.OffShift or ReasonCode.OnBreak or ReasonCode.ShiftKept
                    or ReasonCode.PractitionerElsewhere)
                .Select(reason => reason.SubjectId!.Value)
                .ToHashSet(),
            reasons.Any(reason => reason.Code == ReasonCode.LocationClosed)
        );
    }

    /// <summary>Whether a reason speaks of a setting rather than of time.</summary>
    private static bool Settles(ReasonCode code) => code is ReasonCode.OwnLength or ReasonCode.DailyLimit or ReasonCode.PractitionerRetired
        or ReasonCode.NotQualified or ReasonCode.QualificationEnded or ReasonCode.NotChosenForService or ReasonCode.RoomRetired
        or ReasonCode.EquipmentRetired or ReasonCode.NoSuchRoom or ReasonCode.ServiceNotHere;

    private House HouseWithout(IReadOnlyCollection<Reason> settings)
    {
        if (settings.Count == 0) return day.House;
        string key = string.Join(' ', settings.Select(reason => $"{reason.Code}{reason.SubjectId}").Distinct().Order());
        if (_houses.TryGetValue(key, out House? known)) return known;
        bool Names(ReasonCode code, Guid id) => settings.Any(reason => reason.Code == code && reason.SubjectId == id);
        bool MayNot(Guid id) => Names(ReasonCode.NotQualified, id) || Names(ReasonCode.QualificationEnded, id)
            || Names(ReasonCode.NotChosenForService, id);
        House house = day.House;
        return _houses[key] = house.With(
            house.Practitioners.Select(person => person with
            {
                Retired = Names(ReasonCode.PractitionerRetired, person.Id) ? null : person.Retired,
                Limits = Names(ReasonCode.DailyLimit, person.Id) ? new DailyLimits() : person.Limits,
            }),
            house.Rooms.Select(room => Names(ReasonCode.RoomRetired, room.Id) ? room with { Retired = null } : room),
            house.Pools.Select(pool => Names(ReasonCode.EquipmentRetired, pool.Id)
                ? pool with { Retired = null, Quantity = Math.Max(pool.Quantity, MostWanted) }
                : pool),
            house.Services.Values.Select(service => service with
            {
                Room = Names(ReasonCode.NoSuchRoom, service.Id) ? null : service.Room,
                Locations = Names(ReasonCode.ServiceNotHere, service.Id) ? new HashSet<Guid>() : service.Locations,
                Terms = service.Terms.ToDictionary(
                    pair => pair.Key,
                    pair => Names(ReasonCode.OwnLength, pair.Key) ? pair.Value with { Minutes = null } : pair.Value
                ),
                Roles = [.. service.Roles.Select(rule => rule with
                {
                    Added = rule.Added.Union(house.Practitioners.Select(person => person.Id).Where(MayNot)).ToHashSet(),
                    Excluded = rule.Excluded.Where(id => !MayNot(id)).ToHashSet(),
                })],
            })
        );
    }

    /// <summary>More of a pool than any visit asks for.</summary>
    private const int MostWanted = 200;
}
