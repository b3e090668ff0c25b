using Kingcup.Core.Clients;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Clients;

/// <summary>What a client is offered to have again.</summary>
public sealed class SameAgainTests
{
    private static readonly Guid _tissue = Guid.NewGuid(),
        _facial = Guid.NewGuid(),
        _brows = Guid.NewGuid(),
        _ines = Guid.NewGuid(),
        _odile = Guid.NewGuid();

    private static VisitHad Visit(params (Guid Service, Guid? Who)[] lines) =>
        new(Guid.NewGuid(), [.. lines.Select(line => new LineHad(line.Service, line.Who))]);

    [Fact]
    public void What_is_had_most_often_is_the_usual_one_and_its_latest_visit_says_how()
    {
        VisitHad[] visits =
        [
            Visit((_facial, _odile)),
            Visit((_tissue, _ines)),
            Visit((_tissue, _ines)),
            Visit((_facial, _ines)),
            Visit((_tissue, _ines)),
            Visit((_facial, _odile)),
        ];
        SameAgain again = SameAgain.Of(visits);
        (again.Usual, again.Times, again.Looked).ShouldBe((visits[1], 3, 6));
        // Another practitioner makes it another kind.
        again.Last.ShouldBe([visits[0], visits[3]]);
    }

    [Fact]
    public void Nothing_is_usual_that_was_had_once_and_the_last_three_are_offered()
    {
        VisitHad[] visits = [.. Enumerable.Range(0, 5).Select(_ => Visit((Guid.NewGuid(), _ines)))];
        SameAgain again = SameAgain.Of(visits);
        again.Usual.ShouldBeNull();
        again.Times.ShouldBe(0);
        again.Last.ShouldBe(visits[..3]);
        SameAgain.Of([]).Last.ShouldBeEmpty();
    }

    [Fact]
    public void Of_two_had_equally_often_the_one_had_last_is_usual_and_lines_count_in_order()
    {
        VisitHad[] visits =
        [
            Visit((_facial, _odile), (_brows, _odile)),
            Visit((_brows, _odile), (_facial, _odile)),
            Visit((_brows, _odile), (_facial, _odile)),
            Visit((_facial, _odile), (_brows, _odile)),
        ];
        SameAgain.Of(visits).Usual.ShouldBe(visits[0]);
    }

    [Theory]
    [InlineData(6, true)]
    [InlineData(7, false)]
    public void Nor_is_what_was_had_less_than_every_third_time(int visits, bool isUsual) =>
        (
            SameAgain
                .Of([
                    Visit((_facial, _odile)),
                    Visit((_facial, _odile)),
                    .. Enumerable.Range(2, visits - 2).Select(_ => Visit((Guid.NewGuid(), _ines))),
                ])
                .Usual
            is not null
        ).ShouldBe(isUsual);

    [Fact]
    public void Habits_of_long_ago_do_not_count()
    {
        VisitHad lately = Visit((_facial, null));
        IEnumerable<VisitHad> visits = Enumerable
            .Range(0, SameAgain.Among - 1)
            .Select(_ => Visit((Guid.NewGuid(), _ines)))
            .Append(lately)
            .Concat(Enumerable.Range(0, 20).Select(_ => Visit((_tissue, _ines))));
        SameAgain.Of(visits).Usual.ShouldBeNull();
    }
}
