using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>The starts of a day that a client is offered.</summary>
/// <param name="Starts">All of them.</param>
/// <param name="Last">Those that leave a gap nobody can use and are offered after the others.</param>
public readonly record struct OfferedStarts(DaySet Starts, DaySet Last);

/// <summary>
/// Answers for one wish what can be booked, day by day: which starts are feasible, which are offered to a client, with whom
/// and where, and why not. One engine decides all of it, with more or fewer gates closed (rules, section 5).
/// </summary>
public sealed class StartFinder
{
    private static readonly Gate[] _staffGates = [Gate.Practitioner, Gate.RoomAndEquipment];
    private static readonly Gate[] _allGates = Enum.GetValues<Gate>();
    private readonly VisitFrame _frame;

    /// <summary>Who asks. Staff are not bound by what binds clients, such as daily limits.</summary>
    private sealed record Question(Audience Audience, Instant Now, bool AsClient)
    {
        internal static Question OfStaff { get; } = new(Audience.Stranger, Instant.MinValue, false);
    }

    /// <summary>Prepares a wish against a house.</summary>
    /// <exception cref="ArgumentException">The wish has no line or too many.</exception>
    /// <exception cref="KeyNotFoundException">A service of the wish is unknown.</exception>
    public StartFinder(House house, VisitWish wish)
    {
        ArgumentNullException.ThrowIfNull(house);
        ArgumentNullException.ThrowIfNull(wish);
        _frame = new VisitFrame(house, wish);
    }

    /// <summary>Whether the practitioner is assigned by load, so that plans want the load of the week.</summary>
    public bool AsksForLoad => _frame.House.RulesOf(_frame.Services[0]).Values.Assignment != Assignment.HouseOrder;

    /// <summary>The practitioners among whom somebody is assigned by the load of their week on a date: none where the house assigns by its
    /// order, or nobody is left to choose.</summary>
    public IReadOnlyCollection<Guid> AssignedByLoadOn(LocalDate date) =>
        !AsksForLoad
            ? []
            :
            [
                .. Enumerable.Range(0, _frame.Lines)
                    .SelectMany(line => _frame.Services[line].Roles.Select((_, role) => _frame.CandidatesOn(line, role, date)))
                    .Where(candidates => candidates.Length > 1)
                    .SelectMany(candidates => candidates)
                    .Distinct()
                    .Select(who => _frame.House.Practitioners[who].Id),
            ];

    /// <summary>Every start of the day that some assignment of practitioners, room and equipment serves; for staff.</summary>
    public DaySet Feasible(DayBook day) => new Asked(_frame, Question.OfStaff).Starts(day, _staffGates, noGap: false);

    /// <summary>The starts offered to a client.</summary>
    /// <param name="day">The day.</param>
    /// <param name="audience">Who asks.</param>
    /// <param name="now">The present.</param>
    public DaySet Offered(DayBook day, Audience audience, Instant now) => OfferedInOrder(day, audience, now).Starts;

    /// <summary>The starts offered to a client, and which of them come last.</summary>
    public OfferedStarts OfferedInOrder(DayBook day, Audience audience, Instant now) =>
        new Asked(_frame, new Question(audience, now, true)).Offered(day);

    /// <summary>The starts offered to a client on many days, in their order; what does not change from day to day is worked out
    /// once.</summary>
    public OfferedStarts[] OfferedInOrder(IReadOnlyList<DayBook> days, Audience audience, Instant now)
    {
        ArgumentNullException.ThrowIfNull(days);
        Asked asked = new(_frame, new Question(audience, now, true));
        OfferedStarts[] found = new OfferedStarts[days.Count];
        for (int i = 0; i < found.Length; i++) found[i] = asked.Offered(days[i]);
        return found;
    }

    /// <summary>
    /// The visit as it would be booked at a start for staff, or null when it is not feasible: fewest changes of practitioner,
    /// people as the house assigns them, rooms by section 6.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="start">The grain of the start.</param>
    /// <param name="week">The load of the week, for a house that assigns by it.</param>
    public VisitPlan? PlanFeasible(DayBook day, int start, WeekLoad? week = null) =>
        new Asked(_frame, Question.OfStaff).Plan(day, start, _staffGates, week, noGap: false);

    /// <summary>
    /// The visit as staff may book it at a start knowingly, over as little as possible; null when even that is not possible, or is
    /// not allowed. Qualifications and equipment that is not there are never waived, and no room but one that was chosen by hand is
    /// taken without what the service asks for.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="start">The grain of the start.</param>
    /// <param name="allowed">What may be booked over.</param>
    /// <param name="week">The load of the week, for a house that assigns by it.</param>
    public KnowingPlan? PlanKnowingly(DayBook day, int start, Waivers allowed, WeekLoad? week = null)
    {
        ArgumentNullException.ThrowIfNull(day);
        if (allowed.HasFlag(Waivers.UnsuitedRoom) && InChosenRooms() is { } knowing)
            return knowing.PlanKnowingly(day, start, allowed & ~Waivers.UnsuitedRoom, week);
        Easing needed = Easings.Of(allowed);
        VisitPlan? plan = PlanFeasible(day.Eased(needed), start, week);
        if (plan is null) return null;
        // What more is eased can only help; so each that is not missed goes, the greatest first, and what is left is the least.
        foreach (Easing easing in Easings.GreatestFirst.Where(easing => needed.HasFlag(easing)))
        {
            if (PlanFeasible(day.Eased(needed & ~easing), start, week) is { } lesser) (needed, plan) = (needed & ~easing, lesser);
        }

        return new Overruns(day).Of(plan);
    }

    /// <summary>The same wish, with every room that was chosen taken as it is; null where each of them fits.</summary>
    private StartFinder? InChosenRooms()
    {
        bool IsUnsuited(LineWish line, int i) =>
            !line.TakesUnsuitedRoom
            && line.RoomId is { } chosen
            && _frame.Services[i].Room is { } rule
            && _frame.House.Rooms.FirstOrDefault(room => room.Id == chosen) is { } room
            && !rule.Accepts(room);
        if (!_frame.Wish.Lines.Where(IsUnsuited).Any()) return null;
        return new StartFinder(
            _frame.House,
            _frame.Wish with
            {
                Lines =
                [
                    .. _frame.Wish.Lines.Select((line, i) => IsUnsuited(line, i) ? line with { TakesUnsuitedRoom = true } : line),
                ],
            }
        );
    }

    /// <summary>The visit as a client would book it at a start, or null when that start is not offered.</summary>
    public VisitPlan? PlanOffered(DayBook day, int start, Audience audience, Instant now, WeekLoad? week = null)
    {
        Asked asked = new(_frame, new Question(audience, now, true));
        if (asked.Rules.On(day).Gap == GapRule.Off) return asked.Plan(day, start, _allGates, week, noGap: false);
        if (!asked.Offered(day).Starts.Contains(start)) return null;
        // A plan that leaves no gap goes before one that does.
        return asked.Plan(day, start, _allGates, week, noGap: true) ?? asked.Plan(day, start, _allGates, week, noGap: false);
    }

    /// <summary>Whether a booking of this client waits for the desk, whoever it is with and whatever is given for it.</summary>
    public bool NeedsApproval(DayBook day, Audience audience, Instant now) =>
        new GateRules(_frame, audience, now).On(day).NeedsApproval(null, paysLater: false);

    /// <summary>Whether a booking of this client waits for the desk to approve it.</summary>
    /// <param name="day">The day.</param>
    /// <param name="audience">Who asks.</param>
    /// <param name="now">The present.</param>
    /// <param name="plan">How it would lie.</param>
    /// <param name="paysLater">Whether nothing is given for it before they come.</param>
    public bool NeedsApproval(DayBook day, Audience audience, Instant now, VisitPlan plan, bool paysLater) =>
        new GateRules(_frame, audience, now).On(day).NeedsApproval(plan, paysLater);

    /// <summary>What staff are told before they book a plan that fits: a visit that has to come first and is missing (rules, section
    /// 5).</summary>
    /// <param name="day">The day.</param>
    /// <param name="start">The grain of the start.</param>
    /// <param name="audience">Whom it is for.</param>
    /// <param name="now">The present.</param>
    public IReadOnlyList<Reason> MissingBefore(DayBook day, int start, Audience audience, Instant now)
    {
        GateRules rules = new GateRules(_frame, audience, now).On(day);
        return new ReasonFinder(_frame, day, rules, asClient: false).MissingBefore(start);
    }

    /// <summary>How many starts of the grid each gate removed first, for a day (rules, section 5, "Why not?").</summary>
    public IReadOnlyDictionary<Gate, int> RemovedByGate(DayBook day, Audience audience, Instant now) => Explain(day, audience, now).Removed;

    /// <summary>Every gate that refuses a start to a client, in order; empty when it is offered.</summary>
    public IReadOnlyList<Refusal> WhyNotOffered(DayBook day, int start, Audience audience, Instant now) =>
        Explain(day, audience, now).At(start);

    /// <summary>Every gate that refuses a start to staff, in order; empty when it is feasible.</summary>
    public IReadOnlyList<Refusal> WhyNotFeasible(DayBook day, int start) => ExplainFeasible(day).At(start);

    /// <summary>The whole day as a client finds it, with the reasons for every start that is not offered.</summary>
    public DayReasons Explain(DayBook day, Audience audience, Instant now) => Explain(day, _allGates, new Question(audience, now, true));

    /// <summary>The whole day as staff find it, with the reasons for every start that does not fit.</summary>
    public DayReasons ExplainFeasible(DayBook day) => Explain(day, _staffGates, Question.OfStaff);

    private DayReasons Explain(DayBook day, Gate[] gates, Question question)
    {
        ArgumentNullException.ThrowIfNull(day);
        if (question.AsClient) day = day.ForClients();
        Asked asked = new(_frame, question);
        GateRules rules = asked.Rules.On(day);
        Dictionary<Gate, DaySet> alone = [], together = [];
        List<Gate> passed = [];
        foreach (Gate gate in gates)
        {
            passed.Add(gate);
            if (gate == Gate.Gap)
            {
                DaySet kept = asked.Offered(day).Starts;
                // On its own the gap rule looks at starts that fit; what does not fit leaves no gap.
                DaySet fits = asked.Starts(day, _staffGates, noGap: false);
                bool refuses = rules.Gap == GapRule.Strict && kept != together[Gate.RoomAndEquipment];
                (alone[gate], together[gate]) = (
                    refuses ? DaySet.Full.Except(fits.Except(asked.Starts(day, _staffGates, noGap: true))) : DaySet.Full,
                    kept
                );
                continue;
            }

            alone[gate] = asked.Starts(day, [gate], noGap: false);
            together[gate] = asked.Starts(day, [.. passed], noGap: false);
        }

        DaySet grid = rules.Grid == StartGrid.EveryMinutes ? rules.GridStarts(-1) : day.Day.Whole;
        Dictionary<House, Asked> probes = [];
        bool Passes(DayBook other, Gate gate, int start)
        {
            if (!probes.TryGetValue(other.House, out Asked? probe))
                probes[other.House] = probe = new Asked(new VisitFrame(other.House, _frame.Wish), question);
            Gate[] before = [.. gates.TakeWhile(earlier => earlier != gate)];
            return probe.Starts(other, [gate], noGap: false).Contains(start)
                && (!probe.Starts(other, before, noGap: false).Contains(start)
                    || probe.Starts(other, [.. before, gate], noGap: false).Contains(start));
        }

        ReasonFinder reasons = new(_frame, day, rules, question.AsClient, Passes);
        return new DayReasons(day, grid & day.Day.Whole, alone, together, reasons);
    }

    /// <summary>A question put to one day after another; what is worked out for it is used again.</summary>
    private sealed class Asked(VisitFrame frame, Question question)
    {
        private readonly StartSets _sets = new(frame);
        private readonly SearchLimits _limits = new();
        private readonly int[][][] _candidates = [.. frame.Services.Select(service => new int[service.Roles.Count][])];
        // For each line whom the last day asked allowed to lead it, and whom of those this client may book.
        private readonly int[]?[] _allowed = new int[]?[frame.Lines], _bookable = new int[]?[frame.Lines];
        private Func<int, DaySet>? _byLead;
        private Func<int, GrainSpan, DaySet>? _byHold;

        internal GateRules Rules { get; } = new(frame, question.Audience, question.Now);

        internal OfferedStarts Offered(DayBook day)
        {
            ArgumentNullException.ThrowIfNull(day);
            day = AsAsked(day);
            GapRule rule = Rules.On(day).Gap;
            if (rule == GapRule.Off) return new OfferedStarts(Starts(day, _allGates, noGap: false), DaySet.Empty);
            DaySet clean = Starts(day, _allGates, noGap: true);
            if (rule == GapRule.Strict && !clean.IsEmpty) return new OfferedStarts(clean, DaySet.Empty);
            // Strict that would leave nothing in a day does what prefer does.
            DaySet all = Starts(day, _allGates, noGap: false);
            return new OfferedStarts(all, all.Except(clean));
        }

        internal DaySet Starts(DayBook day, Gate[] gates, bool noGap)
        {
            ArgumentNullException.ThrowIfNull(day);
            day = AsAsked(day);
            DaySet within = Within(day, gates);
            if (within.IsEmpty || !Choose(day, gates)) return DaySet.Empty;
            SearchLimits limits = Limits(day, gates, noGap);
            (DaySet certain, DaySet possible) = _sets.Of(day, _candidates, limits, within);
            DaySet open = possible.Except(certain);
            if (open.IsEmpty) return certain;
            VisitSearch search = new(frame, day, _candidates, limits);
            foreach (int start in open)
                if (search.Exists(start)) certain |= DaySet.Of(start);
            return certain;
        }

        internal VisitPlan? Plan(DayBook day, int start, Gate[] gates, WeekLoad? week, bool noGap)
        {
            ArgumentNullException.ThrowIfNull(day);
            day = AsAsked(day);
            if (!Within(day, gates).Contains(start) || !Choose(day, gates)) return null;
            SearchLimits limits = Limits(day, gates, noGap);
            Assignment assignment = Rules.OfFirst.Values.Assignment!.Value;
            limits.Order = new StaffOrder(day, assignment, week, limits.Gaps ?? (assignment == Assignment.TightFit ? GapsOf(day) : null));
            return new VisitSearch(frame, day, _candidates, limits).PlanAt(start);
        }

        private DayBook AsAsked(DayBook day) => question.AsClient ? day.ForClients() : day;

        private DaySet Within(DayBook day, Gate[] gates)
        {
            GateRules rules = Rules.On(day);
            DaySet within = day.Day.Whole;
            if (gates.Contains(Gate.Client) && rules.IsClientRefused) return DaySet.Empty;
            if (gates.Contains(Gate.Service)) within &= rules.ServiceStarts();
            if (gates.Contains(Gate.Date)) within &= rules.DateStarts();
            // A grid by the clock is the same for whoever leads.
            if (gates.Contains(Gate.StartGrid) && rules.Grid == StartGrid.EveryMinutes) within &= rules.GridStarts(-1);
            return gates.Contains(Gate.Practitioner) && frame.IsElsewhere ? DaySet.Empty : within;
        }

        private SearchLimits Limits(DayBook day, Gate[] gates, bool noGap)
        {
            bool onGrid = gates.Contains(Gate.StartGrid);
            _limits.Practitioners = gates.Contains(Gate.Practitioner);
            _limits.Daily = _limits.Practitioners && question.AsClient && frame.House.HasDailyLimits;
            _limits.Rooms = _limits.Equipment = gates.Contains(Gate.RoomAndEquipment);
            _limits.Within = gates.Contains(Gate.OpeningHours) ? day.Opening : null;
            _limits.ByLead = onGrid && Rules.Grid == StartGrid.SetTimes ? _byLead ??= Rules.GridStarts : null;
            _limits.ByHold = onGrid && Rules.Grid == StartGrid.BackToBack ? _byHold ??= Rules.BackToBackStarts : null;
            _limits.Gaps = noGap ? GapsOf(day) : null;
            _limits.Order = null;
            return _limits;
        }

        private GapSets GapsOf(DayBook day) => new(frame, day, Rules.OfGap.Values.ShortestGapMinutes);

        /// <summary>Who may be asked for each role.</summary>
        /// <returns>False when some role has nobody.</returns>
        private bool Choose(DayBook day, Gate[] gates)
        {
            bool practitioners = gates.Contains(Gate.Practitioner), clients = gates.Contains(Gate.Client);
            for (int line = 0; line < _candidates.Length; line++)
            {
                for (int role = 0; role < _candidates[line].Length; role++)
                {
                    int[] allowed = role > 0 && !practitioners ? _nobody : frame.CandidatesOn(line, role, day.Day.Date);
                    // Without gate 6 a role nobody may take still has a length: somebody, nobody in particular.
                    if (allowed.Length == 0 && !practitioners) allowed = _nobody;
                    if (role == 0 && clients) allowed = Bookable(line, allowed);
                    if (allowed.Length == 0) return false;
                    _candidates[line][role] = allowed;
                }
            }

            return true;
        }

        /// <summary>Those of the leads of a line whom this client may book; worked out anew only when others are allowed than the day
        /// before.</summary>
        private int[] Bookable(int line, int[] allowed)
        {
            if (ReferenceEquals(_allowed[line], allowed)) return _bookable[line]!;
            List<int> bookable = [];
            foreach (int who in allowed)
                if (who < 0 || Rules.Accepts(line, who)) bookable.Add(who);
            (_allowed[line], _bookable[line]) = (allowed, [.. bookable]);
            return _bookable[line]!;
        }

        private static readonly int[] _nobody = [-1];
    }
}
