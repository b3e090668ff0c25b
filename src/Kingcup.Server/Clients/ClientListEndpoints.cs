using System.Globalization;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Server.Exchange;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>Which clients a list is to hold. What is missing does not matter.</summary>
public sealed record ClientListQuery
{
    /// <summary>Words of name, number or address.</summary>
    [FromQuery(Name = "search")]
    public string? Search { get; init; }

    /// <summary>A tag they carry.</summary>
    [FromQuery(Name = "tag")]
    public string? Tag { get; init; }

    /// <summary>How they came to the business.</summary>
    [FromQuery(Name = "source")]
    public string? Source { get; init; }

    /// <summary>Whether they may book online.</summary>
    [FromQuery(Name = "mayBookOnline")]
    public bool? MayBookOnline { get; init; }

    /// <summary>Whether something stands that the desk has to know.</summary>
    [FromQuery(Name = "hasAlert")]
    public bool? HasAlert { get; init; }

    /// <summary>Whether a visit of theirs is ahead.</summary>
    [FromQuery(Name = "hasAhead")]
    public bool? HasAhead { get; init; }

    /// <summary>Not there since this day (YYYY-MM-DD), though they have been there before.</summary>
    [FromQuery(Name = "notSince")]
    public string? NotSince { get; init; }

    /// <summary>Born in this month, 1 to 12.</summary>
    [FromQuery(Name = "bornIn")]
    public int? BornIn { get; init; }

    internal ClientFilter Check()
    {
        Checks checks = new();
        foreach ((string? text, string field) in new[] { (Search, "search"), (Tag, "tag"), (Source, "source") })
            checks.Require((text ?? "").Length <= 200 && !(text ?? "").Any(char.IsControl), field, "200 characters at the most.");
        checks.Require(BornIn is null or (>= 1 and <= 12), "bornIn", "A month, 1 to 12.");
        ParseResult<LocalDate>? since = NotSince is null ? null : LocalDatePattern.Iso.Parse(NotSince);
        checks.Require(since is null or { Success: true }, "notSince", "A date like 2027-03-02.");
        checks.Done();
        return new ClientFilter
        {
            Search = (Search ?? "").Trim(),
            Tag = Tag,
            Source = Source,
            MayBookOnline = MayBookOnline,
            HasAlert = HasAlert,
            HasAhead = HasAhead,
            NotSince = since?.Value,
            BornIn = BornIn,
        };
    }
}

/// <summary>A client in a list.</summary>
public sealed record ListedClientAnswer
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

    /// <summary>When they were born.</summary>
    public required LocalDate? Born { get; init; }

    /// <summary>How they came to the business.</summary>
    public required string? Source { get; init; }

    /// <summary>By what the business groups its clients.</summary>
    public required IReadOnlyList<string> Tags { get; init; }

    /// <summary>Visits that count.</summary>
    public required int Visits { get; init; }

    /// <summary>Times they did not come.</summary>
    public required int NoShows { get; init; }

    /// <summary>The day of the last visit that has begun.</summary>
    public required LocalDate? LastVisit { get; init; }

    /// <summary>The day of the next one.</summary>
    public required LocalDate? NextVisit { get; init; }

    internal static ListedClientAnswer Of(ListedClient client) =>
        new()
        {
            Id = client.Id,
            GivenName = client.GivenName,
            FamilyName = client.FamilyName,
            Email = client.Email,
            Phone = client.Phone,
            Alert = client.Alert,
            Born = client.Born,
            Source = client.Source,
            Tags = client.Tags,
            Visits = client.Visits,
            NoShows = client.NoShows,
            LastVisit = client.LastVisit,
            NextVisit = client.NextVisit,
        };
}

/// <summary>A part of a list of clients.</summary>
/// <param name="Total">How many the whole list holds.</param>
/// <param name="Clients">The part, by family name.</param>
public sealed record ClientListAnswer(int Total, IReadOnlyList<ListedClientAnswer> Clients);

/// <summary>Lists of clients, to be read and sent.</summary>
internal static class ClientListEndpoints
{
    private const int Most = 200;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/clients").RequireAuthorization(Rights.KeepBook).WithTags("Clients").Problems();
        group.MapGet("/tags", TagsAsync).WithSummary("The tags in use, by name.");
        group.MapGet("/list", PartAsync).WithSummary("A part of the clients that a filter holds, by family name, 200 at the most.");
        group
            .MapGet("/list.csv", CsvAsync)
            .RequireAuthorization(Rights.EditSetup)
            .Produces(200, contentType: "text/csv")
            .WithSummary("All clients that a filter holds, as CSV. The history keeps who took it.");
    }

    private static async Task<Ok<IReadOnlyList<string>>> TagsAsync(Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(await ClientRecordStore.TagsAsync(connection));
    }

    private static async Task<Ok<ClientListAnswer>> PartAsync(
        [AsParameters] ClientListQuery query,
        int? skip,
        Database database,
        IClock clock
    )
    {
        ClientFilter filter = query.Check();
        if (skip is < 0) throw Refused.Invalid("skip", "Nought or more.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        Instant now = clock.GetCurrentInstant();
        return TypedResults.Ok(
            new ClientListAnswer(
                await ClientListStore.CountAsync(connection, filter, now),
                [.. (await ClientListStore.PartAsync(connection, filter, now, skip ?? 0, Most)).Select(ListedClientAnswer.Of)]
            )
        );
    }

    private static async Task<IResult> CsvAsync([AsParameters] ClientListQuery query, HttpContext http, Database database, IClock clock)
    {
        ClientFilter filter = query.Check();
        Instant now = clock.GetCurrentInstant();
        await ExportEndpoints.RecordAsync(http, database, clock, "clients.csv");
        return CsvAnswer.Of(
            "clients.csv",
            async csv =>
            {
                await CsvAnswer.RowAsync(
                    csv,
                    [
                        "given name",
                        "family name",
                        "e-mail",
                        "phone",
                        "born",
                        "alert",
                        "tags",
                        "source",
                        "visits",
                        "did not come",
                        "last visit",
                        "next visit",
                    ]
                );
                await using NpgsqlConnection connection = await database.OpenAsync();
                for (int skip = 0; ; skip += Most)
                {
                    IReadOnlyList<ListedClient> part = await ClientListStore.PartAsync(connection, filter, now, skip, Most);
                    foreach (ListedClient client in part) await CsvAnswer.RowAsync(csv, Cells(client));
                    if (part.Count < Most) break;
                }
            }
        );
    }

    private static string[] Cells(ListedClient client) =>
        [
            client.GivenName,
            client.FamilyName,
            client.Email ?? "",
            client.Phone ?? "",
            Day(client.Born),
            client.Alert ?? "",
            string.Join(", ", client.Tags),
            client.Source ?? "",
            client.Visits.ToString(CultureInfo.InvariantCulture),
            client.NoShows.ToString(CultureInfo.InvariantCulture),
            Day(client.LastVisit),
            Day(client.NextVisit),
        ];

    private static string Day(LocalDate? date) => date is { } day ? LocalDatePattern.Iso.Format(day) : "";
}
