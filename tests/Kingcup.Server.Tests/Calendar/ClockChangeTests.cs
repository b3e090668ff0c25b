using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using Kingcup.Testing;
using Shouldly;
using Xunit;

namespace Kingcup.Server.Tests.Calendar;

/// <summary>
/// The nights on which the clocks change, through every operation that takes wall times: on 28 March 2027 there is no hour from one to
/// two, on 31 October it comes twice. Nothing answers 500, what was meant is kept, and the day after is like any other.
/// </summary>
public sealed class ClockChangeTests(SetupWorld world) : IClassFixture<SetupWorld>
{
    private const string Spring = "2027-03-28",
        Autumn = "2027-10-31",
        Nutrition = "Nutrition review 30";

    private Task<string> MillAsync() => world.IdAsync("locations", "Mill Street");

    private async Task<string> WhoAsync() => await world.IdAsync("practitioners", "Celia Voss");

    private static object Shift(string location, string from, string until, params object[] breaks) =>
        new
        {
            locationId = location,
            from,
            until,
            breaks,
        };

    /// <summary>Gives somebody a shift on one date.</summary>
    private async Task ShiftAsync(string date, string from, string until, params object[] breaks)
    {
        string path = $"/api/v1/setup/practitioners/{await WhoAsync()}/shift-changes/{date}";
        object change = new { shifts = new[] { Shift(await MillAsync(), from, until, breaks) }, reason = "night" };
        ApiAnswer answer = await world.Owner.PutAsync(path, change, 0);
        if (answer.Status == HttpStatusCode.PreconditionFailed)
            answer = await world.Owner.PutAsync(path, change, answer.Body!["current"]!.GetValue<long>());
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
    }

    /// <summary>Takes the shift of a date back.</summary>
    private async Task TakeBackAsync(string date)
    {
        string path = $"/api/v1/setup/practitioners/{await WhoAsync()}/shift-changes/{date}";
        ApiAnswer answer = await world.Owner.DeleteAsync(path, 1);
        if (answer.Status == HttpStatusCode.PreconditionFailed)
            answer = await world.Owner.DeleteAsync(path, answer.Body!["current"]!.GetValue<long>());
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
    }

    /// <summary>The starts staff find for somebody, as instants.</summary>
    private async Task<string[]> FitsAsync(string date)
    {
        ApiAnswer answer = await world.Desk.PostAsync(
            "/api/v1/starts",
            new
            {
                locationId = await MillAsync(),
                lines = new[] { new { serviceId = await world.IdAsync("services", Nutrition), practitionerId = await WhoAsync() } },
                from = date,
                days = 1,
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.OK, answer.Body?.ToJsonString());
        return [.. answer.Body![0]!["starts"]!.AsArray().Select(start => start!["start"]!.GetValue<string>())];
    }

    private async Task DayIsWholeAsync(string date)
    {
        ApiAnswer day = await world.Desk.GetAsync($"/api/v1/locations/{await MillAsync()}/days/{date}");
        day.Status.ShouldBe(HttpStatusCode.OK, day.Body?.ToJsonString());
    }

    [Fact]
    public async Task A_shift_over_the_night_has_an_hour_less_in_spring_and_one_more_in_autumn()
    {
        foreach (
            (string date, string from, string until) in new[]
            {
                (Spring, "2027-03-28T00:00:00Z", "2027-03-28T03:00:00Z"),
                (Autumn, "2027-10-30T23:00:00Z", "2027-10-31T04:00:00Z"),
            }
        )
        {
            await ShiftAsync(date, "00:00:00", "04:00:00");
            string[] fits = await FitsAsync(date);
            fits[0].ShouldBe(from);
            // The last half hour of the shift, with the ten minutes after it inside the shift too.
            DateTimeOffset last = DateTimeOffset.Parse(fits[^1], CultureInfo.InvariantCulture);
            last.ShouldBeInRange(
                DateTimeOffset.Parse(until, CultureInfo.InvariantCulture).AddMinutes(-60),
                DateTimeOffset.Parse(until, CultureInfo.InvariantCulture).AddMinutes(-30)
            );
            await DayIsWholeAsync(date);
            await TakeBackAsync(date);
        }
    }

    [Fact]
    public async Task A_shift_that_begins_in_the_hour_that_is_left_out_begins_an_hour_later()
    {
        await ShiftAsync(Spring, "01:30:00", "04:00:00");
        // Half past one does not exist that night; it moves forward by the gap, to half past two, which is half past one in UTC.
        (await FitsAsync(Spring))[0]
            .ShouldBe("2027-03-28T01:30:00Z");
        await TakeBackAsync(Spring);
    }

    [Fact]
    public async Task A_rota_whose_nights_lie_over_both_changes_holds_by_the_clock_on_each_of_them()
    {
        string path = $"/api/v1/setup/practitioners/{await WhoAsync()}/rotas/2027-03-22", mill = await MillAsync();
        object OnSunday(string from, string until) => new { week = 0, weekday = "sunday", shift = Shift(mill, from, until) };
        ApiAnswer set = await world.Owner.PutAsync(
            path,
            new
            {
                from = "2027-03-22",
                weeks = 1,
                shifts = new[] { OnSunday("00:00:00", "01:30:00"), OnSunday("02:00:00", "04:00:00") },
            },
            0
        );
        set.Status.ShouldBe(HttpStatusCode.OK, set.Body?.ToJsonString());
        // In spring the first shift ends at half past one, which is half past two, in the midst of the second.
        string[] spring = await FitsAsync(Spring), usual = await FitsAsync("2027-04-04"), autumn = await FitsAsync(Autumn);
        spring[0].ShouldBe("2027-03-28T00:00:00Z");
        spring.ShouldContain("2027-03-28T01:00:00Z");
        // On any other Sunday there are thirty minutes between them, and nothing fits over these.
        usual[0].ShouldBe("2027-04-03T23:00:00Z");
        usual.ShouldNotContain("2027-04-04T00:05:00Z");
        usual.ShouldContain("2027-04-04T01:00:00Z");
        // In autumn the first ends at the first half past one; the second begins an hour and a half later.
        autumn[0].ShouldBe("2027-10-30T23:00:00Z");
        autumn.Where(start => string.CompareOrdinal(start, "2027-10-31T00:05:00Z") >= 0).First().ShouldBe("2027-10-31T02:00:00Z");
        foreach (string date in new[] { Spring, Autumn }) await DayIsWholeAsync(date);
        (await world.Owner.GetAsync($"/api/v1/setup/practitioners/{await WhoAsync()}/calendar?from={Spring}&days=1")).Body![0]!["shifts"]!
            .AsArray()
            .Select(shift => shift!["from"]!.GetValue<string>())
            .ShouldBe(["00:00:00", "02:00:00"]);
        (await world.Owner.DeleteAsync(path, 1)).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_break_in_the_hour_that_comes_twice_is_held_once_the_first_time()
    {
        await ShiftAsync(
            Autumn,
            "00:00:00",
            "05:00:00",
            new
            {
                from = "01:00:00",
                until = "02:00:00",
                reason = "soup",
            }
        );
        string[] fits = await FitsAsync(Autumn);
        // From one to two by the clock: from the first one o'clock until the only two o'clock, two hours.
        fits.ShouldNotContain("2027-10-31T00:00:00Z");
        fits.ShouldNotContain("2027-10-31T01:00:00Z");
        fits.ShouldContain("2027-10-31T02:00:00Z");
        await DayIsWholeAsync(Autumn);
        await TakeBackAsync(Autumn);
    }

    [Theory]
    [InlineData("2027-03-28T00:30:00", "2027-03-28T01:30:00", HttpStatusCode.Created, "")]
    [InlineData("2027-03-28T01:00:00", "2027-03-28T02:00:00", HttpStatusCode.BadRequest, "end")]
    [InlineData("2027-03-28T01:15:00", "2027-03-28T01:45:00", HttpStatusCode.Created, "")]
    [InlineData("2027-03-28T01:30:00", "2027-03-28T03:00:00", HttpStatusCode.Created, "")]
    [InlineData("2027-10-31T01:30:00", "2027-10-31T01:45:00", HttpStatusCode.Created, "")]
    [InlineData("2027-10-31T00:00:00", "2027-10-31T03:00:00", HttpStatusCode.Created, "")]
    public async Task A_block_on_such_a_night_is_kept_or_refused_at_its_field(string start, string end, HttpStatusCode status, string field)
    {
        ApiAnswer answer = await world.Owner.PostAsync(
            "/api/v1/setup/blocks",
            new
            {
                resourceId = await WhoAsync(),
                locationId = await MillAsync(),
                kind = "block",
                reason = "night",
                start,
                end,
            },
            World.Key()
        );
        (answer.Status, answer.Field ?? "").ShouldBe((status, field), answer.Body?.ToJsonString());
        await DayIsWholeAsync(start[..10]);
        if (status == HttpStatusCode.Created)
            (await world.Owner.DeleteAsync($"/api/v1/setup/blocks/{answer.Body!["id"]}", 1)).Status.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task Blocked_time_that_comes_back_every_night_lies_where_the_clock_says_on_each_of_them()
    {
        foreach (string date in new[] { "2027-03-27", Spring, "2027-03-29" })
            await ShiftAsync(date, "00:00:00", "06:00:00");
        JsonObject made = await world.Owner.MakeAsync(
            "/api/v1/setup/blocks",
            new
            {
                resourceId = await WhoAsync(),
                locationId = await MillAsync(),
                kind = "block",
                reason = "boiler",
                repeat = new
                {
                    first = "2027-03-27",
                    rule = "FREQ=DAILY;COUNT=3",
                    from = "01:00:00",
                    until = "02:00:00",
                },
            }
        );
        (await FitsAsync("2027-03-27")).ShouldNotContain("2027-03-27T01:00:00Z");
        // There is no such hour in the middle night, so nothing is held in it.
        (await FitsAsync(Spring)).ShouldContain("2027-03-28T01:00:00Z");
        string[] after = await FitsAsync("2027-03-29");
        after.ShouldNotContain("2027-03-29T00:00:00Z");
        after.ShouldContain("2027-03-29T01:00:00Z");
        (await world.Owner.DeleteAsync($"/api/v1/setup/blocks/{made["id"]}", 1)).Status.ShouldBe(HttpStatusCode.NoContent);
        foreach (string date in new[] { "2027-03-27", Spring, "2027-03-29" })
            await TakeBackAsync(date);
    }

    [Fact]
    public async Task Opening_hours_and_set_times_in_that_hour_hold_and_are_offered_where_they_then_lie()
    {
        JsonObject mill = await world.OneAsync("locations", "Mill Street");
        string path = $"/api/v1/setup/locations/{mill["id"]}";
        JsonNode usual = mill["opening"]!.DeepClone();
        mill = await world.Owner.ChangeAsync(
            path,
            mill,
            location =>
                location["opening"]!
                    .AsArray()
                    .Add(
                        new JsonObject
                        {
                            ["weekday"] = "sunday",
                            ["from"] = "00:30:00",
                            ["until"] = "05:00:00",
                        }
                    )
        );
        JsonObject service = await world.OneAsync("services", Nutrition);
        string servicePath = $"/api/v1/setup/services/{service["id"]}";
        JsonNode rules = service["online"]!.DeepClone();
        service = await world.Owner.ChangeAsync(
            servicePath,
            service,
            document =>
            {
                document["online"]!["grid"] = "setTimes";
                document["setTimes"] = new JsonArray([
                    .. new[] { "01:15:00", "03:00:00" }.Select(at => new JsonObject { ["weekday"] = "sunday", ["at"] = at }),
                ]);
            }
        );
        await ShiftAsync(Spring, "00:00:00", "05:00:00");
        await ShiftAsync(Autumn, "00:00:00", "05:00:00");
        async Task<string[]> OfferedAsync(string date) =>
            (await world.OfferedAsync(service["id"]!.GetValue<string>(), mill["id"]!.GetValue<string>(), date, 1))[date];
        // A quarter past one is a quarter past two that night.
        (await OfferedAsync(Spring)).ShouldBe(["02:15", "03:00"]);
        (await world.Owner.GetAsync($"{servicePath}")).Body!["setTimes"]!.AsArray().Count.ShouldBe(2);
        await DayIsWholeAsync(Autumn);

        await world.Owner.ChangeAsync(
            servicePath,
            service,
            document => (document["online"], document["setTimes"]) = (rules, new JsonArray())
        );
        await world.Owner.ChangeAsync(path, mill, location => location["opening"] = usual);
        await TakeBackAsync(Spring);
        await TakeBackAsync(Autumn);
    }

    [Theory]
    [InlineData("2027-03-28T00:55:00Z")]
    [InlineData("2027-03-28T01:00:00Z")]
    [InlineData("2027-10-31T00:30:00Z")]
    [InlineData("2027-10-31T01:30:00Z")]
    public async Task A_visit_can_begin_on_either_side_of_the_change_and_in_both_hours_of_one_name(string start)
    {
        string date = start[..10];
        await ShiftAsync(date, "00:00:00", "06:00:00");
        ApiAnswer made = await world.Desk.PostAsync(
            "/api/v1/visits",
            new
            {
                locationId = await MillAsync(),
                start,
                lines = new[] { new { serviceId = await world.IdAsync("services", Nutrition), practitionerId = await WhoAsync() } },
                newClient = new
                {
                    givenName = "Nia",
                    familyName = "Night",
                    phone = "020 910 0077",
                },
            },
            World.Key()
        );
        made.Status.ShouldBe(HttpStatusCode.Created, made.Body?.ToJsonString());
        made.Body!["start"]!.GetValue<string>().ShouldBe(start);
        (made.Body["end"]!.GetValue<DateTimeOffset>() - made.Body["start"]!.GetValue<DateTimeOffset>()).ShouldBe(TimeSpan.FromMinutes(30));
        await DayIsWholeAsync(date);
        ApiAnswer cancelled = await world.Desk.PostAsync(
            $"/api/v1/visits/{made.Body["id"]}/cancel",
            new { reason = "Slept" },
            World.Match(made.Body)
        );
        cancelled.Status.ShouldBe(HttpStatusCode.OK, cancelled.Body?.ToJsonString());
        await TakeBackAsync(date);
    }
}
