using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>A visit that is being written at the desk while the telephone rings again.</summary>
public sealed class HalfWritten : DemoHouse
{
    private const string Sheet = "//aside[@aria-label='New visit']";

    private static void Find(Browser desk, string client)
    {
        desk.Fill("Find", client);
        desk.Press($"//*[@role='option' and contains(., '{client}')]");
        desk.Find($"{Sheet}//*[normalize-space()='{client}']");
    }

    [Fact]
    public async Task Nothing_written_for_one_client_is_lost_or_comes_to_another()
    {
        await AddClientsAsync(("Maren", "Holt"), ("Jonas", "Wick"));
        using Browser desk = AtTheDesk("2027-03-02");
        Find(desk, "Maren Holt");
        desk.Choose("Service", "Deep tissue 60");
        desk.Fill("Note", "asks for the window");
        // Somebody else is found: their visit is another one, and the first is put aside.
        Find(desk, "Jonas Wick");
        desk.Find("//label[normalize-space()='Note']");
        desk.Find($"{Sheet}//textarea").GetDomProperty("value").ShouldBe("");
        desk.Find("//section[@aria-label='Half written']//button[normalize-space()='Maren Holt']");
        desk.AxeFindsNothing();
        // Escape throws nothing away, and neither does a reload.
        desk.Keys(Keys.Escape);
        desk.Until(() => desk.Count("//aside") == 0, "the sheet to close");
        desk.Reload();
        desk.Press("//section[@aria-label='Half written']//button[normalize-space()='Maren Holt']");
        desk.Find($"{Sheet}//textarea").GetDomProperty("value").ShouldBe("asks for the window");
        desk.Press("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '11:00')]");
        desk.Button("Book 11:00");
        desk.Find("//aside[@aria-label='Maren Holt']");
        desk.Count("//section[@aria-label='Half written']//button[normalize-space()='Maren Holt']").ShouldBe(0);
        // The same client again, at once: they stand in the field.
        Find(desk, "Maren Holt");
        desk.Find($"{Sheet}//textarea").GetDomProperty("value").ShouldBe("");
        desk.Press("//section[@aria-label='Half written']//button[contains(@aria-label, 'Jonas Wick')]");
        desk.Until(() => desk.Count("//section[@aria-label='Half written']") == 0, "nothing to be half written");
    }

    [Fact]
    public void What_was_dropped_can_be_had_back()
    {
        using Browser desk = AtTheDesk("2027-03-02");
        desk.Keys("n");
        desk.Choose("Service", "Deep tissue 60");
        desk.Button("Drop it");
        desk.Until(() => desk.Count(Sheet) == 0, "the sheet to close");
        desk.Count("//section[@aria-label='Half written']").ShouldBe(0);
        desk.Find("//*[contains(., 'The half-written visit is dropped.')]");
        desk.AxeFindsNothing();
        desk.Button("Bring it back");
        desk.Find("//section[@aria-label='Half written']//button[contains(., 'a visit without a client yet')]");
    }

    [Fact]
    public void Another_place_pointed_at_is_the_place_that_is_booked()
    {
        using Browser desk = AtTheDesk("2027-03-02");
        desk.Keys("n");
        desk.Choose("Service", "Deep tissue 60");
        desk.Choose("Practitioner", "Ines Calloway");
        desk.Press("//*[@aria-label='Starts that fit']/button[starts-with(normalize-space(), '11:00')]");
        desk.Find("//button[normalize-space()='Book 11:00']");
        string before = desk.Url;
        desk.Press("//*[@data-lane='Tobias Quill']//button[not(@data-visit)] | //*[@data-lane='Tobias Quill']");
        desk.Until(() => desk.Url != before && desk.Url.Contains("by=", StringComparison.Ordinal), "the place to be in the address");
        desk.Until(
            () =>
                desk.Script(
                    "return [...document.querySelectorAll('aside select')].some(s => s.selectedOptions[0]?.text.startsWith('Tobias Quill'))"
                ) is true,
            "the practitioner to be the one pointed at"
        );
        desk.Count("//button[normalize-space()='Book 11:00']").ShouldBe(0);
    }

    [Fact]
    public void Somebody_new_is_entered_from_the_keyboard_alone_and_keys_of_the_sheet_stay_in_it()
    {
        using Browser desk = AtTheDesk("2027-03-02");
        desk.Keys("n");
        desk.Find(Sheet);
        desk.Until(
            () => desk.Script("return document.activeElement.getAttribute('aria-label')") is "Client",
            "the client to have the focus"
        );
        desk.Keys("Ada Marsh");
        desk.Find("//*[@role='option' and contains(., 'Enter a new client')]");
        desk.Keys(Keys.Enter);
        desk.Find($"{Sheet}//label[normalize-space()='Given name']");
        desk.Until(
            () => desk.Script("return document.querySelector('aside input').value") is "Ada",
            "what was typed to be taken over"
        );
        // An arrow pressed on a button of the sheet does not change the day.
        desk.Script("[...document.querySelectorAll('aside button')].at(-1).focus()");
        desk.Keys(Keys.ArrowRight);
        desk.Says("Tuesday 2 March");
        // After closing, the focus is in the book again, and its keys work.
        desk.Keys(Keys.Escape);
        desk.Until(() => desk.Count("//aside") == 0, "the sheet to close");
        desk.Script("return document.activeElement === document.body").ShouldBe(false);
        desk.Keys(Keys.ArrowRight);
        desk.Says("Wednesday 3 March");
    }
}
