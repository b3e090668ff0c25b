using CsCheck;
using Kingcup.Core.Money;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>Sums split by largest remainder (rules, section 8).</summary>
public sealed class SharesTests
{
    [Theory]
    [InlineData(1000, new long[] { 3333, 3333, 3334 }, new long[] { 333, 333, 334 })] // example 8b
    [InlineData(100, new long[] { 1, 1, 1 }, new long[] { 34, 33, 33 })]
    [InlineData(2, new long[] { 1, 1, 1 }, new long[] { 1, 1, 0 })]
    [InlineData(7, new long[] { 0, 5, 0 }, new long[] { 0, 7, 0 })]
    [InlineData(0, new long[] { 0, 0 }, new long[] { 0, 0 })]
    public void What_whole_units_leave_over_goes_to_those_that_were_cut_most(long sum, long[] weights, long[] shares) =>
        Shares.Of(sum, weights).ShouldBe(shares);

    [Fact]
    public void No_sum_is_too_great() =>
        Shares
            .Of(long.MaxValue, [long.MaxValue, long.MaxValue, 1])
            .Aggregate(Int128.Zero, (all, share) => all + share)
            .ShouldBe(long.MaxValue);

    [Fact]
    public void Something_for_nobody_is_refused() => Should.Throw<ArgumentException>(() => Shares.Of(1, [0, 0]));

    [Fact]
    public void As_giving_out_one_unit_after_another_would() =>
        Gen.Select(Gen.Long[0, 400], Gen.Long[0, 50].Array[1, 6])
            .Where((_, weights) => weights.Sum() > 0)
            .Sample(
                (sum, weights) =>
                {
                    // The slow reference: whole shares as fractions, then units one by one to whoever has the greatest remainder left.
                    decimal[] exact = [.. weights.Select(weight => (decimal)sum * weight / weights.Sum())];
                    long[] given = [.. exact.Select(share => (long)decimal.Floor(share))];
                    bool[] served = new bool[weights.Length];
                    while (given.Sum() < sum)
                    {
                        int next = Enumerable
                            .Range(0, weights.Length)
                            .Where(i => !served[i])
                            .OrderByDescending(i => sum * weights[i] % weights.Sum())
                            .First();
                        given[next]++;
                        served[next] = true;
                    }

                    Shares.Of(sum, weights).ShouldBe(given);
                },
                iter: 20_000
            );
}
