using CsCheck;
using Kingcup.Core.Availability;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>What glows in each lane while a visit is carried.</summary>
public sealed class LightFinderTests
{
    private readonly ExampleHouse _house = new();

    private string[] Ranges(IEnumerable<LaneLight> lights, Guid lane) =>
        [
            .. lights
                .Where(light => light.ResourceId == lane)
                .SelectMany(light => light.Ranges)
                .Select(range => string.Join('-', new[] { range.First, range.Last }.Select(grain => ClockOf(grain)))),
        ];

    private string ClockOf(int grain) => _house.Clock(Core.Time.DaySet.Of(grain))[0];

    [Fact]
    public void Each_lane_has_the_starts_at_which_its_own_person_or_room_takes_the_visit()
    {
        _house.Practitioners.Add(new Practitioner { Id = ExampleHouse.Ben, Name = "Ben", Order = 1 });
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        _house.Book(ExampleHouse.Ana, 11, 0, 12, 0);
        _house.Book(ExampleHouse.RoomA, 14, 0, 15, 0);
        IReadOnlyList<LaneLight> lights = new LightFinder(_house.Build(), VisitWish.Of(service.Id)).On(_house.Day());
        Ranges(lights, ExampleHouse.Ana).ShouldBe(["09:00-10:00", "12:00-13:00", "15:00-16:00"]);
        Ranges(lights, ExampleHouse.Ben).ShouldBe(["09:00-13:00", "15:00-16:00"]);
        // In the room's lane Ana comes first, Ben where she is booked.
        Ranges(lights, ExampleHouse.RoomA).ShouldBe(["09:00-10:00", "10:05-11:55", "12:00-13:00", "15:00-16:00"]);
        lights.Single(light => light.ResourceId == ExampleHouse.RoomA).Ranges[1].Plan.Lines[0].Practitioners.ShouldBe([ExampleHouse.Ben]);
    }

    [Fact]
    public void A_practitioner_who_was_chosen_is_the_only_one_who_glows_and_what_has_passed_is_dark()
    {
        _house.Practitioners.Add(new Practitioner { Id = ExampleHouse.Ben, Name = "Ben", Order = 1 });
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        LightFinder finder = new(_house.Build(), VisitWish.Of(service.Id, ExampleHouse.Ben));
        IReadOnlyList<LaneLight> lights = finder.On(_house.Day(), DaySet.Range(_house.Grain(15), DaySet.Last));
        Ranges(lights, ExampleHouse.Ana).ShouldBeEmpty();
        Ranges(lights, ExampleHouse.Ben).ShouldBe(["15:00-16:00"]);
    }

    [Fact]
    public void What_is_moved_glows_in_the_lanes_of_others_too_and_takes_whoever_leads_it_into_another_room()
    {
        _house.Practitioners.Add(new Practitioner { Id = ExampleHouse.Ben, Name = "Ben", Order = 1 });
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        _house.Book(ExampleHouse.Ana, 11, 0, 12, 0);
        LightFinder finder = new(_house.Build(), VisitWish.Of(service.Id, ExampleHouse.Ben), anyLead: true);
        IReadOnlyList<LaneLight> lights = finder.On(_house.Day());
        Ranges(lights, ExampleHouse.Ana).ShouldBe(["09:00-10:00", "12:00-16:00"]);
        Ranges(lights, ExampleHouse.Ben).ShouldBe(["09:00-16:00"]);
        LaneLight room = lights.Single(light => light.ResourceId == ExampleHouse.RoomA);
        room.Ranges.ShouldAllBe(range => range.Plan.Lines[0].Practitioners.Single() == ExampleHouse.Ben);
    }

    [Fact]
    public void A_length_set_by_hand_counts_instead_of_what_the_service_says()
    {
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(20), ExampleHouse.Unattended(25), ExampleHouse.Attended(15));
        service.LeastMinutes.ShouldBe(45);
        VisitWish wish = new([new LineWish(service.Id, null, 15) { SetMinutes = 100 }]);
        VisitPlan plan = new StartFinder(_house.Build(), wish).PlanFeasible(_house.Day(), _house.Grain(10))!;
        (plan.End - plan.Start).ShouldBe(Duration.FromMinutes(100));
        _house.ClaimsOf(plan, ExampleHouse.Ana).ShouldBe(["10:00-11:00", "11:25-11:40"]);
        VisitWish least = new([new LineWish(service.Id) { SetMinutes = 45 }]);
        new StartFinder(_house.Build(), least).PlanFeasible(_house.Day(), _house.Grain(10)).ShouldNotBeNull();
        VisitWish less = new([new LineWish(service.Id) { SetMinutes = 40 }]);
        Should.Throw<ArgumentException>(() => new StartFinder(_house.Build(), less));
    }

    [Fact]
    public void A_room_that_was_chosen_is_taken_or_nothing_and_one_that_was_excluded_never()
    {
        _house.Rooms.Add(new Core.Rooms.Room { Id = ExampleHouse.RoomB, Name = "B", Order = 1 });
        _house.Book(ExampleHouse.RoomB, 12, 0, 13, 0);
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        StartFinder inB = new(_house.Build(), new VisitWish([new LineWish(service.Id) { RoomId = ExampleHouse.RoomB }]));
        inB.PlanFeasible(_house.Day(), _house.Grain(10))!.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomB);
        inB.PlanFeasible(_house.Day(), _house.Grain(12)).ShouldBeNull();
        VisitWish notA = VisitWish.Of(service.Id) with { WithoutRooms = new HashSet<Guid> { ExampleHouse.RoomA } };
        StartFinder without = new(_house.Build(), notA);
        without.PlanFeasible(_house.Day(), _house.Grain(10))!.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomB);
        without.PlanFeasible(_house.Day(), _house.Grain(12)).ShouldBeNull();
    }

    /// <summary>The room of the line before is kept only where the next line may be spent in it.</summary>
    [Fact]
    public void A_line_in_a_chosen_room_cannot_stay_in_the_room_of_the_line_before_it()
    {
        _house.Rooms.Add(new Core.Rooms.Room { Id = ExampleHouse.RoomB, Name = "B", Order = 1 });
        _house.Book(ExampleHouse.RoomA, 11, 0, 12, 0);
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        VisitWish wish = new([new LineWish(service.Id), new LineWish(service.Id) { RoomId = ExampleHouse.RoomA }]);
        StartFinder finder = new(_house.Build(), wish);
        DaySet feasible = finder.Feasible(_house.Day());
        feasible.Contains(_house.Grain(10)).ShouldBeFalse();
        finder.PlanFeasible(_house.Day(), _house.Grain(10)).ShouldBeNull();
        feasible.Contains(_house.Grain(11)).ShouldBeTrue();
        finder.PlanFeasible(_house.Day(), _house.Grain(11))!.Lines[1].RoomId.ShouldBe(ExampleHouse.RoomA);
    }

    /// <summary>The lanes together say neither more nor less than the starts: each range is what the engine answers for its lane.</summary>
    [Fact]
    public void In_every_world_the_ranges_are_the_feasible_starts_of_their_lane_and_lie_as_they_say() =>
        Gen.Int[0, int.MaxValue]
            .Select(Worlds.Make)
            .Sample(
                world =>
                {
                    IReadOnlyList<LaneLight> lights = new LightFinder(world.House, world.Wish).On(world.Day);
                    HashSet<int> byPeople = [];
                    foreach (LaneLight lane in lights)
                    {
                        bool isRoom = world.House.Rooms.Any(room => room.Id == lane.ResourceId);
                        int inRoom = world.Wish.Lines.ToList().FindIndex(own => world.House.Services[own.ServiceId].Room is not null);
                        int line = isRoom ? inRoom : 0;
                        VisitWish wish = world.Wish with
                        {
                            Lines =
                            [
                                .. world.Wish.Lines.Select(
                                    (own, i) =>
                                        i != line ? own
                                        : isRoom ? own with { RoomId = lane.ResourceId }
                                        : own with { PractitionerId = lane.ResourceId }
                                ),
                            ],
                        };
                        SlowBook slow = new(world with { Wish = wish });
                        int[] starts = [.. lane.Ranges.SelectMany(range => Enumerable.Range(range.First, range.Last - range.First + 1))];
                        starts
                            .Select(world.Day.Day.At)
                            .ShouldBe(slow.AllStarts().Where(start => slow.Ways(start).Any()));
                        foreach (LightRange range in lane.Ranges)
                        {
                            range.Plan.Start.ShouldBe(world.Day.Day.At(range.First));
                            if (isRoom) range.Plan.Claims.ShouldContain(claim => claim.ResourceId == lane.ResourceId);
                            else range.Plan.Lines[0].Practitioners[0].ShouldBe(lane.ResourceId);
                        }

                        if (!isRoom) byPeople.UnionWith(starts);
                    }

                    byPeople.Order().ShouldBe(new StartFinder(world.House, world.Wish).Feasible(world.Day));
                },
                iter: StartFinderProperties.Iterations
            );
}
