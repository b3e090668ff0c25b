using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Kingcup.Server.Tests.Money;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <summary>What somebody who has shown who they are does for those who are linked to them, as far as a link lets them.</summary>
public sealed partial class LinkedTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Mine = "/api/public/v1/mine",
        Service = "Deep tissue 60";

    private async Task<JsonNode> BookedAsync(object client, int daysAhead)
    {
        string from = (await world.NowAsync()).AddDays(daysAhead).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
        ApiAnswer made = await world.Owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = world.MillStreet,
                start = (await world.StartsAsync(Service, 1, from: from))[0],
                lines = new[] { new { serviceId = world.Service(Service) } },
                newClient = client,
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        return made.Body!;
    }

    [Fact]
    public async Task A_parent_books_for_a_child_sees_and_cancels_it_and_reads_what_is_written_to_them()
    {
        const string Email = "parent@example.test";
        JsonNode own = await BookedAsync(new { givenName = "Cleo", familyName = "Reed", email = Email, phone = "+353870001001" }, 8);
        JsonNode theirs = await BookedAsync(new { givenName = "Bo", familyName = "Reed" }, 9);
        string parent = (string)own["client"]!["id"]!,
            child = (string)theirs["client"]!["id"]!,
            link = $"/api/v1/clients/{parent}/links/{child}";
        long version = 0;
        async Task LinkAsync(bool mayBook, bool maySee, bool mayPay = false)
        {
            ApiAnswer saved = await world.Owner.PutAsync(link, new { relation = "parent", mayBook, mayPay, maySee }, version);
            saved.Status.ShouldBe(HttpStatusCode.OK, saved.Body?.ToJsonString());
            version++;
        }

        await world.ClockAsync(2);
        string text = (string)(await world.Gateway.ArrivesAsync(Email, "Your booking"))["text"]!;
        using ApiClient phone = new(world.Second);
        (await phone.PostAsync($"{Mine}/open", new { token = Token().Match(text).Groups[1].Value })).Status.ShouldBe(
            HttpStatusCode.NoContent
        );
        async Task<string[]> SeenAsync() =>
            [.. (await phone.GetAsync(Mine)).Body!["ahead"]!.AsArray().Select(visit => (string)visit!["name"]!)];
        async Task<string[]> WhoAsync() =>
            [.. (await phone.GetAsync($"{Mine}/who")).Body!["people"]!.AsArray().Select(one => $"{one!["name"]} {one["isLinked"]}")];
        Task<ApiAnswer> CancelAsync() =>
            phone.PostAsync($"{Mine}/visits/{theirs["id"]}/cancel", new { version = (long)theirs["version"]!, feeSeen = 0 });
        using PayWorld.Client somebody = world.Somebody();
        somebody.Http = phone;
        string start = (await world.StartsAsync(Service, 1, from: "2027-04-05"))[^1];
        object Booking() => new
        {
            locationId = world.MillStreet,
            start,
            lines = new[] { new { serviceId = world.Service(Service) } },
            @as = child,
        };

        // Nobody is seen and booked for by whoever is not linked, however they know of them.
        (await SeenAsync()).ShouldBe(["Cleo Reed"]);
        (await somebody.BeginAsync(Booking())).Code.ShouldBe("signed-out");

        await LinkAsync(mayBook: false, maySee: true);
        (await SeenAsync()).ShouldBe(["Cleo Reed", "Bo Reed"]);
        JsonNode seen = (await phone.GetAsync(Mine)).Body!["ahead"]![1]!;
        (seen["cancelling"], seen["moving"]).ShouldBe((null, null));
        (await CancelAsync()).Status.ShouldBe(HttpStatusCode.NotFound);
        (await WhoAsync()).ShouldBe(["Cleo Reed false"]);
        (await somebody.BeginAsync(Booking())).Code.ShouldBe("signed-out");

        await LinkAsync(mayBook: true, maySee: true);
        (await WhoAsync()).ShouldBe(["Cleo Reed false", "Bo Reed true"]);
        ApiAnswer begun = await somebody.BeginAsync(Booking());
        begun.Status.ShouldBe(HttpStatusCode.Created, begun.Body?.ToJsonString());
        async Task PaidAsync()
        {
            string token = (string)begun.Body!["token"]!;
            (await world.Gateway.EnterAsync(await somebody.PageAsync(token))).ShouldNotBeNull();
            ((string)(await somebody.FinishAsync(token))["state"]!).ShouldBe("booked");
        }

        await PaidAsync();
        (await SeenAsync()).ShouldBe(["Cleo Reed", "Bo Reed", "Bo Reed"]);
        (await CancelAsync()).Status.ShouldBe(HttpStatusCode.OK);
        (await SeenAsync()).ShouldBe(["Cleo Reed", "Bo Reed"]);
        // The child is reached nowhere: what is said of their visit is said to the parent.
        await world.ClockAsync(2);
        await world.Gateway.ArrivesAsync(Email, $"your booking of {Service} for Bo Reed on");
        // What is the child's stays the child's: neither details nor consents are the parent's to change.
        (await phone.GetAsync(Mine)).Body!["details"]!.AsArray().Count.ShouldBe(1);

        // Whoever may pay for them does, once they book for them: the card is theirs, and they are told of what is paid.
        await LinkAsync(mayBook: true, maySee: true, mayPay: true);
        ApiAnswer told = await world.Owner.PostAsync(
            "/api/v1/setup/messages",
            new
            {
                trigger = "booked",
                channel = "email",
                recipient = "payer",
                isOn = true,
                texts = new[]
                {
                    new
                    {
                        language = "en",
                        subject = "You pay for {{ client_name }}",
                        body = "{{ deposit }} of {{ price }}{% sentence %}: {{ link }}{% endsentence %}",
                    },
                },
            },
            World.Key()
        );
        told.Status.ShouldBe(HttpStatusCode.Created, told.Body?.ToJsonString());
        start = (await world.StartsAsync(Service, 1, from: "2027-04-06"))[^1];
        begun = await somebody.BeginAsync(Booking());
        begun.Status.ShouldBe(HttpStatusCode.Created, begun.Body?.ToJsonString());
        await PaidAsync();
        (await phone.GetAsync(Mine)).Body!["cards"]!.AsArray().ShouldHaveSingleItem();
        await world.ClockAsync(2);
        JsonNode written = await world.Gateway.ArrivesAsync(Email, "You pay for Bo Reed");
        ((string)written["text"]!).ShouldSatisfyAllConditions(
            says => says.ShouldContain("€25.20 of €84.00"),
            says => Token().IsMatch(says).ShouldBeTrue()
        );
        Guid booked = await world.ScalarAsync<Guid>("SELECT id FROM visit WHERE payer_id <> client_id");
        JsonNode visit = (await world.Owner.GetAsync($"/api/v1/visits/{booked}")).Body!;
        ((string?)visit["payerName"], (string?)visit["client"]!["id"]).ShouldBe(("Cleo Reed", child));

        (await world.Owner.DeleteAsync(link, version)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await SeenAsync()).ShouldBe(["Cleo Reed"]);
        (await somebody.BeginAsync(Booking())).Code.ShouldBe("signed-out");
    }

    [GeneratedRegex("/book/mine#([^\\s]+)")]
    private static partial Regex Token();
}
