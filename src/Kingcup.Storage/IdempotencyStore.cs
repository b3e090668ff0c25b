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

    /// <summary>Body of the first answer.</summary>
    public string? Body { get; init; }
}

/// <summary>First answers, kept in the same transaction as what they speak of (rules, section 7).</summary>
public static class IdempotencyStore
{
    /// <summary>
    /// Takes a key. A second request with it waits here until the first has ended, then is given its answer.
    /// </summary>
    /// <returns>Null when the key is new and now taken; otherwise the first answer.</returns>
    public static async Task<RememberedAnswer?> TakeAsync(NpgsqlConnection connection, string scope, string key, byte[] fingerprint, Instant now)
    {
        int rows = await connection.ExecuteAsync(
            "INSERT INTO idempotency (scope, key, fingerprint, created_at) VALUES (@scope, @key, @fingerprint, @now) ON CONFLICT DO NOTHING",
            new { scope, key, fingerprint, now });
        return rows == 1
            ? null
            : await connection.QuerySingleAsync<RememberedAnswer>("SELECT fingerprint, status, body FROM idempotency WHERE scope = @scope AND key = @key", new { scope, key });
    }

    /// <summary>Keeps the answer.</summary>
    public static Task KeepAsync(NpgsqlConnection connection, string scope, string key, int status, string body) =>
        connection.ExecuteAsync("UPDATE idempotency SET status = @status, body = @body WHERE scope = @scope AND key = @key", new { scope, key, status, body });

    /// <summary>Forgets keys older than <paramref name="before"/>.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, Instant before) =>
        connection.ExecuteAsync("DELETE FROM idempotency WHERE created_at < @before", new { before });
}
