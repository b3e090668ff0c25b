using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <summary>Other times for what was asked for.</summary>
public sealed record ProposeRequest
{
    /// <summary>The times, one to three.</summary>
    public required IReadOnlyList<TimeToPropose>? Times { get; init; }

    /// <summary>What is written to the client with them.</summary>
    [MaxLength(RequestEndpoints.LongestWords)]
    public string? Words { get; init; }
}

/// <summary>One of the times that were proposed, chosen for the client who says so on the telephone.</summary>
/// <param name="ProposalId">The time.</param>
public sealed record ChooseRequest(Guid ProposalId);

/// <summary>A time that is proposed.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Start">When it begins.</param>
/// <param name="End">When it ends.</param>
/// <param name="Lines">What and with whom.</param>
/// <param name="Price">What it costs there.</param>
/// <param name="Until">Until when it is kept.</param>
public sealed record ProposedTime(
    Guid Id,
    Instant Start,
    Instant End,
    IReadOnlyList<string> Lines,
    MoneyAnswer Price,
    Instant Until
);

/// <summary>What is to be known of something that was asked for, before it is answered.</summary>
public sealed record RequestAnswer
{
    /// <summary>When it lapses.</summary>
    public required Instant LapsesAt { get; init; }

    /// <summary>What is known of the client.</summary>
    public required IReadOnlyList<string> Known { get; init; }

    /// <summary>What speaks against it; empty where nothing does.</summary>
    public required IReadOnlyList<string> Against { get; init; }

    /// <summary>How many times may be proposed instead.</summary>
    public required int MostTimes { get; init; }

    /// <summary>What was proposed instead; empty as long as it is not answered.</summary>
    public required IReadOnlyList<ProposedTime> Times { get; init; }

    /// <summary>What was written to the client with it, or empty.</summary>
    public required string Words { get; init; }
}

/// <summary>What clients have asked for, and what the desk answers.</summary>
internal static class RequestEndpoints
{
    internal const int LongestWords = 500;

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("")
            .WithTags("Book")
            .RequireAuthorization(Rights.KeepBook)
            .ProducesProblem(400)
            .ProducesProblem(401)
            .ProducesProblem(403)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapGet("/visits/{id:guid}/request", FindAsync)
            .WithSummary("What is to be known of something that was asked for, and what speaks against it.");
        group
            .MapPost("/visits/{id:guid}/propose", ProposeAsync)
            .WithSummary("Answers what was asked for with other times, kept until the client has chosen one. Needs If-Match.")
            .ProducesProblem(412)
            .ProducesProblem(428);
        group
            .MapPost("/visits/{id:guid}/choose", ChooseAsync)
            .WithSummary("Chooses one of the times that were proposed, for the client. Needs If-Match.")
            .ProducesProblem(412)
            .ProducesProblem(428);
    }

    /// <summary>What is written to a client with an answer; several lines are fine.</summary>
    internal static string CheckWords(string? asked)
    {
        string words = asked?.Trim() ?? "";
        return words.Length > LongestWords || words.Any(letter => char.IsControl(letter) && letter is not ('\n' or '\r'))
            ? throw Refused.Invalid("words", $"Write at most {LongestWords} characters to the client.")
            : words;
    }

    private static async Task<Ok<VisitAnswer>> ProposeAsync(
        Guid id,
        ProposeRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    )
    {
        IReadOnlyList<TimeToPropose> times = request.Times ?? [];
        Checks checks = new();
        checks.Require(
            times.Count is >= 1 and <= RequestRules.MostTimes,
            "times",
            $"Propose one to {RequestRules.MostTimes} times."
        );
        checks.Done();
        StoredVisit visit = await desk.ProposeAsync(id, http.Version(), times, CheckWords(request.Words), http.Actor());
        return await VisitChangeEndpoints.AnswerAsync(visit, http, database, book, clock);
    }

    private static async Task<Ok<VisitAnswer>> ChooseAsync(
        Guid id,
        ChooseRequest request,
        HttpContext http,
        Database database,
        BookReader book,
        BookingDesk desk,
        IClock clock
    ) =>
        await VisitChangeEndpoints.AnswerAsync(
            await desk.ChooseAsync(id, http.Version(), request.ProposalId, null, http.Actor()),
            http,
            database,
            book,
            clock
        );

    private static async Task<Ok<RequestAnswer>> FindAsync(Guid id, Database database, BookReader book, IClock clock)
    {
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit visit = await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit.");
        if (visit.Visit.LapsesAt is not { } lapses)
            throw Refused.NotFound("It is settled: nobody has to agree to it any more.");
        Setup setup = await book.SetupAsync(connection);
        ClientRow client = (await ClientStore.FindAsync(connection, visit.Visit.ClientId))!;
        IReadOnlyList<ClientVisit> others = await BookStore.OfClientAsync(connection, client.Id, id);
        return TypedResults.Ok(
            new RequestAnswer
            {
                LapsesAt = lapses,
                MostTimes = RequestRules.MostTimes,
                Known = Known(setup, visit, client, others, now),
                Against = await AgainstAsync(connection, setup, book, visit, client, others, now),
                Times = TimesOf(setup, await BookStore.ProposedAsync(connection, [id]), now),
                Words = visit.Visit.AnswerWords,
            }
        );
    }

    /// <summary>What is proposed and still kept.</summary>
    internal static IReadOnlyList<ProposedTime> TimesOf(Setup setup, IEnumerable<StoredProposal> proposed, Instant now) =>
        [
            .. proposed
                .Where(proposal => proposal.ExpiresAt > now)
                .Select(proposal =>
                {
                    VisitAnswer visit = DayPicture.Of(setup, proposal.Visit, now);
                    return new ProposedTime(
                        proposal.Id,
                        visit.Start,
                        visit.End,
                        PublicBooking.LinesOf(visit),
                        visit.Price,
                        proposal.ExpiresAt
                    );
                }),
        ];

    private static List<string> Known(
        Setup setup, StoredVisit visit, ClientRow client, IReadOnlyList<ClientVisit> others, Instant now)
    {
        DateTimeZone zone = setup.HouseOf(visit.Visit.LocationId)!.Location.Zone;
        List<string> known = [];
        ClientVisit[] done = [.. others.Where(other => other.State == VisitState.Done).DistinctBy(other => other.VisitId)];
        if (ClientHistory.IsNew(client.KnownBefore, others, now)) known.Add(Say("New here."));
        else if (done.Length == 0) known.Add(Say("Was here before."));
        else
        {
            LocalDate last = done.Max(other => other.Start).InZone(zone).Date;
            known.Add(Say($"Was here {Count(done.Length, "time", "times")}, last on {last}."));
        }

        int ahead = others.Where(other => other.Start > now && ClientHistory.Holds(other)).DistinctBy(other => other.VisitId).Count();
        if (ahead > 0) known.Add(Say($"Has {Count(ahead, "other visit", "other visits")} ahead."));
        return known;
    }

    private static async Task<List<string>> AgainstAsync(
        NpgsqlConnection connection, Setup setup, BookReader book, StoredVisit visit, ClientRow client, IReadOnlyList<ClientVisit> others,
        Instant now)
    {
        List<string> against = [];
        Instant year = now - Duration.FromDays(365);
        int missed = ClientHistory.Missed(others).Count(at => at >= year && at <= now);
        if (missed > 0) against.Add(Say($"Did not come, or cancelled late, {Count(missed, "time", "times")} in a year."));
        if (visit.Visit.VisitState != VisitState.Requested) return against;
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        if (ClientHistory.At(others, visit.Visit.StartsAt, visit.Visit.EndsAt).Any()) against.Add(Say("Has another visit at that time."));
        DayBook day = BookReader.Without((await book.DaysAsync(connection, setup, house, visit.Visit.Date, 1))[0], visit);
        if (day.Day.GrainOfStart(visit.Visit.StartsAt) is not { } start) return against;
        StartFinder finder = new(house, BookingChecks.WishOf(visit, null));
        // Whoever was given the link to a service may have it.
        HashSet<Guid> links = [.. visit.Lines.Select(line => line.ServiceId)];
        Audience asking = BookingChecks.AudienceOf(client, others, links, now);
        // How long before and how far ahead it was asked for is over; what is left to say is about them, the service, the place.
        Refusal[] refusals =
        [
            .. finder
                .WhyNotOffered(day, start, asking, now)
                .Where(refusal => refusal.Gate is Gate.Client or Gate.Service or Gate.Practitioner or Gate.RoomAndEquipment),
        ];
        against.AddRange(ReasonWords.Of(refusals, house).Select(reason => reason.Text));
        return against;
    }
}
