using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Team;

/// <summary>A pause inside a shift in which the practitioner is not open.</summary>
/// <param name="During">When.</param>
/// <param name="Reason">What the book writes on it, such as "Lunch".</param>
public sealed record Break(Stretch During, string Reason);

/// <summary>A shift on one day at one location.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="During">When.</param>
/// <param name="Breaks">Pauses inside it.</param>
public sealed record Shift(Guid LocationId, Stretch During, IReadOnlyList<Break> Breaks)
{
    /// <summary>The services it is kept for; for others it is not a shift. With no category named either, all.</summary>
    public IReadOnlySet<Guid> Services { get; init; } = new HashSet<Guid>();

    /// <summary>The categories it is kept for.</summary>
    public IReadOnlySet<Guid> Categories { get; init; } = new HashSet<Guid>();

    /// <summary>Whether it is kept for some services only.</summary>
    public bool IsKept => Services.Count + Categories.Count > 0;

    /// <summary>Whether it is a shift for a service.</summary>
    public bool IsFor(Guid serviceId, Guid categoryId) => !IsKept || Services.Contains(serviceId) || Categories.Contains(categoryId);
}

/// <summary>A shift of a repeating rota.</summary>
/// <param name="Week">Which week of the cycle, 0 for the first.</param>
/// <param name="Weekday">Day of the week.</param>
/// <param name="Shift">The shift itself.</param>
public sealed record RotaShift(int Week, IsoDayOfWeek Weekday, Shift Shift);

/// <summary>
/// Shifts of one practitioner that repeat over one or more weeks (rules, section 3). The cycle is counted from the
/// Monday of the week in which <paramref name="From"/> lies. The newest rota that has begun is the one that holds.
/// </summary>
/// <param name="PractitionerId">Whose.</param>
/// <param name="From">The anchor: the first date on which it holds.</param>
/// <param name="Weeks">Length of the cycle in weeks, 1 or more.</param>
/// <param name="Shifts">The shifts of the cycle.</param>
public sealed record Rota(Guid PractitionerId, LocalDate From, int Weeks, IReadOnlyList<RotaShift> Shifts)
{
    /// <summary>Which week of the cycle a date lies in, 0 for the first.</summary>
    public int WeekOf(LocalDate date)
    {
        int weeks = Period.DaysBetween(Monday(From), Monday(date)) / 7;
        return ((weeks % Weeks) + Weeks) % Weeks;
    }

    private static LocalDate Monday(LocalDate date) => date.PlusDays(1 - (int)date.DayOfWeek);
}

/// <summary>Who works when by their rotas alone (rules, section 3, point 2).</summary>
public sealed class RotaCalendar
{
    private readonly ILookup<Guid, Rota> _rotas;

    /// <summary>Makes the calendar.</summary>
    public RotaCalendar(IEnumerable<Rota> rotas) =>
        _rotas = rotas.OrderByDescending(rota => rota.From).ToLookup(rota => rota.PractitionerId);

    /// <summary>The rotas of a practitioner, the newest first.</summary>
    public IEnumerable<Rota> Of(Guid practitionerId) => _rotas[practitionerId];

    /// <summary>The shifts of a practitioner on a date, whatever else holds on it.</summary>
    public IEnumerable<Shift> On(Guid practitionerId, LocalDate date)
    {
        Rota? rota = _rotas[practitionerId].FirstOrDefault(candidate => candidate.From <= date);
        if (rota is null) return [];
        int week = rota.WeekOf(date);
        return rota.Shifts.Where(shift => shift.Week == week && shift.Weekday == date.DayOfWeek).Select(shift => shift.Shift);
    }
}
