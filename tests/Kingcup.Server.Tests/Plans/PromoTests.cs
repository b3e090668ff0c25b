using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Server.Tests.Money;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Plans;

/// <summary>Promo codes over HTTP: as an owner sets them, and as a client who names one books. New clients give 30 %.</summary>
public sealed class PromoTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Promos = "/api/v1/setup/promos",
        Service = "Deep tissue 60";

    private static int _next;

    // Each test has a time of its own, with somebody whose price is the list price.
    private async Task<string> StartAsync() =>
        (await world.StartsAsync(Service, 1 + Interlocked.Increment(ref _next), world.Practitioner("Tobias Quill")))[^1];

    private JsonObject Document(string code, string kind = "percent", int value = 10, params string[] services) =>
        new()
        {
            ["id"] = null,
            ["code"] = code,
            ["kind"] = kind,
            ["value"] = value,
            ["serviceIds"] = new JsonArray([.. services.Select(service => (JsonNode)world.Service(service))]),
        };

    private async Task<JsonNode> AddAsync(JsonObject promo)
    {
        ApiAnswer answer = await world.Owner.PostAsync(Promos, promo, World.Key());
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private object Wanted(string? start, string promo, string service = Service) =>
        new
        {
            locationId = world.MillStreet,
            start,
            lines = new[] { new { serviceId = world.Service(service), practitionerId = world.Practitioner("Tobias Quill") } },
            promo,
        };

    private JsonObject Booking(PayWorld.Client client, string start, string? promo, long? priceSeen = null, string? hold = null)
    {
        JsonObject booking = JsonNode
            .Parse(
                System.Text.Json.JsonSerializer.Serialize(
                    client.Booking(start, practitionerId: world.Practitioner("Tobias Quill"), hold: hold)
                )
            )!
            .AsObject();
        booking["promo"] = promo;
        booking["priceSeen"] = priceSeen;
        return booking;
    }

    /// <summary>A visit as the desk sees it.</summary>
    private async Task<JsonNode> AtDeskAsync(JsonNode booked)
    {
        JsonNode called = (await world.Owner.GetAsync($"/api/v1/visit-references/{booked["reference"]}")).Body!;
        return (await world.Owner.GetAsync($"/api/v1/visits/{called["id"]}")).Body!;
    }

    private static long Amount(JsonNode? money) => (long)money!["amount"]!;

    [Fact]
    public async Task Whoever_names_a_code_pays_less_gives_less_and_has_it_in_the_price()
    {
        string start = await StartAsync();
        using PayWorld.Client client = world.Somebody(world.Second);
        JsonNode price = (await client.PostAsync("/price", Wanted(null, " lake10 "))).Body!;
        (Amount(price["price"]), (string)price["promo"]!["code"]!, Amount(price["promo"]!["off"])).ShouldBe((7560, "LAKE10", 840));
        price["promo"]!["fault"].ShouldBeNull();

        // Example 9b: 10 % off first, so 75.60, and 30 % of that.
        JsonNode held = (await client.PostAsync("/holds", Wanted(start, "lake10"))).Body!;
        (Amount(held["price"]), Amount(held["due"]), Amount(held["rest"]), Amount(held["promo"]!["off"])).ShouldBe((7560, 2268, 5292, 840));
        string hold = (string)held["token"]!;
        string token = (string)(await client.BeginAsync(Booking(client, start, "LAKE10", 7560, hold))).Body!["token"]!;
        (await world.Gateway.EnterAsync(await client.PageAsync(token))).ShouldNotBeNull();
        JsonNode visit = (await client.FinishAsync(token))["visit"]!;
        (Amount(visit["price"]), Amount(visit["paid"])).ShouldBe((7560, 2268));

        JsonNode stored = await AtDeskAsync(visit);
        ((string)stored["promo"]!["code"]!, Amount(stored["promo"]!["off"])).ShouldBe(("LAKE10", 840));
        stored["lines"]![0]!["priceParts"]!.AsArray().Select(part => Amount(part!["amount"])).ShouldBe([8400, -840]);
    }

    [Theory]
    [InlineData("LAKE99", "Deep tissue 60", "We know no such code. Look at how it is written.")]
    [InlineData("WINTER15", "Deep tissue 60", "This code can no longer be used.")]
    [InlineData("LAKE10", "Prenatal 60", "This code is for other services.")]
    public async Task A_code_that_does_not_hold_is_said_so_and_keeps_nobody_from_their_time(string code, string service, string words)
    {
        using PayWorld.Client client = world.Somebody();
        string start = (await world.StartsAsync(service, 1 + Interlocked.Increment(ref _next)))[^1];
        object wanted = new
        {
            locationId = world.MillStreet,
            start,
            lines = new[] { new { serviceId = world.Service(service) } },
            promo = code,
        };
        ApiAnswer held = await client.PostAsync("/holds", wanted);
        held.Status.ShouldBe(HttpStatusCode.Created, held.Body?.ToJsonString());
        ((string)held.Body!["promo"]!["fault"]!, Amount(held.Body["promo"]!["off"])).ShouldBe((words, 0));
        JsonObject booking = Booking(client, start, code, hold: (string)held.Body["token"]!);
        booking["lines"] = new JsonArray(new JsonObject { ["serviceId"] = world.Service(service) });
        ApiAnswer refused = await client.PostAsync("/visits", booking, World.Key());
        refused.Status.ShouldBe(HttpStatusCode.BadRequest, refused.Body?.ToJsonString());
        ((string)refused.Body!["field"]!, (string)refused.Body["detail"]!).ShouldBe(("promo", words));
        (await client.PostAsync("/holds/back", new { token = (string)held.Body["token"]! })).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task A_code_for_a_few_services_and_dates_names_them()
    {
        JsonObject promo = Document("MARCH", "fixed", 1000, "Hot stones 75");
        (promo["from"], promo["until"]) = ("2027-03-20", "2027-03-31");
        await AddAsync(promo);
        using PayWorld.Client client = world.Somebody();
        async Task<JsonNode> Said(string? start, string service) =>
            (await client.PostAsync("/price", Wanted(start, "march", service))).Body!["promo"]!;
        async Task ShouldSay(string words, string? start, string service) =>
            ((string)(await Said(start, service))["fault"]!).ShouldBe(words);
        await ShouldSay("This code is for Hot stones 75.", null, Service);
        await ShouldSay("This code is for visits from 20 March 2027 on.", "2027-03-19T22:30:00Z", "Hot stones 75");
        Amount((await Said("2027-03-20T10:00:00Z", "Hot stones 75"))["off"]).ShouldBe(1000);
        // By the clock of the location, an hour ahead of UTC from the 28th on, it is April.
        await ShouldSay("This code is for visits until 31 March 2027.", "2027-03-31T23:30:00Z", "Hot stones 75");
    }

    [Fact]
    public async Task Nothing_is_due_and_nothing_is_paid_where_a_code_takes_all_off_and_what_it_was_is_kept_when_the_owner_ends_it()
    {
        JsonNode promo = await AddAsync(Document("ALLOFIT", value: 100, services: Service));
        string start = await StartAsync();
        using PayWorld.Client client = world.Somebody();
        ApiAnswer booked = await client.PostAsync("/visits", Booking(client, start, "allofit", 0), World.Key());
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        Amount(booked.Body!["price"]).ShouldBe(0);
        JsonArray uses = (await world.Owner.GetAsync($"{Promos}/uses")).Body!.AsArray();
        uses.Where(use => (string)use!["promoId"]! == (string)promo["id"]!).Select(use => (int)use!["visits"]!).ShouldBe([1]);

        // Ended between a look and the press: nothing is booked at another price than was read.
        string next = await StartAsync();
        using PayWorld.Client late = world.Somebody();
        string hold = (string)(await late.PostAsync("/holds", Wanted(next, "ALLOFIT"))).Body!["token"]!;
        JsonObject ended = promo.DeepClone().AsObject();
        ended["isEnded"] = true;
        (await world.Owner.PutAsync($"{Promos}/{promo["id"]}", ended, (long)promo["version"]!)).Status.ShouldBe(HttpStatusCode.OK);
        ApiAnswer refused = await late.PostAsync("/visits", Booking(late, next, "ALLOFIT", 0, hold), World.Key());
        refused.Status.ShouldBe(HttpStatusCode.BadRequest, refused.Body?.ToJsonString());
        ((string)refused.Body!["field"]!, (string)refused.Body["detail"]!).ShouldBe(("promo", "This code can no longer be used."));

        // What was booked with it keeps its price, also with somebody who asks more.
        JsonNode visit = await AtDeskAsync(booked.Body);
        string line = (string)visit["lines"]![0]!["id"]!;
        ApiAnswer laid = await world.Owner.PostAsync(
            $"/api/v1/visits/{visit["id"]}/lay",
            new
            {
                start = (await world.StartsAsync(Service, 12, world.Practitioner("Ines Calloway")))[^1],
                lines = new[]
                {
                    new { id = line, serviceId = world.Service(Service), practitionerId = world.Practitioner("Ines Calloway") },
                },
            },
            World.Match(visit)
        );
        laid.Status.ShouldBe(HttpStatusCode.OK, laid.Body?.ToJsonString());
        Amount(laid.Body!["price"]).ShouldBe(0);
        laid.Body["lines"]![0]!["priceParts"]!.AsArray().Select(part => Amount(part!["amount"])).ShouldBe([8400, 800, -9200]);
    }

    [Fact]
    public async Task An_owner_is_told_what_is_wrong_with_a_code()
    {
        async Task ShouldRefuse(JsonObject promo, string field, string words)
        {
            ApiAnswer answer = await world.Owner.PostAsync(Promos, promo, World.Key());
            answer.Status.ShouldBe(HttpStatusCode.BadRequest);
            ((string)answer.Body!["errors"]![field]![0]!).ShouldBe(words);
        }

        await ShouldRefuse(Document("a b"), "code", "Enter 3 to 24 letters from A to Z, digits or hyphens.");
        await ShouldRefuse(Document("lake 10"), "code", "There is such a code already. Choose another.");
        await ShouldRefuse(Document("TOOMUCH", value: 101), "value", "Enter 1 to 100 percent.");
        await ShouldRefuse(Document("NOTHING", "fixed", 0), "value", "Enter an amount above nothing.");
        JsonObject backwards = Document("BACKWARDS");
        (backwards["from"], backwards["until"]) = ("2027-03-20", "2027-03-19");
        await ShouldRefuse(backwards, "until", "Choose a date that is not before the first.");
        JsonObject stranger = Document("STRANGER");
        stranger["serviceIds"] = new JsonArray(world.MillStreet);
        await ShouldRefuse(stranger, "serviceIds", "There is no such service.");
    }

    [Fact]
    public async Task Two_at_once_do_not_make_one_code_twice()
    {
        using ApiClient other = await ApiClient.SignedInAsync(world.Second, "manager@harrowmere.test");
        ApiAnswer[] answers = await Task.WhenAll(
            world.Owner.PostAsync(Promos, Document("ATONCE"), World.Key()),
            other.PostAsync(Promos, Document("AT ONCE"), World.Key())
        );
        answers.Count(answer => answer.Status == HttpStatusCode.Created).ShouldBe(1);
        answers.Count(answer => answer.Status == HttpStatusCode.BadRequest).ShouldBe(1);
    }
}
