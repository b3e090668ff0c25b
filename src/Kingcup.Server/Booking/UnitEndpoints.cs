using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Booking;

/// <summary>Which of the chairs, which of the lamps.</summary>
internal static class UnitEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("")
            .WithTags("Book")
            .RequireAuthorization(Rights.KeepBook)
            .ProducesProblem(401)
            .ProducesProblem(403)
            .ProducesProblem(404);
        group
            .MapGet("/visits/{id:guid}/units", async (Guid id, BookingDesk desk) => TypedResults.Ok(await desk.UnitsAsync(id)))
            .WithSummary("On which units of rooms and equipment a visit is, and where it could be instead.");
        group
            .MapPost("/visits/{id:guid}/unit", ChangeAsync)
            .WithSummary("Puts a line of a visit on another unit; whoever is there changes to the one it leaves. Needs If-Match.")
            .ProducesProblem(400)
            .ProducesProblem(409)
            .ProducesProblem(412)
            .ProducesProblem(428);
    }

    private static async Task<Ok<VisitAnswer>> ChangeAsync(
        Guid id,
        UnitRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        StoredVisit visit = await desk.ChangeUnitAsync(id, http.Version(), request, http.Actor());
        return TypedResults.Ok(
            DayPicture.Of(await book.SetupAsync(database, null), visit, clock.GetCurrentInstant()).For(http.User)
        );
    }
}
