using Kingcup.Core.Money;

namespace Kingcup.Storage;

/// <summary>Why money has moved.</summary>
public enum LedgerReason
{
    /// <summary>A deposit was taken.</summary>
    Deposit,

    /// <summary>A visit was cancelled, or its client did not come.</summary>
    Fee,

    /// <summary>A fee was taken back, since the visit stands again.</summary>
    FeeTakenBack,

    /// <summary>What was to be taken from the card was declined, and stays owed.</summary>
    FeeDeclined,

    /// <summary>Money went back.</summary>
    Refund,

    /// <summary>A client moved a visit so late, or so often, that it counted as cancelling.</summary>
    MoveFee,

    /// <summary>A deposit goes back while its visit stands.</summary>
    Returned,

    /// <summary>Cash that was to go back was put into the client's hand.</summary>
    CashGiven,
}

/// <summary>What a movement of money belongs to.</summary>
/// <param name="LocationId">The location.</param>
/// <param name="Reason">Why.</param>
/// <param name="ClientId">Whose money, or null where they are not entered.</param>
/// <param name="VisitId">The visit, or null.</param>
/// <param name="PaymentId">The payment, or null.</param>
public sealed record LedgerSource(Guid LocationId, LedgerReason Reason, Guid? ClientId, Guid? VisitId, Guid? PaymentId)
{
    /// <summary>Said of it, for who reads the ledger.</summary>
    public string Note { get; init; } = "";
}

/// <summary>The ledger: written, and never changed.</summary>
public static class LedgerStore
{
    /// <summary>Writes an entry with what else a transaction writes.</summary>
    public static void Post(BookTransaction transaction, LedgerEntry entry, LedgerSource source)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(entry);
        ArgumentNullException.ThrowIfNull(source);
        if (entry.Postings.Count == 0) return;
        Guid id = Guid.CreateVersion7();
        transaction.Write(
            """
            INSERT INTO ledger_entry (id, at, actor, location_id, reason, note, client_id, visit_id, payment_id)
            VALUES (@id, @At, @Actor, @LocationId, @Reason, @Note, @ClientId, @VisitId, @PaymentId)
            """,
            new
            {
                id,
                transaction.Change.At,
                transaction.Change.Actor,
                source.LocationId,
                Reason = source.Reason.ToString(),
                source.Note,
                source.ClientId,
                source.VisitId,
                source.PaymentId,
            }
        );
        transaction.Write(
            "INSERT INTO ledger_posting (entry_id, account, amount) SELECT @id, * FROM unnest(@Accounts, @Amounts)",
            new
            {
                id,
                Accounts = entry.Postings.Select(posting => posting.Account.ToString()).ToArray(),
                Amounts = entry.Postings.Select(posting => posting.Amount).ToArray(),
            }
        );
    }
}
