using System.Net;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text;
using Kingcup.Core.Money;
using Kingcup.Storage;

namespace Kingcup.Server.Money;

/// <summary>What a client is led to the gateway for.</summary>
/// <param name="Id">Our name of it, and the key that makes it be begun once.</param>
/// <param name="Payee">Who is paid, as the client knows them.</param>
/// <param name="Amount">Minor units; 0 where a card is only kept.</param>
/// <param name="Currency">ISO 4217.</param>
/// <param name="ReturnAddress">Where the browser is led then.</param>
public sealed record CardOrder(Guid Id, string Payee, long Amount, string Currency, string ReturnAddress);

/// <summary>What has come of it.</summary>
/// <param name="Id">The gateway's name of it.</param>
/// <param name="State">Where it stands.</param>
/// <param name="Card">The card that was entered, or null.</param>
/// <param name="Page">Where a card is entered.</param>
public sealed record CardSession(string Id, CardState State, GatewayCard? Card, string Page);

/// <summary>The gateway gave no answer, or none that says anything: whether it has done what it was asked is not known.</summary>
public sealed class GatewayAwayException : Exception
{
    /// <summary>Makes one.</summary>
    public GatewayAwayException(string message, Exception? inner = null)
        : base(message, inner) { }
}

/// <summary>
/// A service that takes money from cards. Each of these may be asked for again, and does its work once. Whoever plugs in a real one
/// writes these operations.
/// </summary>
public interface ICardGateway
{
    /// <summary>Whether one is set up.</summary>
    public bool IsThere { get; }

    /// <summary>Begins to have a card entered.</summary>
    /// <exception cref="GatewayAwayException">It is not known whether it was done.</exception>
    public Task<CardSession> BeginAsync(CardOrder order);

    /// <summary>Has the card terminal at the desk ask for a card; whoever waits there is served in turn.</summary>
    /// <exception cref="GatewayAwayException">It is not known whether it was done.</exception>
    public Task<CardSession> AskTerminalAsync(CardOrder order);

    /// <summary>Where it stands; null where the gateway knows nothing of it.</summary>
    /// <exception cref="GatewayAwayException">It gave no answer.</exception>
    public Task<CardSession?> FindAsync(string id);

    /// <summary>Takes what the bank has agreed to.</summary>
    /// <exception cref="GatewayAwayException">It is not known whether it was done.</exception>
    public Task CaptureAsync(string id);

    /// <summary>Lets go of what the bank has agreed to, and has nobody pay any more.</summary>
    /// <exception cref="GatewayAwayException">It is not known whether it was done.</exception>
    public Task ReleaseAsync(string id);

    /// <summary>Gives money back.</summary>
    /// <param name="id">The gateway's name of what was taken.</param>
    /// <param name="amount">Minor units.</param>
    /// <param name="key">Makes it be given back once.</param>
    /// <exception cref="GatewayAwayException">It is not known whether it was done.</exception>
    public Task RefundAsync(string id, long amount, string key);

    /// <summary>Takes money from a card that is kept.</summary>
    /// <param name="card">The gateway's name of the card.</param>
    /// <param name="amount">Minor units.</param>
    /// <param name="currency">ISO 4217.</param>
    /// <param name="key">Makes it be taken once.</param>
    /// <returns>False where the bank declines.</returns>
    /// <exception cref="GatewayAwayException">It is not known whether it was done.</exception>
    public Task<bool> ChargeAsync(string card, long amount, string currency, string key);

    /// <summary>Whether news comes from the gateway.</summary>
    /// <param name="body">What was sent.</param>
    /// <param name="signature">What it is signed with.</param>
    public bool IsSigned(byte[] body, string signature);
}

/// <summary>Talks to the gateway that stands in for a real one, over HTTP.</summary>
internal sealed class StandInGateway(IHttpClientFactory clients, IConfiguration settings) : ICardGateway
{
    /// <summary>Name of the HTTP client.</summary>
    internal const string Client = "card-gateway";

    private readonly string? _address = settings["CardGateway:Address"];
    private readonly string _key = settings["CardGateway:Key"] ?? "";
    private readonly byte[] _newsKey = Encoding.UTF8.GetBytes(settings["CardGateway:NewsKey"] ?? "");

    public bool IsThere => !string.IsNullOrEmpty(_address);

    private sealed record Answer(string Id, string State, AnsweredCard? Card, string Page);

    private sealed record Charged(string State);

    private sealed record AnsweredCard(string Token, string Last, string Expires);

    public Task<CardSession> BeginAsync(CardOrder order) => BeginAsync(order, atTerminal: false);

    public Task<CardSession> AskTerminalAsync(CardOrder order) => BeginAsync(order, atTerminal: true);

    private async Task<CardSession> BeginAsync(CardOrder order, bool atTerminal) =>
        await AskAsync(
            HttpMethod.Post,
            "/v1/sessions",
            new
            {
                reference = order.Id.ToString(),
                order.Payee,
                order.Amount,
                order.Currency,
                order.ReturnAddress,
                atTerminal,
            },
            order.Id.ToString()
        ) ?? throw new GatewayAwayException("The gateway begins nothing.");

    public Task<CardSession?> FindAsync(string id) => AskAsync(HttpMethod.Get, $"/v1/sessions/{id}");

    public Task CaptureAsync(string id) => AskAsync(HttpMethod.Post, $"/v1/sessions/{id}/capture", new { }, $"capture {id}");

    public Task ReleaseAsync(string id) => AskAsync(HttpMethod.Post, $"/v1/sessions/{id}/end", new { }, $"end {id}");

    public Task RefundAsync(string id, long amount, string key) =>
        AskAsync(HttpMethod.Post, $"/v1/sessions/{id}/refunds", new { amount }, key);

    public bool IsSigned(byte[] body, string signature) =>
        _newsKey.Length > 0
        && CryptographicOperations.FixedTimeEquals(
            Encoding.ASCII.GetBytes(Convert.ToHexStringLower(HMACSHA256.HashData(_newsKey, body))),
            Encoding.ASCII.GetBytes(signature)
        );

    public async Task<bool> ChargeAsync(string card, long amount, string currency, string key) =>
        await SendAsync<Charged>(
            HttpMethod.Post,
            "/v1/charges",
            new
            {
                card,
                amount,
                currency,
                reference = key,
            },
            key
        )
            is { State: "captured" };

    private async Task<CardSession?> AskAsync(HttpMethod method, string path, object? body = null, string? key = null) =>
        await SendAsync<Answer>(method, path, body, key) is { } answer
            ? new CardSession(answer.Id, StateOf(answer.State), CardOf(answer.Card), answer.Page)
            : null;

    /// <returns>Null where the gateway knows nothing of it.</returns>
    private async Task<T?> SendAsync<T>(HttpMethod method, string path, object? body, string? key)
        where T : class
    {
        if (!IsThere) throw new GatewayAwayException("No gateway is set up.");
        try
        {
            using HttpClient client = clients.CreateClient(Client);
            using HttpRequestMessage request = new(method, new Uri(_address!.TrimEnd('/') + path));
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", _key);
            if (key is not null) request.Headers.Add("Idempotency-Key", key);
            if (body is not null) request.Content = JsonContent.Create(body);
            using HttpResponseMessage response = await client.SendAsync(request);
            if (response.StatusCode == HttpStatusCode.NotFound) return null;
            if (!response.IsSuccessStatusCode) throw new GatewayAwayException($"The gateway answers {(int)response.StatusCode}.");
            return await response.Content.ReadFromJsonAsync<T>();
        }
        catch (Exception exception) when (exception is HttpRequestException or TaskCanceledException or System.Text.Json.JsonException)
        {
            throw new GatewayAwayException("The gateway gives no answer.", exception);
        }
    }

    private static GatewayCard? CardOf(AnsweredCard? card) => card is null ? null : new GatewayCard(card.Token, card.Last, card.Expires);

    private static CardState StateOf(string state) => state switch
    {
        "open" => CardState.Open,
        "authorised" => CardState.Authorised,
        "captured" => CardState.Captured,
        "refunded" => CardState.Refunded,
        "declined" => CardState.Declined,
        "ended" => CardState.Ended,
        _ => throw new GatewayAwayException("The gateway says something unknown."),
    };
}
