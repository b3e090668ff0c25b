using Dapper;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A line of a visit from some day on, with whose it is and where.</summary>
/// <param name="ClientId">Who comes.</param>
/// <param name="Client">Their name.</param>
/// <param name="LocationId">Where.</param>
/// <param name="Date">The day.</param>
/// <param name="Line">The line.</param>
public sealed record LineAhead(Guid ClientId, string Client, Guid LocationId, LocalDate Date, ClientVisit Line);

/// <content>What clients come for from some day on.</content>
public static partial class BookStore
{
    /// <summary>The lines of clients' visits from a day on, whatever their states.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="from">The first day.</param>
    /// <param name="clientIds">Whose; null for everybody who comes more than once.</param>
    public static async Task<IReadOnlyList<LineAhead>> AheadAsync(
        NpgsqlConnection connection,
        LocalDate from,
        IReadOnlyCollection<Guid>? clientIds
    )
    {
        string whose = clientIds is null
            ? "v.client_id IN (SELECT o.client_id FROM visit o WHERE o.date >= @from GROUP BY o.client_id HAVING count(*) > 1)"
            : "v.client_id = ANY(@ids)";
        return
        [
            .. (
                await connection.QueryAsync<AheadRow>(
                    $"""
                    SELECT v.client_id, c.given_name || ' ' || c.family_name AS client, v.location_id, v.date, v.id, v.state,
                        a.service_id, a.starts_at, a.ends_at
                    FROM visit v JOIN appointment a ON a.visit_id = v.id JOIN client c ON c.id = v.client_id
                    WHERE v.date >= @from AND {whose} ORDER BY a.starts_at, a.id
                    """,
                    new { from, ids = clientIds?.ToArray() ?? [] }
                )
            ).Select(row => new LineAhead(
                row.ClientId,
                row.Client,
                row.LocationId,
                row.Date,
                new ClientVisit(Enum.Parse<VisitState>(row.State), row.ServiceId, row.StartsAt, row.EndsAt) { VisitId = row.Id }
            )),
        ];
    }

    private sealed class AheadRow
    {
        public Guid ClientId { get; init; }
        public string Client { get; init; } = "";
        public Guid LocationId { get; init; }
        public LocalDate Date { get; init; }
        public Guid Id { get; init; }
        public string State { get; init; } = "";
        public Guid ServiceId { get; init; }
        public Instant StartsAt { get; init; }
        public Instant EndsAt { get; init; }
    }
}
