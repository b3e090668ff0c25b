using CsCheck;
using Kingcup.Core.Availability;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>What staff may book knowingly: outside a shift, over blocked time, over somebody (rules, sections 2 and 3).</summary>
public sealed class KnowingTests
{
    private const Waivers All = Waivers.OutsideShift | Waivers.OverBlocked | Waivers.Overbook;
    private static readonly Guid _block = Worlds.Id(90),
        _other = Worlds.Id(91);

    private static KnowingPlan? Ask(ExampleHouse house, int grain, Waivers allowed = All, Guid? by = null) =>
        new StartFinder(house.Build(), new VisitWish([new LineWish(house.Services[0].Id, by)])).PlanKnowingly(house.Day(), grain, allowed);

    private static ExampleHouse OneHour()
    {
        ExampleHouse house = new();
        house.Add(40, "Deep tissue", ExampleHouse.Attended(60));
        return house;
    }

    [Fact]
    public void What_fits_asks_for_nothing()
    {
        ExampleHouse house = OneHour();
        KnowingPlan plan = Ask(house, house.Grain(10)).ShouldNotBeNull();
        plan.Asks.ShouldBe(Waivers.None);
        plan.Warnings.ShouldBeEmpty();
        plan.Plan.Claims.ShouldAllBe(claim => !claim.OutsideShift && !claim.Overbooked && claim.OverBlocks.Count == 0);
    }

    [Fact]
    public void After_the_shift_asks_to_go_outside_it_and_says_when_it_is()
    {
        ExampleHouse house = OneHour();
        KnowingPlan plan = Ask(house, house.Grain(16, 30)).ShouldNotBeNull();
        plan.Asks.ShouldBe(Waivers.OutsideShift);
        Reason warning = plan.Warnings.ShouldHaveSingleItem();
        warning.Code.ShouldBe(ReasonCode.OffShift);
        house.Clock(new Interval(warning.From!.Value, warning.Until!.Value)).ShouldBe("09:00-17:00");
        plan.Plan.Claims.Single(claim => claim.ResourceId == ExampleHouse.Ana).OutsideShift.ShouldBeTrue();
        plan.Plan.Claims.Single(claim => claim.ResourceId == ExampleHouse.RoomA).OutsideShift.ShouldBeFalse();
        Ask(house, house.Grain(16, 30), Waivers.OverBlocked | Waivers.Overbook).ShouldBeNull();
    }

    [Fact]
    public void On_a_closed_day_people_and_rooms_are_outside_and_the_closure_is_said_once()
    {
        ExampleHouse house = OneHour();
        house.Closures.Add(new Closure(ExampleHouse.Here, ExampleHouse.Date, false, "painters"));
        KnowingPlan plan = Ask(house, house.Grain(10)).ShouldNotBeNull();
        plan.Asks.ShouldBe(Waivers.OutsideShift);
        plan.Warnings.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                warning => warning.Code.ShouldBe(ReasonCode.LocationClosed),
                warning => warning.Value.ShouldBe("painters")
            );
        plan.Plan.Claims.ShouldAllBe(claim => claim.OutsideShift);
    }

    [Fact]
    public void Over_a_block_names_it_and_keeps_which_it_was()
    {
        ExampleHouse house = OneHour();
        house.Blocked.Add(new BlockedTime(ExampleHouse.Ana, house.At(11, 0, 12, 0), "stocktaking") { BlockId = _block });
        KnowingPlan plan = Ask(house, house.Grain(10, 30)).ShouldNotBeNull();
        plan.Asks.ShouldBe(Waivers.OverBlocked);
        plan.Warnings.ShouldHaveSingleItem().Value.ShouldBe("stocktaking");
        plan.Plan.Claims.Single(claim => claim.ResourceId == ExampleHouse.Ana).OverBlocks.ShouldBe([_block]);
    }

    [Fact]
    public void Overbooking_is_marked_on_the_claim_that_meets_another_only()
    {
        ExampleHouse house = OneHour();
        house.Rooms.Add(
            new Room
            {
                Id = ExampleHouse.RoomB,
                Name = "B",
                Order = 1,
            }
        );
        house.Taken.Add(new TakenTime(ExampleHouse.Ana, 0, house.At(10, 0, 11, 0), ExampleHouse.Here, _other));
        house.Taken.Add(new TakenTime(ExampleHouse.RoomA, 0, house.At(10, 0, 11, 0), ExampleHouse.Here, _other));
        Ask(house, house.Grain(10), Waivers.OutsideShift | Waivers.OverBlocked).ShouldBeNull();
        KnowingPlan plan = Ask(house, house.Grain(10)).ShouldNotBeNull();
        plan.Asks.ShouldBe(Waivers.Overbook);
        plan.Warnings.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                warning => warning.Code.ShouldBe(ReasonCode.PractitionerTaken),
                warning => warning.AppointmentId.ShouldBe(_other)
            );
        plan.Plan.Claims.Single(claim => claim.Overbooked).ResourceId.ShouldBe(ExampleHouse.Ana);
        // The room that is free is taken, though the other comes first in the house.
        plan.Plan.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomB);
    }

    [Fact]
    public void Whoever_is_only_off_goes_before_whoever_is_taken()
    {
        ExampleHouse house = OneHour();
        house.Practitioners.Add(
            new Practitioner
            {
                Id = ExampleHouse.Ben,
                Name = "Ben",
                Order = 1,
            }
        );
        house.Change(
            house.Services[0],
            service =>
                service with
                {
                    Roles =
                    [
                        new StaffRule
                        {
                            Added = new HashSet<Guid> { ExampleHouse.Ana, ExampleHouse.Ben },
                        },
                    ],
                }
        );
        house.Rooms.Add(
            new Room
            {
                Id = ExampleHouse.RoomB,
                Name = "B",
                Order = 1,
            }
        );
        house.Changes.Add(new ShiftChange(ExampleHouse.Ben, ExampleHouse.Date, []));
        house.Book(ExampleHouse.Ana, 10, 0, 11, 0);
        KnowingPlan plan = Ask(house, house.Grain(10)).ShouldNotBeNull();
        plan.Plan.Lines[0].Practitioners.ShouldBe([ExampleHouse.Ben]);
        plan.Asks.ShouldBe(Waivers.OutsideShift);
        Ask(house, house.Grain(10), by: ExampleHouse.Ana).ShouldNotBeNull().Asks.ShouldBe(Waivers.Overbook);
    }

    [Fact]
    public void Nobody_is_booked_who_may_not_do_it_or_has_left()
    {
        ExampleHouse house = OneHour();
        house.Change(house.Services[0], service => service with { Roles = [new StaffRule { Qualifications = [Worlds.Id(3)] }] });
        Ask(house, house.Grain(10)).ShouldBeNull();
        house = OneHour();
        house.Practitioners[0] = house.Practitioners[0] with { Retired = ExampleHouse.Date };
        Ask(house, house.Grain(10)).ShouldBeNull();
    }

    [Fact]
    public void A_visit_booked_so_has_not_lost_its_place_until_something_new_is_in_its_way()
    {
        ExampleHouse house = OneHour();
        house.Blocked.Add(new BlockedTime(ExampleHouse.Ana, house.At(16, 0, 19, 0), "stocktaking") { BlockId = _block });
        VisitPlan plan = Ask(house, house.Grain(16, 30)).ShouldNotBeNull().Plan;
        IEnumerable<StandingClaim> stands = plan.Claims.Select(claim => new StandingClaim(
            claim.ResourceId,
            claim.Unit,
            claim.During,
            claim.Core,
            claim.Role,
            house.Services[0].Id
        )
        {
            OutsideShift = claim.OutsideShift,
            OverBlocks = claim.OverBlocks,
        });
        PlaceCheck.Of(house.Day(), stands).ShouldBeEmpty();
        house.Blocked.Add(
            new BlockedTime(ExampleHouse.Ana, house.At(17, 0, 18, 0), "dentist") { BlockId = _other, Kind = BlockKind.TimeOff }
        );
        PlaceCheck.Of(house.Day(), stands).ShouldHaveSingleItem().Value.ShouldBe("dentist");
    }

    [Fact]
    public void A_room_that_was_chosen_although_it_lacks_something_is_taken_once_that_was_said()
    {
        ExampleHouse house = new();
        house.Rooms.Add(new Room { Id = ExampleHouse.RoomB, Name = "B", Features = new HashSet<string> { "couch" } });
        Service service = house.Add(40, "Deep tissue", ExampleHouse.Attended(60));
        house.Services[0] = service with { Room = new RoomRule(new HashSet<string> { "couch" }) };
        StartFinder In(Guid room) => new(house.Build(), new VisitWish([new LineWish(service.Id) { RoomId = room }]));
        int ten = house.Grain(10);
        In(ExampleHouse.RoomB).PlanKnowingly(house.Day(), ten, All | Waivers.UnsuitedRoom)!.Asks.ShouldBe(Waivers.None);
        In(ExampleHouse.RoomA).PlanFeasible(house.Day(), ten).ShouldBeNull();
        In(ExampleHouse.RoomA).PlanKnowingly(house.Day(), ten, All).ShouldBeNull();
        KnowingPlan plan = In(ExampleHouse.RoomA).PlanKnowingly(house.Day(), ten, Waivers.UnsuitedRoom).ShouldNotBeNull();
        plan.Asks.ShouldBe(Waivers.UnsuitedRoom);
        plan.Warnings.ShouldHaveSingleItem()
            .ShouldSatisfyAllConditions(
                warning => warning.Code.ShouldBe(ReasonCode.RoomUnsuited),
                warning => warning.Subject.ShouldBe("A"),
                warning => warning.Value.ShouldBe("couch")
            );
        plan.Plan.Claims.Single(claim => claim.Unsuited).ResourceId.ShouldBe(ExampleHouse.RoomA);

        // It stands where it is until the room itself is gone, and nobody else is put there for it.
        IEnumerable<StandingClaim> Stands(bool unsuited) =>
            plan.Plan.Claims.Select(claim => new StandingClaim(
                claim.ResourceId, claim.Unit, claim.During, claim.Core, claim.Role, service.Id)
            {
                Unsuited = unsuited && claim.Unsuited,
            });
        PlaceCheck.Of(house.Day(), Stands(true)).ShouldBeEmpty();
        PlaceCheck.Of(house.Day(), Stands(false)).ShouldHaveSingleItem().Code.ShouldBe(ReasonCode.NoSuchRoom);
        new StartFinder(house.Build(), VisitWish.Of(service.Id)).PlanKnowingly(house.Day(), ten, Waivers.UnsuitedRoom)!
            .Plan.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomB);

        // Over another visit too it asks for both.
        house.Book(ExampleHouse.RoomA, 10, 0, 11, 0);
        In(ExampleHouse.RoomA).PlanKnowingly(house.Day(), ten, Waivers.UnsuitedRoom).ShouldBeNull();
        In(ExampleHouse.RoomA).PlanKnowingly(house.Day(), ten, All | Waivers.UnsuitedRoom)!.Asks
            .ShouldBe(Waivers.UnsuitedRoom | Waivers.Overbook);
    }

    /// <summary>Against the slow reference in worlds from which what is waived was taken out; by day, as the reference knows no shift
    /// across midnight.</summary>
    [Fact]
    public void It_goes_over_no_more_than_the_reference_has_to() =>
        Gen.Select(Gen.Int[0, int.MaxValue].Select(Worlds.Make), Gen.Int[0, 7], Gen.Int[6, 38])
            .Sample(
                (world, allowed, place) =>
                {
                    int grain = world.Day.Day.GrainCount * place / 48;
                    KnowingPlan? found = new StartFinder(world.House, world.Wish).PlanKnowingly(world.Day, grain, (Waivers)allowed);
                    List<int> possible =
                    [
                        .. Enumerable
                            .Range(0, 128)
                            .Where(bits => (bits & ~Bits(allowed)) == 0)
                            .Where(bits => Serves(world, bits, grain))
                            .Take(1),
                    ];
                    (found is not null).ShouldBe(possible.Count > 0);
                    if (found is null)
                        return;
                    foreach (PlannedClaim claim in found.Plan.Claims)
                    {
                        claim.Overbooked.ShouldBe(
                            world.Taken.Any(other =>
                                other.ResourceId == claim.ResourceId && other.Unit == claim.Unit && Meet(other.During, claim.During)
                            )
                        );
                        bool blocked = new SlowBook(world)
                            .Blocked()
                            .Any(block => block.ResourceId == claim.ResourceId && Meet(block.During, claim.During));
                        if (blocked)
                            found.Asks.HasFlag(Waivers.OverBlocked).ShouldBeTrue();
                    }

                    // What it asks for is what the least possible easing stands for.
                    int least = possible[0];
                    found.Asks.HasFlag(Waivers.OutsideShift).ShouldBe((least & 1) != 0);
                    found.Asks.HasFlag(Waivers.OverBlocked).ShouldBe((least & 14) != 0);
                    found.Asks.HasFlag(Waivers.Overbook).ShouldBe((least & 112) != 0);
                },
                iter: StartFinderProperties.Iterations
            );

    private static int Bits(int waivers) => ((waivers & 1) != 0 ? 1 : 0) | ((waivers & 2) != 0 ? 14 : 0) | ((waivers & 4) != 0 ? 112 : 0);

    private static bool Meet(Interval a, Interval b) => a.Start < b.End && b.Start < a.End;

    private static bool Serves(World world, int bits, int grain)
    {
        int Kind(Guid id) =>
            world.House.Practitioners.Any(practitioner => practitioner.Id == id) ? 0
            : world.House.Rooms.Any(room => room.Id == id) ? 1
            : 2;
        bool Keeps(Guid id, int first) => (bits & (first << Kind(id))) == 0;
        World eased = world.With(
            (bits & 1) == 0 ? world.House : AlwaysOnShift(world),
            new DatedCalendar(
                (bits & 1) == 0 ? world.Dated.Changes : [],
                (bits & 1) == 0 ? world.Dated.Closures : [],
                world.Dated.Stops,
                new BlockCalendar(
                    world.Dated.Blocks.Once.Where(time => Keeps(time.ResourceId, 2)),
                    world.Dated.Blocks.Repeating.Where(block => Keeps(block.ResourceId, 2))
                )
            ),
            [.. world.Taken.Where(time => Keeps(time.ResourceId, 16))]
        );
        SlowBook slow = new(eased);
        return slow.Ways(world.Day.Day.At(grain)).Any();
    }

    private static House AlwaysOnShift(World world)
    {
        Guid here = world.House.Location.Id;
        RotaShift[] always =
        [
            .. Enum.GetValues<IsoDayOfWeek>()
                .Where(day => day != IsoDayOfWeek.None)
                .Select(day => new RotaShift(0, day, new Shift(here, new Stretch(LocalTime.Midnight, LocalTime.Midnight), []))),
        ];
        return new House(
            world.House.Location,
            world.House.Practitioners,
            world.House.Rooms,
            world.House.Pools,
            world.House.Services.Values,
            new RotaCalendar(
                world.House.Practitioners.Select(practitioner => new Rota(practitioner.Id, world.Date.PlusDays(-30), 1, always))
            ),
            Worlds.Travel
        );
    }
}
