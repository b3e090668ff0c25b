using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Calendar;

/// <summary>The closures of the days ahead, as clients read them.</summary>
public sealed class ClosedDaysTests
{
    private static readonly Guid _mill = Guid.NewGuid();
    private static readonly LocalDate _monday = new(2027, 12, 20);

    // Open from Monday to Saturday.
    private static Location Mill => new()
    {
        Id = _mill,
        Name = "Mill Street",
        Zone = DateTimeZoneProviders.Tzdb["Europe/Dublin"],
        Opening =
        [
            .. Enumerable.Range(1, 6).Select(day =>
                new OpeningHours((IsoDayOfWeek)day, new Stretch(new LocalTime(9, 0), new LocalTime(17, 0)))),
        ],
    };

    private static Closure On(LocalDate date, string? words = null, bool yearly = false) => new(_mill, date, yearly, "Ours to know", words);

    private static (LocalDate, LocalDate, string?)[] Told(int days, params Closure[] closures) =>
        [.. ClosedDays.Of(Mill, closures, _monday, days).Select(told => (told.First, told.Last, told.ForClients))];

    [Fact]
    public void Days_in_a_row_are_told_once_and_a_day_that_is_never_open_parts_none()
    {
        LocalDate friday = _monday.PlusDays(4), saturday = _monday.PlusDays(5), next = _monday.PlusDays(7);
        Told(14, On(friday), On(saturday), On(next)).ShouldBe([(friday, next, null)]);
        Told(14, On(friday), On(next)).ShouldBe([(friday, friday, null), (next, next, null)]);
    }

    [Fact]
    public void Other_words_are_told_apart_and_what_is_no_news_not_at_all()
    {
        LocalDate friday = _monday.PlusDays(4);
        Told(14, On(friday, "Merry Christmas"), On(friday.PlusDays(1))).ShouldBe(
            [(friday, friday, "Merry Christmas"), (friday.PlusDays(1), friday.PlusDays(1), null)]
        );
        Told(14, On(_monday.PlusDays(6))).ShouldBeEmpty("it is a Sunday");
        Told(14, On(friday) with { LocationId = Guid.NewGuid() }).ShouldBeEmpty("it is another location");
        Told(4, On(friday)).ShouldBeEmpty("it is further ahead");
        Told(14, On(_monday.PlusDays(-1))).ShouldBeEmpty("it is past");
    }

    [Fact]
    public void What_comes_back_every_year_is_told_with_what_happens_once()
    {
        LocalDate christmas = new(2027, 12, 25);
        Told(14, On(new LocalDate(2020, 12, 25), yearly: true), On(christmas, "See you after")).ShouldBe(
            [(christmas, christmas, "See you after")]
        );
    }
}
