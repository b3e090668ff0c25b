using NodaTime;

namespace Kingcup.Core.Rooms;

/// <summary>A place a visit happens in.</summary>
public sealed record Room
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name on the door.</summary>
    public required string Name { get; init; }

    /// <summary>Place in the house order, lowest first.</summary>
    public int Order { get; init; }

    /// <summary>How many units can be held at once, 1 or more.</summary>
    public int Capacity { get; init; } = 1;

    /// <summary>What the room has, such as "couch" or "wet".</summary>
    public IReadOnlySet<string> Features { get; init; } = new HashSet<string>();

    /// <summary>Cleaning minutes after each visit; whole grains.</summary>
    public int TurnaroundMinutes { get; init; }

    /// <summary>The first local date on which it is no longer used, or null.</summary>
    public LocalDate? Retired { get; init; }

    /// <summary>Whether it is no longer used on a local date.</summary>
    public bool IsRetiredOn(LocalDate date) => Retired is { } retired && date >= retired;
}

/// <summary>A pool of interchangeable items.</summary>
public sealed record EquipmentPool
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What the items are.</summary>
    public required string Name { get; init; }

    /// <summary>Place in the house order, lowest first.</summary>
    public int Order { get; init; }

    /// <summary>How many items there are, 1 or more.</summary>
    public int Quantity { get; init; } = 1;

    /// <summary>Cleaning minutes after each use; whole grains.</summary>
    public int TurnaroundMinutes { get; init; }

    /// <summary>The first local date on which it is no longer used, or null.</summary>
    public LocalDate? Retired { get; init; }

    /// <summary>Whether it is no longer used on a local date.</summary>
    public bool IsRetiredOn(LocalDate date) => Retired is { } retired && date >= retired;
}
