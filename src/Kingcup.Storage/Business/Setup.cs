using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Messages;
using Kingcup.Core.Money;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using NodaTime;

namespace Kingcup.Storage;

/// <summary>The business itself.</summary>
public sealed record BusinessRow
{
    /// <summary>Name clients read.</summary>
    public string Name { get; init; } = "";

    /// <summary>A few words about it, for clients.</summary>
    public string About { get; init; } = "";

    /// <summary>Currency (ISO 4217).</summary>
    public string Currency { get; init; } = "EUR";

    /// <summary>Locale of dates, figures and names (BCP 47).</summary>
    public string Locale { get; init; } = "en-IE";

    /// <summary>Country of telephone numbers typed without one (ISO 3166-1 alpha-2).</summary>
    public string Region { get; init; } = "IE";

    /// <summary>The number clients are told to call, or null.</summary>
    public string? Phone { get; init; }

    /// <summary>The colour of buttons on the booking page, as #17594A.</summary>
    public string ColourMain { get; init; } = "#17594A";

    /// <summary>The colour that marks what is chosen there.</summary>
    public string ColourAccent { get; init; } = "#F4B400";

    /// <summary>The logo, or null.</summary>
    public Guid? LogoId { get; init; }

    /// <summary>The pictures of the booking page, in order.</summary>
    public IReadOnlyList<BusinessPicture> Pictures { get; init; } = [];

    /// <summary>Whether the first-run guide was finished or put away.</summary>
    public bool GuideFinished { get; init; }

    /// <summary>Whether owners sign in with a second factor.</summary>
    public bool OwnersNeedCode { get; init; }

    /// <summary>The reasons for cancelling that are offered at the desk, in order.</summary>
    public string[] CancelReasons { get; init; } = [.. UsualCancelReasons];

    /// <summary>What they are until the owner says otherwise.</summary>
    public static IReadOnlyList<string> UsualCancelReasons { get; } =
        ["Ill", "Changed their mind", "Something came up", "Practitioner is away", "Booked by mistake"];

    /// <summary>When the hours begin in which nobody is disturbed.</summary>
    public LocalTime QuietFrom { get; init; }

    /// <summary>When they end.</summary>
    public LocalTime QuietUntil { get; init; }

    /// <summary>The hours in which nobody is disturbed.</summary>
    public QuietHours Quiet => new(QuietFrom, QuietUntil);

    /// <summary>The language of the locale (ISO 639).</summary>
    public string Language => Locale.Split('-')[0].ToLowerInvariant();

    /// <summary>Whether this is the demo business.</summary>
    public bool IsDemo { get; init; }

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; } = 1;
}

/// <summary>A picture of the business.</summary>
/// <param name="PictureId">The picture.</param>
/// <param name="Words">What is to be seen, for whoever cannot see it.</param>
public sealed record BusinessPicture(Guid PictureId, string Words)
{
    /// <summary>Most pictures of the business.</summary>
    public const int Most = 4;
}

/// <summary>A tax rate.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="BasisPoints">Hundredths of a percent.</param>
/// <param name="Position">Place in the list.</param>
public sealed record TaxRate(Guid Id, string Name, int BasisPoints, int Position);

/// <summary>A category with its version.</summary>
/// <param name="Category">The category.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedCategory(Category Category, long Version = 1);

/// <summary>A service with what only the screens need.</summary>
/// <param name="Service">The service.</param>
/// <param name="Description">Text for clients (Markdown).</param>
/// <param name="Position">Place in its category.</param>
public sealed record ListedService(Service Service, string Description, int Position)
{
    /// <summary>Name clients read, where it differs.</summary>
    public string? OnlineName { get; init; }

    /// <summary>Minutes clients read, where they differ from the length held.</summary>
    public int? OnlineMinutes { get; init; }

    /// <summary>The token of its direct link; null to have one made.</summary>
    public string? Link { get; init; }

    /// <summary>Its picture, or null.</summary>
    public Guid? PictureId { get; init; }

    /// <summary>Days after which clients are advised to come back, or null.</summary>
    public int? ReturnDays { get; init; }

    /// <summary>Its tax rate, or null.</summary>
    public Guid? TaxRateId { get; init; }

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; } = 1;
}

/// <summary>An add-on with its version.</summary>
/// <param name="AddOn">The add-on.</param>
/// <param name="IsArchived">Whether it is no longer sold.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedAddOn(AddOn AddOn, bool IsArchived = false, long Version = 1)
{
    /// <summary>What the owner says of it to clients, 200 characters at the most; nothing for no words.</summary>
    public string Words { get; init; } = "";
}

/// <summary>A location with what only the screens need.</summary>
/// <param name="Location">The location.</param>
/// <param name="Address">Postal address.</param>
/// <param name="Position">Place in the house order.</param>
/// <param name="Phone">Its own number, or empty.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedLocation(Location Location, string Address, int Position, string Phone = "", long Version = 1);

/// <summary>A practitioner with what only the screens need.</summary>
/// <param name="Practitioner">The practitioner.</param>
public sealed record ListedPractitioner(Practitioner Practitioner)
{
    /// <summary>A few words for clients.</summary>
    public string Bio { get; init; } = "";

    /// <summary>Number (E.164), or null.</summary>
    public string? Phone { get; init; }

    /// <summary>E-mail address, or null.</summary>
    public string? Email { get; init; }

    /// <summary>Languages spoken.</summary>
    public IReadOnlyList<string> Languages { get; init; } = [];

    /// <summary>Which tint of the family, 0 to 11.</summary>
    public int Tint { get; init; }

    /// <summary>A photo, or null for initials.</summary>
    public Guid? PhotoId { get; init; }

    /// <summary>Evidence on file, by qualification and first date.</summary>
    public IReadOnlyDictionary<(Guid QualificationId, LocalDate From), Guid> Evidence { get; init; } =
        new Dictionary<(Guid, LocalDate), Guid>();

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; } = 1;
}

/// <summary>A room with its location.</summary>
/// <param name="Room">The room.</param>
/// <param name="LocationId">Where it is.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedRoom(Room Room, Guid LocationId, long Version = 1);

/// <summary>Equipment with its location.</summary>
/// <param name="Pool">The pool.</param>
/// <param name="LocationId">Where it is.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedPool(EquipmentPool Pool, Guid LocationId, long Version = 1);

/// <summary>A qualification people may hold.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="WarnDays">How many days before it runs out a warning is shown.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record Qualification(Guid Id, string Name, int WarnDays = 30, long Version = 1);

/// <summary>Everything the setup holds, as it was read.</summary>
public sealed record SetupParts
{
    /// <summary>Locations in house order.</summary>
    public required IReadOnlyList<ListedLocation> Locations { get; init; }

    /// <summary>Practitioners in house order, those who have left too.</summary>
    public required IReadOnlyList<ListedPractitioner> Practitioners { get; init; }

    /// <summary>Rooms in house order, retired ones too.</summary>
    public required IReadOnlyList<ListedRoom> Rooms { get; init; }

    /// <summary>Equipment in house order, retired too.</summary>
    public required IReadOnlyList<ListedPool> Pools { get; init; }

    /// <summary>Categories in house order.</summary>
    public required IReadOnlyList<ListedCategory> Categories { get; init; }

    /// <summary>Services by category and place, archived ones too.</summary>
    public required IReadOnlyList<ListedService> Services { get; init; }

    /// <summary>Add-ons in order, archived ones too.</summary>
    public required IReadOnlyList<ListedAddOn> AddOns { get; init; }

    /// <summary>Questions to clients who book online, in order, those no longer asked too.</summary>
    public required IReadOnlyList<ListedQuestion> Questions { get; init; }

    /// <summary>What clients accept, and where they are led.</summary>
    public required BookingPageRow BookingPage { get; init; }

    /// <summary>What clients give when they book, in order.</summary>
    public required IReadOnlyList<ListedGuarantee> Guarantees { get; init; }

    /// <summary>Promo codes by code, those that were ended last.</summary>
    public required IReadOnlyList<ListedPromo> Promos { get; init; }

    /// <summary>What cancelling costs who books now, for each location that has a policy.</summary>
    public required IReadOnlyList<ListedPolicy> Policies { get; init; }

    /// <summary>Who is told what and when, in order.</summary>
    public required IReadOnlyList<ListedMessage> Messages { get; init; }

    /// <summary>Qualifications by name.</summary>
    public required IReadOnlyList<Qualification> Qualifications { get; init; }

    /// <summary>Features rooms may have, by name.</summary>
    public required IReadOnlyList<string> Features { get; init; }

    /// <summary>Tax rates in order.</summary>
    public required IReadOnlyList<TaxRate> TaxRates { get; init; }

    /// <summary>Rotas of everyone.</summary>
    public required IReadOnlyList<Versioned<Rota>> Rotas { get; init; }

    /// <summary>Closures that come back every year, of every location.</summary>
    public required IReadOnlyList<Versioned<Closure>> YearlyClosures { get; init; }

    /// <summary>Blocked time that repeats.</summary>
    public required IReadOnlyList<Versioned<RepeatingBlock>> RepeatingBlocks { get; init; }

    /// <summary>Minutes between locations.</summary>
    public required IReadOnlyDictionary<(Guid From, Guid To), int> Travel { get; init; }
}

/// <summary>The whole setup of a business at one revision; never changed once loaded, so many requests may share it.</summary>
public sealed class Setup
{
    private readonly Dictionary<Guid, House> _houses;
    private readonly Dictionary<Guid, Service> _services;
    private readonly Dictionary<Guid, int> _taxes;

    internal Setup(long revision, BusinessRow business, SetupParts parts)
    {
        Revision = revision;
        Business = business;
        Parts = parts;
        Practitioners = [.. parts.Practitioners.Select(practitioner => practitioner.Practitioner)];
        Rotas = new RotaCalendar(parts.Rotas.Select(rota => rota.Value));
        _services = parts.Services.ToDictionary(listed => listed.Service.Id, listed => listed.Service);
        Dictionary<Guid, int> rates = parts.TaxRates.ToDictionary(rate => rate.Id, rate => rate.BasisPoints);
        _taxes = parts.Services.ToDictionary(
            listed => listed.Service.Id,
            listed => listed.TaxRateId is { } id ? rates.GetValueOrDefault(id) : 0
        );
        _houses = parts.Locations.ToDictionary(
            location => location.Location.Id,
            location => new House(
                location.Location,
                Practitioners,
                parts.Rooms.Where(room => room.LocationId == location.Location.Id).Select(room => room.Room),
                parts.Pools.Where(pool => pool.LocationId == location.Location.Id).Select(pool => pool.Pool),
                _services.Values,
                Rotas,
                parts.Travel,
                parts.Categories.Select(category => category.Category))
            { BusinessIsOnline = parts.BookingPage.BookableOnline });
    }

    /// <summary>Counts the changes of the setup.</summary>
    public long Revision { get; }

    /// <summary>The business.</summary>
    public BusinessRow Business { get; }

    /// <summary>Everything it is made of.</summary>
    public SetupParts Parts { get; }

    /// <summary>Locations in house order.</summary>
    public IReadOnlyList<ListedLocation> Locations => Parts.Locations;

    /// <summary>The date where the business is: at its first location, or by UTC while it has none.</summary>
    public LocalDate Today(Instant now) => now.InZone(Locations.Count > 0 ? Locations[0].Location.Zone : DateTimeZone.Utc).Date;

    /// <summary>Practitioners in house order, those who have left too.</summary>
    public IReadOnlyList<Practitioner> Practitioners { get; }

    /// <summary>Categories in house order.</summary>
    public IReadOnlyList<ListedCategory> Categories => Parts.Categories;

    /// <summary>Services that are done, by category and place.</summary>
    public IEnumerable<ListedService> Services => Parts.Services.Where(listed => !listed.Service.IsArchived);

    /// <summary>Who works when by their rotas.</summary>
    public RotaCalendar Rotas { get; }

    /// <summary>The house of a location, or null when there is no such location.</summary>
    public House? HouseOf(Guid locationId) => _houses.GetValueOrDefault(locationId);

    /// <summary>All houses.</summary>
    public IEnumerable<House> Houses => Parts.Locations.Select(location => _houses[location.Location.Id]);

    /// <summary>A service by identity, archived or not; null when there is none.</summary>
    public Service? ServiceOf(Guid serviceId) => _services.GetValueOrDefault(serviceId);

    /// <summary>The tax in the price of a service, in hundredths of a percent; 0 where none is set.</summary>
    public int TaxOf(Guid serviceId) => _taxes.GetValueOrDefault(serviceId);

    /// <summary>The guarantee rules of all places of a service at a location.</summary>
    public IReadOnlyList<GuaranteeRule> GuaranteesOf(Guid locationId, Service service)
    {
        ArgumentNullException.ThrowIfNull(service);
        return
        [
            .. Parts
                .Guarantees.Where(listed =>
                    listed.PlaceId == locationId || listed.PlaceId == service.CategoryId || listed.PlaceId == service.Id
                )
                .Select(listed => listed.Rule),
        ];
    }

    /// <summary>What cancelling costs whoever books at a location now; null where it never costs anything.</summary>
    public ListedPolicy? PolicyOf(Guid locationId) => Parts.Policies.FirstOrDefault(listed => listed.LocationId == locationId);

    /// <summary>An add-on that is sold, by identity; null when there is none.</summary>
    public AddOn? AddOnOf(Guid addOnId) => Parts.AddOns.FirstOrDefault(listed => listed.AddOn.Id == addOnId && !listed.IsArchived)?.AddOn;
}
