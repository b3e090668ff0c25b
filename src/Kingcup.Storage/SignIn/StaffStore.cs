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

    /// <summary>Changes with the password and the role.</summary>
    public Guid Stamp { get; init; }

    /// <summary>Failed sign-ins since the last good one.</summary>
    public int Failures { get; init; }

    /// <summary>Whether a practitioner may change her own shifts and blocked time.</summary>
    public bool EditsOwnShifts { get; init; }

    /// <summary>Whether somebody at the desk may overbook; owners and managers always may.</summary>
    public bool MayOverbook { get; init; }

    /// <summary>Whether the role alone gives the right to overbook.</summary>
    public bool OverbooksByRole => Role is "Owner" or "Manager";

    /// <summary>Whether the account was closed.</summary>
    public bool SignedOff { get; init; }

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; }

    /// <summary>No sign-in before this instant, or null.</summary>
    public Instant? LockedUntil { get; init; }
}

/// <summary>Those who may sign in.</summary>
public static class StaffStore
{
    private const string Columns = "id, email, name, role, practitioner_id, password_hash, stamp, failures, locked_until, edits_own_shifts, may_overbook, signed_off, version";

    /// <summary>By e-mail address, locked until the transaction ends so that parallel guesses count one by one.</summary>
    public static Task<StaffRow?> FindForSignInAsync(NpgsqlConnection connection, string email) =>
        connection.QuerySingleOrDefaultAsync<StaffRow>($"SELECT {Columns} FROM staff WHERE email = @email FOR UPDATE", new { email });

    /// <summary>By identity.</summary>
    public static Task<StaffRow?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<StaffRow>($"SELECT {Columns} FROM staff WHERE id = @id", new { id });

    /// <summary>Writes down how a sign-in went.</summary>
    public static Task SetFailuresAsync(NpgsqlConnection connection, Guid id, int failures, Instant? lockedUntil) =>
        connection.ExecuteAsync("UPDATE staff SET failures = @failures, locked_until = @lockedUntil WHERE id = @id", new { id, failures, lockedUntil });

    /// <summary>Adds somebody.</summary>
    public static Task AddAsync(NpgsqlConnection connection, StaffRow staff) => connection.ExecuteAsync(
        "INSERT INTO staff (id, email, name, role, practitioner_id, password_hash, stamp, edits_own_shifts, may_overbook) VALUES (@Id, @Email, @Name, @Role, @PractitionerId, @PasswordHash, @Stamp, @EditsOwnShifts, @MayOverbook)", staff);

    /// <summary>Everyone, by name.</summary>
    public static async Task<IReadOnlyList<StaffRow>> AllAsync(NpgsqlConnection connection) =>
        [.. await connection.QueryAsync<StaffRow>($"SELECT {Columns} FROM staff ORDER BY name, id")];

    /// <summary>Changes an account; not its password.</summary>
    public static Task SaveAsync(NpgsqlConnection connection, StaffRow staff) => connection.ExecuteAsync(
        """
        UPDATE staff SET email = @Email, name = @Name, role = @Role, practitioner_id = @PractitionerId, stamp = @Stamp, edits_own_shifts = @EditsOwnShifts, may_overbook = @MayOverbook,
            signed_off = @SignedOff, version = version + 1 WHERE id = @Id
        """,
        staff);

    /// <summary>Makes a sign-in link the only good one of an account.</summary>
    public static Task AddLinkAsync(NpgsqlConnection connection, Guid staffId, byte[] tokenHash, Instant expiresAt) => connection.ExecuteAsync(
        """
        DELETE FROM sign_in_link WHERE staff_id = @staffId AND used_at IS NULL;
        INSERT INTO sign_in_link (token_hash, staff_id, expires_at) VALUES (@tokenHash, @staffId, @expiresAt);
        """,
        new { staffId, tokenHash, expiresAt });

    /// <summary>Uses a sign-in link up.</summary>
    /// <returns>Whose it was, or null when it is not good.</returns>
    public static Task<Guid?> UseLinkAsync(NpgsqlConnection connection, byte[] tokenHash, Instant now) => connection.ExecuteScalarAsync<Guid?>(
        "UPDATE sign_in_link SET used_at = @now WHERE token_hash = @tokenHash AND used_at IS NULL AND expires_at > @now RETURNING staff_id", new { tokenHash, now });

    /// <summary>Sets a password; sessions made before are no longer good.</summary>
    public static Task SetPasswordAsync(NpgsqlConnection connection, Guid id, string hash) => connection.ExecuteAsync(
        "UPDATE staff SET password_hash = @hash, stamp = gen_random_uuid(), failures = 0, locked_until = NULL WHERE id = @id", new { id, hash });

    /// <summary>The keys that protect cookies, shared by all servers.</summary>
    public static async Task<IReadOnlyList<string>> ProtectionKeysAsync(NpgsqlConnection connection) =>
        [.. await connection.QueryAsync<string>("SELECT xml FROM protection_key")];

    /// <summary>Adds a key that protects cookies.</summary>
    public static Task AddProtectionKeyAsync(NpgsqlConnection connection, string name, string xml) =>
        connection.ExecuteAsync("INSERT INTO protection_key (name, xml) VALUES (@name, @xml) ON CONFLICT DO NOTHING", new { name, xml });
}
