using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <summary>Two records of one person: found, made one, taken apart, whatever happens meanwhile.</summary>
public sealed class MergeTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private async Task<JsonNode> EnterAsync(string given, string family, string? email = null, string? phone = null)
    {
        ApiAnswer made = await world.Desk.PostAsync("/api/v1/clients", new { givenName = given, familyName = family, email, phone });
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        return (await world.Desk.GetAsync($"/api/v1/clients/{made.Body!["id"]}")).Body!;
    }

    private async Task<JsonNode> BookAsync(JsonNode client, string start, string service = "Nutrition review 30")
    {
        object visit = new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            start,
            lines = new[] { new { serviceId = await world.IdAsync("services", service) } },
            clientId = client["id"]!.GetValue<string>(),
        };
        // Over whatever stands there: which hours are free is no matter of these tests.
        ApiAnswer answer = await world.Desk.PostAsync("/api/v1/visits", visit);
        while (answer.Code == "would-go-over")
            answer = await world.Desk.PostAsync("/api/v1/visits", visit, ("X-Accept-Over", answer.Body!["accept"]!.GetValue<string>()));
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private Task<ApiAnswer> MergeAsync(JsonNode kept, JsonNode gone, params string[] fromGone) =>
        world.Desk.PostAsync(
            $"/api/v1/clients/{kept["id"]}/merge",
            new { goneId = gone["id"]!.GetValue<string>(), goneVersion = gone["version"]!.GetValue<long>(), fromGone },
            World.Match(kept)
        );

    private async Task<JsonNode> RecordAsync(JsonNode client) =>
        (await world.Desk.GetAsync($"/api/v1/clients/{client["id"]}/record")).Body!;

    private async Task<JsonNode> FileAsync(JsonNode client) => (await world.Desk.GetAsync($"/api/v1/clients/{client["id"]}")).Body!;

    [Fact]
    public async Task Likely_ones_are_found_made_one_and_taken_apart_as_they_were()
    {
        JsonNode kept = await EnterAsync("Zoë", "Müller-Haas", phone: "020 910 2001");
        JsonNode gone = await EnterAsync("Zoe", "Muller Haas", email: "zoe.twice@example.com", phone: "020 910 2001");
        JsonNode friend = await EnterAsync("Nils", "Twicefriend");
        JsonNode visit = await BookAsync(gone, "2027-03-10T10:00:00Z");
        (
            await world.Desk.PutAsync(
                $"/api/v1/clients/{gone["id"]}/links/{friend["id"]}",
                new { relation = "household", mayBook = true },
                0
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        (await world.Desk.PostAsync($"/api/v1/clients/{gone["id"]}/notes", new { words = "Asked for the quiet room." })).Status.ShouldBe(
            HttpStatusCode.Created
        );

        JsonNode alike = (await RecordAsync(kept))["alike"]!.AsArray().Single()!;
        alike["score"]!.GetValue<int>().ShouldBe(85);
        (await world.Desk.GetAsync($"/api/v1/clients/{kept["id"]}/beside/{gone["id"]}")).Body!["proposed"]!
            .AsArray()
            .Select(field => (string)field!)
            .ShouldBe(["email"]);
        // The one with a visit is kept, unless somebody chooses otherwise.
        alike["kept"]!["id"]!.GetValue<string>().ShouldBe(gone["id"]!.GetValue<string>());
        JsonNode.DeepEquals(
            (await world.Desk.GetAsync($"/api/v1/clients/{kept["id"]}/alike")).Body,
            (await RecordAsync(kept))["alike"]
        ).ShouldBeTrue();
        (await world.Desk.GetAsync("/api/v1/clients/alike")).Body!.AsArray().ShouldContain(pair =>
            (string)pair!["gone"]!["id"]! == (string)kept["id"]!
        );

        ApiAnswer merged = await MergeAsync(kept, gone, "email");
        merged.Status.ShouldBe(HttpStatusCode.OK, merged.Body?.ToJsonString());
        JsonNode one = await RecordAsync(kept);
        one["client"]!["email"]!.GetValue<string>().ShouldBe("zoe.twice@example.com");
        one["client"]!["givenName"]!.GetValue<string>().ShouldBe("Zoë");
        one["marks"]!.AsArray().Single()!["id"]!.GetValue<string>().ShouldBe(visit["id"]!.GetValue<string>());
        one["notes"]!.AsArray().Single()!["words"]!.GetValue<string>().ShouldBe("Asked for the quiet room.");
        (await world.Desk.GetAsync($"/api/v1/clients/{kept["id"]}/links")).Body!.AsArray().Count.ShouldBe(1);
        (await world.Desk.GetAsync($"/api/v1/clients/{friend["id"]}/links")).Body!.AsArray().Count.ShouldBe(1);
        (await world.Desk.GetAsync("/api/v1/clients?search=twice%40example.com")).Body!.AsArray().Count.ShouldBe(1);
        (await FileAsync(gone))["mergedInto"]!.GetValue<string>().ShouldBe(kept["id"]!.GetValue<string>());
        // Whoever still has the other record open books for the one that is kept.
        JsonNode later = await BookAsync(gone, "2027-03-11T10:00:00Z");
        later["client"]!["id"]!.GetValue<string>().ShouldBe(kept["id"]!.GetValue<string>());
        (await world.Desk.PutAsync($"/api/v1/clients/{gone["id"]}", gone, gone["version"])).Status.ShouldBe(
            HttpStatusCode.PreconditionFailed
        );

        string merge = one["merges"]!.AsArray().Single()!["id"]!.GetValue<string>();
        (await world.Desk.PostAsync($"/api/v1/clients/merges/{merge}/undo", new { })).Status.ShouldBe(HttpStatusCode.OK);
        JsonNode keptApart = await RecordAsync(kept),
            goneApart = await RecordAsync(gone);
        keptApart["client"]!["email"].ShouldBeNull();
        // What came since stays with the one that was kept.
        keptApart["marks"]!.AsArray().Single()!["id"]!.GetValue<string>().ShouldBe(later["id"]!.GetValue<string>());
        goneApart["marks"]!.AsArray().Single()!["id"]!.GetValue<string>().ShouldBe(visit["id"]!.GetValue<string>());
        goneApart["notes"]!.AsArray().Count.ShouldBe(1);
        (await world.Desk.GetAsync($"/api/v1/clients/{kept["id"]}/links")).Body!.AsArray().ShouldBeEmpty();
        (await world.Desk.GetAsync($"/api/v1/clients/{gone["id"]}/links")).Body!.AsArray().Count.ShouldBe(1);
        (await world.Desk.PostAsync($"/api/v1/clients/merges/{merge}/undo", new { })).Body!["code"]!.GetValue<string>().ShouldBe("apart");

        (
            await world.Desk.PostAsync($"/api/v1/clients/{kept["id"]}/two-people/{gone["id"]}", new { })
        ).Status.ShouldBe(HttpStatusCode.NoContent);
        (await RecordAsync(kept))["alike"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task With_itself_in_a_ring_or_on_a_stale_page_it_is_refused()
    {
        JsonNode one = await EnterAsync("Ada", "Ringone"),
            two = await EnterAsync("Ada", "Ringtwo"),
            three = await EnterAsync("Ada", "Ringthree");
        ApiAnswer itself = await MergeAsync(one, one);
        itself.Status.ShouldBe(HttpStatusCode.BadRequest);
        itself.Field.ShouldBe("goneId");
        JsonNode changed = two.DeepClone();
        changed["version"] = 17L;
        (await MergeAsync(one, changed)).Status.ShouldBe(HttpStatusCode.PreconditionFailed);

        (await MergeAsync(two, three)).Status.ShouldBe(HttpStatusCode.OK);
        two = await FileAsync(two);
        (await MergeAsync(one, two)).Status.ShouldBe(HttpStatusCode.OK);
        // All lead to the one that is left, at once.
        foreach (JsonNode put in new[] { two, three })
            (await FileAsync(put))["mergedInto"]!.GetValue<string>().ShouldBe(one["id"]!.GetValue<string>());
        one = await FileAsync(one);
        (await MergeAsync(await FileAsync(three), one)).Body!["code"]!.GetValue<string>().ShouldBe("put-aside");
        (await MergeAsync(one, await FileAsync(two))).Body!["code"]!.GetValue<string>().ShouldBe("put-aside");

        string last = (await RecordAsync(one))["merges"]!.AsArray()[0]!["id"]!.GetValue<string>();
        (await world.Desk.PostAsync($"/api/v1/clients/merges/{last}/undo", new { })).Status.ShouldBe(HttpStatusCode.OK);
        // Back to where it was: the second stands again, and the third leads to it.
        (await FileAsync(two))["mergedInto"].ShouldBeNull();
        (await FileAsync(three))["mergedInto"]!.GetValue<string>().ShouldBe(two["id"]!.GetValue<string>());
    }

    /// <summary>Two desks make one of two records at once, either way round, while a third books for both: one merge holds, and every
    /// visit belongs to the record that is left.</summary>
    [Fact]
    public async Task At_once_either_way_round_while_somebody_books()
    {
        for (int round = 0; round < 4; round++)
        {
            JsonNode one = await EnterAsync("Ada", $"Atonce{(char)('a' + round)}"),
                two = await EnterAsync("Ada", $"Atonce{(char)('a' + round)}");
            string day = $"2027-04-{12 + round:00}";
            Task<ApiAnswer>[] merges = [MergeAsync(one, two), MergeAsync(two, one)];
            Task<JsonNode>[] bookings = [BookAsync(one, $"{day}T10:00:00Z"), BookAsync(two, $"{day}T14:00:00Z")];
            ApiAnswer[] answers = await Task.WhenAll(merges);
            JsonNode[] visits = await Task.WhenAll(bookings);
            answers.Count(answer => answer.Status == HttpStatusCode.OK).ShouldBe(1, string.Join(" ", answers.Select(a => a.Body)));
            JsonNode left = answers[0].Status == HttpStatusCode.OK ? one : two;
            (await RecordAsync(left))["marks"]!
                .AsArray()
                .Select(mark => (string)mark!["id"]!)
                .ShouldBe(visits.Select(visit => (string)visit["id"]!), ignoreOrder: true);
        }
    }

    [Fact]
    public async Task What_is_booked_twice_is_told()
    {
        JsonNode client = await EnterAsync("Ada", "Booktwice");
        JsonNode first = await BookAsync(client, "2027-04-20T09:00:00Z");
        (await RecordAsync(client))["bookedTwice"]!.AsArray().ShouldBeEmpty();
        JsonNode second = await BookAsync(client, "2027-04-20T15:00:00Z");
        JsonNode told = (await RecordAsync(client))["bookedTwice"]!.AsArray().Single()!;
        (told["visitId"]!.GetValue<string>(), told["otherId"]!.GetValue<string>(), told["reason"]!.GetValue<string>()).ShouldBe(
            (first["id"]!.GetValue<string>(), second["id"]!.GetValue<string>(), "sameService")
        );
        (await world.Desk.GetAsync("/api/v1/clients/booked-twice")).Body!.AsArray().ShouldContain(pair =>
            (string)pair!["visitId"]! == (string)first["id"]!
        );
    }
}
