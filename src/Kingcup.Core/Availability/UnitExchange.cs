using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>What something holds of one resource.</summary>
/// <param name="Unit">Which unit.</param>
/// <param name="During">When, turnaround included.</param>
public readonly record struct HeldUnit(int Unit, Interval During);

/// <summary>
/// Puts what is held on one unit of a resource on another one. Units are equal, so it is always possible: whoever is in the way on the
/// other unit changes to the one that is left, whoever is in their way there changes too, and so on (rules, section 4).
/// </summary>
public static class UnitExchange
{
    /// <summary>Everything that has to change between two units for some of it to change; each of them changes to the other unit.</summary>
    /// <param name="held">All that is held of the resource.</param>
    /// <param name="chosen">Which of them are to change, by place in <paramref name="held"/>; all on one unit.</param>
    /// <param name="unit">The unit they are to be on.</param>
    /// <returns>The places in <paramref name="held"/>, in order, the chosen ones included. What meets on one unit before, knowingly
    /// booked over another, meets there after, and nothing else does.</returns>
    public static IReadOnlyList<int> Chain(IReadOnlyList<HeldUnit> held, IReadOnlyCollection<int> chosen, int unit)
    {
        ArgumentNullException.ThrowIfNull(held);
        ArgumentNullException.ThrowIfNull(chosen);
        if (chosen.Count == 0) return [];
        int left = held[chosen.First()].Unit;
        if (left == unit) return [];
        SortedSet<int> changed = [.. chosen];
        Queue<int> open = new(chosen);
        while (open.TryDequeue(out int one))
            for (int other = 0; other < held.Count; other++)
            {
                bool isOnEither = held[other].Unit == left || held[other].Unit == unit;
                if (isOnEither && Meet(held[one].During, held[other].During) && changed.Add(other))
                    open.Enqueue(other);
            }
        return [.. changed];
    }

    private static bool Meet(Interval one, Interval other) => one.Start < other.End && other.Start < one.End;
}
