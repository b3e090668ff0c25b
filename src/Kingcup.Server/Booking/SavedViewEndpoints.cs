using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>A view of the agenda, saved by name.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Query">What it holds, as the address of the agenda says it.</param>
/// <param name="IsForAll">Whether everybody at the desk has it.</param>
/// <param name="MayRemove">Whether this person may remove it.</param>
public sealed record SavedViewAnswer(Guid Id, string Name, string Query, bool IsForAll, bool MayRemove);

/// <summary>A view to save. One that is called the same is replaced.</summary>
/// <param name="Name">What it is called, 60 characters at the most.</param>
/// <param name="Query">What it holds, as the address of the agenda says it.</param>
/// <param name="IsForAll">Whether everybody at the desk is to have it.</param>
public sealed record SavedViewRequest(string? Name, string? Query, bool IsForAll);

/// <summary>Views of the agenda that somebody has saved by name.</summary>
internal static class SavedViewEndpoints
{
    private const int LongestName = 60,
        LongestQuery = 4000;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/views").RequireAuthorization(Rights.KeepBook).WithTags("Book").Problems();
        group.MapGet("", AllAsync).WithSummary("The views this person has saved, and those for all.");
        group.MapPost("", SaveAsync).ProducesProblem(409).WithSummary("Saves a view; one that is called the same is replaced.");
        group.MapDelete("/{id:guid}", RemoveAsync).WithSummary("Removes a view: one's own, or one for all that one has saved.");
    }

    private static async Task<Ok<SavedViewAnswer[]>> AllAsync(HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(
            (await ViewStore.OfAsync(connection, http.StaffId())).Select(view => Of(view, http)).ToArray()
        );
    }

    private static SavedViewAnswer Of(SavedView view, HttpContext http) =>
        new(view.Id, view.Name, view.Query, view.StaffId is null, MayRemove(view, http));

    // What is for all is removed by whoever saved it, and by whoever describes the business.
    private static bool MayRemove(SavedView view, HttpContext http) =>
        view.StaffId is not null || view.CreatedBy == http.StaffId() || Rights.EditsSetup(http.User);

    private static async Task<Ok<SavedViewAnswer>> SaveAsync(SavedViewRequest request, HttpContext http, Database database, IClock clock)
    {
        Checks checks = new();
        string? name = checks.Name(request.Name, "name", "Say what the view is called.");
        checks.Require(name is null || name.Length <= LongestName, "name", $"{LongestName} characters at the most.");
        string query = request.Query ?? "";
        checks.Require(
            query.Length <= LongestQuery && query.All(letter => letter is > ' ' and < '\u007f'),
            "query",
            "What is saved is the address of an agenda."
        );
        checks.Done();
        SavedView view = new(Guid.CreateVersion7(), request.IsForAll ? null : http.StaffId(), name!, query, http.StaffId());
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (!await ViewStore.SaveAsync(connection, view, clock.GetCurrentInstant()))
            throw new Refused(
                StatusCodes.Status409Conflict,
                "too-many",
                $"{ViewStore.Most} views are the most. Remove one that nobody uses, then save this one."
            );
        SavedView saved = (await ViewStore.OfAsync(connection, http.StaffId())).First(one =>
            one.StaffId == view.StaffId && string.Equals(one.Name, view.Name, StringComparison.OrdinalIgnoreCase)
        );
        return TypedResults.Ok(Of(saved, http));
    }

    private static async Task<NoContent> RemoveAsync(Guid id, HttpContext http, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        SavedView view =
            (await ViewStore.OfAsync(connection, http.StaffId())).FirstOrDefault(one => one.Id == id)
            ?? throw Refused.NotFound("There is no such view.");
        if (!MayRemove(view, http))
            throw new Refused(StatusCodes.Status403Forbidden, "not-yours", "Whoever saved this view, or an owner or manager, removes it.");
        await ViewStore.RemoveAsync(connection, id);
        return TypedResults.NoContent();
    }
}
