using System.Diagnostics;
using System.Security.Cryptography;
using Kingcup.Storage;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>
/// Asks the questions of the booking page, over HTTP as everybody does, before a server says that it is ready. So the first who come do
/// not wait until its code is translated, its days are laid out and its connections are open.
/// </summary>
internal sealed class WarmUp(Database database, BookReader book, IConfiguration settings)
{
    private const string Header = "X-Kingcup-Warm-Up";
    private const int Connections = 12, Days = 60;
    private readonly string _token = Convert.ToHexString(RandomNumberGenerator.GetBytes(32));
    private volatile bool _isDone;

    /// <summary>Whether the server may be asked by others.</summary>
    internal bool IsDone => _isDone;

    /// <summary>Whether a request is one of these, which no limit counts. Nobody else knows the token of this process.</summary>
    internal bool Asks(HttpContext http) =>
        !_isDone && http.Request.Headers.TryGetValue(Header, out Microsoft.Extensions.Primitives.StringValues token) && token == _token;

    /// <summary>Warms up, for so many seconds at the most as "WarmUp:Seconds" says; 0 for not at all.</summary>
    /// <param name="addresses">Where this server listens.</param>
    internal async Task RunAsync(IEnumerable<string> addresses)
    {
        try
        {
            TimeSpan most = TimeSpan.FromSeconds(settings.GetValue("WarmUp:Seconds", 5.0));
            string? address = addresses.FirstOrDefault(text => text.StartsWith("http://", StringComparison.Ordinal));
            if (most > TimeSpan.Zero && address is not null)
                await AskAsync(new UriBuilder(address) { Host = "127.0.0.1" }.Uri, await QuestionsAsync(), most);
        }
        catch (Exception exception)
            when (exception is HttpRequestException or NpgsqlException or OperationCanceledException or UriFormatException)
        {
            // A cold server answers all the same.
        }
        finally
        {
            _isDone = true;
        }
    }

    private async Task<StartsRequest[]> QuestionsAsync()
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        // An empty database has nothing to ask about.
        if (await SetupReader.RevisionAsync(connection) is null) return [];
        Setup setup = await book.SetupAsync(connection);
        return
        [
            .. from location in setup.Locations
               from service in setup.Services.Select(listed => listed.Service)
                   .Where(service => service.Locations.Count == 0 || service.Locations.Contains(location.Location.Id)).Take(6)
               select new StartsRequest(location.Location.Id, [new DeskLineRequest(service.Id)], null, Days),
        ];
    }

    private async Task AskAsync(Uri server, StartsRequest[] questions, TimeSpan most)
    {
        if (questions.Length == 0) return;
        using CancellationTokenSource enough = new(most);
        using HttpClient http = new() { BaseAddress = server };
        http.DefaultRequestHeaders.Add(Header, _token);
        http.DefaultRequestHeaders.Add("Accept-Encoding", "gzip, br");
        Uri starts = new("/api/public/v1/starts", UriKind.Relative);
        long began = Stopwatch.GetTimestamp();
        async Task AskAllAsync(int first)
        {
            for (int i = first; Stopwatch.GetElapsedTime(began) < most; i++)
            {
                using HttpResponseMessage answer = await http.PostAsJsonAsync(starts, questions[i % questions.Length], enough.Token);
                await answer.Content.ReadAsByteArrayAsync(enough.Token);
            }
        }

        await Task.WhenAll(Enumerable.Range(0, Connections).Select(AskAllAsync));
    }
}
