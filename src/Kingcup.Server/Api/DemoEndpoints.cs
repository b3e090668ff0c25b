using Kingcup.Server.SignIn;
using NodaTime;

namespace Kingcup.Server.Api;

/// <summary>Where the clock of a demo business is to be moved.</summary>
/// <param name="To">An instant not before the clock's present one.</param>
public sealed record ClockRequest(Instant To);

/// <summary>What the clock shows.</summary>
/// <param name="Now">The present.</param>
public sealed record ClockAnswer(Instant Now);

/// <summary>What only a demo business can do.</summary>
internal static class DemoEndpoints
{
    internal static void Map(RouteGroupBuilder api) =>
        api.MapPost(
                "/demo/clock",
                async (ClockRequest request, BusinessClock clock) =>
                {
                    await clock.MoveToAsync(request.To);
                    return TypedResults.Ok(new ClockAnswer(clock.GetCurrentInstant()));
                }
            )
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Demo")
            .WithSummary("Moves the clock of a demo business forward.")
            .ProducesProblem(400)
            .ProducesProblem(403);
}
