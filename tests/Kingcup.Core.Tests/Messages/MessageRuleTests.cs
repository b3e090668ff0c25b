using CsCheck;
using Kingcup.Core.Booking;
using Kingcup.Core.Messages;
using Kingcup.Core.Money;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Messages;

/// <summary>When messages go (rules, section 15).</summary>
public sealed class MessageRuleTests
{
    private static readonly DateTimeZone _dublin = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
    private static readonly QuietHours _quiet = new(new LocalTime(21, 0), new LocalTime(8, 0));

    private static Instant At(int month, int day, int hour, int minute = 0) =>
        new LocalDateTime(2027, month, day, hour, minute).InZoneLeniently(_dublin).ToInstant();

    private static Interval Visit(Instant start) => new(start, start + Duration.FromHours(1));

    private static MessageRule Reminder(int hours, int late = 120) =>
        new()
        {
            Id = Guid.NewGuid(),
            Trigger = MessageTrigger.BeforeStart,
            Channel = Channel.Email,
            Recipient = Recipient.Client,
            OffsetMinutes = hours * 60,
            LateMinutes = late,
        };

    [Fact]
    public void AReminderGoesItsHoursBeforeTheVisit() =>
        Reminder(48).At(Visit(At(3, 4, 14)), _dublin, _quiet).ShouldBe(At(3, 2, 14));

    [Fact]
    public void AReminderThatWouldFallIntoQuietHoursGoesBeforeThem()
    {
        Reminder(12).At(Visit(At(3, 4, 10)), _dublin, _quiet).ShouldBe(At(3, 3, 20, 59));
        // Early in the morning it is still the quiet of the evening before.
        Reminder(24).At(Visit(At(3, 4, 7)), _dublin, _quiet).ShouldBe(At(3, 2, 20, 59));
        Reminder(24).At(Visit(At(3, 4, 8)), _dublin, _quiet).ShouldBe(At(3, 3, 8));
    }

    [Fact]
    public void WhatFollowsAVisitWaitsForTheEndOfTheQuiet() =>
        (Reminder(2) with { Trigger = MessageTrigger.AfterEnd })
            .At(Visit(At(3, 4, 19)), _dublin, _quiet)
            .ShouldBe(At(3, 5, 8));

    [Fact]
    public void TheHoursBeforeAreRealHoursWhenTheClockChanges()
    {
        // The clock goes forward on 28 March: 24 hours before ten is nine on the day before.
        Reminder(24).At(Visit(At(3, 28, 10)), _dublin, _quiet).ShouldBe(At(3, 27, 9));
        _quiet.After(At(3, 28, 0, 30), _dublin).ShouldBe(At(3, 28, 8));
    }

    [Fact]
    public void WhatHadPassedWhenTheVisitWasBookedIsNotSentLater()
    {
        Interval visit = Visit(At(3, 4, 14));
        Reminder(48).Plan(visit, At(3, 2, 15), _dublin, _quiet, At(3, 2, 15)).Fate.ShouldBe(MessageFate.TooSoon);
        Reminder(24).Plan(visit, At(3, 2, 15), _dublin, _quiet, At(3, 2, 15)).ShouldBe(new PlannedMessage(At(3, 3, 14), MessageFate.Ahead));
        Reminder(48).Plan(visit, At(3, 2, 14), _dublin, _quiet, At(3, 2, 14)).Fate.ShouldBe(MessageFate.Due);
    }

    [Fact]
    public void ALateReminderIsSentAsLongAsItMakesSense()
    {
        Interval visit = Visit(At(3, 4, 14));
        Instant booked = At(2, 1, 9);
        Reminder(24, late: 90).Plan(visit, booked, _dublin, _quiet, At(3, 3, 15, 30)).Fate.ShouldBe(MessageFate.Due);
        Reminder(24, late: 90).Plan(visit, booked, _dublin, _quiet, At(3, 3, 15, 31)).Fate.ShouldBe(MessageFate.TooLate);
    }

    [Fact]
    public void ALateReminderWakesNobodyAndNeverComesAfterTheStart()
    {
        Instant booked = At(2, 1, 9);
        // Due at 20:59; the server comes back at 22:00, and twelve hours late would still make sense.
        Reminder(12, late: 720).Plan(Visit(At(3, 4, 9)), booked, _dublin, _quiet, At(3, 3, 22))
            .ShouldBe(new PlannedMessage(At(3, 4, 8), MessageFate.Ahead));
        Reminder(12, late: 720).Plan(Visit(At(3, 4, 8)), booked, _dublin, _quiet, At(3, 3, 22)).Fate.ShouldBe(MessageFate.TooLate);
    }

    [Fact]
    public void NoTimedMessageFallsIntoQuietHoursAndReminderNeverComesLaterThanItsOffset() =>
        (from minute in Gen.Int[0, 60 * 24 * 365]
         from offset in Gen.Int[1, MessageRule.MostMinutes]
         from quietFrom in Gen.Int[0, 287]
         from quietUntil in Gen.Int[0, 287]
         from isAfter in Gen.Bool
         select (minute, offset, quietFrom, quietUntil, isAfter)).Sample(world =>
        {
            QuietHours quiet = new(
                LocalTime.Midnight.PlusMinutes(world.quietFrom * 5),
                LocalTime.Midnight.PlusMinutes(world.quietUntil * 5)
            );
            Interval visit = Visit(Instant.FromUtc(2027, 1, 1, 0, 0) + Duration.FromMinutes(world.minute));
            MessageRule rule = Reminder(1) with
            {
                OffsetMinutes = world.offset,
                Trigger = world.isAfter ? MessageTrigger.AfterEnd : MessageTrigger.BeforeStart,
            };
            Instant at = rule.At(visit, _dublin, quiet);
            quiet.IsQuiet(at, _dublin).ShouldBeFalse();
            Duration offset = Duration.FromMinutes(world.offset);
            Instant asked = world.isAfter ? visit.End + offset : visit.Start - offset;
            // Where the clock changes, two of them may leave nothing between.
            bool isWhole = _dublin.GetZoneInterval(asked - Duration.FromDays(2)) == _dublin.GetZoneInterval(asked + Duration.FromDays(2));
            Duration most = Duration.FromHours(isWhole ? 24 : 49);
            if (world.isAfter) at.ShouldBeInRange(asked, asked + most);
            else at.ShouldBeInRange(asked - most, asked);
            // Quiet, by a slow look at the clock on the wall.
            LocalTime clock = at.InZone(_dublin).TimeOfDay;
            bool inside = quiet.From < quiet.Until
                ? quiet.From <= clock && clock < quiet.Until
                : quiet.From > quiet.Until && (quiet.From <= clock || clock < quiet.Until);
            bool clockChanges = _dublin.GetZoneInterval(at - Duration.FromHours(3)) != _dublin.GetZoneInterval(at + Duration.FromHours(3));
            (inside && !clockChanges).ShouldBeFalse();
        }, iter: 20_000);

    [Fact]
    public void WhereTheClockChangesOneQuietMayRunIntoTheNextAndAReminderGoesBeforeBoth()
    {
        // Quiet but for the time from 01:10 to 02:05, which the clock leaves out on 28 March.
        QuietHours quiet = new(new LocalTime(2, 5), new LocalTime(1, 10));
        Interval visit = Visit(At(3, 28, 14));
        Instant at = Reminder(1).At(visit, _dublin, quiet);
        quiet.IsQuiet(at, _dublin).ShouldBeFalse();
        at.ShouldBe(At(3, 27, 2, 4));
        Instant after = (Reminder(1) with { Trigger = MessageTrigger.AfterEnd }).At(Visit(At(3, 27, 14)), _dublin, quiet);
        after.ShouldBe(At(3, 29, 1, 10));
    }

    [Fact]
    public void AFilterLetsThroughWhatItNames()
    {
        Guid here = Guid.NewGuid(), massage = Guid.NewGuid();
        MessageSubject subject = new(here, [massage], IsNew: true, IsOnline: false);
        new MessageFilter().Lets(subject).ShouldBeTrue();
        new MessageFilter { LocationId = here, ServiceIds = new HashSet<Guid> { massage }, New = true, Online = false }
            .Lets(subject).ShouldBeTrue();
        new MessageFilter { LocationId = Guid.NewGuid() }.Lets(subject).ShouldBeFalse();
        new MessageFilter { ServiceIds = new HashSet<Guid> { Guid.NewGuid() } }.Lets(subject).ShouldBeFalse();
        new MessageFilter { New = false }.Lets(subject).ShouldBeFalse();
        new MessageFilter { Online = true }.Lets(subject).ShouldBeFalse();
    }

    [Fact]
    public void RemindersAreForVisitsThatStandAndFollowUpsForThoseThatAreDone()
    {
        MessageRule after = Reminder(1) with { Trigger = MessageTrigger.AfterEnd };
        Enum.GetValues<VisitState>().Where(Reminder(1).IsFor).ShouldBe([VisitState.Confirmed]);
        Enum.GetValues<VisitState>().Where(after.IsFor).ShouldBe([VisitState.Done]);
    }

    [Fact]
    public void WhatIsForWhoHasNotComeBackIsWantedByNobodyElse()
    {
        MessageRule due = Reminder(1) with { Trigger = MessageTrigger.AfterEnd, OnlyIfNotBack = true };
        due.IsWanted(isBack: false).ShouldBeTrue();
        due.IsWanted(isBack: true).ShouldBeFalse();
        (due with { OnlyIfNotBack = false }).IsWanted(isBack: true).ShouldBeTrue();
    }

    [Fact]
    public void TextsAreCountedAsTelephonesSendThem()
    {
        TextLength.PartsOf("").ShouldBe(0);
        TextLength.PartsOf(new string('a', 160)).ShouldBe(1);
        TextLength.PartsOf(new string('a', 161)).ShouldBe(2);
        TextLength.PartsOf(new string('a', 306)).ShouldBe(2);
        TextLength.PartsOf(new string('a', 307)).ShouldBe(3);
        // The euro takes two places, and a letter outside the alphabet of telephones makes each take more.
        TextLength.PartsOf(new string('a', 158) + "€").ShouldBe(1);
        TextLength.PartsOf(new string('a', 159) + "€").ShouldBe(2);
        TextLength.PartsOf(new string('ł', 70)).ShouldBe(1);
        TextLength.PartsOf(new string('ł', 71)).ShouldBe(2);
    }

    [Fact]
    public void MovingCostsNothingUnlessItCountsAsCancelling() =>
        (from price in Gen.Long[0, 100_000]
         from deposit in Gen.Long[0, 100_000]
         from percent in Gen.Int[0, 100]
         from notice in Gen.Int[0, 72]
         from free in Gen.Int[0, 3]
         from moves in Gen.Int[0, 4]
         from left in Gen.Int[0, 100]
         from hasCard in Gen.Bool
         select (price, deposit: Math.Min(deposit, price), percent, notice, free, moves, left, hasCard)).Sample(world =>
        {
            CancellationPolicy policy = new()
            {
                Below = new CancellationTier(0, world.percent),
                MoveNoticeHours = world.notice,
                FreeMoves = world.free,
            };
            Instant start = At(3, 4, 14);
            PaidSoFar paid = new([world.price], world.deposit, world.hasCard);
            CancellationFee fee = CancellationFee.OfMove(policy, start, start - Duration.FromHours(world.left), world.moves, paid);
            bool counts = world.left < world.notice || world.moves >= world.free;
            fee.Fee.ShouldBe(counts ? CancellationFee.Of(policy, start, start - Duration.FromHours(world.left), paid).Fee : 0);
            // What is left of the deposit stays with the visit, and the fee is made of its parts.
            fee.Refund.ShouldBe(0);
            (fee.FromDeposit + fee.FromCard + fee.Owed).ShouldBe(fee.Fee);
            fee.FromDeposit.ShouldBeLessThanOrEqualTo(world.deposit);
            LedgerEntry.OfFee(fee, Account.CardClearing).Postings.Sum(posting => posting.Amount).ShouldBe(0);
        }, iter: 10_000);

    [Fact]
    public void WhatFailsIsTriedAgainWithGrowingPausesAndThenShown() =>
        Enumerable.Range(1, 5).Select(MessageRetries.PauseAfter).ShouldBe(
            [Duration.FromMinutes(1), Duration.FromMinutes(5), Duration.FromMinutes(30), Duration.FromHours(6), null]
        );
}
