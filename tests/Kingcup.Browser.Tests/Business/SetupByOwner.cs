using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Business;

/// <summary>An owner describes a business on the real screens. The clock stands on Monday 1 March 2027, 09:00.</summary>
public sealed class SetupByOwner : IAsyncDisposable
{
    private const string Owner = "owner@harrowmere.test";
    private TestDatabase? _database;
    private ServerProcess? _server;

    public async ValueTask DisposeAsync()
    {
        if (_server is not null) await _server.DisposeAsync();
        if (_database is not null) await _database.DisposeAsync();
    }

    private async Task<Browser> OpenAsync(bool empty = false)
    {
        _database = await TestDatabase.DemoAsync(empty: empty, accounts: false);
        _server = await ServerProcess.StartAsync(_database);
        Browser browser = new(_server);
        if (empty) BecomeOwner(browser);
        else browser.SignIn(Owner);
        browser.Find("//nav[@aria-label='Kingcup']//a[normalize-space()='Setup']");
        return browser;
    }

    private static void BecomeOwner(Browser owner)
    {
        owner.Go("/");
        owner.Says("Nobody has an account here yet.");
        owner.AxeFindsNothing();
        owner.Fill("Name", "Maud Ferrow");
        owner.Fill("E-mail address", Owner);
        owner.Fill("Password", "short");
        owner.Button("Begin");
        owner.Says("Choose a password of 10 characters");
        owner.Fill("Password", Kingcup.Demo.DemoLoader.Password);
        owner.Button("Begin");
    }

    private static void Saved(Browser owner) => owner.Says("✓ Saved.");

    private static void Add(Browser owner, string question, string answered)
    {
        owner.Button("Add a question");
        owner.Find("//button[normalize-space()='Add it']");
        owner.Fill("Question", question);
        owner.Choose("Answered", answered);
        owner.Button("Add it");
        owner.Find("//button[normalize-space()='Save the question']");
    }

    [Fact]
    public async Task What_a_client_is_asked_and_accepts_and_how_the_desk_approves_it()
    {
        using Browser owner = await OpenAsync();
        owner.Go("/setup/booking-page");
        owner.Button("Add a question");
        owner.Fill("Question", "Do you have any allergies?");
        owner.Press("//label[normalize-space()='Nobody books without an answer']");
        owner.Button("Add it");
        owner.Find("//button[normalize-space()='Save the question']");
        Add(owner, "I can climb stairs", "with a tick");
        Add(owner, "Shoe size", "with a number");
        Add(owner, "Last treated", "with a date");
        Add(owner, "A letter from your doctor", "with a file");
        owner.AxeFindsNothing();
        owner.Fill("What a client accepts", "Please come **ten minutes early**.");
        owner.Fill("Address to lead them to", "http://example.com");
        owner.Button("Save");
        owner.Says("Enter a whole address that begins with https://");
        owner.Fill("Address to lead them to", "https://example.com/find-us");
        owner.Fill("What the button says", "How to find us");
        owner.Button("Save");
        Saved(owner);
        owner.Go("/setup/locations");
        owner.Part("The desk approves", "New clients wait");
        owner.Button("Save");
        Saved(owner);

        using Browser phone = new(_server!, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Podiatry 40')]");
        phone.Time("Wednesday 3 March", "10:00");
        phone.Fill("Given name", "Bea");
        phone.Fill("Family name", "Tallow");
        phone.Fill("E-mail", "bea@example.com");
        phone.Fill("Mobile", "020 910 0002");
        phone.Button("Ask for 10:00");
        phone.Says("Please answer this");
        phone.Says("Please accept the terms");
        phone.AxeFindsNothing();
        phone.Fill("Do you have any allergies?", "Peanuts");
        phone.Press("//label[normalize-space()='I can climb stairs']");
        phone.Fill("Shoe size (if you like)", "large");
        phone.Find("//button[@aria-label='Last treated (if you like): from a month']");
        phone.Fill("Last treated (if you like)", "a while ago");
        phone.Keys(OpenQA.Selenium.Keys.Tab);
        phone.Says("Write a date, like 14 Sep or 14/9.");
        string letter = Path.Combine(Path.GetTempPath(), $"letter-{Guid.NewGuid():N}.pdf");
        await File.WriteAllTextAsync(letter, "%PDF-1.7 made up", TestContext.Current.CancellationToken);
        phone.Upload("A letter from your doctor (if you like)", letter);
        phone.Says("is sent with the booking.");
        File.Delete(letter);
        phone.Press("//summary[normalize-space()='Terms']");
        phone.Says("ten minutes early");
        phone.Press("//label[normalize-space()='I have read the terms and accept them']");
        phone.Button("Ask for 10:00");
        phone.Says("Enter a number, such as 72 or 1.5");
        // What was sent is still there after a reload.
        phone.Reload();
        phone.Says("is sent with the booking.");
        phone.Fill("Shoe size (if you like)", "41,5");
        phone.Button("Ask for 10:00");
        phone.Says("Enter a date from 1 January 1900 to 31 December 2199.");
        phone.Fill("Last treated (if you like)", "5 Nov 2026");
        phone.AxeFindsNothing();
        phone.Button("Ask for 10:00");
        phone.Says("We have your request");
        phone.Find("//a[normalize-space()='How to find us' and @href='https://example.com/find-us']");
        string reference = phone.Find("//*[@data-reference]").Text;

        owner.Go("/");
        owner.Find("//*[@data-lane='Ines Calloway']");
        owner.Go(new Uri(new Uri(owner.Url), "2027-03-03").AbsolutePath);
        owner.Press($"//*[@data-lane='Rafe Lindqvist']//button[@data-visit='{reference}']");
        owner.Says("Peanuts");
        owner.Says("41.5");
        owner.Says("5 Nov 2026");
        owner.Find($"//a[@download and normalize-space()='{Path.GetFileName(letter)}']");
        owner.Button("Approve");
        owner.Says("○ confirmed");
    }

    [Fact]
    public async Task From_an_empty_business_to_the_first_online_booking()
    {
        using Browser owner = await OpenAsync(empty: true);
        owner.Find("//h1[normalize-space()='What do you do?']");
        owner.AxeFindsNothing();
        owner.Press("//button[starts-with(normalize-space(), 'Massage and wellness')]");
        // Everything is filled in as it usually is, and the page that grows from it stands beside it.
        owner.Find("//aside[@aria-label='The booking page as clients would find it']//b[normalize-space()='Massage 60']");
        owner.Says("All of it could be booked from this minute.");
        owner.AxeFindsNothing();
        owner.Button("Open the book");
        owner.Says("Enter the name of the business.");
        owner.PartFields("Name of the business", ("Name clients read", "Weir House"));
        owner.Press("//button[span[normalize-space()='Country:']]");
        owner.Fill("Country: search", "Irel");
        owner.Press("//*[@role='option' and normalize-space()='Ireland']");
        owner.Press("//button[span[normalize-space()='Time zone:']]");
        owner.Fill("Time zone: search", "Dublin");
        owner.Press("//*[@role='option' and normalize-space()='Europe/Dublin']");
        // What nobody holds cannot be booked, and the page says why.
        owner.Press("//button[span[normalize-space()='Who holds Massage:']]");
        owner.Press("//*[@role='option' and normalize-space()='✓ Maud Ferrow']");
        owner.Keys(OpenQA.Selenium.Keys.Escape);
        owner.Says("1 of 5 could be booked from this minute.");
        owner.Find("//aside//*[contains(., 'Not yet.')]");
        owner.Many("Who holds Massage", "Maud Ferrow");
        owner.PartFields("Service 1", ("Name", "Long stroke 60"), ("Price (EUR)", "64.50"));
        // A reload loses nothing of it.
        owner.Reload();
        owner.Find("//aside//b[normalize-space()='Long stroke 60']");
        owner.PartFields("Somebody else", ("Name", "Una Sedge"));
        owner.Many("Days of Una Sedge", "Friday");
        owner.Says("All of it could be booked from this minute.");
        owner.AxeFindsNothing();
        owner.Button("Open the book");
        owner.Says("5 services can be booked online now");

        using Browser phone = new(_server!, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Long stroke 60')]");
        phone.Time("Tuesday 2 March", "10:00");
        phone.Fill("Given name", "Ada");
        phone.Fill("Family name", "Marsh");
        phone.Fill("E-mail", "ada@example.com");
        phone.Fill("Mobile", "020 910 0001");
        phone.Button("Book 10:00");
        phone.Says("Your visit is booked");
        phone.Says("64.50");
    }

    private static void Open(Browser owner, string person, string tab)
    {
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']");
        owner.Press($"//a[normalize-space()='{person}']");
        owner.Press($"//nav[@aria-label='{person}']//a[normalize-space()='{tab}']");
    }

    [Fact]
    public async Task A_rota_of_two_weeks_with_one_wednesday_changed_and_what_it_hits_shown_first()
    {
        using Browser owner = await OpenAsync();
        using (ApiClient desk = await ApiClient.SignedInAsync(_server!))
        {
            System.Text.Json.Nodes.JsonNode setup = (await desk.GetAsync("/api/v1/setup")).Body!;
            string Id(string list, string name) =>
                setup[list]!.AsArray().Single(entry => entry!["name"]!.GetValue<string>() == name)!["id"]!.GetValue<string>();
            (
                await desk.PostAsync(
                    "/api/v1/visits",
                    new
                    {
                        locationId = Id("locations", "Mill Street"),
                        start = "2027-03-10T14:00:00Z",
                        newClient = new { givenName = "Ivo", familyName = "Hit" },
                        lines = new[] { new { serviceId = Id("services", "Physio follow-up 30") } },
                    }
                )
            ).Status.ShouldBe(System.Net.HttpStatusCode.Created);
        }

        Open(owner, "Maren Odell", "Rota");
        owner.Button("Change it from a date on");
        owner.PartDate("Holds from", new DateOnly(2027, 3, 15));
        owner.Part("Repeats after", "two weeks");
        string second = "//*[@role='group' and @aria-label='Second week']";
        owner.Press($"{second}//button[starts-with(normalize-space(), 'Tuesday, shift')]");
        owner.Button("Take the shift out");
        owner.Press($"{second}//button[starts-with(normalize-space(), 'Thursday, shift')]");
        owner.Set("From", "1100");
        owner.Set("Until", "nine");
        owner.Says("Write a time, like 8:15.");
        owner.Set("Until", "15");
        owner.AxeFindsNothing();
        owner.Keys(OpenQA.Selenium.Keys.Escape);
        owner.Button("Save the rota");
        owner.Says("Saved. It holds from Monday 15 March on.");

        owner.Press("//nav[@aria-label='Maren Odell']//a[normalize-space()='Calendar']");
        owner.Find("//button[contains(., 'Thu 25 Mar') and contains(., '11–15')]");
        owner.Find("//button[contains(., 'Tue 23 Mar') and contains(., 'off')]");
        owner.Press("//button[contains(., 'Wed 10 Mar')]");
        owner.Find("//section[@aria-label='Wednesday 10 March']");
        owner.Part("That day", "works other hours");
        owner.Press("//section[@aria-label='Wednesday 10 March']//button[starts-with(normalize-space(), 'shift')]");
        owner.Set("Until", "13:00", "//*[@role='dialog']");
        owner.Keys(OpenQA.Selenium.Keys.Escape);
        owner.Fill("Why", "dentist");
        owner.Button("Save the day");
        owner.Says("One visit would lose its place");
        owner.Says("Ivo Hit");
        owner.AxeFindsNothing();
        owner.Button("Save; they wait for a place");
        owner.Find("//button[contains(., 'Wed 10 Mar') and contains(., '8–13') and contains(., 'dentist')]");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Book']");
        owner.Press("//button[contains(., '1 visit needs a place')]");
        owner.Press("//section[@aria-label='Needs a place']//button[contains(., 'Ivo Hit')]");
        owner.Find("//aside[@aria-label='Ivo Hit']");
    }

    [Fact]
    public async Task A_rota_is_drawn_and_dragged_with_the_mouse_and_moved_with_the_keyboard_alone()
    {
        using Browser owner = await OpenAsync();
        Open(owner, "Celia Voss", "Rota");
        owner.Button("Change it from a date on");
        string Shift(string day, string times = "") =>
            $"//button[starts-with(normalize-space(), '{day}, shift') and contains(., '{times}')]";
        owner.Count(Shift("Saturday")).ShouldBe(0);
        // The ribbon shows 7:00 to 21:00: from a seventh of it to two sevenths is 9:00 to 11:00.
        owner.Drag("//*[@role='group' and starts-with(@aria-label, 'Saturday')]", 2 / 14.0 + 0.002, 4 / 14.0 - 0.002);
        owner.Find(Shift("Saturday", "09:00 – 11:00"));
        owner.Keys(OpenQA.Selenium.Keys.Escape);
        // Dragged by its middle it is as long as before; by its end it is longer.
        owner.Drag(Shift("Saturday"), 0.5, 1);
        owner.Find(Shift("Saturday", "10:00 – 12:00"));
        owner.Press(Shift("Saturday"));
        owner.Keys(OpenQA.Selenium.Keys.Escape);

        // The focus is on the shift again: arrows move it, Tab leads to its edges.
        owner.Until(() => owner.Script("return document.activeElement.textContent") is string at
            && at.StartsWith("Saturday, shift", StringComparison.Ordinal), "the shift to have the focus");
        owner.Keys(OpenQA.Selenium.Keys.ArrowLeft);
        owner.Find(Shift("Saturday", "09:45 – 11:45"));
        owner.Keys(OpenQA.Selenium.Keys.Tab + OpenQA.Selenium.Keys.Tab + OpenQA.Selenium.Keys.ArrowRight);
        owner.Find(Shift("Saturday", "09:45 – 12:00"));
        owner.Keys(OpenQA.Selenium.Keys.ArrowRight);
        owner.Find(Shift("Saturday", "09:45 – 12:15"));
        owner.AxeFindsNothing();
        owner.Button("Save the rota");
        owner.Says("Saved. It holds from Monday 8 March on.");
        owner.Reload();
        owner.Press("//button[span[normalize-space()='Rota:']]");
        owner.Press("//*[@role='option' and contains(., '8 March')]");
        owner.Find(Shift("Saturday", "09:45 – 12:15"));
    }

    [Fact]
    public async Task A_shift_is_kept_for_some_services_and_then_serves_no_others()
    {
        using Browser owner = await OpenAsync();
        Open(owner, "Celia Voss", "Rota");
        string shift = "//button[starts-with(normalize-space(), 'Wednesday, shift')]";
        owner.Press(shift);
        owner.Press("//button[span[normalize-space()='Kept for:']]");
        owner.Press("//*[@role='option' and normalize-space()='Nutrition review 30']");
        owner.Find("//*[@role='option' and normalize-space()='✓ Nutrition review 30']");
        // The list closes first, the shift after it.
        owner.Keys(OpenQA.Selenium.Keys.Escape);
        owner.Find("//button[span[normalize-space()='Kept for:'] and contains(., 'Nutrition review 30 only')]");
        owner.Keys(OpenQA.Selenium.Keys.Escape);
        owner.Until(() => owner.Count("//*[@role='dialog']") == 0, "the shift to close");
        owner.Button("Save the rota");
        owner.Says("Saved. It holds from");

        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Why not?']");
        owner.Part("Asked by", "the desk");
        owner.Press("//button[span[normalize-space()='Service:']]");
        // More than seven services are searched while typing.
        owner.Fill("Service: search", "first 60");
        owner.Press("//*[@role='option' and normalize-space()='Nutrition first 60']");
        owner.PartDate("Day", new DateOnly(2027, 3, 10));
        owner.Find("//*[@role='group' and @aria-label='Celia Voss']//button[contains(., 'kept for other services')]");
        owner.AxeFindsNothing();
    }

    [Fact]
    public async Task Opening_hours_are_drawn_made_like_another_day_and_taken_out()
    {
        using Browser owner = await OpenAsync();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Setup']");
        owner.Press("//a[normalize-space()='Locations and hours']");
        owner.Button("Boathouse");
        owner.Find("//button[normalize-space()='Boathouse' and @aria-pressed='true']");
        string On(string day, string times = "") => $"//button[starts-with(normalize-space(), '{day}, open') and contains(., '{times}')]";
        owner.Find("//h2[normalize-space()='Opening hours']");
        int before = owner.Count(On("Sunday"));
        owner.Button("Add hours on Sunday");
        owner.Until(() => owner.Count(On("Sunday")) == before + 1, "hours on Sunday");
        owner.Set("Opens", "10");
        owner.Set("Closes", "2 pm");
        owner.Find(On("Sunday", "10:00 – 14:00"));
        owner.Press("//*[@role='dialog']//button[normalize-space()='Sat']");
        owner.Find(On("Saturday", "10:00 – 14:00"));
        owner.Keys(OpenQA.Selenium.Keys.Escape);
        owner.Button("Save");
        Saved(owner);
        owner.Reload();
        owner.Button("Boathouse");
        owner.Find("//button[normalize-space()='Boathouse' and @aria-pressed='true']");
        owner.Press(On("Saturday", "10:00 – 14:00"));
        owner.Button("Take these hours out");
        owner.Until(() => owner.Count(On("Saturday")) == 0, "Saturday to be closed");
    }

    [Fact]
    public async Task A_service_gets_an_unattended_phase_and_its_starts_follow_at_once()
    {
        using Browser owner = await OpenAsync();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Services']");
        owner.Press("//a[contains(., 'Podiatry 40')]");
        owner.Find("//h2[normalize-space()='Podiatry 40']");
        string wednesday = "//*[@aria-label='Try it']//*[@aria-label='Wed 3 Mar']";
        owner.Find($"{wednesday}[contains(., '09:00')]");
        string before = owner.Find(wednesday).Text;
        owner.Button("Add a phase after it");
        owner.Find("//button[starts-with(normalize-space(), 'Phase 2: 15') and contains(., 'free meanwhile')]");
        // The edge of a phase moves with the arrow keys; only time with the client costs starts here.
        owner.Press("//*[@role='slider' and @aria-label='Length of phase 2']");
        for (int i = 0; i < 12; i++) owner.Keys(OpenQA.Selenium.Keys.ArrowRight);
        owner.Find("//button[starts-with(normalize-space(), 'Phase 2: 75') and contains(., 'free meanwhile')]");
        owner.Press("//*[@role='slider' and @aria-label='Length of phase 1']");
        for (int i = 0; i < 12; i++) owner.Keys(OpenQA.Selenium.Keys.ArrowRight);
        owner.Find("//button[starts-with(normalize-space(), 'Phase 1: 100') and contains(., 'with the client')]");
        owner.Until(() => owner.Find(wednesday).Text != before, "the starts to follow");
        owner.Button("Save");
        owner.Find("//button[starts-with(normalize-space(), 'Phase 2: 75') and contains(., 'free meanwhile')]");
        owner.Until(() => owner.Count("//button[normalize-space()='Undo my changes']") == 0, "the service to be saved");
        owner.Find("//button[span[normalize-space()='Length:'] and contains(., '2 hours 55 minutes')]");
    }

    [Fact]
    public async Task A_certificate_that_ends_is_named_and_the_client_sees_nothing_after_it()
    {
        using Browser owner = await OpenAsync();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']");
        owner.Press("//a[normalize-space()='Qualifications']");
        owner.Press("//button[starts-with(@aria-label, 'Celia Voss, Nutrition')]");
        owner.Set("Until (or open)", "2027-03-12");
        owner.Button("Save");
        owner.Find("//button[starts-with(@aria-label, 'Celia Voss, Nutrition: to 12 Mar, holds it until Friday 12 March, runs out soon')]");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Setup']");
        owner.Says("Celia Voss's Nutrition ends on 12 March");
        owner.Says("Nutrition first 60");

        using Browser phone = new(_server!, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Find("//section[starts-with(@aria-label, 'Thursday 11 March,')]//button[@aria-expanded]");
        phone.Count("//section[starts-with(@aria-label, 'Tuesday 16 March')]//button[@aria-expanded]").ShouldBe(0);
    }

    [Fact]
    public async Task Why_not_names_the_very_setting_that_was_changed_and_leads_to_it()
    {
        using Browser owner = await OpenAsync();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Services']");
        owner.Press("//a[contains(., 'Foot care 30')]");
        owner.Find("//h2[normalize-space()='Foot care 30']");
        owner.Press("//button[@role='tab' and normalize-space()='Rules']");
        owner.PartFields("Days ahead", ("Days ahead", "2"));
        owner.Button("Save");
        owner.Until(() => owner.Count("//button[normalize-space()='Undo my changes']") == 0, "the service to be saved");
        owner.Press("//a[normalize-space()='Why not?' and contains(@href, 'service=')]");
        owner.PartDate("Day", new DateOnly(2027, 3, 10));
        owner.Press("//*[@role='group' and @aria-label='How far ahead, and which days']//button");
        owner.Until(() => owner.Url.Contains("at=", StringComparison.Ordinal), "the time to be in the address");
        owner.Says("That is too far ahead: Foot care 30 is booked up to 2 days ahead.");
        owner.AxeFindsNothing();
        owner.Press("//section[starts-with(@aria-label, 'Why not')]//a[normalize-space()='Change it']");
        owner.Find("//h2[normalize-space()='Foot care 30']");
    }

    [Fact]
    public async Task A_file_of_clients_is_looked_at_checked_taken_over_and_taken_back()
    {
        string file = Path.Combine(Path.GetTempPath(), $"clients-{Guid.NewGuid():N}.csv");
        await File.WriteAllTextAsync(
            file,
            "Client,Cell,Remarks\nOdile Harrowgate,020 910 0311,prefers quiet\nSedge,020 910 0312,\nRob Amsel,12,\nPetra Vane,,\n",
            TestContext.Current.CancellationToken
        );
        using Browser owner = await OpenAsync();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Setup']");
        owner.Press("//a[normalize-space()='Import and export']");
        owner.Button("Look at it");
        owner.Says("Choose a file first.");
        owner.Upload("File", file);
        owner.Button("Look at it");
        owner.Says("Which column is what?");
        // Two columns are known by their heads, the third is said.
        owner.Find("//tr[td/b='Whole name' and contains(., 'Odile Harrowgate')]");
        owner.Choose("Column of Alert", "Remarks");
        owner.Find("//tr[td/b='Alert' and contains(., 'prefers quiet')]");
        owner.AxeFindsNothing();
        owner.Button("Check the rows");
        owner.Says("2 clients can be taken over.");
        owner.Says("2 rows are bad");
        owner.Find("//tr[td[1]='3' and td[2]='Whole name' and td[3]='Sedge' and contains(., 'given and a family name')]");
        owner.Find("//tr[td[1]='4' and td[2]='Phone' and td[3]='12']");
        owner.AxeFindsNothing();
        owner.Button("Take the 2 good rows only");
        owner.Says("2 clients taken over.");
        owner.AxeFindsNothing();
        owner.Press("//a[contains(., 'Go to the book')]");
        owner.Fill("Find", "harrowgate");
        owner.Says("Odile Harrowgate");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Setup']");
        owner.Press("//a[normalize-space()='Import and export']");
        owner.Press($"//a[contains(., '{Path.GetFileName(file)}')]");
        owner.Button("Take it back");
        owner.Says("Taken back. Nothing of it is left.");
        File.Delete(file);
    }

    [Fact]
    public async Task A_practitioner_sees_and_changes_her_own_time_and_nothing_else()
    {
        using Browser owner = await OpenAsync();
        using Browser ines = new(_server!, 390, 844);
        ines.SignIn("ines@harrowmere.test");
        ines.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='My shifts']");
        ines.Count("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']").ShouldBe(0);
        ines.Press("//button[contains(., 'Wed 17 Mar')]");
        ines.Find("//section[@aria-label='Wednesday 17 March']");
        ines.Part("That day", "works other hours");
        ines.Press("//section[@aria-label='Wednesday 17 March']//button[starts-with(normalize-space(), 'shift')]");
        ines.Set("Until", "15:00", "//*[@role='dialog']");
        ines.Keys(OpenQA.Selenium.Keys.Escape);
        ines.Fill("Why", "dentist");
        ines.Button("Save the day");
        ines.Find("//button[contains(., 'Wed 17 Mar') and contains(., '–15') and contains(., 'dentist')]");
        ines.AxeFindsNothing();
        ines.Number("return document.documentElement.scrollWidth").ShouldBeLessThanOrEqualTo(390);
        ines.Button("Block time");
        ines.Fill("What for", "call with the surgery");
        ines.Set("On", "2027-03-18");
        ines.Button("Save");
        ines.Find("//button[contains(., 'Thu 18 Mar') and contains(., 'call with the surgery')]");

        // The owner takes the right away: what is left is the calendar.
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Setup']");
        owner.Press("//a[normalize-space()='Sign-ins']");
        owner.Button("Change Ines Calloway");
        owner.Press("//label[contains(., 'May change their own shifts')]");
        owner.Button("Save");
        Saved(owner);
        ines.Go("/my-shifts");
        ines.Find("//button[contains(., 'Wed 17 Mar') and contains(., 'dentist')]");
        ines.Says("Whoever keeps the setup changes it for you.");
        ines.Count("//button[normalize-space()='Block time' or normalize-space()='Add time off']").ShouldBe(0);
        ines.AxeFindsNothing();
    }

    [Fact]
    public async Task Why_not_is_asked_from_a_dark_time_of_the_book_and_from_the_booking_page_by_whoever_is_signed_in()
    {
        using Browser owner = await OpenAsync();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Book']");
        owner.Press("//button[starts-with(normalize-space(), 'New visit')]");
        owner.Choose("Service", "Nutrition first 60");
        owner.Says("Fits on Monday 1 March");
        string url = owner.Url;
        owner.Go($"{new Uri(url).AbsolutePath}?new=1&at=2027-03-01T20:00:00.000Z");
        owner.Choose("Service", "Nutrition first 60");
        owner.Says("20:00 does not fit.");
        owner.Press("//a[normalize-space()='Why not?' and contains(@href, 'as=desk')]");
        owner.Find("//section[starts-with(@aria-label, 'Why not')]");
        owner.Find("//button[span[normalize-space()='Asked by:'] and contains(., 'the desk')]");
        owner.Part("And then", "Nutrition review 30");
        owner.Until(() => owner.Url.Split("service=").Length == 3, "both services to be asked about");
        owner.Find("//*[@role='group' and @aria-label='The day']");
        owner.AxeFindsNothing();

        owner.Go("/book");
        owner.Says("You see this page as clients do");
        owner.Press("//button[contains(., 'Nutrition first 60')]");
        owner.Press("//button[normalize-space()='whoever is free']");
        owner.Says("Celia Voss");
        owner.AxeFindsNothing();
        owner.Press("//button[contains(., 'Celia Voss')]");
        string asks = owner.Find("//a[starts-with(normalize-space(), 'Why not?')]").GetDomProperty("href")!;
        asks.ShouldContain("by=");
        asks.ShouldContain("as=new");
        owner.Go(new Uri(asks).PathAndQuery);
        owner.Find("//*[@role='group' and @aria-label='The day']");

        using Browser phone = new(_server!, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Find("//section[.//h3]");
        phone.Count("//a[starts-with(normalize-space(), 'Why not?')]").ShouldBe(0);
        phone.Text.ShouldNotContain("You see this page as clients do");
    }

    [Fact]
    public async Task Somebody_new_gets_a_link_and_chooses_a_password()
    {
        using Browser owner = await OpenAsync();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Setup']");
        owner.Press("//a[normalize-space()='Sign-ins']");
        owner.Button("Add somebody");
        owner.Fill("Name", "Una Sedge");
        owner.Fill("E-mail address", "una@harrowmere.test");
        owner.Button("Add");
        owner.Button("Make a sign-in link");
        string link = owner.Find("//*[contains(text(), '/welcome/')]").Text;
        using Browser una = new(_server!);
        una.Go(new Uri(link).AbsolutePath);
        una.Fill("Password", "reed-and-rush-9");
        una.AxeFindsNothing();
        una.Button("Set it");
        una.Says("Your password is set.");
    }

    [Fact]
    public async Task Axe_finds_nothing_on_any_screen_of_the_setup()
    {
        using Browser owner = await OpenAsync();
        foreach (string place in new[] { "Team", "Rooms", "Services", "Why not?", "Setup" })
        {
            owner.Press($"//nav[@aria-label='Kingcup']//a[normalize-space()='{place}']");
            // The page before it has a heading too.
            owner.Find($"//nav[@aria-label='Kingcup']//a[normalize-space()='{place}' and @aria-current='page']");
            owner.Find("//main//h1");
            owner.AxeFindsNothing();
        }

        string[] tabs = ["Business", "Locations and hours", "Booking page", "Sign-ins", "Import and export", "History", "About"];
        foreach (string tab in tabs)
        {
            owner.Press($"//nav[@aria-label='Setup']//a[normalize-space()='{tab}']");
            owner.Find("//main//section | //main//*[@role='group']");
            owner.AxeFindsNothing();
        }

        foreach (string tab in new[] { "About", "Rota", "Calendar", "Services" })
        {
            Open(owner, "Ines Calloway", tab);
            owner.Find("//main//section | //main//*[@role='group']");
            owner.AxeFindsNothing();
        }

        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']");
        owner.Press("//a[normalize-space()='Qualifications']");
        owner.Press("//button[starts-with(@aria-label, 'Suki Amara, Laser safety')]");
        owner.Find("//section[@aria-label='So they do']");
        owner.AxeFindsNothing();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
        owner.Press("//button[starts-with(normalize-space(), 'Cedar')]");
        owner.Button("Block time");
        owner.AxeFindsNothing();
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Services']");
        owner.Button("Rules of Massage");
        owner.Find("//button[span[normalize-space()='Lead time (min):']]");
        owner.AxeFindsNothing();
        owner.Press("//a[contains(., 'Duo massage 60')]");
        owner.Find("//*[@aria-label='Try it']");
        owner.AxeFindsNothing();
        owner.Press("//a[normalize-space()='Add-ons']");
        owner.Press("//button[contains(., 'Hot oil')]");
        owner.AxeFindsNothing();
    }

    [Fact]
    public async Task An_owner_who_asks_owners_for_a_code_is_the_first_to_set_one_up()
    {
        using Browser owner = await OpenAsync();
        owner.Go("/setup/business");
        owner.Press("//label[normalize-space()='Owners need a code besides their password']");
        owner.AxeFindsNothing();
        owner.Button("Save");
        Saved(owner);
        // From now on nothing else is open to them.
        owner.Go("/team");
        owner.Says("Owners of this business sign in with a second factor");
        owner.Count("//a[normalize-space()='Team']").ShouldBe(0);
        owner.AxeFindsNothing();
    }

    [Fact]
    public async Task Somebody_looks_after_two_at_once_from_the_page_of_theirs()
    {
        using Browser owner = await OpenAsync();
        owner.Go("/team");
        owner.Press("//a[contains(., 'Celia Voss')]");
        owner.Fill("Clients at once", "13");
        owner.Button("Save");
        owner.Says("12 at the most");
        owner.Fill("Clients at once", "2");
        owner.Button("Save");
        Saved(owner);
        owner.Go(new Uri(owner.Url).PathAndQuery);
        owner.Until(() => owner.Find("//input[@type='number' and @value='2']"), "two clients at once after a reload");
    }
}
