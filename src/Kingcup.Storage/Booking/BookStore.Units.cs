using Dapper;
using Kingcup.Core.Availability;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A claim on a unit, with whom it belongs to.</summary>
public sealed class UnitRow
{
    /// <summary>The occupation that holds it.</summary>
    public Guid OccupationId { get; init; }

    /// <summary>The visit it is a line of; null for whatever else holds time.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>Which unit.</summary>
    public short Unit { get; init; }

    /// <summary>When, turnaround included.</summary>
    public Interval During { get; init; }

    /// <summary>The same for the rule.</summary>
    public HeldUnit Held => new(Unit, During);
}

/// <content>Units of rooms and equipment that change hands.</content>
public static partial class BookStore
{
    /// <summary>Everything that holds units of a room or pool in a time, by beginning.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="resourceId">The room or pool.</param>
    /// <param name="during">In which time.</param>
    /// <param name="now">What has run out by then counts for nobody.</param>
    public static async Task<IReadOnlyList<UnitRow>> UnitsAsync(
        NpgsqlConnection connection,
        Guid resourceId,
        Interval during,
        Instant now
    )
    {
        return
        [
            .. await connection.QueryAsync<UnitRow>(
                """
                SELECT k.occupation_id, a.visit_id, k.unit, k.during
                FROM claim k JOIN occupation o ON o.id = k.occupation_id LEFT JOIN appointment a ON a.id = k.occupation_id
                WHERE k.live AND k.resource_id = @resourceId AND k.during && @during AND (o.expires_at IS NULL OR o.expires_at > @now)
                ORDER BY lower(k.during), k.unit, k.occupation_id
                """,
                new { resourceId, during, now }
            ),
        ];
    }

    /// <summary>Exchanges two units of a room or pool for some claims: each goes to the other one.</summary>
    /// <param name="transaction">A transaction that has locked the days.</param>
    /// <param name="visits">The visits the claims belong to, as they were read under the locks.</param>
    /// <param name="resourceId">The room or pool.</param>
    /// <param name="claims">The claims, each on one of the two units.</param>
    /// <param name="sum">The numbers of both units added.</param>
    /// <returns>The visits as they stand once the transaction commits.</returns>
    public static IReadOnlyList<StoredVisit> ExchangeUnits(
        BookTransaction transaction,
        IReadOnlyList<StoredVisit> visits,
        Guid resourceId,
        IReadOnlyList<UnitRow> claims,
        int sum
    )
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visits);
        ArgumentNullException.ThrowIfNull(claims);
        object which = new
        {
            resourceId,
            sum,
            transaction.Change.At,
            Occupations = claims.Select(claim => claim.OccupationId).ToArray(),
            Units = claims.Select(claim => claim.Unit).ToArray(),
            Starts = claims.Select(claim => claim.During.Start).ToArray(),
            Ends = claims.Select(claim => claim.During.End).ToArray(),
        };
        const string These =
            """
            FROM unnest(@Occupations, @Units, @Starts) AS c(occupation, unit, starts)
            WHERE k.occupation_id = c.occupation AND k.resource_id = @resourceId AND k.unit = c.unit AND lower(k.during) = c.starts
            """;
        // The constraint looks at one row after another: while they change places none of them is held. What has run out makes way.
        transaction.Write($"UPDATE claim k SET live = false {These}", which);
        transaction.Write(
            """
            UPDATE claim k SET live = false FROM occupation o, unnest(@Starts, @Ends) AS c(starts, ends)
            WHERE o.expires_at <= @At AND k.occupation_id = o.id AND k.live AND k.resource_id = @resourceId
                AND k.during && tstzrange(c.starts, c.ends)
            """,
            which
        );
        transaction.Write($"UPDATE claim k SET live = true, unit = (@sum - k.unit)::smallint {These}", which);
        ILookup<Guid, (short Unit, Instant Start)> changed = claims.ToLookup(
            claim => claim.OccupationId,
            claim => (claim.Unit, claim.During.Start)
        );
        return
        [
            .. visits.Select(visit =>
            {
                StoredVisit next = visit with
                {
                    Visit = visit.Visit with { Version = visit.Visit.Version + 1 },
                    Claims =
                    [
                        .. visit.Claims.Select(claim =>
                            claim.ResourceId == resourceId && changed[claim.OccupationId].Contains((claim.Unit, claim.During.Start))
                                ? claim.On((short)(sum - claim.Unit))
                                : claim
                        ),
                    ],
                };
                transaction.Write(
                    "UPDATE visit SET version = version + 1 WHERE id = @Id AND version = @Version",
                    new { visit.Visit.Id, visit.Visit.Version },
                    oneRow: true
                );
                transaction.Record(new Subject("visit", visit.Visit.Id), "Unit", Describe(visit), Describe(next));
                transaction.Tell(LiveNotices.Day(visit.Visit.LocationId, visit.Visit.Date));
                return next;
            }),
        ];
    }
}
