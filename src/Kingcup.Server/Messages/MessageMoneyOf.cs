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
        // The card gives back and is charged through one account: what the gateway is asked for says which.
        long refund = (await CardWorkStore.OfVisitAsync(connection, visitId)).Where(work => work.Kind == "Refund").Sum(work => work.Amount);
        return new MessageMoney
        {
            Deposit = money.Deposit,
            Fee = -(Of(Account.Forfeits) + Of(Account.TaxPayable)),
            Kept = Of(Account.ClientDeposits) - refund,
            Charged = Of(Account.CardClearing) + refund,
            Owed = Of(Account.ClientAccounts),
            Refund = refund,
        };
    }
}
