using Kingcup.Core.Availability;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Money;

/// <summary>Asks the core what is given for a visit.</summary>
internal static class Guarantees
{
    /// <summary>What the rules that are set ask for.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="locationId">Where the visit is.</param>
    /// <param name="services">The service of each line.</param>
    /// <param name="price">What its lines cost.</param>
    /// <param name="question">Who books it, and when it begins.</param>
    /// <param name="own">What is asked of this client whatever they book, or null.</param>
    internal static Guarantee Of(
        Setup setup,
        Guid locationId,
        IReadOnlyList<Service> services,
        VisitPrice price,
        GuaranteeQuestion question,
        GuaranteeDemand? own = null
    )
    {
        GuaranteeRule[] theirs = own is null ? [] : [new GuaranteeRule(GuaranteePlace.Client, GuaranteeCondition.Everyone, own)];
        return Guarantee.Of(
            question,
            services.Select((service, i) =>
                ((IReadOnlyList<GuaranteeRule>)[.. theirs, .. setup.GuaranteesOf(locationId, service)], price.Lines[i].Total)
            )
        );
    }

    /// <summary>
    /// What is given for a visit: by whoever has shown who they are as their record asks, by anybody else as by a new client.
    /// </summary>
    /// <param name="setup">The setup.</param>
    /// <param name="locationId">Where.</param>
    /// <param name="visit">The visit as it would lie.</param>
    /// <param name="audience">Who they are, or null for whoever has not shown it.</param>
    /// <param name="now">The present.</param>
    internal static Guarantee Of(Setup setup, Guid locationId, StoredVisit visit, Audience? audience, Instant now) =>
        Of(
            setup,
            locationId,
            [.. visit.Lines.Select(line => setup.ServiceOf(line.ServiceId)!)],
            visit.Price,
            By(audience, QuestionOf(setup, locationId, visit.Visit.StartsAt, visit.Price, now), setup, locationId),
            audience?.Gives
        );

    /// <summary>The same before a time is chosen; null where it depends on the time.</summary>
    internal static Guarantee? Ahead(
        Setup setup,
        Guid locationId,
        IReadOnlyList<Service> services,
        VisitPrice price,
        Audience? audience,
        Instant now
    ) =>
        audience?.Gives is null
        && services
            .SelectMany(service => setup.GuaranteesOf(locationId, service))
            .Any(rule => rule.Condition.Hours is not null || rule.Condition.Weekdays.Count > 0)
            ? null
            : Of(
                setup,
                locationId,
                services,
                price,
                By(audience, QuestionOf(setup, locationId, now, price, now), setup, locationId),
                audience?.Gives
            );

    /// <summary>The same, before anything is kept or booked.</summary>
    internal static Guarantee Of(Setup setup, BookingOrder order, VisitPrice price, Audience? audience, Instant now) =>
        Of(
            setup,
            order.LocationId,
            ServicesOf(setup, order),
            price,
            By(audience, QuestionOf(setup, order.LocationId, order.Start, price, now), setup, order.LocationId),
            audience?.Gives
        );

    /// <summary>Whether the record of who books asks for more than a stranger gives.</summary>
    internal static bool AsksForMore(
        Setup setup,
        BookingOrder order,
        VisitPrice price,
        Audience audience,
        Guarantee stranger,
        Instant now
    )
    {
        Guarantee own = Of(setup, order, price, audience, now);
        return own.Deposit > stranger.Deposit || (own.NeedsCard && !stranger.AsksForSomething);
    }

    private static GuaranteeQuestion By(Audience? audience, GuaranteeQuestion question, Setup setup, Guid locationId) =>
        audience is null
            ? question with { IsNew = true }
            : question with
            {
                IsNew = audience.IsNew,
                NoShows =
                [
                    .. audience.Missed.Select(at => at.InZone(setup.HouseOf(locationId)!.Location.Zone).LocalDateTime),
                ],
            };

    private static Service[] ServicesOf(Setup setup, BookingOrder order) =>
        [.. order.Wanted.Wish.Lines.Select(line => setup.ServiceOf(line.ServiceId)!)];

    private static GuaranteeQuestion QuestionOf(Setup setup, Guid locationId, Instant start, VisitPrice price, Instant now)
    {
        DateTimeZone zone = setup.HouseOf(locationId)!.Location.Zone;
        return new GuaranteeQuestion
        {
            Start = start.InZone(zone).LocalDateTime,
            Today = now.InZone(zone).Date,
            Price = price.Total,
        };
    }
}
