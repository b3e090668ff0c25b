using NodaTime;

namespace Kingcup.Core.Messages;

/// <summary>The part of each day in which nobody is to be disturbed (rules, section 15); it may go over midnight.</summary>
/// <param name="From">When it begins, on the clock of the location.</param>
/// <param name="Until">When it ends; the same as <paramref name="From"/> for no quiet hours.</param>
public sealed record QuietHours(LocalTime From, LocalTime Until)
{
    // What goes before the quiet is there before it begins.
    private static readonly Duration _ahead = Duration.FromMinutes(1);

    /// <summary>No quiet hours.</summary>
    public static QuietHours None { get; } = new(LocalTime.Midnight, LocalTime.Midnight);

    /// <summary>Whether it is quiet at a moment.</summary>
    public bool IsQuiet(Instant at, DateTimeZone zone) => During(at, zone) is not null;

    /// <summary>The moment itself, or the last minute before the quiet it falls into.</summary>
    /// <remarks>Where the clock changes, one quiet may end after the next has begun: then it is before both.</remarks>
    public Instant Before(Instant at, DateTimeZone zone)
    {
        while (During(at, zone) is { } quiet) at = quiet.Start - _ahead;
        return at;
    }

    /// <summary>The moment itself, or the end of the quiet it falls into.</summary>
    public Instant After(Instant at, DateTimeZone zone)
    {
        while (During(at, zone) is { } quiet) at = quiet.End;
        return at;
    }

    private Interval? During(Instant at, DateTimeZone zone)
    {
        ArgumentNullException.ThrowIfNull(zone);
        if (From == Until) return null;
        LocalDate today = at.InZone(zone).Date;
        // That of the evening before may still go on. Clocks that change move its edges, never its meaning.
        foreach (LocalDate date in (LocalDate[])[today.PlusDays(-1), today])
        {
            Interval quiet = new(
                zone.AtLeniently(date + From).ToInstant(),
                zone.AtLeniently((Until > From ? date : date.PlusDays(1)) + Until).ToInstant()
            );
            if (quiet.Contains(at)) return quiet;
        }

        return null;
    }
}
