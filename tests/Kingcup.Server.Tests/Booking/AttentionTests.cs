using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>Practitioners who look after several clients at once, services that take the whole of one, and shifts kept for some.</summary>
public sealed class AttentionTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Review = "Nutrition review 30",
        First = "Nutrition first 60",
        Celia = "Celia Voss";

    private async Task<ApiAnswer> TryAsync(string service, string start, string family) =>
        await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                start,
                lines = new[]
                {
                    new
                    {
                        serviceId = await world.IdAsync("services", service),
                        practitionerId = await world.IdAsync("practitioners", Celia),
                    },
                },
                newClient = new
                {
                    givenName = "Ada",
                    familyName = family,
                    phone = "020 910 0055",
                },
            },
            World.Key()
        );

    private async Task SetAsync(string list, string name, string field, JsonNode value)
    {
        JsonObject document = await world.OneAsync(list, name);
        await world.Owner.ChangeAsync($"/api/v1/setup/{list}/{document["id"]}", document, changed => changed[field] = value);
    }

    private async Task<string[]> CodesAsync(string service, string start)
    {
        ApiAnswer answer = await world.Desk.PostAsync(
            "/api/v1/starts/why-not",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                lines = new[]
                {
                    new
                    {
                        serviceId = await world.IdAsync("services", service),
                        practitionerId = await world.IdAsync("practitioners", Celia),
                    },
                },
                start,
                asClient = false,
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return [.. answer.Body!["reasons"]!.AsArray().Select(reason => reason!["code"]!.GetValue<string>())];
    }

    [Fact]
    public async Task Two_clients_are_looked_after_at_once_where_service_and_practitioner_allow_it_and_a_third_is_not()
    {
        const string ten = "2027-03-09T10:00:00Z";
        await SetAsync("practitioners", Celia, "attention", 2);
        await SetAsync("services", Review, "besideOthers", true);
        (await TryAsync(Review, ten, "First")).Status.ShouldBe(HttpStatusCode.Created);
        // The other service wants all of her, so not while anybody is there.
        (await TryAsync(First, ten, "Whole")).Code.ShouldBe("start-taken");
        (await TryAsync(Review, ten, "Second")).Status.ShouldBe(HttpStatusCode.Created);
        (await CodesAsync(Review, ten)).ShouldContain("practitionerTaken");

        // Whoever has all of her leaves nothing for others.
        const string eleven = "2027-03-10T11:00:00Z";
        (await TryAsync(First, eleven, "Whole")).Status.ShouldBe(HttpStatusCode.Created);
        (await CodesAsync(Review, "2027-03-10T11:15:00Z")).ShouldContain("practitionerTaken");

        // The book shows both, side by side.
        JsonNode day = (
            await world.Desk.GetAsync($"/api/v1/locations/{await world.IdAsync("locations", "Mill Street")}/days/2027-03-09")
        ).Body!;
        string celia = await world.IdAsync("practitioners", Celia);
        day["visits"]!
            .AsArray()
            .SelectMany(visit => visit!["claims"]!.AsArray())
            .Where(claim => claim!["resourceId"]!.GetValue<string>() == celia)
            .Select(claim => claim!["unit"]!.GetValue<int>())
            .Order()
            .ShouldBe([0, 1]);
    }

    [Fact]
    public async Task Ten_at_once_for_the_last_of_two_places_make_one_booking()
    {
        const string nine = "2027-03-11T11:00:00Z";
        await SetAsync("practitioners", Celia, "attention", 2);
        await SetAsync("services", Review, "besideOthers", true);
        (await TryAsync(Review, nine, "Standing")).Status.ShouldBe(HttpStatusCode.Created);
        ApiAnswer[] answers = await Task.WhenAll(Enumerable.Range(0, 10).Select(i => TryAsync(Review, nine, $"Racer {i}")));
        answers.Count(answer => answer.Status == HttpStatusCode.Created).ShouldBe(1);
        answers.Where(answer => answer.Status != HttpStatusCode.Created).ShouldAllBe(answer => answer.Status == HttpStatusCode.Conflict);
    }

    [Theory]
    [InlineData(0)]
    [InlineData(13)]
    public async Task So_many_at_once_nobody_looks_after(int attention)
    {
        JsonObject celia = await world.OneAsync("practitioners", Celia);
        celia["attention"] = attention;
        ApiAnswer answer = await world.Owner.PutAsync($"/api/v1/setup/practitioners/{celia["id"]}", celia, celia["version"]);
        (answer.Status, answer.Field).ShouldBe((HttpStatusCode.BadRequest, "attention"));
    }

    [Fact]
    public async Task A_shift_kept_for_one_service_is_none_for_the_others_and_why_not_says_so()
    {
        string celia = await world.IdAsync("practitioners", Celia),
            mill = await world.IdAsync("locations", "Mill Street");
        string path = $"/api/v1/setup/practitioners/{celia}/shift-changes/2027-03-17";
        object kept = new
        {
            shifts = new[]
            {
                new
                {
                    locationId = mill,
                    from = "09:00:00",
                    until = "17:00:00",
                    serviceIds = new[] { await world.IdAsync("services", First) },
                },
            },
            reason = "first visits only",
        };
        (await world.Owner.PutAsync(path, kept, 0)).Status.ShouldBe(HttpStatusCode.OK);
        (await CodesAsync(Review, "2027-03-17T10:00:00Z")).ShouldBe(["shiftKept"]);
        (await TryAsync(First, "2027-03-17T10:00:00Z", "Kept")).Status.ShouldBe(HttpStatusCode.Created);
        (await world.OfferedAsync(await world.IdAsync("services", Review), mill, "2027-03-17", 1))["2027-03-17"].ShouldBeEmpty();
        // Kept for a category it is for all of it.
        JsonNode service = await world.OneAsync("services", Review);
        object wider = new
        {
            shifts = new[]
            {
                new
                {
                    locationId = mill,
                    from = "09:00:00",
                    until = "17:00:00",
                    categoryIds = new[] { service["categoryId"]!.GetValue<string>() },
                },
            },
        };
        (await world.Owner.PutAsync(path, wider, 1)).Status.ShouldBe(HttpStatusCode.OK);
        (await CodesAsync(Review, "2027-03-17T14:00:00Z")).ShouldBeEmpty();
    }
}
