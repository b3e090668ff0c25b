using Kingcup.Testing;
using OpenQA.Selenium;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>The desk takes a deposit in cash and at the card terminal, and gives it back the way it came.</summary>
public sealed class DepositAtTheDesk : HouseWithStandIns
{
    private const string Money = "//section[@aria-label='Money']";

    [Fact]
    public async Task A_part_is_taken_in_cash_and_the_rest_at_the_terminal_and_cancelling_gives_both_back()
    {
        using (ApiClient api = await ApiClient.SignedInAsync(Server))
            await Visits.BookAsync(api, MillStreet, "Lymph drainage 50", "2027-03-04T10:00:00Z", "Ines Calloway", "Ada", "Marsh");
        using Browser desk = AtTheDesk("2027-03-04");
        desk.Press("//*[@data-lane='Ines Calloway']//button[@data-visit]");
        desk.Find($"{Money}//*[contains(., 'Your rules ask for a deposit of €')]");
        desk.Button("Take a deposit");
        desk.AxeFindsNothing();

        // Too much is said where it was typed, and nothing is taken; the keyboard alone does the rest.
        desk.Fill("How much? (EUR)", "9999");
        desk.Choose("How is it paid?", "in cash");
        desk.Press("//button[starts-with(normalize-space(), 'I have taken €9,999')]");
        desk.Says("that is what is left to pay.");
        desk.Fill("How much? (EUR)", "20");
        desk.Find($"{Money}//input").SendKeys(Keys.Enter);
        desk.Find($"{Money}//*[contains(., 'Deposit held: €20.00')]");
        desk.Find($"{Money}//*[contains(., 'paid in cash.')]");

        desk.Button("Take a deposit");
        desk.Fill("How much? (EUR)", "15.50");
        desk.Press("//button[normalize-space()='Ask for €15.50 at the terminal']");
        desk.Says("The card terminal asks for €15.50.");
        desk.AxeFindsNothing();
        // A reload loses nothing of it; stopped, nothing was taken.
        desk.Reload();
        desk.Button("Stop the terminal");
        desk.Says("It was stopped at the terminal. Nothing was taken.");
        desk.Button("Take a deposit");
        desk.Fill("How much? (EUR)", "15.50");
        desk.Press("//button[normalize-space()='Ask for €15.50 at the terminal']");
        desk.Says("The card terminal asks for €15.50.");
        await Outside.AtTerminalAsync();
        desk.Find($"{Money}//*[contains(., 'Deposit held: €35.50')]");

        desk.Button("Cancel visit");
        desk.Choose("Who cancels?", "we do");
        desk.Says("It costs the client nothing; €15.50 goes back to the card and €20.00 is given back in cash at the desk.");
        desk.Fill("Why is it cancelled?", "Ines is ill");
        desk.Button("Cancel visit");
        desk.Says("€20.00 is to be given back in cash.");
        desk.AxeFindsNothing();
        desk.Button("I have given it back");
        desk.Find($"{Money}//*[contains(., '€20.00 was given back in cash.')]");
        desk.Until(() => desk.Count($"{Money}//button") == 0, "nothing of it to be left to do");
    }
}
