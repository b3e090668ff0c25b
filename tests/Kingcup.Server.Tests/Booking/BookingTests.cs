using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Storage;
using Kingcup.Testing;
using Microsoft.AspNetCore.SignalR.Client;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Booking, moving and cancelling over HTTP, with two servers on one database.</summary>
public sealed class BookingTests(World world)
{
    [Fact]
    public async Task Fifty_parallel_requests_for_one_start_at_two_servers_make_one_booking()
    {
        string start = World.At(8, 12);
        using ApiClient third = new(world.First);
        ApiAnswer[] answers = await Task.WhenAll(
            Enumerable
                .Range(0, 50)
                .Select(i =>
                    (i % 2 == 0 ? world.Stranger : third).PostAsync(
                        "/api/public/v1/visits",
                        world.PublicBooking("Physio first visit 60", start, "Maren Odell", $"a{i}@example.com"),
                        World.Key()
                    )
                )
        );
        // Maren has lunch at noon: take a start that is free.
        answers.ShouldAllBe(answer => answer.Status == HttpStatusCode.Conflict);

        start = World.At(8, 13);
        answers = await Task.WhenAll(
            Enumerable
                .Range(0, 50)
                .Select(i =>
                    (i % 2 == 0 ? world.Stranger : third).PostAsync(
                        "/api/public/v1/visits",
                        world.PublicBooking("Physio first visit 60", start, "Maren Odell", $"b{i}@example.com"),
                        World.Key()
                    )
                )
        );
        answers.Count(answer => answer.Status == HttpStatusCode.Created).ShouldBe(1);
        answers.Count(answer => answer.Status == HttpStatusCode.Conflict && answer.Code == "start-taken").ShouldBe(49);
        // The clear answer names the nearest other times.
        answers.Where(answer => answer.Code == "start-taken").ShouldAllBe(answer => answer.Body!["nearest"]!.AsArray().Count == 6);
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        (
            await connection.ExecuteScalarAsync<int>(
                "SELECT count(*)::int FROM visit WHERE starts_at = @at::timestamptz",
                new { at = start }
            )
        ).ShouldBe(1);
        (await connection.ExecuteScalarAsync<int>("SELECT count(*)::int FROM client WHERE email LIKE 'b%@example.com'")).ShouldBe(1);
    }

    [Fact]
    public async Task What_a_client_books_at_one_server_stands_in_the_book_of_the_other()
    {
        ApiAnswer booked = await world.Stranger.PostAsync(
            "/api/public/v1/visits",
            world.PublicBooking("Deep tissue 60", World.At(9, 10), "Ines Calloway"),
            World.Key()
        );
        booked.Status.ShouldBe(HttpStatusCode.Created);
        JsonNode day = (await world.Desk.GetAsync($"/api/v1/locations/{world.MillStreet}/days/2027-03-10")).Body!;
        JsonNode visit = day["visits"]!
            .AsArray()
            .Single(entry => entry!["reference"]!.GetValue<string>() == booked.Body!["reference"]!.GetValue<string>())!;
        visit["price"]!["amount"]!.GetValue<long>().ShouldBe(9200);
        visit["source"]!.GetValue<string>().ShouldBe("Online");
        visit["lines"]![0]!["rooms"]!.AsArray().Select(room => room!.GetValue<string>()).ShouldHaveSingleItem();
    }

    [Fact]
    public async Task Every_start_offered_can_be_booked_and_the_next_question_no_longer_offers_it()
    {
        object question = new
        {
            locationId = world.MillStreet,
            lines = new[] { new { serviceId = world.Service("Podiatry 40") } },
            from = "2027-03-17",
            days = 1,
        };
        async Task<List<string>> Offered() =>
            [
                .. (await world.Stranger.PostAsync("/api/public/v1/starts", question)).Body!["days"]![0]!["starts"]!
                    .AsArray()
                    .Select(start => start!["start"]!.GetValue<string>()),
            ];
        List<string> first = await Offered();
        first.Count.ShouldBeGreaterThan(10);
        (
            await world.Stranger.PostAsync("/api/public/v1/visits", world.PublicBooking("Podiatry 40", first[3]), World.Key())
        ).Status.ShouldBe(HttpStatusCode.Created);
        List<string> then = await Offered();
        then.ShouldNotContain(first[3]);
        then.ShouldBeSubsetOf(first);
    }

    [Fact]
    public async Task The_same_key_and_body_get_the_first_answer_and_another_body_is_refused()
    {
        (string, string) key = World.Key();
        object booking = world.Booking("Facial 50", World.At(9, 12), "Odile Fenwright");
        ApiAnswer[] answers = await Task.WhenAll(
            world.Desk.PostAsync("/api/v1/visits", booking, key),
            world.OtherDesk.PostAsync("/api/v1/visits", booking, key),
            world.Desk.PostAsync("/api/v1/visits", booking, key)
        );
        answers.ShouldAllBe(answer => answer.Status == HttpStatusCode.Created);
        answers.Select(answer => answer.Body!["id"]!.GetValue<string>()).Distinct().ShouldHaveSingleItem();
        ApiAnswer other = await world.Desk.PostAsync("/api/v1/visits", world.Booking("Facial 50", World.At(9, 14), "Odile Fenwright"), key);
        other.Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        other.Code.ShouldBe("idempotency-key");
    }

    [Fact]
    public async Task A_visit_is_moved_to_a_start_that_fits_and_its_old_time_is_free_again()
    {
        JsonNode visit = await world.BookAsync("Nutrition first 60", World.At(1, 9), "Celia Voss");
        string id = visit["id"]!.GetValue<string>();
        ApiAnswer moved = await world.Desk.PostAsync($"/api/v1/visits/{id}/move", new { start = World.At(1, 9, 30) }, World.Match(visit));
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
        moved.Body!["start"]!.GetValue<string>().ShouldBe(World.At(1, 9, 30));
        moved.Body["lines"]![0]!["practitioners"]![0]!["name"]!.GetValue<string>().ShouldBe("Celia Voss");
        (
            await world.Desk.PostAsync($"/api/v1/visits/{id}/move", new { start = World.At(1, 13, 30) }, World.Match(moved.Body))
        ).Code.ShouldBe("would-go-over");
        JsonNode history = (await world.Desk.GetAsync($"/api/v1/visits/{id}/history")).Body!;
        history.AsArray().Select(entry => entry!["action"]!.GetValue<string>()).ShouldBe(["Booked", "Moved"]);
        history[1]!["actor"]!.GetValue<string>().ShouldBe("Nell Ashby");
    }

    [Fact]
    public async Task Two_desks_change_one_visit_and_the_second_is_told_how_it_stands()
    {
        JsonNode visit = await world.BookAsync("Acupuncture 45", World.At(2, 9), "Yara Benedek");
        string id = visit["id"]!.GetValue<string>();
        (await world.Desk.PostAsync($"/api/v1/visits/{id}/state", new { state = "arrived" }, World.Match(visit))).Status.ShouldBe(
            HttpStatusCode.OK
        );
        ApiAnswer late = await world.OtherDesk.PostAsync($"/api/v1/visits/{id}/cancel", new { reason = "ill" }, World.Match(visit));
        late.Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        late.Code.ShouldBe("stale");
        (await world.Desk.GetAsync($"/api/v1/visits/{id}")).Body!["state"]!.GetValue<string>().ShouldBe("arrived");
        (await world.Desk.PostAsync($"/api/v1/visits/{id}/state", new { state = "noShow" }, ("If-Match", "2"))).Code.ShouldBe("state");
    }

    [Fact]
    public async Task A_cancelled_visit_leaves_the_day_keeps_its_reason_and_frees_its_time()
    {
        JsonNode visit = await world.BookAsync("Physio follow-up 30", World.At(1, 8), "Maren Odell");
        string id = visit["id"]!.GetValue<string>();
        (await world.Desk.PostAsync($"/api/v1/visits/{id}/cancel", new { reason = " " }, World.Match(visit))).Field.ShouldBe("reason");
        ApiAnswer cancelled = await world.Desk.PostAsync(
            $"/api/v1/visits/{id}/cancel",
            new { reason = "Child is ill" },
            World.Match(visit)
        );
        cancelled.Body!["cancelReason"]!.GetValue<string>().ShouldBe("Child is ill");
        JsonNode day = (await world.OtherDesk.GetAsync($"/api/v1/locations/{world.MillStreet}/days/2027-03-02")).Body!;
        day["visits"]!.AsArray().ShouldNotContain(entry => entry!["id"]!.GetValue<string>() == id);
        await world.BookAsync("Physio follow-up 30", World.At(1, 8), "Maren Odell");
    }

    [Fact]
    public async Task A_desk_at_one_server_hears_of_a_booking_at_the_other()
    {
        await using HubConnection hub = await ListenAsync(world.Second);
        TaskCompletionSource<string> heard = new();
        hub.On<JsonNode>("changed", change =>
        {
            if (change["date"]?.GetValue<string>() == "2027-03-19") heard.TrySetResult(change["locationId"]!.GetValue<string>());
        });
        await world.BookAsync("Foot care 30", World.At(18, 10));
        (await heard.Task.WaitAsync(TimeSpan.FromSeconds(5))).ShouldBe(world.MillStreet);
    }

    [Fact]
    public async Task Who_has_a_visit_open_at_one_server_is_known_at_the_other_until_they_leave()
    {
        string id = (await world.BookAsync("Foot care 30", World.At(18, 14)))["id"]!.GetValue<string>();
        await using HubConnection here = await ListenAsync(world.Second);
        await using HubConnection there = await ListenAsync(world.First);
        System.Threading.Channels.Channel<JsonNode> heard = System.Threading.Channels.Channel.CreateUnbounded<JsonNode>();
        here.On<JsonNode>("present", one => heard.Writer.TryWrite(one));
        async Task<JsonNode> NextAsync() => await heard.Reader.ReadAsync().AsTask().WaitAsync(TimeSpan.FromSeconds(10));
        await there.InvokeAsync("Open", (Guid?)Guid.Parse(id));
        JsonNode came = await NextAsync();
        (came["name"]!.GetValue<string>(), came["visitId"]!.GetValue<string>()).ShouldBe(("Nell Ashby", id));
        // A screen that is closed, or whose machine is, has nothing open any more.
        await there.DisposeAsync();
        JsonNode left = await NextAsync();
        left["visitId"].ShouldBeNull();
        left["key"]!.GetValue<string>().ShouldBe(came["key"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_server_killed_at_any_moment_leaves_whole_bookings_and_nothing_else()
    {
        ServerProcess victim = await ServerProcess.StartAsync(world.Database);
        using ApiClient client = new(victim);
        List<string> acknowledged = [];
        Task[] booking =
        [
            .. Enumerable
                .Range(0, 24)
                .Select(async i =>
                {
                    try
                    {
                        ApiAnswer answer = await client.PostAsync(
                            "/api/public/v1/visits",
                            world.PublicBooking("Express facial 30", World.At(21 + (i / 8), 11 + (i % 8)), null, $"k{i}@example.com"),
                            World.Key()
                        );
                        if (answer.Status == HttpStatusCode.Created)
                            lock (acknowledged)
                                acknowledged.Add(answer.Body!["reference"]!.GetValue<string>());
                    }
                    catch (HttpRequestException)
                    {
                        // The server was killed before it answered.
                    }
                }),
        ];
        await Task.WhenAny(booking);
        victim.Kill();
        await Task.WhenAll(booking);
        await victim.DisposeAsync();
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        List<string> stored = [.. await connection.QueryAsync<string>("SELECT reference FROM visit WHERE date >= '2027-03-22'")];
        acknowledged.ShouldBeSubsetOf(stored);
        (await Proof.CheckAsync(connection)).Where(finding => finding.Count > 0).ShouldBeEmpty();
    }

    [Fact]
    public async Task Why_not_names_what_stands_in_the_way()
    {
        await world.BookAsync("Podiatry 40", World.At(4, 9), "Rafe Lindqvist");
        ApiAnswer answer = await world.Desk.PostAsync("/api/v1/starts/why-not", new
        {
            locationId = world.MillStreet,
            lines = new[] { new { serviceId = world.Service("Podiatry 40") } },
            start = World.At(4, 9, 20),
        });
        answer.Body!["fits"]!.GetValue<bool>().ShouldBeFalse();
        answer.Body["reasons"]!
            .AsArray()
            .Select(reason => reason!["text"]!.GetValue<string>())
            .ShouldContain("Rafe Lindqvist is taken from 09:00 to 09:45.");
    }

    [Fact]
    public async Task The_clock_of_a_demo_moves_forward_on_every_server_and_never_back()
    {
        // A server of its own database: other tests rely on their clock.
        await using TestDatabase database = await TestDatabase.DemoAsync();
        await using ServerProcess server = await ServerProcess.StartAsync(database);
        using ApiClient desk = await ApiClient.SignedInAsync(server);
        (await desk.PostAsync("/api/v1/demo/clock", new { to = World.At(-1, 9) })).Field.ShouldBe("to");
        (await desk.PostAsync("/api/v1/demo/clock", new { to = World.At(30, 9) })).Status.ShouldBe(HttpStatusCode.OK);
        (await desk.GetAsync("/api/v1/setup")).Body!["locations"]![0]!["today"]!.GetValue<string>().ShouldBe("2027-03-31");
    }

    private static async Task<HubConnection> ListenAsync(ServerProcess server)
    {
        CookieContainer cookies = new();
        using HttpClientHandler handler = new() { CookieContainer = cookies };
        using HttpClient http = new(handler) { BaseAddress = server.Address };
        using HttpResponseMessage answer = await System.Net.Http.Json.HttpClientJsonExtensions.PostAsJsonAsync(
            http,
            new Uri("/api/v1/session", UriKind.Relative),
            new { email = "desk@harrowmere.test", password = Kingcup.Demo.DemoLoader.Password }
        );
        answer.EnsureSuccessStatusCode();
        HubConnection hub = new HubConnectionBuilder()
            .WithUrl(new Uri(server.Address, "/live"), options => options.Cookies = cookies)
            .Build();
        await hub.StartAsync();
        return hub;
    }
}
