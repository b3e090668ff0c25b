using NodaTime;

namespace Kingcup.Core.Clients;

/// <summary>How firmly somebody likes to be treated.</summary>
public enum Pressure
{
    /// <summary>Lightly.</summary>
    Light,

    /// <summary>Neither lightly nor firmly.</summary>
    Medium,

    /// <summary>Firmly.</summary>
    Firm,
}

/// <summary>What a client likes, so that it need not be asked each time.</summary>
/// <param name="PractitionerId">Whom they like to come to, or null.</param>
/// <param name="RoomId">Which room they like, or null.</param>
/// <param name="Quiet">Whether they like it quiet.</param>
/// <param name="Pressure">How firmly, or null where it does not matter.</param>
/// <param name="Words">Anything else, in words, 500 characters at the most; or null.</param>
public sealed record Preferences(Guid? PractitionerId, Guid? RoomId, bool Quiet, Pressure? Pressure, string? Words)
{
    /// <summary>Nothing in particular.</summary>
    public static Preferences None { get; } = new(null, null, false, null, null);

    /// <summary>Longest words.</summary>
    public const int LongestWords = 500;
}

/// <summary>What a record says of a client, as far as two records of the same person may differ in it.</summary>
public sealed record ClientFacts
{
    /// <summary>Given name.</summary>
    public required string GivenName { get; init; }

    /// <summary>Family name.</summary>
    public required string FamilyName { get; init; }

    /// <summary>E-mail address in lower case, or null.</summary>
    public string? Email { get; init; }

    /// <summary>Telephone number (E.164), or null.</summary>
    public string? Phone { get; init; }

    /// <summary>When they were born, or null.</summary>
    public LocalDate? Born { get; init; }

    /// <summary>What the desk has to know, or null.</summary>
    public string? Alert { get; init; }

    /// <summary>How they came to the business, or null.</summary>
    public string? Source { get; init; }

    /// <summary>What they like.</summary>
    public Preferences Preferences { get; init; } = Preferences.None;

    /// <summary>Whether they may book online.</summary>
    public bool MayBookOnline { get; init; } = true;
}

/// <summary>The fields of two records between which somebody chooses.</summary>
public enum ClientField
{
    /// <summary>Given and family name.</summary>
    Name,

    /// <summary>E-mail address.</summary>
    Email,

    /// <summary>Telephone number.</summary>
    Phone,

    /// <summary>Date of birth.</summary>
    Born,

    /// <summary>What the desk has to know.</summary>
    Alert,

    /// <summary>How they came to the business.</summary>
    Source,

    /// <summary>What they like.</summary>
    Preferences,

    /// <summary>Whether they may book online.</summary>
    MayBookOnline,
}
