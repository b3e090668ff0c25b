using Kingcup.Core.Services;
using Kingcup.Core.Time;
using NodaTime;

namespace Kingcup.Core.Availability;

/// <summary>
/// Answers for one wish what can be booked, day by day: which starts are feasible, which are offered to a client, with whom
/// and where, and why not. One search decides all of it, with more or fewer gates closed (rules, section 5).
/// </summary>
public sealed class StartFinder
{
    private static readonly IReadOnlySet<Gate> _staffGates = new HashSet<Gate> { Gate.Practitioner, Gate.RoomAndEquipment };
    private static readonly IReadOnlySet<Gate> _allGates = new HashSet<Gate>(Enum.GetValues<Gate>());
    private readonly VisitFrame _frame;

    /// <summary>Prepares a wish against a house.</summary>
    /// <exception cref="ArgumentException">The wish has no line or too many.</exception>
    /// <exception cref="KeyNotFoundException">A service of the wish is unknown.</exception>
    public StartFinder(House house, VisitWish wish)
    {
        ArgumentNullException.ThrowIfNull(house);
        ArgumentNullException.ThrowIfNull(wish);
        _frame = new VisitFrame(house, wish);
    }

    /// <summary>Every start of the day that some assignment of practitioners, room and equipment serves; for staff.</summary>
    public DaySet Feasible(DayBook day) => Starts(day, _staffGates, Audience.Stranger, Instant.MinValue, needs: null);

    /// <summary>The starts offered to a client.</summary>
    /// <param name="day">The day.</param>
    /// <param name="audience">Who asks.</param>
    /// <param name="now">The present.</param>
    public DaySet Offered(DayBook day, Audience audience, Instant now) => Starts(day, _allGates, audience, now, needs: null);

    /// <summary>
    /// The visit as it would be booked at a start for staff, or null when it is not feasible: people in house order, fewest
    /// changes of practitioner, rooms by section 6.
    /// </summary>
    public VisitPlan? PlanFeasible(DayBook day, int start) => Plan(day, start, _staffGates, Audience.Stranger, Instant.MinValue);

    /// <summary>The visit as a client would book it at a start, or null when that start is not offered.</summary>
    public VisitPlan? PlanOffered(DayBook day, int start, Audience audience, Instant now) => Plan(day, start, _allGates, audience, now);

    /// <summary>How many starts of the grid each gate removed first, for a day (rules, section 5, "Why not?").</summary>
    public IReadOnlyDictionary<Gate, int> RemovedByGate(DayBook day, Audience audience, Instant now)
    {
        ArgumentNullException.ThrowIfNull(day);
        GateRules rules = new(_frame, day, audience, now);
        DaySet grid = rules.Grid == Resources.StartGrid.EveryMinutes ? rules.GridStarts(-1) : day.Day.Whole;
        Dictionary<Gate, int> removed = [];
        HashSet<Gate> passed = [];
        DaySet left = grid & day.Day.Whole;
        foreach (Gate gate in Enum.GetValues<Gate>())
        {
            passed.Add(gate);
            DaySet still = left & Starts(day, passed, audience, now, needs: null);
            removed[gate] = left.Count - still.Count;
            left = still;
        }

        return removed;
    }

    /// <summary>Every gate that refuses a start to a client, in order; empty when it is offered.</summary>
    public IReadOnlyList<Refusal> WhyNotOffered(DayBook day, int start, Audience audience, Instant now) =>
        WhyNot(day, start, _allGates, audience, now);

    /// <summary>Every gate that refuses a start to staff, in order; empty when it is feasible.</summary>
    public IReadOnlyList<Refusal> WhyNotFeasible(DayBook day, int start) =>
        WhyNot(day, start, _staffGates, Audience.Stranger, Instant.MinValue);

    private List<Refusal> WhyNot(DayBook day, int start, IReadOnlySet<Gate> gates, Audience audience, Instant now)
    {
        ArgumentNullException.ThrowIfNull(day);
        ReasonFinder reasons = new(_frame, day, new GateRules(_frame, day, audience, now));
        List<Refusal> refusals = [];
        HashSet<Gate> passed = [];
        bool open = true;
        foreach (Gate gate in gates.Order())
        {
            passed.Add(gate);
            bool alone = Starts(day, new HashSet<Gate> { gate }, audience, now, needs: null).Contains(start);
            bool together = Starts(day, passed, audience, now, needs: null).Contains(start);
            // A gate refuses when it would alone, or when it is the one at which the last possible assignment ends.
            if (!alone || (open && !together)) refusals.Add(new Refusal(gate, reasons.Of(gate, start, onlyTogether: alone)));
            open = open && together;
        }

        return refusals;
    }

    private VisitPlan? Plan(DayBook day, int start, IReadOnlySet<Gate> gates, Audience audience, Instant now)
    {
        VisitPlan? plan = null;
        Starts(day, gates, audience, now, needs: search => plan = search.PlanAt(start), only: DaySet.Of(start));
        return plan;
    }

    private DaySet Starts(
        DayBook day, IReadOnlySet<Gate> gates, Audience audience, Instant now, Action<VisitSearch>? needs, DaySet? only = null)
    {
        ArgumentNullException.ThrowIfNull(day);
        GateRules rules = new(_frame, day, audience, now);
        DaySet within = day.Day.Whole;
        if (only is { } bound) within &= bound;
        if (gates.Contains(Gate.Client) && !_frame.House.Location.BookableOnline) return DaySet.Empty;
        if (gates.Contains(Gate.Service)) within &= rules.ServiceStarts();
        if (gates.Contains(Gate.Date)) within &= rules.DateStarts();
        if (within.IsEmpty || (_frame.IsElsewhere && gates.Contains(Gate.Practitioner))) return DaySet.Empty;

        int[][][] candidates = Candidates(day.Day.Date, gates, rules);
        VisitSearch search = new(_frame, day, candidates, new SearchLimits
        {
            Practitioners = gates.Contains(Gate.Practitioner),
            Rooms = gates.Contains(Gate.RoomAndEquipment),
            Equipment = gates.Contains(Gate.RoomAndEquipment),
            Within = gates.Contains(Gate.OpeningHours) ? day.Opening : null,
            ByLead = gates.Contains(Gate.StartGrid) ? rules.GridStarts : null,
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
