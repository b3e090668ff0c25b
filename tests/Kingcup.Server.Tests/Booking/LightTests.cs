using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>What glows in the book while something is carried, over HTTP.</summary>
public sealed class LightTests(World world)
{
    private async Task<JsonNode[]> LanesAsync(object request)
    {
        ApiAnswer answer = await world.Desk.PostAsync("/api/v1/lights", request);
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return [.. answer.Body!["days"]!.AsArray().Single()!["lanes"]!.AsArray().Select(lane => lane!)];
    }

    private JsonObject Carried(string date, string service, params (string Name, object? Value)[] more)
    {
        JsonObject line = new() { ["serviceId"] = world.Service(service) };
        foreach ((string name, object? value) in more) line[name] = JsonValue.Create(value);
        return new JsonObject
        {
            ["locationId"] = world.MillStreet,
            ["from"] = date,
            ["lines"] = new JsonArray(line),
        };
    }

    private static JsonNode[] Ranges(IEnumerable<JsonNode> lanes, string id) =>
        [
            .. lanes
                .Where(lane => lane["resourceId"]!.GetValue<string>() == id)
                .SelectMany(lane => lane["ranges"]!.AsArray())
                .Select(range => range!),
        ];

    private static bool Holds(JsonNode range, string at) =>
        DateTimeOffset.Parse(at, null) is var instant
        && range["first"]!.GetValue<DateTimeOffset>() <= instant
        && instant <= range["last"]!.GetValue<DateTimeOffset>();

    [Fact]
    public async Task What_is_looked_for_in_a_part_of_the_day_is_found_there_only_by_lights_and_starts()
    {
        JsonObject asked = Carried("2027-03-24", "Deep tissue 60");
        JsonNode[] all = [.. (await LanesAsync(asked)).SelectMany(lane => lane["ranges"]!.AsArray()).Select(range => range!)];
        all.ShouldContain(range => Holds(range, World.At(23, 10, 0)));
        asked["narrow"] = new JsonObject { ["part"] = "afternoon" };
        JsonNode[] narrowed = [.. (await LanesAsync(asked)).SelectMany(lane => lane["ranges"]!.AsArray()).Select(range => range!)];
        narrowed.ShouldNotBeEmpty();
        DateTimeOffset noon = DateTimeOffset.Parse(World.At(23, 12, 0), null), evening = DateTimeOffset.Parse(World.At(23, 17, 0), null);
        narrowed.ShouldAllBe(range =>
            range["first"]!.GetValue<DateTimeOffset>() >= noon && range["last"]!.GetValue<DateTimeOffset>() < evening
        );
        JsonNode[] starts =
        [
            .. (await world.Desk.PostAsync("/api/v1/starts", asked)).Body![0]!["starts"]!.AsArray().Select(start => start!),
        ];
        starts.ShouldNotBeEmpty();
        starts.ShouldAllBe(start =>
            start["start"]!.GetValue<DateTimeOffset>() >= noon && start["start"]!.GetValue<DateTimeOffset>() < evening
        );
        asked["narrow"]!["part"] = "1";
        ApiAnswer refused = await world.Desk.PostAsync("/api/v1/lights", asked);
        (refused.Status, refused.Field).ShouldBe((HttpStatusCode.BadRequest, "narrow.part"));
    }

    [Fact]
    public async Task What_is_pointed_at_is_what_gets_booked()
    {
        string ines = world.Practitioner("Ines Calloway"), start = World.At(23, 10, 15);
        JsonNode[] lanes = await LanesAsync(Carried("2027-03-24", "Deep tissue 60"));
        JsonNode range = Ranges(lanes, ines).Single(light => Holds(light, start));
        JsonNode booked = await world.BookAsync("Deep tissue 60", start, "Ines Calloway");
        (booked["end"]!.GetValue<DateTimeOffset>() - booked["start"]!.GetValue<DateTimeOffset>()).TotalMinutes.ShouldBe(
            range["minutes"]!.GetValue<int>()
        );
        booked["price"]!.ToJsonString().ShouldBe(range["price"]!.ToJsonString());
        DateTimeOffset begins = DateTimeOffset.Parse(start, null);
        string[] Claims(JsonNode visit, Func<JsonNode, string, int> minutes) =>
            [
                .. visit["claims"]!
                    .AsArray()
                    .Select(claim => $"{claim!["resourceId"]} {claim["unit"]} {minutes(claim, "from")} {minutes(claim, "until")}")
                    .Order(),
            ];
        Claims(range, (claim, field) => claim[field]!.GetValue<int>())
            .ShouldBe(
                Claims(booked, (claim, field) => (int)(claim[field]!.GetValue<DateTimeOffset>() - begins).TotalMinutes)
            );

        // The same again is dark there now, and the visit itself does not stand in its own way.
        Ranges(await LanesAsync(Carried("2027-03-24", "Deep tissue 60")), ines).ShouldAllBe(light => !Holds(light, start));
        JsonObject moving = Carried("2027-03-24", "Deep tissue 60");
        moving["visitId"] = booked["id"]!.GetValue<string>();
        Ranges(await LanesAsync(moving), ines).Count(light => Holds(light, start)).ShouldBe(1);
    }

    [Fact]
    public async Task A_room_or_a_length_chosen_by_hand_is_kept_and_one_left_out_is_not_used()
    {
        JsonNode[] any = await LanesAsync(Carried("2027-03-25", "Facial 50"));
        JsonNode setup = (await world.Desk.GetAsync("/api/v1/setup")).Body!;
        string[] people = [.. setup["practitioners"]!.AsArray().Select(who => who!["id"]!.GetValue<string>())];
        string[] rooms = [.. any.Select(lane => lane["resourceId"]!.GetValue<string>()).Except(people)];
        rooms.Length.ShouldBeGreaterThan(1);
        JsonNode[] inOne = await LanesAsync(Carried("2027-03-25", "Facial 50", ("roomId", rooms[0]), ("minutes", 85)));
        inOne.Select(lane => lane["resourceId"]!.GetValue<string>()).Except(people).ShouldBe([rooms[0]]);
        inOne.SelectMany(lane => lane["ranges"]!.AsArray()).ShouldAllBe(range => range!["minutes"]!.GetValue<int>() == 85);
        JsonObject without = Carried("2027-03-25", "Facial 50");
        without["narrow"] = new JsonObject { ["withoutRooms"] = new JsonArray([.. rooms.Skip(1).Select(room => (JsonNode)room)]) };
        (await LanesAsync(without)).Select(lane => lane["resourceId"]!.GetValue<string>()).Except(people).ShouldBe([rooms[0]]);
    }

    [Theory]
    [InlineData("minutes", 3, "lines[0].minutes")]
    [InlineData("minutes", 725, "lines[0].minutes")]
    [InlineData("minutes", 52, "lines[0].minutes")]
    [InlineData("roomId", "00000000-0000-0000-0000-000000000001", "lines[0].roomId")]
    public async Task What_no_line_can_have_is_refused_by_name(string field, object value, string named)
    {
        ApiAnswer refused = await world.Desk.PostAsync("/api/v1/lights", Carried("2027-03-25", "Facial 50", (field, value)));
        (refused.Status, refused.Field).ShouldBe((HttpStatusCode.BadRequest, named));
    }

    [Fact]
    public async Task Lights_are_for_those_who_keep_the_book()
    {
        ApiClient ines = await world.SignedInAsync("ines@harrowmere.test");
        (await ines.PostAsync("/api/v1/lights", Carried("2027-03-25", "Facial 50"))).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Stranger.PostAsync("/api/v1/lights", Carried("2027-03-25", "Facial 50"))).Status.ShouldBe(HttpStatusCode.Unauthorized);
    }
}
