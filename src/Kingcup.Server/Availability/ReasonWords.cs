using System.Globalization;
using Kingcup.Core.Availability;
using NodaTime;

namespace Kingcup.Server.Availability;

/// <summary>A reason in words, with what a program needs to link it.</summary>
/// <param name="Gate">The gate that refuses.</param>
/// <param name="Code">Stable code of the reason.</param>
/// <param name="Text">A sentence for people.</param>
/// <param name="SubjectId">What it speaks of, or null.</param>
/// <param name="AppointmentId">The appointment in the way, or null.</param>
/// <param name="OwnerKind">The kind of object whose setting is the cause, or null.</param>
/// <param name="OwnerId">That object.</param>
public sealed record ReasonText(
    Gate Gate,
    ReasonCode Code,
    string Text,
    Guid? SubjectId,
    Guid? AppointmentId,
    OwnerKind? OwnerKind = null,
    Guid? OwnerId = null
);

/// <summary>Says in plain words why a start is refused.</summary>
public static class ReasonWords
{
    /// <summary>The reasons of all refusals in order. They are for the house; clients get <see cref="ClientReasons"/>.</summary>
    /// <param name="refusals">What was refused.</param>
    /// <param name="house">The house, for its zone.</param>
    public static IReadOnlyList<ReasonText> Of(IReadOnlyList<Refusal> refusals, House house) =>
        Of([.. refusals.SelectMany(refusal => refusal.Reasons)], house);

    /// <summary>Reasons in words.</summary>
    public static IReadOnlyList<ReasonText> Of(IReadOnlyList<Reason> reasons, House house) =>
        [
            .. reasons
                .Select(reason => new ReasonText(
                    reason.Gate,
                    reason.Code,
                    Sentence(reason, house.Location.Zone),
                    reason.SubjectId,
                    reason.AppointmentId,
                    reason.OwnerKind,
                    reason.OwnerId
                ))
                .DistinctBy(reason => reason.Text),
        ];

    private static string Sentence(Reason reason, DateTimeZone zone)
    {
        string from = Clock(reason.From, zone), until = Clock(reason.Until, zone);
        return reason.Code switch
        {
            ReasonCode.BusinessNotOnline => "Online booking is off.",
            ReasonCode.LocationNotOnline => $"{reason.Subject} takes no bookings online.",
            ReasonCode.PractitionerNotOnline => $"{reason.Subject} takes no bookings online.",
            ReasonCode.NoNewClients => $"{reason.Subject} accepts no new clients for {reason.Value ?? "this"}.",
            ReasonCode.ServiceNotOnline => $"{reason.Subject} cannot be booked online.",
            ReasonCode.ServiceNotHere => $"{reason.Subject} is not done at {reason.Value}.",
            ReasonCode.LocationNoNewClients => $"{reason.Subject} accepts no new clients.",
            ReasonCode.ClientNotOnline => "This client may not book online.",
            ReasonCode.TooManyNoShows => $"The client did not come {reason.Value} times or more.",
            ReasonCode.ServiceArchived => $"{reason.Subject} is no longer done.",
            ReasonCode.ServiceForGroups => $"{reason.Subject} is for groups; it is not booked one by one.",
            ReasonCode.OnlyNewClients => $"{reason.Subject} is for new clients only.",
            ReasonCode.OnlyReturningClients => $"{reason.Subject} is for returning clients only.",
            ReasonCode.OutOfSeason => $"{reason.Subject} is offered in another part of the year.",
            ReasonCode.StoppedOnline => $"Online booking is stopped that day: {reason.Value}.",
            ReasonCode.OnBreak => $"{reason.Subject} has a break from {from} to {until}: {reason.Value}.",
            ReasonCode.PractitionerRetired => $"{reason.Subject} no longer works here on that date.",
            ReasonCode.PractitionerAway => $"{reason.Subject} is away: {reason.Value}.",
            ReasonCode.DailyLimit => $"{reason.Subject} has as much that day as they may have.",
            ReasonCode.RoomRetired => $"{reason.Subject} is no longer used on that date.",
            ReasonCode.EquipmentRetired => $"{reason.Subject} is no longer there on that date, or there is less of it.",
            ReasonCode.LeavesGap =>
                $"It would leave {reason.Subject} {reason.Minutes} minutes from {from} to {until}; less than {reason.Value} is of no use.",
            ReasonCode.PrerequisiteMissing =>
                $"{reason.Subject} needs {reason.Value ?? "another visit"} first"
                    + (reason.Minutes > 0 ? $", at least {Span($"{reason.Minutes}")} before." : "."),
            ReasonCode.TooSoon => $"That is too soon: {reason.Subject ?? "it"} is booked at least {Span(reason.Value)} ahead.",
            ReasonCode.TooFarAhead => $"That is too far ahead: {reason.Subject ?? "it"} is booked up to {reason.Value} days ahead.",
            ReasonCode.OwnVisit => $"The client has {reason.Subject ?? "another visit"} from {from} to {until}.",
            ReasonCode.OwnLength => $"{reason.Subject} takes {reason.Minutes} minutes for {reason.Value}.",
            ReasonCode.QualificationEnded =>
                $"{reason.Subject} held what {reason.Value} needs until "
                    + $"{reason.Ended?.ToString("d MMMM uuuu", CultureInfo.InvariantCulture)}.",
            ReasonCode.ShiftKept => $"{reason.Subject}'s shift that day is kept for other services than {reason.Value}.",
            ReasonCode.NotThatWeekday => $"{reason.Subject} is not offered on that day of the week.",
            ReasonCode.LocationClosed => $"{reason.Subject} is closed that day: {reason.Value}.",
            ReasonCode.OutsideOpeningHours => reason.From is null
                ? $"{reason.Subject} is not open that day."
                : $"{reason.Subject} is open from {from} to {until}{Ends(reason, zone)}.",
            ReasonCode.OffGrid => "Starts online are further apart than that.",
            ReasonCode.NobodyQualified => $"Nobody may do {reason.Subject} on that date.",
            ReasonCode.NotQualified => $"{reason.Subject} does not hold what {reason.Value} needs on that date.",
            ReasonCode.NotChosenForService => $"{reason.Subject} does not do {reason.Value}.",
            ReasonCode.OffShift => reason.From is null
                ? reason.Value is null
                    ? $"{reason.Subject} is not on shift that day."
                    : $"{reason.Subject} is off that day: {reason.Value}."
                : $"{reason.Subject} is on shift from {from} to {until}{Ends(reason, zone)}.",
            ReasonCode.PractitionerElsewhere => $"{reason.Subject} works at another location that day.",
            ReasonCode.TravelTooShort => $"{reason.Subject} is at another location from {from} to {until}; the way takes too long.",
            ReasonCode.PractitionerBlocked => $"{reason.Subject} is blocked until {until}: {reason.Value}.",
            ReasonCode.PractitionerTaken => $"{reason.Subject} is taken from {from} to {until}.",
            ReasonCode.NoSuchRoom => $"No room here has what {reason.Subject} needs: {reason.Value}.",
            ReasonCode.RoomBlocked => $"{reason.Subject} is blocked until {until}: {reason.Value}.",
            ReasonCode.RoomTaken => reason.From is null
                ? $"{reason.Subject} is not free."
                : $"{reason.Subject} is taken from {from} to {until}.",
            ReasonCode.EquipmentTaken => $"Every {reason.Subject} is in use until {until}.",
            ReasonCode.NoSuchEquipment => "The equipment is not at this location.",
            _ => "Each part alone would be free, but not all of them together.",
        };
    }

    /// <summary>Where the beginning would fit: the end that does not.</summary>
    private static string Ends(Reason reason, DateTimeZone zone) =>
        reason is { NeededFrom: { } from, NeededUntil: { } until, From: { } opens, Until: { } closes }
        && from >= opens && until > closes && from < closes
            ? $", and this would end at {Clock(until, zone)}"
            : "";

    private static string Span(string? minutes) => int.TryParse(minutes, out int count) switch
    {
        true when count >= 2880 && count % 1440 == 0 => $"{count / 1440} days",
        true when count >= 120 && count % 60 == 0 => $"{count / 60} hours",
        _ => $"{minutes} minutes",
    };

    private static string Clock(Instant? instant, DateTimeZone zone) =>
        instant is { } at ? ClockText.Of(at.InZone(zone).TimeOfDay) : "";
}
