using NodaTime;

namespace Kingcup.Core.Clients;

/// <summary>Why two visits of one client look like one booked twice.</summary>
public enum DoubleReason
{
    /// <summary>They would be at two places at once.</summary>
    AtOnce,

    /// <summary>The same service twice within a day.</summary>
    SameService,
}

/// <summary>Two visits of one client of which one is likely a mistake.</summary>
/// <param name="VisitId">The one that begins first.</param>
/// <param name="OtherId">The other one.</param>
/// <param name="Reason">Why.</param>
public sealed record DoubleBooking(Guid VisitId, Guid OtherId, DoubleReason Reason);

/// <summary>What a client has likely booked twice.</summary>
public static class DoubleBookings
{
    /// <summary>How near each other two visits for the same service begin to look like one.</summary>
    public static Duration Near { get; } = Duration.FromHours(24);

    /// <summary>The pairs of visits ahead that look like one booked twice, in order of time.</summary>
    /// <param name="lines">The lines of the client's visits.</param>
    /// <param name="now">What has ended by then is past mending.</param>
    public static IReadOnlyList<DoubleBooking> Of(IEnumerable<ClientVisit> lines, Instant now)
    {
        ClientVisit[] ahead =
        [
            .. lines.Where(line => ClientHistory.Holds(line) && line.End > now).OrderBy(line => line.Start).ThenBy(line => line.VisitId),
        ];
        return
        [
            .. ahead.SelectMany((line, i) => ahead.Skip(i + 1).Select(later => Pair(line, later)))
                .OfType<DoubleBooking>()
                // Visits of several lines meet each other more than once, either of them first.
                .GroupBy(pair => pair.VisitId.CompareTo(pair.OtherId) < 0 ? (pair.VisitId, pair.OtherId) : (pair.OtherId, pair.VisitId))
                .Select(pairs => pairs.MinBy(pair => pair.Reason)!),
        ];
    }

    private static DoubleBooking? Pair(ClientVisit line, ClientVisit later)
    {
        if (line.VisitId == later.VisitId) return null;
        if (later.Start < line.End) return new DoubleBooking(line.VisitId, later.VisitId, DoubleReason.AtOnce);
        return line.ServiceId == later.ServiceId && later.Start - line.Start < Near
            ? new DoubleBooking(line.VisitId, later.VisitId, DoubleReason.SameService)
            : null;
    }
}
