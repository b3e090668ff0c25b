using Kingcup.Core.Business;
using Kingcup.Core.Rooms;
using Kingcup.Core.Team;
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
        StandingOf(practitioner, date) is Standing.Holds or Standing.Added;

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

    /// <summary>Why a practitioner may or may not take the role on a date.</summary>
    public Standing StandingOf(Practitioner practitioner, LocalDate date)
    {
        ArgumentNullException.ThrowIfNull(practitioner);
        return practitioner.IsRetiredOn(date) ? Standing.Retired
            : Excluded.Contains(practitioner.Id) ? Standing.Excluded
            : Added.Contains(practitioner.Id) ? Standing.Added
            : Qualifications.Count == 0 ? Standing.NotAdded
            : HoldsAll(practitioner, date) ? Standing.Holds : Standing.Lacks;
    }

    /// <summary>Whether a practitioner may take the role on some date, <paramref name="from"/> or later.</summary>
    public bool EverAllows(Practitioner practitioner, LocalDate from)
    {
        ArgumentNullException.ThrowIfNull(practitioner);
        return Allows(practitioner, from) || practitioner.Qualifications.Any(held => held.From > from && Allows(practitioner, held.From));
    }

    /// <summary>The required qualifications a practitioner does not hold on a date.</summary>
    public IReadOnlyList<Guid> MissingOn(Practitioner practitioner, LocalDate date) =>
        [.. Qualifications.Where(needed => !Holds(practitioner, needed, date))];
}

/// <summary>Why somebody may or may not take a role.</summary>
public enum Standing
{
    /// <summary>May: holds everything required.</summary>
    Holds,

    /// <summary>May: added by hand.</summary>
    Added,

    /// <summary>May not: lacks a qualification.</summary>
    Lacks,

    /// <summary>May not: excluded by hand.</summary>
    Excluded,

    /// <summary>May not: no qualification is named and they were not added.</summary>
    NotAdded,

    /// <summary>May not: no longer works here.</summary>
    Retired,
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
public sealed record Prerequisite(Guid ServiceId, int AtLeastHours, int AtMostDays)
{
    /// <summary>The first instant at which a service may be had after a visit that ended then.</summary>
    public Instant EarliestAfter(Instant end) => end + Duration.FromHours(AtLeastHours);

    /// <summary>The last such instant.</summary>
    public Instant LatestAfter(Instant end) => end + Duration.FromDays(AtMostDays);
}

/// <summary>How the price of a service is formed.</summary>
public enum PriceForm
{
    /// <summary>The price stands.</summary>
    Fixed,

    /// <summary>The price is the least it costs; the desk may ask more.</summary>
    From,

    /// <summary>The price is for an hour; a line costs its share by length, rounded half up.</summary>
    Hourly,

    /// <summary>It costs nothing.</summary>
    Free,

    /// <summary>It is said on request; a line costs nothing until the desk sets it.</summary>
    OnRequest,
}

/// <summary>Whether a service is for one client at a time or for a group with seats.</summary>
public enum ServiceKind
{
    /// <summary>One client at a time.</summary>
    OneToOne,

    /// <summary>A group; its sessions have seats and are not booked one by one online.</summary>
    Group,
}

/// <summary>Which clients a service is for.</summary>
public enum ClientKind
{
    /// <summary>All.</summary>
    Everyone,

    /// <summary>Only those who have never been here.</summary>
    NewOnly,

    /// <summary>Only those who have been here.</summary>
    ReturningOnly,
}

/// <summary>A part of every year, both ends included; it may reach over the new year.</summary>
/// <param name="From">First day.</param>
/// <param name="Until">Last day.</param>
public sealed record Season(AnnualDate From, AnnualDate Until)
{
    /// <summary>Whether a date lies in it.</summary>
    public bool Contains(LocalDate date)
    {
        AnnualDate day = new(date.Month, date.Day);
        return From <= Until ? From <= day && day <= Until : day >= From || day <= Until;
    }
}

/// <summary>A group of services.</summary>
public sealed record Category
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Place in the house order, lowest first.</summary>
    public int Order { get; init; }

    /// <summary>Rules of online booking for all its services, over the location's.</summary>
    public OnlineRules Online { get; init; } = new();
}

/// <summary>An extra to a service; its minutes fall on the longest attended phase.</summary>
public sealed record AddOn
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Minutes it adds; whole grains, 0 for none.</summary>
    public int Minutes { get; init; }

    /// <summary>Price of one, in minor units.</summary>
    public long Price { get; init; }

    /// <summary>Most of it on one line, 1 or more.</summary>
    public int Limit { get; init; } = 1;

    /// <summary>Services it may go with; the value says whether it is suggested there.</summary>
    public IReadOnlyDictionary<Guid, bool> Services { get; init; } = new Dictionary<Guid, bool>();

    /// <summary>Place in the house order, lowest first.</summary>
    public int Order { get; init; }
}

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

    /// <summary>Whether whoever does it may look after others meanwhile: it then takes one unit of their attention, else the whole
    /// person.</summary>
    public bool BesideOthers { get; init; }

    /// <summary>One client at a time, or a group.</summary>
    public ServiceKind Kind { get; init; }

    /// <summary>Seats of a session of a group service.</summary>
    public int Seats { get; init; } = 1;

    /// <summary>How the price is formed.</summary>
    public PriceForm PriceForm { get; init; }

    /// <summary>List price in minor units; of an hour for <see cref="PriceForm.Hourly"/>.</summary>
    public long Price { get; init; }

    /// <summary>Which clients may book it online.</summary>
    public ClientKind For { get; init; }

    /// <summary>The part of the year in which clients may book it online, or null for all of it.</summary>
    public Season? Season { get; init; }

    /// <summary>Whether it is no longer done. Visits booked before keep it.</summary>
    public bool IsArchived { get; init; }

    /// <summary>What each practitioner does differently.</summary>
    public IReadOnlyDictionary<Guid, PractitionerTerms> Terms { get; init; } = new Dictionary<Guid, PractitionerTerms>();

    /// <summary>Who can see and book it online.</summary>
    public Visibility Visibility { get; init; }

    /// <summary>Own rules of online booking, over those of the category and the location.</summary>
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

    /// <summary>The least length that can be set by hand, in minutes: the longest attended phase keeps one grain.</summary>
    public int LeastMinutes => Minutes - Phases[LineShape.LongestAttended(this)].Minutes + Time.Grain.Minutes;

    /// <summary>The length in minutes as one practitioner does it.</summary>
    public int MinutesBy(Guid practitionerId) => Terms.GetValueOrDefault(practitionerId)?.Minutes ?? Minutes;
}

/// <summary>One wall time at which a service may begin.</summary>
/// <param name="PractitionerId">With whom, or null for everyone.</param>
/// <param name="Weekday">On which day of the week.</param>
/// <param name="At">When.</param>
public sealed record SetTime(Guid? PractitionerId, IsoDayOfWeek Weekday, LocalTime At);
