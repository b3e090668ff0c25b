using CsCheck;
using Kingcup.Core.Availability;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>Units of a room or pool that change hands (rules, section 4: equal units are interchangeable).</summary>
public sealed class UnitExchangeTests
{
    private static readonly Instant _nine = Instant.FromUtc(2027, 3, 1, 9, 0);

    private static HeldUnit Held(int unit, int from, int until) =>
        new(unit, new Interval(_nine + Duration.FromMinutes(from), _nine + Duration.FromMinutes(until)));

    private static bool Meet(HeldUnit one, HeldUnit other) =>
        one.Unit == other.Unit && one.During.Start < other.During.End && other.During.Start < one.During.End;

    [Fact]
    public void A_free_unit_is_taken_and_nobody_else_moves() =>
        UnitExchange.Chain([Held(0, 0, 60), Held(0, 60, 90), Held(1, 60, 120)], [0], 1).ShouldBe([0]);

    [Fact]
    public void Whoever_is_in_the_way_changes_to_the_unit_that_is_left_and_so_on_as_far_as_it_goes() =>
        // 0 wants unit 1: 1 is there and comes to unit 0, where 2 lies in its way; 3 begins when 2 has gone, and 4 is on a third unit.
        UnitExchange
            .Chain([Held(0, 0, 60), Held(1, 30, 90), Held(0, 60, 120), Held(1, 120, 150), Held(2, 0, 300)], [0], 1)
            .ShouldBe([0, 1, 2]);

    [Fact]
    public void The_unit_it_is_on_already_changes_nothing() => UnitExchange.Chain([Held(1, 0, 60)], [0], 1).ShouldBeEmpty();

    /// <summary>Any book of one resource, things booked over others included: afterwards the chosen one is where it was to be, what met
    /// before still meets, and nothing else does; without any one of them something would be in the way.</summary>
    [Fact]
    public void What_met_on_a_unit_before_meets_after_and_nothing_else()
    {
        Gen<HeldUnit> one = Gen.Select(Gen.Int[0, 3], Gen.Int[0, 40], Gen.Int[1, 12], (unit, from, length) =>
            Held(unit, from * 5, (from + length) * 5));
        Gen.Select(one.Array[1, 25], Gen.Int[0, 24], Gen.Int[0, 3])
            .Sample((held, place, unit) =>
            {
                int chosen = place % held.Length;
                int left = held[chosen].Unit;
                IReadOnlyList<int> chain = UnitExchange.Chain(held, [chosen], unit);
                if (left == unit)
                {
                    chain.ShouldBeEmpty();
                    return;
                }

                HeldUnit[] after = Exchanged(held, chain, left + unit);
                after[chosen].Unit.ShouldBe(unit);
                Pairs(after).ShouldBe(Pairs(held));
                foreach (int spared in chain.Where(i => i != chosen))
                    Pairs(Exchanged(held, [.. chain.Where(i => i != spared)], left + unit)).ShouldNotBe(Pairs(held));
            });
    }

    private static HeldUnit[] Exchanged(HeldUnit[] held, IReadOnlyList<int> chain, int sum) =>
        [.. held.Select((one, i) => chain.Contains(i) ? one with { Unit = sum - one.Unit } : one)];

    private static List<(int, int)> Pairs(HeldUnit[] held) =>
        [.. from i in Enumerable.Range(0, held.Length) from j in Enumerable.Range(0, i) where Meet(held[i], held[j]) select (j, i)];
}
