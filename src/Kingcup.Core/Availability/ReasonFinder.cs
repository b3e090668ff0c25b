using System.Globalization;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Team;

namespace Kingcup.Core.Availability;

/// <summary>Finds the cause behind a gate that has refused a start. It never decides: the engine has.</summary>
internal sealed class ReasonFinder(VisitFrame frame, DayBook day, GateRules rules, bool asClient)
{
    private readonly House _house = frame.House;
    private readonly ResourceReasons _resources = new(frame, day, rules, asClient);

    /// <summary>The reasons of a gate; at least one.</summary>
    /// <param name="gate">The gate.</param>
    /// <param name="start">The start it refuses.</param>
    /// <param name="onlyTogether">Whether it would let the start pass on its own.</param>
    internal IReadOnlyList<Reason> Of(Gate gate, int start, bool onlyTogether)
    {
        List<Reason> found = gate switch
        {
            Gate.Client => Client(),
            Gate.Service => Service(start),
            Gate.Date => Date(),
            Gate.OpeningHours => [Opening(start), .. onlyTogether ? _resources.OwnLengths(start) : []],
            Gate.StartGrid => [Grid()],
            Gate.Practitioner => _resources.Practitioner(start, onlyTogether),
            Gate.RoomAndEquipment => _resources.RoomAndEquipment(start, onlyTogether),
            _ => Gaps(start),
        };
        return found.Count > 0 ? [.. found.Distinct()] : [new Reason(gate, ReasonCode.NoCombination)];
    }

    /// <summary>Visits that have to come first and have not.</summary>
    internal List<Reason> MissingBefore(int start) =>
        [.. from service in frame.Services
            where service.Prerequisite is { } before && !rules.Satisfying(before).Contains(start)
            select OfService(Gate.Service, ReasonCode.PrerequisiteMissing, service) with
            {
                Value = _house.Services.GetValueOrDefault(service.Prerequisite!.ServiceId)?.Name,
                Minutes = service.Prerequisite.AtLeastHours * 60,
            }];

    private List<Reason> Client()
    {
        switch (rules.RefusesClient())
        {
            case (ReasonCode.LocationNotOnline or ReasonCode.LocationNoNewClients) and { } code:
                return [OfLocation(Gate.Client, code)];
            case ReasonCode.BusinessNotOnline:
                return [new Reason(Gate.Client, ReasonCode.BusinessNotOnline) { OwnerKind = OwnerKind.Business }];
            case ReasonCode.TooManyNoShows:
                return [OfLocation(Gate.Client, ReasonCode.TooManyNoShows) with { Value = Number(_house.Location.NoShowLimit!.Times) }];
            case { } code: return [new Reason(Gate.Client, code) { OwnerKind = OwnerKind.Client }];
            default: break;
        }

        return [.. from line in Enumerable.Range(0, frame.Lines)
                   from who in frame.CandidatesOn(line, 0, day.Day.Date)
                   let code = rules.RefusesLead(line, who)
                   where code is not null
                   let item = _house.Practitioners[who]
                   select new Reason(Gate.Client, code.Value, item.Id, item.Name)
                   {
                       OwnerKind = OwnerKind.Practitioner,
                       OwnerId = item.Id,
                       Value = frame.Services[line].Name,
                   }];
    }

    private List<Reason> Service(int start) =>
    [
        .. from service in frame.Services
           let code = rules.RefusesService(service)
           where code is not null
           select OfService(Gate.Service, code.Value, service),
        .. MissingBefore(start),
    ];

    private List<Reason> Date()
    {
        if (rules.IsTooFar) return [OfRule(Gate.Date, ReasonCode.TooFarAhead, Number(rules.HorizonDays), rules.SourceOfHorizon)];
        if (rules.Stopped is { } stop) return [OfLocation(Gate.Date, ReasonCode.StoppedOnline) with { Value = stop.Reason }];
        List<Reason> dates = [.. from service in frame.Services
                                 let code = rules.RefusesDate(service)
                                 where code is not null
                                 select OfService(Gate.Date, code.Value, service)];
        return dates.Count > 0 ? dates : [OfRule(Gate.Date, ReasonCode.TooSoon, Number(rules.LeadMinutes), rules.SourceOfLead)];
    }

    private Reason Opening(int start)
    {
        if (day.Closure is { } closure) return OfLocation(Gate.OpeningHours, ReasonCode.LocationClosed) with { Value = closure.Reason };
        Reason reason = OfLocation(Gate.OpeningHours, ReasonCode.OutsideOpeningHours);
        Time.DaySet today = day.Opening & day.Day.Whole;
        if (today.IsEmpty) return reason;
        // The stretch that the visit would begin in, else the first one.
        (int from, int until) = day.Opening.Contains(start) ? day.Opening.RunAround(start) : today.Runs().First();
        if (!day.Opening.Contains(start))
            until = today.Runs().Last().Until;
        return reason with
        {
            From = day.Day.At(from),
            Until = day.Day.At(until),
            NeededFrom = day.Day.At(start),
            NeededUntil = day.Day.At(start + _resources.UsualLength),
        };
    }

    private Reason Grid() =>
        OfRule(
            Gate.StartGrid,
            ReasonCode.OffGrid,
            rules.Grid == StartGrid.EveryMinutes ? Number(rules.GridMinutes) : rules.Grid.ToString(),
            rules.SourceOfGrid
        );

    /// <summary>For everybody who could take the visit, the gap it would leave.</summary>
    private List<Reason> Gaps(int start)
    {
        GapSets gaps = new(frame, day, rules.OfGap.Values.ShortestGapMinutes);
        List<Reason> found = [];
        foreach ((int who, int from, int until) in _resources.HeldBy(start))
        {
            if (gaps.GapOf(who, from, until) is not { } gap) continue;
            Practitioner practitioner = _house.Practitioners[who];
            Reason rule = OfRule(Gate.Gap, ReasonCode.LeavesGap, Number(gaps.Shortest(who) * Time.Grain.Minutes), rules.SourceOfGap);
            found.Add(rule with
            {
                SubjectId = practitioner.Id,
                Subject = practitioner.Name,
                From = day.Day.At(gap.From),
                Until = day.Day.At(gap.Until),
                Minutes = (gap.Until - gap.From) * Time.Grain.Minutes,
            });
        }

        return found;
    }

    private Reason OfLocation(Gate gate, ReasonCode code) =>
        new(gate, code, _house.Location.Id, _house.Location.Name) { OwnerKind = OwnerKind.Location, OwnerId = _house.Location.Id };

    private static Reason OfService(Gate gate, ReasonCode code, Service service) =>
        new(gate, code, service.Id, service.Name) { OwnerKind = OwnerKind.Service, OwnerId = service.Id };

    /// <summary>A reason that speaks of the place whose rule it is; a usual rule is set at the location.</summary>
    private Reason OfRule(Gate gate, ReasonCode code, string? value, (RulePlace Place, Guid? Id) source) =>
        source.Place switch
        {
            RulePlace.Service => OfService(gate, code, _house.Services[source.Id!.Value]) with { Value = value },
            RulePlace.Category => new Reason(gate, code, source.Id, _house.CategoryOf(source.Id!.Value)?.Name)
            {
                OwnerKind = OwnerKind.Category,
                OwnerId = source.Id,
                Value = value,
            },
            RulePlace.Client => new Reason(gate, code) { OwnerKind = OwnerKind.Client, Value = value },
            _ => OfLocation(gate, code) with { Value = value },
        };

    private static string Number(int value) => value.ToString(CultureInfo.InvariantCulture);
}
