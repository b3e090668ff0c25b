using System.Globalization;
using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

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
                    Words(reason, house.Location.Zone),
                    reason.SubjectId,
                    reason.AppointmentId,
                    reason.OwnerKind,
                    reason.OwnerId
                ))
                .DistinctBy(reason => reason.Text),
        ];

    /// <summary>Reasons as sentences.</summary>
    internal static IEnumerable<Sentence> Said(IReadOnlyList<Reason> reasons, House house) =>
        reasons.Select(reason => Words(reason, house.Location.Zone)).Distinct();

    private static Sentence Words(Reason reason, DateTimeZone zone)
    {
        LocalTime from = Clock(reason.From, zone), until = Clock(reason.Until, zone);
        return reason.Code switch
        {
            ReasonCode.BusinessNotOnline => Say("Online booking is off."),
            ReasonCode.LocationNotOnline => Say($"{reason.Subject} takes no bookings online."),
            ReasonCode.PractitionerNotOnline => Say($"{reason.Subject} takes no bookings online."),
            ReasonCode.NoNewClients => reason.Value is null
                ? Say($"{reason.Subject} accepts no new clients for this.")
                : Say($"{reason.Subject} accepts no new clients for {reason.Value}."),
            ReasonCode.ServiceNotOnline => Say($"{reason.Subject} cannot be booked online."),
            ReasonCode.ServiceNotHere => Say($"{reason.Subject} is not done at {reason.Value}."),
            ReasonCode.LocationNoNewClients => Say($"{reason.Subject} accepts no new clients."),
            ReasonCode.ClientNotOnline => Say("This client may not book online."),
            ReasonCode.TooManyNoShows => Say($"The client did not come {Count(Number(reason.Value), "time", "times")} or more."),
            ReasonCode.ServiceArchived => Say($"{reason.Subject} is no longer done."),
            ReasonCode.ServiceForGroups => Say($"{reason.Subject} is for groups; it is not booked one by one."),
            ReasonCode.OnlyNewClients => Say($"{reason.Subject} is for new clients only."),
            ReasonCode.OnlyReturningClients => Say($"{reason.Subject} is for returning clients only."),
            ReasonCode.OutOfSeason => Say($"{reason.Subject} is offered in another part of the year."),
            ReasonCode.StoppedOnline => Say($"Online booking is stopped that day: {reason.Value}."),
            ReasonCode.OnBreak => Say($"{reason.Subject} has a break from {from} to {until}: {reason.Value}."),
            ReasonCode.PractitionerRetired => Say($"{reason.Subject} no longer works here on that date."),
            ReasonCode.PractitionerAway => Say($"{reason.Subject} is away: {reason.Value}."),
            ReasonCode.DailyLimit => Say($"{reason.Subject} has as much that day as they may have."),
            ReasonCode.RoomRetired => Say($"{reason.Subject} is no longer used on that date."),
            ReasonCode.EquipmentRetired => Say($"{reason.Subject} is no longer there on that date, or there is less of it."),
            ReasonCode.LeavesGap =>
                Say(
                    $"It would leave {reason.Subject} {Count(reason.Minutes ?? 0, "minute", "minutes")} from {from} to {until}; "
                        + $"less than {Number(reason.Value)} is of no use."
                ),
            ReasonCode.PrerequisiteMissing =>
                reason.Minutes is > 0 and int notice
                    ? Say($"{reason.Subject} needs {reason.Value ?? AnotherVisit} first, at least {Span(notice)} before.")
                    : Say($"{reason.Subject} needs {reason.Value ?? AnotherVisit} first."),
            ReasonCode.TooSoon => reason.Subject is null
                ? Say($"That is too soon: it is booked at least {Span(Number(reason.Value))} ahead.")
                : Say($"That is too soon: {reason.Subject} is booked at least {Span(Number(reason.Value))} ahead."),
            ReasonCode.TooFarAhead => reason.Subject is null
                ? Say($"That is too far ahead: it is booked up to {Count(Number(reason.Value), "day", "days")} ahead.")
                : Say($"That is too far ahead: {reason.Subject} is booked up to {Count(Number(reason.Value), "day", "days")} ahead."),
            ReasonCode.OwnVisit => Say($"The client has {reason.Subject ?? AnotherVisit} from {from} to {until}."),
            ReasonCode.OwnLength => Say(
                $"{reason.Subject} takes {Count(reason.Minutes ?? 0, "minute", "minutes")} for {reason.Value}."
            ),
            ReasonCode.QualificationEnded =>
                Say($"{reason.Subject} held what {reason.Value} needs until {reason.Ended}."),
            ReasonCode.ShiftKept => Say($"{reason.Subject}'s shift that day is kept for other services than {reason.Value}."),
            ReasonCode.NotThatWeekday => Say($"{reason.Subject} is not offered on that day of the week."),
            ReasonCode.LocationClosed => Say($"{reason.Subject} is closed that day: {reason.Value}."),
            ReasonCode.OutsideOpeningHours => reason.From is null
                ? Say($"{reason.Subject} is not open that day.")
                : Ends(reason, zone) is { } end
                    ? Say($"{reason.Subject} is open from {from} to {until}, and this would end at {end}.")
                    : Say($"{reason.Subject} is open from {from} to {until}."),
            ReasonCode.OffGrid => Say("Starts online are further apart than that."),
            ReasonCode.NobodyQualified => Say($"Nobody may do {reason.Subject} on that date."),
            ReasonCode.NotQualified => Say($"{reason.Subject} does not hold what {reason.Value} needs on that date."),
            ReasonCode.NotChosenForService => Say($"{reason.Subject} does not do {reason.Value}."),
            ReasonCode.OffShift => reason.From is null
                ? reason.Value is null
                    ? Say($"{reason.Subject} is not on shift that day.")
                    : Say($"{reason.Subject} is off that day: {reason.Value}.")
                : Ends(reason, zone) is { } end
                    ? Say($"{reason.Subject} is on shift from {from} to {until}, and this would end at {end}.")
                    : Say($"{reason.Subject} is on shift from {from} to {until}."),
            ReasonCode.PractitionerElsewhere => Say($"{reason.Subject} works at another location that day."),
            ReasonCode.TravelTooShort => Say($"{reason.Subject} is at another location from {from} to {until}; the way takes too long."),
            ReasonCode.PractitionerBlocked => Say($"{reason.Subject} is blocked until {until}: {reason.Value}."),
            ReasonCode.PractitionerTaken or ReasonCode.RoomTaken when reason.RunsOut is { } end => Say(
                $"{reason.Subject} is kept for somebody who is booking online, until {Clock(end, zone)} at the latest."
            ),
            ReasonCode.PractitionerTaken => Say($"{reason.Subject} is taken from {from} to {until}."),
            ReasonCode.NoSuchRoom => Say($"No room here has what {reason.Subject} needs: {reason.Value}."),
            ReasonCode.RoomUnsuited => Say($"{reason.Subject} lacks what this needs: {reason.Value}."),
            ReasonCode.RoomBlocked => Say($"{reason.Subject} is blocked until {until}: {reason.Value}."),
            ReasonCode.RoomTaken => reason.From is null
                ? Say($"{reason.Subject} is not free.")
                : Say($"{reason.Subject} is taken from {from} to {until}."),
            ReasonCode.EquipmentTaken => Say($"Every {reason.Subject} is in use until {until}."),
            ReasonCode.NoSuchEquipment => Say("The equipment is not at this location."),
            _ => Say("Each part alone would be free, but not all of them together."),
        };
    }

    private static Sentence AnotherVisit => "another visit";

    /// <summary>When it would end, where the beginning would fit and the end does not.</summary>
    private static LocalTime? Ends(Reason reason, DateTimeZone zone) =>
        reason is { NeededFrom: { } from, NeededUntil: { } until, From: { } opens, Until: { } closes }
        && from >= opens && until > closes && from < closes
            ? Clock(until, zone)
            : null;

    private static Sentence Span(int minutes) => minutes switch
    {
        >= 2880 when minutes % 1440 == 0 => Say($"{Count(minutes / 1440, "day", "days")}"),
        >= 120 when minutes % 60 == 0 => Say($"{Count(minutes / 60, "hour", "hours")}"),
        _ => Say($"{Count(minutes, "minute", "minutes")}"),
    };

    private static int Number(string? text) =>
        int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out int number) ? number : 0;

    private static LocalTime Clock(Instant? instant, DateTimeZone zone) => instant?.InZone(zone).TimeOfDay ?? LocalTime.Midnight;
}
