using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using Kingcup.Core.Tests.Reference;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Calendar;

/// <summary>When somebody works (rules, section 3): the rota and its cycle, the change that replaces a day, closures once and
/// yearly.</summary>
public sealed class DatedCalendarTests
{
    private static readonly Guid _ana = Worlds.Id(10),
        _here = Worlds.Id(1),
        _there = Worlds.Id(2);

    // A Wednesday, the anchor of a cycle that counts from the Monday before it.
    private static readonly LocalDate _anchor = new(2027, 3, 3);

    private static Shift At(Guid location, int from, int until) => new(location, Stretch.Between(from, 0, until, 0), []);

    private static RotaShift On(int week, IsoDayOfWeek day, int from, int until, Guid? location = null) =>
        new(week, day, At(location ?? _here, from, until));

    private static DatedCalendar Dated(params object[] what) =>
        new(what.OfType<ShiftChange>(), what.OfType<Closure>(), what.OfType<OnlineStop>(), BlockCalendar.Empty);

    private static string[] Words(IEnumerable<Shift> shifts) =>
        [
            .. shifts.Select(shift =>
                $"{shift.During.From.Hour}-{shift.During.UntilMinute / 60}{(shift.LocationId == _here ? "" : " there")}"
            ),
        ];

    private static readonly RotaCalendar _twoWeeks = new([
        new Rota(
            _ana,
            _anchor,
            2,
            [On(0, IsoDayOfWeek.Wednesday, 9, 17), On(0, IsoDayOfWeek.Monday, 8, 12), On(1, IsoDayOfWeek.Wednesday, 12, 20)]
        ),
    ]);

    [Theory]
    [InlineData("2027-03-03", "9-17")]
    [InlineData("2027-03-08", "")]
    [InlineData("2027-03-10", "12-20")]
    [InlineData("2027-03-15", "8-12")]
    [InlineData("2027-03-17", "9-17")]
    [InlineData("2028-03-01", "9-17")]
    [InlineData("2027-03-02", "")]
    [InlineData("2027-02-24", "")]
    public void A_cycle_of_weeks_is_counted_from_the_week_of_its_anchor_and_holds_from_the_anchor_on(string date, string expected)
    {
        LocalDate day = NodaTime.Text.LocalDatePattern.Iso.Parse(date).Value;
        string.Join(' ', Words(_twoWeeks.On(_ana, day))).ShouldBe(expected);
    }

    [Fact]
    public void A_newer_rota_takes_over_on_its_first_day_and_its_cycle_begins_anew()
    {
        RotaCalendar rotas = new([
            .. _twoWeeks.Of(_ana),
            new Rota(_ana, new LocalDate(2027, 3, 17), 1, [On(0, IsoDayOfWeek.Wednesday, 6, 9)]),
        ]);
        Words(rotas.On(_ana, new LocalDate(2027, 3, 15))).ShouldBe(["8-12"]);
        Words(rotas.On(_ana, new LocalDate(2027, 3, 17))).ShouldBe(["6-9"]);
        Words(rotas.On(_ana, new LocalDate(2027, 3, 22))).ShouldBeEmpty();
        Words(rotas.On(_ana, new LocalDate(2027, 3, 24))).ShouldBe(["6-9"]);
    }

    [Fact]
    public void A_shift_change_replaces_the_day_wholly_and_only_that_day()
    {
        DatedCalendar dated = Dated(new ShiftChange(_ana, new LocalDate(2027, 3, 10), [At(_there, 10, 11)]));
        Words(dated.ShiftsOn(_twoWeeks, _ana, new LocalDate(2027, 3, 10))).ShouldBe(["10-11 there"]);
        Words(dated.ShiftsOn(_twoWeeks, _ana, new LocalDate(2027, 3, 17))).ShouldBe(["9-17"]);
        Words(dated.ShiftsOn(_twoWeeks, Worlds.Id(11), new LocalDate(2027, 3, 10))).ShouldBeEmpty();
    }

    [Fact]
    public void Off_is_a_change_without_shifts() =>
        Words(Dated(new ShiftChange(_ana, _anchor, [])).ShiftsOn(_twoWeeks, _ana, _anchor)).ShouldBeEmpty();

    [Fact]
    public void A_closure_takes_the_shifts_of_its_location_and_leaves_those_elsewhere()
    {
        RotaCalendar both = new([
            new Rota(_ana, _anchor, 1, [On(0, IsoDayOfWeek.Wednesday, 9, 12), On(0, IsoDayOfWeek.Wednesday, 14, 18, _there)]),
        ]);
        DatedCalendar dated = Dated(new Closure(_here, _anchor, false, "boiler"));
        Words(dated.ShiftsOn(both, _ana, _anchor)).ShouldBe(["14-18 there"]);
        Words(dated.ShiftsOn(both, _ana, _anchor.PlusDays(7))).ShouldBe(["9-12", "14-18 there"]);
    }

    [Fact]
    public void Whoever_works_during_a_closure_does_and_whoever_only_changed_their_hours_does_not()
    {
        Closure closure = new(_here, _anchor, false, "painters");
        ShiftChange stays = new(_ana, _anchor, [At(_here, 10, 11)], WorksDuringClosure: true),
            changed = stays with { WorksDuringClosure = false };
        Words(Dated(closure, stays).ShiftsOn(_twoWeeks, _ana, _anchor)).ShouldBe(["10-11"]);
        Words(Dated(closure, changed).ShiftsOn(_twoWeeks, _ana, _anchor)).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("2027-12-25", true)]
    [InlineData("2031-12-25", true)]
    [InlineData("2026-12-25", false)]
    [InlineData("2027-12-26", false)]
    public void A_yearly_closure_comes_back_on_its_day_from_its_first_year_on(string date, bool isClosed)
    {
        DatedCalendar dated = Dated(new Closure(_here, new LocalDate(2027, 12, 25), true, "feast"));
        LocalDate day = NodaTime.Text.LocalDatePattern.Iso.Parse(date).Value;
        (dated.ClosureOn(_here, day) is not null).ShouldBe(isClosed);
        dated.ClosureOn(_there, day).ShouldBeNull();
    }

    [Fact]
    public void A_yearly_leap_day_is_closed_in_leap_years_only()
    {
        Closure leap = new(_here, new LocalDate(2028, 2, 29), true, "leap");
        leap.Holds(new LocalDate(2028, 2, 29)).ShouldBeTrue();
        leap.Holds(new LocalDate(2029, 2, 28)).ShouldBeFalse();
        leap.Holds(new LocalDate(2029, 3, 1)).ShouldBeFalse();
        leap.Holds(new LocalDate(2032, 2, 29)).ShouldBeTrue();
    }

    [Fact]
    public void A_day_is_stopped_online_for_its_location_alone()
    {
        DatedCalendar dated = Dated(new OnlineStop(_here, _anchor, "party"));
        dated.StopOn(_here, _anchor)!.Reason.ShouldBe("party");
        dated.StopOn(_there, _anchor).ShouldBeNull();
        dated.StopOn(_here, _anchor.PlusDays(1)).ShouldBeNull();
        // Somebody still works: only clients book no more.
        Words(dated.ShiftsOn(_twoWeeks, _ana, _anchor)).ShouldBe(["9-17"]);
    }

    [Fact]
    public void Reopened_it_keeps_all_but_the_closures()
    {
        DatedCalendar dated = Dated(
                new Closure(_here, _anchor, false, "boiler"),
                new OnlineStop(_here, _anchor, "party"),
                new ShiftChange(_ana, _anchor, [At(_here, 10, 11)])
            )
            .Reopened();
        dated.ClosureOn(_here, _anchor).ShouldBeNull();
        dated.StopOn(_here, _anchor).ShouldNotBeNull();
        Words(dated.ShiftsOn(_twoWeeks, _ana, _anchor)).ShouldBe(["10-11"]);
    }

    [Theory]
    [InlineData("2027-05-01", true)]
    [InlineData("2027-04-30", true)]
    [InlineData("2027-05-02", false)]
    [InlineData("2027-03-31", false)]
    [InlineData("2027-04-01", true)]
    public void A_qualification_counts_on_both_its_ends_and_has_ended_the_day_after(string date, bool counts)
    {
        HeldQualification held = new(Worlds.Id(3), new LocalDate(2027, 4, 1), new LocalDate(2027, 5, 1));
        LocalDate day = NodaTime.Text.LocalDatePattern.Iso.Parse(date).Value;
        held.IsValidOn(day).ShouldBe(counts);
        held.HasEndedOn(day).ShouldBe(day > new LocalDate(2027, 5, 1));
        (held with { Until = null }).HasEndedOn(LocalDate.MaxIsoValue).ShouldBeFalse();
    }
}
