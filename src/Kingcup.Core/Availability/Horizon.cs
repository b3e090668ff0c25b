using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>How far ahead a client may book (rules, section 5, gate 3).</summary>
public static class Horizon
{
    /// <summary>The last date a client may book: that of the service that reaches the least far.</summary>
    /// <param name="house">The location.</param>
    /// <param name="services">What they want.</param>
    /// <param name="audience">Who asks.</param>
    /// <param name="now">The present.</param>
    public static LocalDate Of(House house, IEnumerable<Guid> services, Audience audience, Instant now)
    {
        ArgumentNullException.ThrowIfNull(house);
        ArgumentNullException.ThrowIfNull(services);
        ArgumentNullException.ThrowIfNull(audience);
        int days = services.Min(id => house.RulesOf(house.Services[id]).For(audience.Own).Values.HorizonDaysFor(audience.IsNew));
        return now.InZone(house.Location.Zone).Date.PlusDays(days);
    }
}
