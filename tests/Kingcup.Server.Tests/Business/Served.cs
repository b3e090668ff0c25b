using Kingcup.Testing;

namespace Kingcup.Server.Tests.Business;

/// <summary>A server with two small pages of its own.</summary>
internal sealed class Served(ServerProcess server, DirectoryInfo root) : IAsyncDisposable
{
    internal const string Desk = "<!doctype html><html lang=\"en\"><head><title>Kingcup</title></head><body></body></html>",
        Booking = "<!doctype html><html lang=\"en\"><head><title>Book a visit</title></head><body><div id=\"root\"></div></body></html>";

    internal ServerProcess Server => server;

    internal HttpClient Http { get; } = new() { BaseAddress = server.Address };

    internal static async Task<Served> StartAsync(SetupWorld world, params string[] settings)
    {
        DirectoryInfo root = Directory.CreateTempSubdirectory("kingcup-pages");
        await File.WriteAllTextAsync(Path.Combine(root.FullName, "index.html"), Desk);
        await File.WriteAllTextAsync(Path.Combine(root.FullName, "book.html"), Booking);
        return new Served(await ServerProcess.StartAsync(world.Database, ["--webroot", root.FullName, .. settings]), root);
    }

    internal void Write(string name, string text)
    {
        string file = Path.Combine(root.FullName, name);
        Directory.CreateDirectory(Path.GetDirectoryName(file)!);
        File.WriteAllText(file, text);
    }

    public async ValueTask DisposeAsync()
    {
        Http.Dispose();
        await server.DisposeAsync();
        root.Delete(recursive: true);
    }
}
