using Kingcup.Demo;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Testing;

/// <summary>A database of its own for a group of tests, on the cluster that ./test starts; dropped at the end.</summary>
public sealed class TestDatabase : IAsyncDisposable
{
    private readonly string _server;
    private readonly string _name = "test_" + Guid.NewGuid().ToString("N");

    private TestDatabase()
    {
        _server = Environment.GetEnvironmentVariable("KINGCUP_TEST_SERVER")
            ?? throw new InvalidOperationException("Run the tests with ./test, or set KINGCUP_TEST_SERVER to a PostgreSQL server.");
        Database = new Database(ConnectionString);
    }

    /// <summary>Where every test's clock stands: a Monday morning, 09:00 in Dublin.</summary>
    public static Instant Now { get; } = Instant.FromUtc(2027, 3, 1, 9, 0);

    public string ConnectionString => $"{_server};Database={_name};Maximum Pool Size=60";

    public Database Database { get; }

    /// <summary>A database with nothing in it, not even tables.</summary>
    public static async Task<TestDatabase> BareAsync()
    {
        TestDatabase made = new();
        await made.ExecuteOnServerAsync($"CREATE DATABASE {made._name}");
        return made;
    }

    /// <summary>An empty, migrated database.</summary>
    public static async Task<TestDatabase> EmptyAsync()
    {
        TestDatabase made = await BareAsync();
        made.Database.Migrate();
        return made;
    }

    /// <summary>A database with the setup and the sign-ins of the demo business, and with clients and book if asked for.</summary>
    public static async Task<TestDatabase> DemoAsync(bool book = false, bool empty = false, bool accounts = true)
    {
        TestDatabase made = await EmptyAsync();
        await DemoLoader.PrepareAsync(made.ConnectionString, empty, Now, _ => { }, book);
        if (empty && accounts)
        {
            await using NpgsqlConnection connection = await made.Database.OpenAsync();
            await DemoLoader.AddStaffAsync(connection, linked: false);
        }

        return made;
    }

    public async ValueTask DisposeAsync()
    {
        await Database.DisposeAsync();
        await ExecuteOnServerAsync($"DROP DATABASE IF EXISTS {_name} WITH (FORCE)");
    }

    private async Task ExecuteOnServerAsync(string sql)
    {
        await using NpgsqlConnection connection = new($"{_server};Database=postgres;Pooling=false");
        await connection.OpenAsync();
        // Making and dropping a database waits for a checkpoint, which takes long where the disk is busy.
        await using NpgsqlCommand command = new(sql, connection) { CommandTimeout = 180 };
        await command.ExecuteNonQueryAsync();
    }
}
