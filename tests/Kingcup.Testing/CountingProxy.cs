using System.Net;
using System.Net.Sockets;

namespace Kingcup.Testing;

/// <summary>
/// Stands between a program and its database and counts round trips: each time the program speaks after the database has. What is sent
/// in one go is one, whatever is in it.
/// </summary>
public sealed class CountingProxy : IAsyncDisposable
{
    private readonly TcpListener _listener = new(IPAddress.Loopback, 0);
    private readonly CancellationTokenSource _stop = new();
    private readonly Task _accepting;
    private readonly string _host;
    private readonly int _port;
    private readonly System.Collections.Concurrent.ConcurrentDictionary<TcpClient, bool> _open = new();
    private int _trips;
    private volatile bool _isCut;

    /// <summary>Begins to listen.</summary>
    /// <param name="host">Where the database is.</param>
    /// <param name="port">On which port.</param>
    public CountingProxy(string host, int port)
    {
        (_host, _port) = (host, port);
        _listener.Start();
        _accepting = AcceptAsync();
    }

    /// <summary>The port to connect to instead.</summary>
    public int Port => ((IPEndPoint)_listener.LocalEndpoint).Port;

    /// <summary>How many round trips there were.</summary>
    public int Trips => Volatile.Read(ref _trips);

    /// <summary>Cuts the line: whoever is connected is thrown off, and nobody gets through any more.</summary>
    public void Cut()
    {
        _isCut = true;
        foreach (TcpClient client in _open.Keys) client.Close();
    }

    /// <summary>Mends the line.</summary>
    public void Mend() => _isCut = false;

    public async ValueTask DisposeAsync()
    {
        await _stop.CancelAsync();
        _listener.Stop();
        await _accepting;
        _stop.Dispose();
    }

    private async Task AcceptAsync()
    {
        List<Task> served = [];
        try
        {
            while (true) served.Add(ServeAsync(await _listener.AcceptTcpClientAsync(_stop.Token)));
        }
        catch (OperationCanceledException)
        {
            await Task.WhenAll(served);
        }
    }

    private async Task ServeAsync(TcpClient client)
    {
        using TcpClient own = client, database = new();
        if (_isCut) return;
        _open[own] = _open[database] = true;
        await database.ConnectAsync(_host, _port, _stop.Token);
        own.NoDelay = database.NoDelay = true;
        // Whether the database was the last to speak: then the next word of the program begins another trip.
        int databaseSpoke = 1;
        async Task PassAsync(NetworkStream from, NetworkStream to, bool isProgram)
        {
            byte[] buffer = new byte[64 * 1024];
            try
            {
                for (int read; (read = await from.ReadAsync(buffer, _stop.Token)) > 0;)
                {
                    if (Interlocked.Exchange(ref databaseSpoke, isProgram ? 0 : 1) == 1 && isProgram) Interlocked.Increment(ref _trips);
                    await to.WriteAsync(buffer.AsMemory(0, read), _stop.Token);
                }

                to.Socket.Shutdown(SocketShutdown.Send);
            }
            catch (Exception exception)
                when (exception is OperationCanceledException or IOException or SocketException or ObjectDisposedException)
            {
                // One side has gone; so goes the other.
            }
        }

        await Task.WhenAll(PassAsync(own.GetStream(), database.GetStream(), true), PassAsync(database.GetStream(), own.GetStream(), false));
        _open.TryRemove(own, out _);
        _open.TryRemove(database, out _);
    }
}
