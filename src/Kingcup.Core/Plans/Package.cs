using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Core.Plans;

/// <summary>What a credit pays for: one service, or any service of a category up to a list price (rules, section 10).</summary>
public sealed record CreditScope
{
    private CreditScope(Guid? serviceId, Guid? categoryId, long? upTo) => (ServiceId, CategoryId, UpTo) = (serviceId, categoryId, upTo);

    /// <summary>The one service, or null where it is a category.</summary>
    public Guid? ServiceId { get; }

    /// <summary>The category, or null where it is one service.</summary>
    public Guid? CategoryId { get; }

    /// <summary>The most a service of the category may cost at list price, in minor units; null for any.</summary>
    public long? UpTo { get; }

    /// <summary>One service.</summary>
    public static CreditScope OfService(Guid serviceId) => new(serviceId, null, null);

    /// <summary>Any service of a category.</summary>
    /// <param name="categoryId">The category.</param>
    /// <param name="upTo">The most it may cost at list price, in minor units, at least 0; null for any.</param>
    public static CreditScope OfCategory(Guid categoryId, long? upTo = null)
    {
        if (upTo is { } most) ArgumentOutOfRangeException.ThrowIfNegative(most, nameof(upTo));
        return new CreditScope(null, categoryId, upTo);
    }

    /// <summary>Whether it pays for a service.</summary>
    public bool Covers(ServiceToPay service)
    {
        ArgumentNullException.ThrowIfNull(service);
        return ServiceId is { } one ? service.ServiceId == one : service.CategoryId == CategoryId && !(service.ListPrice > UpTo);
    }

    /// <summary>How many other services it would do for: one service comes before a category, and what is bounded before what is
    /// not.</summary>
    internal (bool IsCategory, long UpTo) Breadth => (ServiceId is null, UpTo ?? long.MaxValue);
}

/// <summary>A service somebody has to pay for.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="CategoryId">Its category.</param>
/// <param name="ListPrice">What it costs at list price, in minor units.</param>
public sealed record ServiceToPay(Guid ServiceId, Guid CategoryId, long ListPrice);

/// <summary>Some credits of a package.</summary>
/// <param name="For">What each pays for.</param>
/// <param name="Count">How many, at least 1.</param>
/// <param name="ListPrice">What each would cost by itself, in minor units: by it the price of the package is spread.</param>
public sealed record PackageItem(CreditScope For, int Count, long ListPrice);

/// <summary>From when on a package is valid.</summary>
public enum ValidFrom
{
    /// <summary>From the day it is bought.</summary>
    Purchase,

    /// <summary>From the day its first credit is used; until then it does not run out.</summary>
    FirstUse,
}

/// <summary>What goes back of a package whose rest is given up.</summary>
public enum PackageRefund
{
    /// <summary>The price less what was used at list price, and not below 0.</summary>
    LessUsedAtList,

    /// <summary>The parts of the price that belong to what was not used.</summary>
    PartsLeft,
}

/// <summary>A package as it is sold (rules, section 10).</summary>
public sealed record Package
{
    /// <summary>What it costs, in minor units.</summary>
    public required long Price { get; init; }

    /// <summary>What it is made of, in order.</summary>
    public required IReadOnlyList<PackageItem> Items { get; init; }

    /// <summary>How long it is valid; null for ever.</summary>
    public Period? ValidFor { get; init; }

    /// <summary>From when on that runs.</summary>
    public ValidFrom ValidFrom { get; init; }

    /// <summary>What goes back of the unused.</summary>
    public PackageRefund Refund { get; init; }

    /// <summary>
    /// The part of the price that each credit carries, item by item: in proportion to list price, by largest remainder, so that together
    /// they are exactly the price. Where nothing in it costs anything by itself, each carries the same.
    /// </summary>
    /// <returns>A part for each credit, in minor units, in order of the items.</returns>
    public IReadOnlyList<long> Parts()
    {
        long[] weights = [.. Items.SelectMany(item => Enumerable.Repeat(item.ListPrice, item.Count))];
        return Shares.Of(Price, weights.All(weight => weight == 0) ? [.. weights.Select(_ => 1L)] : weights);
    }

    /// <summary>The last date on which a credit pays for a visit, or null for ever.</summary>
    /// <param name="bought">When it was bought, by the clock of the location.</param>
    /// <param name="firstUsed">The date of the first visit a credit paid for, or null.</param>
    public LocalDate? LastDay(LocalDate bought, LocalDate? firstUsed) =>
        (ValidFrom == ValidFrom.Purchase ? bought : firstUsed) is { } from && ValidFor is { } length ? from + length : null;

    /// <summary>What goes back when the rest is given up, in minor units.</summary>
    /// <param name="credits">All of its credits. What has run out counts as used.</param>
    public long RefundOf(IEnumerable<SoldCredit> credits)
    {
        ArgumentNullException.ThrowIfNull(credits);
        List<SoldCredit> all = [.. credits];
        return Refund == PackageRefund.PartsLeft
            ? all.Where(credit => credit.IsLeft).Sum(credit => credit.Part)
            : Math.Max(0, Price - all.Where(credit => !credit.IsLeft).Sum(credit => credit.ListPrice));
    }
}

/// <summary>A credit of a package that was sold.</summary>
/// <param name="Part">What of the price it carries, in minor units.</param>
/// <param name="ListPrice">What it would cost by itself, in minor units, as it was when it was sold.</param>
/// <param name="IsLeft">Whether it can still be used.</param>
public sealed record SoldCredit(long Part, long ListPrice, bool IsLeft);
