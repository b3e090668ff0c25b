using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Kingcup.Server.Booking;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Api;

/// <summary>What a request answered that made something.</summary>
/// <param name="Location">Where it can be found, or null.</param>
/// <param name="Body">The body.</param>
public sealed record Answered(string? Location, object Body);

/// <summary>
/// An idempotency key with what the request said (rules, section 7): the same key and request get the first answer as it was, the same
/// key with another request is refused. It is looked at before anything else.
/// </summary>
public sealed class RequestKey
{
    private readonly string _scope;
    private readonly string _key;
    private readonly byte[] _fingerprint;
    private readonly JsonSerializerOptions _json;

    /// <summary>Makes a key.</summary>
    /// <param name="scope">Whose keys these are.</param>
    /// <param name="key">The key, 8 to 100 characters.</param>
    /// <param name="operation">What is asked: method, address and body, the same for the same request.</param>
    /// <param name="json">How answers are written.</param>
    /// <exception cref="Refused">The key is too short or too long.</exception>
    public RequestKey(string scope, string key, string operation, JsonSerializerOptions json)
    {
        if (key.Length is < 8 or > 100 || key.Any(char.IsControl))
            throw Refused.Invalid("Idempotency-Key", "Send 8 to 100 characters as Idempotency-Key.");
        (_scope, _key, _json) = (scope, key, json);
        _fingerprint = SHA256.HashData(Encoding.UTF8.GetBytes(operation));
    }

    /// <summary>The present revision of the setup, as it was read when the key was looked at.</summary>
    internal long? SetupRevision { get; private set; }

    /// <summary>The first answer to this key, or null when it is new.</summary>
    /// <exception cref="Refused">The key was used for another request.</exception>
    internal async Task<RememberedAnswer?> FindAsync(NpgsqlConnection connection)
    {
        (RememberedAnswer? first, SetupRevision) = await IdempotencyStore.LookAsync(connection, _scope, _key);
        return Same(first);
    }

    /// <summary>The key as a transaction takes it.</summary>
    internal KeyToTake ToTake => new(_scope, _key, _fingerprint);

    /// <summary>Takes the key in the caller's transaction; waits for another request that holds it.</summary>
    /// <exception cref="AnsweredBefore">Another request with it has been answered meanwhile.</exception>
    /// <exception cref="Refused">The key was used for another request.</exception>
    internal async Task TakeAsync(NpgsqlConnection connection, Instant now)
    {
        if (!await IdempotencyStore.TakeAsync(connection, ToTake, now)) throw await AnsweredBeforeAsync(connection);
    }

    /// <summary>What says that another request with this key has been answered.</summary>
    /// <exception cref="Refused">The key was used for another request.</exception>
    internal async Task<AnsweredBefore> AnsweredBeforeAsync(NpgsqlConnection connection) =>
        new(Same(await IdempotencyStore.FindAsync(connection, _scope, _key)) ?? throw Refused.Busy());

    /// <summary>Keeps the answer with what else a transaction of the book writes.</summary>
    internal void Keep(BookTransaction transaction, Answered answer) =>
        IdempotencyStore.Keep(
            transaction,
            ToTake,
            StatusCodes.Status201Created,
            answer.Location,
            JsonSerializer.Serialize(answer.Body, answer.Body.GetType(), _json)
        );

    /// <summary>Keeps the answer, in the transaction of what it speaks of.</summary>
    internal Task KeepAsync(NpgsqlConnection connection, Answered answer) =>
        IdempotencyStore.KeepAsync(
            connection,
            ToTake,
            StatusCodes.Status201Created,
            answer.Location,
            JsonSerializer.Serialize(answer.Body, answer.Body.GetType(), _json)
        );

    private RememberedAnswer? Same(RememberedAnswer? first) =>
        first is null || first.Fingerprint.AsSpan().SequenceEqual(_fingerprint)
            ? first
            : throw new Refused(
                StatusCodes.Status422UnprocessableEntity,
                "idempotency-key",
                "This Idempotency-Key was used for another request. Use a new one."
            );
}

/// <summary>A request with this key was answered while this one waited for it.</summary>
internal sealed class AnsweredBefore(RememberedAnswer first) : Exception("Answered before.")
{
    internal RememberedAnswer First { get; } = first;
}

/// <summary>Gives the first answer again where a request comes with a key that was answered before.</summary>
internal static class Idempotent
{
    private const string Header = "Idempotency-Key";
    private static readonly object _item = new();

    /// <summary>The filter of all endpoints that change something.</summary>
    internal static async ValueTask<object?> AnswerAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        HttpContext http = context.HttpContext;
        string header = http.Request.Headers[Header].ToString();
        if (header.Length == 0 || !HttpMethods.IsPost(http.Request.Method))
            return await next(context);
        JsonSerializerOptions json = http
            .RequestServices.GetRequiredService<Microsoft.Extensions.Options.IOptions<Microsoft.AspNetCore.Http.Json.JsonOptions>>()
            .Value.SerializerOptions;
        StringBuilder operation = new();
        operation.Append(http.Request.Method).Append(' ').Append(http.Request.Path).Append(http.Request.QueryString);
        foreach (object? argument in context.Arguments)
            if (argument is not null && MissingValues.IsOurs(argument.GetType()))
                operation.Append('\n').Append(JsonSerializer.Serialize(argument, argument.GetType(), json));
        RequestKey key = new(
            http.User.Identity?.IsAuthenticated == true ? http.Actor().Scope : "public",
            header,
            operation.ToString(),
            json
        );
        await using (NpgsqlConnection connection = await http.RequestServices.GetRequiredService<Database>().OpenAsync())
        {
            if (await key.FindAsync(connection) is { Status: not null } first) return Of(http, first);
        }

        http.Items[_item] = key;
        try
        {
            return await next(context);
        }
        catch (AnsweredBefore answered)
        {
            return Of(http, answered.First);
        }
    }

    /// <summary>The key of a request, or null when it came without.</summary>
    internal static RequestKey? Key(this HttpContext http) => http.Items.TryGetValue(_item, out object? key) ? (RequestKey)key! : null;

    private static IResult Of(HttpContext http, RememberedAnswer first)
    {
        if (first.Location is not null) http.Response.Headers.Location = first.Location;
        return Results.Content(first.Body, "application/json; charset=utf-8", Encoding.UTF8, first.Status);
    }
}

/// <summary>Tries an operation once more where the database gave it up for another that stood in its way.</summary>
internal static class OnceMore
{
    /// <summary>Runs an operation that is one transaction; nothing of it is kept when it fails.</summary>
    internal static async Task<T> RunAsync<T>(Func<Task<T>> operation, Func<PostgresException, bool>? also = null)
    {
        for (int tries = 0; ; tries++)
        {
            try
            {
                return await operation();
            }
            catch (PostgresException exception)
                when (tries < 2
                    && (
                        exception.SqlState is PostgresErrorCodes.DeadlockDetected or PostgresErrorCodes.SerializationFailure
                        || also?.Invoke(exception) == true
                    )
                )
            {
                // Whoever stood in the way is through by now.
            }
        }
    }
}

/// <summary>What endpoints read from a request.</summary>
internal static class Requests
{
    /// <summary>The person signed in.</summary>
    internal static Actor Actor(this HttpContext http) =>
        new(http.User.Identity!.Name!, "staff:" + http.User.FindFirstValue(ClaimTypes.NameIdentifier))
        {
            StaffId = http.StaffId(),
            TakesBackLater = SignIn.Rights.TakesBackLater(http.User),
            WaivesFees = SignIn.Rights.WaivesFees(http.User),
        };

    /// <summary>The account of the person signed in.</summary>
    internal static Guid StaffId(this HttpContext http) => Guid.Parse(http.User.FindFirstValue(ClaimTypes.NameIdentifier)!);

    /// <summary>The version a change is based on, from If-Match.</summary>
    internal static long Version(this HttpContext http)
    {
        string text = http.Request.Headers.IfMatch.ToString().Trim('"');
        if (text.Length == 0)
            throw new Refused(StatusCodes.Status428PreconditionRequired, "if-match", "Send the version you have seen as If-Match.");
        return long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out long version)
            ? version
            : throw Refused.Invalid("If-Match", "Send the version you have seen, a number, as If-Match.");
    }
}
