using Kingcup.Testing;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>A new client pays a deposit with a phone, and cancels too late.</summary>
public sealed class PaidByPhone : HouseWithStandIns
{
    [Fact]
    public async Task A_deposit_is_paid_with_Back_and_a_code_of_the_bank_and_cancelling_late_says_what_it_costs()
    {
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Lymph drainage 50')]");
        phone.Time("Thursday 4 March", "10:00");
        phone.Find("//*[contains(., 'Due now by card')]//b[contains(., '€')]");
        phone.Says("You can cancel free of charge until 2 March 2027, 10:00.");
        phone.AxeFindsNothing();
        phone.Fill("Given name", "Ada");
        phone.Fill("Family name", "Marsh");
        phone.Fill("E-mail", "ada@example.com");
        phone.Fill("Mobile", "020 910 0001");
        phone.Press("//button[starts-with(normalize-space(), 'Pay €') and contains(., 'and book 10:00')]");
        phone.Find("//h1[.='Card payment']");

        // Back, and on again: the time is theirs all the while.
        phone.Script("history.back()");
        phone.Says("Not paid yet");
        phone.AxeFindsNothing();
        phone.Reload();
        phone.Says("Not paid yet");
        phone.Button("Go on to the card");
        phone.Fill("Card number", "9000 0000 0000 0019");
        phone.Fill("Expires (MM/YY)", "04/29");
        phone.Fill("Security code", "123");
        phone.Button("Pay");
        phone.Says("The bank declines this card.");
        phone.Fill("Card number", "9000 0000 0000 0035");
        phone.Fill("Expires (MM/YY)", "04/29");
        phone.Fill("Security code", "123");
        phone.Button("Pay");
        phone.Fill("Code of your bank", "2468");
        phone.Button("Pay");
        phone.Says("Your visit is booked");
        phone.Find("//*[contains(., 'is paid') and contains(., 'is left to pay at the visit')]");
        phone.AxeFindsNothing();

        // Inside the last 24 hours it costs all of it, said before it is done; the owner may let them off.
        using (ApiClient owner = await ApiClient.SignedInAsync(Server, Owner))
            await owner.PostAsync("/api/v1/demo/clock", new { to = "2027-03-03T18:00:00Z" });
        using Browser desk = AtTheDesk("2027-03-04", Owner);
        desk.Press("//*[@data-lane='Ines Calloway']//button[@data-visit and contains(@aria-label, 'Ada Marsh')]");
        desk.Find("//section[@aria-label='Money']//*[contains(., 'Card on file, ends in 0035')]");
        desk.Button("Cancel visit");
        desk.Find("//*[contains(., 'It costs the client') and contains(., 'of the deposit kept') and contains(., 'from the card')]");
        desk.AxeFindsNothing();
        desk.Press("//label[contains(., 'Let them off this time')]");
        desk.Fill("Why are they let off?", "Ill");
        desk.Find("//*[contains(., 'it costs them nothing') and contains(., 'goes back to the card')]");
        desk.Press("//label[contains(., 'Let them off this time')]");
        desk.Fill("Why is it cancelled?", "Overslept");
        desk.Button("Cancel visit");
        desk.Find("//section[@aria-label='Money']//*[contains(., 'Fee of €') and contains(., 'is taken from the card')]");
        desk.Press("//button[contains(., 'Undo (u)')]");
        desk.Find("//section[@aria-label='Money']//*[contains(., 'Deposit held')]");
    }
}
