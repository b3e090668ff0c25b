using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Server.Team;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Services;

/// <summary>One thing set on many services at once; what is null stays as it is.</summary>
/// <param name="Ids">The services.</param>
/// <param name="CategoryId">The category.</param>
/// <param name="Visibility">Who sees it online.</param>
/// <param name="BufferBeforeMinutes">Minutes kept before.</param>
/// <param name="BufferAfterMinutes">Minutes kept after.</param>
/// <param name="LeadMinutes">Own lead time.</param>
/// <param name="HorizonDays">Own horizon.</param>
/// <param name="PricePercent">Prices up (or down) by so many percent, rounded half up.</param>
/// <param name="TaxRateId">The tax rate.</param>
/// <param name="IsArchived">Whether they are no longer done.</param>
public sealed record ManyServicesRequest(
    IReadOnlyList<Guid>? Ids, Guid? CategoryId = null, Visibility? Visibility = null, int? BufferBeforeMinutes = null, int? BufferAfterMinutes = null,
    int? LeadMinutes = null, int? HorizonDays = null, int? PricePercent = null, Guid? TaxRateId = null, bool? IsArchived = null);

/// <summary>Who does what, and why.</summary>
/// <param name="Date">The date it is asked for.</param>
/// <param name="Cells">Each practitioner for each service and role.</param>
public sealed record WhoDoesWhat(LocalDate Date, IReadOnlyList<WhoCell> Cells);

/// <summary>One practitioner for one role of one service.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="Role">Index of the role.</param>
/// <param name="PractitionerId">The practitioner.</param>
/// <param name="May">Whether she may take it.</param>
/// <param name="Standing">Why.</param>
/// <param name="Text">The same in words.</param>
/// <param name="Until">The last date before she may no longer, where a qualification runs out.</param>
public sealed record WhoCell(Guid ServiceId, int Role, Guid PractitionerId, bool May, Standing Standing, string Text, LocalDate? Until);

/// <summary>Categories, services and add-ons.</summary>
internal static class ServiceEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Services").Problems();
        group.MapGet("/categories", (Database database, BookReader book) => book.ReadAsync(database, setup => setup.Categories.Select(CategoryDocument.Of).ToArray())).WithSummary("Categories in order.");
        group.MapPost("/categories", AddCategoryAsync).WithSummary("Adds a category.");
        group.MapPut("/categories/{id:guid}", SaveCategoryAsync).Changes().WithSummary("Changes a category and the rules of online booking it sets. Needs If-Match.");
        group.MapDelete("/categories/{id:guid}", RemoveCategoryAsync).Hits().WithSummary("Removes a category without services.");
        group.MapPut("/categories/order", OrderCategoriesAsync).WithSummary("Sets the order of categories.");
        group.MapPut("/categories/{id:guid}/services/order", OrderServicesAsync).WithSummary("Sets the order of the services of a category, and moves them into it.");
        group.MapGet("/services", (Database database, BookReader book) => book.ReadAsync(database, setup => setup.Parts.Services.Select(ServiceDocument.Of).ToArray())).WithSummary("All services, archived ones too.");
        group.MapGet("/services/{id:guid}", (Guid id, Database database, BookReader book) => book.ReadAsync(database, setup => ServiceDocument.Of(Find(setup, id)))).WithSummary("A service.");
        group.MapPost("/services", AddAsync).WithSummary("Adds a service.");
        group.MapPut("/services/{id:guid}", SaveAsync).Changes().WithSummary("Changes a service. Needs If-Match.");
        group.MapPost("/services/{id:guid}/copy", CopyAsync).WithSummary("Makes another service like this one, hidden until it is shown.");
        group.MapPost("/services/many", ManyAsync).Hits().WithSummary("Sets one thing on many services at once.");
        group.MapGet("/who-does-what", (string date, Database database, BookReader book) => book.ReadAsync(database, setup => Who(setup, BookEndpoints.Date(date, "date"))))
            .WithSummary("Who may take which role of which service on a date, and why or why not.");
        group.MapGet("/add-ons", (Database database, BookReader book) => book.ReadAsync(database, setup => setup.Parts.AddOns.Select(AddOnDocument.Of).ToArray())).WithSummary("Add-ons, archived ones too.");
        group.MapPost("/add-ons", AddAddOnAsync).WithSummary("Adds an add-on.");
        group.MapPut("/add-ons/{id:guid}", SaveAddOnAsync).Changes().WithSummary("Changes an add-on. Needs If-Match.");
    }

    private static async Task<Created<CategoryDocument>> AddCategoryAsync(CategoryDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book)
    {
        Guid id = await desk.CreateAsync(http, request, async change =>
        {
            Checks checks = new();
            Category made = request.Check(checks, Guid.CreateVersion7(), change.Setup.Categories.Count + 1);
            checks.Done();
            await change.Writer.SaveAsync(made);
            await change.RecordAsync("category", made.Id, "Added", null, request);
            return made.Id;
        });
        return TypedResults.Created($"/api/v1/setup/categories/{id}", (await book.ReadAsync(database, setup => CategoryDocument.Of(Category(setup, id)))).Value);
    }

    private static Task<Ok<CategoryDocument>> SaveCategoryAsync(Guid id, CategoryDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            ListedCategory before = Category(change.Setup, id);
            SetupChange.Match(http, before.Version);
            Checks checks = new();
            Category after = request.Check(checks, id, before.Category.Order);
            checks.Done();
            await change.Writer.SaveAsync(after);
            await change.RecordAsync("category", id, "Changed", CategoryDocument.Of(before), request);
        }, setup => CategoryDocument.Of(Category(setup, id)));

    private static async Task<NoContent> RemoveCategoryAsync(Guid id, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(http, async change =>
        {
            ListedCategory before = Category(change.Setup, id);
            if (change.Setup.Parts.Services.Any(one => one.Service.CategoryId == id))
                throw new Refused(StatusCodes.Status409Conflict, "in-use", "There are services in this category, archived ones perhaps. Move them to another first.");
            await change.Writer.RemoveCategoryAsync(id);
            await change.RecordAsync("category", id, "Removed", CategoryDocument.Of(before), null);
            return true;
        });
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> OrderCategoriesAsync(OrderRequest request, HttpContext http, SetupDesk desk)
    {
        IReadOnlyList<Guid> ids = request.Ids is { Count: > 0 } given ? given : throw Refused.Invalid("ids", "Name each of them once, first to last.");
        await desk.ChangeAsync(http, async change =>
        {
            await change.Writer.OrderCategoriesAsync(ids);
            await change.RecordAsync("category", Guid.Empty, "Ordered", null, request.Ids);
            return true;
        });
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> OrderServicesAsync(Guid id, OrderRequest request, HttpContext http, SetupDesk desk)
    {
        IReadOnlyList<Guid> ids = request.Ids is { Count: > 0 } given ? given : throw Refused.Invalid("ids", "Name each of them once, first to last.");
        await desk.ChangeAsync(http, async change =>
        {
            Category(change.Setup, id);
            await change.Writer.OrderServicesAsync(id, ids);
            await change.RecordAsync("category", id, "Services ordered", null, request.Ids);
            return true;
        });
        return TypedResults.NoContent();
    }

    private static async Task<Created<ServiceDocument>> AddAsync(ServiceDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book)
    {
        Guid id = await desk.CreateAsync(http, request, async change =>
        {
            Checks checks = new();
            ListedService made = request.Check(checks, change.Setup, Guid.CreateVersion7(), change.Setup.Parts.Services.Count + 1, null);
            await TeamEndpoints.CheckPictureAsync(checks, change, made.PictureId, "pictureId");
            checks.Done();
            await change.Writer.SaveAsync(made, change.Change.At);
            await change.RecordAsync("service", made.Service.Id, "Added", null, request);
            return made.Service.Id;
        });
        return TypedResults.Created($"/api/v1/setup/services/{id}", (await book.ReadAsync(database, setup => ServiceDocument.Of(Find(setup, id)))).Value);
    }

    private static Task<Ok<ServiceDocument>> SaveAsync(Guid id, ServiceDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            ListedService before = Find(change.Setup, id);
            SetupChange.Match(http, before.Version);
            Checks checks = new();
            ListedService after = request.Check(checks, change.Setup, id, before.Position, before);
            await TeamEndpoints.CheckPictureAsync(checks, change, after.PictureId, "pictureId");
            checks.Done();
            await change.Writer.SaveAsync(after, change.Change.At);
            await change.RecordAsync("service", id, "Changed", ServiceDocument.Of(before), request);
        }, setup => ServiceDocument.Of(Find(setup, id)));

    private static async Task<Created<ServiceDocument>> CopyAsync(Guid id, HttpContext http, SetupDesk desk, Database database, BookReader book)
    {
        Guid copy = await desk.CreateAsync(http, new { id }, async change =>
        {
            ListedService one = Find(change.Setup, id);
            string name = Enumerable.Range(1, 1000).Select(i => i == 1 ? $"{one.Service.Name} (copy)" : $"{one.Service.Name} (copy {i})")
                .First(candidate => change.Setup.Parts.Services.All(other => other.Service.Name != candidate));
            Guid made = Guid.CreateVersion7();
            await change.Writer.SaveAsync(one with { Service = one.Service with { Id = made, Name = name, Visibility = Visibility.Hidden, IsArchived = false }, Link = null }, change.Change.At);
            await change.RecordAsync("service", made, "Copied", null, new { from = id, name });
            return made;
        });
        return TypedResults.Created($"/api/v1/setup/services/{copy}", (await book.ReadAsync(database, setup => ServiceDocument.Of(Find(setup, copy)))).Value);
    }

    private static Task<Ok<ServiceDocument[]>> ManyAsync(ManyServicesRequest request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            if (request.Ids is not { Count: > 0 and <= 1000 }) throw Refused.Invalid("ids", "Choose 1 to 1000 services.");
            if (request.PricePercent is < -90 or > 500) throw Refused.Invalid("pricePercent", "Change prices by -90 to 500 percent.");
            foreach ((int i, Guid id) in request.Ids.Distinct().Index())
            {
                ListedService before = change.Setup.Parts.Services.FirstOrDefault(one => one.Service.Id == id) ?? throw Refused.Invalid($"ids[{i}]", "There is no such service.");
                ServiceDocument document = ServiceDocument.Of(before);
                long Raised(long price) => request.PricePercent is { } percent ? ((price * (100 + percent)) + 50) / 100 : price;
                ServiceDocument wanted = document with
                {
                    CategoryId = request.CategoryId ?? document.CategoryId,
                    Visibility = request.Visibility ?? document.Visibility,
                    BufferBeforeMinutes = request.BufferBeforeMinutes ?? document.BufferBeforeMinutes,
                    BufferAfterMinutes = request.BufferAfterMinutes ?? document.BufferAfterMinutes,
                    Online = document.Online! with { LeadMinutes = request.LeadMinutes ?? document.Online!.LeadMinutes, HorizonDays = request.HorizonDays ?? document.Online!.HorizonDays },
                    Price = Raised(document.Price),
                    Terms = [.. document.Terms!.Select(one => one with { Price = one.Price is { } price ? Raised(price) : null })],
                    TaxRateId = request.TaxRateId ?? document.TaxRateId,
                    IsArchived = request.IsArchived ?? document.IsArchived,
                };
                Checks checks = new();
                ListedService after = wanted.Check(checks, change.Setup, id, before.Position, before);
                checks.Done();
                await change.Writer.SaveAsync(after, change.Change.At);
                await change.RecordAsync("service", id, "Changed with others", document, wanted);
            }
        }, setup => setup.Parts.Services.Select(ServiceDocument.Of).ToArray());

    private static WhoDoesWhat Who(Setup setup, LocalDate date) => new(date,
        [.. from listed in setup.Services
            from role in listed.Service.Roles.Index()
            from one in setup.Practitioners
            where !one.IsRetiredOn(date)
            let standing = role.Item.StandingOf(one, date)
            select new WhoCell(
                listed.Service.Id, role.Index, one.Id, standing is Standing.Holds or Standing.Added, standing, Words(setup, role.Item, one, standing, date),
                standing == Standing.Holds ? LastDay(role.Item, one, date) : null)]);

    private static string Words(Setup setup, StaffRule rule, Core.Resources.Practitioner one, Standing standing, LocalDate date)
    {
        string Names(IEnumerable<Guid> ids) => string.Join(", ", ids.Select(id => setup.Parts.Qualifications.FirstOrDefault(other => other.Id == id)?.Name));
        return standing switch
        {
            Standing.Holds => $"Yes: holds {Names(rule.Qualifications)}.",
            Standing.Added => "Yes: added by hand.",
            Standing.Excluded => "No: excluded by hand.",
            Standing.NotAdded => "No: not added by hand, and no qualification is named.",
            Standing.Retired => "No: no longer works here.",
            _ => rule.MissingOn(one, date) is var missing && missing.Any(id => one.Qualifications.Any(held => held.QualificationId == id))
                ? $"No: {Names(missing)} does not count on that date."
                : $"No: lacks {Names(missing)}.",
        };
    }

    /// <summary>The day on which the first of the qualifications needed runs out without another stretch behind it.</summary>
    private static LocalDate? LastDay(StaffRule rule, Core.Resources.Practitioner one, LocalDate date)
    {
        LocalDate? last = null;
        foreach (Guid needed in rule.Qualifications)
        {
            LocalDate until = one.Qualifications.Where(held => held.QualificationId == needed).Select(held => held.Until ?? LocalDate.MaxIsoValue).Append(LocalDate.MinIsoValue).Max();
            if (until == LocalDate.MaxIsoValue || until < date) continue;
            if (last is null || until < last) last = until;
        }

        return last;
    }

    private static async Task<Created<AddOnDocument>> AddAddOnAsync(AddOnDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book)
    {
        Guid id = await desk.CreateAsync(http, request, async change =>
        {
            Checks checks = new();
            ListedAddOn made = request.Check(checks, change.Setup, Guid.CreateVersion7(), change.Setup.Parts.AddOns.Count + 1);
            checks.Done();
            await change.Writer.SaveAsync(made, change.Change.At);
            await change.RecordAsync("add-on", made.AddOn.Id, "Added", null, request);
            return made.AddOn.Id;
        });
        return TypedResults.Created($"/api/v1/setup/add-ons/{id}", (await book.ReadAsync(database, setup => AddOnDocument.Of(AddOn(setup, id)))).Value);
    }

    private static Task<Ok<AddOnDocument>> SaveAddOnAsync(Guid id, AddOnDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            ListedAddOn before = AddOn(change.Setup, id);
            SetupChange.Match(http, before.Version);
            Checks checks = new();
            ListedAddOn after = request.Check(checks, change.Setup, id, before.AddOn.Order);
            checks.Done();
            await change.Writer.SaveAsync(after, change.Change.At);
            await change.RecordAsync("add-on", id, "Changed", AddOnDocument.Of(before), request);
        }, setup => AddOnDocument.Of(AddOn(setup, id)));

    private static ListedCategory Category(Setup setup, Guid id) => setup.Categories.FirstOrDefault(one => one.Category.Id == id) ?? throw Refused.NotFound("category");

    private static ListedService Find(Setup setup, Guid id) => setup.Parts.Services.FirstOrDefault(one => one.Service.Id == id) ?? throw Refused.NotFound("service");

    private static ListedAddOn AddOn(Setup setup, Guid id) => setup.Parts.AddOns.FirstOrDefault(one => one.AddOn.Id == id) ?? throw Refused.NotFound("add-on");
}
