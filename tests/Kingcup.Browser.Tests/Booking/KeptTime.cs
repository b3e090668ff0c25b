using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>The time that somebody chooses online is theirs for a few minutes, and everybody sees it.</summary>
public sealed class KeptTime : DemoHouse
{
    private const string Kept = "//*[@data-lane='Celia Voss']//*[contains(@title, 'Kept for somebody who is booking online')]";
    private const string Ours = "//form//*[contains(., 'kept for you for') and contains(., 'Celia Voss') and contains(., '10:00–11:00')]";

    [Fact]
    public void It_is_kept_while_they_write_given_back_by_Back_and_booked_at_the_end()
    {
        using Browser desk = AtTheDesk("2027-03-04");
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Time("Thursday 4 March", "10:00");
        phone.Find(Ours);
        phone.AxeFindsNothing();
        desk.Find(Kept);

        // Whoever follows the same link is told before they have typed anything, and finds what is near.
        using Browser other = new(Server, 390, 844);
        other.Go(new Uri(phone.Url).PathAndQuery);
        other.Says("Somebody else has just taken 10:00.");
        other.Find("//*[@role='alert']//button[contains(., '11:')]");

        // A reload keeps it; a step back gives it back, for everybody at once.
        phone.Reload();
        phone.Find(Ours);
        phone.Script("history.back()");
        desk.Until(() => desk.Count(Kept) == 0, "the time to be given back");
        phone.Find("//section[starts-with(@aria-label, 'Thursday 4 March,')]//button[normalize-space()='10:00']");
        phone.Script("history.forward()");
        phone.Find(Ours);
        desk.Find(Kept);

        phone.Fill("Given name", "Ada");
        phone.Fill("Family name", "Marsh");
        phone.Fill("E-mail", "ada@example.com");
        phone.Fill("Mobile", "020 910 0001");
        phone.Button("Book 10:00");
        phone.Says("Your visit is booked");
        desk.Find("//*[@data-lane='Celia Voss']//button[@data-visit and contains(@aria-label, 'Ada Marsh')]");
        desk.Until(() => desk.Count(Kept) == 0, "what was kept to be the visit");
    }
}
