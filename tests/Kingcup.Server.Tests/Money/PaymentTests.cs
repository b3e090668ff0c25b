using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Money;

/// <summary>
/// A visit that has to be paid for first: whatever is lost, killed or pressed twice, money is there for every visit, and a visit for all
/// the money that was kept.
/// </summary>
public sealed class PaymentTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Good = "9000000000000001",
        AnswerLost = "9000000000000050",
        InDisorder = "9000000000000068",
        DeclinedAtCapture = "9000000000000084";
    private const string Service = "Deep tissue 60";

    private static int _next;

    // Each test has a time of its own.
    private async Task<string> StartAsync() => (await world.StartsAsync(Service, 1 + Interlocked.Increment(ref _next)))[^1];

    /// <summary>What the gateway has kept is what the ledger holds.</summary>
    private async Task ShouldAgreeAsync()
    {
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<long>("SELECT count(*) FROM payment WHERE settled_at IS NULL AND state <> 'Open'") == 0
        );
        (long taken, long refunded) = await world.Gateway.TotalsAsync();
        (await world.DepositsAsync()).ShouldBe(taken - refunded);
        (await world.ScalarAsync<long>("SELECT count(*) FROM payment WHERE state = 'Booked'")).ShouldBe(
            await world.ScalarAsync<long>("SELECT count(DISTINCT visit_id) FROM payment WHERE state = 'Booked'")
        );
    }

    [Fact]
    public async Task A_deposit_is_paid_and_the_visit_is_booked_once()
    {
        string start = await StartAsync();
        using PayWorld.Client client = world.Somebody();
        // The price and what is due are said with the time.
        JsonNode held = (
            await client.PostAsync(
                "/holds",
                new { locationId = world.MillStreet, start, lines = new[] { new { serviceId = world.Service(Service) } } }
            )
        ).Body!;
        long price = (long)held["price"]!["amount"]!,
            due = (long)held["due"]!["amount"]!;
        due.ShouldBe(((price * 30) + 50) / 100);
        string hold = (string)held["token"]!;
        ApiAnswer unpaid = await client.PostAsync("/visits", client.Booking(start, hold: hold), World.Key());
        (unpaid.Status, unpaid.Code).ShouldBe((HttpStatusCode.Conflict, "payment-due"));
        ((long)unpaid.Body!["due"]!["amount"]!).ShouldBe(due);
        (await client.BeginAsync(client.Booking(start, dueSeen: due - 1, hold: hold))).Code.ShouldBe("price-changed");
        (string, string) key = World.Key();
        object booking = client.Booking(start, dueSeen: due, hold: hold);
        JsonNode begun = (await client.PostAsync("/payments", booking, key)).Body!;
        string token = (string)begun["token"]!;
        ((string)(await client.PostAsync("/payments", booking, key)).Body!["token"]!).ShouldBe(token, "pressed twice");
        ((string)(await client.FinishAsync(token))["state"]!).ShouldBe("waiting");
        string page = await client.PageAsync(token);
        (await client.PageAsync(token)).ShouldBe(page, "asked again after a lost answer");
        Uri back = (await world.Gateway.EnterAsync(page))!;
        back.Fragment.ShouldBe($"#paid={token}");
        back.PathAndQuery.ShouldBe("/book?step=you");
        JsonNode paid = await client.FinishAsync(token);
        ((string)paid["state"]!).ShouldBe("booked", paid.ToJsonString());
        ((long)paid["visit"]!["paid"]!["amount"]!).ShouldBe(due);
        ((long)paid["visit"]!["price"]!["amount"]!).ShouldBe(price);
        ((string)(await client.FinishAsync(token))["visit"]!["reference"]!).ShouldBe((string)paid["visit"]!["reference"]!);
        await ShouldAgreeAsync();
    }

    [Fact]
    public async Task Whoever_comes_along_is_named_in_the_visit_that_was_paid_whatever_the_owner_lets_since()
    {
        object[] lines =
        [
            new { serviceId = world.Service(Service) },
            new { serviceId = world.Service("Express facial 30"), person = 1 },
        ];
        using PayWorld.Client client = world.Somebody();
        JsonNode days = (await client.PostAsync("/starts", new { locationId = world.MillStreet, lines, from = "2027-04-01", days = 40 }))
            .Body!["days"]!;
        JsonObject booking = JsonSerializer.SerializeToNode(
            client.Booking((string)days.AsArray().SelectMany(day => day!["starts"]!.AsArray()).Last()!["start"]!)
        )!.AsObject();
        booking["lines"] = JsonSerializer.SerializeToNode(lines);
        booking["people"] = new JsonArray("Bo Reed");
        ApiAnswer begun = await client.BeginAsync(booking);
        begun.Status.ShouldBe(HttpStatusCode.Created, begun.Body?.ToJsonString());
        string token = (string)begun.Body!["token"]!;
        (await world.Gateway.EnterAsync(await client.PageAsync(token))).ShouldNotBeNull();

        JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
        page = await world.Owner.ChangeAsync("/api/v1/setup/booking-page", page, entry => entry["mostPeopleOnline"] = 1);
        try
        {
            JsonNode paid = await client.FinishAsync(token);
            ((string)paid["state"]!).ShouldBe("booked", paid.ToJsonString());
            ((string)paid["visit"]!["lines"]![1]!).ShouldEndWith(", for Bo Reed");
        }
        finally
        {
            await world.Owner.ChangeAsync("/api/v1/setup/booking-page", page, entry => entry["mostPeopleOnline"] = 3);
        }

        await ShouldAgreeAsync();
    }

    [Fact]
    public async Task A_file_sent_with_a_paid_visit_is_there_however_long_the_payment_took_to_be_settled()
    {
        JsonObject question = await world.Owner.MakeAsync(
            "/api/v1/setup/questions",
            new
            {
                text = "A letter",
                hint = "",
                kind = "file",
                choices = Array.Empty<string>(),
                required = true,
                serviceIds = Array.Empty<string>(),
            }
        );
        try
        {
            using PayWorld.Client client = world.Somebody();
            using MultipartFormDataContent form = new() { { new ByteArrayContent("%PDF-1.7 made up"u8.ToArray()), "file", "letter.pdf" } };
            JsonNode sent = (await client.Http.SendAsync(HttpMethod.Post, "/api/public/v1/files", form)).Body!;
            JsonObject booking = JsonSerializer.SerializeToNode(client.Booking(await StartAsync()))!.AsObject();
            booking["answers"] = new JsonArray(
                new JsonObject { ["questionId"] = (string)question["id"]!, ["answer"] = (string)sent["token"]! }
            );
            string token = (string)(await client.BeginAsync(booking)).Body!["token"]!;
            (await world.Gateway.EnterAsync(await client.PageAsync(token))).ShouldNotBeNull();
            await world.ScalarAsync<int>("UPDATE answer_file SET sent_at = sent_at - interval '2 days' RETURNING 1");
            JsonNode paid = await client.FinishAsync(token);
            ((string)paid["state"]!).ShouldBe("booked", paid.ToJsonString());
            string kept = await world.ScalarAsync<string>(
                "SELECT f.name FROM visit_answer a JOIN visit v ON v.id = a.visit_id JOIN stored_file f ON f.id = a.file_id "
                    + "WHERE v.reference = @reference",
                new { reference = (string)paid["visit"]!["reference"]! }
            );
            kept.ShouldBe("letter.pdf");
        }
        finally
        {
            await world.Owner.ChangeAsync($"/api/v1/setup/questions/{question["id"]}", question, entry => entry["isArchived"] = true);
        }

        await ShouldAgreeAsync();
    }

    [Theory]
    [InlineData("begin", "lost")]
    [InlineData("begin", "error")]
    [InlineData("find", "error")]
    [InlineData("capture", "lost")]
    [InlineData("capture", "error")]
    [InlineData("capture", "slow")]
    public async Task Whatever_goes_wrong_at_the_gateway_it_is_charged_and_booked_once(string operation, string kind)
    {
        string start = await StartAsync();
        using PayWorld.Client client = world.Somebody();
        string token = (string)(await client.BeginAsync(client.Booking(start))).Body!["token"]!;
        await world.Gateway.FaultAsync(operation, kind);
        if (operation == "begin")
        {
            ApiAnswer away = await client.PostAsync("/payments/page", new { token });
            (away.Status, away.Code).ShouldBe((HttpStatusCode.ServiceUnavailable, "card-page-away"));
        }

        (await world.Gateway.EnterAsync(await client.PageAsync(token))).ShouldNotBeNull();
        ((string)(await client.FinishAsync(token))["state"]!).ShouldBe("booked");
        await ShouldAgreeAsync();
    }

    [Theory]
    [InlineData(Good)]
    [InlineData(AnswerLost)]
    [InlineData(InDisorder)]
    public async Task A_phone_that_dies_after_paying_has_its_visit(string card)
    {
        using PayWorld.Client client = world.Somebody();
        (_, string page) = await client.ToCardAsync(await StartAsync());
        string gatewayId = page.Split('/')[^1];
        (await world.Gateway.EnterAsync(page, card)).ShouldNotBeNull();
        // Nobody asks any more: the gateway tells of it.
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<string>("SELECT state FROM payment WHERE gateway_id = @gatewayId", new { gatewayId }) == "Booked"
        );
        await ShouldAgreeAsync();
    }

    [Fact]
    public async Task A_declined_card_books_nothing_and_the_time_is_free_again()
    {
        string start = await StartAsync();
        using PayWorld.Client client = world.Somebody();
        (string token, string page) = await client.ToCardAsync(start);
        (await world.Gateway.EnterAsync(page, "9000000000000019")).ShouldBeNull("the page is shown again");
        (await world.Gateway.EnterAsync(page, DeclinedAtCapture)).ShouldNotBeNull();
        JsonNode ended = await client.FinishAsync(token);
        ((string)ended["state"]!, (string)ended["because"]!).ShouldBe(
            ("ended", "The bank has declined the payment. Nothing was taken, and nothing was booked.")
        );
        using PayWorld.Client next = world.Somebody();
        (token, page) = await next.ToCardAsync(start);
        await world.Gateway.EnterAsync(page);
        ((string)(await next.FinishAsync(token))["state"]!).ShouldBe("booked");
        await ShouldAgreeAsync();
    }

    [Fact]
    public async Task Whoever_leaves_gives_the_time_back_and_nobody_else_had_it_meanwhile()
    {
        string start = await StartAsync();
        using PayWorld.Client client = world.Somebody(),
            other = world.Somebody(world.Second);
        (string token, string page) = await client.ToCardAsync(start);
        // Leaving the page gives back what is held, not what is being paid for.
        await client.PostAsync("/holds/back", new { token });
        string who = await KeptOfAsync(start);
        ApiAnswer taken = await other.BeginAsync(other.Booking(start, practitionerId: who));
        taken.Status.ShouldBe(HttpStatusCode.Conflict);
        JsonNode left = (await client.PostAsync("/payments/leave", new { token })).Body!;
        ((string)left["state"]!).ShouldBe("ended");
        (await world.Gateway.EnterAsync(page)).ShouldNotBeNull("nobody pays any more: led back at once");
        ((string)(await client.FinishAsync(token))["state"]!).ShouldBe("ended");
        (await other.BeginAsync(other.Booking(start, practitionerId: who))).Status.ShouldBe(HttpStatusCode.Created);
        await ShouldAgreeAsync();
    }

    /// <summary>Whose time is kept for a payment.</summary>
    private async Task<string> KeptOfAsync(string start) =>
        (
            await world.ScalarAsync<Guid>(
                """
                SELECT k.resource_id FROM claim k JOIN occupation o ON o.id = k.occupation_id JOIN proposal p ON p.id = o.proposal_id
                WHERE p.is_paying AND k.role = 0 AND lower(k.core) = @at
                """,
                new { at = NodaTime.Text.InstantPattern.General.Parse(start).Value }
            )
        ).ToString();

    [Fact]
    public async Task A_price_changed_while_somebody_pays_is_the_one_they_paid()
    {
        string start = await StartAsync();
        using PayWorld.Client client = world.Somebody();
        (string token, string page) = await client.ToCardAsync(start);
        JsonObject service = (await world.Owner.GetAsync($"/api/v1/setup/services/{world.Service(Service)}")).Body!.AsObject();
        long price = (long)service["price"]!;
        string path = $"/api/v1/setup/services/{world.Service(Service)}";
        JsonObject raised = await world.Owner.ChangeAsync(path, service, entry => entry["price"] = price + 1000);
        await world.Gateway.EnterAsync(page);
        JsonNode paid = await client.FinishAsync(token);
        ((string)paid["state"]!).ShouldBe("booked");
        ((long)paid["visit"]!["price"]!["amount"]!).ShouldBeLessThan(price + 1000);
        await world.Owner.ChangeAsync(path, raised, entry => entry["price"] = price);
        await ShouldAgreeAsync();
    }

    [Fact]
    public async Task A_server_killed_in_the_middle_leaves_nothing_half_done()
    {
        ServerProcess third = await ServerProcess.StartAsync(world.Database, world.Gateway.Settings);
        using PayWorld.Client client = world.Somebody(third);
        (string token, string page) = await client.ToCardAsync(await StartAsync());
        await world.Gateway.FaultAsync("capture", "slow");
        // The news goes to another server; this one asks at the same time.
        Task<ApiAnswer> asked = client.PostAsync("/payments/finish", new { token });
        await world.Gateway.EnterAsync(page);
        Task<ApiAnswer> again = client.PostAsync("/payments/finish", new { token });
        third.Kill();
        foreach (Task<ApiAnswer> answer in new[] { asked, again }) await answer.ContinueWith(_ => { }, TaskScheduler.Default);
        await third.DisposeAsync();
        client.Http = new ApiClient(world.First);
        ((string)(await client.FinishAsync(token))["state"]!).ShouldBe("booked");
        await ShouldAgreeAsync();
    }

    [Fact]
    public async Task What_is_not_signed_by_the_gateway_is_not_listened_to()
    {
        using ApiClient hostile = new(world.First);
        ApiAnswer answer = await hostile.PostAsync("/api/public/v1/card-news", new { id = "0", state = "captured" }, ("X-Signature", "00"));
        (answer.Status, answer.Code).ShouldBe((HttpStatusCode.Unauthorized, "not-signed"));
    }

    [Theory]
    [InlineData("")]
    [InlineData("0123")]
    [InlineData("000000000000000000000000000000000000000000000000000000000000000000000000000000000000000000000000")]
    public async Task A_guessed_token_names_nothing(string token)
    {
        using PayWorld.Client client = world.Somebody();
        foreach (string path in new[] { "/payments/finish", "/payments/page", "/payments/leave" })
            (await client.PostAsync(path, new { token })).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task One_device_has_two_times_waiting_for_their_payment_at_most()
    {
        string[] starts = [await StartAsync(), await StartAsync(), await StartAsync()];
        using PayWorld.Client client = world.Somebody();
        // A device is told by its cookie, which a script may throw away; the address range bounds it then.
        (string first, _) = await client.ToCardAsync(starts[0]);
        (string second, _) = await client.ToCardAsync(starts[1]);
        ApiAnswer third = await client.BeginAsync(client.Booking(starts[2]));
        (third.Status, third.Code).ShouldBe((HttpStatusCode.TooManyRequests, "paying-already"));
        foreach (string token in new[] { first, second }) await client.PostAsync("/payments/leave", new { token });
        (await client.BeginAsync(client.Booking(starts[2]))).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task A_script_without_cookies_cannot_have_times_kept_by_beginning_to_pay()
    {
        string[] starts = [.. (await world.StartsAsync(Service, 40)).TakeLast(12)];
        List<string> tokens = [];
        int refused = 0;
        foreach (string start in starts)
        {
            // Somebody new each time, from one address.
            using PayWorld.Client client = world.Somebody();
            using ApiClient device = new(world.First);
            ApiAnswer answer = await device.PostAsync(
                "/api/public/v1/payments",
                client.Booking(start),
                World.Key(),
                ("X-Forwarded-For", "10.99.0.1")
            );
            if (answer.Status == HttpStatusCode.Created) tokens.Add((string)answer.Body!["token"]!);
            else
            {
                (answer.Status, answer.Code).ShouldBe((HttpStatusCode.TooManyRequests, "held-enough"));
                refused++;
            }
        }

        (tokens.Count, refused).ShouldBe((8, 4));
        using PayWorld.Client leaving = world.Somebody();
        foreach (string token in tokens) await leaving.PostAsync("/payments/leave", new { token });
    }

    [Fact]
    public async Task Two_hundred_clients_for_twenty_places_on_two_servers_are_twenty_visits_and_twenty_charges()
    {
        (long takenBefore, _) = await world.Gateway.TotalsAsync();
        long bookedBefore = await world.ScalarAsync<long>("SELECT count(*) FROM payment WHERE state = 'Booked'");
        string tobias = world.Practitioner("Tobias Quill");
        string[] places = [.. (await world.StartsAsync(Service, 50, tobias)).TakeLast(20)];
        int begun = 0;
        await Parallel.ForEachAsync(Enumerable.Range(0, 200), new ParallelOptions { MaxDegreeOfParallelism = 24 }, async (i, _) =>
        {
            using PayWorld.Client client = world.Somebody(i % 2 == 0 ? world.First : world.Second);
            ApiAnswer answer = await client.BeginAsync(client.Booking(places[i % 20], practitionerId: tobias));
            if (answer.Status == HttpStatusCode.Conflict) return;
            answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
            Interlocked.Increment(ref begun);
            string token = (string)answer.Body!["token"]!;
            await world.Gateway.EnterAsync(await client.PageAsync(token), i % 3 == 0 ? AnswerLost : Good);
            // Asked on both servers at once, while the gateway tells one of them.
            using PayWorld.Client elsewhere = world.Somebody(i % 2 == 0 ? world.Second : world.First);
            JsonNode[] told = await Task.WhenAll(client.FinishAsync(token), elsewhere.FinishAsync(token));
            told.ShouldAllBe(paid => (string)paid["state"]! == "booked");
        });
        begun.ShouldBe(20);
        (await world.ScalarAsync<long>("SELECT count(*) FROM payment WHERE state = 'Booked'") - bookedBefore).ShouldBe(20);
        await ShouldAgreeAsync();
        (long taken, _) = await world.Gateway.TotalsAsync();
        (await world.ScalarAsync<long>(
            "SELECT sum(amount)::bigint FROM payment WHERE state = 'Booked'"
        )).ShouldBe(taken);
        taken.ShouldBeGreaterThan(takenBefore);
    }
}
