using System.Text.Json.Nodes;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.Clients;
using Kingcup.Server.SignIn;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using NodaTime;

namespace Kingcup.Server.Api;

/// <summary>Says in the API document how the times look, which headers a request takes and how the session works.</summary>
internal static class OpenApiSchemas
{
    private static readonly Dictionary<Type, (string Format, string Pattern)> _times = new()
    {
        [typeof(Instant)] = ("date-time", "An instant in UTC (ISO 8601), as 2027-03-01T09:00:00Z."),
        [typeof(LocalDate)] = ("date", "A local date of the location, as 2027-03-01."),
        [typeof(LocalTime)] = ("time", "A local time of the location, as 09:00:00."),
        [typeof(LocalDateTime)] = ("local-date-time", "A local date and time of the location, as 2027-03-01T09:00:00."),
    };

    private const string Line = """{ "serviceId": "345c7d7c-1716-74e0-5a41-c9dbfd142933", "practitionerId": null }""";
    private const string Place = """ "locationId": "ffcb72e8-7f54-6713-a40c-0d0faf2b1e08" """;

    private static readonly Dictionary<Type, string> _examples = new()
    {
        [typeof(SignInRequest)] = """{ "email": "desk@harrowmere.test", "password": "…" }""",
        [typeof(StartsRequest)] = $$"""{ {{Place}}, "lines": [{{Line}}], "from": "2027-03-01", "days": 14 }""",
        [typeof(WhyNotRequest)] = $$"""{ {{Place}}, "lines": [{{Line}}], "start": "2027-03-01T09:20:00Z", "asClient": true }""",
        [typeof(BookRequest)] =
            $$"""{ {{Place}}, "start": "2027-03-01T09:15:00Z", "lines": [{{Line}}], "newClient": { "givenName": "Ada", "familyName": "Marsh", "phone": "020 910 0001" }, "note": "" }""",
        [typeof(MoveRequest)] = """{ "start": "2027-03-01T11:00:00Z", "practitionerId": null }""",
        [typeof(CancelRequest)] = """{ "reason": "Client is ill" }""",
        [typeof(StateRequest)] = """{ "state": "arrived" }""",
        [typeof(NewClientRequest)] = """{ "givenName": "Ada", "familyName": "Marsh", "email": "ada@example.com", "phone": "020 910 0001" }""",
        [typeof(PublicBookRequest)] =
            $$"""{ {{Place}}, "start": "2027-03-01T09:15:00Z", "lines": [{{Line}}], "givenName": "Ada", "familyName": "Marsh", "email": "ada@example.com", "phone": "020 910 0001" }""",
        [typeof(ClockRequest)] = """{ "to": "2027-03-02T08:00:00Z" }""",
    };

    internal static void Add(OpenApiOptions options)
    {
        options.AddSchemaTransformer((schema, context, _) =>
        {
            Type type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
            if (!_times.TryGetValue(type, out (string Format, string Pattern) time)) return Task.CompletedTask;
            schema.Type = type == context.JsonTypeInfo.Type ? JsonSchemaType.String : JsonSchemaType.String | JsonSchemaType.Null;
            schema.Properties?.Clear();
            schema.Format = time.Format;
            schema.Description = time.Pattern;
            return Task.CompletedTask;
        });
        options.AddSchemaTransformer((schema, context, _) =>
        {
            if (_examples.TryGetValue(context.JsonTypeInfo.Type, out string? example)) schema.Examples = [JsonNode.Parse(example)!];
            return Task.CompletedTask;
        });
        options.AddOperationTransformer((operation, context, _) =>
        {
            string path = context.Description.RelativePath ?? "";
            string method = context.Description.HttpMethod ?? "";
            bool Answers(string status) => operation.Responses?.ContainsKey(status) == true;
            bool isSetup = path.StartsWith("api/v1/setup", StringComparison.Ordinal), isFile = path.EndsWith("pictures", StringComparison.Ordinal) || path.EndsWith("evidence", StringComparison.Ordinal);
            if (method == "POST" && Answers("201") && !isFile && (isSetup || path.EndsWith("visits", StringComparison.Ordinal) || path.EndsWith("clients", StringComparison.Ordinal)))
                Header(operation, "Idempotency-Key", "The same key and body get the first answer again; 8 to 100 characters.");
            if (Answers("428")) Header(operation, "If-Match", "The version the change is based on.");
            if (isSetup && Answers("409"))
            {
                Header(operation, Hits.AcceptHeader,
                    "A change that would take the place of visits booked ahead is answered with 409, code 'hits-appointments', their list as 'visits' and a token as 'accept'. Sent again with the token here, it is made.");
            }

            if (path is "api/v1/visits" && method == "POST" || path.EndsWith("/move", StringComparison.Ordinal))
            {
                Header(operation, Knowing.AcceptHeader,
                    "A time that fits only over something is answered with 409, code 'would-go-over', over what as 'reasons' and a token as 'accept'. Sent again with the token here, it is booked so.");
            }

            return Task.CompletedTask;
        });
        options.AddDocumentTransformer((document, _, _) =>
        {
            document.Info.Title = "Kingcup";
            document.Info.Version = "1";
            document.Info.Description =
                "Signed-in staff use /api/v1 with the session cookie; every request that changes something carries the session's token as X-Kingcup-Token. "
                + "Anyone may use /api/public/v1. Errors are problems (RFC 9457) with a stable 'code' and, for a field, its path as 'field'.";
            document.Servers = [];
            return Task.CompletedTask;
        });
    }

    private static void Header(OpenApiOperation operation, string name, string description)
    {
        operation.Parameters ??= [];
        operation.Parameters.Add(new OpenApiParameter
        {
            Name = name,
            In = ParameterLocation.Header,
            Description = description,
            Schema = new OpenApiSchema { Type = JsonSchemaType.String },
        });
    }
}
