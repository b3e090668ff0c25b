using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>What is read of the book.</summary>
public static partial class BookStore
{
    private const string TakenSql =
        """
        SELECT k.resource_id, k.unit, lower(k.during) AS starts_at, upper(k.during) AS ends_at, k.location_id, k.occupation_id,
            k.service_id, o.expires_at
        FROM claim k JOIN occupation o ON o.id = k.occupation_id
        """;

    internal const string WindowSql =
        $"""
        {TakenSql} WHERE k.live AND k.during && @During;
        {CalendarReader.WindowSql}
        """;

    internal const string HeldSql = $"{TakenSql} WHERE k.live AND k.resource_id = ANY(@Holders) AND k.during && @HeldDuring;";

    internal const string OpenOnlineSql =
        """
        SELECT
            (SELECT count(*)::int FROM visit v JOIN client c ON c.id = v.client_id
             WHERE v.source = 'Online' AND v.state IN ('Requested', 'Answered', 'Confirmed') AND v.ends_at > @Now
                 AND (c.email = @AskedEmail
                 OR c.phone = @AskedPhone)),
            (SELECT count(*)::int FROM visit v WHERE v.source = 'Online' AND v.state IN ('Requested', 'Answered', 'Confirmed')
                AND v.ends_at > @Now AND v.device_hash = @Device),
            (SELECT count(*)::int FROM visit v WHERE v.source = 'Online' AND v.state IN ('Requested', 'Answered', 'Confirmed')
                AND v.ends_at > @Now AND v.range_hash = @Range);
        """;

    internal static readonly string OneSql =
        VisitsSql("v.id = @id", "v.id")
        + "SELECT a.question_id, a.question, a.kind, a.answer, a.file_id FROM visit_answer a JOIN question q ON q.id = a.question_id WHERE "
        + "a.visit_id = @id ORDER BY q.position, q.id;";

    private static readonly string _daySql = VisitsSql(
        "v.location_id = @locationId AND v.date = @date AND v.state NOT IN ('Cancelled', 'Answered')",
        "v.starts_at, v.id"
    );

    private static readonly string _aheadSql = VisitsSql(
        "v.ends_at > @now AND v.state IN ('Requested', 'Confirmed')",
        "v.starts_at, v.id"
    );

    private static readonly string _askedSql = VisitsSql("v.lapses_at > @now", "v.starts_at, v.id");

    private static readonly string _latestSql = VisitsSql(
        "v.id IN (SELECT o.id FROM visit o WHERE o.client_id = @clientId AND o.starts_at < @before ORDER BY o.starts_at DESC LIMIT @most)",
        "v.starts_at DESC, v.id"
    );

    private static readonly string _seriesSql = VisitsSql("v.series_id = @seriesId AND v.starts_at >= @from", "v.starts_at, v.id");

    private static readonly string _theseSql = VisitsSql("v.id = ANY(@ids)", "v.starts_at, v.id");

    /// <summary>The revisions of the days from <paramref name="from"/> to <paramref name="until"/>, both included; a day without a row has
    /// revision 0.</summary>
    public static async Task<IReadOnlyDictionary<LocalDate, long>> RevisionsAsync(
        NpgsqlConnection connection,
        LocalDate from,
        LocalDate until
    ) =>
        (
            await connection.QueryAsync<(LocalDate, long)>(
                "SELECT date, revision FROM book_day WHERE date BETWEEN @from AND @until",
                new { from, until }
            )
        ).ToDictionary(row => row.Item1, row => row.Item2);

    /// <summary>Everything held at any time of the days asked for, at all locations, and what holds on their dates.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="days">The days.</param>
    /// <param name="now">What has run out by then counts for nobody.</param>
    public static async Task<BookWindow> WindowAsync(NpgsqlConnection connection, DaysAsked days, Instant now)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(WindowSql, WindowValues(days));
        return await WindowAsync(grid, now);
    }

    internal static Parameters WindowValues(DaysAsked days) =>
        CalendarReader.Values(days.From, days.Until, null).Add(new { days.During });

    internal static async Task<BookWindow> WindowAsync(SqlMapper.GridReader grid, Instant now)
    {
        (IReadOnlyList<TakenTime> taken, bool anyRunOut) = await TakenAsync(grid, now);
        return new BookWindow(taken, await CalendarReader.ReadAsync(grid)) { AnyRunOut = anyRunOut };
    }

    /// <summary>What is held, and whether anything lay in between that has run out: that counts for nobody, whether or not anything has
    /// swept it.</summary>
    internal static async Task<(IReadOnlyList<TakenTime> Taken, bool AnyRunOut)> TakenAsync(SqlMapper.GridReader grid, Instant now)
    {
        List<TakenTime> all = [.. (await grid.ReadAsync<TakenRow>()).Select(row => row.Taken())];
        return (all, all.RemoveAll(claim => claim.ExpiresAt <= now) > 0);
    }

    /// <summary>Everything that some people, rooms or pools are held for in a time, at all locations.</summary>
    public static async Task<IReadOnlyList<TakenTime>> HeldAsync(NpgsqlConnection connection, HeldAsked asked, Instant now)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(HeldSql, HeldValues(asked));
        return (await TakenAsync(grid, now)).Taken;
    }

    internal static Parameters HeldValues(HeldAsked asked) => new(new { Holders = asked.ResourceIds.ToArray(), HeldDuring = asked.During });

    /// <summary>A visit, or null.</summary>
    public static async Task<StoredVisit?> FindAsync(NpgsqlConnection connection, Guid id)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(OneSql, new { id });
        return await OneAsync(grid);
    }

    internal static async Task<StoredVisit?> OneAsync(SqlMapper.GridReader grid)
    {
        StoredVisit? visit = (await StoredAsync(grid)).SingleOrDefault();
        VisitAnswerRow[] answers = [.. await grid.ReadAsync<VisitAnswerRow>()];
        return visit is null ? null : visit with { Answers = answers };
    }

    /// <summary>A client's visits, the latest first.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="clientId">The client.</param>
    /// <param name="before">Only those that begin earlier.</param>
    /// <param name="most">How many.</param>
    public static async Task<IReadOnlyList<StoredVisit>> LatestOfAsync(
        NpgsqlConnection connection,
        Guid clientId,
        Instant before,
        int most
    )
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_latestSql, new { clientId, before, most });
        return await StoredAsync(grid);
    }

    /// <summary>The visits of a row that begin at an instant or later, by start.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> SeriesAsync(NpgsqlConnection connection, Guid seriesId, Instant from)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_seriesSql, new { seriesId, from });
        return await StoredAsync(grid);
    }

    /// <summary>These visits, as far as there are any.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> TheseAsync(NpgsqlConnection connection, IReadOnlyCollection<Guid> ids)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_theseSql, new { ids = ids.ToArray() });
        return await StoredAsync(grid);
    }

    /// <summary>The visits of one day at one location that hold time, by start.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> DayAsync(NpgsqlConnection connection, Guid locationId, LocalDate date)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_daySql, new { locationId, date });
        return await StoredAsync(grid);
    }

    /// <summary>All visits that hold time and have not ended by <paramref name="now"/>, by start.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> AheadAsync(NpgsqlConnection connection, Instant now)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_aheadSql, new { now });
        return await StoredAsync(grid);
    }

    /// <summary>What clients have asked for and somebody still has to agree to, by start.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> AskedAsync(NpgsqlConnection connection, Instant now)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_askedSql, new { now });
        return await StoredAsync(grid);
    }

    /// <summary>Those of the visits ahead that hold a resource, or are at a location, at a time of <paramref name="stretches"/>.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> MeetingAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<StretchOfTime> stretches,
        Instant now
    )
    {
        if (stretches.Count == 0) return [];
        Guid[] ids =
        [
            .. await connection.QueryAsync<Guid>(
                """
                -- The claims first, by their index; from the visits ahead there would be far more to look at.
                WITH met AS MATERIALIZED (
                    SELECT DISTINCT k.occupation_id
                    FROM unnest(@Resources, @Locations, @Starts, @Ends) AS asked(resource, location, starts, ends)
                    JOIN claim k ON k.live AND k.during && tstzrange(asked.starts, asked.ends)
                        AND (k.resource_id = asked.resource OR k.location_id = asked.location))
                SELECT DISTINCT a.visit_id FROM met JOIN appointment a ON a.id = met.occupation_id JOIN visit v ON v.id = a.visit_id
                WHERE v.ends_at > @now AND v.state IN ('Requested', 'Confirmed')
                """,
                new
                {
                    now,
                    Resources = stretches.Select(stretch => stretch.ResourceId).ToArray(),
                    Locations = stretches.Select(stretch => stretch.LocationId).ToArray(),
                    Starts = stretches.Select(stretch => stretch.During.Start).ToArray(),
                    Ends = stretches.Select(stretch => stretch.During.End).ToArray(),
                }
            ),
        ];
        if (ids.Length == 0) return [];
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_theseSql, new { ids });
        return await StoredAsync(grid);
    }

    /// <summary>Those of the visits ahead that hold one of some resources, have a line of one of some services, or are at one of some
    /// locations.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> WithAnyAsync(
        NpgsqlConnection connection, Guid[] resources, Guid[] services, Guid[] locations, Instant now)
    {
        if (resources.Length + services.Length + locations.Length == 0) return [];
        Guid[] ids =
        [
            .. await connection.QueryAsync<Guid>(
                """
                WITH met AS MATERIALIZED (
                    SELECT k.occupation_id FROM claim k WHERE k.live AND k.resource_id = ANY(@resources)
                        AND k.during && tstzrange(@now, NULL))
                SELECT v.id FROM met JOIN appointment a ON a.id = met.occupation_id JOIN visit v ON v.id = a.visit_id
                WHERE v.ends_at > @now AND v.state IN ('Requested', 'Confirmed')
                UNION
                SELECT v.id FROM visit v JOIN appointment a ON a.visit_id = v.id
                WHERE cardinality(@services) > 0 AND v.ends_at > @now AND v.state IN ('Requested', 'Confirmed')
                    AND a.service_id = ANY(@services)
                UNION
                SELECT v.id FROM visit v
                WHERE cardinality(@locations) > 0 AND v.ends_at > @now AND v.state IN ('Requested', 'Confirmed')
                    AND v.location_id = ANY(@locations)
                """,
                new { resources, services, locations, now }
            ),
        ];
        if (ids.Length == 0) return [];
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(_theseSql, new { ids });
        return await StoredAsync(grid);
    }

    /// <summary>The lines of a client's visits, without those of <paramref name="except"/>: what the rules about clients look at.</summary>
    public static async Task<IReadOnlyList<ClientVisit>> OfClientAsync(NpgsqlConnection connection, Guid clientId, Guid? except)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            ClientVisitsSql("@clientId"),
            new Parameters(new { clientId }).Add("except", except)
        );
        return await ClientVisitsAsync(grid);
    }

    /// <summary>The statement for the lines of a client's visits.</summary>
    internal static string ClientVisitsSql(string client) =>
        $"""
            SELECT v.id, v.state, a.service_id, a.starts_at, a.ends_at, v.cancelled_at, v.cancelled_late FROM visit v
                JOIN appointment a ON a.visit_id = v.id
            WHERE v.client_id = {client} AND v.id IS DISTINCT FROM @except ORDER BY a.starts_at;
            """;

    internal static async Task<IReadOnlyList<ClientVisit>> ClientVisitsAsync(SqlMapper.GridReader grid) =>
        [
            .. (await grid.ReadAsync<ClientVisitRow>()).Select(row => new ClientVisit(
                Enum.Parse<VisitState>(row.State),
                row.ServiceId,
                row.StartsAt,
                row.EndsAt
            )
            {
                VisitId = row.Id,
                CancelledAt = row.CancelledAt,
                CancelledLate = row.CancelledLate,
            }),
        ];

    /// <summary>The statements that read whole visits; <see cref="StoredAsync"/> takes their answers.</summary>
    private static string VisitsSql(string condition, string order) =>
        $"""
            SELECT v.id, v.reference, v.location_id, v.client_id, v.payer_id, v.date, v.starts_at, v.ends_at, v.state, v.source,
                v.is_first, v.note, v.client_note,
                v.cancel_reason, v.cancelled_by, v.cancelled_late, v.created_at, v.state_since, v.series_id, v.policy_id,
                v.moves, v.lapses_at, v.answer_words, v.version,
                c.given_name, c.family_name, c.phone, c.email, c.alert, c.cancel_notice_hours AS client_cancel_notice_hours,
                CASE WHEN v.payer_id <> v.client_id
                    THEN (SELECT p.given_name || ' ' || p.family_name FROM client p WHERE p.id = v.payer_id) END AS payer_name
            FROM visit v JOIN client c ON c.id = v.client_id WHERE {condition} ORDER BY {order};
            SELECT a.id, a.visit_id, a.line, a.service_id, a.starts_at, a.ends_at, a.price, a.practitioner_asked, a.person,
                a.offset_minutes, a.room_id, a.tax_basis_points, a.set_minutes, a.room_asked
            FROM appointment a JOIN visit v ON v.id = a.visit_id WHERE {condition} ORDER BY a.visit_id, a.line;
            SELECT k.occupation_id, k.resource_id, k.unit, k.role, k.during, k.core, k.overbooked, k.outside_shift, k.unsuited,
                k.over_blocks
            FROM claim k JOIN appointment a ON a.id = k.occupation_id JOIN visit v ON v.id = a.visit_id WHERE {condition}
                ORDER BY a.line, k.role, lower(k.during), k.resource_id, k.unit;
            SELECT x.appointment_id, x.add_on_id, x.count, x.minutes, x.price
            FROM appointment_add_on x JOIN appointment a ON a.id = x.appointment_id JOIN visit v ON v.id = a.visit_id WHERE {condition}
                ORDER BY x.appointment_id, x.add_on_id;
            SELECT x.appointment_id, x.place, x.kind, x.amount, x.add_on_id, x.promo_id
            FROM price_part x JOIN appointment a ON a.id = x.appointment_id JOIN visit v ON v.id = a.visit_id WHERE {condition}
                ORDER BY x.appointment_id, x.place;
            SELECT x.visit_id, x.person, x.client_id, coalesce(x.name, p.given_name || ' ' || p.family_name) AS name
            FROM visit_person x JOIN visit v ON v.id = x.visit_id LEFT JOIN client p ON p.id = x.client_id WHERE {condition}
                ORDER BY x.person;

        """;

    private static async Task<IReadOnlyList<StoredVisit>> StoredAsync(SqlMapper.GridReader grid)
    {
        List<VisitRow> visits = [.. await grid.ReadAsync<VisitRow>()];
        ILookup<Guid, AppointmentRow> lines = (await grid.ReadAsync<AppointmentRow>()).ToLookup(row => row.VisitId);
        ILookup<Guid, ClaimRow> claims = (await grid.ReadAsync<ClaimRow>()).ToLookup(row => row.OccupationId);
        ILookup<Guid, LineAddOn> addOns = (await grid.ReadAsync<LineAddOn>()).ToLookup(row => row.AppointmentId);
        ILookup<Guid, PricePartRow> parts = (await grid.ReadAsync<PricePartRow>()).ToLookup(row => row.AppointmentId);
        ILookup<Guid, VisitPersonRow> people = (await grid.ReadAsync<VisitPersonRow>()).ToLookup(row => row.VisitId);
        IReadOnlyList<T> Of<T>(Guid visit, ILookup<Guid, T> all) => [.. lines[visit].SelectMany(line => all[line.Id])];
        return [.. visits.Select(visit => new StoredVisit(visit, [.. lines[visit.Id]], Of(visit.Id, claims), Of(visit.Id, addOns))
        {
            PriceParts = Of(visit.Id, parts),
            People = [.. people[visit.Id]],
        })];
    }

    private sealed class TakenRow
    {
        public Guid ResourceId { get; init; }
        public short Unit { get; init; }
        public Instant StartsAt { get; init; }
        public Instant EndsAt { get; init; }
        public Guid LocationId { get; init; }
        public Guid OccupationId { get; init; }
        public Guid? ServiceId { get; init; }
        public Instant? ExpiresAt { get; init; }

        public TakenTime Taken() =>
            new(ResourceId, Unit, new Interval(StartsAt, EndsAt), LocationId, OccupationId, ServiceId) { ExpiresAt = ExpiresAt };
    }

    private sealed class ClientVisitRow
    {
        public Guid Id { get; init; }
        public string State { get; init; } = "";
        public Guid ServiceId { get; init; }
        public Instant StartsAt { get; init; }
        public Instant EndsAt { get; init; }
        public Instant? CancelledAt { get; init; }
        public bool CancelledLate { get; init; }
    }
}

/// <summary>A time at which visits may be met: of a resource, or at a location.</summary>
/// <param name="ResourceId">The resource, or null.</param>
/// <param name="LocationId">The location, or null.</param>
/// <param name="During">When.</param>
public sealed record StretchOfTime(Guid? ResourceId, Guid? LocationId, Interval During);
