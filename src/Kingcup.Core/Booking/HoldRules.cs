using NodaTime;

namespace Kingcup.Core.Booking;

/// <summary>
/// How long somebody who chooses online has a time, and how many of them there are at once (rules, section 7). Whoever gets none books
/// all the same, as long as nobody else is quicker: a bound on holds stops scripts, and never a client. A device holds one time at most:
/// choosing another gives the one before back.
/// </summary>
public static class HoldRules
{
    /// <summary>How long a time is held.</summary>
    public static Duration Length => Duration.FromMinutes(10);

    /// <summary>Until when a time is held that is taken now: a whole second, so that everybody who writes it down says the same.</summary>
    public static Instant Until(Instant now) => Instant.FromUnixTimeSeconds((now + Length).ToUnixTimeSeconds());

    /// <summary>How many times are held at once from one address range, in which many people may be.</summary>
    public static int MostOfRange => 8;

    /// <summary>How many times are held at once on one day of a location for each who works there then, so that nobody empties
    /// it.</summary>
    public static int MostForEach => 2;

    /// <summary>Whether one more time may be held.</summary>
    /// <param name="ofRange">How many others are held from the address range.</param>
    /// <param name="ofDay">How many others are held on the day.</param>
    /// <param name="onShift">How many work at the location on that day.</param>
    public static bool AllowOneMore(int ofRange, int ofDay, int onShift) =>
        ofRange < MostOfRange && ofDay < MostForEach * Math.Max(1, onShift);
}
