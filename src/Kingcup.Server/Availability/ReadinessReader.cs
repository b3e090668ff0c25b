using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Storage;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Availability;

/// <summary>Says what stops the business from being booked; remembered until the setup, the date or a day ahead changes.</summary>
internal sealed class ReadinessReader(IClock clock)
{
    private const int Days = 75;
    private volatile Remembered? _last;

    // Revisions only grow, so their sum says whether any of the days has changed.
    private sealed record Remembered(Setup Setup, LocalDate Date, long Revisions, ReadinessReport Report);

    internal async Task<ReadinessReport> OfAsync(NpgsqlConnection connection, Setup setup)
    {
        Instant now = clock.GetCurrentInstant();
        LocalDate date = now.InUtc().Date,
            last = date.PlusDays(Days + 1);
        long revisions = (await BookStore.RevisionsAsync(connection, date.PlusDays(-2), last)).Values.Sum();
        if (_last is { } kept && ReferenceEquals(kept.Setup, setup) && kept.Date == date && kept.Revisions == revisions)
            return kept.Report;
        DatedCalendar dated = (await CalendarReader.WindowAsync(connection, date.PlusDays(-2), last)).With(setup);
        ReadinessReport report = Make(setup, dated, now);
        _last = new Remembered(setup, date, revisions, report);
        return report;
    }

    private static ReadinessReport Make(Setup setup, DatedCalendar dated, Instant now)
    {
        List<ReadinessAnswer> issues = [.. Missing(setup)];
        HashSet<Guid> bookable = [];
        if (setup.Services.Any())
        {
            List<DaysAhead> locations = [.. setup.Locations.Select(listed => Ahead(setup.HouseOf(listed.Location.Id)!, dated, now))];
            Readiness readiness = new(locations, now);
            foreach (DaysAhead at in locations)
            {
                foreach (Service service in setup.Services.Select(listed => listed.Service))
                {
                    if (service.Locations.Count > 0 && !service.Locations.Contains(at.House.Location.Id))
                        continue;
                    ReadinessIssue? issue = readiness.Of(at, service);
                    if (issue is not { From: null } && WhoMayBook.IsBookedOnline(service))
                        bookable.Add(service.Id);
                    if (issue is not null)
                        issues.Add(Answer(setup, at.House, service, issue));
                }
            }
        }

        return new ReadinessReport(
            bookable.Count,
            [.. issues.OrderByDescending(readiness => readiness.Stops).ThenBy(readiness => readiness.ServiceId is null ? 0 : 1)],
            bookable.Count > 0
        );
    }

    private static DaysAhead Ahead(House house, DatedCalendar dated, Instant now)
    {
        LocalDate today = now.InZone(house.Location.Zone).Date;
        return new DaysAhead(house, [.. Enumerable.Range(0, Days).Select(offset => new DayBook(house, today.PlusDays(offset), dated, []))]);
    }

    /// <summary>What the engine cannot even be asked about.</summary>
    private static IEnumerable<ReadinessAnswer> Missing(Setup setup)
    {
        ReadinessAnswer Stop(Sentence text, string mend, Guid? id = null) =>
            new()
            {
                Text = text,
                Cause = text,
                Stops = true,
                From = null,
                ServiceId = null,
                LocationId = id,
                Reasons = [],
                Mend = mend,
                MendId = id,
            };
        if (!setup.Parts.BookingPage.BookableOnline)
            yield return Stop("Online booking is off for the whole business.", "business");
        if (setup.Locations.Count == 0)
            yield return Stop("There is no location yet. Say where clients come.", "locations");
        foreach (ListedLocation location in setup.Locations)
        {
            if (location.Location.Opening.Count == 0)
                yield return Stop($"{location.Location.Name} has no opening hours yet.", "hours", location.Location.Id);
            if (!location.Location.BookableOnline)
                yield return Stop($"{location.Location.Name} takes no bookings online.", "rules", location.Location.Id);
        }

        if (setup.Practitioners.Count == 0)
            yield return Stop("Nobody works here yet. Add the first practitioner.", "practitioners");
        foreach (
            Core.Team.Practitioner practitioner in setup.Practitioners.Where(item =>
                item.Retired is null && setup.Parts.Rotas.All(rota => rota.Value.PractitionerId != item.Id)
            )
        )
            yield return Stop(
                $"{practitioner.Name} has no rota yet, so nothing can be booked with {practitioner.Name.Split(' ')[0]}.",
                "rota",
                practitioner.Id
            );
        if (!setup.Services.Any())
            yield return Stop("There is no service yet. Describe the first one.", "services");
    }

    private static ReadinessAnswer Answer(Setup setup, House house, Service service, ReadinessIssue issue)
    {
        IReadOnlyList<ReasonText> reasons = ReasonWords.Of(issue.Reasons, house);
        Service? comesFirst =
            issue.Reasons.Any(reason => reason.Code == ReasonCode.PrerequisiteMissing) && service.Prerequisite is { } before
                ? setup.ServiceOf(before.ServiceId)
                : null;
        // Everyone's shift does not have to be told to say that nobody is there.
        Sentence because =
            issue.Lapses.Count > 0
                ? Join(
                    issue.Lapses.Select(lapse =>
                        Say(
                            $"{lapse.Practitioner}'s {Name(setup, lapse.QualificationId)} ends on {lapse.Until}, and nobody "
                                + $"else who works then holds it."
                        )
                    )
                )
            : comesFirst is not null ? Say($"It needs {comesFirst.Name} first, which nobody can book online in time.")
            : issue.Reasons.Count > 1 && issue.Reasons.All(reason => reason.Code == ReasonCode.OffShift)
                ? Say($"Nobody who may do it is on shift at {house.Location.Name}.")
            : Join(ReasonWords.Said(issue.Reasons, house).Take(3));
        Sentence where = setup.Locations.Count > 1 ? Say($"{service.Name} at {house.Location.Name}") : Say($"{service.Name}");
        Reason? first = issue.Reasons.Count > 0 ? issue.Reasons[0] : null;
        (string mend, Guid? id) =
            issue.Lapses.Count > 0 ? ("qualifications", issue.Lapses[0].PractitionerId)
            : comesFirst is not null ? ("service", comesFirst.Id)
            : first?.OwnerKind is { } kind ? (kind.ToString().ToLowerInvariant(), first.OwnerId)
            : ("service", service.Id);
        return new ReadinessAnswer
        {
            Text = issue.From is { } from && issue.Lapses.Count == 0
                ? Say($"{where}: nothing can be booked from {from} on. {because}")
                : Say($"{where}: {because}"),
            Cause = because,
            Stops = issue.From is null,
            From = issue.From,
            ServiceId = service.Id,
            LocationId = house.Location.Id,
            Reasons = reasons,
            Mend = mend,
            MendId = id,
        };
    }

    private static string Name(Setup setup, Guid qualification) =>
        setup.Parts.Qualifications.FirstOrDefault(item => item.Id == qualification)?.Name ?? Say("qualification");
}
