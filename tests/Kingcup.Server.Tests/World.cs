using System.Text.Json.Nodes;
using Kingcup.Storage;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

[assembly: AssemblyFixture(typeof(Kingcup.Server.Tests.World))]

namespace Kingcup.Server.Tests;

/// <summary>Two server processes on one database with the demo setup, an empty book, and somebody of each role signed in.</summary>
public sealed class World : IAsyncLifetime
{
    public TestDatabase Database { get; private set; } = null!;

    public ServerProcess First { get; private set; } = null!;

    public ServerProcess Second { get; private set; } = null!;

    public ApiClient Desk { get; private set; } = null!;

    /// <summary>At the second server.</summary>
    public ApiClient OtherDesk { get; private set; } = null!;

    public ApiClient Stranger { get; private set; } = null!;

    private JsonNode _setup = null!;

    public async ValueTask InitializeAsync()
    {
        Database = await TestDatabase.DemoAsync();
        ServerProcess[] servers = await Task.WhenAll(ServerProcess.StartAsync(Database), ServerProcess.StartAsync(Database));
        (First, Second) = (servers[0], servers[1]);
        Desk = await ApiClient.SignedInAsync(First);
        OtherDesk = await ApiClient.SignedInAsync(Second);
        Stranger = new ApiClient(Second);
        _setup = (await Desk.GetAsync("/api/v1/setup")).Body!;
    }

    public async ValueTask DisposeAsync()
    {
        Desk.Dispose();
        OtherDesk.Dispose();
        Stranger.Dispose();
        await First.DisposeAsync();
        await Second.DisposeAsync();
        try
        {
            // Whatever all tests have done to it, the book holds together.
            await using NpgsqlConnection connection = await Database.Database.OpenAsync();
            string[] wrong =
            [
                .. (await Proof.CheckAsync(connection))
                    .Where(finding => finding.Count > 0)
                    .Select(finding => $"{finding.Says} {string.Join(", ", finding.Wrong)}"),
            ];
            wrong.ShouldBeEmpty();
        }
        finally
        {
            await Database.DisposeAsync();
        }
    }

    private readonly System.Collections.Concurrent.ConcurrentDictionary<string, Task<ApiClient>> _signedIn = new();

    /// <summary>Somebody of the demo signed in at the first server, once for all tests that only ask.</summary>
    public Task<ApiClient> SignedInAsync(string email) => _signedIn.GetOrAdd(email, who => ApiClient.SignedInAsync(First, who));

    public string MillStreet => Id("locations", "Mill Street");

    public string Service(string name) => Id("services", name);

    public string Practitioner(string name) => Id("practitioners", name);

    /// <summary>An instant of a local time, days after the Monday the clock stands on; Dublin is at UTC then.</summary>
    public static string At(int days, int hour, int minute = 0) =>
        (Instant.FromUtc(2027, 3, 1, hour, minute) + Duration.FromDays(days)).ToString();

    public object Booking(string service, string start, string? practitioner = null) => new
    {
        locationId = MillStreet,
        start,
        lines = new[] { new { serviceId = Service(service), practitionerId = practitioner is null ? null : Practitioner(practitioner) } },
        newClient = new { givenName = "Ada", familyName = "Marsh", phone = "020 910 0001" },
    };

    public object PublicBooking(
        string service,
        string start,
        string? practitioner = null,
        string email = "ada@example.com",
        string phone = "020 910 0001"
    ) =>
        new
        {
            locationId = MillStreet,
            start,
            lines = new[]
            {
                new { serviceId = Service(service), practitionerId = practitioner is null ? null : Practitioner(practitioner) },
            },
            givenName = "Ada",
            familyName = "Marsh",
            email,
            phone,
        };

    public async Task<JsonNode> BookAsync(string service, string start, string? practitioner = null)
    {
        ApiAnswer answer = await Desk.PostAsync("/api/v1/visits", Booking(service, start, practitioner));
        answer.Status.ShouldBe(System.Net.HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!;
    }

    /// <summary>The last thing the desk did to a visit that is not undone; other tests do other things at the same desk.</summary>
    public async Task<JsonNode> StepOfAsync(JsonNode visit)
    {
        ApiAnswer steps = await Desk.GetAsync("/api/v1/undo");
        return steps.Body!.AsArray().First(step =>
            !step!["isUndone"]!.GetValue<bool>()
            && step["visitIds"]!.AsArray().Any(id => id!.GetValue<string>() == visit["id"]!.GetValue<string>())
        )!;
    }

    public static (string, string) Key() => ("Idempotency-Key", Guid.NewGuid().ToString());

    public static (string, string) Match(JsonNode visit) => ("If-Match", visit["version"]!.ToString());

    private string Id(string list, string name) =>
        _setup[list]!.AsArray().Single(entry => entry!["name"]!.GetValue<string>() == name)!["id"]!.GetValue<string>();
}
