using Dapper;
using Kingcup.Core.Messages;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Which messages somebody looks at.</summary>
public sealed record MessagesAsked
{
    /// <summary>Those in one of these states.</summary>
    public required IReadOnlyCollection<MessageState> States { get; init; }

    /// <summary>Of this visit, or null for all.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>To this client, or null for all.</summary>
    public Guid? ClientId { get; init; }

    /// <summary>Those before this place.</summary>
    public long Before { get; init; } = long.MaxValue;

    /// <summary>How many.</summary>
    public int Most { get; init; } = 50;
}

/// <summary>A visit a timed message may be about.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Start">When it begins.</param>
/// <param name="End">When it ends.</param>
/// <param name="BookedAt">When it was booked.</param>
/// <param name="LocationId">Where it is.</param>
/// <param name="IsBack">Whether the client has been since, or has booked: something of the services the rule names.</param>
public sealed record TimedVisit(Guid VisitId, Instant Start, Instant End, Instant BookedAt, Guid LocationId, bool IsBack = false);

/// <summary>Somebody with a sign-in, as messages address them.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Email">E-mail address.</param>
public sealed record AddressedStaff(Guid Id, string Name, string Email);

/// <summary>Messages: written once, sent once.</summary>
public static class MessageStore
{
    // One server plans at a time; the others go on with sending.
    private const long PlanLock = 7201917,
        RemindLock = 7201918;

    private const string Columns =
        """
        id, place, rule_id, trigger, channel, recipient, client_id, practitioner_id, staff_id, visit_id, about_start, address, name,
        language, subject, body, calendar, state, created_at, due_at, tries, settled_at, because
        """;

    /// <summary>Whether the caller's transaction plans messages until it ends; false where another server does.</summary>
    public static Task<bool> PlansAsync(NpgsqlConnection connection) =>
        connection.ExecuteScalarAsync<bool>("SELECT pg_try_advisory_xact_lock(@PlanLock)", new { PlanLock });

    /// <summary>Whether the caller's transaction plans what is due around visits until it ends; false where another server does.</summary>
    public static Task<bool> RemindsAsync(NpgsqlConnection connection) =>
        connection.ExecuteScalarAsync<bool>("SELECT pg_try_advisory_xact_lock(@RemindLock)", new { RemindLock });

    /// <summary>Whether something that has happened is to be told, and whether a message is due.</summary>
    public static Task<(bool News, bool Due)> AnyAsync(NpgsqlConnection connection, Instant now) =>
        connection.QuerySingleAsync<(bool, bool)>(
            """
            SELECT EXISTS (SELECT 1 FROM message_event WHERE ready_at <= @now),
                EXISTS (SELECT 1 FROM message WHERE settled_at IS NULL AND due_at <= @now)
            """,
            new { now }
        );

    /// <summary>Writes messages; one that was planned already is left as it is.</summary>
    public static async Task AddAsync(NpgsqlConnection connection, IReadOnlyCollection<MessageRow> messages)
    {
        ArgumentNullException.ThrowIfNull(messages);
        if (messages.Count == 0) return;
        await connection.ExecuteAsync(
            """
            INSERT INTO message (id, rule_id, trigger, channel, recipient, client_id, practitioner_id, staff_id, visit_id, about_start,
                address, name, language, subject, body, calendar, state, created_at, due_at, settled_at, because)
            VALUES (@Id, @RuleId, @Trigger, @Channel, @Recipient, @ClientId, @PractitionerId, @StaffId, @VisitId, @AboutStart,
                @Address, @Name, @Language, @Subject, @Body, @Calendar, @State, @CreatedAt, @DueAt, @SettledAt, @Because)
            ON CONFLICT DO NOTHING
            """,
            messages
        );
    }

    /// <summary>
    /// Drops what was still to be sent of visits, because they stand differently now. What is due around them is forgotten, so that it is
    /// made anew for how they stand.
    /// </summary>
    public static Task DropAsync(NpgsqlConnection connection, IReadOnlyCollection<Guid> visitIds, Instant now) =>
        connection.ExecuteAsync(
            """
            DELETE FROM message WHERE visit_id = ANY(@Ids) AND state = 'Waiting' AND about_start IS NOT NULL;
            UPDATE message SET state = 'Dropped', settled_at = @now, because = 'changed'
            WHERE visit_id = ANY(@Ids) AND state = 'Waiting' AND trigger NOT IN ('Fee', 'Refund')
            """,
            new { Ids = visitIds.ToArray(), now }
        );

    /// <summary>Clients as messages address them. What is written to somebody who is reached nowhere goes to whoever may book for them, as
    /// to a child's parent.</summary>
    public static async Task<IReadOnlyDictionary<Guid, AddressedClient>> ClientsAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<Guid> ids
    ) =>
        (
            await connection.QueryAsync<Guid, AddressedClient, (Guid About, AddressedClient To)>(
                """
                SELECT c.id AS about, w.id, w.given_name, w.family_name, w.email, w.phone, w.language,
                    coalesce((SELECT k.given FROM client_consent k
                        WHERE k.client_id = w.id AND k.kind = 'Texts' ORDER BY k.at DESC, k.id DESC LIMIT 1), false) AS agrees_to_texts
                FROM client c JOIN client w ON w.id = CASE WHEN c.email IS NULL AND c.phone IS NULL THEN coalesce(
                    (SELECT f.id FROM client_link l JOIN client f ON f.id = l.from_client_id
                        WHERE l.to_client_id = c.id AND l.may_book AND f.merged_into IS NULL AND num_nonnulls(f.email, f.phone) > 0
                        ORDER BY f.created_at, f.id LIMIT 1), c.id) ELSE c.id END
                WHERE c.id = ANY(@Ids)
                """,
                (about, to) => (about, to),
                new { Ids = ids.ToArray() },
                splitOn: "id"
            )
        ).ToDictionary(one => one.About, one => one.To);

    /// <summary>Everybody with a sign-in.</summary>
    public static async Task<IReadOnlyList<AddressedStaff>> StaffAsync(NpgsqlConnection connection) =>
        [.. await connection.QueryAsync<AddressedStaff>("SELECT id, name, email FROM staff WHERE NOT signed_off ORDER BY name, id")];

    /// <summary>
    /// Visits around which a rule may be due, and for which it is not planned yet: those that begin, or that have ended, within a stretch.
    /// </summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="rule">The rule.</param>
    /// <param name="within">The stretch.</param>
    /// <param name="after">The last one that was looked at before, or null.</param>
    /// <param name="most">How many.</param>
    public static async Task<IReadOnlyList<TimedVisit>> UnplannedAsync(
        NpgsqlConnection connection,
        MessageRule rule,
        Interval within,
        TimedVisit? after,
        int most
    )
    {
        ArgumentNullException.ThrowIfNull(rule);
        bool isAfterwards = rule.Trigger == MessageTrigger.AfterEnd;
        string at = isAfterwards ? "v.ends_at" : "v.starts_at",
            state = isAfterwards ? "Done" : "Confirmed";
        return
        [
            .. (
                await connection.QueryAsync<(Guid, Instant, Instant, Instant, Guid, bool)>(
                    $"""
                    SELECT v.id, v.starts_at, v.ends_at, v.created_at, v.location_id, @OnlyIfNotBack AND EXISTS (
                            SELECT 1 FROM visit w WHERE w.client_id = v.client_id AND w.starts_at > v.starts_at
                                AND w.state NOT IN ('Cancelled', 'NoShow') AND (cardinality(@ServiceIds) = 0 OR EXISTS (
                                    SELECT 1 FROM appointment a WHERE a.visit_id = w.id AND a.service_id = ANY(@ServiceIds))))
                    FROM visit v
                    WHERE {at} >= @From AND {at} < @End AND ({at} > @From OR v.id > @LastId) AND v.state = '{state}'
                        AND (CAST(@LocationId AS uuid) IS NULL OR v.location_id = @LocationId)
                        AND NOT EXISTS (SELECT 1 FROM message m WHERE m.visit_id = v.id AND m.rule_id = @Id AND m.about_start = v.starts_at)
                    ORDER BY {at}, v.id LIMIT @most
                    """,
                    new
                    {
                        From = after is null ? within.Start : isAfterwards ? after.End : after.Start,
                        LastId = after?.VisitId ?? Guid.Empty,
                        within.End,
                        rule.Id,
                        rule.Filter.LocationId,
                        rule.OnlyIfNotBack,
                        ServiceIds = rule.Filter.ServiceIds.ToArray(),
                        most,
                    }
                )
            ).Select(row => new TimedVisit(row.Item1, row.Item2, row.Item3, row.Item4, row.Item5, row.Item6)),
        ];
    }

    /// <summary>Takes messages that are due, for a while: whoever dies with them leaves them to the others.</summary>
    public static async Task<IReadOnlyList<MessageRow>> TakeAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<Channel> channels,
        Instant now,
        Duration lease,
        int most
    ) =>
        [
            .. (
                await connection.QueryAsync<MessageRow>(
                    $"""
                    UPDATE message SET state = 'Sending', taken_until = @Until, tries = tries + 1 WHERE id IN (
                        SELECT id FROM message WHERE settled_at IS NULL AND due_at <= @now AND (taken_until IS NULL OR taken_until <= @now)
                            AND channel = ANY(@Channels)
                        ORDER BY due_at, place LIMIT @most FOR UPDATE SKIP LOCKED)
                    RETURNING {Columns}
                    """,
                    new { now, Until = now + lease, Channels = channels.Select(channel => channel.ToString()).ToArray(), most }
                )
            ).OrderBy(message => message.Place),
        ];

    /// <summary>Whether something of the kind was written to an address since a moment.</summary>
    public static Task<bool> WroteSinceAsync(NpgsqlConnection connection, MessageTrigger trigger, string address, Instant since) =>
        connection.ExecuteScalarAsync<bool>(
            "SELECT EXISTS (SELECT 1 FROM message WHERE trigger = @Trigger AND address = @address AND created_at > @since)",
            new { Trigger = trigger.ToString(), address, since }
        );

    /// <summary>Whether what a message is about still stands: the visit of a timed one as it did, a code that is not too old.</summary>
    public static Task<bool> StillStandsAsync(NpgsqlConnection connection, MessageRow message, Instant now)
    {
        ArgumentNullException.ThrowIfNull(message);
        if (message.Trigger == nameof(MessageTrigger.Code))
            return connection.ExecuteScalarAsync<bool>(
                "SELECT EXISTS (SELECT 1 FROM own_code WHERE message_id = @Id AND expires_at > @now)",
                new { message.Id, now }
            );
        return message.AboutStart is null
            ? Task.FromResult(true)
            : connection.ExecuteScalarAsync<bool>(
                """
                SELECT EXISTS (SELECT 1 FROM visit
                    WHERE id = @VisitId AND starts_at = @AboutStart AND state NOT IN ('Cancelled', 'NoShow'))
                """,
                new { message.VisitId, message.AboutStart }
            );
    }

    /// <summary>
    /// Drops a message that was taken and no longer stands. One that is due around a visit is forgotten: should the visit stand again as it
    /// did, it is made anew.
    /// </summary>
    public static Task DropAsync(NpgsqlConnection connection, MessageRow message, Instant now)
    {
        ArgumentNullException.ThrowIfNull(message);
        return message.AboutStart is null
            ? SettleAsync(connection, message, MessageState.Dropped, now, because: "changed")
            : connection.ExecuteAsync(
                "DELETE FROM message WHERE id = @Id AND state = 'Sending' AND tries = @Tries",
                new { message.Id, message.Tries }
            );
    }

    /// <summary>Says what has become of a message that was taken.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="message">The message as it was taken; nothing is said of one that others have taken since.</param>
    /// <param name="state">Sent, Failed, Dropped, or Waiting where it is tried again.</param>
    /// <param name="now">The present moment.</param>
    /// <param name="again">When it is tried again, or null.</param>
    /// <param name="because">What was answered, or null.</param>
    public static Task SettleAsync(
        NpgsqlConnection connection,
        MessageRow message,
        MessageState state,
        Instant now,
        Instant? again = null,
        string? because = null
    )
    {
        ArgumentNullException.ThrowIfNull(message);
        return connection.ExecuteAsync(
            """
            UPDATE message SET state = @State, settled_at = @SettledAt, due_at = coalesce(@again, due_at), taken_until = NULL,
                because = @because
            WHERE id = @Id AND state = 'Sending' AND tries = @Tries
            """,
            new
            {
                message.Id,
                message.Tries,
                State = state.ToString(),
                SettledAt = state == MessageState.Waiting ? (Instant?)null : now,
                again,
                because,
            }
        );
    }

    /// <summary>Has a message that failed tried once more, from the beginning.</summary>
    /// <returns>False where it has not failed.</returns>
    public static async Task<bool> TryAgainAsync(NpgsqlConnection connection, Guid id, Instant now) =>
        await connection.ExecuteAsync(
            """
            UPDATE message SET state = 'Waiting', settled_at = NULL, due_at = @now, tries = 0, because = NULL
            WHERE id = @id AND state = 'Failed'
            """,
            new { id, now }
        ) == 1;

    /// <summary>Messages, the latest first.</summary>
    public static async Task<IReadOnlyList<MessageRow>> ListAsync(NpgsqlConnection connection, MessagesAsked asked)
    {
        ArgumentNullException.ThrowIfNull(asked);
        return
        [
            .. await connection.QueryAsync<MessageRow>(
                $"""
                SELECT listed.*, v.location_id AS visit_location_id, v.date AS visit_date FROM (
                    SELECT {Columns} FROM message
                    WHERE state = ANY(@States) AND place < @Before AND (CAST(@VisitId AS uuid) IS NULL OR visit_id = @VisitId)
                        AND (CAST(@ClientId AS uuid) IS NULL OR client_id = @ClientId)
                    ORDER BY place DESC LIMIT @Most) AS listed LEFT JOIN visit v ON v.id = listed.visit_id
                ORDER BY listed.place DESC
                """,
                new
                {
                    States = asked.States.Select(state => state.ToString()).ToArray(),
                    asked.Before,
                    asked.VisitId,
                    asked.ClientId,
                    asked.Most,
                }
            ),
        ];
    }

    /// <summary>How many messages wait, and how many did not get through.</summary>
    public static Task<(int Waiting, int Failed)> CountsAsync(NpgsqlConnection connection) =>
        connection.QuerySingleAsync<(int, int)>(
            """
            SELECT (count(*) FILTER (WHERE state IN ('Waiting', 'Sending')))::int, (count(*) FILTER (WHERE state = 'Failed'))::int
            FROM message WHERE state IN ('Waiting', 'Sending', 'Failed')
            """
        );
}
