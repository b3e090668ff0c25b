using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>What bounds how often somebody may try, counted in the database so that it holds over all servers.</summary>
public static class LimitStore
{
    /// <summary>
    /// Counts a try to sign in before the password is looked at, so that many at once count one by one. Tries of an account from one
    /// address range do not count against anybody else's.
    /// </summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="account">Hash of the account.</param>
    /// <param name="range">Hash of the address range.</param>
    /// <param name="now">The present.</param>
    /// <param name="window">How long a failure counts.</param>
    /// <returns>How many tries this is within the window.</returns>
    public static Task<int> CountSignInAsync(NpgsqlConnection connection, byte[] account, byte[] range, Instant now, Duration window) =>
        connection.ExecuteScalarAsync<int>(
            """
            INSERT INTO sign_in_failure AS f (account_hash, range_hash, failures, since) VALUES (@account, @range, 1, @now)
            ON CONFLICT (account_hash, range_hash) DO UPDATE SET
                failures = CASE WHEN f.since <= @Before THEN 1 ELSE f.failures + 1 END,
                since = CASE WHEN f.since <= @Before THEN @now ELSE f.since END
            RETURNING failures
            """,
            new
            {
                account,
                range,
                now,
                Before = now - window,
            }
        );

    /// <summary>Forgets the tries of an account, from one range or (null) from all.</summary>
    public static Task ForgetSignInAsync(NpgsqlConnection connection, byte[] account, byte[]? range) =>
        connection.ExecuteAsync(
            "DELETE FROM sign_in_failure WHERE account_hash = @account AND (@range::bytea IS NULL OR range_hash = @range)",
            new { account, range }
        );

    /// <summary>Takes permits for requests of an address range in a minute, as many as are left and are asked for.</summary>
    /// <returns>How many were taken; 0 when none are left.</returns>
    public static async Task<int> TakeRequestsAsync(
        NpgsqlConnection connection,
        string policy,
        byte[] range,
        long minute,
        int wanted,
        int most
    ) =>
        await connection.ExecuteScalarAsync<int?>(
            """
            INSERT INTO request_count AS c (policy, range_hash, minute, taken) VALUES (@policy, @range, @minute, least(@wanted, @most))
            ON CONFLICT (policy, range_hash, minute) DO UPDATE SET taken = c.taken + @wanted WHERE c.taken + @wanted <= @most
            RETURNING least(@wanted, @most)
            """,
            new { policy, range, minute, wanted, most }) ?? 0;

    /// <summary>Forgets counts of minutes that are over, and failures that no longer count.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, long minute, Instant before) => connection.ExecuteAsync(
        "DELETE FROM request_count WHERE minute < @minute; DELETE FROM sign_in_failure WHERE since < @before", new { minute, before });

    /// <summary>A secret of this database, made when it is first asked for.</summary>
    public static async Task<byte[]> SecretAsync(NpgsqlConnection connection, string name, byte[] made)
    {
        await connection.ExecuteAsync("INSERT INTO secret (name, value) VALUES (@name, @made) ON CONFLICT DO NOTHING", new { name, made });
        return (await connection.ExecuteScalarAsync<byte[]>("SELECT value FROM secret WHERE name = @name", new { name }))!;
    }
}
