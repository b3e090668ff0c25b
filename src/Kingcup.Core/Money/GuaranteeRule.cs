using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Money;

/// <summary>Where a guarantee rule is set, the most specific place first (rules, section 9).</summary>
public enum GuaranteePlace
{
    /// <summary>At one client.</summary>
    Client,

    /// <summary>At a service.</summary>
    Service,

    /// <summary>At a category.</summary>
    Category,

    /// <summary>At a location.</summary>
    Location,
}

/// <summary>What a rule asks for.</summary>
public enum GuaranteeKind
{
    /// <summary>Nothing.</summary>
    Nothing,

    /// <summary>A card on file; nothing is taken.</summary>
    Card,

    /// <summary>A fixed amount for each line.</summary>
    Fixed,

    /// <summary>So many percent of what is payable.</summary>
    Percent,

    /// <summary>All that is payable.</summary>
    All,
}

/// <summary>What a rule asks for, and how much of it.</summary>
/// <param name="Kind">What.</param>
/// <param name="Value">Minor units for <see cref="GuaranteeKind.Fixed"/>, whole percent for <see cref="GuaranteeKind.Percent"/>,
/// otherwise without a meaning.</param>
public sealed record GuaranteeDemand(GuaranteeKind Kind, long Value = 0)
{
    /// <summary>Whether money is asked for, rather than nothing or a card.</summary>
    public bool IsMoney => Kind is GuaranteeKind.Fixed or GuaranteeKind.Percent or GuaranteeKind.All;

    /// <summary>How much of a sum is taken; never more than it.</summary>
    /// <param name="payable">What is still payable of the line, in minor units, not negative.</param>
    public long Of(long payable) =>
        Math.Min(
            payable,
            Kind switch
            {
                GuaranteeKind.Fixed => Value,
                GuaranteeKind.Percent => Percent.Of(payable, (int)Value),
                GuaranteeKind.All => payable,
                _ => 0,
            }
        );
}

/// <summary>For whom and when a rule holds; what is not said does not matter, and all that is said has to be so.</summary>
public sealed record GuaranteeCondition
{
    /// <summary>Everybody, always.</summary>
    public static GuaranteeCondition Everyone { get; } = new();

    /// <summary>New clients only.</summary>
    public bool OnlyNew { get; init; }

    /// <summary>Only who did not come at least so many times, at least 1; null for whoever.</summary>
    public int? NoShows { get; init; }

    /// <summary>In how many months those are counted.</summary>
    public int Months { get; init; } = 12;

    /// <summary>Only visits that cost at least so much, in minor units; null for any.</summary>
    public long? FromPrice { get; init; }

    /// <summary>Only visits that begin on these weekdays; empty for any.</summary>
    public IReadOnlySet<IsoDayOfWeek> Weekdays { get; init; } = new HashSet<IsoDayOfWeek>();

    /// <summary>Only visits that begin in this part of a day; null for any.</summary>
    public Stretch? Hours { get; init; }

    /// <summary>Not for whoever holds a plan.</summary>
    public bool NotForPlanHolders { get; init; }

    /// <summary>Whether it is so.</summary>
    public bool Holds(GuaranteeQuestion question)
    {
        ArgumentNullException.ThrowIfNull(question);
        LocalTime time = question.Start.TimeOfDay;
        int minute = (time.Hour * 60) + time.Minute;
        return (!OnlyNew || question.IsNew)
            && (!NotForPlanHolders || !question.HoldsPlan)
            && (FromPrice is not { } least || question.Price >= least)
            && (Weekdays.Count == 0 || Weekdays.Contains(question.Start.DayOfWeek))
            && (Hours is not { } hours || (hours.FromMinute <= minute && minute < hours.UntilMinute))
            && (NoShows is not { } times || NoShowsOf(question) >= times);
    }

    private int NoShowsOf(GuaranteeQuestion question)
    {
        LocalDateTime since = question.Today.AtMidnight().PlusMonths(-Months);
        return question.NoShows.Count(at => at >= since && at.Date <= question.Today);
    }
}

/// <summary>A rule of what a client gives when booking.</summary>
/// <param name="Place">Where it is set.</param>
/// <param name="Condition">For whom and when it holds.</param>
/// <param name="Demand">What it asks for.</param>
public sealed record GuaranteeRule(GuaranteePlace Place, GuaranteeCondition Condition, GuaranteeDemand Demand);

/// <summary>Who books what, as far as guarantees look at it.</summary>
public sealed record GuaranteeQuestion
{
    /// <summary>When the visit begins, by the clock of its location.</summary>
    public required LocalDateTime Start { get; init; }

    /// <summary>The date there now.</summary>
    public required LocalDate Today { get; init; }

    /// <summary>What the visit costs, in minor units.</summary>
    public required long Price { get; init; }

    /// <summary>Whether the client is new.</summary>
    public bool IsNew { get; init; }

    /// <summary>Whether the client holds a plan.</summary>
    public bool HoldsPlan { get; init; }

    /// <summary>When they did not come, by the clock of the location.</summary>
    public IReadOnlyList<LocalDateTime> NoShows { get; init; } = [];
}

/// <summary>What one line asks for.</summary>
/// <param name="Rule">The rule that decides it, or null where none holds.</param>
/// <param name="Amount">How much is taken, in minor units.</param>
public sealed record LineGuarantee(GuaranteeRule? Rule, long Amount);

/// <summary>What a client gives when booking (rules, section 9).</summary>
/// <param name="Lines">What each line asks for, in order.</param>
public sealed record Guarantee(IReadOnlyList<LineGuarantee> Lines)
{
    /// <summary>How much is taken as a deposit, in minor units.</summary>
    public long Deposit => Lines.Sum(line => line.Amount);

    /// <summary>Whether a card has to be on file: some line asks for one.</summary>
    public bool NeedsCard => Lines.Any(line => line.Rule?.Demand.Kind == GuaranteeKind.Card);

    /// <summary>Whether anything is asked for.</summary>
    public bool AsksForSomething => Deposit > 0 || NeedsCard;

    /// <summary>
    /// Works it out line by line. Of the rules whose condition holds, those of the most specific place count, and the strictest of them
    /// applies: what takes most, and where nothing is taken, a card before nothing.
    /// </summary>
    /// <param name="question">Who books what.</param>
    /// <param name="lines">For each line the rules of its places, and what is still payable of it after discounts and credits.</param>
    public static Guarantee Of(GuaranteeQuestion question, IEnumerable<(IReadOnlyList<GuaranteeRule> Rules, long Payable)> lines)
    {
        ArgumentNullException.ThrowIfNull(question);
        ArgumentNullException.ThrowIfNull(lines);
        return new([.. lines.Select(line => Of(question, line.Rules, line.Payable))]);
    }

    private static LineGuarantee Of(GuaranteeQuestion question, IReadOnlyList<GuaranteeRule> rules, long payable)
    {
        GuaranteeRule? strictest = rules
            .Where(rule => rule.Condition.Holds(question))
            .GroupBy(rule => rule.Place)
            .MinBy(place => place.Key)
            ?.MaxBy(rule => (rule.Demand.Of(payable), rule.Demand.Kind == GuaranteeKind.Card));
        return new LineGuarantee(strictest, strictest?.Demand.Of(payable) ?? 0);
    }
}
