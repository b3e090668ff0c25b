using Kingcup.Testing;
using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>What a hand does in the lanes: a block pulled longer, a stretch drawn, a visit cut and put down on another day.</summary>
public sealed class HandInTheBook : DemoHouse
{
    private const string Block = "//*[@data-lane='Ines Calloway']//button[@data-visit]";

    private async Task BookAsync()
    {
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        await Visits.BookAsync(desk, MillStreet, "Deep tissue 60", "2027-03-03T10:00:00Z", "Ines Calloway", "Maren", "Holt");
    }

    private static int PixelsOf(Browser desk, int minutes) =>
        (int)Math.Round(
            minutes
                * desk.Number(
                    "return document.querySelector('[data-track]').offsetWidth / "
                        + "Number(document.querySelector('[role=slider]').getAttribute('aria-valuemax'))"
                )
        );

    private static string At(string when) => $"{Block[..^1]} and contains(@aria-label, '{when}')]";

    [Fact]
    public async Task The_end_of_a_block_is_pulled_and_its_length_set_with_keys_and_taken_back()
    {
        await BookAsync();
        using Browser desk = AtTheDesk("2027-03-03");
        IWebElement block = desk.Find(At("10:00–11:00"));
        desk.Stroke(block, block.Size.Width - 3, PixelsOf(desk, 30));
        desk.Find(At("10:00–11:30"));
        desk.Says("Maren Holt: changed.");
        desk.Keys("u");
        desk.Find(At("10:00–11:00"));
        // The keyboard does the same, five minutes at a time.
        desk.Script("document.querySelector('[data-lane=\"Ines Calloway\"] button[data-visit]').focus()");
        desk.Keys("l");
        desk.Find(At("10:00–11:05"));
        // Pressed quickly one after another they add up, whatever is still on its way.
        desk.Keys("lllss");
        desk.Find(At("10:00–11:10"));
        desk.Keys("ss");
        desk.Find(At("10:00–11:00"));
        // Pulled over the end of what fits, it stays, and its sheet says why.
        using ApiClient api = await ApiClient.SignedInAsync(Server);
        await Visits.BookAsync(api, MillStreet, "Deep tissue 60", "2027-03-03T12:00:00Z", "Ines Calloway", "Ada", "Marsh");
        desk.Find($"{Block[..^1]} and contains(@aria-label, 'Ada Marsh')]");
        block = desk.Find(At("10:00–11:00"));
        desk.Stroke(block, block.Size.Width - 3, PixelsOf(desk, 75));
        desk.Find("//aside[@aria-label='Maren Holt']");
        desk.Says("Ines Calloway is taken from 12:00 to 13:15.");
        desk.AxeFindsNothing();
        desk.Find(At("10:00–11:00"));
    }

    [Fact]
    public void A_stretch_that_is_drawn_says_where_a_visit_begins_and_how_long_where_that_is_wanted_or_is_blocked()
    {
        using Browser desk = AtTheDesk("2027-03-03");
        IWebElement free = desk.Find("//*[@data-lane='Ines Calloway']//*[@data-at]");
        desk.Stroke(free, 4, PixelsOf(desk, 75));
        desk.Find("//aside[@aria-label='New visit']//section[@aria-label='Drawn']");
        desk.Says("1 hour 15 minutes");
        desk.Choose("Service", "Deep tissue 60");
        desk.Find("//*[@data-total and starts-with(normalize-space(), 'Altogether') and contains(., '1 hour ')]");
        desk.Button("As long as drawn");
        desk.Find("//*[@data-total and contains(., '1 hour 15 minutes')]");
        desk.Button("As long as the service takes");
        desk.Until(() => desk.Count("//*[@data-total and contains(., '15 minutes')]") == 0, "the length of the service");
        desk.AxeFindsNothing();
        desk.Button("Block this time instead");
        desk.Find("//aside[@aria-label='Ines Calloway']");
        desk.Fill("What for", "Stocktaking");
        desk.Button("Save");
        desk.Find("//*[@data-lane='Ines Calloway']//*[contains(@title, 'Stocktaking')]");
    }

    [Fact]
    public async Task A_row_is_moved_with_one_of_its_visits_and_goes_back_with_one_undo()
    {
        using (ApiClient api = await ApiClient.SignedInAsync(Server))
        {
            await Visits.BookRowAsync(
                api,
                MillStreet,
                "Deep tissue 60",
                "Ines Calloway",
                "2027-03-03T10:00:00Z",
                "2027-03-17T10:00:00Z",
                "2027-03-31T09:00:00Z"
            );
            await Visits.BookAsync(api, MillStreet, "Deep tissue 60", "2027-03-17T12:00:00Z", "Ines Calloway", "Ada", "Marsh");
        }

        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press(Block);
        desk.Find("//aside[@aria-label='Maren Holt']");
        desk.Keys("m");
        desk.Choose("How much of the row?", "this one and those that follow");
        desk.Press("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '12:00')]");
        // One of the three meets somebody else; it stays where it is.
        desk.Says("1 of them does not fit.");
        desk.Says("Ines Calloway is taken from 12:00 to 13:15.");
        desk.AxeFindsNothing();
        desk.Button("Leave out");
        desk.Says("2 visits will be moved.");
        desk.Button("Move 2 visits");
        desk.Says("2 visits of the row are moved.");
        desk.Find(At("12:00–13:00"));
        desk.Go($"/day/{MillStreet}/2027-03-31");
        desk.Find(At("12:00–13:00"));
        desk.Keys("u");
        desk.Find(At("10:00–11:00"));
        desk.Go($"/day/{MillStreet}/2027-03-17");
        desk.Find(At("10:00–11:00"));
    }

    [Fact]
    public async Task A_visit_is_cut_and_put_down_on_the_next_day_at_its_time()
    {
        await BookAsync();
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press(Block);
        desk.Find("//aside[@aria-label='Maren Holt']");
        desk.Keys("x");
        desk.Find("//*[@data-light]");
        desk.Keys(Keys.ArrowRight);
        desk.Says("Thursday 4 March");
        desk.Until(() => desk.Count("//main[@inert]") == 0 && desk.Count("//*[@data-light]") > 0, "the lights of the next day");
        desk.Keys("v");
        desk.Says("Maren Holt: moved to 10:00.");
        desk.Find(At("10:00–11:00"));
        desk.Url.ShouldContain("/2027-03-04");
        desk.Keys("u");
        desk.Until(() => desk.Count(Block) == 0, "the visit to be back on its day");
    }

    [Fact]
    public async Task Two_people_in_the_same_visit_see_each_other_until_one_leaves()
    {
        await BookAsync();
        using Browser desk = AtTheDesk("2027-03-03"), manager = AtTheDesk("2027-03-03", "manager@harrowmere.test");
        desk.Press(Block);
        desk.Find("//aside[@aria-label='Maren Holt']");
        manager.Press(Block);
        manager.Says("Open here too: Nell Ashby");
        desk.Says("Open here too: Piers Aldane");
        desk.AxeFindsNothing();
        manager.Keys(Keys.Escape);
        desk.Until(() => !desk.Text.Contains("Open here too", StringComparison.Ordinal), "the other to have left");
    }

    [Fact]
    public void What_is_narrowed_down_is_said_as_such_where_it_would_fit()
    {
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Keys("n");
        desk.Choose("Service", "Deep tissue 60");
        desk.Find("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '10:00')]");
        desk.Button("Narrow it down");
        desk.Choose("Part of the day", "Afternoon");
        desk.Until(
            () => desk.Count("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '10:00')]") == 0,
            "the morning to be left out"
        );
        desk.Find("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '14:')]");
        desk.Set("Another time", "10:00");
        desk.Says("10:00 fits, but not as it is narrowed down.");
        desk.AxeFindsNothing();
        desk.Button("Look everywhere again");
        desk.Find("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '10:00')]");
    }

    [Fact]
    public void Single_keys_are_turned_off_for_whoever_dictates()
    {
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press("//nav[@aria-label='Kingcup']//button[contains(., 'Desk')]");
        desk.Button("Keys and colours");
        desk.Press("//label[contains(., 'Single letters and signs are keys')]");
        desk.Says("They do nothing now.");
        desk.AxeFindsNothing();
        desk.Button("Close");
        desk.Keys("n");
        desk.Keys("?");
        // What is no letter still goes: the day after, and back.
        desk.Keys(Keys.ArrowRight);
        desk.Says("Thursday 4 March");
        desk.Count("//aside").ShouldBe(0);
        desk.Count("//dialog[@open]").ShouldBe(0);
    }

    [Fact]
    public void Online_booking_is_stopped_from_the_head_of_a_lane_and_the_desk_goes_on()
    {
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press("//button[@aria-label='Ines Calloway: hours and blocked time']");
        desk.Button("Stop online booking");
        desk.AxeFindsNothing();
        desk.Button("Save");
        desk.Find("//*[@data-lane='Ines Calloway']//*[starts-with(@title, 'No online booking')]");
        desk.Says("online only");
        // The desk books there all the same.
        desk.Press("//*[@data-lane='Ines Calloway']//*[@data-at]");
        desk.Find("//aside[@aria-label='New visit']");
        desk.Choose("Service", "Deep tissue 60");
        desk.Find("//*[@aria-label='Starts that fit']/button");
    }
}
