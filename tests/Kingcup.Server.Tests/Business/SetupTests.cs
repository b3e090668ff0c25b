using System.Net;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Business;

/// <summary>Changing the setup through the API, and what clients then find.</summary>
public sealed class SetupTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    [Fact]
    public async Task A_business_is_described_from_nothing_and_takes_its_first_booking()
    {
        await using TestDatabase database = await TestDatabase.DemoAsync(empty: true);
        await using ServerProcess server = await ServerProcess.StartAsync(database);
        using ApiClient owner = await ApiClient.SignedInAsync(server, "owner@harrowmere.test");
        JsonNode Issues(ApiAnswer answer) => answer.Body!["issues"]!;
        Issues(await owner.GetAsync("/api/v1/setup/readiness"))
            .AsArray()
            .Select(issue => issue!["mend"]!.GetValue<string>())
            .ShouldBe(["locations", "practitioners", "services"], ignoreOrder: true);

        JsonObject location = await owner.MakeAsync(
            "/api/v1/setup/locations",
            new
            {
                name = "Weir House",
                zone = "Europe/Dublin",
                address = "1 Weir Lane",
                phone = "",
                opening = new[]
                {
                    new
                    {
                        weekday = "monday",
                        from = "09:00:00",
                        until = "17:00:00",
                    },
                    new
                    {
                        weekday = "tuesday",
                        from = "09:00:00",
                        until = "17:00:00",
                    },
                },
                bookableOnline = true,
                longestWaitMinutes = 0,
                noShowLimit = (object?)null,
                online = new { everyMinutes = 30, leadMinutes = 60 },
            }
        );
        string at = location["id"]!.GetValue<string>();
        JsonObject person = await owner.MakeAsync("/api/v1/setup/practitioners", Person("Una Sedge"));
        string who = person["id"]!.GetValue<string>();
        object shift = new
        {
            locationId = at,
            from = "10:00:00",
            until = "14:00:00",
            breaks = new[]
            {
                new
                {
                    from = "12:00:00",
                    until = "12:30:00",
                    reason = "Lunch",
                },
            },
        };
        (
            await owner.PutAsync(
                $"/api/v1/setup/practitioners/{who}/rotas/2027-03-01",
                new
                {
                    from = "2027-03-01",
                    weeks = 2,
                    shifts = new[]
                    {
                        new
                        {
                            week = 0,
                            weekday = "tuesday",
                            shift,
                        },
                    },
                },
                0
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        string massage = (await owner.MakeAsync("/api/v1/setup/qualifications", new { name = "Massage", warnDays = 30 }))[
            "id"
        ]!.GetValue<string>();
        (
            await owner.PutAsync(
                "/api/v1/setup/held-qualifications",
                new[]
                {
                    new
                    {
                        practitionerId = who,
                        qualificationId = massage,
                        held = new[] { new { from = "2027-01-01" } },
                    },
                }
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        await owner.MakeAsync(
            "/api/v1/setup/rooms",
            new
            {
                name = "Green",
                locationId = at,
                capacity = 1,
                turnaroundMinutes = 10,
                features = new[] { "couch" },
            }
        );
        string category = (await owner.MakeAsync("/api/v1/setup/categories", new { name = "Massage", online = new { } }))[
            "id"
        ]!.GetValue<string>();
        JsonObject service = await owner.MakeAsync("/api/v1/setup/services", Service("Long stroke 50", category, massage));
        string id = service["id"]!.GetValue<string>();

        JsonNode ready = (await owner.GetAsync("/api/v1/setup/readiness")).Body!;
        ready["pageOpen"]!.GetValue<bool>().ShouldBeTrue(ready.ToJsonString());
        ready["issues"]!.AsArray().ShouldBeEmpty();
        using ApiClient client = new(server);
        ApiAnswer starts = await client.PostAsync(
            "/api/public/v1/starts",
            new
            {
                locationId = at,
                lines = new[] { new { serviceId = id } },
                from = "2027-03-01",
                days = 16,
            }
        );
        JsonArray days = starts.Body!["days"]!.AsArray();
        // Every second Tuesday; 50 minutes and 10 of buffer fit from 10:00 to 12:00 and from 12:30 to 14:00.
        days.Where(day => day!["starts"]!.AsArray().Count > 0)
            .Select(day => day!["date"]!.GetValue<string>())
            .ShouldBe(["2027-03-02", "2027-03-16"]);
        days[1]!["starts"]!
            .AsArray()
            .Select(start => start!["clock"]!.GetValue<string>())
            .ShouldBe(["10:00", "10:30", "11:00", "12:30", "13:00"]);
        (
            await client.PostAsync(
                "/api/public/v1/visits",
                new
                {
                    locationId = at,
                    start = "2027-03-02T10:30:00Z",
                    lines = new[] { new { serviceId = id } },
                    givenName = "Ada",
                    familyName = "Marsh",
                    email = "ada@example.com",
                    phone = "020 910 0001",
                },
                World.Key()
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
        (await owner.GetAsync("/api/v1/setup/history")).Body!.AsArray().Count.ShouldBeGreaterThanOrEqualTo(7);
    }

    private static object Person(string name) =>
        new
        {
            name,
            bio = "",
            phone = (string?)null,
            email = (string?)null,
            languages = Array.Empty<string>(),
            tint = 0,
            photoId = (string?)null,
            bookableOnline = true,
            acceptsNewClients = true,
            mostAppointments = (int?)null,
            mostMinutes = (int?)null,
            mostPerCategory = Array.Empty<object>(),
            retired = (string?)null,
        };

    private static JsonObject Service(string name, string category, string qualification) =>
        new()
        {
            ["name"] = name,
            ["categoryId"] = category,
            ["kind"] = "oneToOne",
            ["seats"] = 1,
            ["phases"] = new JsonArray(new JsonObject { ["minutes"] = 50, ["attendedBy"] = new JsonArray(0) }),
            ["roles"] = new JsonArray(new JsonObject { ["name"] = "Practitioner", ["qualifications"] = new JsonArray(qualification) }),
            ["room"] = new JsonObject { ["features"] = new JsonArray("couch"), ["units"] = 1 },
            ["bufferBeforeMinutes"] = 0,
            ["bufferAfterMinutes"] = 10,
            ["bufferAlways"] = false,
            ["priceForm"] = "fixed",
            ["price"] = 6000,
            ["taxRateId"] = null,
            ["terms"] = new JsonArray(),
            ["visibility"] = "everyone",
            ["for"] = "everyone",
            ["online"] = new JsonObject(),
            ["setTimes"] = new JsonArray(),
            ["prerequisite"] = null,
            ["weekdays"] = new JsonArray(),
            ["season"] = null,
            ["locationIds"] = new JsonArray(),
            ["description"] = "",
            ["onlineName"] = null,
            ["onlineMinutes"] = null,
            ["pictureId"] = null,
            ["returnDays"] = null,
        };

    [Fact]
    public async Task A_shift_change_shows_the_visits_it_hits_first_and_keeps_them_in_the_book()
    {
        string ines = await world.IdAsync("practitioners", "Ines Calloway"),
            mill = await world.IdAsync("locations", "Mill Street"),
            deep = await world.IdAsync("services", "Deep tissue 60");
        JsonObject visit = await world.Desk.MakeAsync(
            "/api/v1/visits",
            new
            {
                locationId = mill,
                start = "2027-03-10T15:00:00Z",
                lines = new[] { new { serviceId = deep, practitionerId = ines } },
                newClient = new { givenName = "Ivo", familyName = "Hit" },
            }
        );
        object until13 = new
        {
            shifts = new[]
            {
                new
                {
                    locationId = mill,
                    from = "10:00:00",
                    until = "13:00:00",
                },
            },
            reason = "dentist",
        };
        string path = $"/api/v1/setup/practitioners/{ines}/shift-changes/2027-03-10";
        ApiAnswer shown = await world.Owner.PutAsync(path, until13, 0);
        shown.Status.ShouldBe(HttpStatusCode.Conflict);
        shown.Code.ShouldBe("hits-appointments");
        shown.Body!["visits"]!.AsArray().ShouldHaveSingleItem()!["visitId"]!.GetValue<string>().ShouldBe(visit["id"]!.GetValue<string>());
        // Nothing was changed yet: the afternoon is still offered.
        (await world.OfferedAsync(deep, mill, "2027-03-10", 1))["2027-03-10"]
            .ShouldContain("16:30");
        (await LostAsync()).ShouldBeEmpty();

        (await world.Owner.PutAsync(path, until13, 0, accept: "0000")).Status.ShouldBe(HttpStatusCode.Conflict);
        (await world.Owner.PutAsync(path, until13, 0, accept: shown.Body!["accept"]!.GetValue<string>())).Status.ShouldBe(
            HttpStatusCode.OK
        );
        JsonNode waiting = (await LostAsync()).ShouldHaveSingleItem()!;
        waiting["client"]!.GetValue<string>().ShouldBe("Ivo Hit");
        waiting["reasons"]![0]!["text"]!.GetValue<string>().ShouldContain("dentist");
        (await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}")).Body!["start"]!.GetValue<string>().ShouldBe("2027-03-10T15:00:00Z");

        // With the rota back, it has its place again.
        // Whoever has seen an older state changes nothing.
        (await world.Owner.PutAsync(path, until13, 0)).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.Owner.DeleteAsync(path)).Status.ShouldBe(HttpStatusCode.PreconditionRequired);
        (await world.Owner.DeleteAsync(path, 1)).Status.ShouldBe(HttpStatusCode.OK);
        (await LostAsync()).ShouldBeEmpty();
    }

    private async Task<List<JsonNode?>> LostAsync() =>
        [.. (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.AsArray().Where(entry => entry!["reasons"]!.AsArray().Count > 0)];

    [Fact]
    public async Task A_qualification_that_runs_out_ends_what_clients_are_offered_and_readiness_names_it()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            patch = await world.IdAsync("services", "Laser patch test 15");
        // The clock stands on 1 March; Suki's certificate holds for 35 days more, until 5 April.
        Dictionary<string, string[]> offered = await world.OfferedAsync(patch, mill, "2027-04-01", 20);
        offered["2027-04-04"].ShouldNotBeEmpty();
        offered.Where(day => string.CompareOrdinal(day.Key, "2027-04-05") > 0).ShouldAllBe(day => day.Value.Length == 0);
        JsonNode ready = (await world.Owner.GetAsync("/api/v1/setup/readiness")).Body!;
        ready["issues"]!
            .AsArray()
            .Select(issue => issue!["text"]!.GetValue<string>())
            .ShouldContain(text =>
                text.StartsWith("Laser legs 60", StringComparison.Ordinal)
                && text.Contains("Suki Amara's Laser safety ends on 5 April", StringComparison.Ordinal)
            );

        string suki = await world.IdAsync("practitioners", "Suki Amara"),
            safety = await world.IdAsync("qualifications", "Laser safety");
        ApiAnswer longer = await world.Owner.PutAsync(
            "/api/v1/setup/held-qualifications",
            new[]
            {
                new
                {
                    practitionerId = suki,
                    qualificationId = safety,
                    held = new[] { new { from = "2025-01-01", until = "2028-01-01" } },
                },
            }
        );
        longer.Status.ShouldBe(HttpStatusCode.OK);
        (await world.OfferedAsync(patch, mill, "2027-04-07", 7)).Values.Sum(day => day.Length).ShouldBeGreaterThan(0);
        (await world.Owner.GetAsync("/api/v1/setup/readiness")).Body!["issues"]!
            .AsArray()
            .ShouldNotContain(issue => issue!["text"]!.GetValue<string>().StartsWith("Laser", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Why_not_names_the_setting_that_was_changed_and_the_place_that_sets_it()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            podiatry = await world.IdAsync("services", "Podiatry 40");
        JsonObject category = await world.OneAsync("categories", "Feet");
        JsonObject changed = await world.Owner.ChangeAsync(
            $"/api/v1/setup/categories/{category["id"]}",
            category,
            entry => entry["online"]!["horizonDays"] = 3
        );
        ApiAnswer day = await world.Desk.PostAsync(
            "/api/v1/starts/days",
            new
            {
                locationId = mill,
                lines = new[] { new { serviceId = podiatry } },
                from = "2027-03-08",
                days = 1,
            }
        );
        JsonNode explained = day.Body![0]!;
        explained["offered"]!.GetValue<int>().ShouldBe(0);
        JsonNode ten = explained["strip"]!.AsArray().Single(entry => entry!["clock"]!.GetValue<string>() == "10:00")!;
        JsonNode reason = ten["reasons"]!.AsArray().ShouldHaveSingleItem()!;
        (reason["code"]!.GetValue<string>(), reason["ownerKind"]!.GetValue<string>(), reason["ownerId"]!.GetValue<string>()).ShouldBe(
            ("tooFarAhead", "category", category["id"]!.GetValue<string>())
        );
        reason["text"]!.GetValue<string>().ShouldContain("3 days");
        (await world.Owner.GetAsync($"/api/v1/setup/rules?locationId={mill}&serviceId={podiatry}")).Body!["sources"]!["horizonDays"]![
            "name"
        ]!
            .GetValue<string>()
            .ShouldBe("Feet");
        await world.Owner.ChangeAsync(
            $"/api/v1/setup/categories/{category["id"]}",
            changed,
            entry => entry["online"]!["horizonDays"] = null
        );
        (await world.OfferedAsync(podiatry, mill, "2027-03-08", 1))["2027-03-08"].ShouldContain("10:00");
    }

    [Fact]
    public async Task Trying_a_service_shows_its_starts_before_anything_is_saved()
    {
        string mill = await world.IdAsync("locations", "Mill Street");
        JsonObject peel = await world.OneAsync("services", "Peel with lamp");
        async Task<JsonNode> Try(Action<JsonObject> change)
        {
            JsonObject copy = peel.DeepClone().AsObject();
            change(copy);
            return (
                await world.Owner.PostAsync(
                    "/api/v1/setup/services/try",
                    new
                    {
                        service = copy,
                        locationId = mill,
                        from = "2027-03-11",
                        days = 1,
                    }
                )
            ).Body!;
        }

        JsonArray now = (await Try(_ => { }))["days"]![0]!["starts"]!.AsArray();
        JsonArray longer = (await Try(entry => entry["phases"]![1]!["minutes"] = 120))["days"]![0]!["starts"]!.AsArray();
        longer.Count.ShouldBeInRange(1, now.Count - 1);
        (await Try(entry => entry["phases"]![1]!["minutes"] = 7))["field"]!.GetValue<string>().ShouldBe("phases[1].minutes");
        (await world.OneAsync("services", "Peel with lamp")).ToJsonString().ShouldBe(peel.ToJsonString());
    }

    public static TheoryData<string, string, string> BadServices =>
        new()
        {
            { "name", "\"\"", "name" },
            { "phases", "[]", "phases" },
            { "phases[0].minutes", "0", "phases[0].minutes" },
            { "phases[0].minutes", "7", "phases[0].minutes" },
            { "phases[0].minutes", "2000", "phases[0].minutes" },
            { "phases[0].attendedBy", "[3]", "phases[0].attendedBy" },
            { "roles[0].qualifications", "[]", "roles[0].qualifications" },
            { "roles[0].qualifications", "[\"00000000-0000-0000-0000-000000000009\"]", "roles[0].qualifications" },
            { "room.features", "[\"moon light\"]", "room.features" },
            { "bufferAfterMinutes", "-5", "bufferAfterMinutes" },
            { "price", "-1", "price" },
            { "online", "{\"everyMinutes\": 7}", "online.everyMinutes" },
            { "online", "{\"horizonDays\": 5000}", "online.horizonDays" },
            { "season", "{\"from\": \"13-01\", \"until\": \"02-30\"}", "season.from" },
            { "prerequisite", "{\"serviceId\": \"@self\", \"atLeastHours\": 1, \"atMostDays\": 2}", "prerequisite.serviceId" },
            { "prerequisite", "{\"serviceId\": \"@circle\", \"atLeastHours\": 1, \"atMostDays\": 20}", "prerequisite.serviceId" },
            { "prerequisite", "{\"serviceId\": \"@other\", \"atLeastHours\": 100, \"atMostDays\": 2}", "prerequisite.atMostDays" },
        };

    [Theory]
    [MemberData(nameof(BadServices))]
    public async Task A_bad_service_is_refused_at_its_field_and_nothing_is_saved(string path, string value, string field)
    {
        JsonObject test = await world.OneAsync("services", "Laser patch test 15");
        string other = await world.IdAsync("services", "Facial 50"),
            circle = await world.IdAsync("services", "Laser legs 60");
        value = value
            .Replace("@self", test["id"]!.GetValue<string>(), StringComparison.Ordinal)
            .Replace("@other", other, StringComparison.Ordinal)
            .Replace("@circle", circle, StringComparison.Ordinal);
        JsonObject bad = test.DeepClone().AsObject();
        JsonNode? at = bad;
        string[] parts = path.Split('.');
        foreach (string part in parts[..^1])
            at = part.EndsWith(']') ? at![part[..part.IndexOf('[', StringComparison.Ordinal)]]![0] : at![part];
        at![parts[^1]] = JsonNode.Parse(value);
        ApiAnswer answer = await world.Owner.PutAsync($"/api/v1/setup/services/{test["id"]}", bad, test["version"]);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest, answer.Body?.ToJsonString());
        answer.Field.ShouldBe(field);
        (await world.OneAsync("services", "Laser patch test 15")).ToJsonString().ShouldBe(test.ToJsonString());
    }

    [Fact]
    public async Task Overlapping_shifts_bad_dates_and_long_add_ons_are_refused_at_their_field()
    {
        string maren = await world.IdAsync("practitioners", "Maren Odell"),
            mill = await world.IdAsync("locations", "Mill Street"),
            deep = await world.IdAsync("services", "Deep tissue 60");
        object Shift(string from, string until) =>
            new
            {
                locationId = mill,
                from,
                until,
            };
        async Task<string?> Rota(params object[] shifts) =>
            (
                await world.Owner.PutAsync(
                    $"/api/v1/setup/practitioners/{maren}/rotas/2027-06-07",
                    new
                    {
                        from = "2027-06-07",
                        weeks = 1,
                        shifts,
                    },
                    0
                )
            ).Field;
        (
            await Rota(
                new
                {
                    week = 0,
                    weekday = "monday",
                    shift = Shift("09:00:00", "13:00:00"),
                },
                new
                {
                    week = 0,
                    weekday = "monday",
                    shift = Shift("12:00:00", "15:00:00"),
                }
            )
        ).ShouldBe("shifts[1].shift.from");
        (
            await Rota(
                new
                {
                    week = 0,
                    weekday = "monday",
                    shift = Shift("13:00:00", "09:00:00"),
                }
            )
        ).ShouldBe("shifts[0].shift.until");
        (
            await Rota(
                new
                {
                    week = 0,
                    weekday = "monday",
                    shift = Shift("09:02:00", "10:00:00"),
                }
            )
        ).ShouldBe("shifts[0].shift.until");
        (
            await Rota(
                new
                {
                    week = 1,
                    weekday = "monday",
                    shift = Shift("09:00:00", "10:00:00"),
                }
            )
        ).ShouldBe("shifts[0].week");
        (await world.Owner.GetAsync($"/api/v1/setup/practitioners/{maren}/work")).Body!["rotas"]!.AsArray().Count.ShouldBe(1);
        string massage = await world.IdAsync("qualifications", "Massage");
        (
            await world.Owner.PutAsync(
                "/api/v1/setup/held-qualifications",
                new[]
                {
                    new
                    {
                        practitionerId = maren,
                        qualificationId = massage,
                        held = new[] { new { from = "2027-05-01", until = "2027-04-01" } },
                    },
                }
            )
        ).Field.ShouldBe("[0].held[0].until");
        (
            await world.Owner.PostAsync(
                "/api/v1/setup/add-ons",
                new
                {
                    name = "Endless",
                    minutes = 1440,
                    price = 1,
                    most = 1,
                    services = new[] { new { serviceId = deep } },
                }
            )
        ).Field.ShouldBe("services[0].serviceId");
        (
            await world.Owner.PostAsync(
                "/api/v1/setup/blocks",
                new
                {
                    resourceId = maren,
                    locationId = mill,
                    kind = "block",
                    reason = "x",
                    repeat = new
                    {
                        first = "2027-03-01",
                        rule = "FREQ=HOURLY",
                        from = "09:00:00",
                        until = "10:00:00",
                    },
                }
            )
        ).Field.ShouldBe("repeat.rule");
        JsonNode business = (await world.Owner.GetAsync("/api/v1/setup/business")).Body!;
        business["colourMain"] = "#FFEE88";
        (await world.Owner.PutAsync("/api/v1/setup/business", business, business["version"])).Field.ShouldBe("colourMain");
    }

    [Fact]
    public async Task A_change_of_an_old_version_is_refused_and_the_history_has_before_and_after()
    {
        JsonObject room = await world.OneAsync("rooms", "Elm");
        string path = $"/api/v1/setup/rooms/{room["id"]}";
        await world.Owner.ChangeAsync(path, room, node => node["turnaroundMinutes"] = 20);
        (await world.Owner.PutAsync(path, room, room["version"])).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.Owner.PutAsync(path, room)).Status.ShouldBe(HttpStatusCode.PreconditionRequired);
        JsonNode entry = (await world.Owner.GetAsync($"/api/v1/setup/history?subjectId={room["id"]}")).Body![0]!;
        JsonNode.Parse(entry["before"]!.GetValue<string>())!["turnaroundMinutes"]!.GetValue<int>().ShouldBe(10);
        JsonNode.Parse(entry["after"]!.GetValue<string>())!["turnaroundMinutes"]!.GetValue<int>().ShouldBe(20);
        entry["actor"]!.GetValue<string>().ShouldBe("Hester Marlow");
    }

    [Fact]
    public async Task Blocked_time_repeats_but_for_the_dates_taken_out_or_moved()
    {
        string rafe = await world.IdAsync("practitioners", "Rafe Lindqvist"),
            mill = await world.IdAsync("locations", "Mill Street"),
            foot = await world.IdAsync("services", "Foot care 30");
        JsonObject made = await world.Owner.MakeAsync(
            "/api/v1/setup/blocks",
            new
            {
                resourceId = rafe,
                locationId = mill,
                kind = "block",
                reason = "sterilising",
                repeat = new
                {
                    first = "2027-03-10",
                    rule = "FREQ=WEEKLY;BYDAY=WE;COUNT=4",
                    from = "10:00:00",
                    until = "11:00:00",
                    changed = new object[]
                    {
                        new { date = "2027-03-17" },
                        new
                        {
                            date = "2027-03-24",
                            from = "15:00:00",
                            until = "16:00:00",
                        },
                    },
                },
            }
        );
        async Task<string[]> On(string date) => (await world.OfferedAsync(foot, mill, date, 1))[date];
        (await On("2027-03-10")).ShouldNotContain("10:00");
        (await On("2027-03-17")).ShouldContain("10:00");
        (await On("2027-03-24")).ShouldContain("10:00");
        (await On("2027-03-24")).ShouldNotContain("15:00");
        (await On("2027-03-31")).ShouldNotContain("10:00");
        (await On("2027-04-07")).ShouldContain("10:00");
        (await world.Owner.DeleteAsync($"/api/v1/setup/blocks/{made["id"]}", 1)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await On("2027-03-10")).ShouldContain("10:00");
    }

    [Fact]
    public async Task A_practitioner_changes_their_own_shifts_only_where_they_were_allowed_to()
    {
        string ines = await world.IdAsync("practitioners", "Ines Calloway"),
            suki = await world.IdAsync("practitioners", "Suki Amara"),
            mill = await world.IdAsync("locations", "Mill Street");
        using ApiClient own = await ApiClient.SignedInAsync(world.Server, "ines@harrowmere.test");
        object off = new { shifts = Array.Empty<object>(), reason = "course" };
        (await own.PutAsync($"/api/v1/setup/practitioners/{ines}/shift-changes/2027-07-01", off, 0)).Status.ShouldBe(HttpStatusCode.OK);
        (await own.PutAsync($"/api/v1/setup/practitioners/{suki}/shift-changes/2027-07-01", off, 0)).Status.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (
            await own.PostAsync(
                "/api/v1/setup/blocks",
                new
                {
                    resourceId = suki,
                    locationId = mill,
                    kind = "block",
                    reason = "x",
                    start = "2027-07-02T10:00:00",
                    end = "2027-07-02T11:00:00",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await own.GetAsync($"/api/v1/setup/practitioners/{suki}/work")).Status.ShouldBe(HttpStatusCode.Forbidden);
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        await connection.ExecuteAsync("UPDATE staff SET edits_own_shifts = false WHERE email = 'ines@harrowmere.test'");
        (await own.PutAsync($"/api/v1/setup/practitioners/{ines}/shift-changes/2027-07-02", off, 0)).Status.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await own.GetAsync($"/api/v1/setup/practitioners/{ines}/work")).Status.ShouldBe(HttpStatusCode.OK);
        await connection.ExecuteAsync("UPDATE staff SET edits_own_shifts = true WHERE email = 'ines@harrowmere.test'");
    }

    [Fact]
    public async Task A_sign_in_link_sets_a_password_once()
    {
        JsonObject account = await world.Owner.MakeAsync(
            "/api/v1/setup/accounts",
            new
            {
                email = "una@harrowmere.test",
                name = "Una Sedge",
                role = "Desk",
            }
        );
        async Task<string> Link() =>
            (await world.Owner.PostAsync($"/api/v1/setup/accounts/{account["id"]}/link", new { })).Body!["path"]!
                .GetValue<string>()
                .Split('/')[^1];
        string first = await Link(),
            second = await Link();
        Task<ApiAnswer> Choose(string token, string password) =>
            world.Stranger.PostAsync("/api/v1/session/password", new { token, password });
        (await Choose(first, "reed-and-rush-9")).Code.ShouldBe("link-gone");
        (await Choose(second, "short")).Field.ShouldBe("password");
        (await Choose(second, "reed-and-rush-9")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Choose(second, "another-one-99")).Code.ShouldBe("link-gone");
        using ApiClient una = new(world.Server);
        (await una.PostAsync("/api/v1/session", new { email = "una@harrowmere.test", password = "reed-and-rush-9" })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        // A closed account is signed out at once.
        await world.Owner.ChangeAsync($"/api/v1/setup/accounts/{account["id"]}", account, entry => entry["signedOff"] = true);
        (await una.GetAsync("/api/v1/session")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        (await una.PostAsync("/api/v1/session", new { email = "una@harrowmere.test", password = "reed-and-rush-9" })).Status.ShouldBe(
            HttpStatusCode.Unauthorized
        );
        using ApiClient manager = await ApiClient.SignedInAsync(world.Server, "manager@harrowmere.test");
        JsonNode owner = (await world.Owner.GetAsync("/api/v1/setup/accounts"))
            .Body!.AsArray()
            .Single(entry => entry!["role"]!.GetValue<string>() == "Owner")!;
        (await manager.PostAsync($"/api/v1/setup/accounts/{owner["id"]}/link", new { })).Status.ShouldBe(HttpStatusCode.Forbidden);
        owner["role"] = "Desk";
        (await world.Owner.PutAsync($"/api/v1/setup/accounts/{owner["id"]}", owner, owner["version"])).Field.ShouldBe("role");
    }

    private async Task<ApiAnswer> UploadAsync(string path, byte[] bytes, string name)
    {
        using MultipartFormDataContent form = [];
        ByteArrayContent file = new(bytes);
        file.Headers.ContentType = new MediaTypeHeaderValue("image/png");
        form.Add(file, "file", name);
        return await world.Owner.SendAsync(HttpMethod.Post, path, form);
    }

    private static readonly byte[] _dot = Convert.FromBase64String(
        "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
    );

    [Fact]
    public async Task The_business_has_pictures_in_order_each_with_words_and_the_first_is_shown_with_its_link()
    {
        string[] ids = new string[2];
        for (int i = 0; i < ids.Length; i++)
            ids[i] = (string)(await UploadAsync("/api/v1/setup/pictures", _dot, "dot.png")).Body!["id"]!;
        JsonObject business = (await world.Owner.GetAsync("/api/v1/setup/business")).Body!.AsObject();
        JsonArray Of(params (string Id, string? Words)[] pictures) =>
            [.. pictures.Select(one => (JsonNode)new JsonObject { ["pictureId"] = one.Id, ["words"] = one.Words })];
        foreach ((JsonArray wrong, string field) in new[]
        {
            (Of((ids[0], " ")), "pictures[0].words"),
            (Of((ids[0], "The lake"), (ids[1], new string('x', 201))), "pictures[1].words"),
            (Of((ids[0], "The lake"), (ids[0], "The lake again")), "pictures[1].pictureId"),
            (Of((Guid.NewGuid().ToString(), "Nothing")), "pictures[0].pictureId"),
            (Of([.. Enumerable.Range(0, 5).Select(i => (Guid.NewGuid().ToString(), (string?)$"Picture {i}"))]), "pictures"),
        })
        {
            business["pictures"] = wrong;
            ApiAnswer refused = await world.Owner.PutAsync("/api/v1/setup/business", business, business["version"]);
            refused.Body!["errors"]!.AsObject().ContainsKey(field).ShouldBeTrue($"{field}: {refused.Body.ToJsonString()}");
        }

        business = await world.Owner.ChangeAsync(
            "/api/v1/setup/business",
            business,
            entry => entry["pictures"] = Of((ids[1], "The garden"), (ids[0], " The lake "))
        );
        JsonNode shown = (await world.Stranger.GetAsync("/api/public/v1/business")).Body!;
        shown["pictures"]!.AsArray().Select(one => ((string)one!["id"]!, (string)one["words"]!)).ShouldBe(
            [(ids[1], "The garden"), (ids[0], "The lake")]
        );
        await world.Owner.ChangeAsync("/api/v1/setup/business", business, entry => entry["pictures"] = new JsonArray());
        (await world.Stranger.GetAsync("/api/public/v1/business")).Body!["pictures"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_picture_is_checked_made_smaller_and_kept_as_nothing_but_a_picture()
    {
        ApiAnswer made = await UploadAsync("/api/v1/setup/pictures", _dot, "../dot.png");
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        using HttpClient http = new() { BaseAddress = world.Server.Address };
        using HttpResponseMessage shown = await http.GetAsync(new Uri($"/api/public/v1/pictures/{made.Body!["id"]}", UriKind.Relative));
        shown.Content.Headers.ContentType!.MediaType.ShouldBe("image/webp");
        (await UploadAsync("/api/v1/setup/pictures", "<svg onload='alert(1)'/>"u8.ToArray(), "dot.png")).Field.ShouldBe("file");
        (await UploadAsync("/api/v1/setup/pictures", [], "dot.png")).Field.ShouldBe("file");
        ApiAnswer large = await UploadAsync("/api/v1/setup/pictures", new byte[40 * 1024 * 1024], "dot.png");
        large.Status.ShouldBe(HttpStatusCode.BadRequest);
        large.Field.ShouldBe("file");
        (await UploadAsync("/api/v1/setup/evidence", "<script>"u8.ToArray(), "a.pdf")).Field.ShouldBe("file");
        ApiAnswer evidence = await UploadAsync("/api/v1/setup/evidence", "%PDF-1.7 made up"u8.ToArray(), "a.pdf");
        (await world.Desk.GetAsync($"/api/v1/setup/evidence/{evidence.Body!["id"]}")).Status.ShouldBe(HttpStatusCode.Forbidden);
        using HttpResponseMessage stranger = await http.GetAsync(
            new Uri($"/api/public/v1/pictures/{evidence.Body!["id"]}", UriKind.Relative)
        );
        stranger.StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Add_ons_lengthen_the_line_and_are_priced_and_kept_with_it()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            deep = await world.IdAsync("services", "Deep tissue 60"),
            tobias = await world.IdAsync("practitioners", "Tobias Quill");
        string oil = await world.IdAsync("add-ons", "Hot oil"),
            scalp = await world.IdAsync("add-ons", "Scalp massage");
        object Visit(int count, string addOn, string start) =>
            new
            {
                locationId = mill,
                start,
                newClient = new { givenName = "Ada", familyName = "Extra" },
                lines = new[]
                {
                    new
                    {
                        serviceId = deep,
                        practitionerId = tobias,
                        addOns = new[] { new { addOnId = addOn, count }, new { addOnId = scalp, count = 1 } },
                    },
                },
            };
        JsonObject visit = await world.Desk.MakeAsync("/api/v1/visits", Visit(1, oil, "2027-03-18T09:00:00Z"));
        visit["end"]!.GetValue<string>().ShouldBe("2027-03-18T10:10:00Z");
        visit["price"]!["amount"]!.GetValue<int>().ShouldBe(8400 + 950 + 1200);
        ApiAnswer moved = await world.Desk.PostAsync(
            $"/api/v1/visits/{visit["id"]}/move",
            new { start = "2027-03-18T13:30:00Z" },
            World.Match(visit)
        );
        moved.Body!["end"]!.GetValue<string>().ShouldBe("2027-03-18T14:40:00Z");
        moved.Body!["lines"]![0]!["addOns"]!.AsArray().Count.ShouldBe(2);
        (await world.Desk.PostAsync("/api/v1/visits", Visit(2, oil, "2027-03-19T09:00:00Z"))).Field.ShouldBe("lines[0].addOns[0].count");
        (
            await world.Desk.PostAsync("/api/v1/visits", Visit(1, await world.IdAsync("add-ons", "Eye mask"), "2027-03-19T09:00:00Z"))
        ).Field.ShouldBe("lines[0].addOns[0].addOnId");
    }

    [Fact]
    public async Task A_service_only_for_those_with_the_link_and_one_that_waits_for_approval()
    {
        string mill = await world.IdAsync("locations", "Mill Street");
        JsonObject review = await world.OneAsync("services", "Nutrition review 30");
        review = await world.Owner.ChangeAsync(
            $"/api/v1/setup/services/{review["id"]}",
            review,
            entry =>
            {
                entry["visibility"] = "withLink";
                entry["online"]!["approval"] = "everyone";
            }
        );
        string id = review["id"]!.GetValue<string>(),
            link = review["link"]!.GetValue<string>();
        string Shown(JsonNode business) => business["categories"]!.ToJsonString();
        Shown((await world.Stranger.GetAsync("/api/public/v1/business")).Body!).ShouldNotContain("Nutrition review 30");
        Shown((await world.Stranger.GetAsync($"/api/public/v1/business?link={link}")).Body!).ShouldContain("Nutrition review 30");
        (await world.OfferedAsync(id, mill, "2027-03-16", 1))["2027-03-16"].ShouldBeEmpty();
        (await world.OfferedAsync(id, mill, "2027-03-16", 1, link: link))["2027-03-16"].ShouldContain("10:00");
        object Booking(string? with) =>
            new
            {
                locationId = mill,
                start = "2027-03-16T10:00:00Z",
                lines = new[] { new { serviceId = id } },
                givenName = "Ada",
                familyName = "Link",
                email = "link@example.com",
                phone = "020 910 0011",
                link = with,
            };
        (await world.Stranger.PostAsync("/api/public/v1/visits", Booking(null), World.Key())).Code.ShouldBe("start-not-offered");
        (await world.Stranger.PostAsync("/api/public/v1/visits", Booking(link), World.Key())).Status.ShouldBe(HttpStatusCode.Created);
        JsonNode waiting = (await world.Desk.GetAsync("/api/v1/needs-place"))
            .Body!.AsArray()
            .Single(entry => entry!["client"]!.GetValue<string>() == "Ada Link")!;
        waiting["state"]!.GetValue<string>().ShouldBe("requested");
    }

    [Fact]
    public async Task One_thing_is_set_on_many_services_a_copy_is_hidden_and_an_archived_one_is_gone()
    {
        string[] feet = await Task.WhenAll(new[] { "Podiatry 40", "Foot care 30" }.Select(name => world.IdAsync("services", name)));
        (await world.Owner.PostAsync("/api/v1/setup/services/many", new { ids = feet, pricePercent = 10 })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        (await world.OneAsync("services", "Podiatry 40"))["price"]!.GetValue<int>().ShouldBe(6820);
        (await world.OneAsync("services", "Foot care 30"))["price"]!.GetValue<int>().ShouldBe(5060);
        JsonObject copy = await world.Owner.MakeAsync($"/api/v1/setup/services/{feet[1]}/copy", new { });
        (copy["name"]!.GetValue<string>(), copy["visibility"]!.GetValue<string>()).ShouldBe(("Foot care 30 (copy)", "hidden"));
        await world.Owner.ChangeAsync($"/api/v1/setup/services/{copy["id"]}", copy, entry => entry["isArchived"] = true);
        (await world.Desk.GetAsync("/api/v1/setup")).Body!["services"]!.ToJsonString().ShouldNotContain("(copy)");
        (
            await world.Desk.PostAsync(
                "/api/v1/starts",
                new
                {
                    locationId = await world.IdAsync("locations", "Mill Street"),
                    lines = new[] { new { serviceId = copy["id"]!.GetValue<string>() } },
                }
            )
        ).Field.ShouldBe("lines[0].serviceId");
    }

    [Fact]
    public async Task Two_owners_who_change_the_setup_at_once_both_succeed_one_after_the_other()
    {
        string suki = await world.IdAsync("practitioners", "Suki Amara");
        ApiAnswer[] answers = await Task.WhenAll(
            Enumerable
                .Range(0, 12)
                .Select(i =>
                    world.Owner.PutAsync(
                        $"/api/v1/setup/practitioners/{suki}/shift-changes/2027-08-{i + 1:00}",
                        new { shifts = Array.Empty<object>(), reason = $"holiday {i}" },
                        0
                    )
                )
        );
        answers.ShouldAllBe(answer => answer.Status == HttpStatusCode.OK);
        (await world.Owner.GetAsync($"/api/v1/setup/practitioners/{suki}/work")).Body!["changes"]!
            .AsArray()
            .Count(change => change!["date"]!.GetValue<string>().StartsWith("2027-08", StringComparison.Ordinal))
            .ShouldBe(12);
    }
}
