using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>The book looked at by week, month and as an agenda; its search field; a lane's day; somebody away.</summary>
public sealed class ViewsOfTheDesk : DemoHouse
{
    private async Task<JsonNode> BookAsync(string service, string start, string practitioner, string family)
    {
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        return await Visits.BookAsync(desk, MillStreet, service, start, practitioner, "Ada", family);
    }

    [Fact]
    public async Task An_agenda_is_filtered_chosen_from_saved_and_found_again()
    {
        await BookAsync("Deep tissue 60", "2027-03-01T11:00:00Z", "Ines Calloway", "Agendaone");
        await BookAsync("Podiatry 40", "2027-03-01T15:00:00Z", "Rafe Lindqvist", "Agendatwo");
        using Browser desk = AtTheDesk("2027-03-01");
        desk.Choose("View", "Agenda");
        desk.Find("//a[normalize-space()='Ada Agendaone']");
        desk.Says("2 visits");
        desk.Many("People and rooms", "Rafe Lindqvist");
        desk.Until(() => desk.Count("//a[normalize-space()='Ada Agendaone']") == 0, "the others to be left out");
        desk.AxeFindsNothing();

        desk.Button("Save this view");
        desk.Fill("What it is called", "Feet");
        desk.Press("//form//button[@type='submit']");
        desk.Find("//button[normalize-space()='Feet' and @aria-pressed='true']");
        desk.Go($"/agenda/{MillStreet}/2027-03-01");
        desk.Find("//a[normalize-space()='Ada Agendaone']");
        desk.Button("Feet");
        desk.Until(() => desk.Count("//a[normalize-space()='Ada Agendaone']") == 0, "the saved view");

        desk.Press("//input[@aria-label='Choose Ada Agendatwo']");
        desk.Press("//*[@aria-label='Chosen visits']//button[contains(., 'arrived')]");
        desk.Says("1 visit changed.");
        desk.Find("//*[@role='cell' and contains(., 'arrived')]");
        // On paper: a sheet for each who works.
        desk.Press("//a[normalize-space()='Print the day']");
        desk.Find("//section[@aria-label='Ines Calloway']//b[normalize-space()='Ada Agendaone']");
        desk.AxeFindsNothing();
    }

    [Fact]
    public async Task A_week_and_a_month_lead_to_their_days()
    {
        await BookAsync("Deep tissue 60", "2027-03-03T11:00:00Z", "Ines Calloway", "Weekone");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Choose("View", "Week");
        desk.Part("Of whom, or of what", "Ines Calloway");
        desk.Find("//*[@data-lane='Wed 3 Mar']//button[contains(@aria-label, 'Ada Weekone')]");
        desk.AxeFindsNothing();
        desk.Press("//*[@data-lane='Wed 3 Mar']//button[contains(@aria-label, 'Ada Weekone')]");
        desk.Find("//aside[@aria-label='Ada Weekone']");
        desk.Go($"/month/{MillStreet}/2027-03-03");
        desk.Find("//a[contains(., 'Wednesday 3 March') and contains(., 'morning')]");
        desk.AxeFindsNothing();
        desk.Press("//a[contains(., 'Wednesday 3 March')]");
        desk.Find("//*[@data-lane='Ines Calloway']");
        desk.Url.ShouldContain("/day/");
    }

    [Fact]
    public async Task The_search_field_finds_a_day_a_visit_a_service_and_a_lane()
    {
        JsonNode visit = await BookAsync("Deep tissue 60", "2027-03-03T11:00:00Z", "Ines Calloway", "Searchone");
        using Browser desk = AtTheDesk("2027-03-02");
        void Find(string words, string choice)
        {
            desk.Fill("Find", words);
            desk.Press($"//*[@role='option' and contains(., '{choice}')]");
        }

        Find("9/3", "Go to Tuesday 9 March");
        desk.Until(() => desk.Url.Contains("2027-03-09", StringComparison.Ordinal), "the day");
        Find((string)visit["reference"]!, "Visit");
        desk.Find("//aside[@aria-label='Ada Searchone']");
        desk.Url.ShouldContain("2027-03-03");
        Find("hot stone", "Hot stones 75");
        desk.Find("//aside[@aria-label='New visit']");
        Find("block ines", "Ines Calloway");
        desk.Find("//aside[@aria-label='Ines Calloway']");
    }

    [Fact]
    public void One_day_of_a_lane_is_changed_from_its_head()
    {
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press("//*[@data-lane='Tobias Quill']//button[contains(@aria-label, 'hours and blocked time')]");
        desk.Find("//aside[@aria-label='Tobias Quill']");
        desk.AxeFindsNothing();
        desk.Button("Block time");
        desk.Set("From", "15:00", "//aside");
        desk.Set("Until", "16:00", "//aside");
        desk.Fill("What for", "Fire drill");
        desk.Press("//aside//button[normalize-space()='Save']");
        desk.Find("//*[@data-lane='Tobias Quill']//*[contains(@title, 'Fire drill, 15:00–16:00')]");
        desk.Button("Give back Fire drill");
        desk.Until(() => desk.Count("//*[contains(@title, 'Fire drill')]") == 0, "the time to be free again");
        desk.Part("That day", "is off");
        desk.Fill("Why", "Course");
        desk.Button("Save the day");
        desk.Find("//*[@data-lane='Tobias Quill' and contains(., 'Course')]");
    }

    [Fact]
    public async Task Somebody_is_away_and_whoever_can_have_a_place_is_placed()
    {
        await BookAsync("Deep tissue 60", "2027-03-03T11:00:00Z", "Ines Calloway", "Awayone");
        await BookAsync("Back and shoulders 30", "2027-03-03T15:00:00Z", "Ines Calloway", "Awaytwo");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press("//*[@data-lane='Ines Calloway']//button[contains(@aria-label, 'hours and blocked time')]");
        desk.Button("Away this day");
        desk.Says("2 visits would lose their place");
        desk.Button("Save; they wait for a place");
        desk.Find("//aside[@aria-label='Who needs a place']");
        desk.Find("//aside//li[contains(., 'Ada Awayone') and contains(., '→')]");
        desk.AxeFindsNothing();
        desk.Press("//aside//button[starts-with(normalize-space(), 'Place th')]");
        desk.Says("Everybody has their place on this day.");
        desk.Until(() => desk.Count("//*[@data-lane='Ines Calloway']//button[@data-visit]") == 0, "her lane to be empty");
        // Every move is one to undo.
        desk.Keys(OpenQA.Selenium.Keys.Escape);
        desk.Find("//*[@data-lane='Tobias Quill']//button[contains(@aria-label, 'Ada Away')]");
    }

    [Fact]
    public async Task What_was_entered_by_mistake_is_taken_out_by_whoever_may()
    {
        await BookAsync("Deep tissue 60", "2027-03-03T11:00:00Z", "Ines Calloway", "Mistakeone");
        using (Browser desk = AtTheDesk("2027-03-03"))
        {
            desk.Press("//button[@data-visit and contains(@aria-label, 'Ada Mistakeone')]");
            desk.Find("//aside[@aria-label='Ada Mistakeone']");
            desk.Count("//button[normalize-space()='Entered by mistake']").ShouldBe(0);
        }

        using Browser owner = AtTheDesk("2027-03-03", Owner);
        owner.Press("//button[@data-visit and contains(@aria-label, 'Ada Mistakeone')]");
        owner.Button("Entered by mistake");
        owner.Says("only its history stays");
        owner.Button("Take it out");
        owner.Until(() => owner.Count("//button[@data-visit]") == 0, "the visit to be gone");
    }
}
