using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Rooms;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>Who takes a visit when nobody chose (rules, section 6), and what bounds a day (gate 6).</summary>
public sealed class AssignmentRules
{
    private static readonly Instant _longAgo = Instant.FromUtc(2027, 5, 1, 0, 0);
    private readonly ExampleHouse _house = new();

    private VisitWish Sixty(Assignment assignment, GapRule gap = GapRule.Off)
    {
        _house.Practitioners.Add(
            new Practitioner
            {
                Id = ExampleHouse.Ben,
                Name = "Ben",
                Order = 1,
            }
        );
        _house.Rooms.Add(
            new Room
            {
                Id = ExampleHouse.RoomB,
                Name = "B",
                Order = 1,
            }
        );
        _house.Location = _house.Location with
        {
            Online = _house.Location.Online with { Assignment = assignment, Gap = gap, ShortestGapMinutes = 45 },
        };
        return VisitWish.Of(_house.Add(40, "Sixty", ExampleHouse.Attended(60)).Id);
    }

    private Guid LeadAt(VisitWish wish, int hour, int minute, params (Guid Who, int Minutes)[] week) =>
        new StartFinder(_house.Build(), wish)
            .PlanFeasible(
                _house.Day(),
                _house.Grain(hour, minute),
                new WeekLoad(week.ToDictionary(pair => pair.Who, pair => pair.Minutes))
            )!
            .Lines[0]
            .Practitioners[0];

    [Fact]
    public void House_order_takes_the_first_who_is_free()
    {
        VisitWish wish = Sixty(Assignment.HouseOrder);
        LeadAt(wish, 10, 0, (ExampleHouse.Ana, 600)).ShouldBe(ExampleHouse.Ana);
        _house.Book(ExampleHouse.Ana, 10, 0, 11, 0);
        LeadAt(wish, 10, 30).ShouldBe(ExampleHouse.Ben);
    }

    [Fact]
    public void Even_load_takes_whoever_has_the_least_of_the_week_then_of_the_day_then_house_order()
    {
        VisitWish wish = Sixty(Assignment.EvenLoad);
        LeadAt(wish, 10, 0, (ExampleHouse.Ana, 120), (ExampleHouse.Ben, 60)).ShouldBe(ExampleHouse.Ben);
        LeadAt(wish, 10, 0, (ExampleHouse.Ana, 60), (ExampleHouse.Ben, 60)).ShouldBe(ExampleHouse.Ana);
        _house.Book(ExampleHouse.Ana, 15, 0, 16, 0);
        LeadAt(wish, 10, 0, (ExampleHouse.Ana, 60), (ExampleHouse.Ben, 60)).ShouldBe(ExampleHouse.Ben);
    }

    [Fact]
    public void Tight_fit_takes_whoever_is_left_with_the_least_gap_nobody_can_use()
    {
        VisitWish wish = Sixty(Assignment.TightFit);
        // At 10:00 Ana would keep 30 useless minutes until 11:30; Ben's hour ends where his next begins.
        _house.Book(ExampleHouse.Ana, 11, 30, 12, 0);
        _house.Book(ExampleHouse.Ben, 11, 0, 12, 0);
        LeadAt(wish, 10, 0, (ExampleHouse.Ana, 0), (ExampleHouse.Ben, 600)).ShouldBe(ExampleHouse.Ben);
        // At 10:30 it is the other way round.
        _house.Taken.Clear();
        _house.Book(ExampleHouse.Ana, 11, 30, 12, 0);
        _house.Book(ExampleHouse.Ben, 12, 0, 13, 0);
        LeadAt(wish, 10, 30, (ExampleHouse.Ana, 600)).ShouldBe(ExampleHouse.Ana);
        // No gap either way: the lighter week.
        LeadAt(wish, 14, 0, (ExampleHouse.Ana, 600)).ShouldBe(ExampleHouse.Ben);
    }

    [Fact]
    public void The_load_of_a_week_counts_what_begins_on_each_day_once()
    {
        _house.Book(ExampleHouse.Ana, 9, 0, 10, 0);
        List<DayBook> week = [.. Enumerable.Range(-2, 7).Select(offset => _house.Day(ExampleHouse.Date.PlusDays(offset)))];
        WeekLoad.Of(week).Minutes[ExampleHouse.Ana].ShouldBe(60);
    }

    [Fact]
    public void The_load_of_a_week_is_the_same_from_its_days_and_from_what_is_held_around_it()
    {
        BookDay monday = new(new LocalDate(2027, 5, 31), _house.Location.Zone), sunday = new(monday.Date.PlusDays(6), monday.Zone);
        Guid visit = Worlds.Id(90);
        void Take(Guid? occupation, Instant from, int minutes, int unit = 0) =>
            _house.Taken.Add(
                new TakenTime(
                    ExampleHouse.Ana,
                    unit,
                    new Interval(from, from + Duration.FromMinutes(minutes)),
                    ExampleHouse.Here,
                    occupation
                )
            );
        // Over both ends of the week, at its first and last moment, with all units of a person, in two stretches of one line.
        Take(visit, monday.Start - Duration.FromMinutes(30), 60);
        Take(Worlds.Id(91), monday.Start, 25);
        Take(Worlds.Id(92), monday.Start + Duration.FromHours(34), 40);
        Take(Worlds.Id(92), monday.Start + Duration.FromHours(34), 40, unit: 1);
        Take(Worlds.Id(92), monday.Start + Duration.FromHours(36), 10);
        Take(Worlds.Id(93), sunday.End - Duration.FromMinutes(5), 300);
        Take(Worlds.Id(94), sunday.End, 45);
        WeekLoad held = WeekLoad.Of(_house.Taken, new Interval(monday.Start, sunday.End));
        held.Minutes[ExampleHouse.Ana].ShouldBe(25 + 40 + 10 + 300);
        WeekLoad.Of(Enumerable.Range(0, 7).Select(offset => _house.Day(monday.Date.PlusDays(offset)))).Minutes.ShouldBe(held.Minutes);
    }

    [Fact]
    public void Nobody_is_assigned_by_load_where_the_house_has_an_order_or_nobody_is_left_to_choose()
    {
        VisitWish wish = Sixty(Assignment.EvenLoad);
        IReadOnlyCollection<Guid> Assigned(VisitWish asked) =>
            new StartFinder(_house.Build(), asked).AssignedByLoadOn(ExampleHouse.Date);
        Assigned(wish).ShouldBe([ExampleHouse.Ana, ExampleHouse.Ben], ignoreOrder: true);
        Assigned(wish with { Lines = [.. wish.Lines.Select(line => line with { PractitionerId = ExampleHouse.Ben })] }).ShouldBeEmpty();
        _house.Location = _house.Location with { Online = _house.Location.Online with { Assignment = Assignment.HouseOrder } };
        Assigned(wish).ShouldBeEmpty();
    }

    private string[] OfferedWith(DailyLimits limits)
    {
        _house.Practitioners[0] = _house.Practitioners[0] with { Limits = limits };
        Service service =
            _house.Services.Count > 0
                ? _house.Services[0]
                : _house.Change(
                    _house.Add(40, "Sixty", ExampleHouse.Attended(60)),
                    item => item with { BufferAfterMinutes = 15, CategoryId = Worlds.Id(50) }
                );
        _house.Taken.Clear();
        _house.Taken.Add(new TakenTime(ExampleHouse.Ana, 0, _house.At(9, 0, 10, 15), ExampleHouse.Here, Worlds.Id(90), service.Id));
        return _house.Clock(new StartFinder(_house.Build(), VisitWish.Of(service.Id)).Offered(_house.Day(), new Audience(), _longAgo));
    }

    [Fact]
    public void Daily_limits_bound_clients_by_appointments_minutes_and_category_and_staff_not_at_all()
    {
        OfferedWith(new DailyLimits()).ShouldNotBeEmpty();
        OfferedWith(new DailyLimits { Appointments = 2 }).ShouldNotBeEmpty();
        OfferedWith(new DailyLimits { Appointments = 1 }).ShouldBeEmpty();
        OfferedWith(new DailyLimits { Minutes = 150 }).ShouldNotBeEmpty();
        OfferedWith(new DailyLimits { Minutes = 145 }).ShouldBeEmpty();
        OfferedWith(new DailyLimits { PerCategory = new Dictionary<Guid, int> { [Worlds.Id(51)] = 0 } }).ShouldNotBeEmpty();
        OfferedWith(new DailyLimits { PerCategory = new Dictionary<Guid, int> { [Worlds.Id(50)] = 1 } }).ShouldBeEmpty();
        StartFinder finder = new(_house.Build(), VisitWish.Of(_house.Services[0].Id));
        finder.Feasible(_house.Day()).IsEmpty.ShouldBeFalse();
        Reason reason = finder
            .WhyNotOffered(_house.Day(), _house.Grain(12), new Audience(), _longAgo)
            .ShouldHaveSingleItem()
            .Reasons.ShouldHaveSingleItem();
        (reason.Code, reason.OwnerKind, reason.OwnerId).ShouldBe((ReasonCode.DailyLimit, OwnerKind.Practitioner, ExampleHouse.Ana));
    }

    [Fact]
    public void A_client_who_did_not_come_too_often_is_refused_or_waits_for_approval()
    {
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        Instant now = _house.At(8, 0, 9, 0).Start;
        Audience twice = new() { Missed = [now - Duration.FromDays(10), now - Duration.FromDays(80)] };
        StartFinder With(NoShowAction action, int times)
        {
            _house.Location = _house.Location with { NoShowLimit = new NoShowLimit(times, 3, action) };
            return new StartFinder(_house.Build(), VisitWish.Of(service.Id));
        }

        With(NoShowAction.Refuse, 2).Offered(_house.Day(), twice, now).IsEmpty.ShouldBeTrue();
        With(NoShowAction.Refuse, 3).Offered(_house.Day(), twice, now).IsEmpty.ShouldBeFalse();
        With(NoShowAction.Refuse, 2)
            .Offered(_house.Day(), twice with { Missed = [now - Duration.FromDays(10), now - Duration.FromDays(100)] }, now)
            .IsEmpty.ShouldBeFalse();
        With(NoShowAction.Approve, 2).Offered(_house.Day(), twice, now).IsEmpty.ShouldBeFalse();
        With(NoShowAction.Approve, 2).NeedsApproval(_house.Day(), twice, now).ShouldBeTrue();
        With(NoShowAction.Approve, 3).NeedsApproval(_house.Day(), twice, now).ShouldBeFalse();
    }

    [Fact]
    public void A_practitioner_may_want_to_be_asked_and_whoever_gives_nothing_before_may_have_to_ask()
    {
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        Instant now = _house.At(8, 0, 9, 0).Start;
        bool Asks(bool paysLater)
        {
            StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
            VisitPlan plan = finder.PlanOffered(_house.Day(), _house.Grain(12), new Audience(), now)!;
            return finder.NeedsApproval(_house.Day(), new Audience(), now, plan, paysLater);
        }

        Asks(paysLater: true).ShouldBeFalse();
        Location before = _house.Location;
        _house.Location = before with { Online = before.Online with { Approval = Approval.PayLater } };
        Asks(paysLater: true).ShouldBeTrue();
        Asks(paysLater: false).ShouldBeFalse();
        _house.Location = before;
        _house.Practitioners[0] = _house.Practitioners[0] with { NeedsApproval = true };
        Asks(paysLater: false).ShouldBeTrue();
    }

    [Fact]
    public void Rules_come_from_the_most_specific_place_that_sets_them_and_say_which()
    {
        Category category = new()
        {
            Id = Worlds.Id(50),
            Name = "Skin",
            Online = new OnlineRules { LeadMinutes = 60, NewHorizonDays = 5 },
        };
        Service service = new()
        {
            Id = Worlds.Id(40),
            Name = "Peel",
            CategoryId = category.Id,
            Phases = [ExampleHouse.Attended(30)],
            Roles = [new StaffRule()],
            Online = new OnlineRules { HorizonDays = 20, Gap = GapRule.Strict },
        };
        EffectiveRules rules = new(
            _house.Location with
            {
                Online = new OnlineRules
                {
                    LeadMinutes = 500,
                    NewLeadMinutes = 700,
                    Assignment = Assignment.TightFit,
                },
            },
            category,
            service
        );
        rules.Values.LeadMinutesFor(isNew: false).ShouldBe(60);
        // The category sets a lead for everyone, so the location's for new clients no longer counts.
        rules.Values.LeadMinutesFor(isNew: true).ShouldBe(60);
        rules.Values.HorizonDaysFor(isNew: true).ShouldBe(20);
        rules.SourceOf(own => own.LeadMinutes is not null).ShouldBe((RulePlace.Category, category.Id));
        rules.SourceOf(own => own.Gap is not null).ShouldBe((RulePlace.Service, service.Id));
        rules.SourceOf(own => own.Assignment is not null).ShouldBe((RulePlace.Location, ExampleHouse.Here));
        rules.SourceOf(own => own.Approval is not null).ShouldBe((RulePlace.Usual, null));
    }
}
