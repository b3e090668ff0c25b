using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>Visits that repeat.</summary>
internal static class SeriesEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").WithTags("Book").ProducesProblem(400).ProducesProblem(401).ProducesProblem(403);
        group
            .MapPost("/visits/repeat/try", async (RepeatTryRequest request, BookingDesk desk) => await desk.TrySeriesAsync(request))
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("What every visit of a row would meet, and how that can be solved.");
        group
            .MapPost("/visits/repeat", BookAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Books all visits of a row, or none. Accepts an Idempotency-Key.")
            .ProducesProblem(409)
            .ProducesProblem(422);
        group
            .MapPost("/visits/{id:guid}/series/cancel", CancelAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Cancels a visit of a row with those that follow it, or all that have not begun. Needs If-Match.")
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(412)
            .ProducesProblem(428);
        group
            .MapPost(
                "/visits/{id:guid}/series/try",
                async (Guid id, RowMoveTryRequest request, BookingDesk desk) => await desk.TryRowMoveAsync(id, request)
            )
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Where each visit of a row would go when one of them is moved, and what it would meet there.")
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/visits/{id:guid}/series/lay", MoveAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Moves visits of one row, all of them or none.")
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(412);
    }

    private static async Task<Ok<SeriesAnswer>> MoveAsync(
        Guid id,
        RowMoveRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        IReadOnlyList<StoredVisit> visits = await desk.MoveRowAsync(id, request, http.Actor());
        Setup setup = await book.SetupAsync(database, null);
        return TypedResults.Ok(
            new SeriesAnswer([.. visits.Select(visit => DayPicture.Of(setup, visit, clock.GetCurrentInstant()).For(http.User))])
        );
    }

    private static async Task<Created<SeriesAnswer>> BookAsync(
        RepeatRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        Setup setup = await book.SetupAsync(database, http.Key());
        Checks checks = new();
        ClientRow? entered = BookEndpoints.CheckClient(request.ClientId, request.NewClient, request.Note, setup, clock, checks);
        foreach ((int i, DeskLineRequest line) in (request.Lines ?? []).Index())
            checks.Require(
                line.Person is null or 0,
                $"lines[{i}].person",
                "A visit that repeats is for one person. Book the others beside it."
            );
        checks.Done();
        IReadOnlyList<OccurrenceRequest> occurrences = request.Occurrences ?? [];
        IReadOnlyList<StoredVisit> visits = await desk.BookSeriesAsync(
            new BookingOrder
            {
                LocationId = request.LocationId,
                Start = occurrences.Count > 0 ? occurrences[0].Start : default,
                Wanted = WantedVisit.Of(setup, request.Lines),
                Client = new ClientAsked(request.ClientId ?? entered!.Id),
                NewClient = entered,
                Source = "Desk",
                Note = request.Note?.Trim() ?? "",
            },
            occurrences,
            http.Actor(),
            http.Key(),
            Answer
        );
        Answered answer = Answer(setup, visits);
        return TypedResults.Created(answer.Location, (SeriesAnswer)answer.Body);

        Answered Answer(Setup present, IReadOnlyList<StoredVisit> booked) =>
            new(
                $"/api/v1/visits/{booked[0].Visit.Id}",
                new SeriesAnswer([.. booked.Select(visit => DayPicture.Of(present, visit, clock.GetCurrentInstant()))])
            );
    }

    private static async Task<Ok<SeriesAnswer>> CancelAsync(
        Guid id,
        SeriesCancelRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        string reason = VisitChangeEndpoints.CheckReason(request.Reason);
        IReadOnlyList<StoredVisit> visits = await desk.CancelSeriesAsync(
            id,
            http.Version(),
            request with { Reason = reason },
            http.Actor()
        );
        Setup setup = await book.SetupAsync(database, null);
        return TypedResults.Ok(
            new SeriesAnswer([.. visits.Select(visit => DayPicture.Of(setup, visit, clock.GetCurrentInstant()).For(http.User))])
        );
    }
}
