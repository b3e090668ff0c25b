namespace Kingcup.Core.Money;

/// <summary>Where a payment stands that a booking waits for.</summary>
public enum PaymentState
{
    /// <summary>The client is at the card page; the time is kept.</summary>
    Open,

    /// <summary>It was decided to take the money; the time is kept until that is settled.</summary>
    Charging,

    /// <summary>Paid and booked.</summary>
    Booked,

    /// <summary>It cannot be booked: what was taken has to go back.</summary>
    Returning,

    /// <summary>Nothing was booked, and nothing is kept of the money.</summary>
    Ended,
}

/// <summary>Where the gateway says it stands.</summary>
public enum CardState
{
    /// <summary>Nobody has entered a card yet, or only one that was declined.</summary>
    Open,

    /// <summary>The bank has agreed; nothing was taken.</summary>
    Authorised,

    /// <summary>The money was taken.</summary>
    Captured,

    /// <summary>All of it was given back.</summary>
    Refunded,

    /// <summary>The bank has declined to have the money taken.</summary>
    Declined,

    /// <summary>The client has left, or it was ended; nothing was taken.</summary>
    Ended,
}

/// <summary>What is done next with a payment.</summary>
public enum PaymentStep
{
    /// <summary>Nothing: somebody else has to do something first.</summary>
    Wait,

    /// <summary>Decide to take the money, and keep the time until that is settled.</summary>
    Decide,

    /// <summary>Have the gateway take the money.</summary>
    Capture,

    /// <summary>Book the visit, with its deposit.</summary>
    Book,

    /// <summary>Have the gateway let go of what the bank agreed to.</summary>
    Release,

    /// <summary>Have the gateway give the money back.</summary>
    Refund,

    /// <summary>Give the time back and be done.</summary>
    End,
}

/// <summary>
/// How a booking that has to be paid for comes to its end whatever is lost in between: money is only taken once the time is kept until
/// that is settled, a visit is only booked once the money was taken, and what was taken without a visit goes back. Each step may be
/// asked for again.
/// </summary>
public static class PaymentRules
{
    /// <summary>How many minutes somebody has at the card page.</summary>
    public static int Minutes => 15;

    /// <summary>How many times one device has waiting for their payment at once.</summary>
    public static int MostOfDevice => 2;

    /// <summary>What is done next.</summary>
    /// <param name="state">Where the payment stands.</param>
    /// <param name="card">Where the gateway says it stands.</param>
    /// <param name="takesMoney">Whether money is taken, rather than a card kept.</param>
    /// <param name="isOver">Whether the time at the card page has run out.</param>
    public static PaymentStep Next(PaymentState state, CardState card, bool takesMoney, bool isOver) =>
        (state, card) switch
        {
            (PaymentState.Booked or PaymentState.Ended, _) => PaymentStep.Wait,
            // Whoever has paid just before the time ran out has paid.
            (PaymentState.Open, CardState.Authorised) => PaymentStep.Decide,
            (PaymentState.Open, CardState.Ended) => PaymentStep.End,
            (PaymentState.Open, CardState.Open or CardState.Declined) => isOver ? PaymentStep.Release : PaymentStep.Wait,
            (PaymentState.Charging, CardState.Authorised) => takesMoney ? PaymentStep.Capture : PaymentStep.Book,
            (PaymentState.Charging, CardState.Captured) => PaymentStep.Book,
            (PaymentState.Returning, CardState.Captured) => PaymentStep.Refund,
            (PaymentState.Returning, CardState.Open or CardState.Authorised) => PaymentStep.Release,
            // Money that is there although nobody has decided so, goes back.
            (PaymentState.Open, CardState.Captured) => PaymentStep.Decide,
            _ => PaymentStep.End,
        };
}
