using Kingcup.Core.Booking;
using NodaTime;

namespace Kingcup.Core.Messages;

/// <summary>How a visit stands, as far as somebody is told of it.</summary>
/// <param name="State">Where it stands.</param>
/// <param name="Start">When it begins.</param>
/// <param name="By">Who cancelled it, or null.</param>
/// <param name="AnsweredAt">When other times were proposed that are still to be chosen from, or null.</param>
public sealed record VisitMoment(VisitState State, Instant Start, CancelledBy? By = null, Instant? AnsweredAt = null);

/// <summary>What is to be told of a visit (rules, section 15).</summary>
public static class VisitNews
{
    /// <summary>
    /// What is told once a visit stands differently from what was told last. Whatever happened in between does not matter: of a visit that
    /// was moved and moved back there is nothing to tell.
    /// </summary>
    /// <param name="told">How it stood when somebody was told last, or null where nobody was.</param>
    /// <param name="stands">How it stands now, or null where it was taken out of the book.</param>
    /// <param name="now">The present moment: of what lies behind nobody is told.</param>
    /// <returns>What is told, or null for nothing.</returns>
    public static MessageTrigger? Of(VisitMoment? told, VisitMoment? stands, Instant now) =>
        now < told?.Start || now < stands?.Start || IsOpen(told) || IsOpen(stands) || stands?.By == CancelledBy.Nobody
            ? Of(told, stands)
            : null;

    /// <summary>
    /// What is told once a visit stands differently from how its client has left it themselves a moment ago: they know that, though nobody
    /// has told them yet.
    /// </summary>
    /// <param name="told">How it stood when somebody was told last, or null where nobody was.</param>
    /// <param name="left">How the client has left it.</param>
    /// <param name="stands">How it stands now, or null where it was taken out of the book.</param>
    /// <param name="now">The present moment.</param>
    /// <returns>What has become of it since; where that is nothing, what they did.</returns>
    public static MessageTrigger? Of(VisitMoment? told, VisitMoment left, VisitMoment? stands, Instant now) =>
        Of(left, stands, now) ?? Of(told, stands, now);

    // What was proposed may lie ahead where what was asked for does not any more; what was asked for lapses at its start at the latest.
    private static bool IsOpen(VisitMoment? moment) => moment is { State: VisitState.Answered };

    private static MessageTrigger? Of(VisitMoment? told, VisitMoment? stands)
    {
        bool wasAsked = told is not null && VisitStates.IsAsked(told.State),
            stood = told is not null && Stands(told.State),
            isAsked = stands is { State: VisitState.Requested },
            isThere = stands is not null && Stands(stands.State);
        if (stands is { State: VisitState.Answered })
            return told?.AnsweredAt == stands.AnsweredAt ? null : MessageTrigger.Proposed;
        if (isAsked) return wasAsked && told!.Start == stands!.Start ? null : MessageTrigger.Requested;
        if (isThere)
            return wasAsked ? MessageTrigger.Approved
                : !stood ? MessageTrigger.Booked
                : told!.Start != stands!.Start ? MessageTrigger.Moved
                : null;
        // Whoever did not come knows; what it costs them is told with the fee.
        if (stands is { State: VisitState.NoShow }) return null;
        if (wasAsked)
            return stands?.By switch
            {
                CancelledBy.Client => MessageTrigger.Cancelled,
                CancelledBy.Nobody => MessageTrigger.Lapsed,
                _ => MessageTrigger.Declined,
            };
        return stood ? MessageTrigger.Cancelled : null;
    }

    private static bool Stands(VisitState state) =>
        state is VisitState.Confirmed or VisitState.Arrived or VisitState.InTreatment or VisitState.Done;
}

/// <summary>How often a message is tried that did not get through (rules, section 15).</summary>
public static class MessageRetries
{
    private static readonly Duration[] _pauses =
    [
        Duration.FromMinutes(1),
        Duration.FromMinutes(5),
        Duration.FromMinutes(30),
        Duration.FromHours(6),
    ];

    /// <summary>How long to wait after a try that failed, or null where that was the last.</summary>
    /// <param name="tries">How often it was tried, 1 for the first time.</param>
    public static Duration? PauseAfter(int tries)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(tries);
        return tries <= _pauses.Length ? _pauses[tries - 1] : null;
    }
}
