using System.Globalization;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.Exchange;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>The book by week, by month and as an agenda.</summary>
internal static class ViewEndpoints
{
    private const int MonthDays = 42,
        MostVisits = 2000,
        MostAtOnce = 200;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").WithTags("Book").Problems();
        group
            .MapGet("/locations/{locationId:guid}/weeks/{date}", WeekAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("The week of a date for one practitioner, room or pool.");
        group
            .MapGet("/locations/{locationId:guid}/months/{date}", MonthAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("Six weeks from the Monday before the first of a date's month on, as a map of fullness.");
        group
            .MapGet("/visit-references/{reference}", ByReferenceAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("The visit that clients call by a reference, in capitals or not.");
        group
            .MapGet("/agenda", AgendaAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("Visits one after another, 2,000 at the most.");
        group
            .MapGet("/agenda.csv", CsvAsync)
            .RequireAuthorization(Rights.KeepBook)
            .Produces(200, contentType: "text/csv")
            .WithSummary("The same as CSV. The history keeps who took it.");
        group
            .MapPost("/agenda/state", StatesAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Says of several visits where they stand. Each stands for itself: the answer says what became of each.");
    }

    private static async Task<Ok<WeekAnswer>> WeekAsync(
        Guid locationId,
        string date,
        Guid resourceId,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        LocalDate monday = Monday(BookEndpoints.Date(date, "date"));
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(locationId) ?? throw Refused.NotFound("There is no such location.");
        string name =
            house.Practitioners.FirstOrDefault(practitioner => practitioner.Id == resourceId)?.Name
            ?? house.Rooms.FirstOrDefault(room => room.Id == resourceId)?.Name
            ?? house.Pools.FirstOrDefault(pool => pool.Id == resourceId)?.Name
            ?? throw Refused.Invalid("resourceId", "Choose a practitioner, a room or equipment of this location.");
        IReadOnlyList<DayBook> days = await book.DaysAsync(connection, setup, house, monday, 7);
        ILookup<LocalDate, StoredVisit> visits = (
            await BookStore.AgendaAsync(
                connection,
                new AgendaFilter(monday, monday.PlusDays(6)) { LocationId = locationId, ResourceIds = [resourceId] },
                MostVisits
            )
        ).ToLookup(visit => visit.Visit.Date);
        Instant now = clock.GetCurrentInstant();
        return TypedResults.Ok(
            new WeekAnswer(
                resourceId,
                name,
                [
                    .. days.Select(day => DayPicture.Of(setup, day, [.. visits[day.Day.Date]], now, resourceId))
                        .Select(day => day with { Visits = [.. day.Visits.Select(visit => visit.For(http.User))] }),
                ]
            )
        );
    }

    private static async Task<Ok<MonthAnswer>> MonthAsync(
        Guid locationId,
        string date,
        Guid? practitionerId,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        LocalDate day = BookEndpoints.Date(date, "date");
        LocalDate monday = Monday(new LocalDate(day.Year, day.Month, 1));
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(locationId) ?? throw Refused.NotFound("There is no such location.");
        if (practitionerId is not null && house.Practitioners.All(practitioner => practitioner.Id != practitionerId))
            throw Refused.Invalid("practitionerId", "Choose somebody who works here.");
        return TypedResults.Ok(
            new MonthAnswer(
                clock.GetCurrentInstant().InZone(house.Location.Zone).Date,
                [
                    .. (await book.DaysAsync(connection, setup, house, monday, MonthDays)).Select(one =>
                        DayPicture.Month(one, practitionerId)
                    ),
                ]
            )
        );
    }

    private static async Task<Ok<AgendaRow>> ByReferenceAsync(
        string reference,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Guid? id = reference.Length == 8 ? await BookStore.IdOfAsync(connection, reference.ToUpperInvariant()) : null;
        StoredVisit visit =
            (id is { } found ? await BookStore.FindAsync(connection, found) : null) ?? throw Refused.NotFound("There is no such visit.");
        return TypedResults.Ok(
            AgendaRow.Of(DayPicture.Of(await book.SetupAsync(connection), visit, clock.GetCurrentInstant()).For(http.User))
        );
    }

    private static LocalDate Monday(LocalDate date) => date.PlusDays(1 - (int)date.DayOfWeek);

    private static async Task<Ok<AgendaAnswer>> AgendaAsync(
        [AsParameters] AgendaQuery query,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        AgendaFilter filter = query.Check();
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        AgendaRow[] rows =
        [
            .. await RowsAsync(connection, setup, filter, MostVisits + 1, clock.GetCurrentInstant(), visit => visit.For(http.User)),
        ];
        return TypedResults.Ok(new AgendaAnswer([.. rows.Take(MostVisits)], rows.Length > MostVisits));
    }

    private static async Task<IEnumerable<AgendaRow>> RowsAsync(
        NpgsqlConnection connection,
        Setup setup,
        AgendaFilter filter,
        int most,
        Instant now,
        Func<VisitAnswer, VisitAnswer> seen
    ) =>
        (await BookStore.AgendaAsync(connection, filter, most)).Select(visit => AgendaRow.Of(seen(DayPicture.Of(setup, visit, now))));

    private static async Task<IResult> CsvAsync(
        [AsParameters] AgendaQuery query,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        AgendaFilter filter = query.Check();
        await ExportEndpoints.RecordAsync(http, database, clock, "agenda.csv");
        return CsvAnswer.Of(
            "agenda.csv",
            async csv =>
            {
                await CsvAnswer.RowAsync(
                    csv,
                    [
                        "date",
                        "start",
                        "end",
                        "reference",
                        "state",
                        "given name",
                        "family name",
                        "phone",
                        "services",
                        "practitioners",
                        "rooms",
                        "price",
                        "currency",
                        "booked",
                        "note",
                    ]
                );
                await using NpgsqlConnection connection = await database.OpenAsync();
                Setup setup = await book.SetupAsync(connection);
                foreach (
                    AgendaRow row in await RowsAsync(connection, setup, filter, MostVisits, clock.GetCurrentInstant(), visit => visit)
                )
                    await CsvAnswer.RowAsync(csv, Cells(row, setup.Business.Currency));
            }
        );
    }

    private static string[] Cells(AgendaRow row, string currency)
    {
        DateTimeZone zone = DateTimeZoneProviders.Tzdb[row.Zone];
        string Clock(Instant at) => at.InZone(zone).TimeOfDay.ToString("HH:mm", CultureInfo.InvariantCulture);
        return
        [
            LocalDatePattern.Iso.Format(row.Date),
            Clock(row.Start),
            Clock(row.End),
            row.Reference,
            row.State.ToString(),
            row.Client.GivenName,
            row.Client.FamilyName,
            row.Client.Phone ?? "",
            string.Join(" + ", row.Services),
            string.Join(", ", row.Practitioners.Select(who => who.Name)),
            string.Join(", ", row.Rooms),
            Core.Money.Currencies.Plain(row.Price.Amount, currency),
            currency,
            row.Source,
            row.Note,
        ];
    }

    private static async Task<Ok<StatedAnswer[]>> StatesAsync(StatesRequest request, HttpContext http, BookingDesk desk)
    {
        if (!Enum.IsDefined(request.State) || request.State == VisitState.Cancelled)
            throw Refused.Invalid("state", "Choose a state; cancelling needs a reason and has an address of its own.");
        if (request.Visits.Count is 0 or > MostAtOnce)
            throw Refused.Invalid("visits", $"Choose 1 to {MostAtOnce} visits.");
        List<StatedAnswer> answers = [];
        foreach (SeenVisit visit in request.Visits.DistinctBy(visit => visit.Id))
        {
            try
            {
                await desk.SetStateAsync(visit.Id, visit.Version, request.State, http.Actor());
                answers.Add(new StatedAnswer(visit.Id, true, null));
            }
            catch (Refused refused)
            {
                answers.Add(new StatedAnswer(visit.Id, false, refused.Detail.ToString()));
            }
        }

        return TypedResults.Ok(answers.ToArray());
    }
}
