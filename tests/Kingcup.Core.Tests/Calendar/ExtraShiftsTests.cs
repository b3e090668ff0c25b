using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Calendar;

/// <summary>Shifts added over a range of dates in one go (rules, section 3).</summary>
public sealed class ExtraShiftsTests
{
    private static readonly Guid _ada = Guid.Parse("00000000-0000-4000-8000-000000000001"),
        _house = Guid.Parse("00000000-0000-4000-8000-0000000000a1"),
        _vaccination = Guid.Parse("00000000-0000-4000-8000-0000000000b1");

    private static readonly LocalDate _monday = new(2027, 3, 22);

    private static Shift At(int from, int until, params (int From, int Until)[] breaks) =>
        new(
            _house,
            Stretch.Between(from, 0, until, 0),
            [.. breaks.Select(pause => new Break(Stretch.Between(pause.From, 0, pause.Until, 0), "Lunch"))]
        );

    private static ExtraShifts Extra(Shift shift, bool instead = false, params IsoDayOfWeek[] weekdays) =>
        new(_monday, _monday.PlusDays(13), weekdays.ToHashSet(), shift, [_ada], instead, "Vaccinations");

    private static RotaCalendar Works(params Shift[] onMonday) =>
        new([new Rota(_ada, _monday, 1, [.. onMonday.Select(shift => new RotaShift(0, IsoDayOfWeek.Monday, shift))])]);

    private static string[] Words(ShiftChange? change) =>
        [
            .. (change?.Shifts ?? []).Select(shift =>
                $"{shift.During.FromMinute / 60}-{shift.During.UntilMinute / 60}"
                + (shift.IsKept ? " kept" : "")
                + string.Concat(shift.Breaks.Select(pause => $" {pause.During.FromMinute / 60}/{pause.During.UntilMinute / 60}"))
            ),
        ];

    [Fact]
    public void They_lie_on_the_chosen_days_of_the_week_of_a_range_that_holds_both_its_ends()
    {
        Extra(At(9, 15)).Dates.ShouldBe(Enumerable.Range(0, 14).Select(_monday.PlusDays));
        Extra(At(9, 15), false, IsoDayOfWeek.Monday, IsoDayOfWeek.Sunday)
            .Dates.ShouldBe([_monday, _monday.PlusDays(6), _monday.PlusDays(7), _monday.PlusDays(13)]);
    }

    [Fact]
    public void Beside_what_somebody_works_only_the_rest_is_added()
    {
        Shift kept = At(9, 15) with { Services = new HashSet<Guid> { _vaccination } };
        Words(Extra(kept).On(DatedCalendar.Empty, Works(At(10, 12), At(13, 18, (16, 17))), _ada, _monday))
            .ShouldBe(["9-10 kept", "10-12", "12-13 kept", "13-18 16/17"]);
        Words(Extra(kept).On(DatedCalendar.Empty, Works(), _ada, _monday)).ShouldBe(["9-15 kept"]);
        Extra(kept).On(DatedCalendar.Empty, Works(At(8, 18)), _ada, _monday).ShouldBeNull();
    }

    [Fact]
    public void In_place_of_what_somebody_works_they_hold_for_their_time_and_breaks_are_cut_with_the_shift()
    {
        Shift kept = At(9, 15) with { Services = new HashSet<Guid> { _vaccination } };
        Words(Extra(kept, true).On(DatedCalendar.Empty, Works(At(8, 18, (14, 16))), _ada, _monday))
            .ShouldBe(["8-9", "9-15 kept", "15-18 15/16"]);
        Words(Extra(kept, true).On(DatedCalendar.Empty, Works(At(10, 12)), _ada, _monday)).ShouldBe(["9-15 kept"]);
        Words(Extra(At(18, 24), true).On(DatedCalendar.Empty, Works(At(9, 24)), _ada, _monday)).ShouldBe(["9-18", "18-24"]);
    }

    [Theory]
    [InlineData(false, "9-10 14-15")]
    [InlineData(true, "9-15")]
    public void What_is_new_of_a_day_is_told_apart_from_what_somebody_works_anyway(bool instead, string added)
    {
        RotaCalendar works = Works(At(10, 14));
        Extra(At(9, 15), instead)
            .AddedOn(DatedCalendar.Empty, works, _ada, _monday)
            .Select(shift => $"{shift.During.FromMinute / 60}-{shift.During.UntilMinute / 60}")
            .ShouldBe(added.Split(' '));
        Extra(At(10, 14), false).AddedOn(DatedCalendar.Empty, works, _ada, _monday).ShouldBeEmpty();
    }

    [Fact]
    public void A_shift_change_counts_in_place_of_the_rota_and_keeps_what_it_says()
    {
        DatedCalendar dated = new([new ShiftChange(_ada, _monday, [At(16, 20)], true, "Late")], [], [], BlockCalendar.Empty);
        ShiftChange made = Extra(At(9, 15)).On(dated, Works(At(9, 18)), _ada, _monday)!;
        Words(made).ShouldBe(["9-15", "16-20"]);
        (made.WorksDuringClosure, made.Reason).ShouldBe((true, "Vaccinations"));
        (Extra(At(9, 15)) with { Reason = null }).On(dated, Works(), _ada, _monday)!.Reason.ShouldBe("Late");
    }

    [Fact]
    public void Where_the_location_is_closed_nothing_is_added_unless_they_work_then_all_the_same()
    {
        Closure closed = new(_house, _monday, false, "Feast");
        DatedCalendar shut = new([], [closed], [], BlockCalendar.Empty),
            open = new([new ShiftChange(_ada, _monday, [], true)], [closed], [], BlockCalendar.Empty);
        Extra(At(9, 15)).On(shut, Works(), _ada, _monday).ShouldBeNull();
        Words(Extra(At(9, 15)).On(open, Works(), _ada, _monday)).ShouldBe(["9-15"]);
    }

    [Fact]
    public void Minute_by_minute_each_is_worked_as_was_asked()
    {
        Random random = new(20270322);
        for (int round = 0; round < 400; round++)
        {
            Stretch extra = Some(random);
            // Two shifts that do not meet.
            Stretch first = Some(random);
            Stretch[] worked = [first, .. Some(random).Without(first).Take(1)];
            bool instead = random.Next(2) == 0;
            Shift kept = new(_house, extra, []) { Services = new HashSet<Guid> { _vaccination } };
            ShiftChange? made = Extra(kept, instead)
                .On(DatedCalendar.Empty, Works([.. worked.Select(during => new Shift(_house, during, []))]), _ada, _monday);
            for (int minute = 0; minute < 1440; minute += 5)
            {
                bool wasWorked = worked.Any(during => Holds(during, minute)), isExtra = Holds(extra, minute);
                bool? expected = isExtra && (instead || !wasWorked) ? true : wasWorked ? false : null;
                Shift? at = made is null
                    ? worked.Where(during => Holds(during, minute)).Select(during => new Shift(_house, during, [])).SingleOrDefault()
                    : made.Shifts.SingleOrDefault(shift => Holds(shift.During, minute));
                (at?.IsKept).ShouldBe(expected, $"{extra}, {string.Join(" ", worked)}, {instead}, minute {minute}");
            }
        }
    }

    private static bool Holds(Stretch during, int minute) => during.FromMinute <= minute && minute < during.UntilMinute;

    private static Stretch Some(Random random)
    {
        int from = random.Next(288), until = random.Next(from + 1, 289);
        return new Stretch(
            LocalTime.FromMinutesSinceMidnight(from * 5),
            until == 288 ? LocalTime.Midnight : LocalTime.FromMinutesSinceMidnight(until * 5)
        );
    }
}
