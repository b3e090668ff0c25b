using Dapper;
using Kingcup.Core.Plans;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>A promo code with its version.</summary>
/// <param name="Promo">The promo code.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedPromo(Promo Promo, long Version = 1);

/// <summary>Promo codes.</summary>
public static class PromoStore
{
    /// <summary>The constraint that refuses a code that is taken.</summary>
    public const string CodeTaken = "promo_code_taken";

    internal static async Task<IReadOnlyList<ListedPromo>> AllAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, Guid> services = (
            await connection.QueryAsync<(Guid, Guid)>("SELECT promo_id, service_id FROM promo_service")
        ).ToLookup(row => row.Item1, row => row.Item2);
        return
        [
            .. (
                await connection.QueryAsync<Row>(
                    "SELECT id, code, kind, value, from_date, until_date, book_by, ended, version FROM promo ORDER BY ended, code"
                )
            ).Select(row => row.Listed(services[row.Id].ToHashSet())),
        ];
    }

    /// <summary>How many visits that stand cost less by each promo code; none of those that nobody has used.</summary>
    public static async Task<IReadOnlyDictionary<Guid, int>> UsesAsync(NpgsqlConnection connection) =>
        (
            await connection.QueryAsync<(Guid, int)>(
                """
                SELECT p.promo_id, count(DISTINCT v.id)::int FROM price_part p JOIN appointment a ON a.id = p.appointment_id
                    JOIN visit v ON v.id = a.visit_id
                WHERE p.promo_id IS NOT NULL AND v.state <> 'Cancelled' GROUP BY p.promo_id
                """
            )
        ).ToDictionary(row => row.Item1, row => row.Item2);

    private sealed class Row
    {
        public Guid Id { get; init; }
        public string Code { get; init; } = "";
        public string Kind { get; init; } = "";
        public long Value { get; init; }
        public LocalDate? FromDate { get; init; }
        public LocalDate? UntilDate { get; init; }
        public LocalDate? BookBy { get; init; }
        public bool Ended { get; init; }
        public long Version { get; init; }

        internal ListedPromo Listed(IReadOnlySet<Guid> services) =>
            new(
                new Promo
                {
                    Id = Id,
                    Code = Code,
                    Kind = Enum.Parse<PromoKind>(Kind),
                    Value = Value,
                    Services = services,
                    From = FromDate,
                    Until = UntilDate,
                    BookBy = BookBy,
                    IsEnded = Ended,
                },
                Version
            );
    }
}

/// <summary>Writes promo codes.</summary>
public sealed partial class SetupWriter
{
    /// <summary>Saves a promo code with the services it holds for.</summary>
    public Task SaveAsync(ListedPromo listed)
    {
        Promo promo = listed.Promo;
        return _connection.ExecuteAsync(
            """
            INSERT INTO promo (id, code, kind, value, from_date, until_date, book_by, ended)
                VALUES (@Id, @Code, @Kind, @Value, @From, @Until, @BookBy, @IsEnded)
            ON CONFLICT (id) DO UPDATE SET code = @Code, kind = @Kind, value = @Value, from_date = @From, until_date = @Until,
                book_by = @BookBy, ended = @IsEnded, version = promo.version + 1;
            DELETE FROM promo_service WHERE promo_id = @Id;
            INSERT INTO promo_service (promo_id, service_id) SELECT @Id, one FROM unnest(@Services) AS one;
            """,
            new
            {
                promo.Id,
                promo.Code,
                Kind = promo.Kind.ToString(),
                promo.Value,
                promo.From,
                promo.Until,
                promo.BookBy,
                promo.IsEnded,
                Services = promo.Services.ToArray(),
            }
        );
    }
}
