using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Demo;

/// <summary>The setup of Harrowmere Baths &amp; Clinic, laid around one day. All of it is made up.</summary>
internal sealed class DemoBusiness
{
    internal const string Zone = "Europe/Dublin";
    internal readonly Guid MillStreet = Id("location Mill Street");
    internal readonly Guid Boathouse = Id("location Boathouse");
    private readonly LocalDate _today;
    private readonly DateTimeZone _zone = DateTimeZoneProviders.Tzdb[Zone];

    internal DemoBusiness(LocalDate today) => _today = today;

    /// <summary>The same name always gives the same identity.</summary>
    internal static Guid Id(string name) =>
        new(System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(name)).AsSpan(0, 16));

    internal async Task WriteAsync(SetupTransaction transaction)
    {
        (SetupWriter writer, CalendarWriter calendar) = (transaction.Writer, transaction.Calendar);
        await writer.SaveAsync(
            new BusinessRow
            {
                Name = "Harrowmere Baths & Clinic",
                Currency = "EUR",
                Locale = "en-IE",
                Region = "IE",
                Phone = "+353209100100",
                About = "Baths, massage and a small clinic by the lake.",
                GuideFinished = true,
                IsDemo = true,
            }
        );
        // Friends come together.
        await writer.SaveAsync(
            new BookingPageRow { MostPeopleOnline = 3 },
            new BookingPageRow(),
            _today.AtStartOfDayInZone(_zone).ToInstant()
        );
        await writer.SaveAsync(new TaxRate(Treatments, "Treatments", 1350, 0));
        await writer.SaveAsync(new TaxRate(Id("tax Goods"), "Products and gift items", 2300, 1));
        foreach (ListedLocation location in Locations()) await writer.SaveAsync(location);
        await writer.SaveTravelAsync(MillStreet, Boathouse, 20);
        foreach (Closure closure in Closures())
            await calendar.SaveAsync(closure);
        foreach (string name in Qualifications)
            await writer.SaveAsync(new Qualification(Id("qualification " + name), name));
        foreach ((Practitioner practitioner, string bio) in Practitioners())
            await writer.SaveAsync(
                new ListedPractitioner(practitioner)
                {
                    Bio = bio,
                    Tint = practitioner.Order,
                    Languages = ["English"],
                }
            );
        foreach ((int i, (Guid at, string name, int capacity, int turnaround, string[] features)) in Rooms().Index())
        {
            await writer.SaveAsync(
                new ListedRoom(
                    new Room
                    {
                        Id = Id("room " + name),
                        Name = name,
                        Order = i,
                        Capacity = capacity,
                        TurnaroundMinutes = turnaround,
                        Features = features.ToHashSet(),
                    },
                    at
                )
            );
        }

        foreach ((int i, (string name, int quantity, int turnaround)) in Pools.Index())
            await writer.SaveAsync(
                new ListedPool(
                    new EquipmentPool
                    {
                        Id = Id("pool " + name),
                        Name = name,
                        Order = i,
                        Quantity = quantity,
                        TurnaroundMinutes = turnaround,
                    },
                    MillStreet
                )
            );
        foreach (Rota rota in Rotas())
            await writer.SaveAsync(rota);
        foreach (ShiftChange change in Changes())
            await calendar.SaveAsync(change);
        await WriteBlocksAsync(calendar);
        DemoServices services = new(this);
        foreach ((int i, string name) in DemoServices.Categories.Index())
            await writer.SaveAsync(
                new Category
                {
                    Id = Id("category " + name),
                    Name = name,
                    Order = i,
                }
            );
        foreach (ListedService service in services.All())
            await writer.SaveAsync(service with { TaxRateId = Treatments }, Instant.MinValue);
        foreach (ListedAddOn addOn in DemoServices.AddOns())
            await writer.SaveAsync(addOn, Instant.MinValue);
    }

    private static readonly Guid Treatments = Id("tax Treatments");

    internal static Guid Person(string givenName) => Id("practitioner " + givenName);

    private IEnumerable<ListedLocation> Locations()
    {
        OnlineRules rules = new() { Grid = StartGrid.EveryMinutes, EveryMinutes = 15, LeadMinutes = 120, HorizonDays = 60 };
        List<OpeningHours> mill = [.. Weekdays(1, 5).Select(day => new OpeningHours(day, Stretch.Between(8, 0, 20, 0)))];
        mill.Add(new OpeningHours(IsoDayOfWeek.Saturday, Stretch.Between(9, 0, 17, 0)));
        mill.Add(new OpeningHours(IsoDayOfWeek.Sunday, Stretch.Between(10, 0, 16, 0)));
        yield return new ListedLocation(
            new Location
            {
                Id = MillStreet,
                Name = "Mill Street",
                Zone = _zone,
                Opening = mill,
                Online = rules,
                LongestWaitMinutes = 15,
            },
            "4 Mill Street, Harrowmere",
            0
        );
        yield return new ListedLocation(
            new Location
            {
                Id = Boathouse,
                Name = "Boathouse",
                Zone = _zone,
                Online = rules,
                Opening =
                [
                    new OpeningHours(IsoDayOfWeek.Tuesday, Stretch.Between(10, 0, 18, 0)),
                    new OpeningHours(IsoDayOfWeek.Thursday, Stretch.Between(10, 0, 18, 0)),
                    new OpeningHours(IsoDayOfWeek.Saturday, Stretch.Between(10, 0, 15, 0)),
                ],
            },
            "The Boathouse, Lake Road, Harrowmere", 1);
    }

    private IEnumerable<Closure> Closures()
    {
        foreach (Guid location in new[] { MillStreet, Boathouse })
        {
            yield return new Closure(location, new LocalDate(_today.Year - 1, 12, 25), true, "Christmas Day");
            yield return new Closure(location, new LocalDate(_today.Year - 1, 12, 26), true, "St Stephen's Day");
            yield return new Closure(location, new LocalDate(_today.Year - 1, 1, 1), true, "New Year's Day");
        }

        LocalDate overhaul = _today.PlusDays(21);
        while (
            overhaul.DayOfWeek is IsoDayOfWeek.Saturday or IsoDayOfWeek.Sunday
            || overhaul is { Month: 12, Day: 25 or 26 } or { Month: 1, Day: 1 }
        )
            overhaul = overhaul.PlusDays(1);
        yield return new Closure(MillStreet, overhaul, false, "pump overhaul");
    }

    private static readonly string[] Qualifications =
    [
        "Registered physiotherapist",
        "Massage",
        "Lymph drainage",
        "Prenatal massage",
        "Hot stones",
        "Skin care",
        "Peels",
        "Laser safety",
        "Laser trainee",
        "Podiatry",
        "Nail surgery",
        "Acupuncture",
        "Pool safety",
        "Nutrition",
        "Group leading",
    ];

    private IEnumerable<(Practitioner One, string Bio)> Practitioners()
    {
        int order = 0;
        (Practitioner, string) Who(string name, string bio, params string[] holds) => (
            new Practitioner
            {
                Id = Person(name.Split(' ')[0]),
                Name = name,
                Order = order++,
                Qualifications = [.. holds.Select(hold => new HeldQualification(
                    Id("qualification " + hold), _today.PlusDays(-700), hold == "Laser safety" ? _today.PlusDays(35) : null))],
            },
            bio);
        yield return Who("Maren Odell", "Chartered physiotherapist. Backs, shoulders, runners' knees.", "Registered physiotherapist");
        yield return Who("Ines Calloway", "Leads the massage team.", "Massage", "Lymph drainage", "Prenatal massage");
        yield return Who("Tobias Quill", "Deep work and hot stones.", "Massage", "Hot stones");
        yield return Who("Suki Amara", "Skin, laser and peels.", "Skin care", "Peels", "Laser safety");
        yield return Who("Odile Fenwright", "Facials; learning laser.", "Skin care", "Laser trainee");
        yield return Who("Rafe Lindqvist", "Podiatrist.", "Podiatry", "Nail surgery");
        yield return Who("Yara Benedek", "Acupuncture at both houses.", "Acupuncture");
        yield return Who("Bram Tolliver", "Runs the baths.", "Pool safety");
        yield return Who("Celia Voss", "Nutrition, by video.", "Nutrition");
        yield return Who("Jonah Pryce", "Breathing and stillness.", "Group leading");
    }

    private IEnumerable<(Guid At, string Name, int Capacity, int Turnaround, string[] Features)> Rooms() =>
    [
        (MillStreet, "Alder", 1, 10, ["couch", "quiet"]),
        (MillStreet, "Birch", 1, 10, ["couch", "quiet"]),
        (MillStreet, "Cedar", 1, 15, ["couch", "wet"]),
        (MillStreet, "Damson", 1, 10, ["couch", "laser-safe"]),
        (MillStreet, "Elm", 1, 10, ["podiatry chair"]),
        (MillStreet, "Fern", 2, 10, ["couch", "duo"]),
        (MillStreet, "Pool hall", 6, 0, ["wet"]),
        (MillStreet, "Studio", 12, 0, ["group"]),
        (Boathouse, "Reed", 1, 10, ["couch"]),
        (Boathouse, "Sedge", 1, 10, ["couch"]),
    ];

    private static readonly (string Name, int Quantity, int Turnaround)[] Pools =
        [("Laser handpiece", 1, 5), ("Shockwave unit", 1, 0), ("Stone heater", 2, 15), ("Steam hood", 2, 5), ("Podiatry drill", 1, 15)];

    private IEnumerable<Rota> Rotas()
    {
        LocalDate from = _today.PlusDays(-70);
        Shift At(Guid location, Stretch during, int lunchHour = 0, int lunchMinute = 0, string reason = "Lunch") =>
            new(
                location,
                during,
                lunchHour == 0
                    ? []
                    :
                    [
                        new Break(
                            new Stretch(new LocalTime(lunchHour, lunchMinute), new LocalTime(lunchHour, lunchMinute).PlusMinutes(30)),
                            reason
                        ),
                    ]
            );
        Rota Weekly(string who, params (int Day, Shift Shift)[] shifts) =>
            new(Person(who), from, 1, [.. shifts.Select(shift => new RotaShift(0, (IsoDayOfWeek)shift.Day, shift.Shift))]);
        IEnumerable<(int, Shift)> Days(Shift shift, params int[] days) => days.Select(day => (day, shift));

        yield return Weekly("Maren", [.. Days(At(MillStreet, Stretch.Between(8, 0, 16, 0), 12, 0), 1, 2, 3, 4, 5)]);
        Shift ines = At(MillStreet, Stretch.Between(10, 0, 19, 0), 14, 0, "Break");
        yield return new Rota(Person("Ines"), from, 2,
        [
            .. from week in new[] { 0, 1 } from day in new[] { 1, 2, 3, 4 } select new RotaShift(week, (IsoDayOfWeek)day, ines),
            new RotaShift(0, IsoDayOfWeek.Saturday, At(MillStreet, Stretch.Between(9, 0, 15, 0))),
        ]);
        yield return Weekly("Tobias", [.. Days(At(MillStreet, Stretch.Between(9, 0, 17, 0), 12, 30), 2, 3, 4, 5, 6)]);
        yield return Weekly(
            "Suki",
            (3, At(MillStreet, Stretch.Between(12, 0, 20, 0), 16, 0, "Break")),
            (4, At(MillStreet, Stretch.Between(9, 0, 17, 0), 13, 0)),
            (5, At(MillStreet, Stretch.Between(12, 0, 20, 0), 16, 0, "Break")),
            (6, At(MillStreet, Stretch.Between(9, 0, 17, 0), 13, 0)),
            (7, At(MillStreet, Stretch.Between(10, 0, 16, 0), 13, 0))
        );
        yield return Weekly("Odile", [.. Days(At(MillStreet, Stretch.Between(11, 0, 20, 0), 15, 0, "Break"), 1, 2, 3, 4, 5)]);
        yield return Weekly("Rafe", [.. Days(At(MillStreet, Stretch.Between(9, 0, 17, 30), 13, 0), 1, 3, 5)]);
        yield return Weekly(
            "Yara",
            [
                .. Days(At(MillStreet, Stretch.Between(9, 0, 17, 0), 13, 0), 1, 3),
                .. Days(At(Boathouse, Stretch.Between(10, 0, 18, 0), 13, 30), 2, 4),
                (6, At(Boathouse, Stretch.Between(10, 0, 15, 0))),
            ]
        );
        Shift early = At(MillStreet, Stretch.Between(8, 0, 16, 0), 12, 0),
            late = At(MillStreet, Stretch.Between(12, 0, 20, 0), 16, 0, "Break");
        yield return new Rota(
            Person("Bram"),
            from,
            2,
            [
                .. new[] { 1, 2, 3, 4, 5 }.Select(day => new RotaShift(0, (IsoDayOfWeek)day, early)),
                .. new[] { 1, 3, 4, 5 }.Select(day => new RotaShift(1, (IsoDayOfWeek)day, late)),
                new RotaShift(0, IsoDayOfWeek.Sunday, At(MillStreet, Stretch.Between(10, 0, 16, 0))),
                new RotaShift(1, IsoDayOfWeek.Saturday, At(MillStreet, Stretch.Between(9, 0, 17, 0), 12, 30)),
            ]
        );
        yield return Weekly("Celia", [.. Days(At(MillStreet, Stretch.Between(9, 0, 14, 0)), 2, 3, 4)]);
        yield return Weekly(
            "Jonah",
            [.. Days(At(MillStreet, Stretch.Between(17, 0, 20, 0)), 1, 2, 3, 4, 5), (6, At(MillStreet, Stretch.Between(10, 0, 13, 0)))]
        );
    }

    private IEnumerable<ShiftChange> Changes()
    {
        LocalDate wednesday = _today.Next(IsoDayOfWeek.Wednesday),
            thursday = _today.PlusDays(7).Next(IsoDayOfWeek.Thursday);
        yield return new ShiftChange(
            Person("Tobias"),
            wednesday,
            [new Shift(MillStreet, Stretch.Between(9, 0, 13, 0), [])],
            Reason: "only until 13:00"
        );
        yield return new ShiftChange(Person("Ines"), thursday, [], Reason: "course");
    }

    private async Task WriteBlocksAsync(CalendarWriter writer)
    {
        Interval On(LocalDate date, Stretch stretch) => new BookDay(date, _zone).Of(stretch);
        LocalDate day = _today.DayOfWeek == IsoDayOfWeek.Sunday ? _today.PlusDays(1) : _today;
        await writer.SaveBlockAsync(
            Guid.CreateVersion7(),
            new BlockedTime(Id("room Birch"), On(day, Stretch.Between(17, 0, 18, 30)), "new lamp fitted")
        );
        await writer.SaveBlockAsync(
            Guid.CreateVersion7(),
            new BlockedTime(Person("Odile"), On(day, Stretch.Between(17, 30, 18, 0)), "supplier call")
        );
        await writer.SaveAsync(
            new RepeatingBlock(
                Id("block team meeting"),
                Person("Maren"),
                Repeat.Parse("FREQ=WEEKLY;BYDAY=MO", _today.PlusDays(-70).Next(IsoDayOfWeek.Monday))!,
                Stretch.Between(8, 0, 8, 30),
                "Team meeting"
            )
        );
        await writer.SaveBlockAsync(
            Guid.CreateVersion7(),
            new BlockedTime(Id("pool Laser handpiece"), On(_today.PlusDays(10), Stretch.Between(9, 0, 12, 0)), "yearly service")
        );
    }

    private static IEnumerable<IsoDayOfWeek> Weekdays(int from, int until) =>
        Enumerable.Range(from, until - from + 1).Select(day => (IsoDayOfWeek)day);
}
