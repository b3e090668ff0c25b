using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>The starts of a day that a client is offered.</summary>
/// <param name="Starts">All of them.</param>
/// <param name="Last">Those that leave a gap nobody can use and are offered after the others.</param>
public sealed record OfferedStarts(DaySet Starts, DaySet Last);

/// <summary>
/// Answers for one wish what can be booked, day by day: which starts are feasible, which are offered to a client, with whom
/// and where, and why not. One search decides all of it, with more or fewer gates closed (rules, section 5).
/// </summary>
public sealed class StartFinder
{
    private static readonly IReadOnlySet<Gate> _staffGates = new HashSet<Gate> { Gate.Practitioner, Gate.RoomAndEquipment };
    private static readonly IReadOnlySet<Gate> _allGates = new HashSet<Gate>(Enum.GetValues<Gate>());
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

    /// <summary>Every start of the day that some assignment of practitioners, room and equipment serves; for staff.</summary>
    public DaySet Feasible(DayBook day) => Starts(day, _staffGates, Question.OfStaff);

    /// <summary>The starts offered to a client.</summary>
    /// <param name="day">The day.</param>
    /// <param name="audience">Who asks.</param>
    /// <param name="now">The present.</param>
    public DaySet Offered(DayBook day, Audience audience, Instant now) => OfferedInOrder(day, audience, now).Starts;

    /// <summary>The starts offered to a client, and which of them come last.</summary>
    public OfferedStarts OfferedInOrder(DayBook day, Audience audience, Instant now) => Offered(day, new Question(audience, now, true));

    /// <summary>
    /// The visit as it would be booked at a start for staff, or null when it is not feasible: fewest changes of practitioner,
    /// people as the house assigns them, rooms by section 6.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="start">The grain of the start.</param>
    /// <param name="week">The load of the week, for a house that assigns by it.</param>
    public VisitPlan? PlanFeasible(DayBook day, int start, WeekLoad? week = null) => Plan(day, start, _staffGates, Question.OfStaff, week, noGap: false);

    /// <summary>
    /// The visit as staff may book it at a start knowingly, over as little as possible; null when even that is not possible, or is
    /// not allowed. Qualifications, rooms that do not fit and equipment that is not there are never waived.
    /// </summary>
    /// <param name="day">The day.</param>
    /// <param name="start">The grain of the start.</param>
    /// <param name="allowed">What may be booked over.</param>
    /// <param name="week">The load of the week, for a house that assigns by it.</param>
    public KnowingPlan? PlanKnowingly(DayBook day, int start, Waivers allowed, WeekLoad? week = null)
    {
        ArgumentNullException.ThrowIfNull(day);
        Easing needed = Easings.Of(allowed);
        VisitPlan? plan = PlanFeasible(day.Eased(needed), start, week);
        if (plan is null) return null;
        // What more is eased can only help; so each that is not missed goes, the greatest first, and what is left is the least.
        foreach (Easing one in Easings.GreatestFirst.Where(one => needed.HasFlag(one)))
        {
            if (PlanFeasible(day.Eased(needed & ~one), start, week) is { } lesser) (needed, plan) = (needed & ~one, lesser);
        }

        return new Overruns(day).Of(plan);
    }

    /// <summary>The visit as a client would book it at a start, or null when that start is not offered.</summary>
    public VisitPlan? PlanOffered(DayBook day, int start, Audience audience, Instant now, WeekLoad? week = null)
    {
        Question question = new(audience, now, true);
        if (Rules(day, question).Gap == GapRule.Off) return Plan(day, start, _allGates, question, week, noGap: false);
        if (!Offered(day, question).Starts.Contains(start)) return null;
        // A plan that leaves no gap goes before one that does.
        return Plan(day, start, _allGates, question, week, noGap: true) ?? Plan(day, start, _allGates, question, week, noGap: false);
    }

    /// <summary>Whether a booking of this client waits for the desk to approve it.</summary>
    public bool NeedsApproval(DayBook day, Audience audience, Instant now) => Rules(day, new Question(audience, now, true)).NeedsApproval;

    /// <summary>How many starts of the grid each gate removed first, for a day (rules, section 5, "Why not?").</summary>
    public IReadOnlyDictionary<Gate, int> RemovedByGate(DayBook day, Audience audience, Instant now) => Explain(day, audience, now).Removed;

    /// <summary>Every gate that refuses a start to a client, in order; empty when it is offered.</summary>
    public IReadOnlyList<Refusal> WhyNotOffered(DayBook day, int start, Audience audience, Instant now) => Explain(day, audience, now).At(start);

    /// <summary>Every gate that refuses a start to staff, in order; empty when it is feasible.</summary>
    public IReadOnlyList<Refusal> WhyNotFeasible(DayBook day, int start) => ExplainFeasible(day).At(start);

    /// <summary>The whole day as a client finds it, with the reasons for every start that is not offered.</summary>
    public DayReasons Explain(DayBook day, Audience audience, Instant now) => Explain(day, _allGates, new Question(audience, now, true));

    /// <summary>The whole day as staff find it, with the reasons for every start that does not fit.</summary>
    public DayReasons ExplainFeasible(DayBook day) => Explain(day, _staffGates, Question.OfStaff);

    private DayReasons Explain(DayBook day, IReadOnlySet<Gate> gates, Question question)
    {
        ArgumentNullException.ThrowIfNull(day);
        GateRules rules = Rules(day, question);
        Dictionary<Gate, DaySet> alone = [], together = [];
        HashSet<Gate> passed = [];
        foreach (Gate gate in gates.Order())
        {
            passed.Add(gate);
            if (gate == Gate.Gap)
            {
                DaySet kept = Offered(day, question).Starts;
                // On its own the gap rule looks at starts that fit; what does not fit leaves no gap.
                DaySet fits = Starts(day, _staffGates, question);
                bool refuses = rules.Gap == GapRule.Strict && kept != together[Gate.RoomAndEquipment];
                (alone[gate], together[gate]) = (refuses ? DaySet.Full.Except(fits.Except(Starts(day, _staffGates, question, noGap: true))) : DaySet.Full, kept);
                continue;
            }

            alone[gate] = Starts(day, new HashSet<Gate> { gate }, question);
            together[gate] = Starts(day, passed, question);
        }

        DaySet grid = rules.Grid == StartGrid.EveryMinutes ? rules.GridStarts(-1) : day.Day.Whole;
        return new DayReasons(day, grid & day.Day.Whole, alone, together, new ReasonFinder(_frame, day, rules, question.AsClient));
    }

    private GateRules Rules(DayBook day, Question question) => new(_frame, day, question.Audience, question.Now);

    private OfferedStarts Offered(DayBook day, Question question)
    {
        ArgumentNullException.ThrowIfNull(day);
        GapRule rule = Rules(day, question).Gap;
        if (rule == GapRule.Off) return new OfferedStarts(Starts(day, _allGates, question), DaySet.Empty);
        DaySet clean = Starts(day, _allGates, question, noGap: true);
        if (rule == GapRule.Strict && !clean.IsEmpty) return new OfferedStarts(clean, DaySet.Empty);
        // Strict that would leave nothing in a day does what prefer does.
        DaySet all = Starts(day, _allGates, question);
        return new OfferedStarts(all, all.Except(clean));
    }

    private VisitPlan? Plan(DayBook day, int start, IReadOnlySet<Gate> gates, Question question, WeekLoad? week, bool noGap)
    {
        VisitPlan? plan = null;
        Starts(day, gates, question, noGap, needs: search => plan = search.PlanAt(start), only: DaySet.Of(start), week);
        return plan;
    }

    private DaySet Starts(
        DayBook day, IReadOnlySet<Gate> gates, Question question, bool noGap = false, Action<VisitSearch>? needs = null, DaySet? only = null, WeekLoad? week = null)
    {
        ArgumentNullException.ThrowIfNull(day);
        GateRules rules = Rules(day, question);
        DaySet within = day.Day.Whole;
        if (only is { } bound) within &= bound;
        if (gates.Contains(Gate.Client) && rules.RefusesClient() is not null) return DaySet.Empty;
        if (gates.Contains(Gate.Service)) within &= rules.ServiceStarts();
        if (gates.Contains(Gate.Date)) within &= rules.DateStarts();
        if (within.IsEmpty || (_frame.IsElsewhere && gates.Contains(Gate.Practitioner))) return DaySet.Empty;

        int[][][] candidates = Candidates(day.Day.Date, gates, rules);
        Assignment assignment = rules.OfFirst.Values.Assignment!.Value;
        GapSets? gaps = noGap || (needs is not null && assignment == Assignment.TightFit)
            ? new GapSets(_frame, day, rules.OfGap.Values.ShortestGapMinutes)
            : null;
        VisitSearch search = new(_frame, day, candidates, new SearchLimits
        {
            Practitioners = gates.Contains(Gate.Practitioner),
            Daily = gates.Contains(Gate.Practitioner) && question.AsClient && _frame.House.HasDailyLimits,
            Rooms = gates.Contains(Gate.RoomAndEquipment),
            Equipment = gates.Contains(Gate.RoomAndEquipment),
            Within = gates.Contains(Gate.OpeningHours) ? day.Opening : null,
            ByLead = gates.Contains(Gate.StartGrid) ? rules.GridStarts : null,
            Gaps = noGap ? gaps : null,
            Order = needs is null || assignment == Assignment.HouseOrder ? null : new StaffOrder(day, assignment, week, gaps),
        });
        if (needs is null) return search.Starts(within);
        needs(search);
        return DaySet.Empty;
    }

    private int[][][] Candidates(LocalDate date, IReadOnlySet<Gate> gates, GateRules rules)
    {
        int[][][] all = new int[_frame.Services.Length][][];
        for (int line = 0; line < all.Length; line++)
        {
            all[line] = new int[_frame.Services[line].Roles.Count][];
            for (int role = 0; role < all[line].Length; role++)
            {
                int[] allowed = _frame.CandidatesOn(line, role, date);
                // Without gate 6 a role nobody may take still has a length: somebody, nobody in particular.
                if (allowed.Length == 0 && !gates.Contains(Gate.Practitioner)) allowed = [-1];
                if (role == 0 && gates.Contains(Gate.Client))
                    allowed = [.. allowed.Where(one => one < 0 || rules.RefusesLead(line, one) is null)];
                else if (role > 0 && !gates.Contains(Gate.Practitioner))
                    allowed = [-1];
                all[line][role] = allowed;
            }
        }

        return all;
    }
}
