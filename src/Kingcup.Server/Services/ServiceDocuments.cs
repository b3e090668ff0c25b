using System.ComponentModel.DataAnnotations;
using System.Globalization;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Services;

/// <summary>A service.</summary>
public sealed record ServiceDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Name.</summary>
    [MaxLength(Checks.LongestName)]
    public required string? Name { get; init; }

    /// <summary>The category it stands in.</summary>
    public required Guid CategoryId { get; init; }

    /// <summary>For one client, or for a group.</summary>
    public required ServiceKind Kind { get; init; }

    /// <summary>Seats of a session of a group.</summary>
    public required int Seats { get; init; }

    /// <summary>Its phases in order.</summary>
    public required IReadOnlyList<PhaseDocument>? Phases { get; init; }

    /// <summary>Its roles, the lead first.</summary>
    public required IReadOnlyList<RoleDocument>? Roles { get; init; }

    /// <summary>The room it needs, or null for none.</summary>
    public required RoomRuleDocument? Room { get; init; }

    /// <summary>Minutes kept before.</summary>
    public required int BufferBeforeMinutes { get; init; }

    /// <summary>Minutes kept after.</summary>
    public required int BufferAfterMinutes { get; init; }

    /// <summary>Whether buffers stay between two services of one visit.</summary>
    public required bool BufferAlways { get; init; }

    /// <summary>How the price is formed.</summary>
    public required PriceForm PriceForm { get; init; }

    /// <summary>Price in minor units; of an hour when hourly.</summary>
    public required long Price { get; init; }

    /// <summary>Its tax rate, or null.</summary>
    public required Guid? TaxRateId { get; init; }

    /// <summary>What practitioners do differently.</summary>
    public required IReadOnlyList<TermsDocument>? Terms { get; init; }

    /// <summary>Who sees it online.</summary>
    public required Visibility Visibility { get; init; }

    /// <summary>Which clients may book it online.</summary>
    public required ClientKind For { get; init; }

    /// <summary>Own rules of online booking; what is null comes from the category, then the location.</summary>
    public required OnlineRules? Online { get; init; }

    /// <summary>Wall times for the grid of set times.</summary>
    public required IReadOnlyList<SetTimeDocument>? SetTimes { get; init; }

    /// <summary>What has to come before, or null.</summary>
    public required PrerequisiteDocument? Prerequisite { get; init; }

    /// <summary>Weekdays it is offered on; none means all.</summary>
    public required IReadOnlyList<Weekday>? Weekdays { get; init; }

    /// <summary>The part of the year it is offered in, or null.</summary>
    public required SeasonDocument? Season { get; init; }

    /// <summary>Where it is done; none means everywhere.</summary>
    public required IReadOnlyList<Guid>? LocationIds { get; init; }

    /// <summary>Text for clients (Markdown).</summary>
    [MaxLength(LongestText)]
    public required string? Description { get; init; }

    /// <summary>Name clients read, where it differs.</summary>
    [MaxLength(200)]
    public required string? OnlineName { get; init; }

    /// <summary>Minutes clients read, where they differ.</summary>
    [Range(1, 1440)]
    public required int? OnlineMinutes { get; init; }

    /// <summary>A picture uploaded before, or null.</summary>
    public required Guid? PictureId { get; init; }

    /// <summary>Days after which clients are advised to come back, or null.</summary>
    [Range(1, 1000)]
    public required int? ReturnDays { get; init; }

    /// <summary>Whether it is no longer done.</summary>
    public bool IsArchived { get; init; }

    /// <summary>Its direct link's token; given by the server.</summary>
    public string? Link { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    /// <summary>Whether whoever does it may look after others meanwhile.</summary>
    public bool BesideOthers { get; init; }

    /// <summary>Longest text.</summary>
    internal const int LongestText = 10_000;

    internal static ServiceDocument Of(ListedService listed)
    {
        Service service = listed.Service;
        return new ServiceDocument
        {
            Id = service.Id,
            Name = service.Name,
            CategoryId = service.CategoryId,
            Kind = service.Kind,
            Seats = service.Seats,
            Phases =
            [
                .. service.Phases.Select(phase => new PhaseDocument(
                    phase.Minutes,
                    [.. phase.AttendedBy],
                    [.. phase.Equipment.Select(need => new NeedDocument(need.PoolId, need.Units))]
                )),
            ],
            Roles =
            [
                .. service.Roles.Select(role => new RoleDocument(role.Name, [.. role.Qualifications], [.. role.Added], [.. role.Excluded])),
            ],
            Room = service.Room is { } room ? new RoomRuleDocument([.. room.Features.Order()], room.Units) : null,
            BufferBeforeMinutes = service.BufferBeforeMinutes,
            BufferAfterMinutes = service.BufferAfterMinutes,
            BufferAlways = service.BufferAlways,
            PriceForm = service.PriceForm,
            Price = service.Price,
            TaxRateId = listed.TaxRateId,
            Terms =
            [
                .. service.Terms.Select(terms => new TermsDocument(
                    terms.Key,
                    terms.Value.Minutes,
                    terms.Value.Price,
                    terms.Value.AcceptsNewClients
                )),
            ],
            Visibility = service.Visibility,
            For = service.For,
            Online = service.Online,
            SetTimes = [.. service.SetTimes.Select(time => new SetTimeDocument(time.PractitionerId, (Weekday)time.Weekday, time.At))],
            Prerequisite = service.Prerequisite is { } before
                ? new PrerequisiteDocument(before.ServiceId, before.AtLeastHours, before.AtMostDays)
                : null,
            Weekdays = [.. service.Weekdays.Order().Select(day => (Weekday)day)],
            Season = service.Season is { } season ? new SeasonDocument(Text(season.From), Text(season.Until)) : null,
            LocationIds = [.. service.Locations],
            Description = listed.Description,
            OnlineName = listed.OnlineName,
            OnlineMinutes = listed.OnlineMinutes,
            PictureId = listed.PictureId,
            ReturnDays = listed.ReturnDays,
            IsArchived = service.IsArchived,
            Link = listed.Link,
            Version = listed.Version,
            BesideOthers = service.BesideOthers,
        };
    }

    internal ListedService Check(Checks checks, Setup setup, Guid id, int position, ListedService? before)
    {
        string? name = checks.Name(Name, "name", "Enter the name of the service.");
        checks.Require(setup.Categories.Any(category => category.Category.Id == CategoryId), "categoryId", "Choose a category.");
        checks.Limits(this);
        TextForClients.Check(checks, Description, "description");
        checks.Require(
            TaxRateId is null || setup.Parts.TaxRates.Any(rate => rate.Id == TaxRateId),
            "taxRateId",
            "There is no such tax rate."
        );
        foreach ((int i, Guid location) in (LocationIds ?? []).Index())
            checks.Require(setup.HouseOf(location) is not null, $"locationIds[{i}]", "There is no such location.");
        foreach ((int i, SetTimeDocument time) in (SetTimes ?? []).Index())
            checks.Require(
                time.At.Second == 0 && Core.Time.Grain.IsWhole(time.At.Minute),
                $"setTimes[{i}].at",
                "Set times lie on whole 5 minutes."
            );
        foreach ((int i, RoleDocument role) in (Roles ?? []).Index())
        {
            checks.Require(
                (role.Qualifications ?? []).All(neededId => setup.Parts.Qualifications.Any(other => other.Id == neededId)),
                $"roles[{i}].qualifications",
                "There is no such qualification."
            );
            checks.Require(
                (role.Added ?? []).Concat(role.Excluded ?? []).All(neededId => setup.Practitioners.Any(other => other.Id == neededId)),
                $"roles[{i}].added",
                "There is no such practitioner."
            );
        }

        (bool seasonHolds, Season? season) = SeasonOf();
        checks.Require(seasonHolds, "season.from", "Write the days of a season as month and day, like 05-01.");
        checks.Require(
            (Terms ?? []).DistinctBy(terms => terms.PractitionerId).Count() == (Terms?.Count ?? 0),
            "terms",
            "A practitioner is there twice."
        );
        Service service = new()
        {
            Id = id,
            Name = name ?? "",
            CategoryId = CategoryId,
            Kind = Kind,
            Seats = Seats,
            Phases =
            [
                .. (Phases ?? []).Select(phase => new Phase(
                    phase.Minutes,
                    [.. (phase.AttendedBy ?? []).Distinct().Order()],
                    [.. (phase.Equipment ?? []).DistinctBy(need => need.PoolId).Select(need => new EquipmentNeed(need.PoolId, need.Units))]
                )),
            ],
            Roles =
            [
                .. (Roles ?? []).Select(role => new StaffRule
                {
                    Name = string.IsNullOrWhiteSpace(role.Name) ? "" : role.Name.Trim(),
                    Qualifications = [.. (role.Qualifications ?? []).Distinct()],
                    Added = (role.Added ?? []).ToHashSet(),
                    Excluded = (role.Excluded ?? []).ToHashSet(),
                }),
            ],
            Room = Room is { } room
                ? new RoomRule((room.Features ?? []).Select(text => text.Trim()).Where(text => text.Length > 0).ToHashSet(), room.Units)
                : null,
            BufferBeforeMinutes = BufferBeforeMinutes,
            BufferAfterMinutes = BufferAfterMinutes,
            BufferAlways = BufferAlways,
            BesideOthers = BesideOthers,
            PriceForm = PriceForm,
            Price = Price,
            Terms = (Terms ?? [])
                .DistinctBy(terms => terms.PractitionerId)
                .ToDictionary(
                    terms => terms.PractitionerId,
                    terms => new PractitionerTerms(terms.Minutes, terms.Price, terms.AcceptsNewClients)
                ),
            Visibility = Visibility,
            For = For,
            Online = Online ?? new OnlineRules(),
            SetTimes =
            [
                .. (SetTimes ?? []).Distinct().Select(time => new SetTime(time.PractitionerId, (IsoDayOfWeek)time.Weekday, time.At)),
            ],
            Prerequisite = Prerequisite is { } needs ? new Prerequisite(needs.ServiceId, needs.AtLeastHours, needs.AtMostDays) : null,
            Weekdays = (Weekdays ?? []).Select(day => (IsoDayOfWeek)day).ToHashSet(),
            Season = season,
            Locations = (LocationIds ?? []).ToHashSet(),
            IsArchived = IsArchived,
        };
        checks.Add(
            ServiceCheck.Of(
                service,
                [.. setup.Parts.Services.Select(listed => listed.Service)],
                setup.Practitioners,
                [.. setup.Parts.Pools.Select(pool => pool.Pool)],
                setup.Parts.Features
            )
        );
        return new ListedService(service, Description?.Trim() ?? "", position)
        {
            OnlineName = string.IsNullOrWhiteSpace(OnlineName) ? null : OnlineName.Trim(),
            OnlineMinutes = OnlineMinutes,
            PictureId = PictureId,
            ReturnDays = ReturnDays,
            TaxRateId = TaxRateId,
            Link = before?.Link,
        };
    }

    private (bool Holds, Season? Season) SeasonOf()
    {
        if (Season is null || (string.IsNullOrEmpty(Season.From) && string.IsNullOrEmpty(Season.Until)))
            return (true, null);
        return Annual(Season.From) is { } from && Annual(Season.Until) is { } until ? (true, new Season(from, until)) : (false, null);
    }

    private static AnnualDate? Annual(string? text) =>
        NodaTime.Text.AnnualDatePattern.CreateWithInvariantCulture("MM-dd").Parse(text ?? "") is { Success: true } parsed
            ? parsed.Value
            : null;

    private static string Text(AnnualDate date) => string.Create(CultureInfo.InvariantCulture, $"{date.Month:00}-{date.Day:00}");
}
