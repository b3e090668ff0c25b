using Dapper;
using Kingcup.Core.Booking;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Something somebody did in the book.</summary>
public sealed class StepRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>Grows with every step.</summary>
    public long Place { get; init; }

    /// <summary>When it was done.</summary>
    public Instant At { get; init; }

    /// <summary>What it was, as a name of <see cref="StepKind"/>.</summary>
    public string Kind { get; init; } = "";

    /// <summary>When it was undone, or null.</summary>
    public Instant? UndoneAt { get; init; }

    /// <summary>The visits it changed.</summary>
    public Guid[] Visits { get; init; } = [];

    /// <summary>How many things the same person has done since.</summary>
    public int Later { get; init; }

    /// <summary><see cref="Kind"/> as a value.</summary>
    public StepKind StepKind => Enum.Parse<StepKind>(Kind);
}

/// <summary>What a step did to one visit.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Version">The version the step left behind.</param>
/// <param name="Before">How it stood before; null where there was nothing.</param>
public sealed record StepVisit(Guid VisitId, long Version, StoredVisit? Before);

/// <summary>What each person did in the book last, so that it can be undone.</summary>
public static class StepStore
{
    /// <summary>Writes a step in the transaction of what it does, and forgets the oldest.</summary>
    /// <returns>Its identity.</returns>
    public static Guid Add(BookTransaction transaction, Guid staffId, StepKind kind, IReadOnlyList<StepVisit> visits)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visits);
        Guid id = Guid.CreateVersion7();
        transaction.Write(
            "INSERT INTO step (id, staff_id, at, kind) VALUES (@id, @staffId, @At, @Kind)",
            new { id, staffId, transaction.Change.At, Kind = kind.ToString() });
        transaction.Write(
            "INSERT INTO step_visit (step_id, visit_id, version, before) SELECT @id, v.visit, v.version, CAST(v.before AS jsonb) "
                + "FROM unnest(@Visits, @Versions, @Before) AS v(visit, version, before)",
            new
            {
                id,
                Visits = visits.Select(visit => visit.VisitId).ToArray(),
                Versions = visits.Select(visit => visit.Version).ToArray(),
                Before = visits.Select(visit => visit.Before is null ? null : KeptVisit.Json(visit.Before)).ToArray(),
            });
        transaction.Write(
            "DELETE FROM step WHERE staff_id = @staffId AND place < (SELECT place FROM step WHERE staff_id = @staffId "
                + "ORDER BY place DESC OFFSET @Last LIMIT 1)",
            new { staffId, Last = Undoing.MostSteps - 1 });
        return id;
    }

    /// <summary>What somebody did last, newest first.</summary>
    public static async Task<IReadOnlyList<StepRow>> OfAsync(NpgsqlConnection connection, Guid staffId) =>
        [
            .. await connection.QueryAsync<StepRow>(
                """
                SELECT id, place, at, kind, undone_at, (row_number() OVER (ORDER BY place DESC) - 1)::int AS later,
                    ARRAY(SELECT v.visit_id FROM step_visit v WHERE v.step_id = step.id) AS visits
                FROM step WHERE staff_id = @staffId ORDER BY place DESC LIMIT @Most
                """,
                new { staffId, Most = Undoing.MostSteps }
            ),
        ];

    /// <summary>The same step, held until the transaction ends, so that it is undone once; null where somebody did no such thing.</summary>
    public static async Task<StepRow?> LockAsync(NpgsqlConnection connection, Guid staffId, Guid id) =>
        await connection.QuerySingleOrDefaultAsync<StepRow>(
            """
            SELECT s.id, s.place, s.at, s.kind, s.undone_at,
                (SELECT count(*)::int FROM step o WHERE o.staff_id = s.staff_id AND o.place > s.place) AS later
            FROM step s WHERE s.id = @id AND s.staff_id = @staffId FOR UPDATE OF s
            """,
            new { staffId, id }
        );

    /// <summary>What a step did, visit by visit.</summary>
    public static async Task<IReadOnlyList<StepVisit>> VisitsAsync(NpgsqlConnection connection, Guid id) =>
        [
            .. (
                await connection.QueryAsync<(Guid VisitId, long Version, string? Before)>(
                    "SELECT visit_id, version, before::text FROM step_visit WHERE step_id = @id ORDER BY visit_id",
                    new { id }
                )
            ).Select(row => new StepVisit(row.VisitId, row.Version, row.Before is null ? null : KeptVisit.Read(row.Before))),
        ];

    /// <summary>Says that a step is undone. What stood before it stands again, so that the step that had led there can be undone
    /// too.</summary>
    /// <param name="transaction">The transaction that undoes it.</param>
    /// <param name="id">The step.</param>
    /// <param name="back">Each visit that stands again, its version before the step, and its version from now on.</param>
    public static void Undone(BookTransaction transaction, Guid id, IReadOnlyList<(Guid VisitId, long Before, long Now)> back)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(back);
        transaction.Write(
            """
            UPDATE step_visit s SET version = b.now FROM unnest(@Visits, @Before, @Now) AS b(visit, before, now)
            WHERE s.visit_id = b.visit AND s.version = b.before
            """,
            new
            {
                Visits = back.Select(one => one.VisitId).ToArray(),
                Before = back.Select(one => one.Before).ToArray(),
                Now = back.Select(one => one.Now).ToArray(),
            });
        transaction.Write(
            "UPDATE step SET undone_at = @At WHERE id = @id AND undone_at IS NULL",
            new { transaction.Change.At, id },
            oneRow: true
        );
    }
}
