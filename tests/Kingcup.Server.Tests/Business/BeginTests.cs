using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Business;

/// <summary>
/// An empty business is described, tried and begun, at once or not at all. The clock stands on Monday 1 March 2027, 09:00.
/// </summary>
public sealed class BeginTests : IAsyncLifetime
{
    private TestDatabase _database = null!;
    private ServerProcess _server = null!;
    private ApiClient _owner = null!;

    public async ValueTask InitializeAsync()
    {
        _database = await TestDatabase.DemoAsync(empty: true, accounts: true);
        _server = await ServerProcess.StartAsync(_database);
        _owner = await ApiClient.SignedInAsync(_server, "owner@harrowmere.test");
    }

    public async ValueTask DisposeAsync()
    {
        _owner.Dispose();
        await _server.DisposeAsync();
        await _database.DisposeAsync();
    }

    private async Task<JsonObject> DescribedAsync(string trade = "massage")
    {
        JsonArray all = (await _owner.GetAsync("/api/v1/setup/beginnings")).Body!.AsArray();
        all.Count.ShouldBe(6);
        JsonObject usual = all.Single(entry => (string)entry!["trade"]! == trade)!.DeepClone().AsObject();
        foreach (JsonNode? service in usual["services"]!.AsArray()) service!["price"] = (long)service["price"]! * 100;
        return new JsonObject
        {
            ["name"] = "Weir House",
            ["place"] = "",
            ["address"] = "1 Weir Lane",
            ["zone"] = "Europe/Dublin",
            ["region"] = "IE",
            ["currency"] = "EUR",
            ["locale"] = "en-IE",
            ["taxBasisPoints"] = 1350,
            ["opening"] = usual["opening"]!.DeepClone(),
            ["qualifications"] = usual["qualifications"]!.DeepClone(),
            ["people"] = new JsonArray(
                new JsonObject
                {
                    ["name"] = "Una Sedge",
                    ["weekdays"] = new JsonArray(),
                    ["holds"] = usual["qualifications"]!.DeepClone(),
                }
            ),
            ["rooms"] = usual["rooms"]!.DeepClone(),
            ["services"] = usual["services"]!.DeepClone(),
            ["online"] = new JsonObject { ["leadMinutes"] = 120, ["newLeadMinutes"] = 1440, ["horizonDays"] = 60 },
        };
    }

    private async Task<int> CountAsync(string list) => (await _owner.GetAsync($"/api/v1/setup/{list}")).Body!.AsArray().Count;

    [Theory]
    [InlineData("hair")]
    [InlineData("nails")]
    [InlineData("skin")]
    [InlineData("massage")]
    [InlineData("therapy")]
    [InlineData("clinic")]
    public async Task What_is_usual_of_every_trade_can_be_booked_as_it_stands_and_trying_keeps_nothing(string trade)
    {
        ApiAnswer answer = await _owner.PostAsync("/api/v1/setup/begin/try", await DescribedAsync(trade));
        answer.Status.ShouldBe(HttpStatusCode.OK);
        JsonArray services = answer.Body!["services"]!.AsArray();
        services.Count.ShouldBe(5);
        services.ShouldAllBe(service => (string?)service!["date"] != null && (string?)service["clock"] != null);
        foreach (string list in new[] { "locations", "practitioners", "rooms", "services", "categories", "qualifications" })
            (await CountAsync(list)).ShouldBe(0, list);
        ((string)(await _owner.GetAsync("/api/v1/setup/business")).Body!["name"]!).ShouldNotBe("Weir House");
    }

    [Fact]
    public async Task What_was_tried_is_what_clients_find_once_it_has_begun()
    {
        JsonObject described = await DescribedAsync();
        JsonArray tried = (await _owner.PostAsync("/api/v1/setup/begin/try", described)).Body!["services"]!.AsArray();
        ApiAnswer begun = await _owner.PostAsync("/api/v1/setup/begin", described);
        begun.Status.ShouldBe(HttpStatusCode.OK);
        JsonNode.DeepEquals(begun.Body!["services"], tried).ShouldBeTrue();

        using ApiClient stranger = new(_server);
        JsonNode shop = (await stranger.GetAsync("/api/public/v1/business")).Body!;
        ((string)shop["name"]!).ShouldBe("Weir House");
        string location = (string)shop["locations"]![0]!["id"]!;
        JsonNode massage = shop["categories"]![0]!["services"]![0]!;
        ApiAnswer starts = await stranger.PostAsync(
            "/api/public/v1/starts",
            new
            {
                locationId = location,
                lines = new[] { new { serviceId = (string)massage["id"]! } },
                days = 14,
            }
        );
        JsonNode first = starts.Body!["days"]!.AsArray().First(day => day!["starts"]!.AsArray().Count > 0)!;
        ((string)first["date"]!).ShouldBe((string)tried[0]!["date"]!);
        ((string)first["starts"]![0]!["clock"]!).ShouldBe((string)tried[0]!["clock"]!);
        // The rota follows the hours from today on, and everything is in order.
        JsonNode person = (await _owner.GetAsync("/api/v1/setup/practitioners")).Body![0]!;
        JsonNode rota = (await _owner.GetAsync($"/api/v1/setup/practitioners/{person["id"]}/work")).Body!["rotas"]![0]!;
        ((string)rota["from"]!).ShouldBe("2027-03-01");
        rota["shifts"]!.AsArray().Count.ShouldBe(described["opening"]!.AsArray().Count);
        (await _owner.GetAsync("/api/v1/setup/readiness")).Body!["issues"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_business_that_has_begun_does_not_begin_again_however_often_it_is_pressed()
    {
        JsonObject described = await DescribedAsync();
        ApiAnswer[] answers = await Task.WhenAll(
            Enumerable.Range(0, 4).Select(_ => _owner.PostAsync("/api/v1/setup/begin", described.DeepClone()))
        );
        answers.Count(answer => answer.Status == HttpStatusCode.OK).ShouldBe(1);
        answers.Where(answer => answer.Status != HttpStatusCode.OK).ShouldAllBe(answer => (string)answer.Body!["code"]! == "begun");
        (await CountAsync("locations")).ShouldBe(1);
        (await CountAsync("services")).ShouldBe(5);
        (await _owner.PostAsync("/api/v1/setup/begin/try", described)).Status.ShouldBe(HttpStatusCode.Conflict);
    }

    public static TheoryData<string, string, string> Faults =>
        new()
        {
            { "name", "\"\"", "name" },
            { "currency", "\"EURO\"", "currency" },
            { "zone", "\"Mars/Olympus\"", "zone" },
            { "taxBasisPoints", "20000", "taxBasisPoints" },
            { "opening", "[]", "opening" },
            { "people", "[]", "people" },
            { "people[0].name", "\" \"", "people[0].name" },
            { "people[0].holds", "[\"Flying\"]", "people[0].holds" },
            { "rooms[1].name", "\"\"", "rooms[1].name" },
            { "services", "[]", "services" },
            { "services[2].name", "\"\"", "services[2].name" },
            { "services[1].minutes", "7", "services[1].phases[0].minutes" },
            { "services[0].price", "-1", "services[0].price" },
            { "services[0].category", "\"\"", "services[0].category" },
            { "services[0].qualification", "\"Flying\"", "services[0].qualification" },
            { "qualifications", "[\"Massage\",\"Massage\"]", "qualifications" },
        };

    [Theory]
    [MemberData(nameof(Faults))]
    public async Task What_is_described_wrongly_is_named_and_nothing_is_begun(string at, string value, string field)
    {
        JsonObject described = await DescribedAsync();
        Set(described, at, JsonNode.Parse(value));
        ApiAnswer answer = await _owner.PostAsync("/api/v1/setup/begin", described);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Field.ShouldBe(field);
        (await CountAsync("locations")).ShouldBe(0);
        (await CountAsync("practitioners")).ShouldBe(0);
        (await CountAsync("qualifications")).ShouldBe(0);
    }

    [Fact]
    public async Task A_service_nobody_can_do_says_why_before_it_is_begun()
    {
        JsonObject described = await DescribedAsync();
        described["people"]![0]!["holds"] = new JsonArray();
        JsonArray services = (await _owner.PostAsync("/api/v1/setup/begin/try", described)).Body!["services"]!.AsArray();
        services.Count(service => (string?)service!["date"] == null).ShouldBe(4);
        services
            .Where(service => (string?)service!["date"] == null)
            .ShouldAllBe(service => service!["reasons"]!.AsArray().Count > 0);
    }

    private static void Set(JsonNode node, string path, JsonNode? value)
    {
        string[] steps = path.Replace("[", ".", StringComparison.Ordinal).Replace("]", "", StringComparison.Ordinal).Split('.');
        foreach (string step in steps[..^1]) node = (int.TryParse(step, out int index) ? node[index] : node[step])!;
        node[steps[^1]] = value;
    }
}
