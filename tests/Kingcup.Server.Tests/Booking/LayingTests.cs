using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Visits laid anew, taken out and put back over HTTP: lines added and taken out, rooms and lengths by hand, undo.</summary>
public sealed class LayingTests(World world)
{
    private static JsonNode Ok(ApiAnswer answer)
    {
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private Task<ApiAnswer> TryLayAsync(JsonNode visit, string start, params object[] lines) =>
        world.Desk.PostAsync($"/api/v1/visits/{visit["id"]}/lay", new { start, lines }, World.Match(visit));

    private async Task<JsonNode> LayAsync(JsonNode visit, string start, params object[] lines) =>
        Ok(await TryLayAsync(visit, start, lines));

    private static JsonNode Line(JsonNode visit, int i = 0) => visit["lines"]![i]!;

    private object Stays(JsonNode visit, int i = 0, int? minutes = null, string? roomId = null) => new
    {
        id = Line(visit, i)["id"]!.GetValue<string>(),
        serviceId = Line(visit, i)["serviceId"]!.GetValue<string>(),
        practitionerId = Line(visit, i)["practitioners"]![0]!["id"]!.GetValue<string>(),
        minutes,
        roomId,
    };

    private static Task<ApiAnswer> UndoAsync(ApiClient who, JsonNode step) => who.PostAsync($"/api/v1/undo/{step["id"]}", new { });

    private async Task<ApiAnswer> UndoLastAsync(JsonNode visit)
    {
        return await UndoAsync(world.Desk, await world.StepOfAsync(visit));
    }

    private async Task<JsonNode> FindAsync(JsonNode visit) => Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}"));

    [Fact]
    public async Task Whoever_is_in_treatment_stays_longer_where_they_are()
    {
        JsonNode visit = await world.BookAsync("Podiatry 40", World.At(0, 11), "Rafe Lindqvist");
        foreach (string state in new[] { "arrived", "inTreatment" })
            visit = Ok(await world.Desk.PostAsync($"/api/v1/visits/{visit["id"]}/state", new { state }, World.Match(visit)));
        (visit["canMove"]!.GetValue<bool>(), visit["canChange"]!.GetValue<bool>()).ShouldBe((false, true));
        JsonNode longer = await LayAsync(visit, World.At(0, 11), Stays(visit, minutes: 55));
        longer["end"]!.GetValue<string>().ShouldBe(World.At(0, 11, 55));
        longer["state"]!.GetValue<string>().ShouldBe("inTreatment");
        (await TryLayAsync(longer, World.At(0, 15), Stays(longer))).Code.ShouldBe("state");
    }

    [Fact]
    public async Task A_line_is_added_to_a_visit_that_stands_and_taken_out_and_all_of_it_is_undone_step_by_step()
    {
        string start = World.At(37, 9);
        JsonNode visit = await world.BookAsync("Deep tissue 60", start, "Ines Calloway");
        JsonNode longer = await LayAsync(visit, start, Stays(visit), new { serviceId = world.Service("Back and shoulders 30") });
        Line(longer)["id"]!.GetValue<string>().ShouldBe(Line(visit)["id"]!.GetValue<string>());
        Line(longer, 1)["service"]!.GetValue<string>().ShouldBe("Back and shoulders 30");
        Line(longer, 1)["start"]!.GetValue<string>().ShouldBe(Line(longer)["end"]!.GetValue<string>());
        longer["price"]!["amount"]!.GetValue<long>().ShouldBe(visit["price"]!["amount"]!.GetValue<long>() + 4800);

        JsonNode shorter = await LayAsync(longer, start, Stays(longer, 1));
        shorter["lines"]!.AsArray().Count.ShouldBe(1);
        shorter["price"]!["amount"]!.GetValue<long>().ShouldBe(4800);
        JsonNode moved = await LayAsync(shorter, World.At(37, 15), Stays(shorter));

        // Back through all of it, one after another.
        Ok(await UndoLastAsync(moved))["visits"]![0]!["start"]!.GetValue<string>().ShouldBe(start);
        JsonNode both = Ok(await UndoLastAsync(moved))["visits"]![0]!;
        both["lines"]!.ToJsonString().ShouldBe(longer["lines"]!.ToJsonString());
        JsonNode first = Ok(await UndoLastAsync(moved))["visits"]![0]!;
        first["claims"]!.ToJsonString().ShouldBe(visit["claims"]!.ToJsonString());
        Ok(await UndoLastAsync(moved))["visits"]!.AsArray().ShouldBeEmpty();
        (await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}")).Status.ShouldBe(HttpStatusCode.NotFound);
        Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}/history"))
            .AsArray()
            .Select(entry => entry!["action"]!.GetValue<string>())
            .ShouldBe(["Booked", "Changed", "Changed", "Moved", "Undone", "Undone", "Undone", "Undone"]);
    }

    [Fact]
    public async Task Room_and_length_by_hand_stay_with_the_visit_when_it_moves()
    {
        JsonNode visit = await world.BookAsync("Deep tissue 60", World.At(38, 9), "Ines Calloway");
        string[] others =
        [
            .. Ok(
                await world.Desk.PostAsync(
                    "/api/v1/lights",
                    new
                    {
                        locationId = world.MillStreet,
                        from = "2027-04-08",
                        visitId = visit["id"]!.GetValue<string>(),
                        lines = new[] { new { serviceId = world.Service("Deep tissue 60") } },
                    }
                )
            )["days"]![0]!["lanes"]!
                .AsArray()
                .SelectMany(lane => lane!["ranges"]!.AsArray())
                .SelectMany(range => range!["claims"]!.AsArray())
                .Select(claim => claim!["resourceId"]!.GetValue<string>())
                .Distinct()
                .Where(id => id != Line(visit)["roomId"]!.GetValue<string>()),
        ];
        JsonNode day = Ok(await world.Desk.GetAsync($"/api/v1/locations/{world.MillStreet}/days/2027-04-08"));
        string room = day["lanes"]!
            .AsArray()
            .First(lane => lane!["kind"]!.GetValue<string>() == "room" && others.Contains(lane["id"]!.GetValue<string>()))!["id"]!
            .GetValue<string>();
        JsonNode laid = await LayAsync(visit, World.At(38, 9), Stays(visit, minutes: 70, roomId: room));
        (Line(laid)["roomId"]!.GetValue<string>(), Line(laid)["setMinutes"]!.GetValue<int>()).ShouldBe((room, 70));
        JsonNode moved = Ok(
            await world.Desk.PostAsync($"/api/v1/visits/{visit["id"]}/move", new { start = World.At(38, 14) }, World.Match(laid))
        );
        Line(moved)["roomId"]!.GetValue<string>().ShouldBe(room);
        (moved["end"]!.GetValue<DateTimeOffset>() - moved["start"]!.GetValue<DateTimeOffset>()).TotalMinutes.ShouldBe(70);
        // By the service again: nothing of it was set by hand.
        JsonNode usual = await LayAsync(moved, World.At(38, 14), Stays(moved));
        Line(usual)["setMinutes"].ShouldBeNull();
        (usual["end"]!.GetValue<DateTimeOffset>() - usual["start"]!.GetValue<DateTimeOffset>()).TotalMinutes.ShouldBe(60);
    }

    [Fact]
    public async Task What_cannot_be_laid_is_refused_by_name_and_nothing_is_half_done()
    {
        JsonNode visit = await world.BookAsync("Deep tissue 60", World.At(42, 9), "Ines Calloway");
        object stays = Stays(visit);
        (await TryLayAsync(visit, World.At(42, 9))).Field.ShouldBe("lines");
        (await TryLayAsync(visit, World.At(42, 9), stays, stays)).Field.ShouldBe("lines[0].id");
        object foreign = new { id = Guid.NewGuid(), serviceId = world.Service("Deep tissue 60") };
        (await TryLayAsync(visit, World.At(42, 9), foreign)).Field.ShouldBe("lines[0].id");
        (await TryLayAsync(visit, World.At(42, 9), stays, new { serviceId = world.Service("Deep tissue 60"), person = 1 })).Field.ShouldBe(
            "lines[1].person"
        );
        (await TryLayAsync(visit, World.At(-1, 9), stays)).Field.ShouldBe("start");
        // In the middle of the night nobody is there: the reasons are told, with the nearest that fit.
        ApiAnswer dark = await TryLayAsync(visit, World.At(42, 3), stays);
        dark.Status.ShouldBe(HttpStatusCode.Conflict);
        JsonNode present = await FindAsync(visit);
        present["version"]!.GetValue<long>().ShouldBe(visit["version"]!.GetValue<long>());
        present["claims"]!.ToJsonString().ShouldBe(visit["claims"]!.ToJsonString());
    }

    [Fact]
    public async Task What_somebody_has_changed_since_is_not_undone_and_two_undos_of_one_thing_undo_it_once()
    {
        JsonNode visit = await world.BookAsync("Deep tissue 60", World.At(43, 9), "Ines Calloway");
        JsonNode moved = await LayAsync(visit, World.At(43, 10, 30), Stays(visit));
        JsonNode step = await world.StepOfAsync(visit);
        // Somebody else's doing is nobody else's to undo.
        ApiClient owner = await world.SignedInAsync("owner@harrowmere.test");
        (await UndoAsync(owner, step)).Status.ShouldBe(HttpStatusCode.NotFound);
        ApiAnswer[] both = await Task.WhenAll(UndoAsync(world.Desk, step), UndoAsync(world.OtherDesk, step));
        both.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.OK, HttpStatusCode.Conflict]);
        both.Single(answer => answer.Status == HttpStatusCode.Conflict).Code.ShouldBe("undo");
        JsonNode back = await FindAsync(visit);
        (back["start"]!.GetValue<string>(), back["version"]!.GetValue<long>()).ShouldBe(
            (World.At(43, 9), moved["version"]!.GetValue<long>() + 1)
        );

        JsonNode again = await LayAsync(back, World.At(43, 14), Stays(back));
        JsonNode last = await world.StepOfAsync(visit);
        Ok(await owner.PostAsync($"/api/v1/visits/{visit["id"]}/move", new { start = World.At(43, 15, 30) }, World.Match(again)));
        ApiAnswer refused = await UndoAsync(world.Desk, last);
        (refused.Status, refused.Code).ShouldBe((HttpStatusCode.Conflict, "undo"));
        (await FindAsync(visit))["start"]!.GetValue<string>().ShouldBe(World.At(43, 15, 30));
    }

    [Fact]
    public async Task What_has_lost_its_time_since_stays_where_it_is()
    {
        JsonNode visit = await world.BookAsync("Deep tissue 60", World.At(51, 10), "Ines Calloway");
        JsonNode moved = await LayAsync(visit, World.At(51, 14), Stays(visit));
        JsonNode step = await world.StepOfAsync(visit);
        JsonNode other = await world.BookAsync("Deep tissue 60", World.At(51, 10, 30), "Ines Calloway");
        ApiAnswer refused = await UndoAsync(world.Desk, step);
        (refused.Status, refused.Code).ShouldBe((HttpStatusCode.Conflict, "start-taken"));
        (await FindAsync(visit))["version"]!.GetValue<long>().ShouldBe(moved["version"]!.GetValue<long>());
        // Once that has gone, it goes back.
        Ok(
            await world.Desk.PostAsync(
                $"/api/v1/visits/{other["id"]}/cancel",
                new { reason = "Changed their mind", by = "client" },
                World.Match(other)
            )
        );
        Ok(await UndoAsync(world.Desk, step))["visits"]![0]!["start"]!.GetValue<string>().ShouldBe(World.At(51, 10));
    }

    [Fact]
    public async Task A_cancelled_visit_comes_back_while_it_is_fresh_if_its_time_is_still_free()
    {
        JsonNode visit = await world.BookAsync("Deep tissue 60", World.At(52, 10), "Ines Calloway");
        Task<ApiAnswer> Cancel(JsonNode item) =>
            world.Desk.PostAsync($"/api/v1/visits/{item["id"]}/cancel", new { reason = "Wrong one", by = "business" }, World.Match(item));
        Task<ApiAnswer> Back(JsonNode item) =>
            world.Desk.PostAsync($"/api/v1/visits/{item["id"]}/state", new { state = "confirmed" }, World.Match(item));
        JsonNode cancelled = Ok(await Cancel(visit));
        cancelled["next"]!.AsArray().Select(state => state!.GetValue<string>()).ShouldBe(["confirmed"]);
        JsonNode back = Ok(await Back(cancelled));
        (back["state"]!.GetValue<string>(), back["cancelReason"]).ShouldBe(("confirmed", null));
        (await FindAsync(visit))["claims"]!.ToJsonString().ShouldBe(visit["claims"]!.ToJsonString());

        cancelled = Ok(await Cancel(back));
        await world.BookAsync("Deep tissue 60", World.At(52, 10), "Ines Calloway");
        (await Back(cancelled)).Code.ShouldBe("start-taken");
        (await FindAsync(visit))["state"]!.GetValue<string>().ShouldBe("cancelled");
    }

    [Fact]
    public async Task A_visit_entered_by_mistake_is_taken_out_by_those_who_may()
    {
        JsonNode visit = await world.BookAsync("Deep tissue 60", World.At(56, 9), "Ines Calloway");
        Task<ApiAnswer> Delete(ApiClient who) =>
            who.SendAsync(HttpMethod.Delete, $"/api/v1/visits/{visit["id"]}", null, World.Match(visit));
        (await Delete(world.Desk)).Status.ShouldBe(HttpStatusCode.Forbidden);
        ApiClient owner = await world.SignedInAsync("owner@harrowmere.test");
        (await owner.SendAsync(HttpMethod.Delete, $"/api/v1/visits/{visit["id"]}", null)).Status.ShouldBe(
            HttpStatusCode.PreconditionRequired
        );
        (await Delete(owner)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await Delete(owner)).Status.ShouldBe(HttpStatusCode.NotFound);
        Ok(await world.Desk.GetAsync($"/api/v1/visits/{visit["id"]}/history"))
            .AsArray()
            .Select(entry => entry!["action"]!.GetValue<string>())
            .ShouldBe(["Booked", "Deleted"]);
        await world.BookAsync("Deep tissue 60", World.At(56, 9), "Ines Calloway");
    }

    /// <summary>Two desks at two servers lay the same visit anew at once: one of them, wholly.</summary>
    [Fact]
    public async Task Two_who_lay_the_same_visit_at_once_come_one_after_the_other()
    {
        JsonNode visit = await world.BookAsync("Deep tissue 60", World.At(57, 9), "Ines Calloway");
        ApiAnswer[] both = await Task.WhenAll(
            new[] { world.Desk, world.OtherDesk }.Select(
                (desk, i) =>
                    desk.PostAsync(
                        $"/api/v1/visits/{visit["id"]}/lay",
                        new { start = World.At(57, 14 + i), lines = new[] { Stays(visit) } },
                        World.Match(visit)
                    )
            )
        );
        both.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.OK, HttpStatusCode.PreconditionFailed]);
        JsonNode present = await FindAsync(visit);
        present["version"]!.GetValue<long>().ShouldBe(visit["version"]!.GetValue<long>() + 1);
        Duration.FromMinutes(60).ShouldBe(
            Duration.FromTimeSpan(present["end"]!.GetValue<DateTimeOffset>() - present["start"]!.GetValue<DateTimeOffset>())
        );
    }
}
