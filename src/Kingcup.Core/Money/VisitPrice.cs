using Kingcup.Core.Services;

namespace Kingcup.Core.Money;

/// <summary>What a part of a price comes from (rules, section 8).</summary>
public enum PricePartKind
{
    /// <summary>The list price of the service; of an hour where it is priced by the hour.</summary>
    List,

    /// <summary>What the practitioner's own price adds or takes off.</summary>
    Own,

    /// <summary>What the form of the price adds or takes off: by the hour, free, on request.</summary>
    Form,

    /// <summary>What an add-on costs, all of them together.</summary>
    AddOn,

    /// <summary>What a promo code takes off the service, or off the add-on it names.</summary>
    Promo,
}

/// <summary>One part of the price of a line.</summary>
/// <param name="Kind">What it comes from.</param>
/// <param name="Amount">Minor units; what takes off is negative.</param>
/// <param name="AddOnId">The add-on, where it is one's.</param>
public sealed record PricePart(PricePartKind Kind, long Amount, Guid? AddOnId = null)
{
    /// <summary>The promo code, where it is what one takes off.</summary>
    public Guid? PromoId { get; init; }

    /// <summary>Whether it belongs to an add-on rather than to the service.</summary>
    public bool IsOfAddOn => Kind == PricePartKind.AddOn || AddOnId is not null;
}

/// <summary>A line somebody asks the price of.</summary>
/// <param name="Service">The service.</param>
/// <param name="Leads">Who may take the lead role: one where that is settled, several where it is open, none where nobody is known.</param>
public sealed record LineToPrice(Service Service, IReadOnlyList<Guid> Leads)
{
    /// <summary>What is added to it, and how many of each.</summary>
    public IReadOnlyList<(AddOn AddOn, int Count)> AddOns { get; init; } = [];

    /// <summary>The tax in its price, in hundredths of a percent.</summary>
    public int TaxBasisPoints { get; init; }

    /// <summary>The length that was set by hand, without add-ons, in minutes; null where the service or whoever leads says it. It counts
    /// where the price is by the hour.</summary>
    public int? SetMinutes { get; init; }
}

/// <summary>The price of a line, part by part.</summary>
/// <param name="Parts">The parts; they add up to what it costs.</param>
/// <param name="TaxBasisPoints">The tax in it, in hundredths of a percent.</param>
public sealed record PricedLine(IReadOnlyList<PricePart> Parts, int TaxBasisPoints = 0)
{
    /// <summary>Whether it is the least it may cost rather than what it costs.</summary>
    public bool IsFrom { get; init; }

    /// <summary>What the service costs without add-ons, in minor units.</summary>
    public long OfService => Parts.Where(part => !part.IsOfAddOn).Sum(part => part.Amount);

    /// <summary>What the add-ons cost, in minor units.</summary>
    public long OfAddOns => Parts.Where(part => part.IsOfAddOn).Sum(part => part.Amount);

    /// <summary>What one add-on costs, all of it, in minor units.</summary>
    public long OfAddOn(Guid addOnId) => Parts.Where(part => part.AddOnId == addOnId).Sum(part => part.Amount);

    /// <summary>What the line costs, in minor units, tax included.</summary>
    public long Total => OfService + OfAddOns;

    /// <summary>The tax in <see cref="Total"/>, in minor units, rounded half up.</summary>
    public long Tax => TaxIn(Total, TaxBasisPoints);

    /// <summary>The tax in a sum, rounded half up.</summary>
    /// <param name="total">Minor units, tax included, not negative.</param>
    /// <param name="basisPoints">The rate, in hundredths of a percent.</param>
    internal static long TaxIn(long total, int basisPoints)
    {
        long whole = 10_000L + basisPoints;
        return ((total * basisPoints * 2) + whole) / (whole * 2);
    }
}

/// <summary>
/// The price of a visit, line by line and part by part (rules, section 8), in integer minor units. Desk, booking page, moves, the
/// search and the picture of a day all ask this.
/// </summary>
/// <param name="Lines">Its lines in order.</param>
public sealed record VisitPrice(IReadOnlyList<PricedLine> Lines)
{
    /// <summary>What the visit costs, in minor units, tax included.</summary>
    public long Total => Lines.Sum(line => line.Total);

    /// <summary>What promo codes take off it, in minor units, not negative.</summary>
    public long OffByPromo => -AllParts.Where(part => part.Kind == PricePartKind.Promo).Sum(part => part.Amount);

    /// <summary>The promo codes that take something off, in order of the lines.</summary>
    public IReadOnlyList<Guid> Promos => [.. AllParts.Select(part => part.PromoId).OfType<Guid>().Distinct()];

    /// <summary>Whether it is the least it may cost rather than what it costs.</summary>
    public bool IsFrom => Lines.Any(line => line.IsFrom);

    private IEnumerable<PricePart> AllParts => Lines.SelectMany(line => line.Parts);

    /// <summary>What a visit costs.</summary>
    public static VisitPrice Of(IEnumerable<LineToPrice> lines) => new([.. lines.Select(Of)]);

    /// <summary>What a line costs: with the least of those who may take it, where that is open.</summary>
    public static PricedLine Of(LineToPrice line)
    {
        ArgumentNullException.ThrowIfNull(line);
        List<PricedLine> prices =
        [
            .. (line.Leads.Count == 0 ? [null] : line.Leads.Select(lead => (Guid?)lead)).Select(lead => By(line, lead)),
        ];
        PricedLine least = prices.MinBy(price => price.Total)!;
        return least with { IsFrom = line.Service.PriceForm == PriceForm.From || prices.Any(price => price.Total != least.Total) };
    }

    /// <summary>A visit laid anew: lines that go on keep what was agreed, whatever has been changed of them costs what it costs
    /// now.</summary>
    /// <param name="fresh">What it would cost if it were booked now.</param>
    /// <param name="goesOn">For each line what was agreed for it, and whether its service still costs that; null for a new line. Add-ons
    /// of which there are as many as before stay as agreed.</param>
    public static VisitPrice Laid(
        VisitPrice fresh,
        IReadOnlyList<(PricedLine Agreed, bool ServiceStays, IReadOnlySet<Guid> AddOnsStay)?> goesOn
    )
    {
        ArgumentNullException.ThrowIfNull(fresh);
        return new([
            .. fresh.Lines.Zip(
                goesOn,
                (line, stays) => stays is { } on ? Laid(line, on.Agreed, on.ServiceStays, on.AddOnsStay) : line
            ),
        ]);
    }

    private static PricedLine Laid(PricedLine fresh, PricedLine agreed, bool serviceStays, IReadOnlySet<Guid> addOnsStay) =>
        new(
            [
                .. (serviceStays ? agreed : fresh).Parts.Where(part => !part.IsOfAddOn),
                .. fresh
                    .Parts.Where(part => part.IsOfAddOn)
                    .GroupBy(part => part.AddOnId!.Value)
                    .SelectMany(added =>
                        addOnsStay.Contains(added.Key) && agreed.Parts.Any(other => other.AddOnId == added.Key)
                            ? agreed.Parts.Where(other => other.AddOnId == added.Key)
                            : added
                    ),
            ],
            serviceStays ? agreed.TaxBasisPoints : fresh.TaxBasisPoints
        );

    /// <summary>What an add-on costs, all of them together.</summary>
    public static PricePart PartOf(AddOn addOn, int count)
    {
        ArgumentNullException.ThrowIfNull(addOn);
        return new PricePart(PricePartKind.AddOn, addOn.Price * count, addOn.Id);
    }

    private static long Minutes(LineToPrice line, Guid? lead) =>
        line.SetMinutes ?? (lead is { } by ? line.Service.MinutesBy(by) : line.Service.Minutes);

    private static PricedLine By(LineToPrice line, Guid? lead)
    {
        Service service = line.Service;
        long list = service.Price, price = lead is { } id && service.Terms.GetValueOrDefault(id)?.Price is { } own ? own : list;
        long formed = service.PriceForm switch
        {
            PriceForm.Free or PriceForm.OnRequest => 0,
            PriceForm.Hourly => ((price * Minutes(line, lead)) + 30) / 60,
            _ => price,
        };
        List<PricePart> parts = [new(PricePartKind.List, list)];
        if (price != list) parts.Add(new PricePart(PricePartKind.Own, price - list));
        if (formed != price) parts.Add(new PricePart(PricePartKind.Form, formed - price));
        parts.AddRange(line.AddOns.Select(added => PartOf(added.AddOn, added.Count)));
        return new PricedLine(parts, line.TaxBasisPoints);
    }
}
