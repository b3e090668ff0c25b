using Kingcup.Core.Booking;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Booking;

/// <summary>Whose cancellation counts, and from when on it is late (rules, sections 5 and 9).</summary>
public sealed class CancellationTests
{
    private static readonly Instant _start = Instant.FromUtc(2027, 3, 10, 10, 0);

    [Theory]
    [InlineData(CancelledBy.Client, 48 * 60 + 1, false)]
    [InlineData(CancelledBy.Client, 48 * 60, false)]
    [InlineData(CancelledBy.Client, 48 * 60 - 1, true)]
    [InlineData(CancelledBy.Client, -5, true)]
    [InlineData(CancelledBy.Business, 10, false)]
    public void Exactly_the_notice_before_is_in_time_and_the_business_is_never_late(CancelledBy by, int minutesBefore, bool late)
    {
        // Of two services the longer notice counts for the visit.
        Instant last = Cancellation.LastInTime(_start, [24, 48]);
        Cancellation.Of(by, "ill", _start - Duration.FromMinutes(minutesBefore), last).IsLate.ShouldBe(late);
    }

    [Fact]
    public void Without_a_notice_a_client_may_cancel_until_it_begins() => Cancellation.LastInTime(_start, []).ShouldBe(_start);
}
