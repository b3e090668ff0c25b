using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Something written down about a client.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Words">What was written.</param>
/// <param name="Author">Who wrote it.</param>
/// <param name="At">When.</param>
public sealed record ClientNote(Guid Id, string Words, string Author, Instant At);

/// <summary>What a client agreed to, or took back.</summary>
/// <param name="Kind">What: Texts, News or Pictures.</param>
/// <param name="Given">Whether they agreed.</param>
/// <param name="Words">The words they were asked in.</param>
/// <param name="Author">Who wrote it down.</param>
/// <param name="At">When.</param>
public sealed record ClientConsent(string Kind, bool Given, string Words, string Author, Instant At);

/// <summary>A visit as the years of a client show it.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Date">The day.</param>
/// <param name="State">Where it stands.</param>
/// <param name="CategoryId">The category of its first line.</param>
/// <param name="LocationId">Where.</param>
public sealed record ClientVisitMark(Guid Id, LocalDate Date, string State, Guid CategoryId, Guid LocationId);

/// <summary>An entry of everything that happened with a client and their visits.</summary>
public sealed class ClientEvent : SetupHistoryRow
{
    /// <summary>The reference of the visit, or null where it was the client's record.</summary>
    public string? Reference { get; init; }
}

/// <summary>Notes, consents and everything else that has gathered about a client.</summary>
public static class ClientRecordStore
{
    /// <summary>What was written down about a client, the newest first.</summary>
    public static async Task<IReadOnlyList<ClientNote>> NotesAsync(NpgsqlConnection connection, Guid clientId) =>
        [
            .. await connection.QueryAsync<ClientNote>(
                "SELECT id, words, author, at FROM client_note WHERE client_id = @clientId ORDER BY at DESC, id DESC",
                new { clientId }
            ),
        ];

    /// <summary>Writes something down about a client.</summary>
    public static async Task AddNoteAsync(NpgsqlConnection connection, Guid clientId, ClientNote note)
    {
        ArgumentNullException.ThrowIfNull(note);
        await connection.ExecuteAsync(
            "INSERT INTO client_note (id, client_id, words, author, at) VALUES (@Id, @clientId, @Words, @Author, @At)",
            new { note.Id, clientId, note.Words, note.Author, note.At }
        );
        await History.RecordAsync(
            connection,
            new Subject("client", clientId),
            "Noted",
            null,
            new { Note = note.Words },
            new Change(note.Author, note.At)
        );
    }

    /// <summary>What a client agreed to and took back, the latest first.</summary>
    public static async Task<IReadOnlyList<ClientConsent>> ConsentsAsync(NpgsqlConnection connection, Guid clientId) =>
        [
            .. await connection.QueryAsync<ClientConsent>(
                "SELECT kind, given, words, author, at FROM client_consent WHERE client_id = @clientId ORDER BY at DESC, id DESC",
                new { clientId }
            ),
        ];

    /// <summary>Writes down that a client agreed, or took it back.</summary>
    public static async Task AddConsentAsync(NpgsqlConnection connection, Guid clientId, ClientConsent consent)
    {
        ArgumentNullException.ThrowIfNull(consent);
        await connection.ExecuteAsync(
            """
            INSERT INTO client_consent (id, client_id, kind, given, words, author, at)
            VALUES (@Id, @clientId, @Kind, @Given, @Words, @Author, @At)
            """,
            new { Id = Guid.CreateVersion7(), clientId, consent.Kind, consent.Given, consent.Words, consent.Author, consent.At }
        );
        await History.RecordAsync(
            connection,
            new Subject("client", clientId),
            consent.Given ? "Agreed" : "Withdrew",
            null,
            new { consent.Kind, consent.Words },
            new Change(consent.Author, consent.At)
        );
    }

    /// <summary>Writes down what a client agreed to when they booked.</summary>
    /// <param name="transaction">The transaction of the booking.</param>
    /// <param name="clientId">The client.</param>
    /// <param name="agreed">To what, and in which words they were asked.</param>
    public static void Agree(BookTransaction transaction, Guid clientId, IEnumerable<(string Kind, string Words)> agreed)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(agreed);
        foreach ((string kind, string words) in agreed)
        {
            transaction.Write(
                """
                INSERT INTO client_consent (id, client_id, kind, given, words, author, at)
                VALUES (@Id, @clientId, @Kind, true, @words, @Actor, @At)
                """,
                new
                {
                    Id = Guid.CreateVersion7(),
                    clientId,
                    Kind = kind,
                    words,
                    transaction.Change.Actor,
                    transaction.Change.At,
                }
            );
            transaction.Record(new Subject("client", clientId), "Agreed", null, new { Kind = kind, Words = words });
        }
    }

    /// <summary>Every visit of a client from a day on, oldest first.</summary>
    public static async Task<IReadOnlyList<ClientVisitMark>> MarksAsync(NpgsqlConnection connection, Guid clientId, LocalDate from) =>
        [
            .. await connection.QueryAsync<ClientVisitMark>(
                """
                SELECT v.id, v.date, v.state, s.category_id, v.location_id FROM visit v
                    JOIN appointment a ON a.visit_id = v.id AND a.line = 0 JOIN service s ON s.id = a.service_id
                WHERE v.client_id = @clientId AND v.date >= @from ORDER BY v.starts_at, v.id
                """,
                new { clientId, from }
            ),
        ];

    /// <summary>Everything that happened with a client and their visits, the newest first.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="clientId">The client; what happened to records that were put aside for this one belongs to it.</param>
    /// <param name="before">Entries before this number.</param>
    /// <param name="most">How many.</param>
    public static async Task<IReadOnlyList<ClientEvent>> EventsAsync(NpgsqlConnection connection, Guid clientId, long before, int most) =>
        [
            .. await connection.QueryAsync<ClientEvent>(
                """
                WITH about AS (
                    SELECT id, NULL AS reference FROM client WHERE id = @clientId OR merged_into = @clientId
                    UNION ALL SELECT id, reference FROM visit WHERE client_id = @clientId
                )
                SELECT h.id, h.at, h.actor, h.action, h.subject_kind, h.subject_id, h.before::text, h.after::text, about.reference
                FROM about JOIN history h ON h.subject_id = about.id WHERE h.id < @before ORDER BY h.id DESC LIMIT @most
                """,
                new { clientId, before, most }
            ),
        ];

    /// <summary>The tags in use, by name.</summary>
    public static async Task<IReadOnlyList<string>> TagsAsync(NpgsqlConnection connection) =>
        [
            .. await connection.QueryAsync<string>(
                "SELECT DISTINCT unnest(tags) AS tag FROM client WHERE tags <> '{}' AND merged_into IS NULL ORDER BY tag"
            ),
        ];
}
