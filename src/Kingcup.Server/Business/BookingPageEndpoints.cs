using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Kingcup.Server.Business;

/// <summary>What clients accept when they book online, and where they are led.</summary>
/// <param name="BookableOnline">Whether the business takes bookings online at all.</param>
/// <param name="Terms">The terms (Markdown); empty for none. Changed terms are accepted anew.</param>
/// <param name="AfterAddress">Where a client is led who has booked (https), or null.</param>
/// <param name="AfterWords">What the button there says.</param>
/// <param name="AfterAtOnce">Whether they are led there at once.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
public sealed record BookingPageDocument(
    bool BookableOnline,
    [property: MaxLength(BookingPageDocument.LongestTerms)] string? Terms,
    string? AfterAddress,
    [property: MaxLength(80)] string? AfterWords,
    bool AfterAtOnce,
    long Version = 0
)
{
    internal const int LongestTerms = 20_000;

    /// <summary>How many visits booked online one person may have open at once.</summary>
    [Range(1, 100)]
    public int MostOpenOnline { get; init; } = 5;

    /// <summary>How many people may come to one visit that is booked online, the client counted.</summary>
    [Range(1, OnlineVisits.MostAllowed)]
    public int MostPeopleOnline { get; init; } = OnlineVisits.Usual.MostPeople;

    /// <summary>So many hours the desk has to answer what was asked for; then it lapses.</summary>
    [Range(1, RequestRules.MostHours)]
    public int AnswerHours { get; init; } = RequestRules.Usual.AnswerHours;

    /// <summary>So many hours a client has to choose one of the times proposed to them; then these lapse.</summary>
    [Range(1, RequestRules.MostHours)]
    public int ChooseHours { get; init; } = RequestRules.Usual.ChooseHours;

    /// <summary>Whether anybody books by saying who they are.</summary>
    public required bool BooksGuests { get; init; }

    /// <summary>Whether new people book once they have shown that an address is theirs; clients are to be let in too.</summary>
    public required bool BooksNew { get; init; }

    /// <summary>Whether clients book once they have shown who they are.</summary>
    public required bool BooksKnown { get; init; }

    /// <summary>When the page shows the telephone number.</summary>
    public PhoneShown PhoneShown { get; init; }

    /// <summary>The sites that may show the booking page in a frame of theirs, as https://www.example.org.</summary>
    [MaxLength(FrameSite.Most)]
    public required IReadOnlyList<string>? FrameSites { get; init; }

    internal static BookingPageDocument Of(Setup setup)
    {
        BookingPageRow page = setup.Parts.BookingPage;
        return new BookingPageDocument(
            page.BookableOnline,
            page.Terms,
            page.AfterAddress,
            page.AfterWords,
            page.AfterAtOnce,
            setup.Business.Version
        )
        {
            MostOpenOnline = page.MostOpenOnline,
            MostPeopleOnline = page.MostPeopleOnline,
            AnswerHours = page.AnswerHours,
            ChooseHours = page.ChooseHours,
            BooksGuests = page.BooksGuests,
            BooksNew = page.BooksNew,
            BooksKnown = page.BooksKnown,
            FrameSites = page.FrameSites,
            PhoneShown = Enum.Parse<PhoneShown>(page.PhoneShown),
        };
    }

    internal BookingPageRow Check(Checks checks)
    {
        string terms = Terms?.Trim() ?? "",
            address = AfterAddress?.Trim() ?? "",
            words = AfterWords?.Trim() ?? "";
        checks.Limits(this);
        TextForClients.Check(checks, terms, "terms");
        bool led = address.Length > 0;
        if (led)
        {
            // Kept as the browser will read it, however it was typed.
            bool isPlain = !address.Any(letter => char.IsWhiteSpace(letter) || letter == '\\');
            Uri? parsed =
                isPlain
                && Uri.TryCreate(address, UriKind.Absolute, out Uri? uri)
                && uri is { Scheme: "https", UserInfo: "", Host.Length: > 0 }
                    ? uri
                    : null;
            if (
                checks.Require(
                    parsed is not null && parsed.AbsoluteUri.Length <= 500,
                    "afterAddress",
                    "Enter a whole address that begins with https://."
                )
            )
                address = parsed!.AbsoluteUri;
        }

        checks.Require(!words.Any(char.IsControl), "afterWords", "Write it on one line.");
        checks.Require(led || !AfterAtOnce, "afterAtOnce", "Enter the address to lead the client to.");
        checks.Require(
            new BookingAccess(BooksGuests, BooksNew, BooksKnown).IsWhole,
            BooksNew ? "booksNew" : "booksGuests",
            BooksNew
                ? "Let clients book too: whoever is new today comes back as one."
                : "Let somebody book, or say above that clients cannot book online."
        );
        checks.Require((FrameSites?.Count ?? 0) <= FrameSite.Most, "frameSites", $"Name {FrameSite.Most} sites at the most.");
        List<string> sites = [];
        foreach ((int i, string typed) in (FrameSites ?? []).Index())
        {
            string? site = FrameSite.Of(typed);
            if (checks.Require(site is not null, $"frameSites[{i}]", "Enter the address of a site that begins with https://."))
                sites.Add(site!);
        }

        return new BookingPageRow
        {
            BookableOnline = BookableOnline,
            Terms = terms,
            AfterAddress = led ? address : null,
            AfterWords = led && words.Length > 0 ? words : null,
            AfterAtOnce = led && AfterAtOnce,
            MostOpenOnline = MostOpenOnline,
            MostPeopleOnline = MostPeopleOnline,
            AnswerHours = AnswerHours,
            ChooseHours = ChooseHours,
            BooksGuests = BooksGuests,
            BooksNew = BooksNew,
            BooksKnown = BooksKnown,
            FrameSites = [.. sites.Distinct()],
            PhoneShown = PhoneShown.ToString(),
        };
    }
}

/// <summary>What the booking page asks and says beside the services.</summary>
internal static class BookingPageEndpoints
{
    private static readonly SetupList<QuestionDocument, ListedQuestion> _questions = new()
    {
        Kind = "question",
        NotThere = "There is no such question.",
        All = setup => setup.Parts.Questions,
        IdOf = question => question.Question.Id,
        VersionOf = question => question.Version,
        Tell = (_, question) => QuestionDocument.Of(question),
        Check = (request, checks, change, id, before) =>
            Task.FromResult(request.Check(checks, change.Setup, id, before?.Question.Order ?? change.Setup.Parts.Questions.Count + 1)),
        Save = (change, question) => change.Writer.SaveAsync(question),
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Setup").Problems();
        group
            .MapGet("/booking-page", (Database database, BookReader book) => book.ReadAsync(database, BookingPageDocument.Of))
            .WithSummary("Terms, and where a client is led who has booked.");
        group
            .MapPut("/booking-page", SaveAsync)
            .Changes()
            .WithSummary("Changes terms, and where a client is led who has booked. Needs If-Match.");
        _questions.Map(group, "/questions", "Questions in order, those no longer asked too.", "Adds a question.", "Changes a question.");
        group.MapPut("/questions/order", OrderAsync).WithSummary("Sets the order of the questions.");
    }

    private static Task<Ok<BookingPageDocument>> SaveAsync(
        BookingPageDocument request,
        HttpContext http,
        SetupDesk desk,
        Database database,
        BookReader book
    ) =>
        BusinessEndpoints.SavedAsync(
            desk,
            http,
            database,
            book,
            async change =>
            {
                SetupChange.Match(http, change.Setup.Business.Version);
                Checks checks = new();
                BookingPageRow page = request.Check(checks);
                checks.Done();
                await change.Writer.SaveAsync(page, change.Setup.Parts.BookingPage, change.Change.At);
                await change.RecordAsync("booking page", Guid.Empty, "Changed", BookingPageDocument.Of(change.Setup), request);
            },
            BookingPageDocument.Of
        );

    private static async Task<NoContent> OrderAsync(OrderRequest request, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async change =>
            {
                List<Guid> ids = [.. request.Ids ?? []];
                if (
                    !ids.ToHashSet().SetEquals(change.Setup.Parts.Questions.Select(question => question.Question.Id))
                    || ids.Count != change.Setup.Parts.Questions.Count
                )
                    throw Refused.Invalid("ids", "Send every question once.");
                await change.Writer.OrderQuestionsAsync(ids);
                await change.RecordAsync(
                    "question",
                    Guid.Empty,
                    "Ordered",
                    change.Setup.Parts.Questions.Select(question => question.Question.Id),
                    ids
                );
                return true;
            }
        );
        return TypedResults.NoContent();
    }
}
