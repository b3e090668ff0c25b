using System.Security.Cryptography;
using System.Text;
using Kingcup.Storage;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>
/// Names a visit, or a payment, to whoever booked it, so that they can go on from it without saying who they are: its identity with a seal
/// nobody can make without the key of this database.
/// </summary>
public sealed class VisitTokens
{
    private volatile Seal? _seal;

    /// <summary>The seal of this database.</summary>
    internal async Task<Seal> SealAsync(Database database)
    {
        if (_seal is { } known) return known;
        await using NpgsqlConnection connection = await database.OpenAsync();
        return _seal = new Seal(await LimitStore.SecretAsync(connection, "visits", RandomNumberGenerator.GetBytes(32)));
    }

    /// <summary>Seals identities of visits, and reads what it has sealed.</summary>
    internal sealed class Seal(byte[] key)
    {
        /// <summary>The token of a visit.</summary>
        internal string TokenOf(Guid visitId) => TokenOf("visit", visitId);

        /// <summary>The visit of a token; null for anything that is none.</summary>
        internal Guid? VisitOf(string? token) => IdOf("visit", token);

        /// <summary>The token of a payment.</summary>
        internal string TokenOfPayment(Guid paymentId) => TokenOf("payment", paymentId);

        /// <summary>The payment of a token; null for anything that is none.</summary>
        internal Guid? PaymentOf(string? token) => IdOf("payment", token);

        /// <summary>The token by which a client sees their own bookings; it is good as long as they are reached there.</summary>
        /// <param name="clientId">The client.</param>
        /// <param name="address">Where it is sent to.</param>
        internal string TokenOfClient(Guid clientId, string address) => TokenOf($"client at {address}", clientId);

        /// <summary>The client a token speaks of; whether it is true is asked with <see cref="IsOfClient"/>.</summary>
        internal static Guid? ClientNamedIn(string? token) =>
            token is { Length: 96 } && Guid.TryParseExact(token[..32], "N", out Guid id) ? id : null;

        /// <summary>Whether a token was made for a client at an address.</summary>
        internal bool IsOfClient(string token, string address) => IdOf($"client at {address}", token) is not null;

        /// <summary>
        /// The code a message carries, six digits: the same however often the message is tried, since what arrives first may be what
        /// nobody heard of.
        /// </summary>
        internal string CodeOf(Guid messageId)
        {
            ulong drawn = System.Buffers.Binary.BinaryPrimitives.ReadUInt64BigEndian(Sign("code of", messageId));
            return (drawn % 1_000_000).ToString("D6", System.Globalization.CultureInfo.InvariantCulture);
        }

        /// <summary>Hash of a code that was sent to an address.</summary>
        internal byte[] HashOfCode(string address, string code) =>
            HMACSHA256.HashData(key, Encoding.UTF8.GetBytes($"code {address} {code}"));

        private string TokenOf(string kind, Guid id) => $"{id:N}{Convert.ToHexStringLower(Sign(kind, id))}";

        private Guid? IdOf(string kind, string? token)
        {
            if (token is not { Length: 96 } || !Guid.TryParseExact(token[..32], "N", out Guid id)) return null;
            Span<byte> sent = stackalloc byte[32];
            if (Convert.FromHexString(token.AsSpan(32), sent, out _, out _) != System.Buffers.OperationStatus.Done) return null;
            return CryptographicOperations.FixedTimeEquals(sent, Sign(kind, id)) ? id : null;
        }

        private byte[] Sign(string kind, Guid id) => HMACSHA256.HashData(key, Encoding.UTF8.GetBytes($"{kind} {id:N}"));
    }
}
