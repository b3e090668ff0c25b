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
    public Task SaveAsync(ShiftChange change) => SaveAsync(change, null);

    private async Task SaveAsync(ShiftChange change, Guid? extraId)
    {
        await _connection.ExecuteAsync(
            """
            DELETE FROM shift WHERE practitioner_id = @PractitionerId AND change_date = @Date;
            INSERT INTO shift_change (practitioner_id, date, works_during_closure, reason, extra_id)
                VALUES (@PractitionerId, @Date, @WorksDuringClosure, @Reason, @ExtraId)
            ON CONFLICT (practitioner_id, date) DO UPDATE
                SET works_during_closure = @WorksDuringClosure, reason = @Reason, extra_id = @ExtraId, version = shift_change.version + 1
            """,
            new Parameters(
                new
                {
                    change.PractitionerId,
                    change.Date,
                    change.WorksDuringClosure,
                    change.Reason,
                }
            ).Add("ExtraId", extraId)
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

    /// <summary>Saves extra shifts and the days they make, and remembers what each of those days was before.</summary>
    /// <param name="id">Identity of them.</param>
    /// <param name="extra">What was asked.</param>
    /// <param name="days">What each day becomes.</param>
    /// <param name="before">What holds on the dates up to now.</param>
    /// <param name="change">Who adds them, and when.</param>
    public async Task AddAsync(Guid id, ExtraShifts extra, IReadOnlyList<ShiftChange> days, CalendarWindow before, Change change)
    {
        await _connection.ExecuteAsync(
            """
            INSERT INTO extra_shifts (id, from_date, until_date, weekdays, location_id, from_time, until_time, service_ids, category_ids,
                practitioner_ids, instead, reason, added_at, added_by)
            VALUES (@id, @From, @Until, @Weekdays, @LocationId, @FromTime, @UntilTime, @Services, @Categories, @Practitioners, @Instead,
                @Reason, @At, @Actor)
            """,
            new
            {
                id,
                extra.From,
                extra.Until,
                Weekdays = extra.Weekdays.Select(day => (short)day).Order().ToArray(),
                extra.Shift.LocationId,
                FromTime = extra.Shift.During.From,
                UntilTime = extra.Shift.During.Until,
                Services = extra.Shift.Services.ToArray(),
                Categories = extra.Shift.Categories.ToArray(),
                Practitioners = extra.PractitionerIds.ToArray(),
                extra.Instead,
                extra.Reason,
                change.At,
                change.Actor,
            }
        );
        Dictionary<(Guid, LocalDate), Versioned<ShiftChange>> stood = before.Changes.ToDictionary(day =>
            (day.Value.PractitionerId, day.Value.Date)
        );
        foreach (ShiftChange day in days)
        {
            await _connection.ExecuteAsync(
                """
                INSERT INTO extra_shifts_day (extra_id, practitioner_id, date, before, before_extra_id)
                VALUES (@id, @PractitionerId, @Date, CAST(@Before AS jsonb),
                    (SELECT extra_id FROM shift_change WHERE practitioner_id = @PractitionerId AND date = @Date))
                """,
                new
                {
                    id,
                    day.PractitionerId,
                    day.Date,
                    Before = stood.TryGetValue((day.PractitionerId, day.Date), out Versioned<ShiftChange>? held)
                        ? DayBefore.Write(held.Value)
                        : null,
                }
            );
            await SaveAsync(day, id);
        }
    }

    /// <summary>Takes extra shifts back: each of their days is again what it was before them, but for those changed since.</summary>
    /// <param name="id">Which.</param>
    /// <param name="days">Their days.</param>
    public async Task TakeBackAsync(Guid id, IReadOnlyList<ExtraDay> days)
    {
        foreach (ExtraDay day in days.Where(day => day.Stands))
        {
            if (day.Before is null) await RemoveChangeAsync(day.PractitionerId, day.Date);
            else await SaveAsync(day.Before, day.BeforeExtraId);
        }

        await _connection.ExecuteAsync("DELETE FROM extra_shifts WHERE id = @id", new { id });
    }

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
