using CsCheck;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Clients;

/// <summary>What the visits of a client say: how often they come, and what they have booked twice.</summary>
public sealed class ClientHabitTests
{
    private static readonly LocalDate _day = new(2027, 3, 2);
    private static readonly Instant _now = Instant.FromUtc(2027, 3, 2, 9, 0);
    private static readonly Guid _massage = new(1, 0, 0, new byte[8]), _facial = new(2, 0, 0, new byte[8]);

    [Fact]
    public void The_middle_gap_is_the_habit()
    {
        LocalDate[] came = [_day, _day.PlusDays(28), _day.PlusDays(56), _day.PlusDays(57), _day.PlusDays(200)];
        Rhythm.Of(came, hasOneAhead: false).ShouldBe(new Rhythm(28, _day.PlusDays(228)));
        Rhythm.Of(came, hasOneAhead: true).ShouldBe(new Rhythm(28, null));
        Rhythm.Of(came[..2], hasOneAhead: false).ShouldBe(new Rhythm(null, null));
        Rhythm.Of([_day, _day, _day], hasOneAhead: false).ShouldBe(new Rhythm(null, null));
    }

    [Fact]
    public void A_habit_is_kept_by_whoever_comes_regularly() =>
        Gen.Select(Gen.Int[1, 90], Gen.Int[3, 30]).Sample((every, times) =>
        {
            LocalDate[] came = [.. Enumerable.Range(0, times).Select(i => _day.PlusDays(i * every))];
            Rhythm.Of(came.Reverse(), hasOneAhead: false).ShouldBe(new Rhythm(every, came[^1].PlusDays(every)));
        });

    private static ClientVisit Line(int visit, Guid service, int startMinutes, int minutes, VisitState state = VisitState.Confirmed)
    {
        Instant start = _now + Duration.FromMinutes(startMinutes);
        return new ClientVisit(state, service, start, start + Duration.FromMinutes(minutes)) { VisitId = new(visit, 1, 0, new byte[8]) };
    }

    private static Guid Id(int visit) => new(visit, 1, 0, new byte[8]);

    [Fact]
    public void Two_at_once_and_the_same_within_a_day_are_told()
    {
        DoubleBookings.Of([Line(1, _massage, 60, 60), Line(2, _facial, 90, 30)], _now)
            .ShouldBe([new DoubleBooking(Id(1), Id(2), DoubleReason.AtOnce)]);
        DoubleBookings.Of([Line(1, _massage, 60, 60), Line(2, _massage, 60 + (23 * 60), 60)], _now)
            .ShouldBe([new DoubleBooking(Id(1), Id(2), DoubleReason.SameService)]);
        // One after the other, another day, the same visit, cancelled, or past: nothing to mend.
        DoubleBookings.Of([Line(1, _massage, 60, 60), Line(2, _facial, 120, 30)], _now).ShouldBeEmpty();
        DoubleBookings.Of([Line(1, _massage, 60, 60), Line(2, _massage, 60 + (24 * 60), 60)], _now).ShouldBeEmpty();
        DoubleBookings.Of([Line(1, _massage, 60, 60), Line(1, _massage, 90, 60)], _now).ShouldBeEmpty();
        DoubleBookings.Of([Line(1, _massage, 60, 60), Line(2, _massage, 60, 60, VisitState.Cancelled)], _now).ShouldBeEmpty();
        DoubleBookings.Of([Line(1, _massage, -120, 60), Line(2, _massage, -120, 60)], _now).ShouldBeEmpty();
    }

    /// <summary>Against the plainest reading: every two visits compared, line by line.</summary>
    [Fact]
    public void Every_pair_is_told_once() =>
        Gen.Select(Gen.Int[1, 4], Gen.Bool, Gen.Int[-40, 400], Gen.Int[1, 20]).Array[0, 8].Sample(drawn =>
        {
            ClientVisit[] lines =
            [
                .. drawn.Select(line => Line(line.Item1, line.Item2 ? _massage : _facial, line.Item3 * 5, line.Item4 * 5)),
            ];
            IReadOnlyList<DoubleBooking> found = DoubleBookings.Of(lines, _now);
            foreach (int one in Enumerable.Range(1, 4))
                foreach (int other in Enumerable.Range(one + 1, 4 - one))
                {
                    var pairs =
                        from a in lines.Where(line => line.VisitId == Id(one) && line.End > _now)
                        from b in lines.Where(line => line.VisitId == Id(other) && line.End > _now)
                        select (AtOnce: a.Start < b.End && b.Start < a.End, Same: a.ServiceId == b.ServiceId
                            && (a.Start - b.Start < DoubleBookings.Near && b.Start - a.Start < DoubleBookings.Near));
                    Guid[] both = [Id(one), Id(other)];
                    DoubleBooking[] told = [.. found.Where(pair => both.Contains(pair.VisitId) && both.Contains(pair.OtherId))];
                    told.Length.ShouldBe(pairs.Any(pair => pair.AtOnce || pair.Same) ? 1 : 0);
                    if (told.Length == 1) (told[0].Reason == DoubleReason.AtOnce).ShouldBe(pairs.Any(pair => pair.AtOnce));
                }
        });
}
