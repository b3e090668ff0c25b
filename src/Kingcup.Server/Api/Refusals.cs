using System.ComponentModel.DataAnnotations;
using System.Diagnostics.CodeAnalysis;
using System.Reflection;
using Kingcup.Core.Business;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Api;

/// <summary>A request that is refused, with the problem to answer (RFC 9457). Nothing has been changed when it is thrown.</summary>
[SuppressMessage("Naming", "CA1710", Justification = "The word for it is refused.")]
[SuppressMessage("Design", "CA1032", Justification = "A refusal without status and code would be no answer.")]
public sealed class Refused(int status, string code, Sentence detail, string? field = null) : Exception(detail)
{
    /// <summary>HTTP status.</summary>
    public int Status { get; } = status;

    /// <summary>Stable code for programs.</summary>
    public string Code { get; } = code;

    /// <summary>What to tell people.</summary>
    public Sentence Detail { get; } = detail;

    /// <summary>Path of the field at fault, or null.</summary>
    public string? Field { get; } = field;

    /// <summary>What else the answer carries, such as the nearest other starts.</summary>
    public Dictionary<string, object?> More { get; } = [];

    /// <summary>Something that is not there.</summary>
    public static Refused NotFound(Sentence detail) => new(StatusCodes.Status404NotFound, "not-found", detail);

    /// <summary>A field that cannot be taken as it is.</summary>
    public static Refused Invalid(string field, Sentence detail) => new(StatusCodes.Status400BadRequest, "invalid", detail, field);

    /// <summary>
    /// Something that cannot be booked online, whatever the cause lies in: the client, their other visits, how many they have. It says the
    /// same to everybody, so that nobody learns of somebody else by typing their name.
    /// </summary>
    public static Refused NotOnline() =>
        new(StatusCodes.Status409Conflict, "not-online", "This cannot be booked online. Choose another time, or call us.");

    /// <summary>The server has too much to do just now.</summary>
    public static Refused Busy() =>
        new(StatusCodes.Status503ServiceUnavailable, "busy", "There is too much to do just now. Try again in a few seconds.")
        {
            RetryAfterSeconds = 5,
        };

    /// <summary>After how many seconds it is worth asking again, or null.</summary>
    public int? RetryAfterSeconds { get; init; }

    /// <summary>A change based on a state that is no longer the present one.</summary>
    public static Refused Stale(object current)
    {
        Refused refused = new(StatusCodes.Status412PreconditionFailed, "stale",
            "Somebody else has changed this in the meantime. Look at it as it stands now, then try again.");
        refused.More["current"] = current;
        return refused;
    }
}

/// <summary>Gathers everything wrong with a request, so that all of it is said at once.</summary>
public sealed class Checks
{
    /// <summary>Most characters of a name.</summary>
    public const int LongestName = 200;

    private readonly List<(string Field, Sentence Message)> _found = [];

    /// <summary>What was noted so far.</summary>
    public IReadOnlyList<(string Field, Sentence Message)> Found => _found;

    /// <summary>Notes a fault of <paramref name="field"/> unless <paramref name="holds"/>.</summary>
    public bool Require(bool holds, string field, Sentence message)
    {
        if (!holds) _found.Add((field, message));
        return holds;
    }

    /// <summary>The value, or a note that the field cannot be taken.</summary>
    public T? Take<T>(T? value, string field, Sentence message) where T : class
    {
        Require(value is not null, field, message);
        return value;
    }

    /// <summary>A name without the blanks around it, 1 to 200 characters; otherwise a note.</summary>
    public string? Name(string? text, string field, Sentence message)
    {
        string trimmed = (text ?? "").Trim();
        if (!Require(trimmed.Length > 0, field, message))
            return null;
        return Require(IsLine(trimmed), field, $"{LongestName} characters at the most, on one line.") ? trimmed : null;
    }

    private static bool IsLine(string text) => text.Length <= LongestName && !text.Any(char.IsControl);

    /// <summary>A line of text without the blanks around it, 200 characters at the most; null when there is none, or a note.</summary>
    public string? Optional(string? text, string field)
    {
        string trimmed = (text ?? "").Trim();
        return trimmed.Length == 0 ? null
            : Require(IsLine(trimmed), field, $"{LongestName} characters at the most, on one line.") ? trimmed
            : null;
    }

    /// <summary>
    /// Notes what goes beyond the limits a document states of its own fields, by <see cref="MaxLengthAttribute"/> and
    /// <see cref="RangeAttribute"/>. The API document tells the same limits, and the screens read them there.
    /// </summary>
    public void Limits(object document)
    {
        ArgumentNullException.ThrowIfNull(document);
        foreach (PropertyInfo property in document.GetType().GetProperties())
        {
            object? value = property.GetValue(document);
            string field = char.ToLowerInvariant(property.Name[0]) + property.Name[1..];
            if (value is string text && property.GetCustomAttribute<MaxLengthAttribute>() is { Length: int most })
                Require(text.Trim().Length <= most || _found.Any(fault => fault.Field == field), field, $"{most} characters at the most.");
            else if (value is int number && property.GetCustomAttribute<RangeAttribute>() is { Minimum: int least, Maximum: int highest })
                Require(number >= least && number <= highest, field, $"{least} to {highest}.");
        }
    }

    /// <summary>Refuses a document that goes beyond the limits it states.</summary>
    /// <exception cref="Refused">It does.</exception>
    public static void Within(object document)
    {
        Checks checks = new();
        checks.Limits(document);
        checks.Done();
    }

    /// <summary>Notes what the core has found.</summary>
    public void Add(IEnumerable<Core.Services.Fault> faults)
    {
        foreach (Core.Services.Fault fault in faults) _found.Add((fault.Field, fault.Message));
    }

    /// <summary>Refuses the request when anything was noted.</summary>
    /// <exception cref="Refused">Something was noted.</exception>
    public void Done()
    {
        if (_found.Count == 0) return;
        Refused refused = Refused.Invalid(_found[0].Field, _found[0].Message);
        refused.More["errors"] = _found
            .GroupBy(pair => pair.Field)
            .ToDictionary(group => group.Key, group => group.Select(pair => pair.Message.ToString()).ToArray());
        throw refused;
    }
}

/// <summary>Turns what went wrong into a problem answer; never shows the inside of the server.</summary>
internal sealed partial class ProblemAnswers(IProblemDetailsService problems, ILogger<ProblemAnswers> log) : IExceptionHandler
{
    public async ValueTask<bool> TryHandleAsync(HttpContext http, Exception exception, CancellationToken cancel)
    {
        ProblemDetails problem = exception switch
        {
            Refused refused => Of(refused),
            BadHttpRequestException { StatusCode: 413 } => New(413, "too-large", "The request is too large."),
            BadHttpRequestException { StatusCode: 415 } => New(415, "not-json", "Send the body as application/json."),
            BadHttpRequestException bad => New(
                400,
                "not-json",
                bad.InnerException is System.Text.Json.JsonException json
                    ? json.Path is null
                        ? Say("The body is not the JSON expected here.")
                        : Say($"The body is not the JSON expected here, at {json.Path}.")
                    : Say("A part of the request is missing or has the wrong form."),
                (bad.InnerException as System.Text.Json.JsonException)?.Path?.TrimStart('$', '.')
            ),
            Microsoft.AspNetCore.Antiforgery.AntiforgeryValidationException => New(
                400,
                "antiforgery",
                "The request lacks the token of this sign-in. Reload the page and try again."
            ),
            NpgsqlException { SqlState: null or "57P01" or "57P02" or "57P03" or "53300" }
            or TimeoutException
            or System.Net.Sockets.SocketException => New(
                503,
                "away",
                "The book cannot be reached just now. Nothing was changed; try again in a few seconds."
            ),
            NpgsqlException { InnerException: System.Net.Sockets.SocketException or TimeoutException or IOException } => New(
                503,
                "away",
                "The book cannot be reached just now. Nothing was changed; try again in a few seconds."
            ),
            OperationCanceledException when http.RequestAborted.IsCancellationRequested => New(
                499,
                "cancelled",
                "The request was given up."
            ),
            _ => New(500, "failed", "Something went wrong on our side. Nothing was changed; try again."),
        };
        // The message of a refusal may speak of people; only its code is logged.
        if (problem.Status == 503)
            http.Response.Headers.RetryAfter = ((exception as Refused)?.RetryAfterSeconds ?? 5).ToString(
                System.Globalization.CultureInfo.InvariantCulture
            );
        // By now the endpoint is that of the error; the one that failed is kept beside it.
        Endpoint? failed = http.Features.Get<IExceptionHandlerFeature>()?.Endpoint ?? http.GetEndpoint();
        if (problem.Status >= 500)
            Failed(
                log,
                exception,
                http.Request.Method,
                failed?.Metadata.GetMetadata<IEndpointNameMetadata>()?.EndpointName ?? failed?.DisplayName
            );
        http.Response.StatusCode = problem.Status!.Value;
        return await problems.TryWriteAsync(new ProblemDetailsContext { HttpContext = http, ProblemDetails = problem });
    }

    private static ProblemDetails Of(Refused refused)
    {
        ProblemDetails problem = New(refused.Status, refused.Code, refused.Detail, refused.Field);
        foreach ((string key, object? value) in refused.More) problem.Extensions[key] = value;
        return problem;
    }

    internal static ProblemDetails New(int status, string code, Sentence detail, string? field = null)
    {
        ProblemDetails problem = new() { Status = status, Title = code, Detail = detail, Type = $"urn:kingcup:problem:{code}" };
        problem.Extensions["code"] = code;
        if (!string.IsNullOrEmpty(field)) problem.Extensions["field"] = field;
        return problem;
    }

    [LoggerMessage(LogLevel.Error, "{Method} {Endpoint} failed")]
    private static partial void Failed(ILogger log, Exception exception, string method, string? endpoint);
}
