using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Clients;

/// <summary>Records that are likely of one person, and visits booked twice: finding them, making one of two, taking them apart.</summary>
internal static class MergeEndpoints
{
    private const int MostAlike = 200;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/clients").RequireAuthorization(Rights.KeepBook).WithTags("Clients").Problems();
        group.MapGet("/alike", AllAlikeAsync).WithSummary("Pairs of records that are likely of one person, the likeliest first.");
        group
            .MapGet("/{id:guid}/alike", AlikeOfAsync)
            .WithSummary("Pairs of records that are likely of one person, of which one is this client's, the likeliest first.");
        group.MapGet("/booked-twice", AllBookedTwiceAsync).WithSummary("Visits ahead that clients have likely booked twice.");
        group.MapGet("/{id:guid}/beside/{other:guid}", BesideAsync).WithSummary("Two records side by side, as they would be made one.");
        group.MapPost("/{id:guid}/merge", MergeAsync).Changes().WithSummary("Makes one of two records. Needs If-Match.");
        group.MapPost("/{id:guid}/two-people/{other:guid}", TwoPeopleAsync).WithSummary("Says that two records are of two people.");
        group.MapPost("/merges/{mergeId:guid}/undo", ApartAsync).Changes().WithSummary("Takes two records apart that were made one.");
    }

    /// <summary>Something is to be done with a record that was put aside.</summary>
    internal static Refused PutAside() =>
        new(StatusCodes.Status409Conflict, "put-aside", "This record has been made one with another. Open that one.");

    /// <summary>What clients have likely booked twice, by day: one client, or all.</summary>
    internal static async Task<IReadOnlyList<DoubleBookingAnswer>> BookedTwiceAsync(
        NpgsqlConnection connection,
        Setup setup,
        Guid? clientId,
        Instant now
    )
    {
        // Yesterday's may last until today, and it may be yesterday elsewhere.
        LocalDate from = setup.Today(now).PlusDays(-1);
        IReadOnlyList<LineAhead> lines = await BookStore.AheadAsync(connection, from, clientId is { } one ? [one] : null);
        return
        [
            .. lines
                .GroupBy(line => line.ClientId)
                .SelectMany(own =>
                    DoubleBookings
                        .Of(own.Select(line => line.Line), now)
                        .Select(pair => Of(own.First(line => line.Line.VisitId == pair.VisitId), pair))
                )
                .OrderBy(pair => pair.Date)
                .ThenBy(pair => pair.VisitId),
        ];
    }

    private static DoubleBookingAnswer Of(LineAhead first, DoubleBooking pair) =>
        new(
            new LinkedClient(first.ClientId, first.Client),
            pair.VisitId,
            pair.OtherId,
            first.Date,
            first.LocationId,
            pair.Reason
        );

    /// <summary>Records likely of the same person, of one client or of all, the likeliest first.</summary>
    internal static async Task<IReadOnlyList<LikenessAnswer>> AlikeAsync(NpgsqlConnection connection, Guid? clientId)
    {
        LikelyPair[] pairs =
        [
            .. Duplicates
                .Among(await MergeStore.SharingAsync(connection, clientId), await MergeStore.SaidApartAsync(connection, clientId))
                .Where(pair => clientId is null || pair.OneId == clientId || pair.OtherId == clientId)
                .Take(MostAlike),
        ];
        IReadOnlyDictionary<Guid, ClientRow> clients = await MergeStore.TheseAsync(
            connection,
            [.. pairs.SelectMany(pair => new[] { pair.OneId, pair.OtherId }).Distinct()]
        );
        return
        [
            .. pairs
                // The one with more visits is kept, or the older one.
                .Select(pair =>
                    new[] { clients[pair.OneId], clients[pair.OtherId] }
                        .OrderByDescending(one => one.Visits)
                        .ThenBy(one => one.CreatedAt)
                        .ToArray()
                )
                .Select(pair => LikenessAnswer.Of(pair[0], pair[1])),
        ];
    }

    private static async Task<Ok<IReadOnlyList<LikenessAnswer>>> AllAlikeAsync(Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(await AlikeAsync(connection, null));
    }

    private static async Task<Ok<IReadOnlyList<LikenessAnswer>>> AlikeOfAsync(Guid id, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return await ClientStore.FindAsync(connection, id) is null
            ? throw Refused.NotFound("There is no such client.")
            : TypedResults.Ok(await AlikeAsync(connection, id));
    }

    private static async Task<Ok<IReadOnlyList<DoubleBookingAnswer>>> AllBookedTwiceAsync(Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        return TypedResults.Ok(await BookedTwiceAsync(connection, setup, null, clock.GetCurrentInstant()));
    }

    private static async Task<Ok<LikenessAnswer>> BesideAsync(Guid id, Guid other, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        (ClientRow kept, ClientRow gone) = await BothAsync(id, other, () => FindAsync(connection, id, other));
        return TypedResults.Ok(LikenessAnswer.Of(kept, gone));
    }

    private static async Task<(ClientRow?, ClientRow?)> FindAsync(NpgsqlConnection connection, Guid id, Guid other) =>
        (await ClientStore.FindAsync(connection, id), await ClientStore.FindAsync(connection, other));

    /// <summary>Two records that may be made one: two of them, both there, neither put aside.</summary>
    private static async Task<(ClientRow Kept, ClientRow Gone)> BothAsync(
        Guid id,
        Guid other,
        Func<Task<(ClientRow? Kept, ClientRow? Gone)>> find
    )
    {
        if (id == other) throw Refused.Invalid("goneId", "Choose another record: one cannot be made one with itself.");
        (ClientRow? kept, ClientRow? gone) = await find();
        if (kept is null || gone is null) throw Refused.NotFound("There is no such client.");
        return kept.MergedInto is null && gone.MergedInto is null ? (kept, gone) : throw PutAside();
    }

    private static Task<Ok<MergeAnswer>> MergeAsync(Guid id, MergeRequest request, HttpContext http, Database database, IClock clock) =>
        OnceMore.RunAsync(async () =>
        {
            long version = http.Version();
            await using NpgsqlConnection connection = await database.OpenAsync();
            await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
            (ClientRow kept, ClientRow gone) = await BothAsync(
                id,
                request.GoneId,
                () => MergeStore.LockAsync(connection, id, request.GoneId)
            );
            if (kept.Version != version) throw Refused.Stale(kept.Version);
            if (gone.Version != request.GoneVersion) throw Refused.Stale(gone.Version);
            Guid mergeId = await MergeStore.MergeAsync(
                connection,
                kept,
                gone,
                Merging.Merged(kept.Facts, gone.Facts, request.FromGone.Distinct()),
                new Change(http.Actor().Name, clock.GetCurrentInstant())
            );
            StoredMerge merge = (await MergeStore.FindAsync(connection, mergeId))!;
            await transaction.CommitAsync();
            return TypedResults.Ok(MergeAnswer.Of(merge));
        });

    private static async Task<NoContent> TwoPeopleAsync(Guid id, Guid other, Database database, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await BothAsync(id, other, () => FindAsync(connection, id, other));
        await MergeStore.SayApartAsync(connection, id, other, clock.GetCurrentInstant());
        return TypedResults.NoContent();
    }

    private static Task<Ok<ClientDocument>> ApartAsync(Guid mergeId, HttpContext http, Database database, IClock clock) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
            StoredMerge seen = await MergeStore.FindAsync(connection, mergeId) ?? throw Refused.NotFound("These were never made one.");
            (ClientRow? kept, _) = await MergeStore.LockAsync(connection, seen.KeptId, seen.GoneId);
            // What was true before both were locked need not be true any more.
            StoredMerge merge = (await MergeStore.FindAsync(connection, mergeId))!;
            if (merge.ApartAt is not null)
                throw new Refused(StatusCodes.Status409Conflict, "apart", "These have been taken apart already.");
            if (kept!.MergedInto is not null) throw PutAside();
            if ((await MergeStore.IntoAsync(connection, merge.KeptId)) is [{ Id: Guid last, GoneName: string name }, ..] && last != mergeId)
                throw new Refused(StatusCodes.Status409Conflict, "later-merge", Say($"First take {name} apart, who was added later."));
            await MergeStore.ApartAsync(connection, merge, kept, new Change(http.Actor().Name, clock.GetCurrentInstant()));
            ClientRow after = (await ClientStore.FindAsync(connection, merge.KeptId))!;
            await transaction.CommitAsync();
            return TypedResults.Ok(ClientDocument.Of(after));
        });
}
