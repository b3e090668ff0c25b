using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>What a client is offered to have again.</summary>
/// <param name="Usual">The visit they have most often, as they had it last, or null where none stands out.</param>
/// <param name="Times">How often they had it among their last visits.</param>
/// <param name="Looked">How many visits were looked at.</param>
/// <param name="Last">Their last other ones, the latest first.</param>
public sealed record AgainAnswer(VisitAnswer? Usual, int Times, int Looked, IReadOnlyList<VisitAnswer> Last);

/// <summary>The same again.</summary>
internal static class AgainEndpoint
{
    internal static void Map(RouteGroupBuilder api) =>
        api.MapGet("/clients/{id:guid}/again", AgainAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Clients")
            .WithSummary("What a client is offered to have again: what they usually have, and what they had last.")
            .ProducesProblem(404);

    private static async Task<Ok<AgainAnswer>> AgainAsync(
        Guid id,
        Guid? locationId,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (await ClientStore.FindAsync(connection, id) is null)
            throw Refused.NotFound("There is no such client.");
        Setup setup = await book.SetupAsync(connection);
        // Twice as many as are looked at: what was cancelled, or is not done any more, is not offered.
        IReadOnlyList<StoredVisit> latest = await BookStore.LatestOfAsync(
            connection,
            id,
            Instant.FromUtc(2200, 1, 1, 0, 0),
            2 * SameAgain.Among
        );
        Dictionary<Guid, StoredVisit> visits = latest.Where(CanBeHadAgain).ToDictionary(visit => visit.Visit.Id);
        SameAgain again = SameAgain.Of(latest.Where(visit => visits.ContainsKey(visit.Visit.Id)).Select(Earlier));
        return TypedResults.Ok(
            new AgainAnswer(
                again.Usual is { } usual ? Answer(usual) : null,
                again.Times,
                again.Looked,
                [.. again.Last.Select(Answer)]
            )
        );

        bool CanBeHadAgain(StoredVisit visit) =>
            visit.Visit.VisitState != VisitState.Cancelled
            && visit.People.Count == 0
            && visit.Lines.All(line => IsDone(line.ServiceId, locationId ?? visit.Visit.LocationId));

        bool IsDone(Guid serviceId, Guid where) =>
            setup.Services.Select(service => service.Service).FirstOrDefault(service => service.Id == serviceId) is { } service
            && (service.Locations.Count == 0 || service.Locations.Contains(where));

        VisitAnswer Answer(VisitHad one) =>
            DayPicture.Of(setup, visits[one.VisitId], clock.GetCurrentInstant()).For(http.User);
    }

    private static VisitHad Earlier(StoredVisit visit) =>
        new(
            visit.Visit.Id,
            [
                .. visit.Lines.Select(line => new LineHad(
                    line.ServiceId,
                    visit.Claims.FirstOrDefault(claim => claim.OccupationId == line.Id && claim.Role == 0)?.ResourceId
                )),
            ]
        );
}
