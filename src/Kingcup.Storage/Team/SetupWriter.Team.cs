using Dapper;
using Kingcup.Core.Team;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>People, and when they are there.</summary>
public sealed partial class SetupWriter
{
    /// <summary>Saves a qualification people may hold.</summary>
    public Task SaveAsync(Qualification qualification) =>
        _connection.ExecuteAsync(
            """
            INSERT INTO qualification (id, name, warn_days) VALUES (@Id, @Name, @WarnDays)
            ON CONFLICT (id) DO UPDATE SET name = @Name, warn_days = @WarnDays, version = qualification.version + 1
            """,
            qualification
        );

    /// <summary>Saves a practitioner with what they hold.</summary>
    public async Task SaveAsync(ListedPractitioner listed)
    {
        Practitioner practitioner = listed.Practitioner;
        await SaveResourceAsync(
            practitioner.Id,
            "practitioner",
            practitioner.Name,
            practitioner.Order,
            null,
            practitioner.Attention,
            practitioner.Retired
        );
        await FollowAttentionAsync(practitioner);
        await _connection.ExecuteAsync(
            """
            INSERT INTO practitioner (id, bio, phone, email, languages, tint, photo_id, bookable_online, accepts_new_clients,
                most_appointments, most_minutes, needs_approval)
            VALUES (@Id, @Bio, @Phone, @Email, @Languages, @Tint, @PhotoId, @BookableOnline, @AcceptsNewClients, @Appointments, @Minutes,
                @NeedsApproval)
            ON CONFLICT (id) DO UPDATE SET bio = @Bio, phone = @Phone, email = @Email, languages = @Languages, tint = @Tint,
                photo_id = @PhotoId,
                bookable_online = @BookableOnline, accepts_new_clients = @AcceptsNewClients, most_appointments = @Appointments,
                    most_minutes = @Minutes, needs_approval = @NeedsApproval
            """,
            new
            {
                practitioner.Id,
                listed.Bio,
                listed.Phone,
                listed.Email,
                Languages = listed.Languages.ToArray(),
                Tint = (short)listed.Tint,
                listed.PhotoId,
                practitioner.BookableOnline,
                practitioner.AcceptsNewClients,
                practitioner.NeedsApproval,
                practitioner.Limits.Appointments,
                practitioner.Limits.Minutes,
            }
        );
        await _connection.ExecuteAsync("DELETE FROM practitioner_limit WHERE practitioner_id = @Id", new { practitioner.Id });
        foreach ((Guid categoryId, int most) in practitioner.Limits.PerCategory)
            await _connection.ExecuteAsync(
                "INSERT INTO practitioner_limit (practitioner_id, category_id, most_appointments) VALUES (@Id, @categoryId, @most)",
                new
                {
                    practitioner.Id,
                    categoryId,
                    most,
                }
            );
        await _connection.ExecuteAsync("DELETE FROM held_qualification WHERE practitioner_id = @Id", new { practitioner.Id });
        foreach (HeldQualification held in practitioner.Qualifications)
        {
            await _connection.ExecuteAsync(
                "INSERT INTO held_qualification (practitioner_id, qualification_id, from_date, until_date, evidence_id) VALUES "
                    + "(@Id, @QualificationId, @From, @Until, @Evidence)",
                new
                {
                    practitioner.Id,
                    held.QualificationId,
                    held.From,
                    held.Until,
                    Evidence = listed.Evidence.TryGetValue((held.QualificationId, held.From), out Guid evidence) ? evidence : (Guid?)null,
                }
            );
        }
    }

    /// <summary>
    /// What takes the whole of a person takes all units of them: where they look after more clients at once than before, visits booked
    /// ahead take the new units too.
    /// </summary>
    private Task<int> FollowAttentionAsync(Practitioner practitioner) =>
        _connection.ExecuteAsync(
            """
            INSERT INTO claim (id, occupation_id, location_id, service_id, resource_id, unit, role, during, core, live, overbooked,
                outside_shift, over_blocks)
            SELECT gen_random_uuid(), k.occupation_id, k.location_id, k.service_id, k.resource_id, u.unit, k.role, k.during, k.core, true,
                k.overbooked, k.outside_shift, k.over_blocks
            FROM claim k JOIN service s ON s.id = k.service_id CROSS JOIN generate_series(1, @Attention - 1) AS u(unit)
            WHERE k.resource_id = @Id AND k.unit = 0 AND k.live AND upper(k.during) > now() AND NOT s.beside_others
                AND NOT EXISTS (SELECT 1 FROM claim o WHERE o.occupation_id = k.occupation_id AND o.resource_id = k.resource_id
                    AND o.unit = u.unit AND o.during = k.during)
            """,
            new { practitioner.Id, practitioner.Attention }
        );

    /// <summary>Puts practitioners, rooms or equipment in an order.</summary>
    public Task OrderResourcesAsync(string kind, IReadOnlyList<Guid> ids) =>
        _connection.ExecuteAsync(
            "UPDATE resource SET position = one.place FROM unnest(@Ids) WITH ORDINALITY AS one(id, place) WHERE resource.id = "
                + "one.id AND kind = @kind",
            new { kind, Ids = ids.ToArray() }
        );

    /// <summary>Saves a rota in place of the one that began on the same date.</summary>
    public async Task SaveAsync(Rota rota)
    {
        await _connection.ExecuteAsync(
            """
            DELETE FROM shift WHERE practitioner_id = @PractitionerId AND rota_from = @From;
            INSERT INTO rota (practitioner_id, from_date, weeks) VALUES (@PractitionerId, @From, @Weeks)
            ON CONFLICT (practitioner_id, from_date) DO UPDATE SET weeks = @Weeks, version = rota.version + 1
            """,
            rota
        );
        foreach (RotaShift shift in rota.Shifts)
            await AddShiftAsync(_connection, rota.PractitionerId, shift.Shift, rota.From, shift.Week, (int)shift.Weekday, null);
    }

    /// <summary>Takes a rota out.</summary>
    public Task<int> RemoveRotaAsync(Guid practitionerId, LocalDate from) =>
        _connection.ExecuteAsync(
            "DELETE FROM rota WHERE practitioner_id = @practitionerId AND from_date = @from",
            new { practitionerId, from }
        );

    private Task<int> SaveResourceAsync(Guid id, string kind, string name, int position, Guid? locationId, int units, LocalDate? retired) =>
        _connection.ExecuteAsync(
            """
            INSERT INTO resource (id, kind, name, position, location_id, units, retired_from)
                VALUES (@id, @kind, @name, @position, @locationId, @units, @retired)
            ON CONFLICT (id) DO UPDATE SET name = @name, position = @position, location_id = @locationId, units = @units,
                retired_from = @retired, version = resource.version + 1;
            INSERT INTO resource_unit (resource_id, unit) SELECT @id, generate_series(0, @units - 1) ON CONFLICT DO NOTHING;
            """,
            new
            {
                id,
                kind,
                name,
                position,
                locationId,
                units,
                retired,
            }
        );

    /// <summary>Adds a shift to a rota, on a week and weekday of it, or to a changed day.</summary>
    internal static async Task AddShiftAsync(
        NpgsqlConnection _connection,
        Guid practitionerId,
        Shift shift,
        LocalDate? rotaFrom,
        int? week,
        int? weekday,
        LocalDate? changeDate
    )
    {
        Guid id = Guid.CreateVersion7();
        await _connection.ExecuteAsync(
            """
            INSERT INTO shift (id, practitioner_id, rota_from, week, weekday, change_date, location_id, from_time, until_time, service_ids,
                category_ids)
            VALUES (@id, @practitionerId, @rotaFrom, @week, @weekday, @changeDate, @LocationId, @From, @Until, @Services, @Categories)
            """,
            new
            {
                id,
                practitionerId,
                rotaFrom,
                week,
                weekday,
                changeDate,
                shift.LocationId,
                shift.During.From,
                shift.During.Until,
                Services = shift.Services.ToArray(),
                Categories = shift.Categories.ToArray(),
            }
        );
        foreach (Break pause in shift.Breaks)
        {
            await _connection.ExecuteAsync(
                "INSERT INTO shift_break (shift_id, from_time, until_time, reason) VALUES (@id, @From, @Until, @Reason)",
                new
                {
                    id,
                    pause.During.From,
                    pause.During.Until,
                    pause.Reason,
                }
            );
        }
    }
}
