using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Money;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Clients;

/// <summary>What clients see and do of their own, once they have shown who they are.</summary>
internal static class OwnEndpoints
{
    private const int UsualDays = 14;

    internal static void Map(RouteGroupBuilder open)
    {
        RouteGroupBuilder group = open.MapGroup("").AllowAnonymous().WithTags("Own bookings").ProducesProblem(400).ProducesProblem(403);
        group.AddEndpointFilter(FromThisPageAsync);
        OwnDoor.Map(group);
        OwnPasswords.Map(group);
        OwnDeposits.Map(group);
        group.MapGet("/mine", FindAsync).Limit(Limits.PublicRead).WithSummary("One's own bookings, ahead and past.").ProducesProblem(401);
        group
            .MapGet("/mine/who", WhoAsync)
            .Limit(Limits.PublicRead)
            .WithSummary("As whom whoever has shown who they are may book; nobody where they have not.");
        group
            .MapPost("/mine/visits/{id:guid}/starts", StartsAsync)
            .Limit(Limits.PublicRead)
            .WithSummary("The times to which one's own visit may be moved, day by day.")
            .ProducesProblem(401)
            .ProducesProblem(404);
        group
            .MapPost("/mine/visits/{id:guid}/move/try", TryAsync)
            .Limit(Limits.PublicRead)
            .WithSummary("With whom one's own visit would be at another time, and what it would cost.")
            .ProducesProblem(401)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/mine/visits/{id:guid}/move", MoveAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Moves one's own visit.")
            .ProducesProblem(401)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/mine/visits/{id:guid}/cancel", CancelAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Cancels one's own visit.")
            .ProducesProblem(401)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/mine/visits/{id:guid}/choose", ChooseAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Chooses one of the times the business proposes.")
            .ProducesProblem(401)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPut("/mine/consents", ConsentsAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Says what one agrees to.")
            .ProducesProblem(401);
        OwnContacts.Map(group);
        group
            .MapGet("/mine/data", DataAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Everything one may take along: details, visits, consents, what was written to one.")
            .ProducesProblem(401);
        group
            .MapPost("/mine/forget", ForgetAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Asks the business to forget one; it decides what the law makes it keep.")
            .ProducesProblem(401);
    }

    /// <summary>
    /// Changes nothing for a page of another origin, were it a neighbour to which the cookie is sent: browsers say where they ask from.
    /// </summary>
    private static ValueTask<object?> FromThisPageAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        HttpRequest request = context.HttpContext.Request;
        if (!HttpMethods.IsGet(request.Method) && request.Headers["Sec-Fetch-Site"].ToString() is not ("" or "same-origin" or "none"))
            throw new Refused(StatusCodes.Status403Forbidden, "other-site", "This is done on the page of your bookings itself.");
        return next(context);
    }

    private static async Task<Ok<OwnAnswer>> FindAsync(HttpContext http, Database database, BookReader book, IClock clock)
    {
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlConnection connection = await database.OpenAsync();
        (OwnSession session, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
        return TypedResults.Ok(await OwnPicture.OfAsync(connection, await book.SetupAsync(connection), session, clients, now));
    }

    private static async Task<Ok<OwnWho>> WhoAsync(HttpContext http, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        BookingAccess access = (await book.SetupAsync(connection)).Parts.BookingPage.Access;
        if (await OwnDoor.ShownAsync(http, connection, clock.GetCurrentInstant()) is not { } shown)
            return TypedResults.Ok(new OwnWho([], null, false, access.Lets(isKnown: false, isProven: false)));
        List<ClientRow> rows = [];
        foreach (Guid id in (await OwnReach.OfAsync(connection, shown.Clients)).Books)
            rows.Add((await ClientStore.FindAsync(connection, id))!);
        string address = shown.Session.Address;
        bool isEmail = address.Contains('@', StringComparison.Ordinal);
        return TypedResults.Ok(
            new OwnWho(
                await OwnPicture.PeopleAsync(connection, shown.Session, shown.Clients, rows),
                isEmail ? address : ContactRules.Readable(address),
                isEmail,
                access.Lets(isKnown: false, isProven: true)
            )
        );
    }

    /// <summary>A visit of one's own, or of somebody one may book for.</summary>
    /// <exception cref="Refused">There is none; what is somebody else's is as if it were not there.</exception>
    internal static async Task<StoredVisit> OwnAsync(HttpContext http, NpgsqlConnection connection, Guid id, Instant now)
    {
        (_, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
        IReadOnlyList<Guid> books = (await OwnReach.OfAsync(connection, clients)).Books;
        return await BookStore.FindAsync(connection, id) is { } visit && books.Contains(visit.Visit.ClientId)
            ? visit
            : throw Refused.NotFound("There is no such booking of yours.");
    }

    private static async Task<Ok<PublicStarts>> StartsAsync(
        Guid id,
        OwnStartsRequest request,
        HttpContext http,
        Database database,
        StartQueries queries,
        IClock clock
    )
    {
        Instant now = clock.GetCurrentInstant();
        (StoredVisit visit, Audience audience) = await OwnWithAudienceAsync(http, database, id, now);
        OfferedDays offered = await queries.OfferedForMoveAsync(visit, audience, request.From, request.Days ?? UsualDays);
        LocalDate horizon = Horizon.Of(offered.House, visit.Lines.Select(line => line.ServiceId), audience, now);
        LocalDate next = offered.Days[^1].Day.Date.PlusDays(1);
        return TypedResults.Ok(
            new PublicStarts(
                offered.House.Location.Zone.Id,
                [
                    .. offered
                        .Days.Zip(offered.Starts)
                        .Where(day => day.First.Day.Date <= horizon)
                        .Select(day => PublicEndpoints.Day(day.First, day.Second)),
                ],
                next <= horizon ? next : null,
                false
            )
        );
    }

    private static async Task<(StoredVisit Visit, Audience Audience)> OwnWithAudienceAsync(
        HttpContext http,
        Database database,
        Guid id,
        Instant now
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit visit = await OwnAsync(http, connection, id, now);
        ClientRow client = (await ClientStore.FindAsync(connection, visit.Visit.ClientId))!;
        IReadOnlyList<ClientVisit> visits = await BookStore.OfClientAsync(connection, client.Id, visit.Visit.Id);
        return (visit, BookingChecks.AudienceOf(client, visits, null, now));
    }

    private static async Task<Ok<OwnMoveAnswer>> TryAsync(
        Guid id,
        OwnMoveTryRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        StartQueries queries,
        IClock clock
    )
    {
        Instant now = clock.GetCurrentInstant();
        (StoredVisit visit, Audience audience) = await OwnWithAudienceAsync(http, database, id, now);
        (VisitPlan plan, long price) = await queries.MovedAsync(visit, audience, request.Start);
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        string currency = setup.Business.Currency;
        return TypedResults.Ok(
            new OwnMoveAnswer(
                plan.Start,
                plan.End,
                [
                    .. plan.Lines.Select(line =>
                    {
                        IEnumerable<string> who = line.Practitioners.Select(id => house.Practitioners.First(one => one.Id == id).Name);
                        return (string)Say($"{house.Services[line.ServiceId].Name} with {List(who)}");
                    }),
                ],
                new MoneyAnswer(price, currency),
                price != visit.Price.Total,
                FeeAnswer.Of(await BookingDesk.MoveFeeOfAsync(connection, visit, now), currency)
            )
        );
    }

    private static Task<Ok<OwnAnswer>> MoveAsync(
        Guid id,
        OwnMoveRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    ) =>
        AfterAsync(
            id,
            http,
            database,
            book,
            clock,
            () => desk.MoveOwnAsync(id, request.Version, request.Start, new FeeOrder(request.FeeSeen, PriceSeen: request.PriceSeen))
        );

    private static Task<Ok<OwnAnswer>> CancelAsync(
        Guid id,
        OwnCancelRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    ) => AfterAsync(id, http, database, book, clock, () => desk.CancelOwnAsync(id, request.Version, new FeeOrder(request.FeeSeen)));

    private static Task<Ok<OwnAnswer>> ChooseAsync(
        Guid id,
        OwnChooseRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    ) =>
        AfterAsync(
            id,
            http,
            database,
            book,
            clock,
            () => desk.ChooseAsync(id, request.Version, request.ProposalId, request.PriceSeen)
        );

    /// <summary>Changes a visit of one's own, and tells how everything stands then.</summary>
    private static async Task<Ok<OwnAnswer>> AfterAsync(
        Guid id,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock,
        Func<Task<StoredVisit>> change
    )
    {
        Instant now = clock.GetCurrentInstant();
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            StoredVisit visit = await OwnAsync(http, connection, id, now);
            if (now >= visit.Visit.StartsAt && visit.Visit.VisitState != Core.Booking.VisitState.Answered)
                throw new Refused(StatusCodes.Status409Conflict, "begun", "This booking has begun already. Call us.");
        }

        await change();
        return await FindAsync(http, database, book, clock);
    }

    private static async Task<Ok<OwnConsents>> ConsentsAsync(OwnConsents request, HttpContext http, Database database, IClock clock)
    {
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlConnection connection = await database.OpenAsync();
        (_, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        foreach (Guid client in clients)
        {
            OwnConsents present = await OwnPicture.ConsentsOfAsync(connection, client);
            (ConsentKind Kind, bool Was, bool Is, string Words)[] asked =
            [
                (ConsentKind.Texts, present.Texts, request.Texts, Say("Text messages about my bookings")),
                (ConsentKind.News, present.News, request.News, Say("News by e-mail or text")),
            ];
            foreach ((ConsentKind kind, _, bool given, string words) in asked.Where(consent => consent.Was != consent.Is))
            {
                await ClientRecordStore.AddConsentAsync(
                    connection,
                    client,
                    new ClientConsent(kind.ToString(), given, words, Say("Client, online"), now)
                );
            }
        }

        await transaction.CommitAsync();
        return TypedResults.Ok(request);
    }

    private static async Task<Ok<OwnData>> DataAsync(HttpContext http, Database database, BookReader book, IClock clock)
    {
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlConnection connection = await database.OpenAsync();
        (OwnSession session, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
        Setup setup = await book.SetupAsync(connection);
        OwnAnswer told = await OwnPicture.OfAsync(connection, setup, session, clients, now);
        List<OwnDetails> people = [];
        foreach (Guid id in clients)
        {
            ClientRow client = (await ClientStore.FindAsync(connection, id))!;
            people.Add(
                new OwnDetails(
                    client.GivenName,
                    client.FamilyName,
                    client.Email,
                    client.Phone,
                    client.Born,
                    [
                        .. (await ClientRecordStore.ConsentsAsync(connection, id)).Select(consent => new OwnConsent(
                            consent.Kind,
                            consent.Given,
                            consent.Words,
                            consent.At
                        )),
                    ],
                    [
                        .. (
                            await MessageStore.ListAsync(
                                connection,
                                new MessagesAsked { States = [MessageState.Sent], ClientId = id, Most = 1000 }
                            )
                        ).Select(message => new OwnLetter(message.SettledAt!.Value, message.Address!, message.Subject)),
                    ]
                )
            );
        }

        http.Response.Headers.ContentDisposition = "attachment; filename=\"my-data.json\"";
        IReadOnlyList<OwnAnswered> answers = await OwnStore.AnswersAsync(connection, clients);
        return TypedResults.Ok(new OwnData(setup.Business.Name, now, people, [.. told.Ahead, .. told.Past], answers, told.Cards));
    }

    private static async Task<NoContent> ForgetAsync(HttpContext http, Database database, IClock clock)
    {
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlConnection connection = await database.OpenAsync();
        (_, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        foreach (Guid client in clients)
        {
            await ClientRecordStore.AddNoteAsync(
                connection,
                client,
                new ClientNote(
                    Guid.CreateVersion7(),
                    Say("Asks to be forgotten. Decide what the law makes you keep."),
                    Say("Client, online"),
                    now
                )
            );
        }

        await transaction.CommitAsync();
        return TypedResults.NoContent();
    }
}
