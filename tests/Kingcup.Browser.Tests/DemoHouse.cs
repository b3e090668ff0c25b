using Kingcup.Testing;
using Xunit;

namespace Kingcup.Browser.Tests;

/// <summary>The demo business on a server of its own, for each test anew. The clock stands on Monday 1 March 2027, 09:00.</summary>
public abstract class DemoHouse : IAsyncLifetime
{
    protected const string Owner = "owner@harrowmere.test";
    private TestDatabase _database = null!;

    protected ServerProcess Server { get; private set; } = null!;

    /// <summary>The identity of the first location.</summary>
    protected string MillStreet { get; private set; } = "";

    /// <summary>What the server is started with besides.</summary>
    protected virtual string[] Settings => [];

    public virtual async ValueTask InitializeAsync()
    {
        _database = await TestDatabase.DemoAsync();
        Server = await ServerProcess.StartAsync(_database, Settings);
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        MillStreet = (await desk.GetAsync("/api/v1/setup")).Body!["locations"]![0]!["id"]!.GetValue<string>();
    }

    public virtual async ValueTask DisposeAsync()
    {
        await Server.DisposeAsync();
        await _database.DisposeAsync();
        GC.SuppressFinalize(this);
    }

    /// <summary>Somebody signed in with a day of the book before them.</summary>
    protected Browser AtTheDesk(string date, string email = "desk@harrowmere.test")
    {
        Browser desk = new(Server);
        desk.SignIn(email);
        desk.Find("//*[@data-lane='Ines Calloway']");
        desk.Go($"/day/{MillStreet}/{date}");
        desk.Find("//*[@data-lane='Ines Calloway']");
        return desk;
    }

    /// <summary>Writes two clients into the book of clients.</summary>
    protected async Task AddClientsAsync(params (string Given, string Family)[] clients)
    {
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        System.Text.Json.Nodes.JsonNode setup = (await desk.GetAsync("/api/v1/setup")).Body!;
        string podiatry = setup["services"]!.AsArray().Single(entry => (string)entry!["name"]! == "Podiatry 40")!["id"]!.GetValue<string>();
        int hour = 9;
        foreach ((string given, string family) in clients)
        {
            object visit = new
            {
                locationId = MillStreet,
                start = $"2027-03-10T{hour++:00}:00:00Z",
                newClient = new { givenName = given, familyName = family },
                lines = new[] { new { serviceId = podiatry } },
            };
            ApiAnswer answer = await desk.PostAsync("/api/v1/visits", visit);
            if (answer.Status != System.Net.HttpStatusCode.Created) throw new InvalidOperationException(answer.Body?.ToJsonString());
        }
    }
}
