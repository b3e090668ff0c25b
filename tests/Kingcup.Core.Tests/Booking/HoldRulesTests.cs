using Kingcup.Core.Booking;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Booking;

public sealed class HoldRulesTests
{
    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(9_999_999)]
    public void A_time_is_held_for_ten_minutes_to_the_second(long ticks)
    {
        Instant now = Instant.FromUtc(2027, 3, 1, 9, 0) + Duration.FromTicks(ticks);
        HoldRules.Until(now).ShouldBe(Instant.FromUtc(2027, 3, 1, 9, 10));
    }

    [Theory]
    [InlineData(0, 0, 0, true)]
    [InlineData(0, 1, 1, true)]
    [InlineData(0, 2, 1, false)]
    [InlineData(7, 19, 10, true)]
    [InlineData(8, 0, 10, false)]
    [InlineData(0, 20, 10, false)]
    [InlineData(100, 100, 10, false)]
    public void So_many_are_held_from_an_address_range_and_on_a_day_and_no_more(int ofRange, int ofDay, int onShift, bool allowed) =>
        HoldRules.AllowOneMore(ofRange, ofDay, onShift).ShouldBe(allowed);
}
