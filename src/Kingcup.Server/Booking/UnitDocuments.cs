using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>A line of a visit on a unit of a room or pool that has several.</summary>
/// <param name="Line">Index of the line.</param>
/// <param name="ResourceId">The room or pool.</param>
/// <param name="Name">Its name.</param>
/// <param name="Unit">The unit it is on, 0 for the first.</param>
/// <param name="Of">How many there are.</param>
public sealed record UnitHeldAnswer(int Line, Guid ResourceId, string Name, int Unit, int Of);

/// <summary>Where a line of a visit could be instead, within the same room or pool.</summary>
/// <param name="Held">What it has.</param>
/// <param name="Others">The other units, in order.</param>
public sealed record UnitChoiceAnswer(UnitHeldAnswer Held, IReadOnlyList<UnitOption> Others);

/// <summary>A unit a line could be on.</summary>
/// <param name="Unit">The unit, 0 for the first.</param>
/// <param name="Moves">The visits of others that would change their unit for it; none where it is free.</param>
/// <param name="Refused">Why it cannot be had, or null.</param>
public sealed record UnitOption(int Unit, IReadOnlyList<UnitMove> Moves, string? Refused);

/// <summary>A visit that changes its unit for another.</summary>
/// <param name="Name">Whose it is.</param>
/// <param name="Start">When it begins.</param>
/// <param name="Unit">The unit it would be on.</param>
public sealed record UnitMove(string Name, Instant Start, int Unit);

/// <summary>A line that is to be on another unit of its room or pool.</summary>
/// <param name="Line">Index of the line.</param>
/// <param name="ResourceId">The room or pool.</param>
/// <param name="From">The unit it is on, 0 for the first.</param>
/// <param name="To">The unit it is to be on.</param>
public sealed record UnitRequest(int Line, Guid ResourceId, int From, int To);
