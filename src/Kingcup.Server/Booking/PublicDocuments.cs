using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Forms;
using Kingcup.Core.Services;
using Kingcup.Server.Availability;
using Kingcup.Server.Plans;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>The business as strangers see it.</summary>
public sealed record PublicBusiness
{
    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Number to call; null where there is none, or the business does not want it shown.</summary>
    public required string? Phone { get; init; }

    /// <summary>Whether the number is shown to everybody, and not only to whom nothing else helps.</summary>
    public required bool IsPhoneAlwaysShown { get; init; }

    /// <summary>Locale.</summary>
    public required string Locale { get; init; }

    /// <summary>Locations that take bookings online.</summary>
    public required IReadOnlyList<PublicLocation> Locations { get; init; }

    /// <summary>Categories with the services shown.</summary>
    public required IReadOnlyList<PublicCategory> Categories { get; init; }

    /// <summary>A few words about it.</summary>
    public required string About { get; init; }

    /// <summary>Colour of buttons.</summary>
    public required string ColourMain { get; init; }

    /// <summary>Colour of what is chosen.</summary>
    public required string ColourAccent { get; init; }

    /// <summary>Its logo, or null.</summary>
    public required Guid? LogoId { get; init; }

    /// <summary>Pictures of it, in order.</summary>
    public required IReadOnlyList<PublicPicture> Pictures { get; init; }

    /// <summary>Who can be booked, in house order.</summary>
    public required IReadOnlyList<PublicPerson> Practitioners { get; init; }

    /// <summary>Who books here.</summary>
    public required PublicAccess Access { get; init; }

    /// <summary>Most services of one visit, over all who come.</summary>
    public required int MostLines { get; init; }

    /// <summary>Most bytes of a file that answers a question.</summary>
    public required int MostFileBytes { get; init; }

    /// <summary>Most people who come to one visit, whoever books counted.</summary>
    public required int MostPeople { get; init; }

    /// <summary>What a client is asked, in order.</summary>
    public required IReadOnlyList<PublicQuestion> Questions { get; init; }

    /// <summary>What a client has to accept, or null.</summary>
    public required PublicTerms? Terms { get; init; }
}

/// <summary>A picture of the business.</summary>
/// <param name="Id">The picture.</param>
/// <param name="Words">What is to be seen.</param>
public sealed record PublicPicture(Guid Id, string Words);

/// <summary>Who books online.</summary>
/// <param name="Guests">Anybody, by saying who they are.</param>
/// <param name="NewPeople">People who are new, once they have shown that an address is theirs.</param>
/// <param name="KnownPeople">Clients, once they have shown who they are.</param>
public sealed record PublicAccess(bool Guests, bool NewPeople, bool KnownPeople);

/// <summary>A question a client is asked.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Text">What is asked.</param>
/// <param name="Hint">What helps to answer it.</param>
/// <param name="Kind">How it is answered; yes and no are sent as "Yes" and "No".</param>
/// <param name="Choices">The choices, where one of them is the answer.</param>
/// <param name="Required">Whether nobody books without an answer.</param>
/// <param name="ServiceIds">The services it is asked for; empty for all.</param>
public sealed record PublicQuestion(
    Guid Id,
    string Text,
    string Hint,
    QuestionKind Kind,
    IReadOnlyList<string> Choices,
    bool Required,
    IReadOnlyList<Guid> ServiceIds
);

/// <summary>What a client has to accept.</summary>
/// <param name="Id">To be sent with the booking.</param>
/// <param name="Html">The text as safe HTML.</param>
public sealed record PublicTerms(long Id, string Html);

/// <summary>An answer to a question.</summary>
/// <param name="QuestionId">The question.</param>
/// <param name="Answer">The answer.</param>
public sealed record PublicAnswer(Guid QuestionId, string? Answer);

/// <summary>Where a client is led who has booked.</summary>
/// <param name="Address">The address.</param>
/// <param name="Words">What the button says, or null.</param>
/// <param name="AtOnce">Whether they are led there at once.</param>
public sealed record PublicAfter(string Address, string? Words, bool AtOnce);

/// <summary>Somebody who can be booked.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="About">A few words for clients.</param>
/// <param name="Languages">Languages spoken.</param>
/// <param name="PhotoId">A photo, or null for initials.</param>
/// <param name="LocationIds">Where they work.</param>
public sealed record PublicPerson(
    Guid Id,
    string Name,
    string About,
    IReadOnlyList<string> Languages,
    Guid? PhotoId,
    IReadOnlyList<Guid> LocationIds
);

/// <summary>A location.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Address">Address.</param>
/// <param name="Zone">Zone.</param>
/// <param name="Today">The date there now.</param>
/// <param name="Hours">When it is open, as it would stand on the door.</param>
public sealed record PublicLocation(
    Guid Id,
    string Name,
    string Address,
    string Zone,
    LocalDate Today,
    IReadOnlyList<PublicHours> Hours
)
{
    /// <summary>When it is shut in the weeks ahead although its hours say otherwise.</summary>
    public required IReadOnlyList<PublicClosed> Closed { get; init; }
}

/// <summary>Days on which a location is shut, in words.</summary>
/// <param name="Days">Which: "25 December 2027", or from when to when.</param>
/// <param name="Words">What the business says of it, or null.</param>
public sealed record PublicClosed(string Days, string? Words);

/// <summary>Days in a row that have the same opening hours, in words.</summary>
/// <param name="Days">Which: "Mon–Fri".</param>
/// <param name="Open">When: "08:00–20:00", or that it is closed.</param>
public sealed record PublicHours(string Days, string Open);

/// <summary>A category.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Services">Its services.</param>
public sealed record PublicCategory(Guid Id, string Name, IReadOnlyList<PublicService> Services);

/// <summary>A service.</summary>
public sealed record PublicService
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Text.</summary>
    public required string Description { get; init; }

    /// <summary>Usual length.</summary>
    public required int Minutes { get; init; }

    /// <summary>The least it costs.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>Whether some practitioners ask more.</summary>
    public required bool PriceVaries { get; init; }

    /// <summary>Whether it can be booked here, or by phone only.</summary>
    public required bool BookableOnline { get; init; }

    /// <summary>What has to come before it, or null.</summary>
    public required PublicNeed? Needs { get; init; }

    /// <summary>Where it is done.</summary>
    public required IReadOnlyList<Guid> LocationIds { get; init; }

    /// <summary>Who does it.</summary>
    public required IReadOnlyList<PublicPractitioner> Practitioners { get; init; }

    /// <summary>The text as safe HTML.</summary>
    public required string Html { get; init; }

    /// <summary>A picture, or null.</summary>
    public required Guid? PictureId { get; init; }

    /// <summary>How the price is formed.</summary>
    public required PriceForm PriceForm { get; init; }

    /// <summary>Who chooses the practitioner, location by location.</summary>
    public required IReadOnlyList<PublicChoice> Choices { get; init; }

    /// <summary>Extras, the suggested ones first.</summary>
    public required IReadOnlyList<PublicAddOn> AddOns { get; init; }
}

/// <summary>A service that has to come before another.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="Name">Its name.</param>
/// <param name="AtLeastHours">Least hours between its end and the start of the other.</param>
/// <param name="AtMostDays">Most days between them.</param>
public sealed record PublicNeed(Guid ServiceId, string Name, int AtLeastHours, int AtMostDays);

/// <summary>What a visit just booked makes bookable.</summary>
/// <param name="Token">To be sent as "after" with a question for its starts.</param>
/// <param name="Services">The services, and from when.</param>
public sealed record PublicSequel(string Token, IReadOnlyList<PublicOpened> Services);

/// <summary>A service that may be had after a visit.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="Name">Its name.</param>
/// <param name="From">From when.</param>
public sealed record PublicOpened(Guid ServiceId, string Name, Instant From);

/// <summary>Who chooses the practitioner at a location.</summary>
/// <param name="LocationId">The location.</param>
/// <param name="Choice">Who chooses.</param>
public sealed record PublicChoice(Guid LocationId, PractitionerChoice Choice);

/// <summary>What a visit costs and how long it lasts, as far as it is chosen.</summary>
/// <param name="Minutes">How long.</param>
/// <param name="Price">What it costs, extras and all.</param>
/// <param name="IsFrom">Whether it may cost more, with somebody who asks more or by its price form.</param>
/// <param name="Due">What is due before it is booked; null where that depends on when it is, or with whom.</param>
/// <param name="NeedsCard">Whether a card has to be on file, as far as it is known.</param>
public sealed record PublicPrice(int Minutes, MoneyAnswer Price, bool IsFrom, MoneyAnswer? Due, bool NeedsCard)
{
    /// <summary>What became of the promo code; null where none was named. What it takes off is in the price.</summary>
    public required PublicPromo? Promo { get; init; }
}

/// <summary>A visit whose price is asked for.</summary>
/// <param name="Lines">What is wanted, in order.</param>
/// <param name="Link">The direct link the client came with.</param>
/// <param name="LocationId">Where, as far as it is chosen.</param>
/// <param name="Start">When it begins, as far as it is chosen.</param>
/// <param name="Promo">The promo code the client has named; nothing for none.</param>
public sealed record PublicPriceRequest(
    IReadOnlyList<LineRequest>? Lines,
    string? Link = null,
    Guid? LocationId = null,
    Instant? Start = null,
    [property: MaxLength(Promos.LongestTyped)] string? Promo = null
)
{
    /// <summary>As which client they ask, who has shown who they are; null for anybody else.</summary>
    public Guid? As { get; init; }
}

/// <summary>An extra to a service.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Minutes">Minutes it adds.</param>
/// <param name="Price">What one costs.</param>
/// <param name="Most">Most of it.</param>
/// <param name="Suggested">Whether it is suggested.</param>
public sealed record PublicAddOn(Guid Id, string Name, int Minutes, MoneyAnswer Price, int Most, bool Suggested)
{
    /// <summary>What the owner says of it; nothing for no words.</summary>
    public required string Words { get; init; }
}

/// <summary>A practitioner for a service.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Minutes">How long it takes with them.</param>
/// <param name="Price">What it costs with them.</param>
public sealed record PublicPractitioner(Guid Id, string Name, int Minutes, MoneyAnswer Price);

/// <summary>A question for the starts offered.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Lines">What is wanted, in order.</param>
/// <param name="From">The first local date; today when missing.</param>
/// <param name="Days">How many days, 1 to 62; 1 when missing.</param>
/// <param name="Returning">The client says to have been here before.</param>
/// <param name="Link">The direct link the client came with.</param>
/// <param name="After">The token of a visit just booked that has to come first.</param>
public sealed record PublicStartsRequest(
    Guid LocationId,
    IReadOnlyList<LineRequest>? Lines,
    LocalDate? From = null,
    int? Days = null,
    bool? Returning = null,
    string? Link = null,
    string? After = null
)
{
    /// <summary>As which client they ask, who has shown who they are; null for anybody else.</summary>
    public Guid? As { get; init; }
}

/// <summary>The starts offered.</summary>
/// <param name="Zone">Zone of the location.</param>
/// <param name="Days">The days asked for.</param>
/// <param name="Next">The first date after them worth asking for, or null when the horizon is reached.</param>
/// <param name="OnlyReturning">Nothing is offered because whoever does this accepts no new clients.</param>
public sealed record PublicStarts(string Zone, IReadOnlyList<PublicDay> Days, LocalDate? Next, bool OnlyReturning);

/// <summary>A day with its starts.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Left">"closed", "full", "few" or "plenty".</param>
/// <param name="Opens">When clients may first be there, HH:mm; null when closed.</param>
/// <param name="Closes">When the last has left, HH:mm (24:00 for midnight); null when closed.</param>
/// <param name="Closed">What clients read of a closure, or null.</param>
/// <param name="Starts">Starts by time.</param>
/// <param name="IsWeekend">Whether it is a Saturday or a Sunday.</param>
public sealed record PublicDay(
    LocalDate Date,
    string Left,
    string? Opens,
    string? Closes,
    string? Closed,
    IReadOnlyList<PublicStart> Starts,
    bool IsWeekend
);

/// <summary>A start.</summary>
/// <param name="Start">The instant.</param>
/// <param name="Clock">Local time, HH:mm.</param>
/// <param name="Last">Whether the house would rather give another: shown after the others.</param>
/// <param name="Part">The part of the day it lies in.</param>
public sealed record PublicStart(Instant Start, string Clock, bool Last, DayPart Part);
