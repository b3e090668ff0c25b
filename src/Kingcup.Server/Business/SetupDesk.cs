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
    internal SetupChange(SetupTransaction transaction, Setup setup) => (Transaction, Setup) = (transaction, setup);

    /// <summary>The unit of work it is part of.</summary>
    public SetupTransaction Transaction { get; }

    /// <summary>The connection, for what is read beside.</summary>
    public NpgsqlConnection Connection => Transaction.Connection;

    /// <summary>The setup as it stands before the change.</summary>
    public Setup Setup { get; }

    /// <summary>Who changes it, and when.</summary>
    public Change Change => Transaction.Change;

    /// <summary>Writes.</summary>
    public SetupWriter Writer => Transaction.Writer;

    /// <summary>Writes an entry of the history: what was done to what, and how it stood before and after.</summary>
    public Task RecordAsync(string kind, Guid id, string action, object? before, object? after) =>
        Transaction.RecordAsync(kind, id, action, before, after);

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
        await using SetupTransaction transaction = await SetupTransaction.BeginAsync(connection, by);
        // Locks are taken in one order everywhere: the key, who changes the setup, the setup itself, days.
        if (key is not null) await key.TakeAsync(connection, by.At);
        await transaction.LockChangesAsync();
        if (!isLong) await transaction.LockAsync();
        Setup before = await book.LockedSetupAsync(connection, await SetupReader.RevisionAsync(connection));
        SetupChange change = new(transaction, before);
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
        if (isLong) await transaction.LockAsync();
        Setup after = await SetupReader.ReadAsync(connection);
        IReadOnlyList<StoredVisit> ahead = await NeedsPlace.TouchedAsync(connection, before, after, change.Change.At);
        CalendarWindow dates = await NeedsPlace.DatesAsync(connection, ahead);
        Hits.Require(after, NeedsPlace.Of(before, dates.With(before), ahead), NeedsPlace.Of(after, dates.With(after), ahead), accept);
        Answered? answered = answer?.Invoke(after, made);
        if (key is not null && answered is not null) await key.KeepAsync(connection, answered);
        await transaction.CommitAsync();
        return made;
    }
}
