using System.ComponentModel.DataAnnotations;
using Kingcup.Core.Messages;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Messages;

/// <summary>What a message says in one language.</summary>
/// <param name="Language">Language (ISO 639).</param>
/// <param name="Subject">The subject of an e-mail, in Liquid; empty for a text message.</param>
/// <param name="Body">What it says, in Liquid.</param>
public sealed record MessageTextDocument(string? Language, string? Subject, string? Body);

/// <summary>Whose visits a message is about.</summary>
public enum MessageClients
{
    /// <summary>Everybody's.</summary>
    All,

    /// <summary>New clients'.</summary>
    New,

    /// <summary>Returning clients'.</summary>
    Returning,
}

/// <summary>Who has done what a message is about.</summary>
public enum MessageOrigin
{
    /// <summary>Whoever.</summary>
    All,

    /// <summary>The client, online.</summary>
    Online,

    /// <summary>The desk.</summary>
    Desk,
}

/// <summary>A rule of messages: what goes when to whom, and what it says.</summary>
public sealed record MessageRuleDocument
{
    private const int MostServices = 100,
        MostPeople = 50,
        MostTexts = 20,
        LongestSubject = 200,
        LongestBody = 5000,
        MostLate = 10_080;

    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>What it arises from.</summary>
    public required MessageTrigger Trigger { get; init; }

    /// <summary>How it goes.</summary>
    public required Channel Channel { get; init; }

    /// <summary>Whom it is for.</summary>
    public required Recipient Recipient { get; init; }

    /// <summary>Minutes before the start or after the end; 0 for what arises from an event.</summary>
    [Range(0, MessageRule.MostMinutes)]
    public int OffsetMinutes { get; init; }

    /// <summary>How many minutes late it still makes sense, where it goes some time before or after.</summary>
    [Range(0, MostLate)]
    public int LateMinutes { get; init; }

    /// <summary>After a visit: only where the client has nothing of the kind since, neither been nor booked.</summary>
    public bool OnlyIfNotBack { get; init; }

    /// <summary>Visits at this location only, or null.</summary>
    public Guid? LocationId { get; init; }

    /// <summary>Visits with one of these services only; empty for any.</summary>
    [MaxLength(MostServices)]
    public IReadOnlyList<Guid>? ServiceIds { get; init; }

    /// <summary>Whose visits.</summary>
    public MessageClients Clients { get; init; }

    /// <summary>Who has done it.</summary>
    public MessageOrigin Origin { get; init; }

    /// <summary>Who of the team is told, where it is for people with a sign-in.</summary>
    [MaxLength(MostPeople)]
    public IReadOnlyList<Guid>? StaffIds { get; init; }

    /// <summary>Whether it is sent at all.</summary>
    public required bool IsOn { get; init; }

    /// <summary>What it says, by language.</summary>
    [MaxLength(MostTexts)]
    public required IReadOnlyList<MessageTextDocument>? Texts { get; init; }

    /// <summary>To be sent as If-Match with a change.</summary>
    public long Version { get; init; }

    internal static MessageRuleDocument Of(ListedMessage listed)
    {
        (MessageRule rule, MessageFilter filter) = (listed.Rule, listed.Rule.Filter);
        return new MessageRuleDocument
        {
            Id = rule.Id,
            Trigger = rule.Trigger,
            Channel = rule.Channel,
            Recipient = rule.Recipient,
            OffsetMinutes = rule.OffsetMinutes,
            LateMinutes = rule.LateMinutes,
            OnlyIfNotBack = rule.OnlyIfNotBack,
            LocationId = filter.LocationId,
            ServiceIds = [.. filter.ServiceIds.Order()],
            Clients = filter.New is { } isNew ? (isNew ? MessageClients.New : MessageClients.Returning) : MessageClients.All,
            Origin = filter.Online is { } isOnline ? (isOnline ? MessageOrigin.Online : MessageOrigin.Desk) : MessageOrigin.All,
            StaffIds = listed.StaffIds,
            IsOn = rule.IsOn,
            Texts = [.. listed.Texts.Select(text => new MessageTextDocument(text.Language, text.Subject, text.Body))],
            Version = listed.Version,
        };
    }

    internal ListedMessage Check(Checks checks, Setup setup, IReadOnlyCollection<Guid> staff, Guid id, int order)
    {
        checks.Limits(this);
        checks.Require(Trigger != MessageTrigger.Code, "trigger", "A code is sent when somebody asks for it, without a rule.");
        bool isTimed = Trigger is MessageTrigger.BeforeStart or MessageTrigger.AfterEnd;
        checks.Require(
            isTimed ? OffsetMinutes >= 1 : OffsetMinutes == 0,
            "offsetMinutes",
            isTimed ? "Enter how long before or after the visit." : "It goes at once; leave this at 0."
        );
        checks.Require(
            Trigger != MessageTrigger.Unfinished || (Channel == Channel.Email && Recipient == Recipient.Client),
            "channel",
            "Of a booking that is not finished only the client is told, by e-mail."
        );
        checks.Require(Channel == Channel.Email || Recipient != Recipient.Staff, "channel", "People with a sign-in are told by e-mail.");
        checks.Require(LocationId is null || setup.HouseOf(LocationId.Value) is not null, "locationId", "There is no such location.");
        checks.Require((ServiceIds ?? []).All(service => setup.ServiceOf(service) is not null), "serviceIds", "There is no such service.");
        IReadOnlyList<Guid> told = Recipient == Recipient.Staff ? [.. (StaffIds ?? []).Distinct()] : [];
        checks.Require(told.All(staff.Contains), "staffIds", "There is no such person.");
        checks.Require(Recipient != Recipient.Staff || told.Count > 0, "staffIds", "Choose who is told.");
        return new ListedMessage(
            new MessageRule
            {
                Id = id,
                Trigger = Trigger,
                Channel = Channel,
                Recipient = Recipient,
                OffsetMinutes = OffsetMinutes,
                LateMinutes = isTimed ? LateMinutes : 0,
                OnlyIfNotBack = Trigger == MessageTrigger.AfterEnd && OnlyIfNotBack,
                Filter = new MessageFilter
                {
                    LocationId = LocationId,
                    ServiceIds = (ServiceIds ?? []).ToHashSet(),
                    New = Clients == MessageClients.All ? null : Clients == MessageClients.New,
                    Online = Origin == MessageOrigin.All ? null : Origin == MessageOrigin.Online,
                },
                IsOn = IsOn,
            },
            CheckTexts(checks),
            told,
            order
        );
    }

    private List<MessageText> CheckTexts(Checks checks)
    {
        List<MessageText> kept = [];
        checks.Require(Texts is { Count: > 0 }, "texts", "Write what it says in one language at least.");
        foreach ((int i, MessageTextDocument text) in (Texts ?? []).Index())
        {
            string language = (text.Language ?? "").Trim().ToLowerInvariant(),
                subject = Channel == Channel.Email ? (text.Subject ?? "").Trim() : "",
                body = (text.Body ?? "").Trim().ReplaceLineEndings("\n");
            checks.Require(
                language.Length is 2 or 3 && language.All(char.IsAsciiLetterLower) && kept.All(other => other.Language != language),
                $"texts[{i}].language",
                "Name each language once, by two or three letters."
            );
            bool hasSubject = Channel != Channel.Email || subject.Length is >= 1 and <= LongestSubject;
            checks.Require(hasSubject, $"texts[{i}].subject", $"Enter a subject of at most {LongestSubject} characters.");
            checks.Require(body.Length is >= 1 and <= LongestBody, $"texts[{i}].body", $"Write 1 to {LongestBody} characters.");
            if (MessageTemplates.Fault(subject) is { } wrongSubject) checks.Require(false, $"texts[{i}].subject", wrongSubject);
            if (MessageTemplates.Fault(body) is { } wrong) checks.Require(false, $"texts[{i}].body", wrong);
            kept.Add(new MessageText(language, subject, body));
        }

        return kept;
    }
}

/// <summary>A variable a message may hold.</summary>
/// <param name="Name">How a template names it.</param>
/// <param name="Means">What stands there.</param>
/// <param name="Sample">What it may look like.</param>
public sealed record MessageVariableAnswer(string Name, string Means, string Sample);

/// <summary>What a message would say.</summary>
/// <param name="Subject">The subject, in Liquid.</param>
/// <param name="Body">What it says, in Liquid.</param>
/// <param name="Without">Variables that are empty this time.</param>
public sealed record MessageTryRequest(
    [property: MaxLength(200)] string? Subject,
    [property: MaxLength(5000)] string? Body,
    [property: MaxLength(50)] IReadOnlyList<string>? Without = null
);

/// <summary>What a message says with made-up values.</summary>
/// <param name="Subject">The subject.</param>
/// <param name="Body">What it says.</param>
/// <param name="Texts">How many text messages it would take.</param>
public sealed record MessageTryAnswer(string Subject, string Body, int Texts);

/// <summary>When nobody is disturbed by what does not have to be sent at once.</summary>
/// <param name="From">When it begins.</param>
/// <param name="Until">When it ends; the same as the beginning for never.</param>
/// <param name="Version">To be sent as If-Match with a change.</param>
public sealed record QuietHoursDocument(LocalTime From, LocalTime Until, long Version = 0);
