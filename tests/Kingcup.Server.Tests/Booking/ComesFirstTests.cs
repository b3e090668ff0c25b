using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>A stranger books what has to come first, and then what needed it.</summary>
public sealed class ComesFirstTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Laser = "Laser legs 60", Patch = "Laser patch test 15";

    private async Task<ApiAnswer> BookAsync(string service, string start, string email) =>
        await world.Stranger.PostAsync(
            "/api/public/v1/visits",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                start,
                lines = new[] { new { serviceId = await world.IdAsync("services", service) } },
                givenName = "Ada",
                familyName = "Marsh",
                email,
                phone = "020 910 0007",
            },
            World.Key()
        );

    private async Task<ApiAnswer> StartsAsync(string? after, string from = "2027-03-02", int days = 7) =>
        await world.Stranger.PostAsync(
            "/api/public/v1/starts",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                lines = new[] { new { serviceId = await world.IdAsync("services", Laser) } },
                from,
                days,
                after,
            }
        );

    private static string[] Starts(ApiAnswer answer) =>
        [
            .. answer.Body!["days"]!
                .AsArray()
                .SelectMany(day => day!["starts"]!.AsArray())
                .Select(start => start!["start"]!.GetValue<string>()),
        ];

    /// <summary>The first start a stranger is offered for the patch test.</summary>
    private async Task<string> FirstPatchAsync()
    {
        string service = await world.IdAsync("services", Patch), location = await world.IdAsync("locations", "Mill Street");
        (string date, string[] clocks) = (await world.OfferedAsync(service, location, "2027-03-02", 7)).First(day => day.Value.Length > 0);
        return $"{date}T{clocks[0]}:00Z";
    }

    [Fact]
    public async Task The_page_says_what_comes_first_and_when()
    {
        JsonNode business = (await world.Stranger.GetAsync("/api/public/v1/business")).Body!;
        JsonNode laser = business["categories"]!
            .AsArray()
            .SelectMany(category => category!["services"]!.AsArray())
            .Single(service => service!["name"]!.GetValue<string>() == Laser)!;
        laser["needs"]!["serviceId"]!.GetValue<string>().ShouldBe(await world.IdAsync("services", Patch));
        laser["needs"]!["name"]!.GetValue<string>().ShouldBe(Patch);
        laser["needs"]!["atLeastHours"]!.GetValue<int>().ShouldBe(48);
        laser["needs"]!["atMostDays"]!.GetValue<int>().ShouldBe(180);
        Starts(await StartsAsync(null)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Once_the_patch_test_is_booked_the_service_is_offered_from_when_it_may_be_had()
    {
        string start = await FirstPatchAsync();
        ApiAnswer booked = await BookAsync(Patch, start, "first@example.com");
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        JsonNode sequel = booked.Body!["sequel"]!;
        JsonNode opened = sequel["services"]!.AsArray().Single(service => service!["name"]!.GetValue<string>() == Laser)!;
        DateTimeOffset end = booked.Body!["end"]!.GetValue<DateTimeOffset>();
        opened["from"]!.GetValue<DateTimeOffset>().ShouldBe(end.AddHours(48));

        string[] starts = Starts(await StartsAsync(sequel["token"]!.GetValue<string>()));
        starts.ShouldNotBeEmpty();
        starts.ShouldAllBe(found => DateTimeOffset.Parse(found, null) >= end.AddHours(48));

        // Whoever says to be somebody else still has to have been tested; the client who was is let in.
        ApiAnswer stranger = await BookAsync(Laser, starts[0], "nobody@example.com");
        stranger.Status.ShouldBe(HttpStatusCode.Conflict);
        stranger.Body!["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>()).ShouldContain("comesFirst");
        (await BookAsync(Laser, starts[0], "first@example.com")).Status.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task A_token_that_was_made_up_or_belongs_to_nothing_opens_nothing()
    {
        string start = await FirstPatchAsync();
        string token = (await BookAsync(Patch, start, "token@example.com")).Body!["sequel"]!["token"]!.GetValue<string>();
        string forged = token[..^1] + (token[^1] == '0' ? '1' : '0');
        foreach (string wrong in new[] { "", "x", forged, new string('0', 96), token + "0", Guid.NewGuid().ToString("N") + token[32..] })
        {
            ApiAnswer answer = await StartsAsync(wrong);
            (answer.Status, answer.Field).ShouldBe((HttpStatusCode.BadRequest, "after"), wrong);
        }
    }

    [Fact]
    public async Task A_visit_for_anything_else_opens_nothing_and_a_cancelled_test_no_longer_does()
    {
        ApiAnswer other = await BookAsync("Nutrition review 30", "2027-03-09T10:00:00Z", "other@example.com");
        other.Status.ShouldBe(HttpStatusCode.Created, other.Body?.ToJsonString());
        other.Body!["sequel"].ShouldBeNull();

        ApiAnswer test = await BookAsync(Patch, await FirstPatchAsync(), "cancels@example.com");
        string token = test.Body!["sequel"]!["token"]!.GetValue<string>();
        Starts(await StartsAsync(token)).ShouldNotBeEmpty();
        string reference = test.Body!["reference"]!.GetValue<string>();
        Guid id;
        await using (NpgsqlConnection connection = await world.Database.Database.OpenAsync())
            id = await connection.ExecuteScalarAsync<Guid>("SELECT id FROM visit WHERE reference = @reference", new { reference });
        ApiAnswer cancelled = await world.Desk.PostAsync($"/api/v1/visits/{id}/cancel", new { reason = "Ill" }, ("If-Match", "1"));
        cancelled.Status.ShouldBe(HttpStatusCode.OK, cancelled.Body?.ToJsonString());
        Starts(await StartsAsync(token)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Ready_counts_what_needs_a_test_only_while_clients_can_book_the_test()
    {
        JsonObject patch = await world.OneAsync("services", Patch);
        string path = $"/api/v1/setup/services/{patch["id"]}";
        patch = await world.Owner.ChangeAsync(path, patch, service => service["visibility"] = "byPhone");
        JsonNode report = (await world.Owner.GetAsync("/api/v1/setup/readiness")).Body!;
        JsonNode issue = report["issues"]!
            .AsArray()
            .First(issue => issue!["text"]!.GetValue<string>().StartsWith(Laser, StringComparison.Ordinal))!;
        issue["stops"]!.GetValue<bool>().ShouldBeTrue();
        issue["text"]!.GetValue<string>().ShouldContain($"it needs {Patch} first, which nobody can book online");
        issue["mendId"]!.GetValue<string>().ShouldBe(patch["id"]!.GetValue<string>());
        int without = report["bookable"]!.GetValue<int>();

        await world.Owner.ChangeAsync(path, patch, service => service["visibility"] = "everyone");
        report = (await world.Owner.GetAsync("/api/v1/setup/readiness")).Body!;
        report["issues"]!.ToJsonString().ShouldNotContain($"{Laser}: it needs");
        // The test itself and the three services that need it.
        report["bookable"]!.GetValue<int>().ShouldBe(without + 4);
    }
}
