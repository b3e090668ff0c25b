using System.Collections.Concurrent;
using Kingcup.Core.Business;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;

namespace Kingcup.Core.Availability;

/// <summary>
/// One location as described by its owner: who, where, with what, and which services. It changes with the setup only,
/// never with a booking, so one house serves many days and many questions.
/// </summary>
public sealed class House
{
    private readonly Dictionary<Guid, int> _firstUnit = [];
    private readonly ConcurrentDictionary<(Guid ServiceId, int Minutes), LineShape> _shapes = new();
    private readonly ConcurrentDictionary<Guid, EffectiveRules> _rules = new();
    private readonly Dictionary<Guid, Category> _categories;
    private readonly IReadOnlyDictionary<(Guid From, Guid To), int> _travel;

    /// <summary>Describes a location.</summary>
    /// <param name="location">The location.</param>
    /// <param name="practitioners">Everyone who may work there.</param>
    /// <param name="rooms">Its rooms.</param>
    /// <param name="pools">Its equipment.</param>
    /// <param name="services">Services, of all locations.</param>
    /// <param name="rotas">Who works when by their rotas.</param>
    /// <param name="travelMinutes">Minutes between pairs of locations; each pair in both directions.</param>
    /// <param name="categories">Categories, for the rules they set.</param>
    public House(
        Location location,
        IEnumerable<Practitioner> practitioners,
        IEnumerable<Room> rooms,
        IEnumerable<EquipmentPool> pools,
        IEnumerable<Service> services,
        RotaCalendar rotas,
        IReadOnlyDictionary<(Guid From, Guid To), int>? travelMinutes = null,
        IEnumerable<Category>? categories = null)
    {
        Location = location;
        Practitioners = [.. practitioners.OrderBy(practitioner => practitioner.Order).ThenBy(practitioner => practitioner.Id)];
        Rooms = [.. rooms.OrderBy(room => room.Order).ThenBy(room => room.Id)];
        Pools = [.. pools.OrderBy(pool => pool.Order).ThenBy(pool => pool.Id)];
        Services = services.ToDictionary(service => service.Id);
        Rotas = rotas;
        _categories = (categories ?? []).ToDictionary(category => category.Id);
        _travel = travelMinutes ?? new Dictionary<(Guid, Guid), int>();
        foreach (Practitioner practitioner in Practitioners) Take(practitioner.Id, practitioner.Attention);
        foreach (Room room in Rooms) Take(room.Id, room.Capacity);
        foreach (EquipmentPool pool in Pools) Take(pool.Id, pool.Quantity);
        HasDailyLimits = Practitioners.Any(practitioner => !practitioner.Limits.AreOff);
        PersonUnits = [.. Practitioners.Select(practitioner => _firstUnit[practitioner.Id])];
        RoomUnits = [.. Rooms.Select(room => _firstUnit[room.Id])];
        PoolUnits = [.. Pools.Select(pool => _firstUnit[pool.Id])];
    }

    /// <summary>The location.</summary>
    public Location Location { get; }

    /// <summary>Whether the business takes bookings online at all.</summary>
    public bool BusinessIsOnline { get; init; } = true;

    /// <summary>Practitioners in house order.</summary>
    public IReadOnlyList<Practitioner> Practitioners { get; }

    /// <summary>Rooms in house order.</summary>
    public IReadOnlyList<Room> Rooms { get; }

    /// <summary>Equipment in house order.</summary>
    public IReadOnlyList<EquipmentPool> Pools { get; }

    /// <summary>Services by identity.</summary>
    public IReadOnlyDictionary<Guid, Service> Services { get; }

    /// <summary>Who works when by their rotas; what holds on dates comes with the day.</summary>
    public RotaCalendar Rotas { get; }

    /// <summary>The rules of online booking that hold for a service here.</summary>
    public EffectiveRules RulesOf(Service service)
    {
        ArgumentNullException.ThrowIfNull(service);
        return _rules.GetOrAdd(
            service.Id,
            static (_, of) =>
                new EffectiveRules(of.House.Location, of.House._categories.GetValueOrDefault(of.Service.CategoryId), of.Service),
            (House: this, Service: service)
        );
    }

    /// <summary>A category by identity, or null.</summary>
    internal Category? CategoryOf(Guid id) => _categories.GetValueOrDefault(id);

    /// <summary>This house with other people, rooms, equipment and services; rules, rotas and travel stay.</summary>
    internal House With(
        IEnumerable<Practitioner> practitioners,
        IEnumerable<Room> rooms,
        IEnumerable<EquipmentPool> pools,
        IEnumerable<Service> services
    ) =>
        new(Location, practitioners, rooms, pools, services, Rotas, _travel, _categories.Values) { BusinessIsOnline = BusinessIsOnline };

    /// <summary>This house with one service described otherwise, or one more; everything else is shared.</summary>
    public House With(Service service)
    {
        ArgumentNullException.ThrowIfNull(service);
        return new House(
            Location,
            Practitioners,
            Rooms,
            Pools,
            [.. Services.Values.Where(item => item.Id != service.Id), service],
            Rotas,
            _travel,
            _categories.Values
        )
        {
            BusinessIsOnline = BusinessIsOnline,
        };
    }

    /// <summary>Whether anybody's day is limited.</summary>
    internal bool HasDailyLimits { get; }

    /// <summary>The index of each practitioner's first unit among all units.</summary>
    internal int[] PersonUnits { get; }

    /// <summary>The index of each pool's first unit among all units.</summary>
    internal int[] PoolUnits { get; }

    /// <summary>The place of a pool in the house order, or -1 when it is not of this house.</summary>
    internal int PoolOf(Guid poolId)
    {
        for (int i = 0; i < Pools.Count; i++)
            if (Pools[i].Id == poolId) return i;
        return -1;
    }

    /// <summary>The place of a practitioner in the house order, or -1.</summary>
    internal int PlaceOf(Guid practitionerId)
    {
        for (int i = 0; i < Practitioners.Count; i++)
            if (Practitioners[i].Id == practitionerId) return i;
        return -1;
    }

    /// <summary>How many units a service takes of a practitioner's attention.</summary>
    internal int UnitsOf(int practitioner, Service service) => service.BesideOthers ? 1 : Practitioners[practitioner].Attention;

    /// <summary>The index of each room's first unit among all units.</summary>
    internal int[] RoomUnits { get; }

    /// <summary>How many units of all resources there are.</summary>
    internal int UnitCount { get; private set; }

    /// <summary>The index of a resource's first unit among all units, or null when it is not of this house.</summary>
    internal int? FirstUnitOf(Guid resourceId) => _firstUnit.TryGetValue(resourceId, out int unit) ? unit : null;

    /// <summary>Minutes between two locations; 0 when they are the same or nothing is set.</summary>
    internal int TravelMinutes(Guid from, Guid to) => from == to ? 0 : _travel.GetValueOrDefault((from, to));

    /// <summary>The layout of a service for a length in minutes.</summary>
    internal LineShape Shape(Service service, int minutes) =>
        _shapes.GetOrAdd((service.Id, minutes), static (key, wanted) => new LineShape(wanted, key.Minutes), service);

    private void Take(Guid resourceId, int units)
    {
        _firstUnit.Add(resourceId, UnitCount);
        UnitCount += units;
    }
}
