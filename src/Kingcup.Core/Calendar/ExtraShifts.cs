using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Calendar;

/// <summary>Shifts added over a range of dates for several people in one go (rules, section 3).</summary>
/// <param name="From">The first date.</param>
/// <param name="Until">The last date.</param>
/// <param name="Weekdays">On which days of the week; none for every day.</param>
/// <param name="Shift">The shift of each of these days.</param>
/// <param name="PractitionerIds">Who works it.</param>
/// <param name="Instead">Where somebody works then already: true, and this shift holds for its time; false, and what they work stays,
/// and only the rest of this shift is added.</param>
/// <param name="Reason">Why, for the people who read the book; null leaves what a day says of itself.</param>
public sealed record ExtraShifts(
    LocalDate From,
    LocalDate Until,
    IReadOnlySet<IsoDayOfWeek> Weekdays,
    Shift Shift,
    IReadOnlyList<Guid> PractitionerIds,
    bool Instead,
    string? Reason
)
{
    /// <summary>The dates of it, in order.</summary>
    public IEnumerable<LocalDate> Dates
    {
        get
        {
            for (LocalDate date = From; date <= Until; date = date.PlusDays(1))
                if (Weekdays.Count == 0 || Weekdays.Contains(date.DayOfWeek)) yield return date;
        }
    }

    /// <summary>
    /// What a day of somebody becomes with it, or null where it stays as it is: the location is closed then, or they work all of that
    /// time already.
    /// </summary>
    public ShiftChange? On(DatedCalendar dated, RotaCalendar rotas, Guid practitionerId, LocalDate date)
    {
        IReadOnlyList<Shift> added = AddedOn(dated, rotas, practitionerId, date);
        if (added.Count == 0) return null;
        ShiftChange? before = dated.ChangeOn(practitionerId, date);
        IEnumerable<Shift> worked = before?.Shifts ?? rotas.On(practitionerId, date);
        IEnumerable<Shift> stays = Instead ? worked.SelectMany(shift => Without(shift, Shift.During)) : worked;
        return new ShiftChange(
            practitionerId,
            date,
            [.. stays.Concat(added).OrderBy(shift => shift.During.FromMinute)],
            before?.WorksDuringClosure ?? false,
            Reason ?? before?.Reason
        );
    }

    /// <summary>What of it is new on a day of somebody; empty where the day stays as it is.</summary>
    public IReadOnlyList<Shift> AddedOn(DatedCalendar dated, RotaCalendar rotas, Guid practitionerId, LocalDate date)
    {
        ArgumentNullException.ThrowIfNull(dated);
        ArgumentNullException.ThrowIfNull(rotas);
        ShiftChange? before = dated.ChangeOn(practitionerId, date);
        if (before is not { WorksDuringClosure: true } && dated.ClosureOn(Shift.LocationId, date) is not null) return [];
        if (Instead) return [Shift];
        return (before?.Shifts ?? rotas.On(practitionerId, date)).Aggregate(
            new List<Shift> { Shift },
            (rest, worked) => [.. rest.SelectMany(piece => Without(piece, worked.During))]
        );
    }

    /// <summary>What is left of a shift, with its breaks, where a stretch is taken out of it.</summary>
    private static IEnumerable<Shift> Without(Shift shift, Stretch taken) =>
        shift.During.Without(taken).Select(piece => shift with { During = piece, Breaks = [.. Within(shift.Breaks, piece)] });

    private static IEnumerable<Break> Within(IEnumerable<Break> breaks, Stretch piece) =>
        breaks.SelectMany(pause => pause.During.And(piece) is { } part ? [pause with { During = part }] : Array.Empty<Break>());
}
