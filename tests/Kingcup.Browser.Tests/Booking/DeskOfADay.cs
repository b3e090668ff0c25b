using System.Text.Json.Nodes;
using Kingcup.Testing;
using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>One person at the desk with a telephone at the ear: visits of several lines, carried about, repeated, undone.</summary>
public sealed class DeskOfADay : DemoHouse
{
    private const string Starts = "//*[@aria-label='Starts that fit']/button";

    private static string Blocks(string lane) => $"//*[@data-lane='{lane}']//button[@data-visit]";

    private async Task<JsonNode> BookAsync(string service, string start, string practitioner, string given, string family)
    {
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        return await Visits.BookAsync(desk, MillStreet, service, start, practitioner, given, family);
    }

    /// <summary>Takes hold of a visit and lets it go in a lane, so many minutes later.</summary>
    private static void Carry(Browser desk, string block, string lane, int minutes)
    {
        IWebElement from = desk.Find(block), to = desk.Find($"//*[@data-lane='{lane}']//*[@data-track]");
        double perMinute = desk.Number(
            "return document.querySelector('[data-track]').offsetWidth / "
                + "Number(document.querySelector('[role=slider]').getAttribute('aria-valuemax'))"
        );
        int down = to.Location.Y + (to.Size.Height / 2) - from.Location.Y - (from.Size.Height / 2);
        desk.Carry(from, (int)Math.Round(minutes * perMinute), down);
    }

    [Fact]
    public void A_visit_of_three_services_is_booked_at_the_first_time_that_fits_and_its_total_is_true()
    {
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Keys("n");
        desk.Button("New");
        desk.Fill("Given name", "Ada");
        desk.Fill("Family name", "Marsh");
        desk.Choose("Service", "Facial 50");
        desk.Find("//*[@data-total and contains(., '50 minutes') and contains(., '€74.00')]");
        desk.Button("Add a service");
        desk.Choose("Service", "Brow shape 15");
        desk.Button("Add a service");
        desk.Choose("Service", "Express facial 30");
        desk.Find("//*[@data-total and contains(., '3 services') and contains(., '1 hour 35 minutes') and contains(., '€144.00')]");
        desk.AxeFindsNothing();
        // One too many is taken out again.
        desk.Button("Add a service");
        desk.Choose("Service", "Brow shape 15");
        desk.Find("//*[@data-total and contains(., '4 services')]");
        desk.Press("(//aside//button[starts-with(@aria-label, 'Take out Brow shape 15')])[2]");
        desk.Find("//*[@data-total and contains(., '3 services')]");
        desk.Button("First that fits");
        desk.Find("//*[@data-chosen-place]");
        desk.Press("//button[@type='submit' and starts-with(normalize-space(), 'Book ')]");
        desk.Find("//aside[@aria-label='Ada Marsh']");
        foreach (string said in new[] { "Facial 50", "Brow shape 15", "Express facial 30", "€144.00" })
            desk.Says(said);
    }

    [Fact]
    public async Task The_same_again_fills_what_a_client_had_and_a_line_is_added_to_what_stands()
    {
        await BookAsync("Deep tissue 60", "2027-03-02T10:00:00Z", "Ines Calloway", "Maren", "Holt");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Fill("Find", "Maren Holt");
        desk.Press("//*[@role='option' and contains(., 'Maren Holt')]");
        desk.Press("//section[.//*[normalize-space()='Same again']]//button[contains(., 'Deep tissue 60')]");
        desk.Find("//*[@data-total and contains(., '1 hour')]");
        desk.Find("//aside//select/option[@value and normalize-space()='Ines Calloway']");
        desk.Press($"{Starts}[starts-with(normalize-space(), '10:00')]");
        desk.Button("Book 10:00");
        desk.Find("//aside[@aria-label='Maren Holt']");

        desk.Button("Change");
        desk.Button("Add a service");
        desk.Choose("Service", "Back and shoulders 30");
        desk.Find("//*[@data-total and contains(., '2 services') and contains(., '1 hour 30 minutes')]");
        desk.Button("Save the change");
        desk.Until(() => desk.Count("//aside//*[normalize-space()='Back and shoulders 30']") > 0, "the second line");
        desk.Says("10:00–11:30");
        desk.Keys("u");
        desk.Until(() => desk.Count("//aside//*[normalize-space()='Back and shoulders 30']") == 0, "the line to be gone");
        desk.Says("10:00–11:00");
    }

    [Fact]
    public async Task A_visit_is_dragged_to_another_lane_and_undone_and_a_second_desk_sees_it()
    {
        await BookAsync("Deep tissue 60", "2027-03-03T10:00:00Z", "Ines Calloway", "Maren", "Holt");
        using Browser desk = AtTheDesk("2027-03-03"), other = AtTheDesk("2027-03-03");
        other.Find(Blocks("Ines Calloway"));
        Carry(desk, Blocks("Ines Calloway"), "Tobias Quill", 60);
        other.Find(Blocks("Tobias Quill"));
        desk.Find($"{Blocks("Tobias Quill")[..^1]} and contains(@aria-label, '11:00–12:00')]");
        desk.Count(Blocks("Ines Calloway")).ShouldBe(0);
        desk.Says("moved to 11:00");
        desk.Keys("u");
        other.Find(Blocks("Ines Calloway"));
        desk.Find($"{Blocks("Ines Calloway")[..^1]} and contains(@aria-label, '10:00–11:00')]");
        desk.Count(Blocks("Tobias Quill")).ShouldBe(0);

        // Let go where it does not fit, it stays, and its sheet says why.
        Carry(desk, Blocks("Ines Calloway"), "Maren Odell", 30);
        desk.Find("//aside[@aria-label='Maren Holt']");
        desk.Says("Maren Odell does not do Deep tissue 60.");
        desk.AxeFindsNothing();
        desk.Find($"{Blocks("Ines Calloway")[..^1]} and contains(@aria-label, '10:00–11:00')]");
    }

    [Fact]
    public async Task The_lanes_are_walked_with_arrows_and_free_time_is_booked_from_the_keyboard()
    {
        await BookAsync("Deep tissue 60", "2027-03-03T10:00:00Z", "Ines Calloway", "Maren", "Holt");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Find(Blocks("Ines Calloway"));
        desk.Count("//*[@data-cell and @tabindex='0']").ShouldBe(1);
        desk.Script("document.querySelector('[data-cell][tabindex=\"0\"]').focus()");
        string Here() => (string)desk.Script("return document.activeElement.getAttribute('aria-label')")!;
        Here().ShouldContain("Maren Holt, Deep tissue 60, 10:00–11:00, Ines Calloway");
        desk.Keys(Keys.ArrowRight);
        Here().ShouldContain("Ines Calloway, 11:15–");
        desk.Keys(Keys.ArrowDown);
        Here().ShouldStartWith("Tobias Quill");
        desk.Keys(Keys.ArrowUp);
        desk.Keys(Keys.End);
        desk.Keys(Keys.Home);
        Here().ShouldContain("Maren Holt");
        // Before the first comes the head of the lane. At its end an arrow leads nowhere, least of all to another day.
        desk.Keys(Keys.ArrowLeft);
        Here().ShouldStartWith("Ines Calloway: hours");
        desk.Keys(Keys.ArrowLeft);
        desk.Says("Wednesday 3 March");
        desk.Keys(Keys.ArrowRight);
        desk.Keys(Keys.ArrowRight);
        desk.Keys(Keys.Enter);
        desk.Find("//aside[@aria-label='New visit']");
        Uri.UnescapeDataString(desk.Url).ShouldContain("at=2027-03-03T11:15:00");
    }

    [Fact]
    public async Task A_visit_that_is_open_is_picked_up_with_a_key_and_put_where_it_fits_next()
    {
        await BookAsync("Deep tissue 60", "2027-03-03T10:00:00Z", "Ines Calloway", "Maren", "Holt");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press(Blocks("Ines Calloway"));
        desk.Find("//aside[@aria-label='Maren Holt']");
        desk.Keys("m");
        desk.Find("//*[@data-light]");
        desk.Url.ShouldContain("do=move");
        desk.Keys("f");
        desk.Find("//*[@data-chosen-place]");
        desk.Press("//aside//button[starts-with(normalize-space(), 'Move to ')]");
        desk.Until(() => desk.Count("//*[@data-light]") == 0, "nothing to be carried any more");
        desk.Says("moved to");
        // The same visit once more, for the same client.
        desk.Keys("c");
        desk.Find("//aside[@aria-label='New visit']//*[normalize-space()='Maren Holt']");
        desk.Find("//*[@data-total and contains(., '1 hour')]");
    }

    [Fact]
    public async Task A_visit_repeats_and_the_one_date_that_clashes_is_solved_before_all_are_booked()
    {
        // Ines has somebody at eleven two weeks later.
        await BookAsync("Deep tissue 60", "2027-03-17T11:00:00Z", "Ines Calloway", "Maren", "Holt");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Keys("n");
        desk.Button("New");
        desk.Fill("Given name", "Ada");
        desk.Fill("Family name", "Marsh");
        desk.Choose("Service", "Deep tissue 60");
        desk.Choose("Practitioner", "Ines Calloway");
        desk.Press($"{Starts}[starts-with(normalize-space(), '11:00')]");
        desk.Button("Repeat this visit");
        desk.Fill("Every", "2");
        desk.Fill("Times", "3");
        desk.Find("//section[@aria-label='Repeat']//*[normalize-space()='1 of them does not fit.']");
        desk.Find("//button[starts-with(normalize-space(), 'Book') and @aria-disabled='true']");
        desk.Says("Ines Calloway is taken from 11:00 to 12:15.");
        desk.AxeFindsNothing();
        // The nearest time of that day comes first among what would solve it.
        desk.Press("(//section[@aria-label='Repeat']//li//button)[1]");
        desk.Says("3 visits will be booked.");
        desk.Button("Book 3 visits");
        desk.Find("//aside[@aria-label='Ada Marsh']");
        desk.Says("3 visits are booked.");
        desk.Find(Blocks("Ines Calloway"));
        // All of them are one thing to be undone.
        desk.Keys("u");
        desk.Until(() => desk.Count(Blocks("Ines Calloway")) == 0, "the visit to leave the lane");
        desk.Go($"/day/{MillStreet}/2027-03-31");
        desk.Find("//*[@data-lane='Ines Calloway']");
        desk.Count(Blocks("Ines Calloway")).ShouldBe(0);
    }
}
