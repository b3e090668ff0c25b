using Kingcup.Core.Business;
using Kingcup.Core.Services;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>A qualification that runs out and takes a service with it.</summary>
/// <param name="PractitionerId">Whose.</param>
/// <param name="Practitioner">Their name.</param>
/// <param name="QualificationId">Which.</param>
/// <param name="Until">The last local date on which it counts.</param>
public sealed record Lapse(Guid PractitionerId, string Practitioner, Guid QualificationId, LocalDate Until);

/// <summary>What stops a service from being booked at a location.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="LocationId">The location.</param>
/// <param name="From">The first local date on which nothing can be booked any more; null when nothing can at all.</param>
/// <param name="Reasons">Why the start that comes closest is refused.</param>
/// <param name="Lapses">Qualifications that run out just then.</param>
public sealed record ReadinessIssue(
    Guid ServiceId,
    Guid LocationId,
    LocalDate? From,
    IReadOnlyList<Reason> Reasons,
    IReadOnlyList<Lapse> Lapses
);

/// <summary>A location with the days ahead of it, in a book with nothing in it.</summary>
/// <param name="House">The location and everything that can be booked there.</param>
/// <param name="Days">Its days from today on, at least two weeks.</param>
public sealed record DaysAhead(House House, IReadOnlyList<DayBook> Days);

/// <summary>
/// Finds what stops a service from being booked, by asking the engine for its starts in a book with nothing in it. So it
/// can miss nothing that would stop a client, and invent nothing.
/// </summary>
/// <param name="locations">Every location: what has to come first may be done at another one.</param>
/// <param name="now">The present.</param>
public sealed class Readiness(IReadOnlyList<DaysAhead> locations, Instant now)
{
    /// <summary>So many days without a start at the end of what may be booked are worth a warning.</summary>
    public const int QuietDays = 14;

    private readonly Dictionary<Guid, IReadOnlyList<EarlierVisit>> _visits = [];

    /// <summary>The issue of a service at a location, or null when it can be booked.</summary>
    /// <param name="at">The location.</param>
    /// <param name="service">The service.</param>
    public ReadinessIssue? Of(DaysAhead at, Service service)
    {
        ArgumentNullException.ThrowIfNull(at);
        ArgumentNullException.ThrowIfNull(service);
        House house = at.House;
        if (service.IsArchived || !IsDoneAt(service, house))
            return null;
        StartFinder finder = new(house, VisitWish.Of(service.Id));
        bool online = WhoMayBook.IsBookedOnline(service);
        LocalDate today = now.InZone(house.Location.Zone).Date;
        int horizon = online ? house.RulesOf(service).Values.HorizonDaysFor(service.For == ClientKind.NewOnly) : int.MaxValue;
        List<DayBook> asked = [.. at.Days.Where(day => day.Day.Date >= today && Period.DaysBetween(today, day.Day.Date) <= horizon)];
        IReadOnlyList<EarlierVisit> before = online ? VisitsBefore(service) : [];
        Audience Client(DayBook day) => Welcome(service, day) with { Visits = before };
        int last = asked.FindLastIndex(day => !(online ? finder.Offered(day, Client(day), now) : finder.Feasible(day)).IsEmpty);
        Func<DayBook, Audience>? client = online ? Client : null;
        if (last < 0)
        {
            if (asked.Count == 0)
                return null;
            // Only where all else is well it is what has to come first that stops it.
            if (online && !asked.Any(day => !finder.Offered(day, Welcome(service, day), now).IsEmpty))
                client = day => Welcome(service, day);
            return new ReadinessIssue(service.Id, house.Location.Id, null, Closest(finder, asked.Take(14), now, client), []);
        }

        if (asked.Count - 1 - last < QuietDays)
            return null;
        // The same weekday a week later is the fairest comparison.
        IReadOnlyList<Reason> reasons = Closest(finder, [asked[last + 7]], now, client);
        return new ReadinessIssue(
            service.Id,
            house.Location.Id,
            asked[last + 1].Day.Date,
            reasons,
            Lapses(house, service, asked[last].Day.Date, asked[last + 7].Day.Date)
        );
    }

    /// <summary>Every visit for what has to come first that a client could book online now, wherever it is done.</summary>
    private IReadOnlyList<EarlierVisit> VisitsBefore(Service service)
    {
        if (service.Prerequisite is not { } before)
            return [];
        if (!_visits.TryGetValue(before.ServiceId, out IReadOnlyList<EarlierVisit>? visits))
            _visits[before.ServiceId] = visits = [.. locations.SelectMany(at => VisitsFor(at, before.ServiceId))];
        return visits;
    }

    private IEnumerable<EarlierVisit> VisitsFor(DaysAhead at, Guid serviceId)
    {
        if (!at.House.Services.TryGetValue(serviceId, out Service? service) || !WhoMayBook.IsBookedOnline(service))
            return [];
        if (!IsDoneAt(service, at.House))
            return [];
        StartFinder finder = new(at.House, VisitWish.Of(serviceId));
        IReadOnlyList<EarlierVisit> before = VisitsBefore(service);
        Duration length = Duration.FromMinutes(service.Minutes);
        return at.Days.SelectMany(day =>
            finder
                .Offered(day, Welcome(service, day) with { Visits = before }, now)
                .Select(start => new EarlierVisit(serviceId, day.Day.At(start) + length, IsDone: false))
        );
    }

    private static bool IsDoneAt(Service service, House house) =>
        service.Locations.Count == 0 || service.Locations.Contains(house.Location.Id);

    /// <summary>A client nothing personal stands in the way of.</summary>
    public static Audience Welcome(Service service, DayBook day) =>
        new()
        {
            IsNew = service.For == ClientKind.NewOnly,
            Links = new HashSet<Guid> { service.Id },
            Visits = service.Prerequisite is { } before
                ? [new EarlierVisit(before.ServiceId, day.Day.Start - Duration.FromHours(before.AtLeastHours))]
                : [],
        };

    /// <summary>The reasons of the start that the fewest gates refuse, and of those the one that gets furthest.</summary>
    /// <param name="finder">The visit wanted.</param>
    /// <param name="days">The days to look at.</param>
    /// <param name="now">The present.</param>
    /// <param name="client">Who asks on a day; null for staff.</param>
    public static IReadOnlyList<Reason> Closest(StartFinder finder, IEnumerable<DayBook> days, Instant now, Func<DayBook, Audience>? client)
    {
        ArgumentNullException.ThrowIfNull(finder);
        ArgumentNullException.ThrowIfNull(days);
        (int Refusing, Gate First, DayReasons? Day, int Start) best = (int.MaxValue, Gate.Client, null, 0);
        foreach (DayBook day in days)
        {
            DayReasons explained = client is null ? finder.ExplainFeasible(day) : finder.Explain(day, client(day), now);
            foreach (int start in explained.Grid)
            {
                int refusing = explained.RefusingGates(start);
                Gate first = explained.FirstGate(start) ?? Gate.Gap;
                if (refusing > 0 && (refusing < best.Refusing || (refusing == best.Refusing && first > best.First)))
                    best = (refusing, first, explained, start);
            }
        }

        return best.Day is null ? [] : [.. best.Day.At(best.Start).SelectMany(refusal => refusal.Reasons)];
    }

    private static List<Lapse> Lapses(House house, Service service, LocalDate lastGood, LocalDate bad) =>
        [
            .. from role in service.Roles
            from practitioner in house.Practitioners
            where role.Allows(practitioner, lastGood) && !role.Allows(practitioner, bad)
            from missing in role.MissingOn(practitioner, bad)
            let held = practitioner
                .Qualifications.Where(held => held.QualificationId == missing && held.IsValidOn(lastGood))
                .MaxBy(held => held.Until)
            where held is { Until: not null }
            select new Lapse(practitioner.Id, practitioner.Name, missing, held.Until!.Value),
        ];
}
