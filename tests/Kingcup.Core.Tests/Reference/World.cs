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
public sealed record World(House House, LocalDate Date, IReadOnlyList<TakenTime> Taken, IReadOnlyList<BlockedTime> Blocked, VisitWish Wish, Audience Audience)
{
    public DayBook Day { get; } = new(House, Date, Taken, Blocked);

    public override string ToString() =>
        $"{Date} {House.Location.Zone.Id} wait {House.Location.LongestWaitMinutes}, lines {string.Join(" + ", Wish.Lines.Select(line => House.Services[line.ServiceId].Name))}";
}

/// <summary>Makes small random worlds: several phases, two roles, pools, turnaround, clock changes.</summary>
public static class Worlds
{
    private static readonly LocalDate[] _dates = [new(2027, 3, 28), new(2027, 10, 31), new(2027, 5, 12), new(2027, 11, 3)];
    private static readonly string[] _zones = ["Europe/Dublin", "Europe/Dublin", "America/New_York", "Australia/Lord_Howe"];

    /// <summary>Twenty minutes between the two locations.</summary>
    public static IReadOnlyDictionary<(Guid From, Guid To), int> Travel { get; } = new Dictionary<(Guid, Guid), int> { [(Id(1), Id(2))] = 20, [(Id(2), Id(1))] = 20 };

    public static World Make(int seed)
    {
        Random random = new(seed);
        LocalDate date = _dates[random.Next(_dates.Length)];
        DateTimeZone zone = DateTimeZoneProviders.Tzdb[_zones[random.Next(_zones.Length)]];
        Guid here = Id(1), there = Id(2), qualification = Id(3);

        List<Practitioner> practitioners = [.. Enumerable.Range(0, random.Next(1, 4)).Select(i => new Practitioner
        {
            Id = Id(10 + i),
            Name = $"P{i}",
            Order = i,
            Qualifications = random.Next(4) == 0 ? [] : [new HeldQualification(qualification, date.PlusDays(-random.Next(3)), random.Next(3) == 0 ? date.PlusDays(random.Next(-1, 2)) : null)],
            AcceptsNewClients = random.Next(4) > 0,
            BookableOnline = random.Next(8) > 0,
            Limits = random.Next(3) > 0 ? new DailyLimits() : new DailyLimits
            {
                Appointments = random.Next(2) == 0 ? random.Next(1, 4) : null,
                Minutes = random.Next(2) == 0 ? 5 * random.Next(4, 30) : null,
                PerCategory = random.Next(2) == 0 ? new Dictionary<Guid, int> { [Id(50)] = random.Next(1, 3) } : [],
            },
            Retired = random.Next(12) == 0 ? date.PlusDays(random.Next(-1, 2)) : null,
        })];
        string[] features = ["couch", "wet"];
        List<Room> rooms = [.. Enumerable.Range(0, random.Next(1, 3)).Select(i => new Room
        {
            Id = Id(20 + i),
            Name = $"R{i}",
            Order = i,
            Capacity = random.Next(1, 3),
            Features = features.Where(_ => random.Next(3) > 0).ToHashSet(),
            TurnaroundMinutes = 5 * random.Next(3),
            Retired = random.Next(12) == 0 ? date.PlusDays(random.Next(-1, 2)) : null,
        })];
        List<EquipmentPool> pools = [new EquipmentPool { Id = Id(30), Name = "E", Quantity = random.Next(1, 3), TurnaroundMinutes = 5 * random.Next(3) }];
        List<Service> services = [.. Enumerable.Range(0, 2).Select(i => MakeService(random, i, qualification, practitioners))];

        int early = random.Next(0, 20);
        Shift Shift() => new(
            here,
            new Stretch(new LocalTime(early % 24, 5 * random.Next(12)), new LocalTime(Math.Min(23, early + random.Next(1, 4)), 55)),
            []);
        List<Rota> rotas = [.. practitioners.Select(one => new Rota(one.Id, date.PlusDays(-30), 1, [new RotaShift(0, date.DayOfWeek, Shift())]))];
        List<ShiftChange> changes = random.Next(5) == 0 ? [new ShiftChange(practitioners[0].Id, date, [Shift()])] : [];
        Location location = new()
        {
            Id = here,
            Name = "Here",
            Zone = zone,
            LongestWaitMinutes = 5 * random.Next(0, 3),
            Opening = [new OpeningHours(date.DayOfWeek, new Stretch(new LocalTime(early, 0), new LocalTime(Math.Min(23, early + 2), 50)))],
            Online = new OnlineRules
            {
                Grid = random.Next(3) == 0 ? StartGrid.BackToBack : StartGrid.EveryMinutes,
                EveryMinutes = 5 * random.Next(1, 7),
                LeadMinutes = 5 * random.Next(0, 40),
                HorizonDays = random.Next(0, 3),
                NewLeadMinutes = random.Next(3) == 0 ? 5 * random.Next(0, 40) : null,
                Gap = random.Next(2) == 0 ? GapRule.Off : random.Next(2) == 0 ? GapRule.Prefer : GapRule.Strict,
                ShortestGapMinutes = random.Next(2) == 0 ? null : 5 * random.Next(1, 9),
                Assignment = (Assignment)random.Next(3),
            },
            BookableOnline = random.Next(20) > 0,
            AcceptsNewClients = random.Next(12) > 0,
            NoShowLimit = random.Next(4) > 0 ? null : new NoShowLimit(random.Next(1, 3), random.Next(1, 4), (NoShowAction)random.Next(2)),
            StoppedOnline = random.Next(15) == 0 ? new Dictionary<LocalDate, string> { [date] = "party" } : [],
        };
        if (changes.Count > 0) changes = [changes[0] with { WorksDuringClosure = random.Next(2) == 0 }];
        List<Closure> closures = random.Next(15) > 0 ? [] : [random.Next(2) == 0 ? new Closure(here, date, false, "feast") : new Closure(here, date.PlusYears(-3), true, "yearly feast")];
        House house = new(location, practitioners, rooms, pools, services, new RotaCalendar(rotas, changes, closures), Travel) { BusinessIsOnline = random.Next(30) > 0 };

        BookDay day = new(date, zone);
        int anchor = day.Floor(day.Of(new LocalTime(early, 0)));
        Interval Piece()
        {
            int from = anchor + random.Next(-5, 40);
            return day.Between(from, from + random.Next(1, 8));
        }

        List<TakenTime> taken = [];
        foreach ((Guid id, int units) in practitioners.Select(one => (one.Id, 1)).Concat(rooms.Select(one => (one.Id, one.Capacity))).Concat(pools.Select(one => (one.Id, one.Quantity))))
        {
            for (int i = random.Next(3); i > 0; i--)
                taken.Add(new TakenTime(id, random.Next(units), Piece(), units == 1 && random.Next(5) == 0 ? there : here, Id(70 + random.Next(3)), services[random.Next(2)].Id));
        }

        List<BlockedTime> blocked = random.Next(3) == 0 ? [new BlockedTime(rooms[0].Id, Piece(), "paint")] : [];
        int lines = random.Next(3) == 0 ? 2 : 1;
        VisitWish wish = new([.. Enumerable.Range(0, lines).Select(i => new LineWish(
            services[i].Id,
            random.Next(4) == 0 ? practitioners[random.Next(practitioners.Count)].Id : null,
            random.Next(4) == 0 ? 10 : 0))]);
        return new World(house, date, taken, blocked, wish, MakeAudience(random, day, services));
    }

    private static Audience MakeAudience(Random random, BookDay day, List<Service> services) => new()
    {
        IsNew = random.Next(2) == 0,
        MayBookOnline = random.Next(20) > 0,
        Own = random.Next(6) > 0 ? null : new OnlineRules
        {
            LeadMinutes = random.Next(2) == 0 ? null : 5 * random.Next(0, 40),
            HorizonDays = random.Next(2) == 0 ? null : random.Next(0, 3),
        },
        Links = services.Where(_ => random.Next(2) == 0).Select(one => one.Id).ToHashSet(),
        Missed = [.. Enumerable.Range(0, random.Next(3)).Select(_ => day.Start - Duration.FromDays(random.Next(-1, 120)) + Duration.FromHours(random.Next(24)))],
        Visits = [.. Enumerable.Range(0, random.Next(3)).Select(_ => new EarlierVisit(services[random.Next(2)].Id, day.Start - Duration.FromHours(random.Next(-12, 80))))],
    };

    private static Service MakeService(Random random, int i, Guid qualification, List<Practitioner> practitioners)
    {
        int roles = random.Next(4) == 0 ? 2 : 1;
        List<Phase> phases = [.. Enumerable.Range(0, random.Next(1, 4)).Select(_ => new Phase(
            5 * random.Next(1, 5),
            [.. Enumerable.Range(0, roles).Where(_ => random.Next(4) > 0)],
            random.Next(3) == 0 ? [new EquipmentNeed(Id(30), random.Next(1, 3))] : []))];
        return new Service
        {
            Id = Id(40 + i),
            CategoryId = Id(50 + i),
            For = random.Next(8) > 0 ? ClientKind.Everyone : (ClientKind)random.Next(3),
            Visibility = random.Next(6) > 0 ? Visibility.Everyone : (Visibility)random.Next(4),
            Weekdays = random.Next(10) > 0 ? new HashSet<IsoDayOfWeek>() : [IsoDayOfWeek.Sunday, IsoDayOfWeek.Monday],
            Prerequisite = random.Next(8) > 0 ? null : new Prerequisite(Id(40 + random.Next(2)), random.Next(0, 30), random.Next(2, 5)),
            Season = random.Next(12) == 0 ? new Season(new AnnualDate(3, 28), new AnnualDate(5, 12)) : null,
            Name = $"S{i}[{string.Join(',', phases.Select(phase => $"{phase.Minutes}{(phase.AttendedBy.Count == 0 ? "u" : "")}"))}]",
            Phases = phases,
            Roles = [.. Enumerable.Range(0, roles).Select(_ => new StaffRule
            {
                Qualifications = random.Next(4) > 0 ? [qualification] : [],
                Added = practitioners.Where(_ => random.Next(3) == 0).Select(one => one.Id).ToHashSet(),
                Excluded = practitioners.Where(_ => random.Next(8) == 0).Select(one => one.Id).ToHashSet(),
            })],
            Room = random.Next(5) == 0 ? null : new RoomRule(random.Next(2) == 0 ? new HashSet<string>() : new HashSet<string> { "couch" }, random.Next(4) == 0 ? 2 : 1),
            BufferBeforeMinutes = 5 * random.Next(0, 2),
            BufferAfterMinutes = 5 * random.Next(0, 3),
            BufferAlways = random.Next(4) == 0,
            Terms = random.Next(3) == 0
                ? new Dictionary<Guid, PractitionerTerms> { [practitioners[0].Id] = new(phases.Sum(phase => phase.Minutes) + 10, AcceptsNewClients: random.Next(2) == 0) }
                : [],
        };
    }

    public static Guid Id(int number) => new(number, 0, 0, new byte[8]);
}
