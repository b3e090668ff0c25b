using Kingcup.Core.Business;
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
/// <param name="Id">Identity.</param>
/// <param name="GivenName">Given name.</param>
/// <param name="FamilyName">Family name.</param>
/// <param name="Email">E-mail address.</param>
/// <param name="Phone">Telephone number (E.164).</param>
/// <param name="Alert">What the desk has to know.</param>
/// <param name="Visits">Visits that count.</param>
/// <param name="NoShows">Times the client did not come.</param>
/// <param name="LateCancellations">Times the client cancelled too late.</param>
public sealed record ClientAnswer(
    Guid Id,
    string GivenName,
    string FamilyName,
    string? Email,
    string? Phone,
    string? Alert,
    int Visits,
    int NoShows,
    int LateCancellations
)
{
    internal static ClientAnswer Of(ClientRow row) =>
        new(row.Id, row.GivenName, row.FamilyName, row.Email, row.Phone, row.Alert, row.Visits, row.NoShows, row.LateCancellations);
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

/// <summary>A client with what is set at them.</summary>
/// <param name="Id">Identity.</param>
/// <param name="GivenName">Given name.</param>
/// <param name="FamilyName">Family name.</param>
/// <param name="Email">E-mail address.</param>
/// <param name="Phone">Telephone number (E.164).</param>
/// <param name="Alert">What the desk has to know.</param>
/// <param name="MayBookOnline">Whether they may book online.</param>
/// <param name="LeadMinutes">Least minutes between booking online and the start; null for what holds for everyone.</param>
/// <param name="HorizonDays">How many days ahead they may book online; null for what holds for everyone.</param>
/// <param name="MoveNoticeHours">Least hours before the start at which they may still move a visit; null for what holds for
/// everyone.</param>
/// <param name="CancelNoticeHours">Least hours before the start at which they may still cancel; null for what holds for everyone.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
/// <param name="Visits">Visits that count; only told.</param>
/// <param name="NoShows">Times they did not come; only told.</param>
/// <param name="LateCancellations">Times they cancelled too late; only told.</param>
/// <param name="KnownBefore">Whether the business knew them before the book did: they are then never new.</param>
public sealed record ClientDocument(
    Guid? Id, string? GivenName, string? FamilyName, string? Email, string? Phone, string? Alert, bool MayBookOnline,
    int? LeadMinutes = null, int? HorizonDays = null, int? MoveNoticeHours = null, int? CancelNoticeHours = null, long Version = 0,
    int Visits = 0, int NoShows = 0, int LateCancellations = 0, bool KnownBefore = false)
{
    private const int LongestAlert = 300;

    internal static ClientDocument Of(ClientRow row) =>
        new(
            row.Id,
            row.GivenName,
            row.FamilyName,
            row.Email,
            row.Phone,
            row.Alert,
            row.MayBookOnline,
            row.LeadMinutes,
            row.HorizonDays,
            row.MoveNoticeHours,
            row.CancelNoticeHours,
            row.Version,
            row.Visits,
            row.NoShows,
            row.LateCancellations,
            row.KnownBefore
        );

    internal ClientRow Check(ClientRow before, string region, Checks checks)
    {
        ClientRow contact = new NewClientRequest(GivenName, FamilyName, Email, Phone).Check(
            "",
            region,
            before.CreatedAt,
            reachable: false,
            checks
        );
        string alert = Alert?.Trim() ?? "";
        checks.Require(
            alert.Length <= LongestAlert && !alert.Any(char.IsControl),
            "alert",
            $"{LongestAlert} characters at the most, on one line."
        );
        ClientRow after = new()
        {
            Id = before.Id,
            GivenName = contact.GivenName,
            FamilyName = contact.FamilyName,
            Email = contact.Email,
            Phone = contact.Phone,
            Alert = alert.Length > 0 ? alert : null,
            MayBookOnline = MayBookOnline,
            LeadMinutes = LeadMinutes,
            HorizonDays = HorizonDays,
            MoveNoticeHours = MoveNoticeHours,
            CancelNoticeHours = CancelNoticeHours,
            KnownBefore = KnownBefore,
            Version = before.Version,
        };
        checks.Add(Core.Services.OnlineCheck.Of(after.Own ?? new OnlineRules(), ""));
        return after;
    }
}

/// <summary>Finding, entering and changing clients.</summary>
internal static class ClientEndpoints
{
    private const int Most = 12;

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
        if (search.Length > 200) throw Refused.Invalid("search", "Search for 200 characters at the most.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok((await ClientStore.SearchAsync(connection, search.Trim(), Most)).Select(ClientAnswer.Of).ToArray());
    }

    private static async Task<Ok<ClientDocument>> FindAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(ClientDocument.Of(await ClientStore.FindAsync(connection, id) ?? throw Refused.NotFound("client")));
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
        ClientRow before = await ClientStore.FindAsync(connection, id) ?? throw Refused.NotFound("client");
        if (before.Version != version) throw Refused.Stale(before.Version);
        Checks checks = new();
        ClientRow after = request.Check(before, setup.Business.Region, checks);
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
        if (key is not null) await key.TakeAsync(connection, client.CreatedAt);
        await ClientStore.AddAsync(connection, client, new Change(actor.Name, client.CreatedAt));
        Answered answer = new($"/api/v1/clients/{client.Id}", ClientAnswer.Of(client));
        if (key is not null) await key.KeepAsync(connection, answer);
        await transaction.CommitAsync();
        return TypedResults.Created(answer.Location, (ClientAnswer)answer.Body);
    }
}
