using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using NodaTime.TimeZones;

namespace Kingcup.Core.Tests.Reference;

/// <summary>A claim of the reference: plain instants, no grains.</summary>
public sealed record SlowClaim(Guid ResourceId, int Unit, Interval During);

/// <summary>A line as the reference tries it.</summary>
public sealed record SlowLine(Service Service, Instant Start, IReadOnlyList<int> PhaseMinutes, IReadOnlyList<Practitioner> Staff, Room? Room, IReadOnlyList<int> Units)
{
    public Instant End => Start + Duration.FromMinutes(PhaseMinutes.Sum());
}

/// <summary>
/// The slow, obvious reference: it tries every start, every wait, every person, room and item, one after another, writes down
/// the claims as the rules say and looks whether each of them is free. It shares no code with the engine but the descriptions.
/// </summary>
public sealed class SlowBook(World world)
{
    private readonly House _house = world.House;
    private readonly DateTimeZone _zone = world.House.Location.Zone;

    public IEnumerable<Instant> AllStarts()
    {
        Instant end = _zone.AtStartOfDay(world.Date.PlusDays(1)).ToInstant();
        for (Instant at = _zone.AtStartOfDay(world.Date).ToInstant(); at < end; at += Duration.FromMinutes(5)) yield return at;
    }

    /// <summary>All ways to place the visit at a start.</summary>
    public IEnumerable<IReadOnlyList<SlowLine>> Ways(Instant start) => Place(start, []);

    private IEnumerable<IReadOnlyList<SlowLine>> Place(Instant start, IReadOnlyList<SlowLine> done)
    {
        if (done.Count == world.Wish.Lines.Count)
        {
            if (EquipmentWays(done, 0, [.. Claims(done)]).Any(AllFree)) yield return done;
            yield break;
        }

        LineWish wish = world.Wish.Lines[done.Count];
        Service service = _house.Services[wish.ServiceId];
        int longestWait = done.Count == 0 ? 0 : _house.Location.LongestWaitMinutes;
        for (int wait = 0; wait <= longestWait; wait += 5)
        {
            Instant at = (done.Count == 0 ? start : done[^1].End) + Duration.FromMinutes(wait);
            foreach (IReadOnlyList<Practitioner> staff in Staffings(service, wish, 0, []))
            {
                IReadOnlyList<int> minutes = Minutes(service, staff[0], wish.ExtraMinutes);
                foreach ((Room? room, int[] units) in RoomsFor(service))
                {
                    SlowLine line = new(service, at, minutes, staff, room, units);
                    // The bare attended time has to be free whatever comes behind; saves most of the walk.
                    if (!Attended(line).All(Free)) continue;
                    foreach (IReadOnlyList<SlowLine> way in Place(start, [.. done, line])) yield return way;
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

        foreach (Practitioner one in _house.Practitioners)
        {
            if (!MayTake(service.Roles[role], one) || chosen.Contains(one) || (role == 0 && wish.PractitionerId is { } only && only != one.Id)) continue;
            foreach (IReadOnlyList<Practitioner> all in Staffings(service, wish, role + 1, [.. chosen, one])) yield return all;
        }
    }

    private static List<int> Minutes(Service service, Practitioner lead, int extra)
    {
        List<int> minutes = [.. service.Phases.Select(phase => phase.Minutes)];
        List<int> attended = [.. Enumerable.Range(0, minutes.Count).Where(i => service.Phases[i].AttendedBy.Count > 0)];
        if (attended.Count == 0) attended = [.. Enumerable.Range(0, minutes.Count)];
        int longest = attended.First(i => service.Phases[i].Minutes == attended.Max(j => service.Phases[j].Minutes));
        int wanted = (service.Terms.GetValueOrDefault(lead.Id)?.Minutes ?? minutes.Sum()) + extra;
        minutes[longest] += wanted - minutes.Sum();
        return minutes;
    }

    private IEnumerable<(Room? Room, int[] Units)> RoomsFor(Service service)
    {
        if (service.Room is null)
        {
            yield return (null, []);
            yield break;
        }

        foreach (Room room in _house.Rooms.Where(room => service.Room.Features.IsSubsetOf(room.Features)))
            foreach (int[] units in Picks(room.Capacity, service.Room.Units)) yield return (room, units);
    }

    private static IEnumerable<int[]> Picks(int of, int wanted) =>
        Enumerable.Range(0, 1 << of)
            .Select(mask => Enumerable.Range(0, of).Where(unit => (mask >> unit & 1) == 1).ToArray())
            .Where(pick => pick.Length == wanted);

    private static Interval Phase(SlowLine line, int phase)
    {
        Instant from = line.Start + Duration.FromMinutes(line.PhaseMinutes.Take(phase).Sum());
        return new Interval(from, from + Duration.FromMinutes(line.PhaseMinutes[phase]));
    }

    private static IEnumerable<SlowClaim> Attended(SlowLine line) =>
        from phase in Enumerable.Range(0, line.PhaseMinutes.Count)
        from role in line.Service.Phases[phase].AttendedBy
        select new SlowClaim(line.Staff[role].Id, 0, Phase(line, phase));

    /// <summary>Claims of practitioners and rooms, as rules section 4 has them.</summary>
    public static IEnumerable<SlowClaim> Claims(IReadOnlyList<SlowLine> lines)
    {
        for (int i = 0; i < lines.Count; i++)
        {
            SlowLine line = lines[i];
            foreach (SlowClaim claim in Attended(line)) yield return claim;
            if (FirstAttended(line) is { } first)
                foreach (Practitioner one in On(line, first))
                    if (line.Service.BufferAlways || i == 0 || !EndsWith(lines[i - 1], one))
                        yield return new SlowClaim(one.Id, 0, new Interval(Phase(line, first).Start - Duration.FromMinutes(line.Service.BufferBeforeMinutes), Phase(line, first).Start));
            if (LastAttended(line) is { } last)
                foreach (Practitioner one in On(line, last))
                    if (line.Service.BufferAlways || i == lines.Count - 1 || !BeginsWith(lines[i + 1], one))
                        yield return new SlowClaim(one.Id, 0, new Interval(Phase(line, last).End, Phase(line, last).End + Duration.FromMinutes(line.Service.BufferAfterMinutes)));
            if (line.Room is null || (i > 0 && Keeps(lines[i - 1], line))) continue;
            int until = i;
            while (until + 1 < lines.Count && Keeps(lines[until], lines[until + 1])) until++;
            foreach (int unit in line.Units)
                yield return new SlowClaim(line.Room.Id, unit, new Interval(line.Start, lines[until].End + Duration.FromMinutes(line.Room.TurnaroundMinutes)));
        }
    }

    private static bool Keeps(SlowLine before, SlowLine line) =>
        before.Room is not null && line.Room is not null && before.Room.Id == line.Room.Id && before.Units.SequenceEqual(line.Units);

    private static int? FirstAttended(SlowLine line) =>
        Enumerable.Range(0, line.PhaseMinutes.Count).Select(i => (int?)i).FirstOrDefault(i => line.Service.Phases[i!.Value].AttendedBy.Count > 0);

    private static int? LastAttended(SlowLine line) =>
        Enumerable.Range(0, line.PhaseMinutes.Count).Select(i => (int?)i).LastOrDefault(i => line.Service.Phases[i!.Value].AttendedBy.Count > 0);

    private static IEnumerable<Practitioner> On(SlowLine line, int phase) => line.Service.Phases[phase].AttendedBy.Select(role => line.Staff[role]);

    private static bool EndsWith(SlowLine line, Practitioner one) => LastAttended(line) is { } last && On(line, last).Contains(one);

    private static bool BeginsWith(SlowLine line, Practitioner one) => FirstAttended(line) is { } first && On(line, first).Contains(one);

    private IEnumerable<List<SlowClaim>> EquipmentWays(IReadOnlyList<SlowLine> lines, int index, List<SlowClaim> claims)
    {
        List<(EquipmentNeed Need, Interval During)> needs = [.. lines.SelectMany(EquipmentOf)];
        if (index == needs.Count)
        {
            yield return claims;
            yield break;
        }

        (EquipmentNeed need, Interval during) = needs[index];
        EquipmentPool? pool = _house.Pools.SingleOrDefault(one => one.Id == need.PoolId);
        if (pool is null) yield break;
        Interval held = new(during.Start, during.End + Duration.FromMinutes(pool.TurnaroundMinutes));
        foreach (int[] units in Picks(pool.Quantity, need.Units))
        {
            List<SlowClaim> more = [.. claims, .. units.Select(unit => new SlowClaim(pool.Id, unit, held))];
            foreach (List<SlowClaim> way in EquipmentWays(lines, index + 1, more)) yield return way;
        }
    }

    /// <summary>Equipment of a line; neighbouring phases with the same need are one use.</summary>
    private static IEnumerable<(EquipmentNeed Need, Interval During)> EquipmentOf(SlowLine line)
    {
        foreach (EquipmentNeed need in line.Service.Phases.SelectMany(phase => phase.Equipment).Distinct())
        {
            Interval? run = null;
            for (int i = 0; i < line.PhaseMinutes.Count; i++)
            {
                if (line.Service.Phases[i].Equipment.Contains(need))
                {
                    run = new Interval(run?.Start ?? Phase(line, i).Start, Phase(line, i).End);
                }
                else if (run is { } done)
                {
                    yield return (need, done);
                    run = null;
                }
            }

            if (run is { } last) yield return (need, last);
        }
    }

    private bool AllFree(List<SlowClaim> claims) =>
        claims.All(Free) && claims.Index().All(one => claims.Skip(one.Index + 1).All(other =>
            other.ResourceId != one.Item.ResourceId || other.Unit != one.Item.Unit || !Overlap(other.During, one.Item.During)));

    /// <summary>Whether the resource is open and has nothing else for the whole claim.</summary>
    public bool Free(SlowClaim claim)
    {
        if (claim.During.Start == claim.During.End) return true;
        bool person = _house.Practitioners.Any(one => one.Id == claim.ResourceId);
        if (person && !ShiftsOf(claim.ResourceId).Any(shift => shift.Start <= claim.During.Start && claim.During.End <= shift.End)) return false;
        // Rooms and equipment rest on the day their location is closed, unless somebody works all the same.
        Instant midnight = _zone.AtStartOfDay(world.Date.PlusDays(1)).ToInstant();
        if (!person && claim.During.Start < midnight && _house.Calendar.ClosureOn(_house.Location.Id, world.Date) is not null && !_house.Practitioners.Any(one => ShiftsOf(one.Id).Any())) return false;
        LocalDate? retired = _house.Rooms.FirstOrDefault(one => one.Id == claim.ResourceId)?.Retired;
        if (world.Date >= retired) return false;
        if (world.Blocked.Any(block => block.ResourceId == claim.ResourceId && Overlap(block.During, claim.During))) return false;
        return !world.Taken.Any(taken =>
        {
            Duration travel = Duration.FromMinutes(taken.LocationId == _house.Location.Id ? 0 : 20);
            return taken.ResourceId == claim.ResourceId && taken.Unit == claim.Unit
                && Overlap(new Interval(taken.During.Start - travel, taken.During.End + travel), claim.During);
        });
    }

    private IEnumerable<Interval> ShiftsOf(Guid practitionerId) =>
        from shift in _house.Calendar.On(practitionerId, world.Date)
        let interval = Wall(shift.During)
        where interval.Duration > Duration.Zero
        select interval;

    private Interval Wall(Stretch stretch)
    {
        Instant from = Wall(world.Date + stretch.From);
        Instant until = stretch.Until == LocalTime.Midnight ? _zone.AtStartOfDay(world.Date.PlusDays(1)).ToInstant() : Wall(world.Date + stretch.Until);
        return new Interval(from, Instant.Max(from, until));
    }

    private Instant Wall(LocalDateTime wall) => wall.InZone(_zone, Resolvers.LenientResolver).ToInstant();

    /// <summary>Whether a way passes the gates a client has to pass besides being free; no set times in these worlds.</summary>
    public bool IsOffered(IReadOnlyList<SlowLine> way, Audience audience, Instant now)
    {
        OnlineRules rules = _house.Location.Online;
        // Set at the client goes before set at the location; a value for everyone is one for new clients too.
        int lead = audience.Own?.LeadMinutes ?? (audience.IsNew ? rules.NewLeadMinutes : null) ?? rules.LeadMinutes!.Value;
        int horizon = audience.Own?.HorizonDays ?? rules.HorizonDays!.Value;
        Instant start = way[0].Start;
        bool mayBook = _house.BusinessIsOnline && _house.Location.BookableOnline && (_house.Location.AcceptsNewClients || !audience.IsNew) && audience.MayBookOnline && !IsLimited(audience, now)
            && way.All(line => line.Staff[0].BookableOnline) && way.All(line => MayBeBooked(line.Service, audience, start));
        bool accepted = way.All(line => !audience.IsNew || (line.Staff[0].AcceptsNewClients && (line.Service.Terms.GetValueOrDefault(line.Staff[0].Id)?.AcceptsNewClients ?? true)));
        bool date = !_house.Location.StoppedOnline.ContainsKey(world.Date)
            && way.All(line => InSeason(line.Service.Season))
            && way.All(line => line.Service.Weekdays.Count == 0 || line.Service.Weekdays.Contains(world.Date.DayOfWeek))
            && start >= now + Duration.FromMinutes(lead)
            && world.Date <= now.InZone(_zone).Date.PlusDays(horizon);
        bool open = _house.Calendar.ClosureOn(_house.Location.Id, world.Date) is null && _house.Location.Opening.Any(hours => hours.Weekday == world.Date.DayOfWeek
            && Wall(hours.During).Start <= start && way[^1].End <= Wall(hours.During).End);
        return mayBook && accepted && date && open && OnGrid(way[0], rules) && WithinLimits(way);
    }

    /// <summary>The starts offered by rules section 5, and those offered last; gate 8 looks at all ways of the day.</summary>
    public (List<Instant> Starts, List<Instant> Last) Offered(Audience audience, Instant now)
    {
        List<(Instant Start, bool Clean)> found = [.. AllStarts()
            .Select(start => (start, Ways: Ways(start).Where(way => IsOffered(way, audience, now)).ToList()))
            .Where(one => one.Ways.Count > 0)
            .Select(one => (one.start, one.Ways.Any(LeavesNoGap)))];
        GapRule rule = _house.Location.Online.Gap!.Value;
        if (rule == GapRule.Strict && found.Any(one => one.Clean)) found.RemoveAll(one => !one.Clean);
        return ([.. found.Select(one => one.Start)], rule == GapRule.Off ? [] : [.. found.Where(one => !one.Clean).Select(one => one.Start)]);
    }

    private bool IsLimited(Audience audience, Instant now)
    {
        if (_house.Location.NoShowLimit is not { Action: NoShowAction.Refuse } limit) return false;
        Instant since = now.InZone(_zone).Date.PlusMonths(-limit.Months).AtStartOfDayInZone(_zone).ToInstant();
        return audience.Missed.Where(at => since <= at && at <= now).Count() >= limit.Times;
    }

    private static bool MayBeBooked(Service service, Audience audience, Instant start)
    {
        bool shown = service.Visibility is Visibility.Everyone || (service.Visibility is Visibility.WithLink && audience.Links.Contains(service.Id));
        bool meant = service.For switch { ClientKind.NewOnly => audience.IsNew, ClientKind.ReturningOnly => !audience.IsNew, _ => true };
        bool prepared = service.Prerequisite is not { } before || audience.Visits.Any(visit => visit.ServiceId == before.ServiceId
            && visit.End.Plus(Duration.FromHours(before.AtLeastHours)) <= start && start <= visit.End.Plus(Duration.FromDays(before.AtMostDays)));
        return shown && meant && prepared;
    }

    private bool InSeason(Season? season)
    {
        if (season is null) return true;
        (int, int) day = (world.Date.Month, world.Date.Day), from = (season.From.Month, season.From.Day), until = (season.Until.Month, season.Until.Day);
        return from.CompareTo(until) <= 0 ? day.CompareTo(from) >= 0 && day.CompareTo(until) <= 0 : day.CompareTo(from) >= 0 || day.CompareTo(until) <= 0;
    }

    private bool WithinLimits(IReadOnlyList<SlowLine> way) => _house.Practitioners.All(one =>
    {
        Instant dayStart = _zone.AtStartOfDay(world.Date).ToInstant(), dayEnd = _zone.AtStartOfDay(world.Date.PlusDays(1)).ToInstant();
        List<TakenTime> had = [.. world.Taken.Where(taken => taken.ResourceId == one.Id && taken.During.Start >= dayStart && taken.During.Start < dayEnd)];
        List<SlowLine> own = [.. way.Where(line => Attended(line).Any(claim => claim.ResourceId == one.Id))];
        if (own.Count == 0) return true;
        double minutes = had.Sum(taken => taken.During.Duration.TotalMinutes) + Claims(way).Where(claim => claim.ResourceId == one.Id).Sum(claim => claim.During.Duration.TotalMinutes);
        List<Guid> categories = [.. had.DistinctBy(taken => taken.AppointmentId).Select(taken => _house.Services[taken.ServiceId!.Value].CategoryId), .. own.Select(line => line.Service.CategoryId)];
        return !(categories.Count > one.Limits.Appointments) && !(minutes > one.Limits.Minutes)
            && one.Limits.PerCategory.All(bound => !own.Any(line => line.Service.CategoryId == bound.Key) || categories.Count(category => category == bound.Key) <= bound.Value);
    });

    /// <summary>Whether a way leaves nobody a gap that is shorter than the shortest useful one.</summary>
    public bool LeavesNoGap(IReadOnlyList<SlowLine> way) => way.SelectMany(line => line.Staff).Distinct().All(one => Unusable(way, one) == 0);

    /// <summary>Minutes of gap a way leaves before and after a person's time that are too short to be of use.</summary>
    public int Unusable(IReadOnlyList<SlowLine> way, Practitioner one)
    {
        List<SlowClaim> own = [.. Claims(way).Where(claim => claim.ResourceId == one.Id && claim.During.Duration > Duration.Zero)];
        if (own.Count == 0) return 0;
        int shortest = _house.Location.Online.ShortestGapMinutes ?? _house.Services.Values.Where(service => service.Roles.Any(role => MayTake(role, one)))
            .Select(service => service.Terms.GetValueOrDefault(one.Id)?.Minutes ?? service.Phases.Sum(phase => phase.Minutes)).DefaultIfEmpty(0).Min();
        int before = 0, after = 0;
        Instant first = own.Min(claim => claim.During.Start), last = own.Max(claim => claim.During.End);
        while (Free(new SlowClaim(one.Id, 0, new Interval(first - Duration.FromMinutes(before + 5), first - Duration.FromMinutes(before))))) before += 5;
        while (Free(new SlowClaim(one.Id, 0, new Interval(last + Duration.FromMinutes(after), last + Duration.FromMinutes(after + 5))))) after += 5;
        return (before < shortest ? before : 0) + (after < shortest ? after : 0);
    }

    private bool MayTake(StaffRule rule, Practitioner one) =>
        !(world.Date >= one.Retired) && !rule.Excluded.Contains(one.Id)
        && (rule.Added.Contains(one.Id) || (rule.Qualifications.Count > 0 && rule.Qualifications.All(needed =>
            one.Qualifications.Any(held => held.QualificationId == needed && held.From <= world.Date && (held.Until ?? LocalDate.MaxIsoValue) >= world.Date))));

    /// <summary>Who is taken at a start when nobody was chosen and one line with one role is wanted (rules, section 6).</summary>
    public Guid Assigned(Instant start, WeekLoad week)
    {
        Instant dayStart = _zone.AtStartOfDay(world.Date).ToInstant(), dayEnd = _zone.AtStartOfDay(world.Date.PlusDays(1)).ToInstant();
        double Day(Practitioner one) => world.Taken.Where(taken => taken.ResourceId == one.Id && taken.During.Start >= dayStart && taken.During.Start < dayEnd).Sum(taken => taken.During.Duration.TotalMinutes);
        var candidates = Ways(start).GroupBy(way => way[0].Staff[0]).Select(group => (One: group.Key, Way: group.First())).OrderBy(one => one.One.Order);
        return (_house.Location.Online.Assignment switch
        {
            Assignment.HouseOrder => candidates.First(),
            Assignment.EvenLoad => candidates.OrderBy(one => week.Minutes.GetValueOrDefault(one.One.Id)).ThenBy(one => Day(one.One)).ThenBy(one => one.One.Order).First(),
            _ => candidates.OrderBy(one => Unusable(one.Way, one.One)).ThenBy(one => week.Minutes.GetValueOrDefault(one.One.Id)).ThenBy(one => Day(one.One)).ThenBy(one => one.One.Order).First(),
        }).One.Id;
    }

    private bool OnGrid(SlowLine first, OnlineRules rules)
    {
        if (rules.Grid == StartGrid.EveryMinutes)
        {
            LocalTime wall = first.Start.InZone(_zone).TimeOfDay;
            return ((wall.Hour * 60) + wall.Minute) % rules.EveryMinutes!.Value == 0;
        }

        // Back to back: walk from the beginning of the lead's free run in steps of the visit with its buffers.
        Practitioner lead = first.Staff[0];
        int length = first.Service.BufferBeforeMinutes + _house.Services[world.Wish.Lines[^1].ServiceId].BufferAfterMinutes
            + world.Wish.Lines.Sum(line => Minutes(_house.Services[line.ServiceId], lead, line.ExtraMinutes).Sum());
        bool IsFree(Instant at) => Free(new SlowClaim(lead.Id, 0, new Interval(at, at + Duration.FromMinutes(5))));
        Instant begins = first.Start - Duration.FromMinutes(first.Service.BufferBeforeMinutes);
        if (!Enumerable.Range(0, length / 5).All(i => IsFree(begins + Duration.FromMinutes(5 * i)))) return false;
        Instant run = begins;
        while (IsFree(run - Duration.FromMinutes(5))) run -= Duration.FromMinutes(5);
        return (begins - run).TotalMinutes % length == 0;
    }

    private static bool Overlap(Interval a, Interval b) => a.Start < b.End && b.Start < a.End;
}
