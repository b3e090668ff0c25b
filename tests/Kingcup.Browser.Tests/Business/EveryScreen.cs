using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Business;

/// <summary>No screen is wider than its window, and the checker finds nothing, in three sizes, light and dark.</summary>
public sealed class EveryScreen : DemoHouse
{
    private static readonly string[] _screens =
    [
        "/team", "/team/qualifications", "/team/extra-shifts",
        "/rooms", "/services", "/services/add-ons", "/services/promos", "/why-not", "/setup", "/setup/business",
        "/setup/locations", "/setup/booking-page", "/setup/accounts", "/setup/import", "/setup/history", "/account",
        "/clients", "/clients/tidy", "/messages", "/messages/rules", "/setup/deposits",
    ];

    [Theory]
    [InlineData(390, 844, false)]
    [InlineData(640, 400, true)]
    [InlineData(1280, 800, true)]
    public async Task Fits_its_window(int width, int height, bool dark)
    {
        await AddClientsAsync(("Ada", "Marsh"), ("Ada", "Marsh"));
        string[] days = [.. new[] { "week", "month", "agenda", "sheets" }.Select(view => $"/{view}/{MillStreet}/2027-03-10")];
        using Browser owner = new(Server, width, height);
        if (dark) owner.Dark();
        owner.SignIn(Owner);
        owner.Find("//main");
        foreach (string screen in _screens.Concat(days))
        {
            owner.Go(screen);
            owner.Find("//main//h1");
            owner.Until(() => owner.Count("//*[@aria-busy='true']") == 0, $"{screen} to be there");
            owner
                .Number("return document.documentElement.scrollWidth - window.innerWidth")
                .ShouldBeLessThanOrEqualTo(0, $"{screen} at {width}");
            owner
                .Number("const m = document.querySelector('main'); return m.scrollWidth - m.clientWidth")
                .ShouldBeLessThanOrEqualTo(0, $"{screen} at {width}, inside");
            // Half the width and height of a desk is the desk at twice its size: the same page, looked at once.
            if (width != 640) owner.AxeFindsNothing();
        }
    }
}
