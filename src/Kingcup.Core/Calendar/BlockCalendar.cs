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

    /// <summary>Clients book nothing there online; for staff it is no block at all.</summary>
    Online,
}

/// <summary>Time taken out of all units of a resource.</summary>
/// <param name="ResourceId">The resource.</param>
/// <param name="During">When.</param>
/// <param name="Reason">Why.</param>
public sealed record BlockedTime(Guid ResourceId, Interval During, string Reason)
{
    /// <summary>The block it belongs to, or null.</summary>
    public Guid? BlockId { get; init; }

    /// <summary>Why.</summary>
    public BlockKind Kind { get; init; }

    /// <summary>The local date it stands for, where the block repeats.</summary>
    public LocalDate? Date { get; init; }
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

    /// <summary>Everything blocked that reaches into a day, the one before or the one after.</summary>
    public IEnumerable<BlockedTime> Around(BookDay day)
    {
        ArgumentNullException.ThrowIfNull(day);
        // The three days a book day is laid out over.
        BookDay before = new(day.Date.PlusDays(-1), day.Zone), after = new(day.Date.PlusDays(1), day.Zone);
        foreach (BlockedTime block in _once)
        {
            if (block.During.Start >= after.End) break;
            if (block.During.End > before.Start) yield return block;
        }

        foreach (RepeatingBlock block in _repeating)
        {
            foreach (BookDay there in new[] { before, day, after })
            {
                if (block.On(there.Date) is { } stretch && there.Of(stretch) is var during && during.Duration > Duration.Zero)
                    yield return new BlockedTime(block.ResourceId, during, block.Reason) { BlockId = block.Id, Date = there.Date };
            }
        }
    }
}
