namespace Kingcup.Core.Business;

/// <summary>How the starts a client is offered lie in the day (rules, section 5, gate 5).</summary>
public enum StartGrid
{
    /// <summary>Every so many minutes on the clock.</summary>
    EveryMinutes,

    /// <summary>From the beginning of each free run of the practitioner, one after another.</summary>
    BackToBack,

    /// <summary>A list of wall times for each weekday, set at the service.</summary>
    SetTimes,
}

/// <summary>What becomes of starts that leave a gap nobody can use (rules, section 5, gate 8).</summary>
public enum GapRule
{
    /// <summary>Gaps are not looked at.</summary>
    Off,

    /// <summary>Starts that leave one are offered last.</summary>
    Prefer,

    /// <summary>Starts that leave one are refused, unless that would leave nothing in a day.</summary>
    Strict,
}

/// <summary>Who takes a visit when nobody was chosen (rules, section 6). Ties end in house order.</summary>
public enum Assignment
{
    /// <summary>The first in house order.</summary>
    HouseOrder,

    /// <summary>Whoever has the fewest minutes held in that local week, then that day.</summary>
    EvenLoad,

    /// <summary>Whoever keeps the fewest minutes of unusable gap, then even load.</summary>
    TightFit,
}

/// <summary>Who chooses the practitioner of a visit booked online.</summary>
public enum PractitionerChoice
{
    /// <summary>The client may choose, or leave it open.</summary>
    ClientMay,

    /// <summary>The client has to choose.</summary>
    ClientMust,

    /// <summary>The house assigns; clients are not asked.</summary>
    House,
}

/// <summary>Whose online bookings wait for the desk to approve them.</summary>
public enum Approval
{
    /// <summary>Nobody's.</summary>
    Nobody,

    /// <summary>Those of new clients.</summary>
    NewClients,

    /// <summary>Those for which nothing is given before they come: neither money nor a card.</summary>
    PayLater,

    /// <summary>Everyone's.</summary>
    Everyone,
}

/// <summary>What happens to a client who did not come too often.</summary>
public enum NoShowAction
{
    /// <summary>They may not book online.</summary>
    Refuse,

    /// <summary>Their bookings wait for approval.</summary>
    Approve,
}

/// <summary>A limit on clients who did not come (rules, section 5, gate 1).</summary>
/// <param name="Times">So many no-shows or late cancellations, 1 or more.</param>
/// <param name="Months">Within so many months before now, 1 or more.</param>
/// <param name="Action">What then happens.</param>
public sealed record NoShowLimit(int Times, int Months, NoShowAction Action);

/// <summary>
/// Rules of online booking as one place sets them. A value that is null is not set there and comes from the next wider place:
/// client, service, category, location, and last what is usual (rules, section 5).
/// </summary>
public sealed record OnlineRules
{
    /// <summary>What holds where nobody has set anything.</summary>
    public static OnlineRules Usual { get; } = new()
    {
        Grid = StartGrid.EveryMinutes,
        EveryMinutes = 15,
        LeadMinutes = 120,
        HorizonDays = 60,
        Gap = GapRule.Off,
        Assignment = Business.Assignment.HouseOrder,
        Choice = PractitionerChoice.ClientMay,
        Approval = Business.Approval.Nobody,
        MoveNoticeHours = 24,
        CancelNoticeHours = 24,
    };

    /// <summary>The kind of start grid.</summary>
    public StartGrid? Grid { get; init; }

    /// <summary>Minutes between starts for <see cref="StartGrid.EveryMinutes"/>; whole grains.</summary>
    public int? EveryMinutes { get; init; }

    /// <summary>Least minutes between booking and the start.</summary>
    public int? LeadMinutes { get; init; }

    /// <summary>The same for new clients, where it differs.</summary>
    public int? NewLeadMinutes { get; init; }

    /// <summary>How many days ahead of today may be booked; 0 is today only.</summary>
    public int? HorizonDays { get; init; }

    /// <summary>The same for new clients, where it differs.</summary>
    public int? NewHorizonDays { get; init; }

    /// <summary>The gap rule.</summary>
    public GapRule? Gap { get; init; }

    /// <summary>The shortest gap that is of use, in minutes; where nobody sets it, the shortest service each practitioner
    /// performs.</summary>
    public int? ShortestGapMinutes { get; init; }

    /// <summary>How a practitioner is assigned when nobody chose.</summary>
    public Assignment? Assignment { get; init; }

    /// <summary>Who chooses the practitioner.</summary>
    public PractitionerChoice? Choice { get; init; }

    /// <summary>Whose bookings wait for approval.</summary>
    public Approval? Approval { get; init; }

    /// <summary>Least hours before the start at which a client may still move the visit.</summary>
    public int? MoveNoticeHours { get; init; }

    /// <summary>The same for new clients, where it differs.</summary>
    public int? NewMoveNoticeHours { get; init; }

    /// <summary>Least hours before the start at which a client may still cancel the visit.</summary>
    public int? CancelNoticeHours { get; init; }

    /// <summary>The same for new clients, where it differs.</summary>
    public int? NewCancelNoticeHours { get; init; }

    /// <summary>These rules, with what they leave open taken from <paramref name="wider"/>.</summary>
    public OnlineRules Over(OnlineRules wider) => new()
    {
        Grid = Grid ?? wider.Grid,
        EveryMinutes = EveryMinutes ?? wider.EveryMinutes,
        LeadMinutes = LeadMinutes ?? wider.LeadMinutes,
        // A place that sets a value for everyone has set it for new clients too.
        NewLeadMinutes = NewLeadMinutes ?? LeadMinutes ?? wider.NewLeadMinutes ?? wider.LeadMinutes,
        HorizonDays = HorizonDays ?? wider.HorizonDays,
        NewHorizonDays = NewHorizonDays ?? HorizonDays ?? wider.NewHorizonDays ?? wider.HorizonDays,
        Gap = Gap ?? wider.Gap,
        ShortestGapMinutes = ShortestGapMinutes ?? wider.ShortestGapMinutes,
        Assignment = Assignment ?? wider.Assignment,
        Choice = Choice ?? wider.Choice,
        Approval = Approval ?? wider.Approval,
        MoveNoticeHours = MoveNoticeHours ?? wider.MoveNoticeHours,
        NewMoveNoticeHours = NewMoveNoticeHours ?? MoveNoticeHours ?? wider.NewMoveNoticeHours ?? wider.MoveNoticeHours,
        CancelNoticeHours = CancelNoticeHours ?? wider.CancelNoticeHours,
        NewCancelNoticeHours = NewCancelNoticeHours ?? CancelNoticeHours ?? wider.NewCancelNoticeHours ?? wider.CancelNoticeHours,
    };

    /// <summary>Lead time for a client, in minutes; of resolved rules only.</summary>
    public int LeadMinutesFor(bool isNew) => (isNew ? NewLeadMinutes ?? LeadMinutes : LeadMinutes)!.Value;

    /// <summary>How far ahead a client may book, in days; of resolved rules only.</summary>
    public int HorizonDaysFor(bool isNew) => (isNew ? NewHorizonDays ?? HorizonDays : HorizonDays)!.Value;

    /// <summary>How many hours before the start a client may still move a visit; of resolved rules only.</summary>
    public int MoveNoticeHoursFor(bool isNew) => (isNew ? NewMoveNoticeHours ?? MoveNoticeHours : MoveNoticeHours)!.Value;

    /// <summary>How many hours before the start a client may still cancel a visit; of resolved rules only.</summary>
    public int CancelNoticeHoursFor(bool isNew) => (isNew ? NewCancelNoticeHours ?? CancelNoticeHours : CancelNoticeHours)!.Value;
}

/// <summary>A place that may set a rule of online booking, the most specific last.</summary>
public enum RulePlace
{
    /// <summary>Nobody has set it: what is usual.</summary>
    Usual,

    /// <summary>The location.</summary>
    Location,

    /// <summary>The category of the service.</summary>
    Category,

    /// <summary>The service.</summary>
    Service,

    /// <summary>The client who asks; only lead time, how far ahead and the notices.</summary>
    Client,
}

/// <summary>The rules that hold for one service at one location, and where each comes from.</summary>
public sealed class EffectiveRules
{
    private readonly (RulePlace Place, Guid? Id, OnlineRules Rules)[] _places;

    /// <summary>Resolves the rules of a service; without a location, what is usual.</summary>
    public EffectiveRules(Location? location, Services.Category? category, Services.Service? service)
    {
        List<(RulePlace, Guid?, OnlineRules)> places = [];
        if (service is not null) places.Add((RulePlace.Service, service.Id, service.Online));
        if (category is not null) places.Add((RulePlace.Category, category.Id, category.Online));
        if (location is not null) places.Add((RulePlace.Location, location.Id, location.Online));
        places.Add((RulePlace.Usual, null, OnlineRules.Usual));
        _places = [.. places];
        Values = _places[^1].Rules;
        for (int i = _places.Length - 2; i >= 0; i--) Values = _places[i].Rules.Over(Values);
    }

    private EffectiveRules(OnlineRules own, EffectiveRules wider)
    {
        _places = [(RulePlace.Client, null, own), .. wider._places];
        Values = own.Over(wider.Values);
    }

    /// <summary>These rules for a client who may have their own.</summary>
    /// <param name="own">What is set at the client, or null.</param>
    public EffectiveRules For(OnlineRules? own) => own is null ? this : new EffectiveRules(own, this);

    /// <summary>The values that hold; only <see cref="OnlineRules.ShortestGapMinutes"/> may still be open.</summary>
    public OnlineRules Values { get; }

    /// <summary>The place a value comes from: the most specific at which <paramref name="isSet"/>.</summary>
    public (RulePlace Place, Guid? Id) SourceOf(Func<OnlineRules, bool> isSet)
    {
        foreach ((RulePlace place, Guid? id, OnlineRules rules) in _places)
            if (isSet(rules)) return (place, id);
        return (RulePlace.Usual, null);
    }
}
