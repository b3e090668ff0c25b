using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.Money;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Clients;

/// <summary>Clients pay a deposit they are asked for, for a visit of theirs that stands.</summary>
internal static class OwnDeposits
{
    internal static void Map(RouteGroupBuilder group)
    {
        group
            .MapPost("/mine/visits/{id:guid}/pay", PayAsync)
            .Limit(Limits.PublicHold)
            .WithSummary("Where the card is entered for a deposit one is asked for.")
            .ProducesProblem(401)
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(503);
        group
            .MapPost("/mine/visits/{id:guid}/paid", PaidAsync)
            .Limit(Limits.PublicHold)
            .WithSummary("What became of a deposit, once somebody is back from the card page.")
            .ProducesProblem(401)
            .ProducesProblem(404);
    }

    private static async Task<Ok<PublicCardPage>> PayAsync(
        Guid id,
        HttpContext http,
        Database database,
        PaymentDesk payments,
        IConfiguration settings,
        IClock clock
    )
    {
        Instant now = clock.GetCurrentInstant();
        PaymentRow? payment;
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            StoredVisit visit = await OwnEndpoints.OwnAsync(http, connection, id, now);
            payment = Deposits.MayTake(visit.Visit.VisitState) ? await PaymentStore.LinkOfAsync(connection, id, now) : null;
        }

        return payment is null
            ? throw new Refused(
                StatusCodes.Status409Conflict,
                "nothing-asked",
                "No deposit is asked for any more. Look at your booking once more, or call us."
            )
            : await PublicPayments.ToCardAsync(payments, payment, $"{PublicPayments.Own(http, settings)}/book/mine?paid={id}");
    }

    private static async Task<Ok<OwnPaid>> PaidAsync(
        Guid id,
        HttpContext http,
        Database database,
        PaymentDesk payments,
        IClock clock
    )
    {
        PaymentRow? latest;
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            await OwnEndpoints.OwnAsync(http, connection, id, clock.GetCurrentInstant());
            latest = await PaymentStore.LatestLinkAsync(connection, id);
        }

        if (latest is null) return TypedResults.Ok(new OwnPaid("none", null));
        try
        {
            DepositAnswer stands = DepositAnswer.Of((await payments.SettleAsync(latest.Id))!);
            return TypedResults.Ok(new OwnPaid(stands.State, stands.Because));
        }
        catch (GatewayAwayException)
        {
            return TypedResults.Ok(new OwnPaid("settling", null));
        }
    }
}
