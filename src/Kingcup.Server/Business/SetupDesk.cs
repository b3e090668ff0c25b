using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Business;

/// <summary>A change of the setup under way, in its transaction and under its lock.</summary>
public sealed class SetupChange
{
    internal SetupChange(NpgsqlConnection connection, Setup setup, Change change) =>
        (Connection, Setup, Change, Writer, Calendar) = (
            connection,
            setup,
            change,
            new SetupWriter(connection),
            new CalendarWriter(connection)
        );

    /// <summary>The connection of the transaction.</summary>
    public NpgsqlConnection Connection { get; }

    /// <summary>The setup as it stands before the change.</summary>
    public Setup Setup { get; }

    /// <summary>Who changes it, and when.</summary>
    public Change Change { get; }

    /// <summary>Writes.</summary>
    public SetupWriter Writer { get; }

    /// <summary>Writes what holds on dates.</summary>
    public CalendarWriter Calendar { get; }

    /// <summary>Writes an entry of the history: what was done to what, and how it stood before and after.</summary>
    public Task RecordAsync(string kind, Guid id, string action, object? before, object? after) =>
        History.RecordAsync(Connection, new Subject(kind, id), action, before, after, Change);

    /// <summary>Refuses a change based on another version than the present one.</summary>
    /// <exception cref="Refused">The versions differ.</exception>
    public static void Match(HttpContext http, long present)
    {
        if (http.Version() != present) throw Refused.Stale(present);
    }
}

/// <summary>
/// The operations that change the setup: each is one transaction, one after another. A change that takes the place of visits
/// booked ahead is refused with their list until somebody has seen it and accepts; they are never moved or removed, but go
/// among those that need a place.
/// </summary>
public sealed class SetupDesk(Database database, BookReader book, IClock clock)
{
    /// <summary>Makes a change for the person signed in.</summary>
    /// <exception cref="Refused">It cannot be made so; nothing was changed.</exception>
    public Task<T> ChangeAsync<T>(HttpContext http, Func<SetupChange, Task<T>> write) =>
        ChangeAsync(new Change(http.Actor().Name, clock.GetCurrentInstant()), http.Request.Headers[Hits.AcceptHeader].ToString(), write);

    /// <summary>Makes something for the person signed in, once for each idempotency key.</summary>
    /// <param name="http">The request.</param>
    /// <param name="write">Writes, and says what was made.</param>
    /// <param name="answer">The answer, from the setup as it stands then.</param>
    /// <exception cref="Refused">It cannot be made so; nothing was changed.</exception>
    internal async Task<Created<T>> CreateAsync<T>(
        HttpContext http,
        Func<SetupChange, Task<Guid>> write,
        Func<Setup, Guid, (string Location, T Body)> answer
    )
        where T : class
    {
        RequestKey? key = http.Key();
        (string Location, T Body) answered = default;
        await ChangeAsync(
            new Change(http.Actor().Name, clock.GetCurrentInstant()),
            http.Request.Headers[Hits.AcceptHeader].ToString(),
            write,
            null,
            key,
            (after, made) =>
            {
                answered = answer(after, made);
                return new Answered(answered.Location, answered.Body);
            }
        );
        return TypedResults.Created(answered.Location, answered.Body);
    }

    /// <summary>Makes a change.</summary>
    /// <param name="by">Who makes it, and when.</param>
    /// <param name="accept">The token of the hits that were seen, or null.</param>
    /// <param name="write">Writes.</param>
    /// <param name="keep">Whether what was written is to stay; an answer of false tries the change out and keeps nothing.</param>
    /// <param name="key">The idempotency key, or null.</param>
    /// <param name="answer">The answer to be given, and to be kept with the key.</param>
    /// <param name="isLong">Whether it only adds and may take its time: bookings then wait for its end only.</param>
    /// <exception cref="Refused">It cannot be made so; nothing was changed.</exception>
    internal Task<T> ChangeAsync<T>(
        Change by,
        string? accept,
        Func<SetupChange, Task<T>> write,
        Func<T, bool>? keep = null,
        RequestKey? key = null,
        Func<Setup, T, Answered>? answer = null,
        bool isLong = false
    ) => OnceMore.RunAsync(() => MakeAsync(by, accept, write, keep, key, answer, isLong));

    private async Task<T> MakeAsync<T>(
        Change by,
        string? accept,
        Func<SetupChange, Task<T>> write,
        Func<T, bool>? keep,
        RequestKey? key,
        Func<Setup, T, Answered>? answer,
        bool isLong
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        // Locks are taken in one order everywhere: the key, who changes the setup, the setup itself, days.
        if (key is not null) await key.TakeAsync(connection, by.At);
        await SetupWriter.LockChangesAsync(connection);
        if (!isLong) await SetupWriter.LockAsync(connection);
        Setup before = await book.LockedSetupAsync(connection, await SetupReader.RevisionAsync(connection));
        SetupChange change = new(connection, before, by);
        T made;
        try
        {
            made = await write(change);
        }
        catch (PostgresException exception) when (exception.SqlState is PostgresErrorCodes.UniqueViolation)
        {
            throw Refused.Invalid("name", "There is one of that name already. Choose another name.");
        }

        if (keep is not null && !keep(made)) return made;
        if (isLong) await SetupWriter.LockAsync(connection);
        Setup after = await SetupReader.ReadAsync(connection);
        IReadOnlyList<StoredVisit> ahead = await NeedsPlace.TouchedAsync(connection, before, after, change.Change.At);
        CalendarWindow dates = await NeedsPlace.DatesAsync(connection, ahead);
        Hits.Require(after, NeedsPlace.Of(before, dates.With(before), ahead), NeedsPlace.Of(after, dates.With(after), ahead), accept);
        Answered? answered = answer?.Invoke(after, made);
        if (key is not null && answered is not null) await key.KeepAsync(connection, answered);
        await LiveNotices.TellAsync(connection, LiveNotices.Setup);
        await transaction.CommitAsync();
        return made;
    }
}
