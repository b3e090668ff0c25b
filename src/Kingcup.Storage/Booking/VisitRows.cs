using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Storage;

/// <summary>A visit as it stands in the book.</summary>
public sealed record VisitRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>The short reference clients read out.</summary>
    public string Reference { get; init; } = "";

    /// <summary>Where.</summary>
    public Guid LocationId { get; init; }

    /// <summary>Who comes.</summary>
    public Guid ClientId { get; init; }

    /// <summary>Who pays for it.</summary>
    public Guid PayerId { get; init; }

    /// <summary>The name of whoever pays, where it is not the client.</summary>
    public string? PayerName { get; init; }

    /// <summary>The client's names, for the screens.</summary>
    public string GivenName { get; init; } = "";

    /// <summary>The client's family name.</summary>
    public string FamilyName { get; init; } = "";

    /// <summary>The client's number, or null.</summary>
    public string? Phone { get; init; }

    /// <summary>The client's e-mail address, or null.</summary>
    public string? Email { get; init; }

    /// <summary>What the desk has to know of the client, or null.</summary>
    public string? Alert { get; init; }

    /// <summary>Least hours before the start at which this client may cancel, where it is set for them.</summary>
    public int? ClientCancelNoticeHours { get; init; }

    /// <summary>The local date of the start.</summary>
    public LocalDate Date { get; init; }

    /// <summary>When the client comes.</summary>
    public Instant StartsAt { get; init; }

    /// <summary>When the client leaves.</summary>
    public Instant EndsAt { get; init; }

    /// <summary>Where it stands, as a name of <see cref="VisitState"/>.</summary>
    public string State { get; init; } = "";

    /// <summary>"Desk" or "Online".</summary>
    public string Source { get; init; } = "";

    /// <summary>Whether it was the client's first when it was booked.</summary>
    public bool IsFirst { get; init; }

    /// <summary>A note for the desk.</summary>
    public string Note { get; init; } = "";

    /// <summary>What the client has written when they booked.</summary>
    public string ClientNote { get; init; } = "";

    /// <summary>Why it was cancelled, or null.</summary>
    public string? CancelReason { get; init; }

    /// <summary>Who cancelled it, as a name of <see cref="Core.Booking.CancelledBy"/>, or null.</summary>
    public string? CancelledBy { get; init; }

    /// <summary>Whether the client cancelled it too late.</summary>
    public bool CancelledLate { get; init; }

    /// <summary>When it was booked.</summary>
    public Instant CreatedAt { get; init; }

    /// <summary>Since when it has stood where it stands.</summary>
    public Instant StateSince { get; init; }

    /// <summary>The row of visits it is one of, or null.</summary>
    public Guid? SeriesId { get; init; }

    /// <summary>The cancellation policy it was booked under, or null.</summary>
    public long? PolicyId { get; init; }

    /// <summary>How often its client has moved it.</summary>
    public int Moves { get; init; }

    /// <summary>When it lapses, as long as somebody still has to agree; null for anything else.</summary>
    public Instant? LapsesAt { get; init; }

    /// <summary>What the desk has written to the client with its answer, or empty.</summary>
    public string AnswerWords { get; init; } = "";

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; }

    /// <summary><see cref="State"/> as a value.</summary>
    public VisitState VisitState => Enum.Parse<VisitState>(State);

    /// <summary>This visit at another time, one version on.</summary>
    internal VisitRow At(LocalDate date, Instant start, Instant end) =>
        this with
        {
            Date = date,
            StartsAt = start,
            EndsAt = end,
            Version = Version + 1,
        };

    /// <summary>This visit in another state, one version on.</summary>
    internal VisitRow In(VisitState state, Instant at, Cancellation? cancellation, DeskAnswer answer) => this with
    {
        State = state.ToString(),
        StateSince = at,
        LapsesAt = VisitStates.IsAsked(state) ? answer.LapsesAt ?? LapsesAt : null,
        AnswerWords = answer.Words ?? AnswerWords,
        CancelReason = cancellation?.Reason,
        CancelledBy = cancellation?.By.ToString(),
        CancelledLate = cancellation?.IsLate ?? false,
        Version = Version + 1,
    };
}

/// <summary>What the desk says to something that was asked for.</summary>
/// <param name="LapsesAt">When it lapses now, or null to leave that as it is.</param>
/// <param name="Words">What is written to the client, or null to leave that as it is.</param>
public readonly record struct DeskAnswer(Instant? LapsesAt = null, string? Words = null);

/// <summary>A line of a visit as it stands in the book.</summary>
public sealed class AppointmentRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>The visit.</summary>
    public Guid VisitId { get; init; }

    /// <summary>Place in the visit, 0 for the first.</summary>
    public short Line { get; init; }

    /// <summary>The service.</summary>
    public Guid ServiceId { get; init; }

    /// <summary>When it begins.</summary>
    public Instant StartsAt { get; init; }

    /// <summary>When it ends, without buffers.</summary>
    public Instant EndsAt { get; init; }

    /// <summary>What it costs without add-ons, in minor units.</summary>
    public long Price { get; init; }

    /// <summary>Whether the client asked for the practitioner.</summary>
    public bool PractitionerAsked { get; init; }

    /// <summary>Who of those who come it is for, 0 for the client.</summary>
    public short Person { get; init; }

    /// <summary>Minutes after the start of the visit at which it begins.</summary>
    public int OffsetMinutes { get; init; }

    /// <summary>The room it is in, or null for none; a room kept over several lines is that of each of them.</summary>
    public Guid? RoomId { get; init; }

    /// <summary>The tax in its price as it was agreed, in hundredths of a percent.</summary>
    public int TaxBasisPoints { get; init; }

    /// <summary>The length somebody has set by hand, in minutes with add-ons, or null.</summary>
    public int? SetMinutes { get; init; }

    /// <summary>Whether somebody has chosen the room.</summary>
    public bool RoomAsked { get; init; }
}

/// <summary>A part of the price of a line, as agreed.</summary>
public sealed class PricePartRow
{
    /// <summary>The line.</summary>
    public Guid AppointmentId { get; init; }

    /// <summary>Place among the parts of the line, 0 for the first.</summary>
    public short Place { get; init; }

    /// <summary>What it comes from, as a name of <see cref="PricePartKind"/>.</summary>
    public string Kind { get; init; } = "";

    /// <summary>Minor units; what takes off is negative.</summary>
    public long Amount { get; init; }

    /// <summary>The add-on, where it is one's.</summary>
    public Guid? AddOnId { get; init; }

    /// <summary>The promo code, where it is what one takes off.</summary>
    public Guid? PromoId { get; init; }
}

/// <summary>Somebody who comes besides the client.</summary>
public sealed class VisitPersonRow
{
    /// <summary>The visit.</summary>
    public Guid VisitId { get; init; }

    /// <summary>Which of those who come, 1 for the first besides the client.</summary>
    public short Person { get; init; }

    /// <summary>A known client, or null.</summary>
    public Guid? ClientId { get; init; }

    /// <summary>Their name.</summary>
    public string Name { get; init; } = "";
}

/// <summary>An add-on of a line, as agreed when it was booked.</summary>
public sealed record LineAddOn
{
    /// <summary>The line.</summary>
    public Guid AppointmentId { get; init; }

    /// <summary>The add-on.</summary>
    public Guid AddOnId { get; init; }

    /// <summary>How many.</summary>
    public short Count { get; init; }

    /// <summary>Minutes all of them together add.</summary>
    public int Minutes { get; init; }

    /// <summary>What all of them together cost, in minor units.</summary>
    public long Price { get; init; }

    /// <summary>The same on a line.</summary>
    internal LineAddOn On(Guid line) => this with { AppointmentId = line };
}

/// <summary>A claim as it stands in the book.</summary>
public sealed record ClaimRow
{
    /// <summary>The occupation that holds it; that of a line has the line's identity.</summary>
    public Guid OccupationId { get; init; }

    /// <summary>The resource.</summary>
    public Guid ResourceId { get; init; }

    /// <summary>Which unit.</summary>
    public short Unit { get; init; }

    /// <summary>The role of a practitioner, or null.</summary>
    public short? Role { get; init; }

    /// <summary>The whole stretch.</summary>
    public Interval During { get; init; }

    /// <summary>Without buffers and turnaround.</summary>
    public Interval Core { get; init; }

    /// <summary>Whether it was knowingly booked over another.</summary>
    public bool Overbooked { get; init; }

    /// <summary>Whether it was knowingly booked outside a shift.</summary>
    public bool OutsideShift { get; init; }

    /// <summary>Whether it is a room that was knowingly chosen although it is none that the service asks for.</summary>
    public bool Unsuited { get; init; }

    /// <summary>The blocks it was knowingly booked over.</summary>
    public Guid[] OverBlocks { get; init; } = [];

    /// <summary>The same on another unit.</summary>
    internal ClaimRow On(short unit) => this with { Unit = unit };
}

/// <summary>An answer a client gave when they booked.</summary>
public sealed class VisitAnswerRow
{
    /// <summary>The question.</summary>
    public Guid QuestionId { get; init; }

    /// <summary>The question as it was asked.</summary>
    public string Question { get; init; } = "";

    /// <summary>How it was asked for, the name of a <see cref="Core.Forms.QuestionKind"/>.</summary>
    public string Kind { get; init; } = "";

    /// <summary>The answer; of a file its name.</summary>
    public string Answer { get; init; } = "";

    /// <summary>The file, where it is one.</summary>
    public Guid? FileId { get; init; }
}
