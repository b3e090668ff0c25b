using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>What is said of a fee by whoever cancels a visit, or says that nobody came.</summary>
/// <param name="Seen">What it costs as they have read it, in minor units; null where nothing was read.</param>
/// <param name="Waive">Why the client is let off, or null where they are not.</param>
/// <param name="PriceSeen">Of a visit that its client moves, what it costs there as they have read it; null where nothing was
/// read.</param>
public sealed record FeeOrder(long? Seen, string? Waive = null, long? PriceSeen = null);

/// <content>What cancelling and not coming costs (rules, section 9).</content>
public sealed partial class BookingDesk
{
    /// <summary>
    /// Moves the money of a visit with where it stands: forfeited and given back as its policy says where it is cancelled or missed, and
    /// all of that back where it stands again.
    /// </summary>
    private static async Task MoveMoneyAsync(BookTransaction transaction, StoredVisit before, StoredVisit after, FeeOrder? order)
    {
        bool wasAway = IsAway(before),
            isAway = IsAway(after);
        if (wasAway == isAway) return;
        if (wasAway)
            await TakeFeesBackAsync(transaction, before);
        else
            await TakeFeeAsync(transaction, before, after, order);
    }

    private static bool IsAway(StoredVisit visit) => visit.Visit.VisitState is VisitState.Cancelled or VisitState.NoShow;

    /// <summary>What it costs that a visit is cancelled now, or that nobody came.</summary>
    internal static async Task<(CancellationFee Fee, VisitMoney Money)> FeeOfAsync(
        Npgsql.NpgsqlConnection connection,
        StoredVisit visit,
        bool isNoShow,
        CancelledBy by,
        Instant now
    )
    {
        VisitMoney money = await CardWorkStore.MoneyAsync(connection, visit.Visit.Id);
        PaidSoFar paid = new([.. visit.Price.Lines.Select(line => line.Total)], money.Deposit, money.CardId is not null);
        CancellationPolicy policy = visit.Visit.PolicyId is { } id
            ? await GuaranteeStore.PolicyAsync(connection, id)
            : CancellationPolicy.None;
        // What was asked for and not granted yet costs nobody anything.
        bool isFree = by != CancelledBy.Client || VisitStates.IsAsked(visit.Visit.VisitState);
        return (
            isNoShow ? CancellationFee.OfNoShow(policy, paid)
                : isFree ? CancellationFee.ByBusiness(paid)
                : CancellationFee.Of(policy, visit.Visit.StartsAt, now, paid),
            money
        );
    }

    private static async Task TakeFeeAsync(BookTransaction transaction, StoredVisit visit, StoredVisit after, FeeOrder? order)
    {
        Instant now = transaction.Change.At;
        bool isNoShow = after.Visit.VisitState == VisitState.NoShow;
        CancelledBy by = after.Visit.CancelledBy is { } name ? Enum.Parse<CancelledBy>(name) : CancelledBy.Client;
        (CancellationFee fee, VisitMoney money) = await FeeOfAsync(transaction.Connection, visit, isNoShow, by, now);
        CheckFeeSeen(order, fee);
        string note = "";
        if (order?.Waive is { } why && fee.Fee > 0)
        {
            note = why;
            fee = CancellationFee.ByBusiness(new PaidSoFar([.. visit.Price.Lines.Select(line => line.Total)], money.Deposit, false));
            transaction.Record(new Subject("visit", visit.Visit.Id), "Waived", null, new { reason = why });
        }

        IReadOnlyList<GivenBack> back = money.Back(fee.Refund);
        LedgerStore.Post(
            transaction,
            LedgerEntry.OfFee(fee, back),
            new LedgerSource(visit.Visit.LocationId, LedgerReason.Fee, visit.Visit.PayerId, visit.Visit.Id, null) { Note = note }
        );
        if (isNoShow && fee.Fee > 0 && fee.FromCard == 0)
            MessageEventStore.AddMoney(transaction, "Fee", visit.Visit.Id, fee.Fee, now + VisitStates.TakenBackWithin);
        CardWork work = new()
        {
            VisitId = visit.Visit.Id,
            Reason = nameof(LedgerReason.Fee),
            Currency = await PaymentStore.CurrencyAsync(transaction.Connection),
            DueAt = now + VisitStates.TakenBackWithin,
        };
        CardWorkStore.AddBack(transaction, work, back);
        if (fee.FromCard > 0)
            CardWorkStore.Add(
                transaction,
                work with
                {
                    Id = Guid.CreateVersion7(),
                    Kind = "Charge",
                    CardId = money.CardId,
                    Amount = fee.FromCard,
                }
            );
    }

    private static void CheckFeeSeen(FeeOrder? order, CancellationFee fee)
    {
        if (order?.Seen is not { } seen || seen == fee.Fee) return;
        Refused refused = new(
            StatusCodes.Status409Conflict,
            "fee-changed",
            "What this costs has changed since you looked. Read it once more.",
            "feeSeen"
        );
        refused.More["fee"] = fee.Fee;
        throw refused;
    }

    private static async Task TakeFeesBackAsync(BookTransaction transaction, StoredVisit visit)
    {
        CardWork[] works =
        [
            .. (await CardWorkStore.OfVisitAsync(transaction.Connection, visit.Visit.Id)).Where(work =>
                work.Reason == nameof(LedgerReason.Fee)
            ),
        ];
        if (works.Any(work => work.State != "Waiting"))
            throw new Refused(
                StatusCodes.Status409Conflict,
                "money-moved",
                "The money of this visit has moved already: what went back is not held any more. Book it anew."
            );
        foreach (CardWork work in works) CardWorkStore.Settle(transaction, work, "Dropped");
        MessageEventStore.TakeFeeBack(transaction, visit.Visit.Id);
        IReadOnlyList<(string Account, long Amount)> fees = await CardWorkStore.FeesAsync(transaction.Connection, visit.Visit.Id);
        LedgerStore.Post(
            transaction,
            LedgerEntry.Of(fees.Select(fee => (Enum.Parse<Account>(fee.Account), -fee.Amount))),
            new LedgerSource(visit.Visit.LocationId, LedgerReason.FeeTakenBack, visit.Visit.PayerId, visit.Visit.Id, null)
        );
    }

    /// <summary>Says how something went that the gateway was asked to do.</summary>
    internal async Task SettleCardWorkAsync(CardWork work, bool isTaken)
    {
        await using Npgsql.NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit visit = (await BookStore.FindAsync(connection, work.VisitId))!;
        await using BookTransaction transaction = await BookTransaction.BeginAsync(
            connection,
            new Change("Card gateway", clock.GetCurrentInstant())
        );
        await transaction.LockAsync(new BookLocks(), new BookQuestion());
        CardWorkStore.Settle(transaction, work, isTaken ? "Done" : "Declined");
        MessageEventStore.AddMoney(
            transaction,
            work.Kind == "Refund" ? "Refund" : "Fee",
            work.VisitId,
            work.Amount,
            transaction.Change.At
        );
        if (!isTaken)
            LedgerStore.Post(
                transaction,
                LedgerEntry.OfDeclined(work.Amount),
                new LedgerSource(visit.Visit.LocationId, LedgerReason.FeeDeclined, visit.Visit.PayerId, visit.Visit.Id, null)
            );
        await CommitAsync(transaction);
    }
}
