using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Core.Plans;

/// <summary>How a promo code takes off.</summary>
public enum PromoKind
{
    /// <summary>So many percent of every service and add-on it holds for.</summary>
    Percent,

    /// <summary>A fixed sum of the whole visit.</summary>
    Fixed,
}

/// <summary>Why a promo code takes nothing off.</summary>
public enum PromoFault
{
    /// <summary>It can no longer be used.</summary>
    Over,

    /// <summary>It holds for other services.</summary>
    OtherServices,

    /// <summary>It holds for visits from a later date on.</summary>
    TooEarly,

    /// <summary>It holds for visits until an earlier date.</summary>
    TooLate,
}

/// <summary>A promo code: what a client who names it pays less (rules, section 8).</summary>
public sealed record Promo
{
    /// <summary>Fewest characters of a code.</summary>
    public const int Shortest = 3;

    /// <summary>Most characters of a code.</summary>
    public const int Longest = 24;

    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What the client types, as <see cref="Normal"/> writes it.</summary>
    public required string Code { get; init; }

    /// <summary>How it takes off.</summary>
    public required PromoKind Kind { get; init; }

    /// <summary>Whole percent from 1 to 100, or minor units from 1 on.</summary>
    public required long Value { get; init; }

    /// <summary>The services it holds for; empty for all.</summary>
    public IReadOnlySet<Guid> Services { get; init; } = new HashSet<Guid>();

    /// <summary>The first date of a visit it holds for, by the clock of the location; null for any.</summary>
    public LocalDate? From { get; init; }

    /// <summary>The last such date; null for any.</summary>
    public LocalDate? Until { get; init; }

    /// <summary>The last date on which it can be used to book, by the clock of the location; null for ever.</summary>
    public LocalDate? BookBy { get; init; }

    /// <summary>Whether it was ended by hand.</summary>
    public bool IsEnded { get; init; }

    /// <summary>A code as it is kept and compared: without spaces, in capitals.</summary>
    public static string Normal(string typed)
    {
        ArgumentNullException.ThrowIfNull(typed);
        return string.Concat(typed.Where(one => !char.IsWhiteSpace(one))).ToUpperInvariant();
    }

    /// <summary>Whether something can be a code: 3 to 24 letters from A to Z, digits and hyphens.</summary>
    /// <param name="code">As <see cref="Normal"/> writes it.</param>
    public static bool CanBeCode(string code)
    {
        ArgumentNullException.ThrowIfNull(code);
        return code.Length is >= Shortest and <= Longest
            && code.All(one => char.IsAsciiLetterUpper(one) || char.IsAsciiDigit(one) || one == '-');
    }

    /// <summary>Whether it holds for a service.</summary>
    public bool HoldsFor(Guid serviceId) => Services.Count == 0 || Services.Contains(serviceId);

    /// <summary>Why it takes nothing off a visit that is booked now, or null where it does.</summary>
    /// <param name="today">The date of the location now.</param>
    /// <param name="visit">The date of the visit there, or null while none is chosen.</param>
    /// <param name="services">The services of its lines.</param>
    public PromoFault? FaultFor(LocalDate today, LocalDate? visit, IEnumerable<Guid> services)
    {
        ArgumentNullException.ThrowIfNull(services);
        if (IsEnded || today > BookBy || today > Until) return PromoFault.Over;
        if (!services.Any(HoldsFor)) return PromoFault.OtherServices;
        if (visit < From) return PromoFault.TooEarly;
        return visit > Until ? PromoFault.TooLate : null;
    }

    /// <summary>
    /// A price with this taken off the lines it holds for. A percentage rounds half up on each service and each add-on; a fixed sum is
    /// split over them by largest remainder, and takes no more off than they cost. What stays as agreed is left alone, whatever was
    /// changed of the code since, and a fixed sum is spent by what it was taken off there.
    /// </summary>
    /// <param name="price">The price without it, or with it on some.</param>
    /// <param name="services">The service of each line.</param>
    /// <param name="stays">Whether the service of a line (null), or one of its add-ons, stays as agreed; null where nothing was.</param>
    /// <exception cref="ArgumentException">There are not as many services as lines.</exception>
    public VisitPrice Off(VisitPrice price, IReadOnlyList<Guid> services, Func<int, Guid?, bool>? stays = null)
    {
        ArgumentNullException.ThrowIfNull(price);
        ArgumentNullException.ThrowIfNull(services);
        if (price.Lines.Count != services.Count) throw new ArgumentException("A service for each line is needed.", nameof(services));
        // What is priced anew: the service of each line, and each add-on of it, in order.
        var open = (
            from i in Enumerable.Range(0, services.Count)
            where HoldsFor(services[i])
            from item in price.Lines[i].Parts.GroupBy(part => part.AddOnId)
            where stays?.Invoke(i, item.Key) != true
            select (Line: i, AddOnId: item.Key, Before: Math.Max(0, item.Sum(part => part.Amount)))
        ).ToList();
        long spent = -price.Lines.SelectMany(line => line.Parts).Where(part => part.PromoId == Id).Sum(part => part.Amount);
        long[] off =
            Kind == PromoKind.Percent
                ? [.. open.Select(item => Percent.Of(item.Before, (int)Value))]
                : [.. Fixed(spent, [.. open.Select(item => item.Before)])];
        ILookup<int, PricePart> added = open.Zip(off)
            .Where(item => item.Second > 0)
            .ToLookup(
                item => item.First.Line,
                item => new PricePart(PricePartKind.Promo, -item.Second, item.First.AddOnId) { PromoId = Id }
            );
        return new VisitPrice([.. price.Lines.Select((line, i) => line with { Parts = [.. line.Parts, .. added[i]] })]);
    }

    private IReadOnlyList<long> Fixed(long spent, long[] costs) => Shares.Of(Math.Min(Math.Max(0, Value - spent), costs.Sum()), costs);
}
