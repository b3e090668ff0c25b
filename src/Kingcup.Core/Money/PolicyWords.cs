using Kingcup.Core.Business;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Core.Money;

/// <summary>A stretch of time in which cancelling costs the same.</summary>
/// <param name="From">The first moment after which it costs that, or null for from booking on.</param>
/// <param name="Until">The last moment at which it costs that: the start, or exactly so many hours before it.</param>
/// <param name="Fee">What it costs, and where that comes from.</param>
public sealed record CancellationStep(Instant? From, Instant Until, CancellationFee Fee);

/// <summary>What cancelling a visit costs when, as a picture and as clients read it (rules, section 9).</summary>
public static class PolicyWords
{
    /// <summary>What cancelling costs from booking to the start; stretches that cost the same are one.</summary>
    /// <param name="policy">The policy.</param>
    /// <param name="start">When the visit begins.</param>
    /// <param name="paid">What it costs, and what was given for it.</param>
    public static IReadOnlyList<CancellationStep> Steps(CancellationPolicy policy, Instant start, PaidSoFar paid)
    {
        ArgumentNullException.ThrowIfNull(policy);
        List<CancellationStep> steps = [];
        IReadOnlyList<(Instant? From, CancellationTier Tier)> over = policy.Over(start);
        for (int i = 0; i < over.Count; i++)
        {
            Instant until = i + 1 < over.Count ? over[i + 1].From!.Value : start;
            CancellationFee fee = CancellationFee.Of(policy, start, until, paid);
            if (steps.Count > 0 && steps[^1].Fee == fee)
                steps[^1] = steps[^1] with { Until = until };
            else
                steps.Add(new CancellationStep(over[i].From, until, fee));
        }

        return steps;
    }

    /// <summary>The policy in plain words, with the hours and amounts of one visit.</summary>
    /// <param name="policy">The policy.</param>
    /// <param name="start">When the visit begins.</param>
    /// <param name="zone">The zone of its location.</param>
    /// <param name="price">What its lines cost, in minor units.</param>
    /// <param name="currency">ISO 4217.</param>
    public static IReadOnlyList<Sentence> Of(
        CancellationPolicy policy,
        Instant start,
        DateTimeZone zone,
        IReadOnlyList<long> price,
        string currency
    )
    {
        PaidSoFar nothing = new(price, 0, HasCard: false);
        IReadOnlyList<CancellationStep> steps = Steps(policy, start, nothing);
        long total = price.Sum(), missed = CancellationFee.OfNoShow(policy, nothing).Fee;
        List<Sentence> words = [];
        foreach ((int i, CancellationStep step) in steps.Index())
        {
            Sentence until = Moment(step.Until, zone);
            bool isLast = i == steps.Count - 1;
            if (step.Fee.Fee == 0)
                words.Add(isLast
                    ? i == 0 ? "You can cancel free of charge at any time before." : "After that it is free of charge."
                    : Say($"You can cancel free of charge until {until}."));
            else if (isLast)
                words.Add(i == 0 ? Say($"Cancelling costs {Amount(step.Fee.Fee)}.") : Say($"After that it costs {Amount(step.Fee.Fee)}."));
            else
                words.Add(i == 0
                    ? Say($"Until {until} cancelling costs {Amount(step.Fee.Fee)}.")
                    : Say($"After that it costs {Amount(step.Fee.Fee)}, until {until}."));
        }

        if (missed > 0 && missed != steps[^1].Fee.Fee) words.Add(Say($"If you do not come, {Amount(missed)} is due."));
        else if (missed > 0) words.Add("It costs the same if you do not come.");
        words.AddRange(OfMoving(policy, start, zone));
        words.Add("If we have to cancel, it costs you nothing.");
        return words;

        Sentence Amount(long fee) => fee == total ? Say($"the whole price, {new Sum(fee, currency)}") : Say($"{new Sum(fee, currency)}");
    }

    private static IEnumerable<Sentence> OfMoving(CancellationPolicy policy, Instant start, DateTimeZone zone)
    {
        if (policy.FreeMoves == 0)
            yield return "Moving it to another time counts as cancelling.";
        else if (policy.MoveNoticeHours > 0 || policy.FreeMoves is not null)
        {
            Sentence until = Moment(start - Duration.FromHours(policy.MoveNoticeHours), zone);
            yield return policy.FreeMoves is { } times
                ? Say($"You can move it {Count(times, "time", "times")} until {until}; more often or later counts as cancelling.")
                : Say($"You can move it until {until}; later that counts as cancelling.");
        }
    }

    private static Sentence Moment(Instant at, DateTimeZone zone)
    {
        LocalDateTime local = at.InZone(zone).LocalDateTime;
        return Say($"{local.Date}, {local.TimeOfDay}");
    }
}
