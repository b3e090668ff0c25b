using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Server.Tests.Money;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Clients;

/// <content>A deposit that somebody is asked for by a link, for a visit that stands.</content>
public sealed partial class OwnTests
{
    private Task<ApiAnswer> AskAsync(JsonNode visit, long amount) =>
        world.Owner.PostAsync($"/api/v1/visits/{visit["id"]}/deposits", new { way = "link", amount });

    private static Task<ApiAnswer> PayAsync(Person person, string what) =>
        person.Http.PostAsync($"{Mine}/visits/{person.Visit["id"]}/{what}", new { });

    private static async Task<JsonNode?> AskedOfAsync(Person person) =>
        (await SeesAsync(person))["ahead"]!.AsArray().ShouldHaveSingleItem()!["asked"];

    private static long Amount(JsonNode? money) => (long)money!["amount"]!;

    [Fact]
    public async Task A_deposit_that_is_asked_for_is_told_paid_once_and_counts()
    {
        using Person cleo = await BookedAsync();
        using Person other = await BookedAsync();
        await OpenedAsync(cleo);
        (await AskedOfAsync(cleo)).ShouldBeNull();
        (await PayAsync(cleo, "pay")).Code.ShouldBe("nothing-asked");
        JsonNode asked = (await AskAsync(cleo.Visit, 2500)).Body!;
        ((string)asked["state"]!, (string)asked["way"]!).ShouldBe(("waiting", "link"));
        JsonNode mail = await world.Gateway.ArrivesAsync(cleo.Email, "A deposit for");
        ((string)mail["text"]!).ShouldContain("we ask for a deposit of €25.00");
        Link().IsMatch((string)mail["text"]!).ShouldBeTrue();

        JsonNode own = (await AskedOfAsync(cleo))!;
        Amount(own["amount"]).ShouldBe(2500);
        ((string)own["until"]!)[..19].ShouldBe(((string)asked["until"]!)[..19]);
        // Nobody pays for somebody else, nor learns that anything is asked of them.
        await OpenedAsync(other);
        foreach (string what in (string[])["pay", "paid"])
            (await other.Http.PostAsync($"{Mine}/visits/{cleo.Visit["id"]}/{what}", new { })).Status.ShouldBe(HttpStatusCode.NotFound);

        // Pressed twice, it is one page; left, and gone on with.
        string page = (string)(await PayAsync(cleo, "pay")).Body!["address"]!;
        ((string)(await PayAsync(cleo, "pay")).Body!["address"]!).ShouldBe(page);
        ((string)(await PayAsync(cleo, "paid")).Body!["state"]!).ShouldBe("waiting");
        Uri back = (await world.Gateway.EnterAsync(page)).ShouldNotBeNull();
        back.ToString().ShouldBe($"{PayWorld.Address}/book/mine?paid={cleo.Visit["id"]}");
        await PayWorld.UntilAsync(async () => (string)(await PayAsync(cleo, "paid")).Body!["state"]! == "taken");
        JsonNode visit = (await SeesAsync(cleo))["ahead"]![0]!;
        visit["asked"].ShouldBeNull();
        Amount(visit["paid"]).ShouldBe(2500);
        (await PayAsync(cleo, "pay")).Code.ShouldBe("nothing-asked");
        (
            await world.ScalarAsync<long>(
                "SELECT count(*) FROM ledger_entry WHERE visit_id = @id AND reason = 'Deposit'",
                new { id = Guid.Parse((string)cleo.Visit["id"]!) }
            )
        ).ShouldBe(1);
        (await world.WrongAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_link_lapses_is_taken_back_and_pays_for_nothing_that_is_cancelled()
    {
        using Person cleo = await BookedAsync();
        await OpenedAsync(cleo);
        JsonNode asked = (await AskAsync(cleo.Visit, 1000)).Body!;
        string deposit = $"/api/v1/visits/{cleo.Visit["id"]}/deposits/{asked["id"]}";
        ((string)(await world.Owner.PostAsync($"{deposit}/leave", new { })).Body!["because"]!).ShouldContain("not good any more");
        (await PayAsync(cleo, "pay")).Code.ShouldBe("nothing-asked");
        ((string)(await PayAsync(cleo, "paid")).Body!["state"]!).ShouldBe("ended");

        // Somebody at the card page while it is taken back pays nothing.
        asked = (await AskAsync(cleo.Visit, 1000)).Body!;
        string page = (string)(await PayAsync(cleo, "pay")).Body!["address"]!;
        (await world.Owner.PostAsync($"/api/v1/visits/{cleo.Visit["id"]}/deposits/{asked["id"]}/leave", new { })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        await world.Gateway.EnterAsync(page);
        ((string)(await PayAsync(cleo, "paid")).Body!["state"]!).ShouldBe("ended");

        // One that is paid for a visit that was cancelled meanwhile goes back.
        await AskAsync(cleo.Visit, 1000);
        page = (string)(await PayAsync(cleo, "pay")).Body!["address"]!;
        JsonNode present = (await world.Owner.GetAsync($"/api/v1/visits/{cleo.Visit["id"]}")).Body!;
        (
            await world.Owner.PostAsync(
                $"/api/v1/visits/{cleo.Visit["id"]}/cancel",
                new { reason = "Ill", by = "business" },
                World.Match(present)
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        await world.Gateway.EnterAsync(page);
        await PayWorld.UntilAsync(async () => (string)(await PayAsync(cleo, "paid")).Body!["state"]! == "ended");
        (await world.WrongAsync()).ShouldBeEmpty();

        using Person late = await BookedAsync();
        asked = (await AskAsync(late.Visit, 1000)).Body!;
        await world.ClockAsync((48 * 60) + 1);
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<string>("SELECT state FROM payment WHERE id = @id", new { id = Guid.Parse((string)asked["id"]!) })
                == "Ended"
        );
        // Nothing is left that could be paid.
        (
            await world.ScalarAsync<long>("SELECT count(*) FROM payment WHERE settled_at IS NULL AND way = 'Link'")
        ).ShouldBe(0);
    }

    [Fact]
    public async Task Whoever_paid_in_cash_is_written_that_it_waits_at_the_desk()
    {
        using Person cleo = await BookedAsync();
        // What was never told of is not told to be cancelled either.
        await LinkAsync(cleo);
        (
            await world.Owner.PostAsync($"/api/v1/visits/{cleo.Visit["id"]}/deposits", new { way = "cash", amount = 1000 })
        ).Status.ShouldBe(HttpStatusCode.Created);
        JsonNode present = (await world.Owner.GetAsync($"/api/v1/visits/{cleo.Visit["id"]}")).Body!;
        (
            await world.Owner.PostAsync(
                $"/api/v1/visits/{cleo.Visit["id"]}/cancel",
                new { reason = "Ill", by = "business" },
                World.Match(present)
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
        await world.ClockAsync(2);
        string told = (string)(await world.Gateway.ArrivesAsync(cleo.Email, "Cancelled:"))["text"]!;
        told.ShouldContain("€10.00 waits for you in cash at our desk.");
        told.ShouldNotContain("back to your card");
    }

    [Fact]
    public async Task Nobody_is_asked_by_a_link_who_cannot_be_reached_or_could_not_pay_in_time()
    {
        string[] starts = await world.StartsAsync("Deep tissue 60", 3);
        // Nothing at all, and a number nobody has agreed to be texted on.
        foreach ((string start, string? phone) in new[] { (starts[1], (string?)null), (starts[2], "+353879990001") })
        {
            ApiAnswer made = await world.Owner.PostAsync(
                "/api/v1/visits",
                new
                {
                    locationId = world.MillStreet,
                    start,
                    lines = new[] { new { serviceId = world.Service("Deep tissue 60") } },
                    newClient = new { givenName = "Nobody", familyName = $"Near {start}", phone },
                }
            );
            made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
            ApiAnswer refused = await AskAsync(made.Body!, 1000);
            (refused.Status, refused.Field).ShouldBe((HttpStatusCode.BadRequest, "way"));
        }
    }
}
