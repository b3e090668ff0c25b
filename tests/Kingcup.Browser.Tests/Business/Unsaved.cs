using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Business;

/// <summary>What was written and not saved is asked about, whichever way somebody leaves.</summary>
public sealed class Unsaved : DemoHouse
{
    [Fact]
    public void Leaving_a_page_or_opening_another_entry_asks_first()
    {
        using Browser owner = new(Server);
        owner.SignIn(Owner);
        owner.Find("//*[@data-lane='Ines Calloway']");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
        // The first room is open.
        string first = owner.Find("//label[normalize-space()='Name on the door']/following::input[1]").GetDomProperty("value")!;
        owner.Fill("Name on the door", "Willow");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']");
        owner.Find("//dialog[@aria-label='Not saved yet']");
        owner.AxeFindsNothing();
        owner.Button("Stay here");
        owner.Find("//label[normalize-space()='Name on the door']/following::input[1]").GetDomProperty("value").ShouldBe("Willow");
        owner.Press("//section[@aria-label='Rooms']//button[contains(., 'couch') and @aria-pressed='false']");
        owner.Button("Stay here");
        owner.Script("history.back()");
        owner.Button("Leave without saving");
        owner.Find("//main[@aria-label='Book']");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
        owner.Until(
            () => owner.Find("//label[normalize-space()='Name on the door']/following::input[1]").GetDomProperty("value") == first,
            "the room to be as it was"
        );
    }

    [Fact]
    public void What_was_saved_is_not_asked_about_and_what_was_typed_beside_a_list_counts()
    {
        using Browser owner = new(Server);
        owner.SignIn(Owner);
        owner.Find("//*[@data-lane='Ines Calloway']");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
        owner.Button("Add a room");
        owner.Find("//h2[normalize-space()='A new room']");
        owner.Fill("Name on the door", "Willow");
        owner.Fill("Features", "quiet corner");
        // Nobody pressed Add: saving takes what stands there.
        owner.Button("Add the room");
        owner.Find("//h2[normalize-space()='Room Willow']");
        owner.Find("//button[@aria-label='Take out quiet corner']");
        owner.Url.ShouldContain("open=");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']");
        owner.Find("//h1[normalize-space()='Team']");
    }

    [Fact]
    public void What_somebody_holds_is_drawn_and_a_service_is_changed_in_its_sentence()
    {
        using Browser owner = new(Server);
        owner.SignIn(Owner);
        owner.Find("//*[@data-lane='Ines Calloway']");
        owner.Go("/team/qualifications");
        string cell = "//button[starts-with(@aria-label, 'Tobias Quill, Lymph drainage')]";
        owner.Drag(cell, 0.1, 0.6);
        owner.Find("//*[@aria-label='What is chosen']//*[contains(., 'Tobias Quill: Lymph drainage')]");
        owner.Button("Save");
        owner.Find($"{cell}[contains(@aria-label, 'holds it from')]");
        owner.Find("//section[@aria-label='So they do']");

        owner.Go("/services");
        owner.Press("//a[contains(., 'Podiatry 40')]");
        owner.Find("//h2[normalize-space()='Podiatry 40']");
        owner.PartFields("Price", ("Price (EUR)", "61"));
        owner.Find("//button[span[normalize-space()='Price:'] and contains(., '61.00')]");
        owner.Button("Save");
        owner.Until(() => owner.Count("//button[normalize-space()='Undo my changes']") == 0, "the service to be saved");
        owner.Press("//button[@role='tab' and normalize-space()='History']");
        owner.Press("//*[@role='tabpanel']//button[normalize-space()='Show']");
        owner.Find("//*[@role='tabpanel']//*[contains(., 'price')]");
        // The same entry of the whole history leads to the very service.
        owner.Go("/setup/history");
        owner.Press("//a[contains(., 'Podiatry 40')]");
        owner.Find("//h2[normalize-space()='Podiatry 40']");
    }
}
