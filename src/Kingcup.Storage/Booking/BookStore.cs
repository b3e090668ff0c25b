using System.Text.Json;
using System.Text.Json.Serialization;
using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>The book: visits, their lines and claims. Writers own the transaction and lock the days first.</summary>
public static class BookStore
{
    /// <summary>The PostgreSQL channel on which changed days are told to every server.</summary>
    public const string Channel = "kingcup_book";

    /// <summary>What is told on the channel when the setup has changed.</summary>
    public const string SetupNotice = "setup";

    /// <summary>The constraint that refuses two claims on one unit.</summary>
    public const string DoubleBooking = "claim_no_double_booking";

    // The history is read by people and programs for years: times and names as the API writes them.
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    }.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    /// <summary>The constraint that refuses a reference that is taken.</summary>
    public const string ReferenceTaken = "visit_reference_key";

    private const string VisitColumns =
        """
        v.id, v.reference, v.location_id, v.client_id, v.date, v.starts_at, v.ends_at, v.state, v.source, v.is_first, v.note, v.cancel_reason, v.cancelled_by, v.cancelled_late,
        v.created_at, v.version, c.given_name, c.family_name, c.phone, c.email, c.alert,
        c.cancel_notice_hours AS client_cancel_notice_hours
        """;

    /// <summary>
    /// Keeps the setup as it is and takes the lock of each date until the transaction ends and counts its revision on. Dates are locked in order, so two
    /// writers never wait for each other in a ring.
    /// </summary>
    public static Task LockDaysAsync(NpgsqlConnection connection, IEnumerable<LocalDate> dates) => connection.ExecuteAsync(
        """
        SELECT pg_advisory_xact_lock_shared(@SetupLock);
        INSERT INTO book_day (date) SELECT DISTINCT d FROM unnest(@Dates) AS d ORDER BY d
        ON CONFLICT (date) DO UPDATE SET revision = book_day.revision + 1
        """,
        new { SetupWriter.SetupLock, Dates = dates.Distinct().Order().ToArray() });

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

    /// <summary>Writes a new visit with its lines, claims, history and notice.</summary>
    /// <exception cref="PostgresException">Constraint <see cref="DoubleBooking"/>: some claim is no longer free.</exception>
    public static async Task<StoredVisit> AddAsync(NpgsqlConnection connection, NewVisit visit, bool isFirst, Change change)
    {
        await connection.ExecuteAsync(
            """
            INSERT INTO visit (id, reference, location_id, client_id, date, starts_at, ends_at, state, source, is_first, note, created_at, terms_id, range_hash, device_hash)
            VALUES (@Id, @Reference, @LocationId, @ClientId, @Date, @Start, @End, @State, @Source, @isFirst, @Note, @At, @TermsId, @RangeHash, @DeviceHash)
            """,
            new { visit.Id, visit.Reference, visit.LocationId, visit.ClientId, visit.Date, visit.Plan.Start, visit.Plan.End, State = visit.State.ToString(), visit.Source, isFirst, visit.Note, change.At, visit.TermsId, visit.RangeHash, visit.DeviceHash });
        await AddLinesAsync(connection, visit.Id, visit.LocationId, visit.Plan, visit.Prices, visit.Asked, visit.AddOns);
        if (visit.Answers.Count > 0)
        {
            await connection.ExecuteAsync(
                "INSERT INTO visit_answer (visit_id, question_id, question, answer) SELECT @Id, * FROM unnest(@Ids, @Questions, @Answers)",
                new
                {
                    visit.Id,
                    Ids = visit.Answers.Select(one => one.QuestionId).ToArray(),
                    Questions = visit.Answers.Select(one => one.Question).ToArray(),
                    Answers = visit.Answers.Select(one => one.Answer).ToArray(),
                });
        }

        StoredVisit stored = (await FindAsync(connection, visit.Id))!;
        await RecordAsync(connection, visit.Id, "Booked", null, Describe(stored, visit.Over), change, notices: Notice(visit.LocationId, visit.Date));
        return stored;
    }

    /// <summary>Puts a visit at another time: its old lines and claims make way for those of the plan, in one transaction.</summary>
    /// <param name="connection">An open connection in a transaction that has locked both days.</param>
    /// <param name="visit">The visit as it was read.</param>
    /// <param name="date">The local date of its new start.</param>
    /// <param name="plan">Where it goes.</param>
    /// <param name="prices">Price of each line, in minor units.</param>
    /// <param name="asked">For each line whether the client asked for the practitioner.</param>
    /// <param name="change">Who does it, and when.</param>
    /// <param name="over">What it is knowingly put over, in words for the history.</param>
    /// <returns>The visit as it stands now, or null when it no longer has the version expected; nothing is changed then.</returns>
    public static async Task<StoredVisit?> MoveAsync(
        NpgsqlConnection connection, StoredVisit visit, LocalDate date, VisitPlan plan, IReadOnlyList<long> prices, IReadOnlyList<bool> asked, Change change,
        IReadOnlyList<string>? over = null)
    {
        int rows = await connection.ExecuteAsync(
            "UPDATE visit SET date = @date, starts_at = @Start, ends_at = @End, version = version + 1 WHERE id = @Id AND version = @Version",
            new { visit.Visit.Id, visit.Visit.Version, date, plan.Start, plan.End });
        if (rows == 0) return null;
        await connection.ExecuteAsync(
            """
            DELETE FROM claim WHERE appointment_id IN (SELECT id FROM appointment WHERE visit_id = @Id);
            DELETE FROM appointment WHERE visit_id = @Id;
            """,
            new { visit.Visit.Id });
        await AddLinesAsync(connection, visit.Visit.Id, visit.Visit.LocationId, plan, prices, asked, visit.AddOnsByLine);
        await SettleAsync(connection, visit, change);
        StoredVisit stored = (await FindAsync(connection, visit.Visit.Id))!;
        await RecordAsync(
            connection, visit.Visit.Id, "Moved", Describe(visit), Describe(stored, over), change,
            notices: [.. Notice(visit.Visit.LocationId, visit.Visit.Date), .. Notice(visit.Visit.LocationId, date)]);
        return stored;
    }

    /// <summary>Changes where a visit stands; a cancelled one gives its time back.</summary>
    /// <returns>False when the visit no longer has the version expected; nothing is changed then.</returns>
    public static async Task<bool> SetStateAsync(NpgsqlConnection connection, StoredVisit visit, VisitState state, Cancellation? cancellation, Change change)
    {
        int rows = await connection.ExecuteAsync(
            """
            UPDATE visit SET state = @State, cancel_reason = @Reason, cancelled_at = CASE WHEN @State = 'Cancelled' THEN @At END, cancelled_by = @By, cancelled_late = @IsLate,
                version = version + 1
            WHERE id = @Id AND version = @Version
            """,
            new
            {
                visit.Visit.Id,
                visit.Visit.Version,
                change.At,
                State = state.ToString(),
                cancellation?.Reason,
                By = cancellation?.By.ToString(),
                IsLate = cancellation?.IsLate ?? false,
            });
        if (rows == 0) return false;
        if (!VisitStates.HoldsTime(state))
        {
            await connection.ExecuteAsync("UPDATE claim SET live = false WHERE appointment_id IN (SELECT id FROM appointment WHERE visit_id = @Id)", new { visit.Visit.Id });
            await SettleAsync(connection, visit, change);
        }

        await RecordAsync(
            connection, visit.Visit.Id, state == VisitState.Cancelled ? "Cancelled" : "State",
            new { state = visit.Visit.State }, new { state = state.ToString(), reason = cancellation?.Reason, by = cancellation?.By.ToString(), late = cancellation?.IsLate }, change,
            notices: Notice(visit.Visit.LocationId, visit.Visit.Date));
        return true;
    }

    /// <summary>
    /// Where a visit has left its time, what was overbooked there and meets nothing any more is a claim like any other; the history of
    /// the visits it belongs to says so.
    /// </summary>
    private static async Task SettleAsync(NpgsqlConnection connection, StoredVisit left, Change change)
    {
        IEnumerable<(Guid Visit, Guid Resource)> settled = [.. await connection.QueryAsync<(Guid, Guid)>(
            """
            UPDATE claim k SET overbooked = false
            FROM unnest(@Resources, @Starts, @Ends) AS freed(resource, starts, ends), appointment a
            WHERE k.overbooked AND k.live AND k.resource_id = freed.resource AND k.during && tstzrange(freed.starts, freed.ends) AND a.id = k.appointment_id
                AND NOT EXISTS (SELECT 1 FROM claim o WHERE o.id <> k.id AND o.live AND o.resource_id = k.resource_id AND o.unit = k.unit AND o.during && k.during)
            RETURNING a.visit_id, k.resource_id
            """,
            new
            {
                Resources = left.Claims.Select(claim => claim.ResourceId).ToArray(),
                Starts = left.Claims.Select(claim => claim.During.Start).ToArray(),
                Ends = left.Claims.Select(claim => claim.During.End).ToArray(),
            })];
        foreach (IGrouping<Guid, (Guid Visit, Guid Resource)> visit in settled.Where(one => one.Visit != left.Visit.Id).GroupBy(one => one.Visit))
        {
            Guid[] resources = [.. visit.Select(one => one.Resource).Distinct()];
            await RecordAsync(connection, visit.Key, "No clash any more", new { overbooked = resources }, new { overbooked = Array.Empty<Guid>(), because = left.Visit.Reference }, change);
        }
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

    /// <summary>The history of a visit, oldest first.</summary>
    public static async Task<IReadOnlyList<HistoryRow>> HistoryAsync(NpgsqlConnection connection, Guid subjectId) =>
        [.. await connection.QueryAsync<HistoryRow>("SELECT at, actor, action, before::text, after::text FROM history WHERE subject_id = @subjectId ORDER BY id", new { subjectId })];

    /// <summary>Changes of the setup, newest first.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="subjectId">Of one object only, or null.</param>
    /// <param name="before">Entries before this number, or null for the newest.</param>
    /// <param name="most">How many.</param>
    public static async Task<IReadOnlyList<SetupHistoryRow>> SetupHistoryAsync(NpgsqlConnection connection, Guid? subjectId, long? before, int most) =>
        [.. await connection.QueryAsync<SetupHistoryRow>(
            $"""
            SELECT id, at, actor, action, subject_kind, subject_id, before::text, after::text FROM history
            WHERE subject_kind NOT IN ('visit', 'client') AND id < @Before AND {(subjectId is null ? "true" : "subject_id = @subjectId")}
            ORDER BY id DESC LIMIT @most
            """,
            new { subjectId, Before = before ?? long.MaxValue, most })];

    private static async Task AddLinesAsync(
        NpgsqlConnection connection, Guid visitId, Guid locationId, VisitPlan plan, IReadOnlyList<long> prices, IReadOnlyList<bool> asked,
        IReadOnlyList<IReadOnlyList<LineAddOn>> addOns)
    {
        Guid[] ids = [.. plan.Lines.Select(_ => Guid.CreateVersion7())];
        await connection.ExecuteAsync(
            """
            INSERT INTO appointment (id, visit_id, line, service_id, starts_at, ends_at, price, practitioner_asked)
            SELECT a.id, @visitId, a.at - 1, a.service, a.starts, a.ends, a.price, a.asked
            FROM unnest(@ids, @Services, @Starts, @Ends, @prices, @asked) WITH ORDINALITY AS a(id, service, starts, ends, price, asked, at);
            INSERT INTO claim (id, appointment_id, location_id, resource_id, unit, role, during, core, overbooked, outside_shift, over_blocks)
            SELECT k.id, k.appointment, @locationId, k.resource, k.unit, k.role, tstzrange(k.starts, k.ends), tstzrange(k.core_starts, k.core_ends),
                k.overbooked, k.outside_shift, string_to_array(k.over_blocks, ',')::uuid[]
            FROM unnest(@ClaimIds, @Appointments, @Resources, @Units, @Roles, @ClaimStarts, @ClaimEnds, @CoreStarts, @CoreEnds, @Overbooked, @OutsideShift, @OverBlocks)
                AS k(id, appointment, resource, unit, role, starts, ends, core_starts, core_ends, overbooked, outside_shift, over_blocks);
            INSERT INTO appointment_add_on (appointment_id, add_on_id, count, minutes, price)
            SELECT * FROM unnest(@AddOnLines, @AddOns, @Counts, @AddOnMinutes, @AddOnPrices)
            """,
            new
            {
                visitId,
                locationId,
                ids,
                Services = plan.Lines.Select(line => line.ServiceId).ToArray(),
                Starts = plan.Lines.Select(line => line.Start).ToArray(),
                Ends = plan.Lines.Select(line => line.End).ToArray(),
                prices = prices.ToArray(),
                asked = asked.ToArray(),
                ClaimIds = plan.Claims.Select(_ => Guid.CreateVersion7()).ToArray(),
                Appointments = plan.Claims.Select(claim => ids[claim.Line]).ToArray(),
                Resources = plan.Claims.Select(claim => claim.ResourceId).ToArray(),
                Units = plan.Claims.Select(claim => (short)claim.Unit).ToArray(),
                Roles = plan.Claims.Select(claim => (short?)claim.Role).ToArray(),
                ClaimStarts = plan.Claims.Select(claim => claim.During.Start).ToArray(),
                ClaimEnds = plan.Claims.Select(claim => claim.During.End).ToArray(),
                CoreStarts = plan.Claims.Select(claim => claim.Core.Start).ToArray(),
                CoreEnds = plan.Claims.Select(claim => claim.Core.End).ToArray(),
                Overbooked = plan.Claims.Select(claim => claim.Overbooked).ToArray(),
                OutsideShift = plan.Claims.Select(claim => claim.OutsideShift).ToArray(),
                // An array of arrays has to be a rectangle; so one text each.
                OverBlocks = plan.Claims.Select(claim => string.Join(',', claim.OverBlocks)).ToArray(),
                AddOnLines = addOns.SelectMany((own, line) => own.Select(_ => ids[line])).ToArray(),
                AddOns = addOns.SelectMany(own => own.Select(one => one.AddOnId)).ToArray(),
                Counts = addOns.SelectMany(own => own.Select(one => one.Count)).ToArray(),
                AddOnMinutes = addOns.SelectMany(own => own.Select(one => one.Minutes)).ToArray(),
                AddOnPrices = addOns.SelectMany(own => own.Select(one => one.Price)).ToArray(),
            });
    }

    /// <summary>A visit as the history keeps it: the same parts before and after a change.</summary>
    private static object Describe(StoredVisit visit, IReadOnlyList<string>? over = null) => new
    {
        state = visit.Visit.State,
        over = over is { Count: > 0 } ? over : null,
        start = visit.Visit.StartsAt,
        end = visit.Visit.EndsAt,
        price = visit.Lines.Sum(line => line.Price) + visit.AddOns.Sum(addOn => addOn.Price),
        lines = visit.Lines.Select(line => new
        {
            service = line.ServiceId,
            start = line.StartsAt,
            end = line.EndsAt,
            price = line.Price,
            practitioners = visit.Claims.Where(claim => claim.AppointmentId == line.Id && claim.Role is not null).OrderBy(claim => claim.Role).Select(claim => claim.ResourceId).Distinct(),
            held = visit.Claims.Where(claim => claim.AppointmentId == line.Id && claim.Role is null).Select(claim => new { resource = claim.ResourceId, unit = claim.Unit }).Distinct(),
            addOns = visit.AddOns.Where(addOn => addOn.AppointmentId == line.Id).Select(addOn => new { addOn = addOn.AddOnId, count = addOn.Count, price = addOn.Price }),
        }),
    };

    /// <summary>
    /// Writes an entry of the history in the caller's transaction. The notices leave when it commits; the same one twice
    /// leaves once.
    /// </summary>
    public static Task RecordAsync(
        NpgsqlConnection connection, Guid subjectId, string action, object? before, object? after, Change change, string kind = "visit", string[]? notices = null) =>
        connection.ExecuteAsync(
            """
            INSERT INTO history (at, actor, action, subject_kind, subject_id, before, after) VALUES (@At, @Actor, @action, @kind, @subjectId, @before::jsonb, @after::jsonb);
            SELECT pg_notify(@Channel, one) FROM unnest(@notices) AS one;
            """,
            new
            {
                change.At,
                change.Actor,
                action,
                kind,
                subjectId,
                before = before is null ? null : JsonSerializer.Serialize(before, before.GetType(), _json),
                after = after is null ? null : JsonSerializer.Serialize(after, after.GetType(), _json),
                Channel,
                notices = notices ?? [],
            });

    /// <summary>Tells every server, when the transaction commits, that the setup has changed.</summary>
    public static Task NotifySetupAsync(NpgsqlConnection connection) => connection.ExecuteAsync("SELECT pg_notify(@Channel, @SetupNotice)", new { Channel, SetupNotice });

    private static string[] Notice(Guid locationId, LocalDate date) => [$"{locationId} {date:uuuu-MM-dd}"];
}
