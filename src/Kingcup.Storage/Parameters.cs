using System.Collections.Concurrent;
using System.Data;
using System.Reflection;
using Dapper;
using Npgsql;
using NpgsqlTypes;

namespace Kingcup.Storage;

/// <summary>
/// The parameters of a statement, or of several that are sent together, as Npgsql takes them. Dapper would work the type of each out anew
/// for every statement it sends; where much is read at once that costs more than the reading.
/// </summary>
internal sealed class Parameters : SqlMapper.IDynamicParameters
{
    private static readonly ConcurrentDictionary<Type, PropertyInfo[]> _properties = new();
    private readonly Dictionary<string, NpgsqlParameter> _all = new(StringComparer.OrdinalIgnoreCase);

    /// <summary>Begins with the properties of an object.</summary>
    internal Parameters(object values) => Add(values);

    /// <summary>The parameters that an object's properties are; those without a value say nothing of their type.</summary>
    internal static IEnumerable<NpgsqlParameter> Of(object values) =>
        _properties.GetOrAdd(values.GetType(), type => type.GetProperties())
            .Select(property => new NpgsqlParameter(property.Name, property.GetValue(values) ?? DBNull.Value));

    /// <summary>Adds the properties of an object; what is there already by a name is given the new value.</summary>
    internal Parameters Add(object values)
    {
        foreach (NpgsqlParameter parameter in Of(values)) _all[parameter.ParameterName] = parameter;
        return this;
    }

    /// <summary>Adds what others hold.</summary>
    internal Parameters Add(Parameters others)
    {
        foreach ((string name, NpgsqlParameter parameter) in others._all) _all[name] = parameter;
        return this;
    }

    /// <summary>Adds an identity that may be missing, for statements from which its type cannot be told.</summary>
    internal Parameters Add(string name, Guid? id)
    {
        _all[name] = new NpgsqlParameter(name, NpgsqlDbType.Uuid) { Value = id ?? (object)DBNull.Value };
        return this;
    }

    /// <inheritdoc/>
    void SqlMapper.IDynamicParameters.AddParameters(IDbCommand command, SqlMapper.Identity identity)
    {
        foreach (NpgsqlParameter parameter in _all.Values) command.Parameters.Add(parameter);
    }
}
