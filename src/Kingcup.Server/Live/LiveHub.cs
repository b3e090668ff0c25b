using System.Collections.Concurrent;
using System.Globalization;
using Kingcup.Server.Api;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.SignalR;
using Npgsql;

namespace Kingcup.Server.Live;

/// <summary>Tells every open desk which day of which location has changed, and which visit others have open. It says no more: the desk
/// asks for the day itself.</summary>
[Authorize(Rights.SeeBook)]
public sealed class LiveHub : Hub
{
    private readonly LiveConnections _connections;
    private readonly Database _database;

    /// <summary>Made by the server for each call.</summary>
    public LiveHub(LiveConnections connections, Database database) => (_connections, _database) = (connections, database);

    /// <summary>Says which visit is open on this screen.</summary>
    /// <param name="visitId">The visit, or null for none.</param>
    public Task Open(Guid? visitId) => Presence.TellAsync(_database, Context, visitId);

    /// <inheritdoc/>
    public override Task OnConnectedAsync()
    {
        _connections.Add(Context);
        return base.OnConnectedAsync();
    }

    /// <inheritdoc/>
    public override async Task OnDisconnectedAsync(Exception? exception)
    {
        _connections.Remove(Context);
        if (Presence.HasTold(Context))
            await Presence.TellAsync(_database, Context, null);
        await base.OnDisconnectedAsync(exception);
    }
}

/// <summary>The live connections of this server by session, so that they end with it.</summary>
public sealed class LiveConnections
{
    private readonly ConcurrentDictionary<string, HubCallerContext> _open = new();

    internal void Add(HubCallerContext context) => _open[context.ConnectionId] = context;

    internal void Remove(HubCallerContext context) => _open.TryRemove(context.ConnectionId, out _);

    /// <summary>Ends the connections of a session.</summary>
    internal void End(Guid session)
    {
        foreach (HubCallerContext context in _open.Values)
            if (Sessions.IdOf(context.User) == session) context.Abort();
    }

    /// <summary>Ends the connections of sessions that are over: by age, or while nobody heard that they were ended.</summary>
    internal async Task EndThoseOverAsync(Database database)
    {
        HubCallerContext[] open = [.. _open.Values];
        if (open.Length == 0) return;
        await using NpgsqlConnection connection = await database.OpenAsync();
        IReadOnlySet<Guid> good = await SessionStore.GoodAsync(
            connection,
            [.. open.Select(context => Sessions.IdOf(context.User)).OfType<Guid>().Distinct()],
            Sessions.Now,
            Sessions.Now - Sessions.Idle
        );
        foreach (HubCallerContext context in open)
            if (Sessions.IdOf(context.User) is not { } id || !good.Contains(id)) context.Abort();
    }
}

/// <summary>A day that has changed.</summary>
/// <param name="LocationId">The location, or null when anything may have changed.</param>
/// <param name="Date">The local date (ISO 8601), or null when anything may have changed.</param>
public sealed record DayChanged(Guid? LocationId, string? Date);

/// <summary>Hears the notices of all servers from PostgreSQL and passes them to the desks of this one.</summary>
internal sealed partial class NoticeListener(
    Database database,
    IHubContext<LiveHub> hub,
    LiveConnections connections,
    BusinessClock clock,
    ILogger<NoticeListener> log
) : BackgroundService
{
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await ListenAsync(stoppingToken);
            }
            catch (Exception exception) when (exception is NpgsqlException or TimeoutException or System.Net.Sockets.SocketException)
            {
                Lost(log, exception);
                await Task.Delay(TimeSpan.FromSeconds(1), stoppingToken);
            }
        }
    }

    private async Task ListenAsync(CancellationToken cancel)
    {
        await using NpgsqlConnection connection = new(database.ConnectionString + ";Pooling=false;Keepalive=30");
        connection.Notification += (_, notice) => _ = HandleAsync(notice);
        await connection.OpenAsync(cancel);
        await using (
            NpgsqlCommand listen = new(
                $"LISTEN {LiveNotices.Channel}; LISTEN {BusinessClock.Channel}; LISTEN {SessionStore.Channel}; LISTEN {Presence.Channel}",
                connection
            )
        )
            await listen.ExecuteNonQueryAsync(cancel);
        // Whatever was told while nobody listened is lost: see which sessions are over, and have every desk look again.
        await connections.EndThoseOverAsync(database);
        await hub.Clients.All.SendAsync("changed", new DayChanged(null, null), cancel);
        while (!cancel.IsCancellationRequested) await connection.WaitAsync(cancel);
    }

    private async Task HandleAsync(NpgsqlNotificationEventArgs notice)
    {
        try
        {
            if (notice.Channel == BusinessClock.Channel)
            {
                await clock.ReadAsync();
                await hub.Clients.All.SendAsync("changed", new DayChanged(null, null));
                return;
            }

            if (notice.Channel == SessionStore.Channel)
            {
                if (Guid.TryParse(notice.Payload, out Guid session)) connections.End(session);
                return;
            }

            if (notice.Channel == Presence.Channel)
            {
                await hub.Clients.All.SendAsync("present", Presence.Of(notice.Payload));
                return;
            }

            if (notice.Payload == LiveNotices.Setup)
            {
                await hub.Clients.All.SendAsync("setup");
                return;
            }

            string[] parts = notice.Payload.Split(' ');
            await hub.Clients.All.SendAsync("changed", new DayChanged(Guid.Parse(parts[0], CultureInfo.InvariantCulture), parts[1]));
        }
        catch (NpgsqlException exception)
        {
            Lost(log, exception);
        }
    }

    [LoggerMessage(LogLevel.Warning, "The connection for live notices was lost; trying again")]
    private static partial void Lost(ILogger log, Exception exception);
}
