using System.Text.Json;
using System.Text.Json.Serialization;
using Dapper;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Who changed what, when, from what to what: written in the transaction of the change, and never changed again.</summary>
public static class History
{
    internal const string Sql =
        """
        INSERT INTO history (at, actor, action, subject_kind, subject_id, before, after)
        VALUES (@At, @Actor, @Action, @Kind, @SubjectId, CAST(@Before AS jsonb), CAST(@After AS jsonb))
        """;

    // The history is read by people and programs for years: times and names as the API writes them.
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    }.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    /// <summary>Writes an entry in the caller's transaction.</summary>
    /// <param name="connection">An open connection in a transaction.</param>
    /// <param name="subject">What was changed.</param>
    /// <param name="action">What was done to it.</param>
    /// <param name="before">How it stood before, or null.</param>
    /// <param name="after">How it stands after, or null.</param>
    /// <param name="change">Who changed it, and when.</param>
    public static Task RecordAsync(
        NpgsqlConnection connection,
        Subject subject,
        string action,
        object? before,
        object? after,
        Change change
    ) => connection.ExecuteAsync(Sql, Values(subject, action, before, after, change));

    internal static object Values(Subject subject, string action, object? before, object? after, Change change) =>
        new { change.At, change.Actor, Action = action, subject.Kind, SubjectId = subject.Id, Before = Json(before), After = Json(after) };

    /// <summary>The history of one thing, oldest first.</summary>
    public static async Task<IReadOnlyList<HistoryRow>> OfAsync(NpgsqlConnection connection, Guid subjectId) =>
        [
            .. await connection.QueryAsync<HistoryRow>(
                "SELECT at, actor, action, before::text, after::text FROM history WHERE subject_id = @subjectId ORDER BY id",
                new { subjectId }
            ),
        ];

    /// <summary>Changes of the setup and the calendar, newest first.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="subjectId">Of one object only, or null.</param>
    /// <param name="before">Entries before this number, or null for the newest.</param>
    /// <param name="most">How many.</param>
    public static async Task<IReadOnlyList<SetupHistoryRow>> OfSetupAsync(
        NpgsqlConnection connection,
        Guid? subjectId,
        long? before,
        int most
    ) =>
        [
            .. await connection.QueryAsync<SetupHistoryRow>(
                $"""
                SELECT id, at, actor, action, subject_kind, subject_id, before::text, after::text FROM history
                WHERE subject_kind NOT IN ('visit', 'client') AND id < @Before AND {(
                    subjectId is null ? "true" : "subject_id = @subjectId"
                )}
                ORDER BY id DESC LIMIT @most
                """,
                new
                {
                    subjectId,
                    Before = before ?? long.MaxValue,
                    most,
                }
            ),
        ];

    private static string? Json(object? value) => value is null ? null : JsonSerializer.Serialize(value, value.GetType(), _json);
}

/// <summary>What an entry of the history is about.</summary>
/// <param name="Kind">What kind of thing: visit, client, service, …</param>
/// <param name="Id">Which.</param>
public sealed record Subject(string Kind, Guid Id);
