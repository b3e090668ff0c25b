using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A session of a client who sees their own bookings.</summary>
/// <param name="ClientId">Whose, or null for everybody who is reached at the address.</param>
/// <param name="Address">E-mail address or telephone number.</param>
public sealed record OwnSession(Guid? ClientId, string Address);

/// <summary>What somebody answered when they booked.</summary>
/// <param name="Reference">Reference of the visit.</param>
/// <param name="Question">The question as it was asked.</param>
/// <param name="Answer">The answer; of a file its name.</param>
public sealed record OwnAnswered(string Reference, string Question, string Answer);

/// <summary>A card that is kept, as its holder reads of it.</summary>
/// <param name="Digits">The last four digits.</param>
/// <param name="Expires">Month and year.</param>
public sealed record OwnCard(string Digits, string Expires);

/// <summary>A client's password.</summary>
/// <param name="ClientId">Whose.</param>
/// <param name="Hash">Its hash.</param>
public sealed record OwnPassword(Guid ClientId, string Hash);

/// <summary>Clients who see their own bookings: sessions, codes and passwords.</summary>
public static class OwnStore
{
    private const int MostTries = 5;

    /// <summary>Begins a session.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="tokenHash">Hash of what names it.</param>
    /// <param name="session">Whose it is.</param>
    /// <param name="now">The present moment.</param>
    /// <param name="until">When it ends.</param>
    public static Task BeginAsync(NpgsqlConnection connection, byte[] tokenHash, OwnSession session, Instant now, Instant until)
    {
        ArgumentNullException.ThrowIfNull(session);
        return connection.ExecuteAsync(
            """
            INSERT INTO own_session (token_hash, client_id, address, created_at, expires_at)
            VALUES (@tokenHash, @ClientId, @Address, @now, @until)
            """,
            new { tokenHash, session.ClientId, session.Address, now, until }
        );
    }

    /// <summary>A session that is still good, or null.</summary>
    public static Task<OwnSession?> FindAsync(NpgsqlConnection connection, byte[] tokenHash, Instant now) =>
        connection.QuerySingleOrDefaultAsync<OwnSession>(
            "SELECT client_id, address FROM own_session WHERE token_hash = @tokenHash AND expires_at > @now",
            new { tokenHash, now }
        );

    /// <summary>Ends a session.</summary>
    public static Task EndAsync(NpgsqlConnection connection, byte[] tokenHash) =>
        connection.ExecuteAsync("DELETE FROM own_session WHERE token_hash = @tokenHash", new { tokenHash });

    /// <summary>The clients of a session: those who are still reached at its address, records that were put aside left out.</summary>
    public static async Task<IReadOnlyList<Guid>> ClientsAsync(NpgsqlConnection connection, OwnSession session)
    {
        ArgumentNullException.ThrowIfNull(session);
        return
        [
            .. await connection.QueryAsync<Guid>(
                """
                SELECT c.id FROM client c WHERE c.merged_into IS NULL AND (c.email = @Address OR c.phone = @Address)
                    AND (CAST(@ClientId AS uuid) IS NULL OR c.id = @ClientId
                        OR EXISTS (SELECT 1 FROM client gone WHERE gone.id = @ClientId AND gone.merged_into = c.id))
                ORDER BY c.created_at, c.id
                """,
                new { session.ClientId, session.Address }
            ),
        ];
    }

    /// <summary>How many codes were sent to an address since a moment.</summary>
    public static Task<int> CodesSinceAsync(NpgsqlConnection connection, string address, Instant since) =>
        connection.ExecuteScalarAsync<int>(
            "SELECT count(*)::int FROM own_code WHERE address = @address AND asked_at > @since",
            new { address, since }
        );

    /// <summary>Has a code sent with a message; it is drawn when that goes.</summary>
    public static Task AddCodeAsync(NpgsqlConnection connection, string address, Guid messageId, Instant now, Instant until) =>
        connection.ExecuteAsync(
            "INSERT INTO own_code (id, address, message_id, asked_at, expires_at) VALUES (@Id, @address, @messageId, @now, @until)",
            new { Id = Guid.CreateVersion7(), address, messageId, now, until }
        );

    /// <summary>Keeps the hash of a code that is being sent.</summary>
    public static Task KeepCodeAsync(NpgsqlConnection connection, Guid messageId, byte[] codeHash) =>
        connection.ExecuteAsync("UPDATE own_code SET code_hash = @codeHash WHERE message_id = @messageId", new { messageId, codeHash });

    /// <summary>Tries a code against the last one that was sent; each try counts, and what was right is used up.</summary>
    /// <returns>Whether it is right, and not too old or tried too often.</returns>
    public static async Task<bool> TryCodeAsync(NpgsqlConnection connection, string address, byte[] codeHash, Instant now)
    {
        byte[]? kept = await connection.ExecuteScalarAsync<byte[]?>(
            $"""
            UPDATE own_code SET tries = tries + 1 WHERE id = (
                SELECT id FROM own_code WHERE address = @address AND expires_at > @now ORDER BY asked_at DESC LIMIT 1)
                AND tries < {MostTries} AND code_hash IS NOT NULL
            RETURNING code_hash
            """,
            new { address, now }
        );
        if (kept is null || !System.Security.Cryptography.CryptographicOperations.FixedTimeEquals(kept, codeHash)) return false;
        await connection.ExecuteAsync(
            "UPDATE own_code SET expires_at = @now WHERE address = @address AND expires_at > @now",
            new { address, now }
        );
        return true;
    }

    /// <summary>The passwords of those who are still reached at the address they set them for, the oldest first.</summary>
    public static async Task<IReadOnlyList<OwnPassword>> PasswordsAsync(NpgsqlConnection connection, string address) =>
        [
            .. await connection.QueryAsync<OwnPassword>(
                """
                SELECT p.client_id, p.hash FROM client_password p JOIN client c ON c.id = p.client_id
                WHERE p.address = @address AND c.merged_into IS NULL AND (c.email = @address OR c.phone = @address)
                ORDER BY p.set_at, p.client_id
                """,
                new { address }
            ),
        ];

    /// <summary>Keeps the password of a client for an address, or takes it away.</summary>
    public static Task SetPasswordAsync(NpgsqlConnection connection, Guid clientId, string address, string? hash, Instant now) =>
        hash is null
            ? connection.ExecuteAsync("DELETE FROM client_password WHERE client_id = @clientId", new { clientId })
            : connection.ExecuteAsync(
                """
                INSERT INTO client_password (client_id, address, hash, set_at) VALUES (@clientId, @address, @hash, @now)
                ON CONFLICT (client_id) DO UPDATE SET address = @address, hash = @hash, set_at = @now
                """,
                new { clientId, address, hash, now }
            );

    /// <summary>Ends the sessions by which a client is seen, but one.</summary>
    public static Task EndOthersAsync(NpgsqlConnection connection, Guid clientId, string address, byte[] butHash) =>
        connection.ExecuteAsync(
            "DELETE FROM own_session WHERE address = @address AND (client_id = @clientId OR client_id IS NULL) AND token_hash <> @butHash",
            new { clientId, address, butHash }
        );

    /// <summary>Forgets sessions and codes that are over.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, Instant before) =>
        connection.ExecuteAsync(
            "DELETE FROM own_session WHERE expires_at < @before; DELETE FROM own_code WHERE expires_at < @before",
            new { before }
        );

    /// <summary>The visits of clients, the latest first.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> VisitsAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<Guid> clients,
        int most
    )
    {
        Guid[] ids =
        [
            .. await connection.QueryAsync<Guid>(
                "SELECT id FROM visit WHERE client_id = ANY(@Clients) ORDER BY starts_at DESC, id LIMIT @most",
                new { Clients = clients.ToArray(), most }
            ),
        ];
        return [.. (await BookStore.TheseAsync(connection, ids)).OrderByDescending(visit => visit.Visit.StartsAt)];
    }

    /// <summary>What clients have answered to the questions of their visits, the latest visit first.</summary>
    public static async Task<IReadOnlyList<OwnAnswered>> AnswersAsync(NpgsqlConnection connection, IReadOnlyCollection<Guid> clients) =>
        [
            .. await connection.QueryAsync<OwnAnswered>(
                """
                SELECT v.reference, a.question, a.answer FROM visit v JOIN visit_answer a ON a.visit_id = v.id
                JOIN question q ON q.id = a.question_id
                WHERE v.client_id = ANY(@Clients) ORDER BY v.starts_at DESC, v.id, q.position, q.id
                """,
                new { Clients = clients.ToArray() }
            ),
        ];

    /// <summary>The cards that are kept of clients.</summary>
    public static async Task<IReadOnlyList<OwnCard>> CardsAsync(NpgsqlConnection connection, IReadOnlyCollection<Guid> clients) =>
        [
            .. await connection.QueryAsync<OwnCard>(
                "SELECT last_digits AS digits, expires FROM card WHERE client_id = ANY(@Clients) ORDER BY created_at DESC",
                new { Clients = clients.ToArray() }
            ),
        ];
}
