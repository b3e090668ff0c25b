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
public sealed record Shift(Guid LocationId, Stretch During, IReadOnlyList<Break> Breaks);

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
