using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>One claim a planned visit will hold.</summary>
/// <param name="Line">Index of the line that holds it; a room kept over several lines belongs to the first of them.</param>
/// <param name="ResourceId">The resource.</param>
/// <param name="Unit">Which unit, 0 for the first.</param>
/// <param name="During">The whole stretch, buffers and turnaround included.</param>
/// <param name="Core">The part without buffers and turnaround.</param>
/// <param name="Role">The role a practitioner takes, or null for a room or equipment.</param>
public sealed record PlannedClaim(int Line, Guid ResourceId, int Unit, Interval During, Interval Core, int? Role)
{
    /// <summary>Whether it was knowingly booked outside a shift, or while the location is closed.</summary>
    public bool OutsideShift { get; init; }

    /// <summary>The blocks it was knowingly booked over.</summary>
    public IReadOnlyList<Guid> OverBlocks { get; init; } = [];

    /// <summary>Whether it is a room that was knowingly chosen although it is none that the service asks for.</summary>
    public bool Unsuited { get; init; }

    /// <summary>Whether it was knowingly booked over another claim of the same unit; it is outside the rule that no two overlap.</summary>
    public bool Overbooked { get; init; }
}

/// <summary>One line of a planned visit.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="Start">When it begins.</param>
/// <param name="End">When it ends, without buffers.</param>
/// <param name="Practitioners">Who takes each role, the lead first.</param>
/// <param name="RoomId">The room, or null for none.</param>
public sealed record PlannedLine(Guid ServiceId, Instant Start, Instant End, IReadOnlyList<Guid> Practitioners, Guid? RoomId)
{
    /// <summary>Who of those who come it is for, 0 for the first.</summary>
    public int Person { get; init; }
}

/// <summary>A visit with everything it will hold.</summary>
/// <param name="Start">When the client comes.</param>
/// <param name="End">When the client leaves.</param>
/// <param name="Lines">Its lines.</param>
/// <param name="Claims">Its claims; no two overlap on the same unit.</param>
public sealed record VisitPlan(Instant Start, Instant End, IReadOnlyList<PlannedLine> Lines, IReadOnlyList<PlannedClaim> Claims);
