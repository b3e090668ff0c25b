using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Bench;

/// <summary>Sixty days of a full book: 20 practitioners, 15 rooms, 8 pools, three of four times taken.</summary>
internal sealed class FullBook
{
    /// <summary>The present.</summary>
    internal static readonly Instant Now = Instant.FromUtc(2027, 5, 2, 9, 0);

    private static readonly LocalDate _first = new(2027, 5, 3);

    internal FullBook()
    {
        Random random = new(7);
        Guid here = Worlds.Id(1);
        List<Practitioner> practitioners =
        [
            .. Enumerable
                .Range(0, 20)
                .Select(i => new Practitioner
                {
                    Id = Worlds.Id(100 + i),
                    Name = $"P{i}",
                    Order = i,
                    Qualifications = [new HeldQualification(Worlds.Id(50 + (i % 3)), _first.PlusDays(-9), null)],
                }),
        ];
        List<Room> rooms =
        [
            .. Enumerable
                .Range(0, 15)
                .Select(i => new Room
                {
                    Id = Worlds.Id(200 + i),
                    Name = $"R{i}",
                    Order = i,
                    TurnaroundMinutes = 10,
                    Features = new HashSet<string> { i % 2 == 0 ? "couch" : "wet" },
                }),
        ];
        List<EquipmentPool> pools =
        [
            .. Enumerable
                .Range(0, 8)
                .Select(i => new EquipmentPool
                {
                    Id = Worlds.Id(300 + i),
                    Name = $"E{i}",
                    Quantity = 1 + (i % 2),
                    TurnaroundMinutes = 5,
                }),
        ];
        Service Make(int id, int qualification, params Phase[] phases) =>
            new()
            {
                Id = Worlds.Id(id),
                Name = $"S{id}",
                Phases = phases,
                Roles = [new StaffRule { Qualifications = [Worlds.Id(qualification)] }],
                Room = new RoomRule(new HashSet<string> { "couch" }),
                BufferAfterMinutes = 10,
            };
        List<Service> services =
        [
            Make(400, 50, new Phase(20, [0], [new EquipmentNeed(pools[0].Id)]), new Phase(25, [], []), new Phase(15, [0], [])),
            Make(401, 51, new Phase(30, [0], [])),
            Make(402, 52, new Phase(45, [0], [])),
        ];
        Location location = new()
        {
            Id = here,
            Name = "Here",
            Zone = DateTimeZoneProviders.Tzdb["Europe/Dublin"],
            Opening = [.. Enumerable.Range(1, 7).Select(day => new OpeningHours((IsoDayOfWeek)day, Stretch.Between(8, 0, 20, 0)))],
            Online = new OnlineRules
            {
                Grid = StartGrid.EveryMinutes,
                EveryMinutes = 15,
                LeadMinutes = 120,
                HorizonDays = 90,
            },
        };
        RotaCalendar calendar = new(
            practitioners.Select(practitioner => new Rota(
                practitioner.Id,
                _first.PlusDays(-30),
                1,
                [
                    .. Enumerable
                        .Range(1, 6)
                        .Select(day => new RotaShift(0, (IsoDayOfWeek)day, new Shift(here, Stretch.Between(9, 0, 17, 30), []))),
                ]
            ))
        );
        House house = new(location, practitioners, rooms, pools, services, calendar);
        List<DayBook> days = [];
        for (int d = 0; d < 60; d++)
        {
            LocalDate date = _first.PlusDays(d);
            BookDay day = new(date, location.Zone);
            List<TakenTime> taken = [];
            foreach (
                Guid id in practitioners
                    .Select(practitioner => practitioner.Id)
                    .Concat(rooms.Select(room => room.Id))
                    .Concat(pools.Select(pool => pool.Id))
            )
                for (int at = (9 * 12) + random.Next(6); at < 18 * 12; at += random.Next(9, 20))
                    if (random.Next(100) < 78)
                        taken.Add(new TakenTime(id, 0, day.Between(at, at + 9), here));
            days.Add(new DayBook(house, date, DatedCalendar.Empty, taken));
            if (d == 1)
                Slow = new World(house, date, DatedCalendar.Empty, taken, VisitWish.Of(services[0].Id), Audience.Stranger);
        }

        Days = days;
        HalfOfThem = days[..30];
        Leads =
        [
            .. practitioners
                .Where(practitioner => practitioner.Qualifications[0].QualificationId == Worlds.Id(50))
                .Select(practitioner => practitioner.Id),
        ];
        Couches = [.. rooms.Where(room => room.Features.Contains("couch")).Select(room => room.Id)];
        Lamp = pools[0].Id;
        One = new StartFinder(house, VisitWish.Of(services[0].Id));
        Two = new StartFinder(house, new VisitWish([.. services.Take(2).Select(service => new LineWish(service.Id))]));
        Three = new StartFinder(house, new VisitWish([.. services.Select(service => new LineWish(service.Id))]));
    }

    /// <summary>The days.</summary>
    internal IReadOnlyList<DayBook> Days { get; }

    /// <summary>The first thirty of them.</summary>
    internal IReadOnlyList<DayBook> HalfOfThem { get; }

    /// <summary>The second day as the slow reference of the tests takes it.</summary>
    internal World Slow { get; } = null!;

    /// <summary>Who may do the first service.</summary>
    internal IReadOnlyList<Guid> Leads { get; }

    /// <summary>The rooms it may be done in.</summary>
    internal IReadOnlyList<Guid> Couches { get; }

    /// <summary>What it needs for its first phase.</summary>
    internal Guid Lamp { get; }

    /// <summary>One line of three phases.</summary>
    internal StartFinder One { get; }

    /// <summary>That and one more.</summary>
    internal StartFinder Two { get; }

    /// <summary>That and two more.</summary>
    internal StartFinder Three { get; }
}
