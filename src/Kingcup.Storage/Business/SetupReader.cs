using System.Data;
using Dapper;
using Kingcup.Core.Business;
using Kingcup.Core.Time;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Reads the setup of the business.</summary>
public static class SetupReader
{
    /// <summary>The present revision of the setup, or null when the database holds no business.</summary>
    public static Task<long?> RevisionAsync(NpgsqlConnection connection) => connection.ExecuteScalarAsync<long?>(RevisionSql);

    internal const string RevisionSql = "SELECT setup_revision FROM business";

    /// <summary>Loads everything in one snapshot of the database.</summary>
    /// <exception cref="InvalidOperationException">The database holds no business.</exception>
    public static async Task<Setup> LoadAsync(NpgsqlConnection connection)
    {
        await using NpgsqlTransaction snapshot = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead);
        Setup setup = await ReadAsync(connection);
        await snapshot.CommitAsync();
        return setup;
    }

    /// <summary>Loads everything as the caller's transaction sees it. The caller holds the lock of the setup, so nobody else changes
    /// it.</summary>
    /// <exception cref="InvalidOperationException">The database holds no business.</exception>
    public static async Task<Setup> ReadAsync(NpgsqlConnection connection)
    {
        long revision = await RevisionAsync(connection) ?? throw new InvalidOperationException("The database holds no business yet.");
        BusinessRow business = await connection.QuerySingleAsync<BusinessRow>(
            "SELECT name, about, currency, locale, region, phone, colour_main, colour_accent, logo_id, guide_finished, owners_need_code, "
                + "cancel_reasons, is_demo, quiet_from, quiet_until, "
                + "version FROM business"
        );
        return new Setup(
            revision,
            business with
            {
                Pictures =
                [
                    .. await connection.QueryAsync<BusinessPicture>("SELECT picture_id, words FROM business_picture ORDER BY place"),
                ],
            },
            new SetupParts
            {
                Locations = await LocationsAsync(connection),
                Practitioners = await TeamReader.PractitionersAsync(connection),
                Rooms = await RoomReader.RoomsAsync(connection),
                Pools = await RoomReader.PoolsAsync(connection),
                Categories = await ServiceReader.CategoriesAsync(connection),
                Services = await ServiceReader.ServicesAsync(connection),
                AddOns = await ServiceReader.AddOnsAsync(connection),
                Questions = await QuestionStore.QuestionsAsync(connection),
                BookingPage = await QuestionStore.PageAsync(connection),
                Guarantees = await GuaranteeStore.RulesAsync(connection),
                Promos = await PromoStore.AllAsync(connection),
                Messages = await MessageRuleStore.RulesAsync(connection),
                Policies = await GuaranteeStore.PresentAsync(connection),
                Qualifications =
                [
                    .. await connection.QueryAsync<Qualification>("SELECT id, name, warn_days, version FROM qualification ORDER BY name"),
                ],
                Features = [.. await connection.QueryAsync<string>("SELECT name FROM feature ORDER BY name")],
                TaxRates =
                [
                    .. await connection.QueryAsync<TaxRate>(
                        "SELECT id, name, basis_points, position FROM tax_rate ORDER BY position, name"
                    ),
                ],
                Rotas = await TeamReader.RotasAsync(connection),
                YearlyClosures =
                [
                    .. (
                        await connection.QueryAsync<ClosureRow>(
                            "SELECT location_id, date, yearly, reason, for_clients, version FROM closure WHERE yearly ORDER BY date"
                        )
                    ).Select(row => row.Closure()),
                ],
                Travel = (
                    await connection.QueryAsync<(Guid, Guid, int)>("SELECT from_location_id, to_location_id, minutes FROM travel")
                ).ToDictionary(row => (row.Item1, row.Item2), row => row.Item3),
                RepeatingBlocks = await TeamReader.RepeatingBlocksAsync(connection),
            }
        );
    }

    private static async Task<IReadOnlyList<ListedLocation>> LocationsAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, HoursRow> hours = (
            await connection.QueryAsync<HoursRow>(
                "SELECT location_id, weekday, from_time, until_time FROM opening_hours ORDER BY weekday, from_time"
            )
        ).ToLookup(row => row.LocationId);
        return
        [
            .. (
                await connection.QueryAsync<LocationRow>(
                    $"""
                    SELECT id, name, zone, address, phone, position, version, bookable_online, accepts_new_clients, longest_wait_minutes,
                        no_show_times, no_show_months, no_show_action, {RulesRow.Columns}
                    FROM location ORDER BY position, name
                    """
                )
            ).Select(row => new ListedLocation(
                new Location
                {
                    Id = row.Id,
                    Name = row.Name,
                    Zone = DateTimeZoneProviders.Tzdb[row.Zone],
                    BookableOnline = row.BookableOnline,
                    AcceptsNewClients = row.AcceptsNewClients,
                    LongestWaitMinutes = row.LongestWaitMinutes,
                    Opening =
                    [
                        .. hours[row.Id]
                            .Select(hour => new OpeningHours((IsoDayOfWeek)hour.Weekday, new Stretch(hour.FromTime, hour.UntilTime))),
                    ],
                    Online = row.Rules(),
                    NoShowLimit = row.NoShowTimes is { } times
                        ? new NoShowLimit(times, row.NoShowMonths!.Value, Enum.Parse<NoShowAction>(row.NoShowAction!))
                        : null,
                },
                row.Address,
                row.Position,
                row.Phone,
                row.Version))];
    }

    private sealed class LocationRow : RulesRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public string Zone { get; init; } = "";
        public string Address { get; init; } = "";
        public string Phone { get; init; } = "";
        public int Position { get; init; }
        public long Version { get; init; }
        public bool BookableOnline { get; init; }
        public bool AcceptsNewClients { get; init; }
        public int LongestWaitMinutes { get; init; }
        public int? NoShowTimes { get; init; }
        public int? NoShowMonths { get; init; }
        public string? NoShowAction { get; init; }
    }

    private sealed class HoursRow
    {
        public Guid LocationId { get; init; }
        public short Weekday { get; init; }
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
    }
}

/// <summary>The columns of the rules of online booking, the same at every place.</summary>
internal abstract class RulesRow
{
    internal const string Columns =
        "grid, every_minutes, lead_minutes, new_lead_minutes, horizon_days, new_horizon_days, gap, shortest_gap_minutes, "
            + "assignment, choice, approval, move_notice_hours, new_move_notice_hours, cancel_notice_hours, new_cancel_notice_hours";

    internal const string Parameters =
        "@Grid, @EveryMinutes, @LeadMinutes, @NewLeadMinutes, @HorizonDays, @NewHorizonDays, @Gap, @ShortestGapMinutes, "
            + "@Assignment, @Choice, @Approval, @MoveNoticeHours, @NewMoveNoticeHours, @CancelNoticeHours, @NewCancelNoticeHours";

    public string? Grid { get; init; }
    public int? EveryMinutes { get; init; }
    public int? LeadMinutes { get; init; }
    public int? NewLeadMinutes { get; init; }
    public int? HorizonDays { get; init; }
    public int? NewHorizonDays { get; init; }
    public string? Gap { get; init; }
    public int? ShortestGapMinutes { get; init; }
    public string? Assignment { get; init; }
    public string? Choice { get; init; }
    public string? Approval { get; init; }
    public int? MoveNoticeHours { get; init; }
    public int? NewMoveNoticeHours { get; init; }
    public int? CancelNoticeHours { get; init; }
    public int? NewCancelNoticeHours { get; init; }

    public OnlineRules Rules() => new()
    {
        Grid = Parse<StartGrid>(Grid),
        EveryMinutes = EveryMinutes,
        LeadMinutes = LeadMinutes,
        NewLeadMinutes = NewLeadMinutes,
        HorizonDays = HorizonDays,
        NewHorizonDays = NewHorizonDays,
        Gap = Parse<GapRule>(Gap),
        ShortestGapMinutes = ShortestGapMinutes,
        Assignment = Parse<Assignment>(Assignment),
        Choice = Parse<PractitionerChoice>(Choice),
        Approval = Parse<Approval>(Approval),
        MoveNoticeHours = MoveNoticeHours,
        NewMoveNoticeHours = NewMoveNoticeHours,
        CancelNoticeHours = CancelNoticeHours,
        NewCancelNoticeHours = NewCancelNoticeHours,
    };

    /// <summary>Adds the values of rules to the parameters of a statement.</summary>
    internal static DynamicParameters Add(DynamicParameters to, OnlineRules rules)
    {
        to.Add("Grid", rules.Grid?.ToString(), DbType.String);
        to.Add("EveryMinutes", rules.EveryMinutes, DbType.Int32);
        to.Add("LeadMinutes", rules.LeadMinutes, DbType.Int32);
        to.Add("NewLeadMinutes", rules.NewLeadMinutes, DbType.Int32);
        to.Add("HorizonDays", rules.HorizonDays, DbType.Int32);
        to.Add("NewHorizonDays", rules.NewHorizonDays, DbType.Int32);
        to.Add("Gap", rules.Gap?.ToString(), DbType.String);
        to.Add("ShortestGapMinutes", rules.ShortestGapMinutes, DbType.Int32);
        to.Add("Assignment", rules.Assignment?.ToString(), DbType.String);
        to.Add("Choice", rules.Choice?.ToString(), DbType.String);
        to.Add("Approval", rules.Approval?.ToString(), DbType.String);
        to.Add("MoveNoticeHours", rules.MoveNoticeHours, DbType.Int32);
        to.Add("NewMoveNoticeHours", rules.NewMoveNoticeHours, DbType.Int32);
        to.Add("CancelNoticeHours", rules.CancelNoticeHours, DbType.Int32);
        to.Add("NewCancelNoticeHours", rules.NewCancelNoticeHours, DbType.Int32);
        return to;
    }

    private static T? Parse<T>(string? text) where T : struct, Enum => text is null ? null : Enum.Parse<T>(text);
}
