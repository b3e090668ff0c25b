using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>A practitioner with a telephone in their pocket. The clock stands on Monday 1 March 2027, 09:00.</summary>
public sealed class OwnDayOnAPhone : DemoHouse
{
    private async Task BookAsync(string practitioner, string service, string start, string given, string family)
    {
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        JsonNode setup = (await desk.GetAsync("/api/v1/setup")).Body!;
        string Id(string list, string name) =>
            setup[list]!.AsArray().Single(entry => (string)entry!["name"]! == name)!["id"]!.GetValue<string>();
        object visit = new
        {
            locationId = MillStreet,
            start,
            note = "Desk job, neck and left shoulder",
            newClient = new { givenName = given, familyName = family },
            lines = new[] { new { serviceId = Id("services", service), practitionerId = Id("practitioners", practitioner) } },
        };
        ApiAnswer answer = await desk.PostAsync("/api/v1/visits", visit);
        if (answer.Status != System.Net.HttpStatusCode.Created) throw new InvalidOperationException(answer.Body?.ToJsonString());
    }

    [Fact]
    public async Task The_next_client_stands_large_and_is_said_to_have_arrived_with_a_thumb()
    {
        await BookAsync("Ines Calloway", "Deep tissue 60", "2027-03-01T10:00:00Z", "Maren", "Holt");
        await BookAsync("Ines Calloway", "Deep tissue 60", "2027-03-01T15:00:00Z", "Jonas", "Wick");
        using Browser phone = new(Server, 390, 844);
        phone.SignIn("ines@harrowmere.test");
        // Their own day comes first there, not the lanes.
        phone.Find("//section[@aria-label='Next client']//*[normalize-space()='Maren Holt']");
        phone.Url.ShouldContain("/my-day");
        phone.Says("Desk job, neck and left shoulder");
        phone.Number("return document.documentElement.scrollWidth - window.innerWidth").ShouldBeLessThanOrEqualTo(0);
        phone.AxeFindsNothing();
        phone.Button("Arrived");
        phone.Find("//section[@aria-label='Next client']//*[contains(., 'arrived')]");
        phone.Button("In treatment");
        phone.Button("Not in treatment");
        phone.Find("//section[@aria-label='Next client']//button[normalize-space()='In treatment']");
        phone.Count("//ol[@aria-label='The day']/li[contains(., 'Jonas Wick')]").ShouldBe(1);
        // What is worth knowing next time is written down, and stands with their name.
        phone.Press("//section[@aria-label='Next client']//button[normalize-space()='Notes']");
        phone.Says("Nothing has been written down yet.");
        phone.Fill("A new note", "Left shoulder, slowly.");
        phone.AxeFindsNothing();
        phone.Button("Keep the note");
        phone.Find("//section[@aria-label='Next client']//*[starts-with(normalize-space(), 'Ines Calloway, ')]");
        phone.Says("Left shoulder, slowly.");
        phone.Number("return document.documentElement.scrollWidth - window.innerWidth").ShouldBeLessThanOrEqualTo(0);
        using Browser desk = AtTheDesk("2027-03-01");
        desk.Press("//*[@data-lane='Ines Calloway']//button[@data-visit and contains(@aria-label, 'Maren Holt')]");
        desk.Button("Notes");
        desk.Says("Left shoulder, slowly.");
        desk.Button("Back to the visit");
        desk.Find("//aside//button[normalize-space()='In treatment']");
    }
}
