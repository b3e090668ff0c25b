using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Visits of several lines, one after another and side by side, booked, moved and cancelled over HTTP.</summary>
public sealed class SeveralLinesTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private sealed record Line(string Service, int Person = 0, string? By = null, string? AddOn = null);

    private async Task<object> LineAsync(Line line) => new
    {
        serviceId = await world.IdAsync("services", line.Service),
        practitionerId = line.By is null ? null : await world.IdAsync("practitioners", line.By),
        person = line.Person,
        addOns = line.AddOn is null
            ? Array.Empty<object>()
            : [new { addOnId = await world.IdAsync("add-ons", line.AddOn), count = 1 }],
    };

    private async Task<ApiAnswer> TryAsync(string start, string family, params Line[] lines) => await world.Desk.PostAsync(
        "/api/v1/visits",
        new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            start,
            lines = await Task.WhenAll(lines.Select(LineAsync)),
            people = lines.Max(line => line.Person) == 0
                ? Array.Empty<object>()
                : [.. Enumerable.Range(1, lines.Max(line => line.Person)).Select(i => new { name = $"Friend {i}" })],
            newClient = new { givenName = "Ada", familyName = family, phone = "020 910 0044" },
        },
        World.Key()
    );

    /// <summary>The starts staff find on a date, in order.</summary>
    private async Task<string[]> FitsAsync(string date, params Line[] lines)
    {
        ApiAnswer answer = await world.Desk.PostAsync("/api/v1/starts", new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            lines = await Task.WhenAll(lines.Select(LineAsync)),
            from = date,
            days = 7,
        });
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return
        [
            .. answer.Body!
                .AsArray()
                .SelectMany(day => day!["starts"]!.AsArray())
                .Select(start => start!["start"]!.GetValue<string>()),
        ];
    }

    /// <summary>Books at the first start that fits from a date on.</summary>
    private async Task<JsonObject> BookAsync(string date, string family, params Line[] lines)
    {
        ApiAnswer answer = await TryAsync((await FitsAsync(date, lines))[0], family, lines);
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!.AsObject();
    }

    /// <summary>Moves a visit to the last start that fits in the week from a date on.</summary>
    private async Task<JsonObject> MoveAsync(JsonNode visit, string date, params Line[] lines) =>
        await MoveToAsync(visit, (await FitsAsync(date, lines))[^1]);

    private async Task<JsonObject> MoveToAsync(JsonNode visit, string start, string? practitioner = null)
    {
        ApiAnswer answer = await world.Desk.PostAsync(
            $"/api/v1/visits/{visit["id"]}/move",
            new { start, practitionerId = practitioner },
            World.Match(visit)
        );
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return answer.Body!.AsObject();
    }

    private static DateTimeOffset Time(JsonNode? node) => node!.GetValue<DateTimeOffset>();

    private static JsonNode[] Lines(JsonNode visit) => [.. visit["lines"]!.AsArray().Select(line => line!)];

    private static string[] Ids(JsonNode visit) => [.. Lines(visit).Select(line => line["id"]!.GetValue<string>())];

    private static string[] Who(JsonNode line) =>
        [.. line["practitioners"]!.AsArray().Select(practitioner => practitioner!["name"]!.GetValue<string>())];

    [Fact]
    public async Task Lines_of_one_person_follow_each_other_and_keep_practitioner_and_order_through_a_move()
    {
        Line[] wanted = [new("Facial 50"), new("Brow shape 15")];
        JsonObject visit = await BookAsync("2027-03-08", "Several", wanted);
        JsonNode[] lines = Lines(visit);
        Time(lines[1]["start"]).ShouldBe(Time(lines[0]["end"]));
        Who(lines[1]).ShouldBe(Who(lines[0]));

        JsonObject moved = await MoveAsync(visit, "2027-03-15", wanted);
        Ids(moved).ShouldBe(Ids(visit));
        Time(moved["start"]).ShouldBeGreaterThan(Time(visit["start"]));
        Time(Lines(moved)[1]["start"]).ShouldBe(Time(Lines(moved)[0]["end"]));
        (Time(moved["end"]) - Time(moved["start"])).ShouldBe(Time(visit["end"]) - Time(visit["start"]));
        moved["price"]!.ToJsonString().ShouldBe(visit["price"]!.ToJsonString());

        // Its old time is free for the very same, and its new one is not.
        string start = visit["start"]!.GetValue<string>(), present = moved["start"]!.GetValue<string>();
        (await TryAsync(start, "Follower", new Line("Facial 50", By: Who(lines[0])[0]))).Status.ShouldBe(HttpStatusCode.Created);
        ApiAnswer taken = await TryAsync(present, "Late", new Line("Facial 50", By: Who(Lines(moved)[0])[0]));
        (taken.Status, taken.Code).ShouldBe((HttpStatusCode.Conflict, "start-taken"));
    }

    [Fact]
    public async Task People_side_by_side_begin_together_with_different_practitioners_and_stay_together_when_moved()
    {
        Line[] wanted = [new("Deep tissue 60"), new("Deep tissue 60", Person: 1)];
        JsonObject visit = await BookAsync("2027-03-08", "Pair", wanted);
        JsonNode[] lines = Lines(visit);
        Time(lines[0]["start"]).ShouldBe(Time(lines[1]["start"]));
        Who(lines[0]).Intersect(Who(lines[1])).ShouldBeEmpty();
        lines.Select(line => line["person"]!.GetValue<int>()).ShouldBe([0, 1]);
        visit["people"]!.ToJsonString().ShouldContain("Friend 1");

        JsonObject moved = await MoveAsync(visit, "2027-03-22", wanted);
        JsonNode[] after = Lines(moved);
        Time(after[0]["start"]).ShouldBe(Time(after[1]["start"]));
        Who(after[0]).Intersect(Who(after[1])).ShouldBeEmpty();
        Ids(moved).ShouldBe(Ids(visit));
    }

    [Fact]
    public async Task An_add_on_of_one_line_moves_the_next_and_is_paid_once()
    {
        Line[] wanted = [new("Deep tissue 60", By: "Ines Calloway", AddOn: "Scalp massage"), new("Brow shape 15")];
        JsonObject plain = await BookAsync("2027-03-15", "Plain", wanted[0] with { AddOn = null }, wanted[1]);
        JsonObject oiled = await BookAsync("2027-03-16", "Oiled", wanted);
        JsonNode added = Lines(oiled)[0]["addOns"]!.AsArray().ShouldHaveSingleItem()!;
        int minutes = added["minutes"]!.GetValue<int>();
        (Time(oiled["end"]) - Time(oiled["start"])).ShouldBe(Time(plain["end"]) - Time(plain["start"]) + TimeSpan.FromMinutes(minutes));
        oiled["price"]!["amount"]!.GetValue<long>().ShouldBe(
            plain["price"]!["amount"]!.GetValue<long>() + added["price"]!["amount"]!.GetValue<long>()
        );
        // What a line costs is told part by part, and the parts add up.
        Lines(oiled)[0]["priceParts"]!
            .AsArray()
            .Sum(part => part!["amount"]!["amount"]!.GetValue<long>())
            .ShouldBe(oiled["price"]!["amount"]!.GetValue<long>() - Lines(oiled)[1]["priceParts"]!.AsArray().Sum(part =>
                part!["amount"]!["amount"]!.GetValue<long>()));

        JsonObject moved = await MoveAsync(oiled, "2027-03-22", wanted);
        moved["price"]!.ToJsonString().ShouldBe(oiled["price"]!.ToJsonString());
        Lines(moved)[0]["addOns"]!.ToJsonString().ShouldBe(Lines(oiled)[0]["addOns"]!.ToJsonString());
    }

    [Fact]
    public async Task A_move_that_fits_only_for_the_first_line_is_refused_whole_and_changes_nothing()
    {
        JsonObject visit = await BookAsync("2027-03-18", "Whole", new Line("Facial 50"), new Line("Brow shape 15"));
        JsonObject before = (await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}")).Body!.AsObject();
        // Everybody's shift has ended by the second line.
        ApiAnswer late = await world.Desk.PostAsync(
            $"/api/v1/visits/{visit["id"]}/move", new { start = "2027-03-18T21:55:00Z" }, World.Match(visit));
        late.Status.ShouldBe(HttpStatusCode.Conflict, late.Body?.ToJsonString());
        (await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}")).Body!.ToJsonString().ShouldBe(before.ToJsonString());
        string[] history =
        [
            .. (await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}/history")).Body!
                .AsArray()
                .Select(entry => entry!["action"]!.GetValue<string>()),
        ];
        history.ShouldBe(["Booked"]);
    }

    [Fact]
    public async Task The_history_of_a_move_has_every_line_before_and_after()
    {
        Line[] wanted = [new("Facial 50"), new("Brow shape 15")];
        JsonObject visit = await BookAsync("2027-03-22", "Told", wanted);
        JsonObject moved = await MoveAsync(visit, "2027-03-29", wanted);
        JsonNode entry = (await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}/history")).Body!
            .AsArray()
            .Single(row => row!["action"]!.GetValue<string>() == "Moved")!;
        JsonNode before = JsonNode.Parse(entry["before"]!.GetValue<string>())!, after = JsonNode.Parse(entry["after"]!.GetValue<string>())!;
        foreach (JsonNode line in Lines(visit)) before.ToJsonString().ShouldContain(line["start"]!.GetValue<string>());
        foreach (JsonNode line in Lines(moved)) after.ToJsonString().ShouldContain(line["start"]!.GetValue<string>());
        before["lines"]!.AsArray().Count.ShouldBe(2);
        after["lines"]!.AsArray().Count.ShouldBe(2);
    }

    [Fact]
    public async Task Moving_to_somebody_else_changes_the_first_line_and_whoever_may_follow()
    {
        JsonObject visit = await BookAsync("2027-03-24", "Other", new Line("Deep tissue 60"), new Line("Brow shape 15"));
        string present = Who(Lines(visit)[0])[0];
        ApiAnswer starts = await world.Desk.PostAsync("/api/v1/starts", new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            lines = new[] { new { serviceId = await world.IdAsync("services", "Deep tissue 60") } },
            from = "2027-03-25",
            days = 1,
        });
        JsonNode other = starts.Body![0]!["starts"]!.AsArray().First(start => start!["practitioner"]!.GetValue<string>() != present)!;
        JsonObject moved = await MoveToAsync(visit, other["start"]!.GetValue<string>(), other["practitionerId"]!.GetValue<string>());
        Who(Lines(moved)[0])[0].ShouldBe(other["practitioner"]!.GetValue<string>());
        Ids(moved).ShouldBe(Ids(visit));
    }

    [Theory]
    [InlineData(7, 0)]
    [InlineData(1, 6)]
    [InlineData(1, -1)]
    public async Task More_lines_or_people_than_a_visit_has_are_refused_at_their_field(int lines, int person)
    {
        ApiAnswer answer = await world.Desk.PostAsync("/api/v1/visits", new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            start = "2027-03-26T10:00:00Z",
            lines = Enumerable.Repeat(new { serviceId = await world.IdAsync("services", "Brow shape 15"), person }, lines),
            newClient = new { givenName = "Ada", familyName = "Many", phone = "020 910 0044" },
        }, World.Key());
        answer.Status.ShouldBe(HttpStatusCode.BadRequest, answer.Body?.ToJsonString());
        (answer.Field ?? "").ShouldStartWith("lines");
    }
}
