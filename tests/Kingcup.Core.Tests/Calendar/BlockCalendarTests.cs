using CsCheck;
using Kingcup.Core.Calendar;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Calendar;

/// <summary>Blocked time, once and repeating, as it reaches into a day and the days beside it.</summary>
public sealed class BlockCalendarTests
{
    private static readonly DateTimeZone _dublin = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
    private static readonly LocalDate _date = new(2027, 5, 12);
    private static readonly Guid _room = Worlds.Id(20);

    private static BookDay Day(LocalDate? date = null) => new(date ?? _date, _dublin);

    private static RepeatingBlock Daily(int from, int until, params (LocalDate Date, Stretch? At)[] changed) =>
        new(Worlds.Id(95), _room, Repeat.Parse("FREQ=DAILY", _date.PlusDays(-10))!, Stretch.Between(from, 0, until, 0), "call")
        {
            Changed = changed.ToDictionary(pair => pair.Date, pair => pair.At),
        };

    [Fact]
    public void What_happens_once_is_found_where_it_meets_the_three_days_and_nowhere_else() =>
        Gen.Select(Gen.Int[-80, 80], Gen.Int[1, 60]).Sample((hours, length) =>
        {
            Instant start = Day().Start + Duration.FromHours(hours);
            BlockedTime block = new(_room, new Interval(start, start + Duration.FromHours(length)), "paint");
            BookDay day = Day();
            Instant from = Day(_date.PlusDays(-1)).Start, until = Day(_date.PlusDays(1)).End;
            new BlockCalendar([block], []).Around(day).Any().ShouldBe(block.During.Start < until && from < block.During.End);
        });

    [Fact]
    public void A_daily_block_lies_on_the_day_and_on_those_beside_it()
    {
        BlockedTime[] found = [.. new BlockCalendar([], [Daily(10, 11)]).Around(Day())];
        found.Select(block => block.Date).ShouldBe([_date.PlusDays(-1), _date, _date.PlusDays(1)]);
        found.ShouldAllBe(block => block.BlockId == Worlds.Id(95) && block.During.Duration == Duration.FromHours(1));
    }

    [Fact]
    public void A_date_taken_out_has_none_and_one_that_was_moved_has_it_elsewhere()
    {
        RepeatingBlock block = Daily(10, 11, (_date, null), (_date.PlusDays(1), Stretch.Between(15, 0, 15, 30)));
        BlockedTime[] found = [.. new BlockCalendar([], [block]).Around(Day())];
        found.Select(there => there.Date).ShouldBe([_date.PlusDays(-1), _date.PlusDays(1)]);
        found[1].During.ShouldBe(Day(_date.PlusDays(1)).Of(Stretch.Between(15, 0, 15, 30)));
        block.On(_date).ShouldBeNull();
        block.On(_date.PlusDays(-11)).ShouldBeNull();
    }

    [Fact]
    public void In_the_hour_that_is_left_out_a_block_takes_nothing_and_in_the_one_that_comes_twice_both()
    {
        static Duration Held(LocalDate date, Stretch at) => new BlockCalendar(
            [],
            [new RepeatingBlock(Worlds.Id(95), _room, Repeat.Parse("FREQ=DAILY", new LocalDate(2027, 3, 1))!, at, "boiler")]
        ).Around(Day(date)).Where(block => block.Date == date).Aggregate(Duration.Zero, (sum, block) => sum + block.During.Duration);
        Held(new LocalDate(2027, 3, 28), Stretch.Between(1, 0, 2, 0)).ShouldBe(Duration.Zero);
        Held(new LocalDate(2027, 3, 28), Stretch.Between(0, 0, 6, 0)).ShouldBe(Duration.FromHours(5));
        Held(new LocalDate(2027, 10, 31), Stretch.Between(1, 0, 2, 0)).ShouldBe(Duration.FromHours(2));
        Held(new LocalDate(2027, 10, 31), Stretch.Between(0, 0, 6, 0)).ShouldBe(Duration.FromHours(7));
    }

    [Fact]
    public void Blocks_come_in_the_order_of_their_beginnings()
    {
        BlockedTime At(int hour) => new(_room, Day().Of(Stretch.Between(hour, 0, hour + 1, 0)), "x");
        new BlockCalendar([At(15), At(9), At(12)], []).Around(Day()).Select(block => block.During.Start).ShouldBeInOrder();
    }
}
