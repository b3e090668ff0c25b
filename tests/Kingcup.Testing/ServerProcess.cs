using System.Diagnostics;
using System.Net;
using System.Net.Sockets;

namespace Kingcup.Testing;

/// <summary>A real server process on a free port.</summary>
public sealed class ServerProcess : IAsyncDisposable
{
    private static readonly Lock _log = new();

    private readonly Process _process;

    private ServerProcess(Process process, Uri address) => (_process, Address) = (process, address);

    public Uri Address { get; }

    /// <summary>The folder of the built screens; null where servers are asked by programs alone and need none.</summary>
    public static string? Screens { get; set; }

    public static Task<ServerProcess> StartAsync(TestDatabase database, params string[] settings) =>
        StartAsync(database.ConnectionString, settings);

    public static Task<ServerProcess> StartAsync(string database, params string[] settings) =>
        StartAsync(database, new Uri($"http://127.0.0.1:{FreePort()}"), settings);

    /// <summary>Starts a server where this one was, as after a restart.</summary>
    public Task<ServerProcess> AgainAsync(TestDatabase database) => StartAsync(database.ConnectionString, Address, []);

    private static async Task<ServerProcess> StartAsync(string database, Uri address, string[] settings)
    {
        string root = Root();
        string kind = AppContext.BaseDirectory.Contains("/Release/", StringComparison.Ordinal) ? "Release" : "Debug";
        ProcessStartInfo start = new("dotnet")
        {
            ArgumentList =
            {
                Path.Combine(root, "src/Kingcup.Server/bin", kind, "net10.0/Kingcup.Server.dll"),
                "--urls", address.ToString(),
                "--Limits:sign-in=100000", "--Limits:public-read=100000", "--Limits:public-book=100000",
                "--Limits:public-hold=100000", "--WarmUp:Seconds=0",
            },
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        if (Screens is not null)
            foreach (string argument in (string[])["--webroot", Path.Combine(root, Screens)]) start.ArgumentList.Add(argument);
        foreach (string setting in settings) start.ArgumentList.Add(setting);
        start.Environment["KINGCUP_DATABASE"] = database;
        // Servers that live for one test begin sooner where the compiler waits, as it usually does, before it improves what it has made.
        start.Environment["DOTNET_TC_CallCountingDelayMs"] = "64";
        Process process = Process.Start(start)!;
        process.OutputDataReceived += (_, line) => Keep(line.Data);
        process.ErrorDataReceived += (_, line) => Keep(line.Data);
        process.BeginOutputReadLine();
        process.BeginErrorReadLine();
        ServerProcess server = new(process, address);
        using HttpClient http = new() { BaseAddress = address };
        using CancellationTokenSource patience = new(TimeSpan.FromSeconds(120));
        while (true)
        {
            try
            {
                if ((await http.GetAsync(new Uri("/health/ready", UriKind.Relative), patience.Token)).IsSuccessStatusCode) return server;
            }
            catch (HttpRequestException) when (!process.HasExited)
            {
                // Not listening yet.
            }

            await Task.Delay(50, patience.Token);
        }
    }

    /// <summary>Keeps what the servers say, where whoever runs the tests wants to read it: in the file KINGCUP_TEST_LOG names.</summary>
    private static void Keep(string? line)
    {
        if (line is null || Environment.GetEnvironmentVariable("KINGCUP_TEST_LOG") is not { Length: > 0 } file) return;
        lock (_log) File.AppendAllText(file, line + Environment.NewLine);
    }

    /// <summary>Ends the process at once, as a power cut would.</summary>
    public void Kill()
    {
        _process.Kill(entireProcessTree: true);
        _process.WaitForExit();
    }

    public ValueTask DisposeAsync()
    {
        if (!_process.HasExited) Kill();
        _process.Dispose();
        return ValueTask.CompletedTask;
    }

    public static string Root()
    {
        DirectoryInfo? folder = new(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "Kingcup.slnx"))) folder = folder.Parent;
        return folder?.FullName ?? throw new InvalidOperationException("The tests run inside the repository.");
    }

    public static int FreePort()
    {
        using TcpListener listener = new(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
