using Kingcup.Core.Booking;
using Kingcup.Core.Services;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Booking;

/// <summary>What one visit that is booked online may hold.</summary>
public sealed class OnlineVisitsTests
{
    private static LineWish[] For(params int[] people) => [.. people.Select(person => new LineWish(Guid.NewGuid()) { Person = person })];

    private static string? FaultyField(int most, params int[] people) => new OnlineVisits(most).FaultOf(For(people))?.Field;

    [Fact]
    public void As_many_people_come_as_the_owner_lets_and_each_is_named_after_those_before()
    {
        new OnlineVisits(2).FaultOf(For(0, 1, 0, 1)).ShouldBeNull();
        new OnlineVisits(4).FaultOf(For(0, 1, 2, 3)).ShouldBeNull();
        FaultyField(2, 0, 1, 2).ShouldBe("lines[2].person");
        FaultyField(1, 0, 0, 1).ShouldBe("lines[2].person");
        FaultyField(4, 1, 0).ShouldBe("lines[0].person");
        FaultyField(4, 0, 2).ShouldBe("lines[1].person");
        FaultyField(4, 0, -1).ShouldBe("lines[1].person");
        ((string)new OnlineVisits(1).FaultOf(For(0, 1))!.Message).ShouldBe(
            "Online a client books for one person; call us for several."
        );
        ((string)new OnlineVisits(2).FaultOf(For(0, 1, 2))!.Message).ShouldBe(
            "Online up to 2 people come together; call us for more."
        );
    }

    [Fact]
    public void A_visit_has_one_to_four_services_and_all_begin_together()
    {
        OnlineVisits visits = OnlineVisits.Usual;
        visits.FaultOf([]).ShouldNotBeNull().Field.ShouldBe("lines");
        visits.FaultOf(For(0, 0, 0, 0)).ShouldBeNull();
        visits.FaultOf(For(0, 0, 0, 0, 0)).ShouldNotBeNull().Field.ShouldBe("lines");
        visits.FaultOf([new LineWish(Guid.NewGuid()) { OffsetMinutes = 30 }]).ShouldNotBeNull().Field.ShouldBe("lines[0].offsetMinutes");
    }

    /// <summary>
    /// Whatever is asked for is taken exactly where everybody from the client to the last has a line, each named in turn.
    /// </summary>
    [Fact]
    public void It_takes_what_a_slow_reading_of_the_rule_takes()
    {
        Random random = new(6);
        for (int round = 0; round < 5000; round++)
        {
            int most = random.Next(1, OnlineVisits.MostAllowed + 1);
            int[] people = [.. Enumerable.Range(0, random.Next(0, 6)).Select(_ => random.Next(0, 4))];
            int[] firsts = [.. people.Distinct()];
            bool isTaken = people.Length is >= 1 and <= 4
                && firsts.SequenceEqual(Enumerable.Range(0, firsts.Length))
                && firsts.Length <= most;
            (new OnlineVisits(most).FaultOf(For(people)) is null).ShouldBe(isTaken, $"{most}: {string.Join(",", people)}");
            if (isTaken) OnlineVisits.ComingTo(people).ShouldBe(firsts.Length);
        }
    }

    [Fact]
    public void It_takes_as_long_as_whoever_stays_longest()
    {
        OnlineVisits.MinutesOf([(0, 60), (1, 30), (1, 45), (0, 10)]).ShouldBe(75);
        OnlineVisits.MinutesOf([(0, 60)]).ShouldBe(60);
        OnlineVisits.MinutesOf([]).ShouldBe(0);
    }
}
