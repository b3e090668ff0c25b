using Dapper;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Something that has to hold of every database.</summary>
/// <param name="Says">What has to hold, in a sentence.</param>
/// <param name="Counts">How many rows are looked at.</param>
/// <param name="Wrong">The identities of what breaks it.</param>
public sealed record Invariant(string Says, string Counts, string Wrong);

/// <summary>What a check found.</summary>
/// <param name="Says">What has to hold, in a sentence.</param>
/// <param name="Rows">How many rows were looked at.</param>
/// <param name="Wrong">The identities of what breaks it; of many, the first.</param>
/// <param name="Count">How many break it.</param>
public sealed record Finding(string Says, long Rows, IReadOnlyList<string> Wrong, long Count);

/// <summary>
/// Checks what has to hold of a database, running or not, and changes nothing. The constraints of the schema guarantee some of it; a
/// restored backup, a constraint that was dropped, or a fault of ours would show here.
/// </summary>
public static class Proof
{
    private const int MostNamed = 20;

    /// <summary>Every invariant, by feature. Each feature adds its own.</summary>
    public static IReadOnlyList<Invariant> Invariants { get; } =
    [
        new(
            "No two live claims of one unit overlap, unless one is marked as overbooked.",
            "SELECT count(*) FROM claim WHERE live",
            """
            SELECT k.id::text FROM claim k JOIN claim o ON o.resource_id = k.resource_id AND o.unit = k.unit AND o.during && k.during
                AND o.id > k.id
            WHERE k.live AND o.live AND NOT k.overbooked AND NOT o.overbooked
            """),
        new(
            "Every live claim belongs to something that holds time.",
            "SELECT count(*) FROM claim WHERE live",
            """
            SELECT k.id::text FROM claim k JOIN occupation o ON o.id = k.occupation_id LEFT JOIN appointment a ON a.id = o.id LEFT
                JOIN visit v ON v.id = a.visit_id
            WHERE k.live AND o.kind = 'Line' AND (v.id IS NULL OR v.state = 'Cancelled')
            """),
        new(
            "Every claim lies where its line says: at its location, in the time of its visit.",
            "SELECT count(*) FROM claim",
            """
            SELECT k.id::text FROM claim k JOIN occupation o ON o.id = k.occupation_id JOIN appointment a ON a.id = o.id
                JOIN visit v ON v.id = a.visit_id
            WHERE k.location_id <> o.location_id OR o.location_id <> v.location_id OR NOT k.core <@ tstzrange(v.starts_at, v.ends_at)
                OR (k.role IS NOT NULL AND NOT k.core <@ tstzrange(a.starts_at, a.ends_at)) OR k.service_id IS DISTINCT FROM a.service_id
            """),
        new(
            "Every line of a visit that holds time is held by somebody, and its room is held with it.",
            "SELECT count(*) FROM appointment a JOIN visit v ON v.id = a.visit_id WHERE v.state NOT IN ('Cancelled', 'Answered')",
            """
            SELECT a.id::text FROM appointment a JOIN visit v ON v.id = a.visit_id
            WHERE v.state NOT IN ('Cancelled', 'Answered') AND (
                NOT EXISTS (SELECT 1 FROM claim k WHERE k.occupation_id = a.id AND k.live AND k.role = 0)
                OR (a.room_id IS NOT NULL AND NOT EXISTS (
                    SELECT 1 FROM claim k JOIN appointment b ON b.id = k.occupation_id
                    WHERE b.visit_id = a.visit_id AND k.live AND k.resource_id = a.room_id
                        AND k.core && tstzrange(a.starts_at, a.ends_at))))
            """),
        new(
            "Whoever a line is for comes: the client, or somebody who is named.",
            "SELECT count(*) FROM appointment",
            """
            SELECT a.id::text FROM appointment a WHERE a.person > 0
                AND NOT EXISTS (SELECT 1 FROM visit_person p WHERE p.visit_id = a.visit_id AND p.person = a.person)
            """),
        new(
            "Nobody is booked twice in one line.",
            "SELECT count(DISTINCT (occupation_id, resource_id)) FROM claim WHERE role IS NOT NULL",
            "SELECT occupation_id::text FROM claim WHERE role IS NOT NULL GROUP BY occupation_id, resource_id HAVING "
                + "count(DISTINCT role) > 1"
        ),
        new(
            "A visit begins with its first line and ends with its last, on the date it says; every line lies where its offset says.",
            "SELECT count(*) FROM visit",
            """
            SELECT v.id::text FROM visit v JOIN location l ON l.id = v.location_id JOIN appointment a ON a.visit_id = v.id
            GROUP BY v.id, l.zone
            HAVING min(a.starts_at) <> v.starts_at OR max(a.ends_at) <> v.ends_at OR (v.starts_at AT TIME ZONE l.zone)::date <> v.date
                OR bool_or(a.starts_at <> v.starts_at + a.offset_minutes * interval '1 minute')
            """),
        new(
            "Prices add up: the parts of a line are what it and its add-ons cost.",
            "SELECT count(*) FROM price_part",
            """
            SELECT a.id::text FROM appointment a
            LEFT JOIN LATERAL (SELECT sum(amount) FILTER (WHERE add_on_id IS NULL) AS service,
                coalesce(sum(amount) FILTER (WHERE add_on_id IS NOT NULL), 0) AS added
                FROM price_part p WHERE p.appointment_id = a.id) AS parts ON true
            WHERE parts.service IS DISTINCT FROM a.price
                OR parts.added <> (SELECT coalesce(sum(x.price), 0) FROM appointment_add_on x WHERE x.appointment_id = a.id)
            """),
        new(
            "The history of every visit ends in its present state and time.",
            "SELECT count(*) FROM visit",
            """
            SELECT v.id::text FROM visit v
            LEFT JOIN LATERAL (SELECT h.after ->> 'state' AS state FROM history h WHERE h.subject_id = v.id AND h.after ? 'state'
                ORDER BY h.id DESC LIMIT 1) AS last ON true
            LEFT JOIN LATERAL (SELECT (h.after ->> 'start')::timestamptz AS start FROM history h WHERE h.subject_id = v.id
                AND h.after ? 'start' ORDER BY h.id DESC LIMIT 1) AS placed ON true
            WHERE last.state IS DISTINCT FROM v.state OR placed.start IS DISTINCT FROM v.starts_at
            """),
        new(
            "Nothing that has run out stands in the way of anything.",
            "SELECT count(*) FROM occupation WHERE expires_at IS NOT NULL",
            """
            SELECT DISTINCT o.id::text FROM occupation o JOIN claim k ON k.occupation_id = o.id
            JOIN claim other ON other.resource_id = k.resource_id AND other.unit = k.unit AND other.during && k.during AND other.id <> k.id
            WHERE o.expires_at < (SELECT now() + clock_ahead_seconds * interval '1 second' FROM business) - interval '1 hour'
                AND k.live AND other.live
            """),
        new(
            "Whatever is kept for somebody holds the time it names, line by line.",
            "SELECT count(*) FROM proposal",
            """
            SELECT p.id::text FROM proposal p
            WHERE (SELECT count(*) FROM occupation o WHERE o.proposal_id = p.id AND o.kind = p.kind AND o.expires_at = p.expires_at
                    AND o.location_id = p.location_id
                    AND EXISTS (SELECT 1 FROM claim k WHERE k.occupation_id = o.id))
                <> jsonb_array_length(p.visit -> 'Lines')
            """),
        new(
            "What is proposed belongs to something that was answered with it, which holds nothing of its own meanwhile.",
            "SELECT count(*) FROM proposal WHERE visit_id IS NOT NULL",
            """
            SELECT p.id::text FROM proposal p JOIN visit v ON v.id = p.visit_id
            WHERE v.state <> 'Answered' OR p.expires_at > v.lapses_at OR p.location_id <> v.location_id
            UNION ALL
            SELECT v.id::text FROM visit v JOIN appointment a ON a.visit_id = v.id JOIN claim k ON k.occupation_id = a.id
            WHERE v.state = 'Answered' AND k.live
            """),
        new(
            "References are unique.",
            "SELECT count(*) FROM visit",
            "SELECT reference::text FROM visit GROUP BY reference HAVING count(*) > 1"),
        new(
            "Every entry of the ledger adds up to nothing and has at least two sides.",
            "SELECT count(*) FROM ledger_entry",
            """
            SELECT e.id::text FROM ledger_entry e LEFT JOIN ledger_posting p ON p.entry_id = e.id
            GROUP BY e.id HAVING coalesce(sum(p.amount), 0) <> 0 OR count(p.amount) < 2
            """),
        new(
            "Whoever has paid for a visit has it, with what they paid as its deposit, once; of any other payment that is settled nothing "
                + "is kept.",
            "SELECT count(*) FROM payment WHERE settled_at IS NOT NULL",
            """
            SELECT y.id::text FROM payment y LEFT JOIN ledger_entry e ON e.payment_id = y.id AND e.reason IN ('Deposit', 'Refund')
                LEFT JOIN ledger_posting p ON p.entry_id = e.id AND p.account IN ('CardClearing', 'Cash')
            WHERE y.settled_at IS NOT NULL
            GROUP BY y.id HAVING coalesce(sum(p.amount), 0) <> CASE y.state WHEN 'Booked' THEN y.amount ELSE 0 END
                OR (y.state = 'Booked' AND y.amount > 0 AND count(DISTINCT e.visit_id) <> 1)
            """),
        new(
            "No more goes back of a payment than it has brought, and no more of a deposit than is held.",
            "SELECT count(*) FROM card_work",
            """
            SELECT y.id::text FROM payment y JOIN card_work w ON w.payment_id = y.id AND w.kind = 'Refund' AND w.state <> 'Dropped'
            GROUP BY y.id HAVING sum(w.amount) > y.amount
            UNION ALL
            SELECT e.visit_id::text FROM ledger_entry e JOIN ledger_posting p ON p.entry_id = e.id
            WHERE p.account = 'ClientDeposits' AND e.visit_id IS NOT NULL GROUP BY e.visit_id HAVING sum(p.amount) > 0
            """),
        new(
            "Only what came in cash is given back by hand, and what was given back has left the drawer.",
            "SELECT count(*) FROM card_work WHERE by_hand",
            """
            SELECT w.id::text FROM card_work w JOIN payment y ON y.id = w.payment_id WHERE w.by_hand <> (y.way = 'Cash')
            UNION ALL
            SELECT w.visit_id::text FROM card_work w WHERE w.by_hand AND w.state <> 'Dropped' GROUP BY w.visit_id
            HAVING sum(w.amount) FILTER (WHERE w.state = 'Done') IS DISTINCT FROM (SELECT -sum(p.amount) FROM ledger_entry e
                JOIN ledger_posting p ON p.entry_id = e.id WHERE e.visit_id = w.visit_id AND e.reason = 'CashGiven' AND p.account = 'Cash')
            """),
    ];

    /// <summary>Checks everything in one snapshot of the database.</summary>
    /// <param name="connection">An open connection outside any transaction.</param>
    public static async Task<IReadOnlyList<Finding>> CheckAsync(NpgsqlConnection connection)
    {
        ArgumentNullException.ThrowIfNull(connection);
        await using NpgsqlTransaction snapshot = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead);
        await connection.ExecuteAsync("SET TRANSACTION READ ONLY");
        List<Finding> findings = [];
        foreach (Invariant invariant in Invariants)
        {
            long rows = await connection.ExecuteScalarAsync<long>(invariant.Counts, commandTimeout: 600);
            List<string> wrong = [.. await connection.QueryAsync<string>(invariant.Wrong, commandTimeout: 600)];
            findings.Add(new Finding(invariant.Says, rows, [.. wrong.Take(MostNamed)], wrong.Count));
        }

        return findings;
    }
}
