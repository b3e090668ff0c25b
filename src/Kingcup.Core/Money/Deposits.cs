using Kingcup.Core.Booking;
using NodaTime;

namespace Kingcup.Core.Money;

/// <summary>How money comes.</summary>
public enum PaymentWay
{
    /// <summary>By the card page, before a visit is booked online.</summary>
    Page,

    /// <summary>By the card terminal, at the desk.</summary>
    Terminal,

    /// <summary>In cash, at the desk.</summary>
    Cash,

    /// <summary>By the card page, by a link the client was sent, for a visit that stands.</summary>
    Link,
}

/// <summary>A payment that a deposit came by.</summary>
/// <param name="PaymentId">The payment.</param>
/// <param name="Way">How it came.</param>
/// <param name="Paid">What was paid, in minor units.</param>
/// <param name="GivenBack">What of it has gone back, or is on its way back, in minor units.</param>
public sealed record DepositPart(Guid PaymentId, PaymentWay Way, long Paid, long GivenBack);

/// <summary>What goes back of a payment.</summary>
/// <param name="PaymentId">The payment.</param>
/// <param name="Way">How it came, and goes back.</param>
/// <param name="Amount">Minor units.</param>
public sealed record GivenBack(Guid PaymentId, PaymentWay Way, long Amount);

/// <summary>What may be taken as the deposit of a visit that stands in the book, and how it goes back (rules, sections 9 and 12).</summary>
public static class Deposits
{
    /// <summary>For how many minutes the card terminal waits for a card.</summary>
    public static int TerminalMinutes => 5;

    /// <summary>For how many hours a link to pay by is good.</summary>
    public static int LinkHours => 48;

    /// <summary>
    /// Until when a link to pay by is good: for its hours, and never longer than until the visit begins. Null where that is too soon for
    /// somebody to be written to and pay.
    /// </summary>
    /// <param name="now">When it is sent.</param>
    /// <param name="start">When the visit begins.</param>
    public static Instant? LinkUntil(Instant now, Instant start)
    {
        Instant until = Instant.Min(now + Duration.FromHours(LinkHours), start);
        return until - now < Duration.FromMinutes(PaymentRules.Minutes) ? null : until;
    }

    /// <summary>Whether a deposit may be taken for a visit: until it is done or away.</summary>
    public static bool MayTake(VisitState state) =>
        state is VisitState.Requested or VisitState.Answered or VisitState.Confirmed or VisitState.Arrived or VisitState.InTreatment;

    /// <summary>The most that may still be taken: what is still payable.</summary>
    /// <param name="price">What the visit costs.</param>
    /// <param name="held">What is held as its deposit.</param>
    /// <param name="waiting">What somebody is about to pay.</param>
    public static long Most(long price, long held, long waiting) => Math.Max(0, price - held - waiting);

    /// <summary>What is still to be given of what the rules ask for.</summary>
    /// <param name="asked">What the rules ask for.</param>
    /// <param name="price">What the visit costs.</param>
    /// <param name="held">What is held as its deposit.</param>
    /// <param name="waiting">What somebody is about to pay.</param>
    public static long Due(long asked, long price, long held, long waiting) => Most(Math.Min(asked, price), held, waiting);

    /// <summary>
    /// How money goes back the way it came: what came last goes back first, so that a fee is kept of what came first. Of each payment no
    /// more goes back than it has brought.
    /// </summary>
    /// <param name="parts">The payments, in the order they came in.</param>
    /// <param name="amount">What goes back, in minor units: at most what of them has not gone back yet.</param>
    /// <exception cref="ArgumentOutOfRangeException">More is to go back than has come.</exception>
    public static IReadOnlyList<GivenBack> Back(IReadOnlyList<DepositPart> parts, long amount)
    {
        ArgumentNullException.ThrowIfNull(parts);
        ArgumentOutOfRangeException.ThrowIfNegative(amount);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(amount, parts.Sum(part => part.Paid - part.GivenBack));
        List<GivenBack> back = [];
        long rest = amount;
        foreach (DepositPart part in parts.Reverse())
        {
            long goes = Math.Min(rest, part.Paid - part.GivenBack);
            if (goes == 0) continue;
            back.Add(new GivenBack(part.PaymentId, part.Way, goes));
            rest -= goes;
        }

        return back;
    }

    /// <summary>What of it goes back in cash, in minor units.</summary>
    public static long InCash(IEnumerable<GivenBack> back) => back.Where(one => one.Way == PaymentWay.Cash).Sum(one => one.Amount);

    /// <summary>The account that money comes into.</summary>
    public static Account AccountOf(PaymentWay way) => way == PaymentWay.Cash ? Account.Cash : Account.CardClearing;

    /// <summary>
    /// The account that money goes back from when that is decided. A card is given back by the gateway; cash stands to the client's credit
    /// until somebody has put it into their hand, so that the drawer is what the ledger says.
    /// </summary>
    public static Account BackFrom(PaymentWay way) => way == PaymentWay.Cash ? Account.ClientAccounts : Account.CardClearing;
}
