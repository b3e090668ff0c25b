using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>
/// One unit of work on the setup: one change after another, written through its writers, with history and notices. Bookings wait for it
/// from <see cref="LockAsync"/> on. Disposed without a commit, nothing of it is kept.
/// </summary>
public sealed class SetupTransaction : IAsyncDisposable
{
    // Any numbers that no other lock of this database uses.
    internal const long SetupLock = 7_201_903, ChangesLock = 7_201_905;

    private readonly NpgsqlTransaction _transaction;

    private SetupTransaction(NpgsqlConnection connection, NpgsqlTransaction transaction, Change change) =>
        (Connection, _transaction, Change, Writer, Calendar) = (
            connection,
            transaction,
            change,
            new SetupWriter(connection),
            new CalendarWriter(connection)
        );

    /// <summary>The connection of the transaction, for what is read beside.</summary>
    public NpgsqlConnection Connection { get; }

    /// <summary>Who changes the setup, and when.</summary>
    public Change Change { get; }

    /// <summary>Writes the setup.</summary>
    public SetupWriter Writer { get; }

    /// <summary>Writes what comes back for ever, and what holds on dates while nobody else changes the book.</summary>
    public CalendarWriter Calendar { get; }

    /// <summary>Begins a transaction; it has no lock yet.</summary>
    public static async Task<SetupTransaction> BeginAsync(NpgsqlConnection connection, Change change)
    {
        ArgumentNullException.ThrowIfNull(connection);
        return new SetupTransaction(connection, await connection.BeginTransactionAsync(), change);
    }

    /// <summary>Lets one change of the setup be made at a time. Bookings do not wait for it.</summary>
    public Task LockChangesAsync() => Connection.ExecuteAsync("SELECT pg_advisory_xact_lock(@ChangesLock)", new { ChangesLock });

    /// <summary>Lets nobody book by the setup that is being changed.</summary>
    public Task LockAsync() => Connection.ExecuteAsync("SELECT pg_advisory_xact_lock(@SetupLock)", new { SetupLock });

    /// <summary>Locks days and counts their revisions on.</summary>
    public Task CountDaysAsync(IEnumerable<LocalDate> dates)
    {
        LocalDate[] days = [.. dates.Distinct().Order()];
        return Connection.ExecuteAsync(BookTransaction.DaysSql, new { LockedDays = days, Counts = days.Select(_ => 1).ToArray() });
    }

    /// <summary>Writes an entry of the history: what was done to what, and how it stood before and after.</summary>
    public Task RecordAsync(string kind, Guid id, string action, object? before, object? after) =>
        History.RecordAsync(Connection, new Subject(kind, id), action, before, after, Change);

    /// <summary>Commits, and tells every server that the setup has changed.</summary>
    public async Task CommitAsync()
    {
        await LiveNotices.TellAsync(Connection, LiveNotices.Setup);
        await _transaction.CommitAsync();
    }

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => _transaction.DisposeAsync();
}
