using System.Globalization;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Team;

namespace Kingcup.Core.Availability;

/// <summary>Finds the cause behind a gate that has refused a start. It never decides: the engine has.</summary>
/// <param name="frame">The visit.</param>
/// <param name="day">The day.</param>
/// <param name="rules">The rules, looking at that day.</param>
/// <param name="asClient">Whether a client asks.</param>
/// <param name="passes">Whether a gate would let a start pass on another day.</param>
internal sealed class ReasonFinder(
    VisitFrame frame,
    DayBook day,
    GateRules rules,
    bool asClient,
    Func<DayBook, Gate, int, bool>? passes = null
)
{
    private readonly House _house = frame.House;
    private readonly Relief _relief = new(day);
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
            Gate.Date => Date(start),
            Gate.OpeningHours => [.. Opening(start), .. onlyTogether ? _resources.OwnLengths(start) : []],
            Gate.StartGrid => [Grid()],
            Gate.Practitioner => _resources.Practitioner(start, onlyTogether),
            Gate.RoomAndEquipment => _resources.RoomAndEquipment(start, onlyTogether),
            _ => Gaps(start),
        };
        found = [.. found.Distinct()];
        // What is named is all that is in the way; where the gate would still refuse without it, no combination is there besides.
        if (
            found.Count == 0
            || (
                gate is Gate.Practitioner or Gate.RoomAndEquipment
                && _relief.Of(found) is { } relieved
                && passes?.Invoke(relieved, gate, start) == false
            )
        )
            found.Add(new Reason(gate, ReasonCode.NoCombination));
        return found;
    }

    /// <summary>Visits that have to come first and have not.</summary>
    internal List<Reason> MissingBefore(int start) =>
        [
            .. from service in frame.Services
            where service.Prerequisite is { } before && !rules.Satisfying(before).Contains(start)
            select OfService(Gate.Service, ReasonCode.PrerequisiteMissing, service) with
            {
                Value = _house.Services.GetValueOrDefault(service.Prerequisite!.ServiceId)?.Name,
                Minutes = service.Prerequisite.AtLeastHours * 60,
            },
        ];

    private List<Reason> Client()
    {
        List<Reason> found =
        [
            .. rules
                .RefusesClient()
                .Select(code =>
                    code switch
                    {
                        ReasonCode.BusinessNotOnline => new Reason(Gate.Client, code) { OwnerKind = OwnerKind.Business },
                        ReasonCode.TooManyNoShows => OfLocation(Gate.Client, code) with
                        {
                            Value = Number(_house.Location.NoShowLimit!.Times),
                        },
                        ReasonCode.ClientNotOnline => new Reason(Gate.Client, code) { OwnerKind = OwnerKind.Client },
                        _ => OfLocation(Gate.Client, code),
                    }
                ),
        ];
        // Where the client may book at all, or nobody would take them, it is those who do not take them.
        foreach (int line in Enumerable.Range(0, frame.Lines))
        {
            int[] leads = frame.CandidatesOn(line, 0, day.Day.Date);
            if (found.Count > 0 && leads.Any(who => rules.Accepts(line, who)))
                continue;
            found.AddRange(leads.SelectMany(who => rules.RefusesLead(line, who), (who, code) => OfLead(line, who, code)));
        }

        return found;
    }

    private Reason OfLead(int line, int who, ReasonCode code)
    {
        Practitioner lead = _house.Practitioners[who];
        return new Reason(Gate.Client, code, lead.Id, lead.Name)
        {
            OwnerKind = OwnerKind.Practitioner,
            OwnerId = lead.Id,
            Value = frame.Services[line].Name,
        };
    }

    private List<Reason> Service(int start) =>
        [
            .. from service in frame.Services from code in rules.RefusesService(service) select OfService(Gate.Service, code, service),
            .. MissingBefore(start),
        ];

    private List<Reason> Date(int start) =>
        [
            .. rules.HorizonsBefore().Select(far => OfRule(Gate.Date, ReasonCode.TooFarAhead, Number(far.Days), far.Source)),
            .. rules.Stopped is { } stop
                ? [OfLocation(Gate.Date, ReasonCode.StoppedOnline) with { Value = stop.Reason }]
                : Array.Empty<Reason>(),
            .. frame.Services.SelectMany(service => rules.RefusesDate(service), (service, code) => OfService(Gate.Date, code, service)),
            .. rules.LeadsAfter(start).Select(lead => OfRule(Gate.Date, ReasonCode.TooSoon, Number(lead.Minutes), lead.Source)),
        ];

    /// <summary>The closures in the way, and the hours themselves where they do not hold the visit on a day like any other.</summary>
    private List<Reason> Opening(int start)
    {
        List<Reason> found =
        [
            .. day.ClosuresMet(start, start + _resources.UsualLength)
                .Select(closure => OfLocation(Gate.OpeningHours, ReasonCode.LocationClosed) with { Value = closure.Reason }),
        ];
        if (found.Count == 0)
            return [Hours(day, start)];
        DayBook reopened = day.Reopened();
        if (passes?.Invoke(reopened, Gate.OpeningHours, start) == false)
            found.Add(Hours(reopened, start));
        return found;
    }

    private Reason Hours(DayBook day, int start)
    {
        Reason reason = OfLocation(Gate.OpeningHours, ReasonCode.OutsideOpeningHours);
        Time.DaySet today = day.Opening & day.Day.Whole;
        if (today.IsEmpty)
            return reason;
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
            if (gaps.GapOf(who, from, until) is not { } gap)
                continue;
            Practitioner practitioner = _house.Practitioners[who];
            Reason rule = OfRule(Gate.Gap, ReasonCode.LeavesGap, Number(gaps.Shortest(who) * Time.Grain.Minutes), rules.SourceOfGap);
            found.Add(
                rule with
                {
                    SubjectId = practitioner.Id,
                    Subject = practitioner.Name,
                    From = day.Day.At(gap.From),
                    Until = day.Day.At(gap.Until),
                    Minutes = (gap.Until - gap.From) * Time.Grain.Minutes,
                }
            );
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
