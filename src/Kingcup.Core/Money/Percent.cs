namespace Kingcup.Core.Money;

/// <summary>Shares of sums of money in whole percent (rules, section 8).</summary>
public static class Percent
{
    /// <summary>So many percent of a sum, rounded half up.</summary>
    /// <param name="amount">Minor units, not negative.</param>
    /// <param name="percent">Whole percent, not negative.</param>
    /// <returns>Minor units.</returns>
    public static long Of(long amount, int percent)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(amount);
        ArgumentOutOfRangeException.ThrowIfNegative(percent);
        // Taken apart first, so that no sum is too great for it.
        return (amount / 100 * percent) + (((amount % 100 * percent) + 50) / 100);
    }
}
