using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>
/// What stands in the way of a visit among people, rooms and equipment (gates 6 and 7). Of whoever and whatever could have served, all
/// that is in the way is named: were it gone, the gate would let the visit pass.
/// </summary>
internal sealed partial class ResourceReasons(VisitFrame frame, DayBook day, GateRules rules, bool asClient)
{
    private readonly House _house = frame.House;

    /// <summary>A way to take a line: who leads it, its layout, and where it would begin.</summary>
    private readonly record struct Lay(int Line, int Lead, LineShape Shape, int At);

    /// <summary>The length of the whole visit in grains if everything takes as long as usual.</summary>
    internal int UsualLength
    {
        get
        {
            int[] ends = new int[frame.Lines];
            for (int line = 0; line < frame.Lines; line++)
                ends[line] =
                    (frame.Before[line] < 0 ? frame.Offsets[line] : ends[frame.Before[line]])
                    + LeadsOf(line).Select(lead => frame.ShapeOf(line, lead).Grains).DefaultIfEmpty(frame.UsualShapes[line].Grains).Min();
            return ends.Max();
        }
    }

    internal List<Reason> Practitioner(int start, bool onlyTogether)
    {
        List<Reason> elsewhere =
        [
            .. frame
                .Services.Where(service => service.Locations.Count > 0 && !service.Locations.Contains(_house.Location.Id))
                .Select(service => new Reason(Gate.Practitioner, ReasonCode.ServiceNotHere, service.Id, service.Name)
                {
                    OwnerKind = OwnerKind.Service,
                    OwnerId = service.Id,
                    Value = _house.Location.Name,
                }),
        ];
        List<Reason> roles = [.. elsewhere],
            all = [.. elsewhere];
        foreach (int line in Enumerable.Range(0, frame.Lines))
        {
            for (int role = 0; role < frame.Services[line].Roles.Count; role++)
            {
                (bool isFilled, List<Reason> reasons) = Role(line, role, start);
                all.AddRange(reasons);
                if (!isFilled)
                    roles.AddRange(reasons);
            }
        }

        // Every role could be filled by somebody, and yet not all together: then whatever keeps anybody away is in the way.
        List<Reason> found = roles.Count > 0 ? roles : all;
        if (onlyTogether)
            found.AddRange(OwnLengths(start));
        return found;
    }

    private (bool IsFilled, List<Reason> Reasons) Role(int line, int role, int start)
    {
        Service service = frame.Services[line];
        StaffRule rule = service.Roles[role];
        if (
            role == 0
            && frame.Wish.Lines[line].PractitionerId is { } chosen
            && _house.Practitioners.FirstOrDefault(practitioner => practitioner.Id == chosen) is { } asked
            && !rule.Allows(asked, day.Day.Date)
        )
        {
            int who = _house.Practitioners.Index().First(person => person.Item.Id == asked.Id).Index;
            return (false, [NotAllowed(asked, rule, service), .. CausesOf(who, line, role, start)]);
        }

        int[] candidates = role == 0 ? LeadsOf(line) : frame.CandidatesOn(line, role, day.Day.Date);
        if (candidates.Length == 0)
        {
            return (
                false,
                [
                    new Reason(Gate.Practitioner, ReasonCode.NobodyQualified, service.Id, service.Name)
                    {
                        Value = rule.Name,
                        OwnerKind = OwnerKind.Service,
                        OwnerId = service.Id,
                    },
                    .. _house
                        .Practitioners.Select(practitioner => NotAllowed(practitioner, rule, service))
                        .Where(reason => reason.Code == ReasonCode.QualificationEnded),
                ]
            );
        }

        List<Reason> reasons = [];
        bool isFilled = false;
        foreach (int who in candidates)
        {
            foreach (Lay lay in LaysOf(line, start).Where(lay => role > 0 || lay.Lead == who))
            {
                // Somebody with nothing to do while the client is there cannot be the cause.
                if (lay.Shape.RoleSpans[role].Count == 0)
                    continue;
                List<Reason> causes = Causes(who, role, lay, service);
                isFilled |= causes.Count == 0;
                reasons.AddRange(causes);
            }
        }

        return (isFilled, reasons);
    }

    /// <summary>What of somebody's time would be in the way besides, were they allowed to take a role.</summary>
    private List<Reason> CausesOf(int who, int line, int role, int start)
    {
        Lay usual = new(line, who, frame.ShapeOf(line, who), start + Math.Max(0, frame.Offsets[line]));
        return Causes(who, role, usual, frame.Services[line]);
    }

    private Reason NotAllowed(Practitioner practitioner, StaffRule rule, Service service)
    {
        IReadOnlyList<Guid> missing = rule.MissingOn(practitioner, day.Day.Date);
        LocalDate? ended = missing
            .Select(needed =>
                practitioner
                    .Qualifications.Where(held => held.QualificationId == needed && held.HasEndedOn(day.Day.Date))
                    .Max(held => held.Until)
            )
            .Where(until => until is not null)
            .Min();
        ReasonCode code =
            practitioner.IsRetiredOn(day.Day.Date) ? ReasonCode.PractitionerRetired
            : missing.Count == 0 || rule.Excluded.Contains(practitioner.Id) ? ReasonCode.NotChosenForService
            : ended is null ? ReasonCode.NotQualified
            : ReasonCode.QualificationEnded;
        return OfPractitioner(code, practitioner) with
        {
            Value = service.Name,
            Ended = code == ReasonCode.QualificationEnded ? ended : null,
        };
    }

    /// <summary>Leads of a line whom a client may book with, if there are any; else all.</summary>
    private int[] LeadsOf(int line)
    {
        int[] all = frame.CandidatesOn(line, 0, day.Day.Date);
        int[] open = asClient ? Array.FindAll(all, lead => rules.Accepts(line, lead)) : all;
        return open.Length > 0 ? open : all;
    }

    /// <summary>Every way to lead a line and every place it may then begin at, without waits.</summary>
    private List<Lay> LaysOf(int line, int start)
    {
        int before = frame.Before[line];
        IEnumerable<int> places =
            before < 0 ? [start + frame.Offsets[line]] : LaysOf(before, start).Select(lay => lay.At + lay.Shape.Grains).Distinct();
        int[] leads = LeadsOf(line);
        return
        [
            .. from at in places.ToList()
            from lead in leads.Length > 0 ? leads : [-1]
            select new Lay(line, lead, frame.ShapeOf(line, lead), at),
        ];
    }

    private List<Reason> Causes(int who, int role, Lay lay, Service service)
    {
        List<Reason> found = [];
        Practitioner practitioner = _house.Practitioners[who];
        IReadOnlyList<GrainSpan> spans = lay.Shape.RoleSpans[role];
        for (int i = 0; i < spans.Count; i++)
        {
            int from = lay.At + spans[i].From - (i == 0 && lay.Shape.Begins(role) ? lay.Shape.BufferBefore : 0);
            int until = lay.At + spans[i].Until + (i == spans.Count - 1 && lay.Shape.Ends(role) ? lay.Shape.BufferAfter : 0);
            found.AddRange(Stretch(who, practitioner, service, from, until));
        }

        LedLine led = new(service.CategoryId, lay.Shape, true, true);
        if (found.Count == 0 && asClient && role == 0 && !DailyRule.Allows(practitioner, day.Loads[who], [led]))
            found.Add(OfPractitioner(ReasonCode.DailyLimit, practitioner));
        if (found.Count > 0 && role == 0 && lay.Shape.Grains != frame.UsualShapes[lay.Line].Grains)
            found.Add(OwnLength(lay));
        return found;
    }

    private IEnumerable<Reason> Stretch(int who, Practitioner practitioner, Service service, int from, int until)
    {
        int units = _house.UnitsOf(who, service);
        if (Enumerable.Range(0, practitioner.Attention).Count(unit => day.FreeFor(who, unit, service).Covers(from, until)) >= units)
            yield break;
        foreach (Reason reason in ShiftReasons.Of(day, who, service, from, until))
            yield return reason;
        foreach (Reason reason in Blocks(OfPractitioner(ReasonCode.PractitionerBlocked, practitioner), from, until))
            yield return reason;
        foreach (Reason reason in TakenBy(OfPractitioner(ReasonCode.PractitionerTaken, practitioner), from, until))
            yield return reason;
    }

    /// <summary>Who would take another length than is usual for a line, and so needs more or less than others.</summary>
    internal List<Reason> OwnLengths(int start) =>
        [
            .. from line in Enumerable.Range(0, frame.Lines)
            from lay in LaysOf(line, start)
            where lay.Lead >= 0 && lay.Shape.Grains != frame.UsualShapes[line].Grains
            select OwnLength(lay),
        ];

    private Reason OwnLength(Lay lay) =>
        OfPractitioner(ReasonCode.OwnLength, _house.Practitioners[lay.Lead]) with
        {
            Value = frame.Services[lay.Line].Name,
            Minutes = lay.Shape.Grains * Grain.Minutes,
        };

    /// <summary>Everybody who is free to take the whole visit or its first line, and from when until when it would hold them.</summary>
    internal IEnumerable<(int Who, int From, int Until)> HeldBy(int start) =>
        from line in Enumerable.Range(0, frame.Lines)
        from lay in LaysOf(line, start)
        where lay.Lead >= 0 && Causes(lay.Lead, 0, lay, frame.Services[line]).Count == 0
        let held = lay.Shape.HeldBy(0)
        where held.From < held.Until
        group (From: lay.At + held.From, Until: lay.At + held.Until) by lay.Lead into own
        select (own.Key, own.Min(pair => pair.From), own.Max(pair => pair.Until));

    private int FreeUnits(int first, int units, int from, int until) =>
        Enumerable.Range(first, units).Count(unit => day.Free(unit).Covers(from, until));

    private IEnumerable<Reason> Blocks(Reason reason, int from, int until)
    {
        Interval wanted = day.Day.Between(from, until);
        return day
            .Blocked.Where(block => block.ResourceId == reason.SubjectId && Overlap(block.During, wanted))
            .Select(block =>
                reason with
                {
                    Code = block.Kind == BlockKind.TimeOff ? ReasonCode.PractitionerAway : reason.Code,
                    From = block.During.Start,
                    Until = block.During.End,
                    Value = block.Reason,
                }
            );
    }

    /// <summary>Everything that meets a stretch, and what is elsewhere so near to it that no time is left to travel.</summary>
    private IEnumerable<Reason> TakenBy(Reason reason, int from, int until)
    {
        Interval wanted = day.Day.Between(from, until);
        foreach (TakenTime claim in day.Taken.Where(claim => claim.ResourceId == reason.SubjectId).OrderBy(claim => claim.During.Start))
        {
            Duration travel = Duration.FromMinutes(_house.TravelMinutes(claim.LocationId, _house.Location.Id));
            bool meets = Overlap(claim.During, wanted);
            if (!meets && !Overlap(new Interval(claim.During.Start - travel, claim.During.End + travel), wanted))
                continue;
            yield return reason with
            {
                Code = meets ? reason.Code : ReasonCode.TravelTooShort,
                From = claim.During.Start,
                Until = claim.During.End,
                // Who is choosing has no visit that could be opened.
                AppointmentId = claim.ExpiresAt is null ? claim.OccupationId : null,
                RunsOut = claim.ExpiresAt,
            };
        }
    }

    private static Reason OfPractitioner(ReasonCode code, Practitioner practitioner) =>
        new(Gate.Practitioner, code, practitioner.Id, practitioner.Name) { OwnerKind = OwnerKind.Practitioner, OwnerId = practitioner.Id };

    private static bool Overlap(Interval a, Interval b) => a.Start < b.End && b.Start < a.End;
}
