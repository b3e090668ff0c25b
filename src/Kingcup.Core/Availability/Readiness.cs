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

/// <summary>
/// Finds what stops a service from being booked, by asking the engine for its starts in a book with nothing in it. So it
/// can miss nothing that would stop a client, and invent nothing.
/// </summary>
public static class Readiness
{
    /// <summary>So many days without a start at the end of what may be booked are worth a warning.</summary>
    public const int QuietDays = 14;

    /// <summary>The issue of a service at the location of a house, or null when it can be booked.</summary>
    /// <param name="house">The house.</param>
    /// <param name="service">The service.</param>
    /// <param name="days">Days from today on as laid out in a book with nothing in it, at least two weeks.</param>
    /// <param name="now">The present.</param>
    public static ReadinessIssue? Of(House house, Service service, IReadOnlyList<DayBook> days, Instant now)
    {
        ArgumentNullException.ThrowIfNull(house);
        ArgumentNullException.ThrowIfNull(service);
        if (service.IsArchived || (service.Locations.Count > 0 && !service.Locations.Contains(house.Location.Id))) return null;
        StartFinder finder = new(house, VisitWish.Of(service.Id));
        bool online = WhoMayBook.IsBookedOnline(service);
        LocalDate today = now.InZone(house.Location.Zone).Date;
        int horizon = online ? house.RulesOf(service).Values.HorizonDaysFor(service.For == ClientKind.NewOnly) : int.MaxValue;
        List<DayBook> asked = [.. days.Where(day => day.Day.Date >= today && Period.DaysBetween(today, day.Day.Date) <= horizon)];
        int last = asked.FindLastIndex(day => !Starts(finder, service, day, now, online).IsEmpty);
        if (last < 0)
            return asked.Count == 0
                ? null
                : new ReadinessIssue(service.Id, house.Location.Id, null, Closest(finder, service, asked.Take(14), now, online), []);
        if (asked.Count - 1 - last < QuietDays)
            return null;
        // The same weekday a week later is the fairest comparison.
        IReadOnlyList<Reason> reasons = Closest(finder, service, [asked[last + 7]], now, online);
        return new ReadinessIssue(
            service.Id,
            house.Location.Id,
            asked[last + 1].Day.Date,
            reasons,
            Lapses(house, service, asked[last].Day.Date, asked[last + 7].Day.Date)
        );
    }

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

    private static Time.DaySet Starts(StartFinder finder, Service service, DayBook day, Instant now, bool online) =>
        online ? finder.Offered(day, Welcome(service, day), now) : finder.Feasible(day);

    /// <summary>The reasons of the start that the fewest gates refuse, and of those the one that gets furthest.</summary>
    public static IReadOnlyList<Reason> Closest(StartFinder finder, Service service, IEnumerable<DayBook> days, Instant now, bool online)
    {
        (int Refusing, Gate First, DayReasons? Day, int Start) best = (int.MaxValue, Gate.Client, null, 0);
        foreach (DayBook day in days)
        {
            DayReasons explained = online ? finder.Explain(day, Welcome(service, day), now) : finder.ExplainFeasible(day);
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
        [.. from role in service.Roles
            from one in house.Practitioners
            where role.Allows(one, lastGood) && !role.Allows(one, bad)
            from missing in role.MissingOn(one, bad)
            let held = one
                .Qualifications.Where(held => held.QualificationId == missing && held.IsValidOn(lastGood))
                .MaxBy(held => held.Until)
            where held is { Until: not null }
            select new Lapse(one.Id, one.Name, missing, held.Until!.Value)];
}
