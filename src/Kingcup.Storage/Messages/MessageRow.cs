using NodaTime;

namespace Kingcup.Storage;

/// <summary>Where a message stands.</summary>
public enum MessageState
{
    /// <summary>It goes when it is due.</summary>
    Waiting,

    /// <summary>Somebody is sending it.</summary>
    Sending,

    /// <summary>It has gone.</summary>
    Sent,

    /// <summary>It did not get through, however often it was tried.</summary>
    Failed,

    /// <summary>What it was about has changed before it went.</summary>
    Dropped,

    /// <summary>It was never to go, and why.</summary>
    LeftOut,
}

/// <summary>A message: waiting, gone, or left out.</summary>
public sealed record MessageRow
{
    /// <summary>Identity; whoever carries it knows it by this, so that it is carried once.</summary>
    public Guid Id { get; init; }

    /// <summary>Grows with every message.</summary>
    public long Place { get; init; }

    /// <summary>The rule, or null.</summary>
    public Guid? RuleId { get; init; }

    /// <summary>What it arose from, as a name of <see cref="Core.Messages.MessageTrigger"/>.</summary>
    public string Trigger { get; init; } = "";

    /// <summary>How it goes, as a name of <see cref="Core.Messages.Channel"/>.</summary>
    public string Channel { get; init; } = "";

    /// <summary>Whom it is for, as a name of <see cref="Core.Messages.Recipient"/>.</summary>
    public string Recipient { get; init; } = "";

    /// <summary>The client, or null.</summary>
    public Guid? ClientId { get; init; }

    /// <summary>The practitioner, or null.</summary>
    public Guid? PractitionerId { get; init; }

    /// <summary>Whoever has a sign-in, or null.</summary>
    public Guid? StaffId { get; init; }

    /// <summary>The visit, or null.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>Where that visit is; read with a list only.</summary>
    public Guid? VisitLocationId { get; init; }

    /// <summary>The day of that visit; read with a list only.</summary>
    public LocalDate? VisitDate { get; init; }

    /// <summary>The start of the visit it was planned around, or null for what arises from an event.</summary>
    public Instant? AboutStart { get; init; }

    /// <summary>E-mail address or telephone number, or null where there is none.</summary>
    public string? Address { get; init; }

    /// <summary>Who is written to.</summary>
    public string Name { get; init; } = "";

    /// <summary>Language (ISO 639).</summary>
    public string Language { get; init; } = "";

    /// <summary>The subject of an e-mail.</summary>
    public string Subject { get; init; } = "";

    /// <summary>What it says.</summary>
    public string Body { get; init; } = "";

    /// <summary>An entry for a calendar (iCalendar) that goes with it, or null.</summary>
    public string? Calendar { get; init; }

    /// <summary>Where it stands, as a name of <see cref="MessageState"/>.</summary>
    public string State { get; init; } = "";

    /// <summary>When it was written.</summary>
    public Instant CreatedAt { get; init; }

    /// <summary>When it goes, or is tried again.</summary>
    public Instant DueAt { get; init; }

    /// <summary>How often it was tried.</summary>
    public int Tries { get; init; }

    /// <summary>When it went, failed, or was left out.</summary>
    public Instant? SettledAt { get; init; }

    /// <summary>Why it was left out or dropped, as a word; what was answered where it did not get through.</summary>
    public string? Because { get; init; }
}

/// <summary>Whom a client is to a message: how they are called, reached, and what they have agreed to.</summary>
public sealed class AddressedClient
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>Given name.</summary>
    public string GivenName { get; init; } = "";

    /// <summary>Family name.</summary>
    public string FamilyName { get; init; } = "";

    /// <summary>E-mail address, or null.</summary>
    public string? Email { get; init; }

    /// <summary>Telephone number (E.164), or null.</summary>
    public string? Phone { get; init; }

    /// <summary>In which language they are written to (ISO 639), or null for that of the business.</summary>
    public string? Language { get; init; }

    /// <summary>Whether they have agreed to text messages.</summary>
    public bool AgreesToTexts { get; init; }
}
