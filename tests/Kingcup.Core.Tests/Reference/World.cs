using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Tests.Reference;

/// <summary>A small world to compare the engine with the slow reference in.</summary>
public sealed record World(
    House House,
    LocalDate Date,
    DatedCalendar Dated,
    IReadOnlyList<TakenTime> Taken,
    VisitWish Wish,
    Audience Audience
)
{
    private DayBook? _day;

    /// <summary>What the one category with rules of its own sets.</summary>
    public OnlineRules CategoryRules { get; init; } = new();

    public DayBook Day => _day ??= new(House, Date, Dated, Taken);

    /// <summary>The same world with something changed; its day is laid out anew.</summary>
    public World With(House? house = null, DatedCalendar? dated = null, IReadOnlyList<TakenTime>? taken = null) =>
        new(house ?? House, Date, dated ?? Dated, taken ?? Taken, Wish, Audience) { CategoryRules = CategoryRules };

    public override string ToString() =>
        $"{Date} {House.Location.Zone.Id} wait {House.Location.LongestWaitMinutes}, lines "
        + string.Join(" + ", Wish.Lines.Select(line => $"{House.Services[line.ServiceId].Name}/{line.Person}"));
}

/// <summary>
/// Makes small random worlds: several phases and lines, people side by side, two roles, pools, turnaround, rooms for many, clock
/// changes, shifts that meet at midnight, closures of the days around, rules at every place.
/// </summary>
public static class Worlds
{
    private static readonly LocalDate[] _dates = [new(2027, 3, 28), new(2027, 10, 31), new(2027, 5, 12), new(2027, 11, 3)];
    private static readonly string[] _zones = ["Europe/Dublin", "Europe/Dublin", "America/New_York", "Australia/Lord_Howe"];
    private static readonly string[] _features = ["couch", "wet"];

    /// <summary>Twenty minutes between the two locations.</summary>
    public static IReadOnlyDictionary<(Guid From, Guid To), int> Travel { get; } =
        new Dictionary<(Guid, Guid), int> { [(Id(1), Id(2))] = 20, [(Id(2), Id(1))] = 20 };

    public static Guid Id(int number) => new(number, 0, 0, new byte[8]);

    public static World Make(int seed) => new Maker(new Random(seed)).Make();

    private sealed class Maker(Random random)
    {
        private readonly Guid _here = Id(1), _there = Id(2), _qualification = Id(3);
        private LocalDate _date;
        private bool _night;
        private int _early;

        private bool OneIn(int n) => random.Next(n) == 0;

        internal World Make()
        {
            _date = _dates[random.Next(_dates.Length)];
            DateTimeZone zone = DateTimeZoneProviders.Tzdb[_zones[random.Next(_zones.Length)]];
            _night = OneIn(5);
            _early = random.Next(0, 20);
            int count = OneIn(16) ? 3 : OneIn(3) ? 2 : 1;
            // Rooms for many only where the reference has one line to place.
            int most = count == 1 && OneIn(3) ? 31 : count == 3 ? 3 : 4;
            List<Practitioner> people = [.. Enumerable.Range(0, random.Next(1, 4)).Select(Person)];
            List<Room> rooms = [.. Enumerable.Range(0, random.Next(1, 3)).Select(i => new Room
            {
                Id = Id(20 + i),
                Name = $"R{i}",
                Order = i,
                Capacity = OneIn(2) ? 1 : random.Next(1, most),
                Features = _features.Where(_ => random.Next(3) > 0).ToHashSet(),
                TurnaroundMinutes = 5 * random.Next(3),
                Retired = OneIn(14) ? _date.PlusDays(random.Next(-1, 2)) : null,
            })];
            List<EquipmentPool> pools =
            [
                new EquipmentPool { Id = Id(30), Name = "E", Quantity = random.Next(1, 4), TurnaroundMinutes = 5 * random.Next(3) },
            ];
            List<Service> services = [.. Enumerable.Range(0, 3).Select(i => Service(i, people, most))];
            List<Category> categories =
            [
                new Category { Id = Id(50), Name = "C0", Online = OneIn(3) ? Rules(setsAll: false) : new OnlineRules() },
            ];
            Location location = Location(zone);
            House house = new(location, people, rooms, pools, services, new RotaCalendar(people.Select(Rota)), Travel, categories)
            {
                BusinessIsOnline = !OneIn(30),
            };
            BookDay day = new(_date, zone);
            VisitWish wish = new([
                .. Enumerable.Range(0, count).Select(i => ByHand(Line(i, services, people), services, rooms)),
            ]);
            return new World(
                house,
                _date,
                Dated(day, people, rooms),
                Taken(day, people, rooms, pools, services),
                wish,
                Audience(day, services)
            )
            {
                CategoryRules = categories[0].Online,
            };
        }

        /// <summary>Now and then somebody has chosen the room, or the length.</summary>
        private LineWish ByHand(LineWish line, List<Service> services, List<Room> rooms) => line with
        {
            RoomId = OneIn(6) ? rooms[random.Next(rooms.Count)].Id : null,
            SetMinutes = OneIn(6) ? services.Single(service => service.Id == line.ServiceId).LeastMinutes + (5 * random.Next(12)) : null,
        };

        private Practitioner Person(int i) =>
            new()
            {
                Id = Id(10 + i),
                Name = $"P{i}",
                Order = i,
                Attention = OneIn(5) ? 2 : 1,
                Qualifications = OneIn(4)
                    ? []
                    :
                    [
                        new HeldQualification(
                            _qualification,
                            _date.PlusDays(-random.Next(3)),
                            OneIn(3) ? _date.PlusDays(random.Next(-1, 2)) : null
                        ),
                    ],
                AcceptsNewClients = !OneIn(4),
                BookableOnline = !OneIn(8),
                Limits = !OneIn(3)
                    ? new DailyLimits()
                    : new DailyLimits
                    {
                        Appointments = OneIn(2) ? random.Next(1, 4) : null,
                        Minutes = OneIn(2) ? 5 * random.Next(4, 30) : null,
                        PerCategory = OneIn(2) ? new Dictionary<Guid, int> { [Id(50)] = random.Next(1, 3) } : [],
                    },
                Retired = OneIn(14) ? _date.PlusDays(random.Next(-1, 2)) : null,
            };

        private Shift Shift()
        {
            Stretch during = _night
                ? new Stretch(new LocalTime(random.Next(20, 24), 5 * random.Next(12)), LocalTime.Midnight)
                : new Stretch(new LocalTime(_early % 24, 5 * random.Next(12)), new LocalTime(Math.Min(23, _early + random.Next(1, 4)), 55));
            return new Shift(
                _here,
                during,
                OneIn(6) && !_night ? [new Break(new Stretch(during.From.PlusMinutes(20), during.From.PlusMinutes(35)), "tea")] : []
            )
            {
                Services = OneIn(8) ? new HashSet<Guid> { Id(40) } : new HashSet<Guid>(),
                Categories = OneIn(10) ? new HashSet<Guid> { Id(51) } : new HashSet<Guid>(),
            };
        }

        private Shift Morning() => new(_here, new Stretch(LocalTime.Midnight, new LocalTime(random.Next(1, 6), 5 * random.Next(12))), []);

        private Rota Rota(Practitioner practitioner)
        {
            List<RotaShift> shifts = [new RotaShift(0, _date.DayOfWeek, Shift())];
            if (_night)
            {
                shifts.Add(new RotaShift(0, _date.PlusDays(1).DayOfWeek, Morning()));
                if (OneIn(2)) shifts.Add(new RotaShift(0, _date.DayOfWeek, Morning()));
                if (OneIn(2)) shifts.Add(new RotaShift(0, _date.PlusDays(-1).DayOfWeek, Shift()));
            }

            return new Rota(practitioner.Id, _date.PlusDays(-30), 1, shifts);
        }

        private OnlineRules Rules(bool setsAll) => new()
        {
            Grid = setsAll || OneIn(3) ? (StartGrid)Math.Max(0, random.Next(-2, 3)) : null,
            EveryMinutes = setsAll || OneIn(3) ? 5 * random.Next(1, 7) : null,
            LeadMinutes = setsAll || OneIn(3) ? 5 * random.Next(0, 40) : null,
            HorizonDays = setsAll || OneIn(3) ? random.Next(0, 3) : null,
            NewLeadMinutes = OneIn(3) ? 5 * random.Next(0, 40) : null,
            NewHorizonDays = OneIn(4) ? random.Next(0, 3) : null,
            Gap = setsAll || OneIn(4) ? (GapRule)Math.Max(0, random.Next(-2, 3)) : null,
            ShortestGapMinutes = OneIn(2) ? null : 5 * random.Next(1, 9),
            Assignment = setsAll ? (Assignment)random.Next(3) : null,
        };

        private Location Location(DateTimeZone zone) => new()
        {
            Id = _here,
            Name = "Here",
            Zone = zone,
            LongestWaitMinutes = 5 * Math.Max(0, random.Next(-2, 3)),
            Opening = _night
                ? [.. Enumerable.Range(-1, 3).SelectMany(offset => new[]
                {
                    new OpeningHours(_date.PlusDays(offset).DayOfWeek, new Stretch(new LocalTime(19, 0), LocalTime.Midnight)),
                    new OpeningHours(_date.PlusDays(offset).DayOfWeek, new Stretch(LocalTime.Midnight, new LocalTime(5, 0))),
                })]
                : [new OpeningHours(_date.DayOfWeek, new Stretch(new LocalTime(_early, 0), new LocalTime(Math.Min(23, _early + 2), 50)))],
            Online = Rules(setsAll: true),
            BookableOnline = !OneIn(20),
            AcceptsNewClients = !OneIn(12),
            NoShowLimit = !OneIn(4) ? null : new NoShowLimit(random.Next(1, 3), random.Next(1, 4), (NoShowAction)random.Next(2)),
        };

        private Service Service(int i, List<Practitioner> people, int most)
        {
            int roles = OneIn(4) ? 2 : 1;
            List<Phase> phases = [.. Enumerable.Range(0, random.Next(1, 4)).Select(_ => new Phase(
                5 * random.Next(1, 5),
                [.. Enumerable.Range(0, roles).Where(_ => random.Next(4) > 0)],
                OneIn(3) ? [new EquipmentNeed(Id(30), random.Next(1, 3))] : []))];
            int usual = phases.Sum(phase => phase.Minutes);
            return new Service
            {
                Id = Id(40 + i),
                CategoryId = Id(50 + (i % 2)),
                For = !OneIn(8) ? ClientKind.Everyone : (ClientKind)random.Next(3),
                Visibility = !OneIn(6) ? Visibility.Everyone : (Visibility)random.Next(4),
                Weekdays = !OneIn(10) ? new HashSet<IsoDayOfWeek>() : [IsoDayOfWeek.Sunday, IsoDayOfWeek.Monday],
                Prerequisite = !OneIn(8) ? null : new Prerequisite(Id(40 + random.Next(3)), random.Next(0, 30), random.Next(2, 5)),
                Season = OneIn(12) ? new Season(new AnnualDate(3, 28), new AnnualDate(5, 12)) : null,
                Name = $"S{i}[{string.Join(',', phases.Select(phase => $"{phase.Minutes}{(phase.AttendedBy.Count == 0 ? "u" : "")}"))}]",
                Phases = phases,
                BesideOthers = OneIn(4),
                Roles =
                [
                    .. Enumerable
                        .Range(0, roles)
                        .Select(_ => new StaffRule
                        {
                            Qualifications = random.Next(4) > 0 ? [_qualification] : [],
                            Added = people.Where(_ => OneIn(3)).Select(practitioner => practitioner.Id).ToHashSet(),
                            Excluded = people.Where(_ => OneIn(8)).Select(practitioner => practitioner.Id).ToHashSet(),
                        }),
                ],
                Room = OneIn(5)
                    ? null
                    : new RoomRule(
                        OneIn(2) ? new HashSet<string>() : new HashSet<string> { "couch" },
                        OneIn(3) ? random.Next(1, Math.Min(most, 16)) : 1
                    ),
                BufferBeforeMinutes = 5 * random.Next(0, 2),
                BufferAfterMinutes = 5 * random.Next(0, 3),
                BufferAlways = OneIn(4),
                Locations = OneIn(15) ? new HashSet<Guid> { OneIn(2) ? _there : _here } : new HashSet<Guid>(),
                Online = OneIn(3) ? Rules(setsAll: false) : new OnlineRules(),
                SetTimes =
                [
                    .. Enumerable
                        .Range(0, 3)
                        .Select(_ => new SetTime(
                            OneIn(3) ? people[random.Next(people.Count)].Id : null,
                            OneIn(6) ? _date.PlusDays(1).DayOfWeek : _date.DayOfWeek,
                            _night
                                ? new LocalTime(random.Next(21, 24), 5 * random.Next(12))
                                : new LocalTime(Math.Min(23, _early + random.Next(0, 3)), 5 * random.Next(12))
                        )),
                ],
                Terms = OneIn(3)
                    ? new Dictionary<Guid, PractitionerTerms>
                    {
                        [people[0].Id] = new(OneIn(2) ? usual + 10 : null, AcceptsNewClients: OneIn(2)),
                    }
                    : [],
            };
        }

        private LineWish Line(int i, List<Service> services, List<Practitioner> people) => new(
            services[random.Next(3)].Id, OneIn(4) ? people[random.Next(people.Count)].Id : null, OneIn(4) ? 10 : 0)
        {
            Person = i > 0 && OneIn(4) ? 1 : 0,
            OffsetMinutes = OneIn(4) && i > 0 ? 5 * random.Next(1, 5) : 0,
        };

        private DatedCalendar Dated(BookDay day, List<Practitioner> people, List<Room> rooms)
        {
            List<ShiftChange> changes = OneIn(5) ? [new ShiftChange(people[0].Id, _date, [Shift()], OneIn(2))] : [];
            List<Closure> closures = [];
            foreach (int offset in new[] { 0, 1 })
                if (
                    OneIn(
                        offset == 0 ? 15
                        : _night ? 4
                        : 30
                    )
                )
                    closures.Add(
                        OneIn(2)
                            ? new Closure(_here, _date.PlusDays(offset), false, "feast")
                            : new Closure(_here, _date.PlusDays(offset).PlusYears(-3), true, "yearly feast")
                    );
            List<BlockedTime> once = OneIn(3) ? [new BlockedTime(rooms[0].Id, Piece(day), "paint")] : [];
            if (OneIn(5))
            {
                Guid stopped = OneIn(3) ? rooms[^1].Id : people[0].Id;
                once.Add(new BlockedTime(stopped, Piece(day), "party") { Kind = BlockKind.Online });
            }

            List<RepeatingBlock> repeating = !OneIn(6)
                ? []
                :
                [
                    new RepeatingBlock(
                        Id(95),
                        people[^1].Id,
                        Repeat.Parse("FREQ=DAILY", _date.PlusDays(-3))!,
                        new Stretch(new LocalTime(Math.Min(22, _early + 1), 0), new LocalTime(Math.Min(22, _early + 1), 25)),
                        "call"
                    )
                    {
                        Changed = OneIn(3) ? new Dictionary<LocalDate, Stretch?> { [_date] = null } : [],
                    },
                ];
            return new DatedCalendar(
                changes,
                closures,
                OneIn(15) ? [new OnlineStop(_here, _date, "party")] : [],
                new BlockCalendar(once, repeating)
            );
        }

        private Interval Piece(BookDay day)
        {
            int anchor = _night ? day.GrainCount - 40 : day.Floor(day.Of(new LocalTime(_early, 0)));
            int from = anchor + random.Next(-5, 45);
            return day.Between(from, from + random.Next(1, 8));
        }

        private List<TakenTime> Taken(
            BookDay day,
            List<Practitioner> people,
            List<Room> rooms,
            List<EquipmentPool> pools,
            List<Service> services
        )
        {
            List<TakenTime> taken = [];
            foreach (
                (Guid id, int units, bool moves) in people
                    .Select(practitioner => (practitioner.Id, practitioner.Attention, true))
                    .Concat(rooms.Select(room => (room.Id, room.Capacity, false)))
                    .Concat(pools.Select(pool => (pool.Id, pool.Quantity, false)))
            )
            {
                for (int i = random.Next(units > 4 ? 30 : 3); i > 0; i--)
                    taken.Add(
                        new TakenTime(
                            id,
                            random.Next(units),
                            Piece(day),
                            moves && OneIn(5) ? _there : _here,
                            Id(70 + taken.Count),
                            services[random.Next(3)].Id
                        )
                    );
            }

            return taken;
        }

        private Audience Audience(BookDay day, List<Service> services) => new()
        {
            IsNew = OneIn(2),
            MayBookOnline = !OneIn(20),
            Own = !OneIn(6) ? null : new OnlineRules
            {
                LeadMinutes = OneIn(2) ? null : 5 * random.Next(0, 40),
                HorizonDays = OneIn(2) ? null : random.Next(0, 3),
            },
            Links = services.Where(_ => OneIn(2)).Select(service => service.Id).ToHashSet(),
            Missed =
            [
                .. Enumerable.Range(0, random.Next(3))
                    .Select(_ => day.Start - Duration.FromDays(random.Next(-1, 120)) + Duration.FromHours(random.Next(24))),
            ],
            Visits =
            [
                .. Enumerable.Range(0, random.Next(3))
                    .Select(_ => new EarlierVisit(
                        services[random.Next(3)].Id, day.Start - Duration.FromHours(random.Next(-12, 80)), !OneIn(3))),
            ],
        };
    }
}
