using Xunit;

namespace Kingcup.Browser.Tests.Business;

/// <summary>The business as its booking page shows it: pictures, and days on which it is shut.</summary>
public sealed class PicturesByOwner : DemoHouse
{
    [Fact]
    public async Task Pictures_are_added_put_in_order_and_seen_by_whoever_books()
    {
        string file = Path.Combine(Path.GetTempPath(), $"kingcup-{Guid.NewGuid():N}.png");
        await File.WriteAllBytesAsync(
            file,
            Convert.FromBase64String(
                "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="
            ),
            TestContext.Current.CancellationToken
        );
        using Browser owner = AtTheDesk("2027-03-04", Owner);
        owner.Go("/setup/business");
        owner.Upload("A picture", file);
        owner.Fill("What picture 1 shows", "The lake");
        owner.Upload("One more picture", file);
        owner.Find("//label[.='What picture 2 shows']");
        owner.Button("Save");
        // What is missing is said at its field; nothing is lost.
        owner.Says("Say what is to be seen, for whoever cannot see it.");
        owner.Fill("What picture 2 shows", "The garden");
        owner.Button("Put it before picture 1");
        owner.AxeFindsNothing();
        owner.Button("Save");
        owner.Says("Saved.");

        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Find("//*[@aria-label='Pictures']/img[1][@alt='The garden']");
        phone.Find("//*[@aria-label='Pictures']/img[2][@alt='The lake']");
        phone.Press("//summary[contains(., 'Opening hours')]");
        phone.Find("//section[@aria-label='Mill Street']//dl[@aria-label='Closed soon']/dd[.='closed']");
        phone.AxeFindsNothing();
        File.Delete(file);
    }
}
