using NodaTime;

namespace Kingcup.Core.Team;

/// <summary>A qualification as one practitioner holds it.</summary>
/// <param name="QualificationId">Which qualification.</param>
/// <param name="From">First local date on which it counts.</param>
/// <param name="Until">Last local date on which it counts, or null when it does not run out.</param>
public sealed record HeldQualification(Guid QualificationId, LocalDate From, LocalDate? Until)
{
    /// <summary>Whether it counts on a local date; both ends are included.</summary>
    public bool IsValidOn(LocalDate date) => From <= date && !HasEndedOn(date);

    /// <summary>Whether it has run out before a local date.</summary>
    public bool HasEndedOn(LocalDate date) => Until is { } last && last < date;
}

/// <summary>A person who treats clients: as many units that can be held as clients they look after at once.</summary>
public sealed record Practitioner
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Name as clients and colleagues read it.</summary>
    public required string Name { get; init; }

    /// <summary>Place in the house order, lowest first; ties end in it.</summary>
    public int Order { get; init; }

    /// <summary>How many clients they look after at once in services that allow it, 1 or more; any other service takes the whole
    /// person.</summary>
    public int Attention { get; init; } = 1;

    /// <summary>What the practitioner holds.</summary>
    public IReadOnlyList<HeldQualification> Qualifications { get; init; } = [];

    /// <summary>Whether clients may book this person online.</summary>
    public bool BookableOnline { get; init; } = true;

    /// <summary>Whether new clients may book this person online.</summary>
    public bool AcceptsNewClients { get; init; } = true;

    /// <summary>Whether the desk looks at whatever clients book with this person online.</summary>
    public bool NeedsApproval { get; init; }

    /// <summary>How much clients may book of one day.</summary>
    public DailyLimits Limits { get; init; } = new();

    /// <summary>The first local date on which the person no longer works here, or null.</summary>
    public LocalDate? Retired { get; init; }

    /// <summary>Whether the person has left by a date.</summary>
    public bool IsRetiredOn(LocalDate date) => Retired is { } retired && date >= retired;
}

/// <summary>
/// The most that clients may book of one practitioner's local day (rules, section 5, gate 6). Appointments are lines that hold
/// them and begin that day; minutes are the time held by them, buffers included. The desk may go beyond.
/// </summary>
public sealed record DailyLimits
{
    /// <summary>Most appointments, or null.</summary>
    public int? Appointments { get; init; }

    /// <summary>Most minutes held, or null.</summary>
    public int? Minutes { get; init; }

    /// <summary>Most appointments of one category.</summary>
    public IReadOnlyDictionary<Guid, int> PerCategory { get; init; } = new Dictionary<Guid, int>();

    /// <summary>Whether nothing is limited.</summary>
    public bool AreOff => Appointments is null && Minutes is null && PerCategory.Count == 0;
}
