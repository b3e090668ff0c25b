using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <summary>What is checked and gathered before the core is asked.</summary>
internal static class BookingChecks
{
    /// <summary>A visit as it stands, if it is the version the change is based on.</summary>
    /// <exception cref="Refused">There is none, or it has been changed.</exception>
    internal static StoredVisit Present(StoredVisit? visit, long version)
    {
        if (visit is null) throw Refused.NotFound("There is no such visit.");
        return visit.Visit.Version == version ? visit : throw Refused.Stale(visit.Visit.Version);
    }

    /// <summary>What staff are told about a client before they book a plan.</summary>
    internal static IEnumerable<Reason> ClientWarnings(
        StartFinder finder,
        DayBook day,
        int start,
        VisitPlan plan,
        Audience audience,
        IReadOnlyList<ClientVisit> visits,
        Instant now
    ) =>
        [
            .. finder.MissingBefore(day, start, audience, now),
            .. ClientHistory
                .At(visits, plan.Start, plan.End)
                .Select(other => new Reason(
                    Gate.Client,
                    ReasonCode.OwnVisit,
                    other.ServiceId,
                    day.House.Services.GetValueOrDefault(other.ServiceId)?.Name
                )
                {
                    OwnerKind = OwnerKind.Client,
                    From = other.Start,
                    Until = other.End,
                }),
        ];

    /// <summary>The last instant at which the client of a visit still cancels in time.</summary>
    internal static Instant LastInTime(Setup setup, StoredVisit visit)
    {
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        return Cancellation.LastInTime(
            visit.Visit.StartsAt,
            visit.Lines.Select(line =>
                visit.Visit.ClientCancelNoticeHours
                ?? house.RulesOf(setup.ServiceOf(line.ServiceId)!).Values.CancelNoticeHoursFor(visit.Visit.IsFirst)
            )
        );
    }

    /// <summary>What is known of a client as far as the gates look at it.</summary>
    internal static Audience AudienceOf(ClientRow client, IReadOnlyList<ClientVisit> visits, IReadOnlySet<Guid>? links, Instant now) =>
        new()
        {
            IsNew = ClientHistory.IsNew(client.KnownBefore, visits, now),
            Own = client.Own,
            Gives = client.Demand,
            MayBookOnline = client.MayBookOnline,
            Missed = [.. ClientHistory.Missed(visits)],
            Links = links ?? new HashSet<Guid>(),
            Visits = ClientHistory.Earlier(visits),
        };

    /// <summary>What a stored visit wants again, lines in order.</summary>
    /// <param name="visit">The visit.</param>
    /// <param name="practitionerId">Who is to take its first line, or null for whoever was asked for.</param>
    internal static VisitWish WishOf(StoredVisit visit, Guid? practitionerId) =>
        WishOf(
            visit,
            (line, i) =>
                i == 0 && practitionerId is not null ? practitionerId
                : line.PractitionerAsked && practitionerId is null ? visit.LeadOf(line)
                : null
        );

    /// <summary>What a stored visit wants again of those who do it now.</summary>
    internal static VisitWish PresentStaff(StoredVisit visit) => WishOf(visit, (line, _) => visit.LeadOf(line));

    private static VisitWish WishOf(StoredVisit visit, Func<AppointmentRow, int, Guid?> lead) => new([.. visit.Lines.Select((line, i) =>
        new LineWish(line.ServiceId, lead(line, i), visit.AddOnsByLine[i].Sum(added => added.Minutes))
        {
            RoomId = line.RoomAsked ? line.RoomId : null,
            TakesUnsuitedRoom = line.RoomAsked && visit.Claims.Any(claim => claim.OccupationId == line.Id && claim.Unsuited),
            SetMinutes = line.SetMinutes,
            Person = line.Person,
            OffsetMinutes = OffsetOf(visit, i),
        })]);

    /// <summary>How long after the visit the person of a line begins; asked with the first line of each person.</summary>
    internal static int OffsetOf(StoredVisit visit, int line) =>
        visit.Lines.Take(line).Any(earlier => earlier.Person == visit.Lines[line].Person) ? 0 : visit.Lines[line].OffsetMinutes;

    /// <summary>Refuses a wish that names what is not there. A visit that stands in the book keeps services that are no longer
    /// done.</summary>
    internal static void CheckWish(House house, VisitWish wish, StoredVisit? standing = null)
    {
        Checks checks = new();
        checks.Require(wish.Lines.Count is >= 1 and <= 6, "lines", "Choose one to six services.");
        bool IsDone(Service service) => !service.IsArchived || standing?.Lines.Any(line => line.ServiceId == service.Id) == true;
        foreach ((int i, LineWish line) in wish.Lines.Index())
        {
            checks.Require(line.Person is >= 0 and <= 5, $"lines[{i}].person", "Up to six people come together, 0 for the first.");
            checks.Require(
                line.OffsetMinutes is >= 0 and <= 600 && Grain.IsWhole(line.OffsetMinutes),
                $"lines[{i}].offsetMinutes",
                "A multiple of 5 minutes, 10 hours at the most."
            );
            bool known = checks.Require(
                house.Services.TryGetValue(line.ServiceId, out Service? found) && IsDone(found),
                $"lines[{i}].serviceId",
                "There is no such service."
            );
            if (known)
                CheckByHand(house, house.Services[line.ServiceId], line, i, checks);
            if (line.PractitionerId is not { } chosen)
                continue;
            Core.Team.Practitioner? practitioner = house.Practitioners.FirstOrDefault(person => person.Id == chosen);
            if (!checks.Require(practitioner is not null, $"lines[{i}].practitionerId", "There is no such practitioner.") || !known)
                continue;
            Service service = house.Services[line.ServiceId];
            checks.Require(
                service.Roles[0].EverAllows(practitioner!, LocalDate.MinIsoValue),
                $"lines[{i}].practitionerId",
                $"{practitioner!.Name} does not do {service.Name}. Choose somebody who does, or no preference."
            );
        }

        checks.Require(
            wish.Lines.Count == 0 || wish.Lines.Any(line => line.OffsetMinutes == 0),
            "lines[0].offsetMinutes",
            "Somebody begins when the visit does."
        );
        checks.Done();
    }

    /// <summary>Refuses a length the service cannot have, and a room that does not go with it.</summary>
    private static void CheckByHand(House house, Service service, LineWish line, int i, Checks checks)
    {
        if (line.SetMinutes is { } minutes)
            checks.Require(
                minutes >= service.LeastMinutes && minutes <= 720 && Grain.IsWhole(minutes),
                $"lines[{i}].minutes",
                $"{service.Name} takes {Count(service.LeastMinutes, "minute", "minutes")} at least, 12 hours at the most, in steps of 5."
            );
        if (line.RoomId is not { } roomId)
            return;
        Core.Rooms.Room? room = house.Rooms.FirstOrDefault(other => other.Id == roomId);
        if (!checks.Require(room is not null, $"lines[{i}].roomId", "There is no such room."))
            return;
        checks.Require(
            // What the room lacks is told, and may be accepted; that it is too small is not.
            service.Room is { } rule && rule.Units <= room!.Capacity,
            $"lines[{i}].roomId",
            $"{service.Name} cannot be done in {room!.Name}. Choose another room, or none."
        );
    }

    /// <summary>The date of a start.</summary>
    /// <exception cref="Refused">The start lies between two grains, has passed, or is too far ahead.</exception>
    internal static LocalDate CheckStart(House house, Instant start, Instant now)
    {
        LocalDate date = start.InZone(house.Location.Zone).Date;
        if (new BookDay(date, house.Location.Zone).GrainOfStart(start) is null)
            throw Refused.Invalid("start", $"Starts lie on whole {Grain.Minutes} minutes.");
        if (start < now - Duration.FromMinutes(Grain.Minutes))
            throw Refused.Invalid("start", "That time has passed. Choose a later one.");
        if (date > now.InZone(house.Location.Zone).Date.PlusDays(BookingDesk.StaffHorizonDays))
            throw Refused.Invalid("start", "That is more than two years ahead.");
        return date;
    }

    /// <summary>What is locked so that two bookings at once of the same person, device or range count one after another.</summary>
    internal static IReadOnlyCollection<string> KnownBy(this OriginAsked origin) =>
        [
            $"email {origin.Email}",
            $"phone {origin.Phone}",
            $"device {Convert.ToHexString(origin.Device)}",
            $"range {Convert.ToHexString(origin.Range)}",
        ];
}
