using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Booking;
using Kingcup.Server.Availability;
using Kingcup.Server.Plans;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>A visit to be booked online.</summary>
public sealed record PublicBookRequest
{
    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>When.</summary>
    public required Instant Start { get; init; }

    /// <summary>What.</summary>
    public required IReadOnlyList<LineRequest>? Lines { get; init; }

    /// <summary>As which client they book, who has shown who they are: their names and how they are reached are known then.</summary>
    public Guid? As { get; init; }

    /// <summary>Given name.</summary>
    public string? GivenName { get; init; }

    /// <summary>Family name.</summary>
    public string? FamilyName { get; init; }

    /// <summary>E-mail address.</summary>
    public string? Email { get; init; }

    /// <summary>Mobile number.</summary>
    public string? Phone { get; init; }

    /// <summary>The names of those who come along: of person 1 of the lines, 2 and so on.</summary>
    [MaxLength(OnlineVisits.MostAllowed - 1)]
    public IReadOnlyList<string?>? People { get; init; }

    /// <summary>The direct link the client came with.</summary>
    public string? Link { get; init; }

    /// <summary>The terms the client has accepted.</summary>
    public long? AcceptedTerms { get; init; }

    /// <summary>Whether they agree to text messages about their bookings; where they say nothing, what they have agreed to stays.</summary>
    public bool AgreesToTexts { get; init; }

    /// <summary>Whether they agree to news.</summary>
    public bool AgreesToNews { get; init; }

    /// <summary>What they answered.</summary>
    public IReadOnlyList<PublicAnswer>? Answers { get; init; }

    /// <summary>What they want the business to know.</summary>
    [MaxLength(PublicBooking.LongestNote)]
    public string? Note { get; init; }

    /// <summary>The token of the time that is kept for them. Where it is kept no more, the visit is booked as long as it is free.</summary>
    public string? Hold { get; init; }

    /// <summary>The promo code they have named; nothing for none. Where it takes nothing off, nothing is booked.</summary>
    [MaxLength(Promos.LongestTyped)]
    public string? Promo { get; init; }

    /// <summary>The price they have read, in minor units. Where it has changed, nothing is booked.</summary>
    public long? PriceSeen { get; init; }

    /// <summary>What is due at once as they have read it, in minor units. Where that has changed, nothing is booked.</summary>
    public long? DueSeen { get; init; }

    /// <summary>What said how cancelling goes when the client read it: "policyId" of the time that is kept; where another policy holds by
    /// now, nothing is booked. Null where nothing was read.</summary>
    public long? PolicySeen { get; init; }
}

/// <summary>A visit booked online.</summary>
public sealed record PublicVisit
{
    /// <summary>What to say on the telephone.</summary>
    public required string Reference { get; init; }

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

    /// <summary>What of it is paid already, or null where nothing was due.</summary>
    public MoneyAnswer? Paid { get; init; }

    /// <summary>What is left to pay at the visit.</summary>
    public required MoneyAnswer Rest { get; init; }

    /// <summary>The visit as an entry for a calendar (RFC 5545); null while it waits to be approved.</summary>
    public required string? Calendar { get; init; }

    /// <summary>Whether it waits for the desk to approve it.</summary>
    public required bool IsRequest { get; init; }

    /// <summary>Where the client is led now, or null.</summary>
    public required PublicAfter? After { get; init; }

    /// <summary>What it makes bookable, or null.</summary>
    public required PublicSequel? Sequel { get; init; }
}
