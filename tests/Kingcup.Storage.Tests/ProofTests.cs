using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests;

/// <summary>The check for operators finds what is wrong, each time by the invariant that says it, and names it.</summary>
public sealed class ProofTests
{
    private static readonly Instant _start = TestDatabase.Now + Duration.FromDays(1);

    [Fact]
    public async Task Everything_holds_of_what_was_booked_and_each_thing_broken_is_named()
    {
        await using TestDatabase test = await TestDatabase.DemoAsync();
        await using NpgsqlConnection connection = await test.Database.OpenAsync();
        Setup setup = await SetupReader.LoadAsync(connection);
        List<StoredVisit> visits = [];
        for (int hour = 0; hour < 12; hour++) visits.Add(await BookAsync(connection, setup, _start + Duration.FromHours(hour)));
        IReadOnlyList<Finding> before = await Proof.CheckAsync(connection);
        before.Where(finding => finding.Count > 0).ShouldBeEmpty();
        before
            .Where(finding => finding.Rows == 0)
            .Select(finding => finding.Says)
            .ShouldBe([
                "Nothing that has run out stands in the way of anything.",
                "Whatever is kept for somebody holds the time it names, line by line.",
                "What is proposed belongs to something that was answered with it, which holds nothing of its own meanwhile.",
                "Every entry of the ledger adds up to nothing and has at least two sides.",
                "Whoever has paid for a visit has it, with what they paid as its deposit, once; of any other payment that is settled "
                    + "nothing is kept.",
                "No more goes back of a payment than it has brought, and no more of a deposit than is held.",
                "Only what came in cash is given back by hand, and what was given back has left the drawer.",
            ]);

        async Task BreakAsync(string says, Guid named, string sql, object? values = null)
        {
            (await Proof.CheckAsync(connection))
                .Single(finding => finding.Says.StartsWith(says, StringComparison.Ordinal))
                .Count.ShouldBe(0, says);
            await connection.ExecuteAsync(sql, values);
            Finding broken = (await Proof.CheckAsync(connection)).Single(finding =>
                finding.Says.StartsWith(says, StringComparison.Ordinal)
            );
            broken.Wrong.ShouldContain(named.ToString(), says);
        }

        Guid Line(int i) => visits[i].Lines[0].Id;
        Task<Guid> ClaimAsync(int i) =>
            connection.ExecuteScalarAsync<Guid>("SELECT id FROM claim WHERE occupation_id = @Id", new { Id = Line(i) });
        await BreakAsync(
            "Prices add up",
            Line(0),
            "UPDATE price_part SET amount = amount + 1 WHERE appointment_id = @Id",
            new { Id = Line(0) }
        );
        await BreakAsync(
            "Every claim lies",
            await ClaimAsync(1),
            "UPDATE claim SET location_id = @Other WHERE occupation_id = @Id",
            new { Id = Line(1), Other = setup.Locations[1].Location.Id }
        );
        await BreakAsync("Every line of a visit", Line(2), "UPDATE claim SET live = false WHERE occupation_id = @Id", new { Id = Line(2) });
        await BreakAsync(
            "A visit begins",
            visits[3].Visit.Id,
            "UPDATE appointment SET offset_minutes = 5 WHERE id = @Id",
            new { Id = Line(3) }
        );
        await BreakAsync(
            "The history of every visit",
            visits[4].Visit.Id,
            "UPDATE visit SET state = 'Arrived' WHERE id = @Id",
            new { visits[4].Visit.Id }
        );
        await BreakAsync(
            "Every live claim belongs",
            await ClaimAsync(5),
            "UPDATE visit SET state = 'Cancelled', cancel_reason = 'x', cancelled_by = 'Business' WHERE id = @Id",
            new { visits[5].Visit.Id }
        );
        await BreakAsync(
            "Nobody is booked twice",
            Line(6),
            """
            INSERT INTO claim (id, occupation_id, location_id, service_id, resource_id, unit, role, during, core, overbooked)
            SELECT gen_random_uuid(), occupation_id, location_id, service_id, resource_id, unit, 1, during, core, true FROM claim
                WHERE occupation_id = @Id
            """,
            new { Id = Line(6) }
        );
        await connection.ExecuteAsync(
            "ALTER TABLE claim DROP CONSTRAINT claim_no_double_booking; ALTER TABLE visit DROP CONSTRAINT visit_reference_key;"
        );
        Guid hold = Guid.NewGuid();
        await BreakAsync(
            "Nothing that has run out", hold,
            """
            INSERT INTO occupation (id, kind, location_id, expires_at) SELECT @hold, 'Hold', location_id, '2020-01-01' FROM claim
                WHERE occupation_id = @Id;
            INSERT INTO claim (id, occupation_id, location_id, service_id, resource_id, unit, role, during, core)
            SELECT gen_random_uuid(), @hold, location_id, service_id, resource_id, unit, role, during, core FROM claim
                WHERE occupation_id = @Id
            """,
            new { hold, Id = Line(7) });
        await connection.ExecuteAsync("DELETE FROM claim WHERE occupation_id = @hold", new { hold });
        Guid kept = Guid.NewGuid();
        await BreakAsync(
            "Whatever is kept", kept,
            """
            INSERT INTO proposal (id, kind, token_hash, location_id, date, expires_at, created_at, asked, setup_revision, visit)
            SELECT @kept, 'Proposal', sha256('one'), location_id, '2027-03-01', '2027-03-02', '2027-03-01', sha256('two'), 1,
                '{"Lines": [{}]}' FROM claim WHERE occupation_id = @Id
            """,
            new { kept, Id = Line(7) });
        Guid proposed = Guid.NewGuid();
        await BreakAsync(
            "What is proposed", proposed,
            """
            INSERT INTO proposal (id, kind, token_hash, location_id, date, expires_at, created_at, asked, setup_revision, visit, visit_id)
            SELECT @proposed, 'Proposal', sha256('three'), location_id, '2027-03-01', '2027-03-02', '2027-03-01', sha256('two'), 1,
                '{"Lines": []}', id FROM visit WHERE id = @Id
            """,
            new { proposed, visits[7].Visit.Id });
        Guid paid = Guid.NewGuid();
        await BreakAsync(
            "Whoever has paid", paid,
            """
            INSERT INTO payment (id, location_id, amount, currency, state, way, hold_hash, visit_id, created_at, expires_at, settled_at)
            SELECT @paid, location_id, 2520, 'EUR', 'Booked', 'Page', sha256('one'), id, '2027-03-01', '2027-03-02', '2027-03-01'
                FROM visit WHERE id = @Id
            """,
            new { paid, visits[7].Visit.Id });
        await BreakAsync(
            "No more goes back", paid,
            """
            INSERT INTO card_work (id, kind, reason, visit_id, payment_id, amount, currency, state, created_at, due_at)
            SELECT gen_random_uuid(), 'Refund', 'Fee', visit_id, id, 2521, 'EUR', 'Waiting', '2027-03-01', '2027-03-01'
                FROM payment WHERE id = @paid
            """,
            new { paid });
        Guid byHand = Guid.NewGuid();
        await BreakAsync(
            "Only what came in cash", byHand,
            """
            INSERT INTO card_work (id, kind, reason, visit_id, payment_id, amount, currency, state, created_at, due_at, by_hand)
            SELECT @byHand, 'Refund', 'Fee', visit_id, id, 1, 'EUR', 'Waiting', '2027-03-01', '2027-03-01', true
                FROM payment WHERE id = @paid
            """,
            new { byHand, paid });
        Guid entry = Guid.NewGuid();
        // Only whoever switches the checks of the database off gets such an entry in.
        await BreakAsync(
            "Every entry of the ledger", entry,
            """
            SET session_replication_role = replica;
            INSERT INTO ledger_entry (id, at, actor, location_id, reason, visit_id)
                SELECT @entry, '2027-03-01', 'Nobody', location_id, 'Deposit', id FROM visit WHERE id = @Id;
            INSERT INTO ledger_posting (entry_id, account, amount) VALUES (@entry, 'CardClearing', 2520);
            SET session_replication_role = origin;
            """,
            new { entry, visits[7].Visit.Id });
        await BreakAsync(
            "Whoever a line is for",
            Line(10),
            "UPDATE appointment SET person = 1 WHERE id = @Id",
            new { Id = Line(10) }
        );
        Guid first = new[] { await ClaimAsync(8), await ClaimAsync(9) }.Min();
        await BreakAsync(
            "No two live claims",
            first,
            "UPDATE claim k SET during = o.during, core = o.core FROM claim o WHERE k.occupation_id = @To AND o.occupation_id = @From",
            new { From = Line(8), To = Line(9) }
        );
        await connection.ExecuteAsync(
            "UPDATE visit SET reference = @Reference WHERE id = @Id",
            new { visits[10].Visit.Reference, visits[11].Visit.Id }
        );
        (await Proof.CheckAsync(connection))
            .Single(finding => finding.Says == "References are unique.")
            .Wrong.ShouldBe([visits[10].Visit.Reference]);
    }

    private static async Task<StoredVisit> BookAsync(NpgsqlConnection connection, Setup setup, Instant start)
    {
        Change change = new("Test", TestDatabase.Now);
        ClientRow client = new()
        {
            Id = Guid.CreateVersion7(),
            GivenName = "Ada",
            FamilyName = "Marsh",
            Phone = "+353209100001",
            CreatedAt = TestDatabase.Now,
        };
        Interval during = new(start, start + Duration.FromMinutes(55));
        Guid resource = setup.Practitioners[0].Id, service = setup.Parts.Services[0].Service.Id;
        LocalDate date = start.InZone(setup.Locations[0].Location.Zone).Date;
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        ClientStore.Add(transaction, client);
        StoredVisit visit = BookStore.Add(
            transaction,
            new NewVisit
            {
                Id = Guid.CreateVersion7(),
                Reference = VisitReference.New(),
                LocationId = setup.Locations[0].Location.Id,
                Client = client,
                Date = date,
                Plan = new VisitPlan(
                    start,
                    during.End,
                    [new PlannedLine(service, start, during.End, [resource], null)],
                    [new PlannedClaim(0, resource, 0, during, during, 0)]
                ),
                Price = new VisitPrice([new PricedLine([new PricePart(PricePartKind.List, 8400)])]),
                Chosen = [default],
                AddOns =
                [
                    [],
                ],
                Source = "Desk",
            }
        );
        await transaction.CommitAsync();
        return visit;
    }
}
