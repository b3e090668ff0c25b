using Kingcup.Core.Business;
using Kingcup.Core.Rooms;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Core.Services;

/// <summary>Something in a description that cannot be taken as it is.</summary>
/// <param name="Field">Path of the field, such as "phases[1].minutes".</param>
/// <param name="Message">What to do about it.</param>
public sealed record Fault(string Field, Sentence Message);

/// <summary>Finds what is wrong with a service before it is kept.</summary>
public static class ServiceCheck
{
    /// <summary>Most minutes of a phase, a buffer or a whole service: one day.</summary>
    public const int MostMinutes = 1440;

    /// <summary>Most phases of a service.</summary>
    public const int MostPhases = 12;

    /// <summary>Most roles of a service.</summary>
    public const int MostRoles = 4;

    /// <summary>All faults of a service among its like.</summary>
    /// <param name="service">The service.</param>
    /// <param name="others">Every service there is; the one of the same identity is passed over.</param>
    /// <param name="practitioners">Everyone who may work here.</param>
    /// <param name="pools">All equipment.</param>
    /// <param name="features">Features the owner has named.</param>
    public static IEnumerable<Fault> Of(
        Service service,
        IReadOnlyCollection<Service> others,
        IReadOnlyCollection<Practitioner> practitioners,
        IReadOnlyCollection<EquipmentPool> pools,
        IReadOnlyCollection<string> features
    )
    {
        ArgumentNullException.ThrowIfNull(service);
        return
        [
            .. Phases(service, pools),
            .. Roles(service),
            .. service.Phases.Count == 0 ? [] : Terms(service, practitioners),
            .. Rooms(service, features),
            .. Prerequisites(service, others),
            .. OnlineCheck.Of(service.Online, "online."),
        ];
    }

    private static IEnumerable<Fault> Phases(Service service, IReadOnlyCollection<EquipmentPool> pools)
    {
        if (service.Phases.Count is 0 or > MostPhases) yield return new Fault("phases", $"A service has 1 to {MostPhases} phases.");
        foreach ((int i, Phase phase) in service.Phases.Index())
        {
            if (!IsLength(phase.Minutes))
                yield return new Fault(
                    $"phases[{i}].minutes",
                    $"A phase lasts {Grain.Minutes} minutes or a multiple of it, a day at the most."
                );
            if (phase.AttendedBy.Any(role => role < 0 || role >= service.Roles.Count))
                yield return new Fault($"phases[{i}].attendedBy", "Choose among the roles of this service.");
            foreach ((int j, EquipmentNeed need) in phase.Equipment.Index())
            {
                EquipmentPool? pool = pools.FirstOrDefault(equipment => equipment.Id == need.PoolId);
                if (pool is null)
                    yield return new Fault($"phases[{i}].equipment[{j}].poolId", "There is no such equipment.");
                else if (need.Units < 1 || need.Units > pool.Quantity)
                    yield return new Fault(
                        $"phases[{i}].equipment[{j}].units",
                        $"There are {pool.Quantity} of {pool.Name}; take 1 to {pool.Quantity}."
                    );
            }
        }

        if (service.Minutes > MostMinutes) yield return new Fault("phases", "All phases together last a day at the most.");
        if (!IsBuffer(service.BufferBeforeMinutes)) yield return new Fault("bufferBeforeMinutes", BufferWords);
        if (!IsBuffer(service.BufferAfterMinutes)) yield return new Fault("bufferAfterMinutes", BufferWords);
    }

    private static IEnumerable<Fault> Roles(Service service)
    {
        if (service.Roles.Count is 0 or > MostRoles) yield return new Fault("roles", $"A service has 1 to {MostRoles} roles.");
        foreach ((int i, StaffRule role) in service.Roles.Index())
        {
            if (string.IsNullOrWhiteSpace(role.Name))
                yield return new Fault($"roles[{i}].name", "Give the role a name.");
            if (role.Name.Length > 200 || role.Name.Any(char.IsControl))
                yield return new Fault($"roles[{i}].name", "200 characters at the most, on one line.");
            if (role.Qualifications.Count == 0 && role.Added.Except(role.Excluded).Any() is false)
                yield return new Fault(
                    $"roles[{i}].qualifications",
                    "Nobody could ever take this role. Name a qualification, or add somebody by hand."
                );
        }
    }

    private static IEnumerable<Fault> Terms(Service service, IReadOnlyCollection<Practitioner> practitioners)
    {
        foreach ((int i, (Guid who, PractitionerTerms terms)) in service.Terms.Index())
        {
            Practitioner? practitioner = practitioners.FirstOrDefault(other => other.Id == who);
            if (practitioner is null)
                yield return new Fault($"terms[{i}].practitionerId", "There is no such practitioner.");
            if (terms.Price < 0)
                yield return new Fault($"terms[{i}].price", "A price is 0 or more.");
            if (terms.Minutes is not { } minutes)
                continue;
            if (!IsLength(minutes))
                yield return new Fault($"terms[{i}].minutes", $"A length is a multiple of {Grain.Minutes} minutes, a day at the most.");
            else if (minutes < LeastMinutes(service))
                yield return new Fault(
                    $"terms[{i}].minutes",
                    $"{practitioner?.Name ?? "Nobody"} cannot do it in {minutes} minutes: the phases that stay as they are take longer."
                );
        }
    }

    private static IEnumerable<Fault> Rooms(Service service, IReadOnlyCollection<string> features)
    {
        if (service.Room is not { } room) yield break;
        foreach (string feature in room.Features.Except(features))
            yield return new Fault("room.features", $"No room has '{feature}'. Add it to a room first, or choose another feature.");
        if (room.Units is < 1 or > 200) yield return new Fault("room.units", "Hold 1 unit of the room or more.");
        if (service.Seats is < 1 or > 500) yield return new Fault("seats", "A session has 1 to 500 seats.");
    }

    private static IEnumerable<Fault> Prerequisites(Service service, IReadOnlyCollection<Service> others)
    {
        if (service.Price < 0) yield return new Fault("price", "A price is 0 or more.");
        if (service.Prerequisite is not { } before) yield break;
        if (before.AtLeastHours < 0) yield return new Fault("prerequisite.atLeastHours", "Hours before the start are 0 or more.");
        if (before.AtMostDays < 1 || before.AtMostDays * 24 < before.AtLeastHours)
            yield return new Fault("prerequisite.atMostDays", "The window ends before it begins. Allow more days, or fewer hours.");
        Dictionary<Guid, Service> byId = others.Where(other => other.Id != service.Id).ToDictionary(other => other.Id);
        if (before.ServiceId != service.Id && !byId.ContainsKey(before.ServiceId))
            yield return new Fault("prerequisite.serviceId", "There is no such service.");
        HashSet<Guid> seen = [service.Id];
        for (Guid? next = before.ServiceId; next is { } id; next = byId.GetValueOrDefault(id)?.Prerequisite?.ServiceId)
        {
            if (seen.Add(id)) continue;
            yield return new Fault("prerequisite.serviceId", id == service.Id
                ? "A service cannot have to come before itself, by way of others either. Choose another one."
                : "Those services wait for each other. Choose another one.");
            yield break;
        }
    }

    /// <summary>The least minutes a line can last: all phases but the longest attended one, and a grain of that.</summary>
    private static int LeastMinutes(Service service)
    {
        List<Phase> attended = [.. service.Phases.Where(phase => phase.AttendedBy.Count > 0)];
        int longest = (attended.Count > 0 ? attended : service.Phases).Max(phase => phase.Minutes);
        return service.Minutes - longest + Grain.Minutes;
    }

    private static Sentence BufferWords => Say($"A buffer is a multiple of {Grain.Minutes} minutes, 4 hours at the most.");

    private static bool IsLength(int minutes) => minutes is > 0 and <= MostMinutes && Grain.IsWhole(minutes);

    private static bool IsBuffer(int minutes) => minutes is >= 0 and <= 240 && Grain.IsWhole(minutes);
}

/// <summary>Finds what is wrong with rules of online booking.</summary>
public static class OnlineCheck
{
    /// <summary>All faults, their fields under a prefix.</summary>
    public static IEnumerable<Fault> Of(OnlineRules rules, string prefix)
    {
        ArgumentNullException.ThrowIfNull(rules);
        if (rules.EveryMinutes is { } every && (every is < Grain.Minutes or > 480 || !Grain.IsWhole(every)))
            yield return new Fault(
                prefix + "everyMinutes",
                $"Starts are a multiple of {Grain.Minutes} minutes apart, 8 hours at the most."
            );
        if (rules.ShortestGapMinutes is { } gap && (gap is < Grain.Minutes or > 480 || !Grain.IsWhole(gap)))
            yield return new Fault(
                prefix + "shortestGapMinutes",
                $"The shortest useful gap is a multiple of {Grain.Minutes} minutes, 8 hours at the most."
            );
        foreach ((string field, int? minutes) in new[] { ("leadMinutes", rules.LeadMinutes), ("newLeadMinutes", rules.NewLeadMinutes) })
            if (minutes is < 0 or > 129_600)
                yield return new Fault(prefix + field, "A lead time is 0 minutes or more, 90 days at the most.");
        foreach ((string field, int? days) in new[] { ("horizonDays", rules.HorizonDays), ("newHorizonDays", rules.NewHorizonDays) })
            if (days is < 0 or > 730) yield return new Fault(prefix + field, "Book 0 to 730 days ahead.");
        foreach ((string field, int? hours) in new[]
                 {
                     ("moveNoticeHours", rules.MoveNoticeHours), ("newMoveNoticeHours", rules.NewMoveNoticeHours),
                     ("cancelNoticeHours", rules.CancelNoticeHours), ("newCancelNoticeHours", rules.NewCancelNoticeHours),
                 })
            if (hours is < 0 or > 2160) yield return new Fault(prefix + field, "A notice is 0 hours or more, 90 days at the most.");
    }
}

/// <summary>Finds what is wrong with shifts of one day.</summary>
public static class ShiftCheck
{
    /// <summary>Faults of shifts that stand on the same day, their fields under a prefix with their index.</summary>
    public static IEnumerable<Fault> Of(IReadOnlyList<Shift> shifts, Func<int, string> prefix)
    {
        ArgumentNullException.ThrowIfNull(shifts);
        ArgumentNullException.ThrowIfNull(prefix);
        for (int i = 0; i < shifts.Count; i++)
        {
            Stretch during = shifts[i].During;
            if (!during.IsValid)
            {
                yield return new Fault(prefix(i) + "until", $"A shift ends after it begins, both on whole {Grain.Minutes} minutes.");
                continue;
            }

            for (int other = 0; other < i; other++)
            {
                if (shifts[other].During.IsValid && Overlap(shifts[other].During, during))
                    yield return new Fault(
                        prefix(i) + "from",
                        $"This shift overlaps the one from {Words(shifts[other].During)}. Shorten one of them."
                    );
            }

            for (int j = 0; j < shifts[i].Breaks.Count; j++)
            {
                Stretch pause = shifts[i].Breaks[j].During;
                string field = $"{prefix(i)}breaks[{j}].from";
                if (shifts[i].Breaks[j].Reason.Length > 200)
                    yield return new Fault($"{prefix(i)}breaks[{j}].reason", "200 characters at the most.");
                if (!pause.IsValid)
                    yield return new Fault(field, $"A break ends after it begins, both on whole {Grain.Minutes} minutes.");
                else if (pause.FromMinute < during.FromMinute || pause.UntilMinute > during.UntilMinute)
                    yield return new Fault(field, $"The break lies outside the shift from {Words(during)}.");
                else if (shifts[i].Breaks.Take(j).Any(item => item.During.IsValid && Overlap(item.During, pause)))
                    yield return new Fault(field, "Two breaks of this shift overlap.");
            }
        }
    }

    private static bool Overlap(Stretch a, Stretch b) => a.FromMinute < b.UntilMinute && b.FromMinute < a.UntilMinute;

    private static string Words(Stretch during) =>
        string.Create(
            System.Globalization.CultureInfo.InvariantCulture,
            $"{during.From:HH:mm} to {(during.Until == LocalTime.Midnight ? "24:00" : during.Until.ToString("HH:mm", null))}"
        );
}
