using NodaTime;

namespace Kingcup.Core.Booking;

/// <summary>
/// How long what was asked for waits to be answered, and what was proposed instead to be chosen (rules, sections 2 and 7).
/// </summary>
/// <param name="AnswerHours">So many hours the desk has to answer, 1 to <see cref="MostHours"/>.</param>
/// <param name="ChooseHours">So many hours the client has to choose one of the times proposed, 1 to <see cref="MostHours"/>.</param>
public sealed record RequestRules(int AnswerHours, int ChooseHours)
{
    /// <summary>Most hours either may take: two weeks.</summary>
    public const int MostHours = 336;

    /// <summary>How many times may be proposed at once.</summary>
    public const int MostTimes = 3;

    /// <summary>What holds where the owner has said nothing.</summary>
    public static RequestRules Usual { get; } = new(24, 24);

    /// <summary>When a request lapses: never later than the visit would begin. Whole seconds, so that everybody who writes it down says the
    /// same.</summary>
    /// <param name="asked">When it was asked for.</param>
    /// <param name="start">When it would begin.</param>
    public Instant AnsweredUntil(Instant asked, Instant start) => Until(asked, AnswerHours, start);

    /// <summary>Until when a time that is proposed is kept: never later than it begins.</summary>
    /// <param name="proposed">When it was proposed.</param>
    /// <param name="start">When it begins.</param>
    public Instant ChosenUntil(Instant proposed, Instant start) => Until(proposed, ChooseHours, start);

    private static Instant Until(Instant from, int hours, Instant start) =>
        Instant.FromUnixTimeSeconds(Math.Min((from + Duration.FromHours(hours)).ToUnixTimeSeconds(), start.ToUnixTimeSeconds()));
}
