using BenchmarkDotNet.Attributes;
using Kingcup.Core.Availability;
using Kingcup.Core.Time;

namespace Kingcup.Bench;

/// <summary>
/// All offered starts of one visit: 60 days, 20 practitioners, 15 rooms, 8 pools, a full book, from laid-out days. Beside it, in the same
/// run, the bare work on the same sets of bits that the answer for one line cannot do without, and the slow reference of the tests on a
/// single one of these days.
/// </summary>
[MemoryDiagnoser]
public class OfferedStartsBench
{
    private readonly FullBook _book = new();
    private readonly List<Sets> _sets = [];

    /// <summary>The free time of one day that the first service looks at: who may do it, couches, its equipment, when clients may
    /// come.</summary>
    private sealed record Sets(DaySet[] People, DaySet[] Rooms, DaySet Equipment, DaySet Opening, DaySet Grid);

    /// <summary>Takes the sets of each day out of it.</summary>
    [GlobalSetup]
    public void Prepare()
    {
        foreach (DayBook day in _book.Days)
        {
            _sets.Add(
                new Sets(
                    [.. _book.Leads.Select(id => day.FreeOf(id))],
                    [.. _book.Couches.Select(id => day.FreeOf(id))],
                    day.FreeOf(_book.Lamp),
                    day.Opening,
                    day.Day.EveryMinutes(15)
                )
            );
        }
    }

    /// <summary>The sets alone: any who may do it, any couch, the equipment, inside the opening, on the grid.</summary>
    [Benchmark(Baseline = true, Description = "bare bit sets")]
    public int Bare()
    {
        int starts = 0;
        foreach (Sets sets in _sets)
        {
            DaySet people = DaySet.Empty, rooms = DaySet.Empty;
            // 20 minutes with somebody, 25 without, 15 with, and 10 after it.
            foreach (DaySet free in sets.People) people |= free.StartsHolding(0, 4) & free.StartsHolding(9, 14);
            // The couch for all of it and its turnaround.
            foreach (DaySet free in sets.Rooms) rooms |= free.StartsHolding(0, 14);
            starts += (people & rooms & sets.Equipment.StartsHolding(0, 5) & sets.Opening.StartsHolding(0, 12) & sets.Grid).Count;
        }

        return starts;
    }

    /// <summary>One line.</summary>
    [Benchmark(Description = "one line")]
    public int OneLine() => Count(_book.One, _book.Days);

    /// <summary>One line on half the days, for what a day more allocates.</summary>
    [Benchmark(Description = "one line, 30 days")]
    public int HalfTheDays() => Count(_book.One, _book.HalfOfThem);

    /// <summary>Two lines.</summary>
    [Benchmark(Description = "two lines")]
    public int TwoLines() => Count(_book.Two, _book.Days);

    /// <summary>Three lines.</summary>
    [Benchmark(Description = "three lines")]
    public int ThreeLines() => Count(_book.Three, _book.Days);

    private static int Count(StartFinder finder, IReadOnlyList<DayBook> days)
    {
        int starts = 0;
        foreach (OfferedStarts day in finder.OfferedInOrder(days, Audience.Stranger, FullBook.Now)) starts += day.Starts.Count;
        return starts;
    }
}
