using Kingcup.Core.Availability;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Calendar;

/// <summary>Why time is taken out of a resource.</summary>
public enum BlockKind
{
    /// <summary>Blocked time.</summary>
    Block,

    /// <summary>A practitioner is away.</summary>
    TimeOff,
}

/// <summary>
/// Blocked time that repeats (rules, section 3). Dates may be taken out of it, or have another time than the rule's.
/// It is told in wall time and so moves with the clock.
/// </summary>
/// <param name="Id">Identity.</param>
/// <param name="ResourceId">The resource.</param>
/// <param name="Repeat">On which dates.</param>
/// <param name="During">At what time.</param>
/// <param name="Reason">Why.</param>
public sealed record RepeatingBlock(Guid Id, Guid ResourceId, Repeat Repeat, Stretch During, string Reason)
{
    /// <summary>Dates on which it is left out (null) or lies at another time.</summary>
    public IReadOnlyDictionary<LocalDate, Stretch?> Changed { get; init; } = new Dictionary<LocalDate, Stretch?>();

    /// <summary>When it holds on a date, or null when it does not.</summary>
    public Stretch? On(LocalDate date)
    {
        if (!Repeat.Holds(date)) return null;
        return Changed.TryGetValue(date, out Stretch? other) ? other : During;
    }
}

/// <summary>All blocked time of a business, once and repeating.</summary>
public sealed class BlockCalendar
{
    private readonly IReadOnlyList<BlockedTime> _once;
    private readonly IReadOnlyList<RepeatingBlock> _repeating;

    /// <summary>Makes the calendar.</summary>
    public BlockCalendar(IEnumerable<BlockedTime> once, IEnumerable<RepeatingBlock> repeating) =>
        (_once, _repeating) = ([.. once.OrderBy(block => block.During.Start)], [.. repeating]);

    /// <summary>A calendar with nothing in it.</summary>
    public static BlockCalendar Empty { get; } = new([], []);

    /// <summary>Blocks that happen once.</summary>
    public IReadOnlyList<BlockedTime> Once => _once;

    /// <summary>Blocks that repeat.</summary>
    public IReadOnlyList<RepeatingBlock> Repeating => _repeating;

    /// <summary>Everything blocked that reaches into the window of a day.</summary>
    public IEnumerable<BlockedTime> Around(BookDay day)
    {
        ArgumentNullException.ThrowIfNull(day);
        Instant from = day.At(DaySet.First), until = day.At(DaySet.Last + 1);
        foreach (BlockedTime block in _once)
        {
            if (block.During.Start >= until) break;
            if (block.During.End > from) yield return block;
        }

        foreach (RepeatingBlock block in _repeating)
        {
            for (int offset = -1; offset <= 1; offset++)
            {
                BookDay there = offset == 0 ? day : new BookDay(day.Date.PlusDays(offset), day.Zone);
                if (block.On(there.Date) is { } stretch && there.Of(stretch) is var during && during.Duration > Duration.Zero)
                    yield return new BlockedTime(block.ResourceId, during, block.Reason) { BlockId = block.Id, Date = there.Date };
            }
        }
    }
}
