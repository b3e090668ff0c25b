using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Server.Team;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Services;

/// <summary>One thing set on many services at once; what is null stays as it is.</summary>
public sealed record ManyServicesRequest
{
    /// <summary>The services.</summary>
    public required IReadOnlyList<Guid>? Ids { get; init; }

    /// <summary>The category.</summary>
    public Guid? CategoryId { get; init; }

    /// <summary>Who sees it online.</summary>
    public Visibility? Visibility { get; init; }

    /// <summary>Minutes kept before.</summary>
    public int? BufferBeforeMinutes { get; init; }

    /// <summary>Minutes kept after.</summary>
    public int? BufferAfterMinutes { get; init; }

    /// <summary>Own lead time.</summary>
    public int? LeadMinutes { get; init; }

    /// <summary>Own horizon.</summary>
    public int? HorizonDays { get; init; }

    /// <summary>Prices up (or down) by so many percent, rounded half up.</summary>
    public int? PricePercent { get; init; }

    /// <summary>The tax rate.</summary>
    public Guid? TaxRateId { get; init; }

    /// <summary>Whether they are no longer done.</summary>
    public bool? IsArchived { get; init; }
}

/// <summary>Who does what, and why.</summary>
/// <param name="Date">The date it is asked for.</param>
/// <param name="Cells">Each practitioner for each service and role.</param>
public sealed record WhoDoesWhat(LocalDate Date, IReadOnlyList<WhoCell> Cells);

/// <summary>One practitioner for one role of one service.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="Role">Index of the role.</param>
/// <param name="PractitionerId">The practitioner.</param>
/// <param name="May">Whether they may take it.</param>
/// <param name="Standing">Why.</param>
/// <param name="Text">The same in words.</param>
/// <param name="Until">The last date before they may no longer, where a qualification runs out.</param>
public sealed record WhoCell(Guid ServiceId, int Role, Guid PractitionerId, bool May, Standing Standing, string Text, LocalDate? Until);

/// <summary>Categories, services and add-ons.</summary>
internal static class ServiceEndpoints
{
    private static readonly SetupList<CategoryDocument, ListedCategory> _categories = new()
    {
        Kind = "category",
        NotThere = "There is no such category.",
        All = setup => setup.Categories,
        IdOf = category => category.Category.Id,
        VersionOf = category => category.Version,
        Tell = (_, category) => CategoryDocument.Of(category),
        Check = (request, checks, change, id, before) =>
            Task.FromResult(new ListedCategory(request.Check(checks, id, before?.Category.Order ?? change.Setup.Categories.Count + 1))),
        Save = (change, category) => change.Writer.SaveAsync(category.Category),
    };

    private static readonly SetupList<ServiceDocument, ListedService> _services = new()
    {
        Kind = "service",
        NotThere = "There is no such service.",
        All = setup => setup.Parts.Services,
        IdOf = service => service.Service.Id,
        VersionOf = service => service.Version,
        Tell = (_, service) => ServiceDocument.Of(service),
        Check = async (request, checks, change, id, before) =>
        {
            ListedService made = request.Check(checks, change.Setup, id, before?.Position ?? change.Setup.Parts.Services.Count + 1, before);
            await TeamEndpoints.CheckPictureAsync(checks, change, made.PictureId, "pictureId");
            return made;
        },
        Save = (change, service) => change.Writer.SaveAsync(service, change.Change.At),
    };

    private static readonly SetupList<AddOnDocument, ListedAddOn> _addOns = new()
    {
        Kind = "add-on",
        NotThere = "There is no such add-on.",
        All = setup => setup.Parts.AddOns,
        IdOf = listed => listed.AddOn.Id,
        VersionOf = listed => listed.Version,
        Tell = (_, listed) => AddOnDocument.Of(listed),
        Check = (request, checks, change, id, before) =>
            Task.FromResult(request.Check(checks, change.Setup, id, before?.AddOn.Order ?? change.Setup.Parts.AddOns.Count + 1)),
        Save = (change, listed) => change.Writer.SaveAsync(listed, change.Change.At),
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Services").Problems();
        _categories.Map(
            group,
            "/categories",
            "Categories in order.",
            "Adds a category.",
            "Changes a category and the rules of online booking it sets."
        );
        group.MapDelete("/categories/{id:guid}", RemoveCategoryAsync).Hits().WithSummary("Removes a category without services.");
        group.MapPut("/categories/order", OrderCategoriesAsync).WithSummary("Sets the order of categories.");
        group
            .MapPut("/categories/{id:guid}/services/order", OrderServicesAsync)
            .WithSummary("Sets the order of the services of a category, and moves them into it.");
        _services.Map(group, "/services", "All services, archived ones too.", "Adds a service.", "Changes a service.");
        group
            .MapGet(
                "/services/{id:guid}",
                (Guid id, Database database, BookReader book) =>
                    book.ReadAsync(database, setup => ServiceDocument.Of(_services.Find(setup, id)))
            )
            .WithSummary("A service.");
        group.MapPost("/services/{id:guid}/copy", CopyAsync).WithSummary("Makes another service like this one, hidden until it is shown.");
        group.MapPost("/services/many", ManyAsync).Hits().WithSummary("Sets one thing on many services at once.");
        group
            .MapGet(
                "/who-does-what",
                (string date, Database database, BookReader book) =>
                    book.ReadAsync(database, setup => Who(setup, BookEndpoints.Date(date, "date")))
            )
            .WithSummary("Who may take which role of which service on a date, and why or why not.");
        _addOns.Map(group, "/add-ons", "Add-ons, archived ones too.", "Adds an add-on.", "Changes an add-on.");
    }

    private static async Task<NoContent> RemoveCategoryAsync(Guid id, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async change =>
            {
                ListedCategory before = _categories.Find(change.Setup, id);
                if (change.Setup.Parts.Services.Any(service => service.Service.CategoryId == id))
                    throw new Refused(
                        StatusCodes.Status409Conflict,
                        "in-use",
                        "There are services in this category, archived ones perhaps. Move them to another first."
                    );
                if (change.Setup.Parts.Guarantees.Any(rule => rule.PlaceId == id))
                    throw new Refused(
                        StatusCodes.Status409Conflict,
                        "in-use",
                        "A rule of deposits is set for this category. Take it out first, under Setup, Deposits and cancelling."
                    );
                await change.Writer.RemoveCategoryAsync(id);
                await change.RecordAsync("category", id, "Removed", CategoryDocument.Of(before), null);
                return true;
            }
        );
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> OrderCategoriesAsync(OrderRequest request, HttpContext http, SetupDesk desk)
    {
        IReadOnlyList<Guid> ids = request.Ids is { Count: > 0 } given
            ? given
            : throw Refused.Invalid("ids", "Name each of them once, first to last.");
        await desk.ChangeAsync(
            http,
            async change =>
            {
                await change.Writer.OrderCategoriesAsync(ids);
                await change.RecordAsync("category", Guid.Empty, "Ordered", null, request.Ids);
                return true;
            }
        );
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> OrderServicesAsync(Guid id, OrderRequest request, HttpContext http, SetupDesk desk)
    {
        IReadOnlyList<Guid> ids = request.Ids is { Count: > 0 } given
            ? given
            : throw Refused.Invalid("ids", "Name each of them once, first to last.");
        await desk.ChangeAsync(
            http,
            async change =>
            {
                _categories.Find(change.Setup, id);
                await change.Writer.OrderServicesAsync(id, ids);
                await change.RecordAsync("category", id, "Services ordered", null, request.Ids);
                return true;
            }
        );
        return TypedResults.NoContent();
    }

    private static Task<Created<ServiceDocument>> CopyAsync(Guid id, HttpContext http, SetupDesk desk) =>
        desk.CreateAsync(
            http,
            async change =>
            {
                ListedService original = _services.Find(change.Setup, id);
                string name = Enumerable
                    .Range(1, 1000)
                    .Select(i => (string)(i == 1 ? Say($"{original.Service.Name} (copy)") : Say($"{original.Service.Name} (copy {i})")))
                    .First(candidate => change.Setup.Parts.Services.All(other => other.Service.Name != candidate));
                Guid made = Guid.CreateVersion7();
                await change.Writer.SaveAsync(
                    original with
                    {
                        Service = original.Service with { Id = made, Name = name, Visibility = Visibility.Hidden, IsArchived = false },
                        Link = null,
                    },
                    change.Change.At
                );
                await change.RecordAsync("service", made, "Copied", null, new { from = id, name });
                return made;
            },
            (setup, copy) => ($"/api/v1/setup/services/{copy}", ServiceDocument.Of(_services.Find(setup, copy)))
        );

    private static Task<Ok<ServiceDocument[]>> ManyAsync(
        ManyServicesRequest request,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book
    ) =>
        BusinessEndpoints.SavedAsync(
            desk,
            http,
            database,
            book,
            async change =>
            {
                if (request.Ids is not { Count: > 0 and <= 1000 })
                    throw Refused.Invalid("ids", "Choose 1 to 1000 services.");
                if (request.PricePercent is < -90 or > 500)
                    throw Refused.Invalid("pricePercent", "Change prices by -90 to 500 percent.");
                foreach ((int i, Guid id) in request.Ids.Distinct().Index())
                {
                    ListedService before =
                        change.Setup.Parts.Services.FirstOrDefault(service => service.Service.Id == id)
                        ?? throw Refused.Invalid($"ids[{i}]", "There is no such service.");
                    ServiceDocument document = ServiceDocument.Of(before);
                    long Raised(long price) => request.PricePercent is { } percent ? ((price * (100 + percent)) + 50) / 100 : price;
                    ServiceDocument wanted = document with
                    {
                        CategoryId = request.CategoryId ?? document.CategoryId,
                        Visibility = request.Visibility ?? document.Visibility,
                        BufferBeforeMinutes = request.BufferBeforeMinutes ?? document.BufferBeforeMinutes,
                        BufferAfterMinutes = request.BufferAfterMinutes ?? document.BufferAfterMinutes,
                        Online = document.Online! with
                        {
                            LeadMinutes = request.LeadMinutes ?? document.Online!.LeadMinutes,
                            HorizonDays = request.HorizonDays ?? document.Online!.HorizonDays,
                        },
                        Price = Raised(document.Price),
                        Terms =
                        [
                            .. document.Terms!.Select(terms => terms with { Price = terms.Price is { } price ? Raised(price) : null }),
                        ],
                        TaxRateId = request.TaxRateId ?? document.TaxRateId,
                        IsArchived = request.IsArchived ?? document.IsArchived,
                    };
                    Checks checks = new();
                    ListedService after = wanted.Check(checks, change.Setup, id, before.Position, before);
                    checks.Done();
                    await change.Writer.SaveAsync(after, change.Change.At);
                    await change.RecordAsync("service", id, "Changed with others", document, wanted);
                }
            },
            setup => setup.Parts.Services.Select(ServiceDocument.Of).ToArray()
        );

    private static WhoDoesWhat Who(Setup setup, LocalDate date) =>
        new(
            date,
            [
                .. from listed in setup.Services
                from role in listed.Service.Roles.Index()
                from practitioner in setup.Practitioners
                where !practitioner.IsRetiredOn(date)
                let standing = role.Item.StandingOf(practitioner, date)
                select new WhoCell(
                    listed.Service.Id,
                    role.Index,
                    practitioner.Id,
                    standing is Standing.Holds or Standing.Added,
                    standing,
                    Words(setup, role.Item, practitioner, standing, date),
                    standing == Standing.Holds ? LastDay(role.Item, practitioner, date) : null
                ),
            ]
        );

    private static Sentence Words(Setup setup, StaffRule rule, Core.Team.Practitioner practitioner, Standing standing, LocalDate date)
    {
        Sentence Names(IEnumerable<Guid> ids) =>
            List(ids.Select(id => setup.Parts.Qualifications.FirstOrDefault(other => other.Id == id)?.Name ?? ""));
        return standing switch
        {
            Standing.Holds => Say($"Yes: holds {Names(rule.Qualifications)}."),
            Standing.Added => Say("Yes: added by hand."),
            Standing.Excluded => Say("No: excluded by hand."),
            Standing.NotAdded => Say("No: not added by hand, and no qualification is named."),
            Standing.Retired => Say("No: no longer works here."),
            _ => rule.MissingOn(practitioner, date) is var missing
            && missing.Any(id => practitioner.Qualifications.Any(held => held.QualificationId == id))
                ? Say($"No: {Names(missing)} does not count on that date.")
                : Say($"No: lacks {Names(missing)}."),
        };
    }

    /// <summary>The day on which the first of the qualifications needed runs out without another stretch behind it.</summary>
    private static LocalDate? LastDay(StaffRule rule, Core.Team.Practitioner practitioner, LocalDate date)
    {
        LocalDate? last = null;
        foreach (Guid needed in rule.Qualifications)
        {
            LocalDate until = practitioner
                .Qualifications.Where(held => held.QualificationId == needed)
                .Select(held => held.Until ?? LocalDate.MaxIsoValue)
                .Append(LocalDate.MinIsoValue)
                .Max();
            if (until == LocalDate.MaxIsoValue || until < date)
                continue;
            if (last is null || until < last)
                last = until;
        }

        return last;
    }
}
