using System.Text.Json;
using System.Text.Json.Serialization;
using Dapper;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>The history of the book and the setup, and what is told of changes.</summary>
public static partial class BookStore
{
    // The history is read by people and programs for years: times and names as the API writes them.
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    }.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    /// <summary>The history of a visit, oldest first.</summary>
    public static async Task<IReadOnlyList<HistoryRow>> HistoryAsync(NpgsqlConnection connection, Guid subjectId) =>
        [.. await connection.QueryAsync<HistoryRow>("SELECT at, actor, action, before::text, after::text FROM history WHERE subject_id = @subjectId ORDER BY id", new { subjectId })];

    /// <summary>Changes of the setup, newest first.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="subjectId">Of one object only, or null.</param>
    /// <param name="before">Entries before this number, or null for the newest.</param>
    /// <param name="most">How many.</param>
    public static async Task<IReadOnlyList<SetupHistoryRow>> SetupHistoryAsync(NpgsqlConnection connection, Guid? subjectId, long? before, int most) =>
        [.. await connection.QueryAsync<SetupHistoryRow>(
            $"""
            SELECT id, at, actor, action, subject_kind, subject_id, before::text, after::text FROM history
            WHERE subject_kind NOT IN ('visit', 'client') AND id < @Before AND {(subjectId is null ? "true" : "subject_id = @subjectId")}
            ORDER BY id DESC LIMIT @most
            """,
            new { subjectId, Before = before ?? long.MaxValue, most })];

    /// <summary>A visit as the history keeps it: the same parts before and after a change.</summary>
    private static object Describe(StoredVisit visit, IReadOnlyList<string>? over = null) => new
    {
        state = visit.Visit.State,
        over = over is { Count: > 0 } ? over : null,
        start = visit.Visit.StartsAt,
        end = visit.Visit.EndsAt,
        price = visit.Lines.Sum(line => line.Price) + visit.AddOns.Sum(addOn => addOn.Price),
        lines = visit.Lines.Select(line => new
        {
            service = line.ServiceId,
            start = line.StartsAt,
            end = line.EndsAt,
            price = line.Price,
            practitioners = visit.Claims.Where(claim => claim.AppointmentId == line.Id && claim.Role is not null).OrderBy(claim => claim.Role).Select(claim => claim.ResourceId).Distinct(),
            held = visit.Claims.Where(claim => claim.AppointmentId == line.Id && claim.Role is null).Select(claim => new { resource = claim.ResourceId, unit = claim.Unit }).Distinct(),
            addOns = visit.AddOns.Where(addOn => addOn.AppointmentId == line.Id).Select(addOn => new { addOn = addOn.AddOnId, count = addOn.Count, price = addOn.Price }),
        }),
    };

    /// <summary>
    /// Writes an entry of the history in the caller's transaction. The notices leave when it commits; the same one twice
    /// leaves once.
    /// </summary>
    public static Task RecordAsync(
        NpgsqlConnection connection, Guid subjectId, string action, object? before, object? after, Change change, string kind = "visit", string[]? notices = null) =>
        connection.ExecuteAsync(
            """
            INSERT INTO history (at, actor, action, subject_kind, subject_id, before, after) VALUES (@At, @Actor, @action, @kind, @subjectId, @before::jsonb, @after::jsonb);
            SELECT pg_notify(@Channel, one) FROM unnest(@notices) AS one;
            """,
            new
            {
                change.At,
                change.Actor,
                action,
                kind,
                subjectId,
                before = before is null ? null : JsonSerializer.Serialize(before, before.GetType(), _json),
                after = after is null ? null : JsonSerializer.Serialize(after, after.GetType(), _json),
                Channel,
                notices = notices ?? [],
            });

    /// <summary>Tells every server, when the transaction commits, that the setup has changed.</summary>
    public static Task NotifySetupAsync(NpgsqlConnection connection) => connection.ExecuteAsync("SELECT pg_notify(@Channel, @SetupNotice)", new { Channel, SetupNotice });

    private static string[] Notice(Guid locationId, LocalDate date) => [$"{locationId} {date:uuuu-MM-dd}"];
}
