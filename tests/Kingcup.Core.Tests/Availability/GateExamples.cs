using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Tests.Reference;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>The edges of gates 1 to 3 (rules, section 5): months of no-shows, windows of what comes first, lead time and horizon.</summary>
public sealed class GateExamples
{
    // Nine o'clock on the morning of the day before the day of the examples.
    private static readonly Instant _now = Instant.FromUtc(2027, 5, 11, 8, 0);
    private readonly ExampleHouse _house = new();

    private Service Sixty(Func<Service, Service>? change = null)
    {
        Service service = _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        return change is null ? service : _house.Change(service, change);
    }

    private string[] Offered(Service service, Audience audience, Instant? now = null, LocalDate? date = null) =>
        _house.Clock(new StartFinder(_house.Build(), VisitWish.Of(service.Id)).Offered(_house.Day(date), audience, now ?? _now));

    private static Audience Missed(params Instant[] when) => new() { Missed = when };

    private static Instant Local(int year, int month, int day, int hour, int minute = 0) =>
        new LocalDateTime(year, month, day, hour, minute).InZoneStrictly(DateTimeZoneProviders.Tzdb["Europe/Dublin"]).ToInstant();

    [Fact]
    public void So_many_missed_visits_in_so_many_months_refuse_and_older_ones_are_forgotten()
    {
        Service service = Sixty();
        _house.Location = _house.Location with { NoShowLimit = new NoShowLimit(2, 3, NoShowAction.Refuse) };
        // Three months back from the eleventh of May is the whole of the eleventh of February.
        Instant first = Local(2027, 2, 11, 0), before = Local(2027, 2, 10, 23, 59), late = Local(2027, 5, 1, 10);
        Offered(service, Missed(late)).ShouldNotBeEmpty();
        Offered(service, Missed(first, late)).ShouldBeEmpty();
        Offered(service, Missed(before, late)).ShouldNotBeEmpty();
        // What lies ahead is not missed yet.
        Offered(service, Missed(late, _now + Duration.FromHours(1))).ShouldNotBeEmpty();
    }

    /// <summary>Online booking is stopped for one practitioner and part of a day: for clients only, and said as what it is.</summary>
    [Fact]
    public void Time_stopped_online_is_taken_for_clients_and_free_for_the_desk()
    {
        Service service = Sixty();
        string[] before = Offered(service, Audience.Stranger);
        _house.Blocked.Add(
            new BlockedTime(ExampleHouse.Ana, _house.At(10, 0, 12, 0), "No online booking") { Kind = BlockKind.Online });
        string[] stopped = ["09:30", "10:00", "10:30", "11:00", "11:30"];
        Offered(service, Audience.Stranger).ShouldBe(before.Except(stopped));
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        DayBook day = _house.Day();
        finder.Feasible(day).Contains(_house.Grain(11)).ShouldBeTrue();
        finder.PlanFeasible(day, _house.Grain(11)).ShouldNotBeNull();
        finder.PlanOffered(day, _house.Grain(11), Audience.Stranger, _now).ShouldBeNull();
        Reason reason = finder.WhyNotOffered(day, _house.Grain(11), Audience.Stranger, _now).ShouldHaveSingleItem()
            .Reasons.ShouldHaveSingleItem();
        (reason.Code, reason.Value).ShouldBe((ReasonCode.PractitionerBlocked, "No online booking"));
        finder.WhyNotFeasible(day, _house.Grain(11)).ShouldBeEmpty();
    }

    [Fact]
    public void A_limit_that_asks_for_approval_refuses_nothing_and_asks()
    {
        Service service = Sixty();
        _house.Location = _house.Location with { NoShowLimit = new NoShowLimit(1, 3, NoShowAction.Approve) };
        Audience missed = Missed(Local(2027, 5, 1, 10));
        Offered(service, missed).ShouldNotBeEmpty();
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        finder.NeedsApproval(_house.Day(), missed, _now).ShouldBeTrue();
        finder.NeedsApproval(_house.Day(), Missed(), _now).ShouldBeFalse();
    }

    [Fact]
    public void What_comes_first_counts_from_its_end_to_the_minute_at_both_ends()
    {
        Service service = Sixty(item => item with { Prerequisite = new Prerequisite(Worlds.Id(41), 24, 2) });
        Audience After(Instant end, bool isDone = true) => new() { Visits = [new EarlierVisit(Worlds.Id(41), end, isDone)] };
        Offered(service, new Audience()).ShouldBeEmpty();
        // Ended at noon the day before: from noon on.
        Offered(service, After(Local(2027, 5, 11, 12)))[0].ShouldBe("12:00");
        Offered(service, After(Local(2027, 5, 11, 12, 1)))[0].ShouldBe("12:30");
        // Ended at noon two days before: until noon and not after.
        Offered(service, After(Local(2027, 5, 10, 12)))[^1].ShouldBe("12:00");
        Offered(service, After(Local(2027, 5, 10, 11, 59)))[^1].ShouldBe("11:30");
        // Booked and still ahead it counts; past and not marked as done it does not.
        Offered(service, After(Local(2027, 5, 11, 12), isDone: false)).ShouldNotBeEmpty();
        Offered(service, After(Local(2027, 5, 11, 8), isDone: false)).ShouldBeEmpty();
        Offered(service, new Audience { Visits = [new EarlierVisit(Worlds.Id(42), Local(2027, 5, 11, 12))] }).ShouldBeEmpty();
    }

    [Fact]
    public void Lead_time_ends_on_the_minute_and_new_clients_may_have_their_own()
    {
        Service service = Sixty(item => item with { Online = new OnlineRules { LeadMinutes = 25 * 60, NewLeadMinutes = 27 * 60 } });
        Offered(service, new Audience())[0].ShouldBe("10:00");
        Offered(service, new Audience { IsNew = true })[0].ShouldBe("12:00");
        Offered(service, new Audience(), _now + Duration.FromMinutes(1))[0].ShouldBe("10:30");
    }

    [Fact]
    public void The_horizon_counts_local_dates_whatever_the_hour()
    {
        Service service = Sixty(item => item with { Online = new OnlineRules { HorizonDays = 1 } });
        Offered(service, new Audience(), Local(2027, 5, 11, 0)).ShouldNotBeEmpty();
        Offered(service, new Audience(), Local(2027, 5, 11, 23, 59)).ShouldNotBeEmpty();
        // A minute before midnight in Dublin, which is the evening of the tenth there and nearly the eleventh elsewhere.
        Offered(service, new Audience(), Local(2027, 5, 10, 23, 59)).ShouldBeEmpty();
    }

    [Fact]
    public void A_client_with_rules_of_their_own_is_bound_by_those_before_any_other()
    {
        Service service = Sixty(item => item with { Online = new OnlineRules { LeadMinutes = 0, HorizonDays = 60 } });
        Offered(service, new Audience { Own = new OnlineRules { LeadMinutes = 27 * 60 } })[0].ShouldBe("12:00");
        Offered(service, new Audience { Own = new OnlineRules { HorizonDays = 0 } }).ShouldBeEmpty();
    }

    [Fact]
    public void Whoever_takes_no_new_clients_takes_those_they_know_and_a_service_may_say_otherwise_of_one()
    {
        Service service = Sixty();
        _house.Practitioners[0] = _house.Practitioners[0] with { AcceptsNewClients = false };
        Offered(service, new Audience { IsNew = true }).ShouldBeEmpty();
        Offered(service, new Audience()).ShouldNotBeEmpty();
        _house.Practitioners[0] = _house.Practitioners[0] with { AcceptsNewClients = true };
        service = _house.Change(service, item => item with
        {
            Terms = new Dictionary<Guid, PractitionerTerms> { [ExampleHouse.Ana] = new(AcceptsNewClients: false) },
        });
        Offered(service, new Audience { IsNew = true }).ShouldBeEmpty();
    }
}
