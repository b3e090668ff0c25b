using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Server.Calendar;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>What was written down about whoever comes with a visit: for the desk, and for the practitioners they come to.</summary>
internal static class VisitNoteEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/visits/{id:guid}/notes")
            .RequireAuthorization(Rights.SeeBook)
            .WithTags("Clients")
            .Problems();
        group
            .MapGet("", FindAsync)
            .WithSummary("What was written down about the client of a visit. A practitioner asks of visits of their own.");
        group
            .MapPost("", AddAsync)
            .WithSummary("Writes something down about the client of a visit. A practitioner does it of visits of their own.");
    }

    private static async Task<Ok<NoteAnswer[]>> FindAsync(Guid id, HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Guid client = await ClientOfAsync(id, http, connection);
        return TypedResults.Ok((await ClientRecordStore.NotesAsync(connection, client)).Select(NoteAnswer.Of).ToArray());
    }

    private static async Task<Created<NoteAnswer>> AddAsync(
        Guid id,
        NoteRequest request,
        HttpContext http,
        Database database,
        IClock clock
    )
    {
        Guid client;
        // Given back before the note is written over a connection of its own.
        await using (NpgsqlConnection connection = await database.OpenAsync())
            client = await ClientOfAsync(id, http, connection);
        return await RecordEndpoints.NoteAsync(client, request, http, database, clock);
    }

    private static async Task<Guid> ClientOfAsync(Guid id, HttpContext http, NpgsqlConnection connection)
    {
        StoredVisit? visit = await BookStore.FindAsync(connection, id);
        if (Rights.KeepsBook(http.User))
            return visit?.Visit.ClientId ?? throw Refused.NotFound("There is no such visit.");
        // Whether there is such a visit is nobody's business to whom it does not come.
        return visit?.Claims.Any(claim => claim.ResourceId == Rights.PractitionerOf(http.User)) == true
            ? visit.Visit.ClientId
            : throw OwnCalendar.NotAllowed();
    }
}
