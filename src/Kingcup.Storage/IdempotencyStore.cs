using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>What is remembered of a request that came with an idempotency key.</summary>
public sealed class RememberedAnswer
{
    /// <summary>Hash of the first request's body.</summary>
    public byte[] Fingerprint { get; init; } = [];

    /// <summary>HTTP status of the first answer.</summary>
    public int? Status { get; init; }

    /// <summary>Where what it made can be found, or null.</summary>
    public string? Location { get; init; }

    /// <summary>Body of the first answer.</summary>
    public string? Body { get; init; }
}

/// <summary>First answers, kept in the same transaction as what they speak of (rules, section 7).</summary>
public static class IdempotencyStore
{
    /// <summary>What is remembered of a key, or null, and the present revision of the setup, which most who bring a key need
    /// next.</summary>
    public static async Task<(RememberedAnswer? Answer, long? SetupRevision)> LookAsync(
        NpgsqlConnection connection,
        string scope,
        string key
    )
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            $"{FindSql}; {SetupReader.RevisionSql}",
            new { scope, key }
        );
        return (await grid.ReadSingleOrDefaultAsync<RememberedAnswer>(), await grid.ReadSingleOrDefaultAsync<long?>());
    }

    /// <summary>What is remembered of a key, or null.</summary>
    public static Task<RememberedAnswer?> FindAsync(NpgsqlConnection connection, string scope, string key) =>
        connection.QuerySingleOrDefaultAsync<RememberedAnswer>(FindSql, new { scope, key });

    /// <summary>Takes a key. A second request with it waits here until the first has ended.</summary>
    /// <returns>False when the first has been answered meanwhile.</returns>
    public static async Task<bool> TakeAsync(NpgsqlConnection connection, KeyToTake key, Instant now) => await connection.ExecuteAsync(
        "INSERT INTO idempotency (scope, key, fingerprint, created_at) VALUES (@Scope, @Key, @Fingerprint, @now) ON CONFLICT DO NOTHING",
        new { key.Scope, key.Key, key.Fingerprint, now }) == 1;

    /// <summary>Keeps the answer.</summary>
    public static Task KeepAsync(NpgsqlConnection connection, KeyToTake key, int status, string? location, string body) =>
        connection.ExecuteAsync(
            KeepSql,
            new
            {
                key.Scope,
                key.Key,
                status,
                location,
                body,
            }
        );

    /// <summary>Keeps the answer with what else a transaction of the book writes.</summary>
    public static void Keep(BookTransaction transaction, KeyToTake key, int status, string? location, string body) =>
        transaction.Write(KeepSql, new { key.Scope, key.Key, status, location, body }, oneRow: true);

    private const string FindSql = "SELECT fingerprint, status, location, body FROM idempotency WHERE scope = @scope AND key = @key";

    private const string KeepSql =
        "UPDATE idempotency SET status = @status, location = @location, body = @body WHERE scope = @Scope AND key = @Key";

    /// <summary>Forgets keys older than <paramref name="before"/>.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, Instant before) =>
        connection.ExecuteAsync("DELETE FROM idempotency WHERE created_at < @before", new { before });
}
