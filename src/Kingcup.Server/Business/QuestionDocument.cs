using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Forms;
using Kingcup.Server.Api;
using Kingcup.Storage;

namespace Kingcup.Server.Business;

/// <summary>A question a client is asked who books online.</summary>
public sealed record QuestionDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>What is asked.</summary>
    [MaxLength(LongestText)]
    public required string? Text { get; init; }

    /// <summary>What helps to answer it.</summary>
    [MaxLength(LongestText)]
    public required string? Hint { get; init; }

    /// <summary>How it is answered.</summary>
    public required QuestionKind Kind { get; init; }

    /// <summary>The choices, where one of them is the answer.</summary>
    public required IReadOnlyList<string>? Choices { get; init; }

    /// <summary>Whether nobody books without an answer.</summary>
    public required bool Required { get; init; }

    /// <summary>The services it is asked for; empty for all.</summary>
    public required IReadOnlyList<Guid>? ServiceIds { get; init; }

    /// <summary>Whether it is no longer asked.</summary>
    public bool IsArchived { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    private const int LongestText = 300,
        MostChoices = 30;

    internal static QuestionDocument Of(ListedQuestion question) =>
        new()
        {
            Id = question.Question.Id,
            Text = question.Question.Text,
            Hint = question.Question.Hint,
            Kind = question.Question.Kind,
            Choices = question.Question.Choices,
            Required = question.Question.Required,
            ServiceIds = [.. question.Question.Services],
            IsArchived = question.IsArchived,
            Version = question.Version,
        };

    internal ListedQuestion Check(Checks checks, Setup setup, Guid id, int order)
    {
        string text = Text?.Trim() ?? "",
            hint = Hint?.Trim() ?? "";
        checks.Require(text.Length > 0, "text", "Enter the question.");
        checks.Limits(this);
        checks.Require(!text.Any(char.IsControl), "text", "Write it on one line.");
        checks.Require(!hint.Any(char.IsControl), "hint", "Write it on one line.");
        List<string> choices =
            Kind == QuestionKind.OneOf ? [.. (Choices ?? []).Select(word => word.Trim()).Where(word => word.Length > 0)] : [];
        if (Kind == QuestionKind.OneOf)
        {
            checks.Require(choices.Count is >= 2 and <= MostChoices, "choices", $"Give 2 to {MostChoices} choices.");
            checks.Require(choices.Distinct().Count() == choices.Count, "choices", "Two choices are the same.");
            checks.Require(
                choices.All(choice => choice.Length <= Question.LongestLine && !choice.Any(char.IsControl)),
                "choices",
                $"A choice has {Question.LongestLine} characters at the most."
            );
        }

        foreach ((int i, Guid service) in (ServiceIds ?? []).Index())
            checks.Require(setup.ServiceOf(service) is not null, $"serviceIds[{i}]", "There is no such service.");
        return new ListedQuestion(
            new Question
            {
                Id = id,
                Text = text,
                Hint = hint,
                Kind = Kind,
                Choices = choices,
                Required = Required,
                Services = (ServiceIds ?? []).ToHashSet(),
                Order = order,
            },
            IsArchived
        );
    }
}
