using Kingcup.Core.Business;
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
}

/// <summary>A question the business asks a client who books online.</summary>
public sealed record Question
{
    /// <summary>Most characters of an answer.</summary>
    public const int LongestLine = 200, LongestText = 4000;

    /// <summary>Answers to <see cref="QuestionKind.YesNo"/>, as they are sent and kept.</summary>
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
    /// <param name="answer">The answer without the blanks around it; empty for none.</param>
    public Sentence? Fault(string answer)
    {
        ArgumentNullException.ThrowIfNull(answer);
        if (answer.Length == 0) return Required ? Say("Please answer this.") : null;
        return Kind switch
        {
            QuestionKind.YesNo when answer is not (Yes or No) => Say("Answer yes or no."),
            QuestionKind.OneOf when !Choices.Contains(answer) => Say("Choose one of these."),
            QuestionKind.Line when answer.Length > LongestLine || answer.Any(char.IsControl) =>
                Say($"{LongestLine} characters at the most, on one line."),
            QuestionKind.Text
                when answer.Length > LongestText || answer.Any(letter => char.IsControl(letter) && letter is not ('\n' or '\r' or '\t')) =>
                Say($"{LongestText} characters at the most."),
            _ => null,
        };
    }
}
