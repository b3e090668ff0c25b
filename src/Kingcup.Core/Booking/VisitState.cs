namespace Kingcup.Core.Booking;

/// <summary>Where a visit stands. Cancelled visits hold nothing; no-shows keep their time until its planned end.</summary>
public enum VisitState
{
    /// <summary>Asked for, not yet approved.</summary>
    Requested,

    /// <summary>Booked.</summary>
    Confirmed,

    /// <summary>The client is here.</summary>
    Arrived,

    /// <summary>In treatment.</summary>
    InTreatment,

    /// <summary>Completed.</summary>
    Done,

    /// <summary>The client did not come.</summary>
    NoShow,

    /// <summary>Cancelled, kept with its reason.</summary>
    Cancelled,
}

/// <summary>Which change of state may follow which.</summary>
public static class VisitStates
{
    private static readonly Dictionary<VisitState, VisitState[]> _next = new()
    {
        [VisitState.Requested] = [VisitState.Confirmed, VisitState.Cancelled],
        [VisitState.Confirmed] = [VisitState.Arrived, VisitState.Done, VisitState.NoShow, VisitState.Cancelled],
        // A press on the wrong button is taken back by pressing the right one.
        [VisitState.Arrived] = [VisitState.Confirmed, VisitState.InTreatment, VisitState.Done, VisitState.Cancelled],
        [VisitState.InTreatment] = [VisitState.Arrived, VisitState.Done],
        [VisitState.Done] = [VisitState.InTreatment],
        [VisitState.NoShow] = [VisitState.Confirmed, VisitState.Arrived],
        [VisitState.Cancelled] = [],
    };

    /// <summary>The states that may follow, in the order people usually want them. Before a visit has begun it is neither done nor
    /// missed.</summary>
    /// <param name="state">Where it stands.</param>
    /// <param name="start">When it begins.</param>
    /// <param name="now">The present.</param>
    public static IReadOnlyList<VisitState> After(VisitState state, NodaTime.Instant start, NodaTime.Instant now) =>
        now >= start ? _next[state] : [.. _next[state].Where(next => next is not (VisitState.Done or VisitState.NoShow))];

    /// <summary>Whether a visit in this state may be moved to another time.</summary>
    public static bool CanMove(VisitState state) => state is VisitState.Requested or VisitState.Confirmed;

    /// <summary>Whether a visit in this state holds its time.</summary>
    public static bool HoldsTime(VisitState state) => state != VisitState.Cancelled;
}
