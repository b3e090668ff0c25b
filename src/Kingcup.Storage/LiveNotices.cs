using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>What every server is told, when the transaction commits, of what has changed.</summary>
public static class LiveNotices
{
    /// <summary>The PostgreSQL channel on which it is told.</summary>
    public const string Channel = "kingcup_book";

    /// <summary>What is told when the setup has changed.</summary>
    public const string Setup = "setup";

    /// <summary>What is told when a day of a location has changed.</summary>
    public static string Day(Guid locationId, LocalDate date) => $"{locationId} {date:uuuu-MM-dd}";

    /// <summary>Tells every server, when the caller's transaction commits; the same notice twice is told once.</summary>
    public static Task TellAsync(NpgsqlConnection connection, params IEnumerable<string> notices) =>
        connection.ExecuteAsync(
            "SELECT pg_notify(@Channel, notice) FROM unnest(@Notices) AS notice",
            new { Channel, Notices = notices.ToArray() }
        );
}
