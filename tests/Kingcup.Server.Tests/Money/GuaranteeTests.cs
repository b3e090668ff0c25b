using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Money;

/// <summary>What clients give when they book, and what cancelling costs, as an owner sets it.</summary>
public sealed class GuaranteeTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Rules = "/api/v1/setup/guarantees";

    // Where the demo business has set no rule and no policy.
    private Task<string> BoathouseAsync() => world.IdAsync("locations", "Boathouse");

    private static object Rule(
        string placeId,
        string demand,
        int value = 0,
        string place = "location",
        bool onlyNew = false,
        int? noShows = null
    ) =>
        new
        {
            id = (string?)null,
            place,
            placeId,
            onlyNew,
            noShows,
            months = 6,
            demand,
            value,
        };

    private async Task<JsonNode> AddAsync(object rule)
    {
        ApiAnswer answer = await world.Owner.PostAsync(Rules, rule, World.Key());
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private async Task RemoveAsync(JsonNode rule) =>
        (await world.Owner.DeleteAsync($"{Rules}/{rule["id"]!.GetValue<string>()}", rule["version"]!.GetValue<long>())).Status.ShouldBe(
            HttpStatusCode.NoContent
        );

    private async Task<JsonNode> TryAsync(string service, bool isNew = false, int noShows = 0, object? policy = null)
    {
        ApiAnswer answer = await world.Owner.PostAsync(
            $"{Rules}/try",
            new
            {
                locationId = await BoathouseAsync(),
                lines = new[] { new { serviceId = await world.IdAsync("services", service) } },
                start = "2027-03-20T14:00:00",
                isNew,
                noShows,
                policy,
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private static long Amount(JsonNode? money) => money!["amount"]!.GetValue<long>();

    [Fact]
    public async Task The_nearest_place_decides_and_there_the_strictest()
    {
        string house = await BoathouseAsync(),
            podiatry = await world.IdAsync("services", "Podiatry 40");
        List<JsonNode> rules =
        [
            await AddAsync(Rule(house, "nothing")),
            await AddAsync(Rule(house, "percent", 30, onlyNew: true)),
            await AddAsync(Rule(house, "all", noShows: 2)),
        ];
        JsonNode stranger = await TryAsync("Podiatry 40", isNew: true), missed = await TryAsync("Podiatry 40", noShows: 2);
        Amount(stranger["deposit"]).ShouldBe((Amount(stranger["price"]) * 30 + 50) / 100);
        Amount(stranger["rest"]).ShouldBe(Amount(stranger["price"]) - Amount(stranger["deposit"]));
        stranger["ruleIds"]![0]!.GetValue<string>().ShouldBe(rules[1]["id"]!.GetValue<string>());
        Amount(missed["deposit"]).ShouldBe(Amount(missed["price"]));
        Amount((await TryAsync("Podiatry 40"))["deposit"]).ShouldBe(0);
        // Nearer than the location, although it asks for less.
        rules.Add(await AddAsync(Rule(podiatry, "card", place: "service")));
        JsonNode near = await TryAsync("Podiatry 40", isNew: true);
        (Amount(near["deposit"]), near["needsCard"]!.GetValue<bool>()).ShouldBe((0, true));
        near["because"]![0]!.GetValue<string>().ShouldContain("Podiatry 40 itself");
        foreach (JsonNode rule in rules) await RemoveAsync(rule);
        (await TryAsync("Podiatry 40", isNew: true))["ruleIds"]![0].ShouldBeNull();
    }

    [Fact]
    public async Task What_is_wrong_names_its_field()
    {
        string house = await BoathouseAsync();
        async Task FaultAsync(object rule, string field)
        {
            ApiAnswer answer = await world.Owner.PostAsync(Rules, rule, World.Key());
            answer.Status.ShouldBe(HttpStatusCode.BadRequest, answer.Body?.ToJsonString());
            answer.Body!["errors"]!.AsObject().Select(error => error.Key).ShouldContain(field);
        }

        await FaultAsync(Rule(house, "percent"), "value");
        await FaultAsync(Rule(house, "percent", 101), "value");
        await FaultAsync(Rule(house, "fixed", -5), "value");
        await FaultAsync(Rule(house, "all", noShows: 0), "noShows");
        await FaultAsync(Rule(house, "all", place: "service"), "placeId");
        await FaultAsync(Rule(house, "all", place: "client"), "placeId");
        (await world.Owner.GetAsync(Rules)).Body!.AsArray().ShouldAllBe(rule => rule!["placeId"]!.GetValue<string>() != house);
    }

    [Fact]
    public async Task A_policy_is_tried_before_it_is_saved_and_two_do_not_overwrite_each_other()
    {
        string path = $"/api/v1/setup/locations/{await BoathouseAsync()}/policy";
        JsonNode before = (await world.Owner.GetAsync(path)).Body!;
        object wanted = new
        {
            tiers = new[] { new { hours = 48, percent = 0 }, new { hours = 24, percent = 50 } },
            belowPercent = 100,
            noShowPercent = 100,
            moveNoticeHours = 24,
            freeMoves = 2,
        };
        JsonNode tried = await TryAsync("Podiatry 40", policy: wanted);
        long price = Amount(tried["price"]);
        tried["steps"]!.AsArray().Select(step => Amount(step!["fee"]!["fee"])).ShouldBe([0, (price + 1) / 2, price]);
        tried["clients"]![0]!.GetValue<string>().ShouldBe("You can cancel free of charge until 18 March 2027, 14:00.");
        (await TryAsync("Podiatry 40"))["steps"]!.AsArray().Count.ShouldBe(1, "nothing has been saved yet");
        long version = before["version"]!.GetValue<long>();
        (await world.Owner.PutAsync(path, wanted, version)).Status.ShouldBe(HttpStatusCode.OK);
        (await world.Owner.PutAsync(path, wanted, version)).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await TryAsync("Podiatry 40"))["steps"]!.AsArray().Count.ShouldBe(3);
        ApiAnswer twice = await world.Owner.PutAsync(
            path,
            new
            {
                tiers = new[] { new { hours = 24, percent = 0 }, new { hours = 24, percent = 50 } },
                belowPercent = 100,
                noShowPercent = 100,
            },
            version + 1
        );
        twice.Body!["errors"]!.AsObject().Select(error => error.Key).ShouldBe(["tiers[1].hours"]);
    }

    [Fact]
    public async Task A_category_a_rule_is_set_for_stays_until_the_rule_is_gone()
    {
        JsonObject category = await world.Owner.MakeAsync("/api/v1/setup/categories", new { name = "Light" });
        string path = $"/api/v1/setup/categories/{category["id"]}";
        JsonNode rule = await AddAsync(Rule((string)category["id"]!, "card", place: "category"));
        ApiAnswer refused = await world.Owner.DeleteAsync(path, category["version"]!);
        (refused.Status, refused.Code).ShouldBe((HttpStatusCode.Conflict, "in-use"));
        await RemoveAsync(rule);
        (await world.Owner.DeleteAsync(path, category["version"]!)).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Nobody_books_by_a_policy_they_have_not_read()
    {
        string boathouse = await BoathouseAsync();
        using ApiClient phone = new(world.Server);
        object[] lines = [new { serviceId = await world.IdAsync("services", "Acupuncture 45") }];
        JsonNode starts = (
            await phone.PostAsync("/api/public/v1/starts", new { locationId = boathouse, lines, from = "2027-04-01", days = 20 })
        ).Body!;
        string start = (string)starts["days"]!.AsArray().SelectMany(day => day!["starts"]!.AsArray()).First()!["start"]!;
        async Task<JsonNode> HeldAsync() =>
            (await phone.PostAsync("/api/public/v1/holds", new { locationId = boathouse, start, lines })).Body!;
        Task<ApiAnswer> BookAsync(JsonNode held) =>
            phone.PostAsync(
                "/api/public/v1/visits",
                new
                {
                    locationId = boathouse,
                    start,
                    lines,
                    givenName = "Ada",
                    familyName = "Reader",
                    email = "reader@example.test",
                    phone = "020 910 0077",
                    hold = (string)held["token"]!,
                    policySeen = (long)held["policyId"]!,
                },
                World.Key()
            );
        JsonNode read = await HeldAsync();

        string path = $"/api/v1/setup/locations/{boathouse}/policy";
        object strict = new { tiers = new[] { new { hours = 72, percent = 0 } }, belowPercent = 100, noShowPercent = 100 };
        ApiAnswer saved = await world.Owner.PutAsync(path, strict, (await world.Owner.GetAsync(path)).Body!["version"]!);
        saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body?.ToJsonString());
        ApiAnswer refused = await BookAsync(read);
        (refused.Status, refused.Code, refused.Field).ShouldBe((HttpStatusCode.Conflict, "policy-changed", "policy"));

        JsonNode again = await HeldAsync();
        again["policy"]![0]!.GetValue<string>().ShouldStartWith("You can cancel free of charge until ");
        (await BookAsync(again)).Status.ShouldBe(HttpStatusCode.Created);
    }
}
