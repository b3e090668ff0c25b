using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A session of somebody signed in.</summary>
public sealed class SessionRow
{
    /// <summary>Identity; it stands in the protected cookie only.</summary>
    public Guid Id { get; init; }

    /// <summary>Whose.</summary>
    public Guid StaffId { get; init; }

    /// <summary>When it began.</summary>
    public Instant CreatedAt { get; init; }

    /// <summary>When it was last used, to within a few minutes.</summary>
    public Instant SeenAt { get; init; }

    /// <summary>When it ends however much it is used.</summary>
    public Instant ExpiresAt { get; init; }

    /// <summary>What device it is on, in a few words.</summary>
    public string Device { get; init; } = "";
}

/// <summary>A session that is still good.</summary>
public sealed record OpenSession
{
    /// <summary>Whose it is.</summary>
    public StaffRow Staff { get; init; } = null!;

    /// <summary>When it was last used, to within a few minutes.</summary>
    public Instant SeenAt { get; init; }

    /// <summary>Whether the business asks its owners for a second factor.</summary>
    public bool OwnersNeedCode { get; init; }

    /// <summary>Whether nothing is open to this person until they have a second factor.</summary>
    public bool NeedsCode => OwnersNeedCode && Staff is { Role: "Owner", TotpConfirmed: false };
}

/// <summary>Sessions, kept where every server finds them and ended there.</summary>
public static class SessionStore
{
    /// <summary>The PostgreSQL channel on which ended sessions are told to every server, each by its identity.</summary>
    public const string Channel = "kingcup_session";

    /// <summary>Begins a session.</summary>
    public static Task AddAsync(NpgsqlConnection connection, SessionRow session) =>
        connection.ExecuteAsync(
            "INSERT INTO session (id, staff_id, created_at, seen_at, expires_at, device) VALUES (@Id, @StaffId, @CreatedAt, "
                + "@SeenAt, @ExpiresAt, @Device)",
            session
        );

    // What makes a session good; the account it is of may be closed besides.
    private const string IsGood = "ended_at IS NULL AND expires_at > @now AND seen_at > @idleSince";

    /// <summary>A session that is still good, with its account; null when it is not. Asked with every request, so all in one
    /// question.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="id">The session.</param>
    /// <param name="now">The present.</param>
    /// <param name="idleSince">Sessions last seen before this are over.</param>
    public static async Task<OpenSession?> FindAsync(NpgsqlConnection connection, Guid id, Instant now, Instant idleSince) =>
        (
            await connection.QueryAsync<OpenSession, StaffRow, OpenSession>(
                $"""
                SELECT seen_at, coalesce((SELECT owners_need_code FROM business), false) AS owners_need_code, s.*
                FROM session JOIN LATERAL (SELECT {StaffStore.Columns} FROM staff WHERE staff.id = session.staff_id
                    AND NOT signed_off) AS s ON true
                WHERE session.id = @id AND {IsGood}
                """,
                (session, staff) => session with { Staff = staff },
                new
                {
                    id,
                    now,
                    idleSince,
                }
            )
        ).SingleOrDefault();

    /// <summary>Those of some sessions that are still good.</summary>
    public static async Task<IReadOnlySet<Guid>> GoodAsync(NpgsqlConnection connection, Guid[] ids, Instant now, Instant idleSince) =>
        (
            await connection.QueryAsync<Guid>(
                $"SELECT id FROM session WHERE id = ANY(@ids) AND {IsGood}",
                new
                {
                    ids,
                    now,
                    idleSince,
                }
            )
        ).ToHashSet();

    /// <summary>Notes that a session was used.</summary>
    public static Task SeeAsync(NpgsqlConnection connection, Guid id, Instant now) =>
        connection.ExecuteAsync("UPDATE session SET seen_at = @now WHERE id = @id", new { id, now });

    /// <summary>The sessions of an account that are still good, the newest first.</summary>
    public static async Task<IReadOnlyList<SessionRow>> OfAsync(
        NpgsqlConnection connection,
        Guid staffId,
        Instant now,
        Instant idleSince
    ) =>
        [
            .. await connection.QueryAsync<SessionRow>(
                "SELECT id, staff_id, created_at, seen_at, expires_at, device FROM session WHERE staff_id = @staffId AND "
                    + $"{IsGood} ORDER BY created_at DESC",
                new
                {
                    staffId,
                    now,
                    idleSince,
                }
            ),
        ];

    /// <summary>Ends one session, and tells every server.</summary>
    public static Task EndAsync(NpgsqlConnection connection, Guid id, Instant now) =>
        connection.ExecuteAsync(
            "UPDATE session SET ended_at = @now WHERE id = @id AND ended_at IS NULL; SELECT pg_notify(@Channel, @id::text)",
            new
            {
                id,
                now,
                Channel,
            }
        );

    /// <summary>Ends all sessions of an account but one, and tells every server.</summary>
    public static async Task EndAllAsync(NpgsqlConnection connection, Guid staffId, Guid? except, Instant now)
    {
        IEnumerable<Guid> ended = await connection.QueryAsync<Guid>(
            "UPDATE session SET ended_at = @now WHERE staff_id = @staffId AND ended_at IS NULL AND id IS DISTINCT FROM @except "
                + "RETURNING id",
            new
            {
                staffId,
                except,
                now,
            }
        );
        foreach (Guid id in ended)
            await connection.ExecuteAsync("SELECT pg_notify(@Channel, @id::text)", new { Channel, id });
    }

    /// <summary>Forgets sessions that ended long ago.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, Instant before) =>
        connection.ExecuteAsync("DELETE FROM session WHERE expires_at < @before OR ended_at < @before", new { before });
}
