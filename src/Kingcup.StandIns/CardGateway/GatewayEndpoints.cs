using System.Security.Cryptography;
using System.Text;
using Kingcup.StandIns.Trays;

namespace Kingcup.StandIns.CardGateway;

/// <summary>What a session is begun with.</summary>
internal sealed record BeginRequest(
    string Reference,
    string Payee,
    long Amount,
    string Currency,
    string ReturnAddress,
    bool AtTerminal = false
);

/// <summary>A sum in minor units.</summary>
internal sealed record AmountRequest(long Amount);

/// <summary>A charge of a card that is kept.</summary>
internal sealed record ChargeRequest(string Card, long Amount, string Currency, string Reference);

/// <summary>A session as whoever began it reads it.</summary>
internal sealed record SessionAnswer(
    string Id,
    string Reference,
    string State,
    long Amount,
    long Refunded,
    Card? Card,
    string Page
);

/// <summary>What programs ask the gateway, each with the key it gave them.</summary>
internal static class GatewayEndpoints
{
    internal static void Map(WebApplication app)
    {
        byte[] key = Encoding.UTF8.GetBytes("Bearer " + app.Configuration["Key"]);
        RouteGroupBuilder group = app.MapGroup("/v1").AddEndpointFilter(async (context, next) =>
        {
            string sent = context.HttpContext.Request.Headers.Authorization.ToString();
            return CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(sent), key)
                ? await next(context)
                : Results.Problem("The key is wrong.", statusCode: 401);
        });
        group.MapPost("/sessions", BeginAsync);
        group.MapGet("/sessions/{id}", FindAsync);
        group.MapPost("/sessions/{id}/capture", CaptureAsync);
        group.MapPost("/sessions/{id}/end", EndAsync);
        group.MapPost("/sessions/{id}/refunds", RefundAsync);
        group.MapPost("/charges", ChargeAsync);
        group.MapGet("/totals", (Gateway gateway) =>
        {
            (long taken, long refunded) = gateway.Totals();
            return new { taken, refunded };
        });
        group.MapPost("/faults", (FaultRequest fault) =>
        {
            Faults.Set(fault);
            return Results.NoContent();
        });
        TextEndpoints.Map(group);
    }

    private static string KeyOf(HttpContext http) => http.Request.Headers["Idempotency-Key"].ToString();

    private static SessionAnswer Told(HttpContext http, Session session) =>
        new(
            session.Id,
            session.Reference,
            session.State,
            session.Amount,
            session.Refunded,
            session.Card,
            $"{http.Request.Scheme}://{http.Request.Host}/pay/{session.Id}"
        );

    /// <summary>Does what is asked, unless it is to go wrong.</summary>
    private static async Task<IResult> WithFaultsAsync(HttpContext http, string operation, Func<IResult> run)
    {
        switch (Faults.Next(operation))
        {
            case null:
                return run();
            case "slow":
                await Task.Delay(TimeSpan.FromSeconds(4));
                return run();
            case "lost":
                run();
                http.Abort();
                return Results.Empty;
            default:
                return Results.Problem("The gateway is away.", statusCode: 503);
        }
    }

    private static Task<IResult> BeginAsync(BeginRequest request, HttpContext http, Gateway gateway) =>
        WithFaultsAsync(http, "begin", () =>
            request.Amount < 0 || request.Currency.Length != 3 || KeyOf(http).Length < 8
                ? Results.Problem("An amount, a currency and an Idempotency-Key are needed.", statusCode: 400)
                : Results.Ok(Told(http, gateway.Begin(KeyOf(http), () => new Session
                {
                    Id = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
                    Reference = request.Reference,
                    Payee = request.Payee,
                    Amount = request.Amount,
                    Currency = request.Currency,
                    ReturnAddress = request.ReturnAddress,
                    AtTerminal = request.AtTerminal,
                }))));

    private static Task<IResult> FindAsync(string id, HttpContext http, Gateway gateway) =>
        WithFaultsAsync(http, "find", () => gateway.Find(id) is { } session ? Results.Ok(Told(http, session)) : Results.NotFound());

    private static async Task<IResult> CaptureAsync(string id, HttpContext http, Gateway gateway, News news)
    {
        Behaviour behaviour = gateway.Find(id)?.Card is { } card ? gateway.BehaviourOf(card.Token) ?? Behaviour.Good : Behaviour.Good;
        if (behaviour == Behaviour.Slow) await Task.Delay(TimeSpan.FromSeconds(4));
        return await WithFaultsAsync(http, "capture", () =>
        {
            bool isNew = false, isLost = false;
            Session? session = gateway.Change(id, session =>
            {
                if (session.State != "authorised") return session;
                if (behaviour == Behaviour.DeclinedAtCapture) return session with { State = "declined" };
                isNew = true;
                isLost = behaviour == Behaviour.AnswerLost && !session.WasLost;
                return session with { State = "captured", WasLost = isLost };
            });
            if (session is null) return Results.NotFound();
            if (isNew) news.Tell(session, behaviour);
            if (!isLost) return Results.Ok(Told(http, session));
            http.Abort();
            return Results.Empty;
        });
    }

    private static Task<IResult> EndAsync(string id, HttpContext http, Gateway gateway) =>
        WithFaultsAsync(http, "end", () =>
            gateway.Change(
                id,
                found => found.State is "open" or "authorised" or "declined" ? found with { State = "ended" } : found
            )
                is { } session
                ? Results.Ok(Told(http, session))
                : Results.NotFound());

    private static Task<IResult> RefundAsync(string id, AmountRequest request, HttpContext http, Gateway gateway) =>
        WithFaultsAsync(http, "refund", () =>
        {
            if (KeyOf(http).Length < 8) return Results.Problem("An Idempotency-Key is needed.", statusCode: 400);
            Session? session = gateway.Find(id);
            if (session is null) return Results.NotFound();
            if (session.State is not ("captured" or "refunded")) return Results.Problem("Nothing was taken.", statusCode: 409);
            if (gateway.Take($"refund {KeyOf(http)}"))
            {
                if (request.Amount < 1 || session.Refunded + request.Amount > session.Amount)
                    return Results.Problem("More than was taken.", statusCode: 409);
                session = gateway.Change(id, found => found with
                {
                    Refunded = found.Refunded + request.Amount,
                    State = found.Refunded + request.Amount == found.Amount ? "refunded" : found.State,
                });
            }

            return Results.Ok(Told(http, session!));
        });

    private static Task<IResult> ChargeAsync(ChargeRequest request, HttpContext http, Gateway gateway) =>
        WithFaultsAsync(http, "charge", () =>
        {
            if (KeyOf(http).Length < 8 || request.Amount < 1)
                return Results.Problem("An amount and an Idempotency-Key are needed.", statusCode: 400);
            if (gateway.BehaviourOf(request.Card) is not { } behaviour) return Results.NotFound();
            return Results.Ok(gateway.ChargeOnce(KeyOf(http), () => new Charge(
                Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)),
                behaviour == Behaviour.DeclinedLater ? "declined" : "captured",
                request.Amount
            )));
        });
}
