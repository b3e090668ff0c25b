using CsCheck;
using Kingcup.Core.Booking;
using Kingcup.Core.Messages;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Messages;

/// <summary>What is told of a visit that stands differently (rules, section 15).</summary>
public sealed class VisitNewsTests
{
    private static readonly Instant _ten = Instant.FromUtc(2027, 3, 4, 10, 0);
    private static readonly Instant _noon = Instant.FromUtc(2027, 3, 4, 12, 0);

    private static MessageTrigger? Told(VisitMoment? told, VisitMoment? stands) => VisitNews.Of(told, stands, _ten - Duration.FromDays(1));

    private static VisitMoment In(VisitState state, Instant? start = null, CancelledBy? by = null) => new(state, start ?? _ten, by);

    [Fact]
    public void ANewVisitIsToldAsBookedOrAsRequested()
    {
        Told(null, In(VisitState.Confirmed)).ShouldBe(MessageTrigger.Booked);
        Told(null, In(VisitState.Requested)).ShouldBe(MessageTrigger.Requested);
        Told(null, In(VisitState.Cancelled)).ShouldBeNull();
    }

    [Fact]
    public void ARequestIsApprovedDeclinedOrTakenBack()
    {
        Told(In(VisitState.Requested), In(VisitState.Confirmed)).ShouldBe(MessageTrigger.Approved);
        Told(In(VisitState.Requested), In(VisitState.Confirmed, _noon)).ShouldBe(MessageTrigger.Approved);
        Told(In(VisitState.Requested), In(VisitState.Cancelled, by: CancelledBy.Business)).ShouldBe(MessageTrigger.Declined);
        Told(In(VisitState.Requested), In(VisitState.Cancelled, by: CancelledBy.Client)).ShouldBe(MessageTrigger.Cancelled);
        Told(In(VisitState.Requested), null).ShouldBe(MessageTrigger.Declined);
    }

    [Fact]
    public void AnAnswerIsProposedOnceAndThenChosenDeclinedOrLapsed()
    {
        VisitMoment answered = In(VisitState.Answered) with { AnsweredAt = _ten - Duration.FromDays(2) },
            anew = answered with { AnsweredAt = _ten - Duration.FromDays(1) };
        Told(In(VisitState.Requested), answered).ShouldBe(MessageTrigger.Proposed);
        Told(null, answered).ShouldBe(MessageTrigger.Proposed);
        Told(answered, anew).ShouldBe(MessageTrigger.Proposed);
        Told(answered, In(VisitState.Requested)).ShouldBeNull();
        Told(answered, In(VisitState.Confirmed, _noon)).ShouldBe(MessageTrigger.Approved);
        Told(answered, In(VisitState.Cancelled, by: CancelledBy.Business)).ShouldBe(MessageTrigger.Declined);
        Told(answered, In(VisitState.Cancelled, by: CancelledBy.Client)).ShouldBe(MessageTrigger.Cancelled);
        Told(answered, In(VisitState.Cancelled, by: CancelledBy.Nobody)).ShouldBe(MessageTrigger.Lapsed);
        Told(In(VisitState.Requested), In(VisitState.Cancelled, by: CancelledBy.Nobody)).ShouldBe(MessageTrigger.Lapsed);
        // What was asked for may lie behind when what was proposed instead is told, or when it lapses.
        VisitNews.Of(In(VisitState.Requested), answered, _noon).ShouldBe(MessageTrigger.Proposed);
        VisitNews.Of(In(VisitState.Requested), In(VisitState.Cancelled, by: CancelledBy.Nobody), _noon).ShouldBe(MessageTrigger.Lapsed);
    }

    [Fact]
    public void WhoeverIsAnsweredAtOnceIsToldTheAnswerThoughNobodyHasToldThemTheyAsked()
    {
        Instant now = _ten - Duration.FromDays(1);
        VisitMoment asked = In(VisitState.Requested);
        VisitNews.Of(null, asked, asked, now).ShouldBe(MessageTrigger.Requested);
        VisitNews.Of(null, asked, In(VisitState.Cancelled, by: CancelledBy.Business), now).ShouldBe(MessageTrigger.Declined);
        VisitNews.Of(null, asked, In(VisitState.Confirmed), now).ShouldBe(MessageTrigger.Approved);
        VisitNews.Of(null, In(VisitState.Confirmed), In(VisitState.Cancelled, by: CancelledBy.Business), now).ShouldBe(
            MessageTrigger.Cancelled
        );
        // What the client has undone themselves is told as what it is in the end.
        VisitMoment moved = In(VisitState.Confirmed, _noon);
        VisitNews.Of(In(VisitState.Confirmed), moved, moved, now).ShouldBe(MessageTrigger.Moved);
        VisitNews.Of(In(VisitState.Confirmed), moved, In(VisitState.Confirmed), now).ShouldBe(MessageTrigger.Moved);
    }

    [Fact]
    public void AVisitIsMovedCancelledAndStandsAgain()
    {
        Told(In(VisitState.Confirmed), In(VisitState.Confirmed, _noon)).ShouldBe(MessageTrigger.Moved);
        Told(In(VisitState.Confirmed), In(VisitState.Cancelled)).ShouldBe(MessageTrigger.Cancelled);
        Told(In(VisitState.Cancelled), In(VisitState.Confirmed)).ShouldBe(MessageTrigger.Booked);
        Told(In(VisitState.Confirmed), null).ShouldBe(MessageTrigger.Cancelled);
    }

    [Fact]
    public void NobodyIsToldThatTheyHaveArrivedOrDidNotCome()
    {
        VisitState[] there = [VisitState.Confirmed, VisitState.Arrived, VisitState.InTreatment, VisitState.Done];
        foreach (VisitState state in there.Append(VisitState.NoShow))
            Told(In(VisitState.Confirmed), In(state)).ShouldBeNull();
    }

    [Fact]
    public void OfWhatLiesBehindNobodyIsTold()
    {
        VisitNews.Of(null, In(VisitState.Confirmed), _ten).ShouldBeNull();
        VisitNews.Of(In(VisitState.Confirmed), In(VisitState.Cancelled), _noon).ShouldBeNull();
        VisitNews.Of(In(VisitState.Confirmed), In(VisitState.Confirmed, _noon), _ten).ShouldBe(MessageTrigger.Moved);
    }

    [Fact]
    public void OfWhatStandsAsItWasToldThereIsNothingToTell() =>
        (from state in Gen.Enum<VisitState>()
         from minute in Gen.Int[0, 10_000]
         select In(state, _ten + Duration.FromMinutes(minute))).Sample(
            told => Told(told, told).ShouldBeNull(),
            iter: 1_000
        );
}
