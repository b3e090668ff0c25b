using Dapper;
using Kingcup.Core.Forms;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A file somebody sends before they book, as an answer.</summary>
public sealed record NewAnswerFile
{
    /// <summary>Hash of what names it to whoever has sent it.</summary>
    public required byte[] TokenHash { get; init; }

    /// <summary>Hash of the device it comes from.</summary>
    public required byte[] Device { get; init; }

    /// <summary>Hash of the address range it comes from.</summary>
    public required byte[] Range { get; init; }

    /// <summary>Its name.</summary>
    public required string Name { get; init; }

    /// <summary>Media type.</summary>
    public required string ContentType { get; init; }

    /// <summary>Content.</summary>
    public required byte[] Bytes { get; init; }
}

/// <summary>A file that was sent, without its content.</summary>
/// <param name="Token">What its sender calls it.</param>
/// <param name="FileId">The file.</param>
/// <param name="Name">Its name.</param>
public sealed record SentFile(string Token, Guid FileId, string Name);

/// <summary>Files sent as answers to questions.</summary>
public static class AnswerFileStore
{
    // Files are counted and kept by one at a time, on whichever server; one that is sent takes longer than that.
    private const int LockName = 7_261_003;

    /// <summary>Keeps a file, where so many may wait.</summary>
    /// <returns>False where too many wait; nothing was kept.</returns>
    public static async Task<bool> AddAsync(
        NpgsqlConnection connection,
        NewAnswerFile file,
        Instant now
    )
    {
        ArgumentNullException.ThrowIfNull(file);
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("SELECT pg_advisory_xact_lock(@LockName)", new { LockName });
        WaitingFiles waiting = await connection.QuerySingleAsync<WaitingFiles>(
            """
            SELECT (count(*) FILTER (WHERE device_hash = @Device))::int AS of_device,
                (count(*) FILTER (WHERE range_hash = @Range))::int AS of_range,
                coalesce(sum(size) FILTER (WHERE range_hash = @Range), 0)::bigint AS bytes_of_range,
                coalesce(sum(size), 0)::bigint AS bytes_of_all
            FROM answer_file f WHERE sent_at > @Since AND NOT EXISTS (SELECT FROM visit_answer a WHERE a.file_id = f.file_id)
            """,
            new { file.Device, file.Range, Since = now - AnswerFiles.Kept }
        );
        if (!AnswerFiles.Takes(waiting, file.Bytes.Length)) return false;
        await connection.ExecuteAsync(
            """
            WITH made AS (
                INSERT INTO stored_file (id, kind, name, content_type, bytes, created_at)
                    VALUES (gen_random_uuid(), 'answer', @Name, @ContentType, @Bytes, @now) RETURNING id
            )
            INSERT INTO answer_file (file_id, token_hash, device_hash, range_hash, size, sent_at)
                SELECT id, @TokenHash, @Device, @Range, @Size, @now FROM made
            """,
            new { file.Name, file.ContentType, file.Bytes, file.TokenHash, file.Device, file.Range, Size = file.Bytes.Length, now });
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>Those of the files that are there.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="named">What their sender calls them, with its hash.</param>
    /// <param name="after">Only those that were sent later.</param>
    public static async Task<IReadOnlyList<SentFile>> FindAsync(
        NpgsqlConnection connection,
        IReadOnlyList<(string Token, byte[] Hash)> named,
        Instant after
    ) =>
        [
            .. await connection.QueryAsync<SentFile>(
                """
                SELECT asked.token, f.id AS file_id, f.name
                FROM unnest(@Tokens, @Hashes) AS asked(token, hash)
                JOIN answer_file a ON a.token_hash = asked.hash JOIN stored_file f ON f.id = a.file_id
                WHERE a.sent_at > @after
                """,
                new { Tokens = named.Select(one => one.Token).ToArray(), Hashes = named.Select(one => one.Hash).ToArray(), after }
            ),
        ];

    /// <summary>The file a visit's question was answered with, or null.</summary>
    public static Task<StoredFile?> OfVisitAsync(NpgsqlConnection connection, Guid visitId, Guid questionId) =>
        connection.QuerySingleOrDefaultAsync<StoredFile>(
            """
            SELECT f.id, f.kind, f.name, f.content_type, f.bytes, f.created_at
            FROM visit_answer a JOIN stored_file f ON f.id = a.file_id WHERE a.visit_id = @visitId AND a.question_id = @questionId
            """,
            new { visitId, questionId }
        );

    /// <summary>Removes the files that no visit needs.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="before">Only those that were sent earlier.</param>
    public static Task SweepAsync(NpgsqlConnection connection, Instant before) =>
        connection.ExecuteAsync(
            """
            DELETE FROM stored_file f USING answer_file a
            WHERE a.file_id = f.id AND a.sent_at < @before AND NOT EXISTS (SELECT FROM visit_answer v WHERE v.file_id = f.id)
            """,
            new { before }
        );
}
