using System.Security.Claims;
using System.Text.Json;
using Dapper;
using Kingcup.Storage;
using Microsoft.AspNetCore.SignalR;
using Npgsql;

namespace Kingcup.Server.Live;

/// <summary>Somebody has a visit open, or has it open no longer.</summary>
/// <param name="Key">Which screen it is: it means nothing else, and is another one whenever the screen connects anew.</param>
/// <param name="StaffId">Whose screen it is.</param>
/// <param name="Name">Their name.</param>
/// <param name="VisitId">The visit that is open there, or null for none.</param>
public sealed record Present(Guid Key, Guid StaffId, string Name, Guid? VisitId);

/// <summary>
/// Passes on, over all servers, which visit somebody has open. Nothing is kept: a screen says it again every few seconds, and whoever
/// has not been heard of for a while has left.
/// </summary>
public static class Presence
{
    /// <summary>The PostgreSQL channel on which it is told.</summary>
    public const string Channel = "kingcup_presence";

    private const string Key = "presence";

    /// <summary>Tells every server what is open on the screen of a connection.</summary>
    internal static async Task TellAsync(Database database, HubCallerContext context, Guid? visitId)
    {
        if (context.User?.FindFirstValue(ClaimTypes.NameIdentifier) is not { } staffId)
            return;
        if (context.Items[Key] is not Guid key)
            context.Items[Key] = key = Guid.NewGuid();
        string notice = JsonSerializer.Serialize(
            new Present(key, Guid.Parse(staffId), context.User.Identity?.Name ?? "", visitId),
            JsonSerializerOptions.Web
        );
        await using NpgsqlConnection connection = await database.OpenAsync();
        await connection.ExecuteAsync("SELECT pg_notify(@Channel, @notice)", new { Channel, notice });
    }

    /// <summary>Whether a connection has ever said what is open on its screen.</summary>
    internal static bool HasTold(HubCallerContext context) => context.Items.ContainsKey(Key);

    /// <summary>What another server or this one has told.</summary>
    internal static Present Of(string notice) => JsonSerializer.Deserialize<Present>(notice, JsonSerializerOptions.Web)!;
}
