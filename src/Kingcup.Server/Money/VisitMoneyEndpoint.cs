using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Money;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Money;

/// <summary>What stands of money on a visit.</summary>
public sealed record VisitMoneyAnswer
{
    /// <summary>What is held as a deposit.</summary>
    public required MoneyAnswer Deposit { get; init; }

    /// <summary>The last four digits of the card that is kept, or null.</summary>
    public required string? Card { get; init; }

    /// <summary>What it costs the client to cancel it now.</summary>
    public required FeeAnswer CancelledByClient { get; init; }

    /// <summary>What it costs the client that the business cancels it.</summary>
    public required FeeAnswer CancelledByBusiness { get; init; }

    /// <summary>What it costs not to come.</summary>
    public required FeeAnswer NoShow { get; init; }

    /// <summary>Whether whoever asks may let the client off.</summary>
    public required bool MayWaive { get; init; }

    /// <summary>What money has moved for it, oldest first.</summary>
    public required IReadOnlyList<MovementAnswer> Movements { get; init; }
}

/// <summary>A movement of money.</summary>
/// <param name="At">When.</param>
/// <param name="By">By whom.</param>
/// <param name="Text">What it was.</param>
public sealed record MovementAnswer(Instant At, string By, string Text);

/// <summary>What stands of money on a visit, and what it would cost to stay away.</summary>
internal static class VisitMoneyEndpoint
{
    internal static void Map(RouteGroupBuilder api) =>
        api
            .MapGet("/visits/{id:guid}/money", MoneyAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithTags("Money")
            .WithSummary("The deposit of a visit, the card that is kept, and what cancelling it or not coming would cost now.")
            .ProducesProblem(400)
            .ProducesProblem(401)
            .ProducesProblem(403)
            .ProducesProblem(404);

    private static async Task<Ok<VisitMoneyAnswer>> MoneyAsync(
        Guid id,
        HttpContext http,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit visit =
            await BookStore.FindAsync(connection, id) ?? throw Api.Refused.NotFound("There is no such visit any more.");
        string currency = (await book.SetupAsync(connection)).Business.Currency;
        Instant now = clock.GetCurrentInstant();
        async Task<(CancellationFee Fee, VisitMoney Money)> FeeAsync(bool isNoShow, CancelledBy by) =>
            await BookingDesk.FeeOfAsync(connection, visit, isNoShow, by, now);
        (CancellationFee byClient, VisitMoney money) = await FeeAsync(false, CancelledBy.Client);
        return TypedResults.Ok(new VisitMoneyAnswer
        {
            Deposit = new MoneyAnswer(money.Deposit, currency),
            Card = money.CardDigits,
            CancelledByClient = FeeAnswer.Of(byClient, currency),
            CancelledByBusiness = FeeAnswer.Of((await FeeAsync(false, CancelledBy.Business)).Fee, currency),
            NoShow = FeeAnswer.Of((await FeeAsync(true, CancelledBy.Client)).Fee, currency),
            MayWaive = Rights.WaivesFees(http.User),
            Movements =
            [
                .. (await CardWorkStore.MovementsAsync(connection, id)).Select(movement => new MovementAnswer(
                    movement.At,
                    movement.Actor,
                    Words(movement, currency)
                )),
            ],
        });
    }

    private static Sentence Words(VisitMovement movement, string currency)
    {
        Sum In(long amount) => new(amount, currency);
        List<Sentence> words = [];
        switch (Enum.Parse<LedgerReason>(movement.Reason))
        {
            case LedgerReason.Deposit:
                words.Add(Say($"Deposit of {In(movement.ByCard)} paid by card."));
                break;
            case LedgerReason.Fee:
                if (movement.Forfeited > 0) words.Add(Say($"Fee of {In(movement.Forfeited)}."));
                if (movement.Owed > 0) words.Add(Say($"{In(movement.Owed)} of it stays owed."));
                if (movement.ByCard > 0) words.Add(Say($"{In(movement.ByCard)} is taken from the card."));
                if (movement.ByCard < 0) words.Add(Say($"{In(-movement.ByCard)} goes back to the card."));
                if (movement.Note.Length > 0) words.Add(Say($"The fee was waived: {movement.Note}"));
                break;
            case LedgerReason.FeeTakenBack:
                words.Add("That was taken back, since the visit stands again.");
                break;
            case LedgerReason.FeeDeclined:
                words.Add(Say($"The card was declined: {In(movement.Owed)} stays owed."));
                break;
            case LedgerReason.Refund:
                words.Add(Say($"{In(-movement.ByCard)} went back to the card."));
                break;
        }

        return Join(words);
    }
}
