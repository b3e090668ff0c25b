using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Tests.Availability;

/// <summary>A one-practitioner, one-room house that the worked examples are told in: 09:00 to 17:00 on a Wednesday.</summary>
internal sealed class ExampleHouse
{
    internal static readonly LocalDate Date = new(2027, 5, 12);
    internal static readonly Guid Here = Worlds.Id(1);
    internal static readonly Guid Ana = Worlds.Id(10);
    internal static readonly Guid Ben = Worlds.Id(11);
    internal static readonly Guid RoomA = Worlds.Id(20);
    internal static readonly Guid RoomB = Worlds.Id(21);
    internal static readonly Guid Lamp = Worlds.Id(30);

    internal Location Location { get; set; } = new()
    {
        Id = Here,
        Name = "Here",
        Zone = DateTimeZoneProviders.Tzdb["Europe/Dublin"],
        Opening = [new OpeningHours(IsoDayOfWeek.Wednesday, Stretch.Between(8, 0, 20, 0))],
        Online = new OnlineRules { Grid = StartGrid.EveryMinutes, EveryMinutes = 30, LeadMinutes = 0, HorizonDays = 60 },
    };

    internal List<Practitioner> Practitioners { get; } = [new() { Id = Ana, Name = "Ana" }];

    internal List<Room> Rooms { get; } = [new() { Id = RoomA, Name = "A" }];

    internal List<EquipmentPool> Pools { get; } = [];

    internal List<Service> Services { get; } = [];

    internal List<ShiftChange> Changes { get; } = [];

    internal List<Closure> Closures { get; } = [];

    internal List<OnlineStop> Stops { get; } = [];

    internal List<TakenTime> Taken { get; } = [];

    internal List<BlockedTime> Blocked { get; } = [];

    internal Stretch Shift { get; set; } = Stretch.Between(9, 0, 17, 0);

    internal House Build() =>
        new(
            Location,
            Practitioners,
            Rooms,
            Pools,
            Services,
            new RotaCalendar(
                Practitioners.Select(practitioner => new Rota(
                    practitioner.Id,
                    Date.PlusDays(-70),
                    1,
                    [
                        .. Enum.GetValues<IsoDayOfWeek>()
                            .Where(day => day != IsoDayOfWeek.None)
                            .Select(day => new RotaShift(0, day, new Shift(Here, Shift, []) { Services = KeptFor })),
                    ]
                ))
            )
        );

    /// <summary>The services every shift is kept for; none means all.</summary>
    internal IReadOnlySet<Guid> KeptFor { get; set; } = new HashSet<Guid>();

    internal DatedCalendar Dated() => new(Changes, Closures, Stops, new BlockCalendar(Blocked, []));

    internal DayBook Day(LocalDate? date = null) => new(Build(), date ?? Date, Dated(), Taken);

    internal Service Add(int number, string name, params Phase[] phases)
    {
        Service service = new()
        {
            Id = Worlds.Id(number),
            Name = name,
            Phases = phases,
            Roles = [new StaffRule { Added = Practitioners.Select(practitioner => practitioner.Id).ToHashSet() }],
            Room = new RoomRule(new HashSet<string>()),
        };
        Services.Add(service);
        return service;
    }

    internal Service Change(Service service, Func<Service, Service> change)
    {
        Services.Remove(service);
        Services.Add(change(service));
        return Services[^1];
    }

    internal static Phase Attended(int minutes) => new(minutes, [0], []);

    internal static Phase Unattended(int minutes) => new(minutes, [], []);

    internal void Book(Guid resource, int fromHour, int fromMinute, int untilHour, int untilMinute) =>
        Taken.Add(new TakenTime(resource, 0, At(fromHour, fromMinute, untilHour, untilMinute), Here));

    internal Interval At(int fromHour, int fromMinute, int untilHour, int untilMinute) =>
        new BookDay(Date, Location.Zone).Of(Stretch.Between(fromHour, fromMinute, untilHour, untilMinute));

    internal int Grain(int hour, int minute = 0) => ((hour * 60) + minute) / 5;

    internal string[] Clock(DaySet starts) =>
        [.. starts.Select(grain => new BookDay(Date, Location.Zone).WallOf(grain).ToString("HH:mm", null))];

    internal string Clock(Interval during) => $"{Clock(during.Start)}-{Clock(during.End)}";

    private string Clock(Instant instant) => instant.InZone(Location.Zone).TimeOfDay.ToString("HH:mm", null);

    /// <summary>Claims of a plan on one resource, as "10:00-10:20".</summary>
    internal string[] ClaimsOf(VisitPlan plan, Guid resource) =>
        [
            .. plan
                .Claims.Where(claim => claim.ResourceId == resource)
                .OrderBy(claim => claim.During.Start)
                .Select(claim => Clock(claim.During)),
        ];
}
