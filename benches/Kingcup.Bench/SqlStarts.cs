using System.Diagnostics;
using Kingcup.Core.Availability;
using Kingcup.Core.Time;
using Npgsql;
using NpgsqlTypes;

namespace Kingcup.Bench;

/// <summary>
/// The same question put to PostgreSQL, as one statement with multiranges: from what a database holds, which is when somebody or something
/// is open and what is taken; and from free time laid out in advance, which is what the engine answers from, and which something would
/// have to keep up to date.
/// </summary>
internal sealed class SqlStarts : IAsyncDisposable
{
    private const string Starts =
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

    private const string FromTaken =
        $$"""
        WITH free AS MATERIALIZED (
            SELECT o.kind, o.date, o.during - coalesce(
                (SELECT range_agg(t.during) FROM taken t WHERE t.id = o.id AND t.during && o.span), '{}') AS during
            FROM opened o)
        {{Starts}}
        """;

    private readonly NpgsqlDataSource _source;

    private SqlStarts(string database) => _source = new NpgsqlDataSourceBuilder(database).Build();

    /// <summary>Puts the days of a book into tables, with the indexes they want.</summary>
    internal static async Task<SqlStarts> FillAsync(string database, FullBook book)
    {
        SqlStarts sql = new(database);
        await using NpgsqlConnection connection = await sql._source.OpenConnectionAsync();
        await RunAsync(
            connection,
            """
            DROP TABLE IF EXISTS free, opened, taken, grid;
            CREATE TABLE free (kind text NOT NULL, id uuid NOT NULL, date date NOT NULL, during tstzmultirange NOT NULL);
            CREATE TABLE opened (kind text NOT NULL, id uuid NOT NULL, date date NOT NULL, during tstzmultirange NOT NULL,
                span tstzrange NOT NULL);
            CREATE TABLE taken (id uuid NOT NULL, during tstzrange NOT NULL);
            CREATE TABLE grid (date date NOT NULL, at timestamptz NOT NULL);
            """);
        foreach (DayBook day in book.Days)
        {
            foreach (Guid id in book.Leads) await AddAsync(connection, "lead", id, day, day.OnShift(id));
            foreach (Guid id in book.Couches) await AddAsync(connection, "couch", id, day, day.Day.Whole);
            await AddAsync(connection, "lamp", book.Lamp, day, day.Day.Whole);
            foreach (TakenTime taken in day.Taken.Where(taken => taken.During.Start >= day.Day.Start && taken.During.Start < day.Day.End))
                await RunAsync(connection, "INSERT INTO taken VALUES ($1, $2)", taken.ResourceId, Range(taken));
            foreach (int grain in day.Opening & day.Day.EveryMinutes(15) & day.Day.Whole)
                await RunAsync(
                    connection,
                    "INSERT INTO grid VALUES ($1, $2)",
                    day.Day.Date.ToDateOnly(),
                    day.Day.At(grain).ToDateTimeUtc()
                );
        }

        await RunAsync(
            connection,
            """
            CREATE INDEX ON free (date, kind); CREATE INDEX ON opened (date, kind); CREATE INDEX ON grid (date);
            CREATE EXTENSION IF NOT EXISTS btree_gist; CREATE INDEX ON taken USING gist (id, during);
            ANALYZE;
            """);
        return sql;
    }

    /// <summary>Asks from what is taken as often as the engine, one after the other, and from free time laid out in advance.</summary>
    /// <param name="engine">Puts the question to the engine, and says how many starts it finds.</param>
    /// <returns>Medians of milliseconds.</returns>
    /// <exception cref="InvalidOperationException">They do not find the same starts.</exception>
    internal async Task<(double FromTaken, double FromFree, double Engine)> MeasureAsync(Func<int> engine)
    {
        await using NpgsqlConnection connection = await _source.OpenConnectionAsync();
        // The planner cannot know how much free time there is, and would go through all of it for every start: seven times slower.
        await RunAsync(connection, "SET enable_nestloop = off");
        await using NpgsqlCommand taken = new(FromTaken, connection), free = new(Starts, connection);
        await taken.PrepareAsync();
        await free.PrepareAsync();
        List<double> ofTaken = [], ofFree = [], ofEngine = [];
        // Code is compiled for speed once it has run for a while.
        for (int i = 0; i < 500; i++) engine();
        for (int i = 0; i < 60; i++)
        {
            long began = Stopwatch.GetTimestamp();
            long found = (long)(await taken.ExecuteScalarAsync())!;
            ofTaken.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
            began = Stopwatch.GetTimestamp();
            long again = (long)(await free.ExecuteScalarAsync())!;
            ofFree.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
            began = Stopwatch.GetTimestamp();
            int here = engine();
            ofEngine.Add(Stopwatch.GetElapsedTime(began).TotalMilliseconds);
            if (found != here || again != here)
                throw new InvalidOperationException($"PostgreSQL finds {found} and {again} starts, the engine {here}.");
        }

        return (Median(ofTaken), Median(ofFree), Median(ofEngine));
    }

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => _source.DisposeAsync();

    private static double Median(List<double> all) => all.Order().ElementAt(all.Count / 2);

    private static NpgsqlRange<DateTime> Range(TakenTime taken) =>
        new(taken.During.Start.ToDateTimeUtc(), true, taken.During.End.ToDateTimeUtc(), false);

    private static async Task AddAsync(NpgsqlConnection connection, string kind, Guid id, DayBook day, DaySet open)
    {
        DaySet today = day.Day.Whole;
        await RunAsync(
            connection,
            "INSERT INTO free VALUES ($1, $2, $3, CAST($4 AS tstzmultirange))",
            kind, id, day.Day.Date.ToDateOnly(), Ranges(day, day.FreeOf(id) & today));
        await RunAsync(
            connection,
            """
            INSERT INTO opened VALUES ($1, $2, $3, CAST($4 AS tstzmultirange), range_merge(CAST($4 AS tstzmultirange)))
            """,
            kind, id, day.Day.Date.ToDateOnly(), Ranges(day, open & today));
    }

    private static string Ranges(DayBook day, DaySet set) =>
        $"{{{string.Join(',', set.Runs().Select(run => $"[\"{day.Day.At(run.From)}\",\"{day.Day.At(run.Until)}\")"))}}}";

    private static async Task RunAsync(NpgsqlConnection connection, string sql, params object[] values)
    {
        await using NpgsqlCommand command = new(sql, connection);
        foreach (object value in values) command.Parameters.Add(new NpgsqlParameter { Value = value });
        await command.ExecuteNonQueryAsync();
    }
}
