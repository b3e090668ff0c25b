using System.ComponentModel.DataAnnotations;
using Kingcup.Server.Booking;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Clients;

/// <summary>The link somebody has followed.</summary>
/// <param name="Token">What stands in it.</param>
public sealed record OwnOpenRequest([property: MaxLength(200)] string? Token);

/// <summary>Somebody who wants to see their own bookings, or to book.</summary>
/// <param name="Address">Their e-mail address or telephone number.</param>
/// <param name="ToBook">Whether they are about to book: then whoever is new is sent a code too, where the business takes them.</param>
public sealed record OwnCodeRequest([property: MaxLength(254)] string? Address, bool ToBook = false);

/// <summary>Somebody who has a password.</summary>
/// <param name="Address">Their e-mail address or telephone number.</param>
/// <param name="Password">Their password.</param>
public sealed record OwnSignInRequest([property: MaxLength(254)] string? Address, string? Password);

/// <summary>A password somebody chooses.</summary>
/// <param name="PersonId">Whose it is, of those who are reached at the address.</param>
/// <param name="Password">The password, or null to do without.</param>
public sealed record OwnPasswordRequest(Guid PersonId, string? Password);

/// <summary>Who has shown who they are.</summary>
/// <param name="People">As whom they may book.</param>
/// <param name="Address">The address they have shown to be theirs, as it is read; null where they have not.</param>
/// <param name="IsEmail">Whether that is an e-mail address and not a telephone number.</param>
/// <param name="MayBookAsNew">Whether they may book with that address as somebody who is not among these people.</param>
public sealed record OwnWho(IReadOnlyList<OwnPerson> People, string? Address, bool IsEmail, bool MayBookAsNew);

/// <summary>A code somebody was sent.</summary>
/// <param name="Address">Their e-mail address or telephone number.</param>
/// <param name="Code">The code.</param>
public sealed record OwnEnterRequest([property: MaxLength(254)] string? Address, [property: MaxLength(20)] string? Code);

/// <summary>Which days a visit is to be moved to.</summary>
/// <param name="From">The first day, or null for today.</param>
/// <param name="Days">How many days, 1 to 62.</param>
public sealed record OwnStartsRequest(LocalDate? From, int? Days);

/// <summary>Where a visit is to be moved.</summary>
/// <param name="Start">The new start.</param>
/// <param name="Version">The version that was seen.</param>
/// <param name="FeeSeen">What it costs as it was read, in minor units.</param>
/// <param name="PriceSeen">What the visit costs there as it was read, in minor units.</param>
public sealed record OwnMoveRequest(Instant Start, long Version, long FeeSeen, long PriceSeen);

/// <summary>A time a visit may be moved to.</summary>
/// <param name="Start">The new start.</param>
public sealed record OwnMoveTryRequest(Instant Start);

/// <summary>How a visit would lie at another time.</summary>
/// <param name="Start">When it begins there.</param>
/// <param name="End">When it ends.</param>
/// <param name="Lines">What and with whom.</param>
/// <param name="Price">What it costs there.</param>
/// <param name="IsOtherPrice">Whether that is another price than it has now.</param>
/// <param name="Fee">What moving it costs.</param>
public sealed record OwnMoveAnswer(
    Instant Start,
    Instant End,
    IReadOnlyList<string> Lines,
    MoneyAnswer Price,
    bool IsOtherPrice,
    FeeAnswer Fee
);

/// <summary>A visit that is to be cancelled.</summary>
/// <param name="Version">The version that was seen.</param>
/// <param name="FeeSeen">What it costs as it was read, in minor units.</param>
public sealed record OwnCancelRequest(long Version, long FeeSeen);

/// <summary>What somebody agrees to.</summary>
/// <param name="Texts">To text messages about their bookings.</param>
/// <param name="News">To news.</param>
public sealed record OwnConsents(bool Texts, bool News);

/// <summary>A deposit one is asked for.</summary>
/// <param name="Amount">How much.</param>
/// <param name="Until">Until when it can be paid.</param>
public sealed record OwnAsked(MoneyAnswer Amount, Instant Until);

/// <summary>What became of a deposit one has paid, or not.</summary>
/// <param name="State">"taken", "settling" while the bank is asked, "waiting" for a card, "ended", or "none" where none was asked
/// for.</param>
/// <param name="Because">Why nothing was taken, or null.</param>
public sealed record OwnPaid(string State, string? Because);

/// <summary>A visit of one's own.</summary>
public sealed record OwnVisit
{
    /// <summary>What one has written to the business when one booked.</summary>
    public required string Wrote { get; init; }

    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>To be sent with a change.</summary>
    public required long Version { get; init; }

    /// <summary>What to say on the telephone.</summary>
    public required string Reference { get; init; }

    /// <summary>Whose it is.</summary>
    public required string Name { get; init; }

    /// <summary>"requested", "answered" with other times, "booked", "done", "cancelled" or "missed".</summary>
    public required string State { get; init; }

    /// <summary>When.</summary>
    public required Instant Start { get; init; }

    /// <summary>Until when.</summary>
    public required Instant End { get; init; }

    /// <summary>Zone of the location.</summary>
    public required string Zone { get; init; }

    /// <summary>Where.</summary>
    public required string Location { get; init; }

    /// <summary>Its address.</summary>
    public required string Address { get; init; }

    /// <summary>What and with whom.</summary>
    public required IReadOnlyList<string> Lines { get; init; }

    /// <summary>What it costs.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>What of it is paid already.</summary>
    public required MoneyAnswer Paid { get; init; }

    /// <summary>What is left to pay.</summary>
    public required MoneyAnswer Rest { get; init; }

    /// <summary>The deposit that is asked for, to be paid by card; null where none is.</summary>
    public OwnAsked? Asked { get; init; }

    /// <summary>What it costs to cancel it now; null where it cannot be cancelled.</summary>
    public FeeAnswer? Cancelling { get; init; }

    /// <summary>What it costs to move it now; null where it cannot be moved online.</summary>
    public FeeAnswer? Moving { get; init; }

    /// <summary>Times the business proposes instead of what was asked for, to be chosen from; empty where it proposes none.</summary>
    public required IReadOnlyList<ProposedTime> Times { get; init; }

    /// <summary>What the business has written with its answer, or empty.</summary>
    public required string Words { get; init; }

    /// <summary>The last moment at which it can be moved online; null where it cannot.</summary>
    public Instant? MovableUntil { get; init; }

    /// <summary>The services to book the same again, as far as they are booked online.</summary>
    public required IReadOnlyList<Guid> AgainServiceIds { get; init; }
}

/// <summary>One of the times that were proposed, chosen.</summary>
/// <param name="Version">The version they have seen.</param>
/// <param name="ProposalId">The time.</param>
/// <param name="PriceSeen">What it costs there as they have read it, in minor units.</param>
public sealed record OwnChooseRequest(long Version, Guid ProposalId, long? PriceSeen);

/// <summary>What somebody sees of their own.</summary>
public sealed record OwnAnswer
{
    /// <summary>The business.</summary>
    public required string Business { get; init; }

    /// <summary>Its number, or null.</summary>
    public required string? Phone { get; init; }

    /// <summary>Locale of dates and figures.</summary>
    public required string Locale { get; init; }

    /// <summary>Where they are reached.</summary>
    public required string Address { get; init; }

    /// <summary>Who is reached there.</summary>
    public required IReadOnlyList<OwnPerson> People { get; init; }

    /// <summary>How each of them is called and reached.</summary>
    public required IReadOnlyList<OwnContact> Details { get; init; }

    /// <summary>Visits ahead, the next first.</summary>
    public required IReadOnlyList<OwnVisit> Ahead { get; init; }

    /// <summary>Visits that lie behind or were cancelled, the latest first.</summary>
    public required IReadOnlyList<OwnVisit> Past { get; init; }

    /// <summary>Cards that are kept.</summary>
    public required IReadOnlyList<OwnCardAnswer> Cards { get; init; }

    /// <summary>What they have agreed to.</summary>
    public required OwnConsents Consents { get; init; }
}

/// <summary>A card that is kept.</summary>
/// <param name="Digits">The last four digits.</param>
/// <param name="Expires">Month and year.</param>
public sealed record OwnCardAnswer(string Digits, string Expires);

/// <summary>Something that was agreed to, or taken back.</summary>
/// <param name="Kind">To what.</param>
/// <param name="Given">Whether it was agreed to.</param>
/// <param name="Words">In which words.</param>
/// <param name="At">When.</param>
public sealed record OwnConsent(string Kind, bool Given, string Words, Instant At);

/// <summary>A message that was sent to one.</summary>
/// <param name="At">When.</param>
/// <param name="To">Where.</param>
/// <param name="Subject">What it was about; empty for a text message.</param>
public sealed record OwnLetter(Instant At, string To, string Subject);

/// <summary>What is known of a person, as far as they have told it.</summary>
/// <param name="GivenName">Given name.</param>
/// <param name="FamilyName">Family name.</param>
/// <param name="Email">E-mail address, or null.</param>
/// <param name="Phone">Telephone number, or null.</param>
/// <param name="Born">When they were born, or null.</param>
/// <param name="Consents">What they have agreed to.</param>
/// <param name="Messages">What was sent to them.</param>
public sealed record OwnDetails(
    string GivenName,
    string FamilyName,
    string? Email,
    string? Phone,
    LocalDate? Born,
    IReadOnlyList<OwnConsent> Consents,
    IReadOnlyList<OwnLetter> Messages
);

/// <summary>Everything a client may take along.</summary>
/// <param name="Business">The business.</param>
/// <param name="At">When it was taken out.</param>
/// <param name="People">Who is reached at the address.</param>
/// <param name="Visits">Their visits.</param>
/// <param name="Answers">What they answered to the questions of these.</param>
/// <param name="Cards">Cards that are kept.</param>
public sealed record OwnData(
    string Business,
    Instant At,
    IReadOnlyList<OwnDetails> People,
    IReadOnlyList<OwnVisit> Visits,
    IReadOnlyList<OwnAnswered> Answers,
    IReadOnlyList<OwnCardAnswer> Cards
);

/// <summary>As whom somebody may book who has shown who they are.</summary>
/// <param name="Id">The client.</param>
/// <param name="Name">Their name.</param>
/// <param name="HasPassword">Whether they have a password for this address.</param>
/// <param name="IsLinked">Whether they are somebody else, for whom a link lets one book.</param>
public sealed record OwnPerson(Guid Id, string Name, bool HasPassword, bool IsLinked);
