using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Availability;

/// <summary>
/// Two servers remember days of one book while it is changed in every way. Whatever happens, each says what somebody says who has never
/// seen it before.
/// </summary>
public sealed class RememberedDaysTests : IAsyncLifetime
{
    // The night between them has no hour from one to two.
    private static readonly LocalDate _first = new(2027, 3, 26);
    private const int Days = 4;
    private static readonly string[] _services = ["Deep tissue 60", "Facial 50", "Podiatry 40", "Nutrition review 30"];
    private readonly StandingClock _clock = new(TestDatabase.Now);
    private readonly Random _random = new(20270328);
    private TestDatabase _test = null!;
    private Desk[] _desks = [];
    private List<StoredVisit> _visits = [];
    private Setup _setup = null!;

    /// <summary>One server's memory and its operations.</summary>
    private sealed record Desk(BookReader Book, BookingDesk Booking);

    private static readonly Actor _actor = new("Nell", "test");

    public async ValueTask InitializeAsync()
    {
        _test = await TestDatabase.DemoAsync();
        _desks = [.. Enumerable.Range(0, 2).Select(_ => Server())];
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        _setup = await _desks[0].Book.SetupAsync(connection);
    }

    public async ValueTask DisposeAsync()
    {
        foreach (Desk desk in _desks)
            desk.Book.Dispose();
        await _test.DisposeAsync();
    }

    private Desk Server()
    {
        BookReader book = new(_clock);
        return new Desk(book, new BookingDesk(_test.Database, book, _clock));
    }

    private House House => _setup.HouseOf(_setup.Locations[0].Location.Id)!;

    private StartFinder Finder(string service) =>
        new(House, VisitWish.Of(_setup.Services.Single(listed => listed.Service.Name == service).Service.Id));

    /// <summary>All that a server says of the days: what is held, and which starts fit.</summary>
    private async Task<string> SaysAsync(BookReader book)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        _setup = await book.SetupAsync(connection);
        IReadOnlyList<DayBook> days = await book.DaysAsync(connection, _setup, House, _first, Days);
        return string.Join(
            '\n',
            days.SelectMany(day =>
                _services.Select(service =>
                    $"{day.Day.Date} {service} {day.Taken.Count} {day.Blocked.Count}: {string.Join(',', Finder(service).Feasible(day))}"
                )
            )
        );
    }

    private async Task AgreesAsync(string after)
    {
        using BookReader fresh = new(_clock);
        string present = await SaysAsync(fresh);
        foreach (Desk desk in _desks)
            (await SaysAsync(desk.Book)).ShouldBe(present, after);
    }

    private async Task<Instant?> FreeAsync(Desk desk, string service)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        IReadOnlyList<DayBook> days = await desk.Book.DaysAsync(connection, _setup, House, _first, Days);
        Instant[] free = [.. days.SelectMany(day => Finder(service).Feasible(day).Select(day.Day.At))];
        return free.Length == 0 ? null : free[_random.Next(free.Length)];
    }

    private BookingOrder Order(string service, Instant start)
    {
        ClientRow client = new()
        {
            Id = Guid.CreateVersion7(),
            GivenName = "Ada",
            FamilyName = "Marsh",
            CreatedAt = TestDatabase.Now,
        };
        VisitWish wish = VisitWish.Of(_setup.Services.Single(listed => listed.Service.Name == service).Service.Id);
        return new BookingOrder
        {
            LocationId = House.Location.Id,
            Start = start,
            Wanted = new WantedVisit(
                wish,
                [
                    [],
                ]
            ),
            Client = new ClientAsked(client.Id),
            NewClient = client,
            Source = "Desk",
        };
    }

    private async Task<string> BookAsync(Desk desk)
    {
        string service = _services[_random.Next(_services.Length)];
        if (await FreeAsync(desk, service) is not { } start)
            return "nothing free";
        _visits.Add(await desk.Booking.BookAsync(Order(service, start), _actor));
        return $"{service} booked at {start}";
    }

    private async Task<string> RefusedAsync(Desk desk)
    {
        // Ten at once for one time, on either server: whoever is refused has locked the day and counted it on before.
        if (await FreeAsync(desk, "Podiatry 40") is not { } start)
            return "nothing free";
        StoredVisit?[] booked = await Task.WhenAll(
            Enumerable
                .Range(0, 10)
                .Select(async i =>
                {
                    try
                    {
                        return await _desks[i % 2].Booking.BookAsync(Order("Podiatry 40", start), _actor);
                    }
                    catch (Refused)
                    {
                        return null;
                    }
                })
        );
        _visits.AddRange(booked.OfType<StoredVisit>());
        booked.ShouldContain(visit => visit == null);
        return $"ten at once at {start}";
    }

    private async Task<string> MoveAsync(Desk desk)
    {
        if (_visits.Count == 0)
            return "no visit";
        int which = _random.Next(_visits.Count);
        StoredVisit visit = _visits[which];
        string service = _setup.ServiceOf(visit.Lines[0].ServiceId)!.Name;
        if (await FreeAsync(desk, service) is not { } start)
            return "nothing free";
        _visits[which] = await desk.Booking.MoveAsync(visit.Visit.Id, visit.Visit.Version, start, null, _actor);
        return $"{service} moved to {start}";
    }

    private async Task<string> CancelAsync(Desk desk)
    {
        if (_visits.Count == 0)
            return "no visit";
        StoredVisit visit = _visits[_random.Next(_visits.Count)];
        _visits.Remove(visit);
        await desk.Booking.CancelAsync(visit.Visit.Id, visit.Visit.Version, CancelledBy.Client, "Ill", _actor);
        return "cancelled";
    }

    private async Task<string> BlockOverMidnightAsync(Desk desk)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, new Change("Nell", TestDatabase.Now));
        LocalDate date = _first.PlusDays(_random.Next(Days - 1));
        Instant midnight = new BookDay(date, House.Location.Zone).End;
        await transaction.LockAsync(new BookLocks { Days = [date, date.PlusDays(1)] }, new BookQuestion());
        Guid resource = House.Rooms[_random.Next(House.Rooms.Count)].Id;
        Interval during = new(midnight - Duration.FromHours(_random.Next(1, 16)), midnight + Duration.FromHours(_random.Next(1, 16)));
        await transaction.Calendar.SaveBlockAsync(Guid.CreateVersion7(), new BlockedTime(resource, during, "Damp"));
        bool keeps = _random.Next(2) == 0;
        if (keeps)
            await transaction.CommitAsync();
        return $"room blocked around {midnight} by {desk.GetHashCode()}, {(keeps ? "kept" : "rolled back")}";
    }

    private async Task<string> HoldAsync(Desk desk)
    {
        if (await FreeAsync(desk, "Deep tissue 60") is not { } start)
            return "nothing free";
        LocalDate date = start.InZone(House.Location.Zone).Date;
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        // Read before the transaction begins: a writing one fills no memory.
        DayBook day = (await desk.Book.DaysAsync(connection, _setup, House, date, 1))[0];
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, new Change("Nell", TestDatabase.Now));
        await transaction.LockAsync(new BookLocks { Days = [date] }, new BookQuestion());
        VisitPlan plan = Finder("Deep tissue 60").PlanFeasible(day, day.Day.GrainOfStart(start)!.Value)!;
        PlannedClaim claim = plan.Claims[0];
        // What has lapsed is taken out of the way by whoever writes next, as the stores do.
        await connection.ExecuteAsync(
            "UPDATE claim SET live = false FROM occupation o WHERE o.id = occupation_id AND o.expires_at <= @now AND live",
            new { now = _clock.GetCurrentInstant() }
        );
        await connection.ExecuteAsync(
            """
            WITH held AS (INSERT INTO occupation (id, kind, location_id, expires_at)
                VALUES (gen_random_uuid(), 'Hold', @Location, @Expires) RETURNING id)
            INSERT INTO claim (id, occupation_id, location_id, service_id, resource_id, unit, role, during, core)
            SELECT gen_random_uuid(), id, @Location, @Service, @ResourceId, @Unit, 0, tstzrange(@Start, @End), tstzrange(@Start, @End)
                FROM held
            """,
            new
            {
                Location = House.Location.Id,
                Service = plan.Lines[0].ServiceId,
                claim.ResourceId,
                claim.Unit,
                claim.During.Start,
                claim.During.End,
                Expires = _clock.GetCurrentInstant() + Duration.FromMinutes(10),
            }
        );
        await transaction.CommitAsync();
        return $"held from {start}";
    }

    private Task<string> WaitAsync(Desk desk)
    {
        // What is held runs out, and no revision says so.
        _clock.Advance(Duration.FromMinutes(11));
        return Task.FromResult($"eleven minutes later {desk.GetHashCode()}");
    }

    private async Task<string> ChangeSetupAsync(Desk desk)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        await using SetupTransaction transaction = await SetupTransaction.BeginAsync(connection, new Change("Nell", TestDatabase.Now));
        await transaction.LockChangesAsync();
        await transaction.LockAsync();
        ListedService listed = _setup.Services.Single(service => service.Service.Name == "Facial 50");
        int buffer = 5 * _random.Next(1, 6);
        await transaction.Writer.SaveAsync(listed with { Service = listed.Service with { BufferAfterMinutes = buffer } }, TestDatabase.Now);
        bool keeps = _random.Next(3) > 0;
        if (keeps)
            await transaction.CommitAsync();
        return $"buffer of {buffer} by {desk.GetHashCode()}, {(keeps ? "kept" : "rolled back")}";
    }

    [Fact]
    public async Task Both_always_say_what_somebody_says_who_reads_it_all_anew()
    {
        Func<Desk, Task<string>>[] changes =
        [
            BookAsync,
            BookAsync,
            BookAsync,
            RefusedAsync,
            MoveAsync,
            CancelAsync,
            BlockOverMidnightAsync,
            HoldAsync,
            WaitAsync,
            ChangeSetupAsync,
        ];
        await AgreesAsync("at first");
        for (int i = 0; i < 90; i++)
        {
            Desk desk = _desks[_random.Next(2)];
            // Only one of them looks in between, so that the other has missed several changes.
            await SaysAsync(desk.Book);
            List<string> done = [];
            for (int n = _random.Next(1, 4); n > 0; n--)
                done.Add(await changes[_random.Next(changes.Length)](_desks[_random.Next(2)]));
            await AgreesAsync(string.Join("; ", done));
        }

        _visits.Count.ShouldBeGreaterThan(10);
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        (await Proof.CheckAsync(connection)).SelectMany(finding => finding.Wrong).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_reference_that_is_taken_is_drawn_again_and_nothing_is_refused()
    {
        Instant first = (await FreeAsync(_desks[0], "Podiatry 40"))!.Value;
        StoredVisit standing = await _desks[0].Booking.BookAsync(Order("Podiatry 40", first), _actor);
        Queue<string> drawn = new([standing.Visit.Reference, "FRESH7AB"]);
        BookingDesk unlucky = new(_test.Database, _desks[0].Book, _clock) { References = drawn.Dequeue };
        Instant second = (await FreeAsync(_desks[0], "Podiatry 40"))!.Value;
        StoredVisit booked = await unlucky.BookAsync(Order("Podiatry 40", second), _actor);
        booked.Visit.Reference.ShouldBe("FRESH7AB");
        drawn.ShouldBeEmpty();
        await AgreesAsync("after a reference that was taken");
    }
}
