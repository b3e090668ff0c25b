namespace Kingcup.Core.Money;

/// <summary>The accounts of the ledger (rules, section 12).</summary>
public enum Account
{
    /// <summary>What is in the drawers.</summary>
    Cash,

    /// <summary>What card payments are on their way to bring.</summary>
    CardClearing,

    /// <summary>Deposits held for visits to come: owed until the visit is completed, forfeited or refunded.</summary>
    ClientDeposits,

    /// <summary>What gift cards are still good for.</summary>
    GiftCardsOutstanding,

    /// <summary>Package credits that were paid and not used.</summary>
    PackageLiability,

    /// <summary>What of plans was charged and not earned.</summary>
    MembershipLiability,

    /// <summary>What clients owe, or have to their credit.</summary>
    ClientAccounts,

    /// <summary>Services done.</summary>
    ServiceIncome,

    /// <summary>Products sold.</summary>
    ProductIncome,

    /// <summary>Plans, as they are earned.</summary>
    MembershipIncome,

    /// <summary>Fees of cancelling late and not coming.</summary>
    Forfeits,

    /// <summary>Credits and gift cards that ran out.</summary>
    Breakage,

    /// <summary>What was taken off list prices.</summary>
    Discounts,

    /// <summary>Tax owed.</summary>
    TaxPayable,

    /// <summary>Tips owed to practitioners.</summary>
    TipsPayable,
}

/// <summary>One side of an entry.</summary>
/// <param name="Account">The account.</param>
/// <param name="Amount">Minor units: debit is positive, credit negative; never 0.</param>
public sealed record Posting(Account Account, long Amount);

/// <summary>
/// One movement of money as the ledger keeps it: what is taken from somewhere is given somewhere, so that its postings add up to
/// nothing. It is never changed; a mistake is reversed.
/// </summary>
public sealed record LedgerEntry
{
    private LedgerEntry(IReadOnlyList<Posting> postings) => Postings = postings;

    /// <summary>Its sides, one for each account.</summary>
    public IReadOnlyList<Posting> Postings { get; }

    /// <summary>An entry of what moves; what is nothing is left out, and what is of one account is one posting.</summary>
    /// <exception cref="ArgumentException">The sides do not add up to nothing.</exception>
    public static LedgerEntry Of(IEnumerable<(Account Account, long Amount)> sides)
    {
        ArgumentNullException.ThrowIfNull(sides);
        List<Posting> postings =
        [
            .. sides
                .GroupBy(side => side.Account)
                .Select(account => new Posting(account.Key, account.Sum(side => side.Amount)))
                .Where(posting => posting.Amount != 0),
        ];
        long rest = postings.Sum(posting => posting.Amount);
        if (rest != 0) throw new ArgumentException($"An entry has to add up to 0, not to {rest}.", nameof(sides));
        return new LedgerEntry(postings);
    }

    /// <summary>The entry that undoes this one.</summary>
    public LedgerEntry Reversed() => new([.. Postings.Select(posting => posting with { Amount = -posting.Amount })]);

    /// <summary>A deposit is taken: owed to the client until the visit.</summary>
    /// <param name="into">Cash or card clearing.</param>
    /// <param name="amount">Minor units.</param>
    public static LedgerEntry OfDeposit(Account into, long amount) => Of([(into, amount), (Account.ClientDeposits, -amount)]);

    /// <summary>
    /// A visit is cancelled, or the client did not come: what is kept of the deposit and taken from the card is forfeited, what is left
    /// owed stands on the client's account, and the rest of the deposit goes back the way it came.
    /// </summary>
    /// <param name="fee">What it costs.</param>
    /// <param name="cameBy">How the deposit was paid: cash or card clearing.</param>
    /// <param name="taxBasisPoints">The tax in the fee, in hundredths of a percent: 0 unless the location says so.</param>
    public static LedgerEntry OfFee(CancellationFee fee, Account cameBy, int taxBasisPoints = 0)
    {
        ArgumentNullException.ThrowIfNull(fee);
        return OfFee(fee, [(cameBy, fee.Refund)], taxBasisPoints);
    }

    /// <summary>The same where the deposit has come by several payments.</summary>
    /// <param name="fee">What it costs.</param>
    /// <param name="back">What goes back of each payment: the refund in all.</param>
    /// <param name="taxBasisPoints">The tax in the fee, in hundredths of a percent: 0 unless the location says so.</param>
    public static LedgerEntry OfFee(CancellationFee fee, IReadOnlyList<GivenBack> back, int taxBasisPoints = 0)
    {
        ArgumentNullException.ThrowIfNull(fee);
        return OfFee(fee, back.Select(one => (Deposits.BackFrom(one.Way), one.Amount)), taxBasisPoints);
    }

    private static LedgerEntry OfFee(CancellationFee fee, IEnumerable<(Account From, long Amount)> back, int taxBasisPoints)
    {
        long tax = PricedLine.TaxIn(fee.Fee, taxBasisPoints);
        return Of([
            (Account.ClientDeposits, fee.FromDeposit + fee.Refund),
            (Account.CardClearing, fee.FromCard),
            (Account.ClientAccounts, fee.Owed),
            .. back.Select(one => (one.From, -one.Amount)),
            (Account.Forfeits, -(fee.Fee - tax)),
            (Account.TaxPayable, -tax),
        ]);
    }

    /// <summary>A deposit goes back the way it came, while its visit stands.</summary>
    /// <param name="back">What goes back of each payment.</param>
    public static LedgerEntry OfReturn(IReadOnlyList<GivenBack> back) =>
        Of([
            (Account.ClientDeposits, back.Sum(one => one.Amount)),
            .. back.Select(one => (Deposits.BackFrom(one.Way), -one.Amount)),
        ]);

    /// <summary>Cash that stood to a client's credit was put into their hand.</summary>
    /// <param name="amount">Minor units.</param>
    public static LedgerEntry OfCashGiven(long amount) => Of([(Account.ClientAccounts, amount), (Account.Cash, -amount)]);

    /// <summary>The card on file was declined: what was to be taken from it stays owed on the client's account.</summary>
    /// <param name="amount">Minor units.</param>
    public static LedgerEntry OfDeclined(long amount) => Of([(Account.ClientAccounts, amount), (Account.CardClearing, -amount)]);
}
