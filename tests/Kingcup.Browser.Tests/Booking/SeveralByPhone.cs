using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>Several services, and somebody who comes along, in one visit booked from a phone.</summary>
public sealed class SeveralByPhone : DemoHouse
{
    private static void Choose(Browser phone, string service)
    {
        phone.Fill("Look for a service", service);
        phone.Press($"//button[.//span[.='{service}']]");
    }

    [Fact]
    public void Services_are_added_taken_out_and_booked_for_two_who_come_together()
    {
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        Choose(phone, "Nutrition first 60");
        phone.Find("//h2[.='When?']");

        // Another by mistake: Back takes it away, and so does a press.
        phone.Button("Add a service");
        phone.Find("//h2[.='And what else?']");
        phone.AxeFindsNothing();
        Choose(phone, "Podiatry 40");
        phone.Find("//h1[contains(., 'Nutrition first 60') and contains(., ', then') and contains(., 'Podiatry 40')]");
        phone.Says("100 min");
        phone.Script("history.back()");
        phone.Find("//h2[.='And what else?']");
        phone.Script("history.forward()");
        phone.Find("//h1[contains(., 'Podiatry 40')]");
        phone.Reload();
        phone.Press("//h1//button[.='Podiatry 40']");
        phone.Button("Take Podiatry 40 out");
        phone.Until(() => phone.Count("//h1[contains(., 'Podiatry 40')]") == 0, "it to be taken out");

        phone.Button("Bring somebody along");
        phone.Find("//h2[.='And what for a second person?']");
        Choose(phone, "Podiatry 40");
        phone.Find("//h1[contains(., 'and for a second person') and contains(., 'Podiatry 40')]");
        phone.Says("60 min");
        phone.AxeFindsNothing();
        phone.Press("(//*[@aria-label='Soonest']//button)[1]");
        phone.Says("kept for you for 10 more minutes");
        phone.Fill("Given name", "Ada");
        phone.Fill("Family name", "Marsh");
        phone.Fill("E-mail", "ada@example.com");
        phone.Fill("Mobile", "020 910 0001");
        phone.Press("//form//button[starts-with(., 'Book ')]");
        phone.Says("Enter the name of whoever comes along.");
        phone.Until(
            () => phone.Script("return document.activeElement.labels?.[0]?.textContent") is "Who comes along",
            "the field to have the focus"
        );
        phone.Fill("Who comes along", "Bo Reed");
        phone.AxeFindsNothing();
        phone.Press("//form//button[starts-with(., 'Book ')]");
        phone.Says("Your visit is booked");
        phone.Find("//*[starts-with(., 'Podiatry 40 with') and contains(., 'for Bo Reed')]");
    }
}
