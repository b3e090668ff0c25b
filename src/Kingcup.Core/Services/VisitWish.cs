namespace Kingcup.Core.Services;

/// <summary>One line somebody wants.</summary>
/// <param name="ServiceId">Which service.</param>
/// <param name="PractitionerId">Who is to take the lead role, or null for no preference.</param>
/// <param name="ExtraMinutes">Minutes add-ons bring to the longest attended phase; whole grains.</param>
public sealed record LineWish(Guid ServiceId, Guid? PractitionerId = null, int ExtraMinutes = 0)
{
    /// <summary>Who of those who come it is for, 0 for the first. Lines of one person follow each other, those of others may lie beside
    /// them.</summary>
    public int Person { get; init; }

    /// <summary>For the first line of a person: minutes after the start of the visit at which it begins; whole grains.</summary>
    public int OffsetMinutes { get; init; }

    /// <summary>The room it is to be in, or null for whichever fits.</summary>
    public Guid? RoomId { get; init; }

    /// <summary>Whether the room that was chosen is taken although it is none that the service asks for.</summary>
    public bool TakesUnsuitedRoom { get; init; }

    /// <summary>The length somebody has set by hand, add-ons included, or null for what service, practitioner and add-ons say; whole
    /// grains, at least <see cref="Service.LeastMinutes"/>.</summary>
    public int? SetMinutes { get; init; }
}

/// <summary>A visit somebody wants: lines in order for one or more people (rules, section 4).</summary>
/// <param name="Lines">The lines in order, at least one.</param>
public sealed record VisitWish(IReadOnlyList<LineWish> Lines)
{
    /// <summary>Rooms that are not to be used, whatever fits.</summary>
    public IReadOnlySet<Guid> WithoutRooms { get; init; } = new HashSet<Guid>();

    /// <summary>A visit of one line.</summary>
    public static VisitWish Of(Guid serviceId, Guid? practitionerId = null) => new([new LineWish(serviceId, practitionerId)]);
}
