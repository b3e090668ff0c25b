using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Business;

/// <summary>What the server says, in the language of the business.</summary>
public sealed class LanguageTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string German = """
        {
          "forms": [],
          "messages": {
            "There is nothing at this address.": ["Hier ist nichts."],
            "There is no such location.": ["Diesen Standort gibt es nicht."],
            "Book at {0}": ["Termin bei ", ["0"]],
            "{0}'s {1} ends on {2}, and nobody else who works then holds it.": [["2"], " endet ", ["1"], " von ", ["0"], "."]
          }
        }
        """;

    /// <summary>Does something while the business speaks another language, which is told to the server that is not asked.</summary>
    private async Task WhileSpeakingAsync(string locale, Func<Task> ask)
    {
        JsonObject before = (await world.Owner.GetAsync("/api/v1/setup/business")).Body!.AsObject();
        JsonObject changed = await world.Owner.ChangeAsync("/api/v1/setup/business", before, entry => entry["locale"] = locale);
        await ask();
        await world.Owner.ChangeAsync("/api/v1/setup/business", changed, entry => entry["locale"] = (string)before["locale"]!);
    }

    private static async Task<string> DetailAsync(Served served, string address)
    {
        using HttpResponseMessage answer = await served.Http.GetAsync(new Uri(address, UriKind.Relative));
        return (string)JsonNode.Parse(await answer.Content.ReadAsStringAsync())!["detail"]!;
    }

    [Fact]
    public async Task The_server_speaks_the_language_of_the_business_where_somebody_has_written_it()
    {
        await using Served served = await Served.StartAsync(world);
        served.Write(
            "words/de.json",
            German
        );
        JsonObject before = (await world.Owner.GetAsync("/api/v1/setup/business")).Body!.AsObject();
        JsonObject changed = await world.Owner.ChangeAsync("/api/v1/setup/business", before, entry => entry["locale"] = "de-AT");
        string name = WebUtility.HtmlEncode((string)before["name"]!);
        (await served.Http.GetStringAsync("/book")).ShouldContain($"<title>Termin bei {name}</title>");
        using HttpResponseMessage nothing = await served.Http.GetAsync(new Uri("/api/nothing", UriKind.Relative));
        ((string)JsonNode.Parse(await nothing.Content.ReadAsStringAsync())!["detail"]!).ShouldBe("Hier ist nichts.");
        // What nobody has translated yet is said in English.
        using StringContent body = new("{", System.Text.Encoding.UTF8, "application/json");
        using HttpResponseMessage bad = await served.Http.PostAsync(new Uri("/api/public/v1/price", UriKind.Relative), body);
        ((string)JsonNode.Parse(await bad.Content.ReadAsStringAsync())!["detail"]!)
            .ShouldStartWith("The body is not the JSON expected here");
        await world.Owner.ChangeAsync("/api/v1/setup/business", changed, entry => entry["locale"] = (string)before["locale"]!);
        (await served.Http.GetStringAsync("/book")).ShouldContain($"<title>Book at {name}</title>");
    }

    [Fact]
    public async Task A_refusal_and_a_cause_are_told_in_it_with_its_dates_and_in_English_again_afterwards()
    {
        await using Served served = await Served.StartAsync(world);
        served.Write("words/de.json", German);
        using ApiClient owner = await ApiClient.SignedInAsync(served.Server, "owner@harrowmere.test");
        async Task<string[]> CausesAsync() =>
        [
            .. (await owner.GetAsync("/api/v1/setup/readiness")).Body!["issues"]!
                .AsArray()
                .Select(issue => issue!["cause"]!.GetValue<string>())
                .Where(cause => cause.Contains("Suki Amara", StringComparison.Ordinal))
                .Distinct(),
        ];
        string english = (await CausesAsync()).ShouldHaveSingleItem();
        english.ShouldMatch(
            "^Suki Amara's Laser safety ends on [0-9]+ [A-Z][a-z]+ 20[0-9]{2}, and nobody else who works then holds it[.]$"
        );
        await WhileSpeakingAsync(
            "de-DE",
            async () =>
            {
                (await CausesAsync()).ShouldHaveSingleItem()
                    .ShouldMatch("^[0-9]+[.] [A-Z][a-zä]+ 20[0-9]{2} endet Laser safety von Suki Amara[.]$");
                object nowhere = new
                {
                    locationId = Guid.NewGuid(),
                    lines = new[] { new { serviceId = Guid.NewGuid() } },
                    from = "2027-03-08",
                    days = 1,
                };
                ApiAnswer refused = await owner.PostAsync("/api/public/v1/starts", nowhere);
                refused.Status.ShouldBe(HttpStatusCode.BadRequest);
                refused.Body!["detail"]!.GetValue<string>().ShouldBe("Diesen Standort gibt es nicht.");
            }
        );
        (await CausesAsync()).ShouldHaveSingleItem().ShouldBe(english);
    }

    [Theory]
    [InlineData("{")]
    [InlineData("{}")]
    [InlineData("""{"forms":[1],"messages":{"There is nothing at this address.":["Hier ist nichts."]}}""")]
    public async Task Words_that_cannot_be_read_leave_it_with_English(string words)
    {
        await using Served served = await Served.StartAsync(world);
        served.Write("words/de.json", words);
        await WhileSpeakingAsync(
            "de-AT",
            async () =>
            {
                (await served.Http.GetStringAsync("/book")).ShouldContain("<title>Book at ");
                (await DetailAsync(served, "/api/nothing")).ShouldBe("There is nothing at this address.");
            }
        );
    }

    [Fact]
    public async Task A_country_writes_times_its_own_way_in_the_book()
    {
        string place = (string)(await world.OneAsync("locations", "Mill Street"))["id"]!;
        async Task<string> HourAsync() =>
            (await world.Desk.GetAsync($"/api/v1/locations/{place}/days/2027-03-02")).Body!["hours"]![1]!["label"]!.GetValue<string>();
        string usual = await HourAsync();
        usual.ShouldMatch("^[0-9]{2}:00$");
        await WhileSpeakingAsync("en-US", async () => (await HourAsync()).ShouldMatch("^[0-9]{1,2}:00\\s(AM|PM)$"));
        (await HourAsync()).ShouldBe(usual);
    }
}
