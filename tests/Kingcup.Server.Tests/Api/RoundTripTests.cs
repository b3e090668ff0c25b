using System.Text.Json.Nodes;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Api;

/// <summary>How often a request asks the database, counted on the wire. The clock stands on Monday 1 March 2027, 09:00.</summary>
public sealed class RoundTripTests
{
    [Fact]
    public async Task A_booking_asks_the_database_four_times_at_the_most_its_sign_in_and_its_key_included()
    {
        await using TestDatabase database = await TestDatabase.DemoAsync();
        NpgsqlConnectionStringBuilder where = new(database.ConnectionString);
        await using CountingProxy proxy = new(where.Host!, where.Port);
        where.Port = proxy.Port;
        // What is done beside the requests asks the database too: it is left out of the count.
        await using ServerProcess server = await ServerProcess.StartAsync(
            where.ConnectionString,
            "--Messages:Seconds=86400",
            "--Payments:SweepSeconds=86400",
            "--Requests:Seconds=86400"
        );
        using ApiClient desk = await ApiClient.SignedInAsync(server);
        JsonNode setup = (await desk.GetAsync("/api/v1/setup")).Body!;
        string Id(string list, string name) =>
            setup[list]!.AsArray().Single(item => item!["name"]!.GetValue<string>() == name)!["id"]!.GetValue<string>();
        object Booking(string start) =>
            new
            {
                locationId = Id("locations", "Mill Street"),
                start,
                lines = new[] { new { serviceId = Id("services", "Nutrition review 30") } },
                newClient = new
                {
                    givenName = "Ada",
                    familyName = "Marsh",
                    phone = "020 910 0001",
                },
            };

        JsonArray days = (
            await desk.PostAsync(
                "/api/v1/starts",
                new
                {
                    locationId = Id("locations", "Mill Street"),
                    lines = new[] { new { serviceId = Id("services", "Nutrition review 30") } },
                    from = "2027-03-08",
                    days = 20,
                }
            )
        ).Body!.AsArray();
        string[] starts =
        [
            .. days.SelectMany(day => day!["starts"]!.AsArray())
                .Select(start => start!["start"]!.GetValue<string>())
                .Where((_, i) => i % 18 == 0),
        ];
        // The first few open connections and have their statements prepared.
        foreach (string start in starts[..8])
            (await desk.PostAsync("/api/v1/visits", Booking(start), World.Key())).Status.ShouldBe(System.Net.HttpStatusCode.Created);
        int before = proxy.Trips;
        ApiAnswer booked = await desk.PostAsync("/api/v1/visits", Booking(starts[8]), World.Key());
        int trips = proxy.Trips - before;
        booked.Status.ShouldBe(System.Net.HttpStatusCode.Created, booked.Body?.ToJsonString());
        trips.ShouldBeInRange(1, 4);

        JsonNode visit = booked.Body!;
        before = proxy.Trips;
        (await desk.PostAsync($"/api/v1/visits/{visit["id"]}/move", new { start = starts[9] }, World.Match(visit))).Status.ShouldBe(
            System.Net.HttpStatusCode.OK
        );
        (proxy.Trips - before).ShouldBeInRange(1, 6);
    }
}
