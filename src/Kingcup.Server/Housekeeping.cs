using Kingcup.Core.Forms;
using Kingcup.Server.Api;
using Kingcup.Server.Exchange;
using Kingcup.Server.Live;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server;

/// <summary>
/// Forgets what no longer counts, and ends live connections whose session is over by its age alone, of which nobody tells. Every
/// server does it for itself; doing it twice does no harm.
/// </summary>
internal sealed partial class Housekeeping(Database database, BusinessClock clock, LiveConnections connections, ILogger<Housekeeping> log)
    : BackgroundService
{
    private static readonly TimeSpan _every = TimeSpan.FromMinutes(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using PeriodicTimer timer = new(_every);
        do
        {
            try
            {
                await ForgetAsync();
                await connections.EndThoseOverAsync(database);
            }
            catch (Exception exception) when (exception is NpgsqlException or TimeoutException)
            {
                PutOff(log, exception);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private async Task ForgetAsync()
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Instant now = SystemClock.Instance.GetCurrentInstant();
        await LimitStore.ForgetAsync(connection, (now.ToUnixTimeSeconds() / 60) - 10, now - Duration.FromDays(1));
        await SessionStore.ForgetAsync(connection, now - Duration.FromDays(60));
        // No client repeats a request after a week; until then the first answer is kept.
        await IdempotencyStore.ForgetAsync(connection, clock.GetCurrentInstant() - Duration.FromDays(7));
        await BookStore.SweepAsync(connection, clock.GetCurrentInstant());
        await OwnStore.ForgetAsync(connection, clock.GetCurrentInstant() - Duration.FromDays(1));
        await UnmetStore.ForgetAsync(connection, clock.GetCurrentInstant() - Duration.FromDays(2));
        await AnswerFileStore.SweepAsync(connection, clock.GetCurrentInstant() - AnswerFiles.Kept);
        await ImportStore.ForgetAsync(connection, clock.GetCurrentInstant() - ImportEndpoints.KeptFor);
    }

    [LoggerMessage(LogLevel.Warning, "Forgetting what no longer counts was put off")]
    private static partial void PutOff(ILogger log, Exception exception);
}
