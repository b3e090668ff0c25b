namespace Kingcup.Core.Booking;

/// <summary>Where a visit stands. Cancelled visits hold nothing; no-shows keep their time until its planned end.</summary>
public enum VisitState
{
    /// <summary>Asked for, not yet approved.</summary>
    Requested,

    /// <summary>Asked for, and answered with other times: these are kept until the client has chosen one, its own is not.</summary>
    Answered,

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
    /// <summary>How long whoever keeps the book may take back a step that was pressed by mistake.</summary>
    public static readonly NodaTime.Duration TakenBackWithin = NodaTime.Duration.FromMinutes(10);

    private static readonly Dictionary<VisitState, VisitState[]> _onward = new()
    {
        [VisitState.Requested] = [VisitState.Confirmed, VisitState.Cancelled],
        [VisitState.Answered] = [VisitState.Cancelled],
        [VisitState.Confirmed] = [VisitState.Arrived, VisitState.Done, VisitState.NoShow, VisitState.Cancelled],
        [VisitState.Arrived] = [VisitState.InTreatment, VisitState.Done, VisitState.Cancelled],
        [VisitState.InTreatment] = [VisitState.Done],
        [VisitState.Done] = [],
        // Somebody who comes after all has come, however late.
        [VisitState.NoShow] = [VisitState.Arrived],
        [VisitState.Cancelled] = [],
    };

    // A press on the wrong button is taken back by pressing the right one.
    private static readonly Dictionary<VisitState, VisitState[]> _back = new()
    {
        [VisitState.Arrived] = [VisitState.Confirmed],
        [VisitState.Answered] = [VisitState.Requested],
        [VisitState.InTreatment] = [VisitState.Arrived],
        [VisitState.Done] = [VisitState.InTreatment],
        [VisitState.NoShow] = [VisitState.Confirmed],
        [VisitState.Cancelled] = [VisitState.Confirmed],
    };

    /// <summary>The states that may follow, those that go on first, in the order people usually want them. Before a visit has begun it is
    /// neither done nor missed.</summary>
    /// <param name="standing">Where it stands, and since when.</param>
    /// <param name="start">When it begins.</param>
    /// <param name="now">The present.</param>
    /// <param name="later">Whether whoever asks may take steps back when they are no longer fresh.</param>
    public static IReadOnlyList<VisitState> After(VisitStanding standing, NodaTime.Instant start, NodaTime.Instant now, bool later = false)
    {
        IEnumerable<VisitState> onward = _onward[standing.State]
            .Where(next => now >= start || next is not (VisitState.Done or VisitState.NoShow));
        bool isFresh = later || now - standing.Since <= TakenBackWithin;
        return [.. onward, .. isFresh ? _back.GetValueOrDefault(standing.State) ?? [] : []];
    }

    /// <summary>Whole minutes somebody who has arrived came after their visit was to begin; 0 for whoever was in time.</summary>
    /// <param name="standing">Where the visit stands; only of one that has arrived it is known since when the client is there.</param>
    /// <param name="start">When it was to begin.</param>
    public static int? MinutesLate(VisitStanding standing, NodaTime.Instant start) =>
        standing.State == VisitState.Arrived ? (int)Math.Max(0, Math.Floor((standing.Since - start).TotalMinutes)) : null;

    /// <summary>The states that take a step back from one.</summary>
    public static IReadOnlyList<VisitState> BackFrom(VisitState state) => _back.GetValueOrDefault(state) ?? [];

    /// <summary>Whether a visit in this state may be moved to another time.</summary>
    public static bool CanMove(VisitState state) => state is VisitState.Requested or VisitState.Confirmed;

    /// <summary>Whether the lines of a visit in this state may be changed where it lies.</summary>
    public static bool CanChange(VisitState state) =>
        state is VisitState.Requested or VisitState.Confirmed or VisitState.Arrived or VisitState.InTreatment;

    /// <summary>Whether a visit in this state holds its time.</summary>
    public static bool HoldsTime(VisitState state) => state is not (VisitState.Cancelled or VisitState.Answered);

    /// <summary>Whether somebody still has to agree: what was asked for lapses if they never do.</summary>
    public static bool IsAsked(VisitState state) => state is VisitState.Requested or VisitState.Answered;
}

/// <summary>Where a visit stands, and since when.</summary>
/// <param name="State">Where.</param>
/// <param name="Since">Since when.</param>
public readonly record struct VisitStanding(VisitState State, NodaTime.Instant Since);
