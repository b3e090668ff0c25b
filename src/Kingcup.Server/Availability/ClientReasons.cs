using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Availability;

/// <summary>What kind of reason a client is given.</summary>
public enum ClientReasonCode
{
    /// <summary>It cannot be booked online; calling may help.</summary>
    NotOnline,

    /// <summary>Another service has to come first.</summary>
    ComesFirst,

    /// <summary>It is too soon.</summary>
    TooSoon,

    /// <summary>It is too far ahead.</summary>
    TooFarAhead,

    /// <summary>It is not offered on that day.</summary>
    NotThatDay,

    /// <summary>It does not lie inside the opening hours.</summary>
    OutsideHours,

    /// <summary>No visit begins at that time.</summary>
    NotAStart,

    /// <summary>It is not free.</summary>
    NotFree,
}

/// <summary>
/// A reason as a client reads it. There is no place in it for a name, a reason or a time that is somebody else's: it is made of what the
/// booking page tells everybody anyway.
/// </summary>
public sealed record ClientReason
{
    private readonly Sentence _text;

    private ClientReason(ClientReasonCode code, Sentence text) => (Code, _text) = (code, text);

    /// <summary>What kind of reason it is.</summary>
    public ClientReasonCode Code { get; }

    /// <summary>A sentence.</summary>
    public string Text => _text;

    internal static ClientReason NotOnline { get; } = new(ClientReasonCode.NotOnline, "This cannot be booked online. Please call us.");

    internal static ClientReason TooSoon { get; } = new(ClientReasonCode.TooSoon, "That is too soon to be booked online.");

    internal static ClientReason TooFarAhead { get; } =
        new(ClientReasonCode.TooFarAhead, "That is further ahead than can be booked online.");

    internal static ClientReason NotThatDay { get; } = new(ClientReasonCode.NotThatDay, "This is not offered on that day.");

    internal static ClientReason OutsideHours { get; } = new(ClientReasonCode.OutsideHours, "We are not open then.");

    internal static ClientReason NotAStart { get; } = new(ClientReasonCode.NotAStart, "No visit begins at that time.");

    internal static ClientReason NotFree { get; } = new(ClientReasonCode.NotFree, "That time is not free.");

    /// <summary>What has to come first, as the booking page says it of the service.</summary>
    internal static ClientReason ComesFirst(Service service, Service? first) =>
        new(
            ClientReasonCode.ComesFirst,
            service.Prerequisite is { AtLeastHours: > 0 and int hours }
                ? Say(
                    $"{service.Name} needs {first?.Name ?? Another} first, at least {Count(hours, "hour", "hours")} before."
                )
                : Say($"{service.Name} needs {first?.Name ?? Another} first.")
        );

    private static Sentence Another => "another visit";
}

/// <summary>Turns what the engine has found into what clients are told.</summary>
internal static class ClientReasons
{
    /// <summary>What a client is told of a start that is refused, each thing once.</summary>
    internal static IReadOnlyList<ClientReason> Of(IReadOnlyList<Refusal> refusals, House house) =>
        [.. refusals.SelectMany(refusal => refusal.Reasons).Select(reason => Of(reason, house)).Distinct()];

    private static ClientReason Of(Reason reason, House house) =>
        reason.Code switch
        {
            ReasonCode.PrerequisiteMissing
                when house.Services.GetValueOrDefault(reason.SubjectId ?? Guid.Empty) is { Prerequisite: { } before } service =>
                ClientReason.ComesFirst(service, house.Services.GetValueOrDefault(before.ServiceId)),
            ReasonCode.TooSoon => ClientReason.TooSoon,
            ReasonCode.TooFarAhead => ClientReason.TooFarAhead,
            ReasonCode.NotThatWeekday or ReasonCode.OutOfSeason or ReasonCode.StoppedOnline => ClientReason.NotThatDay,
            _ => reason.Gate switch
            {
                Gate.Client or Gate.Service => ClientReason.NotOnline,
                Gate.Date => ClientReason.NotThatDay,
                Gate.OpeningHours => ClientReason.OutsideHours,
                Gate.StartGrid => ClientReason.NotAStart,
                _ => ClientReason.NotFree,
            },
        };
}
