using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Storage;
using Kingcup.Testing;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Money;

/// <summary>A demo business of its own at which new clients give 30 % online, on two servers with a card gateway.</summary>
public sealed class PayWorld : IAsyncLifetime
{
    /// <summary>Where its clients find it.</summary>
    public const string Address = "https://booking.harrowmere.test";

    private ApiClient _beside = null!;
    private int _addresses;

    public TestDatabase Database { get; private set; } = null!;

    public StandInProcess Gateway { get; } = new();

    public ServerProcess First { get; private set; } = null!;

    public ServerProcess Second { get; private set; } = null!;

    public ApiClient Owner { get; private set; } = null!;

    public string MillStreet { get; private set; } = "";

    public JsonArray Services { get; private set; } = [];

    public async ValueTask InitializeAsync()
    {
        Database = await TestDatabase.DemoAsync();
        string[] settings = [.. Gateway.Settings, $"--Address={Address}"];
        First = await ServerProcess.StartAsync(Database, settings);
        Second = await ServerProcess.StartAsync(Database, settings);
        await Gateway.StartAsync(Second);
        Owner = await ApiClient.SignedInAsync(First, "owner@harrowmere.test");
        _beside = await ApiClient.SignedInAsync(Second, "owner@harrowmere.test");
        JsonNode setup = (await Owner.GetAsync("/api/v1/setup")).Body!;
        MillStreet = setup["locations"]!.AsArray().First(one => (string)one!["name"]! == "Mill Street")!["id"]!.GetValue<string>();
        Services = setup["services"]!.AsArray();
        Practitioners = setup["practitioners"]!.AsArray();
        (
            await Owner.PostAsync(
                "/api/v1/setup/guarantees",
                new { place = "location", placeId = MillStreet, onlyNew = true, demand = "percent", value = 30 },
                World.Key()
            )
        ).Status.ShouldBe(HttpStatusCode.Created);
    }

    public async ValueTask DisposeAsync()
    {
        // Whatever the tests did, the book and the money are right.
        (await WrongAsync()).ShouldBeEmpty();
        Owner.Dispose();
        _beside.Dispose();
        await First.DisposeAsync();
        await Second.DisposeAsync();
        await Gateway.DisposeAsync();
        await Database.DisposeAsync();
    }

    /// <summary>What does not hold of the book and the money as they stand.</summary>
    public async Task<string[]> WrongAsync()
    {
        await using NpgsqlConnection connection = await Database.Database.OpenAsync();
        return
        [
            .. (await Proof.CheckAsync(connection))
                .Where(finding => finding.Count > 0)
                .Select(finding => $"{finding.Says} {string.Join(", ", finding.Wrong)}"),
        ];
    }

    public JsonArray Practitioners { get; private set; } = [];

    public string Practitioner(string name) =>
        Practitioners.First(one => (string)one!["name"]! == name)!["id"]!.GetValue<string>();

    public string Service(string name) => Services.First(one => (string)one!["name"]! == name)!["id"]!.GetValue<string>();

    /// <summary>Somebody with a phone of their own, somewhere else than everybody before.</summary>
    public Client Somebody(ServerProcess? server = null)
    {
        int number = Interlocked.Increment(ref _addresses);
        return new Client(this, new ApiClient(server ?? First), number);
    }

    /// <summary>Free starts of a service in the weeks ahead that do not touch each other.</summary>
    public async Task<string[]> StartsAsync(string service, int count, string? practitionerId = null, string from = "2027-03-08")
    {
        using ApiClient asking = new(First);
        JsonNode answer = (
            await asking.PostAsync(
                "/api/public/v1/starts",
                new
                {
                    locationId = MillStreet,
                    lines = new[] { new { serviceId = Service(service), practitionerId } },
                    from,
                    days = 40,
                }
            )
        ).Body!;
        List<DateTimeOffset> apart = [];
        IEnumerable<JsonNode?> starts = answer["days"]!.AsArray().SelectMany(day => day!["starts"]!.AsArray());
        foreach (string start in starts.Select(start => (string)start!["start"]!))
        {
            DateTimeOffset at = DateTimeOffset.Parse(start, CultureInfo.InvariantCulture);
            if (apart.Count == 0 || at - apart[^1] >= TimeSpan.FromHours(3)) apart.Add(at);
        }

        apart.Count.ShouldBeGreaterThanOrEqualTo(count);
        return [.. apart.Take(count).Select(Written)];
    }

    /// <summary>The moment at the business.</summary>
    public Task<DateTimeOffset> NowAsync() => NowAsync(Owner);

    private static async Task<DateTimeOffset> NowAsync(ApiClient asking) =>
        DateTimeOffset.Parse((string)(await asking.GetAsync("/api/v1/setup")).Body!["now"]!, CultureInfo.InvariantCulture);

    /// <summary>What is held as deposits, by the ledger, in minor units.</summary>
    public async Task<long> DepositsAsync() =>
        await ScalarAsync<long>("SELECT coalesce(-sum(amount), 0)::bigint FROM ledger_posting WHERE account = 'ClientDeposits'");

    public async Task<T> ScalarAsync<T>(string sql, object? values = null)
    {
        await using NpgsqlConnection connection = await Database.Database.OpenAsync();
        return (await connection.ExecuteScalarAsync<T>(sql, values))!;
    }

    private static string Written(DateTimeOffset at) =>
        at.ToUniversalTime().ToString("yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture);

    /// <summary>Lets time go by for everybody.</summary>
    public async Task ClockAsync(int minutes)
    {
        string to = Written((await NowAsync()).AddMinutes(minutes));
        (await Owner.PostAsync("/api/v1/demo/clock", new { to })).Status.ShouldBeOneOf(HttpStatusCode.OK, HttpStatusCode.NoContent);
        // The other server is told of it, and follows a moment later.
        DateTimeOffset moved = DateTimeOffset.Parse(to, CultureInfo.InvariantCulture);
        await UntilAsync(async () => await NowAsync(_beside) >= moved);
    }

    /// <summary>Waits until something is so.</summary>
    public static async Task UntilAsync(Func<Task<bool>> holds)
    {
        using CancellationTokenSource patience = new(TimeSpan.FromSeconds(120));
        while (!await holds()) await Task.Delay(100, patience.Token);
    }

    /// <summary>A client with a phone.</summary>
    public sealed class Client(PayWorld world, ApiClient http, int number) : IDisposable
    {
        public ApiClient Http { get; set; } = http;

        private (string, string) From => ("X-Forwarded-For", $"10.{number / 250}.{number % 250}.7");

        public object Booking(
            string start,
            string service = "Deep tissue 60",
            string? practitionerId = null,
            long? dueSeen = null,
            string? hold = null
        ) =>
            new
            {
                locationId = world.MillStreet,
                start,
                lines = new[] { new { serviceId = world.Service(service), practitionerId } },
                givenName = "Ada",
                familyName = $"Marsh {number}",
                email = $"ada{number}@example.test",
                phone = $"+35385{number:D7}",
                dueSeen,
                hold,
            };

        public Task<ApiAnswer> PostAsync(string path, object body, params (string, string)[] headers) =>
            Http.PostAsync("/api/public/v1" + path, body, [From, .. headers]);

        public Task<ApiAnswer> BeginAsync(object booking) => PostAsync("/payments", booking, World.Key());

        /// <summary>Begins to pay, and is led to the card page.</summary>
        public async Task<(string Token, string Page)> ToCardAsync(string start)
        {
            ApiAnswer begun = await BeginAsync(Booking(start));
            begun.Status.ShouldBe(HttpStatusCode.Created, begun.Body?.ToJsonString());
            string token = (string)begun.Body!["token"]!;
            return (token, await PageAsync(token));
        }

        public async Task<string> PageAsync(string token)
        {
            ApiAnswer page = await PostAsync("/payments/page", new { token, back = "?step=you" });
            page.Status.ShouldBe(HttpStatusCode.OK, page.Body?.ToJsonString());
            return (string)page.Body!["address"]!;
        }

        /// <summary>Asks what became of a payment until that is settled.</summary>
        public async Task<JsonNode> FinishAsync(string token)
        {
            JsonNode? answer = null;
            await UntilAsync(async () =>
            {
                ApiAnswer told = await PostAsync("/payments/finish", new { token });
                told.Status.ShouldBe(HttpStatusCode.OK, told.Body?.ToJsonString());
                answer = told.Body!;
                return (string)answer["state"]! is not "settling";
            });
            return answer!;
        }

        public void Dispose() => Http.Dispose();
    }
}
