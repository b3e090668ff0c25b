using CsCheck;
using Kingcup.Core.Money;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>What a sale posts (rules, section 12).</summary>
public sealed class SaleTests
{
    private const int Treatments = 1350,
        Goods = 2300;

    private static SoldLine Service(long list, long? paid = null) => new(SoldKind.Service, list, paid ?? list, Treatments);

    private static Dictionary<Account, long> Posted(Sale sale, params Tender[] paid) =>
        sale.Entry(paid).Postings.ToDictionary(posting => posting.Account, posting => posting.Amount);

    [Fact]
    public void Example_12a_done() =>
        Posted(new Sale([Service(8400)]), new Tender(Account.Cash, 5880), new Tender(Account.ClientDeposits, 2520)).ShouldBe(
            new Dictionary<Account, long>
            {
                [Account.Cash] = 5880,
                [Account.ClientDeposits] = 2520,
                [Account.TaxPayable] = -999,
                [Account.ServiceIncome] = -7401,
            },
            ignoreOrder: true
        );

    [Fact]
    public void Example_12c_a_credit_is_used() =>
        Posted(new Sale([SoldLine.ByCredit(7242, Treatments)])).ShouldBe(
            new Dictionary<Account, long>
            {
                [Account.PackageLiability] = 7242,
                [Account.TaxPayable] = -861,
                [Account.ServiceIncome] = -6381,
            },
            ignoreOrder: true
        );

    [Fact]
    public void Example_12d()
    {
        Sale sale = new(
            [
                Service(8400, 7140),
                Service(950, 807),
                SoldLine.ByCredit(4000, Treatments),
                new SoldLine(SoldKind.Product, 650, 650, Goods),
                new SoldLine(SoldKind.Product, 650, 650, Goods),
            ],
            Tips: 800
        );
        sale.Due.ShouldBe(2520 + 2000 + 5527);
        // 9.45 and 4.76 in what was done, 2.43 in what was sold: each line's share of its rate.
        IReadOnlyList<long> taxes = sale.Taxes();
        (taxes[0] + taxes[1], taxes[2], taxes[3] + taxes[4]).ShouldBe((945, 476, 243));
        Posted(
                sale,
                new Tender(Account.ClientDeposits, 2520),
                new Tender(Account.GiftCardsOutstanding, 2000),
                new Tender(Account.CardClearing, 5527)
            )
            .ShouldBe(
                new Dictionary<Account, long>
                {
                    [Account.ClientDeposits] = 2520,
                    [Account.GiftCardsOutstanding] = 2000,
                    [Account.CardClearing] = 5527,
                    [Account.PackageLiability] = 4000,
                    [Account.Discounts] = 1236,
                    [Account.ServiceIncome] = -8238 - 3524,
                    [Account.ProductIncome] = -1057,
                    [Account.TaxPayable] = -945 - 476 - 243,
                    [Account.TipsPayable] = -800,
                },
                ignoreOrder: true
            );
    }

    [Fact]
    public void What_is_not_paid_as_it_is_due_is_not_posted() =>
        Should.Throw<ArgumentException>(() => new Sale([Service(8400)]).Entry([new Tender(Account.Cash, 8399)]));

    [Fact]
    public void Whatever_is_sold_the_tax_is_that_of_each_rate_and_what_was_taken_off_is_off_to_the_cent() =>
        (
            from kind in Gen.Enum<SoldKind>()
            from list in Gen.Long[0, 30_000]
            from off in Gen.Long[0, 30_000]
            from rate in Gen.OneOfConst(0, 900, Treatments, Goods)
            from credit in Gen.Bool
            select credit ? SoldLine.ByCredit(list, rate) : new SoldLine(kind, list, list - Math.Min(off, list), rate)
        )
            .Array[0, 8]
            .Select(Gen.Long[0, 5_000])
            .Sample(world =>
            {
                (SoldLine[] lines, long tips) = world;
                Sale sale = new(lines, tips);
                IReadOnlyList<long> taxes = sale.Taxes();
                foreach (IGrouping<int, (SoldLine Line, long Tax)> rate in lines.Zip(taxes).GroupBy(line => line.First.TaxBasisPoints))
                {
                    decimal paid = rate.Sum(line => line.Line.Paid);
                    decimal exact = paid * rate.Key / (10_000 + rate.Key);
                    rate.Sum(line => line.Tax).ShouldBe((long)Math.Floor(exact + 0.5m));
                }

                LedgerEntry entry = sale.Entry(sale.Due == 0 ? [] : [new Tender(Account.Cash, sale.Due)]);
                entry.Postings.Sum(posting => posting.Amount).ShouldBe(0);
                // Without tax, what was taken off is the list less what was paid, but for a cent of each rate, kind and way.
                decimal net = lines.Sum(line => (line.List - line.Paid) * 10_000m / (10_000 + line.TaxBasisPoints));
                long discounts = entry.Postings.SingleOrDefault(posting => posting.Account == Account.Discounts)?.Amount ?? 0;
                int groups = lines.Select(line => (line.Kind, line.TaxBasisPoints, line.IsByCredit)).Distinct().Count();
                Math.Abs(discounts - net).ShouldBeLessThanOrEqualTo(groups);
            });
}
