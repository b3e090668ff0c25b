using Kingcup.Core.Money;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>How deposits and fees stand in the ledger (rules, section 12).</summary>
public sealed class LedgerEntryTests
{
    private static (Account, long)[] Sides(LedgerEntry entry) => [.. entry.Postings.Select(posting => (posting.Account, posting.Amount))];

    [Fact]
    public void Example_12a_a_deposit_by_card_is_owed() =>
        Sides(LedgerEntry.OfDeposit(Account.CardClearing, 2520)).ShouldBe([(Account.CardClearing, 2520), (Account.ClientDeposits, -2520)]);

    [Fact]
    public void Example_12b_the_cancellation_of_9a() =>
        Sides(LedgerEntry.OfFee(new CancellationFee(4200, 2520, 1680, 0, 0, false), Account.CardClearing))
            .ShouldBe([(Account.ClientDeposits, 2520), (Account.CardClearing, 1680), (Account.Forfeits, -4200)]);

    [Fact]
    public void What_goes_back_goes_the_way_it_came() =>
        Sides(LedgerEntry.OfFee(new CancellationFee(0, 0, 0, 0, 2520, false), Account.Cash))
            .ShouldBe([(Account.ClientDeposits, 2520), (Account.Cash, -2520)]);

    [Fact]
    public void What_is_owed_stands_on_the_clients_account_and_a_tax_on_fees_is_taken_out_of_them() =>
        Sides(LedgerEntry.OfFee(new CancellationFee(4200, 2520, 0, 1680, 0, false), Account.CardClearing, taxBasisPoints: 1350))
            .ShouldBe([
                (Account.ClientDeposits, 2520),
                (Account.ClientAccounts, 1680),
                (Account.Forfeits, -3700),
                (Account.TaxPayable, -500),
            ]);

    [Fact]
    public void What_does_not_add_up_is_no_entry_and_what_is_nothing_has_no_posting()
    {
        Should.Throw<ArgumentException>(() => LedgerEntry.Of([(Account.Cash, 1)])).Message.ShouldContain("not to 1");
        Sides(LedgerEntry.Of([(Account.Cash, 5), (Account.Forfeits, 0), (Account.Cash, -2), (Account.ClientDeposits, -3)]))
            .ShouldBe([(Account.Cash, 3), (Account.ClientDeposits, -3)]);
        LedgerEntry.Of([(Account.Cash, 5), (Account.Cash, -5)]).Postings.ShouldBeEmpty();
    }

    [Fact]
    public void Money_in_is_what_is_held_earned_and_given_back_whatever_happens_to_visits()
    {
        Random random = new(12);
        for (int world = 0; world < 5_000; world++)
        {
            List<LedgerEntry> journal = [];
            long taken = 0,
                earned = 0,
                back = 0,
                owed = 0,
                held = 0;
            for (int visit = 0; visit < 5; visit++)
            {
                long price = random.Next(1, 20_000),
                    deposit = random.NextInt64(price + 1);
                Account by = random.Next(2) == 0 ? Account.Cash : Account.CardClearing;
                journal.Add(LedgerEntry.OfDeposit(by, deposit));
                taken += deposit;
                if (random.Next(3) == 0)
                {
                    held += deposit;
                    continue;
                }

                CancellationPolicy policy = new() { Below = new(0, random.Next(101)) };
                CancellationFee fee = CancellationFee.OfNoShow(
                    policy with { NoShow = policy.Below },
                    new PaidSoFar([price], deposit, random.Next(2) == 0)
                );
                LedgerEntry entry = LedgerEntry.OfFee(fee, by, random.Next(2) * 1350);
                journal.Add(entry);
                if (random.Next(5) == 0)
                {
                    // The fee was a mistake: it is as if it had never been.
                    journal.Add(entry.Reversed());
                    held += deposit;
                    continue;
                }

                taken += fee.FromCard;
                earned += fee.Fee;
                back += fee.Refund;
                owed += fee.Owed;
            }

            long Balance(params Account[] accounts) =>
                journal
                    .SelectMany(entry => entry.Postings)
                    .Where(posting => accounts.Contains(posting.Account))
                    .Sum(posting => posting.Amount);
            journal.ShouldAllBe(entry => entry.Postings.Sum(posting => posting.Amount) == 0);
            Balance(Account.Cash, Account.CardClearing).ShouldBe(taken - back);
            Balance(Account.ClientDeposits).ShouldBe(-held);
            Balance(Account.Forfeits, Account.TaxPayable).ShouldBe(-earned);
            Balance(Account.ClientAccounts).ShouldBe(owed);
        }
    }
}
