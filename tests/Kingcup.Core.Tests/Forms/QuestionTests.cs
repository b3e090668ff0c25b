using Kingcup.Core.Forms;
using Kingcup.Core.Tests.Reference;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Forms;

/// <summary>Which questions are asked, and which answers are taken.</summary>
public sealed class QuestionTests
{
    private static Question Of(QuestionKind kind, bool required = false, params string[] choices) =>
        new() { Id = Worlds.Id(1), Text = "What?", Kind = kind, Required = required, Choices = choices };

    [Fact]
    public void A_question_for_some_services_is_asked_when_one_of_them_is_in_the_visit()
    {
        Question all = Of(QuestionKind.Line), some = all with { Services = new HashSet<Guid> { Worlds.Id(40), Worlds.Id(41) } };
        all.IsAskedFor([Worlds.Id(42)]).ShouldBeTrue();
        some.IsAskedFor([Worlds.Id(42)]).ShouldBeFalse();
        some.IsAskedFor([Worlds.Id(42), Worlds.Id(41)]).ShouldBeTrue();
    }

    [Theory]
    [InlineData(QuestionKind.Line, "nuts", true)]
    [InlineData(QuestionKind.Line, "nuts\nand bolts", false)]
    [InlineData(QuestionKind.Text, "nuts\nand bolts", true)]
    [InlineData(QuestionKind.Text, "a bell \a", false)]
    [InlineData(QuestionKind.YesNo, "Yes", true)]
    [InlineData(QuestionKind.YesNo, "yes", false)]
    [InlineData(QuestionKind.OneOf, "Sport", true)]
    [InlineData(QuestionKind.OneOf, "sport", false)]
    public void Each_kind_takes_what_it_asks_for(QuestionKind kind, string answer, bool taken) =>
        (Of(kind, false, "Weight", "Sport").Fault(answer) is null).ShouldBe(taken);

    [Theory]
    [InlineData(QuestionKind.Line, Question.LongestLine)]
    [InlineData(QuestionKind.Text, Question.LongestText)]
    public void An_answer_is_as_long_as_it_may_be_and_no_longer(QuestionKind kind, int longest)
    {
        Of(kind).Fault(new string('a', longest)).ShouldBeNull();
        Of(kind).Fault(new string('a', longest + 1)).ShouldNotBeNull();
    }

    [Fact]
    public void Nothing_is_an_answer_unless_one_is_required()
    {
        Of(QuestionKind.OneOf, false, "A", "B").Fault("").ShouldBeNull();
        Of(QuestionKind.OneOf, true, "A", "B").Fault("").ShouldNotBeNull();
    }
}
