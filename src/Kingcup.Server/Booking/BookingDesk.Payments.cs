using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Messages;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>What whoever books is asked to give before it is booked.</summary>
/// <param name="Id">Identity of the payment.</param>
/// <param name="Wanted">Who books what, as JSON, told where the visit would stand.</param>
public sealed record PaymentOrder(Guid Id, Func<PaidTerms, string> Wanted);

/// <summary>What was settled when a payment was begun, and holds however things change until it is paid.</summary>
/// <param name="State">Confirmed, or requested where the desk approves it.</param>
/// <param name="IsFirst">Whether it is the client's first.</param>
/// <param name="PolicyId">The cancellation policy the client has read, or null.</param>
public sealed record PaidTerms(VisitState State, bool IsFirst, long? PolicyId);

/// <summary>A visit that was paid for: who books it, and what else is said of it.</summary>
internal sealed record PaidBooking
{
    /// <summary>Who books, as whom they say to be.</summary>
    public required ClientRow Stranger { get; init; }

    /// <summary>The client they have shown to be, or null.</summary>
    public required Guid? ShownId { get; init; }

    /// <summary>Who pays, or null where the client does.</summary>
    public required Guid? PayerId { get; init; }

    /// <summary>Who comes along.</summary>
    public required IReadOnlyList<VisitPersonRow> People { get; init; }

    /// <summary>What they answered.</summary>
    public required IReadOnlyList<VisitAnswerRow> Answers { get; init; }

    /// <summary>What they have written.</summary>
    public required string Note { get; init; }

    /// <summary>What they agree to, and in which words they were asked.</summary>
    public required IReadOnlyList<(string Kind, string Words)> Agreed { get; init; }

    /// <summary>The terms they have accepted, or null.</summary>
    public required long? TermsId { get; init; }

    /// <summary>What they are known by.</summary>
    public required OriginAsked Origin { get; init; }

    /// <summary>What was settled when the payment was begun.</summary>
    public required PaidTerms Terms { get; init; }
}

/// <content>Bookings that wait for a payment (rules, section 9).</content>
public sealed partial class BookingDesk
{
    // Whoever pays in the last second is heard of a little later.
    private static readonly Duration _afterPaying = Duration.FromMinutes(2);

    // Until the gateway has said what became of the money, nobody else gets the time.
    private static readonly Duration _settledWithin = Duration.FromDays(1);

    /// <summary>Keeps the time of a visit for whoever pays for it first.</summary>
    /// <param name="order">What is to be booked.</param>
    /// <param name="pay">What is to be kept of it.</param>
    /// <param name="actor">Who books it.</param>
    /// <param name="key">The idempotency key.</param>
    /// <param name="answer">The answer, to be kept with the key.</param>
    /// <param name="seen">The setup the order was checked by.</param>
    /// <exception cref="Refused">It cannot be booked as asked, or nothing is to be paid; nothing was changed.</exception>
    public Task BeginPaymentAsync(
        BookingOrder order,
        PaymentOrder pay,
        Actor actor,
        RequestKey key,
        Func<NewPayment, Answered> answer,
        Setup seen
    ) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            await using BookTransaction transaction = await BookTransaction.BeginAsync(
                connection,
                actor.ChangeAt(clock.GetCurrentInstant())
            );
            Instant now = transaction.Change.At;
            Placing placing = await PlaceAsync(transaction, order, key, null, seen);
            if (placing.Due is not { AsksForSomething: true } due) throw NothingDue();
            if (await PaymentStore.WaitingOfAsync(connection, order.Origin!.Device, now) >= PaymentRules.MostOfDevice)
                throw new Refused(
                    StatusCodes.Status429TooManyRequests,
                    "paying-already",
                    "Another booking of yours waits for its payment. Pay for that one, or leave it, then book this."
                );
            if (placing.Held is { } held && placing.Taken is null) BookStore.GiveBack(transaction, held);
            Instant until = now + Duration.FromMinutes(PaymentRules.Minutes),
                keptUntil = until + _afterPaying;
            byte[] holdHash = order.HoldToken!;
            if (placing.Taken is { } taken)
            {
                BookStore.KeepOn(transaction, taken, keptUntil);
            }
            else
            {
                if (!await AllowsOneMoreAsync(connection, placing.Standing, order.Origin.Device, order.Origin.Range, now))
                    throw new Refused(
                        StatusCodes.Status429TooManyRequests,
                        "held-enough",
                        "So many people are booking right now that no time can be kept for your payment. Try again in a few minutes."
                    );
                StoredProposal kept = BookStore.Propose(transaction, new NewProposal
                {
                    Kind = ProposalKind.Hold,
                    TokenHash = holdHash = System.Security.Cryptography.SHA256.HashData(pay.Id.ToByteArray()),
                    ExpiresAt = keptUntil,
                    Asked = order.Asked!,
                    SetupRevision = placing.Setup.Revision,
                    DeviceHash = order.Origin.Device,
                    RangeHash = order.Origin.Range,
                    LocationId = order.LocationId,
                    Visit = new LaidVisit
                    {
                        Date = placing.Standing.Day.Day.Date,
                        Plan = placing.Over.Plan,
                        Price = placing.Price,
                        LineIds = [.. placing.Over.Plan.Lines.Select(_ => (Guid?)null)],
                        Chosen = order.Wanted.Chosen,
                        AddOns = order.Wanted.AddOns,
                    },
                });
                BookStore.KeepOn(transaction, kept, keptUntil);
            }

            NewPayment payment = new()
            {
                Id = pay.Id,
                LocationId = order.LocationId,
                Amount = due.Deposit,
                Currency = placing.Setup.Business.Currency,
                HoldHash = holdHash,
                Wanted = pay.Wanted(new PaidTerms(placing.State, placing.IsFirst, placing.Setup.PolicyOf(order.LocationId)?.Id)),
                ExpiresAt = until,
            };
            PaymentStore.Add(transaction, payment);
            key.Keep(transaction, answer(payment));
            await CommitAsync(transaction);
            return true;
        });

    /// <summary>Decides to take the money, and keeps the time until that is settled; where the time is gone, the money goes back.</summary>
    /// <returns>Where the payment stands then: charging or returning.</returns>
    internal Task<PaymentState> DecideAsync(PaymentRow payment, bool isTaken) =>
        payment.HoldHash is null ? DecideDepositAsync(payment, isTaken)
        : WithHoldAsync(payment, (transaction, held) =>
        {
            if (held is null || held.ExpiresAt <= transaction.Change.At)
                return Return(transaction, payment, isTaken, "gone");
            BookStore.KeepOn(transaction, held, transaction.Change.At + _settledWithin);
            return PaymentStore.Go(transaction, payment, PaymentState.Charging);
        });

    /// <summary>Says that nothing is booked, and that what was taken goes back.</summary>
    internal Task ReturnAsync(PaymentRow payment, bool isTaken) =>
        WithHoldAsync(payment, (transaction, held) =>
        {
            if (held is not null) BookStore.GiveBack(transaction, held);
            return Return(transaction, payment, isTaken, "gone");
        });

    /// <summary>Is done with a payment of which nothing is kept, and gives its time back.</summary>
    /// <param name="payment">The payment.</param>
    /// <param name="refunded">What has gone back of what was taken, in minor units.</param>
    /// <param name="because">Why nothing was booked: "declined", "left", "late" or "gone".</param>
    internal Task EndAsync(PaymentRow payment, long refunded, string because) =>
        WithHoldAsync(payment, (transaction, held) =>
        {
            if (held is not null) BookStore.GiveBack(transaction, held);
            if (refunded > 0)
                LedgerStore.Post(
                    transaction,
                    LedgerEntry.OfDeposit(Account.CardClearing, refunded).Reversed(),
                    new LedgerSource(payment.LocationId, LedgerReason.Refund, null, null, payment.Id)
                );
            if (because is "left" or "late" && payment.Wanted is { } wanted)
                MessageEventStore.AddUnfinished(transaction, Unfinished.Json(wanted));
            return PaymentStore.Go(transaction, payment, PaymentState.Ended, because);
        });

    /// <summary>Books a visit that was paid for: what is kept becomes the visit, and what was taken its deposit, in one.</summary>
    /// <param name="payment">The payment.</param>
    /// <param name="paid">Who books, and what else is said of it.</param>
    /// <param name="card">The card that was entered, or null.</param>
    /// <param name="setup">The setup as it was read for it.</param>
    /// <returns>The visit, or null where its time is not kept any more.</returns>
    internal Task<StoredVisit?> BookPaidAsync(PaymentRow payment, PaidBooking paid, GatewayCard? card, Setup setup) =>
        OnceMore.RunAsync<StoredVisit?>(
            async () =>
            {
                await using NpgsqlConnection connection = await database.OpenAsync();
                if (await BookStore.ProposalAsync(connection, payment.HoldHash!) is not { } seen) return null;
                await using BookTransaction transaction = await BookTransaction.BeginAsync(
                    connection,
                    _choosing.ChangeAt(clock.GetCurrentInstant())
                );
                LockedBook locked = await transaction.LockAsync(
                    new BookLocks { Days = [DateOf(seen)], People = paid.Origin.KnownBy() },
                    new BookQuestion
                    {
                        ProposalToken = payment.HoldHash,
                        Client = paid.ShownId is null ? new ClientAsked(null, paid.Stranger) : new ClientAsked(paid.ShownId),
                    }
                );
                if (locked.Proposal is not { } held) return null;
                ClientRow client = locked.Client ?? paid.Stranger;
                if (locked.Client is null) ClientStore.Add(transaction, client);
                AgreeIfTheirs(transaction, client, paid.Stranger, paid.Agreed);
                StoredVisit stored = BookStore.TakeUp(
                    transaction,
                    new NewVisit
                    {
                        Id = held.Visit.Visit.Id,
                        Reference = References(),
                        LocationId = payment.LocationId,
                        Client = client,
                        PayerId = paid.PayerId,
                        People = paid.People,
                        Date = DateOf(held),
                        Plan = null,
                        Price = held.Visit.Price,
                        Chosen = [],
                        AddOns = [],
                        Source = "Online",
                        State = paid.Terms.State,
                        LapsesAt = LapsesOf(setup, paid.Terms.State, transaction.Change.At, held.Visit.Visit.StartsAt),
                        IsFirst = paid.Terms.IsFirst,
                        PolicyId = paid.Terms.PolicyId,
                        TermsId = paid.TermsId,
                        Answers = paid.Answers,
                        ClientNote = paid.Note,
                        RangeHash = paid.Origin.Range,
                        DeviceHash = paid.Origin.Device,
                    },
                    held
                );
                PaymentStore.Book(transaction, payment, stored, card);
                if (payment.Amount > 0)
                    LedgerStore.Post(
                        transaction,
                        LedgerEntry.OfDeposit(Account.CardClearing, payment.Amount),
                        new LedgerSource(payment.LocationId, LedgerReason.Deposit, stored.Visit.PayerId, stored.Visit.Id, payment.Id)
                    );
                await CommitAsync(transaction);
                return stored;
            },
            also: exception => exception.ConstraintName == BookStore.ReferenceTaken
        );

    private static PaymentState Return(BookTransaction transaction, PaymentRow payment, bool isTaken, string because)
    {
        if (isTaken && payment.Amount > 0)
            LedgerStore.Post(
                transaction,
                LedgerEntry.OfDeposit(Account.CardClearing, payment.Amount),
                new LedgerSource(payment.LocationId, LedgerReason.Deposit, null, null, payment.Id)
            );
        return PaymentStore.Go(transaction, payment, PaymentState.Returning, because);
    }

    /// <summary>Changes a payment with the day of its time locked, as long as that is kept; at the desk none is.</summary>
    private Task<PaymentState> WithHoldAsync(PaymentRow payment, Func<BookTransaction, StoredProposal?, PaymentState> change) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            StoredProposal? seen = payment.HoldHash is { } hash ? await BookStore.ProposalAsync(connection, hash) : null;
            await using BookTransaction transaction = await BookTransaction.BeginAsync(
                connection,
                _choosing.ChangeAt(clock.GetCurrentInstant())
            );
            LockedBook locked = await transaction.LockAsync(
                new BookLocks { Days = seen is null ? [] : [DateOf(seen)] },
                new BookQuestion { ProposalToken = payment.HoldHash }
            );
            PaymentState now = change(transaction, locked.Proposal);
            await CommitAsync(transaction);
            return now;
        });

    private static Refused PaymentDue(Setup setup, Guarantee due)
    {
        Refused refused = new(
            StatusCodes.Status409Conflict,
            "payment-due",
            "Something is due before this is booked. Look at it once more, then go on to the card.",
            "price"
        );
        refused.More["due"] = new MoneyAnswer(due.Deposit, setup.Business.Currency);
        refused.More["needsCard"] = due.NeedsCard;
        return refused;
    }

    private static Refused NothingDue() =>
        new(
            StatusCodes.Status409Conflict,
            "price-changed",
            "Nothing is due for this any more. Look at it once more, then book.",
            "price"
        );
}
