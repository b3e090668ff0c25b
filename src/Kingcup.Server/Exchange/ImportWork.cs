using System.Text.Json;
using Hangfire;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Exchange;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Storage;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Exchange;

/// <summary>
/// Checks an import, takes its rows over, or takes them back: the part that may be long and is done beside the requests. A dry
/// run does everything a real one does and keeps nothing, so the two cannot disagree.
/// </summary>
internal sealed partial class ImportWork(
    Database database,
    BookReader book,
    SetupDesk desk,
    Languages languages,
    IClock clock,
    ILogger<ImportWork> log
)
{
    private const int Batch = 2_000;
    private static readonly JsonSerializerOptions _json = new(JsonSerializerDefaults.Web);

    /// <summary>Does what the state of the import asks for; nothing when somebody else has done it.</summary>
    /// <param name="id">The import.</param>
    /// <param name="by">Who asked for it; the history says so.</param>
    [AutomaticRetry(Attempts = 6, DelaysInSeconds = [5, 30, 60, 300, 900, 3600])]
    public async Task DoAsync(Guid id, string by)
    {
        await using NpgsqlConnection aside = await database.OpenAsync();
        ImportRow? import = await ImportStore.FindAsync(aside, id);
        if (import is null) return;
        languages.Speak();
        ImportState state = Enum.Parse<ImportState>(import.State);
        try
        {
            switch (state)
            {
                case ImportState.Checking or ImportState.Importing when ImportAnswer.KindOf(import) == ImportKind.Clients:
                    await ClientsAsync(import, state, By(by), aside);
                    break;
                case ImportState.Checking or ImportState.Importing:
                    await SetupAsync(import, state, By(by), aside);
                    break;
                case ImportState.Undoing:
                    await UndoAsync(import, By(by));
                    break;
            }
        }
        catch (Exception exception)
            when (exception is NpgsqlException and not PostgresException or TimeoutException or System.Net.Sockets.SocketException)
        {
            // The database went away. What was begun is rolled back, and the work is tried again when it is back.
            Broke(log, exception, id, state);
            throw;
        }
        catch (Exception exception)
        {
            Sentence why = exception is Refused refused ? refused.Detail : "Something went wrong on our side. Nothing was kept; try again.";
            if (exception is not Refused) Broke(log, exception, id, state);
            await using NpgsqlConnection fresh = await database.OpenAsync();
            await ImportStore.FailAsync(fresh, id, state == ImportState.Undoing ? ImportState.Imported : ImportState.Failed, why);
        }
    }

    internal static ImportMapping MappingOf(ImportRow import) => JsonSerializer.Deserialize<ImportMapping>(import.Mapping!, _json)!;

    internal static string TextOf(ImportMapping mapping) => JsonSerializer.Serialize(mapping, _json);

    private Change By(string name) => new(name, clock.GetCurrentInstant());

    private async Task ClientsAsync(ImportRow import, ImportState state, Change change, NpgsqlConnection aside)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Tally tally = new(import);
        Setup setup = await book.SetupAsync(connection);
        byte[] file = await ImportStore.FileAsync(aside, import.Id);
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await ImportStore.LockClientsAsync(connection);
        HashSet<string> known = await ImportStore.KnownClientsAsync(connection);
        ImportMapping mapping = MappingOf(import);
        List<ClientRow> batch = [];
        foreach (CsvRow row in CsvFile.Rows(file, import.Encoding, import.Delimiter).Skip(1))
        {
            Checks checks = new();
            ClientRow client = RowTexts.Client(new RowText(mapping, row.Cells), setup.Business.Region, change.At, checks);
            if (!tally.Takes(row, checks)) continue;
            List<string> keys = [.. ContactRules.KnownBy(client.GivenName, client.FamilyName, client.Email, client.Phone)];
            if (keys.Any(known.Contains))
            {
                tally.Knows(row, $"{client.GivenName} {client.FamilyName} is there already.");
                continue;
            }

            known.UnionWith(keys);
            tally.Good++;
            batch.Add(client);
            if (batch.Count == Batch) await KeepAsync();
            if (tally.Seen % Batch == 0) await ImportStore.ProgressAsync(aside, import.Id, tally.Seen);
        }

        await KeepAsync();
        await EndAsync(connection, import, tally, change, keeps: tally.MayKeep(state));
        if (tally.MayKeep(state)) await transaction.CommitAsync();
        else await OnlyFaultsAsync(transaction, aside, import, tally, state);

        async Task KeepAsync()
        {
            if (tally.MayKeep(state) && batch.Count > 0) await ImportStore.AddClientsAsync(connection, import.Id, batch, change);
            batch.Clear();
        }
    }

    private async Task SetupAsync(ImportRow import, ImportState state, Change by, NpgsqlConnection aside)
    {
        Tally tally = new(import);
        byte[] file = await ImportStore.FileAsync(aside, import.Id);
        bool kept = await desk.ChangeAsync(
            by,
            null,
            async change =>
            {
                List<(CsvRow Row, RowText Text)> rows =
                [
                    .. CsvFile
                        .Rows(file, import.Encoding, import.Delimiter)
                        .Skip(1)
                        .Select(row => (row, new RowText(MappingOf(import), row.Cells))),
                ];
                SetupImport work = new(change, import, tally);
                await work.MakeMissingAsync(rows.Select(row => row.Text));
                foreach ((CsvRow row, RowText text) in rows)
                {
                    await work.AddAsync(row, text);
                    if (tally.Seen % 50 == 0)
                        await ImportStore.ProgressAsync(aside, import.Id, tally.Seen);
                }

                await work.NoteAsync();
                bool keeps = tally.MayKeep(state);
                await EndAsync(change.Connection, import, tally, change.Change, keeps);
                return keeps;
            }, keep: keeps => keeps, isLong: true);
        if (!kept) await OnlyFaultsAsync(null, aside, import, tally, state);
    }

    private async Task UndoAsync(ImportRow import, Change by)
    {
        await desk.ChangeAsync(by, null, async change =>
        {
            int stayed = await ImportStore.TakeBackAsync(change.Connection, import.Id);
            await ImportStore.SetStateAsync(change.Connection, import.Id, [ImportState.Undoing], ImportState.Undone);
            await change.RecordAsync("import", import.Id, "Undone", new { import.Kind, import.Added }, new { stayed });
            return true;
        });
    }

    private static async Task EndAsync(NpgsqlConnection connection, ImportRow import, Tally tally, Change change, bool keeps)
    {
        if (!keeps) return;
        await ImportStore.FinishAsync(connection, tally.Result(ImportState.Imported), tally.Faults, forgetFile: true);
        await History.RecordAsync(
            connection,
            new Subject("import", import.Id),
            "Imported",
            null,
            new
            {
                import.Kind,
                import.FileName,
                added = tally.Good,
                tally.Bad,
                tally.Known,
                tally.Made,
            },
            change
        );
    }

    /// <summary>Nothing is kept but what was found, so that it can be read.</summary>
    private static async Task OnlyFaultsAsync(
        NpgsqlTransaction? transaction,
        NpgsqlConnection aside,
        ImportRow import,
        Tally tally,
        ImportState state
    )
    {
        if (transaction is not null) await transaction.RollbackAsync();
        await using NpgsqlTransaction own = await aside.BeginTransactionAsync();
        ImportRow result = tally.Result(
            ImportState.Checked,
            state == ImportState.Importing ? Say("Some rows can no longer be taken. Nothing was kept; look at them.") : (string?)null
        );
        await ImportStore.FinishAsync(aside, result, tally.Faults, forgetFile: false);
        await own.CommitAsync();
    }

    [LoggerMessage(LogLevel.Error, "Import {Id} broke while {State}")]
    private static partial void Broke(ILogger log, Exception exception, Guid id, ImportState state);
}

/// <summary>Counts what becomes of the rows.</summary>
internal sealed class Tally(ImportRow import)
{
    private readonly List<ImportFault> _faults = [];

    internal int Seen { get; private set; }

    internal int Good { get; set; }

    internal int Bad { get; private set; }

    internal int Known { get; private set; }

    internal List<string> Made { get; } = [];

    internal IReadOnlyList<ImportFault> Faults => _faults;

    /// <summary>Whether a row could be read; otherwise its faults are noted.</summary>
    internal bool Takes(CsvRow row, Checks checks)
    {
        Seen++;
        if (checks.Found.Count == 0) return true;
        Bad++;
        foreach ((string path, Sentence message) in checks.Found)
            _faults.Add(NewFault(row, message) with { Field = RowTexts.FieldOf(ImportAnswer.KindOf(import), path) });
        return false;
    }

    internal void Knows(CsvRow row, Sentence message)
    {
        Known++;
        _faults.Add(NewFault(row, message) with { IsKnown = true });
    }

    private ImportFault NewFault(CsvRow row, Sentence message) =>
        new()
        {
            Place = _faults.Count + 1,
            Line = row.Line,
            Message = message,
            Cells = row.Cells,
        };

    /// <summary>Whether the rows may be kept: only when asked for, and with no bad one unless those are to be passed over.</summary>
    internal bool MayKeep(ImportState state) => state == ImportState.Importing && (Bad == 0 || import.GoodRowsOnly);

    internal ImportRow Result(ImportState state, string? error = null) => new()
    {
        Id = import.Id,
        State = state.ToString(),
        Good = Good,
        Bad = Bad,
        Known = Known,
        Added = state == ImportState.Imported ? Good : 0,
        Made = [.. Made],
        Error = error,
    };
}
