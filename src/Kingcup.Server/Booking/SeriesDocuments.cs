using Kingcup.Core.Booking;
using Kingcup.Server.Availability;
using Kingcup.Server.Clients;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>How a visit repeats.</summary>
/// <param name="Unit">What is counted.</param>
/// <param name="Every">Every how many of them.</param>
/// <param name="Times">How often altogether, the first one counted; or null.</param>
/// <param name="Until">Up to which local date; or null.</param>
public sealed record VisitRepeatDocument(RepeatUnit Unit, int Every, int? Times = null, LocalDate? Until = null)
{
    internal Repeating ToCore() => new(Unit, Every, Times, Until);
}

/// <summary>A question for what every visit of a row would meet.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Start">When the first begins; the others begin at the same time by the clock.</param>
/// <param name="Lines">What, in order.</param>
/// <param name="Repeat">How it repeats.</param>
/// <param name="ClientId">Whom it is for, where that is known.</param>
public sealed record RepeatTryRequest(
    Guid LocationId,
    Instant Start,
    IReadOnlyList<DeskLineRequest>? Lines,
    VisitRepeatDocument? Repeat,
    Guid? ClientId = null
);

/// <summary>What one visit of a row meets, and how that can be solved.</summary>
public sealed record OccurrenceAnswer
{
    /// <summary>Its local date.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>When it would begin.</summary>
    public required Instant Start { get; init; }

    /// <summary>Whether it fits there.</summary>
    public required bool Fits { get; init; }

    /// <summary>Why it does not, and what else is to be known: the client's own other visit.</summary>
    public required IReadOnlyList<ReasonText> Reasons { get; init; }

    /// <summary>The nearest start of the same day that fits, or null.</summary>
    public required Instant? Nearest { get; init; }

    /// <summary>Who else could do it at the same time, or null.</summary>
    public required NamedAnswer? Other { get; init; }
}

/// <summary>Visits of a row to be booked in one go.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Occurrences">When each of them begins, and by whom; two or more.</param>
/// <param name="Lines">What, in order.</param>
/// <param name="ClientId">A known client; or <paramref name="NewClient"/>.</param>
/// <param name="NewClient">A client entered with the booking.</param>
/// <param name="Note">A note for the desk, at each of them.</param>
public sealed record RepeatRequest(
    Guid LocationId,
    IReadOnlyList<OccurrenceRequest>? Occurrences,
    IReadOnlyList<DeskLineRequest>? Lines,
    Guid? ClientId = null,
    NewClientRequest? NewClient = null,
    string? Note = null
);

/// <summary>One visit of a row.</summary>
/// <param name="Start">When it begins.</param>
/// <param name="PractitionerId">Who does its first line; null as the lines say.</param>
public sealed record OccurrenceRequest(Instant Start, Guid? PractitionerId = null);

/// <summary>How far a change of a row reaches.</summary>
/// <param name="Reason">Why they are cancelled.</param>
/// <param name="By">On whose account.</param>
/// <param name="All">Whether those before it that have not begun are cancelled too; otherwise this one and the following.</param>
public sealed record SeriesCancelRequest(string? Reason, CancelledBy By = CancelledBy.Client, bool All = false);

/// <summary>Visits of a row as they stand.</summary>
/// <param name="Visits">By start.</param>
public sealed record SeriesAnswer(IReadOnlyList<VisitAnswer> Visits);
