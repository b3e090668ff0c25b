using Kingcup.Core.Business;
using Kingcup.Server.SignIn;

namespace Kingcup.Server.Business;

/// <summary>
/// The way from an empty business to a page that takes bookings: described as a whole, tried as it is described, and made in one
/// transaction, so that nothing is ever half begun.
/// </summary>
internal static class BeginEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Setup").Problems();
        group
            .MapGet("/beginnings", () => TypedResults.Ok(Beginnings.All.Select(BeginningAnswer.Of).ToArray()))
            .WithSummary("What a business of each trade usually begins with.");
        group
            .MapPost(
                "/begin/try",
                (BeginRequest request, HttpContext http, Beginner beginner) => beginner.RunAsync(request, http, keep: false)
            )
            .ProducesProblem(409)
            .WithSummary("What clients would find if the business began so; nothing is kept.");
        group
            .MapPost("/begin", (BeginRequest request, HttpContext http, Beginner beginner) => beginner.RunAsync(request, http, keep: true))
            .ProducesProblem(409)
            .WithSummary("Begins an empty business: location, hours, rooms, people, rotas, qualifications and services at once.");
    }
}
