using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using OpenQA.Selenium;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>Somebody asks for a time with a phone, the desk answers with others, and one of these is taken by the link.</summary>
public sealed class RequestsByPhone : HouseWithStandIns
{
    private const string Email = "ada@example.com";
    private const string Fits = "//*[@aria-label='Starts that fit']";

    protected override string[] Settings => [.. base.Settings, "--Address=https://booking.harrowmere.test"];

    private static async Task EverybodyAsksAsync(ApiClient owner)
    {
        JsonNode location = (await owner.GetAsync("/api/v1/setup/locations")).Body!.AsArray()
            .First(one => (string)one!["name"]! == "Mill Street")!;
        location["online"]!["approval"] = "everyone";
        (
            await owner.SendAsync(
                HttpMethod.Put,
                $"/api/v1/setup/locations/{location["id"]}",
                JsonContent.Create(location),
                ("If-Match", location["version"]!.ToString())
            )
        ).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task It_is_answered_with_the_keyboard_on_two_days_and_chosen_with_Back_and_reload()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(Server, Owner);
        await EverybodyAsksAsync(owner);
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Time("Thursday 4 March", "10:00");
        phone.Says("We look at each of these bookings first.");
        phone.Fill("Given name", "Ada");
        phone.Fill("Family name", "Marsh");
        phone.Fill("E-mail", Email);
        phone.Fill("Mobile", "020 910 0001");
        phone.AxeFindsNothing();
        phone.Button("Ask for 10:00");
        phone.Says("We have your request");

        using Browser desk = AtTheDesk("2027-03-05");
        desk.Press("//section[@aria-label='Needs a place']//button[contains(., 'needs a place')]");
        desk.Press("//section[@aria-label='Needs a place']//button[contains(., 'Waits for an answer until')]");
        desk.Find("//section[@aria-label='Request']//*[contains(., 'Nothing speaks against it.')]");
        desk.AxeFindsNothing();
        desk.Button("Other times");
        desk.Find("//button[normalize-space()='Choose a time' and @disabled]");
        desk.AxeFindsNothing();
        // One from the list with the keyboard, one on the next day that has any.
        desk.Find($"({Fits}//button)[2]").SendKeys(Keys.Enter);
        desk.Find("//button[normalize-space()='Propose this time']");
        desk.Press("//button[@aria-label='Starts of the day after']");
        desk.Press("//button[starts-with(normalize-space(), 'Next that fits: ')]");
        desk.Press($"({Fits}//button)[1]");
        desk.Find("//button[normalize-space()='Propose these 2 times']");
        desk.Fill("A word to the client, if you like", "Celia is away that morning.");
        desk.Button("Propose these 2 times");
        desk.Says("The client chooses until");
        desk.AxeFindsNothing();
        desk.Find("//*[contains(@title, 'Proposed to Ada Marsh')]");

        await owner.PostAsync("/api/v1/demo/clock", new { to = "2027-03-01T09:30:00Z" });
        string text = (string)(await Outside.ArrivesAsync(Email, "Another time for Nutrition first 60?"))["text"]!;
        text.ShouldContain("Celia is away that morning.");
        phone.Go(text[text.IndexOf("/book/mine#", StringComparison.Ordinal)..].Split('\n')[0].Trim());
        phone.Says("We keep these for you.");
        phone.Says("Celia is away that morning.");
        phone.AxeFindsNothing();
        phone.Press("//button[starts-with(@aria-label, 'None of these')]");
        phone.Says("None of these times?");
        phone.AxeFindsNothing();
        phone.Script("history.back()");
        phone.Says("We keep these for you.");
        phone.Reload();
        phone.Press("(//button[starts-with(@aria-label, 'Take ')])[2]");
        phone.Says("It is booked at the time you chose.");
        phone.AxeFindsNothing();
        desk.Find("//button[normalize-space()='Arrived' or normalize-space()='Move']");
        desk.Until(() => desk.Count("//*[contains(@title, 'Proposed to Ada Marsh')]") == 0, "what was proposed to be free again");
    }
}
