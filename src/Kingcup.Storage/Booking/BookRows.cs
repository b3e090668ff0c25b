using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Storage;

/// <summary>A visit with its lines and claims.</summary>
/// <param name="Visit">The visit.</param>
/// <param name="Lines">Its lines in order.</param>
/// <param name="Claims">What they hold.</param>
/// <param name="AddOns">What was added to them.</param>
public sealed record StoredVisit(
    VisitRow Visit,
    IReadOnlyList<AppointmentRow> Lines,
    IReadOnlyList<ClaimRow> Claims,
    IReadOnlyList<LineAddOn> AddOns
)
{
    /// <summary>What the prices of the lines are made of.</summary>
    public IReadOnlyList<PricePartRow> PriceParts { get; init; } = [];

    /// <summary>Who comes besides the client.</summary>
    public IReadOnlyList<VisitPersonRow> People { get; init; } = [];

    /// <summary>What the client answered when they booked; read with the single visit only.</summary>
    public IReadOnlyList<VisitAnswerRow> Answers { get; init; } = [];

    /// <summary>The add-ons of each line, in order of the lines.</summary>
    public IReadOnlyList<IReadOnlyList<LineAddOn>> AddOnsByLine =>
        [.. Lines.Select(line => (IReadOnlyList<LineAddOn>)[.. AddOns.Where(added => added.AppointmentId == line.Id)])];

    /// <summary>The price as it was agreed, line by line.</summary>
    public VisitPrice Price =>
        new([
            .. Lines.Select(line => new PricedLine(
                [
                    .. PriceParts
                        .Where(part => part.AppointmentId == line.Id)
                        .OrderBy(part => part.Place)
                        .Select(part => new PricePart(Enum.Parse<PricePartKind>(part.Kind), part.Amount, part.AddOnId)
                        {
                            PromoId = part.PromoId,
                        }),
                ],
                line.TaxBasisPoints
            )),
        ]);

    /// <summary>What of each line was chosen by hand.</summary>
    public IReadOnlyList<LineChosen> Chosen =>
        [.. Lines.Select(line => new LineChosen(line.PractitionerAsked, line.RoomAsked, line.SetMinutes))];

    /// <summary>Who takes the lead role of a line, or null.</summary>
    public Guid? LeadOf(AppointmentRow line) =>
        Claims.FirstOrDefault(claim => claim.OccupationId == line.Id && claim.Role == 0)?.ResourceId;
}

/// <summary>What of a line was chosen by hand rather than found.</summary>
/// <param name="Practitioner">Whether the client asked for the practitioner.</param>
/// <param name="Room">Whether the room was chosen.</param>
/// <param name="Minutes">The length that was set, or null.</param>
public readonly record struct LineChosen(bool Practitioner, bool Room = false, int? Minutes = null);

/// <summary>A visit about to be written.</summary>
public sealed record NewVisit
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Short reference.</summary>
    public required string Reference { get; init; }

    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>Who comes.</summary>
    public required ClientRow Client { get; init; }

    /// <summary>Local date of the start.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>What it holds; null where it takes up what was kept.</summary>
    public required VisitPlan? Plan { get; init; }

    /// <summary>What it costs, line by line.</summary>
    public required VisitPrice Price { get; init; }

    /// <summary>For each line what was chosen by hand.</summary>
    public required IReadOnlyList<LineChosen> Chosen { get; init; }

    /// <summary>For each line what is added to it.</summary>
    public required IReadOnlyList<IReadOnlyList<LineAddOn>> AddOns { get; init; }

    /// <summary>"Desk" or "Online".</summary>
    public required string Source { get; init; }

    /// <summary>Confirmed, or requested when the desk has to approve it.</summary>
    public VisitState State { get; init; } = VisitState.Confirmed;

    /// <summary>When it lapses, where it is requested; null for anything else.</summary>
    public Instant? LapsesAt { get; init; }

    /// <summary>Who pays; the client when nothing is said.</summary>
    public Guid? PayerId { get; init; }

    /// <summary>Who comes besides the client.</summary>
    public IReadOnlyList<VisitPersonRow> People { get; init; } = [];

    /// <summary>A note for the desk.</summary>
    public string Note { get; init; } = "";

    /// <summary>What the client has written when they booked.</summary>
    public string ClientNote { get; init; } = "";

    /// <summary>Whether it is the client's first.</summary>
    public bool IsFirst { get; init; }

    /// <summary>The row of visits it is one of, or null.</summary>
    public Guid? SeriesId { get; init; }

    /// <summary>What it is knowingly booked over, in words for the history.</summary>
    public IReadOnlyList<string> Over { get; init; } = [];

    /// <summary>The terms the client has accepted, or null.</summary>
    public long? TermsId { get; init; }

    /// <summary>The cancellation policy it is booked under, or null.</summary>
    public long? PolicyId { get; init; }

    /// <summary>What the client answered when they booked.</summary>
    public IReadOnlyList<VisitAnswerRow> Answers { get; init; } = [];

    /// <summary>Hash of the address range it was booked from, online only.</summary>
    public byte[]? RangeHash { get; init; }

    /// <summary>Hash of the device it was booked from, online only.</summary>
    public byte[]? DeviceHash { get; init; }
}

/// <summary>How a visit that stands is to lie from now on.</summary>
public sealed record LaidVisit
{
    /// <summary>The local date of its start.</summary>
    public required LocalDate Date { get; init; }

    /// <summary>Where it goes.</summary>
    public required VisitPlan Plan { get; init; }

    /// <summary>What it costs then.</summary>
    public required VisitPrice Price { get; init; }

    /// <summary>For each line which of those that stand it is; null for a new one. Lines that are not named are taken out.</summary>
    public required IReadOnlyList<Guid?> LineIds { get; init; }

    /// <summary>For each line what was chosen by hand.</summary>
    public required IReadOnlyList<LineChosen> Chosen { get; init; }

    /// <summary>For each line what is added to it.</summary>
    public required IReadOnlyList<IReadOnlyList<LineAddOn>> AddOns { get; init; }

    /// <summary>What it is knowingly put over, in words for the history.</summary>
    public IReadOnlyList<string> Over { get; init; } = [];

    /// <summary>How the history calls it.</summary>
    public string Action { get; init; } = "Moved";
}

/// <summary>One entry of the history.</summary>
public sealed class HistoryRow
{
    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who.</summary>
    public string Actor { get; init; } = "";

    /// <summary>What was done.</summary>
    public string Action { get; init; } = "";

    /// <summary>How it stood before, as JSON, or null.</summary>
    public string? Before { get; init; }

    /// <summary>How it stands after, as JSON, or null.</summary>
    public string? After { get; init; }
}

/// <summary>Who changes something, and when.</summary>
/// <param name="Actor">A name people recognise.</param>
/// <param name="At">The instant.</param>
public sealed record Change(string Actor, Instant At)
{
    /// <summary>Whether a client does it, online.</summary>
    public bool IsByClient { get; init; }

    /// <summary>Whether nobody is told of it, as of what is taken over from elsewhere.</summary>
    public bool TellsNobody { get; init; }
}

/// <summary>One change of the setup, with what was changed.</summary>
public class SetupHistoryRow
{
    /// <summary>Grows with every entry.</summary>
    public long Id { get; init; }

    /// <summary>When.</summary>
    public Instant At { get; init; }

    /// <summary>Who.</summary>
    public string Actor { get; init; } = "";

    /// <summary>What was done.</summary>
    public string Action { get; init; } = "";

    /// <summary>To what kind of thing.</summary>
    public string SubjectKind { get; init; } = "";

    /// <summary>To which.</summary>
    public Guid SubjectId { get; init; }

    /// <summary>How it stood before, as JSON, or null.</summary>
    public string? Before { get; init; }

    /// <summary>How it stands after, as JSON, or null.</summary>
    public string? After { get; init; }
}
