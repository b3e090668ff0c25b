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
    private const string VisitColumns =
        """
        v.id, v.reference, v.location_id, v.client_id, v.date, v.starts_at, v.ends_at, v.state, v.source, v.is_first, v.note, v.cancel_reason, v.cancelled_by, v.cancelled_late,
        v.created_at, v.version, c.given_name, c.family_name, c.phone, c.email, c.alert,
        c.cancel_notice_hours AS client_cancel_notice_hours
        """;

    /// <summary>The revisions of the days from <paramref name="from"/> to <paramref name="until"/>, both included; a day without a row has revision 0.</summary>
    public static async Task<IReadOnlyDictionary<LocalDate, long>> RevisionsAsync(NpgsqlConnection connection, LocalDate from, LocalDate until) =>
        (await connection.QueryAsync<(LocalDate, long)>("SELECT date, revision FROM book_day WHERE date BETWEEN @from AND @until", new { from, until }))
            .ToDictionary(row => row.Item1, row => row.Item2);

    /// <summary>Everything held at any time of <paramref name="window"/>, at all locations.</summary>
    public static async Task<IReadOnlyList<TakenTime>> TakenAsync(NpgsqlConnection connection, Interval window)
    {
        // Read by hand: this is the one query that returns thousands of rows.
        await using NpgsqlCommand command = new(
            """
            SELECT k.resource_id, k.unit, lower(k.during), upper(k.during), k.location_id, k.appointment_id, a.service_id
            FROM claim k JOIN appointment a ON a.id = k.appointment_id WHERE k.live AND k.during && $1
            """,
            connection);
        command.Parameters.Add(new NpgsqlParameter<Interval> { TypedValue = window });
        List<TakenTime> taken = [];
        await using NpgsqlDataReader reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            taken.Add(new TakenTime(
                reader.GetGuid(0),
                reader.GetInt16(1),
                new Interval(reader.GetFieldValue<Instant>(2), reader.GetFieldValue<Instant>(3)),
                reader.GetGuid(4),
                reader.GetGuid(5),
                reader.GetGuid(6)));
        }

        return taken;
    }

    /// <summary>A visit, or null.</summary>
    public static async Task<StoredVisit?> FindAsync(NpgsqlConnection connection, Guid id)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            $"""
            SELECT {VisitColumns} FROM visit v JOIN client c ON c.id = v.client_id WHERE v.id = @id;
            SELECT id, visit_id, line, service_id, starts_at, ends_at, price, practitioner_asked FROM appointment WHERE visit_id = @id ORDER BY line;
            SELECT k.appointment_id, k.resource_id, k.unit, k.role, k.during, k.core, k.overbooked, k.outside_shift, k.over_blocks FROM claim k JOIN appointment a ON a.id = k.appointment_id
            WHERE a.visit_id = @id ORDER BY a.line, k.role, lower(k.during), k.unit;
            SELECT x.appointment_id, x.add_on_id, x.count, x.minutes, x.price FROM appointment_add_on x JOIN appointment a ON a.id = x.appointment_id WHERE a.visit_id = @id;
            SELECT v.question_id, v.question, v.answer FROM visit_answer v JOIN question q ON q.id = v.question_id WHERE v.visit_id = @id ORDER BY q.position;
            """,
            new { id });
        VisitRow? visit = await grid.ReadSingleOrDefaultAsync<VisitRow>();
        if (visit is null) return null;
        return new StoredVisit(visit, [.. await grid.ReadAsync<AppointmentRow>()], [.. await grid.ReadAsync<ClaimRow>()], [.. await grid.ReadAsync<LineAddOn>()])
        {
            Answers = [.. await grid.ReadAsync<VisitAnswerRow>()],
        };
    }

    /// <summary>The visits of one day at one location that hold time, by start.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> DayAsync(NpgsqlConnection connection, Guid locationId, LocalDate date)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            $"""
            SELECT {VisitColumns} FROM visit v JOIN client c ON c.id = v.client_id
            WHERE v.location_id = @locationId AND v.date = @date AND v.state <> 'Cancelled' ORDER BY v.starts_at, v.id;
            SELECT a.id, a.visit_id, a.line, a.service_id, a.starts_at, a.ends_at, a.price, a.practitioner_asked FROM appointment a JOIN visit v ON v.id = a.visit_id
            WHERE v.location_id = @locationId AND v.date = @date AND v.state <> 'Cancelled' ORDER BY a.visit_id, a.line;
            SELECT k.appointment_id, k.resource_id, k.unit, k.role, k.during, k.core, k.overbooked, k.outside_shift, k.over_blocks FROM claim k JOIN appointment a ON a.id = k.appointment_id JOIN visit v ON v.id = a.visit_id
            WHERE v.location_id = @locationId AND v.date = @date AND v.state <> 'Cancelled' ORDER BY lower(k.during), k.unit;
            SELECT x.appointment_id, x.add_on_id, x.count, x.minutes, x.price FROM appointment_add_on x JOIN appointment a ON a.id = x.appointment_id JOIN visit v ON v.id = a.visit_id
            WHERE v.location_id = @locationId AND v.date = @date AND v.state <> 'Cancelled';
            """,
            new { locationId, date });
        return await StoredAsync(grid);
    }

    /// <summary>All visits that hold time and have not ended by <paramref name="now"/>, by start.</summary>
    public static async Task<IReadOnlyList<StoredVisit>> AheadAsync(NpgsqlConnection connection, Instant now)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            $"""
            SELECT {VisitColumns} FROM visit v JOIN client c ON c.id = v.client_id WHERE v.ends_at > @now AND v.state IN ('Requested', 'Confirmed') ORDER BY v.starts_at, v.id;
            SELECT a.id, a.visit_id, a.line, a.service_id, a.starts_at, a.ends_at, a.price, a.practitioner_asked FROM appointment a JOIN visit v ON v.id = a.visit_id
            WHERE v.ends_at > @now AND v.state IN ('Requested', 'Confirmed') ORDER BY a.visit_id, a.line;
            SELECT k.appointment_id, k.resource_id, k.unit, k.role, k.during, k.core, k.overbooked, k.outside_shift, k.over_blocks FROM claim k JOIN appointment a ON a.id = k.appointment_id JOIN visit v ON v.id = a.visit_id
            WHERE v.ends_at > @now AND v.state IN ('Requested', 'Confirmed') ORDER BY lower(k.during), k.unit;
            SELECT NULL::uuid AS appointment_id WHERE false;
            """,
            new { now });
        return await StoredAsync(grid);
    }

    private static async Task<IReadOnlyList<StoredVisit>> StoredAsync(SqlMapper.GridReader grid)
    {
        List<VisitRow> visits = [.. await grid.ReadAsync<VisitRow>()];
        ILookup<Guid, AppointmentRow> lines = (await grid.ReadAsync<AppointmentRow>()).ToLookup(row => row.VisitId);
        ILookup<Guid, ClaimRow> claims = (await grid.ReadAsync<ClaimRow>()).ToLookup(row => row.AppointmentId);
        ILookup<Guid, LineAddOn> addOns = (await grid.ReadAsync<LineAddOn>()).ToLookup(row => row.AppointmentId);
        return [.. visits.Select(visit => new StoredVisit(
            visit, [.. lines[visit.Id]], [.. lines[visit.Id].SelectMany(line => claims[line.Id])], [.. lines[visit.Id].SelectMany(line => addOns[line.Id])]))];
    }

    /// <summary>The lines of a client's visits, without those of <paramref name="except"/>: what the rules about clients look at.</summary>
    public static async Task<IReadOnlyList<ClientVisit>> OfClientAsync(NpgsqlConnection connection, Guid clientId, Guid? except) =>
        [.. (await connection.QueryAsync<ClientVisitRow>(
            """
            SELECT v.id, v.state, a.service_id, a.starts_at, a.ends_at, v.cancelled_at, v.cancelled_late FROM visit v JOIN appointment a ON a.visit_id = v.id
            WHERE v.client_id = @clientId AND v.id IS DISTINCT FROM @except ORDER BY a.starts_at
            """,
            new { clientId, except })).Select(row => new ClientVisit(Enum.Parse<VisitState>(row.State), row.ServiceId, row.StartsAt, row.EndsAt)
            {
                VisitId = row.Id,
                CancelledAt = row.CancelledAt,
                CancelledLate = row.CancelledLate,
            })];

    /// <summary>How many visits booked online are still to come: of whoever has an address or a number, from a device, from an address range.</summary>
    public static Task<(int OfPerson, int OfDevice, int OfRange)> OpenOnlineAsync(NpgsqlConnection connection, string? email, string? phone, byte[] device, byte[] range, Instant now) =>
        connection.QuerySingleAsync<(int, int, int)>(
            """
            SELECT
                (SELECT count(*)::int FROM visit v JOIN client c ON c.id = v.client_id WHERE v.source = 'Online' AND v.state IN ('Requested', 'Confirmed') AND v.ends_at > @now AND (c.email = @email OR c.phone = @phone)),
                (SELECT count(*)::int FROM visit v WHERE v.source = 'Online' AND v.state IN ('Requested', 'Confirmed') AND v.ends_at > @now AND v.device_hash = @device),
                (SELECT count(*)::int FROM visit v WHERE v.source = 'Online' AND v.state IN ('Requested', 'Confirmed') AND v.ends_at > @now AND v.range_hash = @range)
            """,
            new { email, phone, device, range, now });

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
