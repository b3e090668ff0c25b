using System.Xml.Linq;
using Kingcup.Storage;
using Microsoft.AspNetCore.DataProtection.Repositories;
using Npgsql;

namespace Kingcup.Server.SignIn;

/// <summary>Keeps the keys that protect cookies in the database, so that a cookie made by one server is good at the next.</summary>
internal sealed class DatabaseKeys(Database database) : IXmlRepository
{
    public IReadOnlyCollection<XElement> GetAllElements()
    {
        using NpgsqlConnection connection = database.OpenAsync().GetAwaiter().GetResult();
        return [.. StaffStore.ProtectionKeysAsync(connection).GetAwaiter().GetResult().Select(XElement.Parse)];
    }

    public void StoreElement(XElement element, string friendlyName)
    {
        using NpgsqlConnection connection = database.OpenAsync().GetAwaiter().GetResult();
        StaffStore
            .AddProtectionKeyAsync(connection, friendlyName, element.ToString(SaveOptions.DisableFormatting))
            .GetAwaiter()
            .GetResult();
    }
}
