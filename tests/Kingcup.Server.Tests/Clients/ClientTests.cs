using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <summary>What is set at one client, and how online booking follows it.</summary>
public sealed class ClientTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private async Task<(string Path, JsonObject Client)> EnteredAsync(string email, string family)
    {
        ApiAnswer made = await world.Desk.PostAsync(
            "/api/v1/clients",
            new
            {
                givenName = "Ada",
                familyName = family,
                email,
                phone = "020 910 0001",
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        string path = $"/api/v1/clients/{made.Body!["id"]}";
        return (path, (await world.Desk.GetAsync(path)).Body!.AsObject());
    }

    private async Task<ApiAnswer> BookOnlineAsync(string start, string email, string family, string service = "Nutrition review 30") =>
        await world.Stranger.PostAsync("/api/public/v1/visits", new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            start,
            lines = new[] { new { serviceId = await world.IdAsync("services", service) } },
            givenName = "Ada",
            familyName = family,
            email,
            phone = "020 910 0001",
        }, World.Key());

    private static string[] Codes(ApiAnswer answer) =>
        [.. answer.Body!["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>())];

    [Fact]
    public async Task Lead_time_and_horizon_of_a_client_bind_them_alone()
    {
        (string path, JsonObject client) = await EnteredAsync("lead@example.com", "Lead");
        client = await world.Desk.ChangeAsync(path, client, entry => (entry["leadMinutes"], entry["horizonDays"]) = (3 * 1440, 10));
        ApiAnswer soon = await BookOnlineAsync("2027-03-03T10:00:00Z", "lead@example.com", "Lead");
        (soon.Status, Codes(soon)).ShouldSatisfyAllConditions(
            pair => pair.Status.ShouldBe(HttpStatusCode.Conflict),
            pair => pair.Item2.ShouldBe(["tooSoon"])
        );
        Codes(await BookOnlineAsync("2027-03-16T10:00:00Z", "lead@example.com", "Lead")).ShouldBe(["tooFarAhead"]);
        // The namesake at another address is somebody else.
        (await BookOnlineAsync("2027-03-03T10:00:00Z", "other@example.com", "Lead")).Status.ShouldBe(HttpStatusCode.Created);
        (await BookOnlineAsync("2027-03-09T10:00:00Z", "lead@example.com", "Lead")).Status.ShouldBe(HttpStatusCode.Created);
        client["leadMinutes"]!.GetValue<int>().ShouldBe(3 * 1440);
    }

    [Fact]
    public async Task A_client_who_may_not_book_online_is_asked_to_call_and_the_desk_still_books_them()
    {
        (string path, JsonObject client) = await EnteredAsync("phone@example.com", "Byphone");
        await world.Desk.ChangeAsync(path, client, entry => entry["mayBookOnline"] = false);
        ApiAnswer refused = await BookOnlineAsync("2027-03-10T09:00:00Z", "phone@example.com", "Byphone");
        // The page says the same as of a service that cannot be booked online: nobody learns there who is a client.
        Codes(refused).ShouldBe(["notOnline"]);
        (await world.Desk.PostAsync("/api/v1/visits", new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            start = "2027-03-10T09:00:00Z",
            lines = new[] { new { serviceId = await world.IdAsync("services", "Nutrition review 30") } },
            clientId = client["id"]!.GetValue<string>(),
        }, World.Key())).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task The_notice_of_a_client_decides_whether_she_cancels_late()
    {
        (string path, JsonObject client) = await EnteredAsync("notice@example.com", "Notice");
        await world.Desk.ChangeAsync(path, client, entry => entry["cancelNoticeHours"] = 72);
        ApiAnswer booked = await BookOnlineAsync("2027-03-04T09:00:00Z", "notice@example.com", "Notice");
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        JsonNode visit = (
            await world.Desk.GetAsync($"/api/v1/locations/{await world.IdAsync("locations", "Mill Street")}/days/2027-03-04")
        ).Body!["visits"]!
            .AsArray()
            .Single(entry => entry!["reference"]!.GetValue<string>() == booked.Body!["reference"]!.GetValue<string>())!;
        // The clock stands at 1 March, 09:00: exactly 72 hours before is in time.
        visit["cancelUntil"]!.GetValue<string>().ShouldBe("2027-03-01T09:00:00Z");
    }

    [Fact]
    public async Task A_change_is_checked_keeps_its_version_and_leaves_its_before_and_after()
    {
        (string path, JsonObject client) = await EnteredAsync("check@example.com", "Check");
        JsonObject bad = client.DeepClone().AsObject();
        (bad["givenName"], bad["phone"], bad["horizonDays"], bad["leadMinutes"]) = ("", "12", 9999, -5);
        ApiAnswer refused = await world.Desk.PutAsync(path, bad, client["version"]);
        refused.Status.ShouldBe(HttpStatusCode.BadRequest);
        refused.Body!["errors"]!.AsObject().Select(pair => pair.Key).Order().ShouldBe(["givenName", "horizonDays", "leadMinutes", "phone"]);
        JsonObject changed = await world.Desk.ChangeAsync(path, client, entry => entry["alert"] = " allergic to nuts ");
        changed["alert"]!.GetValue<string>().ShouldBe("allergic to nuts");
        (await world.Desk.PutAsync(path, client, client["version"])).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.Desk.GetAsync($"/api/v1/clients/{Guid.Empty}")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_location_may_take_no_new_clients()
    {
        JsonObject boat = await world.OneAsync("locations", "Boathouse");
        string id = boat["id"]!.GetValue<string>(), service = await world.IdAsync("services", "Acupuncture 45");
        (await world.OfferedAsync(service, id, "2027-03-04", 1))["2027-03-04"].ShouldNotBeEmpty();
        boat = await world.Owner.ChangeAsync($"/api/v1/setup/locations/{id}", boat, entry => entry["acceptsNewClients"] = false);
        (await world.OfferedAsync(service, id, "2027-03-04", 1))["2027-03-04"].ShouldBeEmpty();
        (await world.OfferedAsync(service, id, "2027-03-04", 1, returning: true))["2027-03-04"].ShouldNotBeEmpty();
        await world.Owner.ChangeAsync($"/api/v1/setup/locations/{id}", boat, entry => entry["acceptsNewClients"] = true);
    }

    [Fact]
    public async Task What_a_client_may_do_for_another_is_said_changed_and_taken_back_one_way_at_a_time()
    {
        (string parent, JsonObject ada) = await EnteredAsync("parent@example.com", "Parent");
        (string child, JsonObject bea) = await EnteredAsync("child@example.com", "Child");
        string link = $"{parent}/links/{bea["id"]}";
        object Books(bool pays) => new { relation = " mother ", mayBook = true, mayPay = pays };

        ApiAnswer made = await world.Desk.PutAsync(link, Books(true), 0);
        made.Status.ShouldBe(HttpStatusCode.OK, made.Body?.ToJsonString());
        (made.Body!["relation"]!.GetValue<string>(), made.Body["mayPay"]!.GetValue<bool>(), made.Body["maySee"]!.GetValue<bool>()).ShouldBe(
            ("mother", true, false));
        // Both see it, and who acts for whom.
        foreach (string path in new[] { parent, child })
        {
            JsonNode seen = (await world.Desk.GetAsync($"{path}/links")).Body!.AsArray().ShouldHaveSingleItem()!;
            (seen["from"]!["name"]!.GetValue<string>(), seen["to"]!["name"]!.GetValue<string>()).ShouldBe(("Ada Parent", "Ada Child"));
        }

        (await world.Desk.PutAsync(link, Books(false), null)).Status.ShouldBe((HttpStatusCode)428);
        (await world.Desk.PutAsync(link, Books(false), 0)).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        ApiAnswer changed = await world.Desk.PutAsync(link, Books(false), 1);
        changed.Body!["mayPay"]!.GetValue<bool>().ShouldBeFalse();
        (await world.Desk.DeleteAsync(link, made.Body["version"])).Status.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.Desk.DeleteAsync(link, changed.Body["version"])).Status.ShouldBe(HttpStatusCode.NoContent);
        (await world.Desk.GetAsync($"{child}/links")).Body!.AsArray().ShouldBeEmpty();
        ada["familyName"]!.GetValue<string>().ShouldBe("Parent");
    }

    [Fact]
    public async Task A_link_needs_two_clients_and_a_word_for_what_they_are()
    {
        (string path, JsonObject client) = await EnteredAsync("alone@example.com", "Alone");
        async Task<ApiAnswer> LinkAsync(string to, string? relation) =>
            await world.Desk.PutAsync($"{path}/links/{to}", new { relation }, 0);
        (await LinkAsync(client["id"]!.GetValue<string>(), "friend")).Field.ShouldBe("to");
        (await LinkAsync("00000000-0000-0000-0000-000000000001", "friend")).Status.ShouldBe(HttpStatusCode.NotFound);
        foreach (string? word in new[] { null, "  ", new string('x', 41), "a\tb" })
            (await LinkAsync("00000000-0000-0000-0000-000000000001", word)).Field.ShouldBe("relation");
        (await world.Desk.GetAsync($"{path}/links")).Body!.AsArray().ShouldBeEmpty();
        (await world.Desk.GetAsync("/api/v1/clients/00000000-0000-0000-0000-000000000001/links")).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}
