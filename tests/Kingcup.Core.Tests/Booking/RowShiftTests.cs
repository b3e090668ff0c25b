using CsCheck;
using Kingcup.Core.Booking;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Booking;

/// <summary>How the visits of a row are moved together: by days, and to one time of the clock.</summary>
public sealed class RowShiftTests
{
    private static readonly DateTimeZone _dublin = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
    private static readonly LocalDate _wednesday = new(2027, 3, 3);

    private static LocalDateTime ClockOf(Instant start) => start.InZone(_dublin).LocalDateTime;

    [Fact]
    public void All_go_as_many_days_on_and_to_the_same_time_whatever_time_each_had()
    {
        RowShift shift = RowShift.Between(_wednesday, new LocalDateTime(2027, 3, 4, 15, 30));
        shift.ShouldBe(new RowShift(1, new LocalTime(15, 30)));
        ClockOf(shift.Of(_wednesday, _dublin)).ShouldBe(new LocalDateTime(2027, 3, 4, 15, 30));
        ClockOf(shift.Of(_wednesday.PlusWeeks(2), _dublin)).ShouldBe(new LocalDateTime(2027, 3, 18, 15, 30));
    }

    [Fact]
    public void The_clock_keeps_its_time_when_it_changes_and_one_it_leaves_out_lies_an_hour_later()
    {
        // The clock goes forward on Sunday 28 March 2027, from one to two in the morning.
        RowShift early = RowShift.Between(_wednesday, new LocalDateTime(2027, 3, 7, 1, 30));
        early.Of(_wednesday, _dublin).ShouldBe(Instant.FromUtc(2027, 3, 7, 1, 30));
        ClockOf(early.Of(_wednesday.PlusWeeks(3), _dublin)).ShouldBe(new LocalDateTime(2027, 3, 28, 2, 30));
        early.Of(_wednesday.PlusWeeks(4), _dublin).ShouldBe(Instant.FromUtc(2027, 4, 4, 0, 30));
    }

    [Fact]
    public void Back_is_as_good_as_on() =>
        RowShift.Between(_wednesday, new LocalDateTime(2027, 2, 28, 9, 0)).ShouldBe(new RowShift(-3, new LocalTime(9, 0)));

    /// <summary>The visit that was taken hold of lies where it was put, and the others keep their days between them.</summary>
    [Fact]
    public void Whatever_is_moved_lies_where_it_was_put_and_the_others_keep_their_distance() =>
        Gen.Select(Gen.Int[-400, 400], Gen.Int[0, 287], Gen.Int[-60, 60])
            .Sample(
                (days, grain, apart) =>
                {
                    LocalDateTime to = _wednesday.PlusDays(days).At(LocalTime.Midnight.PlusMinutes(grain * 5));
                    RowShift shift = RowShift.Between(_wednesday, to);
                    shift.Of(_wednesday, _dublin).ShouldBe(to.InZoneLeniently(_dublin).ToInstant());
                    LocalDateTime other = ClockOf(shift.Of(_wednesday.PlusDays(apart), _dublin));
                    LocalDateTime meant = to.PlusDays(apart);
                    // Only a time the clock leaves out lies elsewhere, and that an hour.
                    (other == meant || other == meant.PlusHours(1)).ShouldBeTrue();
                }
            );
}
