using System.Globalization;
using Kingcup.Core.Business;
using Kingcup.Core.Money;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>What cancelling costs when, as a picture and in words.</summary>
public sealed class PolicyWordsTests
{
    private static readonly DateTimeZone _dublin = DateTimeZoneProviders.Tzdb["Europe/Dublin"];
    private static readonly Instant _start = new LocalDateTime(2026, 11, 28, 14, 0).InZoneStrictly(_dublin).ToInstant();
    private static readonly CancellationPolicy _policy = new()
    {
        Tiers = [new(48, 0), new(24, 50)],
        Below = new(0, 100),
        NoShow = new(0, 100),
        MoveNoticeHours = 24,
        FreeMoves = 2,
    };

    private static string Words(CancellationPolicy policy, params long[] price) =>
        Sentence.Join(PolicyWords.Of(policy, _start, _dublin, price, "EUR")).In(Language.English);

    [Fact]
    public void A_policy_reads_with_its_hours_and_amounts() =>
        Words(_policy, 9350)
            .ShouldBe(
                "You can cancel free of charge until 26 November 2026, 14:00. After that it costs €46.75, until 27 November 2026, 14:00. "
                    + "After that it costs the whole price, €93.50. It costs the same if you do not come. You can move it "
                    + "2 times until 27 November 2026, 14:00; more often or later counts as cancelling. If we have to cancel, it costs you "
                    + "nothing."
            );

    [Fact]
    public void Without_a_policy_nothing_costs_anything() =>
        Words(CancellationPolicy.None, 9350)
            .ShouldBe("You can cancel free of charge at any time before. If we have to cancel, it costs you nothing.");

    [Fact]
    public void What_is_free_costs_nothing_whatever_the_percent() =>
        Words(_policy with { MoveNoticeHours = 0, FreeMoves = null }, 0)
            .ShouldBe("You can cancel free of charge at any time before. If we have to cancel, it costs you nothing.");

    [Fact]
    public void Steps_of_the_same_cost_are_one_and_end_with_the_boundary()
    {
        CancellationPolicy policy = _policy with { Tiers = [new(72, 0), new(48, 0), new(24, 50)] };
        IReadOnlyList<CancellationStep> steps = PolicyWords.Steps(policy, _start, new PaidSoFar([8400], 2520, HasCard: true));
        steps.Select(step => (step.From, step.Until, step.Fee.Fee)).ShouldBe([
            (null, _start - Duration.FromHours(48), 0),
            (_start - Duration.FromHours(48), _start - Duration.FromHours(24), 4200),
            (_start - Duration.FromHours(24), _start, 8400),
        ]);
    }

    [Fact]
    public void Each_step_costs_what_cancelling_then_costs()
    {
        Random random = new(12);
        for (int world = 0; world < 2_000; world++)
        {
            CancellationPolicy policy = new()
            {
                Tiers =
                [
                    .. Enumerable.Range(0, random.Next(5)).Select(_ => random.Next(1, 100)).Distinct()
                        .Select(hours => new CancellationTier(hours, random.Next(0, 3) * 50)),
                ],
                Below = new CancellationTier(0, random.Next(0, 3) * 50),
            };
            PaidSoFar paid = new([random.Next(0, 10_000)], random.Next(0, 3_000), random.Next(2) == 0);
            IReadOnlyList<CancellationStep> steps = PolicyWords.Steps(policy, _start, paid);
            for (int minutes = 0; minutes <= 101 * 60; minutes += 17)
            {
                Instant at = _start - Duration.FromMinutes(minutes);
                CancellationStep step = steps.First(step => at <= step.Until);
                step.Fee.ShouldBe(CancellationFee.Of(policy, _start, at, paid));
            }
        }
    }

    [Theory]
    [InlineData("en-IE", "EUR", 8400, "€84.00")]
    [InlineData("en-IE", "GBP", 8400, "£84.00")]
    [InlineData("de-DE", "EUR", 123456, "1.234,56 €")]
    [InlineData("en-US", "USD", 5, "$0.05")]
    [InlineData("ja-JP", "JPY", 500, "￥500")]
    public void Sums_are_written_as_the_country_does(string culture, string currency, long amount, string written) =>
        new Sum(amount, currency).In(CultureInfo.GetCultureInfo(culture)).Replace('\u00a0', ' ').ShouldBe(written);
}
