using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>A client as the desk sees one in a list.</summary>
public sealed record ClientAnswer
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Given name.</summary>
    public required string GivenName { get; init; }

    /// <summary>Family name.</summary>
    public required string FamilyName { get; init; }

    /// <summary>E-mail address.</summary>
    public required string? Email { get; init; }

    /// <summary>Telephone number (E.164).</summary>
    public required string? Phone { get; init; }

    /// <summary>What the desk has to know.</summary>
    public required string? Alert { get; init; }

    /// <summary>Visits that count.</summary>
    public required int Visits { get; init; }

    /// <summary>Times the client did not come.</summary>
    public required int NoShows { get; init; }

    /// <summary>Times the client cancelled too late.</summary>
    public required int LateCancellations { get; init; }

    internal static ClientAnswer Of(ClientRow row) =>
        new()
        {
            Id = row.Id,
            GivenName = row.GivenName,
            FamilyName = row.FamilyName,
            Email = row.Email,
            Phone = row.Phone,
            Alert = row.Alert,
            Visits = row.Visits,
            NoShows = row.NoShows,
            LateCancellations = row.LateCancellations,
        };
}

/// <summary>A client to be entered.</summary>
/// <param name="GivenName">Given name.</param>
/// <param name="FamilyName">Family name.</param>
/// <param name="Email">E-mail address, if known.</param>
/// <param name="Phone">Telephone number, if known.</param>
public sealed record NewClientRequest(string? GivenName, string? FamilyName, string? Email = null, string? Phone = null)
{
    /// <summary>Checks the fields and makes a client of them.</summary>
    /// <param name="prefix">Path of this object in the request, such as "client.".</param>
    /// <param name="region">Country of numbers typed without one.</param>
    /// <param name="now">The present.</param>
    /// <param name="reachable">Whether both address and number are asked for.</param>
    /// <param name="checks">Where faults are noted.</param>
    internal ClientRow Check(string prefix, string region, Instant now, bool reachable, Checks checks)
    {
        string? given = checks.Take(ContactRules.Name(GivenName), prefix + "givenName", "Enter the given name, 80 characters at the most.");
        string? family = checks.Take(
            ContactRules.Name(FamilyName),
            prefix + "familyName",
            "Enter the family name, 80 characters at the most."
        );
        string? email = null,
            phone = null;
        if (reachable || !string.IsNullOrWhiteSpace(Email))
            email = checks.Take(ContactRules.Email(Email), prefix + "email", "Enter an e-mail address like name@example.com.");
        if (reachable || !string.IsNullOrWhiteSpace(Phone))
            phone = checks.Take(
                ContactRules.Phone(Phone, region),
                prefix + "phone",
                "Enter a telephone number, with the country if it is another one, like +353 85 012 3456."
            );
        return new ClientRow
        {
            Id = Guid.CreateVersion7(),
            GivenName = given ?? "",
            FamilyName = family ?? "",
            Email = email,
            Phone = phone,
            CreatedAt = now,
        };
    }
}

/// <summary>Finding, entering and changing clients.</summary>
internal static class ClientEndpoints
{
    private const int Most = 12,
        MostVisits = 20;

    internal static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/clients", SearchAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Clients")
            .WithSummary("Clients whose name, number or address holds every word of the search, best first, twelve at the most.")
            .ProducesProblem(400);
        api.MapPost("/clients", AddAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Clients")
            .WithSummary("Enters a client.")
            .ProducesProblem(400);
        api.MapGet("/clients/{id:guid}", FindAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Clients")
            .WithSummary("A client with what is set at them.")
            .ProducesProblem(404);
        api.MapGet("/clients/{id:guid}/visits", VisitsAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Clients")
            .WithSummary("A client's visits, the latest first, twenty at the most.")
            .ProducesProblem(400)
            .ProducesProblem(404);
        api.MapPut("/clients/{id:guid}", SaveAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Clients")
            .WithSummary("Changes a client. Needs If-Match.")
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(412)
            .ProducesProblem(428);
    }

    private static async Task<Ok<ClientAnswer[]>> SearchAsync(string search, Database database)
    {
        if (search.Length > 200)
            throw Refused.Invalid("search", "Search for 200 characters at the most.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok((await ClientStore.SearchAsync(connection, search.Trim(), Most)).Select(ClientAnswer.Of).ToArray());
    }

    private static async Task<Ok<ClientDocument>> FindAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ClientRow client = await ClientStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such client.");
        return TypedResults.Ok(ClientDocument.Of(client));
    }

    private static async Task<Ok<VisitAnswer[]>> VisitsAsync(
        Guid id,
        DateTimeOffset? before,
        int? most,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        int count = most ?? MostVisits;
        if (count is < 1 or > MostVisits)
            throw Refused.Invalid("most", $"Ask for 1 to {MostVisits} visits.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (await ClientStore.FindAsync(connection, id) is null)
            throw Refused.NotFound("There is no such client.");
        Setup setup = await book.SetupAsync(connection);
        Instant now = clock.GetCurrentInstant();
        Instant until = before is { } earlier ? Instant.FromDateTimeOffset(earlier) : Instant.FromUtc(2200, 1, 1, 0, 0);
        return TypedResults.Ok(
            (await BookStore.LatestOfAsync(connection, id, until, count))
                .Select(visit => DayPicture.Of(setup, visit, now).For(http.User))
                .ToArray()
        );
    }

    private static async Task<Ok<ClientDocument>> SaveAsync(
        Guid id,
        ClientDocument request,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        long version = http.Version();
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        ClientRow before = await ClientStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such client.");
        if (before.Version != version)
            throw Refused.Stale(before.Version);
        Checks checks = new();
        ClientRow after = request.Check(before, setup, setup.Today(clock.GetCurrentInstant()), checks);
        checks.Done();
        if (!await ClientStore.SaveAsync(connection, before, after, new Change(http.Actor().Name, clock.GetCurrentInstant())))
            throw Refused.Stale(before.Version);
        ClientRow saved = (await ClientStore.FindAsync(connection, id))!;
        await transaction.CommitAsync();
        return TypedResults.Ok(ClientDocument.Of(saved));
    }

    private static async Task<Created<ClientAnswer>> AddAsync(
        NewClientRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        Checks checks = new();
        ClientRow client = request.Check("", setup.Business.Region, clock.GetCurrentInstant(), reachable: false, checks);
        checks.Done();
        Actor actor = http.Actor();
        RequestKey? key = http.Key();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        if (key is not null)
            await key.TakeAsync(connection, client.CreatedAt);
        await ClientStore.AddAsync(connection, client, new Change(actor.Name, client.CreatedAt));
        Answered answer = new($"/api/v1/clients/{client.Id}", ClientAnswer.Of(client));
        if (key is not null)
            await key.KeepAsync(connection, answer);
        await transaction.CommitAsync();
        return TypedResults.Created(answer.Location, (ClientAnswer)answer.Body);
    }
}
