using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using NodaTime;

namespace Kingcup.Core.Clients;

/// <summary>A line of a client's visit, as far as rules about the client look at it.</summary>
/// <param name="State">Where the visit stands.</param>
/// <param name="ServiceId">The service of the line.</param>
/// <param name="Start">When the line begins.</param>
/// <param name="End">When the line ends.</param>
public sealed record ClientVisit(VisitState State, Guid ServiceId, Instant Start, Instant End)
{
    /// <summary>The visit the line belongs to.</summary>
    public Guid VisitId { get; init; }

    /// <summary>When it was cancelled, or null.</summary>
    public Instant? CancelledAt { get; init; }

    /// <summary>Whether the client cancelled it inside the notice they owe.</summary>
    public bool CancelledLate { get; init; }
}

/// <summary>What the visits of a client say about them (rules, section 5).</summary>
public static class ClientHistory
{
    /// <summary>
    /// Whether a client is new: until the start of a first visit of theirs that was confirmed has passed, and it was neither
    /// cancelled nor a no-show. Whoever is marked as known is not.
    /// </summary>
    public static bool IsNew(bool knownBefore, IEnumerable<ClientVisit> visits, Instant now) =>
        !knownBefore
        && !visits.Any(visit =>
            visit.Start <= now && visit.State is (VisitState.Confirmed or VisitState.Arrived or VisitState.InTreatment or VisitState.Done)
        );

    /// <summary>When the client did not come, or cancelled late: each visit once.</summary>
    public static IEnumerable<Instant> Missed(IEnumerable<ClientVisit> visits) =>
        visits.DistinctBy(visit => visit.VisitId)
            .Where(visit => visit.State == VisitState.NoShow || visit.CancelledLate)
            .Select(visit => visit.State == VisitState.NoShow ? visit.Start : visit.CancelledAt ?? visit.Start);

    /// <summary>What a prerequisite may be satisfied by: what was confirmed and neither cancelled nor a no-show. Completed means done, and
    /// nothing else.</summary>
    public static IReadOnlyList<EarlierVisit> Earlier(IEnumerable<ClientVisit> visits) =>
        [
            .. visits
                .Where(visit => Holds(visit) && visit.State != VisitState.Requested)
                .Select(visit => new EarlierVisit(visit.ServiceId, visit.End, visit.State == VisitState.Done)),
        ];

    /// <summary>Whether a visit holds its time, so that the client cannot be somewhere else.</summary>
    public static bool Holds(ClientVisit visit) => visit.State is not (VisitState.Cancelled or VisitState.NoShow or VisitState.Answered);

    /// <summary>The visits at which the client would be at two places at once, each line of them.</summary>
    /// <param name="visits">The client's visits, without the one in question.</param>
    /// <param name="start">When they would come.</param>
    /// <param name="end">When they would leave.</param>
    public static IEnumerable<ClientVisit> At(IEnumerable<ClientVisit> visits, Instant start, Instant end) =>
        visits.Where(visit => Holds(visit) && visit.Start < end && start < visit.End);
}

/// <summary>How many visits booked online may be open at once (rules, section 7).</summary>
/// <param name="PerPerson">By one person: by the same e-mail address or number.</param>
public sealed record OpenBookings(int PerPerson)
{
    /// <summary>From one device, which several people of a household may share.</summary>
    public int PerDevice => PerPerson * 2;

    /// <summary>From one range of addresses, which a whole house may share.</summary>
    public int PerRange => PerPerson * 8;

    /// <summary>Whether one more may be booked.</summary>
    /// <param name="ofPerson">How many the person has open.</param>
    /// <param name="ofDevice">How many came from the device.</param>
    /// <param name="ofRange">How many came from the range.</param>
    public bool AllowOneMore(int ofPerson, int ofDevice, int ofRange) => ofPerson < PerPerson && ofDevice < PerDevice && ofRange < PerRange;
}
