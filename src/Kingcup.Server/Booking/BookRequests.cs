using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.Clients;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>A visit to be booked at the desk.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Start">When.</param>
/// <param name="Lines">What, in order.</param>
/// <param name="ClientId">A known client; or <paramref name="NewClient"/>.</param>
/// <param name="NewClient">A client entered with the booking.</param>
/// <param name="Note">A note for the desk.</param>
public sealed record BookRequest(
    Guid LocationId,
    Instant Start,
    IReadOnlyList<DeskLineRequest>? Lines,
    Guid? ClientId = null,
    NewClientRequest? NewClient = null,
    string? Note = null
)
{
    /// <summary>Who comes besides the client: person 1 of the lines, 2 and so on.</summary>
    public IReadOnlyList<PersonRequest>? People { get; init; }

    /// <summary>Who pays, a known client; the client when missing.</summary>
    public Guid? PayerId { get; init; }

    /// <summary>Checks who comes besides the client, and that every line is for somebody who does.</summary>
    internal IReadOnlyList<VisitPersonRow> CheckPeople(Checks checks)
    {
        IReadOnlyList<PersonRequest> people = People ?? [];
        foreach ((int i, LineRequest line) in (Lines ?? []).Index())
            checks.Require((line.Person ?? 0) <= people.Count, $"lines[{i}].person", "Say under 'people' who that is.");
        return PersonRequest.Check(people, checks, Sentence.Say("Choose a client, or enter a name."));
    }
}

/// <summary>Somebody who comes besides the client: a known client, or only a name.</summary>
/// <param name="ClientId">The client, or null.</param>
/// <param name="Name">The name, or null.</param>
public sealed record PersonRequest(Guid? ClientId = null, string? Name = null)
{
    /// <summary>Checks who comes besides the client, in order.</summary>
    /// <param name="people">Who.</param>
    /// <param name="checks">Where what is wrong is noted.</param>
    /// <param name="unnamed">What is said of somebody who has no name.</param>
    internal static IReadOnlyList<VisitPersonRow> Check(IReadOnlyList<PersonRequest> people, Checks checks, Sentence unnamed)
    {
        checks.Require(people.Count <= 5, "people", "Up to six people come together.");
        foreach ((int i, PersonRequest person) in people.Index())
        {
            if (
                checks.Require(
                    (person.ClientId is null) != string.IsNullOrWhiteSpace(person.Name),
                    $"people[{i}].name",
                    unnamed
                ) && person.ClientId is null
            )
                checks.Require(
                    person.Name!.Trim().Length <= 160 && !person.Name.Any(char.IsControl),
                    $"people[{i}].name",
                    "160 characters at the most, on one line."
                );
        }

        return
        [
            .. people.Select(
                (person, i) =>
                    new VisitPersonRow
                    {
                        Person = (short)(i + 1),
                        ClientId = person.ClientId,
                        Name = person.Name?.Trim() ?? "",
                    }
            ),
        ];
    }
}

/// <summary>Where a visit is to be moved.</summary>
/// <param name="Start">The new start.</param>
/// <param name="PractitionerId">Who is to do it; null keeps whoever does it now where they can.</param>
public sealed record MoveRequest(Instant Start, Guid? PractitionerId = null);

/// <summary>How a visit is to lie from now on.</summary>
/// <param name="Start">When it begins.</param>
/// <param name="Lines">Its lines in order: those that go on with their identity, new ones without. A line that is not named is taken
/// out.</param>
public sealed record LayRequest(Instant Start, IReadOnlyList<DeskLineRequest>? Lines);

/// <summary>Why a visit is cancelled.</summary>
/// <param name="Reason">The reason, kept with the visit.</param>
/// <param name="By">On whose account: the client's, when nothing is said.</param>
/// <param name="FeeSeen">What it costs as it was read, in minor units; where that has changed, nothing is cancelled.</param>
/// <param name="Waive">Why the client is let off what it costs, or null where they are not.</param>
/// <param name="Words">What is written to a client whose request is declined; null for nothing.</param>
public sealed record CancelRequest(
    string? Reason,
    CancelledBy By = CancelledBy.Client,
    long? FeeSeen = null,
    string? Waive = null,
    string? Words = null
);

/// <summary>Where a visit is to stand.</summary>
/// <param name="State">The new state; cancelling has an address of its own.</param>
/// <param name="FeeSeen">What it costs not to come as it was read, in minor units; where that has changed, nothing is done.</param>
/// <param name="Waive">Why the client is let off what it costs, or null where they are not.</param>
public sealed record StateRequest(VisitState State, long? FeeSeen = null, string? Waive = null);

/// <summary>A room as the desk needs it.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name on the door.</param>
/// <param name="LocationId">Where it is.</param>
public sealed record DeskRoom(Guid Id, string Name, Guid LocationId);

/// <summary>The setup as the desk needs it.</summary>
public sealed record DeskSetup
{
    /// <summary>Name of the business.</summary>
    public required string Business { get; init; }

    /// <summary>Currency.</summary>
    public required string Currency { get; init; }

    /// <summary>Locale.</summary>
    public required string Locale { get; init; }

    /// <summary>Whether this is the demo business.</summary>
    public required bool IsDemo { get; init; }

    /// <summary>The present, by the server's clock.</summary>
    public required Instant Now { get; init; }

    /// <summary>Locations in house order.</summary>
    public required IReadOnlyList<DeskLocation> Locations { get; init; }

    /// <summary>The reasons for cancelling that are offered, in order.</summary>
    public required IReadOnlyList<string> CancelReasons { get; init; }

    /// <summary>Rooms in use, in house order.</summary>
    public required IReadOnlyList<DeskRoom> Rooms { get; init; }

    /// <summary>Categories in house order.</summary>
    public required IReadOnlyList<NamedAnswer> Categories { get; init; }

    /// <summary>Services in order.</summary>
    public required IReadOnlyList<DeskService> Services { get; init; }

    /// <summary>Practitioners in house order.</summary>
    public required IReadOnlyList<DeskPractitioner> Practitioners { get; init; }
}

/// <summary>A practitioner as the desk chooses one.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="HasLeft">Whether they no longer work here; their visits keep their name.</param>
public sealed record DeskPractitioner(Guid Id, string Name, bool HasLeft);

/// <summary>A location.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Zone">Zone.</param>
/// <param name="Today">The local date by the server's clock.</param>
/// <param name="Opening">When clients may be there, weekday by weekday.</param>
public sealed record DeskLocation(Guid Id, string Name, string Zone, LocalDate Today, IReadOnlyList<HoursDocument> Opening);

/// <summary>A service as the desk chooses it.</summary>
public sealed record DeskService
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>Category.</summary>
    public required Guid CategoryId { get; init; }

    /// <summary>Usual length.</summary>
    public required int Minutes { get; init; }

    /// <summary>List price.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>Where it is done.</summary>
    public required IReadOnlyList<Guid> LocationIds { get; init; }

    /// <summary>Who may do it.</summary>
    public required IReadOnlyList<Guid> PractitionerIds { get; init; }

    /// <summary>Extras, the suggested ones first.</summary>
    public required IReadOnlyList<DeskAddOn> AddOns { get; init; }
}

/// <summary>An extra as the desk chooses it.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Minutes">Minutes it adds.</param>
/// <param name="Price">What it costs.</param>
public sealed record DeskAddOn(Guid Id, string Name, int Minutes, MoneyAnswer Price);
