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

        phone.Button("Look at any day and time");
        phone.Find("//*[@aria-label='Soonest']");

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

    [Fact]
    public async Task Where_the_next_two_weeks_have_nothing_the_page_looks_on_until_it_finds_a_time()
    {
        using (ApiClient owner = await ApiClient.SignedInAsync(Server, Owner))
        {
            var stops = Enumerable.Range(1, 30).Select(day => new { date = $"2027-03-{day:00}", reason = "Away" });
            ApiAnswer stopped = await owner.PostAsync("/api/v1/setup/closed-days", new { locationIds = new[] { MillStreet }, stops });
            stopped.Status.ShouldBe(System.Net.HttpStatusCode.OK, stopped.Body?.ToJsonString());
        }

        using Browser phone = new(Server, 390, 844);
        phone.Go("/book");
        phone.Press("//button[contains(., 'Nutrition first 60')]");
        phone.Find("//*[@aria-label='Soonest']//button[contains(., 'Wed 31 Mar')]");
        phone.Says("Mon 1 Mar to Tue 30 Mar: nothing free");
        phone.AxeFindsNothing();
        phone.Press("//*[@aria-label='Soonest']//button");
        phone.Says("kept for you for");
    }
}
