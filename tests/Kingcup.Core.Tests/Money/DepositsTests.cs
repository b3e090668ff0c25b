using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>Deposits of visits that stand: how much may be taken, and how it goes back (rules, sections 9 and 12).</summary>
public sealed class DepositsTests
{
    private static readonly Guid _first = Guid.NewGuid(),
        _second = Guid.NewGuid();

    private static DepositPart Part(Guid id, PaymentWay way, long paid, long back = 0) => new(id, way, paid, back);

    [Fact]
    public void What_came_last_goes_back_first_each_the_way_it_came()
    {
        DepositPart[] parts = [Part(_first, PaymentWay.Cash, 2000), Part(_second, PaymentWay.Terminal, 520)];
        Deposits.Back(parts, 2520).ShouldBe([new(_second, PaymentWay.Terminal, 520), new(_first, PaymentWay.Cash, 2000)]);
        // Of 25.20 a fee of 10.00 is kept: it is kept of what came first.
        Deposits.Back(parts, 1520).ShouldBe([new(_second, PaymentWay.Terminal, 520), new(_first, PaymentWay.Cash, 1000)]);
        Deposits.Back(parts, 300).ShouldBe([new(_second, PaymentWay.Terminal, 300)]);
        Deposits.Back(parts, 0).ShouldBeEmpty();
        // What has gone back already does not go back again.
        parts = [parts[0], parts[1] with { GivenBack = 520 }];
        Deposits.Back(parts, 700).ShouldBe([new(_first, PaymentWay.Cash, 700)]);
        Should.Throw<ArgumentOutOfRangeException>(() => Deposits.Back(parts, 2001));
        Should.Throw<ArgumentOutOfRangeException>(() => Deposits.Back(parts, -1));
    }

    [Fact]
    public void No_more_is_taken_than_is_left_to_pay_and_asked_for_than_the_rules_ask()
    {
        Deposits.Most(8400, 2520, 0).ShouldBe(5880);
        Deposits.Most(8400, 2520, 5880).ShouldBe(0);
        // A visit that was made shorter may cost less than was paid.
        Deposits.Most(2000, 2520, 0).ShouldBe(0);
        Deposits.Due(2520, 8400, 0, 0).ShouldBe(2520);
        Deposits.Due(2520, 8400, 1000, 500).ShouldBe(1020);
        Deposits.Due(2520, 8400, 3000, 0).ShouldBe(0);
        Deposits.Due(2520, 2000, 0, 0).ShouldBe(2000);
    }

    [Fact]
    public void A_link_is_good_for_two_days_never_past_the_start_and_not_where_nobody_could_pay_in_time()
    {
        Instant now = Instant.FromUtc(2027, 3, 1, 9, 0);
        Deposits.LinkUntil(now, now + Duration.FromDays(9)).ShouldBe(now + Duration.FromHours(48));
        Deposits.LinkUntil(now, now + Duration.FromHours(48)).ShouldBe(now + Duration.FromHours(48));
        Deposits.LinkUntil(now, now + Duration.FromHours(3)).ShouldBe(now + Duration.FromHours(3));
        Deposits.LinkUntil(now, now + Duration.FromMinutes(15)).ShouldBe(now + Duration.FromMinutes(15));
        Deposits.LinkUntil(now, now + Duration.FromMinutes(14)).ShouldBeNull();
        Deposits.LinkUntil(now, now - Duration.FromMinutes(1)).ShouldBeNull();
    }

    [Theory]
    [InlineData(VisitState.Requested, true)]
    [InlineData(VisitState.Answered, true)]
    [InlineData(VisitState.Confirmed, true)]
    [InlineData(VisitState.Arrived, true)]
    [InlineData(VisitState.InTreatment, true)]
    [InlineData(VisitState.Done, false)]
    [InlineData(VisitState.NoShow, false)]
    [InlineData(VisitState.Cancelled, false)]
    public void A_deposit_is_taken_until_the_visit_is_done_or_away(VisitState state, bool may) => Deposits.MayTake(state).ShouldBe(may);

    [Fact]
    public void A_fee_is_kept_of_a_deposit_of_two_ways_and_cash_waits_to_be_given_by_hand()
    {
        GivenBack[] back = [new(_second, PaymentWay.Terminal, 520), new(_first, PaymentWay.Cash, 1000)];
        LedgerEntry entry = LedgerEntry.OfFee(new CancellationFee(1000, 1000, 0, 0, 1520, false), back);
        Sides(entry)
            .ShouldBe([
                (Account.ClientDeposits, 2520),
                (Account.CardClearing, -520),
                (Account.ClientAccounts, -1000),
                (Account.Forfeits, -1000),
            ]);
        Sides(LedgerEntry.OfReturn(back))
            .ShouldBe([(Account.ClientDeposits, 1520), (Account.CardClearing, -520), (Account.ClientAccounts, -1000)]);
        Sides(LedgerEntry.OfCashGiven(1000)).ShouldBe([(Account.ClientAccounts, 1000), (Account.Cash, -1000)]);
        Should.Throw<ArgumentException>(() => LedgerEntry.OfFee(new CancellationFee(0, 0, 0, 0, 1520, false), [back[0]]));
    }

    [Fact]
    public void Whatever_is_paid_kept_and_given_back_each_payment_gives_back_at_most_itself_and_in_all_it_adds_up()
    {
        Random random = new(9);
        for (int world = 0; world < 20_000; world++)
        {
            List<DepositPart> parts = [];
            long held = 0,
                kept = 0,
                back = 0;
            for (int step = 0; step < 8; step++)
            {
                if (random.Next(2) == 0)
                {
                    long paid = random.Next(1, 5000);
                    parts.Add(Part(Guid.NewGuid(), random.Next(2) == 0 ? PaymentWay.Cash : PaymentWay.Terminal, paid));
                    held += paid;
                    continue;
                }

                // A fee is kept, and some of the rest goes back.
                long fee = random.NextInt64(held + 1),
                    refund = random.NextInt64(held - fee + 1);
                IReadOnlyList<GivenBack> given = Deposits.Back(parts, refund);
                given.Sum(one => one.Amount).ShouldBe(refund);
                given.ShouldAllBe(one => one.Amount > 0);
                foreach (GivenBack one in given)
                {
                    int place = parts.FindIndex(part => part.PaymentId == one.PaymentId);
                    one.Way.ShouldBe(parts[place].Way);
                    parts[place] = parts[place] with { GivenBack = parts[place].GivenBack + one.Amount };
                }

                // Of a payment something goes back only once all of every later one has.
                foreach (GivenBack one in given)
                    parts.SkipWhile(part => part.PaymentId != one.PaymentId).Skip(1).ShouldAllBe(later => later.GivenBack == later.Paid);
                held -= fee + refund;
                kept += fee;
                back += refund;
            }

            parts.ShouldAllBe(part => part.GivenBack >= 0 && part.GivenBack <= part.Paid);
            parts.Sum(part => part.Paid).ShouldBe(held + kept + back);
        }
    }

    private static (Account, long)[] Sides(LedgerEntry entry) => [.. entry.Postings.Select(posting => (posting.Account, posting.Amount))];
}
