using Kingcup.Server.Availability;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>How one line of a visit is placed.</summary>
/// <param name="PractitionerId">Who takes it.</param>
/// <param name="RoomId">The room somebody has chosen by hand; null for any that fits.</param>
public sealed record CoverLine(Guid PractitionerId, Guid? RoomId);

/// <summary>A visit that has lost its place, and where it could go.</summary>
public sealed record CoverAnswer
{
    /// <summary>The visit, with what it has lost.</summary>
    public required NeedsPlaceAnswer Visit { get; init; }

    /// <summary>To be sent back with the placing.</summary>
    public required long Version { get; init; }

    /// <summary>Who was to treat, in order, each once.</summary>
    public required IReadOnlyList<string> With { get; init; }

    /// <summary>Whether the client had asked for one of them: they want to be told.</summary>
    public required bool Asked { get; init; }

    /// <summary>The client's telephone number.</summary>
    public required string? Phone { get; init; }

    /// <summary>When it could begin, or null where it has no place that day.</summary>
    public required Instant? Start { get; init; }

    /// <summary>Who would treat, in order, each once.</summary>
    public required IReadOnlyList<string> NewWith { get; init; }

    /// <summary>In which rooms, in order, each once.</summary>
    public required IReadOnlyList<string> NewRooms { get; init; }

    /// <summary>How each line would be placed.</summary>
    public required IReadOnlyList<CoverLine> Lines { get; init; }

    /// <summary>In how many starts of the day it fits.</summary>
    public required int Ways { get; init; }
}

/// <summary>A visit to be placed.</summary>
/// <param name="VisitId">Which.</param>
/// <param name="Version">The version that was seen.</param>
/// <param name="Start">When it is to begin.</param>
/// <param name="Lines">How each of its lines is placed.</param>
public sealed record PlaceRequest(Guid VisitId, long Version, Instant Start, IReadOnlyList<CoverLine> Lines);

/// <summary>Visits to be placed, in this order.</summary>
/// <param name="Visits">Which, 100 at the most.</param>
public sealed record PlacesRequest(IReadOnlyList<PlaceRequest> Visits);
