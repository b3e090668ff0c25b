using System.Text.Json;
using Dapper;
using Kingcup.Core.Booking;
using Kingcup.Core.Messages;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Something that has happened, of which somebody may have to be told.</summary>
public sealed class MessageEventRow
{
    /// <summary>Grows with every event.</summary>
    public long Place { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>"Visit", "Fee", "Refund", "Deposit" or "Unfinished".</summary>
    public string Kind { get; init; } = "";

    /// <summary>The visit, or null.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>Whether a client did it online.</summary>
    public bool ByClient { get; init; }

    /// <summary>How the visit stood, as JSON; null for a new one.</summary>
    public string? Before { get; init; }

    /// <summary>How it stands, as JSON; null where it was taken out.</summary>
    public string? After { get; init; }

    /// <summary>Minor units of a fee or of what went back, or null.</summary>
    public long? Amount { get; init; }

    /// <summary>For whom and what, as JSON, where there is no visit.</summary>
    public string? About { get; init; }

    /// <summary>Whether it is of a visit that was taken out of the book; <see cref="About"/> is that visit.</summary>
    public bool IsOfGone => Kind == "Visit" && About is not null;

    /// <summary><see cref="Before"/> as a value.</summary>
    public VisitMoment? Stood => MessageEventStore.Read(Before);

    /// <summary><see cref="After"/> as a value.</summary>
    public VisitMoment? Stands => MessageEventStore.Read(After);
}

/// <summary>What has happened that somebody may have to be told of; it is written with what happened.</summary>
public static class MessageEventStore
{
    // So long the desk may think better of it before anybody is told.
    private static readonly Duration _secondThought = Duration.FromMinutes(1);

    // So long somebody may come back and finish their booking by themselves.
    private static readonly Duration _untilForgotten = Duration.FromHours(1);
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions().ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    private const string InsertSql =
        """
        INSERT INTO message_event (at, ready_at, kind, visit_id, by_client, before, after, amount, about)
        VALUES (@At, @ReadyAt, @Kind, @VisitId, @IsByClient, CAST(@Before AS jsonb), CAST(@After AS jsonb), @Amount, CAST(@About AS jsonb))
        """;

    /// <summary>Writes that a visit stands differently.</summary>
    internal static void Add(BookTransaction transaction, StoredVisit? before, StoredVisit? after)
    {
        Change change = transaction.Change;
        string? stood = Json(before),
            stands = Json(after);
        // A note, a room, or the next step on the day is nothing to tell.
        if (change.TellsNobody || stood == stands) return;
        transaction.Write(
            InsertSql,
            new
            {
                change.At,
                ReadyAt = change.IsByClient ? change.At : change.At + _secondThought,
                Kind = "Visit",
                VisitId = (Guid?)(after ?? before)!.Visit.Id,
                change.IsByClient,
                Before = stood,
                After = stands,
                Amount = (long?)null,
                About = after is null ? KeptVisit.Json(before!) : null,
            }
        );
    }

    /// <summary>Writes that a fee was taken or is owed, that money has gone back, or that a deposit is asked for by a link.</summary>
    /// <param name="transaction">The transaction.</param>
    /// <param name="kind">"Fee", "Refund" or "Deposit".</param>
    /// <param name="visitId">The visit.</param>
    /// <param name="amount">Minor units, above 0.</param>
    /// <param name="readyAt">When it is told at the earliest.</param>
    public static void AddMoney(BookTransaction transaction, string kind, Guid visitId, long amount, Instant readyAt)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        transaction.Write(
            InsertSql,
            new
            {
                transaction.Change.At,
                ReadyAt = readyAt,
                Kind = kind,
                VisitId = (Guid?)visitId,
                transaction.Change.IsByClient,
                Before = (string?)null,
                After = (string?)null,
                Amount = (long?)amount,
                About = (string?)null,
            }
        );
    }

    /// <summary>Forgets a fee that nobody has been told of, because it is taken back.</summary>
    public static void TakeFeeBack(BookTransaction transaction, Guid visitId)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        transaction.Write("DELETE FROM message_event WHERE visit_id = @visitId AND kind = 'Fee'", new { visitId });
    }

    /// <summary>Writes that somebody began to pay for a booking and left.</summary>
    /// <param name="transaction">The transaction.</param>
    /// <param name="about">For whom and what, as JSON.</param>
    public static void AddUnfinished(BookTransaction transaction, string about)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        transaction.Write(
            InsertSql,
            new
            {
                transaction.Change.At,
                ReadyAt = transaction.Change.At + _untilForgotten,
                Kind = "Unfinished",
                VisitId = (Guid?)null,
                IsByClient = true,
                Before = (string?)null,
                After = (string?)null,
                Amount = (long?)null,
                About = about,
            }
        );
    }

    /// <summary>
    /// What is ready to be told, oldest first: of a visit all of it or nothing, so that what was done and taken back at once is told
    /// together.
    /// </summary>
    public static async Task<IReadOnlyList<MessageEventRow>> ReadyAsync(NpgsqlConnection connection, Instant now, int most) =>
        [
            .. await connection.QueryAsync<MessageEventRow>(
                """
                SELECT place, at, kind, visit_id, by_client, before, after, amount, about FROM message_event e
                WHERE ready_at <= @now AND (kind <> 'Visit' OR NOT EXISTS (SELECT 1 FROM message_event later
                    WHERE later.visit_id = e.visit_id AND later.kind = 'Visit' AND later.ready_at > @now))
                ORDER BY place LIMIT @most
                """,
                new { now, most }
            ),
        ];

    /// <summary>The visit that was taken out of the book, as it stood.</summary>
    public static StoredVisit Gone(string about) => KeptVisit.Read(about);

    /// <summary>Whether somebody has booked since they left.</summary>
    public static Task<bool> HasBookedAsync(NpgsqlConnection connection, string email, Instant since) =>
        connection.ExecuteScalarAsync<bool>(
            "SELECT EXISTS (SELECT 1 FROM visit v JOIN client c ON c.id = v.client_id WHERE c.email = @email AND v.created_at >= @since)",
            new { email, since }
        );

    /// <summary>Puts aside for a while what cannot be told.</summary>
    public static Task PutAsideAsync(NpgsqlConnection connection, IReadOnlyCollection<long> places, Instant until) =>
        connection.ExecuteAsync(
            "UPDATE message_event SET ready_at = @until WHERE place = ANY(@Places) AND ready_at < @until",
            new { Places = places.ToArray(), until }
        );

    /// <summary>Forgets what was told.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, IReadOnlyCollection<long> places) =>
        connection.ExecuteAsync("DELETE FROM message_event WHERE place = ANY(@Places)", new { Places = places.ToArray() });

    internal static VisitMoment? Read(string? json) => json is null ? null : JsonSerializer.Deserialize<VisitMoment>(json, _json);

    private static string? Json(StoredVisit? visit) =>
        visit is null
            ? null
            : JsonSerializer.Serialize(
                new VisitMoment(
                    visit.Visit.VisitState,
                    visit.Visit.StartsAt,
                    visit.Visit.CancelledBy is { } by ? Enum.Parse<CancelledBy>(by) : null,
                    visit.Visit.VisitState == VisitState.Answered ? visit.Visit.StateSince : null
                ),
                _json
            );
}
