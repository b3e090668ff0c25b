namespace Kingcup.Core.Availability;

/// <summary>What staff may book over after being told (rules, sections 2 and 3).</summary>
[Flags]
public enum Waivers
{
    /// <summary>Nothing.</summary>
    None = 0,

    /// <summary>Outside a shift, also on a day on which the location is closed.</summary>
    OutsideShift = 1,

    /// <summary>Over blocked time and time off.</summary>
    OverBlocked = 2,

    /// <summary>Over time that something else in the book holds. It asks for the right to do so.</summary>
    Overbook = 4,

    /// <summary>In a room that was chosen by hand although it is none that the service asks for.</summary>
    UnsuitedRoom = 8,
}

/// <summary>
/// What a day is eased of before it is searched, the lesser before the greater. People, rooms and equipment are told apart, so
/// that nobody is booked over in a room that was not in the way.
/// </summary>
[Flags]
internal enum Easing
{
    None = 0,
    Shift = 1,
    BlockedPeople = 2,
    BlockedRooms = 4,
    BlockedEquipment = 8,
    TakenPeople = 16,
    TakenRooms = 32,
    TakenEquipment = 64,
}

/// <summary>Which easings are allowed by which waivers.</summary>
internal static class Easings
{
    internal const Easing Blocked = Easing.BlockedPeople | Easing.BlockedRooms | Easing.BlockedEquipment;

    internal const Easing Taken = Easing.TakenPeople | Easing.TakenRooms | Easing.TakenEquipment;

    internal static Easing Of(Waivers waivers) =>
        (waivers.HasFlag(Waivers.OutsideShift) ? Easing.Shift : Easing.None)
        | (waivers.HasFlag(Waivers.OverBlocked) ? Blocked : Easing.None)
        | (waivers.HasFlag(Waivers.Overbook) ? Taken : Easing.None);

    /// <summary>Each of them: to overbook is worse than to book over a block, and that worse than outside a shift.</summary>
    internal static IReadOnlyList<Easing> GreatestFirst { get; } =
    [
        Easing.TakenEquipment,
        Easing.TakenRooms,
        Easing.TakenPeople,
        Easing.BlockedEquipment,
        Easing.BlockedRooms,
        Easing.BlockedPeople,
        Easing.Shift,
    ];
}
