using Kingcup.Core.Business;
using Kingcup.Core.Money;
using Kingcup.Core.Plans;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Plans;

/// <summary>What became of the promo code a client named.</summary>
/// <param name="Code">The code, as it is kept.</param>
/// <param name="Off">What it takes off.</param>
/// <param name="Fault">Why it takes nothing off, in words; null where it does.</param>
public sealed record PublicPromo(string Code, MoneyAnswer Off, string? Fault);

/// <summary>What a promo code has taken off a visit.</summary>
/// <param name="Code">The code.</param>
/// <param name="Off">What it takes off.</param>
public sealed record VisitPromo(string Code, MoneyAnswer Off);

/// <summary>A price with a promo code tried on it.</summary>
/// <param name="Price">The price, with what the code takes off.</param>
/// <param name="Said">What is said of the code; null where none was named.</param>
internal sealed record PromoTried(VisitPrice Price, PublicPromo? Said)
{
    /// <summary>The price.</summary>
    /// <exception cref="Refused">The code takes nothing off.</exception>
    internal VisitPrice Required() => Said?.Fault is { } fault ? throw Refused.Invalid("promo", Say($"{fault}")) : Price;
}

/// <summary>Asks the core what promo codes take off.</summary>
internal static class Promos
{
    /// <summary>Most characters of what somebody types as a code.</summary>
    internal const int LongestTyped = 60;

    private const int MostNamed = 3;

    /// <summary>Tries what a client has typed on the price of a visit.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="typed">What was typed; nothing for no code.</param>
    /// <param name="price">What the visit costs without it.</param>
    /// <param name="services">The service of each line.</param>
    /// <param name="locationId">Where, or null while that is not chosen.</param>
    /// <param name="start">When it begins, or null while that is not chosen.</param>
    /// <param name="now">The present.</param>
    internal static PromoTried Try(
        Setup setup,
        string? typed,
        VisitPrice price,
        IReadOnlyList<Guid> services,
        Guid? locationId,
        Instant? start,
        Instant now
    )
    {
        string code = Promo.Normal(typed ?? "");
        if (code.Length == 0) return new PromoTried(price, null);
        DateTimeZone zone = (locationId is { } id ? setup.HouseOf(id) : null)?.Location.Zone ?? setup.Houses.First().Location.Zone;
        LocalDate On(Instant at) => at.InZone(zone).Date;
        Promo? promo = setup.Parts.Promos.FirstOrDefault(listed => listed.Promo.Code == code)?.Promo;
        Sentence? fault = promo is null
            ? Say($"We know no such code. Look at how it is written.")
            : promo.FaultFor(On(now), start is { } at ? On(at) : null, services) is { } why ? Words(setup, promo, why) : null;
        VisitPrice paid = fault is null ? promo!.Off(price, services) : price;
        return new PromoTried(
            paid,
            new PublicPromo(code, new MoneyAnswer(price.Total - paid.Total, setup.Business.Currency), fault is null ? null : (string)fault)
        );
    }

    /// <summary>
    /// A price laid anew with what the codes take off that the visit was booked with; what stays as agreed is left alone.
    /// </summary>
    internal static VisitPrice Again(
        Setup setup,
        VisitPrice agreed,
        VisitPrice laid,
        IReadOnlyList<Guid> services,
        Func<int, Guid?, bool> stays
    ) => Of(setup, agreed).Aggregate(laid, (price, promo) => promo.Off(price, services, stays));

    /// <summary>What is said of the codes a visit was booked with; null for none.</summary>
    internal static VisitPromo? Told(Setup setup, VisitPrice price) =>
        price.Promos.Count == 0
            ? null
            : new VisitPromo(
                string.Join(", ", Of(setup, price).Select(promo => promo.Code)),
                new MoneyAnswer(price.OffByPromo, setup.Business.Currency)
            );

    /// <summary>Whether a price was agreed with the code that is named, or without one where none is.</summary>
    internal static bool IsWith(Setup setup, VisitPrice price, string? typed) =>
        Of(setup, price).Select(promo => promo.Code).SequenceEqual(Promo.Normal(typed ?? "") is { Length: > 0 } code ? [code] : []);

    /// <summary>The codes of a price; one that was made after the setup was read is not among them.</summary>
    private static IEnumerable<Promo> Of(Setup setup, VisitPrice price) =>
        from id in price.Promos
        join listed in setup.Parts.Promos on id equals listed.Promo.Id
        select listed.Promo;

    private static Sentence Words(Setup setup, Promo promo, PromoFault fault) =>
        fault switch
        {
            PromoFault.OtherServices => Services(setup, promo) is { Count: > 0 and <= MostNamed } named
                ? Say($"This code is for {List(named)}.")
                : Say($"This code is for other services."),
            PromoFault.TooEarly => Say($"This code is for visits from {promo.From!.Value} on."),
            PromoFault.TooLate => Say($"This code is for visits until {promo.Until!.Value}."),
            _ => Say($"This code can no longer be used."),
        };

    /// <summary>The services a code holds for, as everybody may know them.</summary>
    private static List<string> Services(Setup setup, Promo promo) =>
        [
            .. setup
                .Services.Where(listed => promo.Services.Contains(listed.Service.Id) && listed.Service.Visibility == Visibility.Everyone)
                .Select(listed => listed.OnlineName ?? listed.Service.Name),
        ];
}
