using Dapper;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Api;

/// <summary>
/// The one clock of the server. It is the machine's, except that a demo business may run ahead; how far stands in the
/// database, so that all servers agree.
/// </summary>
public sealed class BusinessClock(Database database) : IClock
{
    /// <summary>The PostgreSQL channel on which a moved clock is told to every server.</summary>
    public const string Channel = "kingcup_clock";

    private Duration _ahead = Duration.Zero;

    /// <inheritdoc/>
    public Instant GetCurrentInstant() => SystemClock.Instance.GetCurrentInstant() + _ahead;

    /// <summary>Reads how far the clock runs ahead.</summary>
    public async Task ReadAsync()
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        _ahead = Duration.FromSeconds(await connection.ExecuteScalarAsync<long?>("SELECT clock_ahead_seconds FROM business") ?? 0);
    }

    /// <summary>Moves the clock of a demo business forward, for all servers.</summary>
    /// <exception cref="Refused">The business is not a demo, or the instant lies in the clock's past.</exception>
    public async Task MoveToAsync(Instant to)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        bool isDemo = await connection.ExecuteScalarAsync<bool?>("SELECT is_demo FROM business") ?? false;
        if (!isDemo) throw new Refused(StatusCodes.Status403Forbidden, "not-a-demo", "Only the clock of a demo business can be moved.");
        if (to < GetCurrentInstant()) throw Refused.Invalid("to", "The clock can only move forward.");
        if (to > GetCurrentInstant() + Duration.FromDays(3660)) throw Refused.Invalid("to", "The clock can move ten years at the most.");
        _ahead = to - SystemClock.Instance.GetCurrentInstant();
        await connection.ExecuteAsync(
            "UPDATE business SET clock_ahead_seconds = @Seconds; SELECT pg_notify(@Channel, '')",
            new { Seconds = (long)_ahead.TotalSeconds, Channel }
        );
    }
}
