using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
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

    /// <summary>What the rules ask for at present; nothing where no deposit is taken any more.</summary>
    public required MoneyAnswer Asked { get; init; }

    /// <summary>What of that is still to be given.</summary>
    public required MoneyAnswer Due { get; init; }

    /// <summary>The most that may still be taken as a deposit; nothing where none is taken any more.</summary>
    public required MoneyAnswer Most { get; init; }

    /// <summary>Whether the deposit can be given back while the visit stands.</summary>
    public required bool MayReturn { get; init; }

    /// <summary>What somebody is about to pay.</summary>
    public required IReadOnlyList<DepositAnswer> Waiting { get; init; }

    /// <summary>What is to be given back in cash, and was not yet.</summary>
    public required MoneyAnswer CashToGive { get; init; }

    /// <summary>What is to be given back to the same client in cash for other visits.</summary>
    public required IReadOnlyList<CashAnswer> CashElsewhere { get; init; }

    /// <summary>Whether cards are taken, at the terminal and by a link.</summary>
    public required bool TakesCards { get; init; }

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

/// <summary>Cash that is to be given back to a client.</summary>
/// <param name="VisitId">For which visit.</param>
/// <param name="LocationId">Where it was to be.</param>
/// <param name="Date">When it was to be.</param>
/// <param name="Amount">How much.</param>
public sealed record CashAnswer(Guid VisitId, Guid LocationId, LocalDate Date, MoneyAnswer Amount)
{
    internal static async Task<CashAnswer[]> OfAsync(NpgsqlConnection connection, Guid clientId, string currency) =>
        [
            .. (await CardWorkStore.CashToGiveAsync(connection, clientId)).Select(cash => new CashAnswer(
                cash.VisitId,
                cash.LocationId,
                cash.Date,
                new MoneyAnswer(cash.Amount, currency)
            )),
        ];
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
        ICardGateway gateway,
        IClock clock
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit visit =
            await BookStore.FindAsync(connection, id) ?? throw Api.Refused.NotFound("There is no such visit any more.");
        Setup setup = await book.SetupAsync(connection);
        string currency = setup.Business.Currency;
        MoneyAnswer In(long amount) => new(amount, currency);
        Instant now = clock.GetCurrentInstant();
        async Task<(CancellationFee Fee, VisitMoney Money)> FeeAsync(bool isNoShow, CancelledBy by) =>
            await BookingDesk.FeeOfAsync(connection, visit, isNoShow, by, now);
        (CancellationFee byClient, VisitMoney money) = await FeeAsync(false, CancelledBy.Client);
        CashAnswer[] cash = await CashAnswer.OfAsync(connection, visit.Visit.ClientId, currency);
        IReadOnlyList<PaymentRow> waiting = await PaymentStore.OpenOfAsync(connection, id);
        long paying = waiting.Sum(payment => payment.Amount);
        bool mayTake = Deposits.MayTake(visit.Visit.VisitState);
        long asked = mayTake ? (await AskedAsync(connection, setup, visit, now)).Deposit : 0;
        return TypedResults.Ok(new VisitMoneyAnswer
        {
            Deposit = In(money.Deposit),
            Asked = In(asked),
            Due = In(Deposits.Due(asked, visit.Price.Total, money.Deposit, paying)),
            Most = In(mayTake ? Deposits.Most(visit.Price.Total, money.Deposit, paying) : 0),
            MayReturn = mayTake && money.Deposit > 0,
            Waiting = [.. waiting.Select(DepositAnswer.Of)],
            CashToGive = In(cash.Where(one => one.VisitId == id).Sum(one => one.Amount.Amount)),
            CashElsewhere = [.. cash.Where(one => one.VisitId != id)],
            TakesCards = gateway.IsThere,
            Card = money.CardDigits,
            CancelledByClient = FeeAnswer.Of((byClient, money), currency),
            CancelledByBusiness = FeeAnswer.Of(await FeeAsync(false, CancelledBy.Business), currency),
            NoShow = FeeAnswer.Of(await FeeAsync(true, CancelledBy.Client), currency),
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

    /// <summary>What the rules ask of the client of a visit, as they are known now.</summary>
    private static async Task<Guarantee> AskedAsync(NpgsqlConnection connection, Setup setup, StoredVisit visit, Instant now)
    {
        ClientRow client = (await ClientStore.FindAsync(connection, visit.Visit.ClientId))!;
        IReadOnlyList<ClientVisit> others = await BookStore.OfClientAsync(connection, client.Id, visit.Visit.Id);
        return Guarantees.Of(setup, visit.Visit.LocationId, visit, BookingChecks.AudienceOf(client, others, null, now), now);
    }

    private static Sentence Words(VisitMovement movement, string currency)
    {
        Sum In(long amount) => new(amount, currency);
        List<Sentence> words = [];
        switch (Enum.Parse<LedgerReason>(movement.Reason))
        {
            case LedgerReason.Deposit:
                words.Add(
                    movement.InCash > 0
                        ? Say($"Deposit of {In(movement.InCash)} paid in cash.")
                        : Say($"Deposit of {In(movement.ByCard)} paid by card.")
                );
                break;
            case LedgerReason.Fee:
                if (movement.Forfeited > 0) words.Add(Say($"Fee of {In(movement.Forfeited)}."));
                if (movement.Owed > 0) words.Add(Say($"{In(movement.Owed)} of it stays owed."));
                if (movement.ByCard > 0) words.Add(Say($"{In(movement.ByCard)} is taken from the card."));
                AddBack(words, movement, In);
                if (movement.Note.Length > 0) words.Add(Say($"The fee was waived: {movement.Note}"));
                break;
            case LedgerReason.FeeTakenBack:
                words.Add("That was taken back, since the visit stands again.");
                break;
            case LedgerReason.FeeDeclined:
                words.Add(Say($"The card was declined: {In(movement.Owed)} stays owed."));
                break;
            case LedgerReason.Returned:
                words.Add("The deposit was given back.");
                AddBack(words, movement, In);
                break;
            case LedgerReason.CashGiven:
                words.Add(Say($"{In(-movement.InCash)} was given back in cash."));
                break;
            case LedgerReason.Refund:
                words.Add(Say($"{In(-movement.ByCard)} went back to the card."));
                break;
        }

        return Join(words);
    }

    private static void AddBack(List<Sentence> words, VisitMovement movement, Func<long, Sum> sum)
    {
        if (movement.ByCard < 0) words.Add(Say($"{sum(-movement.ByCard)} goes back to the card."));
        if (movement.Owed < 0) words.Add(Say($"{sum(-movement.Owed)} is to be given back in cash."));
    }
}
