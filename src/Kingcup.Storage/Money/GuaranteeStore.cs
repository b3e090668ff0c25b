using Dapper;
using Kingcup.Core.Money;
using Kingcup.Core.Time;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A guarantee rule with the place it is set at.</summary>
/// <param name="Id">Identity.</param>
/// <param name="PlaceId">The service, category or location.</param>
/// <param name="Rule">The rule.</param>
/// <param name="Order">Its place in the list.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedGuarantee(Guid Id, Guid PlaceId, GuaranteeRule Rule, int Order, long Version = 1);

/// <summary>A cancellation policy as it was set at a location; it is never changed.</summary>
/// <param name="Id">Identity; the later one has the greater.</param>
/// <param name="LocationId">The location.</param>
/// <param name="Policy">The policy.</param>
public sealed record ListedPolicy(long Id, Guid LocationId, CancellationPolicy Policy);

/// <summary>Guarantee rules and cancellation policies.</summary>
public static class GuaranteeStore
{
    internal static async Task<IReadOnlyList<ListedGuarantee>> RulesAsync(NpgsqlConnection connection) =>
        [
            .. (
                await connection.QueryAsync<RuleRow>(
                    """
                    SELECT id, service_id, category_id, location_id, only_new, no_shows, months, from_price, weekdays, from_minute,
                        until_minute, not_for_plan_holders, demand, value, position, version
                    FROM guarantee_rule ORDER BY position, id
                    """
                )
            ).Select(row => row.Listed()),
        ];

    /// <summary>The policies that hold now, one for each location that has one.</summary>
    internal static Task<IReadOnlyList<ListedPolicy>> PresentAsync(NpgsqlConnection connection) =>
        PoliciesAsync(connection, "p.id IN (SELECT policy_id FROM location)", new { });

    /// <summary>A policy that holds or has held.</summary>
    public static async Task<CancellationPolicy> PolicyAsync(NpgsqlConnection connection, long id) =>
        (await PoliciesAsync(connection, "p.id = @id", new { id })).Single().Policy;

    private static async Task<IReadOnlyList<ListedPolicy>> PoliciesAsync(NpgsqlConnection connection, string which, object values)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            $"""
            SELECT p.id, p.location_id, p.below_percent, p.below_loses_credit, p.no_show_percent, p.no_show_loses_credit,
                p.move_notice_hours, p.free_moves
            FROM cancellation_policy p WHERE {which} ORDER BY p.id;
            SELECT t.policy_id, t.hours, t.percent, t.loses_credit FROM cancellation_tier t JOIN cancellation_policy p ON p.id = t.policy_id
            WHERE {which} ORDER BY t.hours DESC
            """,
            values
        );
        PolicyRow[] policies = [.. await grid.ReadAsync<PolicyRow>()];
        ILookup<long, CancellationTier> tiers = (await grid.ReadAsync<(long, int, int, bool)>()).ToLookup(
            row => row.Item1,
            row => new CancellationTier(row.Item2, row.Item3, row.Item4)
        );
        return [.. policies.Select(row => row.Listed([.. tiers[row.Id]]))];
    }

    private sealed class RuleRow
    {
        public Guid Id { get; init; }
        public Guid? ServiceId { get; init; }
        public Guid? CategoryId { get; init; }
        public Guid? LocationId { get; init; }
        public bool OnlyNew { get; init; }
        public int? NoShows { get; init; }
        public int Months { get; init; }
        public long? FromPrice { get; init; }
        public int[] Weekdays { get; init; } = [];
        public int? FromMinute { get; init; }
        public int? UntilMinute { get; init; }
        public bool NotForPlanHolders { get; init; }
        public string Demand { get; init; } = "";
        public long Value { get; init; }
        public int Position { get; init; }
        public long Version { get; init; }

        internal ListedGuarantee Listed() =>
            new(
                Id,
                (ServiceId ?? CategoryId ?? LocationId)!.Value,
                new GuaranteeRule(
                    ServiceId is not null ? GuaranteePlace.Service
                        : CategoryId is not null ? GuaranteePlace.Category
                        : GuaranteePlace.Location,
                    new GuaranteeCondition
                    {
                        OnlyNew = OnlyNew,
                        NoShows = NoShows,
                        Months = Months,
                        FromPrice = FromPrice,
                        Weekdays = Weekdays.Select(day => (IsoDayOfWeek)day).ToHashSet(),
                        Hours = FromMinute is { } from ? Stretch.OfMinutes(from, UntilMinute!.Value) : null,
                        NotForPlanHolders = NotForPlanHolders,
                    },
                    new GuaranteeDemand(Enum.Parse<GuaranteeKind>(Demand), Value)
                ),
                Position,
                Version
            );
    }

    private sealed class PolicyRow
    {
        public long Id { get; init; }
        public Guid LocationId { get; init; }
        public int BelowPercent { get; init; }
        public bool BelowLosesCredit { get; init; }
        public int NoShowPercent { get; init; }
        public bool NoShowLosesCredit { get; init; }
        public int MoveNoticeHours { get; init; }
        public int? FreeMoves { get; init; }

        internal ListedPolicy Listed(IReadOnlyList<CancellationTier> tiers) =>
            new(
                Id,
                LocationId,
                new CancellationPolicy
                {
                    Tiers = tiers,
                    Below = new CancellationTier(0, BelowPercent, BelowLosesCredit),
                    NoShow = new CancellationTier(0, NoShowPercent, NoShowLosesCredit),
                    MoveNoticeHours = MoveNoticeHours,
                    FreeMoves = FreeMoves,
                }
            );
    }
}

/// <summary>Writes guarantee rules and cancellation policies.</summary>
public sealed partial class SetupWriter
{
    /// <summary>Saves a guarantee rule.</summary>
    public Task SaveAsync(ListedGuarantee listed)
    {
        (GuaranteePlace place, GuaranteeCondition condition, GuaranteeDemand demand) = listed.Rule;
        Guid? At(GuaranteePlace at) => place == at ? listed.PlaceId : null;
        return _connection.ExecuteAsync(
            """
            INSERT INTO guarantee_rule (id, service_id, category_id, location_id, only_new, no_shows, months, from_price, weekdays,
                from_minute, until_minute, not_for_plan_holders, demand, value, position)
            VALUES (@Id, @ServiceId, @CategoryId, @LocationId, @OnlyNew, @NoShows, @Months, @FromPrice, @Weekdays, @FromMinute,
                @UntilMinute, @NotForPlanHolders, @Demand, @Value, @Order)
            ON CONFLICT (id) DO UPDATE SET service_id = @ServiceId, category_id = @CategoryId, location_id = @LocationId,
                only_new = @OnlyNew, no_shows = @NoShows, months = @Months, from_price = @FromPrice, weekdays = @Weekdays,
                from_minute = @FromMinute, until_minute = @UntilMinute, not_for_plan_holders = @NotForPlanHolders, demand = @Demand,
                value = @Value, position = @Order, version = guarantee_rule.version + 1
            """,
            new
            {
                listed.Id,
                ServiceId = At(GuaranteePlace.Service),
                CategoryId = At(GuaranteePlace.Category),
                LocationId = At(GuaranteePlace.Location),
                condition.OnlyNew,
                condition.NoShows,
                condition.Months,
                condition.FromPrice,
                Weekdays = condition.Weekdays.Select(day => (int)day).Order().ToArray(),
                condition.Hours?.FromMinute,
                condition.Hours?.UntilMinute,
                condition.NotForPlanHolders,
                Demand = demand.Kind.ToString(),
                demand.Value,
                listed.Order,
            }
        );
    }

    /// <summary>Takes a guarantee rule out; what was agreed by it stays agreed.</summary>
    public Task RemoveGuaranteeAsync(Guid id) => _connection.ExecuteAsync("DELETE FROM guarantee_rule WHERE id = @id", new { id });

    /// <summary>Sets the policy of a location from now on; what was booked before keeps the one it was booked under.</summary>
    public async Task SavePolicyAsync(Guid locationId, CancellationPolicy policy, Instant now)
    {
        ArgumentNullException.ThrowIfNull(policy);
        long id = await _connection.ExecuteScalarAsync<long>(
            """
            INSERT INTO cancellation_policy (location_id, at, below_percent, below_loses_credit, no_show_percent, no_show_loses_credit,
                move_notice_hours, free_moves)
            VALUES (@locationId, @now, @BelowPercent, @BelowLoses, @NoShowPercent, @NoShowLoses, @MoveNoticeHours, @FreeMoves)
            RETURNING id
            """,
            new
            {
                locationId,
                now,
                BelowPercent = policy.Below.Percent,
                BelowLoses = policy.Below.LosesCredit,
                NoShowPercent = policy.NoShow.Percent,
                NoShowLoses = policy.NoShow.LosesCredit,
                policy.MoveNoticeHours,
                policy.FreeMoves,
            }
        );
        await _connection.ExecuteAsync(
            "INSERT INTO cancellation_tier (policy_id, hours, percent, loses_credit) SELECT @id, * FROM unnest(@Hours, @Percents, @Loses)",
            new
            {
                id,
                Hours = policy.Tiers.Select(tier => tier.Hours).ToArray(),
                Percents = policy.Tiers.Select(tier => tier.Percent).ToArray(),
                Loses = policy.Tiers.Select(tier => tier.LosesCredit).ToArray(),
            }
        );
        await _connection.ExecuteAsync(
            "UPDATE location SET policy_id = @id, version = version + 1 WHERE id = @locationId",
            new { id, locationId }
        );
    }
}
