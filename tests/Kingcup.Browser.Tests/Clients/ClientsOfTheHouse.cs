using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Clients;

/// <summary>The list of clients, a record, and two records of one person.</summary>
public sealed class ClientsOfTheHouse : DemoHouse
{
    private async Task<string> EnterAsync(string given, string family, string? phone = null)
    {
        using ApiClient desk = await ApiClient.SignedInAsync(Server);
        JsonNode client = (await desk.PostAsync("/api/v1/clients", new { givenName = given, familyName = family, phone })).Body!;
        return (string)client["id"]!;
    }

    [Fact]
    public async Task A_record_is_found_written_to_and_changed()
    {
        string id = await EnterAsync("Rosa", "Recordly", "020 910 3001");
        await EnterAsync("Nils", "Other");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press("//nav//a[normalize-space()='Clients']");
        desk.Fill("Name, number or e-mail", "recordly");
        desk.Until(() => desk.Count("//a[contains(., 'Other, Nils')]") == 0, "only those looked for");
        desk.AxeFindsNothing();
        desk.Press("//a[normalize-space()='Recordly, Rosa']");
        desk.Find("//h1[normalize-space()='Rosa Recordly']");
        desk.Fill("A new note", "Asked for the quiet room.");
        desk.Button("Keep the note");
        desk.Find("//section[@aria-label='Notes']//*[normalize-space()='Asked for the quiet room.']");
        desk.Button("Text messages about visits: agree");
        desk.Fill("In which words were they asked?", "May we text you?");
        desk.Button("Write down that they agreed");
        desk.Find("//section[@aria-label='Consents' and contains(., 'Text messages about visits: yes')]");
        desk.AxeFindsNothing();

        desk.Button("Change details");
        desk.Set("Born", "3 Apr 1984", "//aside");
        desk.Fill("Tags", "regular");
        desk.Press("//aside//button[normalize-space()='Save']");
        desk.Find("//main//*[normalize-space()='# regular']");
        desk.Find("//section[@aria-label='Reach' and contains(., '3 Apr 1984')]");
        desk.AxeFindsNothing();
        desk.Url.ShouldContain(id);
        // The way from the record to a visit.
        desk.Press("//aside//button[@aria-label='Close']");
        desk.Press("//main//button[normalize-space()='New visit']");
        desk.Find("//aside[@aria-label='New visit' and contains(., 'Rosa Recordly')]");
    }

    [Fact]
    public async Task Two_records_of_one_person_are_made_one_and_taken_apart()
    {
        await EnterAsync("Zoë", "Twicely", "020 910 3002");
        await EnterAsync("Zoe", "Twicely", "020 910 3002");
        using Browser desk = AtTheDesk("2027-03-03");
        desk.Go("/clients/tidy");
        desk.Find("//section[@aria-label='Likely the same person' and contains(., 'the same name and the same number')]");
        desk.AxeFindsNothing();
        desk.Press("//section[@aria-label='Likely the same person']//a");
        desk.Find("//h1[normalize-space()='Two records']");
        desk.AxeFindsNothing();
        desk.Press("(//tr[th[normalize-space()='Name']]//input[@type='radio'])[2]");
        desk.Button("Make them one");
        desk.Find("//section[@aria-label='To look at' and contains(., 'made one of this')]");
        desk.Button("Take apart");
        desk.Find("//section[@aria-label='To look at' and contains(., 'Likely the same person as')]");
        desk.Go("/clients/tidy");
        desk.Press("//button[contains(@aria-label, 'are two people')]");
        desk.Says("Nobody looks entered twice.");
    }

    [Fact]
    public async Task Whoever_books_online_and_is_likely_known_is_looked_at_side_by_side_from_their_visit()
    {
        await EnterAsync("Zoë", "Sidely", "020 910 3003");
        using ApiClient stranger = new(Server);
        JsonNode services = (await stranger.GetAsync("/api/public/v1/business")).Body!["categories"]!;
        string serviceId = (string)services
            .AsArray()
            .SelectMany(category => category!["services"]!.AsArray())
            .First(service => (string)service!["name"]! == "Deep tissue 60")!["id"]!;
        object[] lines = [new { serviceId }];
        JsonNode days = (
            await stranger.PostAsync("/api/public/v1/starts", new { locationId = MillStreet, lines, from = "2027-03-03", days = 1 })
        ).Body!["days"]!;
        ApiAnswer booked = await stranger.PostAsync(
            "/api/public/v1/visits",
            new
            {
                locationId = MillStreet,
                start = (string)days[0]!["starts"]![0]!["start"]!,
                lines,
                givenName = "Zoe",
                familyName = "Sidely",
                email = "zoe@example.com",
                phone = "020 910 3003",
            },
            ("Idempotency-Key", Guid.NewGuid().ToString())
        );
        booked.Status.ShouldBe(System.Net.HttpStatusCode.Created, booked.Body?.ToJsonString());

        using Browser desk = AtTheDesk("2027-03-03");
        desk.Press("//button[@data-visit and contains(@aria-label, 'Zoe Sidely')]");
        desk.Says("Likely the same person as Zoë Sidely: the same name and the same number.");
        desk.AxeFindsNothing();
        desk.Press("//a[normalize-space()='Look at both']");
        desk.Find("//h1[normalize-space()='Two records']");
        desk.Button("Make them one");
        desk.Find("//section[@aria-label='To look at' and contains(., 'made one of this')]");
    }
}
