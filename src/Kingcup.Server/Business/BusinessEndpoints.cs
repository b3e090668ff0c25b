using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Business;

/// <summary>The business and its locations.</summary>
internal static class BusinessEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Setup").Problems();
        group
            .MapGet("/business", (Database database, BookReader book) => book.ReadAsync(database, BusinessDocument.Of))
            .WithSummary("The business.");
        group.MapPut("/business", SaveBusinessAsync).Changes().WithSummary("Changes the business. Needs If-Match.");
        group
            .MapGet(
                "/locations",
                (Database database, BookReader book, IClock clock) =>
                    book.ReadAsync(database, (setup, connection) => LocationDocument.AllAsync(connection, setup, clock))
            )
            .WithSummary("All locations with hours, closures, stops and travel.");
        group.MapPost("/locations", AddLocationAsync).WithSummary("Adds a location.");
        group.MapPut("/locations/{id:guid}", SaveLocationAsync).Changes().WithSummary("Changes a location. Needs If-Match.");
        group
            .MapPut("/locations/{id:guid}/travel", SaveTravelAsync)
            .Hits()
            .WithSummary("Sets the minutes between this location and others, in both directions.");
    }

    private static Task<Ok<BusinessDocument>> SaveBusinessAsync(
        BusinessDocument request,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book
    ) =>
        SavedAsync(
            desk,
            http,
            database,
            book,
            async change =>
            {
                SetupChange.Match(http, change.Setup.Business.Version);
                Checks checks = new();
                BusinessRow row = request.Check(checks, change.Setup.Business.IsDemo);
                if (row.LogoId is { } logo)
                    checks.Require(
                        await StoredFile.FindAsync(change.Connection, logo, "picture") is not null,
                        "logoId",
                        "There is no such picture. Upload it first."
                    );
                foreach ((int i, BusinessPicture picture) in row.Pictures.Index())
                    checks.Require(
                        await StoredFile.FindAsync(change.Connection, picture.PictureId, "picture") is not null,
                        $"pictures[{i}].pictureId",
                        "There is no such picture. Upload it first."
                    );
                checks.Require(
                    row.Currency == change.Setup.Business.Currency
                        || !change.Setup.Parts.Services.Any(service => service.Service.Price > 0),
                    "currency",
                    "Prices are in the present currency already. It can only be changed while there are none."
                );
                checks.Done();
                await change.Writer.SaveAsync(row);
                List<TaxRate> rates =
                [
                    .. (request.TaxRates ?? []).Select(
                        (rate, i) => new TaxRate(rate.Id ?? Guid.CreateVersion7(), rate.Name!.Trim(), rate.BasisPoints, i)
                    ),
                ];
                foreach (TaxRate gone in change.Setup.Parts.TaxRates.Where(rate => rates.All(other => other.Id != rate.Id)))
                {
                    if (change.Setup.Parts.Services.Any(service => service.TaxRateId == gone.Id))
                        throw Refused.Invalid("taxRates", $"{gone.Name} is the rate of some services. Give them another first.");
                    await change.Writer.RemoveTaxRateAsync(gone.Id);
                }

                foreach (TaxRate rate in rates)
                    await change.Writer.SaveAsync(rate);
                await change.RecordAsync("business", Guid.Empty, "Changed", BusinessDocument.Of(change.Setup), request);
            },
            BusinessDocument.Of
        );

    private static Task<Created<LocationDocument>> AddLocationAsync(LocationDocument request, HttpContext http, SetupDesk desk) =>
        desk.CreateAsync(
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
            (setup, id) => ($"/api/v1/setup/locations/{id}", LocationDocument.Of(setup, Location(setup, id), CalendarWindow.Empty))
        );

    private static Task<Ok<LocationDocument>> SaveLocationAsync(
        Guid id,
        LocationDocument request,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        SavedAsync(
            desk,
            http,
            database,
            book,
            async change =>
            {
                ListedLocation before = Location(change.Setup, id);
                SetupChange.Match(http, before.Version);
                Checks checks = new();
                ListedLocation after = request.Check(checks, id, before.Position);
                checks.Done();
                await change.Writer.SaveAsync(after);
                await change.RecordAsync("location", id, "Changed", LocationDocument.Of(change.Setup, before, null), request);
            },
            (setup, connection) => LocationDocument.OneAsync(connection, setup, id, clock)
        );

    private static Task<Ok<LocationDocument>> SaveTravelAsync(
        Guid id,
        TravelDocument[] request,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book,
        IClock clock
    ) =>
        SavedAsync(
            desk,
            http,
            database,
            book,
            async change =>
            {
                ListedLocation here = Location(change.Setup, id);
                Checks checks = new();
                foreach ((int i, TravelDocument travel) in request.Index())
                {
                    checks.Require(
                        travel.LocationId != id && change.Setup.HouseOf(travel.LocationId) is not null,
                        $"[{i}].locationId",
                        "Choose another location."
                    );
                    checks.Require(
                        travel.Minutes is >= 0 and <= 600 && Grain.IsWhole(travel.Minutes),
                        $"[{i}].minutes",
                        "Travel is a multiple of 5 minutes, 10 hours at the most."
                    );
                }

                checks.Done();
                foreach (TravelDocument travelDocument in request)
                    await change.Writer.SaveTravelAsync(id, travelDocument.LocationId, travelDocument.Minutes);
                await change.RecordAsync("location", id, "Travel", LocationDocument.Of(change.Setup, here, null).Travel, request);
            },
            (setup, connection) => LocationDocument.OneAsync(connection, setup, id, clock)
        );

    internal static ListedLocation Location(Setup setup, Guid id) =>
        setup.Locations.FirstOrDefault(location => location.Location.Id == id) ?? throw Refused.NotFound("There is no such location.");

    /// <summary>Makes a change and answers with how things stand after it.</summary>
    internal static Task<Ok<T>> SavedAsync<T>(
        SetupDesk desk,
        HttpContext http,
        Database database,
        BookReader book,
        Func<SetupChange, Task> write,
        Func<Setup, T> answer
    ) => SavedAsync(desk, http, database, book, write, (setup, _) => Task.FromResult(answer(setup)));

    /// <summary>Makes a change and answers with how things stand after it, dates too.</summary>
    internal static async Task<Ok<T>> SavedAsync<T>(
        SetupDesk desk,
        HttpContext http,
        Database database,
        BookReader book,
        Func<SetupChange, Task> write,
        Func<Setup, NpgsqlConnection, Task<T>> answer
    )
    {
        await desk.ChangeAsync(
            http,
            async change =>
            {
                await write(change);
                return true;
            }
        );
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

    /// <summary>Reads the present setup and what holds on dates.</summary>
    internal static async Task<Ok<T>> ReadAsync<T>(this BookReader book, Database database, Func<Setup, NpgsqlConnection, Task<T>> answer)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(await answer(await book.SetupAsync(connection), connection));
    }

    internal static RouteGroupBuilder Problems(this RouteGroupBuilder group) =>
        group.ProducesProblem(400).ProducesProblem(401).ProducesProblem(403).ProducesProblem(404);

    /// <summary>A change that may take the place of visits booked ahead.</summary>
    internal static RouteHandlerBuilder Hits(this RouteHandlerBuilder route) => route.ProducesProblem(409);

    /// <summary>A change of something that has a version.</summary>
    internal static RouteHandlerBuilder Changes(this RouteHandlerBuilder route) =>
        route.ProducesProblem(409).ProducesProblem(412).ProducesProblem(428);
}
