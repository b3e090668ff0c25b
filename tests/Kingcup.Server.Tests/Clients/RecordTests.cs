using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <summary>What gathers about a client, and lists of clients.</summary>
public sealed class RecordTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private async Task<(string Path, JsonObject Client)> EnterAsync(string given, string family)
    {
        ApiAnswer made = await world.Desk.PostAsync("/api/v1/clients", new { givenName = given, familyName = family });
        string path = $"/api/v1/clients/{made.Body!["id"]}";
        return (path, (await world.Desk.GetAsync(path)).Body!.AsObject());
    }

    [Fact]
    public async Task Notes_consents_and_changes_are_kept_with_who_and_when()
    {
        (string path, JsonObject client) = await EnterAsync("Rosa", "Recordly");
        string ines = await world.IdAsync("practitioners", "Ines Calloway");
        await world.Desk.ChangeAsync(
            path,
            client,
            entry =>
            {
                entry["born"] = "1984-04-03";
                entry["tags"] = new JsonArray(" regular ", "Regular", "staff friend");
                entry["likesPractitionerId"] = ines;
                entry["likesPressure"] = "firm";
                entry["likesWords"] = "Window open.";
                entry["source"] = "A friend";
            }
        );
        (await world.Desk.PostAsync(path + "/notes", new { words = "Right hip looser." })).Status.ShouldBe(HttpStatusCode.Created);
        (await world.Desk.PostAsync(path + "/consents", new { kind = "texts", given = true, words = "May we text you?" })).Status.ShouldBe(
            HttpStatusCode.Created
        );
        (await world.Desk.PostAsync(path + "/consents", new { kind = "texts", given = false, words = "By telephone." })).Status.ShouldBe(
            HttpStatusCode.Created
        );

        JsonNode record = (await world.Desk.GetAsync(path + "/record")).Body!;
        record["client"]!["tags"]!.AsArray().Select(tag => (string)tag!).ShouldBe(["regular", "staff friend"]);
        record["client"]!["likesPractitionerId"]!.GetValue<string>().ShouldBe(ines);
        record["client"]!["likesPressure"]!.GetValue<string>().ShouldBe("firm");
        record["notes"]!.AsArray().Single()!["author"]!.GetValue<string>().ShouldNotBeEmpty();
        record["consents"]!.AsArray().Select(consent => consent!["given"]!.GetValue<bool>()).ShouldBe([false, true]);
        (await world.Desk.GetAsync(path + "/timeline"))
            .Body!.AsArray()
            .Select(happened => (string)happened!["action"]!)
            .ShouldBe(["Withdrew", "Agreed", "Noted", "Changed", "Added"]);
    }

    [Theory]
    [InlineData("born", "1899-12-31")]
    [InlineData("born", "2030-01-01")]
    [InlineData("likesPractitionerId", "00000000-0000-0000-0000-000000000001")]
    [InlineData("likesRoomId", "00000000-0000-0000-0000-000000000001")]
    [InlineData("source", "line\nbreak")]
    public async Task What_cannot_be_is_refused_at_its_field(string field, string value)
    {
        (string path, JsonObject client) = await EnterAsync("Rosa", "Refused");
        client[field] = value;
        ApiAnswer answer = await world.Desk.PutAsync(path, client, client["version"]);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Field.ShouldBe(field);
    }

    [Theory]
    [InlineData("notes", """{ "words": "  " }""")]
    [InlineData("consents", """{ "kind": "texts", "given": true, "words": "" }""")]
    public async Task Nothing_is_written_down_without_words(string what, string body)
    {
        (string path, _) = await EnterAsync("Rosa", "Wordless");
        ApiAnswer answer = await world.Desk.PostAsync($"{path}/{what}", JsonNode.Parse(body)!);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Field.ShouldBe("words");
    }

    [Fact]
    public async Task A_list_holds_exactly_whom_its_filter_says()
    {
        (string path, JsonObject client) = await EnterAsync("Listed", "Filterby");
        await world.Desk.ChangeAsync(path, client, entry => (entry["tags"], entry["born"]) = (new JsonArray("garden"), "1990-07-15"));
        await EnterAsync("Other", "Filterby");
        foreach (
            (string query, int count) in new[]
            {
                ("search=filterby", 2),
                ("search=filterby&tag=garden", 1),
                ("search=filterby&bornIn=7", 1),
                ("search=filterby&bornIn=8", 0),
                ("search=filterby&hasAhead=true", 0),
                ("search=filterby&hasAhead=false", 2),
                ("search=filterby&hasAlert=true", 0),
                ("search=filterby&mayBookOnline=false", 0),
                ("search=filterby&notSince=2027-01-01", 0),
            }
        )
        {
            JsonNode list = (await world.Desk.GetAsync("/api/v1/clients/list?" + query)).Body!;
            list["total"]!.GetValue<int>().ShouldBe(count, query);
            list["clients"]!.AsArray().Count.ShouldBe(count, query);
        }

        string csv = await world.Owner.TextAsync("/api/v1/clients/list.csv?search=filterby&tag=garden");
        csv.Split('\n', StringSplitOptions.RemoveEmptyEntries).Length.ShouldBe(2);
        csv.ShouldContain("1990-07-15");
        (await world.Desk.GetAsync("/api/v1/clients/list?bornIn=13")).Status.ShouldBe(HttpStatusCode.BadRequest);
        (await world.Desk.GetAsync("/api/v1/clients/list?notSince=soon")).Status.ShouldBe(HttpStatusCode.BadRequest);
        (await world.Desk.GetAsync("/api/v1/clients/list?skip=-1")).Status.ShouldBe(HttpStatusCode.BadRequest);
    }
}
