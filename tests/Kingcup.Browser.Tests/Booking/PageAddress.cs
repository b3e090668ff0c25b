using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>The booking page keeps everything chosen in its address.</summary>
public sealed class PageAddress : DemoHouse
{
    [Fact]
    public void Back_goes_a_step_back_a_reload_keeps_all_and_a_link_leads_to_the_same()
    {
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Find("//h2[normalize-space()='When?']");
        phone.Press("//button[normalize-space()='whoever is free']");
        phone.Press("//button[contains(., 'Celia Voss')]");
        phone.Time("Thursday 4 March", "10:00");
        phone.Find("//h2[normalize-space()='Who is coming?']");
        // The focus is where the next thing is.
        phone.Until(() => phone.Script("return document.activeElement.textContent") is "Who is coming?", "the step to have the focus");
        phone.Fill("Given name", "Cal");
        phone.Reload();
        phone.Find("//form");
        phone.Until(() => phone.Script("return document.querySelector('form input').value") is "Cal", "what was typed to be there");
        phone.Find("//h1[contains(., 'Celia Voss') and contains(., 'Thu 4 Mar at 10:00')]");
        string link = new Uri(phone.Url).PathAndQuery;
        link.ShouldNotContain("Cal&");

        phone.Script("history.back()");
        phone.Find("//section[starts-with(@aria-label, 'Thursday 4 March,')]//button[@aria-expanded='true']");
        phone.Script("history.back()");
        phone.Find("//h2[normalize-space()='By whom?']");
        phone.Script("history.back()");
        phone.Find("//h2[normalize-space()='When?']");

        using Browser friend = new(Server);
        friend.Go(link);
        friend.Find("//h1[contains(., 'Nutrition first 60') and contains(., 'Celia Voss') and contains(., 'Thu 4 Mar at 10:00')]");
        friend.Find("//h2[normalize-space()='Who is coming?']");
        friend.Script("return document.querySelector('form input').value").ShouldBe("");
    }

    [Fact]
    public async Task A_link_leads_to_a_category_or_to_somebody_and_the_rest_is_a_press_away()
    {
        using ApiClient asking = new(Server);
        JsonNode categories = (await asking.GetAsync("/api/public/v1/business")).Body!["categories"]!;
        JsonNode last = categories.AsArray()[^1]!;
        JsonNode celia = categories
            .AsArray()
            .SelectMany(category => category!["services"]!.AsArray())
            .SelectMany(service => service!["practitioners"]!.AsArray())
            .First(who => (string)who!["name"]! == "Celia Voss")!;
        using Browser phone = new(Server, 390, 844);
        phone.Go($"/book?of={(string)last["id"]!}");
        phone.Find($"//details[@open and .//h2[normalize-space()='{(string)last["name"]!}']]");
        phone.Count("//main//details[@open]").ShouldBe(1);
        phone.AxeFindsNothing();
        phone.Go($"/book?who={(string)celia["id"]!}");
        phone.Says("What Celia Voss does.");
        phone.Count("//button[contains(., 'Deep tissue 60')]").ShouldBe(0);
        phone.AxeFindsNothing();
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Find("//h2[normalize-space()='When?']");
        phone.Find("//h1[contains(., 'Celia Voss')]");
        phone.Script("history.back()");
        phone.Button("Show everything");
        phone.Find("//button[contains(., 'Deep tissue 60')]");
    }

    [Fact]
    public void An_extra_of_which_the_owner_says_something_is_asked_before_the_time()
    {
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Deep tissue 60')]");
        phone.Says("Warmed before you come.");
        phone.AxeFindsNothing();
        phone.Find("//button[.='No extras; to the free times']");
        phone.Press("//button[contains(., 'Hot oil')]");
        phone.Says("from €93.50");
        phone.Button("To the free times");
        phone.Find("//h2[normalize-space()='When?']");
        phone.Find("//h1[contains(., 'with Hot oil')]");
        phone.Script("history.back()");
        phone.Find("//button[contains(., '✓ Hot oil')]");
    }

    [Fact]
    public void Only_the_day_that_is_open_shows_times_and_the_sentence_stays_on_top()
    {
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//summary[contains(., 'Opening hours')]");
        phone.Find("//section[@aria-label='Mill Street' and contains(., 'Mon–Fri')]//a[contains(., 'Show the way')]");
        phone.AxeFindsNothing();
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Find("//section//button[@aria-expanded='true']");
        phone.Count("//section//button[@aria-expanded='true']").ShouldBe(1);
        phone.Count("//section[.//button[@aria-expanded='false']]//h3").ShouldBe(0);
        phone.Script("window.scrollTo(0, document.body.scrollHeight)");
        phone.Find("//button[contains(., 'Nutrition first 60') and contains(., '60 min') and contains(., 'nothing to pay now')]");
        phone.AxeFindsNothing();
        phone.Choose("Part of the day", "evenings");
        phone.Choose("Days", "Saturdays");
        phone.Find("//h2[normalize-space()='Nothing free then' or normalize-space()='When?']");
        phone.Number("return document.documentElement.scrollWidth - window.innerWidth").ShouldBeLessThanOrEqualTo(0);
    }
}
