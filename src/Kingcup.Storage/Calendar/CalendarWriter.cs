using Dapper;
using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>
/// Writes what holds on dates: as part of a <see cref="BookTransaction"/> that has locked the days it lies on, or of a
/// <see cref="SetupTransaction"/> where it comes back for ever. Saving what is there already changes it and counts its version on.
/// </summary>
public sealed class CalendarWriter
{
    private readonly NpgsqlConnection _connection;

    internal CalendarWriter(NpgsqlConnection connection) => _connection = connection;

    /// <summary>Saves a shift change in place of the one of the same date.</summary>
    public async Task SaveAsync(ShiftChange change)
    {
        await _connection.ExecuteAsync(
            """
            DELETE FROM shift WHERE practitioner_id = @PractitionerId AND change_date = @Date;
            INSERT INTO shift_change (practitioner_id, date, works_during_closure, reason)
                VALUES (@PractitionerId, @Date, @WorksDuringClosure, @Reason)
            ON CONFLICT (practitioner_id, date) DO UPDATE
                SET works_during_closure = @WorksDuringClosure, reason = @Reason, version = shift_change.version + 1
            """,
            change
        );
        foreach (Shift shift in change.Shifts)
            await SetupWriter.AddShiftAsync(_connection, change.PractitionerId, shift, null, null, null, change.Date);
    }

    /// <summary>Takes a shift change back; the rota holds again.</summary>
    public Task RemoveChangeAsync(Guid practitionerId, LocalDate date) =>
        _connection.ExecuteAsync(
            "DELETE FROM shift_change WHERE practitioner_id = @practitionerId AND date = @date",
            new { practitionerId, date }
        );

    /// <summary>Takes time out of a resource once, or moves it.</summary>
    public Task SaveBlockAsync(Guid id, BlockedTime block) =>
        _connection.ExecuteAsync(
            """
            INSERT INTO blocked_time (id, resource_id, during, reason, kind) VALUES (@id, @ResourceId, @During, @Reason, @Kind)
            ON CONFLICT (id) DO UPDATE SET resource_id = @ResourceId, during = @During, reason = @Reason, kind = @Kind,
                version = blocked_time.version + 1
            """,
            new
            {
                id,
                block.ResourceId,
                block.During,
                block.Reason,
                Kind = block.Kind.ToString(),
            }
        );

    /// <summary>Saves time that is taken out again and again.</summary>
    public async Task SaveAsync(RepeatingBlock block)
    {
        await _connection.ExecuteAsync(
            """
            INSERT INTO repeating_block (id, resource_id, first_date, rule, from_time, until_time, reason)
                VALUES (@Id, @ResourceId, @First, @Rule, @From, @Until, @Reason)
            ON CONFLICT (id) DO UPDATE SET resource_id = @ResourceId, first_date = @First, rule = @Rule, from_time = @From,
                until_time = @Until, reason = @Reason,
                version = repeating_block.version + 1;
            DELETE FROM repeating_block_date WHERE block_id = @Id;
            """,
            new { block.Id, block.ResourceId, block.Repeat.First, block.Repeat.Rule, block.During.From, block.During.Until, block.Reason });
        foreach ((LocalDate date, Core.Time.Stretch? during) in block.Changed)
        {
            await _connection.ExecuteAsync(
                "INSERT INTO repeating_block_date (block_id, date, from_time, until_time) VALUES (@Id, @date, @From, @Until)",
                new { block.Id, date, during?.From, during?.Until });
        }
    }

    /// <summary>Gives blocked time back that happens once.</summary>
    public Task RemoveBlockAsync(Guid id) => _connection.ExecuteAsync("DELETE FROM blocked_time WHERE id = @id", new { id });

    /// <summary>Gives blocked time back that repeats.</summary>
    public Task RemoveRepeatAsync(Guid id) => _connection.ExecuteAsync("DELETE FROM repeating_block WHERE id = @id", new { id });

    /// <summary>Saves a closure; a location has one at most on a date.</summary>
    public Task SaveAsync(Closure closure) =>
        _connection.ExecuteAsync(
            """
            INSERT INTO closure (location_id, date, yearly, reason, for_clients) VALUES (@LocationId, @Date, @Yearly, @Reason, @ForClients)
            ON CONFLICT (location_id, date) DO UPDATE
                SET yearly = @Yearly, reason = @Reason, for_clients = @ForClients, version = closure.version + 1
            """,
            closure
        );

    /// <summary>Takes a closure back.</summary>
    public Task RemoveClosureAsync(Guid locationId, LocalDate date) =>
        _connection.ExecuteAsync("DELETE FROM closure WHERE location_id = @locationId AND date = @date", new { locationId, date });

    /// <summary>Stops online booking for a date.</summary>
    public Task SaveStopAsync(Guid locationId, LocalDate date, string reason) => _connection.ExecuteAsync(
        """
        INSERT INTO online_stop (location_id, date, reason) VALUES (@locationId, @date, @reason)
        ON CONFLICT (location_id, date) DO UPDATE SET reason = @reason, version = online_stop.version + 1
        """,
        new { locationId, date, reason });

    /// <summary>Lets a date be booked online again.</summary>
    public Task RemoveStopAsync(Guid locationId, LocalDate date) =>
        _connection.ExecuteAsync("DELETE FROM online_stop WHERE location_id = @locationId AND date = @date", new { locationId, date });
}
