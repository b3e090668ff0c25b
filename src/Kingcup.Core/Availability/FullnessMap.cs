using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>A part of the day.</summary>
public enum DayPart
{
    /// <summary>Until noon.</summary>
    Morning,

    /// <summary>From noon to 17:00.</summary>
    Afternoon,

    /// <summary>From 17:00 on.</summary>
    Evening,
}

/// <summary>How full a part of a day is.</summary>
/// <param name="Part">Which part.</param>
/// <param name="OnShift">Minutes for which people are on shift, breaks taken out; those of several people are added up.</param>
/// <param name="Held">Minutes of them that are held or blocked.</param>
public sealed record PartFullness(DayPart Part, int OnShift, int Held)
{
    /// <summary>Minutes that are free.</summary>
    public int Free => OnShift - Held;

    /// <summary>0 to 100, or null where nobody is on shift.</summary>
    public int? Percent => OnShift == 0 ? null : (int)Math.Round(100.0 * Held / OnShift);
}

/// <summary>
/// How full days are, part by part. Only people count: a room that stands empty while nobody could work in it is not free time that
/// anybody could sell.
/// </summary>
public static class FullnessMap
{
    private static readonly LocalTime _noon = new(12, 0),
        _evening = new(17, 0);

    /// <summary>The part of the day a wall time lies in.</summary>
    public static DayPart PartOf(LocalTime wall) =>
        wall < _noon ? DayPart.Morning
        : wall < _evening ? DayPart.Afternoon
        : DayPart.Evening;

    /// <summary>The grains of a part of a day.</summary>
    public static DaySet Of(BookDay day, DayPart part)
    {
        ArgumentNullException.ThrowIfNull(day);
        (int noon, int evening) = (day.Floor(day.Of(_noon)), day.Floor(day.Of(_evening)));
        return part switch
        {
            DayPart.Morning => DaySet.Range(0, noon),
            DayPart.Afternoon => DaySet.Range(noon, evening),
            _ => DaySet.Range(evening, day.GrainCount),
        };
    }

    /// <summary>How full a day is for some practitioners, the parts in order.</summary>
    /// <param name="day">The day.</param>
    /// <param name="practitioners">Whose time counts.</param>
    public static IReadOnlyList<PartFullness> Of(DayBook day, IReadOnlyCollection<Guid> practitioners)
    {
        ArgumentNullException.ThrowIfNull(day);
        ArgumentNullException.ThrowIfNull(practitioners);
        (DaySet OnShift, DaySet Held)[] people =
        [
            .. practitioners
                .Select(id => (OnShift: day.OnShift(id) & day.Day.Whole, Id: id))
                .Select(person => (person.OnShift, person.OnShift.Except(day.FreeOf(person.Id)))),
        ];
        return
        [
            .. Enum.GetValues<DayPart>().Select(part =>
            {
                DaySet during = Of(day.Day, part);
                int Minutes(Func<(DaySet OnShift, DaySet Held), DaySet> of) =>
                    people.Sum(person => (of(person) & during).Count) * Grain.Minutes;
                return new PartFullness(part, Minutes(person => person.OnShift), Minutes(person => person.Held));
            }),
        ];
    }
}
