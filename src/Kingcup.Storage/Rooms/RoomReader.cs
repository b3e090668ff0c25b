using Dapper;
using Kingcup.Core.Rooms;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Reads rooms and equipment.</summary>
internal static class RoomReader
{
    /// <summary>Every room, in house order.</summary>
    internal static async Task<IReadOnlyList<ListedRoom>> RoomsAsync(NpgsqlConnection connection) =>
        [
            .. (
                await connection.QueryAsync<RoomRow>(
                    "SELECT id, name, position, version, retired_from, location_id, units, features, turnaround_minutes FROM "
                        + "room JOIN resource USING (id) ORDER BY position, name"
                )
            ).Select(row => new ListedRoom(
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
                row.Version
            )),
        ];

    /// <summary>All equipment, in house order.</summary>
    internal static async Task<IReadOnlyList<ListedPool>> PoolsAsync(NpgsqlConnection connection) =>
        [
            .. (
                await connection.QueryAsync<RoomRow>(
                    "SELECT id, name, position, version, retired_from, location_id, units, turnaround_minutes FROM "
                        + "equipment_pool JOIN resource USING (id) ORDER BY position, name"
                )
            ).Select(row => new ListedPool(
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
                row.Version
            )),
        ];

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
}
