using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Kingcup.Server.Business;

/// <summary>
/// Something of the setup that is listed, added, and changed by its version: what is the same for practitioners, rooms,
/// equipment, qualifications, categories, services and add-ons.
/// </summary>
/// <typeparam name="TDocument">How it is told over HTTP.</typeparam>
/// <typeparam name="TKept">How it is kept.</typeparam>
internal sealed record SetupList<TDocument, TKept>
    where TDocument : class
    where TKept : class
{
    /// <summary>What the history calls it.</summary>
    public required string Kind { get; init; }

    /// <summary>What is said when there is none of that identity.</summary>
    public required Sentence NotThere { get; init; }

    /// <summary>All of them in order.</summary>
    public required Func<Setup, IEnumerable<TKept>> All { get; init; }

    /// <summary>Identity.</summary>
    public required Func<TKept, Guid> IdOf { get; init; }

    /// <summary>Version.</summary>
    public required Func<TKept, long> VersionOf { get; init; }

    /// <summary>Tells one.</summary>
    public required Func<Setup, TKept, TDocument> Tell { get; init; }

    /// <summary>Checks a request for an identity, over what was kept before (null for a new one).</summary>
    public required Func<TDocument, Checks, SetupChange, Guid, TKept?, Task<TKept>> Check { get; init; }

    /// <summary>Keeps one.</summary>
    public required Func<SetupChange, TKept, Task> Save { get; init; }

    /// <summary>One by identity.</summary>
    /// <exception cref="Refused">There is none.</exception>
    internal TKept Find(Setup setup, Guid id) => All(setup).FirstOrDefault(item => IdOf(item) == id) ?? throw Refused.NotFound(NotThere);

    /// <summary>Maps listing, adding and changing.</summary>
    internal void Map(RouteGroupBuilder group, string path, string listed, string added, string changed)
    {
        group
            .MapGet(
                path,
                (Database database, BookReader book) =>
                    book.ReadAsync(database, setup => All(setup).Select(item => Tell(setup, item)).ToArray())
            )
            .WithSummary(listed);
        group
            .MapPost(path, (TDocument request, HttpContext http, SetupDesk desk) => AddAsync(path, request, http, desk))
            .WithSummary(added);
        group
            .MapPut(
                path + "/{id:guid}",
                (Guid id, TDocument request, HttpContext http, SetupDesk desk, Database database, BookReader book) =>
                    SaveAsync(id, request, http, desk, database, book)
            )
            .Changes()
            .WithSummary(changed + " Needs If-Match.");
    }

    private Task<Created<TDocument>> AddAsync(string path, TDocument request, HttpContext http, SetupDesk desk) => desk.CreateAsync(
        http,
        async change =>
        {
            Checks checks = new();
            TKept made = await Check(request, checks, change, Guid.CreateVersion7(), null);
            checks.Done();
            await Save(change, made);
            await change.RecordAsync(Kind, IdOf(made), "Added", null, request);
            return IdOf(made);
        },
        (setup, id) => ($"/api/v1/setup{path}/{id}", Tell(setup, Find(setup, id))));

    private Task<Ok<TDocument>> SaveAsync(
        Guid id,
        TDocument request,
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
                TKept before = Find(change.Setup, id);
                SetupChange.Match(http, VersionOf(before));
                Checks checks = new();
                TKept after = await Check(request, checks, change, id, before);
                checks.Done();
                await Save(change, after);
                await change.RecordAsync(Kind, id, "Changed", Tell(change.Setup, before), request);
            },
            setup => Tell(setup, Find(setup, id))
        );
}
