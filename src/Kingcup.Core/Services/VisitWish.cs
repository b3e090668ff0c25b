namespace Kingcup.Core.Services;

/// <summary>One line somebody wants.</summary>
/// <param name="ServiceId">Which service.</param>
/// <param name="PractitionerId">Who is to take the lead role, or null for no preference.</param>
/// <param name="ExtraMinutes">Minutes add-ons bring to the longest attended phase; whole grains.</param>
public sealed record LineWish(Guid ServiceId, Guid? PractitionerId = null, int ExtraMinutes = 0);

/// <summary>A visit somebody wants: one or more lines in a row.</summary>
/// <param name="Lines">The lines in order, at least one.</param>
public sealed record VisitWish(IReadOnlyList<LineWish> Lines)
{
    /// <summary>A visit of one line.</summary>
    public static VisitWish Of(Guid serviceId, Guid? practitionerId = null) => new([new LineWish(serviceId, practitionerId)]);
}
