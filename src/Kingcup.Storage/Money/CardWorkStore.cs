using Dapper;
using Kingcup.Core.Money;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Something that is still to be done with money, or was done: by the gateway, or by hand where it came in cash.</summary>
public sealed record CardWork
{
    /// <summary>Identity, and the key that makes it be done once.</summary>
    public Guid Id { get; init; }

    /// <summary>"Refund" or "Charge".</summary>
    public string Kind { get; init; } = "";

    /// <summary>The visit.</summary>
    public Guid VisitId { get; init; }

    /// <summary>What is given back, or null.</summary>
    public Guid? PaymentId { get; init; }

    /// <summary>Which card is charged, or null.</summary>
    public Guid? CardId { get; init; }

    /// <summary>Minor units.</summary>
    public long Amount { get; init; }

    /// <summary>ISO 4217.</summary>
    public string Currency { get; init; } = "";

    /// <summary>"Waiting", "Sent", "Done", "Declined" or "Dropped".</summary>
    public string State { get; init; } = "";

    /// <summary>When it is done at the earliest.</summary>
    public Instant DueAt { get; init; }

    /// <summary>Why: "Fee", "MoveFee" or "Returned", as the entry of the ledger that goes with it.</summary>
    public string Reason { get; init; } = "";

    /// <summary>Whether somebody does it by hand: gives cash back.</summary>
    public bool ByHand { get; init; }
}

/// <summary>What a visit has of money: its deposit, and the card that is kept.</summary>
public sealed record VisitMoney
{
    /// <summary>What is held as a deposit, in minor units.</summary>
    public long Deposit { get; init; }

    /// <summary>The payments it came by, in their order.</summary>
    public IReadOnlyList<DepositPart> Parts { get; init; } = [];

    /// <summary>The client's latest card, or null.</summary>
    public Guid? CardId { get; init; }

    /// <summary>Its last four digits, or null.</summary>
    public string? CardDigits { get; init; }

    /// <summary>How a sum of it goes back the way it came.</summary>
    /// <param name="amount">Minor units.</param>
    public IReadOnlyList<GivenBack> Back(long amount) => Deposits.Back(Parts, amount);
}

/// <summary>A movement of money of a visit, as people read it.</summary>
public sealed record VisitMovement
{
    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>By whom.</summary>
    public string Actor { get; init; } = "";

    /// <summary>A name of <see cref="LedgerReason"/>.</summary>
    public string Reason { get; init; } = "";

    /// <summary>What was said of it.</summary>
    public string Note { get; init; } = "";

    /// <summary>What came in by card, in minor units; what went back is negative.</summary>
    public long ByCard { get; init; }

    /// <summary>What came in in cash, in minor units; what was given back is negative.</summary>
    public long InCash { get; init; }

    /// <summary>What was forfeited, in minor units.</summary>
    public long Forfeited { get; init; }

    /// <summary>What the client owes more, in minor units; what is to be given to them is negative.</summary>
    public long Owed { get; init; }
}

/// <summary>Cash that is still to be given back to a client.</summary>
/// <param name="VisitId">For which visit.</param>
/// <param name="LocationId">Where it was to be.</param>
/// <param name="Date">When it was to be.</param>
/// <param name="Amount">Minor units.</param>
public sealed record CashToGive(Guid VisitId, Guid LocationId, LocalDate Date, long Amount);

/// <summary>What is still to be done with money, and what a visit has of it.</summary>
public static class CardWorkStore
{
    private const string Columns = "id, kind, visit_id, payment_id, card_id, amount, currency, state, due_at, by_hand, reason";

    /// <summary>Has something done with money after a while.</summary>
    public static void Add(BookTransaction transaction, CardWork work)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(work);
        transaction.Write(
            """
            INSERT INTO card_work (id, kind, visit_id, payment_id, card_id, amount, currency, state, created_at, due_at, by_hand, reason)
            VALUES (@Id, @Kind, @VisitId, @PaymentId, @CardId, @Amount, @Currency, 'Waiting', @At, @DueAt, @ByHand, @Reason)
            """,
            new
            {
                work.Id,
                work.Kind,
                work.VisitId,
                work.PaymentId,
                work.CardId,
                work.Amount,
                work.Currency,
                transaction.Change.At,
                work.DueAt,
                work.ByHand,
                work.Reason,
            }
        );
    }

    /// <summary>Has a deposit go back the way it came: cards by the gateway after a while, cash by hand.</summary>
    /// <param name="transaction">The transaction.</param>
    /// <param name="like">The visit, why, the currency, and when the gateway is asked at the earliest.</param>
    /// <param name="back">What goes back of each payment.</param>
    public static void AddBack(BookTransaction transaction, CardWork like, IEnumerable<GivenBack> back)
    {
        ArgumentNullException.ThrowIfNull(back);
        foreach (GivenBack one in back)
            Add(
                transaction,
                like with
                {
                    Id = Guid.CreateVersion7(),
                    Kind = "Refund",
                    PaymentId = one.PaymentId,
                    Amount = one.Amount,
                    ByHand = one.Way == PaymentWay.Cash,
                }
            );
    }

    /// <summary>Says how it went, or that it is not to be done; the commit fails where it no longer stands where it was seen.</summary>
    public static void Settle(BookTransaction transaction, CardWork seen, string state)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(seen);
        transaction.Write(
            "UPDATE card_work SET state = @To, settled_at = @At WHERE id = @Id AND state = @State",
            new
            {
                seen.Id,
                seen.State,
                To = state,
                transaction.Change.At,
            },
            oneRow: true
        );
    }

    /// <summary>Takes what is due of the gateway: from here on nobody takes it back.</summary>
    public static async Task<IReadOnlyList<CardWork>> TakeAsync(NpgsqlConnection connection, Instant now, int most) =>
        [
            .. await connection.QueryAsync<CardWork>(
                $"""
                UPDATE card_work SET state = 'Sent' WHERE id IN (
                    SELECT id FROM card_work WHERE settled_at IS NULL AND NOT by_hand AND due_at <= @now ORDER BY due_at LIMIT @most)
                RETURNING {Columns}
                """,
                new { now, most }
            ),
        ];

    /// <summary>What is to be done, or was done, for a visit; what was dropped is not in it.</summary>
    public static async Task<IReadOnlyList<CardWork>> OfVisitAsync(NpgsqlConnection connection, Guid visitId) =>
        [
            .. await connection.QueryAsync<CardWork>(
                $"SELECT {Columns} FROM card_work WHERE visit_id = @visitId AND state <> 'Dropped' ORDER BY created_at, id",
                new { visitId }
            ),
        ];

    /// <summary>What is still to be given to a client in cash, by visit, the earliest first.</summary>
    public static async Task<IReadOnlyList<CashToGive>> CashToGiveAsync(NpgsqlConnection connection, Guid clientId) =>
        [
            .. await connection.QueryAsync<CashToGive>(
                """
                SELECT v.id AS visit_id, v.location_id, v.date, sum(w.amount)::bigint AS amount
                FROM card_work w JOIN visit v ON v.id = w.visit_id
                WHERE w.by_hand AND w.state = 'Waiting' AND @clientId IN (v.client_id, v.payer_id) GROUP BY v.id ORDER BY v.starts_at, v.id
                """,
                new { clientId }
            ),
        ];

    /// <summary>What the gateway calls the payment that is given back, or the card that is charged.</summary>
    public static Task<string> GatewayNameAsync(NpgsqlConnection connection, CardWork work)
    {
        ArgumentNullException.ThrowIfNull(work);
        return connection.QuerySingleAsync<string>(
            work.PaymentId is null
                ? "SELECT gateway_token FROM card WHERE id = @CardId"
                : "SELECT gateway_id FROM payment WHERE id = @PaymentId",
            new { work.PaymentId, work.CardId }
        );
    }

    /// <summary>What a visit has of money.</summary>
    public static async Task<VisitMoney> MoneyAsync(NpgsqlConnection connection, Guid visitId)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            """
            SELECT coalesce((SELECT -sum(p.amount) FROM ledger_entry e JOIN ledger_posting p ON p.entry_id = e.id
                    WHERE e.visit_id = v.id AND p.account = 'ClientDeposits'), 0)::bigint AS deposit,
                k.id AS card_id, k.last_digits AS card_digits
            FROM visit v LEFT JOIN LATERAL (SELECT c.id, c.last_digits FROM card c JOIN client h ON h.id = c.client_id
                WHERE coalesce(h.merged_into, h.id) IN (v.client_id, v.payer_id) ORDER BY c.created_at DESC LIMIT 1) k ON true
            WHERE v.id = @visitId;
            SELECT y.id, y.way, y.amount, coalesce((SELECT sum(w.amount) FROM card_work w
                WHERE w.payment_id = y.id AND w.kind = 'Refund' AND w.state <> 'Dropped'), 0)::bigint
            FROM payment y WHERE y.visit_id = @visitId AND y.state = 'Booked' AND y.amount > 0 ORDER BY y.settled_at, y.id;
            """,
            new { visitId }
        );
        VisitMoney money = await grid.ReadSingleAsync<VisitMoney>();
        IEnumerable<(Guid Id, string Way, long Paid, long Back)> parts = await grid.ReadAsync<(Guid, string, long, long)>();
        return money with
        {
            Parts = [.. parts.Select(part => new DepositPart(part.Id, Enum.Parse<PaymentWay>(part.Way), part.Paid, part.Back))],
        };
    }

    /// <summary>What is held as deposits of visits, in minor units; a visit without any is not in it.</summary>
    public static async Task<IReadOnlyDictionary<Guid, long>> DepositsAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<Guid> visitIds
    ) =>
        (
            await connection.QueryAsync<(Guid, long)>(
                """
                SELECT e.visit_id, -sum(p.amount)::bigint FROM ledger_entry e JOIN ledger_posting p ON p.entry_id = e.id
                WHERE e.visit_id = ANY(@Ids) AND p.account = 'ClientDeposits' GROUP BY e.visit_id HAVING sum(p.amount) <> 0
                """,
                new { Ids = visitIds.ToArray() }
            )
        ).ToDictionary(row => row.Item1, row => row.Item2);

    /// <summary>What money has moved for a visit, oldest first.</summary>
    public static async Task<IReadOnlyList<VisitMovement>> MovementsAsync(NpgsqlConnection connection, Guid visitId) =>
        [
            .. await connection.QueryAsync<VisitMovement>(
                """
                SELECT e.at, e.actor, e.reason, e.note,
                    coalesce(sum(p.amount) FILTER (WHERE p.account = 'CardClearing'), 0)::bigint AS by_card,
                    coalesce(sum(p.amount) FILTER (WHERE p.account = 'Cash'), 0)::bigint AS in_cash,
                    coalesce(-sum(p.amount) FILTER (WHERE p.account IN ('Forfeits', 'TaxPayable')), 0)::bigint AS forfeited,
                    coalesce(sum(p.amount) FILTER (WHERE p.account = 'ClientAccounts'), 0)::bigint AS owed
                FROM ledger_entry e JOIN ledger_posting p ON p.entry_id = e.id WHERE e.visit_id = @visitId
                GROUP BY e.id ORDER BY e.place
                """,
                new { visitId }
            ),
        ];

    /// <summary>What the fees of a visit have moved in all, for taking them back.</summary>
    public static async Task<IReadOnlyList<(string Account, long Amount)>> FeesAsync(NpgsqlConnection connection, Guid visitId) =>
        [
            .. await connection.QueryAsync<(string, long)>(
                """
                SELECT p.account, sum(p.amount)::bigint FROM ledger_entry e JOIN ledger_posting p ON p.entry_id = e.id
                WHERE e.visit_id = @visitId AND e.reason IN ('Fee', 'FeeTakenBack', 'FeeDeclined') GROUP BY p.account
                HAVING sum(p.amount) <> 0
                """,
                new { visitId }
            ),
        ];
}
