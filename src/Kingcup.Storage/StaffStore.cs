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

    /// <summary>No sign-in before this instant, or null.</summary>
    public Instant? LockedUntil { get; init; }
}

/// <summary>Those who may sign in.</summary>
public static class StaffStore
{
    private const string Columns = "id, email, name, role, practitioner_id, password_hash, stamp, failures, locked_until";

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
        "INSERT INTO staff (id, email, name, role, practitioner_id, password_hash, stamp) VALUES (@Id, @Email, @Name, @Role, @PractitionerId, @PasswordHash, @Stamp)", staff);

    /// <summary>The keys that protect cookies, shared by all servers.</summary>
    public static async Task<IReadOnlyList<string>> ProtectionKeysAsync(NpgsqlConnection connection) =>
        [.. await connection.QueryAsync<string>("SELECT xml FROM protection_key")];

    /// <summary>Adds a key that protects cookies.</summary>
    public static Task AddProtectionKeyAsync(NpgsqlConnection connection, string name, string xml) =>
        connection.ExecuteAsync("INSERT INTO protection_key (name, xml) VALUES (@name, @xml) ON CONFLICT DO NOTHING", new { name, xml });
}
