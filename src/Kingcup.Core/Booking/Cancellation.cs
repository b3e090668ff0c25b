using NodaTime;

namespace Kingcup.Core.Booking;

/// <summary>On whose account a visit is cancelled. The business cancelling costs the client nothing (rules, section 9).</summary>
public enum CancelledBy
{
    /// <summary>The client cannot or will not come.</summary>
    Client,

    /// <summary>The business cannot treat them.</summary>
    Business,

    /// <summary>Nobody: it was asked for or answered, and lapsed because nothing was said in time.</summary>
    Nobody,
}

/// <summary>A cancellation as it is kept.</summary>
/// <param name="By">On whose account.</param>
/// <param name="Reason">Why.</param>
/// <param name="IsLate">Whether it came inside the notice the client owes; it then counts with the no-shows (rules, section 5, gate
/// 1).</param>
public sealed record Cancellation(CancelledBy By, string Reason, bool IsLate)
{
    /// <summary>
    /// The last instant at which a client still cancels in time. They get the benefit of the boundary: exactly 24 hours before
    /// is 24 hours before (rules, section 9).
    /// </summary>
    /// <param name="start">When the visit begins.</param>
    /// <param name="noticeHours">The notice of each of its services; the longest counts for all.</param>
    public static Instant LastInTime(Instant start, IEnumerable<int> noticeHours) =>
        start - Duration.FromHours(noticeHours.Append(0).Max());

    /// <summary>Judges a cancellation.</summary>
    /// <param name="by">On whose account.</param>
    /// <param name="reason">Why.</param>
    /// <param name="now">When it is cancelled.</param>
    /// <param name="lastInTime">The last instant in time.</param>
    public static Cancellation Of(CancelledBy by, string reason, Instant now, Instant lastInTime) =>
        new(by, reason, by == CancelledBy.Client && now > lastInTime);
}
