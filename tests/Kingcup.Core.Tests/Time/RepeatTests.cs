using CsCheck;
using Kingcup.Core.Calendar;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Time;

public sealed class RepeatTests
{
    private static readonly LocalDate _first = new(2027, 3, 1);

    [Theory]
    [InlineData("FREQ=DAILY;COUNT=3", "2027-03-01 2027-03-02 2027-03-03")]
    [InlineData("FREQ=WEEKLY;BYDAY=MO,WE;COUNT=4", "2027-03-01 2027-03-03 2027-03-08 2027-03-10")]
    [InlineData("FREQ=WEEKLY;INTERVAL=2;UNTIL=20270330", "2027-03-01 2027-03-15 2027-03-29")]
    [InlineData("FREQ=MONTHLY;BYDAY=1MO;COUNT=3", "2027-03-01 2027-04-05 2027-05-03")]
    [InlineData("FREQ=YEARLY;COUNT=2", "2027-03-01 2028-03-01")]
    public void A_rule_names_its_dates(string rule, string dates) =>
        string.Join(' ', Repeat.Parse(rule, _first)!.Between(_first, _first.PlusYears(2)).Select(date => date.ToString("uuuu-MM-dd", null)))
            .ShouldBe(dates);

    [Theory]
    [InlineData(null)]
    [InlineData("")]
    [InlineData("every Monday")]
    [InlineData("FREQ=HOURLY")]
    [InlineData("FREQ=DAILY;BYHOUR=9,10")]
    [InlineData("FREQ=SOMETIMES")]
    public void What_is_no_rule_for_dates_is_refused(string? rule) => Repeat.Parse(rule, _first).ShouldBeNull();

    [Fact]
    public void A_weekly_rule_holds_on_its_weekdays_in_every_nth_week_however_it_is_asked() =>
        Gen.Select(Gen.Int[1, 4], Gen.Int[1, 127], Gen.Int[0, 900].Array[1, 20]).Sample((interval, mask, asked) =>
        {
            string[] names = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
            string days = string.Join(',', Enumerable.Range(0, 7).Where(day => (mask >> day & 1) == 1).Select(day => names[day]));
            Repeat repeat = Repeat.Parse($"FREQ=WEEKLY;INTERVAL={interval};BYDAY={days}", _first)!;
            foreach (int offset in asked)
                repeat.Holds(_first.PlusDays(offset)).ShouldBe(offset / 7 % interval == 0 && (mask >> (offset % 7) & 1) == 1);
        }, iter: 300);

    [Fact]
    public void A_repeating_block_keeps_its_wall_time_and_its_changed_dates()
    {
        Guid room = Guid.NewGuid();
        DateTimeZone zone = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
        RepeatingBlock block = new(
            Guid.NewGuid(),
            room,
            Repeat.Parse("FREQ=WEEKLY;BYDAY=MO", _first)!,
            Stretch.Between(9, 0, 10, 0),
            "meeting"
        )
        {
            Changed = new Dictionary<LocalDate, Stretch?>
            {
                [_first.PlusDays(7)] = null,
                [_first.PlusDays(14)] = Stretch.Between(14, 0, 15, 0),
            },
        };
        BlockCalendar calendar = new([], [block]);
        string Of(LocalDate date) =>
            string.Join(
                ' ',
                calendar
                    .Around(new BookDay(date, zone))
                    .Where(time => time.Date == date)
                    .Select(time => time.During.Start.ToString("HH:mm", null))
            );
        Of(_first).ShouldBe("09:00");
        Of(_first.PlusDays(1)).ShouldBe("");
        Of(_first.PlusDays(7)).ShouldBe("");
        Of(_first.PlusDays(14)).ShouldBe("14:00");
        // Summer time from 28 March on: the same wall time is an hour earlier in UTC.
        Of(_first.PlusDays(28)).ShouldBe("08:00");
    }
}
