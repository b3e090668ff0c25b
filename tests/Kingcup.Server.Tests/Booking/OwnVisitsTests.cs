using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>A practitioner says of the visits that come to them where they stand, and of no others, if the account says so.</summary>
public sealed class OwnVisitsTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private async Task<JsonNode> BookAsync(string practitioner, string service, string start)
    {
        ApiAnswer answer = await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                start,
                lines = new[]
                {
                    new
                    {
                        serviceId = await world.IdAsync("services", service),
                        practitionerId = await world.IdAsync("practitioners", practitioner),
                    },
                },
                newClient = new { givenName = "Ada", familyName = "Marsh" },
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private static Task<ApiAnswer> Say(ApiClient who, JsonNode visit, string state) =>
        who.PostAsync($"/api/v1/visits/{visit["id"]}/state", new { state }, World.Match(visit));

    [Fact]
    public async Task What_is_written_down_about_a_client_is_read_and_written_by_those_they_come_to()
    {
        using ApiClient ines = await ApiClient.SignedInAsync(world.Server, "ines@harrowmere.test");
        JsonNode own = await BookAsync("Ines Calloway", "Deep tissue 60", "2027-03-03T15:00:00Z"),
            other = await BookAsync("Tobias Quill", "Deep tissue 60", "2027-03-04T14:00:00Z");
        static string Notes(JsonNode visit) => $"/api/v1/visits/{visit["id"]}/notes";
        ApiAnswer kept = await ines.PostAsync(Notes(own), new { words = " Left shoulder, slowly. " }, World.Key());
        kept.Status.ShouldBe(HttpStatusCode.Created, kept.Body?.ToJsonString());
        foreach (ApiClient reader in new[] { ines, world.Desk })
        {
            JsonNode note = (await reader.GetAsync(Notes(own))).Body!.AsArray().Single()!;
            note["words"]!.GetValue<string>().ShouldBe("Left shoulder, slowly.");
            note["author"]!.GetValue<string>().ShouldBe("Ines Calloway");
        }

        (await ines.PostAsync(Notes(own), new { words = " " }, World.Key())).Field.ShouldBe("words");
        foreach (string path in new[] { Notes(other), $"/api/v1/visits/{Guid.NewGuid()}/notes" })
        {
            (await ines.GetAsync(path)).Status.ShouldBe(HttpStatusCode.Forbidden);
            (await ines.PostAsync(path, new { words = "x" }, World.Key())).Status.ShouldBe(HttpStatusCode.Forbidden);
        }

        (await world.Desk.GetAsync(Notes(other))).Body!.AsArray().ShouldBeEmpty();
        (await world.Desk.GetAsync($"/api/v1/visits/{Guid.NewGuid()}/notes")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Their_own_and_only_as_long_as_they_may()
    {
        using ApiClient ines = await ApiClient.SignedInAsync(world.Server, "ines@harrowmere.test");
        (await ines.GetAsync("/api/v1/session")).Body!["keepsOwnVisits"]!.GetValue<bool>().ShouldBeTrue();
        JsonNode own = await BookAsync("Ines Calloway", "Deep tissue 60", "2027-03-02T11:00:00Z"),
            other = await BookAsync("Tobias Quill", "Deep tissue 60", "2027-03-02T14:00:00Z");
        ApiAnswer arrived = await Say(ines, own, "arrived");
        arrived.Status.ShouldBe(HttpStatusCode.OK, arrived.Body?.ToJsonString());
        (await Say(ines, other, "arrived")).Status.ShouldBe(HttpStatusCode.Forbidden);
        // Nothing else of it is theirs to change.
        (
            await ines.PostAsync($"/api/v1/visits/{own["id"]}/move", new { start = "2027-03-02T15:00:00Z" }, World.Match(arrived.Body!))
        ).Status.ShouldBe(HttpStatusCode.Forbidden);
        (
            await ines.PostAsync($"/api/v1/visits/{own["id"]}/cancel", new { reason = "x" }, World.Match(arrived.Body!))
        ).Status.ShouldBe(HttpStatusCode.Forbidden);

        JsonObject account = (await world.Owner.GetAsync("/api/v1/setup/accounts"))
            .Body!.AsArray()
            .Single(entry => entry!["email"]!.GetValue<string>() == "ines@harrowmere.test")!
            .AsObject();
        account["keepsOwnVisits"] = false;
        ApiAnswer saved = await world.Owner.PutAsync($"/api/v1/setup/accounts/{account["id"]}", account, account["version"]!.ToString());
        saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body?.ToJsonString());
        using ApiClient again = await ApiClient.SignedInAsync(world.Server, "ines@harrowmere.test");
        (await again.GetAsync("/api/v1/session")).Body!["keepsOwnVisits"]!.GetValue<bool>().ShouldBeFalse();
        (await Say(again, arrived.Body!, "inTreatment")).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await Say(world.Desk, arrived.Body!, "inTreatment")).Status.ShouldBe(HttpStatusCode.OK);
    }
}
