using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>An owner makes a promo code, and somebody books with it by phone.</summary>
public sealed class PromoByPhone : DemoHouse
{
    [Fact]
    public void It_is_made_tried_at_once_taken_out_and_booked_with()
    {
        using Browser owner = AtTheDesk("2027-03-04", Owner);
        owner.Go("/services/promos");
        owner.Button("Add a promo code");
        owner.Find("//h2[.='A new promo code'] | //h3[.='A new promo code']");
        owner.Fill("Code", "hello5");
        owner.Button("Add it");
        owner.Says("There is such a code already. Choose another.");
        owner.Fill("Code", "nutri-10");
        owner.Button("Nutrition first 60");
        owner.Button("Add it");
        owner.Find("//h2[.='NUTRI-10'] | //h3[.='NUTRI-10']");
        owner.AxeFindsNothing();

        using Browser phone = new(Server, 390, 844);
        phone.Go("/book?promo=nutri-10");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Says("with NUTRI-10, €8.80 off");
        phone.Time("Thursday 4 March", "10:00");
        phone.Says("NUTRI-10 takes €8.80 off.");
        phone.Find("//form//*[contains(., '10:00–11:00 · €79.20')]");
        phone.Button("Take the code out");
        phone.Find("//form//*[contains(., '10:00–11:00 · €88.00')]");

        // Enter tries a code; it does not book.
        phone.Button("I have a promo code");
        phone.Fill("Promo code", "winter15" + OpenQA.Selenium.Keys.Enter);
        phone.Says("This code can no longer be used.");
        phone.AxeFindsNothing();
        // A code that is typed and forgotten is tried before anything is booked.
        phone.Fill("Promo code", "hello5");
        phone.Button("Book 10:00");
        phone.Says("HELLO5 takes €5.00 off.");
        phone.Find("//form//*[contains(., '10:00–11:00 · €83.00') and contains(., 'kept for you')]");
        phone.AxeFindsNothing();

        // A reload keeps it, and the step back to the times does too.
        phone.Reload();
        phone.Says("HELLO5 takes €5.00 off.");
        phone.Script("history.back()");
        phone.Says("with HELLO5, €5.00 off");
        phone.Script("history.forward()");
        phone.Fill("Given name", "Ada");
        phone.Fill("Family name", "Marsh");
        phone.Fill("E-mail", "ada@example.com");
        phone.Fill("Mobile", "020 910 0001");
        phone.Button("Book 10:00");
        phone.Says("Your visit is booked");
        phone.Says("€83.00, to pay at the visit");

        using Browser desk = AtTheDesk("2027-03-04");
        desk.Press("//button[@data-visit and contains(@aria-label, 'Ada Marsh')]");
        desk.Says("with HELLO5, €5.00 off");
        owner.Reload();
        owner.Find("//button[contains(., 'HELLO5') and contains(., 'used for 1 visit')]");
    }
}
