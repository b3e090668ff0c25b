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

/// <summary>A question for where the visits of a row would go together.</summary>
/// <param name="Start">When the visit that is named would begin; the others go so many days on and to the same time.</param>
/// <param name="PractitionerId">Who would do the first line of each; null for whoever does it now.</param>
/// <param name="All">Whether those before it that have not begun go too; otherwise this one and the following.</param>
public sealed record RowMoveTryRequest(Instant Start, Guid? PractitionerId = null, bool All = false);

/// <summary>Where one visit of a row would go, and what it would meet there.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Version">The version that was looked at.</param>
/// <param name="Present">When it begins now.</param>
/// <param name="There">What it would meet.</param>
public sealed record RowMoveAnswer(Guid VisitId, long Version, Instant Present, OccurrenceAnswer There);

/// <summary>Visits of a row to be moved in one go.</summary>
/// <param name="Visits">Each that is moved.</param>
public sealed record RowMoveRequest(IReadOnlyList<RowMoveOne>? Visits);

/// <summary>One visit of a row that is moved.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Version">The version it is based on.</param>
/// <param name="Start">When it is to begin.</param>
/// <param name="PractitionerId">Who is to do its first line; null for whoever does it now.</param>
public sealed record RowMoveOne(Guid VisitId, long Version, Instant Start, Guid? PractitionerId = null);
