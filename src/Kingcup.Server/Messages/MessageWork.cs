using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Messages;

/// <summary>
/// Makes and sends messages, on every server, for as long as it runs: settings Messages:Seconds, Messages:ReminderSeconds.
/// </summary>
internal sealed partial class MessageWork(
    Database database,
    MessagePlanner planner,
    MessageSender sender,
    IClock clock,
    IConfiguration settings,
    ILogger<MessageWork> log
) : BackgroundService
{
    private const double UsualSeconds = 1,
        UsualReminderSeconds = 20;

    // The first round is due at once.
    private TimeSpan _since = TimeSpan.MaxValue / 2;

    private readonly TimeSpan _every = TimeSpan.FromSeconds(settings.GetValue("Messages:Seconds", UsualSeconds)),
        _reminders = TimeSpan.FromSeconds(settings.GetValue("Messages:ReminderSeconds", UsualReminderSeconds));

    /// <summary>Making messages and sending those of each channel go on beside each other: a mail server that is slow holds up nothing
    /// else.</summary>
    protected override Task ExecuteAsync(CancellationToken stoppingToken) =>
        Task.WhenAll([
            OverAndOverAsync(PlanAsync, stoppingToken),
            .. sender.Channels.Select(channel => OverAndOverAsync(stopping => SendAsync(channel, stopping), stoppingToken)),
        ]);

    private async Task OverAndOverAsync(Func<CancellationToken, Task> once, CancellationToken stopping)
    {
        using PeriodicTimer timer = new(_every);
        do
        {
            try
            {
                await once(stopping);
            }
            catch (Exception exception) when (exception is not OperationCanceledException)
            {
                // A database that is away, or another server that was quicker: all of it is still there the next time, and whatever
                // goes wrong with a message stops no server.
                PutOff(log, exception);
            }
        }
        while (await timer.WaitForNextTickAsync(stopping));
    }

    private async Task PlanAsync(CancellationToken stopping)
    {
        _since += _every;
        if (_since >= _reminders)
        {
            _since = TimeSpan.Zero;
            await planner.RemindAsync();
        }

        bool isNews = (await AnyAsync(stopping)).News;
        while (isNews && !stopping.IsCancellationRequested) isNews = await planner.TellAsync();
    }

    private async Task SendAsync(Core.Messages.Channel channel, CancellationToken stopping)
    {
        bool isDue = (await AnyAsync(stopping)).Due;
        while (isDue && !stopping.IsCancellationRequested) isDue = await sender.SendAsync(channel, stopping);
    }

    private async Task<(bool News, bool Due)> AnyAsync(CancellationToken stopping)
    {
        await using NpgsqlConnection connection = await database.OpenAsync(stopping);
        return await MessageStore.AnyAsync(connection, clock.GetCurrentInstant());
    }

    [LoggerMessage(LogLevel.Warning, "Making or sending messages was put off")]
    private static partial void PutOff(ILogger log, Exception exception);
}
