using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using Kingcup.Server.SignIn;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>Money in integer minor units.</summary>
/// <param name="Amount">Minor units, such as cents.</param>
/// <param name="Currency">Currency (ISO 4217).</param>
public sealed record MoneyAnswer(long Amount, string Currency);

/// <summary>A stretch of time.</summary>
/// <param name="From">Beginning.</param>
/// <param name="Until">End, not included.</param>
/// <param name="Reason">Why, for breaks and blocked time.</param>
public sealed record StretchAnswer(Instant From, Instant Until, string? Reason = null);

/// <summary>A lane of the book.</summary>
/// <param name="Id">The resource.</param>
/// <param name="Kind">"practitioner", "room" or "equipment".</param>
/// <param name="Name">Its name.</param>
/// <param name="Detail">What the lane head says beside the name.</param>
/// <param name="Units">How many units can be held at once.</param>
/// <param name="Open">When it is open.</param>
/// <param name="Blocked">Breaks and blocked time, with their reasons.</param>
/// <param name="Fullness">Share of the open time that is held, in percent; null for rooms and equipment and for nobody on shift.</param>
public sealed record LaneAnswer(
    Guid Id,
    string Kind,
    string Name,
    string Detail,
    int Units,
    IReadOnlyList<StretchAnswer> Open,
    IReadOnlyList<StretchAnswer> Blocked,
    int? Fullness
);

/// <summary>An hour of the wall clock on the scale of the day.</summary>
/// <param name="At">When it begins.</param>
/// <param name="Label">What the clock shows.</param>
public sealed record HourAnswer(Instant At, string Label);

/// <summary>The client of a visit.</summary>
/// <param name="Id">Identity.</param>
/// <param name="GivenName">Given name.</param>
/// <param name="FamilyName">Family name.</param>
/// <param name="Phone">Telephone number.</param>
/// <param name="Email">E-mail address.</param>
/// <param name="Alert">What the desk has to know.</param>
public sealed record VisitClientAnswer(Guid Id, string GivenName, string FamilyName, string? Phone, string? Email, string? Alert);

/// <summary>A line of a visit.</summary>
/// <param name="Id">The appointment.</param>
/// <param name="ServiceId">The service.</param>
/// <param name="Service">Its name.</param>
/// <param name="CategoryId">Its category.</param>
/// <param name="Start">When it begins.</param>
/// <param name="End">When it ends.</param>
/// <param name="Price">What it costs.</param>
/// <param name="Practitioners">Who takes each role.</param>
/// <param name="Rooms">Names of the rooms held.</param>
/// <param name="Equipment">Names of the equipment held.</param>
/// <param name="AddOns">What is added to it.</param>
public sealed record LineAnswer(
    Guid Id,
    Guid ServiceId,
    string Service,
    Guid CategoryId,
    Instant Start,
    Instant End,
    MoneyAnswer Price,
    IReadOnlyList<NamedAnswer> Practitioners,
    IReadOnlyList<string> Rooms,
    IReadOnlyList<string> Equipment,
    IReadOnlyList<LineAddOnAnswer> AddOns
)
{
    /// <summary>Who of those who come it is for: 0 for the client, or the place among <see cref="VisitAnswer.People"/> from 1 on.</summary>
    public int Person { get; init; }

    /// <summary>What the price is made of, in order; the parts add up to what the line and its add-ons cost.</summary>
    public IReadOnlyList<PricePartAnswer> PriceParts { get; init; } = [];
}

/// <summary>A part of the price of a line.</summary>
/// <param name="Kind">What it comes from.</param>
/// <param name="Amount">The amount; what takes off is negative.</param>
/// <param name="AddOnId">The add-on, where it is one's.</param>
public sealed record PricePartAnswer(PricePartKind Kind, MoneyAnswer Amount, Guid? AddOnId);

/// <summary>Somebody who comes besides the client.</summary>
/// <param name="ClientId">A known client, or null.</param>
/// <param name="Name">Their name.</param>
public sealed record PersonAnswer(Guid? ClientId, string Name);

/// <summary>An add-on of a line.</summary>
/// <param name="AddOnId">The add-on.</param>
/// <param name="Name">Its name.</param>
/// <param name="Count">How many.</param>
/// <param name="Minutes">Minutes all of them add.</param>
/// <param name="Price">What all of them cost.</param>
public sealed record LineAddOnAnswer(Guid AddOnId, string Name, int Count, int Minutes, MoneyAnswer Price);

/// <summary>Something with a name.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
public sealed record NamedAnswer(Guid Id, string Name);

/// <summary>A claim as it is drawn.</summary>
/// <param name="Line">Index of the line.</param>
/// <param name="ResourceId">The lane.</param>
/// <param name="Unit">The unit within it.</param>
/// <param name="From">Beginning, buffer included.</param>
/// <param name="Until">End, buffer or turnaround included.</param>
/// <param name="CoreFrom">Beginning without buffer.</param>
/// <param name="CoreUntil">End without buffer and turnaround.</param>
/// <param name="Overbooked">Whether it was knowingly booked over another visit.</param>
public sealed record ClaimAnswer(
    int Line,
    Guid ResourceId,
    int Unit,
    Instant From,
    Instant Until,
    Instant CoreFrom,
    Instant CoreUntil,
    bool Overbooked
);

/// <summary>What a client answered when they booked.</summary>
/// <param name="Question">The question as it was asked.</param>
/// <param name="Answer">The answer.</param>
public sealed record AnswerGiven(string Question, string Answer);

/// <summary>A stretch of a line in which a practitioner is free while the client stays.</summary>
/// <param name="Line">Index of the line.</param>
/// <param name="ResourceId">The practitioner.</param>
/// <param name="From">Beginning.</param>
/// <param name="Until">End.</param>
public sealed record UnattendedAnswer(int Line, Guid ResourceId, Instant From, Instant Until);

/// <summary>A visit in the book.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Reference">What the client reads out.</param>
/// <param name="Version">To be sent as If-Match with every change.</param>
/// <param name="LocationId">Where.</param>
/// <param name="State">Where it stands.</param>
/// <param name="Next">States that may follow.</param>
/// <param name="CanMove">Whether it may be moved.</param>
/// <param name="Source">"Desk" or "Online".</param>
/// <param name="IsFirst">Whether it is the client's first.</param>
/// <param name="Client">Who comes.</param>
/// <param name="Date">Local date.</param>
/// <param name="Zone">Zone of the location.</param>
/// <param name="Start">When the client comes.</param>
/// <param name="End">When the client leaves.</param>
/// <param name="Price">What it costs altogether.</param>
/// <param name="Note">A note for the desk.</param>
/// <param name="CancelReason">Why it was cancelled.</param>
/// <param name="CancelledBy">On whose account, or null.</param>
/// <param name="CancelledLate">Whether the client cancelled too late.</param>
/// <param name="CancelUntil">The last instant at which the client still cancels in time.</param>
/// <param name="Lines">Its lines.</param>
/// <param name="Claims">What it holds.</param>
/// <param name="Unattended">Where practitioners are free meanwhile.</param>
/// <param name="Answers">What the client answered when they booked; told with the single visit only.</param>
public sealed record VisitAnswer(
    Guid Id,
    string Reference,
    long Version,
    Guid LocationId,
    VisitState State,
    IReadOnlyList<VisitState> Next,
    bool CanMove,
    string Source,
    bool IsFirst,
    VisitClientAnswer Client,
    LocalDate Date,
    string Zone,
    Instant Start,
    Instant End,
    MoneyAnswer Price,
    string Note,
    string? CancelReason,
    CancelledBy? CancelledBy,
    bool CancelledLate,
    Instant CancelUntil,
    IReadOnlyList<LineAnswer> Lines,
    IReadOnlyList<ClaimAnswer> Claims,
    IReadOnlyList<UnattendedAnswer> Unattended,
    IReadOnlyList<AnswerGiven> Answers
)
{
    /// <summary>Who comes besides the client.</summary>
    public IReadOnlyList<PersonAnswer> People { get; init; } = [];

    /// <summary>The client who pays.</summary>
    public Guid PayerId { get; init; }

    /// <summary>The visit as somebody may read it: of clients who come to colleagues no number and no address, unless they have the
    /// right.</summary>
    internal VisitAnswer For(System.Security.Claims.ClaimsPrincipal who) =>
        Rights.SeesContacts(who) || Claims.Any(claim => claim.ResourceId == Rights.PractitionerOf(who))
            ? this
            : this with
            {
                Client = Client with { Phone = null, Email = null },
            };
}

/// <summary>One day of the book at one location.</summary>
/// <param name="LocationId">The location.</param>
/// <param name="Date">The local date.</param>
/// <param name="Zone">The zone of the location.</param>
/// <param name="Now">The present, by the server's clock.</param>
/// <param name="From">Where the picture of the day begins.</param>
/// <param name="Until">Where it ends.</param>
/// <param name="Hours">The hours on its scale.</param>
/// <param name="Opening">When clients may be there.</param>
/// <param name="Closed">Why the location is closed that day, or null.</param>
/// <param name="Lanes">Practitioners, rooms, equipment.</param>
/// <param name="Visits">The visits that hold time.</param>
public sealed record DayAnswer(
    Guid LocationId, LocalDate Date, string Zone, Instant Now, Instant From, Instant Until, IReadOnlyList<HourAnswer> Hours,
    IReadOnlyList<StretchAnswer> Opening, string? Closed, IReadOnlyList<LaneAnswer> Lanes, IReadOnlyList<VisitAnswer> Visits);

/// <summary>How full a day is.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Fullness">Share of the practitioners' time that is held, in percent; null when nobody works.</param>
public sealed record DayFullness(LocalDate Date, int? Fullness);

/// <summary>One thing that happened to a visit.</summary>
/// <param name="At">When.</param>
/// <param name="Actor">Who.</param>
/// <param name="Action">What.</param>
/// <param name="Before">How it stood before, as JSON.</param>
/// <param name="After">How it stands after, as JSON.</param>
public sealed record HistoryAnswer(Instant At, string Actor, string Action, string? Before, string? After);
