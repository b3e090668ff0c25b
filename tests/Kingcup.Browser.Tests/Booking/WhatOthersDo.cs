using System.Text.Json.Nodes;
using Kingcup.Testing;
using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>What comes in between: somebody else, a lost connection, a screen that is small.</summary>
public sealed class WhatOthersDo : DemoHouse
{
    private const string Block = "//*[@data-lane='Ines Calloway']//button[@data-visit]";
    private const string Sheet = "//aside[@aria-label='Maren Holt']";

    private static string At(string when) => $"{Block[..^1]} and contains(@aria-label, '{when}')]";

    private async Task<JsonNode> BookAsync()
    {
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        return await Visits.BookAsync(desk, MillStreet, "Deep tissue 60", "2027-03-03T10:00:00Z", "Ines Calloway", "Maren", "Holt");
    }

    private async Task MoveAsync(JsonNode visit, string start)
    {
        using ApiClient manager = await ApiClient.SignedInAsync(Server, "manager@harrowmere.test");
        ApiAnswer answer = await manager.PostAsync(
            $"/api/v1/visits/{visit["id"]}/move",
            new { start },
            ("If-Match", visit["version"]!.ToString())
        );
        answer.Status.ShouldBe(System.Net.HttpStatusCode.OK, answer.Body?.ToJsonString());
    }

    [Fact]
    public async Task What_somebody_else_changed_meanwhile_stands_beside_what_was_wanted()
    {
        JsonNode visit = await BookAsync();
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press(Block);
        desk.Press($"{Sheet}//button[normalize-space()='Change']");
        desk.Choose("Service", "Deep tissue 90");
        await MoveAsync(visit, "2027-03-03T12:00:00Z");
        desk.Says("Somebody else has changed this visit meanwhile.");
        const string Table = "//table[@aria-label='What differs']";
        desk.Find($"{Table}//tr[th='When']/td[1][contains(., '10:00–11:00')]");
        desk.Find($"{Table}//tr[th='When']/td[2][contains(., '12:00–13:00')]");
        desk.Find($"{Table}//tr[th='Services']/td[3][.='Deep tissue 90']");
        desk.AxeFindsNothing();
        // Nothing is saved over it before one of the two was chosen.
        desk.Find($"{Sheet}//button[@disabled and (starts-with(normalize-space(), 'Move') or starts-with(normalize-space(), 'Save'))]");
        desk.Button("Begin from how it is now");
        desk.Until(() => desk.Count(Table) == 0, "the versions to be gone");
        desk.Find(At("12:00–13:00"));
        desk.Button("Leave it");
    }

    [Fact]
    public async Task A_connection_lost_in_the_middle_of_a_drag_saves_nothing_says_so_and_brings_the_truth_back()
    {
        JsonNode visit = await BookAsync();
        using Browser desk = AtTheDesk("2027-03-03");
        IWebElement block = desk.Find(At("10:00–11:00"));
        // Meanwhile somebody else, who is connected, moves it.
        desk.Offline(true);
        await MoveAsync(visit, "2027-03-03T12:00:00Z");
        desk.Stroke(block, block.Size.Width - 3, 60);
        desk.Says("The connection is gone.");
        desk.Count(At("10:00–11:00")).ShouldBe(1, "nothing pretends to be saved");
        desk.Offline(false);
        // The truth comes back by itself.
        desk.Find(At("12:00–13:00"));
        desk.Until(() => desk.Count(At("10:00–11:00")) == 0, "what is no longer so to be gone");
    }

    [Fact]
    public async Task Under_which_hood_a_client_sits_is_changed_and_whoever_was_there_changes_too()
    {
        const string Maren = "//*[@data-lane='Suki Amara']//button[@data-visit and contains(@aria-label, 'Maren Holt')]";
        using (ApiClient api = await ApiClient.SignedInAsync(Server))
        {
            const string Facial = "Marsh clay facial 75";
            await Visits.BookAsync(api, MillStreet, Facial, "2027-03-03T12:00:00Z", "Suki Amara", "Maren", "Holt");
            await Visits.BookAsync(api, MillStreet, Facial, "2027-03-03T12:10:00Z", "Odile Fenwright", "Jonas", "Wick");
        }

        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press(Maren);
        desk.Find($"{Sheet}//*[contains(normalize-space(), 'no. 1 of 2')]");
        desk.Button("Another Steam hood");
        desk.AxeFindsNothing();
        // Read before it is pressed: who would have to change for it.
        desk.Press($"{Sheet}//button[starts-with(normalize-space(), 'no. 2') and contains(., 'Jonas Wick, 12:10, goes to no. 1')]");
        desk.Says("Steam hood: no. 2.");
        desk.Find($"{Sheet}//*[contains(normalize-space(), 'no. 2 of 2')]");
        desk.Until(() => desk.HasFocus("//button[@aria-label='Another Steam hood']"), "the focus to stay where it was");
        desk.Keys("u");
        desk.Find($"{Sheet}//*[contains(normalize-space(), 'no. 1 of 2')]");
    }

    [Fact]
    public async Task A_visit_is_moved_over_the_week()
    {
        await BookAsync();
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press(Block);
        desk.Find(Sheet);
        desk.Keys("m");
        desk.Press("//a[normalize-space()='Look for a place in the week']");
        desk.Says("press where it glows to move it there");
        desk.Find("//*[@data-lane='Thu 4 Mar']//*[@data-light]");
        desk.AxeFindsNothing();
        desk.Press("//*[@data-lane='Thu 4 Mar']//*[@data-at]");
        desk.Says("Maren Holt: moved to");
        desk.Find("//*[@data-lane='Thu 4 Mar']//button[contains(@aria-label, 'Maren Holt')]");
        desk.Until(() => desk.Count("//*[@data-light]") == 0, "nothing to glow any more");
        desk.Url.ShouldContain("/week/");
        // With the keyboard it is picked up there, and left where it is.
        desk.Script("document.querySelector('[data-lane=\"Thu 4 Mar\"] button[data-visit]').focus()");
        desk.Keys("m");
        desk.Find("//*[@data-light]");
        desk.Keys(Keys.Escape);
        desk.Until(() => desk.Count("//*[@data-light]") == 0, "it to be left where it is");
        // What it lies on now it lets a press through to: a quarter of an hour later is a light under it.
        desk.Keys("m");
        desk.Find("//*[@data-lane='Thu 4 Mar']//*[@data-light]");
        desk.Number(
                "const block = document.querySelector('[data-lane=\"Thu 4 Mar\"] button[data-visit]').getBoundingClientRect();"
                    + "return document.elementFromPoint(block.left + block.width / 2, block.top + block.height / 2)"
                    + ".closest('button[data-visit]') === null ? 1 : 0"
            )
            .ShouldBe(1);
    }

    [Fact]
    public void An_edge_of_a_shift_is_pulled_and_the_day_is_saved_so()
    {
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Says("10:00–19:00");
        IWebElement end = desk.Find("//*[@data-lane='Ines Calloway']//*[@data-shift-end='from'][1]");
        int hour = (int)
            desk.Number(
                "return document.querySelector('[data-track]').offsetWidth * 62 / "
                    + "Number(document.querySelector('[role=slider]').getAttribute('aria-valuemax'))"
            );
        desk.Stroke(end, end.Size.Width / 2, hour);
        desk.Find("//aside[@aria-label='Ines Calloway']");
        desk.Says("works other hours");
        desk.Fill("Why", "Dentist");
        desk.AxeFindsNothing();
        desk.Button("Save the day");
        desk.Find("//*[@data-lane='Ines Calloway']//*[contains(@class, 'kc-head') and contains(., '11:00–19:00')]");
    }

    [Fact]
    public async Task A_visit_goes_from_arriving_to_done_and_a_step_is_taken_back()
    {
        using ApiClient api = await ApiClient.SignedInAsync(Server);
        await Visits.BookAsync(api, MillStreet, "Physio follow-up 30", "2027-03-01T09:00:00Z", "Maren Odell", "Maren", "Holt");
        using Browser desk = AtTheDesk("2027-03-01");
        const string Visit = "//*[@data-lane='Maren Odell']//button[@data-visit and contains(@aria-label, 'Maren Holt')";
        desk.Press($"{Visit}]");
        desk.Press($"{Sheet}//button[normalize-space()='Arrived']");
        desk.Find("//*[normalize-space()='In the house:']");
        desk.Press($"{Sheet}//button[normalize-space()='In treatment']");
        desk.Find($"{Visit} and contains(@aria-label, 'in treatment')]");
        desk.Press($"{Sheet}//button[normalize-space()='Done']");
        desk.Find($"{Visit} and contains(@aria-label, 'done')]");
        desk.AxeFindsNothing();
        desk.Press($"{Sheet}//button[normalize-space()='Not done']");
        desk.Find($"{Visit} and contains(@aria-label, 'in treatment')]");
    }

    [Fact]
    public async Task The_book_at_twice_its_size_cuts_nothing_off()
    {
        await BookAsync();
        const string Week = "//*[@role='group' and @aria-label='This week' and .//button]";
        using (Browser wide = AtTheDesk("2027-03-03")) wide.Find(Week);
        using Browser desk = new(Server, 640, 400);
        desk.SignIn();
        desk.Find("//nav");
        desk.Go($"/day/{MillStreet}/2027-03-03");
        desk.Find(Block);
        desk.Number("return document.documentElement.scrollWidth").ShouldBeLessThanOrEqualTo(640);
        desk.Number(
            "return [...document.querySelectorAll('header button, header select, header input, nav a')]"
                + ".filter((one) => one.getBoundingClientRect().width > 0 && one.getBoundingClientRect().right > 641).length"
        ).ShouldBe(0);
        desk.Keys("n");
        desk.Find("//aside[@aria-label='New visit']");
        desk.AxeFindsNothing();
    }
}
