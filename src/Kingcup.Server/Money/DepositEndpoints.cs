using System.Text.Json;
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
/// <param name="Way">"cash", "terminal" or "link".</param>
/// <param name="Amount">Minor units.</param>
public sealed record DepositRequest(string? Way, long Amount);

/// <summary>A deposit that is being taken, or was.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Way">"cash", "terminal" or "link".</param>
/// <param name="Amount">How much.</param>
/// <param name="State">"waiting" for a card, "settling" while the bank is asked, "taken" or "ended".</param>
/// <param name="Because">Why nothing was taken, or null.</param>
/// <param name="Until">Until when the terminal waits, or the link is good.</param>
public sealed record DepositAnswer(Guid Id, string Way, MoneyAnswer Amount, string State, string? Because, Instant Until)
{
    internal static DepositAnswer Of(PaymentRow payment) =>
        new(
            payment.Id,
            NameOf(payment.PaymentWay),
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

    internal static string NameOf(PaymentWay way) => JsonNamingPolicy.CamelCase.ConvertName(way.ToString());

    private static Sentence Why(PaymentRow payment) => payment.EndedBecause switch
    {
        "declined" => "The bank has declined the card. Nothing was taken.",
        "late" when payment.PaymentWay == PaymentWay.Link => "The link was not used in time. Nothing was taken.",
        "late" => "Nobody held a card to the terminal in time. Nothing was taken.",
        "gone" => "The visit was cancelled or done meanwhile. What was taken goes back to the card.",
        _ when payment.PaymentWay == PaymentWay.Link => "The link is not good any more. Nothing was taken.",
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
            .WithSummary(
                "Takes a deposit in cash, or has the card terminal, or the client by a link, asked for it. Accepts an Idempotency-Key."
            )
            .ProducesProblem(422);
        group
            .MapPost("/deposits/{depositId:guid}/finish", FinishAsync)
            .WithSummary("Where a deposit by card stands; keeps it once it is paid.");
        group
            .MapPost("/deposits/{depositId:guid}/leave", LeaveAsync)
            .WithSummary("Has the terminal stop asking, or takes a link back; what was paid meanwhile is kept.")
            .ProducesProblem(503);
        group.MapPost("/deposit/return", ReturnAsync).WithSummary("Gives all of a deposit back the way it came, while the visit stands.");
        group.MapPost("/cash-given", CashGivenAsync).WithSummary("Says that the cash that is to go back was put into the client's hand.");
    }

    private static async Task<Created<DepositAnswer>> TakeAsync(
        Guid id,
        DepositRequest request,
        HttpContext http,
        BookingDesk desk,
        PaymentDesk payments,
        ICardGateway gateway
    )
    {
        PaymentWay way = request.Way switch
        {
            "cash" => PaymentWay.Cash,
            "terminal" => PaymentWay.Terminal,
            "link" => PaymentWay.Link,
            _ => throw Refused.Invalid("way", "Choose how it is paid: in cash, by card at the terminal, or by a link."),
        };
        if (way != PaymentWay.Cash && !gateway.IsThere) throw Refused.Invalid("way", "Cards are not taken here. Take it in cash.");
        DepositAnswer Of(NewPayment payment) =>
            new(
                payment.Id,
                request.Way,
                new MoneyAnswer(payment.Amount, payment.Currency),
                way == PaymentWay.Cash ? "taken" : "waiting",
                null,
                payment.ExpiresAt
            );
        NewPayment payment = await desk.TakeDepositAsync(
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
                await payments.SettleAsync(payment.Id);
            }
            catch (GatewayAwayException)
            {
                // Asked again with the next question about it.
            }
        }

        return TypedResults.Created((string?)null, Of(payment));
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
                "card-away",
                "It cannot be stopped just now: whoever takes cards gives no answer. What becomes of it is found out by itself."
            );
    }

    /// <summary>Goes on with a payment by card, and tells where it stands then.</summary>
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
