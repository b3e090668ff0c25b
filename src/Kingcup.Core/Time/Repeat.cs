using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using NodaTime;

namespace Kingcup.Core.Time;

/// <summary>
/// The dates of a repeating rule (RFC 5545 RRULE), counted in local dates from a first date on. Rules that repeat more than
/// once a day have no meaning for a date and are refused.
/// </summary>
public sealed class Repeat
{
    /// <summary>Most characters a rule may have.</summary>
    public const int LongestRule = 200;

    private readonly CalendarEvent _event;
    private readonly HashSet<LocalDate> _dates = [];
    private readonly Lock _lock = new();
    private LocalDate _knownUntil;

    private Repeat(string rule, LocalDate first, CalendarEvent calendarEvent) =>
        (Rule, First, _event, _knownUntil) = (rule, first, calendarEvent, first.PlusDays(-1));

    /// <summary>The rule, as <c>FREQ=WEEKLY;BYDAY=MO,WE</c>.</summary>
    public string Rule { get; }

    /// <summary>The date it is counted from.</summary>
    public LocalDate First { get; }

    /// <summary>Reads a rule; null when it is not one, or repeats within a day.</summary>
    public static Repeat? Parse(string? rule, LocalDate first)
    {
        string text = (rule ?? "").Trim().ToUpperInvariant();
        if (text.Length is 0 or > LongestRule || !text.StartsWith("FREQ=", StringComparison.Ordinal)) return null;
        try
        {
            RecurrencePattern pattern = new(text);
            if (
                pattern.Frequency is not (FrequencyType.Daily or FrequencyType.Weekly or FrequencyType.Monthly or FrequencyType.Yearly)
                || pattern.ByHour.Count > 0
                || pattern.ByMinute.Count > 0
                || pattern.BySecond.Count > 0
                || pattern.Interval is < 1 or > 400
            )
                return null;
            CalendarEvent made = new() { Start = new CalDateTime(first.Year, first.Month, first.Day), RecurrenceRule = pattern };
            return new Repeat(text, first, made);
        }
        catch (Exception exception)
            when (exception is ArgumentException or FormatException or InvalidOperationException or OverflowException)
        {
            return null;
        }
    }

    /// <summary>Whether the rule names a date. The first date itself is one only if the rule says so.</summary>
    public bool Holds(LocalDate date)
    {
        if (date < First) return false;
        lock (_lock)
        {
            if (date > _knownUntil)
            {
                // A year at a time: days are asked for one after another.
                LocalDate until = date.PlusYears(1);
                foreach (Occurrence getOccurrence in _event.GetOccurrences(Of(_knownUntil.PlusDays(1))))
                {
                    CalDateTime start = getOccurrence.Period.StartTime;
                    LocalDate found = new(start.Year, start.Month, start.Day);
                    if (found > until) break;
                    _dates.Add(found);
                }

                _knownUntil = until;
            }

            return _dates.Contains(date);
        }
    }

    /// <summary>The dates from <paramref name="from"/> to <paramref name="until"/>, both included.</summary>
    public IEnumerable<LocalDate> Between(LocalDate from, LocalDate until)
    {
        for (LocalDate date = LocalDate.Max(from, First); date <= until; date = date.PlusDays(1))
            if (Holds(date)) yield return date;
    }

    private static CalDateTime Of(LocalDate date) => new(date.Year, date.Month, date.Day);
}
