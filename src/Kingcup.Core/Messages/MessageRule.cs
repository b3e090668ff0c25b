using Kingcup.Core.Booking;
using NodaTime;

namespace Kingcup.Core.Messages;

/// <summary>What a message arises from (rules, section 15).</summary>
public enum MessageTrigger
{
    /// <summary>A client has asked for a visit that the business has to grant.</summary>
    Requested,

    /// <summary>A visit stands in the book.</summary>
    Booked,

    /// <summary>What was asked for has been granted.</summary>
    Approved,

    /// <summary>What was asked for has not been granted.</summary>
    Declined,

    /// <summary>What was asked for was answered with other times, to be chosen from.</summary>
    Proposed,

    /// <summary>What was asked for was not answered in time, or what was proposed not chosen.</summary>
    Lapsed,

    /// <summary>A visit is at another time.</summary>
    Moved,

    /// <summary>A visit was cancelled.</summary>
    Cancelled,

    /// <summary>A fee was taken from a card, or is owed.</summary>
    Fee,

    /// <summary>Money has gone back to a card.</summary>
    Refund,

    /// <summary>A client is asked for a deposit, and sent a link to pay it by.</summary>
    DepositAsked,

    /// <summary>Somebody began to pay for a booking and left.</summary>
    Unfinished,

    /// <summary>A client wants to see their own bookings and is sent a code; no rule says so, it is sent at once.</summary>
    Code,

    /// <summary>Some time before a visit begins.</summary>
    BeforeStart,

    /// <summary>Some time after a visit that is done has ended.</summary>
    AfterEnd,
}

/// <summary>The way a message goes.</summary>
public enum Channel
{
    /// <summary>By e-mail.</summary>
    Email,

    /// <summary>As a text message to a telephone.</summary>
    Text,
}

/// <summary>Whom a message is for.</summary>
public enum Recipient
{
    /// <summary>The client who comes.</summary>
    Client,

    /// <summary>The practitioners of the visit.</summary>
    Practitioner,

    /// <summary>Who pays for the visit: the client, where nobody else does.</summary>
    Payer,

    /// <summary>People with a sign-in who are to be told.</summary>
    Staff,
}

/// <summary>Who a message is sent about; what is empty counts for all.</summary>
public sealed record MessageFilter
{
    /// <summary>Visits at this location, or null.</summary>
    public Guid? LocationId { get; init; }

    /// <summary>Visits with one of these services; empty for any.</summary>
    public IReadOnlySet<Guid> ServiceIds { get; init; } = new HashSet<Guid>();

    /// <summary>New clients only, returning ones only, or null for both.</summary>
    public bool? New { get; init; }

    /// <summary>What clients did online only, what the desk did only, or null for both.</summary>
    public bool? Online { get; init; }

    /// <summary>Whether it lets something through.</summary>
    public bool Lets(MessageSubject subject)
    {
        ArgumentNullException.ThrowIfNull(subject);
        return (LocationId is null || LocationId == subject.LocationId)
            && (ServiceIds.Count == 0 || subject.ServiceIds.Any(ServiceIds.Contains))
            && (New is null || New == subject.IsNew)
            && (Online is null || Online == subject.IsOnline);
    }
}

/// <summary>What a message is about, as far as rules ask.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="ServiceIds">The services of the visit.</param>
/// <param name="IsNew">Whether it is the client's first visit.</param>
/// <param name="IsOnline">Whether the client did it online.</param>
public sealed record MessageSubject(Guid LocationId, IReadOnlyCollection<Guid> ServiceIds, bool IsNew, bool IsOnline);

/// <summary>When which message goes to whom (rules, section 15).</summary>
public sealed record MessageRule
{
    /// <summary>Most minutes between a visit and a message: a year.</summary>
    public const int MostMinutes = 366 * 24 * 60;

    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What it arises from.</summary>
    public required MessageTrigger Trigger { get; init; }

    /// <summary>How it goes.</summary>
    public required Channel Channel { get; init; }

    /// <summary>Whom it is for.</summary>
    public required Recipient Recipient { get; init; }

    /// <summary>How many minutes before the start, or after the end; 0 for what arises from an event.</summary>
    public int OffsetMinutes { get; init; }

    /// <summary>How many minutes late it still makes sense, where it goes some time before or after.</summary>
    public int LateMinutes { get; init; }

    /// <summary>
    /// After a visit: only where the client has nothing of the kind since, neither been nor booked, as for "21 days after the last visit of
    /// a service".
    /// </summary>
    public bool OnlyIfNotBack { get; init; }

    /// <summary>Who it is sent about.</summary>
    public MessageFilter Filter { get; init; } = new();

    /// <summary>Whether it is sent at all.</summary>
    public bool IsOn { get; init; } = true;

    /// <summary>Whether it goes some time before or after a visit, and not at once.</summary>
    public bool IsTimed => Trigger is MessageTrigger.BeforeStart or MessageTrigger.AfterEnd;

    /// <summary>Whether visits in a state get it, where it is timed: ahead those that stand, afterwards those that are done.</summary>
    public bool IsFor(VisitState state) =>
        Trigger switch
        {
            MessageTrigger.BeforeStart => state == VisitState.Confirmed,
            MessageTrigger.AfterEnd => state == VisitState.Done,
            _ => false,
        };

    /// <summary>Whether it is still wanted, by whether the client has something of the kind since.</summary>
    public bool IsWanted(bool isBack) => !(OnlyIfNotBack && isBack);

    /// <summary>When it goes, around one visit; quiet hours count.</summary>
    /// <param name="visit">When the visit is.</param>
    /// <param name="zone">Whose clock it is there.</param>
    /// <param name="quiet">When nobody is to be disturbed.</param>
    /// <exception cref="InvalidOperationException">The rule is not timed.</exception>
    public Instant At(Interval visit, DateTimeZone zone, QuietHours quiet)
    {
        ArgumentNullException.ThrowIfNull(quiet);
        return Trigger switch
        {
            // A reminder goes before the quiet begins; what follows a visit never comes before its end, so it waits.
            MessageTrigger.BeforeStart => quiet.Before(visit.Start - Duration.FromMinutes(OffsetMinutes), zone),
            MessageTrigger.AfterEnd => quiet.After(visit.End + Duration.FromMinutes(OffsetMinutes), zone),
            _ => throw new InvalidOperationException("Only what is timed goes some time before or after a visit."),
        };
    }

    /// <summary>What becomes of it for one visit.</summary>
    /// <param name="visit">When the visit is.</param>
    /// <param name="bookedAt">When it was booked.</param>
    /// <param name="zone">Whose clock it is there.</param>
    /// <param name="quiet">When nobody is to be disturbed.</param>
    /// <param name="now">The present moment.</param>
    public PlannedMessage Plan(Interval visit, Instant bookedAt, DateTimeZone zone, QuietHours quiet, Instant now)
    {
        Instant at = At(visit, zone, quiet);
        // What had passed when it was booked is not sent later.
        if (at < bookedAt) return new PlannedMessage(at, MessageFate.TooSoon);
        if (now < at) return new PlannedMessage(at, MessageFate.Ahead);
        Instant free = quiet.After(now, zone);
        bool isTooLate =
            free - at > Duration.FromMinutes(LateMinutes) || (Trigger == MessageTrigger.BeforeStart && free >= visit.Start);
        if (isTooLate) return new PlannedMessage(at, MessageFate.TooLate);
        return free > now ? new PlannedMessage(free, MessageFate.Ahead) : new PlannedMessage(at, MessageFate.Due);
    }
}

/// <summary>What becomes of a timed message.</summary>
public enum MessageFate
{
    /// <summary>It goes later.</summary>
    Ahead,

    /// <summary>It goes now.</summary>
    Due,

    /// <summary>Its time had passed when the visit was booked: it is left out.</summary>
    TooSoon,

    /// <summary>Its time has passed for longer than makes sense: it is left out.</summary>
    TooLate,
}

/// <summary>What becomes of a timed message, and its time.</summary>
/// <param name="At">When it goes, or would have gone.</param>
/// <param name="Fate">What becomes of it.</param>
public readonly record struct PlannedMessage(Instant At, MessageFate Fate);
