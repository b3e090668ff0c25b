using System.Net;
using System.Net.Http.Headers;
using System.Text.Json.Nodes;
using Dapper;
using Kingcup.Core.Forms;
using Kingcup.Storage;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Booking;

/// <summary>What clients answer with a tick, a number, a date or a file when they book online.</summary>
public sealed class AnswerTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Path = "/api/public/v1/files";
    private static int _range;

    private static readonly byte[] _paper = "%PDF-1.7 made up"u8.ToArray();

    // What was written behind the picture is no part of it.
    private static readonly byte[] _picture =
    [
        .. Convert.FromBase64String(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
        ),
        .. "taken at home"u8,
    ];

    private static (string, string) Elsewhere() => ("X-Forwarded-For", $"10.77.{Interlocked.Increment(ref _range)}.9");

    private static async Task<ApiAnswer> SendAsync(ApiClient client, byte[] bytes, string name, (string, string) from)
    {
        using MultipartFormDataContent form = [];
        ByteArrayContent file = new(bytes);
        file.Headers.ContentType = new MediaTypeHeaderValue("application/octet-stream");
        form.Add(file, "file", name);
        return await client.SendAsync(HttpMethod.Post, Path, form, from);
    }

    private async Task<JsonObject> AskAsync(string text, string kind, bool required = false) =>
        await world.Owner.MakeAsync(
            "/api/v1/setup/questions",
            new { text, hint = "", kind, choices = Array.Empty<string>(), required, serviceIds = Array.Empty<string>(), isArchived = false }
        );

    private async Task EndAsync(params JsonObject[] questions)
    {
        foreach (JsonObject question in questions)
            await world.Owner.ChangeAsync($"/api/v1/setup/questions/{question["id"]}", question, changed => changed["isArchived"] = true);
    }

    private async Task<ApiAnswer> BookAsync(string start, params (JsonObject Question, string Answer)[] answers) =>
        await world.Stranger.PostAsync(
            "/api/public/v1/visits",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                start,
                lines = new[] { new { serviceId = await world.IdAsync("services", "Nutrition review 30") } },
                givenName = "Ada",
                familyName = "Answers",
                email = $"ada.{Guid.NewGuid():N}@example.com",
                phone = $"020 910 {Random.Shared.Next(1000, 10_000)}",
                answers = answers.Select(given => new { questionId = given.Question["id"], answer = given.Answer }),
            },
            [World.Key(), Elsewhere()]
        );

    private async Task<JsonNode> VisitAsync(ApiAnswer booked)
    {
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        string id = await ScalarAsync<string>(
            "SELECT id::text FROM visit WHERE reference = @reference",
            new { reference = (string)booked.Body!["reference"]! }
        );
        return (await world.Desk.GetAsync($"/api/v1/visits/{id}")).Body!;
    }

    private async Task<T> ScalarAsync<T>(string sql, object? values = null)
    {
        await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
        return (await connection.ExecuteScalarAsync<T>(sql, values))!;
    }

    private static string Given(JsonNode answer) => $"{answer["question"]} {answer["kind"]} {answer["answer"]}";

    [Fact]
    public async Task A_tick_a_number_and_a_date_stand_in_the_visit_as_what_they_are()
    {
        JsonObject fit = await AskAsync("I am well", "tick", true),
            dog = await AskAsync("I bring a dog", "tick"),
            weight = await AskAsync("What do you weigh?", "number"),
            last = await AskAsync("When were you here last?", "date");
        try
        {
            ApiAnswer refused = await BookAsync("2027-03-02T09:00:00Z", (fit, "No"), (weight, "heavy"), (last, "2027-02-30"));
            refused.Status.ShouldBe(HttpStatusCode.BadRequest);
            refused.Body!["errors"]!
                .AsObject()
                .Select(pair => pair.Key)
                .ShouldBe(new[] { fit, weight, last }.Select(entry => $"answers.{entry["id"]}"), ignoreOrder: true);

            JsonNode visit = await VisitAsync(
                await BookAsync("2027-03-02T09:00:00Z", (fit, "Yes"), (weight, "71,5"), (last, "2026-11-05"))
            );
            visit["answers"]!
                .AsArray()
                .Select(answer => Given(answer!))
                .ShouldBe(
                    [
                        "I am well tick Yes",
                        "I bring a dog tick No",
                        "What do you weigh? number 71.5",
                        "When were you here last? date 2026-11-05",
                    ]
                );
        }
        finally
        {
            await EndAsync(fit, dog, weight, last);
        }
    }

    [Fact]
    public async Task What_a_client_writes_stands_beside_what_the_staff_note()
    {
        object booking = new
        {
            locationId = await world.IdAsync("locations", "Mill Street"),
            start = "2027-03-09T09:00:00Z",
            lines = new[] { new { serviceId = await world.IdAsync("services", "Nutrition review 30") } },
            givenName = "Ada",
            familyName = "Writes",
            email = "ada.writes@example.com",
            phone = "020 910 0188",
        };
        async Task<ApiAnswer> WithAsync(string note)
        {
            JsonObject body = System.Text.Json.JsonSerializer.SerializeToNode(booking)!.AsObject();
            body["note"] = note;
            return await world.Stranger.PostAsync("/api/public/v1/visits", body, [World.Key(), Elsewhere()]);
        }

        foreach (string wrong in new[] { new string('x', 501), "a bell \a" }) (await WithAsync(wrong)).Field.ShouldBe("note");
        JsonNode visit = await VisitAsync(await WithAsync("  My left knee\nis new.  "));
        ((string)visit["clientNote"]!, (string)visit["note"]!).ShouldBe(("My left knee\nis new.", ""));
        ApiAnswer moved = await world.Desk.PostAsync(
            $"/api/v1/visits/{visit["id"]}/move",
            new { start = "2027-03-09T10:00:00Z" },
            [World.Match(visit), World.Key()]
        );
        moved.Status.ShouldBe(HttpStatusCode.OK, moved.Body?.ToJsonString());
        ((string)moved.Body!["clientNote"]!).ShouldBe("My left knee\nis new.");
    }

    [Fact]
    public async Task A_file_is_sent_first_and_comes_with_the_visit_for_the_staff_alone()
    {
        (await SendAsync(world.Stranger, _paper, "a.pdf", Elsewhere())).Code.ShouldBe("no-file-asked");
        JsonObject letter = await AskAsync("A letter from your doctor", "file", true),
            spot = await AskAsync("A picture of the spot", "file");
        try
        {
            ApiAnswer sent = await SendAsync(world.Stranger, _paper, "../my \u202Eletter.pdf", Elsewhere());
            sent.Status.ShouldBe(HttpStatusCode.Created, sent.Body?.ToJsonString());
            ((string)sent.Body!["name"]!).ShouldBe("my letter.pdf");
            string token = (string)sent.Body["token"]!;
            string picture = (string)(await SendAsync(world.Stranger, _picture, "IMG 1.png", Elsewhere())).Body!["token"]!;
            token.Length.ShouldBe(64);

            foreach (string wrong in new[] { "", "my letter.pdf", new string('0', 64), token.ToUpperInvariant() })
                (await BookAsync("2027-03-03T09:00:00Z", (letter, wrong))).Field.ShouldBe($"answers.{letter["id"]}", wrong);

            JsonNode visit = await VisitAsync(await BookAsync("2027-03-03T09:00:00Z", (letter, token), (spot, picture)));
            visit["answers"]!
                .AsArray()
                .Select(answer => Given(answer!))
                .ShouldBe(["A letter from your doctor file my letter.pdf", "A picture of the spot file IMG 1.jpg"]);
            visit.ToJsonString().ShouldNotContain(token);
            string at = $"/api/v1/visits/{visit["id"]}/answers";
            (await world.Desk.TextAsync($"{at}/{letter["id"]}/file")).ShouldBe("%PDF-1.7 made up");
            (await world.Desk.TextAsync($"{at}/{spot["id"]}/file")).ShouldNotContain("taken at home");
            (await world.Stranger.GetAsync($"{at}/{letter["id"]}/file")).Status.ShouldBe(HttpStatusCode.Unauthorized);
            (await world.Desk.GetAsync($"{at}/{Guid.NewGuid()}/file")).Status.ShouldBe(HttpStatusCode.NotFound);

            // What a visit needs stays; what none needs goes.
            await using NpgsqlConnection connection = await world.Database.Database.OpenAsync();
            await SendAsync(world.Stranger, _paper, "left.pdf", Elsewhere());
            await AnswerFileStore.SweepAsync(connection, SystemClock.Instance.GetCurrentInstant() + Duration.FromDays(10_000));
            (await connection.QueryAsync<string>("SELECT name FROM stored_file WHERE kind = 'answer' ORDER BY name")).ShouldBe(
                ["IMG 1.jpg", "my letter.pdf"]
            );
        }
        finally
        {
            await EndAsync(letter, spot);
        }
    }

    [Fact]
    public async Task What_cannot_be_read_is_too_large_or_too_much_is_refused_and_an_old_file_is_sent_again()
    {
        JsonObject letter = await AskAsync("A letter", "file");
        try
        {
            (string, string) here = Elsewhere();
            (await SendAsync(world.Stranger, "<script>"u8.ToArray(), "a.pdf", here)).Field.ShouldBe("file");
            (await SendAsync(world.Stranger, [], "a.pdf", here)).Field.ShouldBe("file");
            ApiAnswer large = await SendAsync(world.Stranger, [.. _paper, .. new byte[AnswerFiles.MostBytes]], "a.pdf", here);
            (large.Status, large.Field).ShouldBe((HttpStatusCode.BadRequest, "file"));
            JsonNode business = (await world.Stranger.GetAsync("/api/public/v1/business")).Body!;
            business["mostFileBytes"]!.GetValue<int>().ShouldBe(AnswerFiles.MostBytes);

            // A device that sends many at once has few of them kept.
            using ApiClient phone = new(world.Server);
            (string Range, string Address) there = Elsewhere();
            ApiAnswer first = await SendAsync(phone, _paper, "0.pdf", there);
            ApiAnswer[] rest = await Task.WhenAll(Enumerable.Range(1, 10).Select(i => SendAsync(phone, _paper, $"{i}.pdf", there)));
            rest.Count(answer => answer.Status == HttpStatusCode.Created).ShouldBe(AnswerFiles.MostOfDevice - 1);
            rest.Where(answer => answer.Status != HttpStatusCode.Created).ShouldAllBe(answer => answer.Code == "files-enough");
            // Nobody else is stopped by it.
            using ApiClient other = new(world.Server);
            (await SendAsync(other, _paper, "b.pdf", Elsewhere())).Status.ShouldBe(HttpStatusCode.Created);

            string token = (string)first.Body!["token"]!;
            await ScalarAsync<int>("UPDATE answer_file SET sent_at = sent_at - interval '25 hours' RETURNING 1");
            (await BookAsync("2027-03-04T09:00:00Z", (letter, token))).Field.ShouldBe($"answers.{letter["id"]}");
        }
        finally
        {
            await EndAsync(letter);
        }
    }
}
