using Dapper;
using Kingcup.Core.Booking;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>For whom a time is kept for a while.</summary>
public enum ProposalKind
{
    /// <summary>For somebody who is choosing it now.</summary>
    Hold,

    /// <summary>For somebody who was asked or offered it.</summary>
    Proposal,
}

/// <summary>A time about to be kept for somebody.</summary>
public sealed record NewProposal
{
    /// <summary>For whom.</summary>
    public required ProposalKind Kind { get; init; }

    /// <summary>Hash of what names it to whoever has it.</summary>
    public required byte[] TokenHash { get; init; }

    /// <summary>The first moment at which it counts for nobody.</summary>
    public required Instant ExpiresAt { get; init; }

    /// <summary>Hash of what was asked for.</summary>
    public required byte[] Asked { get; init; }

    /// <summary>The setup the plan was made by.</summary>
    public required long SetupRevision { get; init; }

    /// <summary>Hash of the device that has it, or null.</summary>
    public byte[]? DeviceHash { get; init; }

    /// <summary>Hash of the address range it was asked from, or null.</summary>
    public byte[]? RangeHash { get; init; }

    /// <summary>What was asked for and is answered with it, or null.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>Where, when and what, as it would lie.</summary>
    public required LaidVisit Visit { get; init; }

    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }
}

/// <summary>A time that is kept for somebody.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Kind">For whom.</param>
/// <param name="ExpiresAt">The first moment at which it counts for nobody.</param>
/// <param name="Asked">Hash of what was asked for.</param>
/// <param name="SetupRevision">The setup its plan was made by.</param>
/// <param name="Visit">The visit as it would lie; it has no client and no reference yet.</param>
public sealed record StoredProposal(
    Guid Id,
    ProposalKind Kind,
    Instant ExpiresAt,
    byte[] Asked,
    long SetupRevision,
    StoredVisit Visit
)
{
    /// <summary>What was asked for and is answered with it, or null.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>Whether somebody is paying for it: it is not given back by leaving the page.</summary>
    public bool IsPaying { get; init; }

    /// <summary>The occupations that hold its time: those of its lines.</summary>
    public IReadOnlySet<Guid> Occupations { get; } = Visit.Lines.Select(line => line.Id).ToHashSet();
}

/// <summary>Whose choice a time that is proposed is.</summary>
/// <param name="VisitId">What they asked for.</param>
/// <param name="Client">Their name.</param>
public sealed record ProposedTo(Guid VisitId, string Client);

/// <summary>Times that are kept for somebody for a while.</summary>
public static partial class BookStore
{
    private const string ProposalsSql =
        "SELECT id, kind, expires_at, asked, setup_revision, visit::text, is_paying, visit_id FROM proposal";

    internal const string ProposalSql = $"{ProposalsSql} WHERE token_hash = @TokenHash FOR UPDATE;";

    private sealed class ProposalRow
    {
        public Guid Id { get; init; }
        public string Kind { get; init; } = "";
        public Instant ExpiresAt { get; init; }
        public byte[] Asked { get; init; } = [];
        public long SetupRevision { get; init; }
        public string Visit { get; init; } = "";
        public bool IsPaying { get; init; }
        public Guid? VisitId { get; init; }

        internal StoredProposal Stored() =>
            new(Id, Enum.Parse<ProposalKind>(Kind), ExpiresAt, Asked, SetupRevision, KeptVisit.Read(Visit))
            {
                IsPaying = IsPaying,
                VisitId = VisitId,
            };
    }

    /// <summary>Keeps a time for somebody: what it would hold is held until then.</summary>
    /// <returns>The proposal as it stands once the transaction commits.</returns>
    /// <remarks>The commit fails with <see cref="DoubleBooking"/> where some claim is no longer free.</remarks>
    public static StoredProposal Propose(BookTransaction transaction, NewProposal proposal)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(proposal);
        LaidVisit laid = proposal.Visit;
        Guid id = Guid.CreateVersion7();
        Guid[] ids = [.. laid.LineIds.Select(_ => Guid.CreateVersion7())];
        StoredVisit visit = Laid(ids);
        // Lines that stand elsewhere hold their time there: it is held here by others until this is what they are.
        StoredVisit kept = Laid([.. laid.LineIds.Zip(ids, (stands, held) => stands ?? held)]);
        StoredVisit Laid(Guid[] lines) =>
            Placed(
                new VisitRow
                {
                    Id = proposal.VisitId ?? Guid.CreateVersion7(),
                    LocationId = proposal.LocationId,
                    State = nameof(VisitState.Requested),
                }.At(laid.Date, laid.Plan.Start, laid.Plan.End),
                lines,
                laid.Plan,
                laid.Price,
                laid.Chosen,
                [.. laid.AddOns.SelectMany((own, line) => own.Select(added => added.On(lines[line])))]
            );
        transaction.Write(
            """
            INSERT INTO proposal (id, kind, token_hash, location_id, date, expires_at, created_at, device_hash, range_hash, asked,
                setup_revision, visit, visit_id)
            VALUES (@id, @Kind, @TokenHash, @LocationId, @Date, @ExpiresAt, @At, @DeviceHash, @RangeHash, @Asked, @SetupRevision,
                CAST(@Visit AS jsonb), @VisitId)
            """,
            new
            {
                id,
                Kind = proposal.Kind.ToString(),
                proposal.TokenHash,
                proposal.LocationId,
                laid.Date,
                proposal.ExpiresAt,
                transaction.Change.At,
                proposal.DeviceHash,
                proposal.RangeHash,
                proposal.Asked,
                proposal.SetupRevision,
                Visit = KeptVisit.Json(kept),
                proposal.VisitId,
            }
        );
        transaction.Write(
            "INSERT INTO occupation (id, kind, location_id, expires_at, proposal_id) SELECT line, @Kind, @LocationId, @ExpiresAt, @id "
                + "FROM unnest(@ids) AS line",
            new
            {
                id,
                ids,
                Kind = proposal.Kind.ToString(),
                proposal.LocationId,
                proposal.ExpiresAt,
            }
        );
        AddClaims(transaction, visit);
        transaction.Tell(LiveNotices.Day(proposal.LocationId, laid.Date));
        return new StoredProposal(id, proposal.Kind, proposal.ExpiresAt, proposal.Asked, proposal.SetupRevision, kept)
        {
            VisitId = proposal.VisitId,
        };
    }

    /// <summary>Gives back a time that was kept for somebody.</summary>
    /// <param name="transaction">A transaction that has locked its day.</param>
    /// <param name="proposal">What was kept.</param>
    public static void GiveBack(BookTransaction transaction, StoredProposal proposal)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(proposal);
        transaction.Write("DELETE FROM proposal WHERE id = @Id", new { proposal.Id });
        transaction.Tell(LiveNotices.Day(proposal.Visit.Visit.LocationId, proposal.Visit.Visit.Date));
    }

    /// <summary>Keeps a time for longer, for whoever is paying for it.</summary>
    /// <param name="transaction">A transaction that has locked its day, and the proposal.</param>
    /// <param name="proposal">What is kept; it has not run out.</param>
    /// <param name="until">The first moment at which it counts for nobody.</param>
    public static void KeepOn(BookTransaction transaction, StoredProposal proposal, Instant until)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(proposal);
        transaction.Write(
            "UPDATE proposal SET expires_at = @until, is_paying = true WHERE id = @Id",
            new { proposal.Id, until },
            oneRow: true
        );
        transaction.Write("UPDATE occupation SET expires_at = @until WHERE proposal_id = @Id", new { proposal.Id, until });
        transaction.Tell(LiveNotices.Day(proposal.Visit.Visit.LocationId, proposal.Visit.Visit.Date));
    }

    /// <summary>
    /// Writes a new visit where a time was kept for it: the claims that held it are the visit's from now on, and were its own all the
    /// time between.
    /// </summary>
    /// <param name="transaction">A transaction that has locked the day, and the proposal.</param>
    /// <param name="visit">Who comes, and what else is said of the visit; its identity, plan, price and lines are those of the
    /// proposal.</param>
    /// <param name="proposal">What was kept; it has not run out.</param>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    public static StoredVisit TakeUp(BookTransaction transaction, NewVisit visit, StoredProposal proposal)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        ArgumentNullException.ThrowIfNull(proposal);
        StoredVisit kept = proposal.Visit;
        visit = visit with { Id = kept.Visit.Id };
        StoredVisit stored = kept with
        {
            Visit = Row(visit, kept.Visit.StartsAt, kept.Visit.EndsAt, transaction.Change.At) with { Date = kept.Visit.Date },
            People = visit.People,
            Answers = visit.Answers,
        };
        transaction.Write(
            "UPDATE occupation SET kind = 'Line', expires_at = NULL, proposal_id = NULL WHERE proposal_id = @Id",
            new { proposal.Id }
        );
        transaction.Write("DELETE FROM proposal WHERE id = @Id", new { proposal.Id }, oneRow: true);
        AddNew(transaction, visit, stored, isHeld: true);
        return stored;
    }

    /// <summary>Puts what was asked for where the client has chosen it to be: among what was proposed to them.</summary>
    /// <param name="transaction">A transaction that has locked the days of the visit and of all that was proposed.</param>
    /// <param name="visit">What was asked for, as it was read under the locks; what was proposed has been given back.</param>
    /// <param name="chosen">What the client chooses.</param>
    /// <returns>The visit as it stands once the transaction commits.</returns>
    public static StoredVisit Choose(BookTransaction transaction, StoredVisit visit, StoredProposal chosen)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(visit);
        ArgumentNullException.ThrowIfNull(chosen);
        VisitRow at = chosen.Visit.Visit;
        StoredVisit next = chosen.Visit with
        {
            Visit = visit.Visit.At(at.Date, at.StartsAt, at.EndsAt) with
            {
                State = nameof(VisitState.Confirmed),
                StateSince = transaction.Change.At,
                LapsesAt = null,
            },
            People = visit.People,
            Answers = visit.Answers,
        };
        return Rewrite(transaction, visit, next, "Chosen", null);
    }

    /// <summary>What is proposed instead of what was asked for, earliest first, whether or not it has run out.</summary>
    public static async Task<IReadOnlyList<StoredProposal>> ProposedAsync(
        NpgsqlConnection connection, IReadOnlyCollection<Guid> visitIds) =>
        visitIds.Count == 0 ? [] :
        [
            .. (
                await connection.QueryAsync<ProposalRow>(
                    $"{ProposalsSql} WHERE visit_id = ANY(@Ids)", new { Ids = visitIds.ToArray() }
                )
            ).Select(row => row.Stored()).OrderBy(proposal => proposal.Visit.Visit.StartsAt),
        ];

    /// <summary>To whom times of a day are proposed, by the occupations that hold them.</summary>
    public static async Task<IReadOnlyDictionary<Guid, ProposedTo>> ProposedOnAsync(
        NpgsqlConnection connection, Guid locationId, LocalDate date) =>
        (
            await connection.QueryAsync<(Guid, Guid, string)>(
                """
                SELECT o.id, v.id, c.given_name || ' ' || c.family_name FROM proposal p JOIN occupation o ON o.proposal_id = p.id
                JOIN visit v ON v.id = p.visit_id JOIN client c ON c.id = v.client_id
                WHERE p.visit_id IS NOT NULL AND p.date = @date AND p.location_id = @locationId
                """,
                new { locationId, date }
            )
        ).ToDictionary(row => row.Item1, row => new ProposedTo(row.Item2, row.Item3));

    /// <summary>Visits that have lapsed by now and still stand as if somebody were to agree.</summary>
    public static async Task<IReadOnlyList<Guid>> LapsedAsync(NpgsqlConnection connection, Instant now, int most) =>
        [
            .. await connection.QueryAsync<Guid>(
                "SELECT id FROM visit WHERE lapses_at <= @now ORDER BY lapses_at, id LIMIT @most", new { now, most }
            ),
        ];

    /// <summary>What a token names, without a lock; null where there is no such thing, or no more.</summary>
    public static async Task<StoredProposal?> ProposalAsync(NpgsqlConnection connection, byte[] tokenHash) =>
        (
            await connection.QuerySingleOrDefaultAsync<ProposalRow>(
                $"{ProposalsSql} WHERE token_hash = @TokenHash",
                new { TokenHash = tokenHash }
            )
        )?.Stored();

    internal static async Task<StoredProposal?> ProposalAsync(SqlMapper.GridReader grid) =>
        (await grid.ReadSingleOrDefaultAsync<ProposalRow>())?.Stored();

    /// <summary>The times one device holds, whether or not they have run out.</summary>
    public static async Task<IReadOnlyList<StoredProposal>> HeldByAsync(NpgsqlConnection connection, byte[] device) =>
        [
            .. (
                await connection.QueryAsync<ProposalRow>(
                    $"{ProposalsSql} WHERE kind = 'Hold' AND device_hash = @device AND NOT is_paying ORDER BY id",
                    new { device }
                )
            ).Select(row => row.Stored()),
        ];

    /// <summary>How many times others hold at once.</summary>
    /// <param name="connection">A connection in a transaction that has locked the day and the range.</param>
    /// <param name="device">Whose own are not counted.</param>
    /// <param name="range">The address range.</param>
    /// <param name="locationId">The location.</param>
    /// <param name="date">The day.</param>
    /// <param name="now">What has run out by then is not counted.</param>
    public static Task<(int OfRange, int OfDay)> HeldByOthersAsync(
        NpgsqlConnection connection,
        byte[] device,
        byte[] range,
        Guid locationId,
        LocalDate date,
        Instant now
    ) =>
        connection.QuerySingleAsync<(int, int)>(
            """
            SELECT count(*) FILTER (WHERE range_hash = @range)::int, count(*) FILTER (WHERE location_id = @locationId AND date = @date)::int
            FROM proposal WHERE kind = 'Hold' AND expires_at > @now AND (device_hash <> @device OR is_paying)
            """,
            new
            {
                device,
                range,
                locationId,
                date,
                now,
            }
        );
}
