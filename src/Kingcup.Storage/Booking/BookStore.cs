using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>The book: visits, their lines and claims. Writers own the transaction and lock the days first.</summary>
public static partial class BookStore
{
    /// <summary>The PostgreSQL channel on which changed days are told to every server.</summary>
    public const string Channel = "kingcup_book";

    /// <summary>What is told on the channel when the setup has changed.</summary>
    public const string SetupNotice = "setup";

    /// <summary>The constraint that refuses two claims on one unit.</summary>
    public const string DoubleBooking = "claim_no_double_booking";

    /// <summary>The constraint that refuses a reference that is taken.</summary>
    public const string ReferenceTaken = "visit_reference_key";

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
}
