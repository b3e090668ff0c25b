using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Kingcup.Server.Tests.Money;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <summary>What clients see and do of their own: by a link or a code, nobody else's, and at the cost they have read.</summary>
public sealed partial class OwnTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Mine = "/api/public/v1/mine";
    private static int _next;

    /// <summary>Somebody whom the desk books, with the device they look at it with.</summary>
    private sealed record Person(ApiClient Http, string Email, JsonNode Visit) : IDisposable
    {
        public void Dispose() => Http.Dispose();
    }

    private async Task<Person> BookedAsync(
        int daysAhead = 20,
        string? email = null,
        string givenName = "Cleo",
        string service = "Deep tissue 60"
    )
    {
        int number = Interlocked.Increment(ref _next);
        email ??= $"cleo{number}@example.test";
        string from = (await world.NowAsync()).AddDays(daysAhead).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        string start = (await world.StartsAsync(service, 1, from: from))[0];
        ApiAnswer made = await world.Owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service(service) } },
                newClient = new { givenName, familyName = $"Wren {number}", email, phone = $"+35387{number:D7}" },
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        return new Person(new ApiClient(world.Second), email, made.Body!);
    }

    [Fact]
    public async Task What_the_desk_has_called_whoever_comes_along_is_not_read_by_the_client()
    {
        string from = (await world.NowAsync()).AddDays(26).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        object[] lines =
        [
            new { serviceId = world.Service("Deep tissue 60") },
            new { serviceId = world.Service("Express facial 30"), person = 1 },
        ];
        ApiAnswer starts = await world.Owner.PostAsync("/api/v1/starts", new { locationId = world.MillStreet, lines, from, days = 14 });
        ApiAnswer made = await world.Owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = world.MillStreet,
                start = (string)starts.Body!.AsArray().SelectMany(day => day!["starts"]!.AsArray()).First()!["start"]!,
                lines,
                people = new[] { new { name = "the difficult cousin" } },
                newClient = new { givenName = "Cleo", familyName = "Along", email = "along@example.test", phone = "+353870000977" },
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        using Person person = new(new ApiClient(world.Second), "along@example.test", made.Body!);
        string seen = (await OpenedAsync(person)).ToJsonString();
        seen.ShouldContain("Express facial 30 with");
        seen.ShouldNotContain("cousin");
    }

    private async Task<string> LinkAsync(Person person)
    {
        await world.ClockAsync(2);
        JsonNode mail = await world.Gateway.ArrivesAsync(person.Email, "Your booking");
        string link = Link().Match((string)mail["text"]!).Value;
        link.ShouldStartWith($"{PayWorld.Address}/book/mine#");
        return link[(link.IndexOf('#', StringComparison.Ordinal) + 1)..];
    }

    private async Task<JsonNode> OpenedAsync(Person person)
    {
        string token = await LinkAsync(person);
        (await person.Http.PostAsync($"{Mine}/open", new { token })).Status.ShouldBe(HttpStatusCode.NoContent);
        return await SeesAsync(person);
    }

    private static async Task<JsonNode> SeesAsync(Person person)
    {
        ApiAnswer seen = await person.Http.GetAsync(Mine);
        seen.Status.ShouldBe(HttpStatusCode.OK, seen.Body?.ToJsonString());
        return seen.Body!;
    }

    private async Task<string> CodeAsync(string address, int many = 1)
    {
        await PayWorld.UntilAsync(async () => (await CodesAsync(address)).Length >= many);
        return (await CodesAsync(address))[0];
    }

    private async Task<string[]> CodesAsync(string address) =>
        [
            .. (await world.Gateway.ArrivedAsync(address))
                .Select(mail => Code().Match((string)mail!["text"]!))
                .Where(found => found.Success)
                .Select(found => found.Groups[1].Value),
        ];

    [Fact]
    public async Task The_link_in_a_message_opens_ones_own_bookings_and_nobody_elses()
    {
        using Person cleo = await BookedAsync();
        using Person other = await BookedAsync();
        (await cleo.Http.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        JsonNode mine = await OpenedAsync(cleo);
        JsonNode visit = mine["ahead"]!.AsArray().ShouldHaveSingleItem()!;
        ((string)visit["reference"]!).ShouldBe((string)cleo.Visit["reference"]!);
        // What staff know and write is not in it.
        mine.ToJsonString().ShouldNotContain("alert");
        mine.ToJsonString().ShouldNotContain("note");
        // Somebody else's is as if it were not there.
        foreach (string what in (string[])["starts", "move", "move/try", "cancel"])
        {
            ApiAnswer answer = await cleo.Http.PostAsync(
                $"{Mine}/visits/{other.Visit["id"]}/{what}",
                new { start = (string)other.Visit["start"]!, version = 1, feeSeen = 0, priceSeen = 0, days = 7 }
            );
            answer.Status.ShouldBe(HttpStatusCode.NotFound);
        }

        // Neither the desk's lists nor the database hold what opens it.
        string token = await LinkAsync(cleo);
        (await world.ScalarAsync<long>("SELECT count(*) FROM message WHERE body LIKE '%' || @token || '%'", new { token })).ShouldBe(0);
        JsonNode told = (await world.Owner.GetAsync($"/api/v1/visits/{cleo.Visit["id"]}/messages")).Body!["messages"]![0]!;
        ((string)told["body"]!).ShouldContain("(the link to their own bookings)");
    }

    [Fact]
    public async Task A_link_that_was_changed_or_whose_address_is_not_theirs_any_more_opens_nothing()
    {
        using Person cleo = await BookedAsync();
        string token = await LinkAsync(cleo);
        string[] wrong =
        [
            "",
            "x",
            token[..^1],
            token[..^1] + (token[^1] == '0' ? '1' : '0'),
            new string('0', 96),
            token + "0",
            Guid.NewGuid().ToString("N") + token[32..],
        ];
        foreach (string guess in wrong)
            (await cleo.Http.PostAsync($"{Mine}/open", new { token = guess })).Status.ShouldBe(HttpStatusCode.Unauthorized, guess);
        await OpenedAsync(cleo);
        JsonNode client = (await world.Owner.GetAsync($"/api/v1/clients/{cleo.Visit["client"]!["id"]}")).Body!;
        client["email"] = $"new-{cleo.Email}";
        (await world.Owner.PutAsync($"/api/v1/clients/{client["id"]}", client.AsObject(), (long)client["version"]!)).Status
            .ShouldBe(HttpStatusCode.OK);
        (await cleo.Http.PostAsync($"{Mine}/open", new { token })).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await cleo.Http.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_code_opens_it_once_for_ten_minutes_and_five_guesses_use_it_up()
    {
        using Person cleo = await BookedAsync();
        string loud = cleo.Email.ToUpperInvariant();
        (await cleo.Http.PostAsync($"{Mine}/code", new { address = loud })).Status.ShouldBe(HttpStatusCode.NoContent);
        string code = await CodeAsync(cleo.Email);
        (await world.ScalarAsync<long>("SELECT count(*) FROM message WHERE body LIKE '%' || @code || '%'", new { code })).ShouldBe(0);
        string wrong = code == "123456" ? "654321" : "123456";
        ApiAnswer refused = await cleo.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code = wrong });
        (refused.Status, refused.Field).ShouldBe((HttpStatusCode.Unauthorized, "code"));
        (await cleo.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code = $" {code[..3]} {code[3..]} " })).Status
            .ShouldBe(HttpStatusCode.NoContent);
        ((string)(await SeesAsync(cleo))["address"]!).ShouldBe(cleo.Email);
        (await cleo.Http.PostAsync($"{Mine}/leave", new { })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await cleo.Http.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        // It is used up.
        (await cleo.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code })).Status.ShouldBe(HttpStatusCode.Unauthorized);

        await cleo.Http.PostAsync($"{Mine}/code", new { address = cleo.Email });
        code = await CodeAsync(cleo.Email, 2);
        wrong = code == "123456" ? "654321" : "123456";
        // Many guesses at once count like one after another.
        await Task.WhenAll(
            Enumerable.Range(0, 8).Select(_ => cleo.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code = wrong }))
        );
        (await cleo.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code })).Status.ShouldBe(HttpStatusCode.Unauthorized);

        await cleo.Http.PostAsync($"{Mine}/code", new { address = cleo.Email });
        code = await CodeAsync(cleo.Email, 3);
        await world.ClockAsync(11);
        (await cleo.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code })).Status.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_code_whose_answer_was_lost_on_the_way_is_still_the_code_and_an_old_one_is_not_sent()
    {
        using Person cleo = await BookedAsync();
        await LinkAsync(cleo);
        await world.Gateway.FaultAsync("mail", "lost");
        await cleo.Http.PostAsync($"{Mine}/code", new { address = cleo.Email });
        string code = await CodeAsync(cleo.Email);
        await world.ClockAsync(2);
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<long>(
                "SELECT count(*) FROM message WHERE trigger = 'Code' AND address = @email AND state = 'Sent' AND tries = 2",
                new { email = cleo.Email }
            ) == 1
        );
        (await CodesAsync(cleo.Email)).ShouldBe([code]);
        (await cleo.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code })).Status.ShouldBe(HttpStatusCode.NoContent);

        await world.Gateway.FaultAsync("mail", "error");
        await cleo.Http.PostAsync($"{Mine}/code", new { address = cleo.Email });
        await PayWorld.UntilAsync(async () => await StateAsync() == "Waiting");
        await world.ClockAsync(11);
        await PayWorld.UntilAsync(async () => await StateAsync() == "Dropped");
        (await CodesAsync(cleo.Email)).ShouldBe([code]);

        Task<string> StateAsync() =>
            world.ScalarAsync<string>(
                "SELECT coalesce((SELECT state FROM message WHERE trigger = 'Code' AND address = @email AND tries > 0 "
                    + "ORDER BY place DESC LIMIT 1), '')",
                new { email = cleo.Email }
            );
    }

    [Fact]
    public async Task Asking_for_a_code_never_tells_who_is_a_client_and_floods_nobody()
    {
        using Person cleo = await BookedAsync();
        for (int i = 0; i < 6; i++)
        {
            ApiAnswer known = await cleo.Http.PostAsync($"{Mine}/code", new { address = cleo.Email }),
                unknown = await cleo.Http.PostAsync($"{Mine}/code", new { address = $"nobody{i}@example.test" });
            (known.Status, unknown.Status).ShouldBe((HttpStatusCode.NoContent, HttpStatusCode.NoContent));
            (await world.Gateway.ArrivedAsync($"nobody{i}@example.test")).ShouldBeEmpty();
        }

        await CodeAsync(cleo.Email, 3);
        (
            await world.ScalarAsync<long>(
                "SELECT count(*) FROM message WHERE trigger = 'Code' AND address = @email",
                new { email = cleo.Email }
            )
        ).ShouldBe(3);
        ApiAnswer wrong = await cleo.Http.PostAsync($"{Mine}/code", new { address = "not an address" });
        (wrong.Status, wrong.Field).ShouldBe((HttpStatusCode.BadRequest, "address"));
    }

    [Fact]
    public async Task Two_people_who_share_an_address_both_see_theirs_by_a_code_and_one_by_a_link()
    {
        using Person cleo = await BookedAsync(21);
        using Person twin = await BookedAsync(22, cleo.Email, "Una");
        JsonNode byLink = await OpenedAsync(cleo);
        byLink["people"]!.AsArray().Count.ShouldBe(1);
        await twin.Http.PostAsync($"{Mine}/code", new { address = cleo.Email });
        await twin.Http.PostAsync($"{Mine}/enter", new { address = cleo.Email, code = await CodeAsync(cleo.Email) });
        JsonNode byCode = await SeesAsync(twin);
        byCode["people"]!.AsArray().Count.ShouldBe(2);
        byCode["ahead"]!.AsArray().Select(visit => (string)visit!["name"]!).Distinct().Count().ShouldBe(2);
    }

    [Fact]
    public async Task One_moves_it_to_a_time_one_is_offered_over_the_version_and_the_price_one_has_read()
    {
        using Person cleo = await BookedAsync(23);
        JsonNode mine = await OpenedAsync(cleo),
            visit = mine["ahead"]![0]!;
        string path = $"{Mine}/visits/{visit["id"]}";
        JsonNode days = (await cleo.Http.PostAsync($"{path}/starts", new { from = ((string)visit["start"]!)[..10], days = 14 })).Body!;
        string start = (string)days["days"]!.AsArray().SelectMany(day => day!["starts"]!.AsArray()).Last()!["start"]!;
        JsonNode there = (await cleo.Http.PostAsync($"{path}/move/try", new { start })).Body!;
        ((string)there["start"]!).ShouldBe(start);
        object Wanted(long version, long price) =>
            new { start, version, feeSeen = (long)there["fee"]!["fee"]!["amount"]!, priceSeen = price };
        long seen = (long)visit["version"]!,
            price = (long)there["price"]!["amount"]!;
        ApiAnswer dearer = await cleo.Http.PostAsync($"{path}/move", Wanted(seen, price + 1));
        (dearer.Status, dearer.Code).ShouldBe((HttpStatusCode.Conflict, "price-changed"));
        (await cleo.Http.PostAsync($"{path}/move", Wanted(seen + 1, price))).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        ApiAnswer moved = await cleo.Http.PostAsync($"{path}/move", Wanted(seen, price));
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
        ((string)moved.Body!["ahead"]![0]!["start"]!).ShouldBe(start);
        // Pressed twice, it is moved once.
        (await cleo.Http.PostAsync($"{path}/move", Wanted(seen, price))).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.ScalarAsync<int>("SELECT moves FROM visit WHERE id = @id", new { id = Guid.Parse((string)visit["id"]!) })).ShouldBe(1);
        await world.Gateway.ArrivesAsync(cleo.Email, "Moved to");
        // A time that nobody is offered is not given, however it is asked for.
        ApiAnswer never = await cleo.Http.PostAsync(
            $"{path}/move",
            new { start = start[..11] + "03:00:00Z", version = seen + 1, feeSeen = 0, priceSeen = price }
        );
        never.Status.ShouldBe(HttpStatusCode.Conflict, never.Body?.ToJsonString());
    }

    [Fact]
    public async Task One_cancels_it_at_the_cost_one_has_read()
    {
        using Person cleo = await BookedAsync(24);
        JsonNode visit = (await OpenedAsync(cleo))["ahead"]![0]!;
        string path = $"{Mine}/visits/{visit["id"]}/cancel";
        long fee = (long)visit["cancelling"]!["fee"]!["amount"]!,
            version = (long)visit["version"]!;
        ApiAnswer stale = await cleo.Http.PostAsync(path, new { version, feeSeen = fee + 100 });
        (stale.Status, stale.Code).ShouldBe((HttpStatusCode.Conflict, "fee-changed"));
        ApiAnswer cancelled = await cleo.Http.PostAsync(path, new { version, feeSeen = fee });
        cancelled.Status.ShouldBe(HttpStatusCode.OK, cancelled.Body?.ToJsonString());
        cancelled.Body!["ahead"]!.AsArray().ShouldBeEmpty();
        ((string)cancelled.Body["past"]![0]!["state"]!).ShouldBe("cancelled");
        await world.Gateway.ArrivesAsync(cleo.Email, "Cancelled:");
        ((string)(await world.Owner.GetAsync($"/api/v1/visits/{visit["id"]}")).Body!["cancelledBy"]!).ShouldBe("client");
    }

    [Fact]
    public async Task A_paid_one_that_is_moved_too_often_costs_what_cancelling_costs_and_the_ledger_has_it_to_the_cent()
    {
        await SetPolicyAsync(freeMoves: 0, percent: 50);
        string from = (await world.NowAsync()).AddDays(26).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        string[] starts = await world.StartsAsync("Deep tissue 60", 1, from: from);
        using PayWorld.Client client = world.Somebody();
        (string token, string page) = await client.ToCardAsync(starts[0]);
        await world.Gateway.EnterAsync(page);
        string reference = (string)(await client.FinishAsync(token))["visit"]!["reference"]!;
        string email = await world.ScalarAsync<string>(
            "SELECT c.email FROM visit v JOIN client c ON c.id = v.client_id WHERE v.reference = @reference",
            new { reference }
        );
        using Person payer = new(new ApiClient(world.First), email, new JsonObject());
        JsonNode visit = (await OpenedAsync(payer))["ahead"]![0]!;
        long price = (long)visit["price"]!["amount"]!,
            paid = (long)visit["paid"]!["amount"]!,
            fee = (price + 1) / 2;
        paid.ShouldBeGreaterThan(0);
        ((long)visit["rest"]!["amount"]!).ShouldBe(price - paid);
        ((long)visit["moving"]!["fee"]!["amount"]!).ShouldBe(fee);
        string path = $"{Mine}/visits/{visit["id"]}";
        JsonNode days = (await payer.Http.PostAsync($"{path}/starts", new { from, days = 14 })).Body!;
        string start = (string)days["days"]!.AsArray().SelectMany(day => day!["starts"]!.AsArray()).Last()!["start"]!;
        JsonNode there = (await payer.Http.PostAsync($"{path}/move/try", new { start })).Body!;
        ApiAnswer moved = await payer.Http.PostAsync(
            $"{path}/move",
            new
            {
                start,
                version = (long)visit["version"]!,
                feeSeen = fee,
                priceSeen = (long)there["price"]!["amount"]!,
            }
        );
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
        Guid id = Guid.Parse((string)visit["id"]!);
        async Task<long> HeldAsync(string account) =>
            await world.ScalarAsync<long>(
                "SELECT coalesce(sum(p.amount), 0)::bigint FROM ledger_posting p JOIN ledger_entry e ON e.id = p.entry_id "
                    + "WHERE e.visit_id = @id AND p.account = @account",
                new { id, account }
            );
        (await HeldAsync("Forfeits")).ShouldBe(-fee);
        (await HeldAsync("ClientDeposits")).ShouldBe(-Math.Max(0, paid - fee));
        (await HeldAsync("CardClearing")).ShouldBe(paid + Math.Max(0, fee - paid));
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<long>("SELECT count(*) FROM card_work WHERE settled_at IS NULL AND NOT by_hand") == 0
        );
        (long taken, long refunded) = await world.Gateway.TotalsAsync();
        (
            await world.ScalarAsync<long>("SELECT coalesce(sum(amount), 0)::bigint FROM ledger_posting WHERE account = 'CardClearing'")
        ).ShouldBe(taken - refunded);
        await SetPolicyAsync(freeMoves: null, percent: 0);
    }

    private async Task SetPolicyAsync(int? freeMoves, int percent)
    {
        string path = $"/api/v1/setup/locations/{world.MillStreet}/policy";
        JsonNode present = (await world.Owner.GetAsync(path)).Body!;
        (
            await world.Owner.PutAsync(
                path,
                new { tiers = Array.Empty<object>(), belowPercent = percent, noShowPercent = 100, freeMoves },
                (long)present["version"]!
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Inside_the_notice_it_is_not_moved_online_and_after_the_start_not_cancelled()
    {
        using Person cleo = await BookedAsync(2);
        JsonNode visit = (await OpenedAsync(cleo))["ahead"]![0]!;
        DateTimeOffset start = DateTimeOffset.Parse((string)visit["start"]!, CultureInfo.InvariantCulture);
        await world.ClockAsync((int)(start.AddHours(-2) - await world.NowAsync()).TotalMinutes);
        // The session is good for hours, not for days.
        (await cleo.Http.GetAsync(Mine)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await cleo.Http.PostAsync($"{Mine}/open", new { token = await LinkAsync(cleo) })).Status.ShouldBe(HttpStatusCode.NoContent);
        JsonNode late = (await SeesAsync(cleo))["ahead"]![0]!;
        late["moving"].ShouldBeNull();
        late["cancelling"].ShouldNotBeNull();
        string path = $"{Mine}/visits/{visit["id"]}";
        ApiAnswer refused = await cleo.Http.PostAsync(
            $"{path}/move",
            new
            {
                start = start.AddDays(7).UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture),
                version = (long)late["version"]!,
                feeSeen = 0,
                priceSeen = 0,
            }
        );
        (refused.Status, refused.Code).ShouldBe((HttpStatusCode.Conflict, "not-movable"));
        await world.ClockAsync(125);
        ApiAnswer begun = await cleo.Http.PostAsync($"{path}/cancel", new { version = (long)late["version"]!, feeSeen = 0 });
        (begun.Status, begun.Code).ShouldBe((HttpStatusCode.Conflict, "begun"));
    }

    /// <summary>What somebody is kept who asks as a client, or as nobody who is known.</summary>
    private async Task<ApiAnswer> HoldAsync(ApiClient http, string start, string? asClient) =>
        await http.PostAsync(
            "/api/public/v1/holds",
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service("Deep tissue 60") } },
                @as = asClient,
            }
        );

    [Fact]
    public async Task Whoever_has_shown_who_they_are_books_by_their_record_and_nobody_books_as_somebody_else()
    {
        using Person cleo = await BookedAsync(1);
        using Person other = await BookedAsync(40);
        string token = await LinkAsync(cleo);
        // Once the first visit has begun they are no new client any more, and give no deposit.
        await world.ClockAsync(60 * 24 * 2);
        (await cleo.Http.PostAsync($"{Mine}/open", new { token })).Status.ShouldBe(HttpStatusCode.NoContent);
        JsonNode who = (await cleo.Http.GetAsync($"{Mine}/who")).Body!["people"]!.AsArray().ShouldHaveSingleItem()!;
        string me = (string)who["id"]!;
        me.ShouldBe((string)cleo.Visit["client"]!["id"]!);
        string from = (await world.NowAsync()).AddDays(12).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        string start = (await world.StartsAsync("Deep tissue 60", 1, from: from))[0];
        ((long)(await HoldAsync(cleo.Http, start, null)).Body!["due"]!["amount"]!).ShouldBeGreaterThan(0);
        JsonNode kept = (await HoldAsync(cleo.Http, start, me)).Body!;
        ((long)kept["due"]!["amount"]!).ShouldBe(0);
        object Booking(string? asClient, string at) =>
            new
            {
                locationId = world.MillStreet,
                start = at,
                lines = new[] { new { serviceId = world.Service("Deep tissue 60") } },
                @as = asClient,
                givenName = "Mallory",
                hold = (string)kept["token"]!,
            };

        // Neither whoever has shown nothing nor whoever is somebody else, whatever they type.
        using ApiClient stranger = new(world.Second);
        (await stranger.GetAsync($"{Mine}/who")).Body!["people"]!.AsArray().ShouldBeEmpty();
        (await stranger.PostAsync("/api/public/v1/visits", Booking(me, start), World.Key())).Code.ShouldBe("signed-out");
        string theirs = (string)other.Visit["client"]!["id"]!;
        (await HoldAsync(cleo.Http, start, theirs)).Code.ShouldBe("signed-out");
        (await cleo.Http.PostAsync("/api/public/v1/visits", Booking(theirs, start), World.Key())).Code.ShouldBe("signed-out");
        (
            await cleo.Http.PostAsync(
                "/api/public/v1/starts",
                new
                {
                    locationId = world.MillStreet,
                    @as = theirs,
                    lines = new[] { new { serviceId = world.Service("Deep tissue 60") } },
                }
            )
        ).Code.ShouldBe("signed-out");

        ApiAnswer booked = await cleo.Http.PostAsync("/api/public/v1/visits", Booking(me, start), World.Key());
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        JsonNode next = (await SeesAsync(cleo))["ahead"]!.AsArray().Single(visit => (string)visit!["start"]! == start)!;
        ((string)next["name"]!).ShouldStartWith("Cleo");
        await WhatTheyGiveIsSetAtThemAsync(cleo, me);
        // Of their own other booking they are told plainly; a stranger would not be.
        (await cleo.Http.PostAsync("/api/public/v1/visits", Booking(me, start), World.Key())).Code.ShouldBeOneOf(
            "elsewhere",
            "start-taken"
        );
    }

    /// <summary>What is set at a client goes before what any other place asks, and is said as soon as a service is chosen.</summary>
    private async Task WhatTheyGiveIsSetAtThemAsync(Person cleo, string me)
    {
        string from = (await world.NowAsync()).AddDays(33).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        string start = (await world.StartsAsync("Deep tissue 60", 1, from: from))[0];
        using ApiClient stranger = new(world.First);
        async Task<long?> DueAsync(ApiClient who, string? asClient)
        {
            object[] lines = [new { serviceId = world.Service("Lymph drainage 50") }];
            ApiAnswer priced = await who.PostAsync("/api/public/v1/price", new { locationId = world.MillStreet, lines, @as = asClient });
            priced.Status.ShouldBe(HttpStatusCode.OK, priced.Body?.ToJsonString());
            return (long?)priced.Body!["due"]?["amount"];
        }

        async Task GiveAsync(string? gives, long givesValue)
        {
            JsonObject record = (await world.Owner.GetAsync($"/api/v1/clients/{me}")).Body!.AsObject();
            (record["gives"], record["givesValue"]) = (gives, givesValue);
            ApiAnswer saved = await world.Owner.PutAsync($"/api/v1/clients/{me}", record, (long)record["version"]!);
            saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body?.ToJsonString());
        }

        ((long)(await DueAsync(stranger, null))!).ShouldBe(2280);
        (await DueAsync(cleo.Http, me)).ShouldBe(0);
        await GiveAsync("percent", 50);
        (await DueAsync(stranger, null)).ShouldBe(2280);
        (await DueAsync(cleo.Http, me)).ShouldBe(3800);
        ((long)(await HoldAsync(cleo.Http, start, me)).Body!["due"]!["amount"]!).ShouldBe(4600);
        await GiveAsync("nothing", 0);
        ((long)(await HoldAsync(cleo.Http, start, me)).Body!["due"]!["amount"]!).ShouldBe(0);
        await GiveAsync(null, 0);
        JsonObject wrong = (await world.Owner.GetAsync($"/api/v1/clients/{me}")).Body!.AsObject();
        (wrong["gives"], wrong["givesValue"]) = ("percent", 101);
        (await world.Owner.PutAsync($"/api/v1/clients/{me}", wrong, (long)wrong["version"]!)).Field.ShouldBe("givesValue");
    }

    [Fact]
    public async Task Whoever_has_shown_who_they_are_is_offered_what_needs_a_visit_of_theirs_and_nobody_else_is()
    {
        using Person cleo = await BookedAsync(15, service: "Laser patch test 15");
        await OpenedAsync(cleo);
        string me = (string)cleo.Visit["client"]!["id"]!;
        DateTimeOffset tested = DateTimeOffset.Parse((string)cleo.Visit["end"]!, CultureInfo.InvariantCulture);
        async Task<DateTimeOffset[]> OfferedAsync(string? asClient)
        {
            JsonNode answer = (
                await cleo.Http.PostAsync(
                    "/api/public/v1/starts",
                    new
                    {
                        locationId = world.MillStreet,
                        lines = new[] { new { serviceId = world.Service("Laser small area 20") } },
                        days = 40,
                        @as = asClient,
                    }
                )
            ).Body!;
            return
            [
                .. answer["days"]!.AsArray()
                    .SelectMany(day => day!["starts"]!.AsArray())
                    .Select(start => DateTimeOffset.Parse((string)start!["start"]!, CultureInfo.InvariantCulture)),
            ];
        }

        (await OfferedAsync(null)).ShouldBeEmpty();
        DateTimeOffset[] offered = await OfferedAsync(me);
        offered.ShouldNotBeEmpty();
        offered.ShouldAllBe(start => start >= tested.AddHours(48));
    }

    [Fact]
    public async Task One_changes_ones_own_details_but_not_the_address_one_has_shown()
    {
        using Person cleo = await BookedAsync(28),
            other = await BookedAsync(29);
        JsonNode contact = (await OpenedAsync(cleo))["details"]!.AsArray().ShouldHaveSingleItem()!;
        ((string)contact["shown"]!).ShouldBe("email");
        string own = $"{Mine}/details/{contact["id"]}";
        object Said(string given, string email, string? phone, long version) =>
            new { givenName = given, familyName = "Wren-Hale", email, phone, version };
        long version = (long)contact["version"]!;

        (await cleo.Http.PutAsync(own, Said(" ", cleo.Email, "12", version), 0)).Body!["errors"]!
            .AsObject()
            .Select(pair => pair.Key)
            .ShouldBe(["givenName", "phone"]);
        string theirs = $"{Mine}/details/{other.Visit["client"]!["id"]}";
        (await cleo.Http.PutAsync(theirs, Said("Mallory", cleo.Email, null, 1), 0)).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await cleo.Http.PutAsync(own, Said("Clea", cleo.Email, null, version - 1), 0)).Status.ShouldBe(HttpStatusCode.PreconditionFailed);

        ApiAnswer saved = await cleo.Http.PutAsync(own, Said("Clea", "mallory@example.test", "085 012 3456", version), 0);
        saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body?.ToJsonString());
        JsonNode record = (await world.Owner.GetAsync($"/api/v1/clients/{contact["id"]}")).Body!;
        ((string)record["givenName"]!, (string)record["email"]!, (string)record["phone"]!).ShouldBe(("Clea", cleo.Email, "+353850123456"));
        ((string)(await SeesAsync(cleo))["people"]![0]!["name"]!).ShouldBe("Clea Wren-Hale");
    }

    [Fact]
    public async Task One_says_what_one_agrees_to_takes_ones_data_along_and_asks_to_be_forgotten()
    {
        using Person cleo = await BookedAsync(27);
        await OpenedAsync(cleo);
        (await cleo.Http.PutAsync($"{Mine}/consents", new { texts = true, news = false }, 0)).Status.ShouldBe(HttpStatusCode.OK);
        ((bool)(await SeesAsync(cleo))["consents"]!["texts"]!).ShouldBeTrue();
        await world.ScalarAsync<int>(
            """
            WITH asked AS (
                INSERT INTO question (id, text, kind, position, archived) VALUES (gen_random_uuid(), 'Any allergies?', 'Line', 1, true)
                RETURNING id, text, kind
            )
            INSERT INTO visit_answer (visit_id, question_id, question, kind, answer)
                SELECT @visit, id, text, kind, 'Walnuts' FROM asked RETURNING 1
            """,
            new { visit = Guid.Parse((string)cleo.Visit["id"]!) }
        );
        JsonNode data = (await cleo.Http.GetAsync($"{Mine}/data")).Body!;
        ((string)data["answers"]![0]!["answer"]!).ShouldBe("Walnuts");
        ((string)data["people"]![0]!["email"]!).ShouldBe(cleo.Email);
        data["people"]![0]!["consents"]!.AsArray().ShouldNotBeEmpty();
        data["people"]![0]!["messages"]!.AsArray().ShouldNotBeEmpty();
        data["visits"]!.AsArray().ShouldNotBeEmpty();
        // A neighbour's page, to which the cookie would be sent, does nothing for them.
        foreach (string from in (string[])["same-site", "cross-site"])
            (await cleo.Http.PostAsync($"{Mine}/forget", new { }, ("Sec-Fetch-Site", from))).Code.ShouldBe("other-site");
        (await cleo.Http.PostAsync($"{Mine}/forget", new { }, ("Sec-Fetch-Site", "same-origin"))).Status.ShouldBe(HttpStatusCode.NoContent);
        JsonNode record = (await world.Owner.GetAsync($"/api/v1/clients/{cleo.Visit["client"]!["id"]}/record")).Body!;
        record.ToJsonString().ShouldContain("Asks to be forgotten");
    }

    [Fact]
    public async Task Who_books_online_agrees_to_texts_and_news_apart_and_nobody_for_somebody_else()
    {
        string from = (await world.NowAsync()).AddDays(30).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        string[] starts = await world.StartsAsync("Back and shoulders 30", 2, from: from);
        async Task BookOnlineAsync(string start, string phone, bool texts, bool news)
        {
            using PayWorld.Client client = world.Somebody();
            object booking = new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service("Back and shoulders 30") } },
                givenName = "Iris",
                familyName = "Fenn",
                email = "iris@example.test",
                phone,
                agreesToTexts = texts,
                agreesToNews = news,
            };
            ApiAnswer begun = await client.BeginAsync(booking);
            begun.Status.ShouldBe(HttpStatusCode.Created, begun.Body?.ToJsonString());
            string token = (string)begun.Body!["token"]!;
            await world.Gateway.EnterAsync(await client.PageAsync(token));
            ((string)(await client.FinishAsync(token))["state"]!).ShouldBe("booked");
        }

        async Task<string[]> AgreedAsync() =>
            (await world.ScalarAsync<string>(
                "SELECT coalesce(string_agg(k.kind, ' ' ORDER BY k.kind), '') FROM client_consent k JOIN client c ON c.id = k.client_id "
                    + "WHERE c.email = 'iris@example.test'"
            )).Split(' ', StringSplitOptions.RemoveEmptyEntries);

        await BookOnlineAsync(starts[0], "+353871112223", texts: true, news: false);
        (await AgreedAsync()).ShouldBe(["Texts"]);
        await BookOnlineAsync(starts[1], "+353879998887", texts: false, news: true);
        (await AgreedAsync()).ShouldBe(["Texts"]);
    }

    [GeneratedRegex(@"https://\S+mine#\S+")]
    private static partial Regex Link();

    [GeneratedRegex("code is ([0-9]{6})")]
    private static partial Regex Code();
}
