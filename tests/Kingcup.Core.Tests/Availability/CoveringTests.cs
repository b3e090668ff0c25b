using CsCheck;
using Kingcup.Core.Availability;
using Kingcup.Core.Services;
using Kingcup.Core.Tests.Reference;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>Places for visits that have lost theirs: each of them free, none taken twice, and nobody left who could have had one.</summary>
public sealed class CoveringTests
{
    private static readonly Gen<(World World, int Count, int[] Hours, int Now)> _worlds = Gen.Select(
        Gen.Int[0, int.MaxValue].Select(Worlds.Make),
        Gen.Int[1, 5],
        Gen.Int[0, 23].Array[5],
        Gen.Int[-5, 23]
    );

    private static Guid Visit(int number) => Worlds.Id(9000 + number);

    private static VisitWish WithAnybody(VisitWish wish) =>
        wish with
        {
            Lines = [.. wish.Lines.Select(line => line with { PractitionerId = null })],
        };

    /// <summary>Visits that want the same as the world's wish. The second cannot come before noon; the third and the fourth are of one
    /// client.</summary>
    private static Uncovered[] Lost(World world, int count, int[] hours) =>
        [
            .. Enumerable.Range(0, count).Select(i =>
            {
                Instant start = world.Day.Day.Start + Duration.FromHours(hours[i]);
                return new Uncovered(
                    Visit(i),
                    Worlds.Id(9100 + Math.Min(i, 2)),
                    new Interval(start, start + Duration.FromHours(1)),
                    i % 2 == 0
                        ? [world.Wish]
                        : [world.Wish, WithAnybody(world.Wish)]
                )
                {
                    Elsewhere = i == 1 ? [new Interval(world.Day.Day.Start, world.Day.Day.Start + Duration.FromHours(12))] : [],
                };
            }),
        ];

    /// <summary>When the client of a visit is at another: wherever that stands by now.</summary>
    private static IEnumerable<Interval> Busy(Uncovered visit, Uncovered[] all, Dictionary<Guid, Interval> stands) =>
        visit.Elsewhere.Concat(
            all.Where(other => other.VisitId != visit.VisitId && other.ClientId == visit.ClientId).Select(other => stands[other.VisitId])
        );

    [Fact]
    public void Moved_in_the_order_given_each_finds_its_place_free_and_nobody_is_left_who_could_have_one() =>
        _worlds.Sample(
            drawn =>
            {
                (World world, int count, int[] hours, int hour) = drawn;
                Uncovered[] lost = Lost(world, count, hours);
                Instant earliest = world.Day.Day.Start + Duration.FromHours(hour);
                IReadOnlyList<Cover> covers = Covering.Propose(world.Day, lost, earliest);
                covers.Select(cover => cover.VisitId).ShouldBe(lost.Select(visit => visit.VisitId), ignoreOrder: true);
                // Those without a place come last.
                covers.SkipWhile(cover => cover.Plan is not null).ShouldAllBe(cover => cover.Plan == null);

                List<TakenTime> taken = [.. world.Taken];
                Dictionary<Guid, Interval> stands = lost.ToDictionary(visit => visit.VisitId, visit => visit.During);
                foreach (Cover cover in covers.Where(cover => cover.Plan is not null))
                {
                    Uncovered visit = lost.Single(one => one.VisitId == cover.VisitId);
                    World now = world.With(taken: taken);
                    VisitPlan plan = cover.Plan!;
                    plan.Start.ShouldBeGreaterThanOrEqualTo(earliest);
                    Busy(visit, lost, stands).ShouldAllBe(other => other.End <= plan.Start || plan.End <= other.Start);
                    stands[visit.VisitId] = new Interval(plan.Start, plan.End);
                    // The reference, which knows nothing of covering, finds that start too.
                    World asked = new(now.House, now.Date, now.Dated, taken, visit.Wishes[cover.Wish], now.Audience);
                    new SlowBook(asked).Ways(plan.Start).Any().ShouldBeTrue();
                    taken.AddRange(
                        plan.Claims.Select(claim => new TakenTime(
                            claim.ResourceId,
                            claim.Unit,
                            claim.During,
                            world.House.Location.Id,
                            cover.VisitId,
                            plan.Lines[claim.Line].ServiceId
                        ))
                    );
                }

                foreach (Cover cover in covers.Where(cover => cover.Plan is null))
                {
                    Uncovered visit = lost.Single(one => one.VisitId == cover.VisitId);
                    foreach (VisitWish wish in visit.Wishes)
                    {
                        StartFinder finder = new(world.House, wish);
                        DayBook book = world.With(taken: taken).Day;
                        finder
                            .Feasible(book)
                            .Where(start => book.Day.At(start) >= earliest)
                            .Select(start => finder.PlanFeasible(book, start)!)
                            .ShouldAllBe(plan => Busy(visit, lost, stands).Any(other => other.Start < plan.End && plan.Start < other.End));
                    }
                }
            },
            iter: 150
        );

    [Fact]
    public void Alone_a_visit_goes_as_near_to_its_own_time_as_it_fits() =>
        _worlds.Sample(
            drawn =>
            {
                Uncovered visit = Lost(drawn.World, 1, drawn.Hours)[0];
                Cover cover = Covering.Propose(drawn.World.Day, [visit], Instant.MinValue).Single();
                DayBook book = drawn.World.Day;
                Instant[] starts = [.. new StartFinder(drawn.World.House, drawn.World.Wish).Feasible(book).Select(book.Day.At)];
                Duration Away(Instant start) => start < visit.During.Start ? visit.During.Start - start : start - visit.During.Start;
                starts = [.. starts.Where(start => start >= book.Day.Start)];
                if (cover.Plan is null) starts.ShouldBeEmpty();
                else Away(cover.Plan.Start).ShouldBe(starts.Min(Away));
            },
            iter: 200
        );
}
