namespace Kingcup.Core.Money;

/// <summary>What is sold.</summary>
public enum SoldKind
{
    /// <summary>A service that was done, or an add-on to one.</summary>
    Service,

    /// <summary>A product.</summary>
    Product,
}

/// <summary>A line of a sale, tax included.</summary>
/// <param name="Kind">What is sold.</param>
/// <param name="List">What it costs at list price, in minor units, not negative.</param>
/// <param name="Paid">What is paid for it, in minor units: the list price less what was taken off, not negative.</param>
/// <param name="TaxBasisPoints">The tax in it, in hundredths of a percent.</param>
public sealed record SoldLine(SoldKind Kind, long List, long Paid, int TaxBasisPoints)
{
    /// <summary>Whether a credit of a package pays for it; what it costs is then the part of the package's price that the credit
    /// carries.</summary>
    public bool IsByCredit { get; private init; }

    /// <summary>A service that a credit pays for.</summary>
    /// <param name="part">The part of the package's price that the credit carries, in minor units.</param>
    /// <param name="taxBasisPoints">The tax in it; 0 where it was due when the package was sold.</param>
    public static SoldLine ByCredit(long part, int taxBasisPoints) =>
        new(SoldKind.Service, part, part, taxBasisPoints) { IsByCredit = true };
}

/// <summary>Something that is paid, and what it is paid from.</summary>
/// <param name="From">The account that gives it: cash, card clearing, deposits held, gift cards, a client's account.</param>
/// <param name="Amount">Minor units, more than 0.</param>
public sealed record Tender(Account From, long Amount);

/// <summary>A sale at the till (rules, section 12).</summary>
/// <param name="Lines">What is sold, in order.</param>
/// <param name="Tips">What is given to the practitioners besides, in minor units.</param>
public sealed record Sale(IReadOnlyList<SoldLine> Lines, long Tips = 0)
{
    /// <summary>What is to be paid, in minor units: what credits pay for is paid already.</summary>
    public long Due => Lines.Where(line => !line.IsByCredit).Sum(line => line.Paid) + Tips;

    /// <summary>
    /// The tax of each line, in minor units: worked out for each rate over the whole sale, rounded half up, and spread over its lines by
    /// largest remainder.
    /// </summary>
    public IReadOnlyList<long> Taxes()
    {
        long[] taxes = new long[Lines.Count];
        foreach (IGrouping<int, int> rate in Enumerable.Range(0, Lines.Count).GroupBy(i => Lines[i].TaxBasisPoints))
        {
            long[] paid = [.. rate.Select(i => Lines[i].Paid)];
            foreach ((int i, long tax) in rate.Zip(Shares.Of(PricedLine.TaxIn(paid.Sum(), rate.Key), paid)))
                taxes[i] = tax;
        }

        return taxes;
    }

    /// <summary>
    /// What it posts: income at list price without tax, what was taken off in an account of its own, which also takes the cent that
    /// rounding leaves, the credits that are used up, and what pays for the rest.
    /// </summary>
    /// <param name="paid">What pays for it.</param>
    /// <exception cref="ArgumentException">It is not what is to be paid.</exception>
    public LedgerEntry Entry(IReadOnlyList<Tender> paid)
    {
        ArgumentNullException.ThrowIfNull(paid);
        long given = paid.Sum(tender => tender.Amount);
        if (given != Due) throw new ArgumentException($"{Due} is to be paid, not {given}.", nameof(paid));
        List<(Account Account, long Amount)> sides =
        [
            .. paid.Select(tender => (tender.From, tender.Amount)),
            (Account.PackageLiability, Lines.Where(line => line.IsByCredit).Sum(line => line.Paid)),
            (Account.TaxPayable, -Taxes().Sum()),
            (Account.TipsPayable, -Tips),
        ];
        foreach (var sold in Lines.GroupBy(line => (line.Kind, line.TaxBasisPoints, line.IsByCredit)))
        {
            long list = sold.Sum(line => line.List);
            sides.Add((IncomeOf(sold.Key.Kind), -(list - PricedLine.TaxIn(list, sold.Key.TaxBasisPoints))));
        }

        sides.Add((Account.Discounts, -sides.Sum(side => side.Amount)));
        return LedgerEntry.Of(sides);
    }

    private static Account IncomeOf(SoldKind kind) => kind == SoldKind.Product ? Account.ProductIncome : Account.ServiceIncome;
}
