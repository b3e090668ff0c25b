using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using NodaTime.TimeZones;

namespace Kingcup.Core.Tests.Reference;

/// <summary>A stretch of a resource in the reference: plain instants, no grains.</summary>
/// <param name="ResourceId">The resource.</param>
/// <param name="During">From when until when it is held.</param>
/// <param name="Core">The part of it that has to lie on open days.</param>
/// <param name="Units">How many units.</param>
/// <param name="ServiceId">What for.</param>
public sealed record SlowClaim(Guid ResourceId, Interval During, Interval Core, int Units, Guid ServiceId);

/// <summary>A line as the reference tries it.</summary>
public sealed record SlowLine(
    int Index,
    Service Service,
    int Person,
    Instant Start,
    IReadOnlyList<int> PhaseMinutes,
    IReadOnlyList<Practitioner> Staff,
    Room? Room
)
{
    public Instant End => Start + Duration.FromMinutes(PhaseMinutes.Sum());

    public Interval Phase(int phase)
    {
        Instant from = Start + Duration.FromMinutes(PhaseMinutes.Take(phase).Sum());
        return new Interval(from, from + Duration.FromMinutes(PhaseMinutes[phase]));
    }

    public int? FirstAttended => Attended().FirstOrDefault();

    public int? LastAttended => Attended().LastOrDefault();

    private IEnumerable<int?> Attended() =>
        Enumerable.Range(0, PhaseMinutes.Count).Where(i => Service.Phases[i].AttendedBy.Count > 0).Select(i => (int?)i);

    public bool BeginsWith(Practitioner practitioner) =>
        FirstAttended is { } first && Service.Phases[first].AttendedBy.Any(role => Staff[role] == practitioner);

    public bool EndsWith(Practitioner practitioner) =>
        LastAttended is { } last && Service.Phases[last].AttendedBy.Any(role => Staff[role] == practitioner);
}

/// <summary>
/// The slow, obvious reference: it tries every start, every wait, every person and room, one after another, writes down what is held
/// as the rules say and looks whether all of it is free. It shares no code with the engine but the descriptions.
/// </summary>
/// <param name="world">The world.</param>
/// <param name="asClients">Whether what stops online booking only is blocked, as it is for clients.</param>
public sealed class SlowBook(World world, bool asClients = false)
{
    private readonly House _house = world.House;
    private readonly DateTimeZone _zone = world.House.Location.Zone;

    public IEnumerable<Instant> AllStarts()
    {
        Instant end = _zone.AtStartOfDay(world.Date.PlusDays(1)).ToInstant();
        for (Instant at = _zone.AtStartOfDay(world.Date).ToInstant(); at < end; at += Duration.FromMinutes(5))
            yield return at;
    }

    /// <summary>All ways to place the visit at a start.</summary>
    public IEnumerable<IReadOnlyList<SlowLine>> Ways(Instant start) =>
        world.Wish.Lines.Any(line =>
            _house.Services[line.ServiceId].Locations is { Count: > 0 } places && !places.Contains(_house.Location.Id)
        )
            ? []
            : Place(start, []);

    private IEnumerable<IReadOnlyList<SlowLine>> Place(Instant start, IReadOnlyList<SlowLine> done)
    {
        if (done.Count == world.Wish.Lines.Count)
        {
            if (AllFree(done))
                yield return done;
            yield break;
        }

        LineWish wish = world.Wish.Lines[done.Count];
        Service service = _house.Services[wish.ServiceId];
        SlowLine? before = done.LastOrDefault(line => line.Person == wish.Person);
        for (int wait = 0; wait <= (before is null ? 0 : _house.Location.LongestWaitMinutes); wait += 5)
        {
            Instant at = (before?.End ?? start + Duration.FromMinutes(wish.OffsetMinutes)) + Duration.FromMinutes(wait);
            foreach (IReadOnlyList<Practitioner> staff in Staffings(service, wish, 0, []))
            {
                IReadOnlyList<int> minutes = Minutes(service, staff[0], wish);
                foreach (Room? room in RoomsFor(service).Where(room => room is null || MayUse(wish, room)))
                {
                    SlowLine line = new(done.Count, service, wish.Person, at, minutes, staff, room);
                    // The bare attended time has to be free whatever comes behind; saves most of the walk.
                    if (!Attended(line).All(claim => FreeUnits(claim) >= claim.Units))
                        continue;
                    foreach (IReadOnlyList<SlowLine> way in Place(start, [.. done, line]))
                        yield return way;
                }
            }
        }
    }

    private IEnumerable<IReadOnlyList<Practitioner>> Staffings(Service service, LineWish wish, int role, IReadOnlyList<Practitioner> chosen)
    {
        if (role == service.Roles.Count)
        {
            yield return chosen;
            yield break;
        }

        foreach (Practitioner practitioner in _house.Practitioners)
        {
            if (
                !MayTake(service.Roles[role], practitioner)
                || chosen.Contains(practitioner)
                || (role == 0 && wish.PractitionerId is { } only && only != practitioner.Id)
            )
                continue;
            foreach (IReadOnlyList<Practitioner> all in Staffings(service, wish, role + 1, [.. chosen, practitioner]))
                yield return all;
        }
    }

    private bool MayUse(LineWish wish, Room room) =>
        wish.RoomId is { } only ? room.Id == only : !world.Wish.WithoutRooms.Contains(room.Id);

    private static List<int> Minutes(Service service, Practitioner lead, LineWish wish)
    {
        List<int> minutes = [.. service.Phases.Select(phase => phase.Minutes)];
        List<int> attended = [.. Enumerable.Range(0, minutes.Count).Where(i => service.Phases[i].AttendedBy.Count > 0)];
        if (attended.Count == 0)
            attended = [.. Enumerable.Range(0, minutes.Count)];
        int longest = attended.First(i => service.Phases[i].Minutes == attended.Max(j => service.Phases[j].Minutes));
        int wanted = wish.SetMinutes ?? (service.Terms.GetValueOrDefault(lead.Id)?.Minutes ?? minutes.Sum()) + wish.ExtraMinutes;
        minutes[longest] += wanted - minutes.Sum();
        return minutes;
    }

    private IEnumerable<Room?> RoomsFor(Service service) =>
        service.Room is null
            ? [null]
            : [.. _house.Rooms.Where(room => service.Room.Features.IsSubsetOf(room.Features) && service.Room.Units <= room.Capacity)];

    private static int UnitsOf(Practitioner practitioner, Service service) => service.BesideOthers ? 1 : practitioner.Attention;

    private static SlowClaim Of(Practitioner practitioner, Service service, Instant from, Instant until) =>
        new(practitioner.Id, new Interval(from, until), new Interval(from, until), UnitsOf(practitioner, service), service.Id);

    private static IEnumerable<SlowClaim> Attended(SlowLine line) =>
        from phase in Enumerable.Range(0, line.PhaseMinutes.Count)
        from role in line.Service.Phases[phase].AttendedBy
        select Of(line.Staff[role], line.Service, line.Phase(phase).Start, line.Phase(phase).End);

    /// <summary>What a way holds of its people, role by role: neighbouring phases and buffers are one stretch (rules, section 4).</summary>
    public static IEnumerable<(int Line, int Role, SlowClaim Claim)> People(IReadOnlyList<SlowLine> lines)
    {
        foreach (SlowLine line in lines)
        {
            SlowLine? before = lines.LastOrDefault(other => other.Person == line.Person && other.Index < line.Index),
                after = lines.FirstOrDefault(other => other.Person == line.Person && other.Index > line.Index);
            for (int role = 0; role < line.Staff.Count; role++)
            {
                Practitioner practitioner = line.Staff[role];
                List<(Instant From, Instant Until)> stretches = [];
                for (int phase = 0; phase < line.PhaseMinutes.Count; phase++)
                {
                    if (!line.Service.Phases[phase].AttendedBy.Contains(role))
                        continue;
                    (Instant from, Instant until) = (line.Phase(phase).Start, line.Phase(phase).End);
                    if (phase == line.FirstAttended && (line.Service.BufferAlways || before?.EndsWith(practitioner) != true))
                        from -= Duration.FromMinutes(line.Service.BufferBeforeMinutes);
                    if (phase == line.LastAttended && (line.Service.BufferAlways || after?.BeginsWith(practitioner) != true))
                        until += Duration.FromMinutes(line.Service.BufferAfterMinutes);
                    if (stretches.Count > 0 && stretches[^1].Until == from)
                        stretches[^1] = (stretches[^1].From, until);
                    else
                        stretches.Add((from, until));
                }

                foreach ((Instant from, Instant until) in stretches)
                    yield return (line.Index, role, Of(practitioner, line.Service, from, until));
            }
        }
    }

    /// <summary>Equipment of a line, unit upon unit: neighbouring phases share as many as both need.</summary>
    private IEnumerable<SlowClaim> Equipment(SlowLine line)
    {
        foreach (EquipmentPool pool in _house.Pools)
        {
            for (int unit = 1; unit <= 4; unit++)
            {
                Instant? from = null;
                for (int phase = 0; phase <= line.PhaseMinutes.Count; phase++)
                {
                    bool used =
                        phase < line.PhaseMinutes.Count
                        && line.Service.Phases[phase].Equipment.Where(need => need.PoolId == pool.Id).Sum(need => need.Units) >= unit;
                    if (used)
                        from ??= line.Phase(phase).Start;
                    if (used || from is not { } began)
                        continue;
                    Instant until = line.Phase(phase - 1).End;
                    yield return new SlowClaim(
                        pool.Id,
                        new Interval(began, until + Duration.FromMinutes(pool.TurnaroundMinutes)),
                        new Interval(began, until),
                        1,
                        line.Service.Id
                    );
                    from = null;
                }
            }
        }
    }

    private bool AllFree(IReadOnlyList<SlowLine> lines)
    {
        List<SlowClaim> flat = [.. People(lines).Select(person => person.Claim), .. lines.SelectMany(Equipment)];
        foreach (IGrouping<Guid, SlowClaim> own in flat.GroupBy(claim => claim.ResourceId))
            if (!Fits([.. own]))
                return false;
        return lines.Where(line => line.Room is not null).GroupBy(line => line.Room!).All(own => RoomFits(own.Key, [.. own]));
    }

    /// <summary>Whether stretches of one resource find units: each tries every choice of units, one after another.</summary>
    private bool Fits(List<SlowClaim> claims)
    {
        if (claims.Count == 1)
            return FreeUnits(claims[0]) >= claims[0].Units;
        int units = UnitsOf(claims[0].ResourceId);
        return Try(0, []);

        bool Try(int index, List<(int Unit, Interval During)> held)
        {
            if (index == claims.Count)
                return true;
            SlowClaim claim = claims[index];
            List<int> free =
            [
                .. Enumerable
                    .Range(0, units)
                    .Where(unit => IsFree(claim, unit) && !held.Any(other => other.Unit == unit && Overlap(other.During, claim.During))),
            ];
            return Picks(free, claim.Units).Any(pick => Try(index + 1, [.. held, .. pick.Select(unit => (unit, claim.During))]));
        }
    }

    /// <summary>
    /// Whether the lines spent in one room find units there. Units go on into the next line of the same person, or are left and need
    /// their turnaround.
    /// </summary>
    private bool RoomFits(Room room, List<SlowLine> lines)
    {
        Duration turnaround = Duration.FromMinutes(room.TurnaroundMinutes);
        SlowClaim Held(SlowLine line, Instant from, Instant until) =>
            new(room.Id, new Interval(from, until + turnaround), new Interval(from, until), 1, line.Service.Id);
        if (lines.Count == 1)
            return FreeUnits(Held(lines[0], lines[0].Start, lines[0].End)) >= lines[0].Service.Room!.Units;
        lines = [.. lines.OrderBy(line => line.Start)];
        return Try(0, [.. lines.Select(_ => Array.Empty<int>())]);

        bool Try(int index, List<int[]> chosen)
        {
            if (index == lines.Count)
                return Enumerable
                    .Range(0, room.Capacity)
                    .All(unit => UnitHolds(unit, [.. lines.Where((_, i) => chosen[i].Contains(unit))]));
            return Picks([.. Enumerable.Range(0, room.Capacity)], lines[index].Service.Room!.Units)
                .Any(pick => Try(index + 1, [.. chosen.Take(index), pick, .. chosen.Skip(index + 1)]));
        }

        bool UnitHolds(int unit, List<SlowLine> own)
        {
            // Between two of its lines the unit is either kept through the wait, or left.
            for (int choice = 0; choice < 1 << Math.Max(0, own.Count - 1); choice++)
            {
                List<SlowClaim> claims = [];
                Instant? from = null;
                bool possible = true;
                for (int i = 0; i < own.Count; i++)
                {
                    from ??= own[i].Start;
                    bool keeps = i + 1 < own.Count && (choice >> i & 1) == 1;
                    if (keeps)
                    {
                        int next = world
                            .Wish.Lines.Index()
                            .Where(line => line.Item.Person == own[i].Person && line.Index > own[i].Index)
                            .Select(line => line.Index)
                            .FirstOrDefault(-1);
                        possible &= next == own[i + 1].Index;
                        continue;
                    }

                    claims.Add(Held(own[i], from.Value, own[i].End));
                    from = null;
                }

                if (
                    possible
                    && claims.All(claim => IsFree(claim, unit))
                    && claims.Zip(claims.Skip(1)).All(pair => pair.First.During.End <= pair.Second.During.Start)
                )
                    return true;
            }

            return own.Count == 0;
        }
    }

    private static IEnumerable<int[]> Picks(IReadOnlyList<int> from, int wanted)
    {
        if (wanted == 0)
            return
            [
                [],
            ];
        return from.Index()
            .SelectMany(pair => Picks([.. from.Skip(pair.Index + 1)], wanted - 1).Select(rest => (int[])[pair.Item, .. rest]));
    }

    private int UnitsOf(Guid id) =>
        _house.Practitioners.FirstOrDefault(practitioner => practitioner.Id == id)?.Attention
        ?? _house.Rooms.FirstOrDefault(room => room.Id == id)?.Capacity
        ?? _house.Pools.First(pool => pool.Id == id).Quantity;

    /// <summary>How many units are free for the whole of a stretch.</summary>
    public int FreeUnits(SlowClaim claim) => Enumerable.Range(0, UnitsOf(claim.ResourceId)).Count(unit => IsFree(claim, unit));

    /// <summary>Whether a unit is open and has nothing else for the whole stretch.</summary>
    public bool IsFree(SlowClaim claim, int unit)
    {
        if (claim.During.Start >= claim.During.End)
            return true;
        Practitioner? person = _house.Practitioners.FirstOrDefault(practitioner => practitioner.Id == claim.ResourceId);
        for (Instant at = claim.Core.Start; at < claim.Core.End; at += Duration.FromMinutes(5))
        {
            if (person is null ? !IsOpen(at) : !IsOnShift(person, at, claim.ServiceId))
                return false;
        }

        if (_house.Rooms.FirstOrDefault(room => room.Id == claim.ResourceId)?.Retired is { } retired && world.Date >= retired)
            return false;
        if (Blocked().Any(block => block.ResourceId == claim.ResourceId && Overlap(block.During, claim.During)))
            return false;
        return !world.Taken.Any(taken =>
        {
            Duration travel = Duration.FromMinutes(taken.LocationId == _house.Location.Id ? 0 : 20);
            return taken.ResourceId == claim.ResourceId
                && taken.Unit == unit
                && Overlap(new Interval(taken.During.Start - travel, taken.During.End + travel), claim.During);
        });
    }

    private List<(Guid ResourceId, Interval During)>? _blocked;

    /// <summary>Everything blocked, the repeating written out date by date.</summary>
    public List<(Guid ResourceId, Interval During)> Blocked()
    {
        if (_blocked is not null)
            return _blocked;
        _blocked =
        [
            .. world
                .Dated.Blocks.Once.Where(block => asClients || block.Kind != Kingcup.Core.Calendar.BlockKind.Online)
                .Select(block => (block.ResourceId, block.During)),
        ];
        foreach (Kingcup.Core.Calendar.RepeatingBlock block in world.Dated.Blocks.Repeating)
        {
            for (LocalDate date = world.Date.PlusDays(-2); date <= world.Date.PlusDays(2); date = date.PlusDays(1))
                if (!(block.Changed.TryGetValue(date, out Stretch? other) && other is null))
                    _blocked.Add((block.ResourceId, Wall(date, other ?? block.During)));
        }

        return _blocked;
    }

    /// <summary>Rooms and equipment rest on days on which their location is closed, unless somebody works all the same.</summary>
    private bool IsOpen(Instant at)
    {
        LocalDate date = at.InZone(_zone).Date;
        return !IsClosed(date) || _house.Practitioners.Any(practitioner => ShiftsOf(practitioner, date).Any());
    }

    private bool IsClosed(LocalDate date) =>
        world.Dated.Closures.Any(closure =>
            closure.LocationId == _house.Location.Id
            && (
                closure.Date == date
                || (closure.Yearly && closure.Date <= date && (closure.Date.Month, closure.Date.Day) == (date.Month, date.Day))
            )
        );

    private bool IsOnShift(Practitioner practitioner, Instant at, Guid serviceId) =>
        Enumerable
            .Range(-1, 3)
            .Select(offset => world.Date.PlusDays(offset))
            .Any(date =>
                ShiftsOf(practitioner, date)
                    .Any(shift =>
                        IsFor(shift, serviceId)
                        && Wall(date, shift.During).Contains(at)
                        && Wall(date, shift.During).End >= at + Duration.FromMinutes(5)
                        && !shift.Breaks.Any(pause => Overlap(Wall(date, pause.During), new Interval(at, at + Duration.FromMinutes(5))))
                    )
            );

    private bool IsFor(Shift shift, Guid serviceId) =>
        (shift.Services.Count == 0 && shift.Categories.Count == 0)
        || shift.Services.Contains(serviceId)
        || shift.Categories.Contains(_house.Services[serviceId].CategoryId);

    private IEnumerable<Shift> ShiftsOf(Practitioner practitioner, LocalDate date)
    {
        if (practitioner.Retired is { } retired && date >= retired)
            return [];
        Kingcup.Core.Calendar.ShiftChange? change = world.Dated.Changes.FirstOrDefault(other =>
            other.PractitionerId == practitioner.Id && other.Date == date
        );
        IEnumerable<Shift> shifts =
            change?.Shifts
            ?? _house.Rotas.Of(practitioner.Id).First().Shifts.Where(shift => shift.Weekday == date.DayOfWeek).Select(shift => shift.Shift);
        return IsClosed(date) && change?.WorksDuringClosure != true ? [] : shifts;
    }

    private Interval Wall(LocalDate date, Stretch stretch)
    {
        Instant from = Wall(date + stretch.From);
        Instant until = stretch.Until == LocalTime.Midnight ? _zone.AtStartOfDay(date.PlusDays(1)).ToInstant() : Wall(date + stretch.Until);
        return new Interval(from, Instant.Max(from, until));
    }

    private Instant Wall(LocalDateTime wall) => wall.InZone(_zone, Resolvers.LenientResolver).ToInstant();

    private T Rule<T>(Service service, Func<OnlineRules, T?> of, OnlineRules? client = null)
        where T : struct =>
        (client is null ? null : of(client))
        ?? of(service.Online)
        ?? (service.CategoryId == Worlds.Id(50) ? of(world.CategoryRules) : null)
        ?? of(_house.Location.Online)
        ?? of(OnlineRules.Usual)!.Value;

    /// <summary>Whether a way passes the gates a client has to pass besides being free.</summary>
    public bool IsOffered(IReadOnlyList<SlowLine> way, Audience audience, Instant now)
    {
        // A value for everyone at a place is one for new clients too.
        int Lead(Service service) =>
            Rule(service, rules => (audience.IsNew ? rules.NewLeadMinutes : null) ?? rules.LeadMinutes, audience.Own);
        int Horizon(Service service) =>
            Rule(service, rules => (audience.IsNew ? rules.NewHorizonDays : null) ?? rules.HorizonDays, audience.Own);
        Instant start = way[0].Start;
        bool mayBook =
            _house.BusinessIsOnline
            && _house.Location.BookableOnline
            && (_house.Location.AcceptsNewClients || !audience.IsNew)
            && audience.MayBookOnline
            && !IsLimited(audience, now)
            && way.All(line => line.Staff[0].BookableOnline)
            && way.All(line => MayBeBooked(line.Service, audience, start, now));
        bool accepted = way.All(line =>
            !audience.IsNew
            || (line.Staff[0].AcceptsNewClients && (line.Service.Terms.GetValueOrDefault(line.Staff[0].Id)?.AcceptsNewClients ?? true))
        );
        bool date =
            !world.Dated.Stops.Any(stop => stop.Date == world.Date)
            && way.All(line => InSeason(line.Service.Season))
            && way.All(line => line.Service.Weekdays.Count == 0 || line.Service.Weekdays.Contains(world.Date.DayOfWeek))
            && start >= now + Duration.FromMinutes(way.Max(line => Lead(line.Service)))
            && world.Date <= now.InZone(_zone).Date.PlusDays(way.Min(line => Horizon(line.Service)));
        return mayBook && accepted && date && IsInside(start, way.Max(line => line.End)) && OnGrid(way) && WithinLimits(way);
    }

    private bool IsInside(Instant start, Instant end)
    {
        for (Instant at = start; at < end; at += Duration.FromMinutes(5))
        {
            if (
                !Enumerable
                    .Range(-1, 3)
                    .Select(offset => world.Date.PlusDays(offset))
                    .Any(day =>
                        !IsClosed(day)
                        && _house.Location.Opening.Any(hours =>
                            hours.Weekday == day.DayOfWeek
                            && Wall(day, hours.During).Contains(at)
                            && Wall(day, hours.During).End >= at + Duration.FromMinutes(5)
                        )
                    )
            )
                return false;
        }

        return true;
    }

    /// <summary>The starts offered by rules section 5, and those offered last; gate 8 looks at all ways of the day.</summary>
    public (List<Instant> Starts, List<Instant> Last) Offered(Audience audience, Instant now)
    {
        if (!asClients)
            return new SlowBook(world, asClients: true).Offered(audience, now);
        List<(Instant Start, bool Clean)> found =
        [
            .. AllStarts()
                .Select(start => (start, Ways: Ways(start).Where(way => IsOffered(way, audience, now)).ToList()))
                .Where(pair => pair.Ways.Count > 0)
                .Select(pair => (pair.start, pair.Ways.Any(LeavesNoGap))),
        ];
        List<Instant> all = [.. found.Select(pair => pair.Start)],
            clean = [.. found.Where(pair => pair.Clean).Select(pair => pair.Start)];
        GapRule gap = world.Wish.Lines.Max(line => Rule(_house.Services[line.ServiceId], rules => rules.Gap));
        return gap switch
        {
            GapRule.Off => (all, []),
            GapRule.Strict when clean.Count > 0 => (clean, []),
            _ => (all, [.. all.Except(clean)]),
        };
    }

    private bool IsLimited(Audience audience, Instant now)
    {
        if (_house.Location.NoShowLimit is not { Action: NoShowAction.Refuse } limit)
            return false;
        Instant since = now.InZone(_zone).Date.PlusMonths(-limit.Months).AtStartOfDayInZone(_zone).ToInstant();
        return audience.Missed.Where(at => since <= at && at <= now).Count() >= limit.Times;
    }

    private static bool MayBeBooked(Service service, Audience audience, Instant start, Instant now)
    {
        bool shown =
            service.Visibility is Visibility.Everyone || (service.Visibility is Visibility.WithLink && audience.Links.Contains(service.Id));
        bool meant = service.For switch
        {
            ClientKind.NewOnly => audience.IsNew,
            ClientKind.ReturningOnly => !audience.IsNew,
            _ => true,
        };
        bool prepared =
            service.Prerequisite is not { } before
            || audience.Visits.Any(visit =>
                visit.ServiceId == before.ServiceId
                && (visit.IsDone || visit.End > now)
                && visit.End.Plus(Duration.FromHours(before.AtLeastHours)) <= start
                && start <= visit.End.Plus(Duration.FromDays(before.AtMostDays))
            );
        return shown && meant && prepared;
    }

    private bool InSeason(Season? season)
    {
        if (season is null)
            return true;
        (int, int) day = (world.Date.Month, world.Date.Day),
            from = (season.From.Month, season.From.Day),
            until = (season.Until.Month, season.Until.Day);
        return from.CompareTo(until) <= 0
            ? day.CompareTo(from) >= 0 && day.CompareTo(until) <= 0
            : day.CompareTo(from) >= 0 || day.CompareTo(until) <= 0;
    }

    private List<TakenTime> HadBy(Practitioner practitioner)
    {
        Instant dayStart = _zone.AtStartOfDay(world.Date).ToInstant(),
            dayEnd = _zone.AtStartOfDay(world.Date.PlusDays(1)).ToInstant();
        return
        [
            .. world.Taken.Where(taken =>
                taken.ResourceId == practitioner.Id && taken.During.Start >= dayStart && taken.During.Start < dayEnd
            ),
        ];
    }

    /// <summary>Daily limits: of the people of a line, of the first role's only.</summary>
    private bool WithinLimits(IReadOnlyList<SlowLine> way) =>
        _house.Practitioners.All(practitioner =>
        {
            List<TakenTime> had = HadBy(practitioner);
            List<(int Line, SlowClaim Claim)> led =
            [
                .. People(way)
                    .Where(held => held.Role == 0 && way[held.Line].Staff[0] == practitioner)
                    .Select(held => (held.Line, held.Claim)),
            ];
            if (led.Count == 0)
                return true;
            List<SlowLine> own = [.. led.Select(held => held.Line).Distinct().Select(line => way[line])];
            double minutes =
                had.Sum(taken => taken.During.Duration.TotalMinutes) + led.Sum(held => held.Claim.During.Duration.TotalMinutes);
            // What is held for no service at all counts as an appointment of no category.
            List<Guid> categories =
            [
                .. had.Where(taken => taken.ServiceId is not null).Select(taken => _house.Services[taken.ServiceId!.Value].CategoryId),
                .. own.Select(line => line.Service.CategoryId),
            ];
            return (practitioner.Limits.Appointments is null || had.Count + own.Count <= practitioner.Limits.Appointments)
                && (practitioner.Limits.Minutes is null || minutes <= practitioner.Limits.Minutes)
                && practitioner.Limits.PerCategory.All(bound =>
                    !own.Any(line => line.Service.CategoryId == bound.Key)
                    || categories.Count(category => category == bound.Key) <= bound.Value
                );
        });

    /// <summary>Whether a way leaves nobody a gap that is shorter than the shortest useful one.</summary>
    public bool LeavesNoGap(IReadOnlyList<SlowLine> way) =>
        way.SelectMany(line => line.Staff).Distinct().All(practitioner => Unusable(way, practitioner) == 0);

    /// <summary>Minutes of gap a way leaves before and after a person's time that are too short to be of use.</summary>
    public int Unusable(IReadOnlyList<SlowLine> way, Practitioner practitioner)
    {
        List<SlowClaim> own = [.. People(way).Where(held => held.Claim.ResourceId == practitioner.Id).Select(held => held.Claim)];
        // Whoever looks after several at once has no gap that could be lost.
        if (own.Count == 0 || practitioner.Attention > 1)
            return 0;
        Service strictest = world
            .Wish.Lines.Select(line => _house.Services[line.ServiceId])
            .MaxBy(service => Rule(service, rules => rules.Gap))!;
        int? set =
            strictest.Online.ShortestGapMinutes
            ?? (strictest.CategoryId == Worlds.Id(50) ? world.CategoryRules.ShortestGapMinutes : null)
            ?? _house.Location.Online.ShortestGapMinutes;
        int shortest =
            set
            ?? _house
                .Services.Values.Where(service =>
                    (service.Locations.Count == 0 || service.Locations.Contains(_house.Location.Id))
                    && service.Roles.Any(role => MayTake(role, practitioner))
                )
                .Select(service => service.Terms.GetValueOrDefault(practitioner.Id)?.Minutes ?? service.Phases.Sum(phase => phase.Minutes))
                .DefaultIfEmpty(0)
                .Min();
        int before = 0,
            after = 0;
        Instant first = own.Min(claim => claim.During.Start),
            last = own.Max(claim => claim.During.End);
        while (before < 2000 && IsIdle(practitioner, first - Duration.FromMinutes(before + 5)))
            before += 5;
        while (after < 2000 && IsIdle(practitioner, last + Duration.FromMinutes(after)))
            after += 5;
        return (before < shortest ? before : 0) + (after < shortest ? after : 0);
    }

    private bool IsIdle(Practitioner practitioner, Instant at) =>
        _house.Services.Keys.Any(service =>
            IsFree(
                new SlowClaim(
                    practitioner.Id,
                    new Interval(at, at + Duration.FromMinutes(5)),
                    new Interval(at, at + Duration.FromMinutes(5)),
                    1,
                    service
                ),
                0
            )
        );

    private bool MayTake(StaffRule rule, Practitioner practitioner) =>
        (practitioner.Retired is not { } retired || world.Date < retired)
        && !rule.Excluded.Contains(practitioner.Id)
        && (
            rule.Added.Contains(practitioner.Id)
            || (
                rule.Qualifications.Count > 0
                && rule.Qualifications.All(needed =>
                    practitioner.Qualifications.Any(held =>
                        held.QualificationId == needed && held.From <= world.Date && (held.Until ?? LocalDate.MaxIsoValue) >= world.Date
                    )
                )
            )
        );

    /// <summary>Who is taken at a start when nobody was chosen and one line with one role is wanted (rules, section 6).</summary>
    public Guid Assigned(Instant start, WeekLoad week)
    {
        double Day(Practitioner practitioner) => HadBy(practitioner).Sum(taken => taken.During.Duration.TotalMinutes);
        var candidates = Ways(start)
            .GroupBy(way => way[0].Staff[0])
            .Select(group => (One: group.Key, Way: group.First()))
            .OrderBy(pair => pair.One.Order);
        return (
            Rule(_house.Services[world.Wish.Lines[0].ServiceId], rules => rules.Assignment) switch
            {
                Assignment.HouseOrder => candidates.First(),
                Assignment.EvenLoad => candidates
                    .OrderBy(candidate => week.Minutes.GetValueOrDefault(candidate.One.Id))
                    .ThenBy(candidate => Day(candidate.One))
                    .ThenBy(candidate => candidate.One.Order)
                    .First(),
                _ => candidates
                    .OrderBy(candidate => Unusable(candidate.Way, candidate.One))
                    .ThenBy(candidate => week.Minutes.GetValueOrDefault(candidate.One.Id))
                    .ThenBy(candidate => Day(candidate.One))
                    .ThenBy(candidate => candidate.One.Order)
                    .First(),
            }
        )
            .One
            .Id;
    }

    /// <summary>The starts a count of what each gate removes speaks of: those of an even grid, or every one there is.</summary>
    public IEnumerable<Instant> CountedStarts()
    {
        Service first = _house.Services[world.Wish.Lines[0].ServiceId];
        if (Rule(first, rules => rules.Grid) != StartGrid.EveryMinutes)
            return AllStarts();
        int step = Rule(first, rules => rules.EveryMinutes);
        return AllStarts().Where(start => start.InZone(_zone).TimeOfDay is LocalTime wall && ((wall.Hour * 60) + wall.Minute) % step == 0);
    }

    private bool OnGrid(IReadOnlyList<SlowLine> way)
    {
        SlowLine first = way[0];
        LocalTime wall = first.Start.InZone(_zone).TimeOfDay;
        switch (Rule(first.Service, rules => rules.Grid))
        {
            case StartGrid.EveryMinutes:
                return ((wall.Hour * 60) + wall.Minute) % Rule(first.Service, rules => rules.EveryMinutes) == 0;
            case StartGrid.SetTimes:
                return first.Service.SetTimes.Any(time =>
                    time.Weekday == world.Date.DayOfWeek
                    && (time.PractitionerId is null || time.PractitionerId == first.Staff[0].Id)
                    && Wall(world.Date + time.At) == first.Start
                );
            default:
                break;
        }

        // Back to back: walk from the beginning of the lead's free run in steps of what the visit holds of them.
        Practitioner lead = first.Staff[0];
        List<SlowClaim> own = [.. People(way).Where(held => held.Claim.ResourceId == lead.Id).Select(held => held.Claim)];
        if (own.Count == 0)
            return true;
        Instant begins = own.Min(claim => claim.During.Start),
            ends = own.Max(claim => claim.During.End);
        bool IsFree(Instant at) => FreeUnits(Of(lead, first.Service, at, at + Duration.FromMinutes(5))) >= UnitsOf(lead, first.Service);
        for (Instant at = begins; at < ends; at += Duration.FromMinutes(5))
            if (!IsFree(at))
                return false;
        Instant run = begins;
        while (IsFree(run - Duration.FromMinutes(5)))
            run -= Duration.FromMinutes(5);
        return (begins - run).TotalMinutes % (ends - begins).TotalMinutes == 0;
    }

    private static bool Overlap(Interval a, Interval b) => a.Start < b.End && b.Start < a.End;
}
