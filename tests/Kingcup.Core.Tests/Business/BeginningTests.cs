using Kingcup.Core.Business;
using Kingcup.Core.Time;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Business;

/// <summary>What a business usually begins with can all be booked by somebody who holds its qualifications.</summary>
public sealed class BeginningTests
{
    public static TheoryData<Trade> Trades => [.. Enum.GetValues<Trade>()];

    [Theory]
    [MemberData(nameof(Trades))]
    public void Every_trade_begins_with_five_services_that_its_rooms_and_qualifications_allow(Trade trade)
    {
        Beginning beginning = Beginnings.Of(trade);
        beginning.Services.Count.ShouldBe(5);
        beginning.Services.Select(service => service.Name).ShouldBeUnique();
        beginning.Rooms.Select(room => room.Name).ShouldBeUnique();
        foreach (BeginningService service in beginning.Services)
        {
            Grain.IsWhole(service.Minutes).ShouldBeTrue(service.Name);
            Grain.IsWhole(service.BufferMinutes).ShouldBeTrue(service.Name);
            service.Price.ShouldBeGreaterThan(0);
            if (service.Feature is { } feature)
                beginning.Rooms.ShouldContain(room => room.Features.Contains(feature), $"a room with {feature} for {service.Name}");
            if (service.Qualification is { } qualification) beginning.Qualifications.ShouldContain(qualification);
            // A day that is open has to hold it, with what is kept after it.
            beginning.Hours.Max(hours => Length(hours)).ShouldBeGreaterThan(service.Minutes + service.BufferMinutes);
        }
    }

    [Theory]
    [MemberData(nameof(Trades))]
    public void Its_hours_are_on_several_days_one_stretch_each(Trade trade)
    {
        Beginning beginning = Beginnings.Of(trade);
        beginning.Hours.Select(hours => hours.Weekday).ShouldBeUnique();
        beginning.Hours.Count.ShouldBeInRange(4, 6);
        beginning.Hours.ShouldAllBe(hours => Length(hours) >= 6 * 60);
    }

    [Fact]
    public void Every_qualification_of_a_trade_is_needed_by_something() =>
        Beginnings.All.ShouldAllBe(beginning =>
            beginning.Qualifications.All(name => beginning.Services.Any(service => service.Qualification == name))
        );

    private static long Length(OpeningHours hours) =>
        (hours.During.Until.TickOfDay - hours.During.From.TickOfDay) / NodaTime.NodaConstants.TicksPerMinute;
}
