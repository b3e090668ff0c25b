using System.Collections.Concurrent;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Api;

/// <summary>How often an address range may ask, where anyone may ask. Each can be set in the configuration (section "Limits").</summary>
internal static class Limits
{
    internal const string SignIn = "sign-in";
    internal const string PublicRead = "public-read";
    internal const string PublicBook = "public-book";
    internal const string PublicHold = "public-hold";
    internal const string PublicFile = "public-file";
    internal const string Page = "page";

    private static readonly Dictionary<string, int> _usual = new()
    {
        [SignIn] = 20,
        [PublicRead] = 240,
        [PublicBook] = 30,
        [PublicHold] = 60,
        [PublicFile] = 12,
        [Page] = 240,
    };

    /// <summary>Says which limit an endpoint falls under.</summary>
    internal sealed record LimitedBy(string Policy);

    /// <summary>Bounds how often an endpoint may be asked from one address range in a minute.</summary>
    internal static RouteHandlerBuilder Limit(this RouteHandlerBuilder route, string policy) =>
        route.WithMetadata(new LimitedBy(policy)).ProducesProblem(429);

    /// <summary>The most requests of a policy in a minute.</summary>
    internal static int MostOf(IConfiguration settings, string policy) => settings.GetValue($"Limits:{policy}", _usual[policy]);
}

/// <summary>
/// Counts requests over all servers. A server takes permits from the database a few at a time, so that most requests ask nobody;
/// however many servers there are, no more permits are given than the limit allows.
/// </summary>
internal sealed class RequestLimits(Database database, Addresses addresses, WarmUp warmUp, IConfiguration settings)
{
    // Of the limit, so much is taken at a time: what a server holds when the minute ends is lost.
    private const int Share = 12;
    private readonly ConcurrentDictionary<(string Policy, string Range), Lease> _leases = new();

    // Taken by one request at a time.
    private sealed class Lease() : SemaphoreSlim(1)
    {
        internal long Minute;
        internal int Left;
        internal bool IsSpent;
    }

    /// <summary>The middleware.</summary>
    internal async Task CheckAsync(HttpContext http, RequestDelegate next)
    {
        Limits.LimitedBy? limited = http.GetEndpoint()?.Metadata.GetMetadata<Limits.LimitedBy>();
        if (limited is not null && !await AllowsAsync(http, limited.Policy))
        {
            http.Response.Headers.RetryAfter = "60";
            throw new Refused(
                StatusCodes.Status429TooManyRequests,
                "too-often",
                "Too many requests in a short time. Wait a minute and try again."
            );
        }

        await next(http);
    }

    /// <summary>Takes a request of a policy; false when there were too many of it.</summary>
    internal async Task<bool> AllowsAsync(HttpContext http, string policy) => warmUp.Asks(http) || await TakeAsync(http, policy);

    private async Task<bool> TakeAsync(HttpContext http, string policy)
    {
        int most = Limits.MostOf(settings, policy);
        // The machine's own clock: the clock of a demo may be moved.
        long minute = SystemClock.Instance.GetCurrentInstant().ToUnixTimeSeconds() / 60;
        if (_leases.Count > 50_000) _leases.Clear();
        Lease lease = _leases.GetOrAdd((policy, Addresses.RangeOf(http.Connection.RemoteIpAddress)), static _ => new Lease());
        await lease.WaitAsync(http.RequestAborted);
        try
        {
            if (lease.Minute != minute) (lease.Minute, lease.Left, lease.IsSpent) = (minute, 0, false);
            if (lease.Left == 0 && !lease.IsSpent)
            {
                await using NpgsqlConnection connection = await database.OpenAsync();
                byte[] range = await addresses.RangeAsync(http, connection);
                int wanted = Math.Max(1, most / Share);
                lease.Left = await LimitStore.TakeRequestsAsync(connection, policy, range, minute, wanted, most);
                // What is left may be less than a share of it.
                if (lease.Left == 0 && wanted > 1)
                    lease.Left = await LimitStore.TakeRequestsAsync(connection, policy, range, minute, 1, most);
                lease.IsSpent = lease.Left == 0;
            }

            if (lease.Left == 0) return false;
            lease.Left--;
            return true;
        }
        finally
        {
            lease.Release();
        }
    }
}
