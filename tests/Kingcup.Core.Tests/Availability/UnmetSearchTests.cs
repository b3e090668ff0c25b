using CsCheck;
using Kingcup.Core.Availability;
using Kingcup.Core.Tests.Reference;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>What a search that found nothing failed for, against looking at each start by itself.</summary>
public sealed class UnmetSearchTests
{
    private static readonly Gen<World> _worlds = Gen.Int[0, int.MaxValue].Select(Worlds.Make);

    private static readonly WantedTimes[] _wishes =
    [
        .. from part in (DayPart?[])[null, DayPart.Morning, DayPart.Afternoon, DayPart.Evening]
        from days in Enum.GetValues<DaysOfWeek>()
        select new WantedTimes(part, days),
    ];

    private static bool IsWanted(WantedTimes wanted, DayBook day, int grain)
    {
        bool isWeekend = day.Day.Date.DayOfWeek >= IsoDayOfWeek.Saturday;
        bool isDay = wanted.Days switch
        {
            DaysOfWeek.Weekend => isWeekend,
            DaysOfWeek.MondayToFriday => !isWeekend,
            _ => true,
        };
        return isDay && (wanted.Part is not { } part || FullnessMap.PartOf(day.Day.WallOf(grain)) == part);
    }

    [Fact]
    public void It_is_what_the_start_that_got_furthest_failed_for_and_nothing_where_one_is_offered() =>
        Gen.Select(_worlds, Gen.Int[-3, 30], Gen.Int[0, _wishes.Length - 1])
            .Sample(
                (world, hours, wish) =>
                {
                    WantedTimes wanted = _wishes[wish];
                    StartFinder finder = new(world.House, world.Wish);
                    Instant now = world.Day.Day.Start + Duration.FromHours(-24 + hours);
                    List<int> starts =
                    [
                        .. Enumerable.Range(0, world.Day.Day.GrainCount).Where(grain => IsWanted(wanted, world.Day, grain)),
                    ];
                    bool isOffered = starts.Any(finder.Offered(world.Day, world.Audience, now).Contains);
                    DayReasons reasons = finder.Explain(world.Day, world.Audience, now);
                    Gate? expected = isOffered ? null
                        : starts.Count == 0 ? Gate.Date
                        : starts.Max(reasons.FirstGate);
                    UnmetSearch.TakenBy(finder, [world.Day], wanted, world.Audience, now).ShouldBe(expected);
                },
                iter: StartFinderProperties.Iterations
            );
}
