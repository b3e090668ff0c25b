using System.Text.RegularExpressions;
using Kingcup.Core.Business;
using NodaTime;
using NodaTime.Text;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Core.Forms;

/// <summary>How a question is answered.</summary>
public enum QuestionKind
{
    /// <summary>In a line.</summary>
    Line,

    /// <summary>In a text of several lines.</summary>
    Text,

    /// <summary>With yes or no.</summary>
    YesNo,

    /// <summary>With one of the choices.</summary>
    OneOf,

    /// <summary>With a tick, or none.</summary>
    Tick,

    /// <summary>With a number.</summary>
    Number,

    /// <summary>With a date.</summary>
    Date,

    /// <summary>With a file.</summary>
    File,
}

/// <summary>A question the business asks a client who books online.</summary>
public sealed partial record Question
{
    /// <summary>Most characters of an answer.</summary>
    public const int LongestLine = 200, LongestText = 4000;

    /// <summary>Between which an answer to <see cref="QuestionKind.Date"/> lies, both counted.</summary>
    public static readonly LocalDate FirstDate = new(1900, 1, 1), LastDate = new(2199, 12, 31);

    /// <summary>Answers to <see cref="QuestionKind.YesNo"/> and <see cref="QuestionKind.Tick"/>, as they are sent and kept.</summary>
    public const string Yes = "Yes", No = "No";

    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What is asked.</summary>
    public required string Text { get; init; }

    /// <summary>What helps to answer it, or empty.</summary>
    public string Hint { get; init; } = "";

    /// <summary>How it is answered.</summary>
    public QuestionKind Kind { get; init; }

    /// <summary>The choices of <see cref="QuestionKind.OneOf"/>, two or more; empty otherwise.</summary>
    public IReadOnlyList<string> Choices { get; init; } = [];

    /// <summary>Whether nobody books without an answer.</summary>
    public bool Required { get; init; }

    /// <summary>The services it is asked for; empty for all.</summary>
    public IReadOnlySet<Guid> Services { get; init; } = new HashSet<Guid>();

    /// <summary>Place among the questions.</summary>
    public int Order { get; init; }

    /// <summary>Whether it is asked for a visit of these services.</summary>
    public bool IsAskedFor(IEnumerable<Guid> services) => Services.Count == 0 || services.Any(Services.Contains);

    /// <summary>What is wrong with an answer, in words for the client; null when it can be taken.</summary>
    /// <param name="answer">The answer without the blanks around it; empty for none. A number has a point or a comma before its
    /// decimals, a date is written as 2027-03-01, and a file is named by what its upload was answered with.</param>
    public Sentence? Fault(string answer)
    {
        ArgumentNullException.ThrowIfNull(answer);
        if (Kind == QuestionKind.Tick) return FaultOfTick(answer);
        if (answer.Length == 0) return Required ? Say("Please answer this.") : null;
        return Kind switch
        {
            QuestionKind.YesNo when answer is not (Yes or No) => Say("Answer yes or no."),
            QuestionKind.OneOf when !Choices.Contains(answer) => Say("Choose one of these."),
            QuestionKind.Line or QuestionKind.File when answer.Length > LongestLine || answer.Any(char.IsControl) =>
                Say($"{LongestLine} characters at the most, on one line."),
            QuestionKind.Text
                when answer.Length > LongestText || answer.Any(letter => char.IsControl(letter) && letter is not ('\n' or '\r' or '\t')) =>
                Say($"{LongestText} characters at the most."),
            QuestionKind.Number when !PlainNumber().IsMatch(answer) =>
                Say("Enter a number, such as 72 or 1.5: nine digits at the most, and three after the point."),
            QuestionKind.Date when !IsDate(answer) => Say($"Enter a date from {FirstDate} to {LastDate}."),
            _ => null,
        };
    }

    /// <summary>An answer that can be taken, as it is kept: what is not ticked is a no, a number has a point.</summary>
    /// <returns>Empty where there is nothing to keep.</returns>
    public string Kept(string answer)
    {
        ArgumentNullException.ThrowIfNull(answer);
        return Kind switch
        {
            QuestionKind.Tick when answer.Length == 0 => No,
            QuestionKind.Number => answer.Replace(',', '.'),
            _ => answer,
        };
    }

    private Sentence? FaultOfTick(string answer) =>
        answer is not (Yes or No or "") ? Say("Tick this, or leave it.")
        : Required && answer != Yes ? Say("Please tick this.") : null;

    private static bool IsDate(string answer) =>
        LocalDatePattern.Iso.Parse(answer) is { Success: true } parsed && parsed.Value >= FirstDate && parsed.Value <= LastDate;

    [GeneratedRegex(@"\A-?[0-9]{1,9}([.,][0-9]{1,3})?\z", RegexOptions.CultureInvariant)]
    private static partial Regex PlainNumber();
}
