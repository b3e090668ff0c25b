using Dapper;
using Kingcup.Core.Rooms;

namespace Kingcup.Storage;

/// <summary>Rooms and equipment.</summary>
public sealed partial class SetupWriter
{
    /// <summary>Saves a room.</summary>
    public async Task SaveAsync(ListedRoom listed)
    {
        Room room = listed.Room;
        await SaveResourceAsync(room.Id, "room", room.Name, room.Order, listed.LocationId, room.Capacity, room.Retired);
        foreach (string feature in room.Features)
            await AddFeatureAsync(feature);
        await _connection.ExecuteAsync(
            """
            INSERT INTO room (id, features, turnaround_minutes) VALUES (@Id, @Features, @TurnaroundMinutes)
            ON CONFLICT (id) DO UPDATE SET features = @Features, turnaround_minutes = @TurnaroundMinutes
            """,
            new
            {
                room.Id,
                Features = room.Features.Order().ToArray(),
                room.TurnaroundMinutes,
            }
        );
    }

    /// <summary>Adds a feature rooms may have.</summary>
    public Task AddFeatureAsync(string name) =>
        _connection.ExecuteAsync("INSERT INTO feature (name) VALUES (@name) ON CONFLICT DO NOTHING", new { name });

    /// <summary>Takes a feature off the list.</summary>
    public Task<int> RemoveFeatureAsync(string name) => _connection.ExecuteAsync("DELETE FROM feature WHERE name = @name", new { name });

    /// <summary>Saves equipment.</summary>
    public async Task SaveAsync(ListedPool listed)
    {
        EquipmentPool pool = listed.Pool;
        await SaveResourceAsync(pool.Id, "equipment", pool.Name, pool.Order, listed.LocationId, pool.Quantity, pool.Retired);
        await _connection.ExecuteAsync(
            "INSERT INTO equipment_pool (id, turnaround_minutes) VALUES (@Id, @TurnaroundMinutes) ON CONFLICT (id) DO UPDATE SET "
                + "turnaround_minutes = @TurnaroundMinutes",
            pool
        );
    }
}
