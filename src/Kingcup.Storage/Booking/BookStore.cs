using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Money;
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
        transaction.Write(
            """
            INSERT INTO visit (id, reference, location_id, client_id, payer_id, date, starts_at, ends_at, state, source, is_first, note,
                created_at, terms_id, range_hash, device_hash)
            VALUES (@Id, @Reference, @LocationId, @ClientId, @PayerId, @Date, @Start, @End, @State, @Source, @IsFirst, @Note, @At,
                @TermsId, @RangeHash, @DeviceHash)
            """,
            new
            {
                visit.Id,
                visit.Reference,
                visit.LocationId,
                ClientId = visit.Client.Id,
                PayerId = visit.PayerId ?? visit.Client.Id,
                visit.Date,
                visit.Plan.Start,
                visit.Plan.End,
                State = visit.State.ToString(),
                visit.Source,
                visit.IsFirst,
                visit.Note,
                transaction.Change.At,
                visit.TermsId,
                visit.RangeHash,
                visit.DeviceHash,
            });
        foreach (VisitPersonRow person in visit.People)
        {
            transaction.Write(
                "INSERT INTO visit_person (visit_id, person, client_id, name) VALUES (@Id, @Person, @ClientId, CASE WHEN "
                    + "CAST(@ClientId AS uuid) IS NULL THEN @Name END)",
                new { visit.Id, person.Person, person.ClientId, person.Name });
        }

        Guid[] ids = [.. visit.Plan.Lines.Select(_ => Guid.CreateVersion7())];
        StoredVisit stored = Placed(
            Row(visit, transaction.Change.At),
            ids,
            visit.Plan,
            visit.Price,
            visit.Asked,
            [.. visit.AddOns.SelectMany((own, line) => own.Select(added => added.On(ids[line])))]
        ) with
        {
            People = visit.People,
            Answers = visit.Answers,
        };
        AddLines(transaction, stored);
        if (visit.Answers.Count > 0)
        {
            transaction.Write(
                "INSERT INTO visit_answer (visit_id, question_id, question, answer) SELECT @Id, * FROM unnest(@Ids, @Questions, @Answers)",
                new
                {
                    visit.Id,
                    Ids = visit.Answers.Select(answer => answer.QuestionId).ToArray(),
                    Questions = visit.Answers.Select(answer => answer.Question).ToArray(),
                    Answers = visit.Answers.Select(answer => answer.Answer).ToArray(),
                });
        }

        transaction.Record(new Subject("visit", visit.Id), "Booked", null, Describe(stored, visit.Over));
        transaction.Tell(LiveNotices.Day(visit.LocationId, visit.Date));
        return stored;
    }

    /// <summary>
    /// Puts a visit at another time. Its lines stay what they are, for all that hangs on them; what they held makes way for the claims of
    /// the plan.
    /// </summary>
    /// <param name="transaction">A transaction that has locked both days.</param>
    /// <param name="visit">The visit as it was read under the locks.</param>
    /// <param name="date">The local date of its new start.</param>
    /// <param name="plan">Where it goes.</param>
    /// <param name="price">What it costs then.</param>
    /// <param name="over">What it is knowingly put over, in words for the history.</param>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    public static StoredVisit Move(
        BookTransaction transaction,
        StoredVisit visit,
        LocalDate date,
        VisitPlan plan,
        VisitPrice price,
        IReadOnlyList<string>? over = null
    )
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        VisitRow row = visit.Visit;
        transaction.Write(
            "UPDATE visit SET date = @date, starts_at = @Start, ends_at = @End, version = version + 1 WHERE id = @Id AND version "
                + "= @Version",
            new { row.Id, row.Version, date, plan.Start, plan.End }, oneRow: true);
        Guid[] ids = [.. visit.Lines.Select(line => line.Id)];
        StoredVisit moved = Placed(
            row.At(date, plan.Start, plan.End),
            ids,
            plan,
            price,
            [.. visit.Lines.Select(line => line.PractitionerAsked)],
            visit.AddOns
        ) with
        {
            People = visit.People,
            Answers = visit.Answers,
        };
        transaction.Write("DELETE FROM claim WHERE occupation_id = ANY(@ids)", new { ids });
        transaction.Write(
            """
            UPDATE appointment a SET starts_at = n.starts, ends_at = n.ends, price = n.price, offset_minutes = n.apart, room_id = n.room,
                tax_basis_points = n.tax
            FROM unnest(@Ids, @Starts, @Ends, @Prices, @Offsets, @Rooms, @Taxes) AS n(id, starts, ends, price, apart, room, tax)
                WHERE a.id = n.id
            """,
            Values(moved));
        transaction.Write("DELETE FROM price_part WHERE appointment_id = ANY(@ids)", new { ids });
        AddClaims(transaction, moved);
        AddPriceParts(transaction, moved);
        Settle(transaction, visit);
        transaction.Record(new Subject("visit", row.Id), "Moved", Describe(visit), Describe(moved, over));
        transaction.Tell(LiveNotices.Day(row.LocationId, row.Date));
        transaction.Tell(LiveNotices.Day(row.LocationId, date));
        return moved;
    }

    /// <summary>Changes where a visit stands; a cancelled one gives its time back.</summary>
    /// <param name="transaction">A transaction that has locked its day.</param>
    /// <param name="visit">The visit as it was read under the lock.</param>
    /// <param name="state">The new state.</param>
    /// <param name="cancellation">Why and on whose account, where it is cancelled.</param>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    public static StoredVisit SetState(BookTransaction transaction, StoredVisit visit, VisitState state, Cancellation? cancellation)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        VisitRow row = visit.Visit;
        transaction.Write(
            """
            UPDATE visit SET state = @State, cancel_reason = @Reason, cancelled_at = CASE WHEN @State = 'Cancelled' THEN @At END,
                cancelled_by = @By, cancelled_late = @IsLate,
                version = version + 1
            WHERE id = @Id AND version = @Version
            """,
            new
            {
                row.Id,
                row.Version,
                transaction.Change.At,
                State = state.ToString(),
                cancellation?.Reason,
                By = cancellation?.By.ToString(),
                IsLate = cancellation?.IsLate ?? false,
            },
            oneRow: true
        );
        if (!VisitStates.HoldsTime(state))
        {
            transaction.Write(
                "UPDATE claim SET live = false WHERE occupation_id = ANY(@Ids)",
                new { Ids = visit.Lines.Select(line => line.Id).ToArray() }
            );
            Settle(transaction, visit);
        }

        StoredVisit changed = visit with { Visit = row.In(state, cancellation) };
        transaction.Record(
            new Subject("visit", row.Id),
            state == VisitState.Cancelled ? "Cancelled" : "State",
            DescribeState(visit),
            DescribeState(changed)
        );
        transaction.Tell(LiveNotices.Day(row.LocationId, row.Date));
        return changed;
    }

    /// <summary>Takes out of the book what has run out. It counts for nobody before, too; this keeps the book tidy.</summary>
    public static Task SweepAsync(NpgsqlConnection connection, Instant now) => connection.ExecuteAsync(
        "UPDATE claim k SET live = false FROM occupation o WHERE o.expires_at <= @now AND k.occupation_id = o.id AND k.live", new { now });

    /// <summary>
    /// Where a visit has left its time, what was overbooked there and meets nothing any more is a claim like any other; the history of
    /// the visits it belongs to says so.
    /// </summary>
    private static void Settle(BookTransaction transaction, StoredVisit left) =>
        transaction.Write(
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
