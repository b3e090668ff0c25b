using NodaTime;

namespace Kingcup.Core.Money;

/// <summary>What cancelling costs from some hours before the start on.</summary>
/// <param name="Hours">At least so many hours before the start; exactly so many belong to it.</param>
/// <param name="Percent">The fee in whole percent of the price, 0 to 100.</param>
/// <param name="LosesCredit">Whether a package credit is lost.</param>
public sealed record CancellationTier(int Hours, int Percent, bool LosesCredit = false);

/// <summary>What cancelling and not coming cost (rules, section 9).</summary>
public sealed record CancellationPolicy
{
    /// <summary>Nothing ever.</summary>
    public static CancellationPolicy None { get; } = new();

    /// <summary>The tiers, in any order.</summary>
    public IReadOnlyList<CancellationTier> Tiers { get; init; } = [];

    /// <summary>What it costs later than every tier.</summary>
    public CancellationTier Below { get; init; } = new(0, 0);

    /// <summary>What it costs not to come.</summary>
    public CancellationTier NoShow { get; init; } = new(0, 0);

    /// <summary>Least hours before the start at which a visit is moved as a visit is moved; later it counts as cancelled.</summary>
    public int MoveNoticeHours { get; init; }

    /// <summary>How many moves are free; null for any number.</summary>
    public int? FreeMoves { get; init; }

    /// <summary>What cancelling costs at a moment: the tier of the most hours that are still left. The client gets the benefit of the
    /// boundary, by the clock that never changes.</summary>
    public CancellationTier TierAt(Instant start, Instant at)
    {
        Duration left = start - at;
        return Tiers.Where(tier => Duration.FromHours(tier.Hours) <= left).MaxBy(tier => tier.Hours) ?? Below;
    }

    /// <summary>Whether moving a visit counts as cancelling it.</summary>
    /// <param name="start">When it would have begun.</param>
    /// <param name="at">When it is moved.</param>
    /// <param name="moves">How often the client has moved it before.</param>
    public bool CountsAsCancelling(Instant start, Instant at, int moves) =>
        start - at < Duration.FromHours(MoveNoticeHours) || (FreeMoves is { } free && moves >= free);

    /// <summary>
    /// From when on cancelling costs what, the earliest first: what a line over time shows. Each stretch lasts until the next; the last
    /// ends with the start.
    /// </summary>
    public IReadOnlyList<(Instant? From, CancellationTier Tier)> Over(Instant start)
    {
        List<(Instant? From, CancellationTier Tier)> over = [];
        // Exactly so many hours before still belongs to the tier: what is next begins right after.
        Instant? from = null;
        foreach (CancellationTier tier in Tiers.OrderByDescending(tier => tier.Hours))
        {
            over.Add((from, tier));
            from = start - Duration.FromHours(tier.Hours);
        }

        over.Add((from, Below));
        return over;
    }
}

/// <summary>Where a fee comes from, and what goes back (rules, section 9): minor units.</summary>
/// <param name="Fee">The fee.</param>
/// <param name="FromDeposit">What is kept of the deposit.</param>
/// <param name="FromCard">What is taken from the card on file.</param>
/// <param name="Owed">What stays owed.</param>
/// <param name="Refund">What of the deposit goes back the way it came.</param>
/// <param name="LosesCredit">Whether a package credit is lost.</param>
public sealed record CancellationFee(long Fee, long FromDeposit, long FromCard, long Owed, long Refund, bool LosesCredit)
{
    /// <summary>What cancelling costs the client at a moment.</summary>
    public static CancellationFee Of(CancellationPolicy policy, Instant start, Instant at, PaidSoFar paid)
    {
        ArgumentNullException.ThrowIfNull(policy);
        return Of(policy.TierAt(start, at), paid);
    }

    /// <summary>What it costs not to come.</summary>
    public static CancellationFee OfNoShow(CancellationPolicy policy, PaidSoFar paid)
    {
        ArgumentNullException.ThrowIfNull(policy);
        return Of(policy.NoShow, paid);
    }

    /// <summary>
    /// What it costs the client to move their visit: nothing, unless that counts as cancelling. What is left of the deposit stays with the
    /// visit.
    /// </summary>
    /// <param name="policy">The policy.</param>
    /// <param name="start">When it would have begun.</param>
    /// <param name="at">When it is moved.</param>
    /// <param name="moves">How often the client has moved it before.</param>
    /// <param name="paid">What it costs, and what has been given for it.</param>
    public static CancellationFee OfMove(CancellationPolicy policy, Instant start, Instant at, int moves, PaidSoFar paid)
    {
        ArgumentNullException.ThrowIfNull(policy);
        return policy.CountsAsCancelling(start, at, moves)
            ? Of(policy, start, at, paid) with { Refund = 0 }
            : new CancellationFee(0, 0, 0, 0, 0, false);
    }

    /// <summary>What it costs the client that the business cancels: nothing, ever.</summary>
    public static CancellationFee ByBusiness(PaidSoFar paid) => Of(new CancellationTier(0, 0), paid);

    private static CancellationFee Of(CancellationTier tier, PaidSoFar paid)
    {
        ArgumentNullException.ThrowIfNull(paid);
        long fee = paid.Lines.Sum(line => Percent.Of(line, tier.Percent)),
            kept = Math.Min(fee, paid.Deposit),
            rest = fee - kept;
        return new CancellationFee(
            fee,
            kept,
            paid.HasCard ? rest : 0,
            paid.HasCard ? 0 : rest,
            paid.Deposit - kept,
            tier.LosesCredit
        );
    }
}

/// <summary>What a visit costs, and what has been given for it.</summary>
/// <param name="Lines">The price of each line after discounts and credits, in minor units.</param>
/// <param name="Deposit">The deposit that is held, in minor units.</param>
/// <param name="HasCard">Whether a card is on file.</param>
public sealed record PaidSoFar(IReadOnlyList<long> Lines, long Deposit, bool HasCard);
