using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Clients;

/// <summary>What the visits of a client say about them (rules, section 5).</summary>
public sealed class ClientHistoryTests
{
    private static readonly Instant _now = Instant.FromUtc(2027, 5, 12, 10, 0);
    private static readonly Guid _service = Guid.NewGuid();

    private static ClientVisit Visit(VisitState state, int startsInHours, bool late = false) =>
        new(state, _service, _now + Duration.FromHours(startsInHours), _now + Duration.FromHours(startsInHours + 1))
        {
            VisitId = Guid.NewGuid(),
            CancelledAt = state == VisitState.Cancelled ? _now - Duration.FromHours(30) : null,
            CancelledLate = late,
        };

    [Theory]
    [InlineData(VisitState.Confirmed, -1, false)]
    [InlineData(VisitState.Confirmed, 0, false)]
    [InlineData(VisitState.Confirmed, 1, true)]
    [InlineData(VisitState.Requested, -1, true)]
    [InlineData(VisitState.Requested, 5, true)]
    [InlineData(VisitState.Done, -20, false)]
    [InlineData(VisitState.NoShow, -20, true)]
    [InlineData(VisitState.Cancelled, -20, true)]
    public void A_client_is_new_until_a_confirmed_visit_has_begun(VisitState state, int startsInHours, bool isNew)
    {
        ClientHistory.IsNew(knownBefore: false, [Visit(state, startsInHours)], _now).ShouldBe(isNew);
        ClientHistory.IsNew(knownBefore: true, [Visit(state, startsInHours)], _now).ShouldBeFalse();
    }

    [Fact]
    public void Missed_is_each_visit_once_however_many_lines_it_has()
    {
        ClientVisit missed = Visit(VisitState.NoShow, -50),
            late = Visit(VisitState.Cancelled, -5, late: true);
        ClientHistory
            .Missed([
                missed,
                missed with
                {
                    Start = missed.End,
                    End = missed.End + Duration.FromHours(1),
                },
                late,
                Visit(VisitState.Cancelled, -9),
                Visit(VisitState.Done, -9),
            ])
            .ShouldBe([missed.Start, late.CancelledAt!.Value]);
    }

    [Fact]
    public void Nobody_is_at_two_places_at_once_and_visits_may_follow_each_other()
    {
        ClientVisit other = Visit(VisitState.Confirmed, 2);
        Instant start = other.Start;
        Duration minute = Duration.FromMinutes(1);
        ClientHistory.At([other], start - Duration.FromHours(1), start).ShouldBeEmpty();
        ClientHistory.At([other], other.End, other.End + minute).ShouldBeEmpty();
        ClientHistory.At([other], start - minute, start + minute).ShouldBe([other]);
        ClientHistory
            .At([other with { State = VisitState.Cancelled }, other with { State = VisitState.NoShow }], start, other.End)
            .ShouldBeEmpty();
    }

    [Theory]
    [InlineData(-5, false, false)]
    [InlineData(-5, true, true)]
    [InlineData(5, false, true)]
    public void A_visit_that_comes_first_counts_when_it_is_done_or_still_to_come(int endsInHours, bool isDone, bool counts) =>
        new EarlierVisit(_service, _now + Duration.FromHours(endsInHours), isDone).MayCount(_now).ShouldBe(counts);

    [Theory]
    [InlineData(4, 9, 39, true)]
    [InlineData(5, 0, 0, false)]
    [InlineData(0, 10, 0, false)]
    [InlineData(0, 0, 40, false)]
    public void Open_bookings_are_bounded_for_person_device_and_range(int ofPerson, int ofDevice, int ofRange, bool allowed) =>
        new OpenBookings(5).AllowOneMore(ofPerson, ofDevice, ofRange).ShouldBe(allowed);
}
