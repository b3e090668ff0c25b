using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Business;

/// <summary>A stretch in which a location is open for clients on a weekday.</summary>
/// <param name="Weekday">Day of the week.</param>
/// <param name="During">When.</param>
public sealed record OpeningHours(IsoDayOfWeek Weekday, Stretch During);

/// <summary>A place with its own zone, opening hours and booking rules.</summary>
public sealed record Location
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name.</summary>
    public required string Name { get; init; }

    /// <summary>The zone its book days are counted in.</summary>
    public required DateTimeZone Zone { get; init; }

    /// <summary>When clients may be there (rules, section 3); they bound clients, not staff.</summary>
    public IReadOnlyList<OpeningHours> Opening { get; init; } = [];

    /// <summary>How long a client may be asked to wait between two lines of a visit, in minutes.</summary>
    public int LongestWaitMinutes { get; init; }

    /// <summary>Whether clients may book online here at all.</summary>
    public bool BookableOnline { get; init; } = true;

    /// <summary>Whether new clients may book online here.</summary>
    public bool AcceptsNewClients { get; init; } = true;

    /// <summary>The rules of online booking where neither a service nor its category sets its own.</summary>
    public OnlineRules Online { get; init; } = OnlineRules.Usual;

    /// <summary>When a client who did not come too often is stopped, or null for never.</summary>
    public NoShowLimit? NoShowLimit { get; init; }
}
