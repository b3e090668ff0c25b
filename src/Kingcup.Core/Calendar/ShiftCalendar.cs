using Kingcup.Core.Team;
using NodaTime;

namespace Kingcup.Core.Calendar;

/// <summary>A dated replacement of the rota: for that practitioner and day it replaces the rota wholly.</summary>
/// <param name="PractitionerId">Whose.</param>
/// <param name="Date">Which day.</param>
/// <param name="Shifts">The shifts of the day; none means off.</param>
/// <param name="WorksDuringClosure">Whether the shifts stand although the location is closed.</param>
/// <param name="Reason">Why, for the people who read the book.</param>
public sealed record ShiftChange(
    Guid PractitionerId,
    LocalDate Date,
    IReadOnlyList<Shift> Shifts,
    bool WorksDuringClosure = false,
    string? Reason = null
);

/// <summary>A location shut on a date, once or every year. A yearly 29 February holds in leap years only.</summary>
/// <param name="LocationId">Which location.</param>
/// <param name="Date">The date, or the first of the yearly ones.</param>
/// <param name="Yearly">Whether it comes back every year.</param>
/// <param name="Reason">Why, for the people who read the book; never told to clients.</param>
/// <param name="ForClients">What clients read of it, or null for nothing.</param>
public sealed record Closure(Guid LocationId, LocalDate Date, bool Yearly, string Reason, string? ForClients = null)
{
    /// <summary>Whether the location is shut on <paramref name="date"/>.</summary>
    public bool Holds(LocalDate date) =>
        Yearly ? date >= Date && date.Month == Date.Month && date.Day == Date.Day : date == Date;
}

/// <summary>A date on which a location takes no more bookings online.</summary>
/// <param name="LocationId">Which location.</param>
/// <param name="Date">The date.</param>
/// <param name="Reason">Why, for the people who read the book; never told to clients.</param>
public sealed record OnlineStop(Guid LocationId, LocalDate Date, string Reason);

/// <summary>
/// What holds on dates beside the setup: shift changes, closures, stopped days and blocked time (rules, section 3). It changes all
/// day long and is read by window, like the visits; what lies outside the window it was read for is not in it.
/// </summary>
public sealed class DatedCalendar
{
    private readonly Dictionary<(Guid, LocalDate), ShiftChange> _changes;
    private readonly ILookup<Guid, Closure> _closures;
    private readonly Dictionary<(Guid, LocalDate), OnlineStop> _stops;

    /// <summary>Makes the calendar. A practitioner has at most one shift change on a day, a location one stop.</summary>
    public DatedCalendar(
        IEnumerable<ShiftChange> changes,
        IEnumerable<Closure> closures,
        IEnumerable<OnlineStop> stops,
        BlockCalendar blocks
    )
    {
        Changes = [.. changes];
        Closures = [.. closures];
        Stops = [.. stops];
        Blocks = blocks;
        _changes = Changes.ToDictionary(change => (change.PractitionerId, change.Date));
        _closures = Closures.ToLookup(closure => closure.LocationId);
        _stops = Stops.ToDictionary(stop => (stop.LocationId, stop.Date));
    }

    /// <summary>A calendar with nothing in it.</summary>
    public static DatedCalendar Empty { get; } = new([], [], [], BlockCalendar.Empty);

    /// <summary>All shift changes of the window.</summary>
    public IReadOnlyList<ShiftChange> Changes { get; }

    /// <summary>All closures of the window, and the yearly ones.</summary>
    public IReadOnlyList<Closure> Closures { get; }

    /// <summary>All stopped days of the window.</summary>
    public IReadOnlyList<OnlineStop> Stops { get; }

    /// <summary>Blocked time of the window, and what repeats.</summary>
    public BlockCalendar Blocks { get; }

    /// <summary>The closure that shuts a location on a date, or null when it is not shut.</summary>
    public Closure? ClosureOn(Guid locationId, LocalDate date)
    {
        foreach (Closure closure in _closures[locationId])
            if (closure.Holds(date)) return closure;
        return null;
    }

    /// <summary>Why online booking is stopped on a date, or null when it is not.</summary>
    public OnlineStop? StopOn(Guid locationId, LocalDate date) => _stops.GetValueOrDefault((locationId, date));

    /// <summary>The shift change of a practitioner on a date, or null when the rota holds.</summary>
    public ShiftChange? ChangeOn(Guid practitionerId, LocalDate date) => _changes.GetValueOrDefault((practitionerId, date));

    /// <summary>The shifts of a practitioner on a date, at all locations that are not closed to them (rules, section 3, points 1 to
    /// 3).</summary>
    public IReadOnlyList<Shift> ShiftsOn(RotaCalendar rotas, Guid practitionerId, LocalDate date)
    {
        ArgumentNullException.ThrowIfNull(rotas);
        ShiftChange? change = ChangeOn(practitionerId, date);
        if (change is { WorksDuringClosure: true })
            return change.Shifts;
        return
        [
            .. (change is not null ? change.Shifts : rotas.On(practitionerId, date)).Where(shift =>
                ClosureOn(shift.LocationId, date) is null
            ),
        ];
    }

    /// <summary>This calendar with other blocked time in it.</summary>
    public DatedCalendar With(BlockCalendar blocks) => new(Changes, Closures, Stops, blocks);

    /// <summary>The same without any closure.</summary>
    public DatedCalendar Reopened() => new(Changes, [], Stops, Blocks);
}
