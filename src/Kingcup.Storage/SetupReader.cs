using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Resources;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Reads the setup of the business.</summary>
public static class SetupReader
{
    /// <summary>The present revision of the setup, or null when the database holds no business.</summary>
    public static Task<long?> RevisionAsync(NpgsqlConnection connection) =>
        connection.ExecuteScalarAsync<long?>("SELECT setup_revision FROM business");

    /// <summary>Loads everything in one snapshot of the database.</summary>
    /// <exception cref="InvalidOperationException">The database holds no business.</exception>
    public static async Task<Setup> LoadAsync(NpgsqlConnection connection)
    {
        await using NpgsqlTransaction snapshot = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead);
        long revision = await RevisionAsync(connection) ?? throw new InvalidOperationException("The database holds no business yet.");
        BusinessRow business = await connection.QuerySingleAsync<BusinessRow>("SELECT name, currency, locale, region, phone, is_demo FROM business");
        Setup setup = new(
            revision,
            business,
            await Locations(connection),
            await Practitioners(connection),
            await Rooms(connection),
            await Pools(connection),
            [.. await connection.QueryAsync<Category>("SELECT id, name, position FROM category ORDER BY position, name")],
            await Services(connection),
            [.. await connection.QueryAsync<Qualification>("SELECT id, name FROM qualification ORDER BY name")],
            await Calendar(connection),
            (await connection.QueryAsync<(Guid, Guid, int)>("SELECT from_location_id, to_location_id, minutes FROM travel")).ToDictionary(row => (row.Item1, row.Item2), row => row.Item3),
            [.. (await connection.QueryAsync<BlockRow>("SELECT resource_id, during, reason FROM blocked_time")).Select(row => new BlockedTime(row.ResourceId, row.During, row.Reason))]);
        await snapshot.CommitAsync();
        return setup;
    }

    private static async Task<IReadOnlyList<ListedLocation>> Locations(NpgsqlConnection connection)
    {
        ILookup<Guid, HoursRow> hours = (await connection.QueryAsync<HoursRow>(
            "SELECT location_id, weekday, from_time, until_time FROM opening_hours ORDER BY weekday, from_time")).ToLookup(row => row.LocationId);
        return [.. (await connection.QueryAsync<LocationRow>(
            "SELECT id, name, zone, address, position, bookable_online, longest_wait_minutes, grid, every_minutes, lead_minutes, horizon_days FROM location ORDER BY position, name"))
            .Select(row => new ListedLocation(
                new Location
                {
                    Id = row.Id,
                    Name = row.Name,
                    Zone = DateTimeZoneProviders.Tzdb[row.Zone],
                    BookableOnline = row.BookableOnline,
                    LongestWaitMinutes = row.LongestWaitMinutes,
                    Opening = [.. hours[row.Id].Select(one => new OpeningHours((IsoDayOfWeek)one.Weekday, new Stretch(one.FromTime, one.UntilTime)))],
                    Online = row.Rules(),
                },
                row.Address,
                row.Position))];
    }

    private static async Task<IReadOnlyList<Practitioner>> Practitioners(NpgsqlConnection connection)
    {
        ILookup<Guid, HeldRow> held = (await connection.QueryAsync<HeldRow>(
            "SELECT practitioner_id, qualification_id, from_date, until_date FROM held_qualification")).ToLookup(row => row.PractitionerId);
        return [.. (await connection.QueryAsync<PractitionerRow>(
            "SELECT id, name, position, bookable_online, accepts_new_clients FROM practitioner JOIN resource USING (id) ORDER BY position, name"))
            .Select(row => new Practitioner
            {
                Id = row.Id,
                Name = row.Name,
                Order = row.Position,
                BookableOnline = row.BookableOnline,
                AcceptsNewClients = row.AcceptsNewClients,
                Qualifications = [.. held[row.Id].Select(one => new HeldQualification(one.QualificationId, one.FromDate, one.UntilDate))],
            })];
    }

    private static async Task<IReadOnlyDictionary<Guid, IReadOnlyList<Room>>> Rooms(NpgsqlConnection connection) =>
        (await connection.QueryAsync<RoomRow>(
            """
            SELECT id, name, position, location_id, features, turnaround_minutes, (SELECT count(*)::int FROM resource_unit WHERE resource_id = id) AS units
            FROM room JOIN resource USING (id)
            """))
        .GroupBy(row => row.LocationId)
        .ToDictionary(group => group.Key, group => (IReadOnlyList<Room>)[.. group.Select(row => new Room
        {
            Id = row.Id,
            Name = row.Name,
            Order = row.Position,
            Capacity = row.Units,
            Features = row.Features.ToHashSet(),
            TurnaroundMinutes = row.TurnaroundMinutes,
        })]);

    private static async Task<IReadOnlyDictionary<Guid, IReadOnlyList<EquipmentPool>>> Pools(NpgsqlConnection connection) =>
        (await connection.QueryAsync<RoomRow>(
            """
            SELECT id, name, position, location_id, turnaround_minutes, (SELECT count(*)::int FROM resource_unit WHERE resource_id = id) AS units
            FROM equipment_pool JOIN resource USING (id)
            """))
        .GroupBy(row => row.LocationId)
        .ToDictionary(group => group.Key, group => (IReadOnlyList<EquipmentPool>)[.. group.Select(row => new EquipmentPool
        {
            Id = row.Id,
            Name = row.Name,
            Order = row.Position,
            Quantity = row.Units,
            TurnaroundMinutes = row.TurnaroundMinutes,
        })]);

    private static async Task<IReadOnlyList<ListedService>> Services(NpgsqlConnection connection)
    {
        ILookup<Guid, RoleRow> roles = (await connection.QueryAsync<RoleRow>(
            "SELECT service_id, name, qualification_ids, added_ids, excluded_ids FROM service_role ORDER BY service_id, role")).ToLookup(row => row.ServiceId);
        ILookup<Guid, PhaseRow> phases = (await connection.QueryAsync<PhaseRow>(
            "SELECT service_id, phase, minutes, attended_by FROM service_phase ORDER BY service_id, phase")).ToLookup(row => row.ServiceId);
        ILookup<(Guid, short), NeedRow> needs = (await connection.QueryAsync<NeedRow>(
            "SELECT service_id, phase, pool_id, units FROM service_phase_equipment ORDER BY pool_id")).ToLookup(row => (row.ServiceId, row.Phase));
        ILookup<Guid, TermsRow> terms = (await connection.QueryAsync<TermsRow>(
            "SELECT service_id, practitioner_id, minutes, price, accepts_new_clients FROM practitioner_terms")).ToLookup(row => row.ServiceId);
        ILookup<Guid, SetTimeRow> times = (await connection.QueryAsync<SetTimeRow>(
            "SELECT service_id, practitioner_id, weekday, at FROM service_set_time ORDER BY weekday, at")).ToLookup(row => row.ServiceId);
        ILookup<Guid, Guid> locations = (await connection.QueryAsync<(Guid, Guid)>("SELECT service_id, location_id FROM service_location")).ToLookup(row => row.Item1, row => row.Item2);
        IEnumerable<ServiceRow> rows = await connection.QueryAsync<ServiceRow>(
            """
            SELECT s.id, s.category_id, s.name, s.description, s.position, s.needs_room, s.room_features, s.room_units, s.buffer_before_minutes,
                   s.buffer_after_minutes, s.buffer_always, s.price, s.visibility, s.grid, s.every_minutes, s.lead_minutes, s.horizon_days,
                   s.prerequisite_id, s.prerequisite_hours, s.prerequisite_days, s.weekdays
            FROM service s JOIN category c ON c.id = s.category_id
            ORDER BY c.position, s.position, s.name
            """);
        return [.. rows.Select(row => new ListedService(
            new Service
            {
                Id = row.Id,
                Name = row.Name,
                CategoryId = row.CategoryId,
                Phases = [.. phases[row.Id].Select(phase => new Phase(
                    phase.Minutes,
                    [.. phase.AttendedBy.Select(role => (int)role)],
                    [.. needs[(row.Id, phase.Phase)].Select(need => new EquipmentNeed(need.PoolId, need.Units))]))],
                Roles = [.. roles[row.Id].Select(role => new StaffRule
                {
                    Name = role.Name,
                    Qualifications = role.QualificationIds,
                    Added = role.AddedIds.ToHashSet(),
                    Excluded = role.ExcludedIds.ToHashSet(),
                })],
                Room = row.NeedsRoom ? new RoomRule(row.RoomFeatures.ToHashSet(), row.RoomUnits) : null,
                BufferBeforeMinutes = row.BufferBeforeMinutes,
                BufferAfterMinutes = row.BufferAfterMinutes,
                BufferAlways = row.BufferAlways,
                Price = row.Price,
                Visibility = Enum.Parse<Visibility>(row.Visibility),
                Online = row.Rules(),
                Prerequisite = row.PrerequisiteId is { } before ? new Prerequisite(before, row.PrerequisiteHours!.Value, row.PrerequisiteDays!.Value) : null,
                Weekdays = row.Weekdays.Select(day => (IsoDayOfWeek)day).ToHashSet(),
                Locations = locations[row.Id].ToHashSet(),
                Terms = terms[row.Id].ToDictionary(one => one.PractitionerId, one => new PractitionerTerms(one.Minutes, one.Price, one.AcceptsNewClients)),
                SetTimes = [.. times[row.Id].Select(one => new SetTime(one.PractitionerId, (IsoDayOfWeek)one.Weekday, one.At))],
            },
            row.Description,
            row.Position))];
    }

    private static async Task<RotaCalendar> Calendar(NpgsqlConnection connection)
    {
        ILookup<Guid, Break> breaks = (await connection.QueryAsync<BreakRow>("SELECT shift_id, from_time, until_time, reason FROM shift_break ORDER BY from_time"))
            .ToLookup(row => row.ShiftId, row => new Break(new Stretch(row.FromTime, row.UntilTime), row.Reason));
        List<ShiftRow> shifts = [.. await connection.QueryAsync<ShiftRow>(
            "SELECT id, practitioner_id, rota_from, week, weekday, change_date, location_id, from_time, until_time FROM shift ORDER BY from_time")];
        Shift Make(ShiftRow row) => new(row.LocationId, new Stretch(row.FromTime, row.UntilTime), [.. breaks[row.Id]]);
        ILookup<(Guid, LocalDate), ShiftRow> ofRota = shifts.Where(row => row.RotaFrom is not null).ToLookup(row => (row.PractitionerId, row.RotaFrom!.Value));
        ILookup<(Guid, LocalDate), ShiftRow> ofChange = shifts.Where(row => row.ChangeDate is not null).ToLookup(row => (row.PractitionerId, row.ChangeDate!.Value));
        return new RotaCalendar(
            (await connection.QueryAsync<RotaRow>("SELECT practitioner_id, from_date, weeks FROM rota"))
                .Select(row => new Rota(row.PractitionerId, row.FromDate, row.Weeks,
                    [.. ofRota[(row.PractitionerId, row.FromDate)].Select(shift => new RotaShift(shift.Week!.Value, (IsoDayOfWeek)shift.Weekday!.Value, Make(shift)))])),
            (await connection.QueryAsync<ChangeRow>("SELECT practitioner_id, date, works_during_closure, reason FROM shift_change"))
                .Select(row => new ShiftChange(row.PractitionerId, row.Date, [.. ofChange[(row.PractitionerId, row.Date)].Select(Make)], row.WorksDuringClosure, row.Reason)),
            (await connection.QueryAsync<ClosureRow>("SELECT location_id, date, yearly, reason FROM closure"))
                .Select(row => new Closure(row.LocationId, row.Date, row.Yearly, row.Reason)));
    }

    private abstract class RulesRow
    {
        public string? Grid { get; init; }
        public int? EveryMinutes { get; init; }
        public int? LeadMinutes { get; init; }
        public int? HorizonDays { get; init; }

        public OnlineRules Rules() => new()
        {
            Grid = Grid is null ? null : Enum.Parse<StartGrid>(Grid),
            EveryMinutes = EveryMinutes,
            LeadMinutes = LeadMinutes,
            HorizonDays = HorizonDays,
        };
    }

    private sealed class LocationRow : RulesRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public string Zone { get; init; } = "";
        public string Address { get; init; } = "";
        public int Position { get; init; }
        public bool BookableOnline { get; init; }
        public int LongestWaitMinutes { get; init; }
    }

    private sealed class ServiceRow : RulesRow
    {
        public Guid Id { get; init; }
        public Guid CategoryId { get; init; }
        public string Name { get; init; } = "";
        public string Description { get; init; } = "";
        public int Position { get; init; }
        public bool NeedsRoom { get; init; }
        public string[] RoomFeatures { get; init; } = [];
        public short RoomUnits { get; init; }
        public int BufferBeforeMinutes { get; init; }
        public int BufferAfterMinutes { get; init; }
        public bool BufferAlways { get; init; }
        public long Price { get; init; }
        public string Visibility { get; init; } = "";
        public Guid? PrerequisiteId { get; init; }
        public int? PrerequisiteHours { get; init; }
        public int? PrerequisiteDays { get; init; }
        public short[] Weekdays { get; init; } = [];
    }

    private sealed class HoursRow
    {
        public Guid LocationId { get; init; }
        public short Weekday { get; init; }
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
    }

    private sealed class HeldRow
    {
        public Guid PractitionerId { get; init; }
        public Guid QualificationId { get; init; }
        public LocalDate FromDate { get; init; }
        public LocalDate? UntilDate { get; init; }
    }

    private sealed class PractitionerRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public int Position { get; init; }
        public bool BookableOnline { get; init; }
        public bool AcceptsNewClients { get; init; }
    }

    private sealed class RoomRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public int Position { get; init; }
        public Guid LocationId { get; init; }
        public string[] Features { get; init; } = [];
        public int TurnaroundMinutes { get; init; }
        public int Units { get; init; }
    }

    private sealed class RoleRow
    {
        public Guid ServiceId { get; init; }
        public string Name { get; init; } = "";
        public Guid[] QualificationIds { get; init; } = [];
        public Guid[] AddedIds { get; init; } = [];
        public Guid[] ExcludedIds { get; init; } = [];
    }

    private sealed class PhaseRow
    {
        public Guid ServiceId { get; init; }
        public short Phase { get; init; }
        public int Minutes { get; init; }
        public short[] AttendedBy { get; init; } = [];
    }

    private sealed class NeedRow
    {
        public Guid ServiceId { get; init; }
        public short Phase { get; init; }
        public Guid PoolId { get; init; }
        public short Units { get; init; }
    }

    private sealed class TermsRow
    {
        public Guid ServiceId { get; init; }
        public Guid PractitionerId { get; init; }
        public int? Minutes { get; init; }
        public long? Price { get; init; }
        public bool AcceptsNewClients { get; init; }
    }

    private sealed class SetTimeRow
    {
        public Guid ServiceId { get; init; }
        public Guid? PractitionerId { get; init; }
        public short Weekday { get; init; }
        public LocalTime At { get; init; }
    }

    private sealed class BreakRow
    {
        public Guid ShiftId { get; init; }
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
        public string Reason { get; init; } = "";
    }

    private sealed class ShiftRow
    {
        public Guid Id { get; init; }
        public Guid PractitionerId { get; init; }
        public LocalDate? RotaFrom { get; init; }
        public short? Week { get; init; }
        public short? Weekday { get; init; }
        public LocalDate? ChangeDate { get; init; }
        public Guid LocationId { get; init; }
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
    }

    private sealed class RotaRow
    {
        public Guid PractitionerId { get; init; }
        public LocalDate FromDate { get; init; }
        public short Weeks { get; init; }
    }

    private sealed class ChangeRow
    {
        public Guid PractitionerId { get; init; }
        public LocalDate Date { get; init; }
        public bool WorksDuringClosure { get; init; }
        public string? Reason { get; init; }
    }

    private sealed class ClosureRow
    {
        public Guid LocationId { get; init; }
        public LocalDate Date { get; init; }
        public bool Yearly { get; init; }
        public string Reason { get; init; } = "";
    }

    private sealed class BlockRow
    {
        public Guid ResourceId { get; init; }
        public Interval During { get; init; }
        public string Reason { get; init; } = "";
    }
}
