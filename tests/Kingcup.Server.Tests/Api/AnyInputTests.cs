using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Api;

/// <summary>Bodies made at random from the document of the API, right and wrong in every way: the server never fails, and says what is
/// wrong.</summary>
public sealed class AnyInputTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const int Tries = 40;
    private static readonly string[] _texts =
    [
        "",
        " ",
        "x",
        "Quiet hour",
        "'; DROP TABLE visit; --",
        "<script>alert(1)</script>",
        "\u0000",
        "😀",
        "2027-02-30",
        "2027-03-10",
        "2027-03-10T10:00:00Z",
        "25:00:00",
        "10:03:00",
        "-1",
        "FREQ=DAILY",
        "FREQ=SECONDLY",
        "#12345G",
        "en-IE",
        "Europe/Nowhere",
    ];

    private JsonNode _document = null!;

    [Fact]
    public async Task No_body_whatever_makes_the_server_fail()
    {
        _document = (await world.Owner.GetAsync("/openapi/v1.json")).Body!;
        string[] ids =
        [
            .. await Task.WhenAll(
                world.IdAsync("services", "Deep tissue 60"),
                world.IdAsync("locations", "Mill Street"),
                world.IdAsync("practitioners", "Ines Calloway"),
                world.IdAsync("rooms", "Cedar")
            ),
        ];
        Random random = new(20270301);
        List<string> failed = [];
        Dictionary<int, int> answers = [];
        foreach ((string path, JsonNode? methods) in _document["paths"]!.AsObject())
        {
            foreach ((string method, JsonNode? operation) in methods!.AsObject())
            {
                // Signing in and out would change who asks, and the clock what is past.
                if (
                    method is "get"
                    || path.Contains("/session", StringComparison.Ordinal)
                    || path.Contains("/demo/", StringComparison.Ordinal)
                )
                    continue;
                JsonNode? schema = operation!["requestBody"]?["content"]?["application/json"]?["schema"];
                for (int i = 0; i < (schema is null ? 3 : Tries); i++)
                {
                    string address = string.Join(
                        '/',
                        path.Split('/').Select(part => part.StartsWith('{') ? Part(part, random, ids) : part)
                    );
                    JsonNode? body = schema is null ? null : Any(schema, random, ids, 0);
                    ApiAnswer answer = await world.Owner.SendAsync(
                        new HttpMethod(method.ToUpperInvariant()),
                        address,
                        schema is null ? null : new StringContent(body?.ToJsonString() ?? "null", Encoding.UTF8, "application/json"),
                        ("If-Match", random.Next(4) == 0 ? "x" : random.Next(3).ToString(CultureInfo.InvariantCulture)),
                        World.Key()
                    );
                    answers[(int)answer.Status] = answers.GetValueOrDefault((int)answer.Status) + 1;
                    if (
                        answer.Status >= HttpStatusCode.InternalServerError
                        || (answer.Status >= HttpStatusCode.BadRequest && answer.Code is null)
                    )
                        failed.Add($"{method} {address}: {(int)answer.Status} for {body?.ToJsonString()}");
                }
            }
        }

        failed.ShouldBeEmpty();
        // Some of it was sound, most was not: otherwise this says little.
        answers.Where(answer => answer.Key < 300).Sum(answer => answer.Value).ShouldBeGreaterThan(20);
        answers.GetValueOrDefault(400).ShouldBeGreaterThan(500);
        // And the house still stands.
        (await world.Owner.GetAsync("/api/v1/setup/readiness")).Status.ShouldBe(HttpStatusCode.OK);
        (await world.Stranger.GetAsync("/api/public/v1/business")).Status.ShouldBe(HttpStatusCode.OK);
    }

    private static readonly string[] _queries =
    [
        "",
        " ",
        "x",
        "-1",
        "0",
        "1",
        "62",
        "100000",
        "99999999999999999999",
        "1.5",
        "2027-03-10",
        "2027-02-30",
        "9999-12-31",
        "-9998-01-01",
        "0001-01-01",
        "true",
        "null",
        "%00",
        "%",
        "'",
        "\"; DROP TABLE client; --",
        "<script>",
        "😀",
        "ada",
        "a b c d e f",
        "+353 20 910",
        "00000000-0000-0000-0000-000000000000",
        "2027-03-10T10:00:00Z",
    ];

    /// <summary>Everything that only reads, with every query it has said well, badly, twice and not at all.</summary>
    [Fact]
    public async Task No_address_or_query_whatever_makes_the_server_fail()
    {
        _document = (await world.Owner.GetAsync("/openapi/v1.json")).Body!;
        string[] ids =
        [
            .. await Task.WhenAll(
                world.IdAsync("services", "Deep tissue 60"),
                world.IdAsync("locations", "Mill Street"),
                world.IdAsync("practitioners", "Ines Calloway"),
                world.IdAsync("rooms", "Cedar")
            ),
        ];
        Random random = new(20270302);
        List<string> failed = [];
        Dictionary<int, int> answers = [];
        foreach ((string path, JsonNode? methods) in _document["paths"]!.AsObject())
        {
            if (methods!["get"] is not { } operation)
                continue;
            string[] queries =
            [
                .. (operation["parameters"]?.AsArray() ?? [])
                    .Where(parameter => parameter!["in"]?.GetValue<string>() == "query")
                    .Select(parameter => parameter!["name"]!.GetValue<string>()),
            ];
            for (int i = 0; i < 6 + (10 * queries.Length); i++)
            {
                string address = string.Join('/', path.Split('/').Select(part => part.StartsWith('{') ? AnyPart(part, random, ids) : part));
                string query = string.Join(
                    '&',
                    queries
                        .Where(_ => random.Next(5) > 0)
                        .SelectMany(name => Enumerable.Repeat(name, random.Next(8) == 0 ? 2 : 1))
                        .Select(name => $"{name}={Query(random, ids)}")
                        .Concat(random.Next(6) == 0 ? ["nosuch=1"] : Array.Empty<string>())
                );
                ApiAnswer answer = await world.Owner.GetAsync(query.Length == 0 ? address : $"{address}?{query}");
                answers[(int)answer.Status] = answers.GetValueOrDefault((int)answer.Status) + 1;
                // An address with a sign that no address has is refused before it reaches us.
                bool isOurs = !address.Contains("%00", StringComparison.Ordinal);
                if (
                    answer.Status >= HttpStatusCode.InternalServerError
                    || (answer.Status >= HttpStatusCode.BadRequest && answer.Code is null && isOurs)
                )
                    failed.Add($"{address}?{query}: {(int)answer.Status} {answer.Body?.ToJsonString()}");
            }
        }

        failed.ShouldBeEmpty();
        answers.GetValueOrDefault(200).ShouldBeGreaterThan(100);
        answers.GetValueOrDefault(400).ShouldBeGreaterThan(30);
        answers.GetValueOrDefault(404).ShouldBeGreaterThan(20);
    }

    private static string Query(Random random, string[] ids) =>
        random.Next(4) == 0 ? ids[random.Next(ids.Length)] : Said(_queries[random.Next(_queries.Length)]);

    // A percent sign alone is sent as it is: that is what a broken link looks like.
    private static string Said(string text) => text.StartsWith('%') ? text : Uri.EscapeDataString(text);

    private static string AnyPart(string name, Random random, string[] ids) =>
        random.Next(3) == 0 ? Said(_queries[random.Next(3, _queries.Length)]) : Part(name, random, ids);

    private static string Part(string name, Random random, string[] ids) =>
        name switch
        {
            "{date}" or "{from}" => random.Next(3) == 0 ? "someday" : "2027-03-20",
            _ => random.Next(3) == 0 ? Guid.Empty.ToString() : ids[random.Next(ids.Length)],
        };

    private JsonNode? Any(JsonNode schema, Random random, string[] ids, int depth)
    {
        if (schema["$ref"] is { } reference)
            return Any(_document["components"]!["schemas"]![reference.GetValue<string>().Split('/')[^1]]!, random, ids, depth);
        if (random.Next(14) == 0)
            return Wrong(random);
        if ((schema["oneOf"] ?? schema["anyOf"]) is JsonArray choices)
            return Any(choices[random.Next(choices.Count)]!, random, ids, depth);
        string[] types = schema["type"] is JsonArray several
            ? [.. several.Select(entry => entry!.GetValue<string>())]
            : [schema["type"]?.GetValue<string>() ?? "object"];
        if (types.Contains("null") && random.Next(3) == 0)
            return null;
        if (schema["enum"] is JsonArray words)
            return words[random.Next(words.Count)]?.DeepClone();
        string? type = types.FirstOrDefault(text => text != "null");
        switch (type)
        {
            case null:
                return null;
            case "object":
                JsonObject made = [];
                if (depth < 6)
                    foreach ((string name, JsonNode? property) in schema["properties"]?.AsObject() ?? [])
                        if (random.Next(12) > 0)
                            made[name] = Any(property!, random, ids, depth + 1);
                return made;
            case "array":
                return new JsonArray([
                    .. Enumerable.Range(0, depth > 4 ? 0 : random.Next(3)).Select(_ => Any(schema["items"]!, random, ids, depth + 1)),
                ]);
            case "integer" or "number":
                return random.Next(6) switch
                {
                    0 => -5,
                    1 => int.MaxValue,
                    2 => 0,
                    3 => 7,
                    _ => 5 * random.Next(1, 24),
                };
            case "boolean":
                return random.Next(2) == 0;
            default:
                return schema["format"]?.GetValue<string>() switch
                {
                    "uuid" => random.Next(3) == 0 ? Guid.Empty.ToString() : ids[random.Next(ids.Length)],
                    "date" => $"2027-0{random.Next(1, 9)}-{random.Next(10, 31)}",
                    "time" => $"{random.Next(0, 24):00}:{5 * random.Next(0, 12):00}:00",
                    "date-time" => $"2027-03-{random.Next(10, 31)}T{random.Next(0, 24):00}:{15 * random.Next(0, 4):00}:00Z",
                    _ => random.Next(8) == 0 ? new string('w', 12_000) : _texts[random.Next(_texts.Length)],
                };
        }
    }

    private static JsonNode? Wrong(Random random) =>
        random.Next(6) switch
        {
            0 => null,
            1 => new JsonObject { ["no"] = "such" },
            2 => new JsonArray(1, "two", null),
            3 => 1.5e300,
            4 => true,
            _ => "neither",
        };
}
