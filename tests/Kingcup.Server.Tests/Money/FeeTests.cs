using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Money;

/// <summary>What cancelling and not coming costs: read before, taken as the policy says, and to the cent in the ledger.</summary>
public sealed class FeeTests(PayWorld world) : IClassFixture<PayWorld>
{
    private const string Good = "9000000000000001",
        DeclinedLater = "9000000000000076";
    private static int _next;

    private static long Amount(JsonNode? money) => (long)money!["amount"]!;

    /// <summary>Everybody pays half, whenever they cancel; all of it who does not come.</summary>
    private async Task SetPolicyAsync()
    {
        string path = $"/api/v1/setup/locations/{world.MillStreet}/policy";
        JsonNode present = (await world.Owner.GetAsync(path)).Body!;
        if ((int)present["belowPercent"]! == 50) return;
        (
            await world.Owner.PutAsync(
                path,
                new
                {
                    tiers = Array.Empty<object>(),
                    belowPercent = 50,
                    noShowPercent = 100,
                },
                (long)present["version"]!
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
    }

    /// <summary>A visit booked online with a deposit of 30 %.</summary>
    private async Task<JsonNode> PaidVisitAsync(string card = Good)
    {
        await SetPolicyAsync();
        string start = (await world.StartsAsync("Deep tissue 60", 1 + Interlocked.Increment(ref _next)))[^1];
        using PayWorld.Client client = world.Somebody();
        (string token, string page) = await client.ToCardAsync(start);
        await world.Gateway.EnterAsync(page, card);
        JsonNode paid = await client.FinishAsync(token);
        Guid id = await world.ScalarAsync<Guid>(
            "SELECT id FROM visit WHERE reference = @reference",
            new { reference = (string)paid["visit"]!["reference"]! }
        );
        return await VisitAsync(id.ToString());
    }

    private async Task<JsonNode> VisitAsync(string id) => (await world.Owner.GetAsync($"/api/v1/visits/{id}")).Body!;

    private async Task<JsonNode> MoneyAsync(JsonNode visit) => (await world.Owner.GetAsync($"/api/v1/visits/{visit["id"]}/money")).Body!;

    private static Task<ApiAnswer> CancelAsync(ApiClient who, JsonNode visit, object request) =>
        who.PostAsync($"/api/v1/visits/{visit["id"]}/cancel", request, World.Match(visit));

    private Task<long> BalanceAsync(JsonNode visit, string account) =>
        world.ScalarAsync<long>(
            """
            SELECT coalesce(sum(p.amount), 0)::bigint FROM ledger_posting p JOIN ledger_entry e ON e.id = p.entry_id
            WHERE e.visit_id = @id AND p.account = @account
            """,
            new { id = Guid.Parse((string)visit["id"]!), account }
        );

    /// <summary>Waits until the gateway has done what was asked of it; then it has kept what the ledger says.</summary>
    private async Task SettledAsync()
    {
        await world.ClockAsync(11);
        await PayWorld.UntilAsync(async () =>
            await world.ScalarAsync<long>("SELECT count(*) FROM card_work WHERE settled_at IS NULL") == 0
        );
        (long taken, long refunded) = await world.Gateway.TotalsAsync();
        (
            await world.ScalarAsync<long>("SELECT coalesce(sum(amount), 0)::bigint FROM ledger_posting WHERE account = 'CardClearing'")
        ).ShouldBe(taken - refunded);
    }

    [Fact]
    public async Task A_late_client_pays_what_they_were_told_from_the_deposit_first_and_then_from_the_card()
    {
        JsonNode visit = await PaidVisitAsync(),
            money = await MoneyAsync(visit);
        long price = Amount(visit["price"]),
            deposit = Amount(money["deposit"]),
            fee = (price + 1) / 2;
        deposit.ShouldBe(((price * 30) + 50) / 100);
        ((string)money["card"]!).ShouldBe("0001");
        JsonNode told = money["cancelledByClient"]!;
        (Amount(told["fee"]), Amount(told["fromDeposit"]), Amount(told["fromCard"])).ShouldBe((fee, deposit, fee - deposit));
        Amount(money["cancelledByBusiness"]!["refund"]).ShouldBe(deposit);
        Amount(money["noShow"]!["fee"]).ShouldBe(price);

        ApiAnswer stale = await CancelAsync(world.Owner, visit, new { reason = "Ill", feeSeen = fee - 1 });
        (stale.Status, stale.Code).ShouldBe((HttpStatusCode.Conflict, "fee-changed"));
        (await CancelAsync(world.Owner, visit, new { reason = "Ill", feeSeen = fee })).Status.ShouldBe(HttpStatusCode.OK);
        (await BalanceAsync(visit, "Forfeits")).ShouldBe(-fee);
        (await BalanceAsync(visit, "ClientDeposits")).ShouldBe(0);
        await SettledAsync();
        (await BalanceAsync(visit, "CardClearing")).ShouldBe(fee);

        // What has moved cannot be taken back as if it had not.
        JsonNode cancelled = await VisitAsync((string)visit["id"]!);
        ApiAnswer back = await world.Owner.PostAsync(
            $"/api/v1/visits/{visit["id"]}/state",
            new { state = "confirmed" },
            World.Match(cancelled)
        );
        (back.Status, back.Code).ShouldBe((HttpStatusCode.Conflict, "money-moved"));
    }

    [Fact]
    public async Task What_the_business_cancels_costs_nothing_and_the_deposit_goes_back_the_way_it_came()
    {
        JsonNode visit = await PaidVisitAsync();
        long deposit = Amount((await MoneyAsync(visit))["deposit"]);
        (_, long refundedBefore) = await world.Gateway.TotalsAsync();
        ApiAnswer cancelled = await CancelAsync(world.Owner, visit, new { reason = "Ines is ill", by = "business", feeSeen = 0 });
        cancelled.Status.ShouldBe(HttpStatusCode.OK);
        await SettledAsync();
        (_, long refunded) = await world.Gateway.TotalsAsync();
        (refunded - refundedBefore).ShouldBe(deposit);
        (await BalanceAsync(visit, "CardClearing")).ShouldBe(0);
        JsonArray movements = (await MoneyAsync(visit))["movements"]!.AsArray();
        ((string)movements[^1]!["text"]!).ShouldEndWith("goes back to the card.");
    }

    [Fact]
    public async Task Only_those_allowed_let_a_client_off_and_say_why()
    {
        JsonNode visit = await PaidVisitAsync();
        using ApiClient desk = await ApiClient.SignedInAsync(world.First);
        ApiAnswer refused = await CancelAsync(desk, visit, new { reason = "Ill", waive = "A regular" });
        (refused.Status, refused.Field).ShouldBe((HttpStatusCode.Forbidden, "waive"));
        (await CancelAsync(world.Owner, visit, new { reason = "Ill", waive = " " })).Field.ShouldBe("waive");
        (await CancelAsync(world.Owner, visit, new { reason = "Ill", waive = "A regular" })).Status.ShouldBe(HttpStatusCode.OK);
        (await BalanceAsync(visit, "Forfeits")).ShouldBe(0);
        ((string)(await MoneyAsync(visit))["movements"]!.AsArray()[^1]!["text"]!).ShouldContain("waived: A regular");
        await SettledAsync();
        (await BalanceAsync(visit, "CardClearing")).ShouldBe(0);
    }

    [Fact]
    public async Task A_press_on_the_wrong_button_costs_nobody_anything()
    {
        JsonNode visit = await PaidVisitAsync();
        long deposit = Amount((await MoneyAsync(visit))["deposit"]);
        (await CancelAsync(world.Owner, visit, new { reason = "Ill" })).Status.ShouldBe(HttpStatusCode.OK);
        JsonNode cancelled = await VisitAsync((string)visit["id"]!);
        (
            await world.Owner.PostAsync($"/api/v1/visits/{visit["id"]}/state", new { state = "confirmed" }, World.Match(cancelled))
        ).Status.ShouldBe(HttpStatusCode.OK);
        Amount((await MoneyAsync(visit))["deposit"]).ShouldBe(deposit);
        (await BalanceAsync(visit, "Forfeits")).ShouldBe(0);
        // Undone by the list of what one did, too.
        visit = await VisitAsync((string)visit["id"]!);
        (await CancelAsync(world.Owner, visit, new { reason = "Ill" })).Status.ShouldBe(HttpStatusCode.OK);
        string step = (string)(await world.Owner.GetAsync("/api/v1/undo")).Body!.AsArray()[0]!["id"]!;
        (await world.Owner.PostAsync($"/api/v1/undo/{step}", new { })).Status.ShouldBe(HttpStatusCode.OK);
        Amount((await MoneyAsync(visit))["deposit"]).ShouldBe(deposit);
        (long taken, _) = await world.Gateway.TotalsAsync();
        await SettledAsync();
        (await world.Gateway.TotalsAsync()).Taken.ShouldBe(taken);
    }

    [Fact]
    public async Task A_card_that_is_declined_later_leaves_the_rest_owed()
    {
        JsonNode visit = await PaidVisitAsync(DeclinedLater);
        long price = Amount(visit["price"]),
            deposit = Amount((await MoneyAsync(visit))["deposit"]);
        (await CancelAsync(world.Owner, visit, new { reason = "Ill" })).Status.ShouldBe(HttpStatusCode.OK);
        await SettledAsync();
        (await BalanceAsync(visit, "ClientAccounts")).ShouldBe(((price + 1) / 2) - deposit);
        (await BalanceAsync(visit, "CardClearing")).ShouldBe(deposit);
    }

    [Theory]
    [InlineData("refund", "lost")]
    [InlineData("refund", "error")]
    [InlineData("charge", "lost")]
    [InlineData("charge", "error")]
    public async Task Whatever_is_lost_on_the_way_money_moves_once(string operation, string kind)
    {
        JsonNode visit = await PaidVisitAsync();
        await world.Gateway.FaultAsync(operation, kind);
        (await CancelAsync(world.Owner, visit, new { reason = "Ill", by = operation == "refund" ? "business" : "client" })).Status.ShouldBe(
            HttpStatusCode.OK
        );
        await SettledAsync();
    }

    [Fact]
    public async Task A_visit_money_was_taken_for_stays_in_the_book()
    {
        JsonNode visit = await PaidVisitAsync();
        ApiAnswer answer = await world.Owner.DeleteAsync($"/api/v1/visits/{visit["id"]}", (long)visit["version"]!);
        (answer.Status, answer.Code).ShouldBe((HttpStatusCode.Conflict, "has-money"));
        Amount((await MoneyAsync(visit))["deposit"]).ShouldBeGreaterThan(0);
    }
}
