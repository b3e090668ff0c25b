using Kingcup.Demo;
using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>A morning at the desk without a mouse: from signing in to a visit that is done, everything with keys.</summary>
public sealed class KeyboardAlone : DemoHouse
{
    private const string Marsh = "//*[@role='grid']//button[@data-visit and contains(@aria-label, 'Ada Marsh')]";

    private static string Field(string label) =>
        "//*[(self::input or self::textarea or self::select) "
        + $"and (@id=//label[normalize-space()='{label}']/@for or @aria-label='{label}')]";

    private static void Type(Browser desk, string label, string text)
    {
        desk.TabTo(Field(label));
        desk.Keys(text);
    }

    /// <summary>A button that begins with these words, in the sheet.</summary>
    private static void Enter(Browser desk, string begins)
    {
        desk.TabTo($"//aside//button[starts-with(normalize-space(), '{begins}') and not(@aria-disabled)]");
        desk.Keys(Keys.Enter);
    }

    private static Browser SignedIn(Kingcup.Testing.ServerProcess server)
    {
        Browser desk = new(server);
        desk.Go("/");
        Type(desk, "E-mail address", "desk@harrowmere.test");
        Type(desk, "Password", DemoLoader.Password + Keys.Enter);
        desk.Find("//*[@data-lane='Suki Amara']");
        return desk;
    }

    [Fact]
    public void A_visit_is_booked_changed_moved_undone_repeated_and_done()
    {
        using Browser desk = SignedIn(Server);

        // The keys are told.
        desk.Keys("?");
        desk.Find("//*[@role='dialog' or self::dialog]");
        desk.Keys(Keys.Escape);
        desk.Until(() => desk.Count("//*[@role='dialog' or self::dialog]") == 0, "the keys to be closed");

        // To another day by its name, and back.
        desk.Keys("/");
        desk.Until(() => desk.HasFocus("//input[@id='find']"), "the search to have the focus");
        desk.Keys("3 March");
        desk.Find("//*[@role='option' and contains(., 'Wednesday 3 March')]");
        desk.Keys(Keys.Enter);
        desk.Until(() => desk.Url.Contains("2027-03-03", StringComparison.Ordinal), "the third");

        // A new client, two services, the first time that fits.
        desk.TabTo("//button[starts-with(normalize-space(), 'New visit')]");
        desk.Keys(Keys.Enter);
        desk.Until(() => desk.HasFocus("//aside//input[@role='combobox']"), "the client to be asked for");
        desk.Keys("Ada Marsh");
        desk.Find("//aside//*[@role='option' and contains(., 'Enter a new client')]");
        desk.Keys(Keys.Enter);
        desk.Until(() => desk.HasFocus(Field("Given name")), "the name to be asked for");
        Type(desk, "Mobile", "087 123 4567");
        Type(desk, "Service", "Facial");
        Enter(desk, "Add a service");
        // The new line is open with its service still to be chosen, above the press that added it.
        desk.TabTo("//aside//select[@id=//label[normalize-space()='Service']/@for]", back: true);
        desk.Keys("Brow");
        desk.Find("//*[@data-total and contains(., '2 services')]");
        desk.EnterButton("First that fits");
        desk.Find("//*[@data-chosen-place]");
        Enter(desk, "Book ");
        desk.Find("//aside[@aria-label='Ada Marsh']");
        desk.Find(Marsh);

        const string Brow = "//aside//*[contains(., 'Brow shape 15') and contains(., '€')]";
        desk.Find(Brow);

        // One line is taken out again, and it is undone.
        desk.EnterButton("Change");
        desk.TabTo("//aside//button[starts-with(@aria-label, 'Take out Brow shape 15')]");
        desk.Keys(Keys.Enter);
        desk.EnterButton("Save the change");
        desk.Find("//aside//button[normalize-space()='Change']");
        desk.Until(() => desk.Count(Brow) == 0, "the line to be gone");
        desk.Keys(Keys.Control, "z");
        desk.Find(Brow);

        // Picked up, to the next place, put down; undone.
        string before = desk.Find(Marsh).GetAttribute("aria-label")!;
        desk.Keys("m");
        desk.Find("//*[@data-light]");
        desk.Keys("f");
        desk.Find("//*[@data-chosen-place]");
        Enter(desk, "Move to ");
        desk.Says("moved to");
        desk.Until(() => desk.Find(Marsh).GetAttribute("aria-label") != before, "it to lie elsewhere");
        desk.Keys("u");
        desk.Until(() => desk.Find(Marsh).GetAttribute("aria-label") == before, "it to be back");
        desk.Keys(Keys.Escape);
        desk.Until(() => desk.Count("//aside") == 0, "the sheet to close");

        // The lanes are walked to it, and it is opened there.
        desk.TabTo("//*[@data-cell]");
        for (int steps = 0; steps < 60 && !desk.HasFocus(Marsh); steps++)
            desk.Keys(steps % 6 == 5 ? Keys.Home + Keys.ArrowDown : Keys.ArrowRight);
        desk.HasFocus(Marsh).ShouldBeTrue();
        desk.Keys(Keys.Enter);
        desk.Find("//aside[@aria-label='Ada Marsh']");

        // Cancelled, with who and why.
        desk.EnterButton("Cancel visit");
        desk.Until(() => desk.HasFocus(Field("Why is it cancelled?")), "the reason to be asked for");
        desk.Keys("Has a cold" + Keys.Enter);
        desk.Says("The visit is cancelled.");
        desk.Until(() => desk.Count(Marsh) == 0, "it to leave the lanes");
    }

    [Fact]
    public async Task The_same_again_three_times_undone_at_once_and_a_client_who_comes_today_until_they_are_done()
    {
        const string Rafes = "//*[@data-lane='Rafe Lindqvist']//button[@data-visit and contains(@aria-label, 'Ada Marsh')]";
        using (Kingcup.Testing.ApiClient api = await Kingcup.Testing.ApiClient.SignedInAsync(Server))
            await Visits.BookAsync(api, MillStreet, "Podiatry 40", "2027-03-01T09:00:00Z", "Rafe Lindqvist", "Ada", "Marsh");
        using Browser desk = SignedIn(Server);
        desk.Keys("/");
        desk.Until(() => desk.HasFocus("//input[@id='find']"), "the search to have the focus");
        desk.Keys("Ada Marsh");
        desk.Find("//*[@role='option' and contains(., 'Ada Marsh')]");
        desk.Keys(Keys.Enter);
        desk.TabTo("//section[.//*[normalize-space()='Same again']]//button[contains(., 'Podiatry 40')]");
        desk.Keys(Keys.Enter);
        desk.EnterButton("First that fits");
        desk.Find("//*[@data-chosen-place]");
        desk.EnterButton("Repeat this visit");
        desk.TabTo(Field("Times"));
        desk.Keys(Keys.Control, "a");
        desk.Keys("3");
        desk.Says("3 visits will be booked.");
        Enter(desk, "Book 3 visits");
        desk.Says("3 visits are booked.");
        // Pressed before the sheet has made way for the visit's: the key is the book's, not a letter in a field.
        desk.Keys("u");
        desk.Says("Undone");
        desk.Until(() => desk.Count(Rafes) == 1, "all of them to be gone");

        // Who is there today arrives and is done; a wrong press is taken back.
        desk.Keys(Keys.Escape);
        desk.TabTo("//*[@data-cell]");
        for (int steps = 0; steps < 60 && !desk.HasFocus(Rafes); steps++)
            desk.Keys(steps % 6 == 5 ? Keys.Home + Keys.ArrowDown : Keys.ArrowRight);
        desk.Keys(Keys.Enter);
        Enter(desk, "Arrived");
        desk.Find("//*[contains(., 'In the house')]//button[contains(., 'A. Marsh')]");
        Enter(desk, "In treatment");
        Enter(desk, "Not in treatment");
        Enter(desk, "In treatment");
        Enter(desk, "Done");
        desk.Find("//aside//button[normalize-space()='Not done']");

        // What is left of Rafe's afternoon is blocked from the head of the lane.
        desk.Keys(Keys.Escape);
        desk.Until(() => desk.HasFocus(Rafes), "the focus to be back where it was");
        for (int steps = 0; steps < 9 && !desk.HasFocus("//button[starts-with(@aria-label, 'Rafe Lindqvist: hours')]"); steps++)
            desk.Keys(Keys.ArrowLeft);
        desk.Keys(Keys.Enter);
        desk.Find("//aside[@aria-label='Rafe Lindqvist']");
        Enter(desk, "Block time");
        desk.Until(() => desk.HasFocus(Field("How often")), "the form to have the focus");
        desk.TabTo(Field("From") + "[not(@value) or not(contains(@value, '/'))]");
        desk.Keys(Keys.Control, "a");
        desk.Keys("15:00");
        desk.TabTo(Field("Until"));
        desk.Keys(Keys.Control, "a");
        desk.Keys("17:00");
        Type(desk, "What for", "Stocktaking" + Keys.Enter);
        desk.Find("//*[@data-lane='Rafe Lindqvist']//*[@title='Stocktaking, 15:00–17:00']");
        desk.Until(() => desk.HasFocus("//aside//button[normalize-space()='Block time']"), "the focus to be where it was");
    }
}
