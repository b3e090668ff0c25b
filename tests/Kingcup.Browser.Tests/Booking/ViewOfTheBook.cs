using System.Globalization;
using Shouldly;
using Xunit;

namespace Kingcup.Browser.Tests.Booking;

/// <summary>How much of the day a screen of the book shows, and that nothing moves but what somebody moves.</summary>
public sealed class ViewOfTheBook : DemoHouse
{
    private const string Slider = "//*[@role='slider' and @aria-label='Part of the day in view']";

    private const string Region = "document.querySelector('[role=region][aria-label=Lanes]')";

    private static double HoursInView(Browser desk)
    {
        string[] ends = desk.Find(Slider).GetAttribute("aria-valuetext")!.Split('–');
        return (TimeOnly.Parse(ends[1], CultureInfo.InvariantCulture) - TimeOnly.Parse(ends[0], CultureInfo.InvariantCulture)).TotalHours;
    }

    private static double First(Browser desk) =>
        double.Parse(desk.Find(Slider).GetAttribute("aria-valuenow")!, CultureInfo.InvariantCulture);

    private static double Track(Browser desk) => desk.Number("return document.querySelector('[data-track]').offsetWidth");

    [Fact]
    public void A_screen_shows_about_six_hours_around_now_and_as_many_as_somebody_chooses()
    {
        using Browser desk = AtTheDesk("2027-03-01");
        HoursInView(desk).ShouldBe(6, 0.2);
        // Now is in sight, with the hour before it.
        string.CompareOrdinal(desk.Find(Slider).GetAttribute("aria-valuetext")!, "08:30").ShouldBeLessThan(0);
        double six = Track(desk);
        desk.Button("Fewer hours");
        desk.Until(() => HoursInView(desk) < 5, "fewer hours");
        Track(desk).ShouldBeGreaterThan(six);
        double chosen = HoursInView(desk);
        desk.Go(new Uri(desk.Url).PathAndQuery);
        desk.Find("//*[@data-lane='Ines Calloway']");
        HoursInView(desk).ShouldBe(chosen, 0.2);
        // The keys do the same, down to three hours and up to the whole day.
        for (int i = 0; i < 12; i++) desk.Keys("+");
        HoursInView(desk).ShouldBe(3, 0.2);
        for (int i = 0; i < 12; i++) desk.Keys("-");
        desk.Until(() => Track(desk) < six, "the whole day");
        desk.Number($"const at = {Region}; return at.scrollWidth - at.clientWidth").ShouldBe(0);
        desk.AxeFindsNothing();
    }

    [Fact]
    public void The_part_in_view_is_dragged_pressed_and_moved_by_keys_and_the_day_stays()
    {
        using Browser desk = AtTheDesk("2027-03-01");
        string address = desk.Url;
        desk.Drag(Slider, 0.5, 0.9);
        desk.Until(() => First(desk) > 60, "a later part of the day");
        desk.Find(Slider).SendKeys(OpenQA.Selenium.Keys.Home);
        desk.Until(() => First(desk) == 0, "the beginning");
        desk.Find(Slider).SendKeys(OpenQA.Selenium.Keys.ArrowRight);
        desk.Until(() => First(desk) == 30, "half an hour later");
        desk.Find(Slider).SendKeys(OpenQA.Selenium.Keys.End);
        double last = First(desk);
        last.ShouldBeGreaterThan(180);
        desk.Url.ShouldBe(address);
        // The heads of the lanes stay where they are.
        desk.Number("return Math.round(document.querySelector('[data-lane] > *').getBoundingClientRect().left)")
            .ShouldBe(desk.Number($"return Math.round({Region}.getBoundingClientRect().left)"));
    }

    [Fact]
    public async Task A_sheet_neither_moves_nor_shrinks_the_lanes_and_what_was_pressed_stays_in_sight()
    {
        await AddClientsAsync(("Ada", "Marsh"), ("Bea", "Tallow"), ("Cy", "Reed"), ("Dot", "Fen"));
        using Browser desk = AtTheDesk("2027-03-10");
        double track = Track(desk);
        // Whatever begins last in sight would lie under the sheet.
        string reference = (string)
            desk.Script(
                """
                const room = document.querySelector('[role=region][aria-label=Lanes]').getBoundingClientRect();
                return [...document.querySelectorAll('[data-lane] button[data-visit][tabindex="0"]')]
                    .filter(block => block.getBoundingClientRect().right < room.right)
                    .sort((a, b) => b.getBoundingClientRect().left - a.getBoundingClientRect().left)[0].dataset.visit;
                """
            )!;
        desk.Press($"//*[@data-lane]//button[@data-visit='{reference}' and @tabindex='0']");
        desk.Find("//aside");
        Track(desk).ShouldBe(track);
        desk.Until(
            () =>
                desk.Number($"return document.querySelector(`[data-visit='{reference}'][tabindex='0']`).getBoundingClientRect().right")
                <= desk.Number("return document.querySelector('aside').getBoundingClientRect().left"),
            "the visit beside its sheet"
        );
    }

    [Fact]
    public async Task Few_lanes_use_the_height_of_a_large_screen()
    {
        await AddClientsAsync(("Ada", "Marsh"));
        using Browser desk = new(Server, 1920, 1080);
        desk.SignIn();
        desk.Find("//*[@data-lane='Ines Calloway']");
        desk.Go($"/day/{MillStreet}/2027-03-10");
        desk.Find("//*[@data-lane]//button[@data-visit]");
        double tall = desk.Number("return document.querySelector(`[data-lane='Ines Calloway']`).offsetHeight");
        tall.ShouldBeGreaterThan(45);
        // Nothing below the lanes stays empty, and nothing has to be scrolled for.
        desk.Number(
                """
                const room = document.querySelector('[role=region][aria-label=Lanes]').getBoundingClientRect();
                return room.bottom - [...document.querySelectorAll('[data-lane]')].at(-1).getBoundingClientRect().bottom;
                """
            )
            .ShouldBeInRange(0, 40);
    }
}
