using Dapper;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A client.</summary>
public sealed record ClientRow
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

    /// <summary>What they give when they book, as a name of <see cref="GuaranteeKind"/>; null for what holds for everyone.</summary>
    public string? Gives { get; init; }

    /// <summary>How much of it: minor units of a fixed amount, whole percent.</summary>
    public long GivesValue { get; init; }

    /// <summary>Whether the business knew this client before the book did; they are then never new.</summary>
    public bool KnownBefore { get; init; }

    /// <summary>When they were born, or null.</summary>
    public LocalDate? Born { get; init; }

    /// <summary>How they came to the business, or null.</summary>
    public string? Source { get; init; }

    /// <summary>In which language they are written to (ISO 639), or null for that of the business.</summary>
    public string? Language { get; init; }

    /// <summary>By what the business groups its clients.</summary>
    public string[] Tags { get; init; } = [];

    /// <summary>Whom they like to come to, or null.</summary>
    public Guid? LikesPractitionerId { get; init; }

    /// <summary>Which room they like, or null.</summary>
    public Guid? LikesRoomId { get; init; }

    /// <summary>Whether they like it quiet.</summary>
    public bool LikesQuiet { get; init; }

    /// <summary>How firmly they like to be treated (<see cref="Pressure"/>), or null.</summary>
    public string? LikesPressure { get; init; }

    /// <summary>What else they like, in words, or null.</summary>
    public string? LikesWords { get; init; }

    /// <summary>The record this one has been put aside for, or null.</summary>
    public Guid? MergedInto { get; init; }

    /// <summary>Grows with every change.</summary>
    public long Version { get; init; } = 1;

    /// <summary>What the record says, as far as two records of one person may differ in it.</summary>
    public ClientFacts Facts => new()
    {
        GivenName = GivenName,
        FamilyName = FamilyName,
        Email = Email,
        Phone = Phone,
        Born = Born,
        Alert = Alert,
        Source = Source,
        Preferences = new Preferences(
            LikesPractitionerId,
            LikesRoomId,
            LikesQuiet,
            LikesPressure is null ? null : Enum.Parse<Pressure>(LikesPressure),
            LikesWords
        ),
        MayBookOnline = MayBookOnline,
    };

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

    /// <summary>What is asked of this client when they book, whatever it is, or null where nothing is set at them.</summary>
    public GuaranteeDemand? Demand => Gives is null ? null : new GuaranteeDemand(Enum.Parse<GuaranteeKind>(Gives), GivesValue);

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
        c.lead_minutes, c.horizon_days, c.move_notice_hours, c.cancel_notice_hours, c.gives, c.gives_value, c.known_before, c.version,
        c.born, c.source, c.tags, c.likes_practitioner_id, c.likes_room_id, c.likes_quiet, c.likes_pressure, c.likes_words, c.language,
        c.merged_into,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.state NOT IN ('Cancelled', 'NoShow')) AS visits,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.state = 'NoShow') AS no_shows,
        (SELECT count(*)::int FROM visit v WHERE v.client_id = c.id AND v.cancelled_late) AS late_cancellations
        """;

    /// <summary>Clients whose name, number or address holds every word of <paramref name="text"/>, best first.</summary>
    public static async Task<IReadOnlyList<ClientRow>> SearchAsync(NpgsqlConnection connection, string text, int most)
    {
        (List<string> conditions, DynamicParameters values) = Words(text);
        if (conditions.Count == 0)
            return [];
        values.Add("most", most);
        return
        [
            .. await connection.QueryAsync<ClientRow>(
                $"""
                SELECT {Columns} FROM client c WHERE merged_into IS NULL AND {string.Join(" AND ", conditions)}
                ORDER BY search LIKE @First DESC, family_name, given_name, id LIMIT @most
                """,
                values
            ),
        ];
    }

    /// <summary>What it means that a client's name, number or address holds every word, six at the most.</summary>
    internal static (List<string> Conditions, DynamicParameters Values) Words(string text)
    {
        // A number typed in groups is one number.
        if (text.Length > 0 && text.All(letter => char.IsDigit(letter) || " +-().".Contains(letter, StringComparison.Ordinal)))
            text = text.Replace(" ", "", StringComparison.Ordinal);
        string[] words = [.. text.ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries).Take(6).Select(Pattern)];
        // Each word a condition of its own: the index answers those, and not one over all of them.
        DynamicParameters values = new();
        if (words.Length > 0)
            values.Add("First", words[0][1..]);
        foreach ((int i, string word) in words.Index())
            values.Add($"Word{i}", word);
        return ([.. words.Select((_, i) => $"c.search LIKE @Word{i}")], values);
    }

    /// <summary>A client, or null.</summary>
    public static Task<ClientRow?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<ClientRow>($"SELECT {Columns} FROM client c WHERE id = @id", new { id });

    /// <summary>A client who is neither changed nor put aside until the transaction ends, or null.</summary>
    public static async Task<ClientRow?> LockedAsync(NpgsqlConnection connection, Guid id)
    {
        await connection.ExecuteAsync("SELECT id FROM client WHERE id = @id FOR UPDATE", new { id });
        return await FindAsync(connection, id);
    }

    /// <summary>Several clients.</summary>
    internal static Task<IEnumerable<ClientRow>> TheseAsync(NpgsqlConnection connection, IReadOnlyCollection<Guid> ids) =>
        connection.QueryAsync<ClientRow>($"SELECT {Columns} FROM client c WHERE id = ANY(@Ids)", new { Ids = ids.ToArray() });

    // Whoever is asked for: by identity; or, of those who share an e-mail address, the one of that name. A name that fits nobody of the
    // address is another person.
    // A record that was put aside for another leads to that one.
    internal static string AskedIdSql(ClientAsked asked) => asked.Id is not null
        ? "(SELECT coalesce(merged_into, id) FROM client WHERE id = @ClientId)"
        : """
        (SELECT coalesce(merged_into, id) FROM client
        WHERE email = @Email AND lower(given_name) = lower(@GivenName) AND lower(family_name) = lower(@FamilyName)
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
        INSERT INTO client (id, given_name, family_name, email, phone, alert, created_at, born, source, tags, likes_quiet, likes_pressure,
            likes_words)
        VALUES (@Id, @GivenName, @FamilyName, @Email, @Phone, @Alert, @CreatedAt, @Born, @Source, @Tags, @LikesQuiet, @LikesPressure,
            @LikesWords)
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
            client.Born,
            client.Source,
            client.Tags,
            client.LikesQuiet,
            client.LikesPressure,
            client.LikesWords,
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
                    cancel_notice_hours = @CancelNoticeHours, gives = @Gives, gives_value = @GivesValue,
                known_before = @KnownBefore, born = @Born, source = @Source, tags = @Tags,
                likes_practitioner_id = @LikesPractitionerId, likes_room_id = @LikesRoomId, likes_quiet = @LikesQuiet,
                likes_pressure = @LikesPressure, likes_words = @LikesWords, language = @Language, version = version + 1
            WHERE id = @Id AND version = @Version AND merged_into IS NULL
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
            client.Gives,
            client.GivesValue,
            client.KnownBefore,
            client.Born,
            client.Source,
            client.Tags,
            client.LikesPractitionerId,
            client.LikesRoomId,
            client.LikesQuiet,
            client.LikesPressure,
            client.LikesWords,
            client.Language,
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
