using Kingcup.Core.Business;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using NodaTime;

namespace Kingcup.Server.Business;

/// <summary>What a business of a trade usually begins with.</summary>
/// <param name="Trade">The trade.</param>
/// <param name="Opening">Opening hours.</param>
/// <param name="Qualifications">Qualifications somebody may have to hold.</param>
/// <param name="Rooms">Rooms.</param>
/// <param name="Services">Services; their prices are in whole units of the currency.</param>
public sealed record BeginningAnswer(
    Trade Trade,
    IReadOnlyList<HoursDocument> Opening,
    IReadOnlyList<string> Qualifications,
    IReadOnlyList<BeginRoom> Rooms,
    IReadOnlyList<BeginService> Services
)
{
    internal static BeginningAnswer Of(Beginning beginning) =>
        new(
            beginning.Trade,
            [.. beginning.Hours.Select(hours => new HoursDocument((Weekday)hours.Weekday, hours.During.From, hours.During.Until))],
            beginning.Qualifications,
            [.. beginning.Rooms.Select(room => new BeginRoom(room.Name, room.Features))],
            [
                .. beginning.Services.Select(service => new BeginService
                {
                    Name = service.Name,
                    Category = service.Category,
                    Minutes = service.Minutes,
                    BufferMinutes = service.BufferMinutes,
                    Price = service.Price,
                    Feature = service.Feature,
                    Qualification = service.Qualification,
                }),
            ]
        );
}

/// <summary>A room to begin with.</summary>
/// <param name="Name">Name on the door.</param>
/// <param name="Features">What it has.</param>
public sealed record BeginRoom(string? Name, IReadOnlyList<string>? Features);

/// <summary>Somebody who works here from the beginning.</summary>
/// <param name="Name">Their name.</param>
/// <param name="Weekdays">The days they work, all opening hours of each; none means every day that is open.</param>
/// <param name="Holds">The qualifications they hold, by name.</param>
public sealed record BeginPerson(string? Name, IReadOnlyList<Weekday>? Weekdays, IReadOnlyList<string>? Holds);

/// <summary>A service to begin with.</summary>
public sealed record BeginService
{
    /// <summary>Name.</summary>
    public required string? Name { get; init; }

    /// <summary>Name of the category it stands in.</summary>
    public required string? Category { get; init; }

    /// <summary>Minutes it takes.</summary>
    public required int Minutes { get; init; }

    /// <summary>Minutes kept after it.</summary>
    public required int BufferMinutes { get; init; }

    /// <summary>Price in minor units of the currency.</summary>
    public required long Price { get; init; }

    /// <summary>What its room has to have, or null.</summary>
    public string? Feature { get; init; }

    /// <summary>The qualification whoever does it holds, by name, or null for everybody.</summary>
    public string? Qualification { get; init; }
}

/// <summary>A business as its owner describes it first.</summary>
public sealed record BeginRequest
{
    /// <summary>Name clients read.</summary>
    public required string? Name { get; init; }

    /// <summary>Name of the location.</summary>
    public required string? Place { get; init; }

    /// <summary>Where it is.</summary>
    public required string? Address { get; init; }

    /// <summary>Its time zone, as Europe/Dublin.</summary>
    public required string? Zone { get; init; }

    /// <summary>Country (ISO 3166-1 alpha-2).</summary>
    public required string? Region { get; init; }

    /// <summary>Currency (ISO 4217).</summary>
    public required string? Currency { get; init; }

    /// <summary>Locale (BCP 47).</summary>
    public required string? Locale { get; init; }

    /// <summary>The tax prices include, in hundredths of a percent; null for none.</summary>
    public int? TaxBasisPoints { get; init; }

    /// <summary>Opening hours; everybody's first rota follows them, from today on.</summary>
    public required IReadOnlyList<HoursDocument>? Opening { get; init; }

    /// <summary>Qualifications somebody may have to hold.</summary>
    public required IReadOnlyList<string>? Qualifications { get; init; }

    /// <summary>Who works here.</summary>
    public required IReadOnlyList<BeginPerson>? People { get; init; }

    /// <summary>Rooms.</summary>
    public required IReadOnlyList<BeginRoom>? Rooms { get; init; }

    /// <summary>Services.</summary>
    public required IReadOnlyList<BeginService>? Services { get; init; }

    /// <summary>The location's rules of online booking.</summary>
    public required OnlineRules? Online { get; init; }
}

/// <summary>A service as clients would find it.</summary>
/// <param name="Name">Name.</param>
/// <param name="Price">Price.</param>
/// <param name="Date">The first date on which it could be booked, or null.</param>
/// <param name="Clock">The first time then, HH:mm.</param>
/// <param name="Reasons">Why it cannot be booked in the next two weeks.</param>
public sealed record BegunService(string Name, MoneyAnswer Price, LocalDate? Date, string? Clock, IReadOnlyList<ReasonText> Reasons);

/// <summary>What clients would find.</summary>
/// <param name="Today">The date at the location.</param>
/// <param name="Services">The services.</param>
public sealed record BegunAnswer(LocalDate Today, IReadOnlyList<BegunService> Services);
