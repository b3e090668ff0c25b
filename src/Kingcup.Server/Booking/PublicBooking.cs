using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Forms;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Clients;
using Kingcup.Server.Messages;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <summary>Booking by a stranger.</summary>
internal static class PublicBooking
{
    /// <summary>Most characters of what a client writes to the business.</summary>
    internal const int LongestNote = 500;

    internal static readonly Actor Actor = new("Booking page", "public") { IsClient = true };

    internal static async Task<Created<PublicVisit>> BookAsync(
        PublicBookRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        Addresses addresses,
        VisitTokens tokens,
        IClock clock
    )
    {
        PublicEndpoints.CheckLines(request.Lines);
        Checks.Within(request);
        RequestKey key = KeyOf(http);
        Setup setup = await book.SetupAsync(database, key);
        VisitTokens.Seal seal = await tokens.SealAsync(database);
        Instant now = clock.GetCurrentInstant();
        (request, ShownClient? shown) = await ShownAsync(setup, request, http, database, now);
        BookingOrder order = OrderOf(
            setup,
            request,
            shown,
            await OriginAsync(request, http, addresses),
            await PublicAnswers.FilesAsync(database, setup, request, now - AnswerFiles.Taken),
            now
        );
        PublicVisit? booked = null;
        await desk.BookAsync(
            order,
            Actor,
            key,
            answer: (present, visit) => new Answered(null, booked = Booked(present, visit, seal, clock.GetCurrentInstant())),
            seen: setup
        );
        return TypedResults.Created((string?)null, booked!);
    }

    /// <summary>As whom somebody books: of whoever has shown who they are, their record says what others type.</summary>
    /// <exception cref="Refused">They have not shown it, or the business wants it shown first.</exception>
    internal static async Task<(PublicBookRequest Request, ShownClient? Shown)> ShownAsync(
        Setup setup,
        PublicBookRequest request,
        HttpContext http,
        Database database,
        Instant now
    )
    {
        BookingAccess access = setup.Parts.BookingPage.Access;
        if (!access.Lets(request.As is not null, isProven: false))
        {
            await using Npgsql.NpgsqlConnection asking = await database.OpenAsync();
            if (!access.Lets(request.As is not null, await IsProvenAsync(setup, request, http, asking, now)))
                throw new Refused(
                    StatusCodes.Status401Unauthorized,
                    "show-first",
                    "Show who you are before you book: have a code sent to your address."
                );
        }

        if (request.As is null) return (request, null);
        await using Npgsql.NpgsqlConnection connection = await database.OpenAsync();
        ShownClient shown = (await ShownClient.FindAsync(http, connection, request.As, now))!;
        ClientRow client = shown.Client;
        return (
            request with
            {
                GivenName = client.GivenName,
                FamilyName = client.FamilyName,
                Email = client.Email,
                Phone = client.Phone,
            },
            shown
        );
    }

    /// <summary>Whether one of the addresses somebody gives is that which they have shown to be theirs.</summary>
    private static async Task<bool> IsProvenAsync(
        Setup setup,
        PublicBookRequest request,
        HttpContext http,
        Npgsql.NpgsqlConnection connection,
        Instant now
    ) =>
        await OwnDoor.ShownAsync(http, connection, now) is { Session.Address: { } proven }
        && (ContactRules.Email(request.Email ?? "") == proven
            || ContactRules.Phone(request.Phone ?? "", setup.Business.Region) == proven);

    internal static RequestKey KeyOf(HttpContext http) =>
        http.Key()
        ?? throw Refused.Invalid("Idempotency-Key", "Send an Idempotency-Key, so that a repeated request does not book twice.");

    /// <summary>What whoever books is known by.</summary>
    internal static async Task<OriginAsked> OriginAsync(PublicBookRequest request, HttpContext http, Addresses addresses) =>
        new(request.Email ?? "", request.Phone ?? "", await addresses.DeviceAsync(http), await addresses.RangeAsync(http));

    /// <summary>Who books, and what they answer; what is wrong of it is noted.</summary>
    internal static (ClientRow Stranger, List<VisitAnswerRow> Answers) WhoOf(
        Setup setup,
        PublicBookRequest request,
        IReadOnlyList<SentFile> files,
        Instant now,
        Checks checks
    ) =>
        (
            new NewClientRequest(request.GivenName, request.FamilyName, request.Email, request.Phone).Check(
                "",
                setup.Business.Region,
                now,
                reachable: true,
                checks
            ),
            PublicAnswers.Of(setup, request, files, checks)
        );

    /// <summary>What whoever books agrees to, in the words the page asks them in.</summary>
    internal static IReadOnlyList<(string Kind, string Words)> AgreedTo(PublicBookRequest request)
    {
        List<(string Kind, string Words)> agreed = [];
        if (request.AgreesToTexts) agreed.Add((nameof(ConsentKind.Texts), Say("Text messages about my bookings")));
        if (request.AgreesToNews) agreed.Add((nameof(ConsentKind.News), Say("News by e-mail or text")));
        return agreed;
    }

    /// <summary>What is to be booked.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="request">What the client sent.</param>
    /// <param name="shown">Who they have shown to be, or null.</param>
    /// <param name="origin">What they are known by, besides address and number.</param>
    /// <param name="files">The files they have sent as answers.</param>
    /// <param name="now">The present.</param>
    /// <exception cref="Refused">Something is missing or wrong.</exception>
    internal static BookingOrder OrderOf(
        Setup setup,
        PublicBookRequest request,
        ShownClient? shown,
        OriginAsked origin,
        IReadOnlyList<SentFile> files,
        Instant now
    )
    {
        Checks checks = new();
        (ClientRow typed, List<VisitAnswerRow> answers) = WhoOf(setup, request, files, now, shown is null ? checks : new Checks());
        if (shown is not null) answers = PublicAnswers.Of(setup, request, files, checks);
        ClientRow stranger = shown?.Client ?? typed;
        checks.Require(
            setup.Parts.BookingPage.TermsId is null || request.AcceptedTerms is not null,
            "acceptedTerms",
            "Please accept the terms."
        );
        if (request.AcceptedTerms is { } accepted)
            checks.Require(accepted == setup.Parts.BookingPage.TermsId, "acceptedTerms", "The terms have changed. Please read them again.");
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        PublicEndpoints.CheckLines(setup, wanted.Wish.Lines);
        IReadOnlyList<VisitPersonRow> people = PeopleOf(request, checks);
        string note = NoteOf(request, checks);
        checks.Done();
        CheckChoice(setup.HouseOf(request.LocationId), request.Lines!);
        return new BookingOrder
        {
            LocationId = request.LocationId,
            Start = request.Start,
            Wanted = wanted,
            Client = shown is null ? new ClientAsked(null, stranger) : new ClientAsked(stranger.Id),
            NewClient = shown is null ? stranger : null,
            PayerId = shown?.PayerId,
            IsShown = shown is not null,
            Source = "Online",
            Links = PublicEndpoints.LinksOf(setup, request.Link),
            TermsId = request.AcceptedTerms,
            Agreed = AgreedTo(request),
            People = people,
            Answers = answers,
            ClientNote = note,
            Origin = origin with { Email = stranger.Email ?? "", Phone = stranger.Phone ?? "" },
            HoldToken = PublicHolds.HashOf(request.Hold),
            Asked = PublicHolds.AskedHash(request.LocationId, request.Start, request.Lines!),
            Promo = request.Promo,
            PriceSeen = request.PriceSeen,
            DueSeen = request.DueSeen,
            PolicySeen = request.PolicySeen,
        };
    }

    /// <summary>What they have written to the business, or empty.</summary>
    internal static string NoteOf(PublicBookRequest request, Checks checks)
    {
        string note = request.Note?.Trim() ?? "";
        checks.Require(
            !note.Any(letter => char.IsControl(letter) && letter is not ('\n' or '\r' or '\t')),
            "note",
            "Write it without control characters."
        );
        return note;
    }

    /// <summary>Who comes along; each has a name.</summary>
    internal static IReadOnlyList<VisitPersonRow> PeopleOf(PublicBookRequest request, Checks checks)
    {
        int come = OnlineVisits.ComingTo((request.Lines ?? []).Select(line => line.Person ?? 0));
        return PersonRequest.Check(
            [.. Enumerable.Range(0, come - 1).Select(i => new PersonRequest(Name: request.People?.ElementAtOrDefault(i)))],
            checks,
            Say("Enter the name of whoever comes along.")
        );
    }

    internal static PublicVisit Booked(Setup setup, StoredVisit visit, VisitTokens.Seal seal, Instant now)
    {
        ListedLocation location = setup.Locations.First(listed => listed.Location.Id == visit.Visit.LocationId);
        VisitAnswer answer = DayPicture.Of(setup, visit, now);
        return new PublicVisit
        {
            Reference = answer.Reference,
            Start = answer.Start,
            End = answer.End,
            Zone = answer.Zone,
            Location = location.Location.Name,
            Address = location.Address,
            Lines = LinesOf(answer),
            Price = answer.Price,
            Rest = answer.Price,
            Calendar = answer.State == VisitState.Requested
                ? null
                : MessageWriter.CalendarOf(setup, visit, List([.. answer.Lines.Select(line => line.Service)]), isGone: false),
            IsRequest = answer.State == VisitState.Requested,
            After = setup.Parts.BookingPage is { AfterAddress: { } address } page
                ? new PublicAfter(address, page.AfterWords, page.AfterAtOnce)
                : null,
            Sequel = answer.State == VisitState.Requested ? null : SequelOf(setup, visit, seal),
        };
    }

    /// <summary>What a visit is made of and with whom, in words.</summary>
    internal static string[] LinesOf(VisitAnswer visit) =>
        [
            .. visit.Lines.Select(line =>
            {
                Sentence words = Say($"{line.Service} with {List(line.Practitioners.Select(named => named.Name))}");
                // A time that is kept has no names yet; a name the desk has entered, or that of another client, is not theirs to read.
                return (string)(line.Person > 0 && visit.Source == "Online"
                    && visit.People.ElementAtOrDefault(line.Person - 1) is { ClientId: null } who
                    ? Say($"{words}, for {who.Name}")
                    : words);
            }),
        ];

    /// <summary>The services shown to everyone that need one of a visit's first, and from when they may be had.</summary>
    private static PublicSequel? SequelOf(Setup setup, StoredVisit visit, VisitTokens.Seal seal)
    {
        List<PublicOpened> opened =
        [
            .. from listed in setup.Services
            where listed.Service.Visibility == Visibility.Everyone && WhoMayBook.IsBookedOnline(listed.Service)
            let before = listed.Service.Prerequisite
            where before is not null
            let line = visit.Lines.FirstOrDefault(line => line.ServiceId == before.ServiceId)
            where line is not null
            select new PublicOpened(listed.Service.Id, listed.OnlineName ?? listed.Service.Name, before.EarliestAfter(line.EndsAt)),
        ];
        return opened.Count == 0 ? null : new PublicSequel(seal.TokenOf(visit.Visit.Id), opened);
    }

    /// <summary>Refuses a choice of practitioner that is not the client's, or one they have not made.</summary>
    internal static void CheckChoice(House? house, IReadOnlyList<LineRequest> lines)
    {
        Checks checks = new();
        foreach ((int i, LineRequest line) in lines.Index())
        {
            if (house is null || !house.Services.TryGetValue(line.ServiceId, out Service? service))
                continue;
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
}
