using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Forms;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.Clients;
using Kingcup.Server.Money;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>The business as strangers see it.</summary>
/// <param name="Name">Name.</param>
/// <param name="Phone">Number to call.</param>
/// <param name="Locale">Locale.</param>
/// <param name="Locations">Locations that take bookings online.</param>
/// <param name="Categories">Categories with the services shown.</param>
/// <param name="About">A few words about it.</param>
/// <param name="ColourMain">Colour of buttons.</param>
/// <param name="ColourAccent">Colour of what is chosen.</param>
/// <param name="LogoId">Its logo, or null.</param>
/// <param name="Practitioners">Who can be booked, in house order.</param>
/// <param name="Questions">What a client is asked, in order.</param>
/// <param name="Terms">What a client has to accept, or null.</param>
public sealed record PublicBusiness(
    string Name, string? Phone, string Locale, IReadOnlyList<PublicLocation> Locations, IReadOnlyList<PublicCategory> Categories,
    string About, string ColourMain, string ColourAccent, Guid? LogoId, IReadOnlyList<PublicPerson> Practitioners,
    IReadOnlyList<PublicQuestion> Questions, PublicTerms? Terms);

/// <summary>A question a client is asked.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Text">What is asked.</param>
/// <param name="Hint">What helps to answer it.</param>
/// <param name="Kind">How it is answered; yes and no are sent as "Yes" and "No".</param>
/// <param name="Choices">The choices, where one of them is the answer.</param>
/// <param name="Required">Whether nobody books without an answer.</param>
/// <param name="ServiceIds">The services it is asked for; empty for all.</param>
public sealed record PublicQuestion(
    Guid Id,
    string Text,
    string Hint,
    QuestionKind Kind,
    IReadOnlyList<string> Choices,
    bool Required,
    IReadOnlyList<Guid> ServiceIds
);

/// <summary>What a client has to accept.</summary>
/// <param name="Id">To be sent with the booking.</param>
/// <param name="Html">The text as safe HTML.</param>
public sealed record PublicTerms(long Id, string Html);

/// <summary>An answer to a question.</summary>
/// <param name="QuestionId">The question.</param>
/// <param name="Answer">The answer.</param>
public sealed record PublicAnswer(Guid QuestionId, string? Answer);

/// <summary>Where a client is led who has booked.</summary>
/// <param name="Address">The address.</param>
/// <param name="Words">What the button says, or null.</param>
/// <param name="AtOnce">Whether they are led there at once.</param>
public sealed record PublicAfter(string Address, string? Words, bool AtOnce);

/// <summary>Somebody who can be booked.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="About">A few words for clients.</param>
/// <param name="Languages">Languages spoken.</param>
/// <param name="PhotoId">A photo, or null for initials.</param>
/// <param name="LocationIds">Where they work.</param>
public sealed record PublicPerson(
    Guid Id,
    string Name,
    string About,
    IReadOnlyList<string> Languages,
    Guid? PhotoId,
    IReadOnlyList<Guid> LocationIds
);

/// <summary>A location.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Address">Address.</param>
/// <param name="Zone">Zone.</param>
public sealed record PublicLocation(Guid Id, string Name, string Address, string Zone);

/// <summary>A category.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Services">Its services.</param>
public sealed record PublicCategory(Guid Id, string Name, IReadOnlyList<PublicService> Services);

/// <summary>A service.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Description">Text.</param>
/// <param name="Minutes">Usual length.</param>
/// <param name="Price">The least it costs.</param>
/// <param name="PriceVaries">Whether some practitioners ask more.</param>
/// <param name="BookableOnline">Whether it can be booked here, or by phone only.</param>
/// <param name="Needs">The service that has to come before it, or null.</param>
/// <param name="LocationIds">Where it is done.</param>
/// <param name="Practitioners">Who does it.</param>
/// <param name="Html">The text as safe HTML.</param>
/// <param name="PictureId">A picture, or null.</param>
/// <param name="PriceForm">How the price is formed.</param>
/// <param name="Choices">Who chooses the practitioner, location by location.</param>
/// <param name="AddOns">Extras, the suggested ones first.</param>
public sealed record PublicService(
    Guid Id,
    string Name,
    string Description,
    int Minutes,
    MoneyAnswer Price,
    bool PriceVaries,
    bool BookableOnline,
    string? Needs,
    IReadOnlyList<Guid> LocationIds,
    IReadOnlyList<PublicPractitioner> Practitioners,
    string Html,
    Guid? PictureId,
    PriceForm PriceForm,
    IReadOnlyList<PublicChoice> Choices,
    IReadOnlyList<PublicAddOn> AddOns
);

/// <summary>Who chooses the practitioner at a location.</summary>
/// <param name="LocationId">The location.</param>
/// <param name="Choice">Who chooses.</param>
public sealed record PublicChoice(Guid LocationId, PractitionerChoice Choice);

/// <summary>What a visit costs and how long it lasts, as far as it is chosen.</summary>
/// <param name="Minutes">How long.</param>
/// <param name="Price">What it costs, extras and all.</param>
/// <param name="IsFrom">Whether it may cost more, with somebody who asks more or by its price form.</param>
public sealed record PublicPrice(int Minutes, MoneyAnswer Price, bool IsFrom);

/// <summary>A visit whose price is asked for.</summary>
/// <param name="Lines">What is wanted, in order.</param>
/// <param name="Link">The direct link the client came with.</param>
public sealed record PublicPriceRequest(IReadOnlyList<LineRequest>? Lines, string? Link = null);

/// <summary>An extra to a service.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Minutes">Minutes it adds.</param>
/// <param name="Price">What one costs.</param>
/// <param name="Most">Most of it.</param>
/// <param name="Suggested">Whether it is suggested.</param>
public sealed record PublicAddOn(Guid Id, string Name, int Minutes, MoneyAnswer Price, int Most, bool Suggested);

/// <summary>A practitioner for a service.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Name">Name.</param>
/// <param name="Minutes">How long it takes with them.</param>
/// <param name="Price">What it costs with them.</param>
public sealed record PublicPractitioner(Guid Id, string Name, int Minutes, MoneyAnswer Price);

/// <summary>The starts offered.</summary>
/// <param name="Zone">Zone of the location.</param>
/// <param name="Days">The days asked for.</param>
/// <param name="Next">The first date after them worth asking for, or null when the horizon is reached.</param>
/// <param name="OnlyReturning">Nothing is offered because whoever does this accepts no new clients.</param>
public sealed record PublicStarts(string Zone, IReadOnlyList<PublicDay> Days, LocalDate? Next, bool OnlyReturning);

/// <summary>A day with its starts.</summary>
/// <param name="Date">The local date.</param>
/// <param name="Left">"closed", "full", "few" or "plenty".</param>
/// <param name="Opens">When clients may first be there, HH:mm; null when closed.</param>
/// <param name="Closes">When the last has left, HH:mm (24:00 for midnight); null when closed.</param>
/// <param name="Closed">What clients read of a closure, or null.</param>
/// <param name="Starts">Starts by time.</param>
public sealed record PublicDay(
    LocalDate Date,
    string Left,
    string? Opens,
    string? Closes,
    string? Closed,
    IReadOnlyList<PublicStart> Starts
);

/// <summary>A start.</summary>
/// <param name="Start">The instant.</param>
/// <param name="Clock">Local time, HH:mm.</param>
/// <param name="Last">Whether the house would rather give another: shown after the others.</param>
public sealed record PublicStart(Instant Start, string Clock, bool Last);

/// <summary>A visit to be booked online.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Start">When.</param>
/// <param name="Lines">What.</param>
/// <param name="GivenName">Given name.</param>
/// <param name="FamilyName">Family name.</param>
/// <param name="Email">E-mail address.</param>
/// <param name="Phone">Mobile number.</param>
/// <param name="Link">The direct link the client came with.</param>
/// <param name="AcceptedTerms">The terms the client has accepted.</param>
/// <param name="Answers">What they answered.</param>
public sealed record PublicBookRequest(
    Guid LocationId,
    Instant Start,
    IReadOnlyList<LineRequest>? Lines,
    string? GivenName,
    string? FamilyName,
    string? Email,
    string? Phone,
    string? Link = null,
    long? AcceptedTerms = null,
    IReadOnlyList<PublicAnswer>? Answers = null
);

/// <summary>A visit booked online.</summary>
/// <param name="Reference">What to say on the telephone.</param>
/// <param name="Start">When.</param>
/// <param name="End">Until when.</param>
/// <param name="Zone">Zone of the location.</param>
/// <param name="Location">Where.</param>
/// <param name="Address">Its address.</param>
/// <param name="Lines">What and with whom.</param>
/// <param name="Price">What it costs.</param>
/// <param name="IsRequest">Whether it waits for the desk to approve it.</param>
/// <param name="After">Where the client is led now, or null.</param>
public sealed record PublicVisit(
    string Reference,
    Instant Start,
    Instant End,
    string Zone,
    string Location,
    string Address,
    IReadOnlyList<string> Lines,
    MoneyAnswer Price,
    bool IsRequest,
    PublicAfter? After
);

/// <summary>What anyone may do without an account.</summary>
internal static class PublicEndpoints
{
    private const int Few = 3, MostLines = 4;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").AllowAnonymous().WithTags("Public").ProducesProblem(400);
        group.MapGet("/business", BusinessAsync).Limit(Limits.PublicRead).WithSummary("The business, its locations and services.");
        group.MapPost("/price", PriceAsync).Limit(Limits.PublicRead).WithSummary("What a visit costs and how long it lasts.");
        group.MapPost("/starts", AnswerStartsAsync).Limit(Limits.PublicRead).WithSummary("The starts offered, day by day.");
        group
            .MapPost("/visits", BookAsync)
            .Limit(Limits.PublicBook)
            .WithSummary("Books a visit. Needs an Idempotency-Key.")
            .ProducesProblem(409)
            .ProducesProblem(422);
    }

    private static async Task<Ok<PublicBusiness>> BusinessAsync(string? link, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        LocalDate today = Yesterday(clock);
        ILookup<Guid, Guid> changed = await CalendarReader.PlacesAsync(connection, today);
        return TypedResults.Ok(
            new PublicBusiness(
                setup.Business.Name,
                setup.Business.Phone is { } phone ? Core.Clients.ContactRules.Readable(phone) : null,
                setup.Business.Locale,
                [
                    .. setup
                        .Locations.Where(one => setup.Parts.BookingPage.BookableOnline && one.Location.BookableOnline)
                        .Select(one => new PublicLocation(one.Location.Id, one.Location.Name, one.Address, one.Location.Zone.Id)),
                ],
                [
                    .. setup
                        .Categories.Select(category => new PublicCategory(
                            category.Category.Id,
                            category.Category.Name,
                            [
                                .. setup
                                    .Services.Where(one => one.Service.CategoryId == category.Category.Id && IsShown(one, link))
                                    .Select(one => Service(setup, one, today)),
                            ]
                        ))
                        .Where(category => category.Services.Count > 0),
                ],
                setup.Business.About,
                setup.Business.ColourMain,
                setup.Business.ColourAccent,
                setup.Business.LogoId,
                [
                    .. setup
                        .Parts.Practitioners.Where(one => one.Practitioner.BookableOnline && !one.Practitioner.IsRetiredOn(today))
                        .Select(one => new PublicPerson(
                            one.Practitioner.Id,
                            one.Practitioner.Name,
                            one.Bio,
                            one.Languages,
                            one.PhotoId,
                            PlacesOf(setup, one.Practitioner.Id, changed)
                        )),
                ],
                [
                    .. setup
                        .Parts.Questions.Where(one => !one.IsArchived)
                        .Select(one => one.Question)
                        .Select(one => new PublicQuestion(
                            one.Id,
                            one.Text,
                            one.Hint,
                            one.Kind,
                            one.Choices,
                            one.Required,
                            [.. one.Services]
                        )),
                ],
                setup.Parts.BookingPage.TermsId is { } terms
                    ? new PublicTerms(terms, TextForClients.Html(setup.Parts.BookingPage.Terms))
                    : null
            )
        );
    }

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
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        Checks checks = new();
        int minutes = 0;
        List<LineToPrice> lines = [];
        foreach ((int i, LineRequest line) in request.Lines!.Index())
        {
            ListedService? listed = setup.Services.FirstOrDefault(one => one.Service.Id == line.ServiceId && IsShown(one, request.Link));
            if (!checks.Require(listed is not null, $"lines[{i}].serviceId", "There is no such service.")) continue;
            Service service = listed!.Service;
            Guid[] who = [.. WhoMayBook.Of(service, setup.Practitioners, Yesterday(clock)).Select(one => one.Id)];
            bool isChosen = line.PractitionerId is { } chosen && who.Contains(chosen);
            lines.Add(Prices.Line(setup, service, isChosen ? [line.PractitionerId!.Value] : who, wanted.AddOns[i]));
            minutes +=
                (isChosen ? service.MinutesBy(line.PractitionerId!.Value) : listed.OnlineMinutes ?? service.Minutes)
                + wanted.AddOns[i].Sum(added => added.Minutes);
        }

        checks.Done();
        VisitPrice price = VisitPrice.Of(lines);
        return TypedResults.Ok(new PublicPrice(minutes, new MoneyAnswer(price.Total, setup.Business.Currency), price.IsFrom));
    }

    private static bool IsShown(ListedService listed, string? link) =>
        listed.Service.Visibility is Visibility.Everyone or Visibility.ByPhone
        || (listed.Service.Visibility == Visibility.WithLink && listed.Link == link);

    private static HashSet<Guid> LinksOf(Setup setup, string? link) =>
        [.. setup.Services.Where(one => link is not null && one.Link == link).Select(one => one.Service.Id)];

    private static PublicService Service(Setup setup, ListedService listed, LocalDate today)
    {
        Service service = listed.Service;
        string currency = setup.Business.Currency;
        List<Practitioner> who = [.. WhoMayBook.Of(service, setup.Practitioners, today)];
        PricedLine from = VisitPrice.Of(Prices.Line(setup, service, [.. who.Select(one => one.Id)], []));
        return new PublicService(
            service.Id,
            listed.OnlineName ?? service.Name,
            listed.Description,
            listed.OnlineMinutes ?? service.Minutes,
            new MoneyAnswer(from.Total, currency),
            from.IsFrom,
            WhoMayBook.IsBookedOnline(service) && who.Count > 0,
            service.Prerequisite is { } before ? setup.ServiceOf(before.ServiceId)?.Name : null,
            service.Locations.Count > 0 ? [.. service.Locations] : [.. setup.Locations.Select(one => one.Location.Id)],
            [
                .. who.Select(one => new PublicPractitioner(
                    one.Id,
                    one.Name,
                    service.MinutesBy(one.Id),
                    new MoneyAnswer(VisitPrice.Of(Prices.Line(setup, service, [one.Id], [])).Total, currency)
                )),
            ],
            TextForClients.Html(listed.Description),
            listed.PictureId,
            service.PriceForm,
            Choices(setup, service),
            [
                .. setup
                    .Parts.AddOns.Where(one => !one.IsArchived && one.AddOn.Services.ContainsKey(service.Id))
                    .Select(one => one.AddOn)
                    .OrderByDescending(one => one.Services[service.Id])
                    .ThenBy(one => one.Order)
                    .Select(one => new PublicAddOn(
                        one.Id,
                        one.Name,
                        one.Minutes,
                        new MoneyAnswer(one.Price, currency),
                        one.Limit,
                        one.Services[service.Id]
                    )),
            ]
        );
    }

    private static PublicChoice[] Choices(Setup setup, Service service) =>
        [.. setup.Houses.Where(house => service.Locations.Count == 0 || service.Locations.Contains(house.Location.Id))
            .Select(house => new PublicChoice(house.Location.Id, house.RulesOf(service).Values.Choice!.Value))];

    /// <summary>Refuses a choice of practitioner that is not the client's, or one they have not made.</summary>
    private static void CheckChoice(House? house, IReadOnlyList<LineRequest> lines)
    {
        Checks checks = new();
        foreach ((int i, LineRequest line) in lines.Index())
        {
            if (house is null || !house.Services.TryGetValue(line.ServiceId, out Service? service)) continue;
            PractitionerChoice choice = house.RulesOf(service).Values.Choice!.Value;
            if (WhoMayBook.MayChoose(choice, line.PractitionerId is not null))
                continue;
            checks.Require(
                false,
                $"lines[{i}].practitionerId",
                choice == PractitionerChoice.House ? "For this service the house chooses who does it." : "Choose who is to do it."
            );
        }

        checks.Done();
    }

    private static async Task<Ok<PublicStarts>> AnswerStartsAsync(StartsRequest request, StartQueries queries)
    {
        CheckLines(request.Lines);
        return TypedResults.Ok(await StartsAsync(queries, request));
    }

    /// <summary>What the booking page answers to a question for starts.</summary>
    internal static async Task<PublicStarts> StartsAsync(StartQueries queries, StartsRequest request)
    {
        OfferedDays offered = await queries.OfferedAsync(
            request with
            {
                VisitId = null,
            },
            setup => new Audience { IsNew = request.Returning != true, Links = LinksOf(setup, request.Link) }
        );
        (House house, Audience audience) = (offered.House, offered.Audience);
        LocalDate horizon = Horizon.Of(house, request.Lines!.Select(line => line.ServiceId), audience, offered.Now);
        LocalDate next = offered.Days[^1].Day.Date.PlusDays(1);
        bool onlyReturning =
            audience.IsNew
            && offered.Starts.All(day => day.Starts.IsEmpty)
            && offered.To(audience with { IsNew = false }).Any(day => !day.Starts.IsEmpty);
        return new PublicStarts(
            house.Location.Zone.Id,
            [.. offered.Days.Zip(offered.Starts).Where(day => day.First.Day.Date <= horizon).Select(day => Day(day.First, day.Second))],
            next <= horizon ? next : null,
            onlyReturning);
    }

    private static PublicDay Day(DayBook day, OfferedStarts offered)
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
            [.. starts.Select(grain => new PublicStart(day.Day.At(grain), Clock(day, grain), offered.Last.Contains(grain)))]
        );
    }

    private static string Clock(DayBook day, int grain) => ClockText.Of(day, grain);

    private static string ClosingClock(DayBook day, int grain) => grain == day.Day.GrainCount ? "24:00" : Clock(day, grain);

    private static async Task<Created<PublicVisit>> BookAsync(
        PublicBookRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        Addresses addresses,
        IClock clock
    )
    {
        CheckLines(request.Lines);
        RequestKey key =
            http.Key()
            ?? throw Refused.Invalid("Idempotency-Key", "Send an Idempotency-Key, so that a repeated request does not book twice.");
        Setup setup;
        await using (NpgsqlConnection connection = await database.OpenAsync()) setup = await book.SetupAsync(connection);
        Checks checks = new();
        ClientRow stranger = new NewClientRequest(request.GivenName, request.FamilyName, request.Email, request.Phone)
            .Check("", setup.Business.Region, clock.GetCurrentInstant(), reachable: true, checks);
        List<VisitAnswerRow> answers = Answers(setup, request, checks);
        checks.Require(
            setup.Parts.BookingPage.TermsId is null || request.AcceptedTerms is not null,
            "acceptedTerms",
            "Please accept the terms."
        );
        if (request.AcceptedTerms is { } accepted)
            checks.Require(accepted == setup.Parts.BookingPage.TermsId, "acceptedTerms", "The terms have changed. Please read them again.");
        checks.Done();

        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        CheckChoice(setup.HouseOf(request.LocationId), request.Lines!);
        StoredVisit visit = await desk.BookAsync(
            new BookingOrder
            {
                LocationId = request.LocationId,
                Start = request.Start,
                Wanted = wanted,
                Client = new ClientAsked(null, stranger),
                NewClient = stranger,
                Source = "Online",
                Links = LinksOf(setup, request.Link),
                TermsId = request.AcceptedTerms,
                Answers = answers,
                Origin = new OriginAsked(
                    stranger.Email!,
                    stranger.Phone!,
                    await addresses.DeviceAsync(http),
                    await addresses.RangeAsync(http)
                ),
            },
            new Actor("Booking page", "public"),
            key,
            answer: (present, booked) => new Answered(null, Booked(present, booked, clock.GetCurrentInstant())),
            seen: setup
        );
        return TypedResults.Created((string?)null, Booked(setup, visit, clock.GetCurrentInstant()));
    }

    private static PublicVisit Booked(Setup setup, StoredVisit visit, Instant now)
    {
        ListedLocation location = setup.Locations.First(one => one.Location.Id == visit.Visit.LocationId);
        VisitAnswer answer = DayPicture.Of(setup, visit, now);
        return new PublicVisit(
            answer.Reference,
            answer.Start,
            answer.End,
            answer.Zone,
            location.Location.Name,
            location.Address,
            [.. answer.Lines.Select(line => $"{line.Service} with {string.Join(" and ", line.Practitioners.Select(one => one.Name))}")],
            answer.Price,
            answer.State == VisitState.Requested,
            setup.Parts.BookingPage is { AfterAddress: { } address } page
                ? new PublicAfter(address, page.AfterWords, page.AfterAtOnce)
                : null
        );
    }

    /// <summary>The answers to what is asked for these services; what nobody asked is passed over.</summary>
    private static List<VisitAnswerRow> Answers(Setup setup, PublicBookRequest request, Checks checks)
    {
        List<VisitAnswerRow> kept = [];
        foreach (
            Question question in setup
                .Parts.Questions.Where(one => !one.IsArchived)
                .Select(one => one.Question)
                .Where(one => one.IsAskedFor(request.Lines!.Select(line => line.ServiceId)))
        )
        {
            string answer = request.Answers?.LastOrDefault(one => one.QuestionId == question.Id)?.Answer?.Trim() ?? "";
            if (question.Fault(answer) is { } fault)
                checks.Require(false, $"answers.{question.Id}", fault);
            else if (answer.Length > 0)
                kept.Add(
                    new VisitAnswerRow
                    {
                        QuestionId = question.Id,
                        Question = question.Text,
                        Answer = answer,
                    }
                );
        }

        return kept;
    }

    private static void CheckLines(IReadOnlyList<LineRequest>? lines)
    {
        if (lines is null || lines.Count is 0 or > MostLines) throw Refused.Invalid("lines", $"Choose one to {MostLines} services.");
        foreach ((int i, LineRequest line) in lines.Index())
            if (line is { Person: not (null or 0) } or { OffsetMinutes: not (null or 0) })
                throw Refused.Invalid($"lines[{i}].person", "Online a client books for one person; call us for several.");
    }
}
