namespace Kingcup.Core.Money;

/// <summary>Sums of money split in parts (rules, section 8).</summary>
public static class Shares
{
    /// <summary>Splits a sum in proportion to weights, by the largest remainder: what whole units leave over goes one each to the parts
    /// that were cut most, the earlier first where two were cut alike.</summary>
    /// <param name="sum">Minor units, not negative.</param>
    /// <param name="weights">A weight for each part, none negative; where all are 0, so is the sum.</param>
    /// <returns>A share for each weight, in minor units; together they are the sum.</returns>
    /// <exception cref="ArgumentException">There is something to split, and nobody to give it to.</exception>
    public static IReadOnlyList<long> Of(long sum, IReadOnlyList<long> weights)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(sum);
        ArgumentNullException.ThrowIfNull(weights);
        foreach (long weight in weights)
            ArgumentOutOfRangeException.ThrowIfNegative(weight);
        Int128 all = weights.Aggregate(Int128.Zero, (total, weight) => total + weight);
        if (all == 0)
            return sum == 0 ? [.. weights] : throw new ArgumentException("There is no part to give it to.", nameof(weights));
        long[] shares = [.. weights.Select(weight => (long)(sum * (Int128)weight / all))];
        int left = (int)(sum - shares.Sum());
        // The order is stable, so that the earlier of two that were cut alike comes first.
        foreach (int i in Enumerable.Range(0, shares.Length).OrderByDescending(i => sum * (Int128)weights[i] % all).Take(left))
            shares[i]++;
        return shares;
    }
}
