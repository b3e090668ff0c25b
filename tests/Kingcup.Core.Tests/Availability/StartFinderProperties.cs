using CsCheck;
using Kingcup.Core.Availability;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>Thousands of small random worlds, each compared with the slow reference.</summary>
public sealed class StartFinderProperties
{
    // KINGCUP_WORLDS asks for more or fewer of them than one run of ./test has.
    internal static readonly int Iterations = int.TryParse(Environment.GetEnvironmentVariable("KINGCUP_WORLDS"), out int asked)
        ? asked
        : 600;
    private static readonly Gen<World> _worlds = Gen.Int[0, int.MaxValue].Select(Worlds.Make);

    private static List<Instant> Instants(World world, DaySet starts) => [.. starts.Select(world.Day.Day.At)];

    [Fact]
    public void Feasible_starts_are_those_the_reference_finds() =>
        _worlds.Sample(
            world =>
            {
                SlowBook slow = new(world);
                List<Instant> expected = [.. slow.AllStarts().Where(start => slow.Ways(start).Any())];
                Instants(world, new StartFinder(world.House, world.Wish).Feasible(world.Day)).ShouldBe(expected);
            },
            iter: Iterations
        );

    [Fact]
    public void Offered_starts_are_those_the_reference_finds() =>
        Gen.Select(_worlds, Gen.Int[-3, 30])
            .Sample(
                (world, hours) =>
                {
                    SlowBook slow = new(world);
                    Instant now = world.Day.Day.Start + Duration.FromHours(-24 + hours);
                    Audience audience = world.Audience;
                    (List<Instant> starts, List<Instant> last) = slow.Offered(audience, now);
                    OfferedStarts offered = new StartFinder(world.House, world.Wish).OfferedInOrder(world.Day, audience, now);
                    Instants(world, offered.Starts).ShouldBe(starts);
                    Instants(world, offered.Last).ShouldBe(last);
                },
                iter: Iterations
            );

    [Fact]
    public void A_plan_stands_for_every_feasible_start_and_holds_only_free_time() =>
        _worlds.Sample(
            world =>
            {
                SlowBook slow = new(world);
                StartFinder finder = new(world.House, world.Wish);
                DaySet feasible = finder.Feasible(world.Day);
                for (int grain = 0; grain < world.Day.Day.GrainCount; grain++)
                {
                    VisitPlan? plan = finder.PlanFeasible(world.Day, grain);
                    (plan is not null).ShouldBe(feasible.Contains(grain));
                    if (plan is null)
                        continue;
                    plan.Start.ShouldBe(world.Day.Day.At(grain));
                    plan.Lines.Count.ShouldBe(world.Wish.Lines.Count);
                    plan.Claims.ShouldAllBe(claim =>
                        slow.IsFree(
                            new SlowClaim(claim.ResourceId, claim.During, claim.Core, 1, plan.Lines[claim.Line].ServiceId),
                            claim.Unit
                        )
                    );
                    plan.Claims.Index()
                        .ShouldAllBe(claim =>
                            !plan
                                .Claims.Skip(claim.Index + 1)
                                .Any(other =>
                                    other.ResourceId == claim.Item.ResourceId
                                    && other.Unit == claim.Item.Unit
                                    && other.During.Start < claim.Item.During.End
                                    && claim.Item.During.Start < other.During.End
                                )
                        );
                }
            },
            iter: Iterations / 4
        );

    [Fact]
    public void Whoever_is_assigned_is_the_one_the_reference_takes() =>
        Gen.Select(_worlds, Gen.Int[0, 3])
            .Sample(
                (world, busy) =>
                {
                    if (world.Wish.Lines.Count > 1 || world.House.Services[world.Wish.Lines[0].ServiceId].Roles.Count > 1)
                        return;
                    SlowBook slow = new(world);
                    WeekLoad week = new(
                        world
                            .House.Practitioners.Index()
                            .ToDictionary(practitioner => practitioner.Item.Id, practitioner => (practitioner.Index + busy) % 3 * 30)
                    );
                    StartFinder finder = new(world.House, world.Wish);
                    foreach (int grain in finder.Feasible(world.Day))
                        finder
                            .PlanFeasible(world.Day, grain, week)!
                            .Lines[0]
                            .Practitioners[0]
                            .ShouldBe(slow.Assigned(world.Day.Day.At(grain), week));
                },
                iter: Iterations / 2
            );

    [Fact]
    public void A_plan_a_client_is_given_stands_for_every_offered_start_and_leaves_a_gap_only_where_it_was_said() =>
        _worlds.Sample(
            world =>
            {
                SlowBook clients = new(world, asClients: true);
                StartFinder finder = new(world.House, world.Wish);
                Instant now = world.Day.Day.Start - Duration.FromHours(20);
                // A service may have a rule of its own; the strictest of the visit's services holds.
                Kingcup.Core.Business.GapRule? rule = world.Wish.Lines.Max(line =>
                    world.House.RulesOf(world.House.Services[line.ServiceId]).For(world.Audience.Own).Values.Gap
                );
                OfferedStarts offered = finder.OfferedInOrder(world.Day, world.Audience, now);
                for (int grain = 0; grain < world.Day.Day.GrainCount; grain += 3)
                {
                    VisitPlan? plan = finder.PlanOffered(world.Day, grain, world.Audience, now);
                    (plan is not null).ShouldBe(offered.Starts.Contains(grain));
                    if (plan is null || rule == Kingcup.Core.Business.GapRule.Off)
                        continue;
                    bool clean = clients
                        .Ways(plan.Start)
                        .Where(way => way.Select(line => line.Staff[0].Id).SequenceEqual(plan.Lines.Select(line => line.Practitioners[0])))
                        .Any(clients.LeavesNoGap);
                    if (!offered.Last.Contains(grain))
                        clean.ShouldBeTrue();
                }
            },
            iter: Iterations / 4
        );

    [Fact]
    public void Why_not_speaks_for_every_start_that_is_not_offered_and_for_no_other() =>
        Gen.Select(_worlds, Gen.Int[-3, 30])
            .Sample(
                (world, hours) =>
                {
                    StartFinder finder = new(world.House, world.Wish);
                    Instant now = world.Day.Day.Start + Duration.FromHours(-24 + hours);
                    DaySet offered = finder.Offered(world.Day, world.Audience, now);
                    for (int grain = 0; grain < world.Day.Day.GrainCount; grain += 7)
                    {
                        IReadOnlyList<Refusal> refusals = finder.WhyNotOffered(world.Day, grain, world.Audience, now);
                        (refusals.Count == 0).ShouldBe(offered.Contains(grain));
                        refusals.ShouldAllBe(refusal => refusal.Reasons.Count > 0);
                        refusals.Select(refusal => refusal.Gate).ShouldBeInOrder();
                    }
                },
                iter: Iterations / 8
            );

    [Fact]
    public void What_the_gates_remove_and_what_is_left_make_up_the_grid() =>
        Gen.Select(_worlds, Gen.Int[-3, 30])
            .Sample(
                (world, hours) =>
                {
                    StartFinder finder = new(world.House, world.Wish);
                    Instant now = world.Day.Day.Start + Duration.FromHours(-24 + hours);
                    int offered = finder.Offered(world.Day, world.Audience, now).Count;
                    int grid = new SlowBook(world).CountedStarts().Count();
                    (finder.RemovedByGate(world.Day, world.Audience, now).Values.Sum() + offered).ShouldBe(grid);
                },
                iter: Iterations / 8
            );

    [Fact]
    public void Taking_away_all_that_the_first_gate_names_makes_that_gate_pass() =>
        Gen.Select(_worlds, Gen.Int[-3, 30])
            .Sample(
                (world, hours) =>
                {
                    Instant now = world.Day.Day.Start + Duration.FromHours(-24 + hours);
                    DayReasons explained = new StartFinder(world.House, world.Wish).Explain(world.Day, world.Audience, now);
                    for (int grain = 0; grain < world.Day.Day.GrainCount; grain += 11)
                    {
                        IReadOnlyList<Refusal> refusals = explained.At(grain);
                        if (refusals.Count == 0 || world.Day.Day.At(grain) < now)
                            continue;
                        TakenAway without = new(world);
                        if (!refusals[0].Reasons.All(without.Take))
                            continue;
                        IReadOnlyList<Refusal> left = Refusals(without.World, grain, now);
                        left.ShouldAllBe(
                            refusal => refusal.Gate != refusals[0].Gate,
                            $"{world} at {grain}: took {string.Join("; ", refusals[0].Reasons.Select(Words))}"
                                + $" and still {string.Join("; ", left.SelectMany(refusal => refusal.Reasons).Select(Words))}"
                        );
                    }
                },
                iter: Iterations / 2
            );

    private static IReadOnlyList<Refusal> Refusals(World world, int grain, Instant now) =>
        new StartFinder(world.House, world.Wish).WhyNotOffered(world.Day, grain, world.Audience, now);

    private static string Words(Reason reason) =>
        $"{reason.Gate} {reason.Code} {reason.Subject} {reason.Value} {reason.From}-{reason.Until}";
}
