using System.Data;
using System.Reflection;
using Dapper;
using DbUp;
using DbUp.Engine;
using DbUp.Engine.Output;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>The one PostgreSQL database of a business.</summary>
public sealed class Database : IAsyncDisposable
{
    private readonly NpgsqlDataSource _source;

    static Database()
    {
        DefaultTypeMap.MatchNamesWithUnderscores = true;
        SqlMapper.AddTypeHandler(new AsIs<Instant>());
        SqlMapper.AddTypeHandler(new AsIs<LocalDate>());
        SqlMapper.AddTypeHandler(new AsIs<LocalTime>());
        SqlMapper.AddTypeHandler(new AsIs<Interval>());
    }

    /// <summary>Opens nothing yet; connections are made as they are needed and pooled.</summary>
    /// <param name="connectionString">Npgsql connection string.</param>
    public Database(string connectionString)
    {
        ConnectionString = connectionString;
        NpgsqlDataSourceBuilder builder = new(connectionString);
        builder.UseNodaTime();
        // The same few statements run all day long: have PostgreSQL plan each once a connection.
        if (builder.ConnectionStringBuilder.MaxAutoPrepare == 0) builder.ConnectionStringBuilder.MaxAutoPrepare = 80;
        // Nothing here sets anything for a session: locks are those of transactions, and whoever listens keeps a connection of their own.
        builder.ConnectionStringBuilder.NoResetOnClose = true;
        _source = builder.Build();
    }

    /// <summary>Where the database is.</summary>
    public string ConnectionString { get; }

    /// <summary>An open connection from the pool.</summary>
    public async Task<NpgsqlConnection> OpenAsync(CancellationToken cancel = default) => await _source.OpenConnectionAsync(cancel);

    /// <summary>Applies the migrations that have not been applied yet, in order, each in its own transaction.</summary>
    /// <param name="also">What else is to be installed while nobody else does, or null.</param>
    /// <exception cref="InvalidOperationException">A migration failed; the message names it.</exception>
    public void Migrate(Action<NpgsqlConnection>? also = null)
    {
        // Two servers may start at once: the second waits until the first has migrated.
        using NpgsqlConnection guard = _source.OpenConnection();
        guard.Execute("SELECT pg_advisory_lock(775101)");
        try
        {
            DatabaseUpgradeResult result = DeployChanges.To.PostgresqlDatabase(ConnectionString)
                .WithScriptsEmbeddedInAssembly(Assembly.GetExecutingAssembly(), name => name.EndsWith(".sql", StringComparison.Ordinal))
                .WithTransactionPerScript()
                .WithVariablesDisabled()
                .LogTo(new NoOpUpgradeLog())
                .Build()
                .PerformUpgrade();
            if (!result.Successful)
                throw new InvalidOperationException($"Migration {result.ErrorScript?.Name} failed: {result.Error.Message}", result.Error);
            also?.Invoke(guard);
        }
        finally
        {
            guard.Execute("SELECT pg_advisory_unlock(775101)");
        }
    }

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => _source.DisposeAsync();

    /// <summary>Lets a type that Npgsql knows pass through Dapper untouched.</summary>
    private sealed class AsIs<T> : SqlMapper.TypeHandler<T>
    {
        public override T? Parse(object value) => (T)value;

        public override void SetValue(IDbDataParameter parameter, T? value) => parameter.Value = value;
    }
}
