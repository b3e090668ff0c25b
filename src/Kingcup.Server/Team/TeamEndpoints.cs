using Kingcup.Core.Team;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Team;

/// <summary>Practitioners and qualifications.</summary>
internal static class TeamEndpoints
{
    private static readonly SetupList<PractitionerDocument, ListedPractitioner> _people = new()
    {
        Kind = "practitioner",
        NotThere = "There is no such practitioner.",
        All = setup => setup.Parts.Practitioners,
        IdOf = practitioner => practitioner.Practitioner.Id,
        VersionOf = practitioner => practitioner.Version,
        Tell = PractitionerDocument.Of,
        Check = async (request, checks, change, id, before) =>
        {
            ListedPractitioner made = request.Check(
                checks,
                change.Setup,
                id,
                before?.Practitioner.Order ?? change.Setup.Practitioners.Count + 1,
                before
            );
            await CheckPictureAsync(checks, change, made.PhotoId, "photoId");
            return made;
        },
        Save = (change, practitioner) => change.Writer.SaveAsync(practitioner),
    };

    private static readonly SetupList<QualificationDocument, Qualification> _qualifications = new()
    {
        Kind = "qualification",
        NotThere = "There is no such qualification.",
        All = setup => setup.Parts.Qualifications,
        IdOf = qualification => qualification.Id,
        VersionOf = qualification => qualification.Version,
        Tell = (_, qualification) => QualificationDocument.Of(qualification),
        Check = (request, checks, _, id, _) => Task.FromResult(Check(request, checks, id)),
        Save = (change, qualification) => change.Writer.SaveAsync(qualification),
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Team").Problems();
        _people.Map(
            group,
            "/practitioners",
            "Everyone, in house order.",
            "Adds a practitioner.",
            "Changes a practitioner; a date as 'retired' lets them go without losing history."
        );
        group
            .MapPut(
                "/practitioners/order",
                (OrderRequest request, HttpContext http, SetupDesk desk) => OrderAsync(request, "practitioner", http, desk)
            )
            .WithSummary("Sets the house order.");
        _qualifications.Map(
            group,
            "/qualifications",
            "Qualifications people may hold.",
            "Adds a qualification.",
            "Changes a qualification."
        );
        group
            .MapPut("/held-qualifications", SaveHeldAsync)
            .Hits()
            .WithSummary("Sets who holds what, for any number of people and qualifications at once.");
    }

    /// <summary>A picture named in a request has to have been uploaded.</summary>
    internal static async Task CheckPictureAsync(Checks checks, SetupChange change, Guid? id, string field)
    {
        if (id is { } picture)
            checks.Require(
                await StoredFile.FindAsync(change.Connection, picture, "picture") is not null,
                field,
                "There is no such picture. Upload it first."
            );
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

    private static Qualification Check(QualificationDocument request, Checks checks, Guid id)
    {
        string? name = checks.Name(request.Name, "name", "Enter the name of the qualification.");
        checks.Require(request.WarnDays is >= 0 and <= 365, "warnDays", "Warn 0 to 365 days before.");
        return new Qualification(id, name ?? "", request.WarnDays);
    }

    private static Task<Ok<PractitionerDocument[]>> SaveHeldAsync(
        HeldChange[] request,
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
                if (request.Length is 0 or > 5000)
                    throw Refused.Invalid("", "Name 1 to 5000 changes.");
                Checks checks = new();
                foreach ((int i, HeldChange heldChange) in request.Index())
                {
                    checks.Require(
                        change.Setup.Parts.Practitioners.Any(listed => listed.Practitioner.Id == heldChange.PractitionerId),
                        $"[{i}].practitionerId",
                        "There is no such practitioner."
                    );
                    checks.Require(
                        change.Setup.Parts.Qualifications.Any(known => known.Id == heldChange.QualificationId),
                        $"[{i}].qualificationId",
                        "There is no such qualification."
                    );
                    List<HeldStretch> held = [.. heldChange.Held ?? []];
                    foreach ((int j, HeldStretch stretch) in held.Index())
                    {
                        checks.Require(
                            stretch.From.Year is >= 1950 and <= 2100,
                            $"[{i}].held[{j}].from",
                            "Choose a date between the years 1950 and 2100."
                        );
                        checks.Require(
                            stretch.Until is null || stretch.Until >= stretch.From,
                            $"[{i}].held[{j}].until",
                            "It runs out before it begins. Choose a later date, or leave it open."
                        );
                        checks.Require(
                            !held.Take(j)
                                .Any(other =>
                                    stretch.From <= (other.Until ?? LocalDate.MaxIsoValue)
                                    && other.From <= (stretch.Until ?? LocalDate.MaxIsoValue)
                                ),
                            $"[{i}].held[{j}].from",
                            "Two stretches of the same qualification overlap."
                        );
                        if (stretch.EvidenceId is { } file)
                            checks.Require(
                                await StoredFile.FindAsync(change.Connection, file, "evidence") is not null,
                                $"[{i}].held[{j}].evidenceId",
                                "There is no such file. Upload it first."
                            );
                    }
                }

                checks.Done();
                foreach (IGrouping<Guid, HeldChange> person in request.GroupBy(held => held.PractitionerId))
                {
                    ListedPractitioner before = Find(change.Setup, person.Key);
                    HashSet<Guid> changed = [.. person.Select(held => held.QualificationId)];
                    Dictionary<(Guid, LocalDate), Guid> evidence = before
                        .Evidence.Where(pair => !changed.Contains(pair.Key.QualificationId))
                        .ToDictionary(pair => pair.Key, pair => pair.Value);
                    List<HeldQualification> all =
                    [
                        .. before.Practitioner.Qualifications.Where(qualification => !changed.Contains(qualification.QualificationId)),
                    ];
                    foreach (HeldChange held in person.DistinctBy(item => item.QualificationId))
                    {
                        foreach (HeldStretch stretch in held.Held ?? [])
                        {
                            all.Add(new HeldQualification(held.QualificationId, stretch.From, stretch.Until));
                            if (stretch.EvidenceId is { } file)
                                evidence[(held.QualificationId, stretch.From)] = file;
                        }
                    }

                    await change.Writer.SaveAsync(
                        before with
                        {
                            Practitioner = before.Practitioner with { Qualifications = all },
                            Evidence = evidence,
                        }
                    );
                    await change.RecordAsync(
                        "practitioner",
                        person.Key,
                        "Qualifications",
                        PractitionerDocument.Of(change.Setup, before).Qualifications,
                        person.ToArray()
                    );
                }
            },
            setup => setup.Parts.Practitioners.Select(practitioner => PractitionerDocument.Of(setup, practitioner)).ToArray()
        );

    internal static ListedPractitioner Find(Setup setup, Guid id) => _people.Find(setup, id);
}
