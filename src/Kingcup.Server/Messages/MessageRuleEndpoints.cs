using Kingcup.Core.Messages;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Kingcup.Server.Messages;

/// <summary>Who is told what and when, and in which words.</summary>
internal static class MessageRuleEndpoints
{
    private static readonly SetupList<MessageRuleDocument, ListedMessage> _rules = new()
    {
        Kind = "message",
        NotThere = "There is no such message.",
        All = setup => setup.Parts.Messages,
        IdOf = listed => listed.Rule.Id,
        VersionOf = listed => listed.Version,
        Tell = (_, listed) => MessageRuleDocument.Of(listed),
        Check = async (request, checks, change, id, before) =>
        {
            HashSet<Guid> staff = (await MessageStore.StaffAsync(change.Connection)).Select(person => person.Id).ToHashSet();
            return request.Check(checks, change.Setup, staff, id, before?.Order ?? change.Setup.Parts.Messages.Count + 1);
        },
        Save = (change, listed) => change.Writer.SaveAsync(listed),
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Messages").Problems();
        _rules.Map(group, "/messages", "What is sent when to whom, in order.", "Adds a message.", "Changes a message.");
        group
            .MapDelete("/messages/{id:guid}", RemoveAsync)
            .Changes()
            .WithSummary("Takes a message out; what was sent stays. Needs If-Match.");
        group
            .MapGet(
                "/message-variables",
                () => TypedResults.Ok(
                    MessageVariables.Known.Select(known => new MessageVariableAnswer(known.Name, known.Means, known.Sample)).ToArray()
                )
            )
            .WithSummary("The variables a message may hold.");
        group.MapPost("/messages/try", Try).WithSummary("What a message says with made-up values.");
        group
            .MapGet("/quiet-hours", (Database database, BookReader book) => book.ReadAsync(database, QuietOf))
            .WithSummary("When nobody is disturbed by what does not have to be sent at once.");
        group
            .MapPut("/quiet-hours", SaveQuietAsync)
            .Changes()
            .WithSummary("Sets when nobody is disturbed. Needs If-Match.");
    }

    private static QuietHoursDocument QuietOf(Setup setup) =>
        new(setup.Business.QuietFrom, setup.Business.QuietUntil, setup.Business.Version);

    private static async Task<NoContent> RemoveAsync(Guid id, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async change =>
            {
                ListedMessage listed = _rules.Find(change.Setup, id);
                SetupChange.Match(http, listed.Version);
                await change.Writer.RemoveMessageAsync(id);
                await change.RecordAsync("message", id, "Removed", MessageRuleDocument.Of(listed), null);
                return true;
            }
        );
        return TypedResults.NoContent();
    }

    private static Ok<MessageTryAnswer> Try(MessageTryRequest request)
    {
        Checks checks = new();
        checks.Limits(request);
        string subject = request.Subject ?? "",
            body = (request.Body ?? "").ReplaceLineEndings("\n");
        if (MessageTemplates.Fault(subject) is { } wrongSubject) checks.Require(false, "subject", wrongSubject);
        if (MessageTemplates.Fault(body) is { } wrong) checks.Require(false, "body", wrong);
        checks.Done();
        Dictionary<string, string> values = MessageVariables.Sample();
        foreach (string without in request.Without ?? []) values.Remove(without);
        string said = MessageTemplates.Fill(body, values);
        return TypedResults.Ok(new MessageTryAnswer(MessageTemplates.Fill(subject, values), said, TextLength.PartsOf(said)));
    }

    private static Task<Ok<QuietHoursDocument>> SaveQuietAsync(
        QuietHoursDocument request,
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
                checks.Require(IsWhole(request.From), "from", "Enter a time of day, in steps of five minutes.");
                checks.Require(IsWhole(request.Until), "until", "Enter a time of day, in steps of five minutes.");
                checks.Done();
                await change.Writer.SaveAsync(new QuietHours(request.From, request.Until));
                await change.RecordAsync("business", Guid.Empty, "Changed", QuietOf(change.Setup), request);
            },
            QuietOf
        );

    private static bool IsWhole(LocalTime time) => time.TickOfDay % (5 * NodaConstants.TicksPerMinute) == 0;
}
