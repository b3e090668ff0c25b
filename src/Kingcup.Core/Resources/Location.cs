using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Resources;

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

    /// <summary>The rules of online booking where a service sets none of its own.</summary>
    public OnlineRules Online { get; init; } = OnlineRules.Usual;
}

/// <summary>How the starts a client is offered lie in the day (rules, section 5, gate 5).</summary>
public enum StartGrid
{
    /// <summary>Every so many minutes on the clock.</summary>
    EveryMinutes,

    /// <summary>From the beginning of each free run of the practitioner, one after another.</summary>
    BackToBack,

    /// <summary>A list of wall times for each weekday, set at the service.</summary>
    SetTimes,
}

/// <summary>
/// Rules of online booking. A value that is null is not set at this place and comes from the next one:
/// service, then location (rules, section 5).
/// </summary>
public sealed record OnlineRules
{
    /// <summary>What holds where nobody has set anything.</summary>
    public static OnlineRules Usual { get; } = new() { Grid = StartGrid.EveryMinutes, EveryMinutes = 15, LeadMinutes = 120, HorizonDays = 60 };

    /// <summary>The kind of start grid.</summary>
    public StartGrid? Grid { get; init; }

    /// <summary>Minutes between starts for <see cref="StartGrid.EveryMinutes"/>; whole grains.</summary>
    public int? EveryMinutes { get; init; }

    /// <summary>Least minutes between booking and the start.</summary>
    public int? LeadMinutes { get; init; }

    /// <summary>How many days ahead of today may be booked; 0 is today only.</summary>
    public int? HorizonDays { get; init; }

    /// <summary>These rules, with what they leave open taken from <paramref name="wider"/>.</summary>
    public OnlineRules Over(OnlineRules wider) => new()
    {
        Grid = Grid ?? wider.Grid,
        EveryMinutes = EveryMinutes ?? wider.EveryMinutes,
        LeadMinutes = LeadMinutes ?? wider.LeadMinutes,
        HorizonDays = HorizonDays ?? wider.HorizonDays,
    };
}
