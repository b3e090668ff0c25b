using Kingcup.Core.Business;
using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>What a start has to pass to be offered, in this order (rules, section 5).</summary>
public enum Gate
{
    /// <summary>The client may book.</summary>
    Client = 1,

    /// <summary>The service may be booked.</summary>
    Service = 2,

    /// <summary>The date is neither too soon nor too far nor left out.</summary>
    Date = 3,

    /// <summary>The opening hours contain the visit.</summary>
    OpeningHours = 4,

    /// <summary>The start lies on the start grid.</summary>
    StartGrid = 5,

    /// <summary>Somebody for every role is on shift, qualified and free.</summary>
    Practitioner = 6,

    /// <summary>A room, then equipment.</summary>
    RoomAndEquipment = 7,

    /// <summary>No gap is left that nobody can use.</summary>
    Gap = 8,
}

/// <summary>What is known of the client who asks, as far as the gates look at it.</summary>
public sealed record Audience
{
    /// <summary>A client nobody knows, without a link.</summary>
    public static Audience Stranger { get; } = new() { IsNew = true };

    /// <summary>Whether the client has never been here.</summary>
    public bool IsNew { get; init; }

    /// <summary>Services whose direct link the client came with.</summary>
    public IReadOnlySet<Guid> Links { get; init; } = new HashSet<Guid>();

    /// <summary>Whether this client may book online at all.</summary>
    public bool MayBookOnline { get; init; } = true;

    /// <summary>Lead time, how far ahead and notices as set at this client, or null; they go before those of any other place.</summary>
    public OnlineRules? Own { get; init; }

    /// <summary>What is asked of this client when they book, or null; it goes before what any place asks (rules, section 9).</summary>
    public GuaranteeDemand? Gives { get; init; }

    /// <summary>When the client did not come, or cancelled late.</summary>
    public IReadOnlyList<Instant> Missed { get; init; } = [];

    /// <summary>Visits that may satisfy a prerequisite: completed ones and booked ones, not cancelled ones.</summary>
    public IReadOnlyList<EarlierVisit> Visits { get; init; } = [];
}

/// <summary>An earlier (or booked) visit of a client.</summary>
/// <param name="ServiceId">For which service.</param>
/// <param name="End">When it ended or will end.</param>
/// <param name="IsDone">Whether it is completed; what is only booked counts as long as it lies ahead.</param>
public sealed record EarlierVisit(Guid ServiceId, Instant End, bool IsDone = true)
{
    /// <summary>Whether it may satisfy a prerequisite: completed, or booked and still to come (rules, section 5).</summary>
    public bool MayCount(Instant now) => IsDone || End > now;
}

/// <summary>Why a gate refuses a start, as a stable code with what it speaks of; the words are made by whoever shows it.</summary>
public enum ReasonCode
{
    /// <summary>The business takes no online bookings.</summary>
    BusinessNotOnline,

    /// <summary>The location takes no online bookings.</summary>
    LocationNotOnline,

    /// <summary>The location accepts no new clients.</summary>
    LocationNoNewClients,

    /// <summary>The client may not book online.</summary>
    ClientNotOnline,

    /// <summary>The client did not come too often.</summary>
    TooManyNoShows,

    /// <summary>The practitioner takes no online bookings.</summary>
    PractitionerNotOnline,

    /// <summary>The practitioner accepts no new clients (for this service).</summary>
    NoNewClients,

    /// <summary>The service is hidden or by phone only.</summary>
    ServiceNotOnline,

    /// <summary>The service is no longer done.</summary>
    ServiceArchived,

    /// <summary>The service is for groups; its sessions are not booked one by one.</summary>
    ServiceForGroups,

    /// <summary>The service is for new clients only.</summary>
    OnlyNewClients,

    /// <summary>The service is for returning clients only.</summary>
    OnlyReturningClients,

    /// <summary>The service is not done at this location.</summary>
    ServiceNotHere,

    /// <summary>The visit that has to come before is missing or outside its window.</summary>
    PrerequisiteMissing,

    /// <summary>The start is in the past or nearer than the lead time.</summary>
    TooSoon,

    /// <summary>The date is further ahead than clients may book.</summary>
    TooFarAhead,

    /// <summary>The service is not offered on that weekday.</summary>
    NotThatWeekday,

    /// <summary>The service is offered in another season.</summary>
    OutOfSeason,

    /// <summary>Online booking is stopped for that date.</summary>
    StoppedOnline,

    /// <summary>The location is closed that day.</summary>
    LocationClosed,

    /// <summary>The visit does not lie inside the opening hours.</summary>
    OutsideOpeningHours,

    /// <summary>The start is not on the start grid.</summary>
    OffGrid,

    /// <summary>Nobody may take the role.</summary>
    NobodyQualified,

    /// <summary>The practitioner does not hold a qualification on that date.</summary>
    NotQualified,

    /// <summary>The practitioner was excluded, or was not added, by hand.</summary>
    NotChosenForService,

    /// <summary>The practitioner held what is needed until a date.</summary>
    QualificationEnded,

    /// <summary>The practitioner takes another length for the service than is usual, and that does not fit.</summary>
    OwnLength,

    /// <summary>The practitioner is not on shift.</summary>
    OffShift,

    /// <summary>The practitioner's shift is kept for other services.</summary>
    ShiftKept,

    /// <summary>The practitioner works at another location that day.</summary>
    PractitionerElsewhere,

    /// <summary>The practitioner has a break.</summary>
    OnBreak,

    /// <summary>The practitioner no longer works here.</summary>
    PractitionerRetired,

    /// <summary>The practitioner is away.</summary>
    PractitionerAway,

    /// <summary>The practitioner is blocked.</summary>
    PractitionerBlocked,

    /// <summary>The practitioner has as much that day as they may have.</summary>
    DailyLimit,

    /// <summary>The practitioner has something else.</summary>
    PractitionerTaken,

    /// <summary>The practitioner has something at another location and not enough time for the way.</summary>
    TravelTooShort,

    /// <summary>No room has what the service needs.</summary>
    NoSuchRoom,

    /// <summary>The room is no longer used.</summary>
    RoomRetired,

    /// <summary>The room is blocked.</summary>
    RoomBlocked,

    /// <summary>The room that was chosen is none that the service asks for.</summary>
    RoomUnsuited,

    /// <summary>The room is taken or being cleaned.</summary>
    RoomTaken,

    /// <summary>All items of the pool are in use or being cleaned.</summary>
    EquipmentTaken,

    /// <summary>The location does not have the equipment.</summary>
    NoSuchEquipment,

    /// <summary>The equipment is no longer used, or there is less of it.</summary>
    EquipmentRetired,

    /// <summary>The start leaves a gap nobody can use.</summary>
    LeavesGap,

    /// <summary>Each part alone would be free, but no combination is.</summary>
    NoCombination,

    /// <summary>The client has another visit at that time.</summary>
    OwnVisit,
}

/// <summary>What kind of object has the setting behind a reason.</summary>
public enum OwnerKind
{
    /// <summary>A location.</summary>
    Location,

    /// <summary>The business.</summary>
    Business,

    /// <summary>A category.</summary>
    Category,

    /// <summary>A service.</summary>
    Service,

    /// <summary>A practitioner.</summary>
    Practitioner,

    /// <summary>A room.</summary>
    Room,

    /// <summary>Equipment.</summary>
    Equipment,

    /// <summary>The client who asks.</summary>
    Client,
}

/// <summary>One reason.</summary>
/// <param name="Gate">The gate that refuses.</param>
/// <param name="Code">What is wrong.</param>
/// <param name="SubjectId">What the reason speaks of: a practitioner, room, pool, service or location.</param>
/// <param name="Subject">Its name.</param>
public sealed record Reason(Gate Gate, ReasonCode Code, Guid? SubjectId = null, string? Subject = null)
{
    /// <summary>The kind of object whose setting it is, or null when no single setting is the cause.</summary>
    public OwnerKind? OwnerKind { get; init; }

    /// <summary>The object whose setting it is; the subject itself unless the setting comes from a wider place.</summary>
    public Guid? OwnerId { get; init; }

    /// <summary>From when the cause holds, where it is a stretch of time.</summary>
    public Instant? From { get; init; }

    /// <summary>Until when the cause holds, where it is a stretch of time.</summary>
    public Instant? Until { get; init; }

    /// <summary>When it is free again by itself, where it is kept for somebody for a while only.</summary>
    public Instant? RunsOut { get; init; }

    /// <summary>From when the subject would be needed, where only a part of that does not fit.</summary>
    public Instant? NeededFrom { get; init; }

    /// <summary>Until when the subject would be needed.</summary>
    public Instant? NeededUntil { get; init; }

    /// <summary>The last date on which it still held, for <see cref="ReasonCode.QualificationEnded"/>.</summary>
    public LocalDate? Ended { get; init; }

    /// <summary>A length in minutes: of a gap, an own length, or the least time since a visit that has to come first.</summary>
    public int? Minutes { get; init; }

    /// <summary>The appointment in the way, where there is one.</summary>
    public Guid? AppointmentId { get; init; }

    /// <summary>What the setting says: minutes, days, a qualification or the reason of a block.</summary>
    public string? Value { get; init; }
}

/// <summary>A gate that refuses a start, with its reasons.</summary>
/// <param name="Gate">Which gate.</param>
/// <param name="Reasons">Why; at least one.</param>
public sealed record Refusal(Gate Gate, IReadOnlyList<Reason> Reasons);
