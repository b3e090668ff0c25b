using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>Why somebody's shifts do not hold a stretch.</summary>
internal static class ShiftReasons
{
    /// <summary>The breaks in the way, the shift that does not reach so far, or that they are off or somewhere else; none when the stretch
    /// lies within.</summary>
    internal static IEnumerable<Reason> Of(DayBook day, int practitioner, Service service, int from, int until)
    {
        if (day.OnShift(practitioner, service).Covers(from, until)) yield break;
        // They may work during a closure; then it is not in the way.
        List<Closure> closures = [.. day.ClosuresMet(from, until)];
        DaySet needed = DaySet.Range(from, until);
        if (closures.Count > 0 && (day.Reopened().OnShift(practitioner, service) & needed) != (day.OnShift(practitioner, service) & needed))
        {
            foreach (Closure closure in closures)
            {
                yield return new Reason(Gate.Practitioner, ReasonCode.LocationClosed, day.House.Location.Id, day.House.Location.Name)
                {
                    OwnerKind = OwnerKind.Location,
                    OwnerId = day.House.Location.Id,
                    Value = closure.Reason,
                };
            }

            day = day.Reopened();
        }

        // What is left is looked at as if the location were open.
        DaySet open = day.OnShift(practitioner, service);
        if (open.Covers(from, until)) yield break;
        Practitioner person = day.House.Practitioners[practitioner];
        Interval wanted = day.Day.Between(from, until);
        Reason reason = new(Gate.Practitioner, ReasonCode.OffShift, person.Id, person.Name)
        {
            OwnerKind = OwnerKind.Practitioner,
            OwnerId = person.Id,
            NeededFrom = wanted.Start,
            NeededUntil = wanted.End,
        };
        DaySet whole = open;
        foreach (BookDay on in new[] { day.Before, day.Day, day.After })
        {
            foreach (
                Shift shift in day
                    .Dated.ShiftsOn(day.House.Rotas, person.Id, on.Date)
                    .Where(shift => shift.LocationId == day.House.Location.Id && shift.IsFor(service.Id, service.CategoryId))
            )
            {
                foreach (Break pause in shift.Breaks)
                {
                    Interval at = on.Of(pause.During);
                    if (at.Start >= wanted.End || wanted.Start >= at.End) continue;
                    whole |= day.Day.Touched(at) & day.Day.Covered(on.Of(shift.During));
                    yield return reason with { Code = ReasonCode.OnBreak, From = at.Start, Until = at.End, Value = pause.Reason };
                }
            }
        }

        // With the breaks filled in, it is the shift itself that is in the way or nothing more.
        if (whole.Covers(from, until)) yield break;
        yield return Off(day, person, service, reason, whole, from);
    }

    private static Reason Off(DayBook day, Practitioner practitioner, Service service, Reason reason, DaySet whole, int from)
    {
        ShiftChange? change = day.Dated.ChangeOn(practitioner.Id, day.Day.Date);
        reason = reason with { Value = change?.Reason };
        DaySet today = whole & day.Day.Whole;
        if (!today.IsEmpty)
        {
            // The shift in which the stretch would begin, else all of the day.
            (int begins, int ends) = whole.Contains(from) ? whole.RunAround(from) : (today.Runs().First().From, today.Runs().Last().Until);
            return reason with { From = day.Day.At(begins), Until = day.Day.At(ends) };
        }

        IReadOnlyList<Shift> shifts = day.ShiftsOf(practitioner.Id);
        if (shifts.Any(shift => shift.LocationId != day.House.Location.Id))
            return reason with { Code = ReasonCode.PractitionerElsewhere };
        return shifts.Any(shift => shift.IsKept && !shift.IsFor(service.Id, service.CategoryId))
            ? reason with
            {
                Code = ReasonCode.ShiftKept,
                Value = service.Name,
            }
            : reason;
    }
}
