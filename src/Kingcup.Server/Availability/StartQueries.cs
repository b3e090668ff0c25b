using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>A line of a visit somebody asks about.</summary>
/// <param name="ServiceId">The service.</param>
/// <param name="PractitionerId">Who is to do it, or null for no preference.</param>
/// <param name="AddOns">What is added to it.</param>
/// <param name="Person">Who of those who come it is for, 0 or nothing for the client. Lines of one person follow each other, those of
/// others may lie beside them.</param>
/// <param name="OffsetMinutes">For the first line of a person: minutes after the start of the visit at which it begins.</param>
public sealed record LineRequest(
    Guid ServiceId,
    Guid? PractitionerId = null,
    IReadOnlyList<AddOnRequest>? AddOns = null,
    int? Person = null,
    int? OffsetMinutes = null
);

/// <summary>An add-on of a line.</summary>
/// <param name="AddOnId">The add-on.</param>
/// <param name="Count">How many; 1 when missing.</param>
public sealed record AddOnRequest(Guid AddOnId, int Count = 1);

/// <summary>A visit as somebody wants it, checked against the setup.</summary>
/// <param name="Wish">What the engine is asked.</param>
/// <param name="AddOns">For each line what is added to it.</param>
public sealed record WantedVisit(VisitWish Wish, IReadOnlyList<IReadOnlyList<LineAddOn>> AddOns)
{
    /// <summary>Checks the add-ons of a request and adds up their minutes.</summary>
    /// <exception cref="Refused">An add-on is unknown, does not go with the service, or is wanted too often.</exception>
    internal static WantedVisit Of(Setup setup, IReadOnlyList<LineRequest>? lines)
    {
        Checks checks = new();
        List<IReadOnlyList<LineAddOn>> all = [];
        foreach ((int i, LineRequest line) in (lines ?? []).Index())
        {
            List<(AddOn AddOn, int Count)> own = [];
            foreach ((int j, AddOnRequest wanted) in (line.AddOns ?? []).Index())
            {
                string field = $"lines[{i}].addOns[{j}]";
                AddOn? addOn = setup.AddOnOf(wanted.AddOnId);
                if (!checks.Require(addOn is not null, field + ".addOnId", "There is no such add-on."))
                    continue;
                checks.Require(
                    addOn!.Services.ContainsKey(line.ServiceId),
                    field + ".addOnId",
                    $"{addOn.Name} does not go with this service."
                );
                checks.Require(
                    wanted.Count >= 1 && wanted.Count <= addOn.Limit,
                    field + ".count",
                    $"{addOn.Name} can be added {addOn.Limit} times at the most."
                );
                checks.Require(
                    own.All(other => other.AddOn.Id != wanted.AddOnId),
                    field + ".addOnId",
                    $"{addOn.Name} is there twice. Say how many instead."
                );
                own.Add((addOn, Math.Clamp(wanted.Count, 1, addOn.Limit)));
            }

            all.Add([
                .. own.Select(added => new LineAddOn
                {
                    AddOnId = added.AddOn.Id,
                    Count = (short)added.Count,
                    Minutes = added.AddOn.Minutes * added.Count,
                    Price = VisitPrice.PartOf(added.AddOn, added.Count).Amount,
                }),
            ]);
        }

        checks.Done();
        return new WantedVisit(
            new VisitWish([
                .. (lines ?? []).Select(
                    (line, i) =>
                        new LineWish(line.ServiceId, line.PractitionerId, all[i].Sum(added => added.Minutes))
                        {
                            Person = line.Person ?? 0,
                            OffsetMinutes = line.OffsetMinutes ?? 0,
                        }
                ),
            ]),
            all
        );
    }
}

/// <summary>A question for starts.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Lines">What is wanted, in order.</param>
/// <param name="From">The first local date; today when missing.</param>
/// <param name="Days">How many days, 1 to 62; 1 when missing.</param>
/// <param name="VisitId">A visit that would be moved: its own time counts as free.</param>
public sealed record StartsRequest(
    Guid LocationId,
    IReadOnlyList<LineRequest>? Lines,
    LocalDate? From = null,
    int? Days = null,
    Guid? VisitId = null
);

/// <summary>A start that fits.</summary>
public sealed record StartAnswer
{
    /// <summary>The instant.</summary>
    public required Instant Start { get; init; }

    /// <summary>When the visit would end.</summary>
    public required Instant End { get; init; }

    /// <summary>Local time of the start, HH:mm.</summary>
    public required string Clock { get; init; }

    /// <summary>Who would do the first line.</summary>
    public required Guid PractitionerId { get; init; }

    /// <summary>Their name.</summary>
    public required string Practitioner { get; init; }

    /// <summary>Rooms that would be used.</summary>
    public required IReadOnlyList<string> Rooms { get; init; }

    /// <summary>What it would cost.</summary>
    public required MoneyAnswer Price { get; init; }

    /// <summary>Whether it lies on the start grid clients are offered.</summary>
    public required bool OnGrid { get; init; }

    /// <summary>Whether it lies outside the opening hours.</summary>
    public required bool OutsideOpening { get; init; }
}

/// <summary>The starts of a day.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Starts">Those that fit, by time.</param>
public sealed record StartDay(LocalDate Date, IReadOnlyList<StartAnswer> Starts);

/// <summary>The starts a client is offered on each of some days.</summary>
/// <param name="House">The location.</param>
/// <param name="Audience">Who asked.</param>
/// <param name="Now">When.</param>
/// <param name="Days">The days.</param>
/// <param name="Starts">What is offered on each of them.</param>
/// <param name="To">The same for another client, from the same days.</param>
public sealed record OfferedDays(
    House House,
    Audience Audience,
    Instant Now,
    IReadOnlyList<DayBook> Days,
    IReadOnlyList<OfferedStarts> Starts,
    Func<Audience, OfferedStarts[]> To
);

/// <summary>A question why a start does not fit.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Lines">What is wanted.</param>
/// <param name="Start">The start.</param>
/// <param name="VisitId">A visit that would be moved.</param>
/// <param name="AsClient">Whether to ask as a client would book online; otherwise as staff.</param>
/// <param name="ClientId">Whom it is for, so that staff are told of what this client lacks; null when that is open.</param>
public sealed record WhyNotRequest(
    Guid LocationId,
    IReadOnlyList<LineRequest>? Lines,
    Instant Start,
    Guid? VisitId = null,
    bool AsClient = false,
    Guid? ClientId = null
);

/// <summary>Why a start does not fit.</summary>
/// <param name="Fits">Whether it does after all.</param>
/// <param name="Reasons">Every reason, in the order of the gates.</param>
/// <param name="Anyway">How whoever asks may book it all the same, or null.</param>
public sealed record WhyNotAnswer(bool Fits, IReadOnlyList<ReasonText> Reasons, AnywayAnswer? Anyway = null);

/// <summary>Answers which starts fit, for the desk and for the public page.</summary>
public sealed class StartQueries(Database database, BookReader book, IClock clock)
{
    /// <summary>Most days one question may span.</summary>
    public const int MostDays = 62;

    /// <summary>The starts that fit for staff, with who and where.</summary>
    public async Task<IReadOnlyList<StartDay>> FeasibleAsync(StartsRequest request)
    {
        // Connections are few: none is held while the engine thinks.
        NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit? moving;
        LoadedQuestion loaded;
        StartFinder finder;
        Dictionary<LocalDate, WeekLoad?> weeks = [];
        await using (connection)
        {
            moving = await MovingAsync(connection, request.VisitId);
            loaded = await LoadAsync(connection, request, moving);
            finder = new StartFinder(loaded.House, AsItStands(moving, loaded.Wanted.Wish));
            foreach (LocalDate monday in loaded.Days.Select(day => BookReader.MondayOf(day.Day.Date)).Distinct())
                weeks[monday] = await book.WeekAsync(connection, loaded.Setup, loaded.House, finder, monday);
        }

        IReadOnlyList<DayBook> days = loaded.Days;
        Instant now = clock.GetCurrentInstant();
        Func<VisitPlan, MoneyAnswer> price = PriceOf(loaded.Setup, loaded.Wanted, moving);
        return
        [
            .. days.Select(day => moving is null ? day : BookReader.Without(day, moving))
                .Select(day => new StartDay(
                    day.Day.Date,
                    [
                        .. finder
                            .Feasible(day)
                            .Where(grain => day.Day.At(grain) >= now - Duration.FromMinutes(Grain.Minutes))
                            .Select(grain =>
                                Answer(day, finder.PlanFeasible(day, grain, weeks[BookReader.MondayOf(day.Day.Date)])!, grain, price)
                            ),
                    ]
                )),
        ];
    }

    /// <summary>The starts a client is offered.</summary>
    /// <param name="request">The question.</param>
    /// <param name="asked">Who asks, as far as the setup has to be asked for that.</param>
    public async Task<OfferedDays> OfferedAsync(StartsRequest request, Func<Setup, Audience> asked)
    {
        LoadedQuestion loaded;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            loaded = await LoadAsync(connection, request);
        (Setup setup, House house, WantedVisit wanted, IReadOnlyList<DayBook> days) = loaded;
        StartFinder finder = new(house, wanted.Wish);
        Instant now = clock.GetCurrentInstant();
        Audience audience = asked(setup);
        return new OfferedDays(
            house,
            audience,
            now,
            days,
            finder.OfferedInOrder(days, audience, now),
            other => finder.OfferedInOrder(days, other, now)
        );
    }

    /// <summary>Every reason why a start does not fit, and how it may be booked all the same.</summary>
    /// <param name="request">The start.</param>
    /// <param name="warnings">What whoever asks may book over.</param>
    public async Task<WhyNotAnswer> WhyNotAsync(WhyNotRequest request, SeenWarnings warnings)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(request.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        VisitWish wish = wanted.Wish;
        StoredVisit? moving = await MovingAsync(connection, request.VisitId);
        BookingChecks.CheckWish(house, wish, standing: moving);
        LocalDate date = CheckDate(request.Start.InZone(house.Location.Zone).Date, "start");
        DayBook day = (await book.DaysAsync(connection, setup, house, date, 1))[0];
        if (moving is not null)
        {
            day = BookReader.Without(day, moving);
            wish = AsItStands(moving, wish);
        }

        int grain = day.Day.GrainOfStart(request.Start) ?? throw Refused.Invalid("start", $"Starts lie on whole {Grain.Minutes} minutes.");
        StartFinder finder = new(house, wish);
        IReadOnlyList<Refusal> refusals = request.AsClient
            ? finder.WhyNotOffered(day, grain, Audience.Stranger, clock.GetCurrentInstant())
            : finder.WhyNotFeasible(day, grain);
        if (request.AsClient)
            return new WhyNotAnswer(refusals.Count == 0, ReasonWords.Of(refusals, house));
        Instant now = clock.GetCurrentInstant();
        KnowingPlan? over =
            request.Start < now - Duration.FromMinutes(Grain.Minutes) ? null
            : refusals.Count == 0 ? new KnowingPlan(finder.PlanFeasible(day, grain)!, Waivers.None, [])
            : finder.PlanKnowingly(day, grain, await warnings.AllowedAsync(connection));
        if (over is null)
            return new WhyNotAnswer(refusals.Count == 0, ReasonWords.Of(refusals, house));
        IReadOnlyList<Reason> told = await ToldAsync(connection, request, moving, finder, day, grain, over.Plan, now);
        over = over with { Warnings = [.. over.Warnings, .. told] };
        AnywayAnswer? anyway = over.Warnings.Count == 0 ? null : Anyway(house, over, PriceOf(setup, wanted, moving)(over.Plan));
        return new WhyNotAnswer(refusals.Count == 0, [.. ReasonWords.Of(refusals, house), .. ReasonWords.Of(told, house)], anyway);
    }

    /// <summary>What staff are told of the client: what has to come first and is missing, and the client's own other visit. Of nobody in
    /// particular, what would be missing.</summary>
    private static async Task<IReadOnlyList<Reason>> ToldAsync(
        NpgsqlConnection connection,
        WhyNotRequest request,
        StoredVisit? moving,
        StartFinder finder,
        DayBook day,
        int grain,
        VisitPlan plan,
        Instant now
    )
    {
        Guid? clientId = request.ClientId ?? moving?.Visit.ClientId;
        if (clientId is null || await ClientStore.FindAsync(connection, clientId.Value) is not { } client)
            return finder.MissingBefore(day, grain, Audience.Stranger, now);
        IReadOnlyList<Core.Clients.ClientVisit> visits = await BookStore.OfClientAsync(connection, client.Id, moving?.Visit.Id);
        return
        [
            .. BookingChecks.ClientWarnings(finder, day, grain, plan, BookingChecks.AudienceOf(client, visits, null, now), visits, now),
        ];
    }

    /// <summary>A question with everything it is answered from.</summary>
    private sealed record LoadedQuestion(Setup Setup, House House, WantedVisit Wanted, IReadOnlyList<DayBook> Days);

    private async Task<LoadedQuestion> LoadAsync(NpgsqlConnection connection, StartsRequest request, StoredVisit? moving = null)
    {
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(request.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        BookingChecks.CheckWish(house, wanted.Wish, standing: moving);
        int count = request.Days ?? 1;
        if (count is < 1 or > MostDays)
            throw Refused.Invalid("days", $"Ask for 1 to {MostDays} days.");
        LocalDate from = CheckDate(request.From ?? clock.GetCurrentInstant().InZone(house.Location.Zone).Date, "from");
        return new LoadedQuestion(setup, house, wanted, await book.DaysAsync(connection, setup, house, from, count));
    }

    /// <summary>Keeps dates in a range in which every calculation holds.</summary>
    internal static LocalDate CheckDate(LocalDate date, string field) =>
        date.Year is >= 2000 and <= 2100 ? date : throw Refused.Invalid(field, "Choose a date between the years 2000 and 2100.");

    private static async Task<StoredVisit?> MovingAsync(NpgsqlConnection connection, Guid? visitId) =>
        visitId is { } id ? await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("visit") : null;

    /// <summary>A visit that is moved keeps its add-ons and their minutes, and for whom each line is.</summary>
    private static VisitWish AsItStands(StoredVisit? moving, VisitWish wish)
    {
        if (moving is null || moving.Lines.Count != wish.Lines.Count)
            return wish;
        IReadOnlyList<LineWish> standing = BookingChecks.WishOf(moving, null).Lines;
        return new VisitWish([
            .. wish.Lines.Zip(
                standing,
                (asked, stands) =>
                    asked with
                    {
                        ExtraMinutes = stands.ExtraMinutes,
                        Person = stands.Person,
                        OffsetMinutes = stands.OffsetMinutes,
                    }
            ),
        ]);
    }

    private static AnywayAnswer Anyway(House house, KnowingPlan over, MoneyAnswer price) =>
        new()
        {
            End = over.Plan.End,
            PractitionerId = over.Plan.Lines[0].Practitioners[0],
            Practitioner = PeopleOf(house, over.Plan),
            Rooms = RoomsOf(house, over.Plan),
            Price = price,
            Warnings = ReasonWords.Of(over.Warnings, house),
            Overbooks = over.Asks.HasFlag(Waivers.Overbook),
            Accept = SeenWarnings.TokenOf(over),
        };

    private static string PeopleOf(House house, VisitPlan plan) =>
        string.Join(
            " and ",
            plan.Lines.SelectMany(line => line.Practitioners)
                .Distinct()
                .Select(id => house.Practitioners.First(practitioner => practitioner.Id == id).Name)
        );

    private static string[] RoomsOf(House house, VisitPlan plan) =>
        [.. plan.Lines.Select(line => line.RoomId).OfType<Guid>().Distinct().Select(id => house.Rooms.First(room => room.Id == id).Name)];

    /// <summary>What a plan would cost, extras and all: a visit that is moved as it would be after the move.</summary>
    private static Func<VisitPlan, MoneyAnswer> PriceOf(Setup setup, WantedVisit wanted, StoredVisit? moving) =>
        plan => new MoneyAnswer(
            (
                moving is not null && moving.Lines.Count == plan.Lines.Count
                    ? Prices.AfterMove(setup, moving, plan)
                    : Prices.Of(setup, plan, wanted.AddOns)
            ).Total,
            setup.Business.Currency
        );

    private static StartAnswer Answer(DayBook day, VisitPlan plan, int grain, Func<VisitPlan, MoneyAnswer> price)
    {
        House house = day.House;
        PlannedLine first = plan.Lines[0];
        Service service = house.Services[first.ServiceId];
        OnlineRules rules = house.RulesOf(service).Values;
        bool onGrid = rules.Grid != StartGrid.EveryMinutes || day.Day.EveryMinutes(rules.EveryMinutes!.Value).Contains(grain);
        int until = day.Day.Ceiling(plan.End);
        return new StartAnswer
        {
            Start = plan.Start,
            End = plan.End,
            Clock = ClockText.Of(day, grain),
            PractitionerId = first.Practitioners[0],
            Practitioner = PeopleOf(house, plan),
            Rooms = RoomsOf(house, plan),
            Price = price(plan),
            OnGrid = onGrid,
            OutsideOpening = !day.Opening.StartsHolding(0, until - grain).Contains(grain),
        };
    }
}
