using Kingcup.Core.Availability;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.Clients;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>The book for staff.</summary>
internal static class BookEndpoints
{
    private const int LongestNote = 2000;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").WithTags("Book").ProducesProblem(400).ProducesProblem(401).ProducesProblem(403);
        group
            .MapGet("/setup", SetupAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("Locations, services and practitioners as the desk chooses among them.");
        group
            .MapGet("/locations/{locationId:guid}/days/{date}", DayAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("One day of the book.")
            .ProducesProblem(404);
        group
            .MapGet("/locations/{locationId:guid}/fullness", FullnessAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("How full each day of a run of days is.")
            .ProducesProblem(404);
        group
            .MapPost("/starts", (StartsRequest request, StartQueries starts) => starts.FeasibleAsync(request))
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("The starts at which a visit fits, with who would do it and where.");
        group
            .MapPost(
                "/starts/why-not",
                (WhyNotRequest request, HttpContext http, StartQueries starts) => starts.WhyNotAsync(request, SeenWarnings.Of(http))
            )
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Every reason why a start does not fit, in order, and how it may be booked all the same.");
        group
            .MapPost("/visits", BookAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary(
                "Books a visit. Accepts an Idempotency-Key. A time that fits only over something needs the X-Accept-Over of the "
                    + "refusal that says over what."
            )
            .ProducesProblem(409)
            .ProducesProblem(422);
        group.MapGet("/visits/{id:guid}", FindAsync).RequireAuthorization(Rights.SeeBook).WithSummary("A visit.").ProducesProblem(404);
        group
            .MapGet("/visits/{id:guid}/history", HistoryAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("What happened to a visit, oldest first.")
            .ProducesProblem(404);
        PublicAnswers.Map(group);
        group
            .MapPost("/lights", (LightsRequest request, LightQueries lights) => lights.OfAsync(request))
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Where a visit fits, lane by lane, and how it would lie.");
    }

    private static async Task<Ok<DeskSetup>> SetupAsync(Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        Instant now = clock.GetCurrentInstant();
        return TypedResults.Ok(
            new DeskSetup
            {
                Business = setup.Business.Name,
                Currency = setup.Business.Currency,
                Locale = setup.Business.Locale,
                IsDemo = setup.Business.IsDemo,
                Now = now,
                Locations =
                [
                    .. setup.Locations.Select(location => new DeskLocation(
                        location.Location.Id,
                        location.Location.Name,
                        location.Location.Zone.Id,
                        now.InZone(location.Location.Zone).Date,
                        [.. location.Location.Opening.Select(HoursDocument.Of)]
                    )),
                ],
                CancelReasons = setup.Business.CancelReasons,
                Rooms =
                [
                    .. setup
                        .Parts.Rooms.Where(room => room.Room.Retired is null || room.Room.Retired > setup.Today(now))
                        .Select(room => new DeskRoom(room.Room.Id, room.Room.Name, room.LocationId)),
                ],
                Categories = [.. setup.Categories.Select(category => new NamedAnswer(category.Category.Id, category.Category.Name))],
                Services =
                [
                    .. setup
                        .Services.Select(service => service.Service)
                        .Select(service => new DeskService
                        {
                            Id = service.Id,
                            Name = service.Name,
                            CategoryId = service.CategoryId,
                            Minutes = service.Minutes,
                            Price = new MoneyAnswer(service.Price, setup.Business.Currency),
                            LocationIds =
                                service.Locations.Count > 0
                                    ? [.. service.Locations]
                                    : [.. setup.Locations.Select(location => location.Location.Id)],
                            PractitionerIds =
                            [
                                .. setup
                                    .Practitioners.Where(who =>
                                        service.Roles[0].EverAllows(who, now.InZone(DateTimeZone.Utc).Date.PlusDays(-1))
                                    )
                                    .Select(who => who.Id),
                            ],
                            AddOns =
                            [
                                .. setup
                                    .Parts.AddOns.Where(other => !other.IsArchived && other.AddOn.Services.ContainsKey(service.Id))
                                    .Select(other => other.AddOn)
                                    .Select(other => new DeskAddOn(
                                        other.Id,
                                        other.Name,
                                        other.Minutes,
                                        new MoneyAnswer(other.Price, setup.Business.Currency)
                                    )),
                            ],
                        }),
                ],
                Practitioners =
                [
                    .. setup.Practitioners.Select(practitioner => new DeskPractitioner(
                        practitioner.Id,
                        practitioner.Name,
                        practitioner.IsRetiredOn(now.InUtc().Date.PlusDays(-1))
                    )),
                ],
            }
        );
    }

    private static async Task<Ok<DayAnswer>> DayAsync(
        Guid locationId,
        string date,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        LocalDate day = Date(date, "date");
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(locationId) ?? throw Refused.NotFound("There is no such location.");
        DayBook laidOut = (await book.DaysAsync(connection, setup, house, day, 1))[0];
        DayAnswer picture = DayPicture.Of(
            setup,
            laidOut,
            await BookStore.DayAsync(connection, locationId, day),
            clock.GetCurrentInstant(),
            null,
            Rights.KeepsBook(http.User) ? await BookStore.ProposedOnAsync(connection, locationId, day) : null
        );
        return TypedResults.Ok(picture with { Visits = [.. picture.Visits.Select(visit => visit.For(http.User))] });
    }

    private static async Task<Ok<DayFullness[]>> FullnessAsync(Guid locationId, string from, int days, Database database, BookReader book)
    {
        LocalDate first = Date(from, "from");
        if (days is < 1 or > StartQueries.MostDays)
            throw Refused.Invalid("days", $"Ask for 1 to {StartQueries.MostDays} days.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(locationId) ?? throw Refused.NotFound("There is no such location.");
        return TypedResults.Ok((await book.DaysAsync(connection, setup, house, first, days)).Select(DayPicture.Fullness).ToArray());
    }

    private static async Task<Created<VisitAnswer>> BookAsync(
        BookRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        Setup setup = await book.SetupAsync(database, http.Key());
        Checks checks = new();
        ClientRow? entered = CheckClient(request.ClientId, request.NewClient, request.Note, setup, clock, checks);
        IReadOnlyList<VisitPersonRow> people = request.CheckPeople(checks);
        checks.Done();
        StoredVisit visit = await desk.BookAsync(
            new BookingOrder
            {
                LocationId = request.LocationId,
                Start = request.Start,
                Wanted = WantedVisit.Of(setup, request.Lines),
                Client = new ClientAsked(request.ClientId ?? entered!.Id),
                NewClient = entered,
                PayerId = request.PayerId,
                People = people,
                Source = "Desk",
                Note = request.Note?.Trim() ?? "",
            },
            http.Actor(),
            http.Key(),
            SeenWarnings.Of(http),
            Answer,
            setup
        );
        return TypedResults.Created($"/api/v1/visits/{visit.Visit.Id}", DayPicture.Of(setup, visit, clock.GetCurrentInstant()));

        Answered Answer(Setup present, StoredVisit booked) =>
            new($"/api/v1/visits/{booked.Visit.Id}", DayPicture.Of(present, booked, clock.GetCurrentInstant()));
    }

    /// <summary>Checks whom a booking is for, and its note; the client who is entered with it, or null.</summary>
    internal static ClientRow? CheckClient(
        Guid? clientId,
        NewClientRequest? newClient,
        string? note,
        Setup setup,
        IClock clock,
        Checks checks
    )
    {
        checks.Require((note?.Length ?? 0) <= LongestNote, "note", $"A note has {LongestNote} characters at the most.");
        checks.Require((clientId is null) != (newClient is null), "clientId", "Choose a client, or enter a new one.");
        return newClient?.Check("newClient.", setup.Business.Region, clock.GetCurrentInstant(), reachable: false, checks);
    }

    private static async Task<Ok<VisitAnswer>> FindAsync(Guid id, HttpContext http, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit visit = await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit.");
        return TypedResults.Ok(DayPicture.Of(await book.SetupAsync(connection), visit, clock.GetCurrentInstant()).For(http.User));
    }

    private static async Task<Ok<HistoryAnswer[]>> HistoryAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        IReadOnlyList<HistoryRow> rows = await History.OfAsync(connection, id);
        if (rows.Count == 0)
            throw Refused.NotFound("There is no such visit.");
        return TypedResults.Ok(rows.Select(row => new HistoryAnswer(row.At, row.Actor, row.Action, row.Before, row.After)).ToArray());
    }

    internal static LocalDate Date(string text, string field) =>
        LocalDatePattern.Iso.Parse(text) is { Success: true } parsed
            ? StartQueries.CheckDate(parsed.Value, field)
            : throw Refused.Invalid(field, "Write the date as 2027-03-01.");
}
