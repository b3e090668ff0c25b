using Kingcup.Core.Money;
using Kingcup.Storage;
using Npgsql;

namespace Kingcup.Server.Messages;

/// <summary>What a message says of the money of a visit, as the ledger has it.</summary>
internal static class MessageMoneyOf
{
    internal static async Task<MessageMoney> ReadAsync(NpgsqlConnection connection, Guid visitId)
    {
        VisitMoney money = await CardWorkStore.MoneyAsync(connection, visitId);
        Dictionary<string, long> fees = (await CardWorkStore.FeesAsync(connection, visitId)).ToDictionary(
            posting => posting.Account,
            posting => posting.Amount
        );
        long Of(Account account) => fees.GetValueOrDefault(account.ToString());
        // The card gives back and is charged through one account: what is still to be done with money says which.
        CardWork[] refunds =
        [
            .. (await CardWorkStore.OfVisitAsync(connection, visitId)).Where(work =>
                work is { Kind: "Refund", Reason: nameof(LedgerReason.Fee) }
            ),
        ];
        long inCash = refunds.Where(work => work.ByHand).Sum(work => work.Amount),
            refund = refunds.Sum(work => work.Amount) - inCash;
        return new MessageMoney
        {
            Deposit = money.Deposit,
            Fee = -(Of(Account.Forfeits) + Of(Account.TaxPayable)),
            Kept = Of(Account.ClientDeposits) - refund - inCash,
            Charged = Of(Account.CardClearing) + refund,
            // What is to be given back in cash stands to their credit, and is owed by nobody.
            Owed = Of(Account.ClientAccounts) + inCash,
            Refund = refund,
            CashBack = inCash,
        };
    }
}
