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
        [.. VisitStates.After(state, _start, _start + Duration.FromMinutes(minutes))];

    [Theory]
    [InlineData(VisitState.Requested, "Confirmed Cancelled")]
    [InlineData(VisitState.Confirmed, "Arrived Done NoShow Cancelled")]
    [InlineData(VisitState.Arrived, "Confirmed InTreatment Done Cancelled")]
    [InlineData(VisitState.InTreatment, "Arrived Done")]
    [InlineData(VisitState.Done, "InTreatment")]
    [InlineData(VisitState.NoShow, "Confirmed Arrived")]
    [InlineData(VisitState.Cancelled, "")]
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

    [Fact]
    public void A_wrong_press_is_taken_back_everywhere_but_after_a_cancellation()
    {
        foreach (
            VisitState from in Enum.GetValues<VisitState>().Where(state => state is not (VisitState.Requested or VisitState.Confirmed))
        )
        {
            bool leadsBack = After(from, 60).Length > 0;
            leadsBack.ShouldBe(from != VisitState.Cancelled, from.ToString());
        }
    }

    [Fact]
    public void Only_what_has_not_begun_is_moved_and_only_a_cancelled_visit_holds_no_time()
    {
        Enum.GetValues<VisitState>().Where(VisitStates.CanMove).ShouldBe([VisitState.Requested, VisitState.Confirmed]);
        Enum.GetValues<VisitState>().Where(state => !VisitStates.HoldsTime(state)).ShouldBe([VisitState.Cancelled]);
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
