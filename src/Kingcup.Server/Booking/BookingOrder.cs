using Kingcup.Server.Availability;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>Who does something at the desk.</summary>
/// <param name="Name">A name people recognise in the history.</param>
/// <param name="Scope">Whose idempotency keys these are.</param>
public sealed record Actor(string Name, string Scope)
{
    /// <summary>Their account, so that what they do can be undone; null for a client.</summary>
    public Guid? StaffId { get; init; }

    /// <summary>Whether they take steps back that are no longer fresh.</summary>
    public bool TakesBackLater { get; init; }

    /// <summary>Whether they may let a client off a fee.</summary>
    public bool WaivesFees { get; init; }

    /// <summary>Whether it is a client, online.</summary>
    public bool IsClient { get; init; }

    /// <summary>Whether nobody is told of what they do, as of what is taken over from elsewhere.</summary>
    public bool TellsNobody { get; init; }

    /// <summary>A change they make at a moment.</summary>
    internal Change ChangeAt(Instant at) => new(Name, at) { IsByClient = IsClient, TellsNobody = TellsNobody };
}

/// <summary>A visit to be booked.</summary>
public sealed record BookingOrder
{
    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>When it begins.</summary>
    public required Instant Start { get; init; }

    /// <summary>What is wanted.</summary>
    public required WantedVisit Wanted { get; init; }

    /// <summary>What whoever books agrees to, and in which words they were asked.</summary>
    public IReadOnlyList<(string Kind, string Words)> Agreed { get; init; } = [];

    /// <summary>Who comes, where they are known.</summary>
    public required ClientAsked Client { get; init; }

    /// <summary>Who is entered with the booking where nobody is known as that.</summary>
    public ClientRow? NewClient { get; init; }

    /// <summary>Who pays; the client when nothing is said.</summary>
    public Guid? PayerId { get; init; }

    /// <summary>Who comes besides the client.</summary>
    public IReadOnlyList<VisitPersonRow> People { get; init; } = [];

    /// <summary>"Desk" or "Online".</summary>
    public required string Source { get; init; }

    /// <summary>A note for the desk.</summary>
    public string Note { get; init; } = "";

    /// <summary>What the client has written when they booked.</summary>
    public string ClientNote { get; init; } = "";

    /// <summary>Services whose direct link the client came with.</summary>
    public IReadOnlySet<Guid> Links { get; init; } = new HashSet<Guid>();

    /// <summary>The terms the client has accepted, or null.</summary>
    public long? TermsId { get; init; }

    /// <summary>What the client answered.</summary>
    public IReadOnlyList<VisitAnswerRow> Answers { get; init; } = [];

    /// <summary>Where an online booking came from; null at the desk.</summary>
    public OriginAsked? Origin { get; init; }

    /// <summary>Hash of what names the time that is kept for the client, or null.</summary>
    public byte[]? HoldToken { get; init; }

    /// <summary>Hash of what is asked for, to be compared with what is kept.</summary>
    public byte[]? Asked { get; init; }

    /// <summary>The price the client has read, in minor units; null where none was said.</summary>
    public long? PriceSeen { get; init; }

    /// <summary>The promo code the client has named; nothing for none.</summary>
    public string? Promo { get; init; }

    /// <summary>What is due at once as the client has read it, in minor units; null where none was said.</summary>
    public long? DueSeen { get; init; }

    /// <summary>The policy the client has read, 0 for none; null where none was said.</summary>
    public long? PolicySeen { get; init; }

    /// <summary>Whether whoever books online has shown who they are.</summary>
    public bool IsShown { get; init; }

    /// <summary>Whether clients' rules bind it.</summary>
    public bool IsOnline => Source == "Online";
}
