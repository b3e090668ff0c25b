using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A view of the agenda, saved by name.</summary>
/// <param name="Id">Identity.</param>
/// <param name="StaffId">Whose it is; null where it is for all.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Query">What it holds, as the address of the agenda says it.</param>
/// <param name="CreatedBy">Who saved it.</param>
public sealed record SavedView(Guid Id, Guid? StaffId, string Name, string Query, Guid CreatedBy);

/// <summary>Saved views.</summary>
public static class ViewStore
{
    /// <summary>How many one person may have, and how many there may be for all.</summary>
    public const int Most = 50;

    /// <summary>What somebody has saved, and what is for all, by name.</summary>
    public static async Task<IReadOnlyList<SavedView>> OfAsync(NpgsqlConnection connection, Guid staffId) =>
        [
            .. await connection.QueryAsync<SavedView>(
                """
                SELECT id, staff_id, name, query, created_by FROM saved_view WHERE staff_id = @staffId OR staff_id IS NULL
                ORDER BY lower(name), id
                """,
                new { staffId }
            ),
        ];

    /// <summary>Saves a view. One that is called the same by the same owner is replaced.</summary>
    /// <returns>False when there are too many already; nothing is saved then.</returns>
    public static async Task<bool> SaveAsync(NpgsqlConnection connection, SavedView view, Instant at)
    {
        ArgumentNullException.ThrowIfNull(view);
        int rows = await connection.ExecuteAsync(
            """
            INSERT INTO saved_view (id, staff_id, name, query, created_by, created_at)
            SELECT @Id, @StaffId, @Name, @Query, @CreatedBy, @at
            WHERE (SELECT count(*) FROM saved_view WHERE staff_id IS NOT DISTINCT FROM @StaffId) < @Most
            ON CONFLICT (coalesce(staff_id, '00000000-0000-0000-0000-000000000000'), lower(name))
                DO UPDATE SET query = EXCLUDED.query, created_by = EXCLUDED.created_by, created_at = EXCLUDED.created_at
            """,
            new Parameters(new { view.Id, view.Name, view.Query, view.CreatedBy, at, Most }).Add("StaffId", view.StaffId)
        );
        return rows > 0;
    }

    /// <summary>Removes a view.</summary>
    public static Task RemoveAsync(NpgsqlConnection connection, Guid id) =>
        connection.ExecuteAsync("DELETE FROM saved_view WHERE id = @id", new { id });
}
