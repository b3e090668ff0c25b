using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <summary>What a client is offered to have again, over HTTP.</summary>
public sealed class AgainTests(World world)
{
    private static JsonNode Ok(ApiAnswer answer, HttpStatusCode status = HttpStatusCode.OK)
    {
        answer.Status.ShouldBe(status, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    private async Task<JsonNode> BookAsync(string clientId, string start, string service, string practitioner) =>
        Ok(
            await world.Desk.PostAsync(
                "/api/v1/visits",
                new
                {
                    locationId = world.MillStreet,
                    start,
                    lines = new[] { new { serviceId = world.Service(service), practitionerId = world.Practitioner(practitioner) } },
                    clientId,
                }
            ),
            HttpStatusCode.Created
        );

    [Fact]
    public async Task What_is_had_most_often_comes_first_and_what_was_cancelled_does_not_count()
    {
        JsonNode first = await world.BookAsync("Facial 50", World.At(59, 14), "Suki Amara");
        string client = first["client"]!["id"]!.GetValue<string>();
        JsonNode again = Ok(await world.Desk.GetAsync($"/api/v1/clients/{client}/again"));
        again["usual"].ShouldBeNull();
        again["last"]!.AsArray().Single()!["id"]!.GetValue<string>().ShouldBe(first["id"]!.GetValue<string>());

        JsonNode usual = await BookAsync(client, World.At(66, 14), "Facial 50", "Suki Amara");
        JsonNode brows = await BookAsync(client, World.At(73, 16), "Brow shape 15", "Odile Fenwright");
        JsonNode gone = await BookAsync(client, World.At(80, 14), "Express facial 30", "Suki Amara");
        Ok(await world.Desk.PostAsync($"/api/v1/visits/{gone["id"]}/cancel", new { reason = "Feels ill" }, World.Match(gone)));
        again = Ok(await world.Desk.GetAsync($"/api/v1/clients/{client}/again?locationId={world.MillStreet}"));
        again["usual"]!["id"]!.GetValue<string>().ShouldBe(usual["id"]!.GetValue<string>());
        (again["times"]!.GetValue<int>(), again["looked"]!.GetValue<int>()).ShouldBe((2, 3));
        again["last"]!.AsArray().Single()!["id"]!.GetValue<string>().ShouldBe(brows["id"]!.GetValue<string>());
    }

    [Fact]
    public async Task What_is_not_done_at_a_place_is_not_offered_there_and_nobody_is_asked_who_is_not_there()
    {
        JsonNode visit = await world.BookAsync("Facial 50", World.At(87, 14), "Suki Amara");
        string client = visit["client"]!["id"]!.GetValue<string>();
        Ok(await world.Desk.GetAsync($"/api/v1/clients/{client}/again?locationId={Guid.NewGuid()}"))["last"]!.AsArray().ShouldBeEmpty();
        (await world.Desk.GetAsync($"/api/v1/clients/{Guid.NewGuid()}/again")).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}
