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

    private static string Value(Browser who, string label) =>
        who.Find($"//label[normalize-space()='{label}']/following::input[1]").GetDomProperty("value")!;

    private static string Focused(Browser who) =>
        (string)who.Script("const at = document.activeElement; return at.labels?.[0]?.innerText ?? at.innerText")!;

    [Fact]
    public void Two_people_in_the_same_room_lose_nothing_of_what_either_wrote()
    {
        using Browser first = new(Server);
        using Browser second = new(Server);
        foreach (Browser who in (Browser[])[first, second])
        {
            who.SignIn(who == first ? Owner : "manager@harrowmere.test");
            who.Find("//*[@data-lane='Ines Calloway']");
            who.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
            who.Find("//h2[normalize-space()='Room Alder']");
        }

        second.Fill("Name on the door", "Hazel");
        first.Fill("Name on the door", "Willow");
        first.Fill("Turnaround (min)", "15");
        first.Button("Save");
        first.Says("✓ Saved.");
        second.Button("Save");
        second.Says("Somebody else has changed this in the meantime.");
        second.Says("Where you wrote something too, they have: Willow.");
        second.AxeFindsNothing();
        second.Button("Put what I wrote into theirs");
        Focused(second).ShouldBe("Save");
        Value(second, "Name on the door").ShouldBe("Hazel");
        Value(second, "Turnaround (min)").ShouldBe("15");
        second.Button("Save");
        second.Says("✓ Saved.");
        first.Find("//h2[normalize-space()='Room Hazel']");
        // Whoever wrote nothing has what is stored now, and the other way on is to let go of one's own.
        Value(first, "Name on the door").ShouldBe("Hazel");
        second.Fill("Clients at once", "3");
        first.Fill("Clients at once", "2");
        first.Button("Save");
        first.Says("✓ Saved.");
        second.Button("Save");
        second.Says("Some of what you changed they changed too; yours would stay.");
        second.Button("Drop what I wrote");
        second.Until(() => Value(second, "Clients at once") == "2", "what the other has saved");
    }

    [Fact]
    public void What_is_beyond_a_limit_is_said_before_it_is_sent_and_has_the_focus()
    {
        using Browser owner = new(Server);
        owner.SignIn(Owner);
        owner.Find("//*[@data-lane='Ines Calloway']");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
        owner.Fill("Clients at once", "201");
        owner.Fill("Turnaround (min)", "7");
        owner.Button("Save");
        owner.Says("200 at the most.");
        owner.Says("Change what is marked above, then save again.");
        Focused(owner).ShouldBe("Clients at once");
        // Written anew, its message is gone; what only the server knows is said by it, at its field.
        owner.Fill("Clients at once", "2");
        owner.Until(() => !owner.Text.Contains("200 at the most.", StringComparison.Ordinal), "the message to go");
        owner.Button("Save");
        owner.Says("A multiple of 5 minutes, 8 hours at the most.");
        owner.Until(() => Focused(owner) == "Turnaround (min)", "the focus at the field");
        owner.Fill("Turnaround (min)", "10");
        owner.Button("Save");
        owner.Says("✓ Saved.");
        // Whoever saves from the keyboard goes on from there.
        Focused(owner).ShouldBe("Save");
    }
}
