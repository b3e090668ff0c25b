using Kingcup.Core.Availability;
using Kingcup.Core.Business;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.Services;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>A question why a day looks as it does.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Lines">What is wanted.</param>
/// <param name="From">The first local date.</param>
/// <param name="Days">How many days, 1 to 62. For one day every start is told.</param>
/// <param name="AsClient">Whether to ask as a client would book online; otherwise as staff.</param>
/// <param name="NewClient">Whether that client has never been here.</param>
public sealed record DayReasonsRequest(
    Guid LocationId,
    IReadOnlyList<LineRequest>? Lines,
    LocalDate From,
    int? Days = null,
    bool AsClient = true,
    bool NewClient = true
);

/// <summary>A day explained.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Offered">How many starts of the grid are offered.</param>
/// <param name="Removed">How many each gate removed first, in order.</param>
/// <param name="Strip">Every start of the day, when one day was asked for.</param>
/// <param name="Zone">Zone of the location.</param>
public sealed record DayReasonsAnswer(
    LocalDate Date,
    int Offered,
    IReadOnlyList<GateCount> Removed,
    IReadOnlyList<StripStart> Strip,
    string Zone
);

/// <summary>What a gate removed.</summary>
/// <param name="Gate">The gate.</param>
/// <param name="Starts">Starts it removed first.</param>
public sealed record GateCount(Gate Gate, int Starts);

/// <summary>One start of a day.</summary>
/// <param name="Start">The instant.</param>
/// <param name="Clock">Local time, HH:mm.</param>
/// <param name="Offered">Whether it is offered.</param>
/// <param name="Gate">The gate that removed it first, or null.</param>
/// <param name="Reasons">Every reason, in the order of the gates.</param>
public sealed record StripStart(Instant Start, string Clock, bool Offered, Gate? Gate, IReadOnlyList<ReasonText> Reasons);

/// <summary>Something that stops the business or a service from being booked.</summary>
public sealed record ReadinessAnswer
{
    /// <summary>A sentence.</summary>
    public required string Text { get; init; }

    /// <summary>What it comes from, as a sentence: the same for all services that stop for the same cause.</summary>
    public required string Cause { get; init; }

    /// <summary>Whether nothing can be booked at all; otherwise nothing from a date on.</summary>
    public required bool Stops { get; init; }

    /// <summary>That date.</summary>
    public required LocalDate? From { get; init; }

    /// <summary>The service, or null for the whole business.</summary>
    public required Guid? ServiceId { get; init; }

    /// <summary>The location.</summary>
    public required Guid? LocationId { get; init; }

    /// <summary>The reasons of the engine.</summary>
    public required IReadOnlyList<ReasonText> Reasons { get; init; }

    /// <summary>Where to mend it: "locations", "hours", "practitioners", "rota", "rooms", "services" or the kind of the owner.</summary>
    public required string Mend { get; init; }

    /// <summary>The object to mend.</summary>
    public required Guid? MendId { get; init; }
}

/// <summary>How ready the business is.</summary>
/// <param name="Bookable">Services that clients can book online now.</param>
/// <param name="Issues">What stands in the way.</param>
/// <param name="PageOpen">Whether the booking page offers anything.</param>
public sealed record ReadinessReport(int Bookable, IReadOnlyList<ReadinessAnswer> Issues, bool PageOpen);

/// <summary>A service as it is being edited, to be tried before it is saved.</summary>
/// <param name="Service">The service.</param>
/// <param name="LocationId">Where.</param>
/// <param name="From">The first local date; today when missing.</param>
/// <param name="Days">How many days, 1 to 14; 5 when missing.</param>
/// <param name="AddOnIds">Add-ons taken with it.</param>
public sealed record TryRequest(
    ServiceDocument Service,
    Guid LocationId,
    LocalDate? From = null,
    int? Days = null,
    IReadOnlyList<Guid>? AddOnIds = null
);

/// <summary>A service as it would be, before it is saved.</summary>
/// <param name="Days">Its starts day by day.</param>
/// <param name="ExtraMinutes">What the add-ons bring.</param>
/// <param name="StretchedPhase">Index of the phase they make longer.</param>
public sealed record TryAnswer(IReadOnlyList<TryDay> Days, int ExtraMinutes, int StretchedPhase);

/// <summary>A day of a service being tried.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Starts">Starts that would be offered, HH:mm.</param>
/// <param name="Reasons">Why there are none: the reasons of the start that comes closest.</param>
public sealed record TryDay(LocalDate Date, IReadOnlyList<string> Starts, IReadOnlyList<ReasonText> Reasons);

/// <summary>The rules of online booking that hold at a place.</summary>
/// <param name="Values">The values.</param>
/// <param name="Sources">For each rule the place it comes from.</param>
public sealed record RulesAnswer(OnlineRules Values, IReadOnlyDictionary<string, RuleSource> Sources);

/// <summary>Where a rule comes from.</summary>
/// <param name="Place">The kind of place.</param>
/// <param name="Id">Its identity, or null for what is usual.</param>
/// <param name="Name">Its name.</param>
public sealed record RuleSource(RulePlace Place, Guid? Id, string Name);

/// <summary>Why something can or cannot be booked: as clients find it, as it is being edited, and for the whole business.</summary>
internal static class ReasonEndpoints
{
    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").WithTags("Reasons").Problems();
        group
            .MapPost("/starts/days", DaysAsync)
            .RequireAuthorization(Rights.KeepBook)
            .WithSummary("Days explained: what each gate removed, and for one day every start with its reasons.");
        group
            .MapGet("/needs-place", NeedsPlaceAsync)
            .RequireAuthorization(Rights.SeeBook)
            .WithSummary("Visits that have lost their place or wait for approval.");
        group
            .MapGet("/setup/readiness", ReadinessAsync)
            .RequireAuthorization(Rights.EditSetup)
            .WithSummary("What stops the business or a service from being booked.");
        group
            .MapPost("/setup/services/try", TryAsync)
            .RequireAuthorization(Rights.EditSetup)
            .WithSummary("The starts a service would have if it were saved so.");
        group
            .MapGet("/setup/rules", RulesAsync)
            .RequireAuthorization(Rights.EditSetup)
            .WithSummary(
                "The rules of online booking that hold for a location, category or service, and where each comes from; without "
                    + "any of them, what is usual."
            );
        group
            .MapGet("/setup/history", HistoryAsync)
            .RequireAuthorization(Rights.EditSetup)
            .WithSummary("Changes of the setup, newest first, by pages of 50.");
    }

    private static async Task<Ok<DayReasonsAnswer[]>> DaysAsync(DayReasonsRequest request, Database database, BookReader book, IClock clock)
    {
        int count = request.Days ?? 1;
        if (count is < 1 or > StartQueries.MostDays)
            throw Refused.Invalid("days", $"Ask for 1 to {StartQueries.MostDays} days.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(request.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        VisitWish wish = WantedVisit.Of(setup, request.Lines).Wish;
        BookingChecks.CheckWish(house, wish);
        StartFinder finder = new(house, wish);
        // As somebody with the direct link, and with whatever has to come before.
        Audience audience = new() { IsNew = request.NewClient, Links = wish.Lines.Select(line => line.ServiceId).ToHashSet() };
        IReadOnlyList<DayBook> days = await book.DaysAsync(connection, setup, house, StartQueries.CheckDate(request.From, "from"), count);
        return TypedResults.Ok(
            days.Select(day =>
                {
                    DayReasons explained = request.AsClient
                        ? finder.Explain(day, audience, clock.GetCurrentInstant())
                        : finder.ExplainFeasible(day);
                    return new DayReasonsAnswer(
                        day.Day.Date,
                        (explained.Passing & explained.Grid).Count,
                        [.. explained.Removed.Select(pair => new GateCount(pair.Key, pair.Value))],
                        count == 1 ? Strip(explained, house) : [],
                        house.Location.Zone.Id
                    );
                })
                .ToArray()
        );
    }

    /// <summary>Every start from the first to the last hour in which anything happens.</summary>
    private static List<StripStart> Strip(DayReasons explained, House house)
    {
        DayBook day = explained.Day;
        DaySet awake = day.Opening;
        foreach (Practitioner practitioner in house.Practitioners)
            awake |= day.OnShift(practitioner.Id);
        awake &= day.Day.Whole;
        (int from, int until) = awake.IsEmpty ? (8 * 12, 20 * 12) : (awake.Runs().First().From, awake.Runs().Last().Until);
        // Grids that are no clock grid show each quarter, and the starts themselves.
        bool clock = explained.Grid != day.Day.Whole;
        DaySet shown = (clock ? explained.Grid : day.Day.EveryMinutes(15)) | explained.Passing;
        return
        [
            .. (shown & DaySet.Range(from, until)).Select(grain => new StripStart(
                day.Day.At(grain),
                ClockText.Of(day, grain),
                explained.Passing.Contains(grain),
                explained.FirstGate(grain),
                ReasonWords.Of(explained.At(grain), house)
            )),
        ];
    }

    private static async Task<Ok<NeedsPlaceAnswer[]>> NeedsPlaceAsync(Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        Instant now = clock.GetCurrentInstant();
        IReadOnlyList<StoredVisit> ahead = await BookStore.AheadAsync(connection, now),
            asked = await BookStore.AskedAsync(connection, now);
        IReadOnlyList<LostVisit> lost = NeedsPlace.Of(setup, (await NeedsPlace.DatesAsync(connection, ahead)).With(setup), ahead);
        HashSet<Guid> known = [.. lost.Select(visit => visit.Visit.Visit.Id)];
        return TypedResults.Ok(
            lost.Concat(
                    asked
                        .Where(visit => !known.Contains(visit.Visit.Id))
                        .Select(visit => new LostVisit(visit, []))
                )
                .OrderBy(visit => visit.Visit.Visit.StartsAt)
                .Select(visit => NeedsPlace.Answer(setup, visit))
                .ToArray()
        );
    }

    private static async Task<Ok<ReadinessReport>> ReadinessAsync(Database database, BookReader book, ReadinessReader readiness)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(await readiness.OfAsync(connection, await book.SetupAsync(connection)));
    }

    private static async Task<Ok<TryAnswer>> TryAsync(TryRequest request, Database database, BookReader book, IClock clock)
    {
        int count = request.Days ?? 5;
        if (count is < 1 or > 14)
            throw Refused.Invalid("days", "Try 1 to 14 days.");
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(request.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        Checks checks = new();
        Service service = request.Service.Check(checks, setup, request.Service.Id ?? Guid.CreateVersion7(), 0, null).Service;
        List<ListedAddOn> extras = [];
        foreach ((int i, Guid id) in (request.AddOnIds ?? []).Index())
        {
            ListedAddOn? extra = setup.Parts.AddOns.FirstOrDefault(listed => listed.AddOn.Id == id);
            if (checks.Require(extra is not null, $"addOnIds[{i}]", "There is no such add-on.")) extras.Add(extra!);
        }

        checks.Done();
        int minutes = extras.Sum(extra => extra.AddOn.Minutes);
        House trial = house.With(service);
        Instant now = clock.GetCurrentInstant();
        LocalDate from = StartQueries.CheckDate(request.From ?? now.InZone(house.Location.Zone).Date, "from");
        StartFinder finder = new(trial, new VisitWish([new LineWish(service.Id, null, minutes)]));
        Func<DayBook, Audience>? client = WhoMayBook.IsBookedOnline(service) ? day => Readiness.Welcome(service, day) : null;
        IReadOnlyList<DayBook> days = await book.DaysAsync(connection, setup, house, from, count);
        TryDay[] tried =
        [
            .. days.Select(stored =>
                {
                    DayBook day = new(trial, stored.Day.Date, stored.Dated, stored.Taken);
                    DaySet starts = client is null
                        ? finder.Feasible(day) & day.Day.EveryMinutes(15)
                        : finder.Offered(day, client(day), now);
                    return new TryDay(
                        day.Day.Date,
                        [.. starts.Select(grain => ClockText.Of(day, grain))],
                        starts.IsEmpty ? ReasonWords.Of(Readiness.Closest(finder, [day], now, client), trial) : []
                    );
                }),
        ];
        return TypedResults.Ok(new TryAnswer(tried, minutes, LineShape.LongestAttended(service)));
    }

    private static async Task<Ok<RulesAnswer>> RulesAsync(
        Guid? locationId,
        Guid? categoryId,
        Guid? serviceId,
        Database database,
        BookReader book
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        ListedLocation? location = locationId is null
            ? null
            : setup.Locations.FirstOrDefault(listed => listed.Location.Id == locationId)
                ?? throw Refused.NotFound("There is no such location.");
        Service? service = serviceId is { } id ? setup.ServiceOf(id) ?? throw Refused.NotFound("There is no such service.") : null;
        Guid? inCategory = service?.CategoryId ?? categoryId;
        EffectiveRules rules = new(
            location?.Location,
            setup.Categories.FirstOrDefault(category => category.Category.Id == inCategory)?.Category,
            service
        );
        RuleSource Source(Func<OnlineRules, bool> isSet)
        {
            (RulePlace place, Guid? at) = rules.SourceOf(isSet);
            return new RuleSource(
                place,
                at,
                place switch
                {
                    RulePlace.Location => location!.Location.Name,
                    RulePlace.Category => setup.Categories.First(category => category.Category.Id == at).Category.Name,
                    RulePlace.Service => service!.Name,
                    _ => "usual",
                }
            );
        }

        return TypedResults.Ok(
            new RulesAnswer(
                rules.Values,
                new Dictionary<string, RuleSource>
                {
                    ["grid"] = Source(own => own.Grid is not null),
                    ["everyMinutes"] = Source(own => own.EveryMinutes is not null),
                    ["leadMinutes"] = Source(own => own.LeadMinutes is not null),
                    ["newLeadMinutes"] = Source(own => own.NewLeadMinutes is not null || own.LeadMinutes is not null),
                    ["horizonDays"] = Source(own => own.HorizonDays is not null),
                    ["newHorizonDays"] = Source(own => own.NewHorizonDays is not null || own.HorizonDays is not null),
                    ["gap"] = Source(own => own.Gap is not null),
                    ["shortestGapMinutes"] = Source(own => own.ShortestGapMinutes is not null),
                    ["assignment"] = Source(own => own.Assignment is not null),
                    ["choice"] = Source(own => own.Choice is not null),
                    ["approval"] = Source(own => own.Approval is not null),
                    ["moveNoticeHours"] = Source(own => own.MoveNoticeHours is not null),
                    ["newMoveNoticeHours"] = Source(own => own.NewMoveNoticeHours is not null || own.MoveNoticeHours is not null),
                    ["cancelNoticeHours"] = Source(own => own.CancelNoticeHours is not null),
                    ["newCancelNoticeHours"] = Source(own => own.NewCancelNoticeHours is not null || own.CancelNoticeHours is not null),
                }
            )
        );
    }

    private static async Task<Ok<SetupHistoryRow[]>> HistoryAsync(Guid? subjectId, long? before, Database database)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok((await History.OfSetupAsync(connection, subjectId, before, 50)).ToArray());
    }
}
