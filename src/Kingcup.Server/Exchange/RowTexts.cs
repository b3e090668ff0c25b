using Kingcup.Core.Exchange;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Clients;
using Kingcup.Server.Services;
using Kingcup.Server.Team;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Exchange;

/// <summary>What a row says about each field.</summary>
internal sealed class RowText(ImportMapping mapping, string[] cells)
{
    /// <summary>What it says, or nothing.</summary>
    internal string this[string field]
    {
        get
        {
            ImportColumn? column = mapping.Columns!.FirstOrDefault(import => import.Field == field);
            string cell = column?.Column is { } at && at < cells.Length ? cells[at] : "";
            return cell.Length > 0 ? cell : column?.Always?.Trim() ?? "";
        }
    }

    internal string? OrNull(string field) => this[field] is { Length: > 0 } text ? text : null;

    internal bool YesNo(string field, bool usual, Checks checks)
    {
        if (OrNull(field) is not { } text)
            return usual;
        bool? said = FieldText.YesNo(text);
        checks.Require(said is not null, field, "Write yes or no.");
        return said ?? usual;
    }
}

/// <summary>Makes of a row what a person would have typed into the screens; the same checks follow.</summary>
internal static class RowTexts
{
    private const int LongestAlert = 500;

    private static readonly (string Word, Visibility Means)[] _visibilities =
    [
        ("everyone", Visibility.Everyone),
        ("yes", Visibility.Everyone),
        ("link", Visibility.WithLink),
        ("phone", Visibility.ByPhone),
        ("hidden", Visibility.Hidden),
        ("no", Visibility.Hidden),
    ];

    private static readonly (string Word, PriceForm Means)[] _priceForms =
    [
        ("fixed", PriceForm.Fixed),
        ("from", PriceForm.From),
        ("hourly", PriceForm.Hourly),
        ("free", PriceForm.Free),
        ("on request", PriceForm.OnRequest),
    ];

    /// <summary>A client.</summary>
    internal static ClientRow Client(RowText row, string region, Instant now, Checks checks)
    {
        string given = row["givenName"],
            family = row["familyName"];
        if (given.Length == 0 && family.Length == 0 && row.OrNull("wholeName") is { } whole)
        {
            if (!checks.Require(FieldText.Names(whole) is not null, "wholeName", "Write a given and a family name."))
                return new ClientRow();
            (given, family) = FieldText.Names(whole)!.Value;
        }

        ClientRow made = new NewClientRequest(given, family, row.OrNull("email"), row.OrNull("phone")).Check(
            "",
            region,
            now,
            reachable: false,
            checks
        );
        string? alert = row.OrNull("alert");
        checks.Require((alert?.Length ?? 0) <= LongestAlert, "alert", $"{LongestAlert} characters at the most.");
        return new ClientRow
        {
            Id = made.Id,
            GivenName = made.GivenName,
            FamilyName = made.FamilyName,
            Email = made.Email,
            Phone = made.Phone,
            Alert = alert,
            CreatedAt = now,
            MayBookOnline = row.YesNo("mayBookOnline", true, checks),
        };
    }

    /// <summary>A practitioner.</summary>
    internal static PractitionerDocument Practitioner(RowText row, Setup setup, LocalDate today, int place, Checks checks)
    {
        List<HeldDocument> held = [];
        foreach (string text in FieldText.List(row["qualifications"]))
        {
            if (
                !checks.Require(
                    FieldText.Held(text) is not null,
                    "qualifications",
                    $"Write dates with the year first: 'Laser from 2025-01-10 until 2027-12-28', not '{text}'."
                )
            )
                continue;
            HeldText heldText = FieldText.Held(text)!;
            checks.Require(
                heldText.Until is null || heldText.Until >= (heldText.From ?? today),
                "qualifications",
                $"{heldText.Name} runs out before it begins."
            );
            if (setup.Parts.Qualifications.FirstOrDefault(other => Same(other.Name, heldText.Name)) is not { } known)
                continue;
            HeldDocument next = new(known.Id, heldText.From ?? today, heldText.Until);
            if (
                checks.Require(
                    held.All(other => other.QualificationId != next.QualificationId || !Overlap(other, next)),
                    "qualifications",
                    $"Two stretches of {known.Name} overlap."
                )
            )
                held.Add(next);
        }

        return new PractitionerDocument
        {
            Id = null,
            Name = row["name"],
            Bio = row["bio"],
            Phone = row.OrNull("phone"),
            Email = row.OrNull("email"),
            Languages = [.. row["languages"].Split([';', ','], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)],
            Tint = place % 12,
            PhotoId = null,
            BookableOnline = row.YesNo("bookableOnline", true, checks),
            AcceptsNewClients = row.YesNo("acceptsNewClients", true, checks),
            MostAppointments = null,
            MostMinutes = null,
            MostPerCategory = null,
            Retired = null,
            Qualifications = held,
        };
    }

    /// <summary>A service.</summary>
    internal static ServiceDocument Service(RowText row, Setup setup, LocalDate today, Checks checks)
    {
        Guid category = setup.Categories.FirstOrDefault(listed => Same(listed.Category.Name, row["category"]))?.Category.Id ?? Guid.Empty;
        RoleDocument role = new(
            "Practitioner",
            [
                .. FieldText
                    .List(row["qualifications"])
                    .Select(name => setup.Parts.Qualifications.FirstOrDefault(qualification => Same(qualification.Name, name))?.Id)
                    .OfType<Guid>(),
            ],
            Added(row["practitioners"], setup, today, checks),
            null
        );
        long price = 0;
        if (
            row.OrNull("price") is { } amount
            && checks.Require(
                FieldText.Amount(amount, Currencies.DecimalsOf(setup.Business.Currency)) is not null,
                "price",
                "Write an amount like 84.00."
            )
        )
            price = FieldText.Amount(amount, Currencies.DecimalsOf(setup.Business.Currency))!.Value;
        return new ServiceDocument
        {
            Id = null,
            Name = row["name"],
            CategoryId = category,
            Kind = ServiceKind.OneToOne,
            Seats = 1,
            Phases = PhasesOf(row, checks),
            Roles = [role],
            Room = RoomOf(row["roomFeatures"], setup),
            BufferBeforeMinutes = Whole(row, "bufferBefore", checks) ?? 0,
            BufferAfterMinutes = Whole(row, "bufferAfter", checks) ?? 0,
            BufferAlways = false,
            PriceForm = Word(row, "priceForm", _priceForms, checks),
            Price = price,
            TaxRateId = TaxRateOf(row, setup, checks),
            Terms = null,
            Visibility = Word(row, "visibility", _visibilities, checks),
            For = ClientKind.Everyone,
            Online = null,
            SetTimes = null,
            Prerequisite = null,
            Weekdays = null,
            Season = null,
            LocationIds = null,
            Description = row["description"],
            OnlineName = null,
            OnlineMinutes = null,
            PictureId = null,
            ReturnDays = Whole(row, "returnDays", checks),
        };
    }

    /// <summary>The field of a file that a field of a document was read from.</summary>
    internal static string FieldOf(ImportKind kind, string path) =>
        kind switch
        {
            ImportKind.Services when path.StartsWith("phases", StringComparison.Ordinal) => "minutes",
            ImportKind.Services when path.StartsWith("roles", StringComparison.Ordinal) => "practitioners",
            ImportKind.Services when path.StartsWith("room", StringComparison.Ordinal) => "roomFeatures",
            ImportKind.Services when path.StartsWith("bufferBefore", StringComparison.Ordinal) => "bufferBefore",
            ImportKind.Services when path.StartsWith("bufferAfter", StringComparison.Ordinal) => "bufferAfter",
            ImportKind.Services when path == "categoryId" => "category",
            _ => path.Split('[', '.')[0],
        };

    private static bool Overlap(HeldDocument a, HeldDocument b) =>
        a.From <= (b.Until ?? LocalDate.MaxIsoValue) && b.From <= (a.Until ?? LocalDate.MaxIsoValue);

    internal static bool Same(string a, string b) => string.Equals(a.Trim(), b.Trim(), StringComparison.OrdinalIgnoreCase);

    private static List<PhaseDocument> PhasesOf(RowText row, Checks checks)
    {
        if (row.OrNull("phases") is { } text)
        {
            IReadOnlyList<PhaseText>? phases = FieldText.Phases(text);
            checks.Require(phases is not null, "phases", "Write minutes with + between them, like '20 + 25 alone + 15'.");
            return [.. (phases ?? []).Select(phase => new PhaseDocument(phase.Minutes, phase.IsAttended ? [0] : []))];
        }

        int? minutes = FieldText.Minutes(row["minutes"]);
        return checks.Require(minutes is not null, "minutes", "Write a length like 50, '1:15' or '1 h 15'.")
            ? [new PhaseDocument(minutes!.Value, [0])]
            : [new PhaseDocument(5, [0])];
    }

    private static List<Guid> Added(string text, Setup setup, LocalDate today, Checks checks)
    {
        IEnumerable<Core.Team.Practitioner> here = setup.Practitioners.Where(practitioner => !practitioner.IsRetiredOn(today));
        if (text.Trim().ToLowerInvariant() is "everyone" or "all")
            return [.. here.Select(practitioner => practitioner.Id)];
        List<Guid> added = [];
        foreach (string name in FieldText.List(text))
        {
            Core.Team.Practitioner? practitioner = here.FirstOrDefault(other => Same(other.Name, name));
            if (
                checks.Require(
                    practitioner is not null,
                    "practitioners",
                    $"There is nobody called '{name}' on the team. Write the name as it stands there, or add them first."
                )
            )
                added.Add(practitioner!.Id);
        }

        return added;
    }

    private static RoomRuleDocument? RoomOf(string text, Setup setup) =>
        Same(text, "none")
            ? null
            : new RoomRuleDocument([
                .. FieldText.List(text).Select(name => setup.Parts.Features.FirstOrDefault(feature => Same(feature, name)) ?? name),
            ]);

    private static Guid? TaxRateOf(RowText row, Setup setup, Checks checks)
    {
        if (row.OrNull("taxRate") is not { } text)
            return null;
        long? points = FieldText.Amount(text.Replace("%", "", StringComparison.Ordinal), 2);
        TaxRate? rate =
            setup.Parts.TaxRates.FirstOrDefault(tax => Same(tax.Name, text))
            ?? setup.Parts.TaxRates.FirstOrDefault(tax => tax.BasisPoints == points);
        checks.Require(rate is not null, "taxRate", $"There is no tax rate '{text}'. Add it to the business first.");
        return rate?.Id;
    }

    private static int? Whole(RowText row, string field, Checks checks)
    {
        if (row.OrNull(field) is not { } text)
            return null;
        int? minutes = FieldText.Minutes(text);
        checks.Require(minutes is not null, field, "Write a whole number.");
        return minutes;
    }

    private static T Word<T>(RowText row, string field, (string Word, T Means)[] words, Checks checks)
    {
        if (row.OrNull(field) is not { } text)
            return words[0].Means;
        int at = Array.FindIndex(words, pair => Same(pair.Word, text));
        checks.Require(at >= 0, field, $"Write one of: {string.Join(", ", words.Select(word => word.Word).Distinct())}.");
        return at < 0 ? words[0].Means : words[at].Means;
    }
}
