using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>One of two linked clients.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Given and family name.</param>
public sealed record LinkedClient(Guid Id, string Name);

/// <summary>What one client may do for another.</summary>
public sealed record LinkAnswer
{
    /// <summary>Who acts.</summary>
    public required LinkedClient From { get; init; }

    /// <summary>For whom.</summary>
    public required LinkedClient To { get; init; }

    /// <summary>What they are to each other, in a word: mother, carer, same household.</summary>
    public required string Relation { get; init; }

    /// <summary>Whether they may book, move and cancel for the other.</summary>
    public bool MayBook { get; init; }

    /// <summary>Whether visits of the other may be charged to them.</summary>
    public bool MayPay { get; init; }

    /// <summary>Whether they may see what the other has booked.</summary>
    public bool MaySee { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static LinkAnswer Of(StoredLink stored) =>
        new()
        {
            From = new LinkedClient(stored.Link.From, stored.FromName),
            To = new LinkedClient(stored.Link.To, stored.ToName),
            Relation = stored.Link.Relation,
            MayBook = stored.Link.MayBook,
            MayPay = stored.Link.MayPay,
            MaySee = stored.Link.MaySee,
            Version = stored.Version,
        };
}

/// <summary>What one client is to be allowed for another.</summary>
/// <param name="Relation">What they are to each other, in a word: mother, carer, same household.</param>
/// <param name="MayBook">Whether they may book, move and cancel for the other.</param>
/// <param name="MayPay">Whether visits of the other may be charged to them.</param>
/// <param name="MaySee">Whether they may see what the other has booked.</param>
public sealed record LinkRequest(string? Relation, bool MayBook = false, bool MayPay = false, bool MaySee = false);

/// <summary>Links between clients. Each holds one way.</summary>
internal static class LinkEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/clients/{id:guid}/links")
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Clients")
            .Problems();
        group.MapGet("", AllAsync).WithSummary("Whom a client is linked with: what they may do for others, and others for them.");
        group.MapPut("/{to:guid}", SaveAsync).Changes()
            .WithSummary("Says what a client may do for another. Needs If-Match, 0 where they are not linked so yet.");
        group.MapDelete("/{to:guid}", RemoveAsync).Changes().WithSummary("Takes back what a client may do for another. Needs If-Match.");
    }

    private static async Task<Ok<LinkAnswer[]>> AllAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (await ClientStore.FindAsync(connection, id) is null) throw Refused.NotFound("There is no such client.");
        return TypedResults.Ok((await LinkStore.OfAsync(connection, id)).Select(LinkAnswer.Of).ToArray());
    }

    private static async Task<Ok<LinkAnswer>> SaveAsync(
        Guid id,
        Guid to,
        LinkRequest request,
        HttpContext http,
        Database database,
        IClock clock
    )
    {
        long version = http.Version();
        Checks checks = new();
        string? relation = checks.Take(
            ContactRules.Relation(request.Relation),
            "relation",
            $"Say in a word what they are to each other, {ContactRules.LongestRelation} characters at the most."
        );
        checks.Require(id != to, "to", "Choose somebody else: nobody is linked with themselves.");
        checks.Done();
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        foreach (Guid client in new[] { id, to })
            if (await ClientStore.FindAsync(connection, client) is null)
                throw Refused.NotFound("There is no such client.");
        ClientLink link = new(id, to, relation!) { MayBook = request.MayBook, MayPay = request.MayPay, MaySee = request.MaySee };
        if (!await LinkStore.SaveAsync(connection, link, version, new Change(http.Actor().Name, clock.GetCurrentInstant())))
            throw Refused.Stale((await LinkStore.FindAsync(connection, id, to))?.Version ?? 0);
        StoredLink saved = (await LinkStore.FindAsync(connection, id, to))!;
        await transaction.CommitAsync();
        return TypedResults.Ok(LinkAnswer.Of(saved));
    }

    private static async Task<NoContent> RemoveAsync(Guid id, Guid to, HttpContext http, Database database, IClock clock)
    {
        long version = http.Version();
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        StoredLink before = await LinkStore.FindAsync(connection, id, to) ?? throw Refused.NotFound("There is no such link.");
        if (!await LinkStore.RemoveAsync(connection, before.Link, version, new Change(http.Actor().Name, clock.GetCurrentInstant())))
            throw Refused.Stale(before.Version);
        await transaction.CommitAsync();
        return TypedResults.NoContent();
    }
}
