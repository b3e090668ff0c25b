using Kingcup.Core.Business;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Money;

/// <summary>A deposit to be taken at the desk.</summary>
/// <param name="Way">"cash" or "terminal".</param>
/// <param name="Amount">Minor units.</param>
public sealed record DepositRequest(string? Way, long Amount);

/// <summary>A deposit that is being taken, or was.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Way">"cash" or "terminal".</param>
/// <param name="Amount">How much.</param>
/// <param name="State">"waiting" for a card, "settling" while the bank is asked, "taken" or "ended".</param>
/// <param name="Because">Why nothing was taken, or null.</param>
/// <param name="Until">Until when the terminal waits.</param>
public sealed record DepositAnswer(Guid Id, string Way, MoneyAnswer Amount, string State, string? Because, Instant Until)
{
    internal static DepositAnswer Of(PaymentRow payment) =>
        new(
            payment.Id,
            payment.PaymentWay == PaymentWay.Cash ? "cash" : "terminal",
            new MoneyAnswer(payment.Amount, payment.Currency),
            payment.PaymentState switch
            {
                PaymentState.Open => "waiting",
                PaymentState.Booked => "taken",
                PaymentState.Ended => "ended",
                _ => "settling",
            },
            payment.PaymentState == PaymentState.Ended ? (string)Why(payment) : null,
            payment.ExpiresAt
        );

    private static Sentence Why(PaymentRow payment) => payment.EndedBecause switch
    {
        "declined" => "The bank has declined the card. Nothing was taken.",
        "late" => "Nobody held a card to the terminal in time. Nothing was taken.",
        "gone" => "The visit was cancelled or done meanwhile. What was taken goes back to the card.",
        _ => "It was stopped at the terminal. Nothing was taken.",
    };
}

/// <summary>What is given back, as it was read.</summary>
/// <param name="Seen">How much, in minor units.</param>
public sealed record GiveBackRequest(long Seen);

/// <summary>Deposits taken at the desk, and given back.</summary>
internal static class DepositEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/visits/{id:guid}")
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Money")
            .ProducesProblem(400)
            .ProducesProblem(401)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPost("/deposits", TakeAsync)
            .WithSummary("Takes a deposit in cash, or has the card terminal ask for it. Accepts an Idempotency-Key.")
            .ProducesProblem(422);
        group
            .MapPost("/deposits/{depositId:guid}/finish", FinishAsync)
            .WithSummary("Where a deposit at the terminal stands; keeps it once it is paid.");
        group
            .MapPost("/deposits/{depositId:guid}/leave", LeaveAsync)
            .WithSummary("Has the terminal stop asking; what was paid meanwhile is kept.")
            .ProducesProblem(503);
        group.MapPost("/deposit/return", ReturnAsync).WithSummary("Gives all of a deposit back the way it came, while the visit stands.");
        group.MapPost("/cash-given", CashGivenAsync).WithSummary("Says that the cash that is to go back was put into the client's hand.");
    }

    private static async Task<Created<DepositAnswer>> TakeAsync(
        Guid id,
        DepositRequest request,
        HttpContext http,
        Database database,
        BookingDesk desk,
        PaymentDesk payments,
        ICardGateway gateway,
        IClock clock
    )
    {
        PaymentWay way = request.Way switch
        {
            "cash" => PaymentWay.Cash,
            "terminal" => PaymentWay.Terminal,
            _ => throw Refused.Invalid("way", "Choose how it is paid: in cash, or by card at the terminal."),
        };
        if (way == PaymentWay.Terminal && !gateway.IsThere)
            throw Refused.Invalid("way", "There is no card terminal. Take it in cash.");
        string currency;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            currency = await PaymentStore.CurrencyAsync(connection);
        Instant until = clock.GetCurrentInstant() + Duration.FromMinutes(Deposits.TerminalMinutes);
        DepositAnswer Of(Guid paymentId) =>
            new(
                paymentId,
                request.Way,
                new MoneyAnswer(request.Amount, currency),
                way == PaymentWay.Cash ? "taken" : "waiting",
                null,
                until
            );
        Guid paymentId = await desk.TakeDepositAsync(
            id,
            new DepositOrder(way, request.Amount),
            http.Actor(),
            http.Key(),
            taken => new Answered(null, Of(taken))
        );
        if (way == PaymentWay.Terminal)
        {
            try
            {
                await payments.SettleAsync(paymentId);
            }
            catch (GatewayAwayException)
            {
                // Asked again with the next question about it.
            }
        }

        return TypedResults.Created((string?)null, Of(paymentId));
    }

    private static Task<Ok<DepositAnswer>> FinishAsync(Guid id, Guid depositId, Database database, PaymentDesk payments) =>
        AfterAsync(id, depositId, payments.SettleAsync, database);

    private static async Task<Ok<DepositAnswer>> LeaveAsync(Guid id, Guid depositId, Database database, PaymentDesk payments)
    {
        Ok<DepositAnswer> left = await AfterAsync(id, depositId, payments.LeaveAsync, database);
        return left.Value!.State is "taken" or "ended"
            ? left
            : throw new Refused(
                StatusCodes.Status503ServiceUnavailable,
                "terminal-away",
                "The card terminal gives no answer. Press its red key; what becomes of the payment is found out by itself."
            );
    }

    /// <summary>Goes on with a payment at the terminal, and tells where it stands then.</summary>
    private static async Task<Ok<DepositAnswer>> AfterAsync(
        Guid visitId,
        Guid depositId,
        Func<Guid, Task<PaymentRow?>> goOn,
        Database database
    )
    {
        async Task<PaymentRow> FindAsync()
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            return await PaymentStore.FindAsync(connection, depositId) is { } payment
                && payment.PaymentWay != PaymentWay.Page
                && payment.VisitId == visitId
                ? payment
                : throw Refused.NotFound("There is no such deposit.");
        }

        await FindAsync();
        try
        {
            return TypedResults.Ok(DepositAnswer.Of((await goOn(depositId))!));
        }
        catch (GatewayAwayException)
        {
            return TypedResults.Ok(DepositAnswer.Of(await FindAsync()));
        }
    }

    private static async Task<NoContent> ReturnAsync(Guid id, GiveBackRequest request, HttpContext http, BookingDesk desk)
    {
        await desk.ReturnDepositAsync(id, request.Seen, http.Actor());
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> CashGivenAsync(Guid id, GiveBackRequest request, HttpContext http, BookingDesk desk)
    {
        await desk.GiveCashAsync(id, request.Seen, http.Actor());
        return TypedResults.NoContent();
    }
}
