using Kingcup.Core.Booking;
using Kingcup.Core.Forms;
using Kingcup.Core.Money;
using Kingcup.Server.Plans;
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
public sealed record StretchAnswer(Instant From, Instant Until, string? Reason = null)
{
    /// <summary>The blocked time it belongs to, or null.</summary>
    public Guid? BlockId { get; init; }
}

/// <summary>A lane of the book.</summary>
public sealed record LaneAnswer
{
    /// <summary>The resource.</summary>
    public required Guid Id { get; init; }

    /// <summary>"practitioner", "room" or "equipment".</summary>
    public required string Kind { get; init; }

    /// <summary>Its name.</summary>
    public required string Name { get; init; }

    /// <summary>What the lane head says beside the name.</summary>
    public required string Detail { get; init; }

    /// <summary>How many units can be held at once.</summary>
    public required int Units { get; init; }

    /// <summary>When it is open.</summary>
    public required IReadOnlyList<StretchAnswer> Open { get; init; }

    /// <summary>Breaks and blocked time, with their reasons.</summary>
    public required IReadOnlyList<StretchAnswer> Blocked { get; init; }

    /// <summary>Where clients book nothing online, with the reasons.</summary>
    public required IReadOnlyList<StretchAnswer> StoppedOnline { get; init; }

    /// <summary>What is kept for somebody who is choosing right now.</summary>
    public required IReadOnlyList<KeptAnswer> Kept { get; init; }

    /// <summary>Share of the open time that is held, in percent; null for rooms and equipment and for nobody on shift.</summary>
    public required int? Fullness { get; init; }
}

/// <summary>Time that is kept for somebody for a while.</summary>
/// <param name="From">When it begins.</param>
/// <param name="Until">When it ends.</param>
/// <param name="RunsOut">When it is free again, unless it is booked.</param>
/// <param name="VisitId">What it is proposed for, to whoever keeps the book; null for whoever is choosing online.</param>
/// <param name="Client">To whom it is proposed, or null.</param>
public sealed record KeptAnswer(Instant From, Instant Until, Instant RunsOut, Guid? VisitId = null, string? Client = null);

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
public sealed record LineAnswer
{
    /// <summary>The appointment.</summary>
    public required Guid Id { get; init; }

    /// <summary>The service.</summary>
    public required Guid ServiceId { get; init; }

    /// <summary>Its name.</summary>
    public required string Service { get; init; }

    /// <summary>Its category.</summary>
    public required Guid CategoryId { get; init; }

    /// <summary>When it begins.</summary>
    public required Instant Start { get; init; }

    /// <summary>When it ends.</summary>
    public required Instant End { get; init; }

    /// <summary>What it costs.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>Who takes each role.</summary>
    public required IReadOnlyList<NamedAnswer> Practitioners { get; init; }

    /// <summary>Names of the rooms held.</summary>
    public required IReadOnlyList<string> Rooms { get; init; }

    /// <summary>Names of the equipment held.</summary>
    public required IReadOnlyList<string> Equipment { get; init; }

    /// <summary>What is added to it.</summary>
    public required IReadOnlyList<LineAddOnAnswer> AddOns { get; init; }

    /// <summary>The room, or null for none.</summary>
    public Guid? RoomId { get; init; }

    /// <summary>Whether the client asked for the practitioner.</summary>
    public bool PractitionerAsked { get; init; }

    /// <summary>Whether the room was chosen by hand.</summary>
    public bool RoomAsked { get; init; }

    /// <summary>The length that was set by hand, in minutes, or null where the service says it.</summary>
    public int? SetMinutes { get; init; }

    /// <summary>Minutes after the start of the visit at which it begins.</summary>
    public int OffsetMinutes { get; init; }

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
public sealed record ClaimAnswer
{
    /// <summary>Index of the line.</summary>
    public required int Line { get; init; }

    /// <summary>The lane.</summary>
    public required Guid ResourceId { get; init; }

    /// <summary>The unit within it.</summary>
    public required int Unit { get; init; }

    /// <summary>Beginning, buffer included.</summary>
    public required Instant From { get; init; }

    /// <summary>End, buffer or turnaround included.</summary>
    public required Instant Until { get; init; }

    /// <summary>Beginning without buffer.</summary>
    public required Instant CoreFrom { get; init; }

    /// <summary>End without buffer and turnaround.</summary>
    public required Instant CoreUntil { get; init; }

    /// <summary>Whether it was knowingly booked over another visit.</summary>
    public required bool Overbooked { get; init; }
}

/// <summary>What a client answered when they booked.</summary>
/// <param name="QuestionId">The question.</param>
/// <param name="Question">The question as it was asked.</param>
/// <param name="Kind">How it was asked for.</param>
/// <param name="Answer">The answer: "Yes" or "No", a number with a point, a date as 2027-03-01, the name of a file.</param>
public sealed record AnswerGiven(Guid QuestionId, string Question, QuestionKind Kind, string Answer);

/// <summary>A stretch of a line in which a practitioner is free while the client stays.</summary>
/// <param name="Line">Index of the line.</param>
/// <param name="ResourceId">The practitioner.</param>
/// <param name="From">Beginning.</param>
/// <param name="Until">End.</param>
public sealed record UnattendedAnswer(int Line, Guid ResourceId, Instant From, Instant Until);

/// <summary>A visit in the book.</summary>
public sealed record VisitAnswer
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What the client reads out.</summary>
    public required string Reference { get; init; }

    /// <summary>To be sent as If-Match with every change.</summary>
    public required long Version { get; init; }

    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>Where it stands.</summary>
    public required VisitState State { get; init; }

    /// <summary>The row of visits it is one of, or null.</summary>
    public required Guid? SeriesId { get; init; }

    /// <summary>Since when it has stood there.</summary>
    public required Instant Since { get; init; }

    /// <summary>Of a client who is waiting: how many minutes after the beginning they came, 0 for in time; null for others.</summary>
    public required int? MinutesLate { get; init; }

    /// <summary>States that may follow.</summary>
    public required IReadOnlyList<VisitState> Next { get; init; }

    /// <summary>Whether it may be moved.</summary>
    public required bool CanMove { get; init; }

    /// <summary>Whether its lines may be changed where it stands.</summary>
    public required bool CanChange { get; init; }

    /// <summary>"Desk" or "Online".</summary>
    public required string Source { get; init; }

    /// <summary>Whether it is the client's first.</summary>
    public required bool IsFirst { get; init; }

    /// <summary>Who comes.</summary>
    public required VisitClientAnswer Client { get; init; }

    /// <summary>Local date.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>Zone of the location.</summary>
    public required string Zone { get; init; }

    /// <summary>When the client comes.</summary>
    public required Instant Start { get; init; }

    /// <summary>When the client leaves.</summary>
    public required Instant End { get; init; }

    /// <summary>What it costs altogether.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>The promo code it was booked with, and what that takes off the price; null for none.</summary>
    public VisitPromo? Promo { get; init; }

    /// <summary>The units it is on, of rooms and pools that have several.</summary>
    public required IReadOnlyList<UnitHeldAnswer> Units { get; init; }

    /// <summary>A note for the desk.</summary>
    public required string Note { get; init; }

    /// <summary>What the client has written when they booked.</summary>
    public required string ClientNote { get; init; }

    /// <summary>Why it was cancelled.</summary>
    public required string? CancelReason { get; init; }

    /// <summary>On whose account, or null.</summary>
    public required CancelledBy? CancelledBy { get; init; }

    /// <summary>Whether the client cancelled too late.</summary>
    public required bool CancelledLate { get; init; }

    /// <summary>The last instant at which the client still cancels in time.</summary>
    public required Instant CancelUntil { get; init; }

    /// <summary>Its lines.</summary>
    public required IReadOnlyList<LineAnswer> Lines { get; init; }

    /// <summary>What it holds.</summary>
    public required IReadOnlyList<ClaimAnswer> Claims { get; init; }

    /// <summary>Where practitioners are free meanwhile.</summary>
    public required IReadOnlyList<UnattendedAnswer> Unattended { get; init; }

    /// <summary>What the client answered when they booked; told with the single visit only.</summary>
    public required IReadOnlyList<AnswerGiven> Answers { get; init; }

    /// <summary>Who comes besides the client.</summary>
    public IReadOnlyList<PersonAnswer> People { get; init; } = [];

    /// <summary>The client who pays.</summary>
    public Guid PayerId { get; init; }

    /// <summary>The name of whoever pays, where it is not the client who comes.</summary>
    public string? PayerName { get; init; }

    /// <summary>The visit as somebody may read it: of clients who come to colleagues no number and no address, unless they have the
    /// right.</summary>
    internal VisitAnswer For(System.Security.Claims.ClaimsPrincipal who) =>
        Rights.SeesContacts(who) || Claims.Any(claim => claim.ResourceId == Rights.PractitionerOf(who))
            ? ForRole(who)
            : ForRole(who) with
            {
                Client = Client with { Phone = null, Email = null },
            };

    private VisitAnswer ForRole(System.Security.Claims.ClaimsPrincipal who) =>
        Rights.TakesBackLater(who) ? this with { Next = [.. Next.Union(VisitStates.BackFrom(State))] } : this;
}

/// <summary>One day of the book at one location.</summary>
public sealed record DayAnswer
{
    /// <summary>The location.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>The local date.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>The zone of the location.</summary>
    public required string Zone { get; init; }

    /// <summary>The present, by the server's clock.</summary>
    public required Instant Now { get; init; }

    /// <summary>Where the picture of the day begins.</summary>
    public required Instant From { get; init; }

    /// <summary>Where it ends.</summary>
    public required Instant Until { get; init; }

    /// <summary>The hours on its scale.</summary>
    public required IReadOnlyList<HourAnswer> Hours { get; init; }

    /// <summary>When clients may be there.</summary>
    public required IReadOnlyList<StretchAnswer> Opening { get; init; }

    /// <summary>Why the location is closed that day, or null.</summary>
    public required string? Closed { get; init; }

    /// <summary>Practitioners, rooms, equipment.</summary>
    public required IReadOnlyList<LaneAnswer> Lanes { get; init; }

    /// <summary>The visits that hold time.</summary>
    public required IReadOnlyList<VisitAnswer> Visits { get; init; }
}

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

/// <summary>Something somebody did in the book.</summary>
/// <param name="Id">Identity, to undo it by.</param>
/// <param name="At">When.</param>
/// <param name="Kind">What.</param>
/// <param name="VisitIds">To which visits.</param>
/// <param name="IsUndone">Whether it has been undone.</param>
public sealed record StepAnswer(Guid Id, Instant At, StepKind Kind, IReadOnlyList<Guid> VisitIds, bool IsUndone);

/// <summary>What was undone.</summary>
/// <param name="Visits">The visits as they stand now; one that had been booked is gone.</param>
public sealed record UndoneAnswer(IReadOnlyList<VisitAnswer> Visits);
