using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>A client as the desk sees one in a list.</summary>
/// <param name="Id">Identity.</param>
/// <param name="GivenName">Given name.</param>
/// <param name="FamilyName">Family name.</param>
/// <param name="Email">E-mail address.</param>
/// <param name="Phone">Telephone number (E.164).</param>
/// <param name="Alert">What the desk has to know.</param>
/// <param name="Visits">Visits that count.</param>
/// <param name="NoShows">Times the client did not come.</param>
/// <param name="LateCancellations">Times the client cancelled too late.</param>
public sealed record ClientAnswer(Guid Id, string GivenName, string FamilyName, string? Email, string? Phone, string? Alert, int Visits, int NoShows, int LateCancellations)
{
    internal static ClientAnswer Of(ClientRow row) => new(row.Id, row.GivenName, row.FamilyName, row.Email, row.Phone, row.Alert, row.Visits, row.NoShows, row.LateCancellations);
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
        string? family = checks.Take(ContactRules.Name(FamilyName), prefix + "familyName", "Enter the family name, 80 characters at the most.");
        string? email = null, phone = null;
        if (reachable || !string.IsNullOrWhiteSpace(Email))
            email = checks.Take(ContactRules.Email(Email), prefix + "email", "Enter an e-mail address like name@example.com.");
        if (reachable || !string.IsNullOrWhiteSpace(Phone))
            phone = checks.Take(ContactRules.Phone(Phone, region), prefix + "phone", "Enter a telephone number, with the country if it is another one, like +353 85 012 3456.");
        return new ClientRow { Id = Guid.CreateVersion7(), GivenName = given ?? "", FamilyName = family ?? "", Email = email, Phone = phone, CreatedAt = now };
    }
}

/// <summary>Finding and entering clients.</summary>
internal static class ClientEndpoints
{
    private const int Most = 12;

    internal static void Map(RouteGroupBuilder api)
    {
        api.MapGet("/clients", SearchAsync).RequireAuthorization(Rights.KeepBook).WithTags("Clients")
            .WithSummary("Clients whose name, number or address holds every word of the search, best first, twelve at the most.").ProducesProblem(400);
        api.MapPost("/clients", AddAsync).RequireAuthorization(Rights.KeepBook).WithTags("Clients").WithSummary("Enters a client.").ProducesProblem(400);
    }

    private static async Task<Ok<ClientAnswer[]>> SearchAsync(string search, Database database)
    {
        if (search.Length > 200) throw Refused.Invalid("search", "Search for 200 characters at the most.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok((await ClientStore.SearchAsync(connection, search.Trim(), Most)).Select(ClientAnswer.Of).ToArray());
    }

    private static async Task<Created<ClientAnswer>> AddAsync(NewClientRequest request, HttpContext http, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        Checks checks = new();
        ClientRow client = request.Check("", setup.Business.Region, clock.GetCurrentInstant(), reachable: false, checks);
        checks.Done();
        Actor actor = http.Actor();
        RequestKey? key = RequestKey.Of(http, request);
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        if (key is not null && await key.TakeAsync(connection, actor.Scope, client.CreatedAt) is { } first)
            return TypedResults.Created($"/api/v1/clients/{first}", ClientAnswer.Of((await ClientStore.FindAsync(connection, first))!));
        await ClientStore.AddAsync(connection, client, new Change(actor.Name, client.CreatedAt));
        if (key is not null) await key.KeepAsync(connection, actor.Scope, client.Id);
        await transaction.CommitAsync();
        return TypedResults.Created($"/api/v1/clients/{client.Id}", ClientAnswer.Of(client));
    }
}
