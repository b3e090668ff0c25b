using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>The gates that do not depend on what is free: who asks, what for, when (rules, section 5, gates 1 to 5).</summary>
internal sealed class GateRules(VisitFrame frame, Audience audience, Instant now)
{
    private LocalDate? _horizon;
    private int? _leadMinutes;
    private bool? _isClientRefused,
        _isServiceRefused;
    private GapRule? _gap;
    private DayBook _day = null!;

    private readonly Location _location = frame.House.Location;
    private readonly EffectiveRules[] _rules = [.. frame.Services.Select(service => frame.House.RulesOf(service).For(audience.Own))];

    /// <summary>These rules looking at another day.</summary>
    internal GateRules On(DayBook other)
    {
        _day = other;
        return this;
    }

    /// <summary>Whether anything keeps the client from booking at all.</summary>
    internal bool IsClientRefused => _isClientRefused ??= RefusesClient().Any();

    /// <summary>Gate 1, whoever is to do it: everything that keeps the client from booking at all.</summary>
    internal IEnumerable<ReasonCode> RefusesClient()
    {
        if (!frame.House.BusinessIsOnline)
            yield return ReasonCode.BusinessNotOnline;
        if (!_location.BookableOnline)
            yield return ReasonCode.LocationNotOnline;
        if (audience.IsNew && !_location.AcceptsNewClients)
            yield return ReasonCode.LocationNoNewClients;
        if (!audience.MayBookOnline)
            yield return ReasonCode.ClientNotOnline;
        if (_location.NoShowLimit is { Action: NoShowAction.Refuse } limit && IsOver(limit))
            yield return ReasonCode.TooManyNoShows;
    }

    /// <summary>Whether a booking of this client waits for the desk.</summary>
    /// <param name="plan">Who would do it, of whom the one counts that the client chooses; null where that is not known yet.</param>
    /// <param name="paysLater">Whether nothing is given for it before they come.</param>
    internal bool NeedsApproval(VisitPlan? plan, bool paysLater) =>
        _location.NoShowLimit is { Action: NoShowAction.Approve } limit && IsOver(limit)
        || plan?.Lines.Any(line => frame.House.Practitioners.Any(one => one.NeedsApproval && one.Id == line.Practitioners[0])) == true
        || _rules.Any(rules =>
            rules.Values.Approval switch
            {
                Approval.Everyone => true,
                Approval.NewClients => audience.IsNew,
                Approval.PayLater => paysLater,
                _ => false,
            }
        );

    private bool IsOver(NoShowLimit limit)
    {
        Instant since = now.InZone(_location.Zone).Date.PlusMonths(-limit.Months).AtStartOfDayInZone(_location.Zone).ToInstant();
        return audience.Missed.Count(at => at >= since && at <= now) >= limit.Times;
    }

    /// <summary>Whether a client may book the first role of a line with this practitioner.</summary>
    internal bool Accepts(int line, int practitioner) =>
        frame.House.Practitioners[practitioner].BookableOnline && AcceptsNew(line, frame.House.Practitioners[practitioner]);

    /// <summary>Why a client may not book the first role of a line with this practitioner.</summary>
    internal IEnumerable<ReasonCode> RefusesLead(int line, int practitioner)
    {
        Practitioner lead = frame.House.Practitioners[practitioner];
        if (!lead.BookableOnline)
            yield return ReasonCode.PractitionerNotOnline;
        if (!AcceptsNew(line, lead))
            yield return ReasonCode.NoNewClients;
    }

    private bool AcceptsNew(int line, Practitioner lead) =>
        !audience.IsNew || (lead.AcceptsNewClients && (frame.Services[line].Terms.GetValueOrDefault(lead.Id)?.AcceptsNewClients ?? true));

    /// <summary>Gate 2: the starts at which every service may be booked.</summary>
    internal DaySet ServiceStarts()
    {
        if (_isServiceRefused ??= frame.Services.Any(service => RefusesService(service).Any()))
            return DaySet.Empty;
        DaySet starts = DaySet.Full;
        foreach (Service service in frame.Services)
            if (service.Prerequisite is { } before)
                starts &= Satisfying(before);

        return starts;
    }

    /// <summary>Everything that keeps a service from being booked online by this client at all.</summary>
    internal IEnumerable<ReasonCode> RefusesService(Service service)
    {
        if (service.IsArchived)
            yield return ReasonCode.ServiceArchived;
        if (service.Kind == ServiceKind.Group)
            yield return ReasonCode.ServiceForGroups;
        if (!WhoMayBook.IsOpenTo(service, audience.Links))
            yield return ReasonCode.ServiceNotOnline;
        if (service.For == ClientKind.NewOnly && !audience.IsNew)
            yield return ReasonCode.OnlyNewClients;
        if (service.For == ClientKind.ReturningOnly && audience.IsNew)
            yield return ReasonCode.OnlyReturningClients;
    }

    /// <summary>The starts that lie in the window of a prerequisite after one of the client's visits.</summary>
    internal DaySet Satisfying(Prerequisite before)
    {
        DaySet starts = DaySet.Empty;
        foreach (EarlierVisit visit in audience.Visits.Where(visit => visit.ServiceId == before.ServiceId && visit.MayCount(now)))
        {
            starts |= DaySet.Range(_day.Day.Ceiling(before.EarliestAfter(visit.End)), _day.Day.Floor(before.LatestAfter(visit.End)) + 1);
        }

        return starts;
    }

    /// <summary>Gate 3: the longest lead time and the shortest horizon of the lines hold, and every rule about dates.</summary>
    internal DaySet DateStarts()
    {
        if (IsTooFar || Stopped is not null)
            return DaySet.Empty;
        foreach (Service service in frame.Services)
            if (IsOffWeekday(service) || IsOutOfSeason(service))
                return DaySet.Empty;
        return DaySet.Range(_day.Day.Ceiling(now + Duration.FromMinutes(LeadMinutes)), DaySet.Last + 1);
    }

    private int LeadMinutes => _leadMinutes ??= _rules.Max(rules => rules.Values.LeadMinutesFor(audience.IsNew));

    /// <summary>The lead times a start does not keep, the longest first, each with the place that sets it: of every line the most specific
    /// one that sets one for such a client.</summary>
    internal IEnumerable<(int Minutes, (RulePlace Place, Guid? Id) Source)> LeadsAfter(int start) =>
        _rules
            .Select(rules =>
                (rules.Values.LeadMinutesFor(audience.IsNew), SourceOf(rules, own => own.LeadMinutes, own => own.NewLeadMinutes))
            )
            .Where(lead => _day.Day.At(start) < now + Duration.FromMinutes(lead.Item1))
            .OrderByDescending(lead => lead.Item1);

    /// <summary>How far ahead such a client may book, where that does not reach this date, the least far first, each with the place that
    /// sets it.</summary>
    internal IEnumerable<(int Days, (RulePlace Place, Guid? Id) Source)> HorizonsBefore() =>
        _rules
            .Select(rules =>
                (rules.Values.HorizonDaysFor(audience.IsNew), SourceOf(rules, own => own.HorizonDays, own => own.NewHorizonDays))
            )
            .Where(horizon => _day.Day.Date > now.InZone(_location.Zone).Date.PlusDays(horizon.Item1))
            .OrderBy(horizon => horizon.Item1);

    /// <summary>The place whose start grid decides.</summary>
    internal (RulePlace Place, Guid? Id) SourceOfGrid =>
        OfFirst.SourceOf(own =>
            Grid == StartGrid.EveryMinutes ? own.EveryMinutes is not null || own.Grid is not null : own.Grid is not null
        );

    /// <summary>The place whose gap rule decides.</summary>
    internal (RulePlace Place, Guid? Id) SourceOfGap => OfGap.SourceOf(own => own.Gap is not null);

    // What a place sets for new clients only is asked by them only, and named only to them.
    private (RulePlace Place, Guid? Id) SourceOf(EffectiveRules rules, Func<OnlineRules, int?> forAll, Func<OnlineRules, int?> forNew) =>
        rules.SourceOf(own => (audience.IsNew ? forNew(own) ?? forAll(own) : forAll(own)) is not null);

    /// <summary>The rules of the first line: grid and assignment are its own.</summary>
    internal EffectiveRules OfFirst => _rules[0];

    internal bool IsTooFar =>
        _day.Day.Date > (_horizon ??= Horizon.Of(frame.House, frame.Services.Select(service => service.Id), audience, now));

    internal OnlineStop? Stopped => _day.Dated.StopOn(_location.Id, _day.Day.Date);

    /// <summary>Why a service is not offered on this date.</summary>
    internal IEnumerable<ReasonCode> RefusesDate(Service service)
    {
        if (IsOffWeekday(service))
            yield return ReasonCode.NotThatWeekday;
        if (IsOutOfSeason(service))
            yield return ReasonCode.OutOfSeason;
    }

    private bool IsOffWeekday(Service service) => service.Weekdays.Count > 0 && !service.Weekdays.Contains(_day.Day.Date.DayOfWeek);

    private bool IsOutOfSeason(Service service) => service.Season?.Contains(_day.Day.Date) == false;

    /// <summary>The gap rule of the visit: the strictest of its lines.</summary>
    internal GapRule Gap => _gap ??= _rules.Max(rules => rules.Values.Gap!.Value);

    /// <summary>The rules of the line with the strictest gap rule.</summary>
    internal EffectiveRules OfGap => _rules.MaxBy(rules => rules.Values.Gap!.Value)!;

    /// <summary>The grid of the visit is that of its first line.</summary>
    internal StartGrid Grid => _rules[0].Values.Grid!.Value;

    internal int GridMinutes => _rules[0].Values.EveryMinutes!.Value;

    /// <summary>Gate 5: the starts on the grid with this practitioner as lead of the first line; -1 for nobody in particular. Back to back
    /// is not among them.</summary>
    internal DaySet GridStarts(int lead) =>
        Grid switch
        {
            StartGrid.EveryMinutes => _day.Day.EveryMinutes(GridMinutes),
            StartGrid.SetTimes => SetTimes(lead),
            _ => _day.Day.Whole,
        };

    private DaySet SetTimes(int lead)
    {
        Guid? practitioner = lead < 0 ? null : frame.House.Practitioners[lead].Id;
        DaySet starts = DaySet.Empty;
        foreach (SetTime time in frame.Services[0].SetTimes)
        {
            if (time.Weekday != _day.Day.Date.DayOfWeek)
                continue;
            if (time.PractitionerId is { } only && practitioner is { } id && only != id)
                continue;
            if (_day.Day.GrainOfStart(_day.Day.Of(time.At)) is { } grain)
                starts |= DaySet.Of(grain);
        }

        return starts;
    }

    /// <summary>
    /// From the beginning of each free run, one after another, each as long as what the visit holds of its lead, from the first buffer
    /// to the last with pauses between (example 5c).
    /// </summary>
    /// <param name="lead">Who leads the first line, or -1 for nobody in particular.</param>
    /// <param name="held">From when until when they would be held, in grains from the start.</param>
    internal DaySet BackToBackStarts(int lead, GrainSpan held)
    {
        int length = held.Until - held.From;
        if (lead < 0 || length <= 0)
            return DaySet.Full;
        DaySet starts = DaySet.Empty;
        foreach ((int from, int until) in _day.RunsOf(lead, frame.Services[0]))
        {
            for (int at = from; at + length <= until; at += length)
                starts |= DaySet.Of(at - held.From);
        }

        return starts;
    }
}
