using Dapper;
using Kingcup.Core.Clients;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A link between two clients with their names.</summary>
/// <param name="Link">The link.</param>
/// <param name="Version">Grows with every change.</param>
/// <param name="FromName">Who acts.</param>
/// <param name="ToName">For whom.</param>
public sealed record StoredLink(ClientLink Link, long Version, string FromName, string ToName);

/// <summary>Somebody for whom others may act.</summary>
/// <param name="Id">The client.</param>
/// <param name="MayBook">Whether one of them may book, move and cancel for them.</param>
/// <param name="MaySee">Whether one of them may see what they have booked.</param>
/// <param name="PayerId">Which of them books for them and pays for it, or null where nobody does both.</param>
public sealed record ReachedClient(Guid Id, bool MayBook, bool MaySee, Guid? PayerId);

/// <summary>What clients may do for each other.</summary>
public static class LinkStore
{
    /// <summary>The links of a client, both ways.</summary>
    public static async Task<IReadOnlyList<StoredLink>> OfAsync(NpgsqlConnection connection, Guid clientId) =>
        [
            .. (
                await connection.QueryAsync<LinkRow>(
                    """
                    SELECT l.from_client_id, l.to_client_id, l.relation, l.may_book, l.may_pay, l.may_see, l.version,
                        f.given_name || ' ' || f.family_name AS from_name, t.given_name || ' ' || t.family_name AS to_name
                    FROM client_link l JOIN client f ON f.id = l.from_client_id JOIN client t ON t.id = l.to_client_id
                    WHERE (l.from_client_id = @clientId OR l.to_client_id = @clientId) AND f.merged_into IS NULL AND t.merged_into IS NULL
                    ORDER BY l.relation, from_name, to_name, l.from_client_id, l.to_client_id
                    """,
                    new { clientId }
                )
            ).Select(row => row.Stored()),
        ];

    /// <summary>Those for whom some clients may act, besides themselves.</summary>
    public static async Task<IReadOnlyList<ReachedClient>> ReachedAsync(NpgsqlConnection connection, IReadOnlyCollection<Guid> clients) =>
        [
            .. await connection.QueryAsync<ReachedClient>(
                """
                SELECT t.id, bool_or(l.may_book) AS may_book, bool_or(l.may_see) AS may_see,
                    (array_agg(l.from_client_id ORDER BY l.from_client_id) FILTER (WHERE l.may_book AND l.may_pay))[1] AS payer_id
                FROM client_link l JOIN client t ON t.id = l.to_client_id
                WHERE l.from_client_id = ANY(@Clients) AND t.id <> ALL(@Clients) AND t.merged_into IS NULL AND (l.may_book OR l.may_see)
                GROUP BY t.id ORDER BY t.given_name, t.family_name, t.id
                """,
                new { Clients = clients.ToArray() }
            ),
        ];

    /// <summary>The link one way, or null.</summary>
    public static async Task<StoredLink?> FindAsync(NpgsqlConnection connection, Guid from, Guid to) =>
        (await OfAsync(connection, from)).SingleOrDefault(stored => stored.Link.From == from && stored.Link.To == to);

    /// <summary>Links two clients one way, or changes what the link says; both histories say so.</summary>
    /// <param name="connection">A connection in a transaction.</param>
    /// <param name="link">The link as it is to be.</param>
    /// <param name="version">The version the change is based on; 0 where there was none.</param>
    /// <param name="change">Who links them, and when.</param>
    /// <returns>False when the link is not of that version; nothing was changed then.</returns>
    /// <exception cref="PostgresException">One of the two is no client, or both are the same.</exception>
    public static async Task<bool> SaveAsync(NpgsqlConnection connection, ClientLink link, long version, Change change)
    {
        ArgumentNullException.ThrowIfNull(link);
        ClientLink? before = (await FindAsync(connection, link.From, link.To))?.Link;
        int rows = await connection.ExecuteAsync(
            version == 0
                ? """
                INSERT INTO client_link (from_client_id, to_client_id, relation, may_book, may_pay, may_see)
                VALUES (@From, @To, @Relation, @MayBook, @MayPay, @MaySee) ON CONFLICT DO NOTHING
                """
                : """
                UPDATE client_link SET relation = @Relation, may_book = @MayBook, may_pay = @MayPay, may_see = @MaySee,
                    version = version + 1
                WHERE from_client_id = @From AND to_client_id = @To AND version = @version
                """,
            new { link.From, link.To, link.Relation, link.MayBook, link.MayPay, link.MaySee, version });
        if (rows == 0) return false;
        await RecordAsync(connection, link, before is null ? "Linked" : "Link changed", before, link, change);
        return true;
    }

    /// <summary>Takes a link one way back; both histories say so.</summary>
    /// <returns>False when the link is not of that version; nothing was changed then.</returns>
    public static async Task<bool> RemoveAsync(NpgsqlConnection connection, ClientLink link, long version, Change change)
    {
        ArgumentNullException.ThrowIfNull(link);
        int rows = await connection.ExecuteAsync(
            "DELETE FROM client_link WHERE from_client_id = @From AND to_client_id = @To AND version = @version",
            new { link.From, link.To, version });
        if (rows == 0) return false;
        await RecordAsync(connection, link, "Link taken back", link, null, change);
        return true;
    }

    private static async Task RecordAsync(
        NpgsqlConnection connection,
        ClientLink link,
        string action,
        ClientLink? before,
        ClientLink? after,
        Change change
    )
    {
        foreach (Guid id in new[] { link.From, link.To })
            await History.RecordAsync(connection, new Subject("client", id), action, before, after, change);
    }

    private sealed class LinkRow
    {
        public Guid FromClientId { get; init; }
        public Guid ToClientId { get; init; }
        public string Relation { get; init; } = "";
        public bool MayBook { get; init; }
        public bool MayPay { get; init; }
        public bool MaySee { get; init; }
        public long Version { get; init; }
        public string FromName { get; init; } = "";
        public string ToName { get; init; } = "";

        public StoredLink Stored()
        {
            ClientLink link = new(FromClientId, ToClientId, Relation) { MayBook = MayBook, MayPay = MayPay, MaySee = MaySee };
            return new StoredLink(link, Version, FromName, ToName);
        }
    }
}
