using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Visits that repeat: what each meets, all of them or none, this one and the following cancelled and undone.</summary>
public sealed class SeriesTests(World world)
{
    private static JsonNode Ok(ApiAnswer answer, HttpStatusCode status = HttpStatusCode.OK)
    {
        answer.Status.ShouldBe(status, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private object[] Lines() =>
        [new { serviceId = world.Service("Deep tissue 60"), practitionerId = world.Practitioner("Ines Calloway") }];

    private static JsonNode[] Booked(ApiAnswer answer) =>
        [.. Ok(answer, HttpStatusCode.Created)["visits"]!.AsArray().Select(visit => visit!)];

    private Task<ApiAnswer> TryAsync(string start, object? repeat) =>
        world.Desk.PostAsync("/api/v1/visits/repeat/try", new { locationId = world.MillStreet, start, lines = Lines(), repeat });

    private async Task<JsonNode[]> MeetAsync(string start, object repeat) =>
        [.. Ok(await TryAsync(start, repeat)).AsArray().Select(one => one!)];

    private Task<ApiAnswer> BookAsync(ApiClient who, IEnumerable<object> occurrences, params (string, string)[] headers) =>
        who.PostAsync(
            "/api/v1/visits/repeat",
            new
            {
                locationId = world.MillStreet,
                lines = Lines(),
                occurrences,
                newClient = new { givenName = "Ada", familyName = "Marsh" },
            },
            headers
        );

    [Fact]
    public async Task Each_date_says_what_it_meets_and_what_would_solve_it_and_the_clock_stays_when_clocks_change()
    {
        // Every other week over the last Sunday of March, when the clock goes forward: half past five stays half past five.
        string first = World.At(24, 17, 30);
        JsonNode blocking = await world.BookAsync("Deep tissue 60", "2027-04-08T16:45:00Z", "Ines Calloway");
        JsonNode[] dates = await MeetAsync(first, new { unit = "week", every = 2, times = 4 });
        dates.Select(one => one["start"]!.GetValue<string>())
            .ShouldBe(["2027-03-25T17:30:00Z", "2027-04-08T16:30:00Z", "2027-04-22T16:30:00Z", "2027-05-06T16:30:00Z"]);
        JsonNode clash = dates[1];
        clash["fits"]!.GetValue<bool>().ShouldBeFalse();
        clash["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>()).ShouldContain("practitionerTaken");
        // Who else may be free then depends on what other tests have booked; they are never the one who is taken.
        clash["other"]?["name"]?.GetValue<string>().ShouldNotBe("Ines Calloway");
        string nearest = clash["nearest"]!.GetValue<string>();

        // Solved one by one: the nearest start where it does not fit, all others as they are.
        object[] solved =
        [
            .. dates
                .Select(one => one["fits"]!.GetValue<bool>() ? one["start"] : one["nearest"])
                .OfType<JsonNode>()
                .Select(start => new { start = start.GetValue<string>() }),
        ];
        JsonNode[] visits = Booked(await BookAsync(world.Desk, solved, World.Key()));
        visits.Select(visit => visit["start"]!.GetValue<string>()).ShouldContain(nearest);
        visits.Select(visit => visit["seriesId"]!.GetValue<string>()).Distinct().Count().ShouldBe(1);
        visits.Count(visit => visit["isFirst"]!.GetValue<bool>()).ShouldBe(1);

        // All of it is one thing to be undone.
        JsonNode step = await world.StepOfAsync(visits[0]);
        step["visitIds"]!.AsArray().Count.ShouldBe(solved.Length);
        Ok(await world.Desk.PostAsync($"/api/v1/undo/{step["id"]}", new { }))["visits"]!.AsArray().ShouldBeEmpty();
        (await world.Desk.GetAsync($"/api/v1/visits/{visits[^1]["id"]}")).Status.ShouldBe(HttpStatusCode.NotFound);
        await world.Desk.PostAsync(
            $"/api/v1/visits/{blocking["id"]}/cancel",
            new { reason = "Test", by = "business" },
            World.Match(blocking)
        );
    }

    [Fact]
    public async Task All_are_booked_or_none_and_twice_the_same_request_books_once()
    {
        object[] wanted = [new { start = World.At(65, 9) }, new { start = World.At(79, 9) }];
        (string, string) key = World.Key();
        ApiAnswer[] both = await Task.WhenAll(BookAsync(world.Desk, wanted, key), BookAsync(world.Desk, wanted, key));
        both.Select(answer => Ok(answer, HttpStatusCode.Created)["visits"]![0]!["id"]!.GetValue<string>()).Distinct().Count().ShouldBe(1);

        // Two desks at once for the same row: one has all of it, the other nothing.
        object[] row = [new { start = World.At(65, 14) }, new { start = World.At(79, 14) }, new { start = World.At(93, 9) }];
        ApiAnswer[] race = await Task.WhenAll(
            BookAsync(world.Desk, row, World.Key()),
            BookAsync(world.OtherDesk, row.Reverse(), World.Key())
        );
        race.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.Created, HttpStatusCode.Conflict]);
        race.Single(answer => answer.Status == HttpStatusCode.Conflict).Code.ShouldBe("start-taken");
        JsonNode day = Ok(await world.Desk.GetAsync($"/api/v1/locations/{world.MillStreet}/days/2027-06-02"));
        day["visits"]!.AsArray().Count(visit => visit!["start"]!.GetValue<string>() == World.At(93, 9)).ShouldBe(1);
    }

    [Fact]
    public async Task This_one_and_the_following_are_cancelled_in_one_go_and_come_back_in_one_go()
    {
        object[] wanted = [new { start = World.At(107, 9) }, new { start = World.At(121, 9) }, new { start = World.At(135, 9) }];
        JsonNode[] visits = Booked(await BookAsync(world.Desk, wanted, World.Key()));
        JsonNode cancelled = Ok(
            await world.Desk.PostAsync(
                $"/api/v1/visits/{visits[1]["id"]}/series/cancel",
                new { reason = "Moves away", by = "client" },
                World.Match(visits[1])
            )
        );
        cancelled["visits"]!.AsArray().Select(visit => visit!["id"]!.GetValue<string>()).ShouldBe(
            visits[1..].Select(visit => visit["id"]!.GetValue<string>())
        );
        async Task<string> State(JsonNode visit) =>
            Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}"))["state"]!.GetValue<string>();
        (await State(visits[0])).ShouldBe("confirmed");
        (await State(visits[2])).ShouldBe("cancelled");
        JsonNode step = await world.StepOfAsync(visits[1]);
        Ok(await world.Desk.PostAsync($"/api/v1/undo/{step["id"]}", new { }))["visits"]!.AsArray().Count.ShouldBe(2);
        (await State(visits[1])).ShouldBe("confirmed");
        (await State(visits[2])).ShouldBe("confirmed");

        JsonNode alone = await world.BookAsync("Deep tissue 60", World.At(107, 14), "Ines Calloway");
        (
            await world.Desk.PostAsync(
                $"/api/v1/visits/{alone["id"]}/series/cancel",
                new { reason = "Moves away", by = "client" },
                World.Match(alone)
            )
        ).Code.ShouldBe("series");
    }

    private async Task<JsonNode[]> RowAsync(int day, int hour) =>
        Booked(
            await BookAsync(world.Desk, new[] { 0, 14, 28 }.Select(apart => new { start = World.At(day + apart, hour) }), World.Key())
        );

    private Task<ApiAnswer> TryMoveAsync(JsonNode visit, string start, bool all = false) =>
        world.Desk.PostAsync($"/api/v1/visits/{visit["id"]}/series/try", new { start, all });

    private static Task<ApiAnswer> MoveAsync(ApiClient who, JsonNode visit, IEnumerable<JsonNode> tried) =>
        who.PostAsync(
            $"/api/v1/visits/{visit["id"]}/series/lay",
            new
            {
                visits = tried.Select(one => new
                {
                    visitId = one["visitId"]!.GetValue<string>(),
                    version = one["version"]!.GetValue<long>(),
                    start = one["there"]!["start"]!.GetValue<string>(),
                }),
            }
        );

    private async Task<string> StartAsync(JsonNode visit) =>
        Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}"))["start"]!.GetValue<string>();

    private async Task<string[]> StartsAsync(IEnumerable<JsonNode> visits)
    {
        List<string> starts = [];
        foreach (JsonNode visit in visits) starts.Add(await StartAsync(visit));
        return [.. starts];
    }

    private async Task UndoAsync(JsonNode visit) =>
        Ok(await world.Desk.PostAsync($"/api/v1/undo/{(await world.StepOfAsync(visit))["id"]}", new { }));

    [Fact]
    public async Task This_one_and_the_following_are_moved_in_one_go_and_go_back_in_one_go()
    {
        JsonNode[] row = await RowAsync(149, 9);
        JsonNode[] tried = [.. Ok(await TryMoveAsync(row[1], World.At(164, 11))).AsArray().Select(one => one!)];
        tried.Select(one => one["there"]!["start"]!.GetValue<string>()).ShouldBe([World.At(164, 11), World.At(178, 11)]);
        tried.ShouldAllBe(one => one["there"]!["fits"]!.GetValue<bool>());
        Ok(await MoveAsync(world.Desk, row[1], tried))["visits"]!.AsArray().Count.ShouldBe(2);
        (await StartsAsync(row)).ShouldBe([World.At(149, 9), World.At(164, 11), World.At(178, 11)]);
        await UndoAsync(row[1]);
        (await StartsAsync(row)).ShouldBe([World.At(149, 9), World.At(163, 9), World.At(177, 9)]);
    }

    [Fact]
    public async Task All_of_a_row_move_on_to_where_the_next_one_was_and_back_again()
    {
        JsonNode[] row = await RowAsync(191, 9);
        JsonNode[] tried = [.. Ok(await TryMoveAsync(row[0], World.At(205, 9), all: true)).AsArray().Select(one => one!)];
        tried.ShouldAllBe(one => one["there"]!["fits"]!.GetValue<bool>());
        // Two desks at once: one moves them, the other is told that they have changed.
        ApiAnswer[] both = await Task.WhenAll(MoveAsync(world.Desk, row[0], tried), MoveAsync(world.OtherDesk, row[0], tried));
        both.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.OK, HttpStatusCode.PreconditionFailed]);
        (await StartsAsync(row)).ShouldBe([World.At(205, 9), World.At(219, 9), World.At(233, 9)]);
        await UndoAsync(row[0]);
        (await StartsAsync(row)).ShouldBe([World.At(191, 9), World.At(205, 9), World.At(219, 9)]);
    }

    [Fact]
    public async Task A_row_that_does_not_fit_somewhere_says_where_and_none_of_it_moves()
    {
        JsonNode[] row = await RowAsync(247, 10);
        await world.BookAsync("Deep tissue 60", World.At(275, 12), "Ines Calloway");
        JsonNode[] tried = [.. Ok(await TryMoveAsync(row[0], World.At(247, 12))).AsArray().Select(one => one!)];
        tried.Select(one => one["there"]!["fits"]!.GetValue<bool>()).ShouldBe([true, true, false]);
        tried[2]["there"]!["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>()).ShouldContain("practitionerTaken");
        ApiAnswer refused = await MoveAsync(world.Desk, row[0], tried);
        refused.Code.ShouldBe("start-taken");
        refused.Field.ShouldBe("visits[2].start");
        (await StartsAsync(row)).ShouldBe([World.At(247, 10), World.At(261, 10), World.At(275, 10)]);
        // Left out, it stays where it is.
        Ok(await MoveAsync(world.Desk, row[0], tried[..2]));
        (await StartsAsync(row)).ShouldBe([World.At(247, 12), World.At(261, 12), World.At(275, 10)]);

        (await TryMoveAsync(row[0], World.At(-3, 9))).Field.ShouldBe("start");
        // Moved to today, the one before it would lie in the past, which is said of it alone.
        JsonNode[] back = [.. Ok(await TryMoveAsync(row[1], World.At(2, 15), all: true)).AsArray().Select(one => one!)];
        back[0]["there"]!["fits"]!.GetValue<bool>().ShouldBeFalse();
        back[0]["there"]!["reasons"]![0]!["text"]!.GetValue<string>().ShouldBe("That time has passed.");
        ApiAnswer nobody = await world.Desk.PostAsync(
            $"/api/v1/visits/{row[0]["id"]}/series/try",
            new { start = World.At(248, 10), practitionerId = Guid.NewGuid() }
        );
        nobody.Field.ShouldBe("lines[0].practitionerId");
        JsonNode alone = await world.BookAsync("Deep tissue 60", World.At(247, 15), "Ines Calloway");
        (await TryMoveAsync(alone, World.At(248, 9))).Code.ShouldBe("series");
        (await MoveAsync(world.Desk, row[0], [])).Field.ShouldBe("visits");
        var theirs = new { visitId = alone["id"]!.GetValue<string>(), version = 1, start = World.At(248, 9) };
        string lay = $"/api/v1/visits/{row[0]["id"]}/series/lay";
        (await world.Desk.PostAsync(lay, new { visits = new[] { theirs } })).Code.ShouldBe("series");
        (await world.Desk.PostAsync(lay, new { visits = new[] { theirs, theirs } })).Field.ShouldBe("visits");
    }

    [Fact]
    public async Task A_repeat_that_makes_no_row_is_refused_by_field()
    {
        async Task<string?> Field(object? repeat) => (await TryAsync(World.At(9, 10), repeat)).Field;
        (await Field(null)).ShouldBe("repeat");
        (await Field(new { unit = "week", every = 1, times = 10_000 })).ShouldBe("repeat.times");
        (await Field(new { unit = "week", every = 0, times = 3 })).ShouldBe("repeat.every");
        (await Field(new { unit = "day", every = 1, until = "2027-03-01" })).ShouldBe("repeat.until");
        (await Field(new { unit = "month", every = 1 })).ShouldBe("repeat.times");
        (await BookAsync(world.Desk, [new { start = World.At(9, 10) }])).Field.ShouldBe("occurrences");
        (await BookAsync(world.Desk, [new { start = World.At(9, 10) }, new { start = World.At(9, 10) }])).Field.ShouldBe("occurrences");
        ApiAnswer together = await world.Desk.PostAsync(
            "/api/v1/visits/repeat",
            new
            {
                locationId = world.MillStreet,
                lines = new[] { new { serviceId = world.Service("Podiatry 40"), person = 1 } },
                occurrences = new[] { new { start = World.At(9, 10) }, new { start = World.At(16, 10) } },
                newClient = new { givenName = "Ada", familyName = "Marsh" },
            }
        );
        together.Field.ShouldBe("lines[0].person", "nobody says who that would be");
    }
}
