using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Kingcup.Testing;

/// <summary>The card gateway that stands in for a real one, as a process of its own on a free port.</summary>
public sealed class StandInProcess : IAsyncDisposable
{
    private const string Key = "test-key",
        NewsKey = "test-news";
    private readonly HttpClient _http = new(new SocketsHttpHandler { AllowAutoRedirect = false });
    private readonly int _smtp = ServerProcess.FreePort();
    private Process? _process;

    public StandInProcess()
    {
        Address = new Uri($"http://127.0.0.1:{ServerProcess.FreePort()}");
        _http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", Key);
    }

    public Uri Address { get; }

    /// <summary>What a server is started with that is to use it.</summary>
    public string[] Settings =>
        [
            $"--CardGateway:Address={Address}",
            $"--CardGateway:Key={Key}",
            $"--CardGateway:NewsKey={NewsKey}",
            "--Payments:SweepSeconds=1",
            "--Mail:Server=127.0.0.1",
            $"--Mail:Port={_smtp}",
            "--Mail:From=bookings@harrowmere.test",
            "--Mail:Security=none",
            $"--Texts:Address={Address}",
            $"--Texts:Key={Key}",
            "--Messages:Seconds=0.1",
            "--Messages:ReminderSeconds=0.5",
        ];

    /// <summary>Starts it; it tells its news to a server.</summary>
    public async Task StartAsync(ServerProcess news)
    {
        string kind = AppContext.BaseDirectory.Contains("/Release/", StringComparison.Ordinal) ? "Release" : "Debug";
        ProcessStartInfo start = new("dotnet")
        {
            ArgumentList =
            {
                Path.Combine(ServerProcess.Root(), "src/Kingcup.StandIns/bin", kind, "net10.0/Kingcup.StandIns.dll"),
                "--urls", Address.ToString(),
                "--Smtp", _smtp.ToString(CultureInfo.InvariantCulture),
                "--News", new Uri(news.Address, "/api/public/v1/card-news").ToString(),
            },
            Environment = { ["Key"] = Key, ["NewsKey"] = NewsKey },
            RedirectStandardOutput = true,
        };
        _process = Process.Start(start)!;
        _process.OutputDataReceived += (_, _) => { };
        _process.BeginOutputReadLine();
        using CancellationTokenSource patience = new(TimeSpan.FromSeconds(60));
        while (true)
        {
            try
            {
                if ((await _http.GetAsync(new Uri(Address, "/health"), patience.Token)).IsSuccessStatusCode) return;
            }
            catch (HttpRequestException) when (!_process.HasExited)
            {
                // Not listening yet.
            }

            await Task.Delay(50, patience.Token);
        }
    }

    /// <summary>Enters a card on a page it has led to.</summary>
    /// <param name="page">The page.</param>
    /// <param name="card">The number, one of its test cards.</param>
    /// <returns>Where the browser is led then, or null where the page is shown again.</returns>
    public async Task<Uri?> EnterAsync(string page, string card = "9000 0000 0000 0001")
    {
        using FormUrlEncodedContent form = new(new Dictionary<string, string>
        {
            ["number"] = card,
            ["expires"] = "04/29",
            ["check"] = "123",
            ["what"] = "pay",
        });
        using HttpResponseMessage answer = await _http.PostAsync(new Uri(page), form);
        return answer.StatusCode == HttpStatusCode.Redirect ? answer.Headers.Location : null;
    }

    /// <summary>Holds a card to the terminal, or presses its red key.</summary>
    /// <param name="card">The number, one of its test cards; null for the key.</param>
    /// <returns>Whether the terminal asked for a card, and took this one.</returns>
    public async Task<bool> AtTerminalAsync(string? card = "9000 0000 0000 0001")
    {
        string page = await _http.GetStringAsync(new Uri(Address, "/terminal"));
        Match asks = Regex.Match(page, "action=\"(/terminal/[0-9a-f]+)\"");
        if (!asks.Success) return false;
        using FormUrlEncodedContent form = new(new Dictionary<string, string>
        {
            ["number"] = card ?? "",
            ["what"] = card is null ? "leave" : "pay",
        });
        using HttpResponseMessage answer = await _http.PostAsync(new Uri(Address, asks.Groups[1].Value), form);
        return answer.StatusCode == HttpStatusCode.Redirect;
    }

    /// <summary>Has the next answers of an operation go wrong: "lost", "error" or "slow".</summary>
    public async Task FaultAsync(string operation, string kind, int times = 1) =>
        (await _http.PostAsJsonAsync(new Uri(Address, "/v1/faults"), new { operation, kind, times })).EnsureSuccessStatusCode();

    /// <summary>What has arrived in the tray for an address or number, the latest first.</summary>
    public async Task<JsonArray> ArrivedAsync(string to) =>
        (await _http.GetFromJsonAsync<JsonArray>(new Uri(Address, $"/v1/tray?to={Uri.EscapeDataString(to)}")))!;

    /// <summary>Waits for something to arrive that holds these words in its subject or text.</summary>
    public async Task<JsonNode> ArrivesAsync(string to, string words)
    {
        using CancellationTokenSource patience = new(TimeSpan.FromSeconds(120));
        while (true)
        {
            JsonNode? arrived = (await ArrivedAsync(to)).FirstOrDefault(item =>
                $"{item!["subject"]} {item["text"]}".Contains(words, StringComparison.Ordinal)
            );
            if (arrived is not null) return arrived;
            await Task.Delay(50, patience.Token);
        }
    }

    /// <summary>All it has taken and given back, in minor units.</summary>
    public async Task<(long Taken, long Refunded)> TotalsAsync()
    {
        JsonNode totals = (await _http.GetFromJsonAsync<JsonNode>(new Uri(Address, "/v1/totals")))!;
        return (totals["taken"]!.GetValue<long>(), totals["refunded"]!.GetValue<long>());
    }

    public ValueTask DisposeAsync()
    {
        if (_process is { HasExited: false }) _process.Kill(entireProcessTree: true);
        _process?.Dispose();
        _http.Dispose();
        return ValueTask.CompletedTask;
    }
}
