using Dapper;
using Kingcup.Core.Business;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>
/// Writes the setup of the business as part of a <see cref="SetupTransaction"/>; the database refuses what cannot be. Saving what is
/// there already changes it and counts its version on.
/// </summary>
public sealed partial class SetupWriter
{
    private readonly NpgsqlConnection _connection;

    internal SetupWriter(NpgsqlConnection connection) => _connection = connection;

    /// <summary>Writes the business itself; there is one.</summary>
    public async Task SaveAsync(BusinessRow business)
    {
        await _connection.ExecuteAsync(
            """
            INSERT INTO business (name, about, currency, locale, region, phone, colour_main, colour_accent, logo_id, guide_finished,
                owners_need_code, cancel_reasons, is_demo)
            VALUES (@Name, @About, @Currency, @Locale, @Region, @Phone, @ColourMain, @ColourAccent, @LogoId, @GuideFinished,
                @OwnersNeedCode, @CancelReasons, @IsDemo)
            ON CONFLICT (id) DO UPDATE SET name = @Name, about = @About, currency = @Currency, locale = @Locale, region = @Region,
                phone = @Phone,
                colour_main = @ColourMain, colour_accent = @ColourAccent, logo_id = @LogoId, guide_finished = @GuideFinished,
                owners_need_code = @OwnersNeedCode, cancel_reasons = @CancelReasons,
                version = business.version + 1, setup_revision = business.setup_revision + 1
            """,
            business
        );
        await _connection.ExecuteAsync(
            """
            DELETE FROM business_picture;
            INSERT INTO business_picture (place, picture_id, words)
            SELECT p.place - 1, p.id, p.words FROM unnest(@Ids, @Words) WITH ORDINALITY AS p(id, words, place)
            """,
            new
            {
                Ids = business.Pictures.Select(picture => picture.PictureId).ToArray(),
                Words = business.Pictures.Select(picture => picture.Words).ToArray(),
            });
    }

    /// <summary>Saves a location with its opening hours.</summary>
    public async Task SaveAsync(ListedLocation listed)
    {
        Location location = listed.Location;
        DynamicParameters values = RulesRow.Add(
            new DynamicParameters(new
            {
                location.Id,
                location.Name,
                Zone = location.Zone.Id,
                listed.Address,
                listed.Phone,
                listed.Position,
                location.BookableOnline,
                location.AcceptsNewClients,
                location.LongestWaitMinutes,
                Times = location.NoShowLimit?.Times,
                Months = location.NoShowLimit?.Months,
                Action = location.NoShowLimit?.Action.ToString(),
            }),
            location.Online);
        await _connection.ExecuteAsync(
            $"""
            INSERT INTO location (id, name, zone, address, phone, position, bookable_online, accepts_new_clients, longest_wait_minutes,
                no_show_times, no_show_months, no_show_action, {RulesRow.Columns})
            VALUES (@Id, @Name, @Zone, @Address, @Phone, @Position, @BookableOnline, @AcceptsNewClients, @LongestWaitMinutes, @Times,
                @Months, @Action, {RulesRow.Parameters})
            ON CONFLICT (id) DO UPDATE SET name = @Name, zone = @Zone, address = @Address, phone = @Phone, position = @Position,
                bookable_online = @BookableOnline,
                accepts_new_clients = @AcceptsNewClients, longest_wait_minutes = @LongestWaitMinutes, no_show_times = @Times,
                    no_show_months = @Months, no_show_action = @Action,
                ({RulesRow.Columns}) = ROW({RulesRow.Parameters}), version = location.version + 1
            """,
            values);
        await _connection.ExecuteAsync("DELETE FROM opening_hours WHERE location_id = @Id", new { location.Id });
        foreach (OpeningHours hours in location.Opening)
        {
            await _connection.ExecuteAsync(
                "INSERT INTO opening_hours (location_id, weekday, from_time, until_time) VALUES (@Id, @Weekday, @From, @Until)",
                new { location.Id, Weekday = (int)hours.Weekday, hours.During.From, hours.During.Until });
        }
    }

    /// <summary>Sets the minutes between two locations, in both directions.</summary>
    public Task SaveTravelAsync(Guid id, Guid other, int minutes) => _connection.ExecuteAsync(
        """
        INSERT INTO travel (from_location_id, to_location_id, minutes) VALUES (@id, @other, @minutes), (@other, @id, @minutes)
        ON CONFLICT (from_location_id, to_location_id) DO UPDATE SET minutes = @minutes
        """,
        new { id, other, minutes });

    /// <summary>Saves a tax rate.</summary>
    public Task SaveAsync(TaxRate rate) => _connection.ExecuteAsync(
        """
        INSERT INTO tax_rate (id, name, basis_points, position) VALUES (@Id, @Name, @BasisPoints, @Position)
        ON CONFLICT (id) DO UPDATE SET name = @Name, basis_points = @BasisPoints, position = @Position
        """,
        rate);

    /// <summary>Removes a tax rate that no service has.</summary>
    public Task<int> RemoveTaxRateAsync(Guid id) => _connection.ExecuteAsync("DELETE FROM tax_rate WHERE id = @id", new { id });

    /// <summary>Keeps a file.</summary>
    public Task AddFileAsync(StoredFile file) =>
        _connection.ExecuteAsync(
            "INSERT INTO stored_file (id, kind, name, content_type, bytes, created_at) VALUES (@Id, @Kind, @Name, @ContentType, "
                + "@Bytes, @CreatedAt)",
            file
        );
}

/// <summary>A file kept with the setup.</summary>
public sealed class StoredFile
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>"picture" for what anyone may see, "evidence" for what only the setup shows.</summary>
    public string Kind { get; init; } = "";

    /// <summary>Its name.</summary>
    public string Name { get; init; } = "";

    /// <summary>Media type.</summary>
    public string ContentType { get; init; } = "";

    /// <summary>Content.</summary>
    public byte[] Bytes { get; init; } = [];

    /// <summary>When it was kept.</summary>
    public Instant CreatedAt { get; init; }

    /// <summary>A file, or null.</summary>
    public static Task<StoredFile?> FindAsync(NpgsqlConnection connection, Guid id, string kind) =>
        connection.QuerySingleOrDefaultAsync<StoredFile>(
            "SELECT id, kind, name, content_type, bytes, created_at FROM stored_file WHERE id = @id AND kind = @kind",
            new { id, kind }
        );
}
