using System.Net;
using System.Text.Json;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Calendar;

/// <summary>Shifts added over a range of dates for several people in one go, and taken back in one go.</summary>
public sealed class ExtraShiftTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Path = "/api/v1/setup/extra-shifts",
        Celia = "Celia Voss",
        Ines = "Ines Calloway",
        Review = "Nutrition review 30";

    private async Task<object> AskedAsync(
        string from,
        string until,
        bool instead = false,
        string[]? people = null,
        string[]? weekdays = null,
        string begins = "06:00:00",
        string ends = "07:30:00",
        string? service = null
    ) =>
        new
        {
            from,
            until,
            weekdays,
            shift = new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                from = begins,
                until = ends,
                serviceIds = service is null ? [] : new[] { await world.IdAsync("services", service) },
            },
            practitionerIds = await Task.WhenAll((people ?? [Celia]).Select(name => world.IdAsync("practitioners", name))),
            instead,
            reason = "early",
        };

    private async Task<string> AddAsync(object asked)
    {
        ApiAnswer answer = await world.Owner.PostAsync(Path, asked, World.Key());
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!["id"]!.GetValue<string>();
    }

    /// <summary>The days of somebody as they hold, as text, versions aside.</summary>
    private async Task<string[]> DaysAsync(string name, string from, int days)
    {
        ApiAnswer answer = await world.Owner.GetAsync(
            $"/api/v1/setup/practitioners/{await world.IdAsync("practitioners", name)}/calendar?from={from}&days={days}"
        );
        foreach (JsonNode? day in answer.Body!.AsArray()) day!.AsObject().Remove("version");
        return [.. answer.Body!.AsArray().Select(day => day!.ToJsonString())];
    }

    private static string[] Times(string day) =>
        [
            .. JsonNode.Parse(day)!["shifts"]!.AsArray().Select(shift => $"{(string)shift!["from"]!} {(string)shift["until"]!}"),
        ];

    [Fact]
    public async Task They_are_added_for_everybody_on_every_day_and_taken_back_to_what_each_day_was()
    {
        // One of the days has a change already, with a break.
        string celia = await world.IdAsync("practitioners", Celia);
        object own = new
        {
            shifts = new[]
            {
                new
                {
                    locationId = await world.IdAsync("locations", "Mill Street"),
                    from = "12:00:00",
                    until = "18:00:00",
                    breaks = new[] { new { from = "14:00:00", until = "14:30:00", reason = "Lunch" } },
                },
            },
            reason = "later",
        };
        string change = $"/api/v1/setup/practitioners/{celia}/shift-changes/2027-05-11";
        (await world.Owner.PutAsync(change, own, 0)).Status.ShouldBe(HttpStatusCode.OK);
        string[] before = await DaysAsync(Celia, "2027-05-10", 7),
            others = await DaysAsync(Ines, "2027-05-10", 7);

        object asked = await AskedAsync("2027-05-10", "2027-05-16", people: [Celia, Ines], weekdays: ["monday", "tuesday", "sunday"]);
        JsonNode tried = (await world.Owner.PostAsync($"{Path}/try", asked)).Body!;
        foreach (JsonNode? day in tried["days"]!.AsArray())
            day!["added"]!.AsArray()
                .Select(shift => $"{(string)shift!["from"]!} {(string)shift["until"]!}")
                .ShouldBe(["06:00:00 07:30:00"]);
        (tried["days"]!.AsArray().Count, tried["unchanged"]!.GetValue<int>()).ShouldBe((6, 0));
        (await DaysAsync(Celia, "2027-05-10", 7)).ShouldBe(before);

        string id = await AddAsync(asked);
        string[] after = await DaysAsync(Celia, "2027-05-10", 7);
        foreach (int day in new[] { 0, 1, 6 }) Times(after[day]).ShouldBe(["06:00:00 07:30:00", .. Times(before[day])]);
        foreach (int day in new[] { 2, 3, 4, 5 }) after[day].ShouldBe(before[day]);
        Times((await DaysAsync(Ines, "2027-05-10", 1))[0])[0].ShouldBe("06:00:00 07:30:00");
        JsonNode listed = (await world.Owner.GetAsync(Path)).Body!.AsArray().Single(kept => (string)kept!["id"]! == id)!;
        (listed["days"]!.GetValue<int>(), listed["changed"]!.GetValue<int>()).ShouldBe((6, 0));

        (await world.Owner.DeleteAsync($"{Path}/{id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await DaysAsync(Celia, "2027-05-10", 7)).ShouldBe(before);
        (await DaysAsync(Ines, "2027-05-10", 7)).ShouldBe(others);
        (await world.Owner.DeleteAsync($"{Path}/{id}")).Status.ShouldBe(HttpStatusCode.NotFound);
        JsonArray history = (await world.Owner.GetAsync($"/api/v1/setup/history?subject={celia}")).Body!.AsArray();
        history.Select(row => (string)row!["action"]!).ShouldContain("Extra shifts taken back");
    }

    [Fact]
    public async Task A_day_changed_since_stays_and_those_added_later_have_to_go_first()
    {
        string celia = await world.IdAsync("practitioners", Celia);
        string[] before = await DaysAsync(Celia, "2027-06-14", 3);
        string first = await AddAsync(await AskedAsync("2027-06-14", "2027-06-16")),
            second = await AddAsync(await AskedAsync("2027-06-15", "2027-06-15", begins: "20:00:00", ends: "21:00:00"));
        ApiAnswer refused = await world.Owner.DeleteAsync($"{Path}/{first}");
        (refused.Status, refused.Code).ShouldBe((HttpStatusCode.Conflict, "later-extra-shifts"));
        Times((await DaysAsync(Celia, "2027-06-15", 1))[0]).ShouldContain("20:00:00 21:00:00");

        // Somebody decides one of the days anew.
        string path = $"/api/v1/setup/practitioners/{celia}/shift-changes/2027-06-16";
        JsonNode day = (await world.Owner.GetAsync($"/api/v1/setup/practitioners/{celia}/calendar?from=2027-06-16&days=1")).Body![0]!;
        object off = new { shifts = Array.Empty<object>(), reason = "off" };
        (await world.Owner.PutAsync(path, off, day["version"])).Status.ShouldBe(HttpStatusCode.OK);
        JsonNode listed = (await world.Owner.GetAsync(Path)).Body!.AsArray().Single(kept => (string)kept!["id"]! == first)!;
        listed["changed"]!.GetValue<int>().ShouldBe(2);

        (await world.Owner.DeleteAsync($"{Path}/{second}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await world.Owner.DeleteAsync($"{Path}/{first}")).Status.ShouldBe(HttpStatusCode.NoContent);
        string[] after = await DaysAsync(Celia, "2027-06-14", 3);
        after[..2].ShouldBe(before[..2]);
        Times(after[2]).ShouldBeEmpty();
    }

    [Fact]
    public async Task Days_that_are_past_stay_as_they_were_worked()
    {
        string[] before = await DaysAsync(Ines, "2027-02-25", 8);
        string id = await AddAsync(await AskedAsync("2027-02-25", "2027-03-04", people: [Ines]));
        string[] added = await DaysAsync(Ines, "2027-02-25", 8);
        (await world.Owner.DeleteAsync($"{Path}/{id}")).Status.ShouldBe(HttpStatusCode.NoContent);
        string[] after = await DaysAsync(Ines, "2027-02-25", 8);
        // The clock stands on 1 March.
        after[..4].ShouldBe(added[..4]);
        after[4..].ShouldBe(before[4..]);
        added[..4].ShouldNotBe(before[..4]);
    }

    [Fact]
    public async Task One_key_adds_once_and_four_at_once_leave_no_day_with_two()
    {
        object asked = await AskedAsync("2027-07-05", "2027-07-09");
        (string, string) key = World.Key();
        ApiAnswer[] same = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => world.Owner.PostAsync(Path, asked, key)));
        same.Select(answer => (string)answer.Body!["id"]!).Distinct().Count().ShouldBe(1);
        ApiAnswer[] others = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => world.Owner.PostAsync(Path, asked, World.Key())));
        foreach (ApiAnswer other in others) (other.Status, other.Field).ShouldBe((HttpStatusCode.BadRequest, "from"));
        foreach (string day in await DaysAsync(Celia, "2027-07-05", 5))
            Times(day).Count(time => time == "06:00:00 07:30:00").ShouldBe(1);
    }

    [Fact]
    public async Task What_is_booked_into_them_is_named_before_they_are_taken_back_and_stays()
    {
        string id = await AddAsync(await AskedAsync("2027-05-19", "2027-05-19", service: Review));
        string mill = await world.IdAsync("locations", "Mill Street"),
            review = await world.IdAsync("services", Review);
        ApiAnswer booked = await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = mill,
                start = "2027-05-19T05:00:00Z",
                lines = new[] { new { serviceId = review, practitionerId = await world.IdAsync("practitioners", Celia) } },
                newClient = new { givenName = "Ada", familyName = "Early", phone = "020 910 0056" },
            },
            World.Key()
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        ApiAnswer hit = await world.Owner.DeleteAsync($"{Path}/{id}");
        (hit.Status, hit.Code).ShouldBe((HttpStatusCode.Conflict, "hits-appointments"));
        hit.Body!["visits"]!.AsArray().Count.ShouldBe(1);
        ApiAnswer taken = await world.Owner.SendAsync(
            HttpMethod.Delete,
            $"{Path}/{id}",
            null,
            ("X-Accept-Hits", hit.Body!["accept"]!.GetValue<string>())
        );
        taken.Status.ShouldBe(HttpStatusCode.NoContent);
        ApiAnswer visit = await world.Desk.GetAsync($"/api/v1/visits/{(string)booked.Body!["id"]!}");
        ((string)visit.Body!["start"]!).ShouldBe((string)booked.Body!["start"]!);
        JsonNode day = (await world.Desk.GetAsync($"/api/v1/locations/{mill}/days/2027-05-19")).Body!;
        day.ToJsonString().ShouldContain((string)booked.Body!["id"]!);
    }

    [Fact]
    public async Task What_cannot_be_added_names_its_field()
    {
        string written = JsonSerializer.Serialize(await AskedAsync("2027-08-02", "2027-08-06"));
        JsonObject sound = JsonNode.Parse(written)!.AsObject();
        foreach (
            (string field, Action<JsonObject> spoil) in new (string, Action<JsonObject>)[]
            {
                ("until", asked => asked["until"] = "2027-08-01"),
                ("until", asked => asked["until"] = "2028-09-01"),
                ("from", asked => asked["from"] = "1999-08-01"),
                ("from", asked => (asked["from"], asked["until"]) = ("9999-12-31", "9999-12-31")),
                ("practitionerIds", asked => asked["practitionerIds"] = new JsonArray()),
                ("practitionerIds[0]", asked => asked["practitionerIds"] = new JsonArray(Guid.Empty.ToString())),
                ("weekdays", asked => asked["weekdays"] = new JsonArray("sunday")),
                ("shift", asked => asked["shift"] = null),
                ("shift.until", asked => asked["shift"]!["until"] = "05:00:00"),
                ("shift.until", asked => asked["shift"]!["until"] = "07:31:00"),
                ("shift.serviceIds[0]", asked => asked["shift"]!["serviceIds"] = new JsonArray(Guid.Empty.ToString())),
                ("shift.categoryIds[0]", asked => asked["shift"]!["categoryIds"] = new JsonArray(Guid.Empty.ToString())),
                ("shift.locationId", asked => asked["shift"]!["locationId"] = Guid.Empty.ToString()),
            }
        )
        {
            JsonObject asked = sound.DeepClone().AsObject();
            spoil(asked);
            foreach (string path in new[] { Path, $"{Path}/try" })
            {
                ApiAnswer answer = await world.Owner.PostAsync(path, asked, World.Key());
                (answer.Status, answer.Field).ShouldBe((HttpStatusCode.BadRequest, field), asked.ToJsonString());
            }
        }
    }
}
