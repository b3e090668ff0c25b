using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>
/// Lets lapse what nobody has said anything to in time, on every server, for as long as it runs: setting Requests:Seconds. What lapsed
/// while no server ran lapses as soon as one does.
/// </summary>
internal sealed partial class RequestWork(
    Database database,
    BookingDesk desk,
    IClock clock,
    IConfiguration settings,
    ILogger<RequestWork> log
) : BackgroundService
{
    private const double UsualSeconds = 5;
    private const int MostAtOnce = 100;

    private readonly TimeSpan _every = TimeSpan.FromSeconds(settings.GetValue("Requests:Seconds", UsualSeconds));

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using PeriodicTimer timer = new(_every);
        do
        {
            try
            {
                await OnceAsync(stoppingToken);
            }
            catch (Exception exception) when (exception is not OperationCanceledException)
            {
                PutOff(log, exception);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private async Task OnceAsync(CancellationToken stopping)
    {
        IReadOnlyList<Guid> lapsed;
        await using (NpgsqlConnection connection = await database.OpenAsync(stopping))
            lapsed = await BookStore.LapsedAsync(connection, clock.GetCurrentInstant(), MostAtOnce);
        foreach (Guid id in lapsed)
        {
            if (stopping.IsCancellationRequested) return;
            await desk.LapseAsync(id);
        }
    }

    [LoggerMessage(LogLevel.Warning, "Letting lapse what was not answered was put off")]
    private static partial void PutOff(ILogger log, Exception exception);
}
