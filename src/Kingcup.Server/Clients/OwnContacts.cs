using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Clients;

/// <summary>How somebody is called and reached, as they see and change it themselves.</summary>
public sealed record OwnContact
{
    /// <summary>The client.</summary>
    public Guid Id { get; init; }

    /// <summary>To be sent with a change.</summary>
    public required long Version { get; init; }

    /// <summary>Given name.</summary>
    public required string? GivenName { get; init; }

    /// <summary>Family name.</summary>
    public required string? FamilyName { get; init; }

    /// <summary>E-mail address, or null.</summary>
    public required string? Email { get; init; }

    /// <summary>Telephone number, or null.</summary>
    public required string? Phone { get; init; }

    /// <summary>Which of the two they have shown to be theirs, "email" or "phone"; it stays what it is.</summary>
    public string Shown { get; init; } = "";

    internal static OwnContact Of(ClientRow client, string address) =>
        new()
        {
            Id = client.Id,
            Version = client.Version,
            GivenName = client.GivenName,
            FamilyName = client.FamilyName,
            Email = client.Email,
            Phone = client.Phone is { } phone ? ContactRules.Readable(phone) : null,
            Shown = client.Email == address ? "email" : "phone",
        };
}

/// <summary>One's own details.</summary>
internal static class OwnContacts
{
    internal static void Map(RouteGroupBuilder group) =>
        group
            .MapPut("/mine/details/{id:guid}", SaveAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Changes how one is called and reached. The address one has shown to be one's own stays.")
            .ProducesProblem(401)
            .ProducesProblem(412);

    private static async Task<Ok<OwnContact>> SaveAsync(
        Guid id,
        OwnContact request,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlConnection connection = await database.OpenAsync();
        (OwnSession session, IReadOnlyList<Guid> clients) = await OwnDoor.WhoAsync(http, connection, now);
        if (!clients.Contains(id)) throw OwnDoor.SignedOut();
        string region = (await book.SetupAsync(connection)).Business.Region;
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        ClientRow before = (await ClientStore.FindAsync(connection, id))!;
        bool isByEmail = before.Email == session.Address;
        Checks checks = new();
        // What is empty of the other is left empty.
        ClientRow typed = new NewClientRequest(
            request.GivenName,
            request.FamilyName,
            isByEmail ? before.Email : request.Email,
            isByEmail ? request.Phone : before.Phone
        ).Check("", region, now, reachable: false, checks);
        checks.Done();
        ClientRow after = before with
        {
            GivenName = typed.GivenName,
            FamilyName = typed.FamilyName,
            Email = typed.Email,
            Phone = typed.Phone,
            Version = request.Version,
        };
        if (!await ClientStore.SaveAsync(connection, before, after, new Change(Say("Client, online"), now)))
            throw Refused.Stale(before.Version);
        await transaction.CommitAsync();
        return TypedResults.Ok(OwnContact.Of((await ClientStore.FindAsync(connection, id))!, session.Address));
    }
}
