using System.Diagnostics;
using Kingcup.Core.Availability;
using Kingcup.Core.Time;
using Npgsql;

namespace Kingcup.Bench;

/// <summary>
/// The same question put to PostgreSQL: free time of everybody and everything as multiranges with their index, starts of the grid beside
/// them, and one statement for all of it.
/// </summary>
internal static class SqlStarts
{
    private const string Question =
        """
        SELECT count(*) FROM grid g
        WHERE EXISTS (SELECT 1 FROM free p WHERE p.kind = 'lead' AND p.date = g.date
            AND p.during @> tstzrange(g.at, g.at + interval '20 min')
            AND p.during @> tstzrange(g.at + interval '45 min', g.at + interval '70 min'))
          AND EXISTS (SELECT 1 FROM free r WHERE r.kind = 'couch' AND r.date = g.date
              AND r.during @> tstzrange(g.at, g.at + interval '70 min'))
          AND EXISTS (SELECT 1 FROM free e WHERE e.kind = 'lamp' AND e.date = g.date
              AND e.during @> tstzrange(g.at, g.at + interval '25 min'))
        """;

    /// <summary>Milliseconds of the fastest of several tries, and how many starts it found.</summary>
    internal static async Task<(double Milliseconds, long Starts)> MeasureAsync(string database, FullBook book)
    {
        await using NpgsqlDataSource source = new NpgsqlDataSourceBuilder(database).Build();
        await using NpgsqlConnection connection = await source.OpenConnectionAsync();
        async Task RunAsync(string sql)
        {
            await using NpgsqlCommand command = new(sql, connection);
            await command.ExecuteNonQueryAsync();
        }

        await RunAsync(
            """
            DROP TABLE IF EXISTS free, grid;
            CREATE TABLE free (kind text NOT NULL, id uuid NOT NULL, date date NOT NULL, during tstzmultirange NOT NULL);
            CREATE TABLE grid (date date NOT NULL, at timestamptz NOT NULL);
            """);
        foreach (DayBook day in book.Days)
        {
            foreach (Guid id in book.Leads) await AddAsync(connection, "lead", id, day);
            foreach (Guid id in book.Couches) await AddAsync(connection, "couch", id, day);
            await AddAsync(connection, "lamp", book.Lamp, day);
            foreach (int grain in day.Opening & day.Day.EveryMinutes(15) & day.Day.Whole)
            {
                await using NpgsqlCommand add = new("INSERT INTO grid VALUES ($1, $2)", connection)
                {
                    Parameters =
                    {
                        new() { Value = day.Day.Date.ToDateOnly() },
                        new() { Value = day.Day.At(grain).ToDateTimeUtc() },
                    },
                };
                await add.ExecuteNonQueryAsync();
            }
        }

        await RunAsync("CREATE INDEX ON free (date, kind); CREATE INDEX ON grid (date); ANALYZE free; ANALYZE grid;");
        await using NpgsqlCommand question = new(Question, connection);
        await question.PrepareAsync();
        double best = double.MaxValue;
        long starts = 0;
        for (int i = 0; i < 12; i++)
        {
            long before = Stopwatch.GetTimestamp();
            starts = (long)(await question.ExecuteScalarAsync())!;
            best = Math.Min(best, Stopwatch.GetElapsedTime(before).TotalMilliseconds);
        }

        return (best, starts);
    }

    private static async Task AddAsync(NpgsqlConnection connection, string kind, Guid id, DayBook day)
    {
        string ranges = string.Join(
            ',',
            (day.FreeOf(id) & DaySet.Range(0, day.Day.GrainCount))
                .Runs()
                .Select(run => $"[\"{day.Day.At(run.From)}\",\"{day.Day.At(run.Until)}\")")
        );
        await using NpgsqlCommand add = new("INSERT INTO free VALUES ($1, $2, $3, CAST($4 AS tstzmultirange))", connection)
        {
            Parameters =
            {
                new() { Value = kind },
                new() { Value = id },
                new() { Value = day.Day.Date.ToDateOnly() },
                new() { Value = $"{{{ranges}}}" },
            },
        };
        await add.ExecuteNonQueryAsync();
    }
}
