using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.Money;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>Everything that has gathered about a client.</summary>
internal static class RecordEndpoints
{
    private const int MostEvents = 50,
        Years = 2;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/clients/{id:guid}").RequireAuthorization(Rights.KeepBook).WithTags("Clients").Problems();
        group.MapGet("/record", FindAsync).WithSummary("A client with everything that has gathered about them.");
        group
            .MapGet("/timeline", TimelineAsync)
            .WithSummary("Everything that happened with a client and their visits, the newest first, fifty at a time.");
        group.MapPost("/notes", NoteAsync).WithSummary("Writes something down about a client.");
        group.MapPost("/consents", ConsentAsync).WithSummary("Writes down that a client agrees to something, or takes it back.");
    }

    private static async Task<Ok<ClientRecordAnswer>> FindAsync(Guid id, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        ClientRow client = await ClientStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such client.");
        Setup setup = await book.SetupAsync(connection);
        Instant now = clock.GetCurrentInstant();
        LocalDate today = setup.Today(now),
            from = today.PlusYears(-Years);
        IReadOnlyList<ClientVisitMark> marks = await ClientRecordStore.MarksAsync(connection, id, from);
        VisitState[] not = [VisitState.Cancelled, VisitState.NoShow, VisitState.Requested];
        ClientVisitMark[] counted = [.. marks.Where(mark => !not.Contains(Enum.Parse<VisitState>(mark.State)))];
        Rhythm rhythm = Rhythm.Of(
            counted.Where(mark => mark.Date <= today).Select(mark => mark.Date),
            hasOneAhead: counted.Any(mark => mark.Date > today)
        );
        return TypedResults.Ok(
            new ClientRecordAnswer
            {
                Client = ClientDocument.Of(client),
                Since = client.CreatedAt,
                LastVisit = counted.LastOrDefault(mark => mark.Date <= today)?.Date,
                EveryDays = rhythm.EveryDays,
                Due = rhythm.Due,
                Today = today,
                From = from,
                Marks =
                [
                    .. marks.Select(mark => new MarkAnswer(
                        mark.Id,
                        mark.Date,
                        Enum.Parse<VisitState>(mark.State),
                        mark.CategoryId,
                        mark.LocationId
                    )),
                ],
                CashToGive = await CashAnswer.OfAsync(connection, id, setup.Business.Currency),
                Notes = [.. (await ClientRecordStore.NotesAsync(connection, id)).Select(NoteAnswer.Of)],
                Consents = [.. (await ClientRecordStore.ConsentsAsync(connection, id)).Select(ConsentAnswer.Of)],
                Merges = [.. (await MergeStore.IntoAsync(connection, id)).Select(MergeAnswer.Of)],
                BookedTwice = await MergeEndpoints.BookedTwiceAsync(connection, setup, id, now),
                Alike = await MergeEndpoints.AlikeAsync(connection, id),
            }
        );
    }

    private static async Task<Ok<EventAnswer[]>> TimelineAsync(Guid id, long? before, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (await ClientStore.FindAsync(connection, id) is null) throw Refused.NotFound("There is no such client.");
        return TypedResults.Ok(
            (await ClientRecordStore.EventsAsync(connection, id, before ?? long.MaxValue, MostEvents))
                .Select(happened => new EventAnswer(
                    happened.Id,
                    happened.At,
                    happened.Actor,
                    happened.Action,
                    happened.SubjectKind == "visit" ? happened.SubjectId : null,
                    happened.Reference
                )
                {
                    Before = happened.Before,
                    After = happened.After,
                })
                .ToArray()
        );
    }

    /// <summary>Writes a note of whoever asks.</summary>
    internal static async Task<Created<NoteAnswer>> NoteAsync(
        Guid id,
        NoteRequest request,
        HttpContext http,
        Database database,
        IClock clock
    )
    {
        string words = request.Words?.Trim() ?? "";
        Checks checks = new();
        checks.Require(
            words.Length is > 0 and <= NoteRequest.Longest,
            "words",
            $"Write something, {NoteRequest.Longest} characters at the most."
        );
        checks.Done();
        ClientNote note = new(Guid.CreateVersion7(), words, http.Actor().Name, clock.GetCurrentInstant());
        return await WriteAsync(
            id,
            http,
            database,
            note.At,
            NoteAnswer.Of(note),
            connection => ClientRecordStore.AddNoteAsync(connection, id, note)
        );
    }

    private static async Task<Created<ConsentAnswer>> ConsentAsync(
        Guid id,
        ConsentRequest request,
        HttpContext http,
        Database database,
        IClock clock
    )
    {
        string words = request.Words?.Trim() ?? "";
        Checks checks = new();
        checks.Require(
            words.Length is > 0 and <= ConsentRequest.Longest,
            "words",
            $"Write in which words they were asked, {ConsentRequest.Longest} characters at the most."
        );
        checks.Done();
        ClientConsent consent = new(request.Kind.ToString(), request.Given, words, http.Actor().Name, clock.GetCurrentInstant());
        return await WriteAsync(
            id,
            http,
            database,
            consent.At,
            ConsentAnswer.Of(consent),
            connection => ClientRecordStore.AddConsentAsync(connection, id, consent)
        );
    }

    /// <summary>Writes something down for a client who is there and was not put aside, once for each key.</summary>
    private static async Task<Created<T>> WriteAsync<T>(
        Guid id,
        HttpContext http,
        Database database,
        Instant at,
        T body,
        Func<NpgsqlConnection, Task> write
    )
        where T : class
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        RequestKey? key = http.Key();
        if (key is not null) await key.TakeAsync(connection, at);
        ClientRow client = await ClientStore.LockedAsync(connection, id) ?? throw Refused.NotFound("There is no such client.");
        if (client.MergedInto is not null) throw MergeEndpoints.PutAside();
        await write(connection);
        Answered answer = new($"/api/v1/clients/{id}/record", body);
        if (key is not null) await key.KeepAsync(connection, answer);
        await transaction.CommitAsync();
        return TypedResults.Created(answer.Location, body);
    }
}
