using Dapper;
using Kingcup.Core.Booking;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>The book: visits, their lines and what they hold.</summary>
public static partial class BookStore
{
    /// <summary>The constraint that refuses two claims on one unit.</summary>
    public const string DoubleBooking = "claim_no_double_booking";

    /// <summary>The constraint that refuses a reference that is taken.</summary>
    public const string ReferenceTaken = "visit_reference_key";

    /// <summary>Writes a new visit with its lines, claims, price, history and notice.</summary>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    /// <remarks>The commit fails with <see cref="DoubleBooking"/> where some claim is no longer free.</remarks>
    public static StoredVisit Add(BookTransaction transaction, NewVisit visit)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        ArgumentNullException.ThrowIfNull(visit.Plan);
        Guid[] ids = [.. visit.Plan.Lines.Select(_ => Guid.CreateVersion7())];
        StoredVisit stored = Placed(
            Row(visit, visit.Plan.Start, visit.Plan.End, transaction.Change.At),
            ids,
            visit.Plan,
            visit.Price,
            visit.Chosen,
            [.. visit.AddOns.SelectMany((own, line) => own.Select(added => added.On(ids[line])))]
        ) with
        {
            People = visit.People,
            Answers = visit.Answers,
        };
        AddNew(transaction, visit, stored, isHeld: false);
        return stored;
    }

    /// <summary>Writes a new visit with everything it is made of.</summary>
    /// <param name="transaction">The transaction.</param>
    /// <param name="visit">What is said of it besides how it lies.</param>
    /// <param name="stored">How it lies.</param>
    /// <param name="isHeld">Whether its occupations and claims are there already.</param>
    private static void AddNew(BookTransaction transaction, NewVisit visit, StoredVisit stored, bool isHeld)
    {
        transaction.Write(
            """
            INSERT INTO visit (id, reference, location_id, client_id, payer_id, date, starts_at, ends_at, state, source, is_first, note,
                client_note, created_at, state_since, terms_id, range_hash, device_hash, series_id, policy_id, lapses_at)
            VALUES (@Id, @Reference, @LocationId, @ClientId, @PayerId, @Date, @Start, @End, @State, @Source, @IsFirst, @Note,
                @ClientNote, @At, @At,
                @TermsId, @RangeHash, @DeviceHash, @SeriesId, @PolicyId, @LapsesAt)
            """,
            new
            {
                visit.Id,
                visit.Reference,
                visit.LocationId,
                ClientId = visit.Client.Id,
                PayerId = visit.PayerId ?? visit.Client.Id,
                stored.Visit.Date,
                Start = stored.Visit.StartsAt,
                End = stored.Visit.EndsAt,
                State = visit.State.ToString(),
                visit.Source,
                visit.IsFirst,
                visit.Note,
                visit.ClientNote,
                transaction.Change.At,
                visit.TermsId,
                visit.RangeHash,
                visit.DeviceHash,
                visit.SeriesId,
                visit.PolicyId,
                visit.LapsesAt,
            });
        foreach (VisitPersonRow person in visit.People)
        {
            transaction.Write(
                "INSERT INTO visit_person (visit_id, person, client_id, name) VALUES (@Id, @Person, @ClientId, CASE WHEN "
                    + "CAST(@ClientId AS uuid) IS NULL THEN @Name END)",
                new { visit.Id, person.Person, person.ClientId, person.Name });
        }

        if (!isHeld) AddOccupations(transaction, stored, stored.Lines);
        AddLines(transaction, stored, stored.Lines);
        if (!isHeld) AddClaims(transaction, stored);
        AddContents(transaction, stored);
        if (visit.Answers.Count > 0)
        {
            transaction.Write(
                "INSERT INTO visit_answer (visit_id, question_id, question, kind, answer, file_id) SELECT @Id, * FROM unnest(@Ids, "
                    + "@Questions, @Kinds, @Answers, @Files)",
                new
                {
                    visit.Id,
                    Ids = visit.Answers.Select(answer => answer.QuestionId).ToArray(),
                    Questions = visit.Answers.Select(answer => answer.Question).ToArray(),
                    Kinds = visit.Answers.Select(answer => answer.Kind).ToArray(),
                    Answers = visit.Answers.Select(answer => answer.Answer).ToArray(),
                    Files = visit.Answers.Select(answer => answer.FileId).ToArray(),
                });
        }

        transaction.Record(new Subject("visit", visit.Id), "Booked", null, Describe(stored, visit.Over));
        MessageEventStore.Add(transaction, null, stored);
        transaction.Tell(LiveNotices.Day(visit.LocationId, stored.Visit.Date));
    }

    /// <summary>
    /// Lays a visit anew: at another time, with other people, or with lines added, changed or taken out. Lines that go on keep their
    /// identity, for all that hangs on them; what they held makes way for the claims of the plan.
    /// </summary>
    /// <param name="transaction">A transaction that has locked both days.</param>
    /// <param name="visit">The visit as it was read under the locks.</param>
    /// <param name="laid">How it is to lie.</param>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    public static StoredVisit Lay(BookTransaction transaction, StoredVisit visit, LaidVisit laid)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        ArgumentNullException.ThrowIfNull(laid);
        Guid[] ids = [.. laid.LineIds.Select(id => id ?? Guid.CreateVersion7())];
        StoredVisit next = Placed(
            visit.Visit.At(laid.Date, laid.Plan.Start, laid.Plan.End),
            ids,
            laid.Plan,
            laid.Price,
            laid.Chosen,
            [.. laid.AddOns.SelectMany((own, line) => own.Select(added => added.On(ids[line])))]
        ) with
        {
            People = visit.People,
            Answers = visit.Answers,
        };
        return Rewrite(transaction, visit, next, laid.Action, laid.Over);
    }

    /// <summary>Counts that its client has moved a visit.</summary>
    public static void CountMove(BookTransaction transaction, StoredVisit visit)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        transaction.Write("UPDATE visit SET moves = moves + 1 WHERE id = @Id", new { visit.Visit.Id });
    }

    /// <summary>Puts a visit back as it was before a change, one version on.</summary>
    /// <param name="transaction">A transaction that has locked the days it leaves and comes to.</param>
    /// <param name="visit">The visit as it was read under the locks.</param>
    /// <param name="before">How it was.</param>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    /// <remarks>The commit fails with <see cref="DoubleBooking"/> where its time is no longer free.</remarks>
    public static StoredVisit PutBack(BookTransaction transaction, StoredVisit visit, StoredVisit before)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        ArgumentNullException.ThrowIfNull(before);
        VisitRow row = visit.Visit with
        {
            Date = before.Visit.Date,
            StartsAt = before.Visit.StartsAt,
            EndsAt = before.Visit.EndsAt,
            State = before.Visit.State,
            StateSince = before.Visit.StateSince,
            CancelReason = before.Visit.CancelReason,
            CancelledBy = before.Visit.CancelledBy,
            CancelledLate = before.Visit.CancelledLate,
            LapsesAt = before.Visit.LapsesAt,
            AnswerWords = before.Visit.AnswerWords,
            Version = visit.Visit.Version + 1,
        };
        return Rewrite(transaction, visit, before with { Visit = row, People = visit.People, Answers = visit.Answers }, "Undone", null);
    }

    /// <summary>Lets go of what visits hold before any of them is written anew, so that one may go where another was.</summary>
    /// <param name="transaction">A transaction that has locked their days, and writes each of them anew.</param>
    /// <param name="visits">The visits as they were read under the locks.</param>
    public static void LetGo(BookTransaction transaction, IReadOnlyCollection<StoredVisit> visits)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        Guid[] ids = [.. visits.SelectMany(visit => visit.Lines.Select(line => line.Id))];
        transaction.Write("DELETE FROM claim WHERE occupation_id = ANY(@ids)", new { ids });
    }

    private static StoredVisit Rewrite(
        BookTransaction transaction, StoredVisit visit, StoredVisit next, string action, IReadOnlyList<string>? over)
    {
        VisitRow row = next.Visit;
        transaction.Write(
            """
            UPDATE visit SET date = @Date, starts_at = @StartsAt, ends_at = @EndsAt, state = @State, state_since = @StateSince,
                cancel_reason = @CancelReason, cancelled_by = @CancelledBy, cancelled_late = @CancelledLate,
                lapses_at = @LapsesAt, answer_words = @AnswerWords,
                cancelled_at = CASE WHEN @State = 'Cancelled' THEN cancelled_at END, version = version + 1
            WHERE id = @Id AND version = @Seen
            """,
            new
            {
                row.Id,
                row.Date,
                row.StartsAt,
                row.EndsAt,
                row.State,
                row.StateSince,
                row.CancelReason,
                row.CancelledBy,
                row.CancelledLate,
                row.LapsesAt,
                row.AnswerWords,
                Seen = visit.Visit.Version,
            },
            oneRow: true);
        HashSet<Guid> stood = [.. visit.Lines.Select(line => line.Id)], stand = [.. next.Lines.Select(line => line.Id)];
        Guid[] ids = [.. stood];
        transaction.Write("DELETE FROM claim WHERE occupation_id = ANY(@ids)", new { ids });
        transaction.Write("DELETE FROM price_part WHERE appointment_id = ANY(@ids)", new { ids });
        transaction.Write("DELETE FROM appointment_add_on WHERE appointment_id = ANY(@ids)", new { ids });
        RemoveLines(transaction, [.. stood.Except(stand)]);
        transaction.Write(
            """
            UPDATE appointment a SET line = n.line, service_id = n.service, starts_at = n.starts, ends_at = n.ends, price = n.price,
                practitioner_asked = n.asked, person = n.person, offset_minutes = n.apart, room_id = n.room, tax_basis_points = n.tax,
                set_minutes = n.minutes, room_asked = n.room_asked
            FROM unnest(@Ids, @Lines, @Services, @Starts, @Ends, @Prices, @Asked, @People, @Offsets, @Rooms, @Taxes, @SetMinutes,
                @RoomAsked)
                AS n(id, line, service, starts, ends, price, asked, person, apart, room, tax, minutes, room_asked)
            WHERE a.id = n.id
            """,
            Values(row.Id, [.. next.Lines.Where(line => stood.Contains(line.Id))]));
        AppointmentRow[] added = [.. next.Lines.Where(line => !stood.Contains(line.Id))];
        AddOccupations(transaction, next, added);
        AddLines(transaction, next, added);
        AddClaims(transaction, next);
        AddContents(transaction, next);
        Settle(transaction, visit);
        transaction.Record(new Subject("visit", row.Id), action, Describe(visit), Describe(next, over));
        MessageEventStore.Add(transaction, visit, next);
        transaction.Tell(LiveNotices.Day(row.LocationId, visit.Visit.Date));
        transaction.Tell(LiveNotices.Day(row.LocationId, row.Date));
        return next;
    }

    /// <summary>Takes a visit out of the book as if it had never been; its history stays.</summary>
    /// <param name="transaction">A transaction that has locked its day.</param>
    /// <param name="visit">The visit as it was read under the lock.</param>
    /// <param name="action">How the history calls it.</param>
    public static void Delete(BookTransaction transaction, StoredVisit visit, string action)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        VisitRow row = visit.Visit;
        transaction.Write("DELETE FROM visit_person WHERE visit_id = @Id", new { row.Id });
        transaction.Write("DELETE FROM visit_answer WHERE visit_id = @Id", new { row.Id });
        RemoveLines(transaction, [.. visit.Lines.Select(line => line.Id)]);
        transaction.Write("DELETE FROM visit WHERE id = @Id AND version = @Version", new { row.Id, row.Version }, oneRow: true);
        Settle(transaction, visit);
        transaction.Record(new Subject("visit", row.Id), action, Describe(visit), null);
        MessageEventStore.Add(transaction, visit, null);
        transaction.Tell(LiveNotices.Day(row.LocationId, row.Date));
    }

    /// <summary>Takes lines out with everything that lies in them.</summary>
    private static void RemoveLines(BookTransaction transaction, Guid[] ids)
    {
        if (ids.Length == 0) return;
        transaction.Write("DELETE FROM price_part WHERE appointment_id = ANY(@ids)", new { ids });
        transaction.Write("DELETE FROM appointment WHERE id = ANY(@ids)", new { ids });
        transaction.Write("DELETE FROM occupation WHERE id = ANY(@ids)", new { ids });
    }

    /// <summary>Changes where a visit stands; a cancelled one gives its time back.</summary>
    /// <param name="transaction">A transaction that has locked its day.</param>
    /// <param name="visit">The visit as it was read under the lock.</param>
    /// <param name="state">The new state.</param>
    /// <param name="cancellation">Why and on whose account, where it is cancelled.</param>
    /// <param name="answer">What the desk says to what was asked for.</param>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    public static StoredVisit SetState(
        BookTransaction transaction, StoredVisit visit, VisitState state, Cancellation? cancellation, DeskAnswer answer = default)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        VisitRow row = visit.Visit, next = row.In(state, transaction.Change.At, cancellation, answer);
        transaction.Write(
            """
            UPDATE visit SET state = @State, lapses_at = @LapsesAt, answer_words = @AnswerWords, cancel_reason = @Reason,
                cancelled_at = CASE WHEN @State = 'Cancelled' THEN @At END,
                cancelled_by = @By, cancelled_late = @IsLate, state_since = @At,
                version = version + 1
            WHERE id = @Id AND version = @Version
            """,
            new
            {
                row.Id,
                row.Version,
                transaction.Change.At,
                State = state.ToString(),
                next.LapsesAt,
                next.AnswerWords,
                cancellation?.Reason,
                By = cancellation?.By.ToString(),
                IsLate = cancellation?.IsLate ?? false,
            },
            oneRow: true
        );
        if (!VisitStates.HoldsTime(visit.Visit.VisitState) && VisitStates.HoldsTime(state))
        {
            // What it held is held again, if it is still free.
            transaction.Write(
                "DELETE FROM claim WHERE occupation_id = ANY(@Ids)",
                new { Ids = visit.Lines.Select(line => line.Id).ToArray() }
            );
            AddClaims(transaction, visit);
        }

        if (!VisitStates.HoldsTime(state))
        {
            transaction.Write(
                "UPDATE claim SET live = false WHERE occupation_id = ANY(@Ids)",
                new { Ids = visit.Lines.Select(line => line.Id).ToArray() }
            );
            Settle(transaction, visit);
        }

        StoredVisit changed = visit with { Visit = next };
        transaction.Record(
            new Subject("visit", row.Id),
            state == VisitState.Cancelled ? "Cancelled" : "State",
            DescribeState(visit),
            DescribeState(changed)
        );
        MessageEventStore.Add(transaction, visit, changed);
        transaction.Tell(LiveNotices.Day(row.LocationId, row.Date));
        return changed;
    }

    /// <summary>
    /// Takes out of the book what has run out. It counts for nobody before, too; this keeps the book tidy. What holds nothing any more is
    /// forgotten a day later.
    /// </summary>
    public static Task SweepAsync(NpgsqlConnection connection, Instant now) =>
        connection.ExecuteAsync(
            """
            UPDATE claim k SET live = false FROM occupation o WHERE o.expires_at <= @now AND k.occupation_id = o.id AND k.live;
            DELETE FROM proposal WHERE expires_at <= @Before
            """,
            new { now, Before = now - Duration.FromDays(1) }
        );

    /// <summary>
    /// Where a visit has left its time, what was overbooked there and meets nothing any more is a claim like any other; the history of
    /// the visits it belongs to says so. Asked last: of several visits that are laid anew, one may come to where another was.
    /// </summary>
    private static void Settle(BookTransaction transaction, StoredVisit left) =>
        transaction.WriteLast(
            """
            WITH settled AS (
                UPDATE claim k SET overbooked = false
                FROM unnest(@Resources, @Starts, @Ends) AS freed(resource, starts, ends), appointment a
                WHERE k.overbooked AND k.live AND k.resource_id = freed.resource AND k.during && tstzrange(freed.starts, freed.ends)
                    AND a.id = k.occupation_id
                    AND NOT EXISTS (SELECT 1 FROM claim o WHERE o.id <> k.id AND o.live AND o.resource_id = k.resource_id
                        AND o.unit = k.unit AND o.during && k.during)
                RETURNING a.visit_id, k.resource_id)
            INSERT INTO history (at, actor, action, subject_kind, subject_id, before, after)
            SELECT @At, @Actor, 'No clash any more', 'visit', visit_id, jsonb_build_object('overbooked', jsonb_agg(DISTINCT resource_id)),
                jsonb_build_object('overbooked', '[]'::jsonb, 'because', CAST(@Reference AS text))
            FROM settled WHERE visit_id <> @Id GROUP BY visit_id
            """,
            new
            {
                left.Visit.Id,
                left.Visit.Reference,
                transaction.Change.At,
                transaction.Change.Actor,
                Resources = left.Claims.Select(claim => claim.ResourceId).ToArray(),
                Starts = left.Claims.Select(claim => claim.During.Start).ToArray(),
                Ends = left.Claims.Select(claim => claim.During.End).ToArray(),
            }
        );
}
