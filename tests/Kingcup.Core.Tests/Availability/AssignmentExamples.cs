using Kingcup.Core.Availability;
using Kingcup.Core.Calendar;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>Who and where when nobody chose (rules, section 6), and when a resource is open (section 3).</summary>
public sealed class AssignmentExamples
{
    private readonly ExampleHouse _house = new();

    private VisitPlan? Plan(Service service, int hour) =>
        new StartFinder(_house.Build(), VisitWish.Of(service.Id)).PlanFeasible(_house.Day(), _house.Grain(hour));

    [Fact]
    public void A_room_with_fewest_spare_features_is_taken_first()
    {
        _house.Rooms.Clear();
        _house.Rooms.Add(new Room { Id = ExampleHouse.RoomA, Name = "A", Order = 0, Features = new HashSet<string> { "couch", "wet" } });
        _house.Rooms.Add(new Room { Id = ExampleHouse.RoomB, Name = "B", Order = 1, Features = new HashSet<string> { "couch" } });
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        Plan(service, 10)!.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomB);
    }

    [Fact]
    public void Among_equal_rooms_the_one_with_the_least_idle_gap_beside_is_taken()
    {
        _house.Rooms.Add(new Room { Id = ExampleHouse.RoomB, Name = "B", Order = 1 });
        _house.Book(ExampleHouse.RoomB, 9, 0, 10, 0);
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        Plan(service, 10)!.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomB);
        Plan(service, 12)!.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomB);
        _house.Taken.Clear();
        Plan(service, 10)!.Lines[0].RoomId.ShouldBe(ExampleHouse.RoomA);
    }

    [Fact]
    public void Two_roles_are_staffed_exactly_where_a_greedy_choice_would_fail()
    {
        // Ana may take both roles, Ben only the first: taking Ana first would leave the second role empty.
        _house.Practitioners.Add(new Practitioner { Id = ExampleHouse.Ben, Name = "Ben", Order = 1 });
        Service duo = _house.Change(_house.Add(40, "Duo", new Phase(60, [0, 1], [])), service => service with
        {
            Roles = [
                new StaffRule { Added = new HashSet<Guid> { ExampleHouse.Ana, ExampleHouse.Ben } },
                new StaffRule { Added = new HashSet<Guid> { ExampleHouse.Ana } },
            ],
        });
        Plan(duo, 10)!.Lines[0].Practitioners.ShouldBe([ExampleHouse.Ben, ExampleHouse.Ana]);
    }

    [Fact]
    public void A_duo_suite_needs_both_units()
    {
        _house.Rooms[0] = _house.Rooms[0] with { Capacity = 2 };
        Service service = _house.Change(
            _house.Add(40, "Duo", ExampleHouse.Attended(60)),
            item => item with { Room = new RoomRule(new HashSet<string>(), 2) }
        );
        Plan(service, 10)!.Claims.Count(claim => claim.ResourceId == ExampleHouse.RoomA).ShouldBe(2);
        _house.Taken.Add(new TakenTime(ExampleHouse.RoomA, 1, _house.At(10, 30, 11, 0), ExampleHouse.Here));
        Plan(service, 10).ShouldBeNull();
        Plan(service, 11).ShouldNotBeNull();
    }

    [Fact]
    public void The_difference_of_an_own_length_falls_on_the_longest_attended_phase()
    {
        Service peel = _house.Add(40, "Peel", ExampleHouse.Attended(20), ExampleHouse.Unattended(25), ExampleHouse.Attended(15));
        peel = _house.Change(
            peel,
            service => service with { Terms = new Dictionary<Guid, PractitionerTerms> { [ExampleHouse.Ana] = new(Minutes: 70) } }
        );
        _house.ClaimsOf(Plan(peel, 10)!, ExampleHouse.Ana).ShouldBe(["10:00-10:30", "10:55-11:10"]);
    }

    [Fact]
    public void A_qualification_counts_on_its_last_day_and_no_longer()
    {
        Guid laserSafety = Worlds.Id(3);
        _house.Practitioners[0] = _house.Practitioners[0] with
        {
            Qualifications = [new HeldQualification(laserSafety, ExampleHouse.Date.PlusDays(-9), ExampleHouse.Date)],
        };
        Service laser = _house.Change(
            _house.Add(40, "Laser", ExampleHouse.Attended(20)),
            service => service with { Roles = [new StaffRule { Qualifications = [laserSafety] }] }
        );
        StartFinder finder = new(_house.Build(), VisitWish.Of(laser.Id));
        finder.Feasible(_house.Day()).IsEmpty.ShouldBeFalse();
        DayBook tomorrow = _house.Day(ExampleHouse.Date.PlusDays(1));
        finder.Feasible(tomorrow).IsEmpty.ShouldBeTrue();
        finder.WhyNotFeasible(tomorrow, _house.Grain(10)).Single().Reasons.Select(reason => (reason.Code, reason.Ended))
            .ShouldBe([(ReasonCode.NobodyQualified, null), (ReasonCode.QualificationEnded, ExampleHouse.Date)]);
    }

    [Fact]
    public void A_shift_change_replaces_the_rota_of_that_day_wholly()
    {
        _house.Changes.Add(
            new ShiftChange(ExampleHouse.Ana, ExampleHouse.Date, [new Shift(ExampleHouse.Here, Stretch.Between(12, 0, 13, 0), [])])
        );
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        _house.Clock(new StartFinder(_house.Build(), VisitWish.Of(service.Id)).Feasible(_house.Day())).ShouldBe(["12:00"]);
    }

    [Fact]
    public void A_closure_shuts_the_day_unless_somebody_works_during_it()
    {
        _house.Closures.Add(new Closure(ExampleHouse.Here, ExampleHouse.Date.PlusYears(-1), Yearly: true, "Holiday"));
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        finder.Feasible(_house.Day()).IsEmpty.ShouldBeTrue();
        finder.WhyNotOffered(_house.Day(), _house.Grain(10), Audience.Stranger, _house.At(8, 0, 9, 0).Start)
            .First(refusal => refusal.Gate == Gate.OpeningHours).Reasons[0].Code.ShouldBe(ReasonCode.LocationClosed);

        _house.Changes.Add(
            new ShiftChange(
                ExampleHouse.Ana,
                ExampleHouse.Date,
                [new Shift(ExampleHouse.Here, Stretch.Between(12, 0, 13, 0), [])],
                WorksDuringClosure: true
            )
        );
        _house.Clock(new StartFinder(_house.Build(), VisitWish.Of(service.Id)).Feasible(_house.Day())).ShouldBe(["12:00"]);
    }

    [Fact]
    public void Breaks_and_blocked_time_are_not_free()
    {
        _house.Changes.Add(new ShiftChange(ExampleHouse.Ana, ExampleHouse.Date,
            [new Shift(ExampleHouse.Here, Stretch.Between(9, 0, 14, 0), [new Break(Stretch.Between(12, 0, 12, 30), "Lunch")])]));
        _house.Blocked.Add(new BlockedTime(ExampleHouse.Ana, _house.At(9, 0, 11, 0), "Training"));
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        _house.Clock(new StartFinder(_house.Build(), VisitWish.Of(service.Id)).Feasible(_house.Day())).ShouldBe(
            ["11:00", "12:30", "12:35", "12:40", "12:45", "12:50", "12:55", "13:00"]);
    }

    [Fact]
    public void Turnaround_may_run_past_closing_and_past_midnight()
    {
        _house.Shift = Stretch.Between(22, 0, 24, 0);
        _house.Rooms[0] = _house.Rooms[0] with { TurnaroundMinutes = 30 };
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        _house.Clock(new StartFinder(_house.Build(), VisitWish.Of(service.Id)).Feasible(_house.Day()))[^1].ShouldBe("23:00");
    }

    [Theory]
    [InlineData(0, 0)]
    [InlineData(6, 0)]
    [InlineData(7, 1)]
    [InlineData(13, 1)]
    [InlineData(14, 0)]
    [InlineData(-7, 1)]
    public void A_rota_of_two_weeks_takes_turns(int daysFromMonday, int week)
    {
        LocalDate monday = new(2027, 5, 10);
        new Rota(ExampleHouse.Ana, monday, 2, []).WeekOf(monday.PlusDays(daysFromMonday)).ShouldBe(week);
    }
}
