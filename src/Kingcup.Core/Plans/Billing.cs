using NodaTime;

namespace Kingcup.Core.Plans;

/// <summary>How long a plan is paid for at once.</summary>
public enum BillingPeriod
{
    /// <summary>Seven days.</summary>
    Week,

    /// <summary>Twenty-eight days.</summary>
    FourWeeks,

    /// <summary>To the same day of the next month.</summary>
    Month,

    /// <summary>To the same day of the third month.</summary>
    Quarter,

    /// <summary>To the same day of the next year.</summary>
    Year,
}

/// <summary>
/// The period a membership is in, and when it is charged next (rules, section 11). Every date is counted from one day, so that a month
/// that is too short for it shortens no later one.
/// </summary>
public sealed record BillingCycle
{
    // The day that is counted from, and how many periods lie between it and the end of this one.
    private readonly LocalDate _anchor;
    private readonly int _periods;

    private BillingCycle(BillingPeriod every, LocalDate from, LocalDate anchor, int periods) =>
        (Every, From, _anchor, _periods) = (every, from, anchor, periods);

    /// <summary>How long a period is.</summary>
    public BillingPeriod Every { get; }

    /// <summary>The first day of the period.</summary>
    public LocalDate From { get; }

    /// <summary>The day on which it ends: the next is charged then, and it is the first day of that.</summary>
    public LocalDate Until => At(_periods);

    /// <summary>The first period of somebody who joins.</summary>
    public static BillingCycle Joined(BillingPeriod every, LocalDate on) => new(every, on, on, 1);

    /// <summary>A period as it was kept.</summary>
    /// <param name="every">How long a period is.</param>
    /// <param name="from">The first day of the period.</param>
    /// <param name="anchor">The day that is counted from.</param>
    /// <param name="periods">How many periods lie between that day and the end of this one, at least 0.</param>
    public static BillingCycle Kept(BillingPeriod every, LocalDate from, LocalDate anchor, int periods)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(periods);
        return new BillingCycle(every, from, anchor, periods);
    }

    /// <summary>What of it has to be kept to go on from it.</summary>
    public (LocalDate Anchor, int Periods) ToKeep => (_anchor, _periods);

    /// <summary>The period after this one.</summary>
    public BillingCycle Renewed() => new(Every, Until, _anchor, _periods + 1);

    /// <summary>The same period made longer by days on which it was frozen; later ones are counted from its new end.</summary>
    /// <param name="days">How many, at least 0.</param>
    public BillingCycle Frozen(int days)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(days);
        return days == 0 ? this : new BillingCycle(Every, From, Until.PlusDays(days), 0);
    }

    /// <summary>The first end of a period, from this one on, that is not before a day.</summary>
    public LocalDate EndNotBefore(LocalDate day)
    {
        int periods = _periods;
        while (At(periods) < day) periods++;
        return At(periods);
    }

    private LocalDate At(int periods) =>
        Every switch
        {
            BillingPeriod.Week => _anchor.PlusWeeks(periods),
            BillingPeriod.FourWeeks => _anchor.PlusWeeks(4 * periods),
            BillingPeriod.Month => _anchor.PlusMonths(periods),
            BillingPeriod.Quarter => _anchor.PlusMonths(3 * periods),
            _ => _anchor.PlusYears(periods),
        };
}
