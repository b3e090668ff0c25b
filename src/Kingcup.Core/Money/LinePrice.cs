using Kingcup.Core.Services;

namespace Kingcup.Core.Money;

/// <summary>What a line costs (rules, section 8), in integer minor units.</summary>
public static class LinePrice
{
    /// <summary>
    /// The list price, or the practitioner's own price where one is set, in the service's price form. Add-ons are not in it.
    /// </summary>
    /// <param name="service">The service.</param>
    /// <param name="leadPractitionerId">Who takes the lead role, or null when nobody is chosen yet.</param>
    /// <param name="minutes">Length of the line without add-ons; the usual one when null. Only an hourly price looks at it.</param>
    public static long Of(Service service, Guid? leadPractitionerId, int? minutes = null)
    {
        long price = leadPractitionerId is { } lead && service.Terms.GetValueOrDefault(lead)?.Price is { } own ? own : service.Price;
        return service.PriceForm switch
        {
            PriceForm.Free or PriceForm.OnRequest => 0,
            PriceForm.Hourly => ((price * (minutes ?? MinutesBy(service, leadPractitionerId))) + 30) / 60,
            _ => price,
        };
    }

    /// <summary>The least that anyone of <paramref name="leads"/> asks, and whether some ask more.</summary>
    public static (long From, bool Varies) Range(Service service, IEnumerable<Guid> leads)
    {
        List<long> prices = [.. leads.Select(lead => Of(service, lead)).Distinct()];
        bool varies = prices.Count > 1 || service.PriceForm == PriceForm.From;
        return prices.Count == 0 ? (Of(service, null), varies) : (prices.Min(), varies);
    }

    /// <summary>What add-ons cost together.</summary>
    public static long Of(IEnumerable<(AddOn AddOn, int Count)> addOns) => addOns.Sum(one => one.AddOn.Price * one.Count);

    private static int MinutesBy(Service service, Guid? lead) => lead is { } one ? service.MinutesBy(one) : service.Minutes;
}
