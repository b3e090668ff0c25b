using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Calendar;
using Kingcup.Core.Clients;
using Kingcup.Core.Forms;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Server.Business;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>The business as strangers read it: who it is, when it is open, what it does and who does it.</summary>
internal static class BusinessShown
{
    private const int DaysOfClosures = 60;

    /// <summary>The business as anyone may read it, with what a direct link opens besides.</summary>
    internal static async Task<PublicBusiness> OfAsync(string? link, NpgsqlConnection connection, Setup setup, IClock clock)
    {
        LocalDate today = Yesterday(clock);
        Instant now = clock.GetCurrentInstant();
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
            Phone = setup.Business.Phone is { } phone && page.PhoneShown != nameof(PhoneShown.Never)
                ? ContactRules.Readable(phone)
                : null,
            IsPhoneAlwaysShown = page.PhoneShown == nameof(PhoneShown.Always),
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
                            now.InZone(location.Location.Zone).Date,
                            Hours(location.Location)
                        )
                        {
                            Closed = Closed(location.Location, closures, now),
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
            MostLines = OnlineVisits.MostLines,
            MostFileBytes = AnswerFiles.MostBytes,
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
                    closed.First == closed.Last ? Dated(closed.First) : Sentence.Say($"{Dated(closed.First)} to {Dated(closed.Last)}"),
                    closed.ForClients
                )),
        ];

    private static Sentence Dated(LocalDate date) => Sentence.Say($"{Language.Current.Write(date.DayOfWeek)} {date}");

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
    internal static LocalDate Yesterday(IClock clock) => clock.GetCurrentInstant().InUtc().Date.PlusDays(-1);

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

    /// <summary>Whether strangers read of a service, with what a direct link opens besides.</summary>
    internal static bool IsShown(ListedService listed, string? link) =>
        listed.Service.Visibility is Visibility.Everyone or Visibility.ByPhone
        || (listed.Service.Visibility == Visibility.WithLink && listed.Link == link);

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
}
