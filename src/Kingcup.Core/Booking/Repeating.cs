using Kingcup.Core.Business;
using Kingcup.Core.Services;
using NodaTime;

namespace Kingcup.Core.Booking;

/// <summary>What a repeat counts in.</summary>
public enum RepeatUnit
{
    /// <summary>Days.</summary>
    Day,

    /// <summary>Weeks.</summary>
    Week,

    /// <summary>Months: the same day of the month, the last where a month has no such day.</summary>
    Month,
}

/// <summary>How a visit repeats: every so many days, weeks or months, either so often or until a date.</summary>
/// <param name="Unit">What is counted.</param>
/// <param name="Every">Every how many of them, 1 to <see cref="MostApart"/>.</param>
/// <param name="Times">How often altogether, the first one counted, 2 to <see cref="MostTimes"/>; or null.</param>
/// <param name="Until">Up to which local date, which may be one of them; or null.</param>
public sealed record Repeating(RepeatUnit Unit, int Every, int? Times, LocalDate? Until)
{
    /// <summary>Most units from one to the next.</summary>
    public const int MostApart = 52;

    /// <summary>Most visits in a row.</summary>
    public const int MostTimes = 52;

    /// <summary>What is wrong with it; nothing when it names two dates or more.</summary>
    /// <param name="first">The first date.</param>
    public IReadOnlyList<Fault> Faults(LocalDate first)
    {
        List<Fault> faults = [];
        if (Every is < 1 or > MostApart)
            faults.Add(new Fault("every", Sentence.Say($"Repeat every 1 to {MostApart}.")));
        if (Times is null == Until is null)
            faults.Add(new Fault("times", Sentence.Say("Say how often, or until when.")));
        if (Times is < 2 or > MostTimes)
            faults.Add(new Fault("times", Sentence.Say($"A visit repeats 2 to {MostTimes} times.")));
        if (Until is { } last && last <= first)
            faults.Add(new Fault("until", Sentence.Say("Choose a date after the first visit.")));
        if (faults.Count == 0 && Dates(first, MostTimes + 1).Count is var count && count is < 2 or > MostTimes)
        {
            faults.Add(
                new Fault(
                    "until",
                    count < 2
                        ? Sentence.Say("Nothing repeats until then. Choose a later date.")
                        : Sentence.Say($"That is more than {MostTimes} visits. Choose an earlier date.")
                )
            );
        }

        return faults;
    }

    /// <summary>The dates in order, the first one included; each counted from the first, so that a short month shifts only
    /// itself.</summary>
    /// <param name="first">The first date.</param>
    /// <param name="most">How many at the most.</param>
    public IReadOnlyList<LocalDate> Dates(LocalDate first, int most = MostTimes)
    {
        List<LocalDate> dates = [];
        for (int i = 0; dates.Count < Math.Min(most, Times ?? most); i++)
        {
            LocalDate date = Unit switch
            {
                RepeatUnit.Day => first.PlusDays(i * Every),
                RepeatUnit.Week => first.PlusWeeks(i * Every),
                _ => first.PlusMonths(i * Every),
            };
            if (Until is { } last && date > last) break;
            dates.Add(date);
        }

        return dates;
    }
}

/// <summary>How the visits of a row are moved together: all by so many days, and all to the same time of the clock.</summary>
/// <param name="Days">Days later; negative for earlier.</param>
/// <param name="Time">When each begins.</param>
public sealed record RowShift(int Days, LocalTime Time)
{
    /// <summary>What takes one of them from where it is to where it is wanted.</summary>
    /// <param name="from">The local date it is on.</param>
    /// <param name="to">The local time it is to begin at.</param>
    public static RowShift Between(LocalDate from, LocalDateTime to) => new(Period.DaysBetween(from, to.Date), to.TimeOfDay);

    /// <summary>When a visit of that date begins after it; a time the clock leaves out lies so much later.</summary>
    /// <param name="date">The local date it is on now.</param>
    /// <param name="zone">The zone of the location.</param>
    public Instant Of(LocalDate date, DateTimeZone zone) => date.PlusDays(Days).At(Time).InZoneLeniently(zone).ToInstant();
}
