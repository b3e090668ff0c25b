using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Api;

/// <summary>While the database cannot be reached everything says so and when to try again; afterwards all is as before.</summary>
public sealed class DatabaseAwayTests
{
    private static async Task<ApiAnswer> UntilAsync(Func<Task<ApiAnswer>> ask, HttpStatusCode status)
    {
        using CancellationTokenSource patience = new(TimeSpan.FromSeconds(40));
        while (true)
        {
            ApiAnswer answer = await ask();
            if (answer.Status == status || patience.IsCancellationRequested)
            {
                answer.Status.ShouldBe(status, answer.Body?.ToJsonString());
                return answer;
            }

            await Task.Delay(100, CancellationToken.None);
        }
    }

    [Fact]
    public async Task Whoever_asks_meanwhile_is_told_to_try_again_and_nothing_is_half_done()
    {
        await using TestDatabase database = await TestDatabase.DemoAsync();
        NpgsqlConnectionStringBuilder where = new(database.ConnectionString);
        await using CountingProxy proxy = new(where.Host!, where.Port);
        (where.Port, where.Timeout) = (proxy.Port, 2);
        await using ServerProcess server = await ServerProcess.StartAsync(where.ConnectionString);
        using ApiClient desk = await ApiClient.SignedInAsync(server), stranger = new(server);
        JsonNode setup = (await desk.GetAsync("/api/v1/setup")).Body!;
        string Id(string list, string name) =>
            setup[list]!.AsArray().Single(item => item!["name"]!.GetValue<string>() == name)!["id"]!.GetValue<string>();
        object booking = new
        {
            locationId = Id("locations", "Mill Street"),
            start = "2027-03-09T10:00:00Z",
            lines = new[] { new { serviceId = Id("services", "Nutrition review 30") } },
            givenName = "Ada",
            familyName = "Marsh",
            email = "ada@example.com",
            phone = "020 910 0001",
        };
        (string, string) key = World.Key();

        proxy.Cut();
        ApiAnswer[] meanwhile =
        [
            await stranger.GetAsync("/api/public/v1/business"),
            await stranger.PostAsync("/api/public/v1/visits", booking, key),
            await desk.GetAsync("/api/v1/needs-place"),
            await desk.GetAsync($"/api/v1/locations/{Id("locations", "Mill Street")}/days/2027-03-09"),
            await stranger.PostAsync("/api/v1/session", new { email = "desk@harrowmere.test", password = "marsh-marigold" }),
        ];
        meanwhile.ShouldAllBe(answer => answer.Status == HttpStatusCode.ServiceUnavailable && answer.RetryAfter > TimeSpan.Zero);
        meanwhile.ShouldAllBe(answer => answer.Code != null && answer.Body!["detail"] != null);
        // It lives, and is not ready: whoever watches over it sends people elsewhere instead of starting it anew.
        (await stranger.GetAsync("/health/live")).Status.ShouldBe(HttpStatusCode.OK);
        (await stranger.GetAsync("/health/ready")).Status.ShouldBe(HttpStatusCode.ServiceUnavailable);

        proxy.Mend();
        await UntilAsync(() => stranger.GetAsync("/health/ready"), HttpStatusCode.OK);
        // The very request that was told to try again is tried again, and books once.
        ApiAnswer booked = await UntilAsync(() => stranger.PostAsync("/api/public/v1/visits", booking, key), HttpStatusCode.Created);
        ApiAnswer again = await stranger.PostAsync("/api/public/v1/visits", booking, key);
        again.Body!["reference"]!.GetValue<string>().ShouldBe(booked.Body!["reference"]!.GetValue<string>());
        // The session is still good: it stood in the database all the while.
        (await desk.GetAsync("/api/v1/needs-place")).Status.ShouldBe(HttpStatusCode.OK);
    }
}
