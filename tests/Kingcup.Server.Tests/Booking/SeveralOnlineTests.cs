using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using NodaTime;
using NodaTime.Text;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Several services and several people in one visit that a stranger books online.</summary>
public sealed class SeveralOnlineTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Massage = "Deep tissue 60", Facial = "Express facial 30";

    private async Task<object[]> LinesAsync(params (string Service, int Person)[] lines)
    {
        List<object> all = [];
        foreach ((string service, int person) in lines) all.Add(new { serviceId = await world.IdAsync("services", service), person });
        return [.. all];
    }

    private async Task<ApiAnswer> AskAsync(string path, object[] lines, object? more = null, (string, string)? header = null)
    {
        JsonObject body = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(more ?? new { }))!.AsObject();
        body["locationId"] = await world.IdAsync("locations", "Mill Street");
        body["lines"] = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(lines));
        return await world.Stranger.PostAsync("/api/public/v1/" + path, body, header is { } one ? [one] : []);
    }

    private async Task<string> FirstAsync(object[] lines, string from)
    {
        ApiAnswer starts = await AskAsync("starts", lines, new { from, days = 28 });
        starts.Status.ShouldBe(HttpStatusCode.OK, starts.Body?.ToJsonString());
        return starts.Body!["days"]!.AsArray().SelectMany(day => day!["starts"]!.AsArray()).First()!["start"]!.GetValue<string>();
    }

    private static double MinutesOf(JsonNode visit) =>
        (At((string)visit["end"]!) - At((string)visit["start"]!)).TotalMinutes;

    private static Instant At(string text) => InstantPattern.ExtendedIso.Parse(text).Value;

    private static object Who(string start, string family, string? hold = null, string[]? people = null) => new
    {
        start,
        givenName = "Ada",
        familyName = family,
        email = $"{family.ToLowerInvariant()}@example.com",
        phone = "020 910 0177",
        hold,
        people,
    };

    [Fact]
    public async Task Two_services_follow_each_other_and_cost_what_both_cost()
    {
        object[] lines = await LinesAsync((Massage, 0), (Facial, 0));
        JsonNode price = (await AskAsync("price", lines)).Body!;
        price["minutes"]!.GetValue<int>().ShouldBe(90);
        string start = await FirstAsync(lines, "2027-03-08");
        JsonNode held = (await AskAsync("holds", lines, new { start })).Body!;
        held["lines"]!.AsArray().Count.ShouldBe(2);
        long cost = held["price"]!["amount"]!.GetValue<long>();
        ApiAnswer booked = await AskAsync("visits", lines, Who(start, "Follows", (string)held["token"]!), World.Key());
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        booked.Body!["price"]!["amount"]!.GetValue<long>().ShouldBe(cost);
        MinutesOf(booked.Body).ShouldBe(90);
    }

    [Fact]
    public async Task A_friend_comes_along_at_the_same_time_and_has_a_name()
    {
        object[] lines = await LinesAsync((Massage, 0), (Facial, 1));
        // They begin together: it takes as long as the longer of the two.
        (await AskAsync("price", lines)).Body!["minutes"]!.GetValue<int>().ShouldBe(60);
        string start = await FirstAsync(lines, "2027-03-15");
        string hold = (string)(await AskAsync("holds", lines, new { start })).Body!["token"]!;

        foreach (string[]? names in new[] { null, [], ["  "], (string[])["a\nb"], [new string('x', 161)] })
        {
            ApiAnswer unnamed = await AskAsync("visits", lines, Who(start, "Friendly", hold, names), World.Key());
            unnamed.Status.ShouldBe(HttpStatusCode.BadRequest);
            unnamed.Body!["errors"]!["people[0].name"].ShouldNotBeNull();
        }

        ApiAnswer booked = await AskAsync("visits", lines, Who(start, "Friendly", hold, ["Bo Reed", "Nobody"]), World.Key());
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        booked.Body!["lines"]![1]!.GetValue<string>().ShouldEndWith(", for Bo Reed");
        booked.Body["lines"]![0]!.GetValue<string>().ShouldNotContain("for ");

        JsonNode day = (await world.Desk.GetAsync(
            $"/api/v1/locations/{await world.IdAsync("locations", "Mill Street")}/days/{start[..10]}"
        )).Body!;
        JsonNode visit = day["visits"]!.AsArray().Single(visit => (string)visit!["reference"]! == (string)booked.Body["reference"]!)!;
        visit["people"]!.AsArray().Select(person => (string)person!["name"]!).ShouldBe(["Bo Reed"]);
        visit["lines"]!.AsArray().ShouldAllBe(line => (string)line!["start"]! == start);
        visit["lines"]!.AsArray().Select(line => line!["person"]!.GetValue<int>()).ShouldBe([0, 1]);
    }

    [Fact]
    public async Task What_is_kept_for_two_is_given_back_where_one_books()
    {
        object[] together = await LinesAsync((Massage, 0), (Facial, 1));
        string start = await FirstAsync(together, "2027-03-22");
        string hold = (string)(await AskAsync("holds", together, new { start })).Body!["token"]!;
        (await KeptAsync(start[..10])).ShouldBe(2);
        ApiAnswer booked = await AskAsync("visits", await LinesAsync((Massage, 0)), Who(start, "Alone", hold), World.Key());
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        booked.Body!["lines"]!.AsArray().Count.ShouldBe(1);
        (await KeptAsync(start[..10])).ShouldBe(0);
    }

    /// <summary>How many practitioners are kept for somebody on a day, as the desk sees it.</summary>
    private async Task<int> KeptAsync(string date)
    {
        JsonNode day = (await world.Desk.GetAsync(
            $"/api/v1/locations/{await world.IdAsync("locations", "Mill Street")}/days/{date}"
        )).Body!;
        return day["lanes"]!.AsArray().Count(lane =>
            (string)lane!["kind"]! == "practitioner" && lane["kept"] is JsonArray { Count: > 0 });
    }

    [Fact]
    public async Task The_owner_says_how_many_come_together_and_the_server_holds_to_it_everywhere()
    {
        object[] three = await LinesAsync((Massage, 0), (Facial, 1), (Facial, 2));
        (await AskAsync("price", three)).Status.ShouldBe(HttpStatusCode.OK);
        foreach (object[] never in new[] { await LinesAsync((Massage, 1)), await LinesAsync((Massage, 0), (Facial, 3)) })
            (await AskAsync("price", never)).Status.ShouldBe(HttpStatusCode.BadRequest);

        JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
        foreach (int most in new[] { 0, 5 })
        {
            page["mostPeopleOnline"] = most;
            ApiAnswer refused = await world.Owner.PutAsync("/api/v1/setup/booking-page", page, page["version"]);
            (refused.Status, refused.Field).ShouldBe((HttpStatusCode.BadRequest, "mostPeopleOnline"));
        }

        page = await world.Owner.ChangeAsync("/api/v1/setup/booking-page", page, entry => entry["mostPeopleOnline"] = 2);
        try
        {
            (await world.Stranger.GetAsync("/api/public/v1/business")).Body!["mostPeople"]!.GetValue<int>().ShouldBe(2);
            foreach ((string path, object? more, bool isBooking) in new (string, object?, bool)[]
            {
                ("price", null, false),
                ("starts", new { from = "2027-03-15", days = 7 }, false),
                ("holds", new { start = World.At(14, 10) }, false),
                ("visits", Who(World.At(14, 10), "Three", null, ["Bo Reed", "Cy Ash"]), true),
                ("payments", Who(World.At(14, 10), "Three", null, ["Bo Reed", "Cy Ash"]), true),
            })
            {
                ApiAnswer refused = await AskAsync(path, three, more, isBooking ? World.Key() : null);
                (refused.Status, refused.Field).ShouldBe((HttpStatusCode.BadRequest, "lines[2].person"), path);
                ((string)refused.Body!["detail"]!).ShouldBe("Online up to 2 people come together; call us for more.");
            }
        }
        finally
        {
            await world.Owner.ChangeAsync("/api/v1/setup/booking-page", page, entry => entry["mostPeopleOnline"] = 3);
        }
    }
}
