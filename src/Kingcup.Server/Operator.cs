using System.Globalization;
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

        if (await DatabaseAsync() is not { } database) return 2;
        await using Database _ = database;
        await using NpgsqlConnection connection = await database.OpenAsync();
        string? path = await AccountEndpoints.RescueAsync(
            connection,
            new Addresses(database),
            email,
            SystemClock.Instance.GetCurrentInstant()
        );
        if (path is null)
        {
            await Console.Error.WriteLineAsync("There is no account with that address.");
            return 1;
        }

        Console.WriteLine($"Open this address on the server, once, within seven days: {path}");
        return 0;
    }

    /// <summary>Checks what has to hold of the database, running or not: a line for each, and what is wrong by identity.</summary>
    /// <returns>0 when all of it holds, 1 when something does not, 2 when nothing could be checked.</returns>
    internal static async Task<int> VerifyAsync()
    {
        if (await DatabaseAsync() is not { } database) return 2;
        await using Database _ = database;
        IReadOnlyList<Finding> findings;
        try
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            findings = await Proof.CheckAsync(connection);
        }
        catch (NpgsqlException exception)
        {
            await Console.Error.WriteLineAsync($"The database cannot be checked: {exception.Message}");
            return 2;
        }

        foreach (Finding finding in findings)
        {
            string rows = finding.Rows.ToString("N0", CultureInfo.InvariantCulture).PadLeft(12);
            Console.WriteLine($"{(finding.Count == 0 ? "holds" : "WRONG")} {rows}  {finding.Says}");
            string more = finding.Count > finding.Wrong.Count ? ", …" : "";
            if (finding.Count > 0) Console.WriteLine($"      {finding.Count} of them: {string.Join(", ", finding.Wrong)}{more}");
        }

        return findings.All(finding => finding.Count == 0) ? 0 : 1;
    }

    private static async Task<Database?> DatabaseAsync()
    {
        if (Environment.GetEnvironmentVariable("KINGCUP_DATABASE") is { } where) return new Database(where);
        await Console.Error.WriteLineAsync("Set KINGCUP_DATABASE to the connection string of the database.");
        return null;
    }
}
