using System.ComponentModel.DataAnnotations;
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
public sealed record CategoryDocument(
    Guid? Id,
    [property: MaxLength(Checks.LongestName)] string? Name,
    OnlineRules? Online = null,
    long Version = 0
)
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
    private const int LongestWords = 200;

    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>Name.</summary>
    [MaxLength(Checks.LongestName)]
    public required string? Name { get; init; }

    /// <summary>Minutes it adds.</summary>
    public required int Minutes { get; init; }

    /// <summary>Price of one, in minor units.</summary>
    public required long Price { get; init; }

    /// <summary>Most of it on one line.</summary>
    [Range(1, 20)]
    public required int Most { get; init; }

    /// <summary>Services it goes with.</summary>
    public required IReadOnlyList<AddOnServiceDocument>? Services { get; init; }

    /// <summary>A line that clients read who may choose it. Where there is one, they are asked before they choose a time.</summary>
    [MaxLength(LongestWords)]
    public string? Words { get; init; }

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
            Words = listed.Words,
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
        checks.Limits(this);
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
        )
        {
            Words = Words?.Trim() ?? "",
        };
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
