using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Somebody who may sign in.</summary>
public sealed class StaffRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>E-mail address in lower case.</summary>
    public string Email { get; init; } = "";

    /// <summary>Name.</summary>
    public string Name { get; init; } = "";

    /// <summary>Owner, Manager, Desk, Practitioner or Bookkeeper.</summary>
    public string Role { get; init; } = "";

    /// <summary>The practitioner this person is, or null.</summary>
    public Guid? PractitionerId { get; init; }

    /// <summary>Hashed password.</summary>
    public string PasswordHash { get; init; } = "";

    /// <summary>Whether a practitioner may change their own shifts and blocked time.</summary>
    public bool EditsOwnShifts { get; init; }

    /// <summary>Whether a practitioner says of their own visits where they stand.</summary>
    public bool KeepsOwnVisits { get; init; }

    /// <summary>Whether somebody at the desk may overbook; owners and managers always may.</summary>
    public bool MayOverbook { get; init; }

    /// <summary>Whether the role alone gives the right to overbook.</summary>
    public bool OverbooksByRole => Role is "Owner" or "Manager";

    /// <summary>Whether the account was closed.</summary>
    public bool SignedOff { get; init; }

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; }

    /// <summary>Whether a practitioner reads telephone numbers and addresses of clients who come to colleagues; everybody else does
    /// anyway.</summary>
    public bool SeesContacts { get; init; }

    /// <summary>The secret of the second factor, or null when there is none.</summary>
    public byte[]? TotpSecret { get; init; }

    /// <summary>Whether the second factor was shown to work and is asked for.</summary>
    public bool TotpConfirmed { get; init; }
}

/// <summary>Those who may sign in.</summary>
public static class StaffStore
{
    internal const string Columns =
        "id, email, name, role, practitioner_id, password_hash, edits_own_shifts, keeps_own_visits, may_overbook, sees_contacts, "
            + "totp_secret, totp_confirmed, signed_off, version";

    /// <summary>By e-mail address.</summary>
    public static Task<StaffRow?> FindByEmailAsync(NpgsqlConnection connection, string email) =>
        connection.QuerySingleOrDefaultAsync<StaffRow>($"SELECT {Columns} FROM staff WHERE email = @email", new { email });

    /// <summary>By identity.</summary>
    public static Task<StaffRow?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<StaffRow>($"SELECT {Columns} FROM staff WHERE id = @id", new { id });

    /// <summary>Adds somebody.</summary>
    public static Task AddAsync(NpgsqlConnection connection, StaffRow staff) => connection.ExecuteAsync(
        "INSERT INTO staff (id, email, name, role, practitioner_id, password_hash, edits_own_shifts, keeps_own_visits, "
        + "may_overbook, sees_contacts) VALUES (@Id, @Email, @Name, @Role, @PractitionerId, @PasswordHash, @EditsOwnShifts, "
        + "@KeepsOwnVisits, @MayOverbook, @SeesContacts)", staff);

    /// <summary>Everyone, by name.</summary>
    public static async Task<IReadOnlyList<StaffRow>> AllAsync(NpgsqlConnection connection) =>
        [.. await connection.QueryAsync<StaffRow>($"SELECT {Columns} FROM staff ORDER BY name, id")];

    /// <summary>Changes an account; not its password.</summary>
    public static Task SaveAsync(NpgsqlConnection connection, StaffRow staff) =>
        connection.ExecuteAsync(
            """
            UPDATE staff SET email = @Email, name = @Name, role = @Role, practitioner_id = @PractitionerId,
                edits_own_shifts = @EditsOwnShifts, keeps_own_visits = @KeepsOwnVisits, may_overbook = @MayOverbook,
                sees_contacts = @SeesContacts, signed_off = @SignedOff, version = version + 1 WHERE id = @Id
            """,
            staff
        );

    /// <summary>Opens an account again that was closed.</summary>
    public static Task OpenAsync(NpgsqlConnection connection, Guid id) =>
        connection.ExecuteAsync("UPDATE staff SET signed_off = false WHERE id = @id", new { id });

    /// <summary>Makes a sign-in link the only good one of an account.</summary>
    public static Task AddLinkAsync(NpgsqlConnection connection, Guid staffId, byte[] tokenHash, Instant expiresAt) =>
        connection.ExecuteAsync(
            """
            DELETE FROM sign_in_link WHERE staff_id = @staffId AND used_at IS NULL;
            INSERT INTO sign_in_link (token_hash, staff_id, expires_at) VALUES (@tokenHash, @staffId, @expiresAt);
            """,
            new
            {
                staffId,
                tokenHash,
                expiresAt,
            }
        );

    /// <summary>Uses a sign-in link up.</summary>
    /// <returns>Whose it was, or null when it is not good.</returns>
    public static Task<Guid?> UseLinkAsync(NpgsqlConnection connection, byte[] tokenHash, Instant now) =>
        connection.ExecuteScalarAsync<Guid?>(
            "UPDATE sign_in_link SET used_at = @now WHERE token_hash = @tokenHash AND used_at IS NULL AND expires_at > @now "
                + "RETURNING staff_id",
            new { tokenHash, now }
        );

    /// <summary>Sets a password. Whoever does it ends the sessions made before.</summary>
    public static Task SetPasswordAsync(NpgsqlConnection connection, Guid id, string hash) => connection.ExecuteAsync(
        "UPDATE staff SET password_hash = @hash WHERE id = @id", new { id, hash });

    /// <summary>Keeps the secret of a second factor that is not yet shown to work.</summary>
    public static Task SetTotpAsync(NpgsqlConnection connection, Guid id, byte[]? secret) => connection.ExecuteAsync(
        "UPDATE staff SET totp_secret = @secret, totp_confirmed = false, totp_step = 0 WHERE id = @id", new { id, secret });

    /// <summary>Has the second factor asked for from now on.</summary>
    public static Task ConfirmTotpAsync(NpgsqlConnection connection, Guid id) =>
        connection.ExecuteAsync("UPDATE staff SET totp_confirmed = true WHERE id = @id AND totp_secret IS NOT NULL", new { id });

    /// <summary>Uses a time step of the second factor up, so that no code is good twice.</summary>
    /// <returns>False when that step, or a later one, was used before.</returns>
    public static async Task<bool> UseTotpStepAsync(NpgsqlConnection connection, Guid id, long step) =>
        await connection.ExecuteAsync("UPDATE staff SET totp_step = @step WHERE id = @id AND totp_step < @step", new { id, step }) == 1;

    /// <summary>Whether any account exists at all.</summary>
    public static Task<bool> AnyAsync(NpgsqlConnection connection) =>
        connection.ExecuteScalarAsync<bool>("SELECT EXISTS (SELECT 1 FROM staff)");

    /// <summary>The keys that protect cookies, shared by all servers.</summary>
    public static async Task<IReadOnlyList<string>> ProtectionKeysAsync(NpgsqlConnection connection) =>
        [.. await connection.QueryAsync<string>("SELECT xml FROM protection_key")];

    /// <summary>Adds a key that protects cookies.</summary>
    public static Task AddProtectionKeyAsync(NpgsqlConnection connection, string name, string xml) =>
        connection.ExecuteAsync("INSERT INTO protection_key (name, xml) VALUES (@name, @xml) ON CONFLICT DO NOTHING", new { name, xml });
}
