using CsCheck;
using Kingcup.Core.Availability;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>How full the parts of a day are.</summary>
public sealed class FullnessMapTests
{
    [Theory]
    [InlineData(0, 0, DayPart.Morning)]
    [InlineData(11, 55, DayPart.Morning)]
    [InlineData(12, 0, DayPart.Afternoon)]
    [InlineData(16, 55, DayPart.Afternoon)]
    [InlineData(17, 0, DayPart.Evening)]
    [InlineData(23, 55, DayPart.Evening)]
    public void Noon_and_five_o_clock_begin_a_part(int hour, int minute, DayPart part) =>
        FullnessMap.PartOf(new LocalTime(hour, minute)).ShouldBe(part);

    /// <summary>Every day of a year, the two on which the clock changes among them: each grain belongs to one part, that of its wall
    /// time.</summary>
    [Fact]
    public void The_parts_are_the_day()
    {
        DateTimeZone dublin = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
        foreach (int offset in Enumerable.Range(0, 365))
        {
            BookDay day = new(new LocalDate(2027, 1, 1).PlusDays(offset), dublin);
            for (int grain = 0; grain < day.GrainCount; grain++)
                Enum.GetValues<DayPart>()
                    .Where(part => FullnessMap.Of(day, part).Contains(grain))
                    .ShouldBe([FullnessMap.PartOf(day.WallOf(grain))]);
        }
    }

    [Fact]
    public void What_is_held_and_what_is_free_is_what_is_on_shift() =>
        Gen.Int[0, int.MaxValue].Select(Worlds.Make).Sample(
            world =>
            {
                DayBook book = world.Day;
                Guid[] people = [.. book.House.Practitioners.Select(practitioner => practitioner.Id)];
                IReadOnlyList<PartFullness> parts = FullnessMap.Of(book, people);
                // Grain by grain, person by person.
                int onShift = 0,
                    free = 0;
                foreach (Guid person in people)
                    for (int grain = 0; grain < book.Day.GrainCount; grain++)
                    {
                        if (!book.OnShift(person).Contains(grain)) continue;
                        onShift++;
                        if (book.FreeOf(person).Contains(grain)) free++;
                    }

                parts.Sum(part => part.OnShift).ShouldBe(onShift * Grain.Minutes);
                parts.Sum(part => part.Free).ShouldBe(free * Grain.Minutes);
                foreach (PartFullness part in parts)
                    (part.Percent ?? 0).ShouldBeInRange(0, 100);
            },
            iter: 200
        );
}
