using Dapper;
using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Something with the version a change of it has to name.</summary>
/// <param name="Value">The thing.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record Versioned<T>(T Value, long Version);

/// <summary>What holds on the single dates of a window. What comes back for ever is setup, and not in it.</summary>
/// <param name="Changes">Shift changes by date.</param>
/// <param name="Closures">Closures of one date.</param>
/// <param name="Stops">Dates stopped for online booking.</param>
/// <param name="Blocks">Blocked time that happens once, by start.</param>
public sealed record CalendarWindow(
    IReadOnlyList<Versioned<ShiftChange>> Changes,
    IReadOnlyList<Versioned<Closure>> Closures,
    IReadOnlyList<Versioned<OnlineStop>> Stops,
    IReadOnlyList<Versioned<BlockedTime>> Blocks
)
{
    /// <summary>A window in which nothing is said.</summary>
    public static CalendarWindow Empty { get; } = new([], [], [], []);

    /// <summary>This window with what the setup says of every date.</summary>
    public DatedCalendar With(Setup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return new DatedCalendar(
            Changes.Select(change => change.Value),
            [.. Closures.Select(closure => closure.Value), .. setup.Parts.YearlyClosures.Select(closure => closure.Value)],
            Stops.Select(stop => stop.Value),
            new BlockCalendar(Blocks.Select(block => block.Value), setup.Parts.RepeatingBlocks.Select(block => block.Value))
        );
    }
}

/// <summary>Reads what holds on dates, by window.</summary>
public static class CalendarReader
{
    // Filtered by whom or what it is about where @about is given.
    internal const string WindowSql =
        """
        SELECT practitioner_id, date, works_during_closure, reason, version FROM shift_change
        WHERE date BETWEEN @from AND @until AND (@about IS NULL OR practitioner_id = @about) ORDER BY date;
        SELECT id, practitioner_id, rota_from, week, weekday, change_date, location_id, from_time, until_time, service_ids,
            category_ids FROM shift
        WHERE change_date BETWEEN @from AND @until AND (@about IS NULL OR practitioner_id = @about) ORDER BY from_time;
        SELECT b.shift_id, b.from_time, b.until_time, b.reason FROM shift_break b JOIN shift s ON s.id = b.shift_id
        WHERE s.change_date BETWEEN @from AND @until AND (@about IS NULL OR s.practitioner_id = @about) ORDER BY b.from_time;
        SELECT location_id, date, yearly, reason, for_clients, version FROM closure
        WHERE NOT yearly AND date BETWEEN @from AND @until AND (@about IS NULL OR location_id = @about) ORDER BY date;
        SELECT location_id, date, reason, version FROM online_stop WHERE date BETWEEN @from AND @until AND (@about IS NULL
            OR location_id = @about) ORDER BY date;
        SELECT id, resource_id, during, reason, kind, version FROM blocked_time
        WHERE during && tstzrange(@starts, @ends) AND (@about IS NULL OR resource_id = @about) ORDER BY during;
        """;

    // Past this no date can be entered.
    private static readonly LocalDate _lastDate = new(2102, 12, 31);

    /// <summary>What holds on the dates from <paramref name="from"/> to <paramref name="until"/>, both included.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="from">The first date.</param>
    /// <param name="until">The last date, or null for no last one.</param>
    /// <param name="about">Only what is about this practitioner, room, pool or location; null for everything.</param>
    public static async Task<CalendarWindow> WindowAsync(NpgsqlConnection connection, LocalDate from, LocalDate? until, Guid? about = null)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(WindowSql, Values(from, until ?? _lastDate, about));
        return await ReadAsync(grid);
    }

    /// <summary>The values of <see cref="WindowSql"/>.</summary>
    internal static Parameters Values(LocalDate from, LocalDate until, Guid? about)
    {
        // A date begins up to fourteen hours before it does in UTC, and ends up to twelve hours later.
        Instant starts = from.PlusDays(-1).AtMidnight().InUtc().ToInstant(), ends = until.PlusDays(2).AtMidnight().InUtc().ToInstant();
        return new Parameters(new { from, until, starts, ends }).Add("about", about);
    }

    internal static async Task<CalendarWindow> ReadAsync(SqlMapper.GridReader grid)
    {
        List<ChangeRow> changes = [.. await grid.ReadAsync<ChangeRow>()];
        List<ShiftRow> shifts = [.. await grid.ReadAsync<ShiftRow>()];
        ILookup<Guid, BreakRow> breaks = (await grid.ReadAsync<BreakRow>()).ToLookup(row => row.ShiftId);
        ILookup<(Guid, LocalDate), Shift> ofChange = shifts.ToLookup(
            row => (row.PractitionerId, row.ChangeDate!.Value),
            row => row.With(breaks[row.Id])
        );
        return new CalendarWindow(
            [
                .. changes.Select(row => new Versioned<ShiftChange>(
                    new ShiftChange(
                        row.PractitionerId,
                        row.Date,
                        [.. ofChange[(row.PractitionerId, row.Date)]],
                        row.WorksDuringClosure,
                        row.Reason
                    ),
                    row.Version
                )),
            ],
            [.. (await grid.ReadAsync<ClosureRow>()).Select(row => row.Closure())],
            [.. (await grid.ReadAsync<StopRow>()).Select(row => row.Stop())],
            [.. (await grid.ReadAsync<BlockRow>()).Select(row => row.Block())]);
    }

    /// <summary>The closures of one date and the stopped days of every location, from a date on.</summary>
    public static async Task<CalendarWindow> ClosedDaysAsync(NpgsqlConnection connection, LocalDate from)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            """
            SELECT location_id, date, yearly, reason, for_clients, version FROM closure WHERE NOT yearly AND date >= @from ORDER BY date;
            SELECT location_id, date, reason, version FROM online_stop WHERE date >= @from ORDER BY date;
            """,
            new { from });
        return CalendarWindow.Empty with
        {
            Closures = [.. (await grid.ReadAsync<ClosureRow>()).Select(row => row.Closure())],
            Stops = [.. (await grid.ReadAsync<StopRow>()).Select(row => row.Stop())],
        };
    }

    /// <summary>Blocked time that happens once, or null.</summary>
    public static async Task<Versioned<BlockedTime>?> BlockAsync(NpgsqlConnection connection, Guid id) =>
        (
            await connection.QuerySingleOrDefaultAsync<BlockRow>(
                "SELECT id, resource_id, during, reason, kind, version FROM blocked_time WHERE id = @id",
                new { id }
            )
        )?.Block();

    /// <summary>At which locations each practitioner works on a changed day from <paramref name="from"/> on.</summary>
    public static async Task<ILookup<Guid, Guid>> PlacesAsync(NpgsqlConnection connection, LocalDate from) =>
        (
            await connection.QueryAsync<(Guid, Guid)>(
                "SELECT DISTINCT practitioner_id, location_id FROM shift WHERE change_date >= @from",
                new { from }
            )
        ).ToLookup(row => row.Item1, row => row.Item2);

    private sealed class ChangeRow
    {
        public Guid PractitionerId { get; init; }
        public LocalDate Date { get; init; }
        public bool WorksDuringClosure { get; init; }
        public string? Reason { get; init; }
        public long Version { get; init; }
    }

    private sealed class StopRow
    {
        public Guid LocationId { get; init; }
        public LocalDate Date { get; init; }
        public string Reason { get; init; } = "";
        public long Version { get; init; }

        public Versioned<OnlineStop> Stop() => new(new OnlineStop(LocationId, Date, Reason), Version);
    }

    private sealed class BlockRow
    {
        public Guid Id { get; init; }
        public Guid ResourceId { get; init; }
        public Interval During { get; init; }
        public string Reason { get; init; } = "";
        public string Kind { get; init; } = "";
        public long Version { get; init; }

        public Versioned<BlockedTime> Block() =>
            new(new BlockedTime(ResourceId, During, Reason) { BlockId = Id, Kind = Enum.Parse<BlockKind>(Kind) }, Version);
    }
}

/// <summary>A closure as it is stored.</summary>
internal sealed class ClosureRow
{
    public Guid LocationId { get; init; }
    public LocalDate Date { get; init; }
    public bool Yearly { get; init; }
    public string Reason { get; init; } = "";
    public string? ForClients { get; init; }
    public long Version { get; init; }

    public Versioned<Closure> Closure() => new(new Closure(LocationId, Date, Yearly, Reason, ForClients), Version);
}

/// <summary>A shift as it is stored, of a rota or of a changed day.</summary>
internal sealed class ShiftRow
{
    public Guid Id { get; init; }
    public Guid PractitionerId { get; init; }
    public LocalDate? RotaFrom { get; init; }
    public short? Week { get; init; }
    public short? Weekday { get; init; }
    public LocalDate? ChangeDate { get; init; }
    public Guid LocationId { get; init; }
    public LocalTime FromTime { get; init; }
    public LocalTime UntilTime { get; init; }
    public Guid[] ServiceIds { get; init; } = [];
    public Guid[] CategoryIds { get; init; } = [];

    public Shift With(IEnumerable<BreakRow> breaks) =>
        new(LocationId, new Core.Time.Stretch(FromTime, UntilTime), [.. breaks.Select(row => row.Break())])
        {
            Services = ServiceIds.ToHashSet(),
            Categories = CategoryIds.ToHashSet(),
        };
}

/// <summary>A break as it is stored.</summary>
internal sealed class BreakRow
{
    public Guid ShiftId { get; init; }
    public LocalTime FromTime { get; init; }
    public LocalTime UntilTime { get; init; }
    public string Reason { get; init; } = "";

    public Break Break() => new(new Core.Time.Stretch(FromTime, UntilTime), Reason);
}
