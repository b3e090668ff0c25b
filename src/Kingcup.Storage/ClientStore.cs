using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A client.</summary>
public sealed class ClientRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>Given name.</summary>
    public string GivenName { get; init; } = "";

    /// <summary>Family name.</summary>
    public string FamilyName { get; init; } = "";

    /// <summary>E-mail address in lower case, or null.</summary>
    public string? Email { get; init; }

    /// <summary>Telephone number (E.164), or null.</summary>
    public string? Phone { get; init; }

    /// <summary>What the desk has to know, or null.</summary>
    public string? Alert { get; init; }

    /// <summary>Clients of one household share it; null for none.</summary>
    public Guid? HouseholdId { get; init; }

    /// <summary>When the client was entered.</summary>
    public Instant CreatedAt { get; init; }

    /// <summary>Whether the client may book online.</summary>
    public bool MayBookOnline { get; init; } = true;

    /// <summary>How many visits that count.</summary>
    public int Visits { get; init; }

    /// <summary>How many times the client did not come.</summary>
    public int NoShows { get; init; }

    /// <summary>How many times the client cancelled inside the notice she owes.</summary>
    public int LateCancellations { get; init; }
}

/// <summary>The clients.</summary>
public static class ClientStore
{
    private const string Columns =
        """
        c.id, c.given_name, c.family_name, c.email, c.phone, c.alert, c.household_id, c.created_at, c.may_book_online,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.state NOT IN ('Cancelled', 'NoShow')) AS visits,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.state = 'NoShow') AS no_shows,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.cancelled_late) AS late_cancellations
        """;

    /// <summary>Clients whose name, number or address holds every word of <paramref name="text"/>, best first.</summary>
    public static async Task<IReadOnlyList<ClientRow>> SearchAsync(NpgsqlConnection connection, string text, int most)
    {
        // A number typed in groups is one number.
        if (text.Length > 0 && text.All(one => char.IsDigit(one) || " +-().".Contains(one, StringComparison.Ordinal))) text = text.Replace(" ", "", StringComparison.Ordinal);
        string[] words = [.. text.ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(6).Select(Pattern)];
        if (words.Length == 0) return [];
        return [.. await connection.QueryAsync<ClientRow>(
            $"""
            SELECT {Columns} FROM client c WHERE search LIKE ALL (@words)
            ORDER BY search LIKE @First DESC, family_name, given_name, id LIMIT @most
            """,
            new { words, First = words[0][1..], most })];
    }

    /// <summary>A client, or null.</summary>
    public static Task<ClientRow?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<ClientRow>($"SELECT {Columns} FROM client c WHERE id = @id", new { id });

    /// <summary>
    /// The client an online stranger is: same e-mail address, and where several share it the one of that name. A name that
    /// fits nobody of the address is another person of the household.
    /// </summary>
    public static Task<ClientRow?> MatchAsync(NpgsqlConnection connection, string email, string givenName, string familyName) =>
        connection.QueryFirstOrDefaultAsync<ClientRow>(
            $"""
            SELECT {Columns} FROM client c
            WHERE email = @email AND lower(given_name) = lower(@givenName) AND lower(family_name) = lower(@familyName) ORDER BY created_at LIMIT 1
            """,
            new { email, givenName, familyName });

    /// <summary>Adds a client with an entry in the history.</summary>
    public static async Task AddAsync(NpgsqlConnection connection, ClientRow client, Change change)
    {
        await connection.ExecuteAsync(
            """
            INSERT INTO client (id, given_name, family_name, email, phone, alert, household_id, created_at)
            VALUES (@Id, @GivenName, @FamilyName, @Email, @Phone, @Alert, @HouseholdId, @CreatedAt)
            """,
            client);
        await BookStore.RecordAsync(connection, client.Id, "Added", null, new { client.GivenName, client.FamilyName }, change, "client");
    }

    private static string Pattern(string word)
    {
        // A number is typed with or without blanks, dashes and the country.
        string digits = new([.. word.Where(char.IsDigit)]);
        bool isNumber = digits.Length >= 4 && word.All(one => char.IsDigit(one) || "+-().".Contains(one, StringComparison.Ordinal));
        string text = isNumber ? digits.TrimStart('0') : word;
        return "%" + text.Replace(@"\", @"\\", StringComparison.Ordinal).Replace("%", @"\%", StringComparison.Ordinal).Replace("_", @"\_", StringComparison.Ordinal) + "%";
    }
}
