using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Exchange;

/// <summary>Files of clients, services and practitioners: what is taken, what is refused, and how it goes back.</summary>
public sealed class ImportTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private static readonly Encoding _western = CodePagesEncodingProvider.Instance.GetEncoding(1252)!;

    private Task<ApiAnswer> UploadAsync(string kind, byte[] bytes, params (string, string)[] headers)
    {
        ByteArrayContent file = new(bytes);
        file.Headers.ContentType = new MediaTypeHeaderValue("text/csv");
        return world.Owner.SendAsync(
            HttpMethod.Post,
            $"/api/v1/imports?kind={kind}",
            new MultipartFormDataContent { { file, "file", "list.csv" } },
            headers
        );
    }

    private async Task<JsonObject> UploadedAsync(string kind, string text, Encoding? encoding = null)
    {
        ApiAnswer answer = await UploadAsync(kind, (encoding ?? Encoding.UTF8).GetBytes(text));
        answer.Status.ShouldBe(HttpStatusCode.Created, answer.Body?.ToJsonString());
        return answer.Body!.AsObject();
    }

    /// <summary>Asks for a step and waits until the work beside is done.</summary>
    private async Task<JsonObject> StepAsync(JsonObject import, string step, object body)
    {
        string path = $"/api/v1/imports/{import["id"]}";
        ApiAnswer answer = await world.Owner.PostAsync($"{path}/{step}", body);
        answer.Status.ShouldBe(HttpStatusCode.Accepted, answer.Body?.ToJsonString());
        Stopwatch patience = Stopwatch.StartNew();
        while (true)
        {
            JsonObject now = (await world.Owner.GetAsync(path)).Body!.AsObject();
            if (now["state"]!.GetValue<string>() is not ("checking" or "importing" or "undoing"))
                return now;
            patience.Elapsed.ShouldBeLessThan(TimeSpan.FromSeconds(60), now.ToJsonString());
            await Task.Delay(40, TestContext.Current.CancellationToken);
        }
    }

    private Task<JsonObject> CheckedAsync(JsonObject import, params (string Field, int? Column, string? Always)[] more) =>
        StepAsync(
            import,
            "check",
            new
            {
                columns = import["mapping"]!["columns"]!
                    .AsArray()
                    .Select(column =>
                        (Field: column!["field"]!.GetValue<string>(), Column: column["column"]?.GetValue<int>(), Always: (string?)null)
                    )
                    .Where(pair => more.All(other => other.Field != pair.Field))
                    .Concat(more)
                    .Select(pair => new
                    {
                        field = pair.Field,
                        column = pair.Column,
                        always = pair.Always,
                    }),
            }
        );

    private async Task<JsonArray> FaultsAsync(JsonObject import)
    {
        ApiAnswer answer = await world.Owner.GetAsync($"/api/v1/imports/{import["id"]}/faults");
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return answer.Body!.AsArray();
    }

    private async Task<int> FoundAsync(string search) =>
        (await world.Owner.GetAsync($"/api/v1/clients?search={Uri.EscapeDataString(search)}")).Body!.AsArray().Count;

    [Fact]
    public async Task Clients_of_another_encoding_are_read_every_bad_row_is_named_and_the_good_ones_can_be_taken_and_given_back()
    {
        JsonObject import = await UploadedAsync(
            "clients",
            "Surname;First name;Mobile;E-mail;Notes\r\nMüller;Zoë;020 910 0311;zoe.mueller@example.com;\"two\r\nlines\"\r\n"
                + "Nørby;;020 910 0312;;\r\n"
                + "Weiß;Jürgen;12;not an address;\r\n;;;;\r\nMüller;Zoë;;ZOE.MUELLER@example.com;again\r\nQuiñones;Ada;;;=1+1\r\n",
            _western
        );
        import["encoding"]!.GetValue<string>().ShouldStartWith("windows-125");
        import["rows"]!.GetValue<int>().ShouldBe(5);
        import["sample"]![0]![0]!.GetValue<string>().ShouldBe("Müller");
        JsonObject seen = await CheckedAsync(import);
        seen["state"]!.GetValue<string>().ShouldBe("checked", seen.ToJsonString());
        (seen["good"]!.GetValue<int>(), seen["bad"]!.GetValue<int>(), seen["known"]!.GetValue<int>()).ShouldBe((2, 2, 1));
        (await FoundAsync("zoe.mueller@example.com")).ShouldBe(0, "a dry run keeps nothing");
        JsonArray faults = await FaultsAsync(seen);
        faults
            .Select(fault =>
                (
                    fault!["line"]!.GetValue<int>(),
                    fault["field"]?.GetValue<string>(),
                    fault["isKnown"]!.GetValue<bool>(),
                    fault["value"]?.GetValue<string>()
                )
            )
            .ShouldBe([
                (4, "Given name", false, null),
                (5, "E-mail", false, "not an address"),
                (5, "Phone", false, "12"),
                (7, null, true, null),
            ]);

        ApiAnswer all = await world.Owner.PostAsync($"/api/v1/imports/{import["id"]}/run", new { goodRowsOnly = false });
        (all.Status, all.Code).ShouldBe((HttpStatusCode.Conflict, "bad-rows"));
        JsonObject done = await StepAsync(import, "run", new { goodRowsOnly = true });
        (done["state"]!.GetValue<string>(), done["added"]!.GetValue<int>(), done["canUndo"]!.GetValue<bool>()).ShouldBe(
            ("imported", 2, true)
        );
        JsonNode made = (await world.Owner.GetAsync("/api/v1/clients?search=zoe.mueller")).Body!.AsArray().Single()!;
        (made["familyName"]!.GetValue<string>(), made["phone"]!.GetValue<string>(), made["alert"]!.GetValue<string>()).ShouldBe(
            ("Müller", "+353209100311", "two\r\nlines")
        );

        ApiAnswer twice = await world.Owner.PostAsync($"/api/v1/imports/{import["id"]}/run", new { goodRowsOnly = true });
        (twice.Status, twice.Code).ShouldBe((HttpStatusCode.Conflict, "not-now"));
        string rest = await world.Owner.TextAsync($"/api/v1/imports/{import["id"]}/faults.csv");
        rest.ShouldContain("Line,What is wrong,Surname,First name");
        rest.ShouldContain("Jürgen");

        // One of them is booked before the import is taken back: that one stays.
        JsonNode ada = (await world.Owner.GetAsync("/api/v1/clients?search=Quiñones")).Body!.AsArray().Single()!;
        string service = await world.IdAsync("services", "Deep tissue 60");
        string location = await world.IdAsync("locations", "Mill Street");
        ApiAnswer booked = await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = location,
                start = "2027-03-11T11:00:00Z",
                lines = new[] { new { serviceId = service } },
                clientId = ada["id"],
            },
            World.Key()
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        JsonObject undone = await StepAsync(import, "undo", new { });
        (undone["state"]!.GetValue<string>(), undone["kept"]!.GetValue<int>()).ShouldBe(("undone", 1));
        (await FoundAsync("zoe.mueller")).ShouldBe(0);
        (await FoundAsync("Quiñones")).ShouldBe(1);
    }

    [Fact]
    public async Task Whoever_pays_comes_along_or_is_linked_stays_when_an_import_is_taken_back_and_the_rest_goes()
    {
        JsonObject import = await UploadedAsync(
            "clients",
            "Given name,Family name,E-mail\nPia,Payer,pia@example.com\nCam,Companion,cam@example.com\nLin,Linked,lin@example.com\n"
                + "Tom,Tied,tom@example.com\nNed,Nowhere,ned@example.com\n"
        );
        (await CheckedAsync(import))["good"]!.GetValue<int>().ShouldBe(5);
        await StepAsync(import, "run", new { });
        async Task<string> IdAsync(string family) =>
            (await world.Owner.GetAsync($"/api/v1/clients?search={family}")).Body!.AsArray().Single()!["id"]!.GetValue<string>();
        string review = await world.IdAsync("services", "Nutrition review 30");
        ApiAnswer booked = await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = await world.IdAsync("locations", "Mill Street"),
                start = "2027-03-10T11:00:00Z",
                lines = new object[] { new { serviceId = review }, new { serviceId = review, person = 1, offsetMinutes = 60 } },
                people = new[] { new { person = 1, clientId = await IdAsync("Companion") } },
                payerId = await IdAsync("Payer"),
                newClient = new
                {
                    givenName = "Una",
                    familyName = "Usual",
                    phone = "020 910 0099",
                },
            },
            World.Key()
        );
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body?.ToJsonString());
        (await world.Desk.PutAsync(
            $"/api/v1/clients/{await IdAsync("Linked")}/links/{await IdAsync("Tied")}",
            new { relation = "neighbour", mayBook = true },
            0
        )).Status.ShouldBe(HttpStatusCode.OK);

        JsonObject undone = await StepAsync(import, "undo", new { });
        (undone["state"]!.GetValue<string>(), undone["kept"]!.GetValue<int>()).ShouldBe(("undone", 4), undone.ToJsonString());
        (await FoundAsync("Nowhere")).ShouldBe(0);
        foreach (string family in new[] { "Payer", "Companion", "Linked", "Tied" })
            (await FoundAsync(family)).ShouldBe(1, family);
    }

    [Fact]
    public async Task A_file_whose_letters_come_out_wrong_is_read_again_in_another_encoding()
    {
        JsonObject import = await UploadedAsync(
            "clients",
            "Given name,Family name\nIwona,Żółkiewska\nJan,Dąbrowski\n",
            CodePagesEncodingProvider.Instance.GetEncoding(1250)!
        );
        string path = $"/api/v1/imports/{import["id"]}/encoding";
        (await world.Owner.PutAsync(path, new { encoding = "no-such" })).Field.ShouldBe("encoding");
        ApiAnswer again = await world.Owner.PutAsync(path, new { encoding = "windows-1250" });
        again.Body!["sample"]![0]![1]!.GetValue<string>().ShouldBe("Żółkiewska");
        again.Body!["encoding"]!.GetValue<string>().ShouldBe("windows-1250");
        (await CheckedAsync(again.Body!.AsObject()))["good"]!.GetValue<int>().ShouldBe(2);
    }

    [Fact]
    public async Task All_or_nothing_takes_nothing_while_a_row_is_bad()
    {
        JsonObject import = await UploadedAsync(
            "services",
            "Service,Category,Duration,Price,Staff\nStone soak,Water,50,\"1.084,50\",Ines Calloway\nStone "
                + "nap,Water,52,20,everyone\nStone song,Water,60,20,Nobody Known\nDeep tissue 60,Massage,60,1,everyone\n"
        );
        JsonObject seen = await CheckedAsync(import);
        (seen["good"]!.GetValue<int>(), seen["bad"]!.GetValue<int>(), seen["known"]!.GetValue<int>()).ShouldBe((1, 2, 1));
        seen["made"]!.AsArray().Select(entry => entry!.GetValue<string>()).ShouldBe(["category Water"]);
        JsonArray faults = await FaultsAsync(seen);
        faults
            .Select(fault => (fault!["line"]!.GetValue<int>(), fault["field"]?.GetValue<string>()))
            .Where(pair => pair.Item2 is not null)
            .Distinct()
            .ShouldBe([(3, "Minutes"), (4, "Practitioners")]);
        faults
            .Single(fault =>
                fault!["line"]!.GetValue<int>() == 4
                && fault["message"]!.GetValue<string>().Contains("Nobody Known", StringComparison.Ordinal)
            )
            .ShouldNotBeNull();
        ApiAnswer run = await world.Owner.PostAsync($"/api/v1/imports/{import["id"]}/run", new { goodRowsOnly = false });
        run.Code.ShouldBe("bad-rows");
        (await world.Owner.GetAsync("/api/v1/setup/categories")).Body!.ToJsonString().ShouldNotContain("Water");

        JsonObject done = await StepAsync(import, "run", new { goodRowsOnly = true });
        done["added"]!.GetValue<int>().ShouldBe(1);
        JsonObject soak = await world.OneAsync("services", "Stone soak");
        soak["price"]!.GetValue<long>().ShouldBe(108450);
        soak["roles"]![0]!["added"]!.AsArray().Count.ShouldBe(1);
        await StepAsync(import, "undo", new { });
        (await world.Owner.GetAsync("/api/v1/setup/services")).Body!.ToJsonString().ShouldNotContain("Stone soak");
        (await world.Owner.GetAsync("/api/v1/setup/categories")).Body!.ToJsonString().ShouldNotContain("Water");
    }

    [Fact]
    public async Task A_service_that_was_changed_since_stays_when_its_import_is_taken_back()
    {
        JsonObject import = await UploadedAsync(
            "services",
            "Name,Category,Phases,Price\nLamp peel A,Skin lamp,20 + 25 alone + 15,70\nLamp peel B,Skin lamp,30,40\n"
        );
        JsonObject seen = await CheckedAsync(import, ("practitioners", null, "everyone"));
        (seen["good"]!.GetValue<int>(), seen["bad"]!.GetValue<int>()).ShouldBe((2, 0), (await FaultsAsync(seen)).ToJsonString());
        await StepAsync(import, "run", new { });
        JsonObject peel = await world.OneAsync("services", "Lamp peel A");
        peel["phases"]!
            .AsArray()
            .Select(phase => (phase!["minutes"]!.GetValue<int>(), phase["attendedBy"]!.AsArray().Count))
            .ShouldBe([(20, 1), (25, 0), (15, 1)]);
        await world.Owner.ChangeAsync($"/api/v1/setup/services/{peel["id"]}", peel, entry => entry["price"] = 7500);
        JsonObject undone = await StepAsync(import, "undo", new { });
        undone["kept"]!.GetValue<int>().ShouldBe(1);
        string left = (await world.Owner.GetAsync("/api/v1/setup/services")).Body!.ToJsonString();
        left.ShouldContain("Lamp peel A");
        left.ShouldNotContain("Lamp peel B");
        (await world.Owner.GetAsync("/api/v1/setup/categories")).Body!.ToJsonString().ShouldContain("Skin lamp");
    }

    [Fact]
    public async Task Practitioners_come_with_what_they_hold()
    {
        JsonObject import = await UploadedAsync(
            "practitioners",
            "Staff member\tSkills\tSpeaks\tNew clients\nOona Falk\tCupping from 2026-01-10 until 2027-12-28; Massage "
                + "therapy\tIrish; Danish\tno\nPer Holm\tCupping until 03/04/2027\t\tperhaps\n"
        );
        JsonObject seen = await CheckedAsync(import);
        (await FaultsAsync(seen))
            .Select(fault => (fault!["line"]!.GetValue<int>(), fault["field"]!.GetValue<string>()))
            .ShouldBe([(3, "Qualifications"), (3, "Takes new clients")]);
        JsonObject done = await StepAsync(import, "run", new { goodRowsOnly = true });
        done["added"]!.GetValue<int>().ShouldBe(1);
        JsonObject oona = await world.OneAsync("practitioners", "Oona Falk");
        oona["acceptsNewClients"]!.GetValue<bool>().ShouldBeFalse();
        oona["languages"]!.AsArray().Count.ShouldBe(2);
        string cupping = await world.IdAsync("qualifications", "Cupping");
        JsonNode held = oona["qualifications"]!
            .AsArray()
            .Single(qualification => qualification!["qualificationId"]!.GetValue<string>() == cupping)!;
        (held["from"]!.GetValue<string>(), held["until"]!.GetValue<string>()).ShouldBe(("2026-01-10", "2027-12-28"));
        // The history names whoever ran it, when it was run.
        JsonNode ran = (await world.Owner.GetAsync("/api/v1/setup/history"))
            .Body!.AsArray()
            .First(entry => entry!["subjectKind"]!.GetValue<string>() == "import")!;
        (ran["actor"]!.GetValue<string>(), ran["action"]!.GetValue<string>()).ShouldBe(("Hester Marlow", "Imported"));
        (await StepAsync(import, "undo", new { }))["kept"]!.GetValue<int>().ShouldBe(0);
        (await world.Owner.GetAsync("/api/v1/setup/practitioners")).Body!.ToJsonString().ShouldNotContain("Oona");
        (await world.Owner.GetAsync("/api/v1/setup/qualifications")).Body!.ToJsonString().ShouldNotContain("Cupping");
    }

    [Fact]
    public async Task Stretches_of_one_qualification_are_all_taken_unless_they_overlap()
    {
        JsonObject import = await UploadedAsync(
            "practitioners",
            "Name,Qualifications\nOna Reed,Moxa from 2024-01-01 until 2025-01-01; Moxa from 2026-01-01\nPia Sedge,Moxa from "
                + "2024-01-01; Moxa from 2025-01-01\n"
        );
        JsonObject seen = await CheckedAsync(import);
        (await FaultsAsync(seen)).Single()!["message"]!.GetValue<string>().ShouldBe("Two stretches of Moxa overlap.");
        await StepAsync(import, "run", new { goodRowsOnly = true });
        (await world.OneAsync("practitioners", "Ona Reed"))["qualifications"]!.AsArray().Count.ShouldBe(2);
        await StepAsync(import, "undo", new { });
    }

    [Fact]
    public async Task Two_imports_of_the_same_clients_at_once_bring_each_of_them_once()
    {
        const string rows = "Given name,Family name,E-mail\nTwin,Reedmace,twin.reedmace@example.com\n";
        JsonObject[] both = [await UploadedAsync("clients", rows), await UploadedAsync("clients", rows)];
        foreach (JsonObject entry in both)
            (await CheckedAsync(entry))["good"]!.GetValue<int>().ShouldBe(1);
        JsonObject[] done = await Task.WhenAll(both.Select(entry => StepAsync(entry, "run", new { })));
        done.Sum(entry => entry["added"]!.GetValue<int>()).ShouldBe(1);
        (await FoundAsync("twin.reedmace")).ShouldBe(1);
        foreach (JsonObject entry in done.Where(node => node["canUndo"]!.GetValue<bool>()))
            await StepAsync(entry, "undo", new { });
    }

    public static TheoryData<string, byte[], string> NoFiles =>
        new()
        {
            { "nothing", [], "empty" },
            { "heads only", "Given name,Family name\n"u8.ToArray(), "no rows" },
            { "a spreadsheet", [0x50, 0x4B, 3, 4, 20, 0, 6, 0], "save it as CSV" },
            { "not text", [1, 2, 0, 3, 4, 0, 5], "not a text file" },
            {
                "an open quotation mark",
                Encoding.UTF8.GetBytes(
                    "Given name,Family name\nAda,\"Quinn\nBo,Falk\n" + string.Concat(Enumerable.Repeat("Name,Name\n", 40_000))
                ),
                "quotation mark"
            },
        };

    [Theory]
    [MemberData(nameof(NoFiles))]
    public async Task A_file_that_is_none_is_refused_with_what_to_do(string what, byte[] bytes, string words)
    {
        ApiAnswer answer = await UploadAsync("clients", bytes);
        answer.Status.ShouldBe(HttpStatusCode.BadRequest, what);
        answer.Field.ShouldBe("file");
        answer.Body!["detail"]!.GetValue<string>().ShouldContain(words);
    }

    [Fact]
    public async Task A_million_rows_are_refused_before_anything_is_kept()
    {
        StringBuilder text = new("Given name,Family name,E-mail\n", 40_000_000);
        for (int i = 0; i < 1_000_000; i++)
            text.Append(CultureInfo.InvariantCulture, $"Ada,Quinn{i},a{i}@example.com\n");
        int before = (await world.Owner.GetAsync("/api/v1/imports")).Body!.AsArray().Count;
        ApiAnswer answer = await UploadAsync("clients", Encoding.UTF8.GetBytes(text.ToString()));
        (answer.Status, answer.Field).ShouldBe((HttpStatusCode.BadRequest, "file"));
        answer.Body!["detail"]!.GetValue<string>().ShouldContain("more than 200,000 rows");
        (await world.Owner.GetAsync("/api/v1/imports")).Body!.AsArray().Count.ShouldBe(before);
        // Asked before it sends the body, as a program would that knows how large it is.
        ApiAnswer larger = await UploadAsync("clients", new byte[70 * 1024 * 1024], ("Expect", "100-continue"));
        (larger.Status, larger.Code).ShouldBe((HttpStatusCode.RequestEntityTooLarge, "too-large"));
    }

    [Fact]
    public async Task A_mapping_that_says_too_little_is_refused_at_its_fields()
    {
        JsonObject import = await UploadedAsync("clients", "Ada;Quinn\nBo;Falk\n");
        string path = $"/api/v1/imports/{import["id"]}/check";
        (await world.Owner.PostAsync(path, new { columns = Array.Empty<object>() })).Field.ShouldBe("givenName");
        (await world.Owner.PostAsync(path, new { columns = new[] { new { field = "wholeName", column = 9 } } })).Field.ShouldBe(
            "columns[0].column"
        );
        (await world.Owner.PostAsync(path, new { columns = new[] { new { field = "shoeSize", column = 0 } } })).Field.ShouldBe(
            "columns[0].field"
        );
        ApiAnswer early = await world.Owner.PostAsync($"/api/v1/imports/{import["id"]}/run", new { });
        early.Code.ShouldBe("not-now");
        (await world.Owner.DeleteAsync($"/api/v1/imports/{import["id"]}")).Status.ShouldBe(HttpStatusCode.NoContent);
        (await world.Owner.GetAsync($"/api/v1/imports/{import["id"]}")).Status.ShouldBe(HttpStatusCode.NotFound);
    }

    [Theory]
    [InlineData("services")]
    [InlineData("practitioners")]
    public async Task What_goes_out_comes_in_again_column_by_column(string kind)
    {
        string text = await world.Owner.TextAsync($"/api/v1/export/{kind}.csv");
        JsonObject import = await UploadedAsync(kind, text);
        import["mapping"]!["columns"]!.AsArray().Count.ShouldBe(import["fields"]!.AsArray().Count, "every column is found");
        JsonObject seen = await CheckedAsync(import);
        (seen["bad"]!.GetValue<int>(), seen["good"]!.GetValue<int>()).ShouldBe((0, 0), (await FaultsAsync(seen)).ToJsonString());
        seen["known"]!.GetValue<int>().ShouldBe(seen["rows"]!.GetValue<int>());
        // Under other names every row stands as it did.
        string[] lines = text.TrimStart('\uFEFF').Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        JsonObject others = await UploadedAsync(
            kind,
            string.Join(
                "\r\n",
                lines.Select(
                    (line, i) =>
                        i == 0 ? line
                        : line[0] == '"' ? "\"Other " + line[1..]
                        : "Other " + line
                )
            )
        );
        JsonObject fits = await CheckedAsync(others);
        fits["good"]!.GetValue<int>().ShouldBe(seen["rows"]!.GetValue<int>(), (await FaultsAsync(fits)).ToJsonString());
    }

    [Fact]
    public async Task Clients_go_out_as_rows_and_as_cards_and_the_history_says_who_took_them()
    {
        JsonObject import = await UploadedAsync(
            "clients",
            "Given name,Family name,Phone,E-mail,Alert\nOda,\"Sæther; Lund\",+353 85 012 3456,oda@example.com,'=cmd()\n"
        );
        await CheckedAsync(import);
        await StepAsync(import, "run", new { });
        string rows = await world.Owner.TextAsync("/api/v1/export/clients.csv");
        rows.ShouldContain("Oda,Sæther; Lund,Oda Sæther; Lund,oda@example.com,'+353850123456,'=cmd(),yes");
        string cards = await world.Owner.TextAsync("/api/v1/export/clients.vcf");
        cards.ShouldContain("BEGIN:VCARD\r\nVERSION:4.0\r\n");
        cards.ShouldContain("N:Sæther\\; Lund;Oda;;;\r\nEMAIL:oda@example.com\r\nTEL;VALUE=uri:tel:+353850123456\r\nEND:VCARD\r\n");
        JsonArray history = (await world.Owner.GetAsync("/api/v1/setup/history")).Body!.AsArray();
        history
            .Count(entry => entry!["action"]!.GetValue<string>() == "Exported" && entry["actor"]!.GetValue<string>().Length > 0)
            .ShouldBeGreaterThanOrEqualTo(2);
        await StepAsync(import, "undo", new { });
    }

    [Fact]
    public async Task An_import_that_has_brought_nothing_is_given_up_with_its_file_and_one_that_has_is_not()
    {
        JsonObject import = await UploadedAsync("clients", "given name,family name,email\nGil,Upton,gil@example.com\n");
        string path = $"/api/v1/imports/{import["id"]}";
        (await CheckedAsync(import))["good"]!.GetValue<int>().ShouldBe(1);
        using ApiClient desk = await ApiClient.SignedInAsync(world.Server);
        (await desk.DeleteAsync(path)).Status.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Owner.DeleteAsync(path)).Status.ShouldBe(HttpStatusCode.NoContent);
        (await world.Owner.GetAsync(path)).Status.ShouldBe(HttpStatusCode.NotFound);
        (await world.Owner.PostAsync($"{path}/run", new { goodRowsOnly = true })).Status.ShouldBe(HttpStatusCode.NotFound);
        (await world.Owner.DeleteAsync(path)).Status.ShouldBe(HttpStatusCode.NotFound);
        (await world.Desk.GetAsync("/api/v1/clients?search=gil%40example.com")).Body!.AsArray().ShouldBeEmpty();

        JsonObject kept = await UploadedAsync("clients", "given name,family name,email\nHal,Upton,hal@example.com\n");
        await CheckedAsync(kept);
        JsonObject run = await StepAsync(kept, "run", new { goodRowsOnly = true });
        run["state"]!.GetValue<string>().ShouldBe("imported", run.ToJsonString());
        ApiAnswer refused = await world.Owner.DeleteAsync($"/api/v1/imports/{kept["id"]}");
        refused.Status.ShouldBe(HttpStatusCode.Conflict, refused.Body?.ToJsonString());
        (await world.Desk.GetAsync("/api/v1/clients?search=hal%40example.com")).Body!.AsArray().Count.ShouldBe(1);
    }
}
