namespace Kingcup.Core.Booking;

/// <summary>What somebody did in the book.</summary>
public enum StepKind
{
    /// <summary>Booked a visit, or several that repeat.</summary>
    Booked,

    /// <summary>Put a visit at another time, with somebody else or elsewhere.</summary>
    Moved,

    /// <summary>Changed the lines of a visit.</summary>
    Changed,

    /// <summary>Cancelled a visit.</summary>
    Cancelled,

    /// <summary>Said where a visit stands.</summary>
    State,
}

/// <summary>Whether a step can be undone, and if not why.</summary>
public enum UndoAnswer
{
    /// <summary>It can.</summary>
    Undoes,

    /// <summary>It has been undone.</summary>
    AlreadyUndone,

    /// <summary>Too much has been done since by the same person.</summary>
    TooLongAgo,

    /// <summary>What it changed has been changed again, or is gone.</summary>
    ChangedSince,
}

/// <summary>One thing a step changed.</summary>
/// <param name="Left">The version the step left behind.</param>
/// <param name="Present">The version it has now; null where it is not there.</param>
public readonly record struct StepTrace(long Left, long? Present);

/// <summary>
/// Undoing what somebody did: the last twenty things of each person, one after another or one among them, as long as nobody has
/// changed since what they changed. Whether the time is still free is asked of the book itself.
/// </summary>
public static class Undoing
{
    /// <summary>How many things of each person can be undone.</summary>
    public const int MostSteps = 20;

    /// <summary>Whether a step can be undone.</summary>
    /// <param name="isUndone">Whether it has been undone.</param>
    /// <param name="later">How many things the same person has done since, undone ones too.</param>
    /// <param name="traces">What it changed, as it left it and as it is now.</param>
    public static UndoAnswer Of(bool isUndone, int later, IEnumerable<StepTrace> traces)
    {
        ArgumentNullException.ThrowIfNull(traces);
        if (isUndone) return UndoAnswer.AlreadyUndone;
        if (later >= MostSteps) return UndoAnswer.TooLongAgo;
        return traces.All(trace => trace.Left == trace.Present) ? UndoAnswer.Undoes : UndoAnswer.ChangedSince;
    }
}
