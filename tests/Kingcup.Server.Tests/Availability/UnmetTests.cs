using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Availability;

/// <summary>What people looked for online and did not find.</summary>
public sealed class UnmetTests(World world)
{
    // Nobody else of the tests looks for it in vain.
    private const string Service = "Podiatry 40";

    private object Search(string from, int days) =>
        new
        {
            locationId = world.MillStreet,
            lines = new[] { new { serviceId = world.Service(Service) } },
            from,
            days,
        };

    private async Task NoteAsync(ApiClient http, object search, string? part = null, string week = "any") =>
        (await http.PostAsync("/api/public/v1/unmet", new { search, part, week })).Status.ShouldBe(HttpStatusCode.NoContent);

    private async Task<JsonNode[]> FiguresAsync()
    {
        ApiClient owner = await world.SignedInAsync("owner@harrowmere.test");
        return
        [
            .. (await owner.GetAsync("/api/v1/setup/unmet"))
                .Body!["searches"]!.AsArray()
                .OfType<JsonNode>()
                .Where(figure => (string)figure["serviceId"]! == world.Service(Service)),
        ];
    }

    [Fact]
    public async Task What_was_not_found_is_noted_once_a_device_with_what_stood_in_the_way_and_what_is_found_is_not()
    {
        using ApiClient one = new(world.First),
            other = new(world.Second);
        // A Tuesday and a Wednesday have something, and no Saturday; on a Sunday nobody works.
        object week = Search("2027-03-09", 2),
            sunday = Search("2027-03-14", 1);
        await NoteAsync(one, week);
        (await FiguresAsync()).ShouldBeEmpty();
        await NoteAsync(one, week, week: "weekend");
        await NoteAsync(one, sunday, "morning");
        await NoteAsync(one, sunday, "morning");
        // What is looked for nowhere is not noted either.
        (
            await one.PostAsync(
                "/api/public/v1/unmet",
                new
                {
                    search = new { locationId = Guid.NewGuid(), lines = new[] { new { serviceId = world.Service(Service) } } },
                    week = "any",
                }
            )
        ).Status.ShouldBe(HttpStatusCode.BadRequest);
        // Looking at other days for the same is the same search.
        await NoteAsync(one, Search("2027-03-21", 1), "morning");
        await NoteAsync(other, sunday, "morning");
        JsonNode[] figures = await FiguresAsync();
        figures.Select(figure => ((string)figure["gate"]!, (string?)figure["part"], (int)figure["count"]!)).ShouldBe(
            [("practitioner", "morning", 2), ("date", null, 1)]
        );
        figures.ShouldAllBe(figure => (string)figure["last"]! == "2027-03-01");
    }

    [Fact]
    public async Task What_makes_no_sense_is_refused_and_notes_nothing()
    {
        using ApiClient http = new(world.First);
        (await http.PostAsync("/api/public/v1/unmet", new { part = "morning", week = "any" })).Field.ShouldBe("search");
        (await http.PostAsync("/api/public/v1/unmet", new { search = Search("2027-03-14", 0), week = "any" })).Field.ShouldBe("days");
        object longAgo = Search("1027-03-14", 1);
        (await http.PostAsync("/api/public/v1/unmet", new { search = longAgo, week = "any" })).Field.ShouldBe("search.from");
        // Whoever has looked at more days than one question covers is noted for the first of them; these have something.
        await NoteAsync(http, Search("2027-03-09", 400));
        (await http.PostAsync("/api/public/v1/unmet", new { search = Search("2027-03-14", 1), part = "noon", week = "any" })).Status
            .ShouldBe(HttpStatusCode.BadRequest);
    }
}
