using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Clients;

/// <summary>A client with what is set at them.</summary>
public sealed record ClientDocument
{
    /// <summary>Identity.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Given name.</summary>
    public required string? GivenName { get; init; }

    /// <summary>Family name.</summary>
    public required string? FamilyName { get; init; }

    /// <summary>E-mail address.</summary>
    public required string? Email { get; init; }

    /// <summary>Telephone number (E.164).</summary>
    public required string? Phone { get; init; }

    /// <summary>What the desk has to know.</summary>
    [MaxLength(LongestAlert)]
    public required string? Alert { get; init; }

    /// <summary>In which language they are written to (ISO 639), or null for that of the business.</summary>
    [MaxLength(3)]
    public string? Language { get; init; }

    /// <summary>When they were born, if known.</summary>
    [OfAnyYear]
    public LocalDate? Born { get; init; }

    /// <summary>How they came to the business, in a few words.</summary>
    [MaxLength(LongestSource)]
    public string? Source { get; init; }

    /// <summary>By what the business groups its clients, 20 at the most.</summary>
    public IReadOnlyList<string> Tags { get; init; } = [];

    /// <summary>Whom they like to come to.</summary>
    public Guid? LikesPractitionerId { get; init; }

    /// <summary>Which room they like.</summary>
    public Guid? LikesRoomId { get; init; }

    /// <summary>Whether they like it quiet.</summary>
    public bool LikesQuiet { get; init; }

    /// <summary>How firmly they like to be treated; null where it does not matter.</summary>
    public Pressure? LikesPressure { get; init; }

    /// <summary>What else they like, in words.</summary>
    [MaxLength(Preferences.LongestWords)]
    public string? LikesWords { get; init; }

    /// <summary>Whether they may book online.</summary>
    public required bool MayBookOnline { get; init; }

    /// <summary>Least minutes between booking online and the start; null for what holds for everyone.</summary>
    public int? LeadMinutes { get; init; }

    /// <summary>How many days ahead they may book online; null for what holds for everyone.</summary>
    public int? HorizonDays { get; init; }

    /// <summary>Least hours before the start at which they may still move a visit; null for what holds for everyone.</summary>
    public int? MoveNoticeHours { get; init; }

    /// <summary>Least hours before the start at which they may still cancel; null for what holds for everyone.</summary>
    public int? CancelNoticeHours { get; init; }

    /// <summary>
    /// What they give when they book, whatever it is: nothing, card, fixed, percent or all; null for what holds for everyone.
    /// </summary>
    [MaxLength(10)]
    public string? Gives { get; init; }

    /// <summary>Minor units of a fixed amount, 1 to 100 of a percentage; 0 otherwise.</summary>
    public long GivesValue { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    /// <summary>Visits that count; only told.</summary>
    public int Visits { get; init; }

    /// <summary>Times they did not come; only told.</summary>
    public int NoShows { get; init; }

    /// <summary>Times they cancelled too late; only told.</summary>
    public int LateCancellations { get; init; }

    /// <summary>Whether the business knew them before the book did: they are then never new.</summary>
    public bool KnownBefore { get; init; }

    /// <summary>The record this one has been put aside for; only told.</summary>
    public Guid? MergedInto { get; init; }

    private const int LongestAlert = 300,
        LongestSource = 80,
        LongestTag = 40,
        MostTags = 20;

    private static readonly LocalDate _earliestBirth = new(1900, 1, 1);

    internal static ClientDocument Of(ClientRow row) =>
        new()
        {
            Id = row.Id,
            GivenName = row.GivenName,
            FamilyName = row.FamilyName,
            Email = row.Email,
            Phone = row.Phone,
            Alert = row.Alert,
            Language = row.Language,
            MayBookOnline = row.MayBookOnline,
            LeadMinutes = row.LeadMinutes,
            HorizonDays = row.HorizonDays,
            MoveNoticeHours = row.MoveNoticeHours,
            CancelNoticeHours = row.CancelNoticeHours,
            Gives = row.Gives?.ToLowerInvariant(),
            GivesValue = row.GivesValue,
            Version = row.Version,
            Visits = row.Visits,
            NoShows = row.NoShows,
            LateCancellations = row.LateCancellations,
            KnownBefore = row.KnownBefore,
            Born = row.Born,
            Source = row.Source,
            Tags = row.Tags,
            LikesPractitionerId = row.LikesPractitionerId,
            LikesRoomId = row.LikesRoomId,
            LikesQuiet = row.LikesQuiet,
            LikesPressure = row.Facts.Preferences.Pressure,
            LikesWords = row.LikesWords,
            MergedInto = row.MergedInto,
        };

    /// <summary>Checks the fields and makes the client of them that is to be kept.</summary>
    internal ClientRow Check(ClientRow before, Setup setup, LocalDate today, Checks checks)
    {
        ClientRow contact = new NewClientRequest(GivenName, FamilyName, Email, Phone).Check(
            "",
            setup.Business.Region,
            before.CreatedAt,
            reachable: false,
            checks
        );
        string alert = Alert?.Trim() ?? "";
        checks.Limits(this);
        checks.Require(!alert.Any(char.IsControl), "alert", "Write it on one line.");
        string? language = string.IsNullOrWhiteSpace(Language) ? null : Language.Trim().ToLowerInvariant();
        checks.Require(
            language is null || (language.Length is 2 or 3 && language.All(char.IsAsciiLetterLower)),
            "language",
            "Name the language by two or three letters, or leave it empty."
        );
        checks.Require(
            Born is null || (Born >= _earliestBirth && Born <= today),
            "born",
            "Enter a date of birth between 1900 and today, or leave it empty."
        );
        checks.Require(
            LikesPractitionerId is null || setup.Practitioners.Any(practitioner => practitioner.Id == LikesPractitionerId),
            "likesPractitionerId",
            "Choose somebody who works here."
        );
        checks.Require(
            LikesRoomId is null || setup.Parts.Rooms.Any(room => room.Room.Id == LikesRoomId),
            "likesRoomId",
            "Choose one of your rooms."
        );
        string[] tags = [.. Tags.Select(tag => (tag ?? "").Trim()).Where(tag => tag.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase)];
        checks.Require(tags.Length <= MostTags, "tags", $"{MostTags} tags at the most.");
        checks.Require(
            tags.All(tag => tag.Length <= LongestTag && !tag.Any(char.IsControl)),
            "tags",
            $"{LongestTag} characters at the most in a tag, on one line."
        );
        GuaranteeKind? gives = Enum.GetValues<GuaranteeKind>()
            .Select(kind => (GuaranteeKind?)kind)
            .FirstOrDefault(kind => string.Equals(kind.ToString(), Gives, StringComparison.OrdinalIgnoreCase));
        checks.Require(Gives is null || gives is not null, "gives", "Choose what they give: nothing, card, fixed, percent or all.");
        GuaranteeDocument.CheckValue(checks, gives ?? GuaranteeKind.Nothing, GivesValue, "givesValue");
        ClientRow after = new()
        {
            Id = before.Id,
            GivenName = contact.GivenName,
            FamilyName = contact.FamilyName,
            Email = contact.Email,
            Phone = contact.Phone,
            Alert = alert.Length > 0 ? alert : null,
            Language = language,
            MayBookOnline = MayBookOnline,
            LeadMinutes = LeadMinutes,
            HorizonDays = HorizonDays,
            MoveNoticeHours = MoveNoticeHours,
            CancelNoticeHours = CancelNoticeHours,
            Gives = gives?.ToString(),
            GivesValue = GuaranteeDocument.ValueOf(gives ?? GuaranteeKind.Nothing, GivesValue),
            KnownBefore = KnownBefore,
            Version = before.Version,
            Born = Born,
            Source = checks.Optional(Source, "source"),
            Tags = tags,
            LikesPractitionerId = LikesPractitionerId,
            LikesRoomId = LikesRoomId,
            LikesQuiet = LikesQuiet,
            LikesPressure = LikesPressure?.ToString(),
            LikesWords = string.IsNullOrWhiteSpace(LikesWords) ? null : LikesWords.Trim(),
        };
        checks.Add(Core.Services.OnlineCheck.Of(after.Own ?? new OnlineRules(), ""));
        return after;
    }
}
