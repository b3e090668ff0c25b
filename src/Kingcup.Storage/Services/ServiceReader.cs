using System.Globalization;
using Dapper;
using Kingcup.Core.Services;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Reads categories, services and add-ons.</summary>
internal static class ServiceReader
{
    internal static async Task<IReadOnlyList<ListedCategory>> CategoriesAsync(NpgsqlConnection connection) =>
        [
            .. (
                await connection.QueryAsync<CategoryRow>(
                    $"SELECT id, name, position, version, {RulesRow.Columns} FROM category ORDER BY position, name"
                )
            ).Select(row => new ListedCategory(
                new Category
                {
                    Id = row.Id,
                    Name = row.Name,
                    Order = row.Position,
                    Online = row.Rules(),
                },
                row.Version
            )),
        ];

    internal static async Task<IReadOnlyList<ListedAddOn>> AddOnsAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, (Guid Service, bool Suggested)> with = (
            await connection.QueryAsync<(Guid, Guid, bool)>("SELECT add_on_id, service_id, suggested FROM service_add_on")
        ).ToLookup(row => row.Item1, row => (row.Item2, row.Item3));
        return
        [
            .. (
                await connection.QueryAsync<AddOnRow>(
                    "SELECT id, name, minutes, price, most, position, version, words, archived_at IS NOT NULL AS is_archived FROM "
                        + "add_on ORDER BY position, name"
                )
            ).Select(row => new ListedAddOn(
                new AddOn
                {
                    Id = row.Id,
                    Name = row.Name,
                    Minutes = row.Minutes,
                    Price = row.Price,
                    Limit = row.Most,
                    Order = row.Position,
                    Services = with[row.Id].ToDictionary(pair => pair.Service, pair => pair.Suggested),
                },
                row.IsArchived,
                row.Version) { Words = row.Words })];
    }

    internal static async Task<IReadOnlyList<ListedService>> ServicesAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, RoleRow> roles = (
            await connection.QueryAsync<RoleRow>(
                "SELECT service_id, name, qualification_ids, added_ids, excluded_ids FROM service_role ORDER BY service_id, role"
            )
        ).ToLookup(row => row.ServiceId);
        ILookup<Guid, PhaseRow> phases = (
            await connection.QueryAsync<PhaseRow>(
                "SELECT service_id, phase, minutes, attended_by FROM service_phase ORDER BY service_id, phase"
            )
        ).ToLookup(row => row.ServiceId);
        ILookup<(Guid, short), NeedRow> needs = (
            await connection.QueryAsync<NeedRow>("SELECT service_id, phase, pool_id, units FROM service_phase_equipment ORDER BY pool_id")
        ).ToLookup(row => (row.ServiceId, row.Phase));
        ILookup<Guid, TermsRow> terms = (
            await connection.QueryAsync<TermsRow>(
                "SELECT service_id, practitioner_id, minutes, price, accepts_new_clients FROM practitioner_terms"
            )
        ).ToLookup(row => row.ServiceId);
        ILookup<Guid, SetTimeRow> times = (
            await connection.QueryAsync<SetTimeRow>(
                "SELECT service_id, practitioner_id, weekday, at FROM service_set_time ORDER BY weekday, at"
            )
        ).ToLookup(row => row.ServiceId);
        ILookup<Guid, Guid> locations = (
            await connection.QueryAsync<(Guid, Guid)>("SELECT service_id, location_id FROM service_location")
        ).ToLookup(row => row.Item1, row => row.Item2);
        string rules = string.Join(", ", RulesRow.Columns.Split(", ").Select(column => "s." + column));
        IEnumerable<ServiceRow> rows = await connection.QueryAsync<ServiceRow>(
            $"""
            SELECT s.id, s.category_id, s.name, s.description, s.position, s.version, s.needs_room, s.room_features, s.room_units,
                s.buffer_before_minutes,
                   s.buffer_after_minutes, s.buffer_always, s.beside_others, s.kind, s.seats, s.price, s.price_form, s.visibility,
                       s.client_kind, s.season_from, s.season_until,
                   s.archived_at IS NOT NULL AS is_archived, s.online_name, s.online_minutes, s.link, s.picture_id, s.return_days,
                       s.tax_rate_id, {rules},
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
                BesideOthers = row.BesideOthers,
                Kind = Enum.Parse<ServiceKind>(row.Kind),
                Seats = row.Seats,
                Price = row.Price,
                PriceForm = Enum.Parse<PriceForm>(row.PriceForm),
                Visibility = Enum.Parse<Visibility>(row.Visibility),
                For = Enum.Parse<ClientKind>(row.ClientKind),
                Season = row.SeasonFrom is { } from ? new Season(Annual(from), Annual(row.SeasonUntil!)) : null,
                IsArchived = row.IsArchived,
                Online = row.Rules(),
                Prerequisite = row.PrerequisiteId is { } before
                    ? new Prerequisite(before, row.PrerequisiteHours!.Value, row.PrerequisiteDays!.Value)
                    : null,
                Weekdays = row.Weekdays.Select(day => (IsoDayOfWeek)day).ToHashSet(),
                Locations = locations[row.Id].ToHashSet(),
                Terms = terms[row.Id].ToDictionary(
                    own => own.PractitionerId,
                    own => new PractitionerTerms(own.Minutes, own.Price, own.AcceptsNewClients)
                ),
                SetTimes = [.. times[row.Id].Select(time => new SetTime(time.PractitionerId, (IsoDayOfWeek)time.Weekday, time.At))],
            },
            row.Description,
            row.Position)
        {
            OnlineName = row.OnlineName,
            OnlineMinutes = row.OnlineMinutes,
            Link = row.Link,
            PictureId = row.PictureId,
            ReturnDays = row.ReturnDays,
            TaxRateId = row.TaxRateId,
            Version = row.Version,
        })];
    }

    private static AnnualDate Annual(string text) =>
        new(int.Parse(text[..2], CultureInfo.InvariantCulture), int.Parse(text[3..], CultureInfo.InvariantCulture));

    private sealed class CategoryRow : RulesRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public int Position { get; init; }
        public long Version { get; init; }
    }

    private sealed class AddOnRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public int Minutes { get; init; }
        public long Price { get; init; }
        public short Most { get; init; }
        public string Words { get; init; } = "";
        public int Position { get; init; }
        public long Version { get; init; }
        public bool IsArchived { get; init; }
    }

    private sealed class ServiceRow : RulesRow
    {
        public Guid Id { get; init; }
        public Guid CategoryId { get; init; }
        public string Name { get; init; } = "";
        public string Description { get; init; } = "";
        public int Position { get; init; }
        public long Version { get; init; }
        public bool NeedsRoom { get; init; }
        public string[] RoomFeatures { get; init; } = [];
        public short RoomUnits { get; init; }
        public int BufferBeforeMinutes { get; init; }
        public int BufferAfterMinutes { get; init; }
        public bool BufferAlways { get; init; }
        public bool BesideOthers { get; init; }
        public string Kind { get; init; } = "";
        public short Seats { get; init; }
        public long Price { get; init; }
        public string PriceForm { get; init; } = "";
        public string Visibility { get; init; } = "";
        public string ClientKind { get; init; } = "";
        public string? SeasonFrom { get; init; }
        public string? SeasonUntil { get; init; }
        public bool IsArchived { get; init; }
        public string? OnlineName { get; init; }
        public int? OnlineMinutes { get; init; }
        public string Link { get; init; } = "";
        public Guid? PictureId { get; init; }
        public int? ReturnDays { get; init; }
        public Guid? TaxRateId { get; init; }
        public Guid? PrerequisiteId { get; init; }
        public int? PrerequisiteHours { get; init; }
        public int? PrerequisiteDays { get; init; }
        public short[] Weekdays { get; init; } = [];
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
}
