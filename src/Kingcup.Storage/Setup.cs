using Kingcup.Core.Availability;
using Kingcup.Core.Resources;
using Kingcup.Core.Services;
using Kingcup.Core.Time;

namespace Kingcup.Storage;

/// <summary>The business itself.</summary>
public sealed class BusinessRow
{
    /// <summary>Name clients read.</summary>
    public string Name { get; init; } = "";

    /// <summary>Currency (ISO 4217).</summary>
    public string Currency { get; init; } = "EUR";

    /// <summary>Locale of dates, figures and names (BCP 47).</summary>
    public string Locale { get; init; } = "en-IE";

    /// <summary>Country of telephone numbers typed without one (ISO 3166-1 alpha-2).</summary>
    public string Region { get; init; } = "IE";

    /// <summary>The number clients are told to call, or null.</summary>
    public string? Phone { get; init; }

    /// <summary>Whether this is the demo business.</summary>
    public bool IsDemo { get; init; }
}

/// <summary>A group of services.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Position">Place in the house order.</param>
public sealed record Category(Guid Id, string Name, int Position);

/// <summary>A service with what only the screens need.</summary>
/// <param name="Service">The service.</param>
/// <param name="Description">Text for clients.</param>
/// <param name="Position">Place in its category.</param>
public sealed record ListedService(Service Service, string Description, int Position);

/// <summary>A location with what only the screens need.</summary>
/// <param name="Location">The location.</param>
/// <param name="Address">Postal address.</param>
/// <param name="Position">Place in the house order.</param>
public sealed record ListedLocation(Location Location, string Address, int Position);

/// <summary>A qualification people may hold.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
public sealed record Qualification(Guid Id, string Name);

/// <summary>The whole setup of a business at one revision; never changed once loaded, so many requests may share it.</summary>
public sealed class Setup
{
    private readonly Dictionary<Guid, House> _houses;

    internal Setup(
        long revision,
        BusinessRow business,
        IReadOnlyList<ListedLocation> locations,
        IReadOnlyList<Practitioner> practitioners,
        IReadOnlyDictionary<Guid, IReadOnlyList<Room>> rooms,
        IReadOnlyDictionary<Guid, IReadOnlyList<EquipmentPool>> pools,
        IReadOnlyList<Category> categories,
        IReadOnlyList<ListedService> services,
        IReadOnlyList<Qualification> qualifications,
        RotaCalendar calendar,
        IReadOnlyDictionary<(Guid, Guid), int> travel,
        IReadOnlyList<BlockedTime> blocked)
    {
        Revision = revision;
        Business = business;
        Locations = locations;
        Practitioners = practitioners;
        Categories = categories;
        Services = services;
        Qualifications = qualifications;
        Calendar = calendar;
        Blocked = blocked;
        _houses = locations.ToDictionary(
            one => one.Location.Id,
            one => new House(
                one.Location,
                practitioners,
                rooms.GetValueOrDefault(one.Location.Id) ?? [],
                pools.GetValueOrDefault(one.Location.Id) ?? [],
                services.Select(listed => listed.Service),
                calendar,
                travel));
    }

    /// <summary>Counts the changes of the setup.</summary>
    public long Revision { get; }

    /// <summary>The business.</summary>
    public BusinessRow Business { get; }

    /// <summary>Locations in house order.</summary>
    public IReadOnlyList<ListedLocation> Locations { get; }

    /// <summary>Practitioners in house order.</summary>
    public IReadOnlyList<Practitioner> Practitioners { get; }

    /// <summary>Categories in house order.</summary>
    public IReadOnlyList<Category> Categories { get; }

    /// <summary>Services, by category and place.</summary>
    public IReadOnlyList<ListedService> Services { get; }

    /// <summary>Qualifications by name.</summary>
    public IReadOnlyList<Qualification> Qualifications { get; }

    /// <summary>Who works when.</summary>
    public RotaCalendar Calendar { get; }

    /// <summary>All blocked time.</summary>
    public IReadOnlyList<BlockedTime> Blocked { get; }

    /// <summary>The house of a location, or null when there is no such location.</summary>
    public House? HouseOf(Guid locationId) => _houses.GetValueOrDefault(locationId);

    /// <summary>A service by identity, or null.</summary>
    public Service? ServiceOf(Guid serviceId) => _houses.Values.FirstOrDefault()?.Services.GetValueOrDefault(serviceId);
}
