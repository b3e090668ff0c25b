using Kingcup.Core.Messages;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Messages;

/// <summary>A message as the desk reads it.</summary>
public sealed record MessageAnswer
{
    /// <summary>Identity.</summary>
    public required Guid Id { get; init; }

    /// <summary>What it arose from.</summary>
    public required MessageTrigger Trigger { get; init; }

    /// <summary>How it goes.</summary>
    public required Channel Channel { get; init; }

    /// <summary>Whom it is for.</summary>
    public required Recipient Recipient { get; init; }

    /// <summary>Who is written to.</summary>
    public required string Name { get; init; }

    /// <summary>E-mail address or telephone number, or null where there is none.</summary>
    public required string? Address { get; init; }

    /// <summary>The visit, or null.</summary>
    public required Guid? VisitId { get; init; }

    /// <summary>Where that visit is, or null.</summary>
    public required Guid? LocationId { get; init; }

    /// <summary>The day of that visit, or null.</summary>
    public required LocalDate? Date { get; init; }

    /// <summary>The subject of an e-mail.</summary>
    public required string Subject { get; init; }

    /// <summary>What it says; the link to the client's own bookings is left out.</summary>
    public required string Body { get; init; }

    /// <summary>Whether an entry for a calendar goes with it.</summary>
    public required bool HasCalendar { get; init; }

    /// <summary>Where it stands.</summary>
    public required MessageState State { get; init; }

    /// <summary>When it was written.</summary>
    public required Instant CreatedAt { get; init; }

    /// <summary>When it goes, or is tried again; when it would have gone, where it was left out.</summary>
    public required Instant DueAt { get; init; }

    /// <summary>How often it was tried.</summary>
    public required int Tries { get; init; }

    /// <summary>When it went, failed, or was left out; null while it waits.</summary>
    public required Instant? SettledAt { get; init; }

    /// <summary>
    /// Why it was left out or dropped: "no-address", "no-consent", "too-soon", "too-late", "changed" or "template"; what was answered where
    /// it did not get through.
    /// </summary>
    public required string? Because { get; init; }

    internal static MessageAnswer Of(MessageRow message) =>
        new()
        {
            Id = message.Id,
            Trigger = Enum.Parse<MessageTrigger>(message.Trigger),
            Channel = Enum.Parse<Channel>(message.Channel),
            Recipient = Enum.Parse<Recipient>(message.Recipient),
            Name = message.Name,
            Address = message.Address,
            VisitId = message.VisitId,
            LocationId = message.VisitLocationId,
            Date = message.VisitDate,
            Subject = message.Subject,
            Body = message
                .Body.Replace(MessageVariables.LinkMark, Say("(the link to their own bookings)"), StringComparison.Ordinal)
                .Replace(MessageVariables.CodeMark, Say("(the code)"), StringComparison.Ordinal),
            HasCalendar = message.Calendar is not null,
            State = Enum.Parse<MessageState>(message.State),
            CreatedAt = message.CreatedAt,
            DueAt = message.DueAt,
            Tries = message.Tries,
            SettledAt = message.SettledAt,
            Because = message.Because,
        };
}

/// <summary>A page of messages.</summary>
/// <param name="Messages">The messages, the latest first.</param>
/// <param name="Next">Where the next page begins, or null.</param>
/// <param name="Waiting">How many wait in all.</param>
/// <param name="Failed">How many did not get through in all.</param>
/// <param name="Carried">The channels that are set up; what goes by another waits.</param>
public sealed record MessagesAnswer(
    IReadOnlyList<MessageAnswer> Messages,
    string? Next,
    int Waiting,
    int Failed,
    IReadOnlyList<Channel> Carried
);

/// <summary>A timed message that lies ahead of a visit.</summary>
/// <param name="RuleId">The rule.</param>
/// <param name="Channel">How it goes.</param>
/// <param name="Recipient">Whom it is for.</param>
/// <param name="OffsetMinutes">Minutes before the start.</param>
/// <param name="At">When it goes, or would have gone.</param>
/// <param name="IsLeftOut">Whether its time had passed when the visit was booked, so that it does not go.</param>
public sealed record MessageAheadAnswer(
    Guid RuleId,
    Channel Channel,
    Recipient Recipient,
    int OffsetMinutes,
    Instant At,
    bool IsLeftOut
);

/// <summary>What has been told of a visit, and what is still to come.</summary>
/// <param name="Messages">What was written, the latest first.</param>
/// <param name="Ahead">What goes before it begins, the next first.</param>
public sealed record VisitMessagesAnswer(IReadOnlyList<MessageAnswer> Messages, IReadOnlyList<MessageAheadAnswer> Ahead);

/// <summary>Which messages somebody looks at.</summary>
/// <param name="Only">"waiting", "sent", "failed" or "left-out"; nothing for all that go or have gone.</param>
/// <param name="Before">Where the page begins, from the answer before.</param>
/// <param name="ClientId">To this client only.</param>
internal sealed record MessagesQuery(
    [property: FromQuery(Name = "only")] string? Only,
    [property: FromQuery(Name = "before")] string? Before,
    [property: FromQuery(Name = "clientId")] Guid? ClientId
);

/// <summary>What was sent, waits, or did not get through.</summary>
internal static class MessageEndpoints
{
    private const int PageLength = 50,
        MostOfVisit = 100;

    private static readonly Dictionary<string, MessageState[]> _only = new()
    {
        [""] = [MessageState.Waiting, MessageState.Sending, MessageState.Sent, MessageState.Failed],
        ["waiting"] = [MessageState.Waiting, MessageState.Sending],
        ["sent"] = [MessageState.Sent],
        ["failed"] = [MessageState.Failed],
        ["left-out"] = [MessageState.LeftOut, MessageState.Dropped],
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("").RequireAuthorization(Rights.KeepBook).WithTags("Messages").Problems();
        group.MapGet("/messages", ListAsync).WithSummary("Messages that have gone, wait, or did not get through, the latest first.");
        group
            .MapPost("/messages/{id:guid}/again", AgainAsync)
            .WithSummary("Tries a message once more that did not get through.")
            .ProducesProblem(409);
        group
            .MapGet("/visits/{id:guid}/messages", OfVisitAsync)
            .WithSummary("What has been told of a visit, and what is still to come.");
    }

    private static async Task<Ok<MessagesAnswer>> ListAsync(
        [AsParameters] MessagesQuery query,
        Database database,
        MessageSender sender
    )
    {
        Checks checks = new();
        checks.Require(_only.ContainsKey(query.Only ?? ""), "only", "Choose waiting, sent, failed or left-out, or leave it out.");
        long before = long.MaxValue;
        checks.Require(
            query.Before is null || (long.TryParse(query.Before, out before) && before > 0),
            "before",
            "Send what the answer before gave as next."
        );
        checks.Done();
        await using NpgsqlConnection connection = await database.OpenAsync();
        IReadOnlyList<MessageRow> messages = await MessageStore.ListAsync(
            connection,
            new MessagesAsked
            {
                States = _only[query.Only ?? ""],
                ClientId = query.ClientId,
                Before = before,
                Most = PageLength,
            }
        );
        (int waiting, int failed) = await MessageStore.CountsAsync(connection);
        return TypedResults.Ok(
            new MessagesAnswer(
                [.. messages.Select(MessageAnswer.Of)],
                messages.Count < PageLength ? null : messages[^1].Place.ToString(System.Globalization.CultureInfo.InvariantCulture),
                waiting,
                failed,
                [.. sender.Channels]
            )
        );
    }

    private static async Task<NoContent> AgainAsync(Guid id, Database database, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        if (!await MessageStore.TryAgainAsync(connection, id, clock.GetCurrentInstant()))
            throw new Refused(
                StatusCodes.Status409Conflict,
                "not-failed",
                "This message has not failed, or somebody has tried it again already."
            );
        return TypedResults.NoContent();
    }

    private static async Task<Ok<VisitMessagesAnswer>> OfVisitAsync(Guid id, Database database, BookReader book, IClock clock)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        StoredVisit visit =
            await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit any more.");
        Setup setup = await book.SetupAsync(connection);
        IReadOnlyList<MessageRow> messages = await MessageStore.ListAsync(
            connection,
            new MessagesAsked { States = Enum.GetValues<MessageState>(), VisitId = id, Most = MostOfVisit }
        );
        return TypedResults.Ok(
            new VisitMessagesAnswer(
                [.. messages.Select(MessageAnswer.Of)],
                [.. AheadOf(setup, visit, messages, clock.GetCurrentInstant()).OrderBy(ahead => ahead.At)]
            )
        );
    }

    private static IEnumerable<MessageAheadAnswer> AheadOf(
        Setup setup,
        StoredVisit visit,
        IReadOnlyList<MessageRow> messages,
        Instant now
    )
    {
        TimedVisit timed = new(visit.Visit.Id, visit.Visit.StartsAt, visit.Visit.EndsAt, visit.Visit.CreatedAt, visit.Visit.LocationId);
        MessageSubject subject = MessagePlanner.SubjectOf(visit, visit.Visit.Source == "Online");
        foreach (MessageRule rule in setup.Parts.Messages.Select(listed => listed.Rule))
        {
            bool isAhead =
                rule is { IsOn: true, Trigger: MessageTrigger.BeforeStart }
                && rule.IsFor(visit.Visit.VisitState)
                && rule.Filter.Lets(subject)
                && !messages.Any(message => message.RuleId == rule.Id && message.AboutStart == visit.Visit.StartsAt);
            if (!isAhead) continue;
            PlannedMessage planned = MessagePlanner.PlanOf(setup, rule, timed, now);
            yield return new MessageAheadAnswer(
                rule.Id,
                rule.Channel,
                rule.Recipient,
                rule.OffsetMinutes,
                planned.At,
                planned.Fate is MessageFate.TooSoon or MessageFate.TooLate
            );
        }
    }
}
