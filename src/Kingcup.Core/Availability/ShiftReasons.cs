using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>Why somebody's shift does not hold a stretch.</summary>
internal static class ShiftReasons
{
    /// <summary>The break in the way, the shift that does not reach so far, or that she is off or somewhere else.</summary>
    internal static Reason Of(DayBook day, Practitioner one, int from, int until)
    {
        RotaCalendar calendar = day.House.Calendar;
        Guid here = day.House.Location.Id;
        IReadOnlyList<Shift> shifts = calendar.On(one.Id, day.Day.Date);
        Interval wanted = day.Day.Between(from, until);
        Reason reason = new(Gate.Practitioner, ReasonCode.OffShift, one.Id, one.Name) { OwnerKind = OwnerKind.Practitioner, OwnerId = one.Id };
        foreach (Shift shift in shifts.Where(shift => shift.LocationId == here))
        {
            Interval during = day.Day.Of(shift.During);
            if (during.Start > wanted.Start || during.End < wanted.End) continue;
            foreach (Break pause in shift.Breaks)
            {
                Interval at = day.Day.Of(pause.During);
                if (at.Start < wanted.End && wanted.Start < at.End) return reason with { Code = ReasonCode.OnBreak, From = at.Start, Until = at.End, Value = pause.Reason };
            }
        }

        DaySet today = day.OnShift(one.Id) & day.Day.Whole;
        if (!today.IsEmpty) return reason with { Value = calendar.ChangeOn(one.Id, day.Day.Date)?.Reason, From = day.Day.At(today.Runs().First().From), Until = day.Day.At(today.Runs().Last().Until) };
        return shifts.Any(shift => shift.LocationId != here)
            ? reason with { Code = ReasonCode.PractitionerElsewhere }
            : reason with { Value = calendar.ChangeOn(one.Id, day.Day.Date)?.Reason };
    }
}
