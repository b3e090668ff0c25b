using Dapper;
using Kingcup.Core.Business;
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

    /// <summary>When the client was entered.</summary>
    public Instant CreatedAt { get; init; }

    /// <summary>Whether the client may book online.</summary>
    public bool MayBookOnline { get; init; } = true;

    /// <summary>Least minutes between booking and start, where it is set at this client.</summary>
    public int? LeadMinutes { get; init; }

    /// <summary>How many days ahead this client may book, where it is set at them.</summary>
    public int? HorizonDays { get; init; }

    /// <summary>Least hours before the start at which this client may move a visit, where it is set at them.</summary>
    public int? MoveNoticeHours { get; init; }

    /// <summary>Least hours before the start at which this client may cancel, where it is set at them.</summary>
    public int? CancelNoticeHours { get; init; }

    /// <summary>Whether the business knew this client before the book did; they are then never new.</summary>
    public bool KnownBefore { get; init; }

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; } = 1;

    /// <summary>The rules of online booking set at this client, or null when there are none.</summary>
    public OnlineRules? Own =>
        (LeadMinutes ?? HorizonDays ?? MoveNoticeHours ?? CancelNoticeHours) is null
            ? null
            : new OnlineRules
            {
                LeadMinutes = LeadMinutes,
                HorizonDays = HorizonDays,
                MoveNoticeHours = MoveNoticeHours,
                CancelNoticeHours = CancelNoticeHours,
            };

    /// <summary>How many visits that count.</summary>
    public int Visits { get; init; }

    /// <summary>How many times the client did not come.</summary>
    public int NoShows { get; init; }

    /// <summary>How many times the client cancelled inside the notice they owe.</summary>
    public int LateCancellations { get; init; }
}

/// <summary>The clients.</summary>
public static class ClientStore
{
    private const string Columns = """
        c.id, c.given_name, c.family_name, c.email, c.phone, c.alert, c.created_at, c.may_book_online,
        c.lead_minutes, c.horizon_days, c.move_notice_hours, c.cancel_notice_hours, c.known_before, c.version,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.state NOT IN ('Cancelled', 'NoShow')) AS visits,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.state = 'NoShow') AS no_shows,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.cancelled_late) AS late_cancellations
        """;

    /// <summary>Clients whose name, number or address holds every word of <paramref name="text"/>, best first.</summary>
    public static async Task<IReadOnlyList<ClientRow>> SearchAsync(NpgsqlConnection connection, string text, int most)
    {
        // A number typed in groups is one number.
        if (text.Length > 0 && text.All(letter => char.IsDigit(letter) || " +-().".Contains(letter, StringComparison.Ordinal)))
            text = text.Replace(" ", "", StringComparison.Ordinal);
        string[] words = [.. text.ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(6).Select(Pattern)];
        if (words.Length == 0)
            return [];
        // Each word a condition of its own: the index answers those, and not one over all of them.
        DynamicParameters values = new(new { First = words[0][1..], most });
        foreach ((int i, string word) in words.Index())
            values.Add($"Word{i}", word);
        return
        [
            .. await connection.QueryAsync<ClientRow>(
                $"""
                SELECT {Columns} FROM client c WHERE {string.Join(" AND ", words.Select((_, i) => $"search LIKE @Word{i}"))}
                ORDER BY search LIKE @First DESC, family_name, given_name, id LIMIT @most
                """,
                values
            ),
        ];
    }

    /// <summary>A client, or null.</summary>
    public static Task<ClientRow?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<ClientRow>($"SELECT {Columns} FROM client c WHERE id = @id", new { id });

    // Whoever is asked for: by identity; or, of those who share an e-mail address, the one of that name. A name that fits nobody of the
    // address is another person.
    internal static string AskedIdSql(ClientAsked asked) => asked.Id is not null
        ? "@ClientId"
        : """
        (SELECT id FROM client WHERE email = @Email AND lower(given_name) = lower(@GivenName) AND lower(family_name) = lower(@FamilyName)
        ORDER BY created_at LIMIT 1)
        """;

    internal static string AskedSql(ClientAsked asked) => $"SELECT {Columns} FROM client c WHERE c.id = {AskedIdSql(asked)};";

    internal static Parameters AskedValues(ClientAsked asked) => asked.Id is not null
        ? new Parameters(new { ClientId = asked.Id })
        : new Parameters(new { asked.Stranger!.Email, asked.Stranger.GivenName, asked.Stranger.FamilyName });

    /// <summary>Adds a client with an entry in the history.</summary>
    public static async Task AddAsync(NpgsqlConnection connection, ClientRow client, Change change)
    {
        await connection.ExecuteAsync(AddSql, Values(client));
        await History.RecordAsync(connection, new Subject("client", client.Id), "Added", null, Describe(client), change);
    }

    /// <summary>Adds a client with what else a transaction of the book writes.</summary>
    public static void Add(BookTransaction transaction, ClientRow client)
    {
        transaction.Write(AddSql, Values(client));
        transaction.Record(new Subject("client", client.Id), "Added", null, Describe(client));
    }

    private const string AddSql = """
        INSERT INTO client (id, given_name, family_name, email, phone, alert, created_at)
        VALUES (@Id, @GivenName, @FamilyName, @Email, @Phone, @Alert, @CreatedAt)
        """;

    private static object Values(ClientRow client) =>
        new
        {
            client.Id,
            client.GivenName,
            client.FamilyName,
            client.Email,
            client.Phone,
            client.Alert,
            client.CreatedAt,
        };

    /// <summary>Saves a changed client, with what changed in the history.</summary>
    /// <returns>False when the client no longer has the version expected; nothing is changed then.</returns>
    public static async Task<bool> SaveAsync(NpgsqlConnection connection, ClientRow before, ClientRow after, Change change)
    {
        int rows = await connection.ExecuteAsync(
            """
            UPDATE client SET given_name = @GivenName, family_name = @FamilyName, email = @Email, phone = @Phone, alert = @Alert,
                may_book_online = @MayBookOnline,
                lead_minutes = @LeadMinutes, horizon_days = @HorizonDays, move_notice_hours = @MoveNoticeHours,
                    cancel_notice_hours = @CancelNoticeHours,
                known_before = @KnownBefore, version = version + 1
            WHERE id = @Id AND version = @Version
            """,
            after
        );
        if (rows == 0)
            return false;
        await History.RecordAsync(connection, new Subject("client", after.Id), "Changed", Describe(before), Describe(after), change);
        return true;
    }

    private static object Describe(ClientRow client) =>
        new
        {
            client.GivenName,
            client.FamilyName,
            client.Email,
            client.Phone,
            client.Alert,
            client.MayBookOnline,
            client.LeadMinutes,
            client.HorizonDays,
            client.MoveNoticeHours,
            client.CancelNoticeHours,
            client.KnownBefore,
        };

    private static string Pattern(string word)
    {
        // A number is typed with or without blanks, dashes and the country.
        string digits = new([.. word.Where(char.IsDigit)]);
        bool isNumber =
            digits.Length >= 4 && word.All(letter => char.IsDigit(letter) || "+-().".Contains(letter, StringComparison.Ordinal));
        string text = isNumber ? digits.TrimStart('0') : word;
        return "%"
            + text.Replace(@"\", @"\\", StringComparison.Ordinal)
                .Replace("%", @"\%", StringComparison.Ordinal)
                .Replace("_", @"\_", StringComparison.Ordinal)
            + "%";
    }
}
