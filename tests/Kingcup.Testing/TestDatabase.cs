using System.Collections.Concurrent;
using Kingcup.Demo;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Testing;

/// <summary>A database of its own for a group of tests, on the cluster that ./test starts; dropped at the end.</summary>
public sealed class TestDatabase : IAsyncDisposable
{
    // Made once and copied for each: what is the same in all of them is worked out once.
    private static readonly ConcurrentDictionary<string, Lazy<Task<TestDatabase>>> _models = new();

    private readonly string _server;
    private readonly string _name = "test_" + Guid.NewGuid().ToString("N");

    static TestDatabase() =>
        AppDomain.CurrentDomain.ProcessExit += (_, _) =>
        {
            foreach (Lazy<Task<TestDatabase>> model in _models.Values)
                if (model is { IsValueCreated: true, Value.IsCompletedSuccessfully: true })
                    model.Value.Result.DisposeAsync().AsTask().GetAwaiter().GetResult();
        };

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
    public static Task<TestDatabase> EmptyAsync() =>
        CopyAsync("nothing", made =>
        {
            made.Database.Migrate();
            return Task.CompletedTask;
        });

    /// <summary>A database with the setup and the sign-ins of the demo business, and with clients and book if asked for.</summary>
    public static async Task<TestDatabase> DemoAsync(bool book = false, bool empty = false, bool accounts = true)
    {
        TestDatabase copy = await CopyAsync($"demo {book} {empty} {accounts}", async made =>
        {
            await DemoLoader.PrepareAsync(made.ConnectionString, empty, Now, _ => { }, book);
            if (!empty || !accounts) return;
            await using NpgsqlConnection connection = await made.Database.OpenAsync();
            await DemoLoader.AddStaffAsync(connection, linked: false);
        });
        // The clock of the model has ticked on since that was made.
        await using NpgsqlConnection opened = await copy.Database.OpenAsync();
        await DemoLoader.SetClockAsync(opened, Now);
        return copy;
    }

    private static async Task<TestDatabase> CopyAsync(string kind, Func<TestDatabase, Task> fill)
    {
        TestDatabase model = await _models.GetOrAdd(kind, _ => new Lazy<Task<TestDatabase>>(async () =>
        {
            TestDatabase made = await BareAsync();
            await fill(made);
            // Nothing is copied that somebody is still connected to.
            await made.Database.DisposeAsync();
            await made.ExecuteOnServerAsync($"SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = '{made._name}'");
            return made;
        })).Value;
        TestDatabase copy = new();
        await copy.ExecuteOnServerAsync($"CREATE DATABASE {copy._name} TEMPLATE {model._name}");
        return copy;
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
