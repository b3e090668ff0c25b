using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Storage;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Calendar;

/// <summary>What holds on dates is the book's: it is changed under the lock of its days. The clock stands on Monday 1 March 2027,
/// 09:00.</summary>
public sealed class CalendarTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private async Task<JsonObject> BlockAsync(string who, string start, string end) =>
        await world.Owner.MakeAsync(
            "/api/v1/setup/blocks",
            new
            {
                resourceId = await world.IdAsync("practitioners", who),
                locationId = await world.IdAsync("locations", "Mill Street"),
                kind = "block",
                reason = "call",
                start,
                end,
            }
        );

    private async Task<(long Setup, Dictionary<string, long> Days)> RevisionsAsync()
    {
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        return (
            (await SetupReader.RevisionAsync(connection))!.Value,
            (await connection.QueryAsync<(LocalDate Date, long Revision)>("SELECT date, revision FROM book_day")).ToDictionary(
                row => row.Date.ToString("uuuu-MM-dd", null),
                row => row.Revision
            )
        );
    }

    [Fact]
    public async Task A_block_counts_on_the_day_it_lies_on_and_nothing_else()
    {
        (long setup, Dictionary<string, long> days) = await RevisionsAsync();
        JsonObject made = await BlockAsync("Rafe Lindqvist", "2027-05-04T10:00:00", "2027-05-04T10:15:00");
        (long setupAfter, Dictionary<string, long> after) = await RevisionsAsync();
        setupAfter.ShouldBe(setup);
        after.Where(day => day.Value != days.GetValueOrDefault(day.Key)).Select(day => day.Key).ShouldBe(["2027-05-04"]);
        // Moved to another day, both count on; given back, only where it lay.
        JsonNode block = (
            await world.Owner.GetAsync($"/api/v1/setup/blocks?resourceId={await world.IdAsync("practitioners", "Rafe Lindqvist")}")
        )
            .Body!.AsArray()
            .Single(entry => entry!["id"]!.GetValue<string>() == made["id"]!.GetValue<string>())!;
        block["start"] = "2027-05-06T10:00:00";
        block["end"] = "2027-05-06T10:15:00";
        (await world.Owner.PutAsync($"/api/v1/setup/blocks/{made["id"]}", block, block["version"])).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        (_, Dictionary<string, long> moved) = await RevisionsAsync();
        moved
            .Where(day => day.Value != after.GetValueOrDefault(day.Key))
            .Select(day => day.Key)
            .Order()
            .ShouldBe(["2027-05-04", "2027-05-06"]);
        (await world.Owner.PutAsync($"/api/v1/setup/blocks/{made["id"]}", block, block["version"])).Status.ShouldBe(
            HttpStatusCode.PreconditionFailed
        );
        (await world.Owner.DeleteAsync($"/api/v1/setup/blocks/{made["id"]}", 2)).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task What_holds_on_dates_waits_for_no_change_of_the_setup_and_is_seen_at_once_by_both_servers()
    {
        await using ServerProcess second = await ServerProcess.StartAsync(world.Database);
        using ApiClient there = new(second);
        string mill = await world.IdAsync("locations", "Mill Street"),
            foot = await world.IdAsync("services", "Foot care 30");
        async Task<string[]> OfferedThereAsync() => [.. (
                    await there.PostAsync(
                        "/api/public/v1/starts",
                        new
                        {
                            locationId = mill,
                            lines = new[] { new { serviceId = foot } },
                            from = "2027-03-10",
                            days = 1,
                        }
                    )
                ).Body!["days"]![0]!["starts"]!.AsArray().Select(start => start!["clock"]!.GetValue<string>())];
        (await OfferedThereAsync()).ShouldContain("10:00");
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        await using SetupTransaction changing = await SetupTransaction.BeginAsync(connection, new Change("Somebody", TestDatabase.Now));
        await changing.LockChangesAsync();
        JsonObject made = await BlockAsync("Rafe Lindqvist", "2027-03-10T10:00:00", "2027-03-10T11:00:00");
        (await OfferedThereAsync()).ShouldNotContain("10:00");
        await changing.DisposeAsync();
        (await world.Owner.DeleteAsync($"/api/v1/setup/blocks/{made["id"]}", 1)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await OfferedThereAsync()).ShouldContain("10:00");
    }

    [Fact]
    public async Task Where_only_online_booking_is_stopped_clients_find_nothing_and_the_desk_books_as_before()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            foot = await world.IdAsync("services", "Foot care 30"),
            rafe = await world.IdAsync("practitioners", "Rafe Lindqvist");
        string[] before = (await world.OfferedAsync(foot, mill, "2027-03-17", 1))["2027-03-17"];
        before.ShouldContain("10:00");
        object Stop(object? repeat = null) => new
        {
            resourceId = rafe,
            locationId = mill,
            kind = "online",
            reason = "Kept for walk-ins",
            start = repeat is null ? "2027-03-17T10:00:00" : null,
            end = repeat is null ? "2027-03-17T12:00:00" : null,
            repeat,
        };
        JsonObject made = await world.Desk.MakeAsync("/api/v1/setup/blocks", Stop());
        string[] after = (await world.OfferedAsync(foot, mill, "2027-03-17", 1))["2027-03-17"];
        // At half past nine the time to tidy up would lie in it.
        after.ShouldBe(before.Where(clock => string.CompareOrdinal(clock, "09:30") < 0 || string.CompareOrdinal(clock, "12:00") >= 0));
        JsonNode lane = (await world.Desk.GetAsync($"/api/v1/locations/{mill}/days/2027-03-17")).Body!["lanes"]!
            .AsArray()
            .Single(lane => (string)lane!["id"]! == rafe)!;
        lane["stoppedOnline"]![0]!["reason"]!.GetValue<string>().ShouldBe("Kept for walk-ins");
        lane["blocked"]!.AsArray().ShouldAllBe(block => (string?)block!["reason"] != "Kept for walk-ins");
        ApiAnswer booked = await world.Desk.PostAsync("/api/v1/visits", new
        {
            locationId = mill,
            start = "2027-03-17T10:30:00Z",
            newClient = new { givenName = "Ada", familyName = "Walk-in" },
            lines = new[] { new { serviceId = foot, practitionerId = rafe } },
        });
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        ApiAnswer repeating = await world.Desk.PostAsync(
            "/api/v1/setup/blocks",
            Stop(
                new
                {
                    first = "2027-03-17",
                    rule = "FREQ=DAILY",
                    from = "10:00:00",
                    until = "12:00:00",
                    changed = Array.Empty<object>(),
                }
            )
        );
        (repeating.Status, repeating.Field).ShouldBe((HttpStatusCode.BadRequest, "kind"));
        (await world.Desk.DeleteAsync($"/api/v1/setup/blocks/{made["id"]}", 1)).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Of_a_block_and_a_booking_at_the_same_moment_whoever_comes_second_sees_the_first()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            podiatry = await world.IdAsync("services", "Podiatry 40"),
            rafe = await world.IdAsync("practitioners", "Rafe Lindqvist");
        string[] days = [.. Enumerable.Range(0, 8).Select(i => $"2027-04-{5 + (i / 4 * 7) + (i % 4):00}")];
        await Task.WhenAll(days.Select(async day =>
        {
            JsonArray starts = (await world.Desk.PostAsync("/api/v1/starts", new
            {
                locationId = mill,
                lines = new[] { new { serviceId = podiatry, practitionerId = rafe } },
                from = day,
                days = 1,
            })).Body![0]!["starts"]!.AsArray();
            if (starts.Count == 0) return;
            JsonNode start = starts[starts.Count / 2]!;
            string from = $"{day}T{start["clock"]!.GetValue<string>()}:00";
            Task<ApiAnswer> booking = world.Desk.PostAsync("/api/v1/visits", new
            {
                locationId = mill,
                start = start["start"],
                lines = new[] { new { serviceId = podiatry, practitionerId = rafe } },
                newClient = new { givenName = "Ada", familyName = "Race" },
            }, World.Key());
            Task<ApiAnswer> block = world.Owner.PostAsync("/api/v1/setup/blocks", new
            {
                resourceId = rafe,
                locationId = mill,
                kind = "block",
                reason = "race",
                start = from,
                end = $"{day}T{int.Parse(from[11..13], null) + 1:00}{from[13..]}",
            });
            await Task.WhenAll(booking, block);
            ((await booking).Status, (await block).Status).ShouldBeOneOf(
                (HttpStatusCode.Created, HttpStatusCode.Conflict), (HttpStatusCode.Conflict, HttpStatusCode.Created));
            string? code = (await booking).Code ?? (await block).Code;
            code.ShouldBeOneOf("hits-appointments", "would-go-over", "start-taken", "start-not-offered");
        }));
        (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.ToJsonString().ShouldNotContain("Race");
    }

    [Fact]
    public async Task Two_who_come_together_are_treated_side_by_side_and_the_picture_of_the_day_says_for_whom()
    {
        string mill = await world.IdAsync("locations", "Mill Street"),
            massage = await world.IdAsync("services", "Deep tissue 60");
        object lines = new object[]
        {
            new { serviceId = massage },
            new
            {
                serviceId = massage,
                person = 1,
                offsetMinutes = 0,
            },
        };
        JsonArray starts = (
            await world.Desk.PostAsync(
                "/api/v1/starts",
                new
                {
                    locationId = mill,
                    lines,
                    from = "2027-04-20",
                    days = 3,
                }
            )
        ).Body!.AsArray();
        JsonNode start = starts.SelectMany(day => day!["starts"]!.AsArray()).First()!;
        object Body(object? people) =>
            new
            {
                locationId = mill,
                start = start["start"],
                lines,
                people,
                newClient = new { givenName = "Ada", familyName = "Pair" },
            };
        (await world.Desk.PostAsync("/api/v1/visits", Body(null), World.Key())).Field.ShouldBe("lines[1].person");
        (await world.Desk.PostAsync("/api/v1/visits", Body(new object[] { new { } }), World.Key())).Field.ShouldBe("people[0].name");
        (
            await world.Desk.PostAsync("/api/v1/visits", Body(new object[] { new { clientId = Guid.NewGuid() } }), World.Key())
        ).Field.ShouldBe("people");
        ApiAnswer booked = await world.Desk.PostAsync("/api/v1/visits", Body(new object[] { new { name = "Bea Pair" } }), World.Key());
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        JsonArray made = booked.Body!["lines"]!.AsArray();
        made.Select(line => line!["start"]!.GetValue<string>()).Distinct().ShouldHaveSingleItem();
        made.Select(line => line!["practitioners"]![0]!["id"]!.GetValue<string>()).Distinct().Count().ShouldBe(2);
        made.Select(line => line!["person"]!.GetValue<int>()).ShouldBe([0, 1]);

        string date = booked.Body["date"]!.GetValue<string>();
        JsonNode day = (await world.Desk.GetAsync($"/api/v1/locations/{mill}/days/{date}")).Body!;
        JsonNode visit = day["visits"]!
            .AsArray()
            .Single(other => other!["id"]!.GetValue<string>() == booked.Body["id"]!.GetValue<string>())!;
        visit["people"]!.AsArray().Single()!["name"]!.GetValue<string>().ShouldBe("Bea Pair");

        // Moved together they stay side by side, and the lines stay the same lines.
        JsonNode later = starts.SelectMany(found => found!["starts"]!.AsArray()).Last()!;
        ApiAnswer moved = await world.Desk.PostAsync(
            $"/api/v1/visits/{booked.Body["id"]}/move",
            new { start = later["start"] },
            World.Match(booked.Body)
        );
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
        moved.Body!["lines"]!
            .AsArray()
            .Select(line => line!["start"]!.GetValue<string>())
            .Distinct()
            .ShouldBe([later["start"]!.GetValue<string>()]);
        moved.Body["lines"]!
            .AsArray()
            .Select(line => line!["id"]!.GetValue<string>())
            .ShouldBe(made.Select(line => line!["id"]!.GetValue<string>()));
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        (await Proof.CheckAsync(connection)).Where(finding => finding.Count > 0).ShouldBeEmpty();
    }
}
