namespace Kingcup.StandIns.CardGateway;

/// <summary>How a made-up card behaves.</summary>
internal enum Behaviour
{
    /// <summary>Everything goes well.</summary>
    Good,

    /// <summary>The bank declines it.</summary>
    Declined,

    /// <summary>It has run out.</summary>
    RunOut,

    /// <summary>The bank asks its holder for a code first.</summary>
    AsksForCode,

    /// <summary>The bank takes four seconds to answer.</summary>
    Slow,

    /// <summary>The money is taken, and the answer to the first capture is lost.</summary>
    AnswerLost,

    /// <summary>News of it comes twice, late, and in the wrong order.</summary>
    NewsInDisorder,

    /// <summary>It is good now; what is charged later without its holder is declined.</summary>
    DeclinedLater,

    /// <summary>It is good when it is entered; when the money is to be taken the bank declines.</summary>
    DeclinedAtCapture,
}

/// <summary>Made-up cards. No network gives out numbers that begin with 9.</summary>
internal static class TestCard
{
    /// <summary>The code the bank of <see cref="Behaviour.AsksForCode"/> wants to hear.</summary>
    internal const string Code = "2468";

    private static readonly Dictionary<string, Behaviour> _cards = new()
    {
        ["9000000000000001"] = Behaviour.Good,
        ["9000000000000019"] = Behaviour.Declined,
        ["9000000000000027"] = Behaviour.RunOut,
        ["9000000000000035"] = Behaviour.AsksForCode,
        ["9000000000000043"] = Behaviour.Slow,
        ["9000000000000050"] = Behaviour.AnswerLost,
        ["9000000000000068"] = Behaviour.NewsInDisorder,
        ["9000000000000076"] = Behaviour.DeclinedLater,
        ["9000000000000084"] = Behaviour.DeclinedAtCapture,
    };

    /// <summary>How a card behaves, or null for a number that is no card.</summary>
    internal static Behaviour? Of(string number) => _cards.TryGetValue(number, out Behaviour behaviour) ? behaviour : null;
}
