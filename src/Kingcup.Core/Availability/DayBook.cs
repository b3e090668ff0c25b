using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>Time held on one unit of a resource by something in the book.</summary>
/// <param name="ResourceId">The resource.</param>
/// <param name="Unit">Which unit, 0 for the first.</param>
/// <param name="During">When.</param>
/// <param name="LocationId">Where the practitioner is meanwhile.</param>
/// <param name="AppointmentId">The appointment that holds it, if one does.</param>
/// <param name="ServiceId">The service of that appointment.</param>
public sealed record TakenTime(Guid ResourceId, int Unit, Interval During, Guid LocationId, Guid? AppointmentId = null, Guid? ServiceId = null);

/// <summary>Time taken out of all units of a resource.</summary>
/// <param name="ResourceId">The resource.</param>
/// <param name="During">When.</param>
/// <param name="Reason">Why.</param>
public sealed record BlockedTime(Guid ResourceId, Interval During, string Reason)
{
    /// <summary>The block it belongs to, or null.</summary>
    public Guid? BlockId { get; init; }

    /// <summary>Why.</summary>
    public BlockKind Kind { get; init; }

    /// <summary>The local date it stands for, where the block repeats.</summary>
    public LocalDate? Date { get; init; }
}

/// <summary>One book day of a house: what is open and what is free, unit by unit (rules, section 3).</summary>
public sealed class DayBook
{
    private readonly DaySet[] _free;
    private readonly DaySet[] _open;
    private readonly Easing _easing;
    private Load[]? _loads;

    /// <summary>Lays out a day.</summary>
    /// <param name="house">The house.</param>
    /// <param name="date">The local date.</param>
    /// <param name="taken">Everything held around that day, at all locations; what lies outside the day's window is passed over.</param>
    /// <param name="blocked">Everything blocked around that day.</param>
    public DayBook(House house, LocalDate date, IEnumerable<TakenTime> taken, IEnumerable<BlockedTime> blocked)
        : this(house, date, taken, blocked, Easing.None)
    {
    }

    private DayBook(House house, LocalDate date, IEnumerable<TakenTime> taken, IEnumerable<BlockedTime> blocked, Easing easing)
    {
        ArgumentNullException.ThrowIfNull(house);
        _easing = easing;
        House = house;
        Day = new BookDay(date, house.Location.Zone);
        Taken = [.. taken.Where(claim => house.FirstUnitOf(claim.ResourceId) is not null)];
        Blocked = [.. blocked.Where(block => house.FirstUnitOf(block.ResourceId) is not null)];
        Closure = house.Calendar.ClosureOn(house.Location.Id, date);
        _free = new DaySet[house.UnitCount];
        _open = new DaySet[house.Practitioners.Count];
        Open();
        Take();
    }

    /// <summary>The house.</summary>
    public House House { get; }

    /// <summary>The book day.</summary>
    public BookDay Day { get; }

    /// <summary>The closure that shuts the location that day, or null.</summary>
    public Closure? Closure { get; }

    /// <summary>When clients may be there.</summary>
    public DaySet Opening { get; private set; }

    /// <summary>What is held, of this house's resources.</summary>
    public IReadOnlyList<TakenTime> Taken { get; }

    /// <summary>What is blocked, of this house's resources.</summary>
    public IReadOnlyList<BlockedTime> Blocked { get; }

    /// <summary>Whether rooms and equipment are open: the location is, or somebody works during its closure.</summary>
    public bool RoomsAreOpen { get; private set; }

    /// <summary>The same day with time counted as free that somebody may knowingly book over.</summary>
    internal DayBook Eased(Easing easing) => easing == Easing.None ? this : new DayBook(House, Day.Date, Taken, Blocked, easing);

    /// <summary>Free time of a unit.</summary>
    internal ref readonly DaySet Free(int unit) => ref _free[unit];

    /// <summary>Free time of one unit of a resource, empty for a resource that is not of this house.</summary>
    public DaySet FreeOf(Guid resourceId, int unit = 0) => House.FirstUnitOf(resourceId) is { } first ? _free[first + unit] : DaySet.Empty;

    /// <summary>When a practitioner is on shift here, breaks taken out, by place in the house order.</summary>
    internal DaySet OnShift(int practitioner) => _open[practitioner];

    /// <summary>When a practitioner is on shift here, breaks taken out.</summary>
    public DaySet OnShift(Guid practitionerId)
    {
        int? unit = House.FirstUnitOf(practitionerId);
        return unit is { } at && at < _open.Length ? _open[at] : DaySet.Empty;
    }

    /// <summary>What each practitioner has that begins on this day, by place in the house order.</summary>
    internal IReadOnlyList<Load> Loads => _loads ??= [.. House.Practitioners.Select(one => LoadOf(one.Id))];

    /// <summary>What a practitioner has that begins on this local day, at all locations.</summary>
    public Load LoadOf(Guid practitionerId)
    {
        List<TakenTime> own = [.. Taken.Where(claim => claim.ResourceId == practitionerId && claim.During.Start >= Day.Start && claim.During.Start < Day.End)];
        return new Load(
            own.DistinctBy(claim => claim.AppointmentId ?? (object)claim).Count(),
            (int)own.Sum(claim => claim.During.Duration.TotalMinutes),
            own.Where(claim => claim.ServiceId is { } service && House.Services.ContainsKey(service)).DistinctBy(claim => claim.AppointmentId ?? (object)claim)
                .GroupBy(claim => House.Services[claim.ServiceId!.Value].CategoryId).ToDictionary(group => group.Key, group => group.Count()));
    }

    private void Open()
    {
        foreach (OpeningHours hours in House.Location.Opening)
        {
            if (Closure is null && hours.Weekday == Day.Date.DayOfWeek) Opening |= Day.Covered(Day.Of(hours.During));
        }

        // The neighbouring days count too: a shift may reach midnight and go on behind it.
        BookDay[] days = [new BookDay(Day.Date.PlusDays(-1), Day.Zone), Day, new BookDay(Day.Date.PlusDays(1), Day.Zone)];
        bool somebodyWorks = false;
        for (int i = 0; i < House.Practitioners.Count; i++)
        {
            foreach (BookDay day in days)
            {
                if (House.Practitioners[i].IsRetiredOn(day.Date)) continue;
                foreach (Shift shift in House.Calendar.On(House.Practitioners[i].Id, day.Date))
                {
                    if (shift.LocationId != House.Location.Id) continue;
                    DaySet open = Day.Covered(day.Of(shift.During));
                    foreach (Break pause in shift.Breaks) open = open.Except(Day.Touched(day.Of(pause.During)));
                    _open[i] |= open;
                    somebodyWorks |= day == Day;
                }
            }

            bool eased = _easing.HasFlag(Easing.Shift) && !House.Practitioners[i].IsRetiredOn(Day.Date);
            _free[i] = eased ? DaySet.Full : _open[i];
        }

        // A room is open whenever its location is; on a closed day only if somebody works during the closure.
        RoomsAreOpen = Closure is null || somebodyWorks;
        DaySet rooms = RoomsAreOpen || _easing.HasFlag(Easing.Shift) ? DaySet.Full : DaySet.Full.Except(Day.Whole);
        for (int unit = _open.Length; unit < _free.Length; unit++) _free[unit] = rooms;
        foreach ((Guid id, LocalDate? retired, int units) in House.Rooms.Select(room => (room.Id, room.Retired, room.Capacity))
            .Concat(House.Pools.Select(pool => (pool.Id, pool.Retired, pool.Quantity))))
        {
            if (!(Day.Date >= retired)) continue;
            int first = House.FirstUnitOf(id)!.Value;
            for (int unit = first; unit < first + units; unit++) _free[unit] = DaySet.Empty;
        }
    }

    private void Take()
    {
        foreach (TakenTime claim in Taken)
        {
            if (IsEased(claim.ResourceId, Easing.TakenPeople, Easing.TakenRooms, Easing.TakenEquipment)) continue;
            int unit = House.FirstUnitOf(claim.ResourceId)!.Value + claim.Unit;
            Duration travel = Duration.FromMinutes(House.TravelMinutes(claim.LocationId, House.Location.Id));
            if (unit < _free.Length)
                _free[unit] = _free[unit].Except(Day.Touched(new Interval(claim.During.Start - travel, claim.During.End + travel)));
        }

        foreach (BlockedTime block in Blocked)
        {
            if (IsEased(block.ResourceId, Easing.BlockedPeople, Easing.BlockedRooms, Easing.BlockedEquipment)) continue;
            int first = House.FirstUnitOf(block.ResourceId)!.Value;
            DaySet touched = Day.Touched(block.During);
            for (int unit = first; unit < first + UnitsOf(block.ResourceId); unit++) _free[unit] = _free[unit].Except(touched);
        }
    }

    /// <summary>Whether the day is eased for the kind of a resource; units lie in the order people, rooms, equipment.</summary>
    private bool IsEased(Guid resourceId, Easing people, Easing rooms, Easing equipment)
    {
        if (_easing == Easing.None) return false;
        int unit = House.FirstUnitOf(resourceId)!.Value, firstRoom = House.Practitioners.Count, firstPool = firstRoom + House.Rooms.Sum(room => room.Capacity);
        return _easing.HasFlag(unit < firstRoom ? people : unit < firstPool ? rooms : equipment);
    }

    private int UnitsOf(Guid resourceId) =>
        House.Rooms.FirstOrDefault(room => room.Id == resourceId)?.Capacity
        ?? House.Pools.FirstOrDefault(pool => pool.Id == resourceId)?.Quantity
        ?? 1;
}

/// <summary>How much a practitioner has on a day.</summary>
/// <param name="Appointments">Lines that hold her and begin that day.</param>
/// <param name="Minutes">Minutes they hold, buffers included.</param>
/// <param name="PerCategory">Lines by category.</param>
public sealed record Load(int Appointments, int Minutes, IReadOnlyDictionary<Guid, int> PerCategory);
