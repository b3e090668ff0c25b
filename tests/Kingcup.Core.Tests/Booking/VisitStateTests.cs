using Kingcup.Core.Booking;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Booking;

/// <summary>Where a visit may go from where it stands.</summary>
public sealed class VisitStateTests
{
    private static readonly Instant _start = Instant.FromUtc(2027, 3, 1, 10, 0);

    private static VisitState[] After(VisitState state, int minutes) =>
        [.. VisitStates.After(new VisitStanding(state, _start), _start, _start + Duration.FromMinutes(minutes))];

    [Theory]
    [InlineData(VisitState.Requested, "Confirmed Cancelled")]
    [InlineData(VisitState.Confirmed, "Arrived Done NoShow Cancelled")]
    [InlineData(VisitState.Arrived, "InTreatment Done Cancelled Confirmed")]
    [InlineData(VisitState.InTreatment, "Done Arrived")]
    [InlineData(VisitState.Done, "InTreatment")]
    [InlineData(VisitState.NoShow, "Arrived Confirmed")]
    [InlineData(VisitState.Cancelled, "Confirmed")]
    public void Once_it_has_begun_a_visit_goes_where_people_take_it(VisitState state, string next) =>
        string.Join(' ', After(state, 0)).ShouldBe(next);

    [Fact]
    public void Before_it_has_begun_nothing_is_done_or_missed()
    {
        foreach (VisitState state in Enum.GetValues<VisitState>())
        {
            VisitState[] before = After(state, -1);
            before.ShouldNotContain(VisitState.Done);
            before.ShouldNotContain(VisitState.NoShow);
            // Nothing else is kept from people by that.
            After(state, 0).Except(before).ShouldBeSubsetOf([VisitState.Done, VisitState.NoShow]);
        }
    }

    [Theory]
    [InlineData(VisitState.Arrived, VisitState.Confirmed)]
    [InlineData(VisitState.InTreatment, VisitState.Arrived)]
    [InlineData(VisitState.Done, VisitState.InTreatment)]
    [InlineData(VisitState.NoShow, VisitState.Confirmed)]
    [InlineData(VisitState.Cancelled, VisitState.Confirmed)]
    public void A_wrong_press_is_taken_back_within_ten_minutes_and_later_by_those_who_may(VisitState state, VisitState back)
    {
        After(state, 10).ShouldContain(back);
        After(state, 11).ShouldNotContain(back);
        VisitStates
            .After(new VisitStanding(state, _start), _start, _start + Duration.FromDays(3), later: true)
            .ShouldContain(back);
        VisitStates.BackFrom(state).ShouldBe([back]);
        // What goes on is not bound by that.
        After(state, 11).ShouldBe(After(state, 10).Where(next => next != back));
    }

    [Fact]
    public void Nothing_but_back_leads_out_of_what_is_over_and_every_way_on_ends()
    {
        foreach (VisitState state in Enum.GetValues<VisitState>())
        {
            HashSet<VisitState> reached = [];
            Queue<VisitState> open = new([state]);
            while (open.TryDequeue(out VisitState at))
            {
                foreach (VisitState next in After(at, 11))
                    if (reached.Add(next)) open.Enqueue(next);
            }

            // Without taking anything back nobody comes to where they were.
            reached.ShouldNotContain(state);
        }
    }

    [Theory]
    [InlineData(-600, 0)]
    [InlineData(59, 0)]
    [InlineData(60, 1)]
    [InlineData(719, 11)]
    public void Somebody_is_late_by_the_whole_minutes_they_came_after_the_beginning(int seconds, int late)
    {
        Instant came = _start + Duration.FromSeconds(seconds);
        VisitStates.MinutesLate(new VisitStanding(VisitState.Arrived, came), _start).ShouldBe(late);
        VisitStates.MinutesLate(new VisitStanding(VisitState.InTreatment, came), _start).ShouldBeNull();
    }

    [Fact]
    public void Lines_are_changed_until_a_visit_is_over() =>
        Enum.GetValues<VisitState>()
            .Where(VisitStates.CanChange)
            .ShouldBe([VisitState.Requested, VisitState.Confirmed, VisitState.Arrived, VisitState.InTreatment]);

    [Fact]
    public void Only_what_has_not_begun_is_moved_and_what_is_cancelled_or_answered_holds_no_time()
    {
        Enum.GetValues<VisitState>().Where(VisitStates.CanMove).ShouldBe([VisitState.Requested, VisitState.Confirmed]);
        Enum.GetValues<VisitState>().Where(state => !VisitStates.HoldsTime(state)).ShouldBe([VisitState.Answered, VisitState.Cancelled]);
        Enum.GetValues<VisitState>().Where(VisitStates.IsAsked).ShouldBe([VisitState.Requested, VisitState.Answered]);
    }

    [Fact]
    public void What_was_asked_for_waits_so_long_and_never_beyond_its_start()
    {
        Instant now = Instant.FromUtc(2027, 3, 1, 9, 0);
        RequestRules rules = new(AnswerHours: 24, ChooseHours: 6);
        rules.AnsweredUntil(now, now + Duration.FromDays(5)).ShouldBe(now + Duration.FromHours(24));
        rules.AnsweredUntil(now, now + Duration.FromHours(3)).ShouldBe(now + Duration.FromHours(3));
        rules.ChosenUntil(now + Duration.FromMilliseconds(700), now + Duration.FromDays(5)).ShouldBe(now + Duration.FromHours(6));
        rules.ChosenUntil(now, now + Duration.FromHours(2)).ShouldBe(now + Duration.FromHours(2));
    }

    [Fact]
    public void References_are_read_out_without_a_doubt_and_hardly_ever_meet()
    {
        string[] drawn = [.. Enumerable.Range(0, 5000).Select(_ => VisitReference.New())];
        drawn.ShouldAllBe(reference => reference.Length == VisitReference.Length);
        drawn.Distinct().Count().ShouldBe(drawn.Length);
        // Nothing that looks or sounds like something else, and no vowel to make a word with.
        drawn
            .SelectMany(reference => reference)
            .Distinct()
            .ShouldAllBe(letter => !"AEIOUY015SZLNVQ".Contains(letter, StringComparison.Ordinal));
    }
}
