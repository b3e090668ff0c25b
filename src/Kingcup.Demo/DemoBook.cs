using Bogus;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Calendar;
using Kingcup.Core.Clients;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using Npgsql;
using Database = Kingcup.Storage.Database;

namespace Kingcup.Demo;

/// <summary>
/// Fills the book of the demo business, eight weeks back and six ahead, through the same operations the desk and the booking
/// page use, with a clock that stands at the moment each thing would have been done. So the demo itself obeys the rules.
/// </summary>
internal sealed class DemoBook(Database database, Instant now, IReadOnlyList<ClientRow> clients)
{
    internal const int DaysBack = 56, DaysAhead = 42, Clients = 600;
    private const int Seed = 20270301, Workers = 2;
    // Nobody is told anew of what the book begins with.
    private static readonly Actor _desk = new("Nell (desk)", "demo") { TellsNobody = true },
        _page = new("Booking page", "demo") { TellsNobody = true };
    private readonly SetClock _clock = new(now);

    private sealed class SetClock(Instant at) : IClock
    {
        internal Instant At { get; set; } = at;

        public Instant GetCurrentInstant() => At;
    }

    /// <summary>
    /// Two workers share the days and the clients by turns, each with a clock of its own, so that the outcome does not depend
    /// on who is quicker.
    /// </summary>
    internal static async Task<int> FillAsync(Database database, Instant now)
    {
        IReadOnlyList<ClientRow> clients = await EnterClientsAsync(database, now);
        int[] booked = await Task.WhenAll(Enumerable.Range(0, Workers).Select(worker => Task.Run(() =>
            new DemoBook(database, now, [.. clients.Where((_, i) => i % Workers == worker)]).FillShareAsync(worker))));
        return booked.Sum();
    }

    private async Task<int> FillShareAsync(int worker)
    {
        using BookReader book = new(_clock);
        BookingDesk desk = new(database, book, _clock);
        Setup setup;
        DatedCalendar dated;
        LocalDate today = now.InZone(DateTimeZoneProviders.Tzdb[DemoBusiness.Zone]).Date;
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            setup = await book.SetupAsync(connection);
            dated = (await CalendarReader.WindowAsync(connection, today.PlusDays(-DaysBack - 1), today.PlusDays(DaysAhead + 1))).With(
                setup
            );
        }

        int booked = 0;
        for (int offset = -DaysBack + worker; offset <= DaysAhead; offset += Workers)
        {
            // One client comes once a day at the most, whichever the location.
            Random random = new(HashSeed(offset));
            Queue<ClientRow> coming = new(clients.OrderBy(_ => random.Next()));
            foreach (ListedLocation location in setup.Locations)
                booked += await FillDayAsync(
                    desk,
                    setup.HouseOf(location.Location.Id)!,
                    dated,
                    today.PlusDays(offset),
                    offset,
                    random,
                    coming
                );
        }

        return booked;
    }

    private static int HashSeed(int offset) => unchecked((Seed * 397) ^ (offset * 7919));

    private async Task<int> FillDayAsync(
        BookingDesk desk,
        House house,
        DatedCalendar dated,
        LocalDate date,
        int offset,
        Random random,
        Queue<ClientRow> coming
    )
    {
        List<TakenTime> taken = [];
        int booked = 0;
        foreach (Core.Team.Practitioner practitioner in house.Practitioners)
        {
            DayBook day = new(house, date, dated, taken);
            List<Service> services = [.. house.Services.Values.Where(service => service.Roles[0].Allows(practitioner, date)
                && (service.Locations.Count == 0 || service.Locations.Contains(house.Location.Id)))];
            int at = (day.OnShift(practitioner.Id) & day.Day.Whole).NextMember(0) ?? int.MaxValue;
            while (at < day.Day.GrainCount && services.Count > 0)
            {
                if (random.NextDouble() > Appetite(day.Day, at, offset))
                {
                    at += random.Next(4, 10);
                    continue;
                }

                Service service = services[random.Next(services.Count)];
                // Groups and operations are rare beside the daily bread.
                if (service.Visibility != Visibility.Everyone && random.Next(4) > 0) continue;
                VisitWish wish = VisitWish.Of(service.Id, practitioner.Id);
                StartFinder finder = new(house, wish);
                int? start = Next(finder, day, service, at);
                if (start is null || start > at + 18)
                {
                    at += 6;
                    continue;
                }

                VisitPlan? plan =
                    coming.Count == 0
                        ? null
                        : await BookAsync(desk, house, day, finder, service, wish, start.Value, offset, random, coming.Dequeue());
                if (plan is not null)
                {
                    taken.AddRange(
                        plan.Claims.Select(claim => new TakenTime(
                            claim.ResourceId,
                            claim.Unit,
                            claim.During,
                            house.Location.Id,
                            null,
                            service.Id
                        ))
                    );
                    day = new DayBook(house, date, dated, taken);
                    booked++;
                }

                // A bath takes little of Bram's time, but nobody shows six people in at once.
                at = start.Value + 4;
            }
        }

        return booked;
    }

    private static int? Next(StartFinder finder, DayBook day, Service service, int at)
    {
        DaySet feasible = finder.Feasible(day);
        foreach (SetTime time in service.SetTimes)
            if (
                time.Weekday == day.Day.Date.DayOfWeek
                && day.Day.GrainOfStart(day.Day.Of(time.At)) is { } grain
                && grain >= at
                && feasible.Contains(grain)
            )
                return grain;
        return service.SetTimes.Count > 0 ? null : feasible.NextMember(at);
    }

    /// <summary>How likely a free time is taken: full evenings, thin Tuesday mornings, the future filling up.</summary>
    private static double Appetite(BookDay day, int grain, int offset)
    {
        int hour = day.WallOf(grain).Hour;
        double wanted = (day.Date.DayOfWeek, hour) switch
        {
            (IsoDayOfWeek.Tuesday, < 12) => 0.35,
            (_, >= 17) => 0.95,
            (IsoDayOfWeek.Saturday, _) => 0.85,
            (IsoDayOfWeek.Sunday, _) => 0.6,
            _ => 0.8,
        };
        return offset <= 0 ? wanted : wanted * Math.Max(0.12, 0.85 - (offset / 45.0));
    }

    private async Task<VisitPlan?> BookAsync(
        BookingDesk desk,
        House house,
        DayBook day,
        StartFinder finder,
        Service service,
        VisitWish wish,
        int start,
        int offset,
        Random random,
        ClientRow client
    )
    {
        Instant at = day.Day.At(start);
        Instant bookedAt = at - Duration.FromHours(random.Next(3, 24 * 21));
        // What lies ahead was booked before now; what began a moment ago cannot have been booked after it began.
        _clock.At = Instant.Min(bookedAt, now - Duration.FromMinutes(random.Next(5, 60 * 24 * 3)));
        bool online =
            random.Next(100) < 35
            && finder.PlanOffered(day, start, new Audience(), _clock.At) is not null
            && finder.PlanOffered(day, start, Audience.Stranger, _clock.At) is not null;
        StoredVisit visit;
        try
        {
            visit = await desk.BookAsync(
                new BookingOrder
                {
                    LocationId = house.Location.Id,
                    Start = at,
                    Wanted = new WantedVisit(wish, [[]]),
                    Client = new ClientAsked(client.Id),
                    Source = online ? "Online" : "Desk",
                },
                online ? _page : _desk);
        }
        catch (Refused)
        {
            return null;
        }

        bool cancelled = await LiveThroughAsync(desk, visit, offset, random);
        return cancelled
            ? null
            : new VisitPlan(
                visit.Visit.StartsAt,
                visit.Visit.EndsAt,
                [],
                [.. visit.Claims.Select(claim => new PlannedClaim(0, claim.ResourceId, claim.Unit, claim.During, claim.Core, claim.Role))]
            );
    }

    /// <summary>What became of a visit until now.</summary>
    private async Task<bool> LiveThroughAsync(BookingDesk desk, StoredVisit visit, int offset, Random random)
    {
        int fate = random.Next(100);
        if (fate < 4 && visit.Visit.StartsAt < now + Duration.FromDays(7))
        {
            _clock.At = Instant.Min(now, visit.Visit.StartsAt - Duration.FromHours(random.Next(1, 30)));
            string[] reasons = ["Client is ill", "Train cancelled", "Changed their mind", "Child is ill", "Work came up"];
            await desk.CancelAsync(visit.Visit.Id, visit.Visit.Version, CancelledBy.Client, reasons[random.Next(reasons.Length)], _desk);
            return true;
        }

        if (visit.Visit.EndsAt <= now)
        {
            _clock.At = visit.Visit.EndsAt;
            await desk.SetStateAsync(visit.Visit.Id, visit.Visit.Version, fate < 7 ? VisitState.NoShow : VisitState.Done, _desk);
        }
        else if (visit.Visit.StartsAt <= now)
        {
            _clock.At = visit.Visit.StartsAt;
            StoredVisit here = await desk.SetStateAsync(visit.Visit.Id, visit.Visit.Version, VisitState.Arrived, _desk);
            if (fate < 85) await desk.SetStateAsync(visit.Visit.Id, here.Visit.Version, VisitState.InTreatment, _desk);
        }

        return false;
    }

    private static async Task<ClientRow> FindAsync(NpgsqlConnection connection, Guid id) => (await ClientStore.FindAsync(connection, id))!;

    private static async Task<IReadOnlyList<ClientRow>> EnterClientsAsync(Database database, Instant now)
    {
        List<ClientRow> clients = [];
        Faker faker = new("en_IE") { Random = new Randomizer(Seed) };
        string[] alerts =
        [
            "Latex allergy",
            "Nut oil allergy",
            "Pacemaker",
            "Blood thinners",
            "Needs step-free access",
            "Prefers quiet",
            "Pregnant",
            "Hard of hearing",
        ];
        string[] sources = ["A friend", "The web", "Walked past", "Doctor's advice"];
        string[] pressures = ["Light", "Medium", "Firm"];
        string[] notes =
        [
            "Right hip looser. Asked about lymph drainage before the summer.",
            "Prefers to be called in the morning.",
            "Shoulder: full range, no load above 6 kg for now.",
            "Skin reacted to the new serum; the old one is fine.",
        ];
        Change change = new("Nell (desk)", now - Duration.FromDays(DaysBack + 30));
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        string family = "";
        for (int i = 0; i < Clients; i++)
        {
            // Every ninth lives with the one before; a few were entered twice.
            bool sameHouse = i % 9 == 8;
            family = sameHouse ? family : faker.Name.LastName();
            string given = faker.Name.FirstName();
            string mail = new([.. $"{given}.{family}".ToLowerInvariant().Where(letter => char.IsAsciiLetter(letter) || letter == '.')]);
            ClientRow client = new()
            {
                Id = DemoBusiness.Id($"client {i}"),
                GivenName = i is 200 or 400 ? clients[i - 50].GivenName : given,
                FamilyName = i is 200 or 400 ? clients[i - 50].FamilyName : family,
                Email = $"{mail}{i}@example.com",
                // 020 91x xxxx is set aside for made-up people.
                Phone = $"+3532091{(i is 200 or 400 ? i - 50 : i):00000}",
                Born = i % 3 == 1 ? new LocalDate(1950 + (i * 7 % 55), 1 + (i % 12), 1 + (i * 5 % 28)) : null,
                Source = i % 4 == 2 ? sources[i / 4 % sources.Length] : null,
                Tags = i % 7 == 3 ? ["regular"] : i % 29 == 8 ? ["staff friend"] : [],
                LikesQuiet = i % 11 == 2,
                LikesPressure = i % 5 == 1 ? pressures[i / 5 % pressures.Length] : null,
                LikesWords = i % 37 == 6 ? "Window open, no music" : null,
                Alert = i % 13 == 5 ? alerts[i % alerts.Length] : null,
                CreatedAt = change.At,
            };
            await ClientStore.AddAsync(connection, client, change);
            Instant later = change.At + Duration.FromDays(i % DaysBack);
            if (i % 6 == 1)
                await ClientRecordStore.AddNoteAsync(
                    connection,
                    client.Id,
                    new ClientNote(
                        DemoBusiness.Id($"note {i}"),
                        notes[i / 6 % notes.Length],
                        i % 4 == 1 ? "Ines Calloway" : "Nell (desk)",
                        later
                    )
                );
            if (i % 2 == 0)
                await ClientRecordStore.AddConsentAsync(
                    connection,
                    client.Id,
                    new ClientConsent("Texts", true, "May we remind you of your visits by text message?", "Nell (desk)", change.At)
                );
            if (sameHouse)
            {
                // Who lives together books for one another; the one who was there first pays too.
                await LinkStore.SaveAsync(
                    connection,
                    new ClientLink(clients[^1].Id, client.Id, "household") { MayBook = true, MayPay = true },
                    0,
                    change
                );
                await LinkStore.SaveAsync(connection, new ClientLink(client.Id, clients[^1].Id, "household") { MayBook = true }, 0, change);
            }

            clients.Add(client);
        }

        await transaction.CommitAsync();
        return clients;
    }
}
