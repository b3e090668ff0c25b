using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Forms;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Plans;
using Kingcup.Storage;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <summary>Shapes the book for the screen.</summary>
internal static class DayPicture
{
    /// <summary>The day with its lanes and visits.</summary>
    internal static DayAnswer Of(Setup setup, DayBook day, IReadOnlyList<StoredVisit> visits, Instant now) =>
        Of(setup, day, visits, now, null);

    /// <summary>The day with the lane of one practitioner, room or pool only, and what lies in it.</summary>
    internal static DayAnswer Of(
        Setup setup,
        DayBook day,
        IReadOnlyList<StoredVisit> all,
        Instant now,
        Guid? only,
        IReadOnlyDictionary<Guid, ProposedTo>? proposed = null
    )
    {
        IReadOnlyList<StoredVisit> visits = only is null
            ? all
            : [.. all.Where(visit => visit.Claims.Any(claim => claim.ResourceId == only))];
        List<LaneAnswer> lanes =
        [
            .. day
                .House.Practitioners.Where(practitioner => only == practitioner.Id || IsHere(setup, day, practitioner, visits))
                .Select(practitioner => PractitionerLane(day, practitioner, now, proposed)),
            .. day.House.Rooms.Select(room => new LaneAnswer
            {
                Id = room.Id,
                Kind = "room",
                Name = room.Name,
                Detail = string.Join(", ", room.Features.Order()),
                Units = room.Capacity,
                Open = RoomOpen(day),
                Blocked = Of(day, day.Blocked, room.Id),
                StoppedOnline = Of(day, day.StoppedOnline, room.Id),
                Kept = Kept(day, room.Id, now, proposed),
                Fullness = null,
            }),
            .. day.House.Pools.Select(pool => new LaneAnswer
            {
                Id = pool.Id,
                Kind = "equipment",
                Name = pool.Name,
                Detail = "",
                Units = pool.Quantity,
                Open = RoomOpen(day),
                Blocked = Of(day, day.Blocked, pool.Id),
                StoppedOnline = Of(day, day.StoppedOnline, pool.Id),
                Kept = Kept(day, pool.Id, now, proposed),
                Fullness = null,
            }),
        ];
        (Instant from, Instant until) = Bounds(day, visits);
        return new DayAnswer
        {
            LocationId = day.House.Location.Id,
            Date = day.Day.Date,
            Zone = day.Day.Zone.Id,
            Now = now,
            From = from,
            Until = until,
            Hours = Hours(day.Day, from, until),
            Opening = Stretches(day.Day, day.Opening),
            Closed = day.Closure?.Reason,
            Lanes = only is null ? lanes : [.. lanes.Where(lane => lane.Id == only)],
            Visits = [.. visits.Select(visit => Of(setup, visit, now))],
        };
    }

    /// <summary>How full a day is.</summary>
    internal static DayFullness Fullness(DayBook day)
    {
        IReadOnlyList<PartFullness> parts = FullnessMap.Of(day, Everybody(day));
        return new DayFullness(
            day.Day.Date,
            new PartFullness(default, parts.Sum(part => part.OnShift), parts.Sum(part => part.Held)).Percent
        );
    }

    /// <summary>A day as a month shows it: how full it is by parts.</summary>
    /// <param name="day">The day.</param>
    /// <param name="practitionerId">Whose time counts; everybody's where it is null.</param>
    internal static MonthDay Month(DayBook day, Guid? practitionerId)
    {
        IReadOnlyList<PartFullness> parts = FullnessMap.Of(day, practitionerId is { } one ? [one] : Everybody(day));
        return new MonthDay(
            day.Day.Date,
            day.Closure?.Reason,
            parts.Sum(part => part.Free),
            [.. parts.Where(part => part.OnShift > 0).Select(part => new MonthPart(part.Part, part.Percent!.Value, part.Free))]
        );
    }

    private static Guid[] Everybody(DayBook day) => [.. day.House.Practitioners.Select(practitioner => practitioner.Id)];

    /// <summary>A visit for the screen.</summary>
    internal static VisitAnswer Of(Setup setup, StoredVisit stored, Instant now)
    {
        VisitRow visit = stored.Visit;
        House house = setup.HouseOf(visit.LocationId)!;
        Dictionary<Guid, int> lineOf = stored.Lines.Index().ToDictionary(line => line.Item.Id, line => line.Index);
        string currency = setup.Business.Currency;
        VisitStanding standing = new(visit.VisitState, visit.StateSince);
        return new VisitAnswer
        {
            Id = visit.Id,
            Reference = visit.Reference,
            Version = visit.Version,
            LocationId = visit.LocationId,
            State = visit.VisitState,
            SeriesId = visit.SeriesId,
            Since = visit.StateSince,
            MinutesLate = VisitStates.MinutesLate(standing, visit.StartsAt),
            Next = VisitStates.After(standing, visit.StartsAt, now),
            CanMove = VisitStates.CanMove(visit.VisitState),
            CanChange = VisitStates.CanChange(visit.VisitState),
            Source = visit.Source,
            IsFirst = visit.IsFirst,
            Client = new VisitClientAnswer(visit.ClientId, visit.GivenName, visit.FamilyName, visit.Phone, visit.Email, visit.Alert),
            Date = visit.Date,
            Zone = house.Location.Zone.Id,
            Start = visit.StartsAt,
            End = visit.EndsAt,
            Price = new MoneyAnswer(stored.Price.Total, currency),
            Promo = Promos.Told(setup, stored.Price),
            Note = visit.Note,
            ClientNote = visit.ClientNote,
            CancelReason = visit.CancelReason,
            CancelledBy = visit.CancelledBy is { } by ? Enum.Parse<CancelledBy>(by) : null,
            CancelledLate = visit.CancelledLate,
            CancelUntil = BookingChecks.LastInTime(setup, stored),
            Units = UnitsOf(setup, stored),
            Lines = [.. stored.Lines.Zip(stored.Price.Lines).Select(line => Line(setup, house, stored, line.First, line.Second))],
            Claims =
            [
                // The same order whether they were laid just now or read.
                .. stored
                    .Claims.OrderBy(claim => (lineOf[claim.OccupationId], claim.Role ?? short.MaxValue, claim.During.Start))
                    .ThenBy(claim => (claim.ResourceId, claim.Unit))
                    .Select(claim => new ClaimAnswer
                    {
                        Line = lineOf[claim.OccupationId],
                        ResourceId = claim.ResourceId,
                        Unit = claim.Unit,
                        From = claim.During.Start,
                        Until = claim.During.End,
                        CoreFrom = claim.Core.Start,
                        CoreUntil = claim.Core.End,
                        Overbooked = claim.Overbooked,
                    }),
            ],
            Unattended =
            [
                .. stored
                    .Claims.Where(claim => claim.Role is not null)
                    .GroupBy(claim => (claim.OccupationId, claim.ResourceId))
                    .SelectMany(group => group.OrderBy(claim => claim.Core.Start).Zip(group.OrderBy(claim => claim.Core.Start).Skip(1)))
                    .Select(pair => new UnattendedAnswer(
                        lineOf[pair.First.OccupationId],
                        pair.First.ResourceId,
                        pair.First.Core.End,
                        pair.Second.Core.Start
                    )),
            ],
            Answers =
            [
                .. stored.Answers.Select(answer => new AnswerGiven(
                    answer.QuestionId,
                    answer.Question,
                    Enum.Parse<QuestionKind>(answer.Kind),
                    answer.Answer
                )),
            ],

            People = [.. stored.People.Select(person => new PersonAnswer(person.ClientId, person.Name))],
            PayerId = visit.PayerId,
            PayerName = visit.PayerName,
        };
    }

    /// <summary>On which units its lines are, of rooms and pools that have several.</summary>
    internal static IReadOnlyList<UnitHeldAnswer> UnitsOf(Setup setup, StoredVisit stored)
    {
        House house = setup.HouseOf(stored.Visit.LocationId)!;
        Dictionary<Guid, (string Name, int Of)> several = house
            .Rooms.Where(room => room.Capacity > 1)
            .Select(room => (room.Id, room.Name, Of: room.Capacity))
            .Concat(house.Pools.Where(pool => pool.Quantity > 1).Select(pool => (pool.Id, pool.Name, Of: pool.Quantity)))
            .ToDictionary(resource => resource.Id, resource => (resource.Name, resource.Of));
        if (!stored.Claims.Any(claim => several.ContainsKey(claim.ResourceId))) return [];
        // A room that is kept from line to line is held in one go, by the first of them.
        return
        [
            .. from line in stored.Lines.Index()
               from claim in stored.Claims
               where claim.Role is null && several.ContainsKey(claim.ResourceId)
               where claim.Core.Start < line.Item.EndsAt && claim.Core.End > line.Item.StartsAt
               where claim.OccupationId == line.Item.Id || IsKept(stored, line.Item, claim)
               let resource = several[claim.ResourceId]
               orderby line.Index, resource.Name, claim.Unit
               select new UnitHeldAnswer(line.Index, claim.ResourceId, resource.Name, claim.Unit, resource.Of),
        ];
    }

    private static bool IsKept(StoredVisit stored, AppointmentRow line, ClaimRow claim) =>
        claim.ResourceId == line.RoomId
        && stored.Lines.First(other => other.Id == claim.OccupationId).Person == line.Person
        && !stored.Claims.Any(own => own.OccupationId == line.Id && own.ResourceId == line.RoomId);

    private static LineAnswer Line(Setup setup, House house, StoredVisit stored, AppointmentRow line, PricedLine price)
    {
        string currency = setup.Business.Currency;
        Service service = house.Services[line.ServiceId];
        List<ClaimRow> claims = [.. stored.Claims.Where(claim => claim.OccupationId == line.Id)];
        return new LineAnswer
        {
            Id = line.Id,
            ServiceId = service.Id,
            Service = service.Name,
            CategoryId = service.CategoryId,
            Start = line.StartsAt,
            End = line.EndsAt,
            Price = new MoneyAnswer(line.Price, currency),
            Practitioners =
            [
                .. claims
                    .Where(claim => claim.Role is not null)
                    .OrderBy(claim => claim.Role)
                    .Select(claim => claim.ResourceId)
                    .Distinct()
                    .Select(id => new NamedAnswer(id, house.Practitioners.First(practitioner => practitioner.Id == id).Name)),
            ],
            Rooms = [.. house.Rooms.Where(room => room.Id == line.RoomId).Select(room => room.Name)],
            Equipment = [.. house.Pools.Where(pool => claims.Any(claim => claim.ResourceId == pool.Id)).Select(pool => pool.Name)],
            AddOns =
            [
                .. stored
                    .AddOns.Where(addOn => addOn.AppointmentId == line.Id)
                    .Select(addOn => new LineAddOnAnswer(
                        addOn.AddOnId,
                        setup.Parts.AddOns.First(other => other.AddOn.Id == addOn.AddOnId).AddOn.Name,
                        addOn.Count,
                        addOn.Minutes,
                        new MoneyAnswer(addOn.Price, currency)
                    )),
            ],

            RoomId = line.RoomId,
            PractitionerAsked = line.PractitionerAsked,
            RoomAsked = line.RoomAsked,
            SetMinutes = line.SetMinutes,
            OffsetMinutes = line.OffsetMinutes,
            Person = line.Person,
            PriceParts =
            [
                .. price.Parts.Select(part => new PricePartAnswer(part.Kind, new MoneyAnswer(part.Amount, currency), part.AddOnId)),
            ],
        };
    }

    private static bool IsHere(Setup setup, DayBook day, Practitioner practitioner, IReadOnlyList<StoredVisit> visits) =>
        !Shift(day, practitioner).IsEmpty
        || visits.Any(visit => visit.Claims.Any(claim => claim.ResourceId == practitioner.Id))
        // Off or closed today, but of this house: the lane says so rather than vanish.
        || Enumerable
            .Range(0, 28)
            .Any(offset =>
                setup.Rotas.On(practitioner.Id, day.Day.Date.PlusDays(offset)).Any(shift => shift.LocationId == day.House.Location.Id)
            );

    private static LaneAnswer PractitionerLane(
        DayBook day,
        Practitioner practitioner,
        Instant now,
        IReadOnlyDictionary<Guid, ProposedTo>? proposed
    )
    {
        DaySet shift = Shift(day, practitioner);
        List<StretchAnswer> pauses =
        [
            .. day.ShiftsOf(practitioner.Id)
                .Where(work => work.LocationId == day.House.Location.Id)
                .SelectMany(work => work.Breaks)
                .Select(pause => Of(day.Day.Of(pause.During), pause.Reason)),
            .. Of(day, day.Blocked, practitioner.Id),
        ];
        int? fullness = shift.IsEmpty ? null : Percent(shift.Except(day.FreeOf(practitioner.Id)).Count, shift.Count);
        return new LaneAnswer
        {
            Id = practitioner.Id,
            Kind = "practitioner",
            Name = practitioner.Name,
            Detail = Worked(day, practitioner, shift),
            Units = 1,
            Open = Stretches(day.Day, shift),
            Blocked = pauses,
            StoppedOnline = Of(day, day.StoppedOnline, practitioner.Id),
            Kept = Kept(day, practitioner.Id, now, proposed),
            Fullness = fullness,
        };
    }

    private static string Worked(DayBook day, Practitioner practitioner, DaySet shift)
    {
        if (!shift.IsEmpty)
            return Say($"{day.Day.WallOf(shift.Runs().First().From)}–{day.Day.WallOf(shift.Runs().Last().Until)}");
        return day.ShiftsOf(practitioner.Id).Count > 0
            ? Say("elsewhere")
            : day.Dated.ChangeOn(practitioner.Id, day.Day.Date)?.Reason ?? Say("off");
    }

    private static DaySet Shift(DayBook day, Practitioner practitioner) => day.OnShift(practitioner.Id) & day.Day.Whole;

    private static StretchAnswer[] RoomOpen(DayBook day) => day.Closure is null ? [Of(new Interval(day.Day.Start, day.Day.End), null)] : [];

    /// <summary>What of some blocked time lies on the day in the lane of a resource.</summary>
    private static List<StretchAnswer> Of(DayBook day, IReadOnlyList<BlockedTime> blocked, Guid id) =>
        [
            .. blocked
                .Where(block => block.ResourceId == id && block.During.Start < day.Day.End && block.During.End > day.Day.Start)
                .Select(block => Of(block.During, block.Reason) with { BlockId = block.BlockId }),
        ];

    /// <summary>What is kept in a lane for somebody for a while.</summary>
    private static List<KeptAnswer> Kept(DayBook day, Guid id, Instant now, IReadOnlyDictionary<Guid, ProposedTo>? proposed) =>
        [
            .. day
                .Taken.Where(claim => claim.ResourceId == id && claim.ExpiresAt > now)
                .Where(claim => claim.During.Start < day.Day.End && claim.During.End > day.Day.Start)
                .Select(claim =>
                {
                    ProposedTo? to = claim.OccupationId is { } held ? proposed?.GetValueOrDefault(held) : null;
                    return new KeptAnswer(claim.During.Start, claim.During.End, claim.ExpiresAt!.Value, to?.VisitId, to?.Client);
                })
                .Distinct()
                .OrderBy(kept => kept.From),
        ];

    private static List<StretchAnswer> Stretches(BookDay day, DaySet set) =>
        [.. (set & day.Whole).Runs().Select(run => Of(day.Between(run.From, run.Until), null))];

    private static StretchAnswer Of(Interval interval, string? reason) => new(interval.Start, interval.End, reason);

    /// <summary>The part of the day to show: whatever is open, on shift or booked, widened to whole hours. Nothing else decides
    /// it.</summary>
    private static (Instant From, Instant Until) Bounds(DayBook day, IReadOnlyList<StoredVisit> visits)
    {
        DaySet used = day.Opening;
        foreach (Practitioner practitioner in day.House.Practitioners)
            used |= Shift(day, practitioner);
        foreach (ClaimRow claim in visits.SelectMany(visit => visit.Claims))
            used |= day.Day.Touched(claim.Core);
        used &= day.Day.Whole;
        int from = used.IsEmpty ? 9 * 12 : used.Runs().First().From,
            until = used.IsEmpty ? 17 * 12 : used.Runs().Last().Until;
        while (from > 0 && day.Day.WallOf(from).Minute != 0)
            from--;
        while (until < day.Day.GrainCount && day.Day.WallOf(until).Minute != 0)
            until++;
        return (day.Day.At(from), day.Day.At(until));
    }

    private static List<HourAnswer> Hours(BookDay day, Instant from, Instant until)
    {
        List<HourAnswer> hours = [];
        for (int grain = day.Floor(from); grain < day.Floor(until); grain++)
            if (day.WallOf(grain).Minute == 0)
                hours.Add(new HourAnswer(day.At(grain), Language.Current.Write(day.WallOf(grain))));
        return hours;
    }

    private static int Percent(int part, int whole) => (int)Math.Round(100.0 * part / whole);
}
