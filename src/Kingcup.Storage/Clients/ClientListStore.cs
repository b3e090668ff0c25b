using Dapper;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Which clients a list is to hold. What is null does not matter.</summary>
public sealed record ClientFilter
{
    /// <summary>Words of name, number or address.</summary>
    public string Search { get; init; } = "";

    /// <summary>A tag they carry.</summary>
    public string? Tag { get; init; }

    /// <summary>How they came to the business.</summary>
    public string? Source { get; init; }

    /// <summary>Whether they may book online.</summary>
    public bool? MayBookOnline { get; init; }

    /// <summary>Whether something stands that the desk has to know.</summary>
    public bool? HasAlert { get; init; }

    /// <summary>Whether a visit of theirs is ahead.</summary>
    public bool? HasAhead { get; init; }

    /// <summary>Not there since this day, though they have been there before.</summary>
    public LocalDate? NotSince { get; init; }

    /// <summary>Born in this month, 1 to 12.</summary>
    public int? BornIn { get; init; }
}

/// <summary>A client in a list.</summary>
public sealed class ListedClient
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>Given name.</summary>
    public string GivenName { get; init; } = "";

    /// <summary>Family name.</summary>
    public string FamilyName { get; init; } = "";

    /// <summary>E-mail address, or null.</summary>
    public string? Email { get; init; }

    /// <summary>Telephone number (E.164), or null.</summary>
    public string? Phone { get; init; }

    /// <summary>What the desk has to know, or null.</summary>
    public string? Alert { get; init; }

    /// <summary>When they were born, or null.</summary>
    public LocalDate? Born { get; init; }

    /// <summary>How they came to the business, or null.</summary>
    public string? Source { get; init; }

    /// <summary>By what the business groups its clients.</summary>
    public string[] Tags { get; init; } = [];

    /// <summary>Visits that count.</summary>
    public int Visits { get; init; }

    /// <summary>Times they did not come.</summary>
    public int NoShows { get; init; }

    /// <summary>The day of the last visit that has begun, or null.</summary>
    public LocalDate? LastVisit { get; init; }

    /// <summary>The day of the next one, or null.</summary>
    public LocalDate? NextVisit { get; init; }
}

/// <summary>Lists of clients.</summary>
public static class ClientListStore
{
    /// <summary>How many clients a filter holds.</summary>
    public static Task<int> CountAsync(NpgsqlConnection connection, ClientFilter filter, Instant now)
    {
        (string condition, DynamicParameters values) = Where(filter, now);
        return connection.ExecuteScalarAsync<int>($"SELECT count(*)::int FROM client c WHERE {condition}", values);
    }

    /// <summary>A part of the list, by family name.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="filter">Which clients.</param>
    /// <param name="now">What is past and what is ahead.</param>
    /// <param name="skip">How many to leave out before.</param>
    /// <param name="most">How many.</param>
    public static async Task<IReadOnlyList<ListedClient>> PartAsync(
        NpgsqlConnection connection,
        ClientFilter filter,
        Instant now,
        int skip,
        int most
    )
    {
        (string condition, DynamicParameters values) = Where(filter, now);
        values.Add("skip", skip);
        values.Add("most", most);
        return
        [
            .. await connection.QueryAsync<ListedClient>(
                $"""
                WITH part AS (
                    SELECT c.* FROM client c WHERE {condition} ORDER BY c.family_name, c.given_name, c.id OFFSET @skip LIMIT @most
                )
                SELECT c.id, c.given_name, c.family_name, c.email, c.phone, c.alert, c.born, c.source, c.tags, v.visits, v.no_shows,
                    v.last_visit, v.next_visit
                FROM part c CROSS JOIN LATERAL (
                    SELECT count(*) FILTER (WHERE state NOT IN ('Cancelled', 'NoShow'))::int AS visits,
                        count(*) FILTER (WHERE state = 'NoShow')::int AS no_shows,
                        max(date) FILTER (WHERE starts_at <= @now AND state NOT IN ('Cancelled', 'NoShow')) AS last_visit,
                        min(date) FILTER (WHERE starts_at > @now AND state NOT IN ('Cancelled', 'NoShow')) AS next_visit
                    FROM visit WHERE client_id = c.id
                ) v
                ORDER BY c.family_name, c.given_name, c.id
                """,
                values
            ),
        ];
    }

    private static (string Condition, DynamicParameters Values) Where(ClientFilter filter, Instant now)
    {
        ArgumentNullException.ThrowIfNull(filter);
        const string Came = "SELECT 1 FROM visit v WHERE v.client_id = c.id AND v.state NOT IN ('Cancelled', 'NoShow')";
        (List<string> all, DynamicParameters values) = ClientStore.Words(filter.Search);
        all.Insert(0, "c.merged_into IS NULL");
        values.Add("now", now);
        if (filter.Tag is not null) Add("c.tags @> ARRAY[@tag]", "tag", filter.Tag);
        if (filter.Source is not null) Add("c.source = @source", "source", filter.Source);
        if (filter.MayBookOnline is { } may) Add("c.may_book_online = @may", "may", may);
        if (filter.HasAlert is { } alert) all.Add($"c.alert IS {(alert ? "NOT " : "")}NULL");
        if (filter.HasAhead is { } ahead) all.Add($"{(ahead ? "" : "NOT ")}EXISTS ({Came} AND v.starts_at > @now)");
        if (filter.NotSince is { } since)
        {
            Add($"EXISTS ({Came} AND v.date < @since)", "since", since);
            all.Add($"NOT EXISTS ({Came} AND v.date >= @since AND v.starts_at <= @now)");
        }

        if (filter.BornIn is { } month) Add("extract(month FROM c.born) = @month", "month", month);
        return (string.Join(" AND ", all), values);

        void Add(string condition, string name, object value)
        {
            all.Add(condition);
            values.Add(name, value);
        }
    }
}
