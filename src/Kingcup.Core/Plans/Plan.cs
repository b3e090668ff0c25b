using Kingcup.Core.Money;
using NodaTime;

namespace Kingcup.Core.Plans;

/// <summary>A plan that clients join (rules, section 11).</summary>
public sealed record Plan
{
    /// <summary>What a period costs, in minor units.</summary>
    public required long Price { get; init; }

    /// <summary>How long a period is.</summary>
    public required BillingPeriod Every { get; init; }

    /// <summary>What joining costs once, in minor units.</summary>
    public long JoiningFee { get; init; }

    /// <summary>How many credits each period gives.</summary>
    public int Credits { get; init; }

    /// <summary>How many unused ones go over into the next period at the most.</summary>
    public int Rollover { get; init; }

    /// <summary>How long somebody stays at least, from the day they join; nothing for no such time.</summary>
    public Period MinimumTerm { get; init; } = Period.Zero;

    /// <summary>How many days before they leave they say so.</summary>
    public int NoticeDays { get; init; }

    /// <summary>How many credits there are after a renewal: those that go over, and the new ones.</summary>
    /// <param name="unused">How many were not used.</param>
    public int CreditsAfter(int unused)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(unused);
        return Math.Min(unused, Rollover) + Credits;
    }

    /// <summary>When a membership ends of which notice is given: at the first end of a period that is neither before the end of the
    /// minimum term nor before the notice has run.</summary>
    /// <param name="joined">When they joined.</param>
    /// <param name="cycle">The period they are in.</param>
    /// <param name="given">The day on which notice is given.</param>
    /// <param name="frozenDays">How many days it was frozen since they joined: the minimum term is longer by them.</param>
    public LocalDate EndsOn(LocalDate joined, BillingCycle cycle, LocalDate given, int frozenDays = 0)
    {
        ArgumentNullException.ThrowIfNull(cycle);
        LocalDate term = (joined + MinimumTerm).PlusDays(frozenDays),
            noticed = given.PlusDays(NoticeDays);
        return cycle.EndNotBefore(LocalDate.Max(term, noticed));
    }

    /// <summary>
    /// The part of what a period costs that each of its credits carries: of the owner's figure, or of the price, at most what the
    /// credits would cost by themselves; together they are exactly that. The rest is earned day by day.
    /// </summary>
    /// <param name="fee">What is spread, in minor units: what was charged, without tax.</param>
    /// <param name="listPrice">What a credit would cost by itself, without tax, in minor units.</param>
    /// <param name="figure">What the owner says all credits of a period are worth, in minor units; null where they say nothing.</param>
    public IReadOnlyList<long> CreditParts(long fee, long listPrice, long? figure = null)
    {
        long all = Math.Min(fee, figure ?? listPrice * Credits);
        return Credits == 0 ? [] : Shares.Of(all, [.. Enumerable.Repeat(1L, Credits)]);
    }
}

/// <summary>Days on which a membership is frozen: nothing is granted, charged or earned on them.</summary>
/// <param name="From">The first.</param>
/// <param name="Until">The first that is not frozen any more.</param>
public sealed record Freeze(LocalDate From, LocalDate Until)
{
    /// <summary>How many of them lie within some days.</summary>
    /// <param name="from">The first of those.</param>
    /// <param name="until">The first after them.</param>
    public int DaysIn(LocalDate from, LocalDate until) =>
        Math.Max(0, Period.DaysBetween(LocalDate.Max(From, from), LocalDate.Min(Until, until)));
}

/// <summary>A fee that is earned as its days go by (rules, section 12).</summary>
/// <param name="Fee">Minor units, without tax and without what belongs to credits.</param>
/// <param name="From">The first day it is for.</param>
/// <param name="Until">The first day it is not for any more.</param>
/// <param name="Freezes">When it was frozen; no two at once.</param>
public sealed record FeeByDay(long Fee, LocalDate From, LocalDate Until, IReadOnlyList<Freeze> Freezes)
{
    /// <summary>
    /// What of it is earned by the end of a day, in minor units, rounded half up: what is posted at an end of month is this less what was
    /// posted before, so that all of it together is the fee.
    /// </summary>
    public long EarnedBy(LocalDate day)
    {
        int all = Days(Until);
        LocalDate next = day.PlusDays(1);
        if (next >= Until || all <= 0) return next > From ? Fee : 0;
        int past = Days(LocalDate.Max(next, From));
        return (long)((((Int128)Fee * past * 2) + all) / (all * 2));
    }

    private int Days(LocalDate until) => Period.DaysBetween(From, until) - Freezes.Sum(freeze => freeze.DaysIn(From, until));
}

/// <summary>Where a membership stands whose charge has failed (rules, section 11).</summary>
public enum FailedStanding
{
    /// <summary>Everything holds; the charge is tried again.</summary>
    Holds,

    /// <summary>Nothing of it is given until it is paid.</summary>
    Stopped,

    /// <summary>It is over.</summary>
    Lapsed,
}

/// <summary>What becomes of a charge that fails: it is tried again, and a success restores everything (rules, section 11).</summary>
public static class FailedCharge
{
    // Days after the first failure.
    private static readonly int[] _again = [1, 3, 7];

    /// <summary>Where a membership stands after so many failures of one charge, the first among them.</summary>
    public static FailedStanding After(int failures) =>
        failures switch
        {
            < 3 => FailedStanding.Holds,
            3 => FailedStanding.Stopped,
            _ => FailedStanding.Lapsed,
        };

    /// <summary>The day on which it is tried again, or null where it is not.</summary>
    /// <param name="first">The day of the first failure.</param>
    /// <param name="failures">How many there were, the first among them.</param>
    public static LocalDate? Again(LocalDate first, int failures) =>
        failures >= 1 && failures <= _again.Length ? first.PlusDays(_again[failures - 1]) : null;
}
