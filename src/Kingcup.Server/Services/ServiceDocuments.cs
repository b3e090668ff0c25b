using System.Globalization;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Services;

/// <summary>A category.</summary>
/// <param name="Id">Identity; given by the server.</param>
/// <param name="Name">Name.</param>
/// <param name="Online">Rules of online booking for all its services; what is null comes from the location.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
public sealed record CategoryDocument(Guid? Id, string? Name, OnlineRules? Online = null, long Version = 0)
{
    internal static CategoryDocument Of(ListedCategory category) =>
        new(category.Category.Id, category.Category.Name, category.Category.Online, category.Version);

    internal Category Check(Checks checks, Guid id, int order)
    {
        string? name = checks.Name(Name, "name", "Enter the name of the category.");
        checks.Add(OnlineCheck.Of(Online ?? new OnlineRules(), "online."));
        return new Category
        {
            Id = id,
            Name = name ?? "",
            Order = order,
            Online = Online ?? new OnlineRules(),
        };
    }
}

/// <summary>An add-on.</summary>
public sealed record AddOnDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Name.</summary>
    public required string? Name { get; init; }

    /// <summary>Minutes it adds.</summary>
    public required int Minutes { get; init; }

    /// <summary>Price of one, in minor units.</summary>
    public required long Price { get; init; }

    /// <summary>Most of it on one line.</summary>
    public required int Most { get; init; }

    /// <summary>Services it goes with.</summary>
    public required IReadOnlyList<AddOnServiceDocument>? Services { get; init; }

    /// <summary>Whether it is no longer sold.</summary>
    public bool IsArchived { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static AddOnDocument Of(ListedAddOn listed) =>
        new()
        {
            Id = listed.AddOn.Id,
            Name = listed.AddOn.Name,
            Minutes = listed.AddOn.Minutes,
            Price = listed.AddOn.Price,
            Most = listed.AddOn.Limit,
            Services = [.. listed.AddOn.Services.Select(pair => new AddOnServiceDocument(pair.Key, pair.Value))],
            IsArchived = listed.IsArchived,
            Version = listed.Version,
        };

    internal ListedAddOn Check(Checks checks, Setup setup, Guid id, int order)
    {
        string? name = checks.Name(Name, "name", "Enter the name of the add-on.");
        checks.Require(
            Minutes is >= 0 and <= ServiceCheck.MostMinutes && Core.Time.Grain.IsWhole(Minutes),
            "minutes",
            "An add-on takes a multiple of 5 minutes, a day at the most."
        );
        checks.Require(Price >= 0, "price", "A price is 0 or more.");
        checks.Require(Most is >= 1 and <= 20, "most", "1 to 20 on one line.");
        foreach ((int i, AddOnServiceDocument addOnService) in (Services ?? []).Index())
        {
            Service? service = setup.ServiceOf(addOnService.ServiceId);
            if (checks.Require(service is not null, $"services[{i}].serviceId", "There is no such service."))
                checks.Require(
                    service!.Minutes + (Minutes * Most) <= ServiceCheck.MostMinutes,
                    $"services[{i}].serviceId",
                    $"{service.Name} with all of these would last longer than a day."
                );
        }

        return new ListedAddOn(
            new AddOn
            {
                Id = id,
                Name = name ?? "",
                Minutes = Minutes,
                Price = Price,
                Limit = Most,
                Order = order,
                Services = (Services ?? [])
                    .DistinctBy(service => service.ServiceId)
                    .ToDictionary(service => service.ServiceId, service => service.Suggested),
            },
            IsArchived
        );
    }
}

/// <summary>A service an add-on goes with.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="Suggested">Whether it is suggested there.</param>
public sealed record AddOnServiceDocument(Guid ServiceId, bool Suggested = false);

/// <summary>Equipment a phase needs.</summary>
/// <param name="PoolId">The pool.</param>
/// <param name="Units">How many.</param>
public sealed record NeedDocument(Guid PoolId, int Units = 1);

/// <summary>A stretch of a service with its own needs.</summary>
/// <param name="Minutes">How long.</param>
/// <param name="AttendedBy">Indexes of the roles that are with the client; none for an unattended phase.</param>
/// <param name="Equipment">Equipment in use.</param>
public sealed record PhaseDocument(int Minutes, IReadOnlyList<int>? AttendedBy, IReadOnlyList<NeedDocument>? Equipment = null);

/// <summary>Who may take a role.</summary>
/// <param name="Name">What the role is called.</param>
/// <param name="Qualifications">Qualifications required, all of them.</param>
/// <param name="Added">Practitioners added by hand.</param>
/// <param name="Excluded">Practitioners excluded by hand.</param>
public sealed record RoleDocument(
    string? Name,
    IReadOnlyList<Guid>? Qualifications,
    IReadOnlyList<Guid>? Added = null,
    IReadOnlyList<Guid>? Excluded = null
);

/// <summary>The room a service needs.</summary>
/// <param name="Features">Features it must have, all of them.</param>
/// <param name="Units">Units of its capacity that are held.</param>
public sealed record RoomRuleDocument(IReadOnlyList<string>? Features, int Units = 1);

/// <summary>How one practitioner does a service.</summary>
/// <param name="PractitionerId">Who.</param>
/// <param name="Minutes">Own length, or null.</param>
/// <param name="Price">Own price in minor units, or null.</param>
/// <param name="AcceptsNewClients">Whether new clients may book it with this person.</param>
public sealed record TermsDocument(Guid PractitionerId, int? Minutes = null, long? Price = null, bool AcceptsNewClients = true);

/// <summary>A visit that has to have come before.</summary>
/// <param name="ServiceId">For which service.</param>
/// <param name="AtLeastHours">Least hours between.</param>
/// <param name="AtMostDays">Most days between.</param>
public sealed record PrerequisiteDocument(Guid ServiceId, int AtLeastHours, int AtMostDays);

/// <summary>A wall time at which a service may begin.</summary>
/// <param name="PractitionerId">With whom, or null for everyone.</param>
/// <param name="Weekday">On which day.</param>
/// <param name="At">When.</param>
public sealed record SetTimeDocument(Guid? PractitionerId, Weekday Weekday, LocalTime At);

/// <summary>A part of every year.</summary>
/// <param name="From">First day, MM-DD.</param>
/// <param name="Until">Last day, MM-DD; before the first it reaches over the new year.</param>
public sealed record SeasonDocument(string? From, string? Until);

/// <summary>A service.</summary>
public sealed record ServiceDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Name.</summary>
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
    public required string? Description { get; init; }

    /// <summary>Name clients read, where it differs.</summary>
    public required string? OnlineName { get; init; }

    /// <summary>Minutes clients read, where they differ.</summary>
    public required int? OnlineMinutes { get; init; }

    /// <summary>A picture uploaded before, or null.</summary>
    public required Guid? PictureId { get; init; }

    /// <summary>Days after which clients are advised to come back, or null.</summary>
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
        checks.Require((Description?.Length ?? 0) <= LongestText, "description", $"{LongestText} characters at the most.");
        TextForClients.Check(checks, Description, "description");
        checks.Require(
            string.IsNullOrWhiteSpace(OnlineName) || OnlineName.Trim().Length <= 200,
            "onlineName",
            "200 characters at the most."
        );
        checks.Require(OnlineMinutes is null or (>= 1 and <= 1440), "onlineMinutes", "1 to 1440 minutes.");
        checks.Require(ReturnDays is null or (>= 1 and <= 1000), "returnDays", "1 to 1000 days.");
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
