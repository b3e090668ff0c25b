using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Booking over a shift's end, blocked time and other visits after being told, over HTTP.</summary>
public sealed class KnowingBookingTests(World world)
{
    private static (string, string) Accept(ApiAnswer told) => ("X-Accept-Over", told.Body!["accept"]!.GetValue<string>());

    private static string[] Codes(JsonNode answer) =>
        [.. answer["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>())];

    private Task<ApiClient> OwnerAsync() => world.SignedInAsync("owner@harrowmere.test");

    private async Task<JsonNode> DayAsync(string date) =>
        (await world.Desk.GetAsync($"/api/v1/locations/{world.MillStreet}/days/{date}")).Body!;

    [Fact]
    public async Task The_desk_books_outside_a_shift_once_it_was_told_and_the_visit_has_its_place()
    {
        // Maren works until 16:00 on Tuesdays.
        object booking = world.Booking("Physio follow-up 30", World.At(15, 16, 30), "Maren Odell");
        ApiAnswer told = await world.Desk.PostAsync("/api/v1/visits", booking, World.Key());
        (told.Status, told.Code, told.Field).ShouldBe((HttpStatusCode.Conflict, "would-go-over", "start"));
        Codes(told.Body!).ShouldBe(["offShift"]);
        told.Body!["reasons"]![0]!["text"]!.GetValue<string>().ShouldBe("Maren Odell is on shift from 08:00 to 16:00.");
        (await world.Desk.PostAsync("/api/v1/visits", booking, World.Key(), ("X-Accept-Over", "anything"))).Code.ShouldBe("would-go-over");

        ApiAnswer booked = await world.Desk.PostAsync("/api/v1/visits", booking, World.Key(), Accept(told));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        booked.Body!["claims"]!.AsArray().ShouldAllBe(claim => !claim!["overbooked"]!.GetValue<bool>());
        string id = booked.Body["id"]!.GetValue<string>();
        (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.ToJsonString().ShouldNotContain(id);
        JsonNode history = (await world.Desk.GetAsync($"/api/v1/visits/{id}/history")).Body!;
        history[0]!["after"]!.GetValue<string>().ShouldContain("on shift from 08:00 to 16:00");
        // Strangers are never offered it, nor may they book it with the token.
        (
            await world.Stranger.PostAsync(
                "/api/public/v1/visits",
                world.PublicBooking("Physio first visit 60", World.At(15, 17, 30), "Maren Odell"),
                World.Key(),
                Accept(told)
            )
        ).Code.ShouldBe("start-taken");
    }

    [Fact]
    public async Task A_room_that_lacks_something_is_taken_once_that_was_read_and_is_kept_when_the_visit_moves()
    {
        JsonNode day = await DayAsync("2027-03-17");
        string elm = day["lanes"]!.AsArray().Single(lane => lane!["name"]!.GetValue<string>() == "Elm")!["id"]!.GetValue<string>();
        object booking = new
        {
            locationId = world.MillStreet,
            start = World.At(31, 16),
            lines = new[]
            {
                new { serviceId = world.Service("Deep tissue 60"), practitionerId = world.Practitioner("Ines Calloway"), roomId = elm },
            },
            newClient = new { givenName = "Ada", familyName = "Marsh" },
        };
        ApiAnswer told = await world.Desk.PostAsync("/api/v1/visits", booking, World.Key());
        (told.Status, told.Code).ShouldBe((HttpStatusCode.Conflict, "would-go-over"));
        Codes(told.Body!).ShouldBe(["roomUnsuited"]);
        told.Body!["reasons"]![0]!["text"]!.GetValue<string>().ShouldBe("Elm lacks what this needs: couch.");
        ApiAnswer booked = await world.Desk.PostAsync("/api/v1/visits", booking, World.Key(), Accept(told));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        string id = booked.Body!["id"]!.GetValue<string>();
        booked.Body["lines"]![0]!["rooms"]![0]!.GetValue<string>().ShouldBe("Elm");
        (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.ToJsonString().ShouldNotContain(id);
        ApiAnswer moved = await world.Desk.PostAsync(
            $"/api/v1/visits/{id}/move",
            new { start = World.At(31, 16, 15) },
            World.Match(booked.Body)
        );
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
        moved.Body!["lines"]![0]!["rooms"]![0]!.GetValue<string>().ShouldBe("Elm");
        (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.ToJsonString().ShouldNotContain(id);
    }

    [Fact]
    public async Task Only_who_has_the_right_overbooks_and_the_clash_is_marked_until_it_is_none()
    {
        JsonNode first = await world.BookAsync("Deep tissue 60", World.At(16, 10), "Ines Calloway");
        object booking = world.Booking("Deep tissue 60", World.At(16, 10, 30), "Ines Calloway");
        (await world.Desk.PostAsync("/api/v1/visits", booking, World.Key())).Code.ShouldBe("start-taken");
        ApiClient owner = await OwnerAsync();
        ApiAnswer told = await owner.PostAsync("/api/v1/visits", booking, World.Key());
        told.Code.ShouldBe("would-go-over");
        Codes(told.Body!).ShouldBe(["practitionerTaken"]);
        told.Body!["reasons"]![0]!["appointmentId"]!.GetValue<string>().ShouldBe(first["lines"]![0]!["id"]!.GetValue<string>());
        (await world.Desk.PostAsync("/api/v1/visits", booking, World.Key(), Accept(told))).Code.ShouldBe("start-taken");

        ApiAnswer booked = await owner.PostAsync("/api/v1/visits", booking, World.Key(), Accept(told));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        string ines = world.Practitioner("Ines Calloway"),
            id = booked.Body!["id"]!.GetValue<string>();
        booked.Body["claims"]!
            .AsArray()
            .Where(claim => claim!["overbooked"]!.GetValue<bool>())
            .Select(claim => claim!["resourceId"]!.GetValue<string>())
            .ShouldBe([ines]);

        // It never counts as free: half an hour later they are taken by the second visit alone.
        ApiAnswer why = await world.Desk.PostAsync(
            "/api/v1/starts/why-not",
            new
            {
                locationId = world.MillStreet,
                lines = new[] { new { serviceId = world.Service("Deep tissue 60"), practitionerId = ines } },
                start = World.At(16, 11, 30),
            }
        );
        Codes(why.Body!).ShouldContain("practitionerTaken");
        why.Body!["anyway"].ShouldBeNull();

        ApiAnswer cancelled = await world.Desk.PostAsync(
            $"/api/v1/visits/{first["id"]}/cancel",
            new { reason = "ill" },
            World.Match(first)
        );
        cancelled.Status.ShouldBe(HttpStatusCode.OK);
        JsonNode left = (await DayAsync("2027-03-17"))["visits"]!.AsArray().Single(visit => visit!["id"]!.GetValue<string>() == id)!;
        left["claims"]!.AsArray().ShouldAllBe(claim => !claim!["overbooked"]!.GetValue<bool>());
    }

    [Fact]
    public async Task What_came_in_between_is_told_again()
    {
        ApiClient owner = await OwnerAsync();
        object late = world.Booking("Podiatry 40", World.At(16, 17, 20), "Rafe Lindqvist");
        ApiAnswer told = await owner.PostAsync("/api/v1/visits", late, World.Key());
        Codes(told.Body!).ShouldBe(["offShift"]);
        ApiAnswer other = await world.Desk.PostAsync(
            "/api/v1/visits",
            world.Booking("Podiatry 40", World.At(16, 16, 40), "Rafe Lindqvist"),
            World.Key()
        );
        other.Status.ShouldBe(HttpStatusCode.Created, other.Body?.ToJsonString());
        ApiAnswer again = await owner.PostAsync("/api/v1/visits", late, World.Key(), Accept(told));
        again.Code.ShouldBe("would-go-over");
        Codes(again.Body!).ShouldContain("practitionerTaken");
    }

    [Fact]
    public async Task Ten_who_overbook_at_once_at_two_servers_never_meet_unmarked()
    {
        ApiClient owner = await OwnerAsync();
        using ApiClient elsewhere = await ApiClient.SignedInAsync(world.Second, "owner@harrowmere.test");
        await world.BookAsync("Nutrition review 30", World.At(16, 10), "Celia Voss");
        object booking = world.Booking("Nutrition review 30", World.At(16, 10, 15), "Celia Voss");
        ApiAnswer told = await owner.PostAsync("/api/v1/visits", booking, World.Key());
        ApiAnswer[] answers = await Task.WhenAll(
            Enumerable
                .Range(0, 10)
                .Select(i => (i % 2 == 0 ? owner : elsewhere).PostAsync("/api/v1/visits", booking, World.Key(), Accept(told)))
        );
        // The first has what was read; for the others there is one more in the way by then.
        answers.Count(answer => answer.Status == HttpStatusCode.Created).ShouldBe(1);
        answers
            .Where(answer => answer.Status != HttpStatusCode.Created)
            .ShouldAllBe(
                answer => answer.Code == "would-go-over",
                string.Join('\n', answers.Select(answer => $"{answer.Status} {answer.Code} {answer.Body?["detail"]}"))
            );
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        (
            await connection.ExecuteScalarAsync<int>(
                """
                SELECT count(*)::int FROM claim a JOIN claim b ON a.resource_id = b.resource_id AND a.unit = b.unit
                    AND a.during && b.during AND a.id < b.id
                WHERE a.live AND b.live AND NOT a.overbooked AND NOT b.overbooked
                """
            )
        ).ShouldBe(0);
    }

    [Fact]
    public async Task A_visit_is_moved_over_blocked_time_knowingly_and_put_back_without_a_word()
    {
        // Every Monday at eight there is the team meeting.
        JsonNode visit = await world.BookAsync("Physio follow-up 30", World.At(14, 9), "Maren Odell");
        string path = $"/api/v1/visits/{visit["id"]}/move";
        ApiAnswer told = await world.Desk.PostAsync(path, new { start = World.At(14, 8) }, World.Match(visit));
        told.Code.ShouldBe("would-go-over");
        told.Body!["reasons"]![0]!["text"]!.GetValue<string>().ShouldBe("Maren Odell is blocked until 08:30: Team meeting.");
        ApiAnswer moved = await world.Desk.PostAsync(path, new { start = World.At(14, 8) }, World.Match(visit), Accept(told));
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
        (await world.Desk.GetAsync("/api/v1/needs-place")).Body!.ToJsonString().ShouldNotContain(visit["id"]!.GetValue<string>());
        (await world.Desk.PostAsync(path, new { start = World.At(14, 9) }, World.Match(moved.Body!))).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Why_not_says_how_it_may_be_booked_all_the_same()
    {
        ApiAnswer why = await world.Desk.PostAsync(
            "/api/v1/starts/why-not",
            new
            {
                locationId = world.MillStreet,
                lines = new[] { new { serviceId = world.Service("Facial 50"), practitionerId = world.Practitioner("Odile Fenwright") } },
                start = World.At(17, 20),
            }
        );
        JsonNode anyway = why.Body!["anyway"].ShouldNotBeNull();
        anyway["practitioner"]!.GetValue<string>().ShouldBe("Odile Fenwright");
        anyway["rooms"]!.AsArray().Count.ShouldBe(1);
        anyway["overbooks"]!.GetValue<bool>().ShouldBeFalse();
        anyway["warnings"]!.AsArray().Single()!["code"]!.GetValue<string>().ShouldBe("offShift");
        ApiAnswer booked = await world.Desk.PostAsync(
            "/api/v1/visits",
            world.Booking("Facial 50", World.At(17, 20), "Odile Fenwright"),
            World.Key(),
            ("X-Accept-Over", anyway["accept"]!.GetValue<string>())
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        // What nobody may waive stays as it is: Rafe holds nothing for a facial.
        ApiAnswer never = await world.Desk.PostAsync(
            "/api/v1/visits",
            world.Booking("Facial 50", World.At(17, 12), "Rafe Lindqvist"),
            World.Key()
        );
        (never.Status, never.Field).ShouldBe((HttpStatusCode.BadRequest, "lines[0].practitionerId"));
    }
}
