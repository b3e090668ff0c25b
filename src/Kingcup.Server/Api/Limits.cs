using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;

namespace Kingcup.Server.Api;

/// <summary>How often an address may ask, where anyone may ask. Each can be set in the configuration (section "Limits").</summary>
internal static class Limits
{
    internal const string SignIn = "sign-in";
    internal const string PublicRead = "public-read";
    internal const string PublicBook = "public-book";

    internal static void Add(RateLimiterOptions options, IConfiguration settings)
    {
        options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        options.OnRejected = async (context, cancel) =>
        {
            context.HttpContext.Response.Headers.RetryAfter = "60";
            await context.HttpContext.RequestServices.GetRequiredService<IProblemDetailsService>().WriteAsync(new ProblemDetailsContext
            {
                HttpContext = context.HttpContext,
                ProblemDetails = ProblemAnswers.New(429, "too-often", "Too many requests in a short time. Wait a minute and try again."),
            });
        };
        PerMinute(SignIn, 20);
        PerMinute(PublicRead, 240);
        PerMinute(PublicBook, 30);

        void PerMinute(string name, int usual)
        {
            int permits = settings.GetValue($"Limits:{name}", usual);
            options.AddPolicy(name, http => RateLimitPartition.GetFixedWindowLimiter(
                http.Connection.RemoteIpAddress?.ToString() ?? "",
                _ => new FixedWindowRateLimiterOptions { PermitLimit = permits, Window = TimeSpan.FromMinutes(1) }));
        }
    }
}
