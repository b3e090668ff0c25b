using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;
using System.Text.RegularExpressions;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.Clients;
using Kingcup.Server.SignIn;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using NodaTime;

namespace Kingcup.Server.Api;

/// <summary>Says in the API document how the times look, which headers a request takes and how the session works.</summary>
internal static partial class OpenApiSchemas
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
            $$"""
            { {{Place}}, "start": "2027-03-01T09:15:00Z", "lines": [{{Line}}],
              "newClient": { "givenName": "Ada", "familyName": "Marsh", "phone": "020 910 0001" }, "note": "" }
            """,
        [typeof(MoveRequest)] = """{ "start": "2027-03-01T11:00:00Z", "practitionerId": null }""",
        [typeof(CancelRequest)] = """{ "reason": "Client is ill" }""",
        [typeof(StateRequest)] = """{ "state": "arrived" }""",
        [typeof(NewClientRequest)] =
            """{ "givenName": "Ada", "familyName": "Marsh", "email": "ada@example.com", "phone": "020 910 0001" }""",
        [typeof(PublicBookRequest)] =
            $$"""
            { {{Place}}, "start": "2027-03-01T09:15:00Z", "lines": [{{Line}}],
              "givenName": "Ada", "familyName": "Marsh", "email": "ada@example.com", "phone": "020 910 0001" }
            """,
        [typeof(ClockRequest)] = """{ "to": "2027-03-02T08:00:00Z" }""",
    };

    private const string Session = "session", Token = "token";

    private static readonly Dictionary<string, string> _tags = new()
    {
        ["Accounts"] = "Who may sign in, with which rights.",
        ["Book"] = "The book for staff: days, starts, visits and what happens to them.",
        ["Clients"] = "Clients: finding, entering and changing them.",
        ["Demo"] = "What only a demo business has.",
        ["Files"] = "Pictures and evidence.",
        ["Imports"] = "Lists from files, taken in and taken back, and lists to take out.",
        ["Messages"] = "What clients and the team are told: when, in which words, and what has become of it.",
        ["Own bookings"] = "What clients see and do of their own, by a link or a code.",
        ["Operators"] = "Whether a server is up, for whatever watches over it.",
        ["Public"] = "The booking page: for anyone, without signing in.",
        ["Reasons"] = "Why something can be booked or not, and which visits need a place.",
        ["Rooms"] = "Rooms and equipment.",
        ["Services"] = "Services, categories and add-ons.",
        ["Plans"] = "Promo codes.",
        ["Money"] = "What clients give when they book, what cancelling costs, and where money stands.",
        ["Setup"] = "The business, its locations, hours, closures and rules of online booking.",
        ["Shifts"] = "Rotas, shift changes, time off and blocked time.",
        ["Sign-in"] = "Signing in and out, and one's own account.",
        ["Team"] = "Practitioners, qualifications and who does what.",
    };

    internal static void Add(OpenApiOptions options)
    {
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                Type type = Nullable.GetUnderlyingType(context.JsonTypeInfo.Type) ?? context.JsonTypeInfo.Type;
                if (!_times.TryGetValue(type, out (string Format, string Pattern) time))
                    return Task.CompletedTask;
                schema.Type = type == context.JsonTypeInfo.Type ? JsonSchemaType.String : JsonSchemaType.String | JsonSchemaType.Null;
                schema.Properties?.Clear();
                schema.Format = time.Format;
                schema.Description = time.Pattern;
                return Task.CompletedTask;
            }
        );
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                if (_examples.TryGetValue(context.JsonTypeInfo.Type, out string? example))
                    schema.Examples = [JsonNode.Parse(example)!];
                return Task.CompletedTask;
            }
        );
        options.AddSchemaTransformer(
            (schema, context, _) =>
            {
                if (!context.JsonTypeInfo.Type.IsDefined(typeof(RequiredMemberAttribute), false)) return Task.CompletedTask;
                object? blank = context.JsonTypeInfo.Type.GetConstructor([])?.Invoke([]);
                foreach (JsonPropertyInfo property in context.JsonTypeInfo.Properties)
                {
                    // What is always there, though the reader of JSON leaves it to us to miss it; what is not has a value of its own.
                    if (property.AttributeProvider?.IsDefined(typeof(RequiredMemberAttribute), false) == true)
                        (schema.Required ??= new HashSet<string>()).Add(property.Name);
                    else if (
                        blank is not null
                        && property.PropertyType.IsPrimitive
                        && schema.Properties?[property.Name] is OpenApiSchema plain
                    )
                        plain.Default = JsonSerializer.SerializeToNode(property.Get?.Invoke(blank));
                }

                return Task.CompletedTask;
            }
        );
        options.AddOperationTransformer(
            (operation, context, _) =>
            {
                string path = context.Description.RelativePath ?? "";
                string method = context.Description.HttpMethod ?? "";
                operation.OperationId = IdOf(method, path);
                operation.Security = SecurityOf(context.Description.ActionDescriptor.EndpointMetadata, method, context.Document);
                bool Answers(string status) => operation.Responses?.ContainsKey(status) == true;
                bool isSetup = path.StartsWith("api/v1/setup", StringComparison.Ordinal),
                    isFile = path.EndsWith("pictures", StringComparison.Ordinal) || path.EndsWith("evidence", StringComparison.Ordinal);
                if (
                    method == "POST"
                    && Answers("201")
                    && !isFile
                    && (
                        isSetup
                        || path.EndsWith("visits", StringComparison.Ordinal)
                        || path.EndsWith("v1/payments", StringComparison.Ordinal)
                        || path.EndsWith("deposits", StringComparison.Ordinal)
                        || path.EndsWith("visits/repeat", StringComparison.Ordinal)
                        || path.EndsWith("clients", StringComparison.Ordinal)
                    )
                )
                    Header(operation, "Idempotency-Key", "The same key and body get the first answer again; 8 to 100 characters.");
                if (Answers("428"))
                    Header(operation, "If-Match", "The version the change is based on.");
                if (isSetup && Answers("409"))
                {
                    Header(
                        operation,
                        Hits.AcceptHeader,
                        "A change that would take the place of visits booked ahead is answered with 409, code "
                            + "'hits-appointments', their list as 'visits' and a token as 'accept'. Sent again with the token here, it "
                            + "is made."
                    );
                }

                if (path is "api/v1/visits" && method == "POST" || path.EndsWith("/move", StringComparison.Ordinal))
                {
                    Header(operation, SeenWarnings.AcceptHeader,
                        "A time that fits only over something is answered with 409, code 'would-go-over', over what as 'reasons' and "
                            + "a token as 'accept'. Sent again with the token here, it is booked so.");
                }

                return Task.CompletedTask;
            });
        options.AddDocumentTransformer((document, _, _) =>
        {
            document.Info.Title = "Kingcup";
            document.Info.Version = "1";
            document.Info.Description =
                "Signed-in staff use /api/v1 with the session cookie; every request that changes something carries the session's "
                    + "token as X-Kingcup-Token. "
                + "Anyone may use /api/public/v1. Errors are problems (RFC 9457) with a stable 'code' and, for a field, its path "
                + "as 'field'.";
            document.Info.License = new OpenApiLicense { Name = "All rights reserved", Identifier = "LicenseRef-All-rights-reserved" };
            document.Servers = [new OpenApiServer { Url = "/", Description = "The server this document comes from." }];
            document.Components ??= new OpenApiComponents();
            document.Components.SecuritySchemes = new Dictionary<string, IOpenApiSecurityScheme>
            {
                [Session] = new OpenApiSecurityScheme
                {
                    Type = SecuritySchemeType.ApiKey,
                    In = ParameterLocation.Cookie,
                    Name = "kingcup",
                    Description = "The session, from signing in.",
                },
                [Token] = new OpenApiSecurityScheme
                {
                    Type = SecuritySchemeType.ApiKey,
                    In = ParameterLocation.Header,
                    Name = "X-Kingcup-Token",
                    Description = "The token of the session, for whatever changes something.",
                },
            };
            document.Tags = new HashSet<OpenApiTag>(
                document.Tags?.Select(tag => new OpenApiTag { Name = tag.Name, Description = _tags[tag.Name!] }) ?? []
            );
            foreach ((string name, IOpenApiSchema schema) in document.Components.Schemas ?? new Dictionary<string, IOpenApiSchema>())
            {
                // That a place may be without a time is said there, not of the time itself.
                if (schema is OpenApiSchema time && _times.Keys.Any(type => type.Name == name)) time.Type = JsonSchemaType.String;
                Unwrap(schema);
            }

            return Task.CompletedTask;
        });
    }

    /// <summary>Puts descriptions, which are wrapped in the source, on one line.</summary>
    private static void Unwrap(IOpenApiSchema schema)
    {
        if (schema.Description is { } text) schema.Description = Wrap().Replace(text, " ");
        foreach (IOpenApiSchema property in schema.Properties?.Values ?? []) Unwrap(property);
    }

    [GeneratedRegex(@"\s*\n\s*")]
    private static partial Regex Wrap();

    /// <summary>A name for an operation, made of its method and address: getVisitsById, postVisitsByIdMove.</summary>
    private static string IdOf(string method, string path)
    {
        IEnumerable<string> words = path.Split('/', StringSplitOptions.RemoveEmptyEntries)
            .Where(word => word is not ("api" or "v1"))
            .Select(word =>
                word.StartsWith('{')
                    ? "By" + Capital(word.Trim('{', '}').Split(':')[0])
                    : string.Concat(word.Split('-', '.').Select(Capital))
            );
        return method.ToLowerInvariant() + string.Concat(words);
    }

    private static string Capital(string word) => word.Length == 0 ? "" : char.ToUpperInvariant(word[0]) + word[1..];

    /// <summary>What a request has to carry: nothing where anybody may ask, the session, and its token to change something.</summary>
    private static List<OpenApiSecurityRequirement> SecurityOf(IList<object> metadata, string method, OpenApiDocument? document)
    {
        if (
            metadata.OfType<IAllowAnonymous>().Any()
            || !metadata.OfType<IAuthorizeData>().Any() && !metadata.OfType<AuthorizationPolicy>().Any()
        )
            return [];
        OpenApiSecurityRequirement needed = new() { [new OpenApiSecuritySchemeReference(Session, document)] = [] };
        if (method != "GET") needed[new OpenApiSecuritySchemeReference(Token, document)] = [];
        return [needed];
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
