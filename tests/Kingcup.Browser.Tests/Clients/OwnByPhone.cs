using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Clients;

/// <summary>A client looks after their own bookings with a phone, and the desk sees what they were told.</summary>
public sealed class OwnByPhone : HouseWithStandIns
{
    private const string Email = "ada@example.com";

    private async Task BookAsync(ApiClient owner)
    {
        JsonNode setup = (await owner.GetAsync("/api/v1/setup")).Body!;
        string Id(string list, string name) => (string)setup[list]!.AsArray().First(one => (string)one!["name"]! == name)!["id"]!;
        object[] lines = [new { serviceId = Id("services", "Deep tissue 60"), practitionerId = Id("practitioners", "Ines Calloway") }];
        string locationId = Id("locations", "Mill Street");
        JsonNode starts = (
            await owner.PostAsync("/api/v1/starts", new { locationId, lines, from = "2027-03-16", days = 7 })
        ).Body!;
        string start = (string)starts.AsArray().SelectMany(day => day!["starts"]!.AsArray()).First()!["start"]!;
        ApiAnswer made = await owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId,
                start,
                lines,
                newClient = new { givenName = "Ada", familyName = "Marsh", email = Email, phone = "020 910 0001" },
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        // The desk may think better of it for a minute.
        await owner.PostAsync("/api/v1/demo/clock", new { to = "2027-03-01T09:30:00Z" });
    }

    [Fact]
    public async Task They_move_it_with_Back_and_reload_cancel_it_and_the_desk_reads_what_was_sent()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(Server, Owner);
        await BookAsync(owner);
        await Outside.ArrivesAsync(Email, "Your booking on ");

        using Browser phone = new(Server, 390, 844);
        phone.Go("/book/mine");
        phone.Says("We send you a code.");
        phone.AxeFindsNothing();
        phone.Fill("E-mail address or telephone number", "ada at example");
        phone.Button("Send me a code");
        phone.Says("Enter the e-mail address or the telephone number you booked with.");
        phone.Fill("E-mail address or telephone number", Email);
        phone.Button("Send me a code");
        phone.Fill("Code", "12345");
        phone.Button("Show my bookings");
        phone.Says("That is not the code");
        phone.AxeFindsNothing();
        phone.Fill("Code", await CodeAsync(Email));
        phone.Button("Show my bookings");
        phone.Find("//h1[.='Your bookings']");
        phone.Says("Deep tissue 60 with Ines Calloway");
        phone.Press("//summary[.='Your details']");
        phone.Fill("Given name", "");
        phone.Button("Save your details");
        phone.Says("Enter the given name");
        phone.AxeFindsNothing();
        phone.Fill("Given name", "Adah");
        phone.Button("Save your details");
        phone.Says("✓ Saved.");
        phone.Says("Adah Marsh");
        phone.AxeFindsNothing();

        phone.Press("//button[starts-with(@aria-label, 'Move: ')]");
        phone.Says("Move to when?");
        phone.Script("history.back()");
        phone.Press("//button[starts-with(@aria-label, 'Move: ')]");
        phone.Says("Move to when?");
        phone.Reload();
        phone.Says("Move to when?");
        phone.AxeFindsNothing();
        phone.Press("(//main//section//div[@id]//button)[2]");
        phone.Says("Moving it costs nothing");
        phone.AxeFindsNothing();
        phone.Button("Move the booking");
        phone.Says("It is moved.");
        await Outside.ArrivesAsync(Email, "Moved to ");

        phone.Press("//button[starts-with(@aria-label, 'Cancel: ')]");
        phone.Says("Cancel this booking?");
        // It is today now, and that costs all of it: it is said before it is done.
        phone.Says("This costs €92.00: €92.00 stays owed.");
        phone.AxeFindsNothing();
        phone.Button("Keep it");
        phone.Press("//button[starts-with(@aria-label, 'Cancel: ')]");
        phone.Button("Cancel the booking");
        phone.Says("It is cancelled.");
        phone.Says("Nothing is booked.");
        await Outside.ArrivesAsync(Email, "Cancelled: ");
        phone.Button("Close on this device");
        phone.Find("//label[.='E-mail address or telephone number']");

        using Browser desk = AtTheDesk("2027-03-01", Owner);
        desk.Press("//nav//a[.='Messages']");
        foreach (string subject in (string[])["Cancelled: ", "Moved to ", "Your code for ", "Your booking on "])
            desk.Find($"//ul[@aria-label='Messages']//summary[contains(., '{subject}') and contains(., 'sent')]");
        desk.Press("//summary[contains(., 'Your code for ')]");
        desk.Says("(the code)");
        desk.AxeFindsNothing();

        // What is said is changed where one sees how it reads; what cannot be filled in is said at once.
        desk.Press("//a[.='What is said, and when']");
        desk.Find("//section[@aria-label='How it reads']//*[contains(., 'Hello Maeve,')]");
        desk.AxeFindsNothing();
        desk.Fill("Subject", "Booked for {{ dat }}");
        desk.Find("//section[@aria-label='How it reads']//*[contains(., 'There is no variable called dat.')]");
        desk.Fill("Subject", "Booked for {{ date }}");
        desk.Find("//section[@aria-label='How it reads']//*[.='Booked for Thursday 4 March 2027']");
        desk.Button("Save");
        desk.Says("Saved");
    }
}
