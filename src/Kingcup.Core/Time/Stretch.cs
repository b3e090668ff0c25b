using NodaTime;

namespace Kingcup.Core.Time;

/// <summary>A half-open stretch of wall time within one day. An end of midnight means the end of the day.</summary>
/// <param name="From">When it begins.</param>
/// <param name="Until">When it ends; <see cref="LocalTime.Midnight"/> for the end of the day.</param>
public readonly record struct Stretch(LocalTime From, LocalTime Until)
{
    /// <summary>Minutes from midnight to the end, 1440 for the end of the day.</summary>
    public int UntilMinute => Until == LocalTime.Midnight ? 1440 : (Until.Hour * 60) + Until.Minute;

    /// <summary>Minutes from midnight to the beginning.</summary>
    public int FromMinute => (From.Hour * 60) + From.Minute;

    /// <summary>True when the stretch begins before it ends and both lie on the grain.</summary>
    public bool IsValid => FromMinute < UntilMinute && Grain.IsWhole(FromMinute) && Grain.IsWhole(UntilMinute)
        && From.Second == 0 && Until.Second == 0;

    /// <summary>The part of it that lies in another too, or null where they do not meet.</summary>
    public Stretch? And(Stretch other)
    {
        int from = Math.Max(FromMinute, other.FromMinute), until = Math.Min(UntilMinute, other.UntilMinute);
        return from < until ? OfMinutes(from, until) : null;
    }

    /// <summary>What is left of it where another is taken out: nothing, one stretch or two.</summary>
    public IEnumerable<Stretch> Without(Stretch taken)
    {
        if (And(taken) is null) return [this];
        List<Stretch> left = [];
        if (FromMinute < taken.FromMinute) left.Add(OfMinutes(FromMinute, taken.FromMinute));
        if (taken.UntilMinute < UntilMinute) left.Add(OfMinutes(taken.UntilMinute, UntilMinute));
        return left;
    }

    /// <summary>From and until a minute of the day, 0 to 1440.</summary>
    public static Stretch OfMinutes(int from, int until) =>
        new(LocalTime.FromMinutesSinceMidnight(from), until == 1440 ? LocalTime.Midnight : LocalTime.FromMinutesSinceMidnight(until));

    /// <summary>A stretch between two whole or half hours and the like, as <c>Stretch.Between(9, 0, 17, 30)</c>.</summary>
    public static Stretch Between(int fromHour, int fromMinute, int untilHour, int untilMinute) =>
        new(new LocalTime(fromHour, fromMinute), untilHour == 24 ? LocalTime.Midnight : new LocalTime(untilHour, untilMinute));
}
