using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Clients;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Team;

/// <summary>A practitioner.</summary>
public sealed record PractitionerDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Name as clients and colleagues read it.</summary>
    [MaxLength(Checks.LongestName)]
    public required string? Name { get; init; }

    /// <summary>A few words for clients.</summary>
    [MaxLength(2000)]
    public required string? Bio { get; init; }

    /// <summary>Own number.</summary>
    public required string? Phone { get; init; }

    /// <summary>Own e-mail address.</summary>
    public required string? Email { get; init; }

    /// <summary>Languages spoken.</summary>
    public required IReadOnlyList<string>? Languages { get; init; }

    /// <summary>Which tint of the family, 0 to 11.</summary>
    [Range(0, 11)]
    public required int Tint { get; init; }

    /// <summary>A picture uploaded before, or null for initials.</summary>
    public required Guid? PhotoId { get; init; }

    /// <summary>Whether clients may book this person online.</summary>
    public required bool BookableOnline { get; init; }

    /// <summary>Whether new clients may.</summary>
    public required bool AcceptsNewClients { get; init; }

    /// <summary>Whether the desk looks at whatever clients book with this person online.</summary>
    public bool NeedsApproval { get; init; }

    /// <summary>Most appointments clients may book of a day, or null.</summary>
    [Range(0, 200)]
    public required int? MostAppointments { get; init; }

    /// <summary>Most minutes held of a day, or null.</summary>
    public required int? MostMinutes { get; init; }

    /// <summary>Most appointments of a category a day.</summary>
    public required IReadOnlyList<CategoryLimitDocument>? MostPerCategory { get; init; }

    /// <summary>First local date on which the person no longer works here, or null.</summary>
    public required LocalDate? Retired { get; init; }

    /// <summary>What the person holds; changed at its own address.</summary>
    public IReadOnlyList<HeldDocument>? Qualifications { get; init; }

    /// <summary>Where the rota has shifts; follows from the rotas.</summary>
    public IReadOnlyList<Guid>? LocationIds { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    /// <summary>How many clients they look after at once in services that allow it.</summary>
    [Range(1, 12)]
    public int Attention { get; init; } = 1;

    internal static PractitionerDocument Of(Setup setup, ListedPractitioner listed)
    {
        Practitioner practitioner = listed.Practitioner;
        return new PractitionerDocument
        {
            Id = practitioner.Id,
            Name = practitioner.Name,
            Bio = listed.Bio,
            Phone = listed.Phone,
            Email = listed.Email,
            Languages = listed.Languages,
            Tint = listed.Tint,
            PhotoId = listed.PhotoId,
            BookableOnline = practitioner.BookableOnline,
            AcceptsNewClients = practitioner.AcceptsNewClients,
            NeedsApproval = practitioner.NeedsApproval,
            MostAppointments = practitioner.Limits.Appointments,
            MostMinutes = practitioner.Limits.Minutes,
            MostPerCategory = [.. practitioner.Limits.PerCategory.Select(limit => new CategoryLimitDocument(limit.Key, limit.Value))],
            Retired = practitioner.Retired,
            Qualifications =
            [
                .. practitioner.Qualifications.Select(held => new HeldDocument(
                    held.QualificationId,
                    held.From,
                    held.Until,
                    listed.Evidence.TryGetValue((held.QualificationId, held.From), out Guid evidence) ? evidence : null
                )),
            ],
            LocationIds =
            [
                .. setup
                    .Parts.Rotas.Where(rota => rota.Value.PractitionerId == practitioner.Id)
                    .SelectMany(rota => rota.Value.Shifts)
                    .Select(shift => shift.Shift.LocationId)
                    .Distinct(),
            ],
            Version = listed.Version,
            Attention = practitioner.Attention,
        };
    }

    internal ListedPractitioner Check(Checks checks, Setup setup, Guid id, int position, ListedPractitioner? before)
    {
        string? name = checks.Name(Name, "name", "Enter the name.");
        string? phone = null,
            email = null;
        if (!string.IsNullOrWhiteSpace(Phone))
            phone = checks.Take(
                ContactRules.Phone(Phone, setup.Business.Region),
                "phone",
                "Enter a telephone number, with the country if it is another one."
            );
        if (!string.IsNullOrWhiteSpace(Email))
            email = checks.Take(ContactRules.Email(Email), "email", "Enter an e-mail address like name@example.com.");
        List<string> languages = [.. (Languages ?? []).Select(text => text.Trim()).Where(text => text.Length > 0).Distinct()];
        checks.Require(
            languages.Count <= 20 && languages.All(language => language.Length <= 60),
            "languages",
            "20 languages at the most, 60 characters each."
        );
        checks.Limits(this);
        checks.Require(
            MostMinutes is null || (MostMinutes is >= 0 and <= 1440 && Grain.IsWhole(MostMinutes.Value)),
            "mostMinutes",
            "A multiple of 5 minutes, 24 hours at the most."
        );
        foreach ((int i, CategoryLimitDocument limit) in (MostPerCategory ?? []).Index())
        {
            checks.Require(
                setup.Categories.Any(category => category.Category.Id == limit.CategoryId),
                $"mostPerCategory[{i}].categoryId",
                "There is no such category."
            );
            checks.Require(limit.Most is >= 0 and <= 200, $"mostPerCategory[{i}].most", "0 to 200 appointments a day.");
            checks.Require(
                !MostPerCategory!.Take(i).Any(other => other.CategoryId == limit.CategoryId),
                $"mostPerCategory[{i}].categoryId",
                "This category is there twice."
            );
        }

        if (Retired is { } retired)
            checks.Require(retired.Year is >= 2000 and <= 2100, "retired", "Choose a date between the years 2000 and 2100.");
        return new ListedPractitioner(
            new Practitioner
            {
                Id = id,
                Name = name ?? "",
                Order = position,
                Attention = Attention,
                BookableOnline = BookableOnline,
                AcceptsNewClients = AcceptsNewClients,
                NeedsApproval = NeedsApproval,
                Limits = new DailyLimits
                {
                    Appointments = MostAppointments,
                    Minutes = MostMinutes,
                    PerCategory = (MostPerCategory ?? [])
                        .DistinctBy(limit => limit.CategoryId)
                        .ToDictionary(limit => limit.CategoryId, limit => limit.Most),
                },
                Retired = Retired,
                Qualifications = before?.Practitioner.Qualifications ?? [],
            }
        )
        {
            Bio = Bio?.Trim() ?? "",
            Phone = phone,
            Email = email,
            Languages = languages,
            Tint = Tint,
            PhotoId = PhotoId,
            Evidence = before?.Evidence ?? new Dictionary<(Guid, LocalDate), Guid>(),
        };
    }
}

/// <summary>A limit on a category a day.</summary>
/// <param name="CategoryId">The category.</param>
/// <param name="Most">Most appointments.</param>
public sealed record CategoryLimitDocument(Guid CategoryId, int Most);

/// <summary>A qualification as somebody holds it.</summary>
/// <param name="QualificationId">Which.</param>
/// <param name="From">First local date on which it counts.</param>
/// <param name="Until">Last local date on which it counts, or null.</param>
/// <param name="EvidenceId">A file uploaded before, or null.</param>
public sealed record HeldDocument(Guid QualificationId, LocalDate From, LocalDate? Until, Guid? EvidenceId = null);

/// <summary>What one practitioner holds of one qualification; no stretch means they do not hold it.</summary>
/// <param name="PractitionerId">Who.</param>
/// <param name="QualificationId">Which.</param>
/// <param name="Held">From when until when; stretches do not overlap.</param>
public sealed record HeldChange(Guid PractitionerId, Guid QualificationId, IReadOnlyList<HeldStretch>? Held);

/// <summary>A stretch in which a qualification counts.</summary>
/// <param name="From">First local date.</param>
/// <param name="Until">Last local date, or null.</param>
/// <param name="EvidenceId">A file uploaded before, or null.</param>
public sealed record HeldStretch(LocalDate From, LocalDate? Until = null, Guid? EvidenceId = null);

/// <summary>A qualification.</summary>
/// <param name="Id">Identity; given by the server.</param>
/// <param name="Name">Name.</param>
/// <param name="WarnDays">Days before it runs out from which a warning is shown.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
public sealed record QualificationDocument(Guid? Id, string? Name, int WarnDays = 30, long Version = 0)
{
    internal static QualificationDocument Of(Qualification qualification) =>
        new(qualification.Id, qualification.Name, qualification.WarnDays, qualification.Version);
}
