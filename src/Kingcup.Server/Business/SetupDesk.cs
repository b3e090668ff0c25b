using System.Security.Cryptography;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Business;

/// <summary>A change of the setup under way, in its transaction and under its lock.</summary>
public sealed class SetupChange
{
    internal SetupChange(NpgsqlConnection connection, Setup setup, Change change) =>
        (Connection, Setup, Change, Writer) = (connection, setup, change, new SetupWriter(connection));

    /// <summary>The connection of the transaction.</summary>
    public NpgsqlConnection Connection { get; }

    /// <summary>The setup as it stands before the change.</summary>
    public Setup Setup { get; }

    /// <summary>Who changes it, and when.</summary>
    public Change Change { get; }

    /// <summary>Writes.</summary>
    public SetupWriter Writer { get; }

    /// <summary>Writes an entry of the history: what was done to what, and how it stood before and after.</summary>
    public Task RecordAsync(string kind, Guid id, string action, object? before, object? after) =>
        BookStore.RecordAsync(Connection, id, action, before, after, Change, kind);

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
    /// <summary>The header with which a change is sent again once its consequences were seen.</summary>
    public const string AcceptHeader = "X-Accept-Hits";

    /// <summary>Makes a change for the person signed in.</summary>
    /// <exception cref="Refused">It cannot be made so; nothing was changed.</exception>
    public Task<T> ChangeAsync<T>(HttpContext http, Func<SetupChange, Task<T>> write) =>
        ChangeAsync(new Change(http.Actor().Name, clock.GetCurrentInstant()), http.Request.Headers[AcceptHeader].ToString(), write);

    /// <summary>Makes a change.</summary>
    /// <param name="by">Who makes it, and when.</param>
    /// <param name="accept">The token of the hits that were seen, or null.</param>
    /// <param name="write">Writes.</param>
    /// <param name="keep">Whether what was written is to stay; an answer of false tries the change out and keeps nothing.</param>
    /// <exception cref="Refused">It cannot be made so; nothing was changed.</exception>
    public async Task<T> ChangeAsync<T>(Change by, string? accept, Func<SetupChange, Task<T>> write, Func<T, bool>? keep = null)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await SetupWriter.LockAsync(connection);
        Setup before = await book.SetupAsync(connection, locked: true);
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
        Setup after = await SetupReader.ReadAsync(connection);
        IReadOnlyList<StoredVisit> ahead = await BookStore.AheadAsync(connection, change.Change.At);
        HashSet<Guid> already = [.. NeedsPlace.Of(before, ahead).Select(one => one.Visit.Visit.Id)];
        List<LostVisit> hits = [.. NeedsPlace.Of(after, ahead).Where(one => !already.Contains(one.Visit.Visit.Id))];
        string token = TokenOf(hits);
        if (hits.Count > 0 && accept != token)
        {
            Refused refused = new(StatusCodes.Status409Conflict, "hits-appointments", hits.Count == 1
                ? "One visit booked ahead would lose its place. It stays in the book and waits for a place; look at it before you save."
                : $"{hits.Count} visits booked ahead would lose their place. They stay in the book and wait for a place; look at them before you save.");
            refused.More["visits"] = hits.Select(one => NeedsPlace.Answer(after, one)).ToArray();
            refused.More["accept"] = token;
            throw refused;
        }

        await BookStore.NotifySetupAsync(connection);
        await transaction.CommitAsync();
        return made;
    }

    /// <summary>What the screen sends back once its reader has seen these very visits.</summary>
    private static string TokenOf(IEnumerable<LostVisit> hits) =>
        Convert.ToHexString(SHA256.HashData([.. hits.Select(one => one.Visit.Visit.Id).Order().SelectMany(id => id.ToByteArray())]));
}
