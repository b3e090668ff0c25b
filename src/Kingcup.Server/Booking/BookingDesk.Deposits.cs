using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <summary>A deposit that is to be taken at the desk.</summary>
/// <param name="Way">How it comes.</param>
/// <param name="Amount">Minor units.</param>
internal sealed record DepositOrder(PaymentWay Way, long Amount);

/// <content>Deposits of visits that stand in the book: taken at the desk, and given back (rules, sections 9 and 12).</content>
public sealed partial class BookingDesk
{
    private static readonly Actor _byCard = new("Card payment", "card");

    /// <summary>Takes a deposit in cash, or has the card terminal, or the client by a link, asked for it.</summary>
    /// <param name="visitId">The visit.</param>
    /// <param name="order">How, and how much.</param>
    /// <param name="actor">Who takes it.</param>
    /// <param name="key">The idempotency key, or null.</param>
    /// <param name="answer">The answer, to be kept with the key.</param>
    /// <exception cref="Refused">It cannot be taken so; nothing was changed.</exception>
    internal Task<NewPayment> TakeDepositAsync(
        Guid visitId,
        DepositOrder order,
        Actor actor,
        RequestKey? key,
        Func<NewPayment, Answered> answer
    ) =>
        WithVisitAsync(
            visitId,
            actor,
            key,
            async (transaction, visit) =>
            {
                CheckStands(visit);
                string currency = await PaymentStore.CurrencyAsync(transaction.Connection);
                await CheckMostAsync(transaction.Connection, visit, order.Amount, currency);
                Instant now = transaction.Change.At;
                NewPayment payment = new()
                {
                    Id = Guid.CreateVersion7(),
                    LocationId = visit.Visit.LocationId,
                    Amount = order.Amount,
                    Currency = currency,
                    Way = order.Way,
                    VisitId = visitId,
                    ExpiresAt = await UntilAsync(transaction.Connection, visit, order.Way, now),
                };
                if (order.Way == PaymentWay.Cash)
                {
                    PaymentStore.AddMade(transaction, payment);
                    PostDeposit(transaction, visit, payment.Way, payment.Amount, payment.Id);
                }
                else
                {
                    PaymentStore.Add(transaction, payment);
                    if (order.Way == PaymentWay.Link)
                        MessageEventStore.AddMoney(transaction, "Deposit", visitId, payment.Amount, now);
                }

                key?.Keep(transaction, answer(payment));
                return payment;
            }
        );

    /// <summary>Until when somebody may pay.</summary>
    /// <exception cref="Refused">A link would reach nobody in time.</exception>
    private static async Task<Instant> UntilAsync(NpgsqlConnection connection, StoredVisit visit, PaymentWay way, Instant now)
    {
        if (way == PaymentWay.Cash) return now;
        if (way == PaymentWay.Terminal) return now + Duration.FromMinutes(Deposits.TerminalMinutes);
        AddressedClient client = (await MessageStore.ClientsAsync(connection, [visit.Visit.ClientId]))[visit.Visit.ClientId];
        if (string.IsNullOrEmpty(client.Email) && (string.IsNullOrEmpty(client.Phone) || !client.AgreesToTexts))
            throw Refused.Invalid(
                "way",
                "A link reaches nobody: there is no e-mail address, and no number they agree to texts on. Write one down, or take it here."
            );
        return Deposits.LinkUntil(now, visit.Visit.StartsAt)
            ?? throw Refused.Invalid("way", "The visit begins too soon for a link. Take it here.");
    }

    private static void CheckStands(StoredVisit visit)
    {
        if (Deposits.MayTake(visit.Visit.VisitState)) return;
        throw new Refused(
            StatusCodes.Status409Conflict,
            "state",
            Say($"A deposit is neither taken nor given back for a visit that is {Words(visit.Visit.VisitState)}.")
        );
    }

    private static async Task CheckMostAsync(NpgsqlConnection connection, StoredVisit visit, long amount, string currency)
    {
        long most = Deposits.Most(
            visit.Price.Total,
            (await CardWorkStore.MoneyAsync(connection, visit.Visit.Id)).Deposit,
            (await PaymentStore.OpenOfAsync(connection, visit.Visit.Id)).Sum(payment => payment.Amount)
        );
        if (most == 0)
            throw new Refused(
                StatusCodes.Status409Conflict,
                "paid-in-full",
                "There is nothing left to take: all of it is paid, or is being paid just now, or it costs nothing.",
                "amount"
            );
        if (amount < 1 || amount > most)
            throw Refused.Invalid(
                "amount",
                Say($"Take at most {new Sum(most, currency)}: that is what is left to pay. Nothing, or less, is no deposit.")
            );
    }

    /// <summary>Decides to take what was paid by card; where the visit is done or away meanwhile, it goes back.</summary>
    private Task<PaymentState> DecideDepositAsync(PaymentRow payment, bool isTaken) =>
        WithVisitAsync(
            payment.VisitId!.Value,
            _byCard,
            null,
            (transaction, visit) =>
            {
                return Task.FromResult(
                    Deposits.MayTake(visit.Visit.VisitState)
                        ? PaymentStore.Go(transaction, payment, PaymentState.Charging)
                        : Return(transaction, payment, isTaken, "gone")
                );
            }
        );

    /// <summary>Keeps what was paid by card as a deposit.</summary>
    /// <returns>False where the visit is done or away meanwhile; nothing was changed.</returns>
    internal Task<bool> KeepDepositAsync(PaymentRow payment) =>
        WithVisitAsync(
            payment.VisitId!.Value,
            _byCard,
            null,
            (transaction, visit) =>
            {
                if (!Deposits.MayTake(visit.Visit.VisitState)) return Task.FromResult(false);
                PaymentStore.Book(transaction, payment, visit, null);
                PostDeposit(transaction, visit, payment.PaymentWay, payment.Amount, payment.Id);
                return Task.FromResult(true);
            }
        );

    private static void PostDeposit(BookTransaction transaction, StoredVisit visit, PaymentWay way, long amount, Guid paymentId) =>
        LedgerStore.Post(
            transaction,
            LedgerEntry.OfDeposit(Deposits.AccountOf(way), amount),
            new LedgerSource(visit.Visit.LocationId, LedgerReason.Deposit, visit.Visit.PayerId, visit.Visit.Id, paymentId)
        );

    /// <summary>Gives all of a deposit back the way it came, while the visit stands.</summary>
    /// <param name="visitId">The visit.</param>
    /// <param name="seen">What is held of it, as whoever asks has read it, in minor units.</param>
    /// <param name="actor">Who gives it back.</param>
    /// <exception cref="Refused">It is not what was read, or nothing is held; nothing was changed.</exception>
    internal Task<bool> ReturnDepositAsync(Guid visitId, long seen, Actor actor) =>
        WithVisitAsync(
            visitId,
            actor,
            null,
            async (transaction, visit) =>
            {
                CheckStands(visit);
                VisitMoney money = await CardWorkStore.MoneyAsync(transaction.Connection, visitId);
                if (money.Deposit == 0 || money.Deposit != seen) throw MoneyChanged("seen");
                IReadOnlyList<GivenBack> back = money.Back(money.Deposit);
                LedgerStore.Post(
                    transaction,
                    LedgerEntry.OfReturn(back),
                    new LedgerSource(visit.Visit.LocationId, LedgerReason.Returned, visit.Visit.PayerId, visitId, null)
                );
                CardWorkStore.AddBack(
                    transaction,
                    new CardWork
                    {
                        VisitId = visitId,
                        Reason = nameof(LedgerReason.Returned),
                        Currency = await PaymentStore.CurrencyAsync(transaction.Connection),
                        DueAt = transaction.Change.At,
                    },
                    back
                );
                return true;
            }
        );

    /// <summary>Says that the cash that is to go back was put into the client's hand.</summary>
    /// <param name="visitId">The visit.</param>
    /// <param name="seen">How much, as whoever asks has read it, in minor units.</param>
    /// <param name="actor">Who has given it.</param>
    /// <exception cref="Refused">It is not what was read; nothing was changed.</exception>
    internal Task<bool> GiveCashAsync(Guid visitId, long seen, Actor actor) =>
        WithVisitAsync(
            visitId,
            actor,
            null,
            async (transaction, visit) =>
            {
                CardWork[] works =
                [
                    .. (await CardWorkStore.OfVisitAsync(transaction.Connection, visitId)).Where(work =>
                        work is { ByHand: true, State: "Waiting" }
                    ),
                ];
                long amount = works.Sum(work => work.Amount);
                if (amount == 0 || amount != seen) throw MoneyChanged("seen");
                foreach (CardWork work in works) CardWorkStore.Settle(transaction, work, "Done");
                LedgerStore.Post(
                    transaction,
                    LedgerEntry.OfCashGiven(amount),
                    new LedgerSource(visit.Visit.LocationId, LedgerReason.CashGiven, visit.Visit.PayerId, visitId, null)
                );
                return true;
            }
        );

    private static Refused MoneyChanged(string field) =>
        new(
            StatusCodes.Status409Conflict,
            "money-changed",
            "The money of this visit has changed since you looked. Look at it once more.",
            field
        );

    /// <summary>Changes the money of a visit with its day locked.</summary>
    private Task<T> WithVisitAsync<T>(
        Guid visitId,
        Actor actor,
        RequestKey? key,
        Func<BookTransaction, StoredVisit, Task<T>> change
    ) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            StoredVisit seen = await BookStore.FindAsync(connection, visitId) ?? throw NoVisit();
            await using BookTransaction transaction = await BookTransaction.BeginAsync(
                connection,
                actor.ChangeAt(clock.GetCurrentInstant())
            );
            LockedBook locked = await transaction.LockAsync(
                new BookLocks { Key = key?.ToTake, Days = [seen.Visit.Date] },
                new BookQuestion { VisitId = visitId }
            );
            if (locked.IsAnswered) throw await key!.AnsweredBeforeAsync(connection);
            StoredVisit visit = locked.Visit ?? throw NoVisit();
            // Moved in the same moment: the day it stands on now is not locked. Whoever asks again finds it there.
            if (visit.Visit.Date != seen.Visit.Date) throw Refused.Busy();
            T done = await change(transaction, visit);
            transaction.Tell(LiveNotices.Day(visit.Visit.LocationId, visit.Visit.Date));
            await CommitAsync(transaction);
            return done;
        });

    private static Refused NoVisit() => Refused.NotFound("There is no such visit any more.");
}
