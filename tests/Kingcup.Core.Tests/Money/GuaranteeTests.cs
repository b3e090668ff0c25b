using Kingcup.Core.Money;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Money;

/// <summary>What a client gives when booking (rules, section 9).</summary>
public sealed class GuaranteeTests
{
    private static readonly LocalDate _today = new(2027, 3, 1);

    // A Wednesday.
    private static readonly LocalDateTime _start = new(2027, 3, 10, 18, 0);

    private static GuaranteeQuestion Asks(long price = 8400) => new()
    {
        Start = _start,
        Today = _today,
        Price = price,
    };

    private static GuaranteeRule Rule(GuaranteePlace place, GuaranteeKind kind, long value = 0, GuaranteeCondition? condition = null) =>
        new(place, condition ?? GuaranteeCondition.Everyone, new GuaranteeDemand(kind, value));

    private static Guarantee Of(long payable, params GuaranteeRule[] rules) => Guarantee.Of(Asks(payable), [(rules, payable)]);

    [Theory]
    [InlineData(8400, 2520)] // example 9a
    [InlineData(7560, 2268)] // example 9b, after 10 % promo
    [InlineData(0, 0)] // example 9b, covered by a package credit
    [InlineData(5, 2)] // half up: 1.5
    public void Thirty_percent_of_what_is_payable(long payable, long deposit) =>
        Of(payable, Rule(GuaranteePlace.Service, GuaranteeKind.Percent, 30)).Deposit.ShouldBe(deposit);

    [Fact]
    public void A_fixed_amount_is_never_more_than_what_is_payable()
    {
        GuaranteeRule rule = Rule(GuaranteePlace.Location, GuaranteeKind.Fixed, 2000);
        (Of(8400, rule).Deposit, Of(1500, rule).Deposit, Of(0, rule).Deposit).ShouldBe((2000, 1500, 0));
    }

    [Fact]
    public void The_most_specific_place_counts_and_there_the_strictest()
    {
        GuaranteeRule[] rules =
        [
            Rule(GuaranteePlace.Location, GuaranteeKind.All),
            Rule(GuaranteePlace.Category, GuaranteeKind.Percent, 20),
            Rule(GuaranteePlace.Category, GuaranteeKind.Fixed, 2000),
        ];
        Of(8400, rules).Deposit.ShouldBe(2000);
        Of(20000, rules).Deposit.ShouldBe(4000);
        Of(8400, [.. rules, Rule(GuaranteePlace.Client, GuaranteeKind.Nothing)]).Deposit.ShouldBe(0);
    }

    [Fact]
    public void A_place_whose_rules_do_not_hold_leaves_it_to_the_next()
    {
        GuaranteeRule[] rules =
        [
            Rule(GuaranteePlace.Service, GuaranteeKind.All, condition: new GuaranteeCondition { OnlyNew = true }),
            Rule(GuaranteePlace.Location, GuaranteeKind.Card),
        ];
        Guarantee returning = Guarantee.Of(Asks(), [(rules, 8400)]), isNew = Guarantee.Of(Asks() with { IsNew = true }, [(rules, 8400)]);
        (returning.Deposit, returning.NeedsCard).ShouldBe((0, true));
        (isNew.Deposit, isNew.NeedsCard).ShouldBe((8400, false));
    }

    [Fact]
    public void A_card_is_more_than_nothing_and_less_than_money()
    {
        static bool NeedsCard(long payable, params GuaranteeKind[] kinds) =>
            Of(payable, [.. kinds.Select(kind => Rule(GuaranteePlace.Service, kind, 1))]).NeedsCard;
        NeedsCard(8400, GuaranteeKind.Nothing, GuaranteeKind.Card).ShouldBeTrue();
        NeedsCard(8400, GuaranteeKind.Card, GuaranteeKind.Fixed).ShouldBeFalse();
        // Where there is nothing to take, the card is what is left of the two.
        NeedsCard(0, GuaranteeKind.All, GuaranteeKind.Card).ShouldBeTrue();
    }

    [Fact]
    public void Each_line_is_worked_out_and_summed()
    {
        GuaranteeRule[] third = [Rule(GuaranteePlace.Location, GuaranteeKind.Percent, 33)];
        Guarantee both = Guarantee.Of(Asks(), [(third, 3333), (third, 3334), ([], 9999)]);
        both.Lines.Select(line => line.Amount).ShouldBe([1100, 1100, 0]);
        both.Deposit.ShouldBe(2200);
    }

    [Fact]
    public void Conditions_hold_for_whom_and_when_they_say()
    {
        static bool Holds(GuaranteeCondition condition, GuaranteeQuestion question) => condition.Holds(question);
        Holds(new() { FromPrice = 8400 }, Asks()).ShouldBeTrue();
        Holds(new() { FromPrice = 8401 }, Asks()).ShouldBeFalse();
        Holds(new() { NotForPlanHolders = true }, Asks() with { HoldsPlan = true }).ShouldBeFalse();
        Holds(new() { Weekdays = new HashSet<IsoDayOfWeek> { IsoDayOfWeek.Wednesday } }, Asks()).ShouldBeTrue();
        Holds(new() { Weekdays = new HashSet<IsoDayOfWeek> { IsoDayOfWeek.Thursday } }, Asks()).ShouldBeFalse();
        Holds(new() { Hours = new Stretch(new LocalTime(18, 0), LocalTime.Midnight) }, Asks()).ShouldBeTrue();
        Holds(new() { Hours = new Stretch(new LocalTime(9, 0), new LocalTime(18, 0)) }, Asks()).ShouldBeFalse();
        LocalDateTime[] missed = [new(2026, 9, 1, 0, 0), new(2026, 8, 31, 23, 59), new(2027, 2, 1, 10, 0)];
        Holds(new() { NoShows = 2, Months = 6 }, Asks() with { NoShows = missed }).ShouldBeTrue();
        Holds(new() { NoShows = 3, Months = 6 }, Asks() with { NoShows = missed }).ShouldBeFalse();
    }

    [Fact]
    public void Whatever_the_rules_no_more_is_taken_than_is_payable_and_no_rule_of_the_deciding_place_takes_more()
    {
        Random random = new(9);
        for (int world = 0; world < 20_000; world++)
        {
            long payable = random.Next(3) == 0 ? 0 : random.Next(20_000);
            GuaranteeQuestion question = Asks(random.Next(20_000)) with { IsNew = random.Next(2) == 0, HoldsPlan = random.Next(2) == 0 };
            GuaranteeRule[] rules =
            [
                .. Enumerable
                    .Range(0, random.Next(6))
                    .Select(_ =>
                        Rule(
                            (GuaranteePlace)random.Next(4),
                            (GuaranteeKind)random.Next(5),
                            random.Next(101),
                            new GuaranteeCondition { OnlyNew = random.Next(2) == 0, NotForPlanHolders = random.Next(3) == 0 }
                        )
                    ),
            ];
            Guarantee guarantee = Guarantee.Of(question, [(rules, payable)]);
            guarantee.Deposit.ShouldBeInRange(0, payable);

            // Slowly: place after place, until one has a rule that holds.
            (long Amount, bool Card) slow = (0, false);
            foreach (GuaranteePlace place in Enum.GetValues<GuaranteePlace>())
            {
                List<GuaranteeRule> holding = [.. rules.Where(rule => rule.Place == place && rule.Condition.Holds(question))];
                if (holding.Count == 0)
                    continue;
                long most = holding.Max(rule => rule.Demand.Kind switch
                {
                    GuaranteeKind.Fixed => Math.Min(rule.Demand.Value, payable),
                    GuaranteeKind.Percent => (long)Math.Floor((payable * rule.Demand.Value / 100m) + 0.5m),
                    GuaranteeKind.All => payable,
                    _ => 0,
                });
                slow = (most, most == 0 && holding.Any(rule => rule.Demand.Kind == GuaranteeKind.Card));
                break;
            }

            (guarantee.Deposit, guarantee.NeedsCard).ShouldBe(slow);
        }
    }
}
