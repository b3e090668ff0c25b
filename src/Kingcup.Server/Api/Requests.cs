using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text.Json;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;

namespace Kingcup.Server.Api;

/// <summary>
/// An idempotency key with what the request said (rules, section 7): the same key and body get the first answer, the same key
/// with another body is refused.
/// </summary>
public sealed class RequestKey
{
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions(JsonSerializerDefaults.Web).ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);
    private readonly string _key;
    private readonly byte[] _fingerprint;

    /// <summary>Makes a key.</summary>
    /// <param name="key">The key, 8 to 100 characters.</param>
    /// <param name="body">The request, as anything that serialises the same for the same request.</param>
    /// <exception cref="Refused">The key is too short or too long.</exception>
    public RequestKey(string key, object body)
    {
        if (key.Length is < 8 or > 100) throw Refused.Invalid("Idempotency-Key", "Send 8 to 100 characters as Idempotency-Key.");
        _key = key;
        _fingerprint = SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(body, body.GetType(), _json));
    }

    /// <summary>The key of a request, or null when it came without.</summary>
    internal static RequestKey? Of(HttpContext http, object body) =>
        http.Request.Headers["Idempotency-Key"].ToString() is { Length: > 0 } key ? new RequestKey(key, body) : null;

    /// <summary>Takes the key in the caller's transaction; waits for another request that holds it.</summary>
    /// <returns>What the first request made, or null when this is the first.</returns>
    /// <exception cref="Refused">The key was used for another request.</exception>
    internal async Task<Guid?> TakeAsync(NpgsqlConnection connection, string scope, Instant now)
    {
        RememberedAnswer? first = await IdempotencyStore.TakeAsync(connection, scope, _key, _fingerprint, now);
        if (first is null) return null;
        return first.Fingerprint.AsSpan().SequenceEqual(_fingerprint)
            ? Guid.Parse(first.Body!, CultureInfo.InvariantCulture)
            : throw new Refused(StatusCodes.Status422UnprocessableEntity, "idempotency-key", "This Idempotency-Key was used for another request. Use a new one.");
    }

    /// <summary>Keeps what was made.</summary>
    internal Task KeepAsync(NpgsqlConnection connection, string scope, Guid made) =>
        IdempotencyStore.KeepAsync(connection, scope, _key, StatusCodes.Status201Created, made.ToString());
}

/// <summary>What endpoints read from a request.</summary>
internal static class Requests
{
    /// <summary>The person signed in.</summary>
    internal static Actor Actor(this HttpContext http) =>
        new(http.User.Identity!.Name!, "staff:" + http.User.FindFirstValue(ClaimTypes.NameIdentifier));

    /// <summary>The version a change is based on, from If-Match.</summary>
    internal static long Version(this HttpContext http)
    {
        string text = http.Request.Headers.IfMatch.ToString().Trim('"');
        if (text.Length == 0) throw new Refused(StatusCodes.Status428PreconditionRequired, "if-match", "Send the version you have seen as If-Match.");
        return long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out long version)
            ? version
            : throw Refused.Invalid("If-Match", "Send the version you have seen, a number, as If-Match.");
    }
}
