using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>Time held on one unit of a resource by something in the book.</summary>
/// <param name="ResourceId">The resource.</param>
/// <param name="Unit">Which unit, 0 for the first.</param>
/// <param name="During">When.</param>
/// <param name="LocationId">Where the practitioner is meanwhile.</param>
/// <param name="OccupationId">The occupation that holds it, if one does: a line's has the identity of the line.</param>
/// <param name="ServiceId">The service it is held for, if one is.</param>
public sealed record TakenTime(
    Guid ResourceId,
    int Unit,
    Interval During,
    Guid LocationId,
    Guid? OccupationId = null,
    Guid? ServiceId = null
)
{
    /// <summary>When it runs out and counts for nobody any more; null when it does not.</summary>
    public Instant? ExpiresAt { get; init; }

    internal bool BeginsIn(Interval window) => window.Start <= During.Start && During.Start < window.End;

    /// <summary>For how many minutes the claims of a practitioner hold them; what takes all their units is there once.</summary>
    internal static int Minutes(IEnumerable<TakenTime> own) =>
        (int)own.DistinctBy(claim => claim.OccupationId is { } id ? (id, claim.During) : (object)claim)
            .Sum(claim => claim.During.Duration.TotalMinutes);
}

/// <summary>
/// One book day of a house: what is open and what is free, unit by unit (rules, section 3). It reaches over the days before and
/// after, so that what begins on this day may run past midnight.
/// </summary>
public sealed class DayBook
{
    private readonly DaySet[] _free;
    private readonly DaySet[] _open;
    private readonly List<(Shift Shift, DaySet Open)>?[] _kept;
    private readonly DaySet _window;
    private readonly Easing _easing;
    private Load[]? _loads;
    private DayBook? _reopened;
    private DayBook? _forClients;
    // Whether what stops online booking only counts as blocked.
    private readonly bool _asClients;

    // Whoever counts as on shift all day, whatever their shifts say.
    private readonly IReadOnlySet<Guid>? _always;

    /// <summary>Lays out a day.</summary>
    /// <param name="house">The house.</param>
    /// <param name="date">The local date.</param>
    /// <param name="dated">What holds on this date, the one before and the one after.</param>
    /// <param name="taken">Everything held around that day, at all locations; what lies outside the three days is passed over.</param>
    public DayBook(House house, LocalDate date, DatedCalendar dated, IEnumerable<TakenTime> taken)
        : this(house, date, dated, taken, Easing.None) { }

    private DayBook(
        House house,
        LocalDate date,
        DatedCalendar dated,
        IEnumerable<TakenTime> taken,
        Easing easing,
        Func<BlockedTime, bool>? blocks = null,
        IReadOnlySet<Guid>? always = null,
        bool asClients = false
    )
    {
        (_always, _asClients) = (always, asClients);
        ArgumentNullException.ThrowIfNull(house);
        ArgumentNullException.ThrowIfNull(dated);
        _easing = easing;
        House = house;
        Dated = dated;
        Day = new BookDay(date, house.Location.Zone);
        (Before, After) = (new BookDay(date.PlusDays(-1), Day.Zone), new BookDay(date.PlusDays(1), Day.Zone));
        _window = DaySet.Range(-Before.GrainCount, Day.GrainCount + After.GrainCount);
        Taken = [.. taken.Where(claim => house.FirstUnitOf(claim.ResourceId) is not null)];
        ILookup<bool, BlockedTime> blocked = dated
            .Blocks.Around(Day)
            .Where(block => house.FirstUnitOf(block.ResourceId) is not null && blocks?.Invoke(block) != false)
            .ToLookup(block => block.Kind == BlockKind.Online);
        Blocked = [.. blocked[false], .. asClients ? blocked[true] : []];
        StoppedOnline = [.. blocked[true]];
        Closure = dated.ClosureOn(house.Location.Id, date);
        _free = new DaySet[house.UnitCount];
        Array.Fill(_free, _window);
        _open = new DaySet[house.Practitioners.Count];
        _kept = new List<(Shift, DaySet)>?[house.Practitioners.Count];
        Open();
        Retire();
        Take();
    }

    /// <summary>The house.</summary>
    public House House { get; }

    /// <summary>What holds on dates.</summary>
    public DatedCalendar Dated { get; }

    /// <summary>The book day.</summary>
    public BookDay Day { get; }

    /// <summary>The day before.</summary>
    internal BookDay Before { get; }

    /// <summary>The day after.</summary>
    internal BookDay After { get; }

    /// <summary>The closure that shuts the location that day, or null.</summary>
    public Closure? Closure { get; }

    /// <summary>When clients may be there, on the days around too: hours that meet at midnight are one stretch.</summary>
    public DaySet Opening { get; private set; }

    /// <summary>What is held, of this house's resources.</summary>
    public IReadOnlyList<TakenTime> Taken { get; }

    /// <summary>Of what is held, what begins on this local day.</summary>
    internal IEnumerable<TakenTime> BegunHere => Taken.Where(claim => claim.BeginsIn(new Interval(Day.Start, Day.End)));

    /// <summary>Until when this is how things stand, if nothing is changed: the first of what is held may run out then. Null for
    /// always.</summary>
    public Instant? TrueUntil => Taken.Min(claim => claim.ExpiresAt);

    /// <summary>What is blocked, of this house's resources.</summary>
    public IReadOnlyList<BlockedTime> Blocked { get; }

    /// <summary>Where clients book nothing online, of this house's resources.</summary>
    public IReadOnlyList<BlockedTime> StoppedOnline { get; }

    /// <summary>Whether rooms and equipment are open: the location is, or somebody works during its closure.</summary>
    public bool RoomsAreOpen { get; private set; }

    /// <summary>When rooms and equipment may be used. Turnaround may lie outside it.</summary>
    internal DaySet RoomsOpen { get; private set; }

    /// <summary>The same day with time counted as free that somebody may knowingly book over.</summary>
    internal DayBook Eased(Easing easing) =>
        easing == Easing.None ? this : new DayBook(House, Day.Date, Dated, Taken, easing, asClients: _asClients);

    /// <summary>The same day as clients meet it: what stops online booking only is blocked for them.</summary>
    internal DayBook ForClients() =>
        _asClients || StoppedOnline.Count == 0 ? this
        : _forClients ??= new DayBook(House, Day.Date, Dated, Taken, _easing, always: _always, asClients: true);


    /// <summary>The same day without what some occupations hold, as if they were not there.</summary>
    public DayBook Without(IReadOnlySet<Guid> occupations) =>
        new(
            House,
            Day.Date,
            Dated,
            Taken.Where(claim => claim.OccupationId is not { } id || !occupations.Contains(id)),
            _easing,
            asClients: _asClients
        );

    /// <summary>The same day as if the location were not closed.</summary>
    internal DayBook Reopened() => _reopened ??= new(House, Day.Date, Dated.Reopened(), Taken, _easing, asClients: _asClients);

    /// <summary>The closures that a stretch of the day meets, on the days around too.</summary>
    internal IEnumerable<Closure> ClosuresMet(int from, int until)
    {
        if (from < 0 && Dated.ClosureOn(House.Location.Id, Before.Date) is { } last)
            yield return last;
        if (Closure is { } today && from < Day.GrainCount)
            yield return today;
        if (until > Day.GrainCount && Dated.ClosureOn(House.Location.Id, After.Date) is { } next)
            yield return next;
    }

    /// <summary>The same day in another house without some of what is held and blocked, and with some people on shift all day.</summary>
    internal DayBook Relieved(
        House house,
        Func<TakenTime, bool> taken,
        Func<BlockedTime, bool> blocks,
        IReadOnlySet<Guid> always,
        bool isReopened
    ) => new(house, Day.Date, isReopened ? Dated.Reopened() : Dated, Taken.Where(taken), _easing, blocks, always, _asClients);

    /// <summary>Time in which nothing else has a unit: not taken and not blocked, open or not.</summary>
    internal ref readonly DaySet Free(int unit) => ref _free[unit];

    /// <summary>When a unit of a practitioner can be held for a service: on a shift for it, and free.</summary>
    internal DaySet FreeFor(int practitioner, int unit, Service service) =>
        _free[House.PersonUnits[practitioner] + unit] & OnShift(practitioner, service);

    /// <summary>The free runs of a practitioner for a service.</summary>
    internal IEnumerable<(int From, int Until)> RunsOf(int practitioner, Service service)
    {
        int attention = House.Practitioners[practitioner].Attention;
        DaySet[] units = [.. Enumerable.Range(0, attention).Select(unit => FreeFor(practitioner, unit, service))];
        return DaySet.AtLeast(units, House.UnitsOf(practitioner, service)).Runs();
    }

    /// <summary>Free time of one unit of a resource, on shift where it is a practitioner and open where it is not; empty for one that is
    /// not of this house.</summary>
    public DaySet FreeOf(Guid resourceId, int unit = 0) =>
        House.FirstUnitOf(resourceId) is not { } first ? DaySet.Empty
        : first < PersonUnitCount ? _free[first + unit] & OnShift(resourceId)
        : _free[first + unit] & RoomsOpen;

    /// <summary>When a practitioner is on shift here for a service, breaks taken out, by place in the house order.</summary>
    internal DaySet OnShift(int practitioner, Service service)
    {
        if (_easing.HasFlag(Easing.Shift) && !House.Practitioners[practitioner].IsRetiredOn(Day.Date))
            return _window;
        DaySet open = _open[practitioner];
        if (_kept[practitioner] is not { } kept)
            return open;
        foreach ((Shift shift, DaySet during) in kept)
            if (shift.IsFor(service.Id, service.CategoryId))
                open |= during;
        return open;
    }

    /// <summary>How many work here at any time of the day.</summary>
    public int PractitionersOnShift => House.Practitioners.Count(practitioner => !(OnShift(practitioner.Id) & Day.Whole).IsEmpty);

    /// <summary>When a practitioner is on shift here for any service at all, breaks taken out.</summary>
    public DaySet OnShift(Guid practitionerId)
    {
        if (House.FirstUnitOf(practitionerId) is not { } unit || unit >= PersonUnitCount)
            return DaySet.Empty;
        int practitioner = Array.IndexOf(House.PersonUnits, unit);
        DaySet open = _open[practitioner];
        if (_kept[practitioner] is not { } kept)
            return open;
        foreach ((_, DaySet during) in kept)
            open |= during;
        return open;
    }

    /// <summary>The shifts of a practitioner on this date.</summary>
    public IReadOnlyList<Shift> ShiftsOf(Guid practitionerId) => Dated.ShiftsOn(House.Rotas, practitionerId, Day.Date);

    /// <summary>What each practitioner has that begins on this day, by place in the house order.</summary>
    internal IReadOnlyList<Load> Loads => _loads ??= [.. House.Practitioners.Select(practitioner => LoadOf(practitioner.Id))];

    /// <summary>What a practitioner has that begins on this local day, at all locations.</summary>
    public Load LoadOf(Guid practitionerId)
    {
        List<TakenTime> own = [.. BegunHere.Where(claim => claim.ResourceId == practitionerId)];
        return new Load(
            own.DistinctBy(claim => claim.OccupationId ?? (object)claim).Count(),
            TakenTime.Minutes(own),
            own.Where(claim => claim.ServiceId is { } service && House.Services.ContainsKey(service))
                .DistinctBy(claim => claim.OccupationId ?? (object)claim)
                .GroupBy(claim => House.Services[claim.ServiceId!.Value].CategoryId)
                .ToDictionary(group => group.Key, group => group.Count())
        );
    }

    private int PersonUnitCount =>
        House.Rooms.Count > 0 ? House.RoomUnits[0]
        : House.Pools.Count > 0 ? House.PoolUnits[0]
        : House.UnitCount;

    private void Open()
    {
        foreach (BookDay day in new[] { Before, Day, After })
        {
            bool closed = Dated.ClosureOn(House.Location.Id, day.Date) is not null,
                somebodyWorks = false;
            for (int i = 0; i < House.Practitioners.Count; i++)
                somebodyWorks |= OpenShifts(i, day);
            foreach (OpeningHours hours in House.Location.Opening)
                if (!closed && hours.Weekday == day.Date.DayOfWeek)
                    Opening |= Day.Covered(day.Of(hours.During));

            // A room is open whenever its location is; on a closed day only if somebody works during the closure.
            bool roomsOpen = !closed || somebodyWorks;
            if (day == Day)
                RoomsAreOpen = roomsOpen;
            if (roomsOpen || _easing.HasFlag(Easing.Shift))
                RoomsOpen |= Day.Touched(new Interval(day.Start, day.End));
        }
    }

    /// <summary>Lays out the shifts of one day.</summary>
    /// <returns>Whether there are any here.</returns>
    private bool OpenShifts(int practitioner, BookDay day)
    {
        Practitioner item = House.Practitioners[practitioner];
        bool works = false;
        if (item.IsRetiredOn(day.Date))
            return false;
        if (_always?.Contains(item.Id) == true && Dated.ClosureOn(House.Location.Id, day.Date) is null)
        {
            _open[practitioner] |= Day.Touched(new Interval(day.Start, day.End));
            return true;
        }

        foreach (Shift shift in Dated.ShiftsOn(House.Rotas, item.Id, day.Date))
        {
            if (shift.LocationId != House.Location.Id)
                continue;
            DaySet open = Day.Covered(day.Of(shift.During));
            foreach (Break pause in shift.Breaks)
                open = open.Except(Day.Touched(day.Of(pause.During)));
            works = true;
            if (shift.IsKept)
                (_kept[practitioner] ??= []).Add((shift, open));
            else
                _open[practitioner] |= open;
        }

        return works;
    }

    private void Retire()
    {
        foreach (
            (Guid id, bool isRetired, int units) in House
                .Rooms.Select(room => (room.Id, room.IsRetiredOn(Day.Date), room.Capacity))
                .Concat(House.Pools.Select(pool => (pool.Id, pool.IsRetiredOn(Day.Date), pool.Quantity)))
        )
        {
            if (!isRetired)
                continue;
            int first = House.FirstUnitOf(id)!.Value;
            for (int unit = first; unit < first + units; unit++)
                _free[unit] = DaySet.Empty;
        }
    }

    private void Take()
    {
        foreach (TakenTime claim in Taken)
        {
            if (IsEased(claim.ResourceId, Easing.TakenPeople, Easing.TakenRooms, Easing.TakenEquipment))
                continue;
            if (claim.Unit >= UnitsOf(claim.ResourceId))
                continue;
            int unit = House.FirstUnitOf(claim.ResourceId)!.Value + claim.Unit;
            Duration travel = Duration.FromMinutes(House.TravelMinutes(claim.LocationId, House.Location.Id));
            _free[unit] = _free[unit].Except(Day.Touched(new Interval(claim.During.Start - travel, claim.During.End + travel)));
        }

        foreach (BlockedTime block in Blocked)
        {
            if (IsEased(block.ResourceId, Easing.BlockedPeople, Easing.BlockedRooms, Easing.BlockedEquipment))
                continue;
            int first = House.FirstUnitOf(block.ResourceId)!.Value;
            DaySet touched = Day.Touched(block.During);
            for (int unit = first; unit < first + UnitsOf(block.ResourceId); unit++)
                _free[unit] = _free[unit].Except(touched);
        }
    }

    /// <summary>Whether the day is eased for the kind of a resource; units lie in the order people, rooms, equipment.</summary>
    private bool IsEased(Guid resourceId, Easing people, Easing rooms, Easing equipment)
    {
        if (_easing == Easing.None)
            return false;
        int unit = House.FirstUnitOf(resourceId)!.Value,
            firstPool = House.Pools.Count > 0 ? House.PoolUnits[0] : House.UnitCount;
        return _easing.HasFlag(
            unit < PersonUnitCount ? people
            : unit < firstPool ? rooms
            : equipment
        );
    }

    private int UnitsOf(Guid resourceId) =>
        House.Rooms.FirstOrDefault(room => room.Id == resourceId)?.Capacity
        ?? House.Pools.FirstOrDefault(pool => pool.Id == resourceId)?.Quantity
        ?? House.Practitioners.FirstOrDefault(practitioner => practitioner.Id == resourceId)?.Attention
        ?? 1;
}

/// <summary>How much a practitioner has on a day.</summary>
/// <param name="Appointments">Lines that hold them and begin that day.</param>
/// <param name="Minutes">Minutes they hold, buffers included.</param>
/// <param name="PerCategory">Lines by category.</param>
public sealed record Load(int Appointments, int Minutes, IReadOnlyDictionary<Guid, int> PerCategory);
