using System.Text.Json;
using Kingcup.Core.Business;
using Kingcup.Core.Forms;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Clients;
using Kingcup.Server.Money;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>A payment that was begun.</summary>
/// <param name="Token">Names it from here on.</param>
/// <param name="Due">What is to be paid; nothing where only a card is kept.</param>
/// <param name="Until">Until when.</param>
public sealed record PublicPayment(string Token, MoneyAnswer Due, Instant Until);

/// <summary>A payment somebody asks about.</summary>
/// <param name="Token">What names it.</param>
/// <param name="Back">What of the booking page's address is to be led back to: nothing, or what begins with a question mark.</param>
public sealed record PublicPaymentRequest(string? Token, string? Back = null);

/// <summary>Where a card is entered.</summary>
/// <param name="Address">The gateway's page.</param>
public sealed record PublicCardPage(string Address);

/// <summary>Where a payment stands.</summary>
/// <param name="State">"waiting" for a card, "settling" while the bank is asked, "booked" or "ended".</param>
/// <param name="Visit">What was booked, or null.</param>
/// <param name="Because">Why nothing was booked, or null.</param>
public sealed record PublicPaid(string State, PublicVisit? Visit, string? Because);

/// <summary>Paying for a visit before it is booked.</summary>
internal static class PublicPayments
{
    private const int LongestBack = 2000;

    internal static void Map(RouteGroupBuilder group)
    {
        group
            .MapPost("/payments", BeginAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Keeps the time of a visit for whoever pays what is due first. Needs an Idempotency-Key.")
            .ProducesProblem(409)
            .ProducesProblem(422);
        group
            .MapPost("/payments/page", PageAsync)
            .Limit(Limits.PublicHold)
            .WithSummary("Where the card is entered.")
            .ProducesProblem(404)
            .ProducesProblem(409)
            .ProducesProblem(503);
        group
            .MapPost("/payments/finish", FinishAsync)
            .Limit(Limits.PublicHold)
            .WithSummary("Where a payment stands; books the visit once it is paid.")
            .ProducesProblem(404);
        group
            .MapPost("/payments/leave", LeaveAsync)
            .Limit(Limits.PublicHold)
            .WithSummary("Leaves a payment that was not made, and gives the time back.")
            .ProducesProblem(404);
        group
            .MapPost("/card-news", NewsAsync)
            .Limit(Limits.PublicRead)
            .WithSummary("Takes what the card gateway tells, signed.")
            .Accepts<object>("application/json")
            .ProducesProblem(401);
    }

    private static async Task<Created<PublicPayment>> BeginAsync(
        PublicBookRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        Addresses addresses,
        VisitTokens tokens,
        ICardGateway gateway,
        IClock clock
    )
    {
        PublicEndpoints.CheckLines(request.Lines);
        Checks.Within(request);
        RequestKey key = PublicBooking.KeyOf(http);
        Setup setup = await book.SetupAsync(database, key);
        VisitTokens.Seal seal = await tokens.SealAsync(database);
        Instant now = clock.GetCurrentInstant();
        (request, ShownClient? shown) = await PublicBooking.ShownAsync(setup, request, http, database, now);
        BookingOrder order = PublicBooking.OrderOf(
            setup,
            request,
            shown,
            await PublicBooking.OriginAsync(request, http, addresses),
            await PublicAnswers.FilesAsync(database, setup, request, now - AnswerFiles.Taken),
            now
        );
        if (!gateway.IsThere) throw Away();
        PublicPayment? begun = null;
        await desk.BeginPaymentAsync(
            order,
            new PaymentOrder(
                Guid.CreateVersion7(),
                terms => JsonSerializer.Serialize(new KeptBooking(request, order.Origin!, terms, order.PayerId), KeptBooking.Json)
            ),
            PublicBooking.Actor,
            key,
            payment => new Answered(
                null,
                begun = new PublicPayment(
                    seal.TokenOfPayment(payment.Id),
                    new MoneyAnswer(payment.Amount, payment.Currency),
                    payment.ExpiresAt
                )
            ),
            setup
        );
        return TypedResults.Created((string?)null, begun!);
    }

    private static async Task<Ok<PublicCardPage>> PageAsync(
        PublicPaymentRequest request,
        HttpContext http,
        Database database,
        VisitTokens tokens,
        PaymentDesk payments,
        IConfiguration settings
    )
    {
        Guid id = await IdOfAsync(request, database, tokens);
        string back = request.Back ?? "";
        if (back.Length > LongestBack || (back.Length > 0 && back[0] != '?') || back.Any(letter => letter is <= ' ' or '#' or '\\'))
            throw Refused.Invalid("back", "Send what stands behind the question mark of the page's address, with it.");
        PaymentRow payment;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            payment = await PaymentStore.FindAsync(connection, id) ?? throw NoPayment();
        if (payment.PaymentState != PaymentState.Open)
            throw new Refused(StatusCodes.Status409Conflict, "payment-settled", "This payment is settled. Look at what became of it.");
        return await ToCardAsync(payments, payment, $"{Own(http, settings)}/book{back}#paid={request.Token}");
    }

    /// <summary>Where clients reach this server.</summary>
    internal static string Own(HttpContext http, IConfiguration settings) =>
        settings["Address"]?.TrimEnd('/') is { Length: > 0 } address ? address : $"{http.Request.Scheme}://{http.Request.Host}";

    /// <summary>Where the card is entered for a payment.</summary>
    /// <param name="payments">Begins it.</param>
    /// <param name="payment">The payment.</param>
    /// <param name="returnAddress">Where the browser is led then.</param>
    /// <exception cref="Refused">The card page is away.</exception>
    internal static async Task<Ok<PublicCardPage>> ToCardAsync(PaymentDesk payments, PaymentRow payment, string returnAddress)
    {
        try
        {
            return TypedResults.Ok(new PublicCardPage((await payments.BeginAsync(payment, returnAddress)).Page));
        }
        catch (GatewayAwayException)
        {
            throw Away();
        }
    }

    private static Task<Ok<PublicPaid>> FinishAsync(
        PublicPaymentRequest request,
        Database database,
        BookReader book,
        VisitTokens tokens,
        PaymentDesk payments,
        IClock clock
    ) => AfterAsync(payments.SettleAsync, request, database, book, tokens, clock);

    private static Task<Ok<PublicPaid>> LeaveAsync(
        PublicPaymentRequest request,
        Database database,
        BookReader book,
        VisitTokens tokens,
        PaymentDesk payments,
        IClock clock
    ) => AfterAsync(payments.LeaveAsync, request, database, book, tokens, clock);

    /// <summary>Goes on with a payment, and tells where it stands then.</summary>
    private static async Task<Ok<PublicPaid>> AfterAsync(
        Func<Guid, Task<PaymentRow?>> goOn,
        PublicPaymentRequest request,
        Database database,
        BookReader book,
        VisitTokens tokens,
        IClock clock
    )
    {
        Guid id = await IdOfAsync(request, database, tokens);
        try
        {
            return TypedResults.Ok(await ToldAsync(await goOn(id), database, book, tokens, clock));
        }
        catch (GatewayAwayException)
        {
            return TypedResults.Ok(new PublicPaid("settling", null, null));
        }
    }

    private static async Task<PublicPaid> ToldAsync(
        PaymentRow? payment,
        Database database,
        BookReader book,
        VisitTokens tokens,
        IClock clock
    )
    {
        switch (payment?.PaymentState)
        {
            case null:
                throw NoPayment();
            case PaymentState.Open:
                return new PublicPaid("waiting", null, null);
            case PaymentState.Booked:
                VisitTokens.Seal seal = await tokens.SealAsync(database);
                await using (NpgsqlConnection connection = await database.OpenAsync())
                {
                    Setup setup = await book.SetupAsync(connection);
                    StoredVisit visit = (await BookStore.FindAsync(connection, payment.VisitId!.Value))!;
                    PublicVisit booked = PublicBooking.Booked(setup, visit, seal, clock.GetCurrentInstant());
                    booked = booked with
                    {
                        Paid = new MoneyAnswer(payment.Amount, payment.Currency),
                        Rest = new MoneyAnswer(booked.Price.Amount - payment.Amount, payment.Currency),
                    };
                    return new PublicPaid("booked", booked, null);
                }

            case PaymentState.Ended:
                return new PublicPaid("ended", null, Because(payment));
            default:
                return new PublicPaid("settling", null, null);
        }
    }

    private static Sentence Because(PaymentRow payment) => payment.EndedBecause switch
    {
        "declined" => "The bank has declined the payment. Nothing was taken, and nothing was booked.",
        "late" => "The time to pay ran out. Nothing was taken, and nothing was booked.",
        "gone" => "The time was gone before it was paid. Nothing was booked, and what was taken goes back to the card.",
        _ => "Nothing was taken, and nothing was booked.",
    };

    private static async Task<Results<NoContent, ProblemHttpResult>> NewsAsync(
        HttpContext http,
        Database database,
        PaymentDesk payments,
        ICardGateway gateway
    )
    {
        using MemoryStream body = new();
        await http.Request.Body.CopyToAsync(body);
        if (!gateway.IsSigned(body.ToArray(), http.Request.Headers["X-Signature"].ToString()))
            throw new Refused(StatusCodes.Status401Unauthorized, "not-signed", "This is not signed by the card gateway.");
        // Only which payment it is about is believed; where it stands the gateway is asked.
        if (IdOf(body.ToArray()) is { } gatewayId)
        {
            PaymentRow? payment;
            await using (NpgsqlConnection connection = await database.OpenAsync())
                payment = await PaymentStore.OfGatewayAsync(connection, gatewayId);
            try
            {
                if (payment is not null) await payments.SettleAsync(payment.Id);
            }
            catch (GatewayAwayException)
            {
                // Settled by the sweep.
            }
        }

        return TypedResults.NoContent();
    }

    private static string? IdOf(byte[] body)
    {
        try
        {
            using JsonDocument news = JsonDocument.Parse(body);
            bool isThere = news.RootElement.TryGetProperty("id", out JsonElement id) && id.ValueKind == JsonValueKind.String;
            return isThere ? id.GetString() : null;
        }
        catch (JsonException)
        {
            return null;
        }
    }

    private static async Task<Guid> IdOfAsync(PublicPaymentRequest request, Database database, VisitTokens tokens) =>
        (await tokens.SealAsync(database)).PaymentOf(request.Token) ?? throw NoPayment();

    private static Refused NoPayment() => Refused.NotFound("There is no such payment.");

    private static Refused Away() =>
        new(
            StatusCodes.Status503ServiceUnavailable,
            "card-page-away",
            "Something is due for this, and the card page is away just now. Try again in a while, or call us."
        );
}
