using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

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
        NarrowRequest narrow = NarrowRequest.Check(request.Narrow);
        StoredVisit? moving;
        LoadedQuestion loaded;
        StartFinder finder;
        Dictionary<LocalDate, WeekLoad?> weeks = [];
        await using (connection)
        {
            moving = await MovingAsync(connection, request.VisitId);
            loaded = await LoadAsync(connection, request, moving);
            finder = new StartFinder(loaded.House, narrow.Of(AsItStands(moving, request.Lines!, loaded.Wanted.Wish)));
            foreach (LocalDate monday in loaded.Days.Select(day => BookReader.MondayOf(day.Day.Date)).Distinct())
                weeks[monday] = await book.WeekAsync(connection, loaded.Setup, loaded.House, finder, monday);
        }

        IReadOnlyList<DayBook> days = loaded.Days;
        Instant now = clock.GetCurrentInstant();
        Func<VisitPlan, MoneyAnswer> price = PriceOf(loaded.Setup, loaded.Wanted, moving, request.Lines!);
        return
        [
            .. days.Select(day => moving is null ? day : BookReader.Without(day, moving))
                .Select(day => new StartDay(
                    day.Day.Date,
                    [
                        .. (finder.Feasible(day) & narrow.Of(day.Day))
                            .Where(grain => MayBegin(day.Day.At(grain), now, moving))
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
    public async Task<OfferedDays> OfferedAsync(StartsRequest request, Func<Setup, VisitWish, Audience> asked)
    {
        LoadedQuestion loaded;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            loaded = await LoadAsync(connection, request);
        (Setup setup, House house, WantedVisit wanted, IReadOnlyList<DayBook> days) = loaded;
        StartFinder finder = new(house, wanted.Wish);
        Instant now = clock.GetCurrentInstant();
        Audience audience = asked(setup, wanted.Wish);
        return new OfferedDays(
            house,
            audience,
            now,
            days,
            finder.OfferedInOrder(days, audience, now),
            finder
        );
    }

    /// <summary>The starts to which a client may move a visit of theirs.</summary>
    /// <param name="visit">The visit; it does not stand in its own way.</param>
    /// <param name="audience">Who they are.</param>
    /// <param name="from">The first day, or null for today.</param>
    /// <param name="count">How many days.</param>
    internal async Task<OfferedDays> OfferedForMoveAsync(StoredVisit visit, Audience audience, LocalDate? from, int count)
    {
        if (count is < 1 or > MostDays) throw Refused.Invalid("days", $"Ask for 1 to {MostDays} days.");
        Setup setup;
        House house;
        IReadOnlyList<DayBook> days;
        Instant now = clock.GetCurrentInstant();
        await using (NpgsqlConnection connection = await database.OpenAsync())
        {
            setup = await book.SetupAsync(connection);
            house = setup.HouseOf(visit.Visit.LocationId)!;
            LocalDate first = CheckDate(from ?? now.InZone(house.Location.Zone).Date, "from");
            days = [.. (await book.DaysAsync(connection, setup, house, first, count)).Select(day => BookReader.Without(day, visit))];
        }

        StartFinder finder = new(house, BookingChecks.WishOf(visit, null));
        return new OfferedDays(
            house,
            audience,
            now,
            days,
            finder.OfferedInOrder(days, audience, now),
            finder
        );
    }

    /// <summary>How a client's own visit would lie at another start, and what it would cost there.</summary>
    /// <param name="visit">The visit.</param>
    /// <param name="audience">Who they are.</param>
    /// <param name="start">The start.</param>
    /// <exception cref="Refused">They are not offered it.</exception>
    internal async Task<(VisitPlan Plan, long Price)> MovedAsync(StoredVisit visit, Audience audience, Instant start)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        Instant now = clock.GetCurrentInstant();
        LocalDate date = BookingChecks.CheckStart(house, start, now);
        DayBook day = BookReader.Without((await book.DaysAsync(connection, setup, house, date, 1))[0], visit);
        int grain = day.Day.GrainOfStart(start)!.Value;
        VisitWish wish = BookingChecks.WishOf(visit, null);
        StartFinder finder = new(house, wish);
        WeekLoad? week = await book.WeekAsync(connection, setup, house, finder, BookReader.MondayOf(date));
        VisitPlan plan =
            new StartFinder(house, BookingChecks.PresentStaff(visit)).PlanOffered(day, grain, audience, now, null)
            ?? finder.PlanOffered(day, grain, audience, now, week)
            ?? throw new Refused(
                StatusCodes.Status409Conflict,
                "start-not-offered",
                "That time is not free any more. Choose another one.",
                "start"
            );
        Guid?[] lines = [.. visit.Lines.Select(line => (Guid?)line.Id)];
        return (plan, Prices.Laid(setup, visit, plan, new WantedVisit(wish, visit.AddOnsByLine), lines).Total);
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
            wish = AsItStands(moving, request.Lines!, wish);
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
            !MayBegin(request.Start, now, moving) ? null
            : refusals.Count == 0 ? new KnowingPlan(finder.PlanFeasible(day, grain)!, Waivers.None, [])
            : finder.PlanKnowingly(day, grain, await warnings.AllowedAsync(connection));
        if (over is null)
            return new WhyNotAnswer(refusals.Count == 0, ReasonWords.Of(refusals, house));
        IReadOnlyList<Reason> told = await ToldAsync(connection, request, moving, finder, day, grain, over.Plan, now);
        over = over with { Warnings = [.. over.Warnings, .. told] };
        Func<VisitPlan, MoneyAnswer> price = PriceOf(setup, wanted, moving, request.Lines!);
        AnywayAnswer? anyway = over.Warnings.Count == 0 ? null : Anyway(house, over, price(over.Plan));
        return new WhyNotAnswer(refusals.Count == 0, [.. ReasonWords.Of(refusals, house), .. ReasonWords.Of(told, house)], anyway);
    }

    /// <summary>Whether a visit may still begin then: from now on, or where it has begun.</summary>
    private static bool MayBegin(Instant start, Instant now, StoredVisit? moving) =>
        start >= now - Duration.FromMinutes(Grain.Minutes) || start == moving?.Visit.StartsAt;

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

    /// <summary>Something that is carried, with everything it is looked for in.</summary>
    internal sealed record Carried(
        Setup Setup,
        House House,
        WantedVisit Wanted,
        VisitWish Wish,
        IReadOnlyList<DayBook> Days,
        Func<VisitPlan, MoneyAnswer> PriceOf
    );

    /// <summary>What is asked for, worked out: a visit that stands does not stand in its own way.</summary>
    internal async Task<Carried> CarriedAsync(NpgsqlConnection connection, LightsRequest request)
    {
        StoredVisit? moving = await MovingAsync(connection, request.VisitId);
        StartsRequest asked = new(request.LocationId, request.Lines, request.From, request.Days, request.VisitId);
        LoadedQuestion loaded = await LoadAsync(connection, asked, moving);
        return new Carried(
            loaded.Setup,
            loaded.House,
            loaded.Wanted,
            AsItStands(moving, request.Lines!, loaded.Wanted.Wish),
            moving is null ? loaded.Days : [.. loaded.Days.Select(day => BookReader.Without(day, moving))],
            PriceOf(loaded.Setup, loaded.Wanted, moving, request.Lines!)
        );
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
        visitId is { } id ? await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit.") : null;

    /// <summary>A visit of which only the services are named is moved as it is: with its add-ons and their minutes, and for whom each line
    /// is. Where lines are named by their identity, they are what is said of them.</summary>
    private static VisitWish AsItStands(StoredVisit? moving, IReadOnlyList<DeskLineRequest> lines, VisitWish wish)
    {
        if (moving is null || moving.Lines.Count != wish.Lines.Count || lines.Any(line => line.Id is not null))
            return wish;
        IReadOnlyList<LineWish> standing = BookingChecks.WishOf(moving, null).Lines;
        return new VisitWish([
            .. wish.Lines.Zip(
                standing,
                (asked, stands) =>
                    asked with
                    {
                        ExtraMinutes = stands.ExtraMinutes,
                        SetMinutes = stands.SetMinutes,
                        RoomId = stands.RoomId,
                        TakesUnsuitedRoom = stands.TakesUnsuitedRoom,
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

    internal static string PeopleOf(House house, VisitPlan plan) =>
        string.Join(
            " and ",
            plan.Lines.SelectMany(line => line.Practitioners)
                .Distinct()
                .Select(id => house.Practitioners.First(practitioner => practitioner.Id == id).Name)
        );

    internal static string[] RoomsOf(House house, VisitPlan plan) =>
        [.. plan.Lines.Select(line => line.RoomId).OfType<Guid>().Distinct().Select(id => house.Rooms.First(room => room.Id == id).Name)];

    /// <summary>What a plan would cost, extras and all: a visit that is moved as it would be after the move.</summary>
    private static Func<VisitPlan, MoneyAnswer> PriceOf(
        Setup setup,
        WantedVisit wanted,
        StoredVisit? moving,
        IReadOnlyList<DeskLineRequest> lines
    )
    {
        bool isWhole = moving is not null && moving.Lines.Count == lines.Count && lines.All(line => line.Id is null);
        if (isWhole)
            wanted = wanted with { AddOns = moving!.AddOnsByLine };
        Guid?[] ids = [.. lines.Select((line, i) => isWhole ? moving!.Lines[i].Id : line.Id)];
        return plan => new MoneyAnswer(
            (moving is null ? Prices.Of(setup, plan, wanted) : Prices.Laid(setup, moving, plan, wanted, ids)).Total,
            setup.Business.Currency
        );
    }

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
