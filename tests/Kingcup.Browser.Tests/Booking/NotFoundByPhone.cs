using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>Somebody looks for a time that is not there, and the owner sees what stood in the way.</summary>
public sealed class NotFoundByPhone : DemoHouse
{
    [Fact]
    public async Task What_a_client_looks_for_in_vain_is_seen_by_the_owner_without_who_it_was()
    {
        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Find("//*[@aria-label='Soonest']");
        phone.Choose("Days", "Saturdays and Sundays");
        phone.Find("//*[.='Nothing free then']");
        phone.AxeFindsNothing();
        // Looking again is the same search.
        phone.Reload();
        phone.Find("//*[@aria-label='Soonest']");
        phone.Choose("Days", "Saturdays and Sundays");
        phone.Find("//*[.='Nothing free then']");

        using ApiClient asking = await ApiClient.SignedInAsync(Server, Owner);
        using CancellationTokenSource patience = new(TimeSpan.FromSeconds(60));
        JsonArray figures = [];
        while (figures.Count == 0)
        {
            await Task.Delay(100, patience.Token);
            figures = (await asking.GetAsync("/api/v1/setup/unmet")).Body!["searches"]!.AsArray();
        }

        ((int)figures.ShouldHaveSingleItem()!["count"]!).ShouldBe(1);
        using Browser owner = new(Server);
        owner.SignIn(Owner);
        owner.Find("//nav[@aria-label='Kingcup']");
        owner.Go("/setup/booking-page");
        owner.Find("//tr[contains(., 'Nutrition first 60, Saturdays and Sundays') and contains(., 'Who does it')]");
        owner.AxeFindsNothing();
    }
}
