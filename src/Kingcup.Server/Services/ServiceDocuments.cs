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
    internal static CategoryDocument Of(ListedCategory one) => new(one.Category.Id, one.Category.Name, one.Category.Online, one.Version);

    internal Category Check(Checks checks, Guid id, int order)
    {
        string? name = checks.Name(Name, "name", "Enter the name of the category.");
        checks.Add(OnlineCheck.Of(Online ?? new OnlineRules(), "online."));
        return new Category { Id = id, Name = name ?? "", Order = order, Online = Online ?? new OnlineRules() };
    }
}

/// <summary>An add-on.</summary>
/// <param name="Id">Identity; given by the server.</param>
/// <param name="Name">Name.</param>
/// <param name="Minutes">Minutes it adds.</param>
/// <param name="Price">Price of one, in minor units.</param>
/// <param name="Most">Most of it on one line.</param>
/// <param name="Services">Services it goes with.</param>
/// <param name="IsArchived">Whether it is no longer sold.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
public sealed record AddOnDocument(
    Guid? Id,
    string? Name,
    int Minutes,
    long Price,
    int Most,
    IReadOnlyList<AddOnServiceDocument>? Services,
    bool IsArchived = false,
    long Version = 0
)
{
    internal static AddOnDocument Of(ListedAddOn one) => new(
        one.AddOn.Id, one.AddOn.Name, one.AddOn.Minutes, one.AddOn.Price, one.AddOn.Limit,
        [.. one.AddOn.Services.Select(with => new AddOnServiceDocument(with.Key, with.Value))], one.IsArchived, one.Version);

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
        foreach ((int i, AddOnServiceDocument one) in (Services ?? []).Index())
        {
            Service? service = setup.ServiceOf(one.ServiceId);
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
                Services = (Services ?? []).DistinctBy(one => one.ServiceId).ToDictionary(one => one.ServiceId, one => one.Suggested),
            },
            IsArchived);
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
/// <param name="Id">Identity; given by the server.</param>
/// <param name="Name">Name.</param>
/// <param name="CategoryId">The category it stands in.</param>
/// <param name="Kind">For one client, or for a group.</param>
/// <param name="Seats">Seats of a session of a group.</param>
/// <param name="Phases">Its phases in order.</param>
/// <param name="Roles">Its roles, the lead first.</param>
/// <param name="Room">The room it needs, or null for none.</param>
/// <param name="BufferBeforeMinutes">Minutes kept before.</param>
/// <param name="BufferAfterMinutes">Minutes kept after.</param>
/// <param name="BufferAlways">Whether buffers stay between two services of one visit.</param>
/// <param name="PriceForm">How the price is formed.</param>
/// <param name="Price">Price in minor units; of an hour when hourly.</param>
/// <param name="TaxRateId">Its tax rate, or null.</param>
/// <param name="Terms">What practitioners do differently.</param>
/// <param name="Visibility">Who sees it online.</param>
/// <param name="For">Which clients may book it online.</param>
/// <param name="Online">Own rules of online booking; what is null comes from the category, then the location.</param>
/// <param name="SetTimes">Wall times for the grid of set times.</param>
/// <param name="Prerequisite">What has to come before, or null.</param>
/// <param name="Weekdays">Weekdays it is offered on; none means all.</param>
/// <param name="Season">The part of the year it is offered in, or null.</param>
/// <param name="LocationIds">Where it is done; none means everywhere.</param>
/// <param name="Description">Text for clients (Markdown).</param>
/// <param name="OnlineName">Name clients read, where it differs.</param>
/// <param name="OnlineMinutes">Minutes clients read, where they differ.</param>
/// <param name="PictureId">A picture uploaded before, or null.</param>
/// <param name="ReturnDays">Days after which clients are advised to come back, or null.</param>
/// <param name="IsArchived">Whether it is no longer done.</param>
/// <param name="Link">Its direct link's token; given by the server.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
/// <param name="BesideOthers">Whether whoever does it may look after others meanwhile.</param>
public sealed record ServiceDocument(
    Guid? Id,
    string? Name,
    Guid CategoryId,
    ServiceKind Kind,
    int Seats,
    IReadOnlyList<PhaseDocument>? Phases,
    IReadOnlyList<RoleDocument>? Roles,
    RoomRuleDocument? Room,
    int BufferBeforeMinutes,
    int BufferAfterMinutes,
    bool BufferAlways,
    PriceForm PriceForm,
    long Price,
    Guid? TaxRateId,
    IReadOnlyList<TermsDocument>? Terms,
    Visibility Visibility,
    ClientKind For,
    OnlineRules? Online,
    IReadOnlyList<SetTimeDocument>? SetTimes,
    PrerequisiteDocument? Prerequisite,
    IReadOnlyList<Weekday>? Weekdays,
    SeasonDocument? Season,
    IReadOnlyList<Guid>? LocationIds,
    string? Description,
    string? OnlineName,
    int? OnlineMinutes,
    Guid? PictureId,
    int? ReturnDays,
    bool IsArchived = false,
    string? Link = null,
    long Version = 0,
    bool BesideOthers = false
)
{
    /// <summary>Longest text.</summary>
    internal const int LongestText = 10_000;

    internal static ServiceDocument Of(ListedService listed)
    {
        Service one = listed.Service;
        return new ServiceDocument(
            one.Id,
            one.Name,
            one.CategoryId,
            one.Kind,
            one.Seats,
            [
                .. one.Phases.Select(phase => new PhaseDocument(
                    phase.Minutes,
                    [.. phase.AttendedBy],
                    [.. phase.Equipment.Select(need => new NeedDocument(need.PoolId, need.Units))]
                )),
            ],
            [.. one.Roles.Select(role => new RoleDocument(role.Name, [.. role.Qualifications], [.. role.Added], [.. role.Excluded]))],
            one.Room is { } room ? new RoomRuleDocument([.. room.Features.Order()], room.Units) : null,
            one.BufferBeforeMinutes,
            one.BufferAfterMinutes,
            one.BufferAlways,
            one.PriceForm,
            one.Price,
            listed.TaxRateId,
            [
                .. one.Terms.Select(terms => new TermsDocument(
                    terms.Key,
                    terms.Value.Minutes,
                    terms.Value.Price,
                    terms.Value.AcceptsNewClients
                )),
            ],
            one.Visibility,
            one.For,
            one.Online,
            [.. one.SetTimes.Select(time => new SetTimeDocument(time.PractitionerId, (Weekday)time.Weekday, time.At))],
            one.Prerequisite is { } before ? new PrerequisiteDocument(before.ServiceId, before.AtLeastHours, before.AtMostDays) : null,
            [.. one.Weekdays.Order().Select(day => (Weekday)day)],
            one.Season is { } season ? new SeasonDocument(Text(season.From), Text(season.Until)) : null,
            [.. one.Locations],
            listed.Description,
            listed.OnlineName,
            listed.OnlineMinutes,
            listed.PictureId,
            listed.ReturnDays,
            one.IsArchived,
            listed.Link,
            listed.Version,
            one.BesideOthers
        );
    }

    internal ListedService Check(Checks checks, Setup setup, Guid id, int position, ListedService? before)
    {
        string? name = checks.Name(Name, "name", "Enter the name of the service.");
        checks.Require(setup.Categories.Any(one => one.Category.Id == CategoryId), "categoryId", "Choose a category.");
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
            TaxRateId is null || setup.Parts.TaxRates.Any(one => one.Id == TaxRateId),
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
                (role.Qualifications ?? []).All(one => setup.Parts.Qualifications.Any(other => other.Id == one)),
                $"roles[{i}].qualifications",
                "There is no such qualification."
            );
            checks.Require(
                (role.Added ?? []).Concat(role.Excluded ?? []).All(one => setup.Practitioners.Any(other => other.Id == one)),
                $"roles[{i}].added",
                "There is no such practitioner."
            );
        }

        (bool seasonHolds, Season? season) = SeasonOf();
        checks.Require(seasonHolds, "season.from", "Write the days of a season as month and day, like 05-01.");
        checks.Require(
            (Terms ?? []).DistinctBy(one => one.PractitionerId).Count() == (Terms?.Count ?? 0),
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
                .. (Phases ?? []).Select(one => new Phase(
                    one.Minutes,
                    [.. (one.AttendedBy ?? []).Distinct().Order()],
                    [.. (one.Equipment ?? []).DistinctBy(need => need.PoolId).Select(need => new EquipmentNeed(need.PoolId, need.Units))]
                )),
            ],
            Roles =
            [
                .. (Roles ?? []).Select(one => new StaffRule
                {
                    Name = string.IsNullOrWhiteSpace(one.Name) ? "" : one.Name.Trim(),
                    Qualifications = [.. (one.Qualifications ?? []).Distinct()],
                    Added = (one.Added ?? []).ToHashSet(),
                    Excluded = (one.Excluded ?? []).ToHashSet(),
                }),
            ],
            Room = Room is { } room
                ? new RoomRule((room.Features ?? []).Select(one => one.Trim()).Where(one => one.Length > 0).ToHashSet(), room.Units)
                : null,
            BufferBeforeMinutes = BufferBeforeMinutes,
            BufferAfterMinutes = BufferAfterMinutes,
            BufferAlways = BufferAlways,
            BesideOthers = BesideOthers,
            PriceForm = PriceForm,
            Price = Price,
            Terms = (Terms ?? [])
                .DistinctBy(one => one.PractitionerId)
                .ToDictionary(one => one.PractitionerId, one => new PractitionerTerms(one.Minutes, one.Price, one.AcceptsNewClients)),
            Visibility = Visibility,
            For = For,
            Online = Online ?? new OnlineRules(),
            SetTimes = [.. (SetTimes ?? []).Distinct().Select(one => new SetTime(one.PractitionerId, (IsoDayOfWeek)one.Weekday, one.At))],
            Prerequisite = Prerequisite is { } needs ? new Prerequisite(needs.ServiceId, needs.AtLeastHours, needs.AtMostDays) : null,
            Weekdays = (Weekdays ?? []).Select(day => (IsoDayOfWeek)day).ToHashSet(),
            Season = season,
            Locations = (LocationIds ?? []).ToHashSet(),
            IsArchived = IsArchived,
        };
        checks.Add(
            ServiceCheck.Of(
                service,
                [.. setup.Parts.Services.Select(one => one.Service)],
                setup.Practitioners,
                [.. setup.Parts.Pools.Select(one => one.Pool)],
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
        if (Season is null || (string.IsNullOrEmpty(Season.From) && string.IsNullOrEmpty(Season.Until))) return (true, null);
        return Annual(Season.From) is { } from && Annual(Season.Until) is { } until ? (true, new Season(from, until)) : (false, null);
    }

    private static AnnualDate? Annual(string? text) =>
        NodaTime.Text.AnnualDatePattern.CreateWithInvariantCulture("MM-dd").Parse(text ?? "") is { Success: true } parsed
            ? parsed.Value
            : null;

    private static string Text(AnnualDate date) => string.Create(CultureInfo.InvariantCulture, $"{date.Month:00}-{date.Day:00}");
}
