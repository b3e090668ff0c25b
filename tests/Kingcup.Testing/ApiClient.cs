using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Kingcup.Testing;

/// <summary>An answer: its status and its JSON.</summary>
public sealed record ApiAnswer(HttpStatusCode Status, JsonNode? Body)
{
    /// <summary>After how long to try again, where it says so.</summary>
    public TimeSpan? RetryAfter { get; init; }

    public string? Code => Body?["code"]?.GetValue<string>();

    public string? Field => Body?["field"]?.GetValue<string>();

    /// <summary>What is wrong with a field, or null.</summary>
    public string? Error(string field) => (Body?["errors"]?[field]?[0] ?? (Field == field ? Body?["detail"] : null))?.GetValue<string>();
}

/// <summary>Somebody who talks to the server over HTTP, with a cookie jar of their own.</summary>
public sealed class ApiClient : IDisposable
{
    private readonly HttpClient _http;
    private string? _token;

    public ApiClient(ServerProcess server)
    {
        _http = new HttpClient(
            new SocketsHttpHandler { CookieContainer = new CookieContainer(), PooledConnectionLifetime = TimeSpan.FromMinutes(5) }
        )
        {
            BaseAddress = server.Address,
            Timeout = TimeSpan.FromSeconds(60),
        };
    }

    public static async Task<ApiClient> SignedInAsync(ServerProcess server, string email = "desk@harrowmere.test")
    {
        ApiClient client = new(server);
        ApiAnswer answer = await client.PostAsync("/api/v1/session", new { email, password = Demo.DemoLoader.Password });
        if (answer.Status != HttpStatusCode.OK) throw new InvalidOperationException($"Sign-in answered {answer.Status}.");
        client._token = answer.Body!["token"]!.GetValue<string>();
        return client;
    }

    public Task<ApiAnswer> GetAsync(string path) => SendAsync(HttpMethod.Get, path, null);

    /// <summary>What is answered as text, which has to succeed.</summary>
    public Task<string> TextAsync(string path) => _http.GetStringAsync(new Uri(path, UriKind.Relative));

    public Task<ApiAnswer> PostAsync(string path, object body, params (string Name, string Value)[] headers) =>
        SendAsync(HttpMethod.Post, path, JsonContent.Create(body, options: JsonSerializerOptions.Web), headers);

    public async Task<ApiAnswer> SendAsync(
        HttpMethod method,
        string path,
        HttpContent? content,
        params (string Name, string Value)[] headers
    )
    {
        using HttpRequestMessage request = new(method, path) { Content = content };
        if (_token is not null) request.Headers.Add("X-Kingcup-Token", _token);
        foreach ((string name, string value) in headers) request.Headers.TryAddWithoutValidation(name, value);
        using HttpResponseMessage response = await _http.SendAsync(request);
        string text = await response.Content.ReadAsStringAsync();
        bool json = response.Content.Headers.ContentType?.MediaType?.EndsWith("json", StringComparison.Ordinal) == true;
        return new ApiAnswer(response.StatusCode, json && text.Length > 0 ? JsonNode.Parse(text) : null)
        {
            RetryAfter = response.Headers.RetryAfter?.Delta,
        };
    }

    /// <summary>Forgets the token, as a forged request would lack it.</summary>
    public void ForgetToken() => _token = null;

    public void Dispose() => _http.Dispose();
}
