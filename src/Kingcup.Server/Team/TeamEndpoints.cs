using Kingcup.Core.Resources;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Team;

/// <summary>Practitioners and qualifications.</summary>
internal static class TeamEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Team").Problems();
        group.MapGet("/practitioners", (Database database, BookReader book) =>
            book.ReadAsync(database, setup => setup.Parts.Practitioners.Select(one => PractitionerDocument.Of(setup, one)).ToArray())).WithSummary("Everyone, in house order.");
        group.MapPost("/practitioners", AddAsync).WithSummary("Adds a practitioner.");
        group.MapPut("/practitioners/{id:guid}", SaveAsync).Changes().WithSummary("Changes a practitioner; a date as 'retired' lets her go without losing history. Needs If-Match.");
        group.MapPut("/practitioners/order", (OrderRequest request, HttpContext http, SetupDesk desk) => OrderAsync(request, "practitioner", http, desk)).WithSummary("Sets the house order.");
        group.MapGet("/qualifications", (Database database, BookReader book) =>
            book.ReadAsync(database, setup => setup.Parts.Qualifications.Select(QualificationDocument.Of).ToArray())).WithSummary("Qualifications people may hold.");
        group.MapPost("/qualifications", AddQualificationAsync).WithSummary("Adds a qualification.");
        group.MapPut("/qualifications/{id:guid}", SaveQualificationAsync).Changes().WithSummary("Changes a qualification. Needs If-Match.");
        group.MapPut("/held-qualifications", SaveHeldAsync).Hits().WithSummary("Sets who holds what, for any number of people and qualifications at once.");
    }

    private static async Task<Created<PractitionerDocument>> AddAsync(PractitionerDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book)
    {
        Guid id = await desk.CreateAsync(http, request, async change =>
        {
            Checks checks = new();
            ListedPractitioner made = request.Check(checks, change.Setup, Guid.CreateVersion7(), change.Setup.Practitioners.Count + 1, null);
            await CheckPictureAsync(checks, change, made.PhotoId, "photoId");
            checks.Done();
            await change.Writer.SaveAsync(made);
            await change.RecordAsync("practitioner", made.Practitioner.Id, "Added", null, request);
            return made.Practitioner.Id;
        });
        return TypedResults.Created($"/api/v1/setup/practitioners/{id}", (await book.ReadAsync(database, setup => PractitionerDocument.Of(setup, Find(setup, id)))).Value);
    }

    private static Task<Ok<PractitionerDocument>> SaveAsync(Guid id, PractitionerDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            ListedPractitioner before = Find(change.Setup, id);
            SetupChange.Match(http, before.Version);
            Checks checks = new();
            ListedPractitioner after = request.Check(checks, change.Setup, id, before.Practitioner.Order, before);
            await CheckPictureAsync(checks, change, after.PhotoId, "photoId");
            checks.Done();
            await change.Writer.SaveAsync(after);
            await change.RecordAsync("practitioner", id, "Changed", PractitionerDocument.Of(change.Setup, before), request);
        }, setup => PractitionerDocument.Of(setup, Find(setup, id)));

    /// <summary>A picture named in a request has to have been uploaded.</summary>
    internal static async Task CheckPictureAsync(Checks checks, SetupChange change, Guid? id, string field)
    {
        if (id is { } picture) checks.Require(await StoredFile.FindAsync(change.Connection, picture, "picture") is not null, field, "There is no such picture. Upload it first.");
    }

    /// <summary>Puts practitioners, rooms or equipment in an order.</summary>
    internal static async Task<NoContent> OrderAsync(OrderRequest request, string kind, HttpContext http, SetupDesk desk)
    {
        IReadOnlyList<Guid> ids = request.Ids ?? [];
        if (ids.Count == 0 || ids.Distinct().Count() != ids.Count) throw Refused.Invalid("ids", "Name each of them once, first to last.");
        await desk.ChangeAsync(http, async change =>
        {
            await change.Writer.OrderResourcesAsync(kind, ids);
            await change.RecordAsync(kind, Guid.Empty, "Ordered", null, ids);
            return true;
        });
        return TypedResults.NoContent();
    }

    private static async Task<Created<QualificationDocument>> AddQualificationAsync(QualificationDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book)
    {
        Guid id = await desk.CreateAsync(http, request, async change =>
        {
            Qualification made = Check(request, Guid.CreateVersion7());
            await change.Writer.SaveAsync(made);
            await change.RecordAsync("qualification", made.Id, "Added", null, request);
            return made.Id;
        });
        return TypedResults.Created($"/api/v1/setup/qualifications/{id}", (await book.ReadAsync(database, setup => QualificationDocument.Of(setup.Parts.Qualifications.First(one => one.Id == id)))).Value);
    }

    private static Task<Ok<QualificationDocument>> SaveQualificationAsync(Guid id, QualificationDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            Qualification before = change.Setup.Parts.Qualifications.FirstOrDefault(one => one.Id == id) ?? throw Refused.NotFound("qualification");
            SetupChange.Match(http, before.Version);
            await change.Writer.SaveAsync(Check(request, id));
            await change.RecordAsync("qualification", id, "Changed", QualificationDocument.Of(before), request);
        }, setup => QualificationDocument.Of(setup.Parts.Qualifications.First(one => one.Id == id)));

    private static Qualification Check(QualificationDocument request, Guid id)
    {
        Checks checks = new();
        string? name = checks.Name(request.Name, "name", "Enter the name of the qualification.");
        checks.Require(request.WarnDays is >= 0 and <= 365, "warnDays", "Warn 0 to 365 days before.");
        checks.Done();
        return new Qualification(id, name!, request.WarnDays);
    }

    private static Task<Ok<PractitionerDocument[]>> SaveHeldAsync(HeldChange[] request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
        BusinessEndpoints.SavedAsync(desk, http, database, book, async change =>
        {
            if (request.Length is 0 or > 5000) throw Refused.Invalid("", "Name 1 to 5000 changes.");
            Checks checks = new();
            foreach ((int i, HeldChange one) in request.Index())
            {
                checks.Require(change.Setup.Parts.Practitioners.Any(who => who.Practitioner.Id == one.PractitionerId), $"[{i}].practitionerId", "There is no such practitioner.");
                checks.Require(change.Setup.Parts.Qualifications.Any(what => what.Id == one.QualificationId), $"[{i}].qualificationId", "There is no such qualification.");
                List<HeldStretch> held = [.. one.Held ?? []];
                foreach ((int j, HeldStretch stretch) in held.Index())
                {
                    checks.Require(stretch.From.Year is >= 1950 and <= 2100, $"[{i}].held[{j}].from", "Choose a date between the years 1950 and 2100.");
                    checks.Require(stretch.Until is null || stretch.Until >= stretch.From, $"[{i}].held[{j}].until", "It runs out before it begins. Choose a later date, or leave it open.");
                    checks.Require(!held.Take(j).Any(other => stretch.From <= (other.Until ?? LocalDate.MaxIsoValue) && other.From <= (stretch.Until ?? LocalDate.MaxIsoValue)),
                        $"[{i}].held[{j}].from", "Two stretches of the same qualification overlap.");
                    if (stretch.EvidenceId is { } file)
                        checks.Require(await StoredFile.FindAsync(change.Connection, file, "evidence") is not null, $"[{i}].held[{j}].evidenceId", "There is no such file. Upload it first.");
                }
            }

            checks.Done();
            foreach (IGrouping<Guid, HeldChange> person in request.GroupBy(one => one.PractitionerId))
            {
                ListedPractitioner before = Find(change.Setup, person.Key);
                HashSet<Guid> changed = [.. person.Select(one => one.QualificationId)];
                Dictionary<(Guid, LocalDate), Guid> evidence = before.Evidence.Where(one => !changed.Contains(one.Key.QualificationId)).ToDictionary(one => one.Key, one => one.Value);
                List<HeldQualification> all = [.. before.Practitioner.Qualifications.Where(one => !changed.Contains(one.QualificationId))];
                foreach (HeldChange one in person.DistinctBy(one => one.QualificationId))
                {
                    foreach (HeldStretch stretch in one.Held ?? [])
                    {
                        all.Add(new HeldQualification(one.QualificationId, stretch.From, stretch.Until));
                        if (stretch.EvidenceId is { } file) evidence[(one.QualificationId, stretch.From)] = file;
                    }
                }

                await change.Writer.SaveAsync(before with { Practitioner = before.Practitioner with { Qualifications = all }, Evidence = evidence });
                await change.RecordAsync("practitioner", person.Key, "Qualifications", PractitionerDocument.Of(change.Setup, before).Qualifications, person.ToArray());
            }
        }, setup => setup.Parts.Practitioners.Select(one => PractitionerDocument.Of(setup, one)).ToArray());

    internal static ListedPractitioner Find(Setup setup, Guid id) =>
        setup.Parts.Practitioners.FirstOrDefault(one => one.Practitioner.Id == id) ?? throw Refused.NotFound("practitioner");
}
