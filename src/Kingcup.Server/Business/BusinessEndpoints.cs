using Kingcup.Core.Calendar;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Business;

/// <summary>The business and its locations.</summary>
internal static class BusinessEndpoints
{
    private const string WhyClosed = "Say why it is closed; only those who read the book see it.", WhyStopped = "Say why online booking is stopped.",
        SaneYears = "Choose a date between the years 2000 and 2100.";

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Setup").Problems();
        group.MapGet("/business", (Database database, BookReader book) => book.ReadAsync(database, BusinessDocument.Of)).WithSummary("The business.");
        group.MapPut("/business", SaveBusinessAsync).Changes().WithSummary("Changes the business. Needs If-Match.");
        group.MapGet("/locations", (Database database, BookReader book) => book.ReadAsync(database, setup => setup.Locations.Select(one => LocationDocument.Of(setup, one)).ToArray()))
            .WithSummary("All locations with hours, closures, stops and travel.");
        group.MapPost("/locations", AddLocationAsync).WithSummary("Adds a location.");
        group.MapPut("/locations/{id:guid}", SaveLocationAsync).Changes().WithSummary("Changes a location. Needs If-Match.");
        group.MapPut("/locations/{id:guid}/travel", SaveTravelAsync).Hits().WithSummary("Sets the minutes between this location and others, in both directions.");
        group.MapPost("/closed-days", CloseDaysAsync).Hits().WithSummary("Closes locations on dates, or stops online booking for them, all at once.");
        group.MapPut("/locations/{id:guid}/closures/{date}", SaveClosureAsync).Hits().WithSummary("Closes a location on a date, once or every year.");
        group.MapDelete("/locations/{id:guid}/closures/{date}", RemoveClosureAsync).Hits().WithSummary("Takes a closure back.");
        group.MapPut("/locations/{id:guid}/stops/{date}", SaveStopAsync).Hits().WithSummary("Stops online booking for a date.");
        group.MapDelete("/locations/{id:guid}/stops/{date}", RemoveStopAsync).Hits().WithSummary("Lets a date be booked online again.");
    }

    private static Task<Ok<BusinessDocument>> SaveBusinessAsync(BusinessDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            SetupChange.Match(http, change.Setup.Business.Version);
            Checks checks = new();
            BusinessRow row = request.Check(checks, change.Setup.Business.IsDemo);
            if (row.LogoId is { } logo) checks.Require(await StoredFile.FindAsync(change.Connection, logo, "picture") is not null, "logoId", "There is no such picture. Upload it first.");
            checks.Require(row.Currency == change.Setup.Business.Currency || !change.Setup.Parts.Services.Any(one => one.Service.Price > 0), "currency",
                "Prices are in the present currency already. It can only be changed while there are none.");
            checks.Done();
            await change.Writer.SaveAsync(row);
            List<TaxRate> rates = [.. (request.TaxRates ?? []).Select((one, i) => new TaxRate(one.Id ?? Guid.CreateVersion7(), one.Name!.Trim(), one.BasisPoints, i))];
            foreach (TaxRate gone in change.Setup.Parts.TaxRates.Where(one => rates.All(other => other.Id != one.Id)))
            {
                if (change.Setup.Parts.Services.Any(one => one.TaxRateId == gone.Id)) throw Refused.Invalid("taxRates", $"{gone.Name} is the rate of some services. Give them another first.");
                await change.Writer.RemoveTaxRateAsync(gone.Id);
            }

            foreach (TaxRate rate in rates) await change.Writer.SaveAsync(rate);
            await change.RecordAsync("business", Guid.Empty, "Changed", BusinessDocument.Of(change.Setup), request);
        }, BusinessDocument.Of);

    private static Task<Created<LocationDocument>> AddLocationAsync(LocationDocument request, HttpContext http, SetupDesk desk) => desk.CreateAsync(
        http,
        async change =>
        {
            Checks checks = new();
            ListedLocation made = request.Check(checks, Guid.CreateVersion7(), change.Setup.Locations.Count);
            checks.Done();
            await change.Writer.SaveAsync(made);
            await change.RecordAsync("location", made.Location.Id, "Added", null, request);
            return made.Location.Id;
        },
        (setup, id) => ($"/api/v1/setup/locations/{id}", LocationDocument.Of(setup, Location(setup, id))));

    private static Task<Ok<LocationDocument>> SaveLocationAsync(Guid id, LocationDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            ListedLocation before = Location(change.Setup, id);
            SetupChange.Match(http, before.Version);
            Checks checks = new();
            ListedLocation after = request.Check(checks, id, before.Position);
            checks.Done();
            await change.Writer.SaveAsync(after);
            await change.RecordAsync("location", id, "Changed", LocationDocument.Of(change.Setup, before), request);
        }, setup => LocationDocument.Of(setup, Location(setup, id)));

    private static Task<Ok<LocationDocument>> SaveTravelAsync(Guid id, TravelDocument[] request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            ListedLocation here = Location(change.Setup, id);
            Checks checks = new();
            foreach ((int i, TravelDocument one) in request.Index())
            {
                checks.Require(one.LocationId != id && change.Setup.HouseOf(one.LocationId) is not null, $"[{i}].locationId", "Choose another location.");
                checks.Require(one.Minutes is >= 0 and <= 600 && Grain.IsWhole(one.Minutes), $"[{i}].minutes", "Travel is a multiple of 5 minutes, 10 hours at the most.");
            }

            checks.Done();
            foreach (TravelDocument one in request) await change.Writer.SaveTravelAsync(id, one.LocationId, one.Minutes);
            await change.RecordAsync("location", id, "Travel", LocationDocument.Of(change.Setup, here).Travel, request);
        }, setup => LocationDocument.Of(setup, Location(setup, id)));

    private static Task<Ok<LocationDocument>> SaveClosureAsync(Guid id, string date, ClosureDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            Location(change.Setup, id);
            Checks checks = new();
            string? reason = checks.Name(request.Reason, "reason", WhyClosed), forClients = checks.Optional(request.ForClients, "forClients");
            checks.Done();
            await CloseAsync(change, new Closure(id, BookEndpoints.Date(date, "date"), request.Yearly, reason!, forClients));
        }, setup => LocationDocument.Of(setup, Location(setup, id)));

    private static async Task CloseAsync(SetupChange change, Closure closure)
    {
        await change.Writer.SaveAsync(closure);
        await change.RecordAsync("location", closure.LocationId, "Closed",
            change.Setup.Parts.Closures.FirstOrDefault(one => one.LocationId == closure.LocationId && one.Date == closure.Date) is { } before
                ? new ClosureDocument(before.Date, before.Yearly, before.Reason, before.ForClients)
                : null,
            new ClosureDocument(closure.Date, closure.Yearly, closure.Reason, closure.ForClients));
    }

    private static async Task StopAsync(SetupChange change, Guid id, LocalDate on, string reason)
    {
        await change.Writer.SaveStopAsync(id, on, reason);
        await change.RecordAsync("location", id, "Online stopped", change.Setup.Dated.StopOn(id, on) is { } before ? new StopDocument(before.Date, before.Reason) : null, new StopDocument(on, reason));
    }

    private static Task<Ok<LocationDocument[]>> CloseDaysAsync(ClosedDaysRequest request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            IReadOnlyList<Guid> ids = request.LocationIds ?? [];
            IReadOnlyList<ClosureDocument> closures = request.Closures ?? [];
            IReadOnlyList<StopDocument> stops = request.Stops ?? [];
            Checks checks = new();
            checks.Require(ids.Count is >= 1 and <= 200, "locationIds", "Choose 1 to 200 locations.");
            foreach ((int i, Guid id) in ids.Index()) checks.Require(change.Setup.HouseOf(id) is not null, $"locationIds[{i}]", "There is no such location.");
            checks.Require(closures.Count + stops.Count is >= 1 and <= 400, "closures", "Name 1 to 400 days.");
            foreach ((int i, ClosureDocument one) in closures.Index())
            {
                checks.Name(one.Reason, $"closures[{i}].reason", WhyClosed);
                checks.Optional(one.ForClients, $"closures[{i}].forClients");
                checks.Require(one.Date.Year is >= 2000 and <= 2100, $"closures[{i}].date", SaneYears);
            }

            foreach ((int i, StopDocument one) in stops.Index())
            {
                checks.Name(one.Reason, $"stops[{i}].reason", WhyStopped);
                checks.Require(one.Date.Year is >= 2000 and <= 2100, $"stops[{i}].date", SaneYears);
            }

            checks.Done();
            foreach (Guid id in ids.Distinct())
            {
                foreach (ClosureDocument one in closures) await CloseAsync(change, new Closure(id, one.Date, one.Yearly, one.Reason!.Trim(), string.IsNullOrWhiteSpace(one.ForClients) ? null : one.ForClients.Trim()));
                foreach (StopDocument one in stops) await StopAsync(change, id, one.Date, one.Reason!.Trim());
            }
        }, setup => setup.Locations.Select(one => LocationDocument.Of(setup, one)).ToArray());

    private static Task<Ok<LocationDocument>> RemoveClosureAsync(Guid id, string date, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            LocalDate on = BookEndpoints.Date(date, "date");
            Closure before = change.Setup.Parts.Closures.FirstOrDefault(one => one.LocationId == id && one.Date == on) ?? throw Refused.NotFound("closure");
            await change.Writer.RemoveClosureAsync(id, on);
            await change.RecordAsync("location", id, "Closure taken back", new ClosureDocument(before.Date, before.Yearly, before.Reason, before.ForClients), null);
        }, setup => LocationDocument.Of(setup, Location(setup, id)));

    private static Task<Ok<LocationDocument>> SaveStopAsync(Guid id, string date, StopDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            Location(change.Setup, id);
            Checks checks = new();
            string? reason = checks.Name(request.Reason, "reason", WhyStopped);
            checks.Done();
            await StopAsync(change, id, BookEndpoints.Date(date, "date"), reason!);
        }, setup => LocationDocument.Of(setup, Location(setup, id)));

    private static Task<Ok<LocationDocument>> RemoveStopAsync(Guid id, string date, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        SavedAsync(desk, http, database, book, async change =>
        {
            if (await change.Writer.RemoveStopAsync(id, BookEndpoints.Date(date, "date")) == 0) throw Refused.NotFound("stop");
            await change.RecordAsync("location", id, "Online opened", new { date }, null);
        }, setup => LocationDocument.Of(setup, Location(setup, id)));

    private static ListedLocation Location(Setup setup, Guid id) => setup.Locations.FirstOrDefault(one => one.Location.Id == id) ?? throw Refused.NotFound("location");

    /// <summary>Makes a change and answers with how things stand after it.</summary>
    internal static async Task<Ok<T>> SavedAsync<T>(SetupDesk desk, HttpContext http, Database database, BookReader book, Func<SetupChange, Task> write, Func<Setup, T> answer)
    {
        await desk.ChangeAsync(http, async change =>
        {
            await write(change);
            return true;
        });
        return await book.ReadAsync(database, answer);
    }
}

/// <summary>What the endpoints of the setup share.</summary>
internal static class SetupRoutes
{
    /// <summary>Reads the present setup.</summary>
    internal static async Task<Ok<T>> ReadAsync<T>(this BookReader book, Database database, Func<Setup, T> answer)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(answer(await book.SetupAsync(connection)));
    }

    internal static RouteGroupBuilder Problems(this RouteGroupBuilder group) => group.ProducesProblem(400).ProducesProblem(401).ProducesProblem(403).ProducesProblem(404);

    /// <summary>A change that may take the place of visits booked ahead.</summary>
    internal static RouteHandlerBuilder Hits(this RouteHandlerBuilder route) => route.ProducesProblem(409);

    /// <summary>A change of something that has a version.</summary>
    internal static RouteHandlerBuilder Changes(this RouteHandlerBuilder route) => route.ProducesProblem(409).ProducesProblem(412).ProducesProblem(428);
}
