using System.Globalization;
using Dapper;
using Kingcup.Core.Services;
using NodaTime;

namespace Kingcup.Storage;

/// <summary>Categories, services and add-ons.</summary>
public sealed partial class SetupWriter
{
    /// <summary>Saves a category.</summary>
    public Task SaveAsync(Category category) =>
        _connection.ExecuteAsync(
            $"""
            INSERT INTO category (id, name, position, {RulesRow.Columns}) VALUES (@Id, @Name, @Order, {RulesRow.Parameters})
            ON CONFLICT (id) DO UPDATE SET name = @Name, position = @Order, ({RulesRow.Columns}) = ROW({RulesRow.Parameters}),
                version = category.version + 1
            """,
            RulesRow.Add(
                new DynamicParameters(
                    new
                    {
                        category.Id,
                        category.Name,
                        category.Order,
                    }
                ),
                category.Online
            )
        );

    /// <summary>Removes a category that has no services.</summary>
    public Task<int> RemoveCategoryAsync(Guid id) => _connection.ExecuteAsync("DELETE FROM category WHERE id = @id", new { id });

    /// <summary>Puts categories in an order.</summary>
    public Task OrderCategoriesAsync(IReadOnlyList<Guid> ids) =>
        _connection.ExecuteAsync(
            "UPDATE category SET position = one.place FROM unnest(@Ids) WITH ORDINALITY AS one(id, place) WHERE category.id = one.id",
            new { Ids = ids.ToArray() }
        );

    /// <summary>Puts the services of a category in an order, and into it.</summary>
    public Task OrderServicesAsync(Guid categoryId, IReadOnlyList<Guid> ids) =>
        _connection.ExecuteAsync(
            "UPDATE service SET position = one.place, category_id = @categoryId FROM unnest(@Ids) WITH ORDINALITY AS one(id, "
                + "place) WHERE service.id = one.id",
            new { categoryId, Ids = ids.ToArray() }
        );

    /// <summary>Saves an add-on with the services it goes with.</summary>
    public async Task SaveAsync(ListedAddOn listed, Instant now)
    {
        AddOn addOn = listed.AddOn;
        await _connection.ExecuteAsync(
            """
            INSERT INTO add_on (id, name, minutes, price, most, position, words, archived_at)
                VALUES (@Id, @Name, @Minutes, @Price, @Limit, @Order, @Words, @Archived)
            ON CONFLICT (id) DO UPDATE SET name = @Name, minutes = @Minutes, price = @Price, most = @Limit, position = @Order,
                words = @Words,
                archived_at = CASE WHEN @Archived IS NULL THEN NULL ELSE coalesce(add_on.archived_at, @Archived) END,
                    version = add_on.version + 1;
            DELETE FROM service_add_on WHERE add_on_id = @Id;
            """,
            new
            {
                addOn.Id,
                addOn.Name,
                addOn.Minutes,
                addOn.Price,
                addOn.Limit,
                addOn.Order,
                listed.Words,
                Archived = listed.IsArchived ? now : (Instant?)null,
            }
        );
        foreach ((Guid serviceId, bool suggested) in addOn.Services)
            await _connection.ExecuteAsync(
                "INSERT INTO service_add_on (service_id, add_on_id, suggested) VALUES (@serviceId, @Id, @suggested)",
                new
                {
                    serviceId,
                    addOn.Id,
                    suggested,
                }
            );
    }

    /// <summary>Saves a service with its phases, roles and terms.</summary>
    public async Task SaveAsync(ListedService listed, Instant now)
    {
        Service service = listed.Service;
        DynamicParameters values = RulesRow.Add(
            new DynamicParameters(new
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
                service.BesideOthers,
                Kind = service.Kind.ToString(),
                service.Seats,
                service.Price,
                PriceForm = service.PriceForm.ToString(),
                Visibility = service.Visibility.ToString(),
                ClientKind = service.For.ToString(),
                SeasonFrom = Annual(service.Season?.From),
                SeasonUntil = Annual(service.Season?.Until),
                Archived = service.IsArchived ? now : (Instant?)null,
                listed.OnlineName,
                listed.OnlineMinutes,
                listed.Link,
                listed.PictureId,
                listed.ReturnDays,
                listed.TaxRateId,
                PrerequisiteId = service.Prerequisite?.ServiceId,
                PrerequisiteHours = service.Prerequisite?.AtLeastHours,
                PrerequisiteDays = service.Prerequisite?.AtMostDays,
                Weekdays = service.Weekdays.Select(day => (short)day).Order().ToArray(),
            }),
            service.Online);
        await _connection.ExecuteAsync(
            $"""
            INSERT INTO service (id, category_id, name, description, position, needs_room, room_features, room_units,
                buffer_before_minutes, buffer_after_minutes,
                buffer_always, beside_others, kind, seats, price, price_form, visibility, client_kind, season_from, season_until,
                    archived_at, online_name, online_minutes, link,
                picture_id, return_days, tax_rate_id, prerequisite_id, prerequisite_hours, prerequisite_days, weekdays, {RulesRow.Columns})
            VALUES (@Id, @CategoryId, @Name, @Description, @Position, @NeedsRoom, @Features, @Units, @BufferBeforeMinutes,
                @BufferAfterMinutes,
                @BufferAlways, @BesideOthers, @Kind, @Seats, @Price, @PriceForm, @Visibility, @ClientKind, @SeasonFrom, @SeasonUntil,
                    @Archived, @OnlineName, @OnlineMinutes,
                coalesce(@Link, replace(gen_random_uuid()::text, '-', '')),
                @PictureId, @ReturnDays, @TaxRateId, @PrerequisiteId, @PrerequisiteHours, @PrerequisiteDays, @Weekdays,
                    {RulesRow.Parameters})
            ON CONFLICT (id) DO UPDATE SET category_id = @CategoryId, name = @Name, description = @Description, position = @Position,
                needs_room = @NeedsRoom,
                room_features = @Features, room_units = @Units, buffer_before_minutes = @BufferBeforeMinutes,
                    buffer_after_minutes = @BufferAfterMinutes,
                buffer_always = @BufferAlways, beside_others = @BesideOthers, kind = @Kind, seats = @Seats, price = @Price,
                    price_form = @PriceForm, visibility = @Visibility,
                client_kind = @ClientKind, season_from = @SeasonFrom, season_until = @SeasonUntil,
                archived_at = CASE WHEN @Archived IS NULL THEN NULL ELSE coalesce(service.archived_at, @Archived) END,
                online_name = @OnlineName, online_minutes = @OnlineMinutes, link = coalesce(@Link, service.link), picture_id = @PictureId,
                    return_days = @ReturnDays,
                tax_rate_id = @TaxRateId, prerequisite_id = @PrerequisiteId, prerequisite_hours = @PrerequisiteHours,
                    prerequisite_days = @PrerequisiteDays,
                weekdays = @Weekdays, ({RulesRow.Columns}) = ROW({RulesRow.Parameters}), version = service.version + 1
            """,
            values);
        await _connection.ExecuteAsync(
            """
            DELETE FROM service_location WHERE service_id = @Id;
            DELETE FROM service_role WHERE service_id = @Id;
            DELETE FROM service_phase_equipment WHERE service_id = @Id;
            DELETE FROM service_phase WHERE service_id = @Id;
            DELETE FROM practitioner_terms WHERE service_id = @Id;
            DELETE FROM service_set_time WHERE service_id = @Id;
            """,
            new { service.Id });
        await AddPartsAsync(service);
    }

    private async Task AddPartsAsync(Service service)
    {
        foreach (Guid locationId in service.Locations)
            await _connection.ExecuteAsync(
                "INSERT INTO service_location (service_id, location_id) VALUES (@Id, @locationId)",
                new { service.Id, locationId }
            );
        foreach ((int index, StaffRule role) in service.Roles.Index())
        {
            await _connection.ExecuteAsync(
                "INSERT INTO service_role (service_id, role, name, qualification_ids, added_ids, excluded_ids) VALUES (@Id, "
                    + "@index, @Name, @Qualifications, @Added, @Excluded)",
                new
                {
                    service.Id,
                    index,
                    role.Name,
                    Qualifications = role.Qualifications.ToArray(),
                    Added = role.Added.Order().ToArray(),
                    Excluded = role.Excluded.Order().ToArray(),
                }
            );
        }

        foreach ((int index, Phase phase) in service.Phases.Index())
        {
            await _connection.ExecuteAsync(
                "INSERT INTO service_phase (service_id, phase, minutes, attended_by) VALUES (@Id, @index, @Minutes, @AttendedBy)",
                new { service.Id, index, phase.Minutes, AttendedBy = phase.AttendedBy.Select(role => (short)role).ToArray() });
            foreach (EquipmentNeed need in phase.Equipment)
            {
                await _connection.ExecuteAsync(
                    "INSERT INTO service_phase_equipment (service_id, phase, pool_id, units) VALUES (@Id, @index, @PoolId, @Units)",
                    new { service.Id, index, need.PoolId, need.Units });
            }
        }

        foreach ((Guid practitionerId, PractitionerTerms terms) in service.Terms)
        {
            await _connection.ExecuteAsync(
                "INSERT INTO practitioner_terms (service_id, practitioner_id, minutes, price, accepts_new_clients) VALUES (@Id, "
                    + "@practitionerId, @Minutes, @Price, @AcceptsNewClients)",
                new { service.Id, practitionerId, terms.Minutes, terms.Price, terms.AcceptsNewClients });
        }

        foreach (SetTime time in service.SetTimes)
        {
            await _connection.ExecuteAsync(
                "INSERT INTO service_set_time (service_id, practitioner_id, weekday, at) VALUES (@Id, @PractitionerId, @Weekday, @At)",
                new { service.Id, time.PractitionerId, Weekday = (int)time.Weekday, time.At });
        }
    }

    private static string? Annual(AnnualDate? date) =>
        date is { } day ? string.Create(CultureInfo.InvariantCulture, $"{day.Month:00}-{day.Day:00}") : null;
}
