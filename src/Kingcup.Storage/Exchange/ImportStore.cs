using Dapper;
using NodaTime;
using Npgsql;
using NpgsqlTypes;

namespace Kingcup.Storage;

/// <summary>Imports, their faults, and what they have brought.</summary>
public static class ImportStore
{
    // Any number that no other lock of this database uses.
    private const long ClientsLock = 7_201_904;

    private const string Columns =
        """
        id, kind, file_name, actor, at, rows, state, encoding, delimiter, heads, mapping::text AS mapping, rows_done, good, bad, known,
            added, made, kept,
        good_rows_only, error, file IS NOT NULL AS has_file
        """;

    /// <summary>Keeps a new import with its file.</summary>
    public static Task AddAsync(NpgsqlConnection connection, ImportRow row, byte[] file) => connection.ExecuteAsync(
        """
        INSERT INTO import (id, kind, file_name, actor, at, rows, added, encoding, delimiter, heads, file)
        VALUES (@Id, @Kind, @FileName, @Actor, @At, @Rows, 0, @Encoding, @Delimiter, @Heads, @file)
        """,
        new { row.Id, row.Kind, row.FileName, row.Actor, row.At, row.Rows, row.Encoding, row.Delimiter, row.Heads, file });

    /// <summary>An import, or null.</summary>
    public static Task<ImportRow?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<ImportRow>($"SELECT {Columns} FROM import WHERE id = @id", new { id });

    /// <summary>The latest imports, newest first.</summary>
    public static async Task<IReadOnlyList<ImportRow>> LatestAsync(NpgsqlConnection connection, int most) =>
        [.. await connection.QueryAsync<ImportRow>($"SELECT {Columns} FROM import ORDER BY at DESC, id DESC LIMIT @most", new { most })];

    /// <summary>The file as it was uploaded.</summary>
    /// <exception cref="InvalidOperationException">It is no longer kept.</exception>
    public static async Task<byte[]> FileAsync(NpgsqlConnection connection, Guid id) =>
        await connection.ExecuteScalarAsync<byte[]>("SELECT file FROM import WHERE id = @id", new { id })
        ?? throw new InvalidOperationException("The file of this import is no longer kept.");

    /// <summary>Sets the state, if it is one of those expected, and what was chosen.</summary>
    /// <returns>Whether it was.</returns>
    public static async Task<bool> SetStateAsync(
        NpgsqlConnection connection,
        Guid id,
        ImportState[] from,
        ImportState to,
        string? mapping = null,
        bool? goodRowsOnly = null
    ) =>
        await connection.ExecuteAsync(
            """
            UPDATE import SET state = @To, rows_done = 0, error = NULL, mapping = coalesce(@mapping::jsonb, mapping),
                good_rows_only = coalesce(@goodRowsOnly, good_rows_only), version = version + 1
            WHERE id = @id AND state = ANY(@From)
            """,
            new { id, From = from.Select(state => state.ToString()).ToArray(), To = to.ToString(), mapping, goodRowsOnly }) == 1;

    /// <summary>Keeps how the file is read now; what was chosen of its columns is forgotten.</summary>
    /// <returns>False when the import is in none of the states expected; nothing is changed then.</returns>
    public static async Task<bool> ReadAgainAsync(
        NpgsqlConnection connection,
        Guid id,
        ImportState[] from,
        string encoding,
        string delimiter,
        string[] heads,
        int rows
    ) =>
        await connection.ExecuteAsync(
            """
            UPDATE import SET state = 'Uploaded', mapping = NULL, error = NULL, encoding = @encoding, delimiter = @delimiter,
                heads = @heads, rows = @rows, version = version + 1
            WHERE id = @id AND state = ANY(@From)
            """,
            new { id, From = from.Select(state => state.ToString()).ToArray(), encoding, delimiter, heads, rows }) == 1;

    /// <summary>Says how far it is, for whoever waits; outside the transaction of the work.</summary>
    public static Task ProgressAsync(NpgsqlConnection connection, Guid id, int rowsDone) =>
        connection.ExecuteAsync("UPDATE import SET rows_done = @rowsDone WHERE id = @id", new { id, rowsDone });

    /// <summary>Keeps what checking found.</summary>
    public static async Task FinishAsync(NpgsqlConnection connection, ImportRow result, IReadOnlyList<ImportFault> faults, bool forgetFile)
    {
        int rows = await connection.ExecuteAsync(
            """
            UPDATE import SET state = @State, rows_done = rows, good = @Good, bad = @Bad, known = @Known, added = @Added, made = @Made,
                error = @Error,
                file = CASE WHEN @forgetFile THEN NULL ELSE file END, version = version + 1 WHERE id = @Id
            """,
            new { result.Id, result.State, result.Good, result.Bad, result.Known, result.Added, result.Made, result.Error, forgetFile });
        if (rows == 0) throw new InvalidOperationException("The import was given up meanwhile.");
        await connection.ExecuteAsync("DELETE FROM import_fault WHERE import_id = @Id", new { result.Id });
        await using NpgsqlBinaryImporter copy = await connection.BeginBinaryImportAsync(
            "COPY import_fault (import_id, place, line, is_known, field, message, cells) FROM STDIN (FORMAT binary)"
        );
        foreach (ImportFault fault in faults)
        {
            await copy.StartRowAsync();
            await copy.WriteAsync(result.Id, NpgsqlDbType.Uuid);
            await copy.WriteAsync(fault.Place, NpgsqlDbType.Integer);
            await copy.WriteAsync(fault.Line, NpgsqlDbType.Integer);
            await copy.WriteAsync(fault.IsKnown, NpgsqlDbType.Boolean);
            await copy.WriteAsync(fault.Field, NpgsqlDbType.Text);
            await copy.WriteAsync(fault.Message, NpgsqlDbType.Text);
            await copy.WriteAsync(fault.Cells, NpgsqlDbType.Array | NpgsqlDbType.Text);
        }

        await copy.CompleteAsync();
    }

    /// <summary>Ends an import that could not be done.</summary>
    public static Task FailAsync(NpgsqlConnection connection, Guid id, ImportState to, string error) =>
        connection.ExecuteAsync(
            "UPDATE import SET state = @To, error = @error, version = version + 1 WHERE id = @id",
            new
            {
                id,
                To = to.ToString(),
                error,
            }
        );

    /// <summary>Faults in order, from behind a place on.</summary>
    public static async Task<IReadOnlyList<ImportFault>> FaultsAsync(NpgsqlConnection connection, Guid id, int after, int most) =>
        [
            .. await connection.QueryAsync<ImportFault>(
                "SELECT place, line, is_known, field, message, cells FROM import_fault WHERE import_id = @id AND place > @after "
                    + "ORDER BY place LIMIT @most",
                new
                {
                    id,
                    after,
                    most,
                }
            ),
        ];

    /// <summary>Notes what an import has brought, so that it can be taken back.</summary>
    public static async Task AddRowsAsync(NpgsqlConnection connection, Guid id, string kind, IEnumerable<Guid> subjects)
    {
        await using NpgsqlBinaryImporter copy = await connection.BeginBinaryImportAsync(
            "COPY import_row (import_id, subject_id, subject_kind) FROM STDIN (FORMAT binary)"
        );
        foreach (Guid subject in subjects)
        {
            await copy.StartRowAsync();
            await copy.WriteAsync(id, NpgsqlDbType.Uuid);
            await copy.WriteAsync(subject, NpgsqlDbType.Uuid);
            await copy.WriteAsync(kind, NpgsqlDbType.Text);
        }

        await copy.CompleteAsync();
    }

    /// <summary>Adds clients, each with an entry in the history.</summary>
    public static async Task AddClientsAsync(NpgsqlConnection connection, Guid importId, IReadOnlyList<ClientRow> clients, Change change)
    {
        await using (NpgsqlBinaryImporter copy = await connection.BeginBinaryImportAsync(
            "COPY client (id, given_name, family_name, email, phone, alert, created_at, may_book_online) FROM STDIN (FORMAT binary)"))
        {
            foreach (ClientRow client in clients)
            {
                await copy.StartRowAsync();
                await copy.WriteAsync(client.Id, NpgsqlDbType.Uuid);
                await copy.WriteAsync(client.GivenName, NpgsqlDbType.Text);
                await copy.WriteAsync(client.FamilyName, NpgsqlDbType.Text);
                await copy.WriteAsync(client.Email, NpgsqlDbType.Text);
                await copy.WriteAsync(client.Phone, NpgsqlDbType.Text);
                await copy.WriteAsync(client.Alert, NpgsqlDbType.Text);
                await copy.WriteAsync(client.CreatedAt, NpgsqlDbType.TimestampTz);
                await copy.WriteAsync(client.MayBookOnline, NpgsqlDbType.Boolean);
            }

            await copy.CompleteAsync();
        }

        await AddRowsAsync(connection, importId, "client", clients.Select(client => client.Id));
        await connection.ExecuteAsync(
            """
            INSERT INTO history (at, actor, action, subject_kind, subject_id, after)
            SELECT @At, @Actor, 'Imported', 'client', one, jsonb_build_object('import', @importId::uuid) FROM unnest(@Ids) AS one
            """,
            new { change.At, change.Actor, importId, Ids = clients.Select(client => client.Id).ToArray() });
    }

    /// <summary>Lets one import of clients look for known ones at a time, until the transaction ends; else two would bring the same
    /// person.</summary>
    public static Task LockClientsAsync(NpgsqlConnection connection) =>
        connection.ExecuteAsync("SELECT pg_advisory_xact_lock(@ClientsLock)", new { ClientsLock });

    /// <summary>By what the clients there are would be known again (<see cref="Core.Clients.ContactRules.KnownBy"/>).</summary>
    public static async Task<HashSet<string>> KnownClientsAsync(NpgsqlConnection connection)
    {
        HashSet<string> known = new(StringComparer.Ordinal);
        await foreach (
            ClientRow client in connection.QueryUnbufferedAsync<ClientRow>("SELECT id, given_name, family_name, email, phone FROM client")
        )
            known.UnionWith(Core.Clients.ContactRules.KnownBy(client.GivenName, client.FamilyName, client.Email, client.Phone));
        return known;
    }

    /// <summary>Every client, for an export.</summary>
    public static IAsyncEnumerable<ClientRow> AllClientsAsync(NpgsqlConnection connection) =>
        connection.QueryUnbufferedAsync<ClientRow>(
            "SELECT id, given_name, family_name, email, phone, alert, created_at, may_book_online FROM client "
                + "WHERE merged_into IS NULL ORDER BY family_name, given_name, id"
        );

    /// <summary>
    /// Takes back what an import has brought, in the caller's transaction: whatever nothing else has come to rest on since. The
    /// rest stays.
    /// </summary>
    /// <returns>How many rows stayed.</returns>
    public static async Task<int> TakeBackAsync(NpgsqlConnection connection, Guid id)
    {
        await connection.ExecuteAsync(
            """
            CREATE TEMP TABLE gone ON COMMIT DROP AS
                SELECT r.subject_id FROM import_row r WHERE r.import_id = @id AND r.subject_kind = 'client'
                    AND NOT EXISTS (SELECT 1 FROM visit v WHERE v.client_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM visit v WHERE v.payer_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM visit_person p WHERE p.client_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM client_link l WHERE l.from_client_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM client_link l WHERE l.to_client_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM client_note n WHERE n.client_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM client_consent n WHERE n.client_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM client_apart p WHERE p.one_id = r.subject_id OR p.other_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM client_merge m WHERE m.kept_id = r.subject_id OR m.gone_id = r.subject_id)
                    AND NOT EXISTS (SELECT 1 FROM client m WHERE m.merged_into = r.subject_id);
            DELETE FROM client c USING gone g WHERE c.id = g.subject_id;
            DELETE FROM import_row r USING gone g WHERE r.import_id = @id AND r.subject_id = g.subject_id;
            """,
            new { id });
        // First what the rows are, then what was made for them.
        foreach ((string kind, string unused, string removal) in _removals)
        {
            IEnumerable<Guid> subjects = await connection.QueryAsync<Guid>(
                $"SELECT r.subject_id FROM import_row r WHERE r.import_id = @id AND r.subject_kind = @kind AND {unused}", new { id, kind });
            foreach (Guid subject in subjects)
            {
                await connection.ExecuteAsync("SAVEPOINT one");
                try
                {
                    await connection.ExecuteAsync(
                        removal + "; DELETE FROM import_row WHERE import_id = @id AND subject_id = @subject; RELEASE SAVEPOINT one",
                        new { id, subject }
                    );
                }
                catch (PostgresException exception) when (exception.SqlState == PostgresErrorCodes.ForeignKeyViolation)
                {
                    // Something rests on it since: a visit, a rota, an add-on.
                    await connection.ExecuteAsync("ROLLBACK TO SAVEPOINT one");
                }
            }
        }

        int kept = await connection.ExecuteScalarAsync<int>(
            "SELECT count(*)::int FROM import_row WHERE import_id = @id AND subject_kind IN ('client', 'service', 'practitioner')",
            new { id }
        );
        await connection.ExecuteAsync("UPDATE import SET kept = @kept WHERE id = @id", new { id, kept });
        return kept;
    }

    /// <summary>Forgets files that lay too long, and the rows that were not taken.</summary>
    public static Task ForgetAsync(NpgsqlConnection connection, Instant before) => connection.ExecuteAsync(
        """
        DELETE FROM import_fault WHERE import_id IN (SELECT id FROM import WHERE at < @before);
        UPDATE import SET file = NULL WHERE at < @before AND file IS NOT NULL;
        """,
        new { before });

    /// <summary>Gives an import up that brought nothing.</summary>
    public static Task RemoveAsync(NpgsqlConnection connection, Guid id) =>
        connection.ExecuteAsync("DELETE FROM import WHERE id = @id", new { id });

    // What somebody has changed since is theirs and stays.
    private static readonly (string Kind, string Unused, string Removal)[] _removals =
    [
        ("service",
            "EXISTS (SELECT 1 FROM service s WHERE s.id = r.subject_id AND s.version = 1)",
            """
            DELETE FROM service_location WHERE service_id = @subject; DELETE FROM service_role WHERE service_id = @subject; DELETE
                FROM service_phase WHERE service_id = @subject;
            DELETE FROM practitioner_terms WHERE service_id = @subject; DELETE FROM service WHERE id = @subject
            """),
        ("practitioner",
            """
            EXISTS (SELECT 1 FROM resource o WHERE o.id = r.subject_id AND o.version = 1)
                AND NOT EXISTS (SELECT 1 FROM service_role o WHERE r.subject_id = ANY(o.added_ids || o.excluded_ids))
            """,
            """
            DELETE FROM held_qualification WHERE practitioner_id = @subject; DELETE FROM practitioner_limit
                WHERE practitioner_id = @subject;
            DELETE FROM practitioner WHERE id = @subject; DELETE FROM resource_unit WHERE resource_id = @subject; DELETE
                FROM resource WHERE id = @subject
            """),
        ("category", "true", "DELETE FROM category WHERE id = @subject"),
        (
            "qualification",
            "NOT EXISTS (SELECT 1 FROM service_role o WHERE r.subject_id = ANY(o.qualification_ids))",
            "DELETE FROM qualification WHERE id = @subject"
        ),
    ];
}
