using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Clients;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>An idempotency key about to be taken.</summary>
/// <param name="Scope">Whose keys these are.</param>
/// <param name="Key">The key.</param>
/// <param name="Fingerprint">Hash of what the request said.</param>
public sealed record KeyToTake(string Scope, string Key, byte[] Fingerprint);

/// <summary>
/// What a transaction of the book locks until it ends. The order is the same everywhere: the key, the setup (shared, so that nobody
/// changes it meanwhile), days by date, people.
/// </summary>
public sealed record BookLocks
{
    /// <summary>The idempotency key, or null.</summary>
    public KeyToTake? Key { get; init; }

    /// <summary>Days that are changed: their revisions count on.</summary>
    public IReadOnlyCollection<LocalDate> Days { get; init; } = [];

    /// <summary>Days that are only kept as they are, because what is changed reaches over midnight.</summary>
    public IReadOnlyCollection<LocalDate> Beside { get; init; } = [];

    /// <summary>What people who book online are known by; two bookings of the same come one after another.</summary>
    public IReadOnlyCollection<string> People { get; init; } = [];
}

/// <summary>What a transaction of the book reads under its locks.</summary>
public sealed record BookQuestion
{
    /// <summary>The days whose claims and dates are asked for, or null.</summary>
    public DaysAsked? Days { get; init; }

    /// <summary>Of whom all is asked that is held in a longer time, such as the week, or null.</summary>
    public HeldAsked? Held { get; init; }

    /// <summary>The visit that is changed, or null.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>Hash of what names a time that is kept for somebody, or null.</summary>
    public byte[]? ProposalToken { get; init; }

    /// <summary>Who comes, or null.</summary>
    public ClientAsked? Client { get; init; }

    /// <summary>Whoever books online: what they are known by, for counting what they have open; null at the desk.</summary>
    public OriginAsked? Origin { get; init; }
}

/// <summary>Days somebody asks about.</summary>
/// <param name="From">The first date on which anything is looked at.</param>
/// <param name="Until">The last.</param>
/// <param name="During">The same as time of the location.</param>
public sealed record DaysAsked(LocalDate From, LocalDate Until, Interval During);

/// <summary>What some people, rooms or pools are held for.</summary>
/// <param name="ResourceIds">Whose.</param>
/// <param name="During">In which time.</param>
public sealed record HeldAsked(IReadOnlyCollection<Guid> ResourceIds, Interval During);

/// <summary>The client somebody asks about: by identity, or as whom a stranger says to be.</summary>
/// <param name="Id">Identity, or null.</param>
/// <param name="Stranger">Address and names, or null.</param>
public sealed record ClientAsked(Guid? Id, ClientRow? Stranger = null);

/// <summary>What whoever books online is known by.</summary>
/// <param name="Email">E-mail address.</param>
/// <param name="Phone">Number.</param>
/// <param name="Device">Hash of the device.</param>
/// <param name="Range">Hash of the address range.</param>
public sealed record OriginAsked(string Email, string Phone, byte[] Device, byte[] Range);

/// <summary>The book as a transaction found it under its locks.</summary>
public sealed record LockedBook
{
    /// <summary>Whether another request has been answered with the key; nothing else was looked at then.</summary>
    public bool IsAnswered { get; init; }

    /// <summary>The present revision of the setup, which nobody changes meanwhile.</summary>
    public long? SetupRevision { get; init; }

    /// <summary>What is held and what holds on the days asked for.</summary>
    public BookWindow Window { get; init; } = BookWindow.Empty;

    /// <summary>What is held by those asked about for a longer time.</summary>
    public IReadOnlyList<TakenTime> Held { get; init; } = [];

    /// <summary>The visit asked for, or null.</summary>
    public StoredVisit? Visit { get; init; }

    /// <summary>The time that is kept for somebody, or null; it is locked too, and may have run out.</summary>
    public StoredProposal? Proposal { get; init; }

    /// <summary>The client asked for, or null.</summary>
    public ClientRow? Client { get; init; }

    /// <summary>The lines of that client's visits, without those of the visit asked for.</summary>
    public IReadOnlyList<ClientVisit> ClientVisits { get; init; } = [];

    /// <summary>How many visits booked online the person, the device and the address range have open.</summary>
    public (int OfPerson, int OfDevice, int OfRange) OpenOnline { get; init; }
}

/// <summary>What is held in a window of the book, and what holds on its dates.</summary>
/// <param name="Taken">What is held, at all locations; what has run out is not in it.</param>
/// <param name="Calendar">What holds on the dates.</param>
public sealed record BookWindow(IReadOnlyList<TakenTime> Taken, CalendarWindow Calendar)
{
    /// <summary>A window with nothing in it.</summary>
    public static BookWindow Empty { get; } = new([], CalendarWindow.Empty);

    /// <summary>Whether something lay in it that has run out and that nothing has taken out of the way yet.</summary>
    internal bool AnyRunOut { get; init; }
}

/// <summary>A row that was to be changed is no longer as it was seen.</summary>
public sealed class RowChangedException() : Exception("The row has been changed meanwhile.");

/// <summary>
/// One unit of work in the book: takes its locks, reads under them in the same batch, collects what is to be written with its history
/// and notices, and leaves as one batch. Disposed without a commit, nothing of it is kept.
/// </summary>
public sealed class BookTransaction : IAsyncDisposable
{
    internal const string DaysSql =
        """
        INSERT INTO book_day (date, revision) SELECT day, counts FROM unnest(@LockedDays, @Counts) AS asked(day, counts) ORDER BY day
        ON CONFLICT (date) DO UPDATE SET revision = book_day.revision + EXCLUDED.revision;
        """;

    private readonly NpgsqlTransaction _transaction;
    private readonly List<NpgsqlBatchCommand> _writes = [];
    private readonly List<NpgsqlBatchCommand> _last = [];
    private readonly HashSet<string> _notices = [];

    // In which time nothing that has run out is in the way.
    private Interval? _swept;

    private BookTransaction(NpgsqlConnection connection, NpgsqlTransaction transaction, Change change) =>
        (Connection, _transaction, Change, Calendar) = (connection, transaction, change, new CalendarWriter(connection));

    /// <summary>The connection of the transaction, for what is read beside.</summary>
    public NpgsqlConnection Connection { get; }

    /// <summary>Who changes the book, and when.</summary>
    public Change Change { get; }

    /// <summary>Writes what holds on the days that are locked.</summary>
    public CalendarWriter Calendar { get; }

    /// <summary>Begins a transaction; nothing is sent before the locks are taken.</summary>
    public static async Task<BookTransaction> BeginAsync(NpgsqlConnection connection, Change change)
    {
        ArgumentNullException.ThrowIfNull(connection);
        return new BookTransaction(connection, await connection.BeginTransactionAsync(), change);
    }

    /// <summary>Takes the locks and reads what is asked under them, in one batch.</summary>
    public async Task<LockedBook> LockAsync(BookLocks locks, BookQuestion question)
    {
        ArgumentNullException.ThrowIfNull(locks);
        ArgumentNullException.ThrowIfNull(question);
        (string sql, Parameters values) = Statements(locks, question);
        await using SqlMapper.GridReader grid = await Connection.QueryMultipleAsync(sql, values);
        if (locks.Key is not null && await grid.ReadSingleAsync<int>() == 0)
        {
            // Read to its end: a batch that is left in the middle is cancelled, and with it the transaction in which the answer is read.
            while (!grid.IsConsumed) await grid.ReadAsync<dynamic>();
            return new LockedBook { IsAnswered = true };
        }

        await grid.ReadAsync<int>();
        if (locks.People.Count > 0) await grid.ReadAsync<int>();
        LockedBook book = new() { SetupRevision = await grid.ReadSingleOrDefaultAsync<long?>() };
        if (question.Days is { } days)
        {
            book = book with { Window = await BookStore.WindowAsync(grid, Change.At) };
            if (!book.Window.AnyRunOut) _swept = days.During;
        }

        if (question.Held is not null)
            book = book with { Held = (await BookStore.TakenAsync(grid, Change.At)).Taken };
        if (question.VisitId is not null)
            book = book with { Visit = await BookStore.OneAsync(grid) };
        if (question.ProposalToken is not null)
            book = book with { Proposal = await BookStore.ProposalAsync(grid) };
        if (question.Client is not null)
            book = book with
            {
                Client = await grid.ReadSingleOrDefaultAsync<ClientRow>(),
                ClientVisits = await BookStore.ClientVisitsAsync(grid),
            };
        if (question.Origin is not null)
            book = book with { OpenOnline = await grid.ReadSingleAsync<(int, int, int)>() };
        return book;
    }

    /// <summary>Whether something that has run out may still be in the way in a time that is to be held.</summary>
    internal bool MayMeetRunOut(IEnumerable<Interval> held) =>
        _swept is not { } swept || held.Any(during => during.Start < swept.Start || swept.End < during.End);

    /// <summary>Adds a statement to what leaves with the commit.</summary>
    /// <param name="sql">One statement with named parameters.</param>
    /// <param name="values">An object whose properties are the parameters.</param>
    /// <param name="oneRow">Whether it has to change exactly one row; if not, the commit fails and nothing is kept.</param>
    internal void Write(string sql, object values, bool oneRow = false) =>
        // Divides by nothing where nothing was changed, so that the whole batch fails and the commit at its end is never reached.
        _writes.Add(Command(oneRow ? $"WITH changed AS ({sql} RETURNING 1) SELECT 1 / count(*) FROM changed" : sql, values));

    /// <summary>Adds a statement that is to see everything else that was written.</summary>
    internal void WriteLast(string sql, object values) => _last.Add(Command(sql, values));

    private static NpgsqlBatchCommand Command(string sql, object values)
    {
        NpgsqlBatchCommand command = new(sql);
        foreach (NpgsqlParameter parameter in Parameters.Of(values)) command.Parameters.Add(parameter);
        return command;
    }

    /// <summary>Adds an entry of the history.</summary>
    public void Record(Subject subject, string action, object? before, object? after) =>
        Write(History.Sql, History.Values(subject, action, before, after, Change));

    /// <summary>Adds a notice to every server.</summary>
    public void Tell(string notice) => _notices.Add(notice);

    /// <summary>Sends everything that was collected, and the commit with it, as one batch.</summary>
    /// <exception cref="RowChangedException">A row that was to be changed is no longer as it was seen; nothing is kept.</exception>
    /// <exception cref="PostgresException">The database refuses something; nothing is kept.</exception>
    public async Task CommitAsync()
    {
        if (_notices.Count > 0)
            Write(
                "SELECT pg_notify(@Channel, notice) FROM unnest(@Notices) AS notice",
                new { LiveNotices.Channel, Notices = _notices.ToArray() }
            );
        await using NpgsqlBatch batch = new(Connection, _transaction);
        foreach (NpgsqlBatchCommand command in _writes.Concat(_last)) batch.BatchCommands.Add(command);
        batch.BatchCommands.Add(new NpgsqlBatchCommand("COMMIT"));
        try
        {
            await batch.ExecuteNonQueryAsync();
        }
        catch (PostgresException exception) when (exception.SqlState == PostgresErrorCodes.DivisionByZero)
        {
            throw new RowChangedException();
        }
    }

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => _transaction.DisposeAsync();

    private (string Sql, Parameters Values) Statements(BookLocks locks, BookQuestion question)
    {
        List<string> sql = [];
        Parameters values = new(new { SetupTransaction.SetupLock, Now = Change.At });
        if (locks.Key is { } key)
        {
            values.Add(key);
            sql.Add(
                """
                WITH taken AS (INSERT INTO idempotency (scope, key, fingerprint, created_at)
                    VALUES (@Scope, @Key, @Fingerprint, @Now) ON CONFLICT DO NOTHING RETURNING 1)
                SELECT count(*)::int FROM taken;
                """);
        }

        // What is read after a lock was waited for is read as it stands then: each statement sees what was committed before it.
        sql.Add("SELECT 1 FROM pg_advisory_xact_lock_shared(@SetupLock);");
        Dictionary<LocalDate, int> days = locks.Beside.Distinct().ToDictionary(date => date, _ => 0);
        foreach (LocalDate date in locks.Days)
            days[date] = 1;
        values.Add(
            new { LockedDays = days.Keys.Order().ToArray(), Counts = days.OrderBy(day => day.Key).Select(day => day.Value).ToArray() }
        );
        sql.Add(DaysSql);
        if (locks.People.Count > 0)
        {
            values.Add(new { People = locks.People.Distinct().Order(StringComparer.Ordinal).ToArray() });
            sql.Add("SELECT 1 FROM unnest(@People) WITH ORDINALITY AS asked(who, place), pg_advisory_xact_lock(7201906, hashtext(who));");
        }

        sql.Add($"{SetupReader.RevisionSql};");
        if (question.Days is { } asked)
        {
            values.Add(BookStore.WindowValues(asked));
            sql.Add(BookStore.WindowSql);
        }

        if (question.Held is { } held)
        {
            values.Add(BookStore.HeldValues(held));
            sql.Add(BookStore.HeldSql);
        }

        if (question.VisitId is { } visitId)
        {
            values.Add(new { id = visitId });
            sql.Add(BookStore.OneSql);
        }

        if (question.ProposalToken is { } token)
        {
            values.Add(new { TokenHash = token });
            sql.Add(BookStore.ProposalSql);
        }

        if (question.Client is { } client)
        {
            values.Add(ClientStore.AskedValues(client)).Add("except", question.VisitId);
            sql.Add(ClientStore.AskedSql(client));
            sql.Add(BookStore.ClientVisitsSql(ClientStore.AskedIdSql(client)));
        }

        if (question.Origin is { } origin)
        {
            values.Add(new { AskedEmail = origin.Email, AskedPhone = origin.Phone, origin.Device, origin.Range });
            sql.Add(BookStore.OpenOnlineSql);
        }

        return (string.Join('\n', sql), values);
    }
}
