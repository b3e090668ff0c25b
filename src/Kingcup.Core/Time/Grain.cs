namespace Kingcup.Core.Time;

/// <summary>The smallest stretch of time the book knows: five minutes (rules, section 1).</summary>
public static class Grain
{
    /// <summary>Length of one grain, in minutes.</summary>
    public const int Minutes = 5;

    /// <summary>True when <paramref name="minutes"/> is a whole number of grains, zero included.</summary>
    public static bool IsWhole(int minutes) => minutes % Minutes == 0;

    /// <summary>Turns minutes into grains.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The minutes are negative or not a whole number of grains.</exception>
    public static int Count(int minutes) =>
        minutes >= 0 && IsWhole(minutes)
            ? minutes / Minutes
            : throw new ArgumentOutOfRangeException(nameof(minutes), minutes, $"Minutes must be a multiple of {Minutes}, 0 or more.");
}
