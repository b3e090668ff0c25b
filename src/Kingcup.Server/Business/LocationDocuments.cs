using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Business;

/// <summary>A stretch of wall time on one day; an end of 00:00:00 is the end of the day.</summary>
/// <param name="From">Beginning, as 09:00:00.</param>
/// <param name="Until">End, as 17:30:00.</param>
public sealed record StretchDocument(LocalTime From, LocalTime Until)
{
    internal Stretch Stretch => new(From, Until);

    internal static StretchDocument Of(Stretch stretch) => new(stretch.From, stretch.Until);
}

/// <summary>Opening hours of a weekday.</summary>
/// <param name="Weekday">The day.</param>
/// <param name="From">Beginning.</param>
/// <param name="Until">End.</param>
public sealed record HoursDocument(Weekday Weekday, LocalTime From, LocalTime Until)
{
    internal static HoursDocument Of(OpeningHours hours) => new((Weekday)hours.Weekday, hours.During.From, hours.During.Until);
}

/// <summary>Days of the week.</summary>
public enum Weekday
{
    /// <summary>Monday.</summary>
    Monday = 1,

    /// <summary>Tuesday.</summary>
    Tuesday,

    /// <summary>Wednesday.</summary>
    Wednesday,

    /// <summary>Thursday.</summary>
    Thursday,

    /// <summary>Friday.</summary>
    Friday,

    /// <summary>Saturday.</summary>
    Saturday,

    /// <summary>Sunday.</summary>
    Sunday,
}

/// <summary>A location.</summary>
public sealed record LocationDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Name.</summary>
    [MaxLength(Checks.LongestName)]
    public required string? Name { get; init; }

    /// <summary>Time zone (IANA), as Europe/Dublin.</summary>
    public required string? Zone { get; init; }

    /// <summary>Postal address.</summary>
    [MaxLength(500)]
    public required string? Address { get; init; }

    /// <summary>Its own number.</summary>
    [MaxLength(40)]
    public required string? Phone { get; init; }

    /// <summary>When clients may be there. It bounds clients, not staff.</summary>
    public required IReadOnlyList<HoursDocument>? Opening { get; init; }

    /// <summary>Whether it takes bookings online.</summary>
    public required bool BookableOnline { get; init; }

    /// <summary>How long a client may be asked to wait between two services.</summary>
    public required int LongestWaitMinutes { get; init; }

    /// <summary>When a client who did not come too often is stopped.</summary>
    public required NoShowLimit? NoShowLimit { get; init; }

    /// <summary>Rules of online booking; what is null is as usual.</summary>
    public required OnlineRules? Online { get; init; }

    /// <summary>Closures; changed at their own address.</summary>
    public IReadOnlyList<ClosureDocument>? Closures { get; init; }

    /// <summary>Dates stopped for online booking; changed at their own address.</summary>
    public IReadOnlyList<StopDocument>? Stops { get; init; }

    /// <summary>Minutes to other locations.</summary>
    public IReadOnlyList<TravelDocument>? Travel { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    /// <summary>Whether new clients may book here online.</summary>
    public bool AcceptsNewClients { get; init; } = true;

    /// <summary>Every location with its closures and stops from two days ago on.</summary>
    internal static async Task<LocationDocument[]> AllAsync(NpgsqlConnection connection, Setup setup, IClock clock)
    {
        CalendarWindow dated = await CalendarReader.ClosedDaysAsync(connection, clock.GetCurrentInstant().InUtc().Date.PlusDays(-2));
        return [.. setup.Locations.Select(listed => Of(setup, listed, dated))];
    }

    /// <summary>A location with its closures and stops from two days ago on.</summary>
    internal static async Task<LocationDocument> OneAsync(NpgsqlConnection connection, Setup setup, Guid id, IClock clock) =>
        (await AllAsync(connection, setup, clock)).FirstOrDefault(location => location.Id == id)
        ?? throw Refused.NotFound("There is no such location.");

    /// <summary>A location.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="listed">The location.</param>
    /// <param name="dated">Closures of one date and stops; null leaves all closures and stops out.</param>
    internal static LocationDocument Of(Setup setup, ListedLocation listed, CalendarWindow? dated)
    {
        Location location = listed.Location;
        return new LocationDocument
        {
            Id = location.Id,
            Name = location.Name,
            Zone = location.Zone.Id,
            Address = listed.Address,
            Phone = listed.Phone,
            Opening = [.. location.Opening.Select(HoursDocument.Of)],
            BookableOnline = location.BookableOnline,
            LongestWaitMinutes = location.LongestWaitMinutes,
            NoShowLimit = location.NoShowLimit,
            Online = location.Online,
            Closures = dated is null
                ? null
                :
                [
                    .. dated
                        .Closures.Concat(setup.Parts.YearlyClosures)
                        .Where(closure => closure.Value.LocationId == location.Id)
                        .OrderBy(closure => closure.Value.Date)
                        .Select(ClosureDocument.Of),
                ],
            Stops = dated is null ? null : [.. dated.Stops.Where(stop => stop.Value.LocationId == location.Id).Select(StopDocument.Of)],
            Travel =
            [
                .. setup
                    .Parts.Travel.Where(pair => pair.Key.From == location.Id)
                    .Select(pair => new TravelDocument(pair.Key.To, pair.Value)),
            ],
            Version = listed.Version,
            AcceptsNewClients = location.AcceptsNewClients,
        };
    }

    internal ListedLocation Check(Checks checks, Guid id, int position)
    {
        string? name = checks.Name(Name, "name", "Enter the name of the location.");
        DateTimeZone? zone = checks.Take(
            DateTimeZoneProviders.Tzdb.GetZoneOrNull(Zone ?? ""),
            "zone",
            "Choose a time zone like Europe/Dublin."
        );
        checks.Limits(this);
        checks.Require(
            LongestWaitMinutes is >= 0 and <= 240 && Grain.IsWhole(LongestWaitMinutes),
            "longestWaitMinutes",
            "A wait is a multiple of 5 minutes, 4 hours at the most."
        );
        if (NoShowLimit is { } limit)
        {
            checks.Require(limit.Times is >= 1 and <= 50, "noShowLimit.times", "1 to 50 times.");
            checks.Require(limit.Months is >= 1 and <= 60, "noShowLimit.months", "1 to 60 months.");
        }

        foreach (IGrouping<Weekday, (int Index, HoursDocument Item)> day in (Opening ?? []).Index().GroupBy(pair => pair.Item.Weekday))
        {
            List<(int Index, HoursDocument Item)> all = [.. day];
            checks.Add(
                ShiftCheck.Of(
                    [.. all.Select(pair => new Shift(id, new Stretch(pair.Item.From, pair.Item.Until), []))],
                    at => $"opening[{all[at].Index}]."
                )
            );
        }

        checks.Add(OnlineCheck.Of(Online ?? new OnlineRules(), "online."));
        return new ListedLocation(
            new Location
            {
                Id = id,
                Name = name ?? "",
                Zone = zone ?? DateTimeZone.Utc,
                Opening =
                [
                    .. (Opening ?? []).Select(hours => new OpeningHours((IsoDayOfWeek)hours.Weekday, new Stretch(hours.From, hours.Until))),
                ],
                BookableOnline = BookableOnline,
                AcceptsNewClients = AcceptsNewClients,
                LongestWaitMinutes = LongestWaitMinutes,
                NoShowLimit = NoShowLimit,
                Online = Online ?? new OnlineRules(),
            },
            Address?.Trim() ?? "",
            position,
            Phone?.Trim() ?? ""
        );
    }
}

/// <summary>A closure.</summary>
/// <param name="Date">The date, or the first of the yearly ones.</param>
/// <param name="Yearly">Whether it comes back every year.</param>
/// <param name="Reason">Why, for the people who read the book; clients never read it.</param>
/// <param name="ForClients">What clients read of it, or null for nothing.</param>
/// <param name="Version">To be sent as If-Match with a change; 0 where there is none yet.</param>
public sealed record ClosureDocument(LocalDate Date, bool Yearly, string? Reason, string? ForClients = null, long Version = 0)
{
    internal static ClosureDocument Of(Versioned<Closure> closure) =>
        new(closure.Value.Date, closure.Value.Yearly, closure.Value.Reason, closure.Value.ForClients, closure.Version);
}

/// <summary>A date stopped for online booking.</summary>
/// <param name="Date">The date.</param>
/// <param name="Reason">Why.</param>
/// <param name="Version">To be sent as If-Match with a change; 0 where there is none yet.</param>
public sealed record StopDocument(LocalDate Date, string? Reason, long Version = 0)
{
    internal static StopDocument Of(Versioned<OnlineStop> stop) => new(stop.Value.Date, stop.Value.Reason, stop.Version);
}

/// <summary>Days on which locations are closed, or stopped for online booking: all of them, or none where one cannot be.</summary>
/// <param name="LocationIds">The locations.</param>
/// <param name="Closures">Days on which they are closed.</param>
/// <param name="Stops">Days on which nothing more is booked online.</param>
public sealed record ClosedDaysRequest(
    IReadOnlyList<Guid>? LocationIds,
    IReadOnlyList<ClosureDocument>? Closures = null,
    IReadOnlyList<StopDocument>? Stops = null
);

/// <summary>Minutes to another location.</summary>
/// <param name="LocationId">The other location.</param>
/// <param name="Minutes">Minutes, a multiple of 5.</param>
public sealed record TravelDocument(Guid LocationId, int Minutes);
