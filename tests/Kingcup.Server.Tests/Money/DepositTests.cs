using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Money;

/// <summary>Deposits taken at the desk, in cash and at the card terminal, and given back the way they came.</summary>
public sealed class DepositTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Declined = "9000000000000019",
        AnswerLost = "9000000000000050",
        DeclinedAtCapture = "9000000000000084";
    private static int _next;

    private static long Amount(JsonNode? money) => (long)money!["amount"]!;

    /// <summary>A visit of somebody new, booked at the desk, where new clients are asked for 30 %.</summary>
    private async Task<string> VisitAsync()
    {
        int number = Interlocked.Increment(ref _next);
        string start = (await world.StartsAsync("Deep tissue 60", 1 + number))[^1];
        ApiAnswer booked = await world.Owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service("Deep tissue 60") } },
                newClient = new { givenName = "Ada", familyName = $"Fen {number}", phone = $"+35385900{number:D4}" },
            }
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        return (string)booked.Body!["id"]!;
    }

    private async Task<JsonNode> MoneyAsync(string visit) => (await world.Owner.GetAsync($"/api/v1/visits/{visit}/money")).Body!;

    private Task<ApiAnswer> TakeAsync(string visit, string way, long amount, ApiClient? who = null, params (string, string)[] headers) =>
        (who ?? world.Owner).PostAsync($"/api/v1/visits/{visit}/deposits", new { way, amount }, headers);

    private Task<ApiAnswer> AfterAsync(string visit, JsonNode deposit, string what) =>
        world.Owner.PostAsync($"/api/v1/visits/{visit}/deposits/{(string)deposit["id"]!}/{what}", new { });

    /// <summary>Asks for a sum at the terminal, and gives what is asked for.</summary>
    private async Task<JsonNode> AskAsync(string visit, long amount)
    {
        ApiAnswer asked = await TakeAsync(visit, "terminal", amount);
        asked.Status.ShouldBe(HttpStatusCode.Created, asked.Body?.ToJsonString());
        ((string)asked.Body!["state"]!).ShouldBe("waiting");
        return asked.Body!;
    }

    /// <summary>Waits until a deposit at the terminal is taken or not.</summary>
    private async Task<JsonNode> FinishedAsync(string visit, JsonNode deposit)
    {
        JsonNode? told = null;
        await PayWorld.UntilAsync(async () =>
        {
            ApiAnswer answer = await AfterAsync(visit, deposit, "finish");
            answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
            told = answer.Body!;
            return (string)told["state"]! is "taken" or "ended";
        });
        return told!;
    }

    private async Task<ApiAnswer> CancelAsync(string visit, string by)
    {
        JsonNode present = (await world.Owner.GetAsync($"/api/v1/visits/{visit}")).Body!;
        return await world.Owner.PostAsync($"/api/v1/visits/{visit}/cancel", new { reason = "Ill", by }, World.Match(present));
    }

    private Task<long> BalanceAsync(string visit, string account) =>
        world.ScalarAsync<long>(
            """
            SELECT coalesce(sum(p.amount), 0)::bigint FROM ledger_posting p JOIN ledger_entry e ON e.id = p.entry_id
            WHERE e.visit_id = @id AND p.account = @account
            """,
            new { id = Guid.Parse(visit), account }
        );

    /// <summary>Waits until the gateway has given back what it is to give back; then it has kept what the ledger says.</summary>
    private async Task SettledAsync()
    {
        await world.ClockAsync(11);
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<long>("SELECT count(*) FROM card_work WHERE settled_at IS NULL AND NOT by_hand") == 0
            && await world.ScalarAsync<long>("SELECT count(*) FROM payment WHERE settled_at IS NULL") == 0
        );
        (long taken, long refunded) = await world.Gateway.TotalsAsync();
        (
            await world.ScalarAsync<long>("SELECT coalesce(sum(amount), 0)::bigint FROM ledger_posting WHERE account = 'CardClearing'")
        ).ShouldBe(taken - refunded);
        (await world.WrongAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task What_the_rules_ask_for_is_taken_in_cash_once_and_no_more_than_is_left_to_pay()
    {
        string visit = await VisitAsync();
        JsonNode money = await MoneyAsync(visit);
        long price = Amount((await world.Owner.GetAsync($"/api/v1/visits/{visit}")).Body!["price"]),
            due = ((price * 30) + 50) / 100;
        (Amount(money["asked"]), Amount(money["due"]), Amount(money["most"]), Amount(money["deposit"])).ShouldBe((due, due, price, 0));
        ((bool)money["mayReturn"]!).ShouldBeFalse();
        (string, string) key = World.Key();
        JsonNode taken = (await TakeAsync(visit, "cash", due, null, key)).Body!;
        ((string)taken["state"]!).ShouldBe("taken");
        // Sent again, as by a network that lost the answer: the same, once.
        JsonNode.DeepEquals((await TakeAsync(visit, "cash", due, null, key)).Body, taken).ShouldBeTrue();
        (await TakeAsync(visit, "cash", due + 1, null, key)).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        money = await MoneyAsync(visit);
        (Amount(money["deposit"]), Amount(money["due"]), Amount(money["most"])).ShouldBe((due, 0, price - due));
        ((string)money["movements"]![0]!["text"]!).ShouldEndWith("paid in cash.");
        (await BalanceAsync(visit, "Cash"), await BalanceAsync(visit, "ClientDeposits")).ShouldBe((due, -due));

        foreach (long amount in new[] { 0, -1, price - due + 1, long.MaxValue })
            (await TakeAsync(visit, "cash", amount)).Field.ShouldBe("amount");
        (await TakeAsync(visit, "shells", 100)).Field.ShouldBe("way");
        (await TakeAsync(visit, "cash", price - due)).Status.ShouldBe(HttpStatusCode.Created);
        ApiAnswer full = await TakeAsync(visit, "cash", 1);
        (full.Status, full.Code).ShouldBe((HttpStatusCode.Conflict, "paid-in-full"));
        (await TakeAsync(Guid.NewGuid().ToString(), "cash", 1)).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Two_desks_that_take_it_at_once_on_two_servers_take_no_more_than_the_price()
    {
        string visit = await VisitAsync();
        long price = Amount((await MoneyAsync(visit))["most"]);
        using ApiClient beside = await ApiClient.SignedInAsync(world.Second);
        ApiAnswer[] answers = await Task.WhenAll(
            Enumerable.Range(0, 8).Select(i => TakeAsync(visit, "cash", price / 2 + 1, i % 2 == 0 ? beside : world.Owner))
        );
        answers.Count(answer => answer.Status == HttpStatusCode.Created).ShouldBe(1);
        answers.Where(answer => answer.Status != HttpStatusCode.Created).ShouldAllBe(answer => answer.Field == "amount");
        (await BalanceAsync(visit, "ClientDeposits")).ShouldBe(-((price / 2) + 1));
    }

    [Fact]
    public async Task The_terminal_asks_for_a_card_until_one_is_taken_and_that_is_the_deposit()
    {
        string visit = await VisitAsync();
        JsonNode asked = await AskAsync(visit, 2520);
        JsonNode money = await MoneyAsync(visit);
        ((string)money["waiting"]!.AsArray().ShouldHaveSingleItem()!["id"]!).ShouldBe((string)asked["id"]!);
        (await world.Gateway.AtTerminalAsync(Declined)).ShouldBeFalse();
        ((string)(await AfterAsync(visit, asked, "finish")).Body!["state"]!).ShouldBe("waiting");
        (await world.Gateway.AtTerminalAsync()).ShouldBeTrue();
        ((string)(await FinishedAsync(visit, asked))["state"]!).ShouldBe("taken");
        money = await MoneyAsync(visit);
        Amount(money["deposit"]).ShouldBe(2520);
        money["waiting"]!.AsArray().ShouldBeEmpty();
        // Whoever pays at the terminal leaves no card.
        money["card"].ShouldBeNull();
        (await world.Gateway.AtTerminalAsync()).ShouldBeFalse();
        (await AfterAsync(await VisitAsync(), asked, "finish")).Status.ShouldBe(HttpStatusCode.NotFound);
        await SettledAsync();
    }

    [Fact]
    public async Task What_is_stopped_or_declined_or_comes_too_late_takes_nothing_and_says_so()
    {
        string visit = await VisitAsync();
        JsonNode asked = await AskAsync(visit, 1000);
        ((string)(await AfterAsync(visit, asked, "leave")).Body!["state"]!).ShouldBe("ended");
        (await world.Gateway.AtTerminalAsync()).ShouldBeFalse();
        // Again, as by somebody who presses twice.
        ((string)(await AfterAsync(visit, asked, "leave")).Body!["state"]!).ShouldBe("ended");

        asked = await AskAsync(visit, 1000);
        (await world.Gateway.AtTerminalAsync(null)).ShouldBeTrue();
        ((string)(await FinishedAsync(visit, asked))["because"]!).ShouldContain("stopped at the terminal");

        asked = await AskAsync(visit, 1000);
        (await world.Gateway.AtTerminalAsync(DeclinedAtCapture)).ShouldBeTrue();
        ((string)(await FinishedAsync(visit, asked))["because"]!).ShouldContain("declined");

        asked = await AskAsync(visit, 1000);
        await world.ClockAsync(6);
        ((string)(await FinishedAsync(visit, asked))["because"]!).ShouldContain("in time");
        (await world.Gateway.AtTerminalAsync()).ShouldBeFalse();
        (await BalanceAsync(visit, "ClientDeposits")).ShouldBe(0);
        await SettledAsync();
    }

    [Theory]
    [InlineData("begin", "lost")]
    [InlineData("begin", "error")]
    [InlineData("find", "error")]
    [InlineData("capture", "lost")]
    [InlineData("capture", "error")]
    public async Task Whatever_is_lost_between_the_terminal_and_the_desk_it_is_paid_once(string operation, string kind)
    {
        string visit = await VisitAsync();
        await world.Gateway.FaultAsync(operation, kind);
        JsonNode asked = await AskAsync(visit, 700);
        // Asked about again, the terminal is known to ask, or asks now.
        await PayWorld.UntilAsync(async () =>
        {
            await AfterAsync(visit, asked, "finish");
            return await world.Gateway.AtTerminalAsync(AnswerLost);
        });
        ((string)(await FinishedAsync(visit, asked))["state"]!).ShouldBe("taken");
        (await BalanceAsync(visit, "ClientDeposits")).ShouldBe(-700);
        await SettledAsync();
    }

    [Fact]
    public async Task A_visit_that_is_cancelled_while_the_terminal_waits_keeps_nothing_of_what_is_paid_then()
    {
        string visit = await VisitAsync();
        JsonNode asked = await AskAsync(visit, 900);
        (await CancelAsync(visit, "business")).Status.ShouldBe(HttpStatusCode.OK);
        (await world.Gateway.AtTerminalAsync()).ShouldBeTrue();
        JsonNode told = await FinishedAsync(visit, asked);
        ((string)told["state"]!, (string)told["because"]!).ShouldBe(
            ("ended", "The visit was cancelled or done meanwhile. What was taken goes back to the card.")
        );
        ApiAnswer later = await TakeAsync(visit, "cash", 100);
        (later.Status, later.Code).ShouldBe((HttpStatusCode.Conflict, "state"));
        await SettledAsync();
    }

    [Fact]
    public async Task What_goes_back_goes_the_way_it_came_cash_by_hand_and_all_of_it_is_undone_with_the_cancelling()
    {
        string visit = await VisitAsync();
        (await TakeAsync(visit, "cash", 1000)).Status.ShouldBe(HttpStatusCode.Created);
        JsonNode asked = await AskAsync(visit, 500);
        (await world.Gateway.AtTerminalAsync()).ShouldBeTrue();
        await FinishedAsync(visit, asked);
        JsonNode free = (await MoneyAsync(visit))["cancelledByBusiness"]!;
        (Amount(free["refund"]), Amount(free["refundToCard"]), Amount(free["refundInCash"])).ShouldBe((1500, 500, 1000));
        (await CancelAsync(visit, "business")).Status.ShouldBe(HttpStatusCode.OK);
        Amount((await MoneyAsync(visit))["cashToGive"]).ShouldBe(1000);
        // Whoever opens the record of the client, or their next visit, reads it too.
        JsonNode there = (await world.Owner.GetAsync($"/api/v1/visits/{visit}")).Body!;
        JsonNode record = (await world.Owner.GetAsync($"/api/v1/clients/{there["client"]!["id"]}/record")).Body!;
        ((string)record["cashToGive"]!.AsArray().ShouldHaveSingleItem()!["visitId"]!).ShouldBe(visit);
        (await BalanceAsync(visit, "Cash"), await BalanceAsync(visit, "ClientAccounts")).ShouldBe((1000, -1000));

        // A press on the wrong button: everything is as before.
        JsonNode cancelled = (await world.Owner.GetAsync($"/api/v1/visits/{visit}")).Body!;
        (
            await world.Owner.PostAsync($"/api/v1/visits/{visit}/state", new { state = "confirmed" }, World.Match(cancelled))
        ).Status.ShouldBe(HttpStatusCode.OK);
        JsonNode money = await MoneyAsync(visit);
        (Amount(money["deposit"]), Amount(money["cashToGive"])).ShouldBe((1500, 0));
        (await BalanceAsync(visit, "ClientAccounts")).ShouldBe(0);

        (await CancelAsync(visit, "business")).Status.ShouldBe(HttpStatusCode.OK);
        string given = $"/api/v1/visits/{visit}/cash-given";
        ApiAnswer stale = await world.Owner.PostAsync(given, new { seen = 999 });
        (stale.Status, stale.Code).ShouldBe((HttpStatusCode.Conflict, "money-changed"));
        ApiAnswer[] twice = await Task.WhenAll(
            world.Owner.PostAsync(given, new { seen = 1000 }),
            world.Owner.PostAsync(given, new { seen = 1000 })
        );
        twice.Select(answer => answer.Status).Order().ShouldBe([HttpStatusCode.NoContent, HttpStatusCode.Conflict]);
        (await BalanceAsync(visit, "Cash"), await BalanceAsync(visit, "ClientAccounts")).ShouldBe((0, 0));
        ((string)(await MoneyAsync(visit))["movements"]!.AsArray()[^1]!["text"]!).ShouldEndWith("was given back in cash.");
        cancelled = (await world.Owner.GetAsync($"/api/v1/visits/{visit}")).Body!;
        ApiAnswer back = await world.Owner.PostAsync($"/api/v1/visits/{visit}/state", new { state = "confirmed" }, World.Match(cancelled));
        (back.Status, back.Code).ShouldBe((HttpStatusCode.Conflict, "money-moved"));
        await SettledAsync();
        (await BalanceAsync(visit, "CardClearing")).ShouldBe(0);
    }

    [Fact]
    public async Task A_deposit_goes_back_while_the_visit_stands_and_another_can_be_taken()
    {
        string visit = await VisitAsync(),
            path = $"/api/v1/visits/{visit}/deposit/return";
        (await world.Owner.PostAsync(path, new { seen = 0 })).Code.ShouldBe("money-changed");
        (await TakeAsync(visit, "cash", 1000)).Status.ShouldBe(HttpStatusCode.Created);
        (await world.Owner.PostAsync(path, new { seen = 900 })).Code.ShouldBe("money-changed");
        (await world.Owner.PostAsync(path, new { seen = 1000 })).Status.ShouldBe(HttpStatusCode.NoContent);
        (await TakeAsync(visit, "cash", 2000)).Status.ShouldBe(HttpStatusCode.Created);
        JsonNode money = await MoneyAsync(visit);
        (Amount(money["deposit"]), Amount(money["cashToGive"])).ShouldBe((2000, 1000));
        ((string)money["movements"]![1]!["text"]!).ShouldStartWith("The deposit was given back.");

        // What went back before is neither taken back nor given twice by cancelling and undoing that.
        (await CancelAsync(visit, "business")).Status.ShouldBe(HttpStatusCode.OK);
        Amount((await MoneyAsync(visit))["cashToGive"]).ShouldBe(3000);
        JsonNode cancelled = (await world.Owner.GetAsync($"/api/v1/visits/{visit}")).Body!;
        (
            await world.Owner.PostAsync($"/api/v1/visits/{visit}/state", new { state = "confirmed" }, World.Match(cancelled))
        ).Status.ShouldBe(HttpStatusCode.OK);
        money = await MoneyAsync(visit);
        (Amount(money["deposit"]), Amount(money["cashToGive"])).ShouldBe((2000, 1000));
        (await world.WrongAsync()).ShouldBeEmpty();
    }

    [Fact]
    public async Task The_database_lets_nobody_take_out_of_a_deposit_what_is_not_in_it()
    {
        string visit = await VisitAsync();
        (await TakeAsync(visit, "cash", 1000)).Status.ShouldBe(HttpStatusCode.Created);
        Npgsql.PostgresException refused = await Should.ThrowAsync<Npgsql.PostgresException>(() =>
            world.ScalarAsync<int>(
                """
                WITH entry AS (INSERT INTO ledger_entry (id, at, actor, location_id, reason, visit_id)
                    SELECT gen_random_uuid(), now(), 'Nobody', location_id, 'Returned', id FROM visit WHERE id = @id RETURNING id)
                INSERT INTO ledger_posting (entry_id, account, amount)
                SELECT id, account, amount FROM entry, (VALUES ('ClientDeposits', 1001), ('Cash', -1001)) AS side (account, amount)
                """,
                new { id = Guid.Parse(visit) }
            )
        );
        refused.ConstraintName.ShouldBe("deposit_held");
    }
}
