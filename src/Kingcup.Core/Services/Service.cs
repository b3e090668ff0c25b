using Kingcup.Core.Resources;
using NodaTime;

namespace Kingcup.Core.Services;

/// <summary>Items of a pool that a phase needs.</summary>
/// <param name="PoolId">Which pool.</param>
/// <param name="Units">How many, 1 or more.</param>
public sealed record EquipmentNeed(Guid PoolId, int Units = 1);

/// <summary>A stretch of a service with its own needs (rules, section 4). The room is held through all phases.</summary>
/// <param name="Minutes">How long; whole grains, at least one.</param>
/// <param name="AttendedBy">Indexes of the roles that are with the client; none for an unattended phase.</param>
/// <param name="Equipment">Equipment in use.</param>
public sealed record Phase(int Minutes, IReadOnlyList<int> AttendedBy, IReadOnlyList<EquipmentNeed> Equipment);

/// <summary>
/// Who may take one role of a service: holders of all the qualifications, and those added by hand, without those
/// excluded by hand. With no qualification named only those added by hand may.
/// </summary>
public sealed record StaffRule
{
    /// <summary>What the role is called, such as "Therapist" or "Supervisor".</summary>
    public string Name { get; init; } = "Practitioner";

    /// <summary>Qualifications required, all of them valid on the local date of the appointment.</summary>
    public IReadOnlyList<Guid> Qualifications { get; init; } = [];

    /// <summary>Practitioners added by hand.</summary>
    public IReadOnlySet<Guid> Added { get; init; } = new HashSet<Guid>();

    /// <summary>Practitioners excluded by hand; exclusion wins.</summary>
    public IReadOnlySet<Guid> Excluded { get; init; } = new HashSet<Guid>();

    /// <summary>Whether a practitioner may take the role on a local date.</summary>
    public bool Allows(Practitioner practitioner, LocalDate date) =>
        !Excluded.Contains(practitioner.Id)
        && (Added.Contains(practitioner.Id)
            || (Qualifications.Count > 0 && HoldsAll(practitioner, date)));

    private bool HoldsAll(Practitioner practitioner, LocalDate date)
    {
        for (int i = 0; i < Qualifications.Count; i++)
            if (!Holds(practitioner, Qualifications[i], date)) return false;
        return true;
    }

    private static bool Holds(Practitioner practitioner, Guid needed, LocalDate date)
    {
        for (int i = 0; i < practitioner.Qualifications.Count; i++)
        {
            HeldQualification held = practitioner.Qualifications[i];
            if (held.QualificationId == needed && held.IsValidOn(date)) return true;
        }

        return false;
    }

    /// <summary>The required qualifications a practitioner does not hold on a date.</summary>
    public IReadOnlyList<Guid> MissingOn(Practitioner practitioner, LocalDate date) =>
        [.. Qualifications.Where(needed => !Holds(practitioner, needed, date))];
}

/// <summary>What room a service needs. A service without one (video, home visit) needs none.</summary>
/// <param name="Features">Features the room must have, all of them.</param>
/// <param name="Units">How many units of its capacity are held: 1, or 2 for a duo suite.</param>
public sealed record RoomRule(IReadOnlySet<string> Features, int Units = 1)
{
    /// <summary>Whether the room could ever serve.</summary>
    public bool Accepts(Room room) => Units <= room.Capacity && Features.All(room.Features.Contains);
}

/// <summary>How one practitioner does a service.</summary>
/// <param name="Minutes">Own length, or null for the usual; the difference falls on the longest attended phase.</param>
/// <param name="Price">Own price in minor units, or null for the list price.</param>
/// <param name="AcceptsNewClients">Whether new clients may book this service with this person online.</param>
public sealed record PractitionerTerms(int? Minutes = null, long? Price = null, bool AcceptsNewClients = true);

/// <summary>Who can see and book a service on the public page.</summary>
public enum Visibility
{
    /// <summary>Everyone.</summary>
    Everyone,

    /// <summary>Whoever has the direct link.</summary>
    WithLink,

    /// <summary>Shown, but booked by phone only.</summary>
    ByPhone,

    /// <summary>Nobody.</summary>
    Hidden,
}

/// <summary>
/// A visit for another service that must have been completed in a window before the start (rules, section 5, gate 2).
/// A booked future visit counts if it will satisfy both ends.
/// </summary>
/// <param name="ServiceId">The service to have been completed.</param>
/// <param name="AtLeastHours">Least hours between that visit's end and the start.</param>
/// <param name="AtMostDays">Most days between that visit's end and the start.</param>
public sealed record Prerequisite(Guid ServiceId, int AtLeastHours, int AtMostDays);

/// <summary>What a client books.</summary>
public sealed record Service
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>The category it stands in.</summary>
    public Guid CategoryId { get; init; }

    /// <summary>Phases in order, at least one.</summary>
    public required IReadOnlyList<Phase> Phases { get; init; }

    /// <summary>Roles; the first is the lead, whose own length and price count.</summary>
    public required IReadOnlyList<StaffRule> Roles { get; init; }

    /// <summary>The room it needs, or null for none.</summary>
    public RoomRule? Room { get; init; }

    /// <summary>Minutes that hold the practitioner of the first attended phase before it.</summary>
    public int BufferBeforeMinutes { get; init; }

    /// <summary>Minutes that hold the practitioner of the last attended phase after it.</summary>
    public int BufferAfterMinutes { get; init; }

    /// <summary>Whether the buffers stay between two lines of one visit by the same practitioner.</summary>
    public bool BufferAlways { get; init; }

    /// <summary>List price in minor units.</summary>
    public long Price { get; init; }

    /// <summary>What each practitioner does differently.</summary>
    public IReadOnlyDictionary<Guid, PractitionerTerms> Terms { get; init; } = new Dictionary<Guid, PractitionerTerms>();

    /// <summary>Who can see and book it online.</summary>
    public Visibility Visibility { get; init; }

    /// <summary>Own rules of online booking, over the location's.</summary>
    public OnlineRules Online { get; init; } = new();

    /// <summary>Wall times of <see cref="StartGrid.SetTimes"/>: practitioner (null for all), weekday, time.</summary>
    public IReadOnlyList<SetTime> SetTimes { get; init; } = [];

    /// <summary>What must have come before, or null.</summary>
    public Prerequisite? Prerequisite { get; init; }

    /// <summary>Weekdays on which clients may book it online; empty means every day.</summary>
    public IReadOnlySet<IsoDayOfWeek> Weekdays { get; init; } = new HashSet<IsoDayOfWeek>();

    /// <summary>Locations where it is done; empty means all.</summary>
    public IReadOnlySet<Guid> Locations { get; init; } = new HashSet<Guid>();

    /// <summary>The usual length in minutes: all phases together.</summary>
    public int Minutes => Phases.Sum(phase => phase.Minutes);

    /// <summary>The length in minutes as one practitioner does it.</summary>
    public int MinutesBy(Guid practitionerId) => Terms.GetValueOrDefault(practitionerId)?.Minutes ?? Minutes;
}

/// <summary>One wall time at which a service may begin.</summary>
/// <param name="PractitionerId">With whom, or null for everyone.</param>
/// <param name="Weekday">On which day of the week.</param>
/// <param name="At">When.</param>
public sealed record SetTime(Guid? PractitionerId, IsoDayOfWeek Weekday, LocalTime At);
