using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Business;

/// <summary>What an owner changes about the house, and what the desk and clients then find.</summary>
public sealed class HouseTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private async Task<JsonObject> BookedAsync(
        string service,
        string start,
        string location = "Mill Street",
        string client = "Hit",
        string? practitioner = null
    )
    {
        ApiAnswer answer = await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = await world.IdAsync("locations", location),
                start,
                lines = new[]
                {
                    new
                    {
                        serviceId = await world.IdAsync("services", service),
                        practitionerId = practitioner is null ? null : await world.IdAsync("practitioners", practitioner),
                    },
                },
                newClient = new
                {
                    givenName = "Ivo",
                    familyName = client,
                    phone = "020 910 0001",
                },
            },
            World.Key()
        );
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!.AsObject();
    }

    private async Task<JsonNode> ShownAsync(string service) =>
        (await world.Stranger.GetAsync("/api/public/v1/business")).Body!["categories"]!
            .AsArray()
            .SelectMany(category => category!["services"]!.AsArray())
            .Single(entry => entry!["name"]!.GetValue<string>() == service)!;

    [Fact]
    public async Task Days_are_closed_everywhere_at_once_or_nowhere()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            boat = await world.IdAsync("locations", "Boathouse");
        JsonObject visit = await BookedAsync("Physio follow-up 30", "2027-04-14T13:00:00Z");
        object days = new
        {
            locationIds = new[] { boat, mill },
            closures = new object[]
            {
                new
                {
                    date = "2027-04-13",
                    yearly = false,
                    reason = "Inventory",
                },
                new
                {
                    date = "2027-04-14",
                    yearly = false,
                    reason = "Inventory",
                },
            },
        };
        ApiAnswer hit = await world.Owner.PostAsync("/api/v1/setup/closed-days", days);
        (hit.Status, hit.Code).ShouldBe((HttpStatusCode.Conflict, "hits-appointments"));
        hit.Body!["visits"]!.AsArray().Single()!["visitId"]!.GetValue<string>().ShouldBe(visit["id"]!.GetValue<string>());
        (await world.OneAsync("locations", "Boathouse"))["closures"]!.ToJsonString().ShouldNotContain("Inventory");
        ApiAnswer seen = await world.Owner.PostAsync(
            "/api/v1/setup/closed-days",
            days,
            ("X-Accept-Hits", hit.Body!["accept"]!.GetValue<string>())
        );
        seen.Status.ShouldBe(HttpStatusCode.OK, seen.Body?.ToJsonString());
        foreach (JsonNode? entry in seen.Body!.AsArray())
            entry!["closures"]!.AsArray().Count(closed => closed!["reason"]!.GetValue<string>() == "Inventory").ShouldBe(2);
        (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.ToJsonString().ShouldContain(visit["id"]!.GetValue<string>());
        foreach (string at in new[] { mill, boat })
            foreach (string date in new[] { "2027-04-13", "2027-04-14" })
                (await world.Owner.DeleteAsync($"/api/v1/setup/locations/{at}/closures/{date}", 1)).Status.ShouldBe(HttpStatusCode.OK);
        (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.ToJsonString().ShouldNotContain(visit["id"]!.GetValue<string>());
    }

    [Fact]
    public async Task A_bad_day_among_good_ones_closes_nothing_and_is_named()
    {
        string mill = await world.IdAsync("locations", "Mill Street");
        ApiAnswer answer = await world.Owner.PostAsync(
            "/api/v1/setup/closed-days",
            new
            {
                locationIds = new[] { mill, Guid.Empty.ToString() },
                closures = new object[]
                {
                    new
                    {
                        date = "2027-06-01",
                        yearly = false,
                        reason = "Feast",
                    },
                },
                stops = new object[] { new { date = "2027-06-02", reason = " " } },
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Body!["errors"]!.AsObject().Select(pair => pair.Key).ShouldBe(["locationIds[1]", "stops[0].reason"], ignoreOrder: true);
        (await world.OneAsync("locations", "Mill Street"))["closures"]!.ToJsonString().ShouldNotContain("Feast");
        (await world.Owner.PostAsync("/api/v1/setup/closed-days", new { locationIds = Array.Empty<string>() })).Field.ShouldBe(
            "locationIds"
        );
    }

    [Fact]
    public async Task A_day_stopped_online_offers_clients_nothing_and_the_desk_everything()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            physio = await world.IdAsync("services", "Physio follow-up 30");
        const string date = "2027-03-30";
        string[] before = (await world.OfferedAsync(physio, mill, date, 1, returning: true))[date];
        before.ShouldNotBeEmpty();
        (
            await world.Owner.PutAsync($"/api/v1/setup/locations/{mill}/stops/{date}", new { date, reason = "short of people" }, 0)
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await world.OfferedAsync(physio, mill, date, 1, returning: true))[date].ShouldBeEmpty();
        JsonNode desk = (
            await world.Desk.PostAsync(
                "/api/v1/starts",
                new
                {
                    locationId = mill,
                    lines = new[] { new { serviceId = physio } },
                    from = date,
                    days = 1,
                }
            )
        ).Body![0]!;
        desk["starts"]!.AsArray().Count.ShouldBeGreaterThan(0);
        JsonNode why = (
            await world.Desk.PostAsync(
                "/api/v1/starts/days",
                new
                {
                    locationId = mill,
                    lines = new[] { new { serviceId = physio } },
                    from = date,
                    days = 1,
                    asClient = true,
                    newClient = false,
                }
            )
        ).Body![0]!;
        why["strip"]!
            .AsArray()
            .SelectMany(entry => entry!["reasons"]!.AsArray())
            .Select(entry => entry!["code"]!.GetValue<string>())
            .ShouldContain("stoppedOnline");
        (await world.Owner.DeleteAsync($"/api/v1/setup/locations/{mill}/stops/{date}", 1)).Status.ShouldBe(HttpStatusCode.OK);
        (await world.OfferedAsync(physio, mill, date, 1, returning: true))[date].ShouldBe(before);
    }

    [Fact]
    public async Task Who_chooses_is_told_and_checked_place_by_place()
    {
        JsonObject boat = await world.OneAsync("locations", "Boathouse");
        string mill = await world.IdAsync("locations", "Mill Street"),
            id = boat["id"]!.GetValue<string>();
        JsonObject house = await world.Owner.ChangeAsync(
            $"/api/v1/setup/locations/{id}",
            boat,
            entry => entry["online"]!["choice"] = "house"
        );
        JsonNode shown = await ShownAsync("Acupuncture 45");
        shown["choices"]!
            .AsArray()
            .ToDictionary(choice => choice!["locationId"]!.GetValue<string>(), choice => choice!["choice"]!.GetValue<string>())
            .ShouldBe(new Dictionary<string, string> { [mill] = "clientMay", [id] = "house" }, ignoreOrder: true);
        object Body(string at) =>
            new
            {
                locationId = at,
                start = "2027-03-16T10:00:00Z",
                lines = new[] { new { serviceId = shown["id"], practitionerId = shown["practitioners"]![0]!["id"] } },
                givenName = "Ada",
                familyName = "Marsh",
                email = "ada@example.com",
                phone = "020 910 0001",
            };
        (await world.Stranger.PostAsync("/api/public/v1/visits", Body(id), World.Key())).Field.ShouldBe("lines[0].practitionerId");
        (await world.Stranger.PostAsync("/api/public/v1/visits", Body(mill), World.Key())).Field.ShouldNotBe("lines[0].practitionerId");
        await world.Owner.ChangeAsync($"/api/v1/setup/locations/{id}", house, entry => entry["online"]!["choice"] = null);
    }

    [Fact]
    public async Task The_price_of_a_visit_is_the_servers_with_extras_and_whoever_is_chosen()
    {
        JsonNode deep = await ShownAsync("Deep tissue 60");
        JsonNode oil = deep["addOns"]!.AsArray().First(addOn => addOn!["name"]!.GetValue<string>() == "Hot oil")!;
        async Task<(int Minutes, long Price, bool IsFrom)> PriceAsync(object line)
        {
            JsonNode body = (await world.Stranger.PostAsync("/api/public/v1/price", new { lines = new[] { line } })).Body!;
            return (body["minutes"]!.GetValue<int>(), body["price"]!["amount"]!.GetValue<long>(), body["isFrom"]!.GetValue<bool>());
        }

        long least = deep["price"]!["amount"]!.GetValue<long>(),
            more = oil["price"]!["amount"]!.GetValue<long>();
        (await PriceAsync(new { serviceId = deep["id"] })).ShouldBe((60, least, true));
        JsonNode ines = deep["practitioners"]!
            .AsArray()
            .Single(practitioner => practitioner!["name"]!.GetValue<string>() == "Ines Calloway")!;
        (
            await PriceAsync(
                new
                {
                    serviceId = deep["id"],
                    practitionerId = ines["id"],
                    addOns = new[] { new { addOnId = oil["id"], count = 1 } },
                }
            )
        ).ShouldBe((60 + oil["minutes"]!.GetValue<int>(), ines["price"]!["amount"]!.GetValue<long>() + more, false));
        (await world.Stranger.PostAsync("/api/public/v1/price", new { lines = new[] { new { serviceId = Guid.Empty } } })).Field.ShouldBe(
            "lines[0].serviceId"
        );
        (await world.Stranger.PostAsync("/api/public/v1/price", new { lines = Array.Empty<object>() })).Field.ShouldBe("lines");
        // A service nobody is shown has no price for strangers, unless they come with its link.
        JsonObject facial = await world.OneAsync("services", "Express facial 30");
        JsonObject linked = await world.Owner.ChangeAsync(
            $"/api/v1/setup/services/{facial["id"]}",
            facial,
            entry => entry["visibility"] = "withLink"
        );
        (await world.Stranger.PostAsync("/api/public/v1/price", new { lines = new[] { new { serviceId = facial["id"] } } })).Field.ShouldBe(
            "lines[0].serviceId"
        );
        (
            await world.Stranger.PostAsync(
                "/api/public/v1/price",
                new { lines = new[] { new { serviceId = facial["id"] } }, link = facial["link"] }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        await world.Owner.ChangeAsync($"/api/v1/setup/services/{facial["id"]}", linked, entry => entry["visibility"] = "everyone");
    }

    [Fact]
    public async Task Clients_read_who_treats_them_and_nothing_private()
    {
        JsonObject ines = await world.OneAsync("practitioners", "Ines Calloway");
        await world.Owner.ChangeAsync(
            $"/api/v1/setup/practitioners/{ines["id"]}",
            ines,
            entry =>
            {
                entry["languages"] = new JsonArray("Irish", "Danish");
                entry["bio"] = "Leads the massage team.";
                entry["email"] = "ines.private@example.com";
            }
        );
        JsonNode business = (await world.Stranger.GetAsync("/api/public/v1/business")).Body!;
        JsonNode shown = business["practitioners"]!
            .AsArray()
            .Single(practitioner => practitioner!["id"]!.GetValue<string>() == ines["id"]!.GetValue<string>())!;
        shown["about"]!.GetValue<string>().ShouldBe("Leads the massage team.");
        shown["languages"]!.AsArray().Count.ShouldBe(2);
        shown["locationIds"]!
            .AsArray()
            .Select(locationId => locationId!.GetValue<string>())
            .ShouldContain(await world.IdAsync("locations", "Mill Street"));
        business.ToJsonString().ShouldNotContain("ines.private");
    }

    [Fact]
    public async Task Late_cancellations_by_the_client_count_with_the_no_shows_and_ours_do_not()
    {
        JsonObject mill = await world.OneAsync("locations", "Mill Street");
        string at = mill["id"]!.GetValue<string>(),
            physio = await world.IdAsync("services", "Foot care 30");
        JsonObject limited = await world.Owner.ChangeAsync(
            $"/api/v1/setup/locations/{at}",
            mill,
            entry =>
                entry["noShowLimit"] = new JsonObject
                {
                    ["times"] = 1,
                    ["months"] = 6,
                    ["action"] = "refuse",
                }
        );
        object Online(string start) =>
            new
            {
                locationId = at,
                start,
                lines = new[] { new { serviceId = physio } },
                givenName = "Lena",
                familyName = "Late",
                email = "lena.late@example.com",
                phone = "020 910 0777",
            };
        async Task<JsonNode> BookAsync(string day)
        {
            string clock = (await world.OfferedAsync(physio, at, day, 1))[day][0];
            ApiAnswer made = await world.Stranger.PostAsync("/api/public/v1/visits", Online($"{day}T{clock}:00Z"), World.Key());
            made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
            await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
            Guid id = await connection.ExecuteScalarAsync<Guid>(
                "SELECT id FROM visit WHERE reference = @reference",
                new { reference = made.Body!["reference"]!.GetValue<string>() }
            );
            return (await world.Desk.GetAsync($"/api/v1/visits/{id}")).Body!;
        }

        async Task<JsonNode> CancelAsync(JsonNode visit, string by)
        {
            ApiAnswer answer = await world.Desk.PostAsync(
                $"/api/v1/visits/{visit["id"]}/cancel",
                new { reason = "ill", by },
                World.Match(visit)
            );
            answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
            return answer.Body!;
        }

        // The clock stands on the first of March; the notice is a day.
        JsonNode early = await CancelAsync(await BookAsync("2027-03-08"), "client");
        (early["cancelledLate"]!.GetValue<bool>(), early["cancelledBy"]!.GetValue<string>()).ShouldBe((false, "client"));
        JsonNode ours = await CancelAsync(await BookAsync("2027-03-01"), "business");
        (ours["cancelledLate"]!.GetValue<bool>(), ours["cancelledBy"]!.GetValue<string>()).ShouldBe((false, "business"));
        JsonNode late = await CancelAsync(await BookAsync("2027-03-01"), "client");
        late["cancelledLate"]!.GetValue<bool>().ShouldBeTrue();
        string next = (await world.OfferedAsync(physio, at, "2027-03-08", 1))["2027-03-08"][0];
        ApiAnswer refused = await world.Stranger.PostAsync("/api/public/v1/visits", Online($"2027-03-08T{next}:00Z"), World.Key());
        refused.Code.ShouldBe("start-not-offered");
        refused.Body!["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>()).ShouldBe(["notOnline"]);
        (await world.Desk.GetAsync("/api/v1/clients?search=lena.late")).Body![0]!["lateCancellations"]!.GetValue<int>().ShouldBe(1);
        await world.Owner.ChangeAsync($"/api/v1/setup/locations/{at}", limited, entry => entry["noShowLimit"] = null);
    }

    [Fact]
    public async Task Somebody_who_leaves_keeps_her_past_and_the_visits_ahead_wait_for_a_place()
    {
        JsonObject ines = await world.OneAsync("practitioners", "Ines Calloway");
        string id = ines["id"]!.GetValue<string>();
        JsonObject visit = await BookedAsync("Deep tissue 60", "2027-05-11T13:30:00Z", client: "Left", practitioner: "Ines Calloway");
        ines["retired"] = "2027-05-01";
        ApiAnswer hit = await world.Owner.PutAsync($"/api/v1/setup/practitioners/{id}", ines, ines["version"]);
        hit.Code.ShouldBe("hits-appointments");
        ApiAnswer gone = await world.Owner.PutAsync(
            $"/api/v1/setup/practitioners/{id}",
            ines,
            ines["version"],
            hit.Body!["accept"]!.GetValue<string>()
        );
        gone.Status.ShouldBe(HttpStatusCode.OK, gone.Body?.ToJsonString());
        JsonNode waits = (await world.Desk.GetAsync("/api/v1/needs-place"))
            .Body!.AsArray()
            .Single(entry => entry!["visitId"]!.GetValue<string>() == visit["id"]!.GetValue<string>())!;
        waits["reasons"]!
            .AsArray()
            .Select(reason => reason!["text"]!.GetValue<string>())
            .ShouldContain(text => text.Contains("Ines Calloway", StringComparison.Ordinal));
        (await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}")).Body!["state"]!.GetValue<string>().ShouldBe("confirmed");
        // Until that day they work and are listed; the desk is told nothing has changed yet.
        JsonArray listed = (await world.Desk.GetAsync("/api/v1/setup")).Body!["practitioners"]!.AsArray();
        listed.Single(person => person!["id"]!.GetValue<string>() == id)!["hasLeft"]!.GetValue<bool>().ShouldBeFalse();
        await world.Owner.ChangeAsync($"/api/v1/setup/practitioners/{id}", gone.Body!.AsObject(), entry => entry["retired"] = null);
    }

    [Fact]
    public async Task House_order_decides_who_takes_a_visit_nobody_chose_for()
    {
        string[] people =
        [
            .. (await world.Owner.GetAsync("/api/v1/setup/practitioners"))
                .Body!.AsArray()
                .Select(entry => entry!["id"]!.GetValue<string>()),
        ];
        JsonNode deep = await ShownAsync("Deep tissue 60");
        string[] may = [.. deep["practitioners"]!.AsArray().Select(practitioner => practitioner!["id"]!.GetValue<string>())];
        async Task<string> TakenByAsync()
        {
            JsonNode starts = (
                await world.Desk.PostAsync(
                    "/api/v1/starts",
                    new
                    {
                        locationId = await world.IdAsync("locations", "Mill Street"),
                        lines = new[] { new { serviceId = deep["id"] } },
                        from = "2027-04-20",
                        days = 1,
                    }
                )
            ).Body![0]!;
            return starts["starts"]!.AsArray().Single(start => start!["clock"]!.GetValue<string>() == "14:30")![
                "practitionerId"
            ]!.GetValue<string>();
        }

        string first = await TakenByAsync();
        first.ShouldBe(people.First(may.Contains));
        string[] turned = [.. people.Reverse()];
        (await world.Owner.PutAsync("/api/v1/setup/practitioners/order", new { ids = turned })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await TakenByAsync()).ShouldNotBe(first);
        (await world.Owner.PutAsync("/api/v1/setup/practitioners/order", new { ids = people })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await TakenByAsync()).ShouldBe(first);
        (await world.Owner.PutAsync("/api/v1/setup/practitioners/order", new { ids = new[] { people[0], people[0] } })).Field.ShouldBe(
            "ids"
        );
    }

    [Fact]
    public async Task A_rota_is_given_to_others_and_only_by_those_who_keep_the_setup()
    {
        string from = await world.IdAsync("practitioners", "Ines Calloway"),
            to = await world.IdAsync("practitioners", "Celia Voss");
        JsonNode rota = (await world.Owner.GetAsync($"/api/v1/setup/practitioners/{from}/work")).Body!["rotas"]!.AsArray()[0]!;
        string path = $"/api/v1/setup/practitioners/{from}/rotas/{rota["from"]}/copy";
        using ApiClient ines = await ApiClient.SignedInAsync(world.Server, "ines@harrowmere.test");
        (await ines.PostAsync(path, new { to = new[] { to } })).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Owner.PostAsync(path, new { to = Array.Empty<string>() })).Field.ShouldBe("to");
        ApiAnswer copied = await world.Owner.PostAsync(path, new { to = new[] { to } });
        copied.Status.ShouldBe(HttpStatusCode.OK, copied.Body?.ToJsonString());
        JsonNode theirs = (await world.Owner.GetAsync($"/api/v1/setup/practitioners/{to}/work")).Body!["rotas"]!
            .AsArray()
            .Single(entry => entry!["from"]!.GetValue<string>() == rota["from"]!.GetValue<string>())!;
        JsonNode.DeepEquals(theirs["shifts"], rota["shifts"]).ShouldBeTrue();
    }

    [Fact]
    public async Task What_is_in_use_is_not_taken_away()
    {
        JsonNode business = (await world.Owner.GetAsync("/api/v1/setup/business")).Body!;
        JsonObject money = business.DeepClone().AsObject();
        money["currency"] = "DKK";
        (await world.Owner.PutAsync("/api/v1/setup/business", money, business["version"])).Field.ShouldBe("currency");
        JsonObject taxed = business.DeepClone().AsObject();
        taxed["taxRates"]!.AsArray().Add(new JsonObject { ["name"] = "Reduced", ["basisPoints"] = 900 });
        ApiAnswer with = await world.Owner.PutAsync("/api/v1/setup/business", taxed, business["version"]);
        string rate = with.Body!["taxRates"]!.AsArray().Single(taxRate => taxRate!["name"]!.GetValue<string>() == "Reduced")![
            "id"
        ]!.GetValue<string>();
        JsonObject deep = await world.OneAsync("services", "Deep tissue 60");
        JsonObject kept = await world.Owner.ChangeAsync($"/api/v1/setup/services/{deep["id"]}", deep, entry => entry["taxRateId"] = rate);
        ApiAnswer without = await world.Owner.PutAsync("/api/v1/setup/business", business, with.Body!["version"]);
        (without.Status, without.Field).ShouldBe((HttpStatusCode.BadRequest, "taxRates"));
        await world.Owner.ChangeAsync($"/api/v1/setup/services/{deep["id"]}", kept, entry => entry["taxRateId"] = null);
        (await world.Owner.PutAsync("/api/v1/setup/business", business, with.Body!["version"])).Status.ShouldBe(HttpStatusCode.OK);
        (await world.Owner.DeleteAsync($"/api/v1/setup/categories/{deep["categoryId"]}")).Code.ShouldBe("in-use");
    }

    [Fact]
    public async Task Blocked_time_of_a_room_takes_its_starts_and_is_told_in_the_time_of_its_place()
    {
        JsonObject wet = (await world.Owner.GetAsync("/api/v1/setup/rooms"))
            .Body!.AsArray()
            .First(entry => entry!["features"]!.AsArray().Any(feature => feature!.GetValue<string>() == "wet"))!
            .AsObject();
        JsonObject made = await world.Owner.MakeAsync(
            "/api/v1/setup/blocks",
            new
            {
                resourceId = wet["id"],
                kind = "block",
                reason = "new floor",
                start = "2027-06-14T00:00:00",
                end = "2027-06-15T00:00:00",
            }
        );
        JsonNode block = (await world.Owner.GetAsync($"/api/v1/setup/blocks?resourceId={wet["id"]}"))
            .Body!.AsArray()
            .Single(entry => entry!["id"]!.GetValue<string>() == made["id"]!.GetValue<string>())!;
        (block["start"]!.GetValue<string>(), block["locationId"]!.GetValue<string>()).ShouldBe(
            ("2027-06-14T00:00:00", wet["locationId"]!.GetValue<string>())
        );
        JsonNode day = (await world.Desk.GetAsync($"/api/v1/locations/{wet["locationId"]}/days/2027-06-14")).Body!;
        JsonNode lane = day["lanes"]!.AsArray().Single(entry => entry!["id"]!.GetValue<string>() == wet["id"]!.GetValue<string>())!;
        lane["blocked"]!.AsArray().Single()!["reason"]!.GetValue<string>().ShouldBe("new floor");
        (await world.Owner.DeleteAsync($"/api/v1/setup/blocks/{made["id"]}", block["version"])).Status.ShouldBe(HttpStatusCode.NoContent);
        (await world.Owner.DeleteAsync($"/api/v1/setup/blocks/{made["id"]}", block["version"])).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_is_usual_comes_from_the_core_and_a_place_says_what_it_sets()
    {
        JsonNode usual = (await world.Owner.GetAsync("/api/v1/setup/rules")).Body!;
        (usual["values"]!["everyMinutes"]!.GetValue<int>(), usual["sources"]!["everyMinutes"]!["place"]!.GetValue<string>()).ShouldBe(
            (15, "usual")
        );
        JsonObject boat = await world.OneAsync("locations", "Boathouse");
        JsonObject changed = await world.Owner.ChangeAsync(
            $"/api/v1/setup/locations/{boat["id"]}",
            boat,
            entry => entry["online"]!["leadMinutes"] = 45
        );
        JsonNode here = (await world.Owner.GetAsync($"/api/v1/setup/rules?locationId={boat["id"]}")).Body!;
        (here["values"]!["leadMinutes"]!.GetValue<int>(), here["sources"]!["leadMinutes"]!["name"]!.GetValue<string>()).ShouldBe(
            (45, "Boathouse")
        );
        here["sources"]!["gap"]!["place"]!.GetValue<string>().ShouldNotBe("location");
        await world.Owner.ChangeAsync(
            $"/api/v1/setup/locations/{boat["id"]}",
            changed,
            entry => entry["online"]!["leadMinutes"] = boat["online"]!["leadMinutes"]?.DeepClone()
        );
    }

    [Fact]
    public async Task The_session_says_whether_somebody_may_change_her_own_time()
    {
        using ApiClient ines = await ApiClient.SignedInAsync(world.Server, "ines@harrowmere.test");
        (await ines.GetAsync("/api/v1/session")).Body!["editsOwnShifts"]!.GetValue<bool>().ShouldBeTrue();
        (await world.Desk.GetAsync("/api/v1/session")).Body!["editsOwnShifts"]!.GetValue<bool>().ShouldBeFalse();
    }
}
