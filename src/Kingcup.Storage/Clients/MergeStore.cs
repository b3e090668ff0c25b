using System.Text.Json;
using Dapper;
using Kingcup.Core.Clients;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Two records that were made one.</summary>
/// <param name="Id">Identity.</param>
/// <param name="KeptId">The record that was kept.</param>
/// <param name="GoneId">The record that was put aside.</param>
/// <param name="GoneName">Its name.</param>
/// <param name="At">When.</param>
/// <param name="Actor">By whom.</param>
/// <param name="ApartAt">When they were taken apart again, or null.</param>
public sealed record StoredMerge(Guid Id, Guid KeptId, Guid GoneId, string GoneName, Instant At, string Actor, Instant? ApartAt);

/// <summary>Records of one person: finding them, making one of two, and taking them apart.</summary>
public static class MergeStore
{
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions(JsonSerializerDefaults.Web).ConfigureForNodaTime(
        DateTimeZoneProviders.Tzdb
    );

    // What the kept record was and became. Tags and being known are joined, not chosen.
    private sealed record Kept(ClientFacts Facts, string[] Tags, bool KnownBefore);

    private sealed record Link(Guid From, Guid To);

    private sealed record Moved(Guid[] Visits, Guid[] Payers, Seat[] Seats, Guid[] Notes, Guid[] Consents, Link[] Links, Guid[] Records);

    private sealed record Seat(Guid VisitId, int Person);

    /// <summary>Clients with what they may share with others: everybody, or whoever shares something with one, that one too.</summary>
    public static async Task<IReadOnlyList<SharingClient>> SharingAsync(NpgsqlConnection connection, Guid? clientId)
    {
        string which = clientId is null
            ? "(c.email IS NOT NULL OR c.phone IS NOT NULL OR c.born IS NOT NULL)"
            : """
            c.id IN (SELECT b.id FROM client a JOIN client b ON b.email = a.email WHERE a.id = @clientId
                UNION SELECT b.id FROM client a JOIN client b ON b.phone = a.phone WHERE a.id = @clientId
                UNION SELECT b.id FROM client a JOIN client b ON b.born = a.born WHERE a.id = @clientId)
            """;
        return
        [
            .. (
                await connection.QueryAsync<ClientRow>(
                    $"""
                    SELECT c.id, c.given_name, c.family_name, c.email, c.phone, c.born FROM client c
                    WHERE c.merged_into IS NULL AND {which}
                    """,
                    new Parameters(new { }).Add("clientId", clientId)
                )
            ).Select(row => new SharingClient(row.Id, row.Facts)),
        ];
    }

    /// <summary>The pairs of which somebody has said that they are two people: all, or those of one client.</summary>
    public static async Task<IReadOnlyList<(Guid, Guid)>> SaidApartAsync(NpgsqlConnection connection, Guid? clientId) =>
        [
            .. await connection.QueryAsync<(Guid, Guid)>(
                $"SELECT one_id, other_id FROM client_apart WHERE {(clientId is null ? "true" : "@clientId IN (one_id, other_id)")}",
                new Parameters(new { }).Add("clientId", clientId)
            ),
        ];

    /// <summary>Several clients.</summary>
    public static async Task<IReadOnlyDictionary<Guid, ClientRow>> TheseAsync(NpgsqlConnection connection, IReadOnlyCollection<Guid> ids) =>
        (await ClientStore.TheseAsync(connection, ids)).ToDictionary(client => client.Id);

    /// <summary>Says that two records are of two people. Saying it twice changes nothing.</summary>
    public static Task SayApartAsync(NpgsqlConnection connection, Guid one, Guid other, Instant at) =>
        connection.ExecuteAsync(
            """
            INSERT INTO client_apart (one_id, other_id, at)
            VALUES (least(CAST(@one AS uuid), CAST(@other AS uuid)), greatest(CAST(@one AS uuid), CAST(@other AS uuid)), @at)
            ON CONFLICT DO NOTHING
            """,
            new { one, other, at }
        );

    /// <summary>Takes both records for this transaction: nobody books for either, or changes one, until it ends.</summary>
    public static async Task<(ClientRow? Kept, ClientRow? Gone)> LockAsync(NpgsqlConnection connection, Guid kept, Guid gone)
    {
        Guid[] ids = [kept, gone];
        await connection.ExecuteAsync("SELECT id FROM client WHERE id = ANY(@ids) ORDER BY id FOR UPDATE", new { ids });
        IReadOnlyDictionary<Guid, ClientRow> both = await TheseAsync(connection, ids);
        return (both.GetValueOrDefault(kept), both.GetValueOrDefault(gone));
    }

    /// <summary>Makes one of two records that are locked and neither of which was put aside.</summary>
    /// <param name="connection">A connection in a transaction that has locked both.</param>
    /// <param name="kept">The record that is kept.</param>
    /// <param name="gone">The record that is put aside. Its own row stays as it is.</param>
    /// <param name="merged">What they become.</param>
    /// <param name="change">Who does it, and when.</param>
    /// <returns>The identity of the merge, to take it apart by.</returns>
    public static async Task<Guid> MergeAsync(
        NpgsqlConnection connection,
        ClientRow kept,
        ClientRow gone,
        ClientFacts merged,
        Change change
    )
    {
        ArgumentNullException.ThrowIfNull(kept);
        ArgumentNullException.ThrowIfNull(gone);
        ArgumentNullException.ThrowIfNull(change);
        var ids = new { KeptId = kept.Id, GoneId = gone.Id };
        // First of all the record is put aside: what is moved goes where it leads.
        await connection.ExecuteAsync("UPDATE client SET merged_into = @KeptId, version = version + 1 WHERE id = @GoneId", ids);
        Moved moved = new(
            await IdsAsync("UPDATE visit SET client_id = @KeptId WHERE client_id = @GoneId RETURNING id"),
            await IdsAsync("UPDATE visit SET payer_id = @KeptId WHERE payer_id = @GoneId RETURNING id"),
            [
                .. await connection.QueryAsync<Seat>(
                    "UPDATE visit_person SET client_id = @KeptId WHERE client_id = @GoneId RETURNING visit_id, person::int",
                    ids
                ),
            ],
            await IdsAsync("UPDATE client_note SET client_id = @KeptId WHERE client_id = @GoneId RETURNING id"),
            await IdsAsync("UPDATE client_consent SET client_id = @KeptId WHERE client_id = @GoneId RETURNING id"),
            // The links of the record that is put aside stay with it, unseen; the kept one has the same.
            [
                .. await connection.QueryAsync<Link>(
                    """
                    INSERT INTO client_link (from_client_id, to_client_id, relation, may_book, may_pay, may_see)
                    SELECT CASE WHEN from_client_id = @GoneId THEN @KeptId ELSE from_client_id END,
                        CASE WHEN to_client_id = @GoneId THEN @KeptId ELSE to_client_id END, relation, may_book, may_pay, may_see
                    FROM client_link WHERE @GoneId IN (from_client_id, to_client_id) AND NOT @KeptId IN (from_client_id, to_client_id)
                    ON CONFLICT DO NOTHING RETURNING from_client_id AS "from", to_client_id AS "to"
                    """,
                    ids
                ),
            ],
            await IdsAsync("UPDATE client SET merged_into = @KeptId WHERE merged_into = @GoneId RETURNING id")
        );
        Kept before = new(kept.Facts, kept.Tags, kept.KnownBefore);
        Kept after = new(merged, [.. kept.Tags.Union(gone.Tags)], kept.KnownBefore || gone.KnownBefore);
        await WriteAsync(connection, kept.Id, after);
        Guid id = Guid.CreateVersion7();
        await connection.ExecuteAsync(
            """
            INSERT INTO client_merge (id, kept_id, gone_id, at, actor, before, after, moved)
            VALUES (@id, @KeptId, @GoneId, @At, @Actor, CAST(@Before AS jsonb), CAST(@After AS jsonb), CAST(@Moved AS jsonb))
            """,
            new
            {
                id,
                ids.KeptId,
                ids.GoneId,
                change.At,
                change.Actor,
                Before = Json(before),
                After = Json(after),
                Moved = Json(moved),
            }
        );
        await History.RecordAsync(connection, new Subject("client", kept.Id), "Merged", before.Facts, merged, change);
        await History.RecordAsync(connection, new Subject("client", gone.Id), "Put aside", null, new { For = kept.Id }, change);
        return id;

        async Task<Guid[]> IdsAsync(string sql) => [.. await connection.QueryAsync<Guid>(sql, ids)];
    }

    /// <summary>The merges into a client that hold, the latest first.</summary>
    public static async Task<IReadOnlyList<StoredMerge>> IntoAsync(NpgsqlConnection connection, Guid clientId) =>
        [
            .. await connection.QueryAsync<StoredMerge>(
                $"{Select} WHERE m.kept_id = @clientId AND m.apart_at IS NULL ORDER BY m.place DESC",
                new { clientId }
            ),
        ];

    /// <summary>A merge, or null.</summary>
    public static Task<StoredMerge?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<StoredMerge>($"{Select} WHERE m.id = @id", new { id });

    private const string Select = """
        SELECT m.id, m.kept_id, m.gone_id, g.given_name || ' ' || g.family_name AS gone_name, m.at, m.actor, m.apart_at
        FROM client_merge m JOIN client g ON g.id = m.gone_id
        """;

    /// <summary>
    /// Takes two records apart that are locked and the latest merge of which is <paramref name="merge"/>: what was moved goes back, the
    /// kept record is as it was except for what was changed since, and what came since stays with it.
    /// </summary>
    public static async Task ApartAsync(NpgsqlConnection connection, StoredMerge merge, ClientRow kept, Change change)
    {
        ArgumentNullException.ThrowIfNull(merge);
        ArgumentNullException.ThrowIfNull(kept);
        ArgumentNullException.ThrowIfNull(change);
        MergeDocuments documents = await connection.QuerySingleAsync<MergeDocuments>(
            "SELECT before::text, after::text, moved::text FROM client_merge WHERE id = @Id",
            new { merge.Id }
        );
        Kept before = Read<Kept>(documents.Before), after = Read<Kept>(documents.After);
        Moved moved = Read<Moved>(documents.Moved);
        await connection.ExecuteAsync(
            """
            UPDATE client SET merged_into = NULL, version = version + 1 WHERE id = @GoneId;
            UPDATE client SET merged_into = @GoneId WHERE id = ANY(@Records) AND merged_into = @KeptId;
            UPDATE visit SET client_id = @GoneId WHERE id = ANY(@Visits) AND client_id = @KeptId;
            UPDATE visit SET payer_id = @GoneId WHERE id = ANY(@Payers) AND payer_id = @KeptId;
            UPDATE visit_person p SET client_id = @GoneId FROM unnest(@SeatVisits, @SeatPersons) AS s(visit_id, person)
                WHERE p.visit_id = s.visit_id AND p.person = s.person AND p.client_id = @KeptId;
            UPDATE client_note SET client_id = @GoneId WHERE id = ANY(@Notes) AND client_id = @KeptId;
            UPDATE client_consent SET client_id = @GoneId WHERE id = ANY(@Consents) AND client_id = @KeptId;
            DELETE FROM client_link l USING unnest(@LinksFrom, @LinksTo) AS s(from_id, to_id)
                WHERE l.from_client_id = s.from_id AND l.to_client_id = s.to_id AND l.version = 1;
            UPDATE client_merge SET apart_at = @At WHERE id = @Id;
            """,
            new
            {
                merge.Id,
                merge.KeptId,
                merge.GoneId,
                change.At,
                moved.Records,
                moved.Visits,
                moved.Payers,
                SeatVisits = moved.Seats.Select(seat => seat.VisitId).ToArray(),
                SeatPersons = moved.Seats.Select(seat => seat.Person).ToArray(),
                moved.Notes,
                moved.Consents,
                LinksFrom = moved.Links.Select(link => link.From).ToArray(),
                LinksTo = moved.Links.Select(link => link.To).ToArray(),
            }
        );
        Kept apart = new(
            Merging.TakenApart(before.Facts, after.Facts, kept.Facts),
            [.. kept.Tags.Except(after.Tags.Except(before.Tags))],
            kept.KnownBefore == after.KnownBefore ? before.KnownBefore : kept.KnownBefore
        );
        await WriteAsync(connection, kept.Id, apart);
        await History.RecordAsync(connection, new Subject("client", kept.Id), "Taken apart", kept.Facts, apart.Facts, change);
        await History.RecordAsync(connection, new Subject("client", merge.GoneId), "Taken apart", null, null, change);
    }

    private static Task<int> WriteAsync(NpgsqlConnection connection, Guid id, Kept kept) =>
        connection.ExecuteAsync(
            """
            UPDATE client SET given_name = @GivenName, family_name = @FamilyName, email = @Email, phone = @Phone, born = @Born,
                alert = @Alert, source = @Source, may_book_online = @MayBookOnline, tags = @Tags, known_before = @KnownBefore,
                likes_practitioner_id = @PractitionerId, likes_room_id = @RoomId, likes_quiet = @Quiet, likes_pressure = @Pressure,
                likes_words = @Words, version = version + 1
            WHERE id = @id
            """,
            new
            {
                id,
                kept.Facts.GivenName,
                kept.Facts.FamilyName,
                kept.Facts.Email,
                kept.Facts.Phone,
                kept.Facts.Born,
                kept.Facts.Alert,
                kept.Facts.Source,
                kept.Facts.MayBookOnline,
                kept.Tags,
                kept.KnownBefore,
                kept.Facts.Preferences.PractitionerId,
                kept.Facts.Preferences.RoomId,
                kept.Facts.Preferences.Quiet,
                Pressure = kept.Facts.Preferences.Pressure?.ToString(),
                kept.Facts.Preferences.Words,
            }
        );

    private static string Json<T>(T value) => JsonSerializer.Serialize(value, _json);

    private static T Read<T>(string json) => JsonSerializer.Deserialize<T>(json, _json)!;

    private sealed record MergeDocuments(string Before, string After, string Moved);
}
