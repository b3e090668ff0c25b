using Dapper;
using Kingcup.Core.Money;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A payment about to be asked for.</summary>
public sealed record NewPayment
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>Where the visit is.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>Minor units; 0 where only a card is kept.</summary>
    public required long Amount { get; init; }

    /// <summary>ISO 4217.</summary>
    public required string Currency { get; init; }

    /// <summary>How the money comes.</summary>
    public PaymentWay Way { get; init; }

    /// <summary>Hash of what names the time that is kept for it; null at the desk.</summary>
    public byte[]? HoldHash { get; init; }

    /// <summary>Who books what, as JSON; null at the desk.</summary>
    public string? Wanted { get; init; }

    /// <summary>The visit it is a deposit of, where that stands already.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>The first moment at which nobody pays any more.</summary>
    public required Instant ExpiresAt { get; init; }
}

/// <summary>A payment a booking waits for, or has waited for, or that is a deposit of a visit.</summary>
public sealed record PaymentRow
{
    /// <summary>Identity.</summary>
    public Guid Id { get; init; }

    /// <summary>Where the visit is.</summary>
    public Guid LocationId { get; init; }

    /// <summary>Minor units; 0 where only a card is kept.</summary>
    public long Amount { get; init; }

    /// <summary>ISO 4217.</summary>
    public string Currency { get; init; } = "";

    /// <summary>Where it stands, as a name of <see cref="PaymentState"/>.</summary>
    public string State { get; init; } = "";

    /// <summary>What the gateway calls it, or null.</summary>
    public string? GatewayId { get; init; }

    /// <summary>How the money comes, as a name of <see cref="PaymentWay"/>.</summary>
    public string Way { get; init; } = "";

    /// <summary>Hash of what names the time that is kept for it; null at the desk.</summary>
    public byte[]? HoldHash { get; init; }

    /// <summary>Who books what, as JSON; null once it is settled.</summary>
    public string? Wanted { get; init; }

    /// <summary>What was booked, or what it is a deposit of; or null.</summary>
    public Guid? VisitId { get; init; }

    /// <summary>Why nothing was booked, or null.</summary>
    public string? EndedBecause { get; init; }

    /// <summary>The first moment at which nobody pays any more.</summary>
    public Instant ExpiresAt { get; init; }

    /// <summary><see cref="State"/> as a value.</summary>
    public PaymentState PaymentState => Enum.Parse<PaymentState>(State);

    /// <summary><see cref="Way"/> as a value.</summary>
    public PaymentWay PaymentWay => Enum.Parse<PaymentWay>(Way);
}

/// <summary>A card as the gateway names it.</summary>
/// <param name="Token">Names it to the gateway.</param>
/// <param name="LastDigits">The last four digits.</param>
/// <param name="Expires">Month and year, as the gateway writes them.</param>
public sealed record GatewayCard(string Token, string LastDigits, string Expires);

/// <summary>Payments bookings wait for.</summary>
public static class PaymentStore
{
    private const string Columns =
        "id, location_id, amount, currency, state, gateway_id, way, hold_hash, wanted::text, visit_id, ended_because, expires_at";

    /// <summary>Writes a payment that somebody is to make.</summary>
    public static void Add(BookTransaction transaction, NewPayment payment) => Add(transaction, payment, PaymentState.Open);

    /// <summary>Writes a payment that was made.</summary>
    public static void AddMade(BookTransaction transaction, NewPayment payment) => Add(transaction, payment, PaymentState.Booked);

    private static void Add(BookTransaction transaction, NewPayment payment, PaymentState state)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(payment);
        transaction.Write(
            """
            INSERT INTO payment (id, location_id, amount, currency, state, way, hold_hash, wanted, visit_id, created_at, expires_at,
                settled_at)
            VALUES (@Id, @LocationId, @Amount, @Currency, @State, @Way, @HoldHash, CAST(@Wanted AS jsonb), @VisitId, @At, @ExpiresAt,
                @SettledAt)
            """,
            new
            {
                payment.Id,
                payment.LocationId,
                payment.Amount,
                payment.Currency,
                State = state.ToString(),
                Way = payment.Way.ToString(),
                payment.HoldHash,
                payment.Wanted,
                payment.VisitId,
                transaction.Change.At,
                payment.ExpiresAt,
                SettledAt = state == PaymentState.Booked ? transaction.Change.At : (Instant?)null,
            }
        );
    }

    /// <summary>Goes a step on; the commit fails where it no longer stands where it was seen.</summary>
    public static PaymentState Go(BookTransaction transaction, PaymentRow seen, PaymentState to, string? because = null)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(seen);
        transaction.Write(
            """
            UPDATE payment SET state = @To, ended_because = coalesce(ended_because, @Because),
                wanted = CASE WHEN @To = 'Ended' THEN NULL ELSE wanted END, settled_at = CASE WHEN @To = 'Ended' THEN @At END
            WHERE id = @Id AND state = @State
            """,
            new
            {
                seen.Id,
                seen.State,
                To = to.ToString(),
                Because = because,
                transaction.Change.At,
            },
            oneRow: true
        );
        return to;
    }

    /// <summary>Says that its visit is booked; the commit fails where somebody else has settled it.</summary>
    public static void Book(BookTransaction transaction, PaymentRow seen, StoredVisit visit, GatewayCard? card)
    {
        ArgumentNullException.ThrowIfNull(transaction);
        ArgumentNullException.ThrowIfNull(seen);
        ArgumentNullException.ThrowIfNull(visit);
        transaction.Write(
            """
            UPDATE payment SET state = 'Booked', visit_id = @VisitId, wanted = NULL, settled_at = @At
            WHERE id = @Id AND state = 'Charging'
            """,
            new
            {
                seen.Id,
                VisitId = visit.Visit.Id,
                transaction.Change.At,
            },
            oneRow: true
        );
        if (card is null) return;
        transaction.Write(
            """
            INSERT INTO card (id, client_id, payment_id, gateway_token, last_digits, expires, created_at)
            VALUES (@CardId, @ClientId, @Id, @Token, @LastDigits, @Expires, @At)
            """,
            new
            {
                seen.Id,
                CardId = Guid.CreateVersion7(),
                ClientId = visit.Visit.PayerId,
                card.Token,
                card.LastDigits,
                card.Expires,
                transaction.Change.At,
            }
        );
    }

    /// <summary>Keeps what the gateway calls it.</summary>
    public static Task NameAsync(NpgsqlConnection connection, Guid id, string gatewayId) =>
        connection.ExecuteAsync("UPDATE payment SET gateway_id = @gatewayId WHERE id = @id", new { id, gatewayId });

    /// <summary>Payments for a visit that stands which are not settled yet, the oldest first.</summary>
    public static async Task<IReadOnlyList<PaymentRow>> OpenOfAsync(NpgsqlConnection connection, Guid visitId) =>
        [
            .. await connection.QueryAsync<PaymentRow>(
                $"SELECT {Columns} FROM payment WHERE visit_id = @visitId AND settled_at IS NULL ORDER BY created_at, id",
                new { visitId }
            ),
        ];

    /// <summary>The link by which a client may pay a deposit of a visit now, or null: the latest that was sent.</summary>
    public static async Task<PaymentRow?> LinkOfAsync(NpgsqlConnection connection, Guid visitId, Instant now) =>
        (await LinksAsync(connection, [visitId], now)).GetValueOrDefault(visitId);

    /// <summary>The same of several visits; those without any are not in it.</summary>
    public static async Task<IReadOnlyDictionary<Guid, PaymentRow>> LinksAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<Guid> visitIds,
        Instant now
    ) =>
        (
            await connection.QueryAsync<PaymentRow>(
                $"""
                SELECT DISTINCT ON (visit_id) {Columns} FROM payment
                WHERE visit_id = ANY(@Ids) AND way = 'Link' AND state = 'Open' AND expires_at > @now
                ORDER BY visit_id, created_at DESC, id DESC
                """,
                new { Ids = visitIds.ToArray(), now }
            )
        ).ToDictionary(link => link.VisitId!.Value);

    /// <summary>The latest link that was sent for a visit, whatever became of it; or null.</summary>
    public static Task<PaymentRow?> LatestLinkAsync(NpgsqlConnection connection, Guid visitId) =>
        connection.QueryFirstOrDefaultAsync<PaymentRow>(
            $"SELECT {Columns} FROM payment WHERE visit_id = @visitId AND way = 'Link' ORDER BY created_at DESC, id DESC LIMIT 1",
            new { visitId }
        );

    /// <summary>The payment the gateway calls so, or null.</summary>
    public static Task<PaymentRow?> OfGatewayAsync(NpgsqlConnection connection, string gatewayId) =>
        connection.QuerySingleOrDefaultAsync<PaymentRow>(
            $"SELECT {Columns} FROM payment WHERE gateway_id = @gatewayId",
            new { gatewayId }
        );

    /// <summary>A payment, or null.</summary>
    public static Task<PaymentRow?> FindAsync(NpgsqlConnection connection, Guid id) =>
        connection.QuerySingleOrDefaultAsync<PaymentRow>($"SELECT {Columns} FROM payment WHERE id = @id", new { id });

    /// <summary>Payments that should be settled by now: whose time is over, or that were left in the middle.</summary>
    public static async Task<IReadOnlyList<Guid>> LeftAsync(NpgsqlConnection connection, Instant now, int most) =>
        [
            .. await connection.QueryAsync<Guid>(
                """
                SELECT id FROM payment WHERE settled_at IS NULL AND (state <> 'Open' OR expires_at <= @now) ORDER BY expires_at LIMIT @most
                """,
                new { now, most }
            ),
        ];

    /// <summary>The currency of the business.</summary>
    public static Task<string> CurrencyAsync(NpgsqlConnection connection) =>
        connection.QuerySingleAsync<string>("SELECT currency FROM business");

    /// <summary>How many times a device has waiting for their payment.</summary>
    public static Task<int> WaitingOfAsync(NpgsqlConnection connection, byte[] device, Instant now) =>
        connection.ExecuteScalarAsync<int>(
            "SELECT count(*)::int FROM proposal WHERE is_paying AND device_hash = @device AND expires_at > @now",
            new { device, now }
        );
}
