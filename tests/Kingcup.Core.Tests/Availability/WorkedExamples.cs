using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>The worked examples of the rules page, sections 4 and 5.</summary>
public sealed class WorkedExamples
{
    private readonly ExampleHouse _house = new();

    private static readonly Instant _longAgo = Instant.FromUtc(2027, 5, 11, 6, 0);

    [Fact]
    public void Example_4a_the_practitioner_is_free_while_the_lamp_shines()
    {
        _house.Rooms[0] = _house.Rooms[0] with { TurnaroundMinutes = 10 };
        _house.Rooms.Add(new Room { Id = ExampleHouse.RoomB, Name = "B", Order = 1 });
        Service peel = _house.Add(40, "Peel with lamp", ExampleHouse.Attended(20), ExampleHouse.Unattended(25), ExampleHouse.Attended(15));
        peel = _house.Change(peel, service => service with { BufferAfterMinutes = 5 });
        Service talk = _house.Add(41, "Consultation", ExampleHouse.Attended(20));
        talk = _house.Change(talk, service => service with { BufferAfterMinutes = 5 });

        VisitPlan plan = new StartFinder(_house.Build(), VisitWish.Of(peel.Id))
            .PlanFeasible(_house.Day(), _house.Grain(10))
            .ShouldNotBeNull();

        _house.ClaimsOf(plan, ExampleHouse.Ana).ShouldBe(["10:00-10:20", "10:45-11:05"]);
        _house.ClaimsOf(plan, ExampleHouse.RoomA).ShouldBe(["10:00-11:10"]);

        _house.Taken.AddRange(plan.Claims.Select(claim => new TakenTime(claim.ResourceId, claim.Unit, claim.During, ExampleHouse.Here)));
        StartFinder finder = new(_house.Build(), VisitWish.Of(talk.Id));
        VisitPlan second = finder.PlanFeasible(_house.Day(), _house.Grain(10, 20)).ShouldNotBeNull();
        _house.ClaimsOf(second, ExampleHouse.Ana).ShouldBe(["10:20-10:45"]);
        _house.ClaimsOf(second, ExampleHouse.RoomB).ShouldBe(["10:20-10:40"]);
        finder.PlanFeasible(_house.Day(), _house.Grain(10, 25)).ShouldBeNull();

        _house.Rooms.RemoveAt(1);
        new StartFinder(_house.Build(), VisitWish.Of(talk.Id)).PlanFeasible(_house.Day(), _house.Grain(10, 20)).ShouldBeNull();
    }

    private VisitWish FacialThenBrow(bool always)
    {
        _house.Rooms[0] = _house.Rooms[0] with { TurnaroundMinutes = 10 };
        Service facial = _house.Change(
            _house.Add(40, "Facial 50", ExampleHouse.Attended(50)),
            service => service with { BufferAfterMinutes = 5, BufferAlways = always }
        );
        Service brow = _house.Change(
            _house.Add(41, "Brow shape 15", ExampleHouse.Attended(15)),
            service => service with { BufferAfterMinutes = 5, BufferAlways = always }
        );
        return new VisitWish([new LineWish(facial.Id), new LineWish(brow.Id)]);
    }

    [Fact]
    public void Example_4b_two_lines_by_one_practitioner_share_room_and_leave_the_buffer_between_out()
    {
        VisitWish wish = FacialThenBrow(always: false);
        VisitPlan plan = new StartFinder(_house.Build(), wish).PlanFeasible(_house.Day(), _house.Grain(10)).ShouldNotBeNull();
        plan.Lines.Select(line => _house.Clock(new Interval(line.Start, line.End))).ShouldBe(["10:00-10:50", "10:50-11:05"]);
        _house.ClaimsOf(plan, ExampleHouse.Ana).ShouldBe(["10:00-10:50", "10:50-11:10"]);
        _house.ClaimsOf(plan, ExampleHouse.RoomA).ShouldBe(["10:00-11:15"]);
    }

    [Fact]
    public void Example_4b_with_buffers_always_needs_a_wait_of_five_minutes()
    {
        VisitWish wish = FacialThenBrow(always: true);
        new StartFinder(_house.Build(), wish).PlanFeasible(_house.Day(), _house.Grain(10)).ShouldBeNull();
        _house.Location = _house.Location with { LongestWaitMinutes = 5 };
        VisitPlan plan = new StartFinder(_house.Build(), wish).PlanFeasible(_house.Day(), _house.Grain(10)).ShouldNotBeNull();
        _house.Clock(new Interval(plan.Lines[1].Start, plan.Lines[1].End)).ShouldBe("10:55-11:10");
        _house.ClaimsOf(plan, ExampleHouse.RoomA).ShouldBe(["10:00-11:20"]);
    }

    [Fact]
    public void Example_4b_with_buffers_always_and_no_wait_goes_on_with_another_practitioner()
    {
        _house.Practitioners.Add(new Practitioner { Id = ExampleHouse.Ben, Name = "Ben", Order = 1 });
        VisitWish wish = FacialThenBrow(always: true);
        VisitPlan plan = new StartFinder(_house.Build(), wish).PlanFeasible(_house.Day(), _house.Grain(10)).ShouldNotBeNull();
        plan.Lines.Select(line => line.Practitioners.Single()).ShouldBe([ExampleHouse.Ana, ExampleHouse.Ben]);
    }

    private VisitWish SixtyWithBooking()
    {
        Service service = _house.Change(_house.Add(40, "Sixty", ExampleHouse.Attended(60)), item => item with { BufferAfterMinutes = 15 });
        _house.Book(ExampleHouse.Ana, 11, 0, 12, 15);
        return VisitWish.Of(service.Id);
    }

    [Fact]
    public void Example_5a_starts_by_the_clock()
    {
        VisitWish wish = SixtyWithBooking();
        _house.Clock(new StartFinder(_house.Build(), wish).Offered(_house.Day(), Audience.Stranger, _longAgo)).ShouldBe(
            ["09:00", "09:30", "12:30", "13:00", "13:30", "14:00", "14:30", "15:00", "15:30"]);
    }

    [Theory]
    [InlineData(10, 0, ReasonCode.PractitionerTaken)]
    [InlineData(16, 0, ReasonCode.OffShift)]
    public void Example_5a_says_why_the_others_are_not_offered(int hour, int minute, ReasonCode because)
    {
        VisitWish wish = SixtyWithBooking();
        Refusal refusal = new StartFinder(_house.Build(), wish)
            .WhyNotOffered(_house.Day(), _house.Grain(hour, minute), Audience.Stranger, _longAgo).ShouldHaveSingleItem();
        refusal.Gate.ShouldBe(Gate.Practitioner);
        Reason reason = refusal.Reasons.ShouldHaveSingleItem();
        reason.Code.ShouldBe(because);
        reason.Subject.ShouldBe("Ana");
    }

    [Fact]
    public void Example_5b_strict_refuses_starts_that_leave_a_gap_nobody_can_use()
    {
        _house.Location = _house.Location with { Online = _house.Location.Online with { Gap = GapRule.Strict, ShortestGapMinutes = 45 } };
        VisitWish wish = SixtyWithBooking();
        StartFinder finder = new(_house.Build(), wish);
        _house
            .Clock(finder.Offered(_house.Day(), Audience.Stranger, _longAgo))
            .ShouldBe(["09:00", "13:00", "13:30", "14:00", "14:30", "15:00"]);
        foreach ((int hour, int minute) in new[] { (9, 30), (12, 30), (15, 30) })
        {
            Refusal refusal = finder
                .WhyNotOffered(_house.Day(), _house.Grain(hour, minute), Audience.Stranger, _longAgo)
                .ShouldHaveSingleItem();
            refusal.Gate.ShouldBe(Gate.Gap);
            refusal.Reasons.ShouldHaveSingleItem().ShouldSatisfyAllConditions(
                reason => reason.Code.ShouldBe(ReasonCode.LeavesGap),
                reason => reason.OwnerKind.ShouldBe(OwnerKind.Location),
                reason => reason.Value.ShouldBe("45"));
        }
    }

    [Fact]
    public void Prefer_offers_them_last_and_off_does_not_look()
    {
        VisitWish wish = SixtyWithBooking();
        _house.Location = _house.Location with { Online = _house.Location.Online with { Gap = GapRule.Prefer, ShortestGapMinutes = 45 } };
        OfferedStarts offered = new StartFinder(_house.Build(), wish).OfferedInOrder(_house.Day(), Audience.Stranger, _longAgo);
        _house.Clock(offered.Last).ShouldBe(["09:30", "12:30", "15:30"]);
        offered.Starts.Count.ShouldBe(9);
        _house.Location = _house.Location with { Online = _house.Location.Online with { Gap = GapRule.Off } };
        new StartFinder(_house.Build(), wish).OfferedInOrder(_house.Day(), Audience.Stranger, _longAgo).Last.IsEmpty.ShouldBeTrue();
    }

    [Fact]
    public void Strict_that_would_leave_nothing_in_a_day_does_what_prefer_does()
    {
        _house.Shift = Stretch.Between(9, 0, 10, 30);
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        _house.Location = _house.Location with
        {
            Online = _house.Location.Online with { EveryMinutes = 15, Gap = GapRule.Strict, ShortestGapMinutes = 45 },
        };
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        _house.Clock(finder.Offered(_house.Day(), Audience.Stranger, _longAgo)).ShouldBe(["09:00", "09:15", "09:30"]);
        finder.WhyNotOffered(_house.Day(), _house.Grain(9, 15), Audience.Stranger, _longAgo).ShouldBeEmpty();
    }

    [Fact]
    public void The_shortest_useful_gap_is_the_shortest_service_the_practitioner_performs()
    {
        _house.Location = _house.Location with { Online = _house.Location.Online with { Gap = GapRule.Strict } };
        VisitWish wish = SixtyWithBooking();
        _house
            .Clock(new StartFinder(_house.Build(), wish).Offered(_house.Day(), Audience.Stranger, _longAgo))
            .ShouldBe(["13:30", "14:00", "14:30"], "with 60 as the shortest");
        _house.Add(41, "Quarter", ExampleHouse.Attended(15));
        _house.Clock(new StartFinder(_house.Build(), wish).Offered(_house.Day(), Audience.Stranger, _longAgo)).Length.ShouldBe(9);
    }

    [Fact]
    public void Example_5c_back_to_back()
    {
        _house.Location = _house.Location with { Online = _house.Location.Online with { Grid = StartGrid.BackToBack } };
        VisitWish wish = SixtyWithBooking();
        _house.Clock(new StartFinder(_house.Build(), wish).Offered(_house.Day(), Audience.Stranger, _longAgo)).ShouldBe(
            ["09:00", "12:15", "13:30", "14:45"]);
    }

    [Theory]
    [InlineData(2027, 3, 28, 84)]
    [InlineData(2027, 3, 27, 96)]
    [InlineData(2027, 10, 31, 108)]
    public void Example_5d_a_shift_to_eight_o_clock_has_fewer_grains_when_the_clocks_go_forward(int year, int month, int day, int grains)
    {
        _house.Shift = Stretch.Between(0, 0, 8, 0);
        DayBook book = _house.Day(new LocalDate(year, month, day));
        (book.OnShift(ExampleHouse.Ana) & DaySet.Range(0, 150)).Count.ShouldBe(grains);
    }

    [Fact]
    public void Each_gate_says_why_in_order()
    {
        Service patch = _house.Add(41, "Patch test", ExampleHouse.Attended(15));
        Service laser = _house.Change(_house.Add(40, "Laser", ExampleHouse.Attended(60)), service => service with
        {
            Prerequisite = new Prerequisite(patch.Id, 48, 180),
            Weekdays = new HashSet<IsoDayOfWeek> { IsoDayOfWeek.Friday },
            Terms = new Dictionary<Guid, PractitionerTerms> { [ExampleHouse.Ana] = new(AcceptsNewClients: false) },
            Room = new RoomRule(new HashSet<string> { "laser-safe" }),
        });
        IReadOnlyList<Refusal> refusals = new StartFinder(_house.Build(), VisitWish.Of(laser.Id))
            .WhyNotOffered(_house.Day(), _house.Grain(19, 35), Audience.Stranger, _longAgo);
        refusals.Select(refusal => (refusal.Gate, refusal.Reasons[0].Code)).ShouldBe(
        [
            (Gate.Client, ReasonCode.NoNewClients),
            (Gate.Service, ReasonCode.PrerequisiteMissing),
            (Gate.Date, ReasonCode.NotThatWeekday),
            (Gate.OpeningHours, ReasonCode.OutsideOpeningHours),
            (Gate.StartGrid, ReasonCode.OffGrid),
            (Gate.Practitioner, ReasonCode.OffShift),
            (Gate.RoomAndEquipment, ReasonCode.NoSuchRoom),
        ]);
    }

    [Theory]
    [InlineData(47, false)]
    [InlineData(48, true)]
    [InlineData(180 * 24, true)]
    [InlineData((180 * 24) + 1, false)]
    public void A_prerequisite_counts_inside_its_window_both_ends_included(int hoursBefore, bool offered)
    {
        Service patch = _house.Add(41, "Patch test", ExampleHouse.Attended(15));
        Service laser = _house.Change(
            _house.Add(40, "Laser", ExampleHouse.Attended(60)),
            service => service with { Prerequisite = new Prerequisite(patch.Id, 48, 180) }
        );
        Instant start = _house.At(12, 0, 13, 0).Start;
        Audience audience = new() { Visits = [new EarlierVisit(patch.Id, start - Duration.FromHours(hoursBefore))] };
        new StartFinder(_house.Build(), VisitWish.Of(laser.Id))
            .Offered(_house.Day(), audience, _longAgo)
            .Contains(_house.Grain(12))
            .ShouldBe(offered);
    }

    [Fact]
    public void Lead_time_and_horizon_bound_what_is_offered_and_not_what_staff_may_book()
    {
        _house.Location = _house.Location with { Online = _house.Location.Online with { LeadMinutes = 120, HorizonDays = 0 } };
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        Instant tenOClock = _house.At(10, 0, 11, 0).Start;
        _house.Clock(finder.Offered(_house.Day(), Audience.Stranger, tenOClock))[0].ShouldBe("12:00");
        finder.Offered(_house.Day(), Audience.Stranger, tenOClock - Duration.FromDays(1)).IsEmpty.ShouldBeTrue();
        _house.Clock(finder.Feasible(_house.Day()))[0].ShouldBe("09:00");
    }

    [Fact]
    public void What_is_set_at_the_client_goes_before_service_category_and_location()
    {
        _house.Location = _house.Location with { Online = _house.Location.Online with { LeadMinutes = 120, HorizonDays = 0 } };
        Service service = _house.Change(
            _house.Add(40, "Sixty", ExampleHouse.Attended(60)),
            item =>
                item with
                {
                    Online = new OnlineRules { LeadMinutes = 60, NewLeadMinutes = 240 },
                }
        );
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        Instant tenOClock = _house.At(10, 0, 11, 0).Start, dayBefore = tenOClock - Duration.FromDays(1);
        Audience own = new() { IsNew = true, Own = new OnlineRules { LeadMinutes = 0, HorizonDays = 1 } };
        _house.Clock(finder.Offered(_house.Day(), own with { Own = null }, tenOClock))[0].ShouldBe("14:00");
        _house.Clock(finder.Offered(_house.Day(), own, tenOClock))[0].ShouldBe("10:00");
        finder.Offered(_house.Day(), own with { Own = null }, dayBefore).IsEmpty.ShouldBeTrue();
        finder.Offered(_house.Day(), own, dayBefore).IsEmpty.ShouldBeFalse();
        // And it is named as the cause: a long lead set at her, with the client as its owner.
        Reason reason = finder
            .WhyNotOffered(_house.Day(), _house.Grain(14), own with { Own = new OnlineRules { LeadMinutes = 720 } }, tenOClock)
            .Single(refusal => refusal.Gate == Gate.Date)
            .Reasons.Single(item => item.Code == ReasonCode.TooSoon);
        (reason.OwnerKind, reason.Value).ShouldBe((OwnerKind.Client, "720"));
    }

    [Fact]
    public void A_business_that_is_not_online_offers_nothing_and_staff_still_book()
    {
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        DayBook day = _house.Day();
        House house = _house.Build();
        House off = new(house.Location, house.Practitioners, house.Rooms, house.Pools, house.Services.Values, house.Rotas)
        {
            BusinessIsOnline = false,
        };
        StartFinder finder = new(off, VisitWish.Of(service.Id));
        finder.Offered(day, Audience.Stranger, _longAgo).IsEmpty.ShouldBeTrue();
        finder
            .WhyNotOffered(day, _house.Grain(10), Audience.Stranger, _longAgo)
            .Single()
            .Reasons.Single()
            .Code.ShouldBe(ReasonCode.BusinessNotOnline);
        finder.Feasible(day).ShouldBe(new StartFinder(house, VisitWish.Of(service.Id)).Feasible(day));
        new StartFinder(off.With(service with { Name = "Other" }), VisitWish.Of(service.Id))
            .Offered(day, Audience.Stranger, _longAgo)
            .IsEmpty.ShouldBeTrue();
    }

    [Fact]
    public void A_location_without_new_clients_offers_them_nothing_and_others_everything()
    {
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        int before = new StartFinder(_house.Build(), VisitWish.Of(service.Id)).Offered(_house.Day(), Audience.Stranger, _longAgo).Count;
        _house.Location = _house.Location with { AcceptsNewClients = false };
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        finder.Offered(_house.Day(), Audience.Stranger, _longAgo).IsEmpty.ShouldBeTrue();
        finder.Offered(_house.Day(), new Audience(), _longAgo).Count.ShouldBe(before);
        Reason reason = finder
            .WhyNotOffered(_house.Day(), _house.Grain(10), Audience.Stranger, _longAgo)
            .ShouldHaveSingleItem()
            .Reasons.ShouldHaveSingleItem();
        (reason.Gate, reason.Code, reason.OwnerKind, reason.OwnerId).ShouldBe(
            (Gate.Client, ReasonCode.LocationNoNewClients, OwnerKind.Location, ExampleHouse.Here)
        );
    }
}
