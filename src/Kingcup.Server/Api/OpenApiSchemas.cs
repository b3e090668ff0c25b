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
        options.AddOperationTransformer((operation, context, _) =>
        {
            string path = context.Description.RelativePath ?? "";
            string method = context.Description.HttpMethod ?? "";
            if (method == "POST" && path.EndsWith("visits", StringComparison.Ordinal) || (method == "POST" && path.EndsWith("clients", StringComparison.Ordinal)))
                Header(operation, "Idempotency-Key", "The same key and body get the first answer again; 8 to 100 characters.");
            if (operation.Responses?.ContainsKey("428") == true) Header(operation, "If-Match", "The version of the visit the change is based on.");
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
