using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Clients;

/// <summary>What a client may agree to.</summary>
public enum ConsentKind
{
    /// <summary>Text messages about their visits.</summary>
    Texts,

    /// <summary>News and offers.</summary>
    News,

    /// <summary>Pictures of their treatment.</summary>
    Pictures,
}

/// <summary>Something written down about a client.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Words">What was written.</param>
/// <param name="Author">Who wrote it.</param>
/// <param name="At">When.</param>
public sealed record NoteAnswer(Guid Id, string Words, string Author, Instant At)
{
    internal static NoteAnswer Of(ClientNote note) => new(note.Id, note.Words, note.Author, note.At);
}

/// <summary>Something to write down about a client.</summary>
/// <param name="Words">What to write, 2,000 characters at the most.</param>
public sealed record NoteRequest(string? Words)
{
    internal const int Longest = 2000;
}

/// <summary>What a client agreed to, or took back.</summary>
/// <param name="Kind">What.</param>
/// <param name="Given">Whether they agreed.</param>
/// <param name="Words">The words they were asked in.</param>
/// <param name="Author">Who wrote it down.</param>
/// <param name="At">When.</param>
public sealed record ConsentAnswer(ConsentKind Kind, bool Given, string Words, string Author, Instant At)
{
    internal static ConsentAnswer Of(ClientConsent consent) =>
        new(Enum.Parse<ConsentKind>(consent.Kind), consent.Given, consent.Words, consent.Author, consent.At);
}

/// <summary>What a client agrees to, or takes back.</summary>
/// <param name="Kind">What.</param>
/// <param name="Given">Whether they agree.</param>
/// <param name="Words">The words they are asked in, or how they said it: 1,000 characters at the most.</param>
public sealed record ConsentRequest(ConsentKind Kind, bool Given, string? Words)
{
    internal const int Longest = 1000;
}

/// <summary>A visit as the years of a client show it.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Date">The day.</param>
/// <param name="State">Where it stands.</param>
/// <param name="CategoryId">The category of its first line.</param>
/// <param name="LocationId">Where.</param>
public sealed record MarkAnswer(Guid Id, LocalDate Date, VisitState State, Guid CategoryId, Guid LocationId);

/// <summary>Two visits of which one is likely a mistake.</summary>
/// <param name="Client">Whose.</param>
/// <param name="VisitId">The one that begins first.</param>
/// <param name="OtherId">The other one.</param>
/// <param name="Date">The day of the first.</param>
/// <param name="LocationId">Where the first is.</param>
/// <param name="Reason">Why.</param>
public sealed record DoubleBookingAnswer(
    LinkedClient Client,
    Guid VisitId,
    Guid OtherId,
    LocalDate Date,
    Guid LocationId,
    DoubleReason Reason
);

/// <summary>Two records that were made one.</summary>
/// <param name="Id">Identity, to take them apart by.</param>
/// <param name="GoneId">The record that was put aside.</param>
/// <param name="GoneName">Its name.</param>
/// <param name="At">When.</param>
/// <param name="Actor">By whom.</param>
public sealed record MergeAnswer(Guid Id, Guid GoneId, string GoneName, Instant At, string Actor)
{
    internal static MergeAnswer Of(StoredMerge merge) => new(merge.Id, merge.GoneId, merge.GoneName, merge.At, merge.Actor);
}

/// <summary>A client with everything that has gathered about them.</summary>
public sealed record ClientRecordAnswer
{
    /// <summary>What is kept of them.</summary>
    public required ClientDocument Client { get; init; }

    /// <summary>When they were entered.</summary>
    public required Instant Since { get; init; }

    /// <summary>The day of their last visit that has begun, or null.</summary>
    public required LocalDate? LastVisit { get; init; }

    /// <summary>How many days usually lie between two visits, or null where there are too few to tell.</summary>
    public required int? EveryDays { get; init; }

    /// <summary>When the next visit would usually be, where none is booked.</summary>
    public required LocalDate? Due { get; init; }

    /// <summary>The date today.</summary>
    public required LocalDate Today { get; init; }

    /// <summary>The first day of the two years that <see cref="Marks"/> shows.</summary>
    public required LocalDate From { get; init; }

    /// <summary>Their visits of two years and of what is ahead, oldest first.</summary>
    public required IReadOnlyList<MarkAnswer> Marks { get; init; }

    /// <summary>What is to be given back to them in cash.</summary>
    public required IReadOnlyList<CashAnswer> CashToGive { get; init; }

    /// <summary>What was written down, the newest first.</summary>
    public required IReadOnlyList<NoteAnswer> Notes { get; init; }

    /// <summary>What they agreed to and took back, the latest first: the first of a kind is what holds.</summary>
    public required IReadOnlyList<ConsentAnswer> Consents { get; init; }

    /// <summary>Records that were made one with this, the latest first.</summary>
    public required IReadOnlyList<MergeAnswer> Merges { get; init; }

    /// <summary>What they have likely booked twice.</summary>
    public required IReadOnlyList<DoubleBookingAnswer> BookedTwice { get; init; }

    /// <summary>Records that are likely of the same person, the likeliest first.</summary>
    public required IReadOnlyList<LikenessAnswer> Alike { get; init; }
}

/// <summary>Something that happened with a client or a visit of theirs.</summary>
/// <param name="Id">Number; entries before it are earlier.</param>
/// <param name="At">When.</param>
/// <param name="Actor">By whom.</param>
/// <param name="Action">What was done.</param>
/// <param name="VisitId">The visit it was done to, or null where it was the client's record.</param>
/// <param name="Reference">The reference of the visit, or null.</param>
public sealed record EventAnswer(long Id, Instant At, string Actor, string Action, Guid? VisitId, string? Reference)
{
    /// <summary>How it stood before, as JSON, or null.</summary>
    public string? Before { get; init; }

    /// <summary>How it stood after, as JSON, or null.</summary>
    public string? After { get; init; }
}

/// <summary>Two records that are likely of one person.</summary>
public sealed record LikenessAnswer
{
    /// <summary>The record that would be kept: the one with more visits, or the older one.</summary>
    public required ClientDocument Kept { get; init; }

    /// <summary>The record that would be put aside.</summary>
    public required ClientDocument Gone { get; init; }

    /// <summary>How likely they are of one person, 0 to 100.</summary>
    public required int Score { get; init; }

    /// <summary>What that follows from.</summary>
    public required IReadOnlyList<LikenessReason> Reasons { get; init; }

    /// <summary>The fields in which they differ.</summary>
    public required IReadOnlyList<ClientField> Differing { get; init; }

    /// <summary>The fields that would be taken over from the record put aside, unless somebody chooses otherwise.</summary>
    public required IReadOnlyList<ClientField> Proposed { get; init; }

    internal static LikenessAnswer Of(ClientRow kept, ClientRow gone)
    {
        Likeness likeness = Duplicates.Of(kept.Facts, gone.Facts);
        return new LikenessAnswer
        {
            Kept = ClientDocument.Of(kept),
            Gone = ClientDocument.Of(gone),
            Score = likeness.Score,
            Reasons = likeness.Reasons,
            Differing = Merging.Differing(kept.Facts, gone.Facts),
            Proposed = Merging.Proposed(kept.Facts, gone.Facts),
        };
    }
}

/// <summary>Two records to be made one.</summary>
/// <param name="GoneId">The record to put aside.</param>
/// <param name="GoneVersion">The version of it that was seen.</param>
/// <param name="FromGone">The fields to take over from it.</param>
public sealed record MergeRequest([property: Required] Guid GoneId, long GoneVersion, IReadOnlyList<ClientField> FromGone);
