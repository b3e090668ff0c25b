using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Core.Booking;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>
/// Times kept for whoever chooses online (rules, section 7). All of it comes from one address range, so that these run one after
/// another and give back what they took.
/// </summary>
public sealed class HoldTests(World world)
{
    private const string Holds = "/api/public/v1/holds";

    private object Wanted(string start, string service = "Podiatry 40", string? practitioner = "Rafe Lindqvist") => new
    {
        locationId = world.MillStreet,
        start,
        lines = new[]
        {
            new { serviceId = world.Service(service), practitionerId = practitioner is null ? null : world.Practitioner(practitioner) },
        },
        returning = true,
    };

    private object Booking(string start, string? hold, string email, long? priceSeen = null) => new
    {
        locationId = world.MillStreet,
        start,
        lines = new[] { new { serviceId = world.Service("Podiatry 40"), practitionerId = world.Practitioner("Rafe Lindqvist") } },
        givenName = "Ada",
        familyName = "Marsh",
        email,
        phone = $"+3535{Math.Abs(email.GetHashCode(StringComparison.Ordinal)) % 100_000_000:D8}",
        hold,
        priceSeen,
    };

    private static async Task<JsonNode> HoldAsync(ApiClient who, object wanted)
    {
        ApiAnswer answer = await who.PostAsync(Holds, wanted);
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private static string TokenOf(JsonNode held) => held["token"]!.GetValue<string>();

    private static async Task GiveBackAsync(ApiClient who, JsonNode held) =>
        (await who.PostAsync(Holds + "/back", new { token = TokenOf(held) })).Status.ShouldBe(HttpStatusCode.NoContent);

    private static Task<ApiAnswer> BookAsync(ApiClient who, object booking) =>
        who.PostAsync("/api/public/v1/visits", booking, World.Key());

    private async Task<string[]> StartsAsync(ApiClient who, string date) =>
        [
            .. (
                await who.PostAsync(
                    "/api/public/v1/starts",
                    new
                    {
                        locationId = world.MillStreet,
                        lines = new[]
                        {
                            new { serviceId = world.Service("Podiatry 40"), practitionerId = world.Practitioner("Rafe Lindqvist") },
                        },
                        from = date,
                        returning = true,
                    }
                )
            ).Body!["days"]!.AsArray().SelectMany(day => day!["starts"]!.AsArray()).Select(start => start!["start"]!.GetValue<string>()),
        ];

    [Fact]
    public async Task A_time_that_is_kept_is_nobody_elses_and_its_claims_become_the_visits()
    {
        using ApiClient own = new(world.First), other = new(world.Second);
        string start = World.At(23, 9);
        JsonNode held = await HoldAsync(own, Wanted(start));
        held["seconds"]!.GetValue<int>().ShouldBeInRange(60, (int)HoldRules.Length.TotalSeconds);
        held["lines"]![0]!.GetValue<string>().ShouldBe("Podiatry 40 with Rafe Lindqvist");
        held["end"]!.GetValue<string>().ShouldBe(World.At(23, 9, 40));
        (await StartsAsync(other, "2027-03-24")).ShouldNotContain(start);
        ApiAnswer late = await other.PostAsync(Holds, Wanted(start));
        (late.Status, late.Code).ShouldBe((HttpStatusCode.Conflict, "start-taken"));
        late.Body!["nearest"]!.AsArray().Count.ShouldBeGreaterThan(0);
        (await BookAsync(other, Booking(start, null, "late@example.com"))).Code.ShouldBe("start-taken");

        // The desk sees that it is kept, and until when.
        JsonNode lane = (await world.Desk.GetAsync($"/api/v1/locations/{world.MillStreet}/days/2027-03-24")).Body!["lanes"]!
            .AsArray()
            .Single(lane => lane!["name"]!.GetValue<string>() == "Rafe Lindqvist")!;
        JsonNode kept = lane["kept"]!.AsArray().Single()!;
        (kept["from"]!.GetValue<string>(), kept["runsOut"]!.GetValue<string>()).ShouldBe((start, held["until"]!.GetValue<string>()));

        ApiAnswer why = await world.Desk.PostAsync(
            "/api/v1/starts/why-not",
            new { locationId = world.MillStreet, lines = new[] { new { serviceId = world.Service("Podiatry 40") } }, start }
        );
        why.Body!["reasons"]!.AsArray().Select(reason => reason!["text"]!.GetValue<string>())
            .ShouldContain(text => text.Contains("is kept for somebody who is booking online, until 09:", StringComparison.Ordinal));
        why.Body["reasons"]!.AsArray().ShouldAllBe(reason => reason!["appointmentId"] == null);

        Guid[] before = await ClaimsAsync();
        long price = held["price"]!["amount"]!.GetValue<long>();
        ApiAnswer booked = await BookAsync(own, Booking(start, TokenOf(held), "holder@example.com", price));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        (await ClaimsAsync()).ShouldBe(before);
        // It is a visit now, and no longer to be given back.
        await GiveBackAsync(own, held);
        (await BookAsync(other, Booking(start, null, "late@example.com"))).Code.ShouldBe("start-taken");

        async Task<Guid[]> ClaimsAsync()
        {
            await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
            return [
                .. await connection.QueryAsync<Guid>(
                    "SELECT id FROM claim WHERE live AND resource_id = @Rafe AND during && tstzrange(@From, @Until) ORDER BY id",
                    new
                    {
                        Rafe = Guid.Parse(world.Practitioner("Rafe Lindqvist")),
                        From = DateTimeOffset.Parse(start, System.Globalization.CultureInfo.InvariantCulture).UtcDateTime,
                        Until = DateTimeOffset.Parse(World.At(23, 9, 40), System.Globalization.CultureInfo.InvariantCulture).UtcDateTime,
                    }
                ),
            ];
        }
    }

    [Fact]
    public async Task Choosing_another_time_gives_the_first_back_on_whichever_day_and_leaving_gives_back_the_last()
    {
        using ApiClient own = new(world.First), other = new(world.Second);
        JsonNode first = await HoldAsync(own, Wanted(World.At(25, 9)));
        (await StartsAsync(other, "2027-03-26")).ShouldNotContain(World.At(25, 9));
        JsonNode second = await HoldAsync(own, Wanted(World.At(30, 9)));
        (await StartsAsync(other, "2027-03-26")).ShouldContain(World.At(25, 9));
        (await StartsAsync(other, "2027-03-31")).ShouldNotContain(World.At(30, 9));
        // Half an hour later, over the very time that they have: their own is not in their way.
        JsonNode third = await HoldAsync(own, Wanted(World.At(30, 9, 30)));
        await GiveBackAsync(own, first);
        await GiveBackAsync(own, second);
        (await StartsAsync(other, "2027-03-31")).ShouldNotContain(World.At(30, 9, 30));
        await GiveBackAsync(own, third);
        (await StartsAsync(other, "2027-03-31")).ShouldContain(World.At(30, 9, 30));
    }

    [Fact]
    public async Task What_has_run_out_blocks_nobody_and_its_holder_is_a_client_like_any_other()
    {
        using ApiClient own = new(world.First), other = new(world.Second);
        (string start, string late) = (World.At(28, 9), World.At(28, 14));
        JsonNode held = await HoldAsync(own, Wanted(start));
        await RunOutAsync(held);
        // The server that remembers the day learns of it as from any change.
        (await BookAsync(other, Booking(start, null, "quick@example.com"))).Status.ShouldBe(HttpStatusCode.Created);
        ApiAnswer refused = await BookAsync(own, Booking(start, TokenOf(held), "slow@example.com"));
        (refused.Status, refused.Code).ShouldBe((HttpStatusCode.Conflict, "start-taken"));

        // Nobody was quicker: it is booked all the same.
        held = await HoldAsync(own, Wanted(late));
        await RunOutAsync(held);
        (await BookAsync(own, Booking(late, TokenOf(held), "slow@example.com"))).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task Two_who_book_with_one_token_at_two_servers_at_once_have_one_visit()
    {
        using ApiClient own = new(world.First), other = new(world.Second);
        string start = World.At(32, 9);
        JsonNode held = await HoldAsync(own, Wanted(start));
        ApiAnswer[] answers = await Task.WhenAll(
            BookAsync(own, Booking(start, TokenOf(held), "one@example.com")),
            BookAsync(other, Booking(start, TokenOf(held), "two@example.com"))
        );
        answers.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.Created, HttpStatusCode.Conflict]);
        answers.Single(answer => answer.Status == HttpStatusCode.Conflict).Code.ShouldBe("start-taken");
    }

    [Fact]
    public async Task Many_devices_that_want_one_time_at_two_servers_at_once_leave_it_to_one()
    {
        ApiClient[] devices = [.. Enumerable.Range(0, 6).Select(i => new ApiClient(i % 2 == 0 ? world.First : world.Second))];
        ApiAnswer[] answers = await Task.WhenAll(devices.Select(device => device.PostAsync(Holds, Wanted(World.At(35, 9)))));
        answers.Count(answer => answer.Status == HttpStatusCode.Created).ShouldBe(1);
        answers.Where(answer => answer.Status != HttpStatusCode.Created).ShouldAllBe(answer => answer.Code == "start-taken");
        foreach (ApiClient device in devices)
            device.Dispose();
        await GiveBackAsync(world.Stranger, answers.Single(answer => answer.Status == HttpStatusCode.Created).Body!);
    }

    [Fact]
    public async Task Two_tabs_of_one_device_that_choose_at_once_keep_one_time()
    {
        using ApiClient own = new(world.First), other = new(world.Second);
        // The device has its name from its first time on.
        await HoldAsync(own, Wanted(World.At(44, 9)));
        for (int i = 0; i < 3; i++)
        {
            (string wednesday, string friday) = (World.At(44, 9 + i), World.At(46, 9 + i));
            ApiAnswer[] answers = await Task.WhenAll(own.PostAsync(Holds, Wanted(wednesday)), own.PostAsync(Holds, Wanted(friday)));
            answers.ShouldAllBe(answer => answer.Status == HttpStatusCode.Created);
            bool[] isFree =
            [
                (await StartsAsync(other, "2027-04-14")).Contains(wednesday),
                (await StartsAsync(other, "2027-04-16")).Contains(friday),
            ];
            isFree.Count(free => free).ShouldBe(1);
            foreach (ApiAnswer answer in answers) await GiveBackAsync(own, answer.Body!);
        }
    }

    [Fact]
    public async Task One_address_range_holds_few_times_whatever_it_calls_its_devices_and_still_books()
    {
        List<JsonNode> held = [];
        string[] free =
        [
            .. await StartsAsync(world.Stranger, "2027-04-07"),
            .. await StartsAsync(world.Stranger, "2027-04-09"),
            .. await StartsAsync(world.Stranger, "2027-04-05"),
        ];
        ApiAnswer refused;
        int place = 0;
        do
        {
            using ApiClient device = new(world.First);
            refused = await device.PostAsync(Holds, Wanted(free[place++]));
            if (refused.Status == HttpStatusCode.Created) held.Add(refused.Body!);
        } while (refused.Code != "held-enough" && place < free.Length - 1);
        try
        {
            held.Count.ShouldBe(HoldRules.MostOfRange);
            (refused.Status, refused.Code).ShouldBe((HttpStatusCode.TooManyRequests, "held-enough"));
            refused.Body!["detail"]!.GetValue<string>().ShouldContain("Book it before");
            using ApiClient client = new(world.Second);
            string left = (await StartsAsync(client, "2027-04-05"))[^1];
            (await BookAsync(client, Booking(left, null, "crowd@example.com"))).Status.ShouldBe(HttpStatusCode.Created);
        }
        finally
        {
            foreach (JsonNode one in held) await GiveBackAsync(world.Stranger, one);
        }
    }

    [Fact]
    public async Task Another_price_than_was_read_books_nothing_and_says_the_new_one()
    {
        using ApiClient own = new(world.First);
        string start = World.At(39, 9);
        JsonNode held = await HoldAsync(own, Wanted(start));
        long price = held["price"]!["amount"]!.GetValue<long>();
        ApiAnswer refused = await BookAsync(own, Booking(start, TokenOf(held), "price@example.com", price - 100));
        (refused.Status, refused.Code, refused.Field).ShouldBe((HttpStatusCode.Conflict, "price-changed", "price"));
        refused.Body!["price"]!["amount"]!.GetValue<long>().ShouldBe(price);
        (await BookAsync(own, Booking(start, TokenOf(held), "price@example.com", price))).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task Whoever_changes_their_mind_after_a_time_was_kept_books_what_they_want_now()
    {
        using ApiClient own = new(world.First), other = new(world.Second);
        string start = World.At(42, 9);
        JsonNode held = await HoldAsync(own, Wanted(start));
        object facial = new
        {
            locationId = world.MillStreet,
            start = World.At(42, 12),
            lines = new[] { new { serviceId = world.Service("Express facial 30") } },
            givenName = "Ada",
            familyName = "Marsh",
            email = "mind@example.com",
            phone = "020 910 0042",
            hold = TokenOf(held),
        };
        (await BookAsync(own, facial)).Status.ShouldBe(HttpStatusCode.Created);
        (await StartsAsync(other, "2027-04-12")).ShouldContain(start);
    }

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("0")]
    [InlineData("zz")]
    [InlineData("00000000000000000000000000000000000000000000000000000000000000zz")]
    [InlineData("0000000000000000000000000000000000000000000000000000000000000000")]
    public async Task A_token_that_names_nothing_gives_nothing_back(string? token) =>
        (await world.Stranger.PostAsync(Holds + "/back", new { token })).Status.ShouldBe(HttpStatusCode.NoContent);

    [Fact]
    public async Task What_is_not_offered_is_not_kept_and_says_why()
    {
        ApiAnswer closed = await world.Stranger.PostAsync(Holds, Wanted(World.At(44, 5)));
        (closed.Status, closed.Code, closed.Field).ShouldBe((HttpStatusCode.Conflict, "start-not-offered", "start"));
        (await world.Stranger.PostAsync(Holds, Wanted(World.At(-1, 9)))).Field.ShouldBe("start");
        ApiAnswer nowhere = await world.Stranger.PostAsync(Holds, new
        {
            locationId = Guid.NewGuid(),
            start = World.At(44, 9),
            lines = new[] { new { serviceId = world.Service("Podiatry 40") } },
        });
        (nowhere.Status, nowhere.Field).ShouldBe((HttpStatusCode.BadRequest, "locationId"));
    }

    private async Task RunOutAsync(JsonNode held)
    {
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        (
            await connection.ExecuteAsync(
                """
                WITH late AS (UPDATE proposal SET expires_at = created_at + interval '1 millisecond' WHERE token_hash = @hash
                    RETURNING id, expires_at, date),
                    held AS (UPDATE occupation o SET expires_at = late.expires_at FROM late WHERE o.proposal_id = late.id)
                UPDATE book_day d SET revision = d.revision + 1 FROM late WHERE d.date = late.date
                """,
                new { hash = System.Security.Cryptography.SHA256.HashData(System.Text.Encoding.ASCII.GetBytes(TokenOf(held))) }
            )
        ).ShouldBe(1);
    }
}
