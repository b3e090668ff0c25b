using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Business;

/// <summary>The two pages as they are sent: in the business's language, and the booking page with the business in it.</summary>
public sealed class PagesTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    [Fact]
    public async Task The_booking_page_carries_the_business_as_anyone_may_read_it()
    {
        await using Served served = await Served.StartAsync(world);
        JsonNode? asked = JsonNode.Parse(await served.Http.GetStringAsync("/api/public/v1/business"));
        foreach (string address in new[] { "/book", "/book/anything?what=1" })
        {
            string page = await served.Http.GetStringAsync(address);
            JsonNode? written = JsonNode.Parse(Between(page, "<script id=\"business\" type=\"application/json\">", "</script>"));
            JsonNode.DeepEquals(written, asked).ShouldBeTrue();
            page.ShouldContain($"<html lang=\"{(string)asked!["locale"]!}\">");
            page.ShouldContain("<meta name=\"description\" content=\"");
        }
    }

    [Fact]
    public async Task The_booking_page_is_read_without_scripts_and_a_link_to_a_service_is_known_by_it()
    {
        await using Served served = await Served.StartAsync(world);
        JsonNode business = JsonNode.Parse(await served.Http.GetStringAsync("/api/public/v1/business"))!;
        JsonNode service = business["categories"]!.AsArray().SelectMany(category => category!["services"]!.AsArray()).First()!;
        JsonNode place = business["locations"]![0]!;
        string page = await served.Http.GetStringAsync("/book");
        string plain = WebUtility.HtmlDecode(Between(page, "<div class=\"plain\">", "</div>"));
        plain.ShouldContain((string)place["address"]!);
        plain.ShouldContain($"<li>{(string)place["hours"]![0]!["days"]!} {(string)place["hours"]![0]!["open"]!}</li>");
        plain.ShouldContain($"<li>{(string)service["name"]!}</li>");
        // The tests' day is followed by a closure of the demo.
        JsonNode closed = place["closed"]!.AsArray().First()!;
        plain.ShouldContain($"<li>{(string)closed["days"]!} {(string?)closed["words"] ?? "closed"}</li>");

        string shared = WebUtility.HtmlDecode(await served.Http.GetStringAsync($"/book?what={(string)service["id"]!}"));
        shared.ShouldContain($"<title>{(string)service["name"]!} at {(string)business["name"]!}</title>");
        shared.ShouldContain($"<meta property=\"og:title\" content=\"{(string)service["name"]!} at {(string)business["name"]!}\" />");
        // A link to a location is known by it and by where that is.
        string there = WebUtility.HtmlDecode(await served.Http.GetStringAsync($"/book?where={(string)place["id"]!}"));
        there.ShouldContain($"<title>Book at {(string)business["name"]!}, {(string)place["name"]!}</title>");
        Between(there, "<meta name=\"description\" content=\"", "\" />").ShouldStartWith($"{(string)place["address"]!}. ");
        // A service there is none of, or that is hidden, is the business's page.
        WebUtility.HtmlDecode(await served.Http.GetStringAsync($"/book?what={Guid.NewGuid()}"))
            .ShouldContain($"<title>Book at {(string)business["name"]!}</title>");
    }

    [Fact]
    public async Task No_text_of_the_business_gets_out_of_the_place_it_is_written_in()
    {
        await using Served served = await Served.StartAsync(world);
        const string Name = "Rush & <b>Reed</b>\"", About = "</script><script>alert(1)</script>";
        JsonObject before = (await world.Owner.GetAsync("/api/v1/setup/business")).Body!.AsObject();
        JsonObject changed = await world.Owner.ChangeAsync(
            "/api/v1/setup/business",
            before,
            entry =>
            {
                entry["name"] = Name;
                entry["about"] = About;
            }
        );
        string page = await served.Http.GetStringAsync("/book");
        page.ShouldContain("<title>Book at Rush &amp; &lt;b&gt;Reed&lt;/b&gt;&quot;</title>");
        page.ShouldNotContain("<script>alert");
        JsonNode? written = JsonNode.Parse(Between(page, "<script id=\"business\" type=\"application/json\">", "</script>"));
        ((string)written!["about"]!).ShouldBe(About);
        await world.Owner.ChangeAsync(
            "/api/v1/setup/business",
            changed,
            entry =>
            {
                entry["name"] = (string)before["name"]!;
                entry["about"] = (string?)before["about"];
            }
        );
    }

    [Theory]
    [InlineData("/")]
    [InlineData("/team/anybody/rota")]
    public async Task The_desks_page_speaks_the_businesss_language_at_every_address_of_a_sheet(string address)
    {
        await using Served served = await Served.StartAsync(world);
        string locale = (string)(await world.Owner.GetAsync("/api/v1/setup/business")).Body!["locale"]!;
        string page = await served.Http.GetStringAsync(address);
        page.ShouldBe(Served.Desk.Replace("\"en\"", $"\"{locale}\"", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("/api/v1/nothing")]
    [InlineData("/missing.js")]
    public async Task What_belongs_to_programs_is_never_answered_with_a_page(string address)
    {
        await using Served served = await Served.StartAsync(world);
        HttpResponseMessage answer = await served.Http.GetAsync(address);
        answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        answer.Content.Headers.ContentType?.MediaType.ShouldNotBe("text/html");
    }

    [Fact]
    public async Task Whoever_asks_too_often_gets_the_page_alone()
    {
        await using Served served = await Served.StartAsync(world, "--Limits:page=0");
        HttpResponseMessage answer = await served.Http.GetAsync("/book");
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await answer.Content.ReadAsStringAsync()).ShouldBe(Served.Booking);
    }

    [Fact]
    public async Task The_name_stands_on_the_booking_page_before_its_program_does()
    {
        await using Served served = await Served.StartAsync(world);
        string name = (string)JsonNode.Parse(await served.Http.GetStringAsync("/api/public/v1/business"))!["name"]!;
        string drawn = Between(await served.Http.GetStringAsync("/book"), "<div id=\"root\">", "</div>");
        drawn.ShouldEndWith(WebUtility.HtmlEncode(name));
    }

    [Fact]
    public async Task A_language_the_screens_were_translated_to_is_named_in_the_pages_and_no_other()
    {
        await using Served served = await Served.StartAsync(world);
        served.Write("words/de.js", "globalThis.kingcupWords={};");
        (await served.Http.GetStringAsync("/book")).ShouldNotContain("/words/");
        JsonObject before = (await world.Owner.GetAsync("/api/v1/setup/business")).Body!.AsObject();
        JsonObject changed = await world.Owner.ChangeAsync("/api/v1/setup/business", before, entry => entry["locale"] = "de-AT");
        foreach (string address in new[] { "/book", "/", "/team" })
            (await served.Http.GetStringAsync(address)).ShouldContain("<html lang=\"de-AT\"><head><script src=\"/words/de.js\"></script>");
        await world.Owner.ChangeAsync("/api/v1/setup/business", changed, entry => entry["locale"] = (string)before["locale"]!);
    }

    [Fact]
    public async Task A_built_file_is_sent_packed_to_whoever_takes_it_and_whole_to_others()
    {
        await using Served served = await Served.StartAsync(world);
        served.Write("assets/desk-1.js", "whole");
        served.Write("assets/desk-1.js.br", "packed");
        served.Write("assets/alone-1.js", "alone");
        foreach (
            (string file, string? takes, string text, string? encoding) in new[]
            {
                ("desk-1.js", "gzip, br", "packed", "br"),
                ("desk-1.js", "br;q=0", "whole", null),
                ("desk-1.js", null, "whole", null),
                ("alone-1.js", "br;q=0", "alone", null),
            }
        )
        {
            using HttpRequestMessage request = new(HttpMethod.Get, $"/assets/{file}");
            if (takes is not null) request.Headers.TryAddWithoutValidation("Accept-Encoding", takes);
            using HttpResponseMessage answer = await served.Http.SendAsync(request);
            (await answer.Content.ReadAsStringAsync()).ShouldBe(text, $"{file} for {takes}");
            answer.Content.Headers.ContentEncoding.SingleOrDefault().ShouldBe(encoding);
            answer.Content.Headers.ContentType!.MediaType.ShouldBe("text/javascript");
            answer.Headers.CacheControl!.MaxAge.ShouldBe(TimeSpan.FromDays(365));
        }
    }

    [Fact]
    public async Task Only_the_owners_own_sites_may_show_the_booking_page_in_a_frame_and_nothing_else_of_it()
    {
        await using Served served = await Served.StartAsync(world);
        async Task<string> FramesAsync(string path)
        {
            using HttpResponseMessage page = await served.Http.GetAsync(path);
            string policy = page.Headers.GetValues("Content-Security-Policy").ShouldHaveSingleItem();
            return policy.Split("; ").Single(part => part.StartsWith("frame-ancestors", StringComparison.Ordinal));
        }

        async Task<ApiAnswer> LetAsync(params string[] sites)
        {
            JsonObject page = (await world.Owner.GetAsync("/api/v1/setup/booking-page")).Body!.AsObject();
            page["frameSites"] = new JsonArray([.. sites.Select(site => (JsonNode)site)]);
            return await world.Owner.PutAsync("/api/v1/setup/booking-page", page, (long)page["version"]!);
        }

        (await FramesAsync("/book")).ShouldBe("frame-ancestors 'none'");
        (await LetAsync("https://www.example.org", "https://evil.example; script-src *")).Field.ShouldBe("frameSites[1]");
        (await LetAsync([.. Enumerable.Range(0, 11).Select(i => $"https://{i}.example.org")])).Field.ShouldBe("frameSites");
        (await LetAsync("WWW.example.org/about", "https://www.example.org", "http://localhost:8080")).Status.ShouldBe(HttpStatusCode.OK);
        (await FramesAsync("/book")).ShouldBe("frame-ancestors https://www.example.org http://localhost:8080");
        (await FramesAsync("/book?what=x")).ShouldContain("https://www.example.org");
        foreach (string path in (string[])["/book/mine", "/", "/setup", "/api/public/v1/business"])
            (await FramesAsync(path)).ShouldBe("frame-ancestors 'none'", path);
        (await LetAsync()).Status.ShouldBe(HttpStatusCode.OK);
        (await FramesAsync("/book")).ShouldBe("frame-ancestors 'none'");
    }

    private static string Between(string text, string begin, string end)
    {
        int from = text.IndexOf(begin, StringComparison.Ordinal) + begin.Length;
        return text[from..text.IndexOf(end, from, StringComparison.Ordinal)];
    }
}
