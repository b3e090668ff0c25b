using Kingcup.Core.Services;

namespace Kingcup.Core.Money;

/// <summary>What a line costs (rules, section 8), in integer minor units.</summary>
public static class LinePrice
{
    /// <summary>The list price, or the practitioner's own price where one is set.</summary>
    public static long Of(Service service, Guid? leadPractitionerId) =>
        leadPractitionerId is { } lead && service.Terms.GetValueOrDefault(lead)?.Price is { } own ? own : service.Price;

    /// <summary>The least that anyone of <paramref name="leads"/> asks, and whether some ask more.</summary>
    public static (long From, bool Varies) Range(Service service, IEnumerable<Guid> leads)
    {
        List<long> prices = [.. leads.Select(lead => Of(service, lead)).Distinct()];
        return prices.Count == 0 ? (service.Price, false) : (prices.Min(), prices.Count > 1);
    }
}
