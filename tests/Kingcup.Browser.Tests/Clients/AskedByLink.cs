using System.Text.RegularExpressions;
using Kingcup.Browser.Tests.Booking;
using Kingcup.Testing;
using Xunit;

namespace Kingcup.Browser.Tests.Clients;

/// <summary>The desk asks for a deposit by a link, and the client pays it with a phone.</summary>
public sealed partial class AskedByLink : HouseWithStandIns
{
    private const string Email = "ada@example.com";

    [Fact]
    public async Task The_desk_sends_a_link_the_client_pays_with_Back_in_between_and_the_desk_sees_it_at_once()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(Server, Owner);
        await Visits.BookAsync(
            owner, MillStreet, "Lymph drainage 50", "2027-03-09T12:00:00Z", "Ines Calloway", "Ada", "Marsh", Email);

        using Browser desk = AtTheDesk("2027-03-09");
        desk.Press("//*[@data-lane='Ines Calloway']//button[@data-visit]");
        desk.Button("Take a deposit");
        desk.Fill("How much? (EUR)", "25");
        desk.Choose("How is it paid?", "by card, by a link the client is sent");
        desk.Button("Send a link for €25.00");
        desk.Says("The client is asked for €25.00 by a link");
        desk.AxeFindsNothing();

        await Outside.ArrivesAsync(Email, "A deposit for");
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book/mine");
        phone.Fill("E-mail address or telephone number", Email);
        phone.Button("Send me a code");
        string code = Code().Match((string)(await Outside.ArrivesAsync(Email, "Your code is"))["text"]!).Value;
        phone.Fill("Code", code);
        phone.Button("Show my bookings");
        phone.Says("We ask for a deposit of €25.00");
        phone.AxeFindsNothing();
        phone.Press("//button[normalize-space()='Pay €25.00 by card']");
        phone.Find("//h1[.='Card payment']");
        phone.Script("history.back()");
        phone.Says("We ask for a deposit of €25.00");
        phone.Reload();
        phone.Press("//button[normalize-space()='Pay €25.00 by card']");
        phone.Fill("Card number", "9000 0000 0000 0001");
        phone.Fill("Expires (MM/YY)", "04/29");
        phone.Fill("Security code", "123");
        phone.Button("Pay");
        phone.Says("Thank you, the deposit is paid.");
        phone.Find("//*[contains(., '€25.00 is paid')]");
        phone.AxeFindsNothing();
        desk.Find("//section[@aria-label='Money']//*[contains(., 'Deposit held: €25.00')]");
    }

    [GeneratedRegex("[0-9]{6}")]
    private static partial Regex Code();
}
