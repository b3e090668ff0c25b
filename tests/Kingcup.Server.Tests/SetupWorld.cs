using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests;

/// <summary>The demo setup with an empty book on a server of its own, for tests that change the setup.</summary>
public sealed class SetupWorld : IAsyncLifetime
{
    public TestDatabase Database { get; private set; } = null!;

    public ServerProcess Server { get; private set; } = null!;

    public ApiClient Owner { get; private set; } = null!;

    public ApiClient Desk { get; private set; } = null!;

    public ApiClient Stranger { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        Database = await TestDatabase.DemoAsync();
        Server = await ServerProcess.StartAsync(Database);
        Owner = await ApiClient.SignedInAsync(Server, "owner@harrowmere.test");
        Desk = await ApiClient.SignedInAsync(Server);
        Stranger = new ApiClient(Server);
    }

    public async ValueTask DisposeAsync()
    {
        Owner.Dispose();
        Desk.Dispose();
        Stranger.Dispose();
        await Server.DisposeAsync();
        await Database.DisposeAsync();
    }

    /// <summary>One of a list of the setup, by name.</summary>
    public async Task<JsonObject> OneAsync(string list, string name) =>
        (await Owner.GetAsync($"/api/v1/setup/{list}"))
            .Body!.AsArray()
            .Single(entry => entry!["name"]!.GetValue<string>() == name)!
            .AsObject();

    public async Task<string> IdAsync(string list, string name) => (await OneAsync(list, name))["id"]!.GetValue<string>();

    /// <summary>The starts a stranger is offered, as local clock times by date.</summary>
    public async Task<Dictionary<string, string[]>> OfferedAsync(
        string service,
        string location,
        string from,
        int days,
        bool returning = false,
        string? link = null
    )
    {
        ApiAnswer answer = await Stranger.PostAsync(
            "/api/public/v1/starts",
            new
            {
                locationId = location,
                lines = new[] { new { serviceId = service } },
                from,
                days,
                returning,
                link,
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return answer.Body!["days"]!
            .AsArray()
            .ToDictionary(
                day => day!["date"]!.GetValue<string>(),
                day => day!["starts"]!.AsArray().Select(start => start!["clock"]!.GetValue<string>()).ToArray()
            );
    }
}

/// <summary>What tests of the setup say often.</summary>
internal static class SetupCalls
{
    internal static Task<ApiAnswer> PutAsync(
        this ApiClient client,
        string path,
        object body,
        object? version = null,
        string? accept = null
    ) =>
        client.SendAsync(
            HttpMethod.Put,
            path,
            JsonContent.Create(body, options: JsonSerializerOptions.Web),
            [
                .. version is null ? Array.Empty<(string, string)>() : [("If-Match", version.ToString()!)],
                .. accept is null ? Array.Empty<(string, string)>() : [("X-Accept-Hits", accept)],
            ]
        );

    internal static Task<ApiAnswer> DeleteAsync(this ApiClient client, string path, object? version = null) =>
        client.SendAsync(HttpMethod.Delete, path, null, version is null ? [] : [("If-Match", version.ToString()!)]);

    /// <summary>Makes something and gives what the server made.</summary>
    internal static async Task<JsonObject> MakeAsync(this ApiClient client, string path, object body)
    {
        ApiAnswer answer = await client.PostAsync(path, body, World.Key());
        answer.Status.ShouldBe(HttpStatusCode.Created, $"{path}: {answer.Body?.ToJsonString()}");
        return answer.Body!.AsObject();
    }

    /// <summary>Changes a document read before, and has to succeed.</summary>
    internal static async Task<JsonObject> ChangeAsync(this ApiClient client, string path, JsonObject document, Action<JsonObject> change)
    {
        JsonObject copy = document.DeepClone().AsObject();
        change(copy);
        ApiAnswer answer = await client.PutAsync(path, copy, document["version"]);
        answer.Status.ShouldBe(HttpStatusCode.OK, $"{path}: {answer.Body?.ToJsonString()}");
        return answer.Body!.AsObject();
    }
}
