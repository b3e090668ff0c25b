using System.Text.Json;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Money;

/// <summary>
/// Brings payments to their end. Each step asks the gateway where things stand and does what the rules say is next; any step may be
/// done twice, on two servers, or after a crash.
/// </summary>
internal sealed class PaymentDesk(Database database, BookReader book, BookingDesk desk, ICardGateway gateway, IClock clock)
{
    // Every payment is settled in fewer steps; whatever goes round in circles is left to the next time.
    private const int MostSteps = 8;

    /// <summary>Goes on with a payment as far as it can be.</summary>
    /// <returns>The payment as it stands then, or null where there is none.</returns>
    /// <exception cref="GatewayAwayException">The gateway gives no answer; it is gone on with later.</exception>
    internal async Task<PaymentRow?> SettleAsync(Guid id)
    {
        Standing standing = default;
        for (int step = 0; ; step++)
        {
            PaymentRow? payment = standing.Payment ?? await FindAsync(id);
            if (payment is null or { PaymentState: PaymentState.Booked or PaymentState.Ended } || step == MostSteps) return payment;
            bool isOver = payment.ExpiresAt <= clock.GetCurrentInstant();
            CardSession? session = standing.Session;
            if (session is null) (payment, session) = await SessionAsync(payment);
            // Nobody can have paid for what the gateway knows nothing of.
            CardState card = session?.State ?? (isOver || payment.GatewayId is not null ? CardState.Ended : CardState.Open);
            try
            {
                if (await GoOnAsync(payment, session, card, isOver) is not { } next) return payment;
                standing = next;
            }
            catch (Refused refused) when (refused.Code == "busy")
            {
                // Somebody else has gone on with it in the same moment.
                standing = default;
            }
        }
    }

    /// <summary>Where a payment stands after a step.</summary>
    /// <param name="Payment">The payment, or null where it has to be read again.</param>
    /// <param name="Session">What the gateway says of it, or null where it has to be asked again.</param>
    private readonly record struct Standing(PaymentRow? Payment, CardSession? Session);

    private async Task<PaymentRow?> FindAsync(Guid id)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return await PaymentStore.FindAsync(connection, id);
    }

    /// <summary>What the gateway says of a payment.</summary>
    private async Task<(PaymentRow, CardSession?)> SessionAsync(PaymentRow payment)
    {
        if (payment.GatewayId is { } known) return (payment, await gateway.FindAsync(known));
        if (payment is not { PaymentWay: PaymentWay.Terminal, PaymentState: PaymentState.Open }) return (payment, null);
        // Whether the terminal has been asked already is not known until it says so; asked again, it asks for one card.
        CardSession asked = await BeginAsync(payment, "");
        return (payment with { GatewayId = asked.Id }, asked);
    }

    /// <summary>Has the gateway begin to take a payment, once however often it is asked.</summary>
    /// <param name="payment">The payment.</param>
    /// <param name="returnAddress">Where the browser is led from the card page; empty at the terminal.</param>
    /// <exception cref="GatewayAwayException">It is not known whether it was done.</exception>
    internal async Task<CardSession> BeginAsync(PaymentRow payment, string returnAddress)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        string payee = (await book.SetupAsync(connection)).Business.Name;
        CardOrder order = new(payment.Id, payee, payment.Amount, payment.Currency, returnAddress);
        CardSession session = payment.PaymentWay == PaymentWay.Terminal
            ? await gateway.AskTerminalAsync(order)
            : await gateway.BeginAsync(order);
        await PaymentStore.NameAsync(connection, payment.Id, session.Id);
        return session;
    }

    /// <returns>Null where somebody else has to do something first.</returns>
    private async Task<Standing?> GoOnAsync(PaymentRow payment, CardSession? session, CardState card, bool isOver)
    {
        bool isTaken = card == CardState.Captured;
        switch (PaymentRules.Next(payment.PaymentState, card, payment.Amount > 0, isOver))
        {
            case PaymentStep.Decide:
                // Whoever decides it has it: at the gateway nothing has changed by that.
                PaymentState decided = await desk.DecideAsync(payment, isTaken);
                return new Standing(payment with { State = decided.ToString() }, session);
            case PaymentStep.Capture:
                await gateway.CaptureAsync(payment.GatewayId!);
                return new Standing(payment, null);
            case PaymentStep.Book when payment.PaymentWay == PaymentWay.Page:
                Setup setup = await SetupAsync();
                StoredVisit? visit = await desk.BookPaidAsync(payment, await WantedAsync(payment, setup), session!.Card, setup);
                if (visit is not null)
                    return new Standing(payment with { State = nameof(PaymentState.Booked), VisitId = visit.Visit.Id }, session);
                await desk.ReturnAsync(payment, isTaken);
                return default(Standing);
            case PaymentStep.Book:
                if (!await desk.KeepDepositAsync(payment)) await desk.ReturnAsync(payment, isTaken);
                return default(Standing);
            case PaymentStep.Release:
                if (payment.GatewayId is { } released) await gateway.ReleaseAsync(released);
                return default(Standing);
            case PaymentStep.Refund:
                await gateway.RefundAsync(payment.GatewayId!, payment.Amount, $"refund {payment.Id}");
                return default(Standing);
            case PaymentStep.End:
                await desk.EndAsync(
                    payment,
                    card == CardState.Refunded ? payment.Amount : 0,
                    card == CardState.Declined ? "declined" : isOver ? "late" : "left"
                );
                return default(Standing);
            default:
                return null;
        }
    }

    private async Task<Setup> SetupAsync()
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return await book.SetupAsync(connection);
    }

    private async Task<PaidBooking> WantedAsync(PaymentRow payment, Setup setup)
    {
        KeptBooking kept = JsonSerializer.Deserialize<KeptBooking>(payment.Wanted!, KeptBooking.Json)!;
        // All of it was checked when the payment was begun. Questions that were changed since bind nobody who has paid.
        (ClientRow stranger, List<VisitAnswerRow> answers) = PublicBooking.WhoOf(
            setup,
            kept.Request,
            await PublicAnswers.FilesAsync(database, setup, kept.Request, Instant.MinValue),
            clock.GetCurrentInstant(),
            new Checks()
        );
        return new PaidBooking
        {
            Stranger = stranger,
            ShownId = kept.Request.As,
            PayerId = kept.PayerId,
            People = PublicBooking.PeopleOf(kept.Request, new Checks()),
            Answers = answers,
            Note = PublicBooking.NoteOf(kept.Request, new Checks()),
            Agreed = PublicBooking.AgreedTo(kept.Request),
            TermsId = kept.Request.AcceptedTerms,
            Origin = kept.Origin,
            Terms = kept.Terms,
        };
    }

    /// <summary>Has the gateway do what is due: money that goes back, fees from cards that are kept.</summary>
    /// <exception cref="GatewayAwayException">The gateway gives no answer; it is asked again later.</exception>
    internal async Task WorkAsync(int most)
    {
        IReadOnlyList<CardWork> works;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            works = await CardWorkStore.TakeAsync(connection, clock.GetCurrentInstant(), most);
        foreach (CardWork work in works)
        {
            string name;
            await using (NpgsqlConnection connection = await database.OpenAsync())
                name = await CardWorkStore.GatewayNameAsync(connection, work);
            bool isTaken = true;
            if (work.Kind == "Refund") await gateway.RefundAsync(name, work.Amount, work.Id.ToString());
            else isTaken = await gateway.ChargeAsync(name, work.Amount, work.Currency, work.Id.ToString());
            try
            {
                await desk.SettleCardWorkAsync(work, isTaken);
            }
            catch (Refused refused) when (refused.Code == "busy")
            {
                // Another server has done the same, and said so.
            }
        }
    }

    /// <summary>Has nobody pay any more, and gives the time back.</summary>
    internal async Task<PaymentRow?> LeaveAsync(Guid id)
    {
        PaymentRow? payment;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            payment = await PaymentStore.FindAsync(connection, id);
        if (payment is not { PaymentState: PaymentState.Open }) return await SettleAsync(id);
        // Of the terminal it has to be known what it calls it, before it can be told to stop.
        (payment, _) = await SessionAsync(payment);
        if (payment.GatewayId is { } known) await gateway.ReleaseAsync(known);
        else await desk.EndAsync(payment, 0, "left");
        return await SettleAsync(id);
    }
}

/// <summary>Goes on with payments somebody has left in the middle: a closed page, a killed server, a gateway that was away.</summary>
internal sealed partial class PaymentSweep(
    Database database,
    PaymentDesk payments,
    ICardGateway gateway,
    IClock clock,
    IConfiguration settings,
    ILogger<PaymentSweep> log
) : BackgroundService
{
    private const int MostAtOnce = 50,
        UsualSeconds = 15;
    private readonly TimeSpan _every = TimeSpan.FromSeconds(settings.GetValue("Payments:SweepSeconds", UsualSeconds));

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (!gateway.IsThere) return;
        using PeriodicTimer timer = new(_every);
        do
        {
            try
            {
                await SweepAsync();
            }
            catch (Exception exception) when (exception is NpgsqlException or TimeoutException)
            {
                PutOff(log, exception);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private async Task SweepAsync()
    {
        IReadOnlyList<Guid> left;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            left = await PaymentStore.LeftAsync(connection, clock.GetCurrentInstant(), MostAtOnce);
        foreach (Guid id in left)
        {
            try
            {
                await payments.SettleAsync(id);
            }
            catch (GatewayAwayException exception)
            {
                PutOff(log, exception);
                return;
            }
            catch (Refused exception)
            {
                PutOff(log, exception);
            }
        }

        try
        {
            await payments.WorkAsync(MostAtOnce);
        }
        catch (GatewayAwayException exception)
        {
            PutOff(log, exception);
        }
    }

    [LoggerMessage(LogLevel.Warning, "Settling payments was put off")]
    private static partial void PutOff(ILogger log, Exception exception);
}
