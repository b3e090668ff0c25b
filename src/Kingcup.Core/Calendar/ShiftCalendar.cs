using Kingcup.Core.Team;
using NodaTime;

namespace Kingcup.Core.Calendar;

/// <summary>A dated replacement of the rota: for that practitioner and day it replaces the rota wholly.</summary>
/// <param name="PractitionerId">Whose.</param>
/// <param name="Date">Which day.</param>
/// <param name="Shifts">The shifts of the day; none means off.</param>
/// <param name="WorksDuringClosure">Whether the shifts stand although the location is closed.</param>
/// <param name="Reason">Why, for the people who read the book.</param>
public sealed record ShiftChange(Guid PractitionerId, LocalDate Date, IReadOnlyList<Shift> Shifts, bool WorksDuringClosure = false, string? Reason = null);

/// <summary>A location shut on a date, once or every year. A yearly 29 February holds in leap years only.</summary>
/// <param name="LocationId">Which location.</param>
/// <param name="Date">The date, or the first of the yearly ones.</param>
/// <param name="Yearly">Whether it comes back every year.</param>
/// <param name="Reason">Why, as clients may read it.</param>
public sealed record Closure(Guid LocationId, LocalDate Date, bool Yearly, string Reason)
{
    /// <summary>Whether the location is shut on <paramref name="date"/>.</summary>
    public bool Holds(LocalDate date) =>
        Yearly ? date >= Date && date.Month == Date.Month && date.Day == Date.Day : date == Date;
}

/// <summary>Who works when, day by day, from rotas, shift changes and closures (rules, section 3, points 1 to 3).</summary>
public sealed class RotaCalendar
{
    private readonly ILookup<Guid, Rota> _rotas;
    private readonly Dictionary<(Guid, LocalDate), ShiftChange> _changes;
    private readonly ILookup<Guid, Closure> _closures;

    /// <summary>Makes the calendar. A practitioner has at most one shift change on a day.</summary>
    public RotaCalendar(IEnumerable<Rota> rotas, IEnumerable<ShiftChange> changes, IEnumerable<Closure> closures)
    {
        _rotas = rotas.OrderByDescending(rota => rota.From).ToLookup(rota => rota.PractitionerId);
        _changes = changes.ToDictionary(change => (change.PractitionerId, change.Date));
        _closures = closures.ToLookup(closure => closure.LocationId);
    }

    /// <summary>The closure that shuts a location on a date, or null when it is not shut.</summary>
    public Closure? ClosureOn(Guid locationId, LocalDate date) => _closures[locationId].FirstOrDefault(closure => closure.Holds(date));

    /// <summary>The shift change of a practitioner on a date, or null when the rota holds.</summary>
    public ShiftChange? ChangeOn(Guid practitionerId, LocalDate date) => _changes.GetValueOrDefault((practitionerId, date));

    /// <summary>The shifts of a practitioner on a date, at all locations that are not closed to her.</summary>
    public IReadOnlyList<Shift> On(Guid practitionerId, LocalDate date)
    {
        ShiftChange? change = ChangeOn(practitionerId, date);
        if (change is { WorksDuringClosure: true }) return change.Shifts;
        IEnumerable<Shift> shifts = change is not null ? change.Shifts : FromRota(practitionerId, date);
        return [.. shifts.Where(shift => ClosureOn(shift.LocationId, date) is null)];
    }

    private IEnumerable<Shift> FromRota(Guid practitionerId, LocalDate date)
    {
        Rota? rota = _rotas[practitionerId].FirstOrDefault(candidate => candidate.From <= date);
        if (rota is null) return [];
        int week = rota.WeekOf(date);
        return rota.Shifts.Where(shift => shift.Week == week && shift.Weekday == date.DayOfWeek).Select(shift => shift.Shift);
    }
}
