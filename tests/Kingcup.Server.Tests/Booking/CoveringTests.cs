using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Somebody is away: the desk takes the day away, sees where everybody could go, and places them.</summary>
public sealed class CoveringTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Day = "2027-03-25";

    private async Task BookAsync(string service, string start, string family, bool isAsked = false)
    {
        ApiAnswer answer = await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                start = $"{Day}T{start}:00Z",
                lines = new[]
                {
                    new
                    {
                        serviceId = await world.IdAsync("services", service),
                        practitionerId = await world.IdAsync("practitioners", "Ines Calloway"),
                        asked = isAsked,
                    },
                },
                newClient = new { givenName = "Ada", familyName = family },
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
    }

    [Fact]
    public async Task A_day_is_taken_away_and_everybody_who_can_have_a_place_gets_one()
    {
        string house = await world.IdAsync("locations", "Mill Street"),
            ines = await world.IdAsync("practitioners", "Ines Calloway");
        await BookAsync("Deep tissue 60", "10:00", "Coverone", isAsked: true);
        await BookAsync("Deep tissue 60", "11:30", "Covertwo");
        await BookAsync("Back and shoulders 30", "16:00", "Coverthree");
        string covering = $"/api/v1/locations/{house}/covering/{Day}";
        (await world.Desk.GetAsync(covering)).Body!.AsArray().ShouldBeEmpty();

        string away = $"/api/v1/setup/practitioners/{ines}/shift-changes/{Day}";
        object off = new
        {
            date = Day,
            version = 0,
            shifts = Array.Empty<object>(),
            worksDuringClosure = false,
            reason = "Ill",
        };
        ApiAnswer told = await world.Desk.PutAsync(away, off, 0);
        // What is hit is said first.
        (told.Status, told.Code).ShouldBe((HttpStatusCode.Conflict, "hits-appointments"));
        (
            await world.Desk.SendAsync(
                HttpMethod.Put,
                away,
                System.Net.Http.Json.JsonContent.Create(off),
                ("If-Match", "0"),
                ("X-Accept-Hits", told.Body!["accept"]!.GetValue<string>())
            )
        ).Status.ShouldBe(HttpStatusCode.OK);

        JsonArray covers = (await world.Desk.GetAsync(covering)).Body!.AsArray();
        string Family(JsonNode cover) => ((string)cover["visit"]!["client"]!).Split(' ')[1];
        JsonNode[] ours = [.. covers.Select(cover => cover!).Where(cover => Family(cover).StartsWith("Cover", StringComparison.Ordinal))];
        ours.Length.ShouldBe(3);
        ours.Single(cover => Family(cover) == "Coverone")["asked"]!.GetValue<bool>().ShouldBeTrue();
        JsonNode[] placed = [.. covers.Select(cover => cover!).Where(cover => cover["start"] is not null)];
        placed.ShouldNotBeEmpty();
        placed.ShouldAllBe(cover => cover["newWith"]!.AsArray().All(who => (string)who! != "Ines Calloway"));

        JsonNode answers = (
            await world.Desk.PostAsync(
                covering,
                new
                {
                    visits = placed.Select(cover => new
                    {
                        visitId = (string)cover["visit"]!["visitId"]!,
                        version = cover["version"]!.GetValue<long>(),
                        start = (string)cover["start"]!,
                        lines = cover["lines"]!.DeepClone(),
                    }),
                }
            )
        ).Body!;
        answers.AsArray().ShouldAllBe(answer => answer!["isDone"]!.GetValue<bool>());
        (await world.Desk.GetAsync(covering)).Body!.AsArray().Count.ShouldBe(covers.Count - placed.Length);
        // Each of them can be undone like any other move.
        (await world.Desk.GetAsync("/api/v1/undo"))
            .Body!.AsArray()
            .Count(step => (string)step!["kind"]! == "moved")
            .ShouldBe(placed.Length);

        // Placed once more from a stale page nothing moves.
        JsonNode first = placed[0];
        JsonNode again = (
            await world.Desk.PostAsync(
                covering,
                new
                {
                    visits = new[]
                    {
                        new
                        {
                            visitId = (string)first["visit"]!["visitId"]!,
                            version = first["version"]!.GetValue<long>(),
                            start = (string)first["start"]!,
                            lines = new[] { new { practitionerId = ines } },
                        },
                    },
                }
            )
        ).Body!;
        again[0]!["isDone"]!.GetValue<bool>().ShouldBeFalse();
    }
}
