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
    [InlineData(QuestionKind.Tick, "Yes", true)]
    [InlineData(QuestionKind.Tick, "No", true)]
    [InlineData(QuestionKind.Tick, "on", false)]
    [InlineData(QuestionKind.Number, "72", true)]
    [InlineData(QuestionKind.Number, "-0.125", true)]
    [InlineData(QuestionKind.Number, "1,5", true)]
    [InlineData(QuestionKind.Number, "1,500.00", false)]
    [InlineData(QuestionKind.Number, "1e9", false)]
    [InlineData(QuestionKind.Number, "1234567890", false)]
    [InlineData(QuestionKind.Number, "0.1234", false)]
    [InlineData(QuestionKind.Number, "٣", false)]
    [InlineData(QuestionKind.Number, "5\n", false)]
    [InlineData(QuestionKind.Date, "2028-02-29", true)]
    [InlineData(QuestionKind.Date, "2027-02-29", false)]
    [InlineData(QuestionKind.Date, "29.02.2028", false)]
    [InlineData(QuestionKind.Date, "1900-01-01", true)]
    [InlineData(QuestionKind.Date, "1899-12-31", false)]
    [InlineData(QuestionKind.Date, "2199-12-31", true)]
    [InlineData(QuestionKind.Date, "2200-01-01", false)]
    [InlineData(QuestionKind.File, "0f3a", true)]
    [InlineData(QuestionKind.File, "0f\n3a", false)]
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

    [Theory]
    [InlineData(QuestionKind.Tick, "", "No")]
    [InlineData(QuestionKind.Tick, "Yes", "Yes")]
    [InlineData(QuestionKind.Number, "1,5", "1.5")]
    [InlineData(QuestionKind.Number, "", "")]
    [InlineData(QuestionKind.Line, "1,5", "1,5")]
    [InlineData(QuestionKind.Date, "", "")]
    public void What_is_kept_is_written_one_way(QuestionKind kind, string answer, string kept) => Of(kind).Kept(answer).ShouldBe(kept);

    [Fact]
    public void A_tick_that_is_required_is_there()
    {
        Of(QuestionKind.Tick).Fault("").ShouldBeNull();
        Of(QuestionKind.Tick, true).Fault("").ShouldNotBeNull();
        Of(QuestionKind.Tick, true).Fault(Question.No).ShouldNotBeNull();
        Of(QuestionKind.Tick, true).Fault(Question.Yes).ShouldBeNull();
    }

    public static TheoryData<WaitingFiles, bool> Waiting => new()
    {
        { new(0, 0, 0, 0), true },
        { new(AnswerFiles.MostOfDevice - 1, AnswerFiles.MostOfRange - 1, 0, 0), true },
        { new(0, 0, AnswerFiles.MostBytesOfRange - 5, AnswerFiles.MostBytesOfAll - 5), true },
        { new(AnswerFiles.MostOfDevice, 8, 0, 0), false },
        { new(0, AnswerFiles.MostOfRange, 0, 0), false },
        { new(0, 0, AnswerFiles.MostBytesOfRange - 4, AnswerFiles.MostBytesOfRange), false },
        { new(0, 0, 0, AnswerFiles.MostBytesOfAll - 4), false },
    };

    [Theory]
    [MemberData(nameof(Waiting))]
    public void Few_files_wait_of_anybody_and_no_more_bytes_than_can_be_kept(WaitingFiles waiting, bool taken) =>
        AnswerFiles.Takes(waiting, 5).ShouldBe(taken);

    [Fact]
    public void Nothing_is_an_answer_unless_one_is_required()
    {
        Of(QuestionKind.OneOf, false, "A", "B").Fault("").ShouldBeNull();
        Of(QuestionKind.OneOf, true, "A", "B").Fault("").ShouldNotBeNull();
    }
}
