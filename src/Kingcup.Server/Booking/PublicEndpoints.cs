using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Clients;
using Kingcup.Server.Money;
using Kingcup.Server.Plans;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>What anyone may do without an account.</summary>
internal static class PublicEndpoints
{
    private const int Few = 3;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").AllowAnonymous().WithTags("Public").ProducesProblem(400);
        group.MapGet("/business", BusinessAsync).Limit(Limits.PublicRead).WithSummary("The business, its locations and services.");
        group.MapPost("/price", PriceAsync).Limit(Limits.PublicRead).WithSummary("What a visit costs and how long it lasts.");
        group.MapPost("/starts", StartsAsync).Limit(Limits.PublicRead).WithSummary("The starts offered, day by day.");
        group
            .MapPost("/visits", PublicBooking.BookAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Books a visit. Needs an Idempotency-Key.")
            .ProducesProblem(409)
            .ProducesProblem(422);
        UnmetEndpoints.MapPublic(group);
        PublicHolds.Map(group);
        PublicAnswers.MapPublic(group);
        PublicPayments.Map(group);
    }

    private static async Task<Ok<PublicBusiness>> BusinessAsync(string? link, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(await BusinessShown.OfAsync(link, connection, await book.SetupAsync(connection), clock));
    }

    private static async Task<Ok<PublicPrice>> PriceAsync(
        PublicPriceRequest request, HttpContext http, Database database, BookReader book, IClock clock)
    {
        Instant now = clock.GetCurrentInstant();
        CheckLines(request.Lines);
        Checks.Within(request);
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        CheckLines(setup, wanted.Wish.Lines);
        Checks checks = new();
        LocalDate yesterday = BusinessShown.Yesterday(clock);
        List<(int Person, int Minutes)> minutes = [];
        List<LineToPrice> lines = [];
        foreach ((int i, LineRequest line) in request.Lines!.Index())
        {
            ListedService? listed = setup.Services.FirstOrDefault(listedService =>
                listedService.Service.Id == line.ServiceId && BusinessShown.IsShown(listedService, request.Link)
            );
            if (!checks.Require(listed is not null, $"lines[{i}].serviceId", "There is no such service."))
                continue;
            Service service = listed!.Service;
            Guid[] who = [.. WhoMayBook.Of(service, setup.Practitioners, yesterday).Select(practitioner => practitioner.Id)];
            bool isChosen = line.PractitionerId is { } chosen && who.Contains(chosen);
            lines.Add(Prices.Line(setup, service, isChosen ? [line.PractitionerId!.Value] : who, wanted.AddOns[i]));
            int own = isChosen ? service.MinutesBy(line.PractitionerId!.Value) : listed.OnlineMinutes ?? service.Minutes;
            minutes.Add((line.Person ?? 0, own + wanted.AddOns[i].Sum(added => added.Minutes)));
        }

        checks.Done();
        PromoTried tried = Promos.Try(
            setup,
            request.Promo,
            VisitPrice.Of(lines),
            [.. lines.Select(line => line.Service.Id)],
            request.LocationId,
            request.Start,
            now
        );
        VisitPrice price = tried.Price;
        ShownClient? shown = await ShownClient.FindAsync(http, connection, request.As, now);
        Audience? audience = shown is null
            ? null
            : ShownClient.AudienceOf(shown, null, LinksOf(setup, request.Link), [], now);
        Guarantee? due = request.LocationId is { } at && setup.HouseOf(at) is not null
            ? Guarantees.Ahead(setup, at, [.. lines.Select(line => line.Service)], price, audience, now)
            : null;
        return TypedResults.Ok(
            new PublicPrice(
                OnlineVisits.MinutesOf(minutes),
                new MoneyAnswer(price.Total, setup.Business.Currency),
                price.IsFrom,
                due is null || (price.IsFrom && due.Deposit > 0) ? null : new MoneyAnswer(due.Deposit, setup.Business.Currency),
                due?.NeedsCard == true
            )
            {
                Promo = tried.Said,
            }
        );
    }

    /// <summary>The services that a direct link opens.</summary>
    internal static HashSet<Guid> LinksOf(Setup setup, string? link) =>
        [.. setup.Services.Where(service => link is not null && service.Link == link).Select(service => service.Service.Id)];

    private static async Task<Ok<PublicStarts>> StartsAsync(
        PublicStartsRequest request,
        HttpContext http,
        StartQueries queries,
        Database database,
        VisitTokens tokens,
        IClock clock
    )
    {
        OfferedDays offered = await OfferedAsync(request, http, queries, database, tokens, clock);
        (House house, Audience audience) = (offered.House, offered.Audience);
        LocalDate horizon = Horizon.Of(house, request.Lines!.Select(line => line.ServiceId), audience, offered.Now);
        LocalDate next = offered.Days[^1].Day.Date.PlusDays(1);
        bool onlyReturning =
            audience.IsNew
            && offered.Starts.All(day => day.Starts.IsEmpty)
            && offered.To(audience with { IsNew = false }).Any(day => !day.Starts.IsEmpty);
        return TypedResults.Ok(
            new PublicStarts(
                house.Location.Zone.Id,
                [.. offered.Days.Zip(offered.Starts).Where(day => day.First.Day.Date <= horizon).Select(day => Day(day.First, day.Second))],
                next <= horizon ? next : null,
                onlyReturning
            )
        );
    }

    /// <summary>The starts offered to whoever asks.</summary>
    internal static async Task<OfferedDays> OfferedAsync(
        PublicStartsRequest request,
        HttpContext http,
        StartQueries queries,
        Database database,
        VisitTokens tokens,
        IClock clock
    )
    {
        CheckLines(request.Lines);
        IReadOnlyList<EarlierVisit> before = request.After is null ? [] : await VisitAsync(database, tokens, request.After);
        Instant now = clock.GetCurrentInstant();
        ShownClient? shown = null;
        if (request.As is not null)
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            shown = await ShownClient.FindAsync(http, connection, request.As, now);
        }

        return await queries.OfferedAsync(
            new StartsRequest(request.LocationId, DeskLineRequest.Of(request.Lines), request.From, request.Days),
            (setup, wish) =>
            {
                CheckLines(setup, wish.Lines);
                return ShownClient.AudienceOf(shown, request.Returning, LinksOf(setup, request.Link), before, now);
            }
        );
    }

    /// <summary>The lines of a visit just booked, as what may have to come first.</summary>
    internal static async Task<IReadOnlyList<EarlierVisit>> VisitAsync(Database database, VisitTokens tokens, string token)
    {
        VisitTokens.Seal seal = await tokens.SealAsync(database);
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit? visit = seal.VisitOf(token) is { } id
            ? await BookStore.FindAsync(connection, id)
            : null;
        if (visit is null)
            throw Refused.Invalid("after", "There is no such visit. Book what has to come first, or call us.");
        return ClientHistory.Earlier(
            visit.Lines.Select(line => new ClientVisit(visit.Visit.VisitState, line.ServiceId, line.StartsAt, line.EndsAt))
        );
    }

    internal static PublicDay Day(DayBook day, OfferedStarts offered)
    {
        DaySet starts = offered.Starts;
        DaySet open = day.Opening & day.Day.Whole;
        string? opens = open.IsEmpty ? null : Clock(day, open.Runs().First().From),
            closes = open.IsEmpty ? null : ClosingClock(day, open.Runs().Last().Until);
        string left = open.IsEmpty
            ? "closed"
            : starts.Count switch
            {
                0 => "full",
                <= Few => "few",
                _ => "plenty",
            };
        return new PublicDay(
            day.Day.Date,
            left,
            opens,
            closes,
            day.Closure?.ForClients,
            [
                .. starts.Select(grain => new PublicStart(
                    day.Day.At(grain),
                    Clock(day, grain),
                    offered.Last.Contains(grain),
                    FullnessMap.PartOf(day.Day.WallOf(grain))
                )),
            ],
            WantedTimes.IsWeekend(day.Day.Date)
        );
    }

    private static string Clock(DayBook day, int grain) => ClockText.Of(day, grain);

    private static string ClosingClock(DayBook day, int grain) => grain == day.Day.GrainCount ? "24:00" : Clock(day, grain);

    /// <summary>Refuses what is no visit that can be booked online.</summary>
    internal static void CheckLines(Setup setup, IReadOnlyList<LineWish> lines) => Check(setup.Parts.BookingPage.Visits, lines);

    private static void Check(OnlineVisits visits, IReadOnlyList<LineWish> lines)
    {
        if (visits.FaultOf(lines) is { } fault) throw Refused.Invalid(fault.Field, fault.Message);
    }

    /// <summary>Refuses what is no list of services before anything is looked up.</summary>
    internal static void CheckLines(IReadOnlyList<LineRequest>? lines)
    {
        // How many may come together the setup says; here it is any number that an owner can allow.
        Check(
            new OnlineVisits(OnlineVisits.MostAllowed),
            [
                .. (lines ?? []).Select(line => new LineWish(line.ServiceId)
                {
                    Person = line.Person ?? 0,
                    OffsetMinutes = line.OffsetMinutes ?? 0,
                }),
            ]
        );
    }
}
