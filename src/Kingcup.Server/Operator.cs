using Kingcup.Server.Api;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server;

/// <summary>What the operator of the machine may do from the command line.</summary>
internal static class Operator
{
    /// <summary>Prints a link with which somebody chooses a new password. Whoever may run this may read the database anyway.</summary>
    internal static async Task<int> RescueAsync(string[] args)
    {
        if (args is not [_, { Length: > 0 } email])
        {
            await Console.Error.WriteLineAsync("Usage: dotnet Kingcup.Server.dll rescue EMAIL");
            return 2;
        }

        string? where = Environment.GetEnvironmentVariable("KINGCUP_DATABASE");
        if (where is null)
        {
            await Console.Error.WriteLineAsync("Set KINGCUP_DATABASE to the connection string of the database.");
            return 2;
        }

        await using Database database = new(where);
        await using NpgsqlConnection connection = await database.OpenAsync();
        string? path = await AccountEndpoints.RescueAsync(connection, new Addresses(database), email, SystemClock.Instance.GetCurrentInstant());
        if (path is null)
        {
            await Console.Error.WriteLineAsync("There is no account with that address.");
            return 1;
        }

        Console.WriteLine($"Open this address on the server, once, within seven days: {path}");
        return 0;
    }
}
