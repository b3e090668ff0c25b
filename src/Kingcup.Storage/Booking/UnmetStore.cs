using Dapper;
using Kingcup.Core.Availability;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A search that found nothing.</summary>
public sealed record UnmetRow
{
    /// <summary>When it was made.</summary>
    public required Instant At { get; init; }

    /// <summary>The day at the location.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>Hash of the device it came from; forgotten when the day is over.</summary>
    public required byte[] Device { get; init; }

    /// <summary>Hash of what was looked for; forgotten when the day is over.</summary>
    public required byte[] Search { get; init; }

    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>What.</summary>
    public required Guid ServiceId { get; init; }

    /// <summary>With whom, or null.</summary>
    public Guid? PractitionerId { get; init; }

    /// <summary>The first day they looked at.</summary>
    public required LocalDate From { get; init; }

    /// <summary>The last day they looked at.</summary>
    public required LocalDate To { get; init; }

    /// <summary>When on them.</summary>
    public required WantedTimes Wanted { get; init; }

    /// <summary>What it failed for.</summary>
    public required Gate Gate { get; init; }
}

/// <summary>Searches for the same that failed for the same.</summary>
public sealed record UnmetFigure
{
    /// <summary>Where.</summary>
    public Guid LocationId { get; init; }

    /// <summary>What.</summary>
    public Guid ServiceId { get; init; }

    /// <summary>With whom, or null for anybody.</summary>
    public Guid? PractitionerId { get; init; }

    /// <summary>What they failed for.</summary>
    public string Gate { get; init; } = "";

    /// <summary>The part of the day, or null for any.</summary>
    public string? Part { get; init; }

    /// <summary>The days of the week.</summary>
    public string Days { get; init; } = "";

    /// <summary>How many.</summary>
    public int Count { get; init; }

    /// <summary>The day of the latest.</summary>
    public LocalDate Last { get; init; }
}

/// <summary>What people looked for online and did not find.</summary>
public static class UnmetStore
{
    /// <summary>Notes a search; one from the same device for the same on the same day is noted already.</summary>
    public static Task AddAsync(NpgsqlConnection connection, UnmetRow row)
    {
        ArgumentNullException.ThrowIfNull(row);
        return connection.ExecuteAsync(
            """
            INSERT INTO unmet_search (id, at, date, device_hash, search_hash, location_id, service_id, practitioner_id, from_date, to_date,
                part, days, gate)
            VALUES (@Id, @At, @Date, @Device, @Search, @LocationId, @ServiceId, @PractitionerId, @From, @To, @Part, @Days, @Gate)
            ON CONFLICT DO NOTHING
            """,
            new
            {
                Id = Guid.CreateVersion7(),
                row.At,
                row.Date,
                row.Device,
                row.Search,
                row.LocationId,
                row.ServiceId,
                row.PractitionerId,
                row.From,
                row.To,
                Part = row.Wanted.Part?.ToString(),
                Days = row.Wanted.Days.ToString(),
                Gate = row.Gate.ToString(),
            }
        );
    }

    /// <summary>Forgets from where searches came whose day is over.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, Instant before) =>
        connection.ExecuteAsync(
            "UPDATE unmet_search SET device_hash = NULL, search_hash = NULL WHERE device_hash IS NOT NULL AND at < @before",
            new { before }
        );

    /// <summary>Searches since a day, the most frequent first.</summary>
    public static async Task<IReadOnlyList<UnmetFigure>> FiguresAsync(NpgsqlConnection connection, LocalDate since, int most) =>
        [
            .. await connection.QueryAsync<UnmetFigure>(
                """
                SELECT location_id, service_id, practitioner_id, gate, part, days, count(*)::int AS count, max(date) AS last
                FROM unmet_search WHERE date >= @since GROUP BY location_id, service_id, practitioner_id, gate, part, days
                ORDER BY count DESC, last DESC, service_id, gate, days, part NULLS FIRST, practitioner_id NULLS FIRST LIMIT @most
                """,
                new { since, most }
            ),
        ];
}
