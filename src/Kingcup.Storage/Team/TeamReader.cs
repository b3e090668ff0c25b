using Dapper;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Reads people, rooms and equipment, and when they are there.</summary>
internal static class TeamReader
{
    internal static async Task<IReadOnlyList<ListedPractitioner>> PractitionersAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, HeldRow> held = (await connection.QueryAsync<HeldRow>(
            "SELECT practitioner_id, qualification_id, from_date, until_date, evidence_id FROM held_qualification ORDER BY from_date")).ToLookup(row => row.PractitionerId);
        ILookup<Guid, (Guid Category, int Most)> limits = (await connection.QueryAsync<(Guid, Guid, int)>(
            "SELECT practitioner_id, category_id, most_appointments FROM practitioner_limit")).ToLookup(row => row.Item1, row => (row.Item2, row.Item3));
        return [.. (await connection.QueryAsync<PractitionerRow>(
            """
            SELECT id, name, position, version, retired_from, units, bio, phone, email, languages, tint, photo_id, bookable_online, accepts_new_clients, most_appointments, most_minutes
            FROM practitioner JOIN resource USING (id) ORDER BY position, name
            """))
            .Select(row => new ListedPractitioner(new Practitioner
            {
                Id = row.Id,
                Name = row.Name,
                Order = row.Position,
                Attention = row.Units,
                Retired = row.RetiredFrom,
                BookableOnline = row.BookableOnline,
                AcceptsNewClients = row.AcceptsNewClients,
                Limits = new DailyLimits
                {
                    Appointments = row.MostAppointments,
                    Minutes = row.MostMinutes,
                    PerCategory = limits[row.Id].ToDictionary(one => one.Category, one => one.Most),
                },
                Qualifications = [.. held[row.Id].Select(one => new HeldQualification(one.QualificationId, one.FromDate, one.UntilDate))],
            })
            {
                Bio = row.Bio,
                Phone = row.Phone,
                Email = row.Email,
                Languages = row.Languages,
                Tint = row.Tint,
                PhotoId = row.PhotoId,
                Version = row.Version,
                Evidence = held[row.Id].Where(one => one.EvidenceId is not null).ToDictionary(one => (one.QualificationId, one.FromDate), one => one.EvidenceId!.Value),
            })];
    }

    internal static async Task<IReadOnlyList<ListedRoom>> RoomsAsync(NpgsqlConnection connection) =>
        [.. (await connection.QueryAsync<RoomRow>(
            "SELECT id, name, position, version, retired_from, location_id, units, features, turnaround_minutes FROM room JOIN resource USING (id) ORDER BY position, name"))
            .Select(row => new ListedRoom(
                new Room
                {
                    Id = row.Id,
                    Name = row.Name,
                    Order = row.Position,
                    Capacity = row.Units,
                    Features = row.Features.ToHashSet(),
                    TurnaroundMinutes = row.TurnaroundMinutes,
                    Retired = row.RetiredFrom,
                },
                row.LocationId,
                row.Version))];

    internal static async Task<IReadOnlyList<ListedPool>> PoolsAsync(NpgsqlConnection connection) =>
        [.. (await connection.QueryAsync<RoomRow>(
            "SELECT id, name, position, version, retired_from, location_id, units, turnaround_minutes FROM equipment_pool JOIN resource USING (id) ORDER BY position, name"))
            .Select(row => new ListedPool(
                new EquipmentPool
                {
                    Id = row.Id,
                    Name = row.Name,
                    Order = row.Position,
                    Quantity = row.Units,
                    TurnaroundMinutes = row.TurnaroundMinutes,
                    Retired = row.RetiredFrom,
                },
                row.LocationId,
                row.Version))];

    internal static async Task<(IReadOnlyList<Rota> Rotas, IReadOnlyList<ShiftChange> Changes)> ShiftsAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, Break> breaks = (await connection.QueryAsync<BreakRow>("SELECT shift_id, from_time, until_time, reason FROM shift_break ORDER BY from_time"))
            .ToLookup(row => row.ShiftId, row => new Break(new Stretch(row.FromTime, row.UntilTime), row.Reason));
        List<ShiftRow> shifts = [.. await connection.QueryAsync<ShiftRow>(
            "SELECT id, practitioner_id, rota_from, week, weekday, change_date, location_id, from_time, until_time, service_ids, category_ids FROM shift ORDER BY week, weekday, from_time")];
        Shift Make(ShiftRow row) => new(row.LocationId, new Stretch(row.FromTime, row.UntilTime), [.. breaks[row.Id]])
        {
            Services = row.ServiceIds.ToHashSet(),
            Categories = row.CategoryIds.ToHashSet(),
        };
        ILookup<(Guid, LocalDate), ShiftRow> ofRota = shifts.Where(row => row.RotaFrom is not null).ToLookup(row => (row.PractitionerId, row.RotaFrom!.Value));
        ILookup<(Guid, LocalDate), ShiftRow> ofChange = shifts.Where(row => row.ChangeDate is not null).ToLookup(row => (row.PractitionerId, row.ChangeDate!.Value));
        return (
            [.. (await connection.QueryAsync<RotaRow>("SELECT practitioner_id, from_date, weeks FROM rota ORDER BY from_date"))
                .Select(row => new Rota(row.PractitionerId, row.FromDate, row.Weeks,
                    [.. ofRota[(row.PractitionerId, row.FromDate)].Select(shift => new RotaShift(shift.Week!.Value, (IsoDayOfWeek)shift.Weekday!.Value, Make(shift)))]))],
            [.. (await connection.QueryAsync<ChangeRow>("SELECT practitioner_id, date, works_during_closure, reason FROM shift_change ORDER BY date"))
                .Select(row => new ShiftChange(row.PractitionerId, row.Date, [.. ofChange[(row.PractitionerId, row.Date)].Select(Make)], row.WorksDuringClosure, row.Reason))]);
    }

    internal static async Task<BlockCalendar> BlocksAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, DateRow> dates = (await connection.QueryAsync<DateRow>("SELECT block_id, date, from_time, until_time FROM repeating_block_date")).ToLookup(row => row.BlockId);
        return new BlockCalendar(
            (await connection.QueryAsync<BlockRow>("SELECT id, resource_id, during, reason, kind FROM blocked_time"))
                .Select(row => new BlockedTime(row.ResourceId, row.During, row.Reason) { BlockId = row.Id, Kind = Enum.Parse<BlockKind>(row.Kind) }),
            (await connection.QueryAsync<RepeatRow>("SELECT id, resource_id, first_date, rule, from_time, until_time, reason FROM repeating_block ORDER BY first_date"))
                .Select(row => new RepeatingBlock(
                    row.Id,
                    row.ResourceId,
                    Repeat.Parse(row.Rule, row.FirstDate) ?? throw new InvalidOperationException($"Block {row.Id} has a rule nobody can read."),
                    new Stretch(row.FromTime, row.UntilTime),
                    row.Reason)
                {
                    Changed = dates[row.Id].ToDictionary(one => one.Date, one => one.FromTime is { } from ? new Stretch(from, one.UntilTime!.Value) : (Stretch?)null),
                }));
    }

    private sealed class HeldRow
    {
        public Guid PractitionerId { get; init; }
        public Guid QualificationId { get; init; }
        public LocalDate FromDate { get; init; }
        public LocalDate? UntilDate { get; init; }
        public Guid? EvidenceId { get; init; }
    }

    private sealed class PractitionerRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public int Position { get; init; }
        public long Version { get; init; }
        public short Units { get; init; }
        public LocalDate? RetiredFrom { get; init; }
        public string Bio { get; init; } = "";
        public string? Phone { get; init; }
        public string? Email { get; init; }
        public string[] Languages { get; init; } = [];
        public short Tint { get; init; }
        public Guid? PhotoId { get; init; }
        public bool BookableOnline { get; init; }
        public bool AcceptsNewClients { get; init; }
        public int? MostAppointments { get; init; }
        public int? MostMinutes { get; init; }
    }

    private sealed class RoomRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public int Position { get; init; }
        public long Version { get; init; }
        public LocalDate? RetiredFrom { get; init; }
        public Guid LocationId { get; init; }
        public string[] Features { get; init; } = [];
        public int TurnaroundMinutes { get; init; }
        public short Units { get; init; }
    }

    private sealed class RotaRow
    {
        public Guid PractitionerId { get; init; }
        public LocalDate FromDate { get; init; }
        public short Weeks { get; init; }
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
        public Guid[] ServiceIds { get; init; } = [];
        public Guid[] CategoryIds { get; init; } = [];
    }

    private sealed class BreakRow
    {
        public Guid ShiftId { get; init; }
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
        public string Reason { get; init; } = "";
    }

    private sealed class ChangeRow
    {
        public Guid PractitionerId { get; init; }
        public LocalDate Date { get; init; }
        public bool WorksDuringClosure { get; init; }
        public string? Reason { get; init; }
    }

    private sealed class BlockRow
    {
        public Guid Id { get; init; }
        public Guid ResourceId { get; init; }
        public Interval During { get; init; }
        public string Reason { get; init; } = "";
        public string Kind { get; init; } = "";
    }

    private sealed class RepeatRow
    {
        public Guid Id { get; init; }
        public Guid ResourceId { get; init; }
        public LocalDate FirstDate { get; init; }
        public string Rule { get; init; } = "";
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
        public string Reason { get; init; } = "";
    }

    private sealed class DateRow
    {
        public Guid BlockId { get; init; }
        public LocalDate Date { get; init; }
        public LocalTime? FromTime { get; init; }
        public LocalTime? UntilTime { get; init; }
    }
}
