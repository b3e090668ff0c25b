using System.Collections;
using System.Collections.Concurrent;
using System.Reflection;
using System.Text.Json.Serialization.Metadata;
using Kingcup.Core.Business;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Api;

/// <summary>A date that may lie before the book: a date of birth. Whoever takes it says between which years.</summary>
[AttributeUsage(AttributeTargets.Property)]
internal sealed class OfAnyYearAttribute : Attribute;

/// <summary>
/// Refuses a body that leaves out what its document never does without, that has an entry that is nothing in a list (no list of
/// ours means anything by one), or a text with the sign that no text has and the database does not keep.
/// </summary>
internal static class MissingValues
{
    private static readonly ConcurrentDictionary<Type, (PropertyInfo Property, bool IsNeeded)[]> _inside = new();
    private static readonly ConcurrentDictionary<Type, PropertyInfo[]> _plain = new();

    /// <summary>Looks through what an endpoint is given before it runs.</summary>
    internal static async ValueTask<object?> RefuseAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        foreach (object? argument in context.Arguments)
            if (argument is string || (argument is not null && IsOurs(argument.GetType())))
                Look(argument, "");
        return await next(context);
    }

    /// <summary>What a document leaves out is looked for here, where it can be said at its field; the reader of JSON lets it
    /// pass.</summary>
    internal static void LeaveToUs(JsonTypeInfo type)
    {
        foreach (JsonPropertyInfo property in type.Properties)
            property.IsRequired = false;
    }

    private static void Look(object value, string path)
    {
        if (value is string text)
        {
            if (text.Contains('\0', StringComparison.Ordinal))
                throw Refused.Invalid(path, "This holds a sign that is no text (code 0). Take it out.");
            return;
        }

        if (value is IEnumerable list)
        {
            int i = 0;
            foreach (object? item in list)
            {
                string at = $"{path}[{i++}]";
                if (item is null)
                    throw Refused.Invalid(at, "This entry of the list is empty. Fill it in, or leave it out.");
                if (item is string || IsOurs(item.GetType()))
                    Look(item, at);
            }

            return;
        }

        foreach ((PropertyInfo property, bool isNeeded) in _inside.GetOrAdd(value.GetType(), Inside))
        {
            string at = path.Length == 0 ? Camel(property.Name) : $"{path}.{Camel(property.Name)}";
            if (property.GetValue(value) is { } within)
                Look(within, at);
            else if (isNeeded)
                throw Refused.Invalid(at, "This is needed and is missing.");
        }

        foreach (PropertyInfo property in _plain.GetOrAdd(value.GetType(), Plain))
        {
            Sentence? wrong = property.GetValue(value) switch
            {
                Instant at => Year(at.InUtc().Year),
                LocalDate date => Year(date.Year),
                LocalDateTime time => Year(time.Year),
                Enum choice when !Enum.IsDefined(choice.GetType(), choice) => Say("This is needed and is missing."),
                _ => null,
            };
            if (wrong is not null)
                throw Refused.Invalid(path.Length == 0 ? Camel(property.Name) : $"{path}.{Camel(property.Name)}", wrong);
        }
    }

    // Every calculation holds between these years, and no salon books outside them.
    private static Sentence? Year(int year) => year is >= 2000 and <= 2100 ? null : Say("Choose a date between the years 2000 and 2100.");

    private static PropertyInfo[] Plain(Type type) =>
        [
            .. type.GetProperties(BindingFlags.Public | BindingFlags.Instance)
                .Where(property => property.GetIndexParameters().Length == 0 && !property.IsDefined(typeof(OfAnyYearAttribute)))
                .Where(property =>
                    (Nullable.GetUnderlyingType(property.PropertyType) ?? property.PropertyType) is var plain
                    && (plain.IsEnum || plain == typeof(Instant) || plain == typeof(LocalDate) || plain == typeof(LocalDateTime))
                ),
        ];

    private static (PropertyInfo Property, bool IsNeeded)[] Inside(Type type)
    {
        NullabilityInfoContext nullability = new();
        return
        [
            .. type.GetProperties(BindingFlags.Public | BindingFlags.Instance)
                .Where(property =>
                    property.GetIndexParameters().Length == 0
                    && (typeof(IEnumerable).IsAssignableFrom(property.PropertyType) || IsOurs(property.PropertyType))
                )
                .Select(property => (property, nullability.Create(property).ReadState == NullabilityState.NotNull)),
        ];
    }

    /// <summary>Documents of this server and the rules they carry, alone or in an array.</summary>
    internal static bool IsOurs(Type type) =>
        type.IsArray
            ? IsOurs(type.GetElementType()!)
            : type is { IsClass: true, Namespace: { } name }
                && name.StartsWith("Kingcup.", StringComparison.Ordinal)
                && type.GetMethod("<Clone>$") is not null;

    private static string Camel(string name) => char.ToLowerInvariant(name[0]) + name[1..];
}
