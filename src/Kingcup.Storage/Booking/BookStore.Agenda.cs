using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Which visits an agenda is to hold. What is null or empty does not matter.</summary>
/// <param name="From">The first day.</param>
/// <param name="Until">The last day.</param>
public sealed record AgendaFilter(LocalDate From, LocalDate Until)
{
    /// <summary>Where.</summary>
    public Guid? LocationId { get; init; }

    /// <summary>With one of these people, rooms or pools.</summary>
    public IReadOnlyCollection<Guid> ResourceIds { get; init; } = [];

    /// <summary>With a service of one of these categories.</summary>
    public IReadOnlyCollection<Guid> CategoryIds { get; init; } = [];

    /// <summary>Standing so; all but the cancelled ones where there is none.</summary>
    public IReadOnlyCollection<string> States { get; init; } = [];

    /// <summary>Booked so, or null.</summary>
    public string? Source { get; init; }
}

/// <content>Visits one after another.</content>
public static partial class BookStore
{
    /// <summary>The visit of a reference, or null.</summary>
    public static Task<Guid?> IdOfAsync(NpgsqlConnection connection, string reference) =>
        connection.ExecuteScalarAsync<Guid?>("SELECT id FROM visit WHERE reference = @reference", new { reference });

    /// <summary>The visits that a filter holds, by time.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="filter">Which.</param>
    /// <param name="most">How many at the most.</param>
    public static async Task<IReadOnlyList<StoredVisit>> AgendaAsync(NpgsqlConnection connection, AgendaFilter filter, int most)
    {
        ArgumentNullException.ThrowIfNull(filter);
        List<string> all =
        [
            "v.date BETWEEN @From AND @Until",
            filter.States.Count > 0 ? "v.state = ANY(@States)" : "v.state <> 'Cancelled'",
        ];
        if (filter.LocationId is not null) all.Add("v.location_id = @LocationId");
        if (filter.Source is not null) all.Add("v.source = @Source");
        if (filter.ResourceIds.Count > 0)
            all.Add(
                "EXISTS (SELECT 1 FROM claim k JOIN appointment a ON a.id = k.occupation_id WHERE a.visit_id = v.id "
                    + "AND k.resource_id = ANY(@Resources))"
            );
        if (filter.CategoryIds.Count > 0)
            all.Add(
                "EXISTS (SELECT 1 FROM appointment a JOIN service s ON s.id = a.service_id WHERE a.visit_id = v.id "
                    + "AND s.category_id = ANY(@Categories))"
            );
        var values = new
        {
            filter.From,
            filter.Until,
            filter.LocationId,
            filter.Source,
            States = filter.States.ToArray(),
            Resources = filter.ResourceIds.ToArray(),
            Categories = filter.CategoryIds.ToArray(),
            most,
        };
        // Which they are is found out first: the parts of each are then read by identity.
        Guid[] ids =
        [
            .. await connection.QueryAsync<Guid>(
                $"SELECT v.id FROM visit v WHERE {string.Join(" AND ", all)} ORDER BY v.starts_at, v.id LIMIT @most",
                values
            ),
        ];
        return await TheseAsync(connection, ids);
    }
}
