using Dapper;
using Kingcup.Core.Resources;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Writes the setup of the business. The caller owns the transaction; the database refuses what cannot be.</summary>
public sealed class SetupWriter(NpgsqlConnection connection)
{
    /// <summary>Writes the business itself; there is one.</summary>
    public Task AddAsync(BusinessRow business) => connection.ExecuteAsync(
        "INSERT INTO business (name, currency, locale, region, phone, is_demo) VALUES (@Name, @Currency, @Locale, @Region, @Phone, @IsDemo)", business);

    /// <summary>Adds a location with its opening hours.</summary>
    public async Task AddAsync(ListedLocation listed)
    {
        Location location = listed.Location;
        await connection.ExecuteAsync(
            """
            INSERT INTO location (id, name, zone, address, position, bookable_online, longest_wait_minutes, grid, every_minutes, lead_minutes, horizon_days)
            VALUES (@Id, @Name, @Zone, @Address, @Position, @BookableOnline, @LongestWaitMinutes, @Grid, @EveryMinutes, @LeadMinutes, @HorizonDays)
            """,
            new
            {
                location.Id,
                location.Name,
                Zone = location.Zone.Id,
                listed.Address,
                listed.Position,
                location.BookableOnline,
                location.LongestWaitMinutes,
                Grid = location.Online.Grid?.ToString(),
                location.Online.EveryMinutes,
                location.Online.LeadMinutes,
                location.Online.HorizonDays,
            });
        foreach (OpeningHours hours in location.Opening)
        {
            await connection.ExecuteAsync(
                "INSERT INTO opening_hours (location_id, weekday, from_time, until_time) VALUES (@Id, @Weekday, @From, @Until)",
                new { location.Id, Weekday = (int)hours.Weekday, hours.During.From, hours.During.Until });
        }
    }

    /// <summary>Sets the minutes between two locations, in both directions.</summary>
    public Task AddTravelAsync(Guid one, Guid other, int minutes) => connection.ExecuteAsync(
        "INSERT INTO travel (from_location_id, to_location_id, minutes) VALUES (@one, @other, @minutes), (@other, @one, @minutes)", new { one, other, minutes });

    /// <summary>Adds a closure.</summary>
    public Task AddAsync(Closure closure) => connection.ExecuteAsync(
        "INSERT INTO closure (location_id, date, yearly, reason) VALUES (@LocationId, @Date, @Yearly, @Reason)", closure);

    /// <summary>Adds a qualification people may hold.</summary>
    public Task AddAsync(Qualification qualification) => connection.ExecuteAsync("INSERT INTO qualification (id, name) VALUES (@Id, @Name)", qualification);

    /// <summary>Adds a practitioner with what she holds.</summary>
    public async Task AddAsync(Practitioner practitioner, string bio = "")
    {
        await AddResourceAsync(practitioner.Id, "practitioner", practitioner.Name, practitioner.Order, null, 1);
        await connection.ExecuteAsync(
            "INSERT INTO practitioner (id, bio, bookable_online, accepts_new_clients) VALUES (@Id, @bio, @BookableOnline, @AcceptsNewClients)",
            new { practitioner.Id, bio, practitioner.BookableOnline, practitioner.AcceptsNewClients });
        foreach (HeldQualification held in practitioner.Qualifications)
        {
            await connection.ExecuteAsync(
                "INSERT INTO held_qualification (practitioner_id, qualification_id, from_date, until_date) VALUES (@Id, @QualificationId, @From, @Until)",
                new { practitioner.Id, held.QualificationId, held.From, held.Until });
        }
    }

    /// <summary>Adds a room.</summary>
    public async Task AddAsync(Room room, Guid locationId)
    {
        await AddResourceAsync(room.Id, "room", room.Name, room.Order, locationId, room.Capacity);
        await connection.ExecuteAsync(
            "INSERT INTO room (id, features, turnaround_minutes) VALUES (@Id, @Features, @TurnaroundMinutes)",
            new { room.Id, Features = room.Features.Order().ToArray(), room.TurnaroundMinutes });
    }

    /// <summary>Adds equipment.</summary>
    public async Task AddAsync(EquipmentPool pool, Guid locationId)
    {
        await AddResourceAsync(pool.Id, "equipment", pool.Name, pool.Order, locationId, pool.Quantity);
        await connection.ExecuteAsync("INSERT INTO equipment_pool (id, turnaround_minutes) VALUES (@Id, @TurnaroundMinutes)", pool);
    }

    /// <summary>Adds a rota.</summary>
    public async Task AddAsync(Rota rota)
    {
        await connection.ExecuteAsync("INSERT INTO rota (practitioner_id, from_date, weeks) VALUES (@PractitionerId, @From, @Weeks)", rota);
        foreach (RotaShift one in rota.Shifts)
        {
            await AddShiftAsync(rota.PractitionerId, one.Shift, rota.From, one.Week, (int)one.Weekday, null);
        }
    }

    /// <summary>Adds a shift change.</summary>
    public async Task AddAsync(ShiftChange change)
    {
        await connection.ExecuteAsync(
            "INSERT INTO shift_change (practitioner_id, date, works_during_closure, reason) VALUES (@PractitionerId, @Date, @WorksDuringClosure, @Reason)", change);
        foreach (Shift shift in change.Shifts) await AddShiftAsync(change.PractitionerId, shift, null, null, null, change.Date);
    }

    /// <summary>Takes time out of a resource.</summary>
    public Task AddBlockAsync(Guid resourceId, Interval during, string reason) => connection.ExecuteAsync(
        "INSERT INTO blocked_time (id, resource_id, during, reason) VALUES (@Id, @resourceId, @during, @reason)",
        new { Id = Guid.CreateVersion7(), resourceId, during, reason });

    /// <summary>Adds a category.</summary>
    public Task AddAsync(Category category) => connection.ExecuteAsync("INSERT INTO category (id, name, position) VALUES (@Id, @Name, @Position)", category);

    /// <summary>Adds a service with its phases, roles and terms.</summary>
    public async Task AddAsync(ListedService listed)
    {
        Service service = listed.Service;
        await connection.ExecuteAsync(
            """
            INSERT INTO service (id, category_id, name, description, position, needs_room, room_features, room_units, buffer_before_minutes, buffer_after_minutes,
                buffer_always, price, visibility, grid, every_minutes, lead_minutes, horizon_days, prerequisite_id, prerequisite_hours, prerequisite_days, weekdays)
            VALUES (@Id, @CategoryId, @Name, @Description, @Position, @NeedsRoom, @Features, @Units, @BufferBeforeMinutes, @BufferAfterMinutes,
                @BufferAlways, @Price, @Visibility, @Grid, @EveryMinutes, @LeadMinutes, @HorizonDays, @PrerequisiteId, @PrerequisiteHours, @PrerequisiteDays, @Weekdays)
            """,
            new
            {
                service.Id,
                service.CategoryId,
                service.Name,
                listed.Description,
                listed.Position,
                NeedsRoom = service.Room is not null,
                Features = service.Room?.Features.Order().ToArray() ?? [],
                Units = service.Room?.Units ?? 1,
                service.BufferBeforeMinutes,
                service.BufferAfterMinutes,
                service.BufferAlways,
                service.Price,
                Visibility = service.Visibility.ToString(),
                Grid = service.Online.Grid?.ToString(),
                service.Online.EveryMinutes,
                service.Online.LeadMinutes,
                service.Online.HorizonDays,
                PrerequisiteId = service.Prerequisite?.ServiceId,
                PrerequisiteHours = service.Prerequisite?.AtLeastHours,
                PrerequisiteDays = service.Prerequisite?.AtMostDays,
                Weekdays = service.Weekdays.Select(day => (short)day).Order().ToArray(),
            });
        foreach (Guid locationId in service.Locations)
            await connection.ExecuteAsync("INSERT INTO service_location (service_id, location_id) VALUES (@Id, @locationId)", new { service.Id, locationId });
        foreach ((int index, StaffRule role) in service.Roles.Index())
        {
            await connection.ExecuteAsync(
                "INSERT INTO service_role (service_id, role, name, qualification_ids, added_ids, excluded_ids) VALUES (@Id, @index, @Name, @Qualifications, @Added, @Excluded)",
                new { service.Id, index, role.Name, Qualifications = role.Qualifications.ToArray(), Added = role.Added.Order().ToArray(), Excluded = role.Excluded.Order().ToArray() });
        }

        foreach ((int index, Phase phase) in service.Phases.Index())
        {
            await connection.ExecuteAsync(
                "INSERT INTO service_phase (service_id, phase, minutes, attended_by) VALUES (@Id, @index, @Minutes, @AttendedBy)",
                new { service.Id, index, phase.Minutes, AttendedBy = phase.AttendedBy.Select(role => (short)role).ToArray() });
            foreach (EquipmentNeed need in phase.Equipment)
            {
                await connection.ExecuteAsync(
                    "INSERT INTO service_phase_equipment (service_id, phase, pool_id, units) VALUES (@Id, @index, @PoolId, @Units)",
                    new { service.Id, index, need.PoolId, need.Units });
            }
        }

        foreach ((Guid practitionerId, PractitionerTerms terms) in service.Terms)
        {
            await connection.ExecuteAsync(
                "INSERT INTO practitioner_terms (service_id, practitioner_id, minutes, price, accepts_new_clients) VALUES (@Id, @practitionerId, @Minutes, @Price, @AcceptsNewClients)",
                new { service.Id, practitionerId, terms.Minutes, terms.Price, terms.AcceptsNewClients });
        }

        foreach (SetTime time in service.SetTimes)
        {
            await connection.ExecuteAsync(
                "INSERT INTO service_set_time (service_id, practitioner_id, weekday, at) VALUES (@Id, @PractitionerId, @Weekday, @At)",
                new { service.Id, time.PractitionerId, Weekday = (int)time.Weekday, time.At });
        }
    }

    private async Task AddResourceAsync(Guid id, string kind, string name, int position, Guid? locationId, int units)
    {
        await connection.ExecuteAsync(
            """
            INSERT INTO resource (id, kind, name, position, location_id) VALUES (@id, @kind, @name, @position, @locationId);
            INSERT INTO resource_unit (resource_id, unit) SELECT @id, generate_series(0, @units - 1);
            """,
            new { id, kind, name, position, locationId, units });
    }

    private async Task AddShiftAsync(Guid practitionerId, Shift shift, LocalDate? rotaFrom, int? week, int? weekday, LocalDate? changeDate)
    {
        Guid id = Guid.CreateVersion7();
        await connection.ExecuteAsync(
            """
            INSERT INTO shift (id, practitioner_id, rota_from, week, weekday, change_date, location_id, from_time, until_time)
            VALUES (@id, @practitionerId, @rotaFrom, @week, @weekday, @changeDate, @LocationId, @From, @Until)
            """,
            new { id, practitionerId, rotaFrom, week, weekday, changeDate, shift.LocationId, shift.During.From, shift.During.Until });
        foreach (Break pause in shift.Breaks)
        {
            await connection.ExecuteAsync(
                "INSERT INTO shift_break (shift_id, from_time, until_time, reason) VALUES (@id, @From, @Until, @Reason)",
                new { id, pause.During.From, pause.During.Until, pause.Reason });
        }
    }
}
