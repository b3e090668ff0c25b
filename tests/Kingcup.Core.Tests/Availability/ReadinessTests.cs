using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Availability;

/// <summary>What stops a service, and which visits lose their place.</summary>
public sealed class ReadinessTests
{
    private static readonly Guid _certificate = Worlds.Id(3);
    private readonly ExampleHouse _house = new();
    private readonly Instant _now = Instant.FromUtc(2027, 5, 12, 6, 0);

    private ReadinessIssue? IssueOf(Service service)
    {
        House house = _house.Build();
        DaysAhead at = new(
            house,
            [.. Enumerable.Range(0, 70).Select(offset => new DayBook(house, ExampleHouse.Date.PlusDays(offset), DatedCalendar.Empty, []))]
        );
        return new Readiness([at], _now).Of(at, service);
    }

    /// <summary>A service that needs a patch test two days before, which can be booked from one day ahead on.</summary>
    private (Service Patch, Service Laser) WithPatchTest(int atMostDays = 180)
    {
        Service laser = Laser(null);
        Service patch = _house.Add(41, "Patch test", ExampleHouse.Attended(15));
        return (patch, _house.Change(laser, service => service with { Prerequisite = new Prerequisite(patch.Id, 48, atMostDays) }));
    }

    [Fact]
    public void What_needs_something_first_is_ready_when_clients_can_book_that() => IssueOf(WithPatchTest().Laser).ShouldBeNull();

    [Theory]
    [InlineData(Visibility.ByPhone)]
    [InlineData(Visibility.Hidden)]
    public void What_needs_something_first_that_nobody_can_book_online_is_not_ready(Visibility visibility)
    {
        (Service patch, Service laser) = WithPatchTest();
        _house.Change(patch, service => service with { Visibility = visibility });
        ReadinessIssue issue = IssueOf(laser)!;
        issue.From.ShouldBeNull();
        issue.Reasons.ShouldHaveSingleItem().Code.ShouldBe(ReasonCode.PrerequisiteMissing);
    }

    [Fact]
    public void What_comes_first_too_late_for_the_horizon_leaves_it_unready()
    {
        (_, Service laser) = WithPatchTest();
        laser = _house.Change(laser, service => service with { Online = new OnlineRules { HorizonDays = 1 } });
        IssueOf(laser)!.Reasons.ShouldHaveSingleItem().Code.ShouldBe(ReasonCode.PrerequisiteMissing);
        laser = _house.Change(laser, service => service with { Online = new OnlineRules { HorizonDays = 3 } });
        IssueOf(laser).ShouldBeNull();
    }

    private Service Laser(LocalDate? until)
    {
        _house.Practitioners[0] = _house.Practitioners[0] with
        {
            Qualifications = [new HeldQualification(_certificate, ExampleHouse.Date.PlusDays(-10), until)],
        };
        _house.Location = _house.Location with
        {
            Opening = [.. Enumerable.Range(1, 7).Select(day => new OpeningHours((IsoDayOfWeek)day, Stretch.Between(8, 0, 20, 0)))],
        };
        return _house.Change(
            _house.Add(40, "Laser", ExampleHouse.Attended(60)),
            service => service with { Roles = [new StaffRule { Qualifications = [_certificate] }] }
        );
    }

    [Fact]
    public void A_service_that_can_be_booked_to_its_horizon_has_no_issue() => IssueOf(Laser(null)).ShouldBeNull();

    [Fact]
    public void A_certificate_that_runs_out_is_named_with_its_last_day()
    {
        ReadinessIssue issue = IssueOf(Laser(ExampleHouse.Date.PlusDays(20)))!;
        issue.From.ShouldBe(ExampleHouse.Date.PlusDays(21));
        Lapse lapse = issue.Lapses.ShouldHaveSingleItem();
        (lapse.Practitioner, lapse.QualificationId, lapse.Until).ShouldBe(("Ana", _certificate, ExampleHouse.Date.PlusDays(20)));
    }

    [Fact]
    public void One_that_runs_out_close_to_the_horizon_is_no_warning_yet() =>
        IssueOf(Laser(ExampleHouse.Date.PlusDays(60 - Readiness.QuietDays + 1))).ShouldBeNull();

    [Fact]
    public void A_service_nobody_can_do_or_no_room_fits_says_which_it_is()
    {
        Service laser = Laser(ExampleHouse.Date.PlusDays(-1));
        ReadinessIssue nobody = IssueOf(laser)!;
        nobody.From.ShouldBeNull();
        nobody.Reasons.Select(reason => reason.Code).ShouldBe([ReasonCode.NobodyQualified, ReasonCode.QualificationEnded]);
        Reason ended = nobody.Reasons[1];
        (ended.Subject, ended.Value, ended.Ended).ShouldBe(("Ana", "Laser", ExampleHouse.Date.PlusDays(-1)));

        _house.Services.Clear();
        laser = _house.Change(Laser(null), service => service with { Room = new RoomRule(new HashSet<string> { "laser-safe" }) });
        Reason room = IssueOf(laser)!.Reasons.ShouldHaveSingleItem();
        (room.Code, room.Value, room.OwnerKind, room.OwnerId).ShouldBe((ReasonCode.NoSuchRoom, "laser-safe", OwnerKind.Service, laser.Id));
    }

    [Fact]
    public void A_prerequisite_a_link_or_new_clients_only_are_no_issue_but_closed_hours_are()
    {
        Service laser = Laser(null);
        Service patch = _house.Add(41, "Patch", ExampleHouse.Attended(15));
        laser = _house.Change(
            laser,
            service =>
                service with
                {
                    Prerequisite = new Prerequisite(patch.Id, 48, 180),
                    Visibility = Visibility.WithLink,
                    For = ClientKind.NewOnly,
                }
        );
        IssueOf(laser).ShouldBeNull();
        _house.Location = _house.Location with { Opening = [] };
        IssueOf(laser)!.Reasons[0].Code.ShouldBe(ReasonCode.OutsideOpeningHours);
        // A service booked by phone only does not ask for opening hours.
        IssueOf(_house.Change(laser, service => service with { Visibility = Visibility.ByPhone })).ShouldBeNull();
    }

    private ReasonCode[] LostBy(Action<ExampleHouse> change, Guid? resource = null, int unit = 0)
    {
        Service service = _house.Services.Count > 0 ? _house.Services[0] : _house.Add(40, "Sixty", ExampleHouse.Attended(60));
        StandingClaim claim = new(
            resource ?? ExampleHouse.Ana,
            unit,
            _house.At(10, 0, 11, 15),
            _house.At(10, 0, 11, 0),
            resource is null ? 0 : null,
            service.Id
        );
        PlaceCheck.Of(_house.Day(), [claim]).ShouldBeEmpty();
        change(_house);
        return [.. PlaceCheck.Of(_house.Day(), [claim]).Select(reason => reason.Code)];
    }

    [Fact]
    public void A_visit_keeps_its_place_until_the_last_minute_of_the_shift_and_loses_it_with_its_buffer()
    {
        LostBy(house => house.Shift = Stretch.Between(10, 0, 11, 15)).ShouldBeEmpty();
        LostBy(house => house.Shift = Stretch.Between(9, 0, 17, 0)).ShouldBeEmpty();
        LostBy(house => house.Shift = Stretch.Between(10, 0, 11, 10)).ShouldBe([ReasonCode.OffShift]);
    }

    [Fact]
    public void Time_off_a_block_leaving_and_being_excluded_each_take_the_place()
    {
        LostBy(house =>
                house.Blocked.Add(new BlockedTime(ExampleHouse.Ana, house.At(11, 10, 12, 0), "holiday") { Kind = BlockKind.TimeOff })
            )
            .ShouldBe([ReasonCode.PractitionerAway]);
        _house.Blocked.Clear();
        LostBy(house => house.Blocked.Add(new BlockedTime(ExampleHouse.Ana, house.At(11, 15, 12, 0), "call"))).ShouldBeEmpty();
        LostBy(house => house.Practitioners[0] = house.Practitioners[0] with { Retired = ExampleHouse.Date })
            .ShouldBe([ReasonCode.PractitionerRetired]);
        _house.Practitioners[0] = _house.Practitioners[0] with { Retired = null };
        LostBy(house =>
                house.Change(
                    house.Services[0],
                    service => service with { Roles = [new StaffRule { Excluded = new HashSet<Guid> { ExampleHouse.Ana } }] }
                )
            )
            .ShouldBe([ReasonCode.NotChosenForService]);
    }

    [Fact]
    public void A_room_takes_the_place_with_it_when_it_shrinks_closes_or_lacks_what_is_needed()
    {
        _house.Rooms[0] = _house.Rooms[0] with { Capacity = 2 };
        LostBy(house => house.Rooms[0] = house.Rooms[0] with { Capacity = 1 }, ExampleHouse.RoomA, unit: 1)
            .ShouldBe([ReasonCode.RoomRetired]);
        _house.Rooms[0] = _house.Rooms[0] with { Capacity = 2 };
        LostBy(
                house => house.Change(house.Services[0], service => service with { Room = new RoomRule(new HashSet<string> { "wet" }) }),
                ExampleHouse.RoomA
            )
            .ShouldBe([ReasonCode.NoSuchRoom]);
        _house.Change(_house.Services[0], service => service with { Room = null });
        LostBy(house => house.Closures.Add(new Closure(ExampleHouse.Here, ExampleHouse.Date, false, "paint")), ExampleHouse.RoomA)
            .ShouldBe([ReasonCode.LocationClosed]);
    }
}
