using Kingcup.Core.Availability;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>Units that are counted: people who look after several, rooms and equipment with many, in visits with many short uses.</summary>
public sealed class CountingExamples
{
    private readonly ExampleHouse _house = new();

    private static Phase[] InTurn(int times, Phase phase, Phase other) =>
        [.. Enumerable.Range(0, times).SelectMany(_ => new[] { phase, other })];

    private static VisitWish Times(Service service, int lines) =>
        new([.. Enumerable.Range(0, lines).Select(_ => new LineWish(service.Id))]);

    [Fact]
    public void Somebody_who_looks_after_two_is_found_for_thirty_six_short_stretches_beside_another_client()
    {
        _house.Practitioners[0] = _house.Practitioners[0] with { Attention = 2 };
        Service service = _house.Change(
            _house.Add(40, "Short", InTurn(6, ExampleHouse.Attended(5), ExampleHouse.Unattended(5))),
            item => item with { BesideOthers = true, Room = null }
        );
        _house.Book(ExampleHouse.Ana, 9, 0, 12, 0);
        VisitWish wish = Times(service, 6);
        VisitPlan plan = new StartFinder(_house.Build(), wish).PlanFeasible(_house.Day(), _house.Grain(9))!;
        plan.Claims.Count.ShouldBe(36);
        plan.Claims.Where(claim => claim.During.Start < _house.At(12, 0, 12, 5).Start).ShouldAllBe(claim => claim.Unit == 1);

        // With both taken for one of those stretches only, the visit goes nowhere over it.
        _house.Taken.Add(new TakenTime(ExampleHouse.Ana, 1, _house.At(10, 10, 10, 15), ExampleHouse.Here));
        StartFinder finder = new(_house.Build(), wish);
        finder.PlanFeasible(_house.Day(), _house.Grain(9)).ShouldBeNull();
        // Ten minutes apart they miss it by five.
        finder.PlanFeasible(_house.Day(), _house.Grain(9, 5)).ShouldNotBeNull();
    }

    [Theory]
    [InlineData(1, false)]
    [InlineData(2, true)]
    public void Equipment_that_is_not_ready_again_in_between_takes_turns(int lamps, bool fits)
    {
        _house.Pools.Add(new EquipmentPool { Id = ExampleHouse.Lamp, Name = "Lamp", Quantity = lamps, TurnaroundMinutes = 10 });
        Phase lit = new(5, [0], [new EquipmentNeed(ExampleHouse.Lamp, 1)]);
        Service service = _house.Add(40, "Lit and dark", InTurn(6, lit, ExampleHouse.Attended(5)));
        VisitPlan? plan = new StartFinder(_house.Build(), Times(service, 6)).PlanFeasible(_house.Day(), _house.Grain(10));
        (plan is not null).ShouldBe(fits);
        if (plan is null) return;
        PlannedClaim[] held = [.. plan.Claims.Where(claim => claim.ResourceId == ExampleHouse.Lamp).OrderBy(claim => claim.During.Start)];
        held.Length.ShouldBe(36);
        held.Zip(held.Skip(1)).ShouldAllBe(pair => pair.First.Unit != pair.Second.Unit);
    }

    [Fact]
    public void A_hall_for_thirty_is_found_for_fifteen_where_all_but_fifteen_are_taken_here_and_there()
    {
        _house.Rooms[0] = _house.Rooms[0] with { Capacity = 30, TurnaroundMinutes = 10 };
        Service service = _house.Change(
            _house.Add(40, "Half the hall", ExampleHouse.Attended(60)),
            item => item with { Room = new RoomRule(new HashSet<string>(), 15) }
        );
        for (int unit = 0; unit < 15; unit++)
            _house.Taken.Add(new TakenTime(ExampleHouse.RoomA, unit, _house.At(9 + (unit % 8), 0, 10 + (unit % 8), 0), ExampleHouse.Here));
        StartFinder finder = new(_house.Build(), Times(service, 2));
        finder.Feasible(_house.Day()).Contains(_house.Grain(9)).ShouldBeTrue();
        _house.Taken.Add(new TakenTime(ExampleHouse.RoomA, 15, _house.At(9, 0, 17, 0), ExampleHouse.Here));
        // One more is gone all day; from nine to eleven two of the others are taken too, which leaves fourteen and some that change.
        for (int unit = 0; unit < 15; unit++)
            _house.Taken.Add(new TakenTime(ExampleHouse.RoomA, unit, _house.At(10, 30, 10, 35), ExampleHouse.Here));
        new StartFinder(_house.Build(), Times(service, 2)).Feasible(_house.Day()).Contains(_house.Grain(9)).ShouldBeFalse();
    }
}
