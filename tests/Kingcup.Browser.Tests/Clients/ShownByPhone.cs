using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Clients;

/// <summary>Somebody shows who they are on the booking page, and books without typing anything again.</summary>
public sealed class ShownByPhone : HouseWithStandIns
{
    private const string Email = "ada@example.com";

    private async Task KnownAsync(ApiClient owner)
    {
        JsonNode setup = (await owner.GetAsync("/api/v1/setup")).Body!;
        string Id(string list, string name) => (string)setup[list]!.AsArray().First(one => (string)one!["name"]! == name)!["id"]!;
        object[] lines = [new { serviceId = Id("services", "Nutrition first 60"), practitionerId = Id("practitioners", "Celia Voss") }];
        string locationId = Id("locations", "Mill Street");
        JsonNode starts = (await owner.PostAsync("/api/v1/starts", new { locationId, lines, from = "2027-03-16", days = 7 })).Body!;
        ApiAnswer made = await owner.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId,
                start = (string)starts.AsArray().SelectMany(day => day!["starts"]!.AsArray()).First()!["start"]!,
                lines,
                newClient = new { givenName = "Ada", familyName = "Marsh", email = Email, phone = "020 910 0001" },
            }
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
    }

    [Fact]
    public async Task They_are_known_after_a_code_book_without_a_name_and_may_go_on_as_somebody_else()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(Server, Owner);
        await KnownAsync(owner);
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Press("//button[contains(., 'Show who you are')]");
        phone.Find("//h2[.='Show who you are']");
        phone.AxeFindsNothing();
        phone.Button("Go on without");
        phone.Press("//button[contains(., 'Show who you are')]");
        phone.Fill("E-mail address or telephone number", Email);
        phone.Button("Send me a code");
        phone.Fill("Code", await CodeAsync(Email));
        phone.AxeFindsNothing();
        phone.Button("Go on");
        phone.Find("//*[@role='status'][contains(., 'For Ada Marsh')]");
        phone.AxeFindsNothing();
        phone.Time("Thursday 4 March", "10:00");
        phone.Says("kept for you for");
        phone.Count("//label[.='Given name']").ShouldBe(0);
        phone.AxeFindsNothing();
        phone.Reload();
        phone.Says("kept for you for");
        phone.Find("//form//*[@role='status'][contains(., 'For Ada Marsh')]");

        // Somebody else has to say who they are, and Ada is a press away.
        phone.Button("Somebody else");
        phone.Find("//label[.='Given name']");
        phone.Script("history.back()");
        phone.Button("For Ada Marsh");
        phone.Time("Thursday 4 March", "10:00");
        phone.Button("Book 10:00");
        phone.Says("Your visit is booked");
        phone.Go("/book/mine");
        phone.Says("Thursday 4 March, 10:00–11:00");
    }

    [Fact]
    public async Task They_book_for_a_child_they_are_linked_with_see_it_and_cancel_it_until_the_desk_takes_the_link_back()
    {
        using ApiClient owner = await ApiClient.SignedInAsync(Server, Owner);
        await KnownAsync(owner);
        await owner.PostAsync("/api/v1/clients", new { givenName = "Bo", familyName = "Marsh" });
        using Browser desk = AtTheDesk("2027-03-01");
        desk.Press("//nav//a[normalize-space()='Clients']");
        desk.Press("//a[normalize-space()='Marsh, Ada']");
        desk.Fill("Somebody who belongs to them", "bo mar");
        desk.Press("//*[@role='option'][contains(., 'Bo Marsh')]");
        desk.Button("Link them");
        desk.Says("say in a word what they are to each other");
        desk.Fill("What is Bo Marsh to Ada Marsh?", "child");
        desk.Button("Link them");
        desk.Find("//section[@aria-label='Reach' and contains(., 'books and sees visits for them')]");
        desk.AxeFindsNothing();

        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Press("//button[contains(., 'Show who you are')]");
        phone.Fill("E-mail address or telephone number", Email);
        phone.Button("Send me a code");
        phone.Fill("Code", await CodeAsync(Email));
        phone.Button("Go on");
        phone.Choose("Who comes", "Bo Marsh");
        phone.Time("Thursday 4 March", "10:00");
        phone.Says("kept for you for");
        phone.AxeFindsNothing();
        phone.Reload();
        phone.Says("kept for you for");
        phone.Button("Book 10:00");
        phone.Says("Your visit is booked");
        phone.Go("/book/mine");
        phone.Find("//*[contains(., 'Bo Marsh') and contains(., 'Thursday 4 March, 10:00–11:00')]");
        phone.AxeFindsNothing();

        // The desk sees whose it is; once the link sees nothing, they do not either.
        desk.Press("//section[@aria-label='Reach']//a[normalize-space()='Bo Marsh']");
        desk.Find("//h1[normalize-space()='Bo Marsh']");
        desk.Find("//main//*[contains(., 'Nutrition first 60')]");
        phone.Press("//button[starts-with(@aria-label, 'Cancel: ') and contains(@aria-label, '4 March')]");
        phone.Button("Cancel the booking");
        phone.Says("It is cancelled.");
        desk.Button("Change what Ada Marsh may do for them");
        desk.AxeFindsNothing();
        desk.Button("Take the link back");
        desk.Until(() => desk.Count("//section[@aria-label='Reach']//a[normalize-space()='Ada Marsh']") == 0, "the link gone");
        phone.Reload();
        phone.Find("//h1[.='Your bookings']");
        phone.Text.ShouldNotContain("Bo Marsh");
    }
}
