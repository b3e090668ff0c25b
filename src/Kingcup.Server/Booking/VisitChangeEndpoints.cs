using Kingcup.Core.Booking;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Calendar;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>Changes of visits that stand in the book, and taking them back.</summary>
internal static class VisitChangeEndpoints
{
    private const int LongestReason = 500;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").WithTags("Book").ProducesProblem(400).ProducesProblem(401).ProducesProblem(403);
        group
            .MapPost("/visits/{id:guid}/move", MoveAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary(
                "Moves a visit to another start. Needs If-Match; over something, the X-Accept-Over of the refusal that says over what."
            )
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(412)
            .ProducesProblem(428);
        group
            .MapPost("/visits/{id:guid}/lay", LayAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary(
                "Lays a visit anew with the lines that are given. Needs If-Match; over something, the X-Accept-Over of the refusal that "
                    + "says over what."
            )
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(412)
            .ProducesProblem(428);
        group
            .MapDelete("/visits/{id:guid}", DeleteAsync)
            .RequireAuthorization(Rights.TakeBack)
            .WithSummary("Takes out a visit that was entered by mistake; its history stays. Needs If-Match.")
            .ProducesProblem(404)
            .ProducesProblem(412)
            .ProducesProblem(428);
        group
            .MapGet("/undo", StepsAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("What whoever asks did in the book last, newest first.");
        group
            .MapPost("/undo/{stepId:guid}", UndoAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Undoes one of the last things whoever asks did.")
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/visits/{id:guid}/cancel", CancelAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Cancels a visit; it is kept with its reason. Needs If-Match.")
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(412)
            .ProducesProblem(428);
        group
            .MapPost("/visits/{id:guid}/state", StateAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary(
                "Says the client has arrived, is in treatment, is done, or did not come. A practitioner says it of their own visits, if "
                    + "they may. Needs If-Match."
            )
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(412)
            .ProducesProblem(428);
    }

    /// <summary>Whoever keeps the book says of every visit where it stands, a practitioner of their own if they may.</summary>
    private static async Task AllowStateAsync(Guid id, HttpContext http, Database database)
    {
        if (Rights.KeepsBook(http.User))
            return;
        await using NpgsqlConnection connection = await database.OpenAsync();
        StaffRow? staff = await StaffStore.FindAsync(connection, http.StaffId());
        if (staff?.KeepsOwnVisits != true)
            throw OwnCalendar.NotAllowed();
        StoredVisit visit = await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit.");
        if (visit.Claims.All(claim => claim.ResourceId != staff.PractitionerId))
            throw OwnCalendar.NotAllowed();
    }

    /// <summary>Why something is cancelled.</summary>
    internal static string CheckReason(string? asked)
    {
        string reason = asked?.Trim() ?? "";
        return reason.Length is 0 or > LongestReason
            ? throw Refused.Invalid("reason", $"Say why it is cancelled, in {LongestReason} characters at the most.")
            : reason;
    }

    private static async Task<Ok<VisitAnswer>> MoveAsync(
        Guid id,
        MoveRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    ) =>
        await AnswerAsync(
            await desk.MoveAsync(id, http.Version(), request.Start, request.PractitionerId, http.Actor(), SeenWarnings.Of(http)),
            http,
            database,
            book,
            clock
        );

    private static async Task<Ok<VisitAnswer>> LayAsync(
        Guid id,
        LayRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    ) =>
        await AnswerAsync(
            await desk.LayAsync(id, http.Version(), request, http.Actor(), SeenWarnings.Of(http)),
            http,
            database,
            book,
            clock
        );

    private static async Task<NoContent> DeleteAsync(Guid id, HttpContext http, BookingDesk desk)
    {
        await desk.DeleteAsync(id, http.Version(), http.Actor());
        return TypedResults.NoContent();
    }

    private static async Task<Ok<StepAnswer[]>> StepsAsync(HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        IReadOnlyList<StepRow> steps = await StepStore.OfAsync(connection, http.StaffId());
        return TypedResults.Ok(
            steps.Select(step => new StepAnswer(step.Id, step.At, step.StepKind, step.Visits, step.UndoneAt is not null)).ToArray()
        );
    }

    private static async Task<Ok<UndoneAnswer>> UndoAsync(
        Guid stepId,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        IReadOnlyList<StoredVisit> visits = await desk.UndoAsync(stepId, http.Actor());
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        return TypedResults.Ok(
            new UndoneAnswer([.. visits.Select(visit => DayPicture.Of(setup, visit, clock.GetCurrentInstant()).For(http.User))])
        );
    }

    private static async Task<Ok<VisitAnswer>> CancelAsync(
        Guid id,
        CancelRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        string reason = CheckReason(request.Reason);
        FeeOrder fee = CheckFee(request.FeeSeen, request.Waive, http);
        if (request.By == CancelledBy.Nobody)
            throw Refused.Invalid("by", "Say who cancels: the client or the business.");
        string words = RequestEndpoints.CheckWords(request.Words);
        StoredVisit visit = await desk.CancelAsync(id, http.Version(), request.By, reason, http.Actor(), fee, words);
        return await AnswerAsync(visit, http, database, book, clock);
    }

    /// <summary>What is said of the fee; letting somebody off it is for those who may, and has a reason.</summary>
    private static FeeOrder CheckFee(long? seen, string? waive, HttpContext http)
    {
        string? reason = waive?.Trim();
        if (reason is null) return new FeeOrder(seen);
        if (!Rights.WaivesFees(http.User))
            throw new Refused(StatusCodes.Status403Forbidden, "not-allowed", "Only owners and managers let a client off a fee.", "waive");
        if (reason.Length is 0 or > 500 || reason.Any(char.IsControl))
            throw Refused.Invalid("waive", "Say why the client is let off, in 500 characters at the most.");
        return new FeeOrder(seen, reason);
    }

    private static async Task<Ok<VisitAnswer>> StateAsync(
        Guid id,
        StateRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        if (!Enum.IsDefined(request.State) || request.State == VisitState.Cancelled)
            throw Refused.Invalid("state", "Choose a state; cancelling needs a reason and has an address of its own.");
        await AllowStateAsync(id, http, database);
        FeeOrder fee = CheckFee(request.FeeSeen, request.Waive, http);
        StoredVisit visit = await desk.SetStateAsync(id, http.Version(), request.State, http.Actor(), fee);
        return await AnswerAsync(visit, http, database, book, clock);
    }

    internal static async Task<Ok<VisitAnswer>> AnswerAsync(
        StoredVisit visit,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(DayPicture.Of(await book.SetupAsync(connection), visit, clock.GetCurrentInstant()).For(http.User));
    }
}
