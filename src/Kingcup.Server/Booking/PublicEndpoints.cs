using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
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
    private const int Few = 3,
        DaysOfClosures = 60;

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
        PublicPayments.Map(group);
    }

    private static async Task<Ok<PublicBusiness>> BusinessAsync(string? link, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        return TypedResults.Ok(await ShownAsync(link, connection, await book.SetupAsync(connection), clock));
    }

    /// <summary>The business as anyone may read it, with what a direct link opens besides.</summary>
    internal static async Task<PublicBusiness> ShownAsync(string? link, NpgsqlConnection connection, Setup setup, IClock clock)
    {
        LocalDate today = Yesterday(clock);
        ILookup<Guid, Guid> changed = await CalendarReader.PlacesAsync(connection, today);
        BookingPageRow page = setup.Parts.BookingPage;
        Closure[] closures =
        [
            .. setup.Parts.YearlyClosures
                .Concat((await CalendarReader.ClosedDaysAsync(connection, today)).Closures)
                .Select(closure => closure.Value),
        ];
        return new PublicBusiness
        {
            Name = setup.Business.Name,
            Phone = setup.Business.Phone is { } phone ? ContactRules.Readable(phone) : null,
            Locale = setup.Business.Locale,
            Locations =
                [
                    .. setup
                        .Locations.Where(location => setup.Parts.BookingPage.BookableOnline && location.Location.BookableOnline)
                        .Select(location => new PublicLocation(
                            location.Location.Id,
                            location.Location.Name,
                            location.Address,
                            location.Location.Zone.Id,
                            clock.GetCurrentInstant().InZone(location.Location.Zone).Date,
                            Hours(location.Location)
                        )
                        {
                            Closed = Closed(location.Location, closures, clock.GetCurrentInstant()),
                        }),
                ],
            Categories =
                [
                    .. setup
                        .Categories.Select(category => new PublicCategory(
                            category.Category.Id,
                            category.Category.Name,
                            [
                                .. setup
                                    .Services.Where(service => service.Service.CategoryId == category.Category.Id && IsShown(service, link))
                                    .Select(service => Service(setup, service, today)),
                            ]
                        ))
                        .Where(category => category.Services.Count > 0),
                ],
            About = setup.Business.About,
            ColourMain = setup.Business.ColourMain,
            ColourAccent = setup.Business.ColourAccent,
            LogoId = setup.Business.LogoId,
            Pictures = [.. setup.Business.Pictures.Select(picture => new PublicPicture(picture.PictureId, picture.Words))],
            Access = new PublicAccess(page.BooksGuests, page.BooksNew, page.BooksKnown),
            MostPeople = page.MostPeopleOnline,
            Practitioners =
                [
                    .. setup
                        .Parts.Practitioners.Where(practitioner =>
                            practitioner.Practitioner.BookableOnline && !practitioner.Practitioner.IsRetiredOn(today)
                        )
                        .Select(practitioner => new PublicPerson(
                            practitioner.Practitioner.Id,
                            practitioner.Practitioner.Name,
                            practitioner.Bio,
                            practitioner.Languages,
                            practitioner.PhotoId,
                            PlacesOf(setup, practitioner.Practitioner.Id, changed)
                        )),
                ],
            Questions =
                [
                    .. setup
                        .Parts.Questions.Where(question => !question.IsArchived)
                        .Select(question => question.Question)
                        .Select(question => new PublicQuestion(
                            question.Id,
                            question.Text,
                            question.Hint,
                            question.Kind,
                            question.Choices,
                            question.Required,
                            [.. question.Services]
                        )),
                ],
            Terms = setup.Parts.BookingPage.TermsId is { } terms
                    ? new PublicTerms(terms, TextForClients.Html(setup.Parts.BookingPage.Terms))
                    : null,
        };
    }

    private static PublicHours[] Hours(Location location) =>
        [.. OpeningDays.Of(location.Opening).Select(days => new PublicHours(Weekdays(days), OpenOn(days)))];

    private static PublicClosed[] Closed(Location location, IEnumerable<Closure> closures, Instant now) =>
        [
            .. ClosedDays.Of(location, closures, now.InZone(location.Zone).Date, DaysOfClosures)
                .Select(closed => new PublicClosed(
                    closed.First == closed.Last ? Sentence.Say($"{closed.First}") : Sentence.Say($"{closed.First} to {closed.Last}"),
                    closed.ForClients
                )),
        ];

    private static string Weekdays(OpeningDays days)
    {
        string first = Language.Current.Write(days.First),
            last = Language.Current.Write(days.Last);
        return days.First == days.Last ? first : Sentence.Say($"{first}–{last}");
    }

    private static string OpenOn(OpeningDays days) =>
        days.Open.Count == 0
            ? Sentence.Say("closed")
            : string.Join(", ", days.Open.Select(open => (string)Sentence.Say($"{open.From}–{open.Until}")));

    /// <summary>A date on which, in every zone, what ends today still holds.</summary>
    private static LocalDate Yesterday(IClock clock) => clock.GetCurrentInstant().InUtc().Date.PlusDays(-1);

    /// <summary>Where somebody has shifts: by a rota, or on a changed day still to come.</summary>
    private static Guid[] PlacesOf(Setup setup, Guid practitionerId, ILookup<Guid, Guid> changed) =>
        [
            .. setup
                .Parts.Rotas.Where(rota => rota.Value.PractitionerId == practitionerId)
                .SelectMany(rota => rota.Value.Shifts)
                .Select(shift => shift.Shift.LocationId)
                .Concat(changed[practitionerId])
                .Distinct(),
        ];

    private static async Task<Ok<PublicPrice>> PriceAsync(PublicPriceRequest request, Database database, BookReader book, IClock clock)
    {
        CheckLines(request.Lines);
        Checks.Within(request);
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        CheckLines(setup, wanted.Wish.Lines);
        Checks checks = new();
        List<(int Person, int Minutes)> minutes = [];
        List<LineToPrice> lines = [];
        foreach ((int i, LineRequest line) in request.Lines!.Index())
        {
            ListedService? listed = setup.Services.FirstOrDefault(listedService =>
                listedService.Service.Id == line.ServiceId && IsShown(listedService, request.Link)
            );
            if (!checks.Require(listed is not null, $"lines[{i}].serviceId", "There is no such service."))
                continue;
            Service service = listed!.Service;
            Guid[] who = [.. WhoMayBook.Of(service, setup.Practitioners, Yesterday(clock)).Select(practitioner => practitioner.Id)];
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
            clock.GetCurrentInstant()
        );
        VisitPrice price = tried.Price;
        Guarantee? due = request.LocationId is { } at && setup.HouseOf(at) is not null
            ? Guarantees.OfStranger(setup, at, [.. lines.Select(line => line.Service)], price, clock.GetCurrentInstant())
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

    private static bool IsShown(ListedService listed, string? link) =>
        listed.Service.Visibility is Visibility.Everyone or Visibility.ByPhone
        || (listed.Service.Visibility == Visibility.WithLink && listed.Link == link);

    /// <summary>The services that a direct link opens.</summary>
    internal static HashSet<Guid> LinksOf(Setup setup, string? link) =>
        [.. setup.Services.Where(service => link is not null && service.Link == link).Select(service => service.Service.Id)];

    private static PublicService Service(Setup setup, ListedService listed, LocalDate today)
    {
        Service service = listed.Service;
        string currency = setup.Business.Currency;
        List<Practitioner> who = [.. WhoMayBook.Of(service, setup.Practitioners, today)];
        PricedLine from = VisitPrice.Of(Prices.Line(setup, service, [.. who.Select(practitioner => practitioner.Id)], []));
        return new PublicService
        {
            Id = service.Id,
            Name = listed.OnlineName ?? service.Name,
            Description = listed.Description,
            Minutes = listed.OnlineMinutes ?? service.Minutes,
            Price = new MoneyAnswer(from.Total, currency),
            PriceVaries = from.IsFrom,
            BookableOnline = WhoMayBook.IsBookedOnline(service) && who.Count > 0,
            Needs = NeedOf(setup, service),
            LocationIds =
                service.Locations.Count > 0 ? [.. service.Locations] : [.. setup.Locations.Select(location => location.Location.Id)],
            Practitioners =
            [
                .. who.Select(practitioner => new PublicPractitioner(
                    practitioner.Id,
                    practitioner.Name,
                    service.MinutesBy(practitioner.Id),
                    new MoneyAnswer(VisitPrice.Of(Prices.Line(setup, service, [practitioner.Id], [])).Total, currency)
                )),
            ],
            Html = TextForClients.Html(listed.Description),
            PictureId = listed.PictureId,
            PriceForm = service.PriceForm,
            Choices = Choices(setup, service),
            AddOns =
            [
                .. setup
                    .Parts.AddOns.Where(addOn => !addOn.IsArchived && addOn.AddOn.Services.ContainsKey(service.Id))
                    .OrderByDescending(addOn => addOn.AddOn.Services[service.Id])
                    .ThenBy(addOn => addOn.AddOn.Order)
                    .Select(addOn => new PublicAddOn(
                        addOn.AddOn.Id,
                        addOn.AddOn.Name,
                        addOn.AddOn.Minutes,
                        new MoneyAnswer(addOn.AddOn.Price, currency),
                        addOn.AddOn.Limit,
                        addOn.AddOn.Services[service.Id]
                    )
                    {
                        Words = addOn.Words,
                    }),
            ],
        };
    }

    private static PublicNeed? NeedOf(Setup setup, Service service) =>
        service.Prerequisite is { } before && setup.Services.FirstOrDefault(listed => listed.Service.Id == before.ServiceId) is { } first
            ? new PublicNeed(before.ServiceId, first.OnlineName ?? first.Service.Name, before.AtLeastHours, before.AtMostDays)
            : null;

    private static PublicChoice[] Choices(Setup setup, Service service) =>
        [
            .. setup
                .Houses.Where(house => service.Locations.Count == 0 || service.Locations.Contains(house.Location.Id))
                .Select(house => new PublicChoice(house.Location.Id, house.RulesOf(service).Values.Choice!.Value)),
        ];

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
        if (visits.Fault(lines) is { } fault)
            throw Refused.Invalid(fault.Line is { } i ? $"lines[{i}].person" : "lines", fault.Words);
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
