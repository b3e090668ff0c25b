using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Business;

/// <summary>Shifts over a range of dates for several people, as the owner adds them and takes them back.</summary>
public sealed class ExtraShifts : DemoHouse
{
    private const string Added = "//section[@aria-label='Added before']/div/section";

    [Fact]
    public void They_are_written_as_a_sentence_seen_before_they_are_kept_and_taken_back_in_one_press()
    {
        using Browser owner = new(Server);
        owner.SignIn(Owner);
        owner.Find("//*[@data-lane='Ines Calloway']");
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Team']");
        owner.Press("//a[normalize-space()='Extra shifts']");
        owner.Find("//section[@aria-label='Add extra shifts']//button[normalize-space()='Add these shifts' and @aria-disabled='true']");
        owner.Many("Who works then", "Ines Calloway");
        owner.Many("Who works then", "Tobias Quill");
        owner.PartFields("Hours", ("From", "6:00"), ("Until", "7:30"));
        owner.Many("Kept for", "Nutrition review 30");
        owner.Find("//h2[normalize-space()='10 days would change']");
        owner
            .Count("//*[@aria-label='What would come of it']//*[starts-with(@aria-label, 'new, Nutrition review 30 only')]")
            .ShouldBe(10);
        owner.AxeFindsNothing();

        // Leaving now asks; adding settles it.
        owner.Press("//nav[@aria-label='Kingcup']//a[normalize-space()='Rooms']");
        owner.Button("Stay here");
        owner.Button("Add these shifts");
        owner.Find($"{Added}[contains(., 'Ines Calloway and Tobias Quill') and contains(., '10 days')]");
        owner.Find("//section[@aria-label='Add extra shifts']//button[normalize-space()='Add these shifts' and @aria-disabled='true']");

        // Whoever opens it anew finds it.
        owner.Go("/team/extra-shifts");
        owner.Find(Added);
        owner.Button("Take back");
        owner.Until(() => owner.Count(Added) == 0, "them to be taken back");
    }
}
