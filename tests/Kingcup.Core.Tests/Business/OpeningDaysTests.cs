using Kingcup.Core.Business;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Business;

public sealed class OpeningDaysTests
{
    private static Stretch Between(int from, int until) => new(new LocalTime(from, 0), new LocalTime(until % 24, 0));

    private static OpeningHours On(IsoDayOfWeek day, int from, int until) => new(day, Between(from, until));

    [Fact]
    public void Days_that_are_alike_are_said_once()
    {
        IReadOnlyList<OpeningDays> week = OpeningDays.Of([
            On(IsoDayOfWeek.Saturday, 9, 17),
            .. Enumerable.Range(1, 5).Select(day => On((IsoDayOfWeek)day, 8, 20)),
        ]);
        week.Select(days => (days.First, days.Last)).ShouldBe([
            (IsoDayOfWeek.Monday, IsoDayOfWeek.Friday),
            (IsoDayOfWeek.Saturday, IsoDayOfWeek.Saturday),
            (IsoDayOfWeek.Sunday, IsoDayOfWeek.Sunday),
        ]);
        week[0].Open.ShouldBe([Between(8, 20)]);
        week[2].Open.ShouldBeEmpty();
    }

    [Fact]
    public void What_touches_is_one_stretch_and_a_pause_is_two()
    {
        OpeningDays monday = OpeningDays.Of([
            On(IsoDayOfWeek.Monday, 14, 18),
            On(IsoDayOfWeek.Monday, 8, 12),
            On(IsoDayOfWeek.Monday, 18, 24),
        ])[0];
        monday.Open.ShouldBe([Between(8, 12), Between(14, 24)]);
        monday.Last.ShouldBe(IsoDayOfWeek.Monday);
    }

    [Fact]
    public void Nothing_open_is_a_week_that_is_closed()
    {
        OpeningDays all = OpeningDays.Of([]).ShouldHaveSingleItem();
        (all.First, all.Last, all.Open.Count).ShouldBe((IsoDayOfWeek.Monday, IsoDayOfWeek.Sunday, 0));
    }

    [Fact]
    public void Whatever_the_hours_every_day_is_in_it_once_and_open_for_as_long_as_it_is()
    {
        Random random = new(7);
        for (int world = 0; world < 2000; world++)
        {
            OpeningHours[] hours =
            [
                .. Enumerable
                    .Range(0, random.Next(12))
                    .Select(_ =>
                    {
                        int from = random.Next(24);
                        return On((IsoDayOfWeek)random.Next(1, 8), from, random.Next(from + 1, 25));
                    }),
            ];
            IReadOnlyList<OpeningDays> week = OpeningDays.Of(hours);
            week.SelectMany(days => Enumerable.Range((int)days.First, days.Last - days.First + 1)).ShouldBe(Enumerable.Range(1, 7));
            foreach (OpeningDays days in week)
            {
                for (IsoDayOfWeek day = days.First; day <= days.Last; day++)
                {
                    for (int hour = 0; hour < 24; hour++)
                    {
                        bool isOpen = hours.Any(own =>
                            own.Weekday == day && own.During.FromMinute <= hour * 60 && hour * 60 < own.During.UntilMinute
                        );
                        days.Open.Count(open => open.FromMinute <= hour * 60 && hour * 60 < open.UntilMinute).ShouldBe(isOpen ? 1 : 0);
                    }
                }
            }
        }
    }
}
