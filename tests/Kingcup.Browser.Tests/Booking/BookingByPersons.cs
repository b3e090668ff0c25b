using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>The desk and a client use the real screens. The clock stands on Monday 1 March 2027, 09:00.</summary>
public sealed class BookingByPersons : IAsyncLifetime
{
    private TestDatabase _database = null!;
    private ServerProcess _server = null!;
    private string _millStreet = "";

    public async ValueTask InitializeAsync()
    {
        _database = await TestDatabase.DemoAsync();
        _server = await ServerProcess.StartAsync(_database);
        using ApiClient desk = await ApiClient.SignedInAsync(_server);
        _millStreet = (await desk.GetAsync("/api/v1/setup")).Body!["locations"]![0]!["id"]!.GetValue<string>();
    }

    public async ValueTask DisposeAsync()
    {
        await _server.DisposeAsync();
        await _database.DisposeAsync();
    }

    private void OpenDay(Browser desk, string date)
    {
        desk.SignIn();
        desk.Find("//*[@data-lane='Ines Calloway']");
        desk.Go($"/day/{_millStreet}/{date}");
        desk.Find("//*[@data-lane='Ines Calloway']");
    }

    private static void BookByPhone(Browser desk, string service, string clock)
    {
        desk.Keys("n");
        desk.Button("New");
        desk.Fill("Given name", "Ada");
        desk.Fill("Family name", "Marsh");
        desk.Fill("Mobile", "020 910 0001");
        desk.Choose("Service", service);
        desk.Press($"//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '{clock}')]");
        // Choosing a start chooses it; only the button books.
        desk.Find($"//button[normalize-space()='Book {clock}']");
        desk.Count("//aside[@aria-label='New visit']").ShouldBe(1);
        desk.Button($"Book {clock}");
        desk.Find("//aside[@aria-label='Ada Marsh']");
    }

    [Fact]
    public void The_desk_books_moves_puts_back_and_cancels()
    {
        using Browser desk = new(_server);
        OpenDay(desk, "2027-03-02");
        BookByPhone(desk, "Deep tissue 60", "11:00");
        desk.Says("11:00–12:00");
        desk.Count("//*[@data-lane='Ines Calloway']//button[@data-visit]").ShouldBe(1);

        desk.Button("Move");
        desk.Press("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '15:00')]");
        desk.Button("Move to 15:00");
        desk.Says("15:00–16:00");
        desk.Button("Undo (u)");
        desk.Says("11:00–12:00");

        desk.Button("Arrived");
        desk.Says("arrived");
        desk.Button("Not arrived");
        desk.Button("Cancel visit");
        desk.Fill("Why is it cancelled?", "Train cancelled");
        desk.Button("Cancel visit");
        desk.Says("Train cancelled");
        desk.Until(() => desk.Count("//*[@data-lane='Ines Calloway']//button[@data-visit]") == 0, "the visit to leave the lane");

        desk.Button("History");
        foreach (string done in new[] { "Booked", "Moved", "Undone", "Cancelled" })
            desk.Says($"{done} by Nell Ashby");
        desk.Says("Train cancelled");
    }

    [Fact]
    public void A_time_that_fits_only_over_something_is_taken_once_it_was_read()
    {
        using Browser owner = new(_server);
        owner.SignIn("owner@harrowmere.test");
        owner.Find("//*[@data-lane='Ines Calloway']");
        owner.Go($"/day/{_millStreet}/2027-03-02");
        owner.Find("//*[@data-lane='Ines Calloway']");
        BookByPhone(owner, "Deep tissue 60", "11:00");
        owner.Button("Close");

        // Ines has Ada at eleven; half past fits only over her.
        owner.Keys("n");
        owner.Button("New");
        owner.Fill("Given name", "Bea");
        owner.Fill("Family name", "Tallow");
        owner.Choose("Service", "Deep tissue 60");
        owner.Choose("Practitioner", "Ines Calloway");
        owner.Find("//*[@aria-label='Starts that fit']/button");
        owner.Set("Another time", "11:30");
        owner.Says("11:30 does not fit");
        owner.Says("Ines Calloway is taken from 11:00 to 12:15");
        owner.Button("Overbook 11:30 all the same");
        owner.AxeFindsNothing();
        owner.Button("Book 11:30 all the same");
        owner.Find("//aside[@aria-label='Bea Tallow']");
        owner.Says("Clash: booked over another visit");
        owner.Find("//*[@data-lane='Ines Calloway']//button[contains(@aria-label, 'Bea Tallow') and contains(@aria-label, 'clash')]");
        owner.Count("//*[@data-lane='Ines Calloway']//button[@data-visit]").ShouldBe(2);
        owner.Button("History");
        owner.Says("knowingly over: Ines Calloway is taken from 11:00 to 12:15");

        // And the desk, that has not the right, is only told why not.
        using Browser desk = new(_server);
        OpenDay(desk, "2027-03-02");
        desk.Keys("n");
        desk.Choose("Service", "Deep tissue 60");
        desk.Choose("Practitioner", "Ines Calloway");
        desk.Find("//*[@aria-label='Starts that fit']/button");
        desk.Set("Another time", "11:30");
        desk.Says("Ines Calloway is taken from");
        desk.Count("//button[contains(., 'all the same')]").ShouldBe(0);
        // After the shift it may book, once it was told.
        desk.Set("Another time", "19:30");
        desk.Button("Take 19:30 all the same");
        desk.Find("//button[normalize-space()='Book 19:30 all the same']");
        // What was read was read of this day.
        desk.Button("Starts of the day after");
        desk.Find("//button[normalize-space()='Book' and @aria-disabled='true']");
    }

    [Fact]
    public void What_is_set_at_a_client_is_changed_in_her_sheet()
    {
        using Browser desk = new(_server);
        OpenDay(desk, "2027-03-02");
        BookByPhone(desk, "Deep tissue 60", "11:00");
        desk.Button("Client");
        desk.Fill("What the desk has to know", "Allergic to nuts");
        desk.Fill("Days ahead", "9999");
        desk.Button("Save");
        desk.Says("Book 0 to 730 days ahead");
        desk.AxeFindsNothing();
        desk.Fill("Days ahead", "14");
        desk.Button("Save");
        desk.Says("Saved.");
        desk.Find("//*[@data-lane='Ines Calloway']//button[contains(@aria-label, 'Allergic to nuts')]");
    }

    [Fact]
    public void What_a_client_books_on_a_phone_shows_on_the_open_book_of_the_desk()
    {
        using Browser desk = new(_server);
        OpenDay(desk, "2027-03-03");
        using Browser phone = new(_server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Podiatry 40')]");
        phone.Time("Wednesday 3 March", "10:00");
        phone.Button("Book 10:00");
        phone.Says("Enter the given name");
        phone.Fill("Given name", "Bea");
        phone.Fill("Family name", "Tallow");
        phone.Fill("E-mail", "bea@example.com");
        phone.Fill("Mobile", "020 910 0002");
        phone.Button("Book 10:00");
        phone.Says("Your visit is booked");
        string reference = phone.Find("//*[@data-reference]").Text;
        phone.AxeFindsNothing();

        // The desk has not touched anything.
        desk.Press($"//*[@data-lane='Rafe Lindqvist']//button[@data-visit='{reference}']");
        desk.Find("//aside[@aria-label='Bea Tallow']");
        desk.Says("booked online");
    }

    [Fact]
    public void What_has_to_come_first_is_booked_first_and_leads_to_what_was_wanted()
    {
        using Browser phone = new(_server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Laser legs 60')]");
        phone.Says("First comes Laser patch test 15");
        phone.Says("at least 48 hours before and no more than 180 days");
        phone.AxeFindsNothing();
        phone.Button("Book Laser patch test 15");
        phone.Press("(//section//button[contains(@aria-label, 'March')])[1]");
        phone.Fill("Given name", "Dot");
        phone.Fill("Family name", "Quill");
        phone.Fill("E-mail", "dot@example.com");
        phone.Fill("Mobile", "020 910 0009");
        phone.Press("//form//button[starts-with(normalize-space(), 'Book ')]");
        phone.Says("Your visit is booked");
        string first = phone.Find("//*[@data-reference]").Text;
        // Only what was wanted is offered, not all that the test opens.
        phone.Count("//section[@aria-label='What you can book now']//button").ShouldBe(1);
        phone.AxeFindsNothing();
        phone.Button("Choose a time for Laser legs 60");
        phone.Find("//h2[normalize-space()='When?']");
        phone.Press("(//section//button[contains(@aria-label, 'March')])[1]");
        // What was typed for the test need not be typed again.
        phone.Find("//label[normalize-space()='E-mail']");
        phone.Press("//form//button[starts-with(normalize-space(), 'Book ')]");
        phone.Until(() => phone.Count($"//*[@data-reference and not(contains(., '{first}'))]") == 1, "the second reference");
        phone.Says("Laser legs 60 with");
    }

    [Fact]
    public async Task Somebody_else_takes_the_time_and_the_client_is_given_the_nearest_others()
    {
        using Browser phone = new(_server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Time("Thursday 4 March", "10:00");
        phone.Fill("Given name", "Cal");
        phone.Fill("Family name", "Reed");
        phone.Fill("E-mail", "cal@example.com");
        phone.Fill("Mobile", "020 910 0003");
        phone.Says("kept for you");
        // They put the phone down, and come back when the time is kept no more.
        using (ApiClient clock = await ApiClient.SignedInAsync(_server))
        {
            ApiAnswer later = await clock.PostAsync("/api/v1/demo/clock", new { to = "2027-03-01T09:15:00Z" });
            later.Status.ShouldBe(System.Net.HttpStatusCode.OK);
        }

        using (Browser desk = new(_server))
        {
            OpenDay(desk, "2027-03-04");
            BookByPhone(desk, "Nutrition first 60", "10:00");
        }

        phone.Button("Book 10:00");
        phone.Says("Somebody else has just taken 10:00");
        phone.Press("//form//button[contains(., 'Thu 4 Mar, 11:15')]");
        phone.Button("Book 11:15");
        phone.Says("Your visit is booked");
    }

    [Fact]
    public void A_time_pointed_at_that_does_not_fit_says_why()
    {
        using Browser desk = new(_server);
        OpenDay(desk, "2027-03-02");
        desk.Go($"/day/{_millStreet}/2027-03-02?new=1&at=2027-03-02T12:15:00.000Z");
        desk.Choose("Service", "Physio follow-up 30");
        desk.Says("12:15 does not fit.");
        desk.Says("Maren Odell has a break from 12:00 to 12:30: Lunch.");
    }

    [Fact]
    public void The_keyboard_alone_opens_days_sheets_and_visits()
    {
        using Browser desk = new(_server);
        OpenDay(desk, "2027-03-02");
        BookByPhone(desk, "Deep tissue 60", "11:00");
        desk.Keys(OpenQA.Selenium.Keys.Escape);
        desk.Until(() => desk.Count("//aside") == 0, "the sheet to close");
        desk.Find("//*[@data-visit]");
        desk.Script("document.querySelector('[data-visit]').focus()");
        desk.Keys(OpenQA.Selenium.Keys.Enter);
        desk.Find("//aside[@aria-label='Ada Marsh']");
        desk.Keys(OpenQA.Selenium.Keys.Escape);
        // The visit has the focus again; there an arrow goes through the lane, with Shift to the next day.
        desk.Until(() => desk.Script("return document.activeElement.hasAttribute('data-visit')") is true, "the visit to have the focus");
        desk.Keys(OpenQA.Selenium.Keys.Shift, OpenQA.Selenium.Keys.ArrowRight);
        desk.Says("Wednesday 3 March");
        desk.Keys("t");
        desk.Says("Monday 1 March");
        desk.Keys("/");
        desk.Until(() => desk.Script("return document.activeElement.id") as string == "find", "the search to have the focus");
        desk.Keys(OpenQA.Selenium.Keys.Tab);
        desk.Keys("?");
        desk.Says("New visit");
    }

    [Fact]
    public void Axe_finds_nothing_on_the_book_its_sheets_and_the_booking_page()
    {
        using Browser desk = new(_server);
        desk.Go("/");
        desk.Find("//button[normalize-space()='Sign in']");
        desk.AxeFindsNothing();
        OpenDay(desk, "2027-03-02");
        desk.AxeFindsNothing();
        BookByPhone(desk, "Marsh clay facial 75", "12:00");
        desk.AxeFindsNothing();
        desk.Button("Move");
        desk.Find("//*[@aria-label='Starts that fit']/button");
        desk.AxeFindsNothing();
        desk.Go("/book");
        desk.Find("//section//button");
        desk.AxeFindsNothing();
        desk.Press("//button[contains(., 'Podiatry 40')]");
        desk.Time("Friday 5 March", "10:00");
        desk.Find("//form");
        desk.AxeFindsNothing();
    }

    [Fact]
    public void The_pages_have_no_sideways_scroll_on_a_phone_and_the_book_shows_every_lane_on_a_desk()
    {
        using Browser phone = new(_server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Podiatry 40')]");
        phone.Find("//section//h3");
        phone.Number("return document.documentElement.scrollWidth - window.innerWidth").ShouldBeLessThanOrEqualTo(0);
        using Browser desk = new(_server);
        OpenDay(desk, "2027-03-02");
        desk.Count("//*[@data-lane]").ShouldBe(23);
    }
}
