using System.Diagnostics;
using System.Text.Json;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using Microsoft.Extensions.Options;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>
/// Asks the questions of the booking page before a server says that it is there, so that the first who come do not wait until its code
/// is translated, its days are laid out and its connections are open.
/// </summary>
internal sealed class WarmUp(
    Database database,
    BookReader book,
    StartQueries starts,
    IOptions<Microsoft.AspNetCore.Http.Json.JsonOptions> json,
    IConfiguration settings
)
{
    private const int Connections = 12, Days = 60;

    /// <summary>Warms up, for so many seconds at the most as "WarmUp:Seconds" says; 0 for not at all.</summary>
    internal async Task RunAsync()
    {
        TimeSpan most = TimeSpan.FromSeconds(settings.GetValue("WarmUp:Seconds", 4.0));
        long began = Stopwatch.GetTimestamp();
        if (most <= TimeSpan.Zero) return;
        Setup setup;
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            // An empty database has nothing to ask about.
            if (await SetupReader.RevisionAsync(connection) is null) return;
            setup = await book.SetupAsync(connection);
        }

        StartsRequest[] questions =
        [
            .. from location in setup.Locations
            from service in setup
                .Services.Where(listed => listed.Service.Locations.Count == 0 || listed.Service.Locations.Contains(location.Location.Id))
                .Take(6)
            select new StartsRequest(location.Location.Id, [new LineRequest(service.Service.Id)], null, Days),
        ];
        if (questions.Length == 0) return;
        async Task AskAsync(int first)
        {
            // What is asked some thirty times is translated anew, as well as it can be.
            for (int i = first; i < first + 60 && Stopwatch.GetElapsedTime(began) < most; i++)
                JsonSerializer.Serialize(
                    await PublicEndpoints.StartsAsync(starts, questions[i % questions.Length]),
                    json.Value.SerializerOptions
                );
        }

        await Task.WhenAll(Enumerable.Range(0, Connections).Select(AskAsync));
    }
}
