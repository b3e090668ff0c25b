using System.Globalization;
using Kingcup.Core.Business;
using Kingcup.Core.Services;

namespace Kingcup.Core.Availability;

/// <summary>Finds the cause behind a gate that has refused a start. It never decides: the search has.</summary>
internal sealed class ReasonFinder(VisitFrame frame, DayBook day, GateRules rules, bool asClient)
{
    private readonly House _house = frame.House;
    private readonly ResourceReasons _resources = new(frame, day, asClient);

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
            Gate.OpeningHours => Opening(),
            Gate.StartGrid => [Grid()],
            Gate.Practitioner => _resources.Practitioner(start),
            Gate.RoomAndEquipment => _resources.RoomAndEquipment(start),
            _ => [GapLeft()],
        };
        return found.Count > 0 && !(onlyTogether && gate is Gate.OpeningHours or Gate.StartGrid)
            ? found
            : [new Reason(gate, ReasonCode.NoCombination)];
    }

    private List<Reason> Client()
    {
        switch (rules.RefusesClient())
        {
            case (ReasonCode.LocationNotOnline or ReasonCode.LocationNoNewClients) and { } code: return [OfLocation(Gate.Client, code)];
            case ReasonCode.BusinessNotOnline: return [new Reason(Gate.Client, ReasonCode.BusinessNotOnline) { OwnerKind = OwnerKind.Business }];
            case ReasonCode.TooManyNoShows:
                return [OfLocation(Gate.Client, ReasonCode.TooManyNoShows) with { Value = Number(_house.Location.NoShowLimit!.Times) }];
            case { } code: return [new Reason(Gate.Client, code) { OwnerKind = OwnerKind.Client }];
            default: break;
        }

        return [.. from line in Lines()
                   from one in frame.CandidatesOn(line, 0, day.Day.Date)
                   let code = rules.RefusesLead(line, one)
                   where code is not null
                   select new Reason(Gate.Client, code.Value, _house.Practitioners[one].Id, _house.Practitioners[one].Name)
                   {
                       OwnerKind = OwnerKind.Practitioner,
                       OwnerId = _house.Practitioners[one].Id,
                       Value = frame.Services[line].Name,
                   }];
    }

    private List<Reason> Service(int start)
    {
        List<Reason> found = [];
        foreach (Service service in frame.Services)
        {
            if (rules.RefusesService(service) is { } code) found.Add(OfService(Gate.Service, code, service));
            if (service.Prerequisite is not { } before || rules.Satisfying(before).Contains(start)) continue;
            found.Add(OfService(Gate.Service, ReasonCode.PrerequisiteMissing, service) with { Value = _house.Services.GetValueOrDefault(before.ServiceId)?.Name });
        }

        return found;
    }

    private List<Reason> Date()
    {
        if (rules.IsTooFar)
            return [OfFirst(Gate.Date, ReasonCode.TooFarAhead, Number(rules.HorizonDays), rules.OfHorizon.SourceOf(one => one.HorizonDays is not null || one.NewHorizonDays is not null))];
        if (rules.IsStopped) return [OfLocation(Gate.Date, ReasonCode.StoppedOnline) with { Value = _house.Location.StoppedOnline[day.Day.Date] }];
        List<Reason> dates = [.. from service in frame.Services
                                 let code = rules.RefusesDate(service)
                                 where code is not null
                                 select OfService(Gate.Date, code.Value, service)];
        return dates.Count > 0
            ? dates
            : [OfFirst(Gate.Date, ReasonCode.TooSoon, Number(rules.LeadMinutes), rules.OfLead.SourceOf(one => one.LeadMinutes is not null || one.NewLeadMinutes is not null))];
    }

    private List<Reason> Opening()
    {
        if (day.Closure is { } closure) return [OfLocation(Gate.OpeningHours, ReasonCode.LocationClosed) with { Value = closure.Reason }];
        (int from, int until) = day.Opening.Runs().FirstOrDefault();
        Reason reason = OfLocation(Gate.OpeningHours, ReasonCode.OutsideOpeningHours);
        return [until > from ? reason with { From = day.Day.At(from), Until = day.Day.At(day.Opening.Runs().Last().Until) } : reason];
    }

    private Reason Grid() => OfFirst(
        Gate.StartGrid, ReasonCode.OffGrid, rules.Grid == StartGrid.EveryMinutes ? Number(rules.GridMinutes) : rules.Grid.ToString(),
        rules.OfFirst.SourceOf(one => one.Grid is not null || one.EveryMinutes is not null));

    private Reason GapLeft() => OfFirst(Gate.Gap, ReasonCode.LeavesGap, rules.OfGap.Values.ShortestGapMinutes is { } minutes ? Number(minutes) : null, rules.OfGap.SourceOf(one => one.Gap is not null));

    private IEnumerable<int> Lines() => Enumerable.Range(0, frame.Services.Length);

    private Reason OfLocation(Gate gate, ReasonCode code) =>
        new(gate, code, _house.Location.Id, _house.Location.Name) { OwnerKind = OwnerKind.Location, OwnerId = _house.Location.Id };

    private static Reason OfService(Gate gate, ReasonCode code, Service service) =>
        new(gate, code, service.Id, service.Name) { OwnerKind = OwnerKind.Service, OwnerId = service.Id };

    /// <summary>A reason that speaks of the first service, with the place whose rule it is; a usual rule is set at the location.</summary>
    private Reason OfFirst(Gate gate, ReasonCode code, string? value, (RulePlace Place, Guid? Id) source) =>
        new(gate, code, frame.Services[0].Id, frame.Services[0].Name)
        {
            Value = value,
            OwnerKind = source.Place switch
            {
                RulePlace.Service => OwnerKind.Service,
                RulePlace.Category => OwnerKind.Category,
                RulePlace.Client => OwnerKind.Client,
                _ => OwnerKind.Location,
            },
            OwnerId = source.Place == RulePlace.Usual ? _house.Location.Id : source.Id,
        };

    private static string Number(int value) => value.ToString(CultureInfo.InvariantCulture);
}
