using Kingcup.Core.Availability;
using Kingcup.Core.Business;
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

/// <summary>
/// What <em>Why not?</em> names (rules, section 5): everything at the first gate, not the first thing at it, so that an owner who mends
/// one is not told of the next tomorrow.
/// </summary>
public sealed class ReasonExamples
{
    private static readonly Instant _now = Instant.FromUtc(2027, 5, 10, 6, 0);
    private static readonly Audience _new = new() { IsNew = true };
    private readonly ExampleHouse _house = new();

    private Service Sixty(int number = 40) => _house.Add(number, $"Sixty {number}", ExampleHouse.Attended(60));

    private IReadOnlyList<Reason> First(VisitWish wish, int hour, Audience? audience = null, Instant? now = null) =>
        new StartFinder(_house.Build(), wish).WhyNotOffered(_house.Day(), _house.Grain(hour), audience ?? _new, now ?? _now)[0].Reasons;

    private static ReasonCode[] Codes(IReadOnlyList<Reason> reasons) => [.. reasons.Select(reason => reason.Code)];

    private void OpenAllDay() =>
        _house.Location = _house.Location with
        {
            Opening = [.. Enumerable.Range(1, 7).Select(day => new OpeningHours((IsoDayOfWeek)day, Stretch.Between(0, 0, 24, 0)))],
        };

    [Fact]
    public void Everything_that_keeps_a_client_from_booking_is_named_at_once()
    {
        Service service = Sixty();
        _house.Location = _house.Location with
        {
            BookableOnline = false,
            AcceptsNewClients = false,
            NoShowLimit = new NoShowLimit(1, 6, NoShowAction.Refuse),
        };
        Audience audience = _new with { MayBookOnline = false, Missed = [_now - Duration.FromDays(3)] };
        Codes(First(VisitWish.Of(service.Id), 10, audience))
            .ShouldBe([
                ReasonCode.LocationNotOnline,
                ReasonCode.LocationNoNewClients,
                ReasonCode.ClientNotOnline,
                ReasonCode.TooManyNoShows,
            ]);
    }

    [Fact]
    public void Somebody_who_takes_nobody_online_is_named_beside_what_the_location_says()
    {
        Service service = Sixty();
        _house.Location = _house.Location with { BookableOnline = false };
        _house.Practitioners[0] = _house.Practitioners[0] with { BookableOnline = false, AcceptsNewClients = false };
        IReadOnlyList<Reason> reasons = First(VisitWish.Of(service.Id), 10);
        Codes(reasons).ShouldBe([ReasonCode.LocationNotOnline, ReasonCode.PractitionerNotOnline, ReasonCode.NoNewClients]);
        reasons[1].Subject.ShouldBe("Ana");
    }

    [Fact]
    public void Of_two_services_each_has_its_own_lead_time_and_its_own_horizon()
    {
        Service soon = _house.Change(
            Sixty(),
            item =>
                item with
                {
                    Online = new OnlineRules { LeadMinutes = 4 * 24 * 60, HorizonDays = 1 },
                }
        );
        Service sooner = _house.Change(
            Sixty(41),
            item =>
                item with
                {
                    Online = new OnlineRules { LeadMinutes = 3 * 24 * 60, HorizonDays = 0 },
                }
        );
        IReadOnlyList<Reason> reasons = First(new VisitWish([new LineWish(soon.Id), new LineWish(sooner.Id)]), 10);
        Codes(reasons).ShouldBe([ReasonCode.TooFarAhead, ReasonCode.TooFarAhead, ReasonCode.TooSoon, ReasonCode.TooSoon]);
        // The nearest horizon and the longest lead time first: they are the last to be kept.
        reasons.Select(reason => reason.OwnerId).ShouldBe([sooner.Id, soon.Id, soon.Id, sooner.Id]);
        reasons.Select(reason => reason.Value).ShouldBe(["0", "1", $"{4 * 24 * 60}", $"{3 * 24 * 60}"]);
    }

    [Fact]
    public void A_service_out_of_season_on_the_wrong_weekday_of_a_stopped_day_says_all_three()
    {
        Service service = _house.Change(
            Sixty(),
            item =>
                item with
                {
                    Weekdays = new HashSet<IsoDayOfWeek> { ExampleHouse.Date.PlusDays(1).DayOfWeek },
                    Season = new Season(new AnnualDate(11, 1), new AnnualDate(12, 31)),
                }
        );
        _house.Stops.Add(new OnlineStop(ExampleHouse.Here, ExampleHouse.Date, "party"));
        Codes(First(VisitWish.Of(service.Id), 10)).ShouldBe([ReasonCode.StoppedOnline, ReasonCode.NotThatWeekday, ReasonCode.OutOfSeason]);
    }

    [Fact]
    public void On_a_closed_day_the_closure_is_named_and_the_hours_only_where_they_are_in_the_way_too()
    {
        Service service = Sixty();
        _house.Closures.Add(new Closure(ExampleHouse.Here, ExampleHouse.Date, false, "boiler"));
        Codes(First(VisitWish.Of(service.Id), 10)).ShouldBe([ReasonCode.LocationClosed]);
        IReadOnlyList<Reason> night = First(VisitWish.Of(service.Id), 3);
        Codes(night).ShouldBe([ReasonCode.LocationClosed, ReasonCode.OutsideOpeningHours]);
        night[0].Value.ShouldBe("boiler");
    }

    [Fact]
    public void A_visit_into_a_closed_day_names_that_closure_and_not_the_shift()
    {
        OpenAllDay();
        _house.Shift = Stretch.Between(0, 0, 24, 0);
        Service service = _house.Change(Sixty(), item => item with { BufferAfterMinutes = 30 });
        _house.Closures.Add(new Closure(ExampleHouse.Here, ExampleHouse.Date.PlusDays(1), false, "feast"));
        // Until midnight the client is there; only the buffer after reaches into the closed day.
        Reason reason = First(VisitWish.Of(service.Id), 23).ShouldHaveSingleItem();
        (reason.Gate, reason.Code, reason.OwnerKind, reason.Value).ShouldBe(
            (Gate.Practitioner, ReasonCode.LocationClosed, OwnerKind.Location, "feast")
        );
    }

    [Fact]
    public void A_service_that_is_done_elsewhere_says_so_beside_who_is_taken_here()
    {
        Service service = _house.Change(Sixty(), item => item with { Locations = new HashSet<Guid> { Worlds.Id(2) } });
        _house.Book(ExampleHouse.Ana, 10, 0, 11, 0);
        Codes(First(VisitWish.Of(service.Id), 10)).ShouldBe([ReasonCode.ServiceNotHere, ReasonCode.PractitionerTaken]);
        Codes(First(VisitWish.Of(service.Id), 12)).ShouldBe([ReasonCode.ServiceNotHere]);
    }

    [Fact]
    public void Somebody_chosen_who_may_not_do_it_is_also_said_to_be_off()
    {
        Service service = _house.Change(
            Sixty(),
            item => item with { Roles = [new StaffRule { Excluded = new HashSet<Guid> { ExampleHouse.Ana } }] }
        );
        VisitWish wish = new([new LineWish(service.Id, ExampleHouse.Ana, 0)]);
        IReadOnlyList<Refusal> refusals = new StartFinder(_house.Build(), wish).WhyNotFeasible(_house.Day(), _house.Grain(22));
        Codes(refusals[0].Reasons).ShouldBe([ReasonCode.NotChosenForService, ReasonCode.OffShift]);
        Codes(new StartFinder(_house.Build(), wish).WhyNotFeasible(_house.Day(), _house.Grain(10))[0].Reasons)
            .ShouldBe([ReasonCode.NotChosenForService]);
    }

    [Fact]
    public void Where_what_is_named_is_not_all_no_combination_is_said_besides()
    {
        // Two people at once want a room each, and there is one, which is taken as well.
        _house.Practitioners.Add(
            new Practitioner
            {
                Id = ExampleHouse.Ben,
                Name = "Ben",
                Order = 1,
            }
        );
        Service service = _house.Change(Sixty(), item => item with { Room = new RoomRule(new HashSet<string>()) });
        VisitWish together = new([new LineWish(service.Id), new LineWish(service.Id) { Person = 1 }]);
        foreach (Room room in _house.Rooms.Skip(1).ToList())
            _house.Rooms.Remove(room);
        _house.Book(_house.Rooms[0].Id, 10, 0, 11, 0);
        ReasonCode[] codes = Codes(First(together, 10));
        codes.ShouldContain(ReasonCode.RoomTaken);
        codes.ShouldContain(ReasonCode.NoCombination);
        // One alone has only the visit in the way.
        Codes(First(VisitWish.Of(service.Id), 10)).ShouldBe([ReasonCode.RoomTaken]);
    }

    [Fact]
    public void A_gate_that_lets_a_start_pass_names_nothing()
    {
        Service service = Sixty();
        StartFinder finder = new(_house.Build(), VisitWish.Of(service.Id));
        DaySet offered = finder.Offered(_house.Day(), _new, _now);
        offered.IsEmpty.ShouldBeFalse();
        foreach (int start in offered)
            finder.WhyNotOffered(_house.Day(), start, _new, _now).ShouldBeEmpty();
    }
}
