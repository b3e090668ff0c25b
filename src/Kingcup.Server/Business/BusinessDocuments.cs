using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Storage;

namespace Kingcup.Server.Business;

/// <summary>A picture of the business.</summary>
/// <param name="PictureId">A picture uploaded before.</param>
/// <param name="Words">What is to be seen, for whoever cannot see it.</param>
public sealed record PictureDocument(Guid PictureId, string? Words);

/// <summary>The business.</summary>
public sealed record BusinessDocument
{
    /// <summary>Name clients read.</summary>
    [MaxLength(Checks.LongestName)]
    public required string? Name { get; init; }

    /// <summary>A few words for clients.</summary>
    [MaxLength(2000)]
    public required string? About { get; init; }

    /// <summary>Currency (ISO 4217).</summary>
    public required string? Currency { get; init; }

    /// <summary>Locale (BCP 47).</summary>
    public required string? Locale { get; init; }

    /// <summary>Country of telephone numbers typed without one (ISO 3166-1 alpha-2).</summary>
    public required string? Region { get; init; }

    /// <summary>The number clients call.</summary>
    public required string? Phone { get; init; }

    /// <summary>Colour of buttons on the booking page; white text on it has to be readable.</summary>
    public required string? ColourMain { get; init; }

    /// <summary>Colour of what is chosen there; dark text on it has to be readable.</summary>
    public required string? ColourAccent { get; init; }

    /// <summary>A picture uploaded before, or null.</summary>
    public required Guid? LogoId { get; init; }

    /// <summary>The pictures of the booking page, in order.</summary>
    [MaxLength(BusinessPicture.Most)]
    public required IReadOnlyList<PictureDocument>? Pictures { get; init; }

    /// <summary>Whether the first-run guide was put away.</summary>
    public required bool GuideFinished { get; init; }

    /// <summary>Whether owners sign in with a second factor; those without one set it up first.</summary>
    public bool OwnersNeedCode { get; init; }

    /// <summary>The reasons for cancelling that are offered at the desk, in order; 20 at the most.</summary>
    public IReadOnlyList<string> CancelReasons { get; init; } = BusinessRow.UsualCancelReasons;

    /// <summary>Tax rates in order.</summary>
    public required IReadOnlyList<TaxRateDocument>? TaxRates { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static BusinessDocument Of(Setup setup) =>
        new()
        {
            Name = setup.Business.Name,
            About = setup.Business.About,
            Currency = setup.Business.Currency,
            Locale = setup.Business.Locale,
            Region = setup.Business.Region,
            Phone = setup.Business.Phone,
            ColourMain = setup.Business.ColourMain,
            ColourAccent = setup.Business.ColourAccent,
            LogoId = setup.Business.LogoId,
            Pictures = [.. setup.Business.Pictures.Select(picture => new PictureDocument(picture.PictureId, picture.Words))],
            GuideFinished = setup.Business.GuideFinished,
            OwnersNeedCode = setup.Business.OwnersNeedCode,
            CancelReasons = setup.Business.CancelReasons,
            TaxRates = [.. setup.Parts.TaxRates.Select(rate => new TaxRateDocument(rate.Id, rate.Name, rate.BasisPoints))],
            Version = setup.Business.Version,
        };

    internal BusinessRow Check(Checks checks, bool isDemo)
    {
        string? name = checks.Name(Name, "name", "Enter the name of the business.");
        checks.Limits(this);
        string currency = (Currency ?? "").Trim().ToUpperInvariant(),
            region = (Region ?? "").Trim().ToUpperInvariant(),
            locale = (Locale ?? "").Trim();
        checks.Require(
            currency.Length == 3 && currency.All(char.IsAsciiLetterUpper),
            "currency",
            "Enter the three letters of the currency, like EUR."
        );
        checks.Require(
            region.Length == 2 && region.All(char.IsAsciiLetterUpper),
            "region",
            "Enter the two letters of the country, like IE."
        );
        checks.Require(IsLocale(locale), "locale", "Enter a language and country like en-IE.");
        string? phone = null;
        if (!string.IsNullOrWhiteSpace(Phone))
            phone = checks.Take(
                Core.Clients.ContactRules.Phone(Phone, region.Length == 2 ? region : "IE"),
                "phone",
                "Enter a telephone number, with the country if it is another one."
            );
        Colour? main = Colour.Parse(ColourMain),
            accent = Colour.Parse(ColourAccent);
        if (checks.Require(main is not null, "colourMain", "Choose a colour like #17594A."))
            checks.Require(
                main!.Value.ContrastWith(Colour.White) >= Colour.LeastContrast,
                "colourMain",
                "White text on this colour is hard to read. Choose a darker one."
            );
        if (checks.Require(accent is not null, "colourAccent", "Choose a colour like #F4B400."))
            checks.Require(
                accent!.Value.ContrastWith(Colour.Ink) >= Colour.LeastContrast,
                "colourAccent",
                "Dark text on this colour is hard to read. Choose a lighter one."
            );
        string[] reasons =
        [
            .. CancelReasons
                .Select(reason => (reason ?? "").Trim())
                .Where(reason => reason.Length > 0)
                .Distinct(StringComparer.OrdinalIgnoreCase),
        ];
        checks.Require(
            reasons.Length <= 20 && reasons.All(reason => reason.Length <= 80 && !reason.Any(char.IsControl)),
            "cancelReasons",
            "20 reasons at the most, 80 characters each."
        );
        foreach ((int i, TaxRateDocument rate) in (TaxRates ?? []).Index())
        {
            checks.Name(rate.Name, $"taxRates[{i}].name", "Give the rate a name.");
            checks.Require(
                rate.BasisPoints is >= 0 and <= 10000,
                $"taxRates[{i}].basisPoints",
                "A tax rate lies between 0 and 100 percent."
            );
            checks.Require(
                !TaxRates!.Take(i).Any(other => other.Name?.Trim() == rate.Name?.Trim()),
                $"taxRates[{i}].name",
                "Two rates have the same name."
            );
        }

        IReadOnlyList<PictureDocument> pictures = Pictures ?? [];
        checks.Require(pictures.Count <= BusinessPicture.Most, "pictures", $"{BusinessPicture.Most} pictures at the most.");
        foreach ((int i, PictureDocument picture) in pictures.Index())
        {
            checks.Name(picture.Words, $"pictures[{i}].words", "Say what is to be seen, for whoever cannot see it.");
            checks.Require(
                pictures.Take(i).All(other => other.PictureId != picture.PictureId),
                $"pictures[{i}].pictureId",
                "This picture is there already."
            );
        }

        return new BusinessRow
        {
            Name = name ?? "",
            About = About?.Trim() ?? "",
            Currency = currency,
            Locale = locale,
            Region = region,
            Phone = phone,
            ColourMain = main?.ToString() ?? "",
            ColourAccent = accent?.ToString() ?? "",
            LogoId = LogoId,
            Pictures = [.. pictures.Select(picture => new BusinessPicture(picture.PictureId, picture.Words?.Trim() ?? ""))],
            GuideFinished = GuideFinished,
            OwnersNeedCode = OwnersNeedCode,
            CancelReasons = reasons,
            IsDemo = isDemo,
        };
    }

    private static bool IsLocale(string locale)
    {
        try
        {
            return locale.Length is >= 2 and <= 35
                && System.Globalization.CultureInfo.GetCultureInfo(locale, predefinedOnly: true) is not null;
        }
        catch (System.Globalization.CultureNotFoundException)
        {
            return false;
        }
    }
}

/// <summary>A tax rate.</summary>
/// <param name="Id">Identity; null for a new one.</param>
/// <param name="Name">Name.</param>
/// <param name="BasisPoints">Hundredths of a percent: 13.5 % is 1350.</param>
public sealed record TaxRateDocument(Guid? Id, string? Name, int BasisPoints);

/// <summary>An order of things, as dragged.</summary>
/// <param name="Ids">All of them, first to last.</param>
public sealed record OrderRequest(IReadOnlyList<Guid>? Ids);

/// <summary>Something made.</summary>
/// <param name="Id">Its identity.</param>
public sealed record MadeAnswer(Guid Id);
