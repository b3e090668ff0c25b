using Dapper;
using Kingcup.Core.Messages;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>What a message says in one language, as a template.</summary>
/// <param name="Language">Language (ISO 639).</param>
/// <param name="Subject">The subject of an e-mail.</param>
/// <param name="Body">What it says.</param>
public sealed record MessageText(string Language, string Subject, string Body);

/// <summary>A rule of messages with what it says.</summary>
/// <param name="Rule">The rule.</param>
/// <param name="Texts">What it says, by language; never none.</param>
/// <param name="StaffIds">Who of the team is told, where it is for people with a sign-in.</param>
/// <param name="Order">Its place in the list.</param>
/// <param name="Version">Grows with every change.</param>
public sealed record ListedMessage(
    MessageRule Rule,
    IReadOnlyList<MessageText> Texts,
    IReadOnlyList<Guid> StaffIds,
    int Order,
    long Version = 1
)
{
    /// <summary>What it says in a language; where it says nothing in that, in the second, in English, or in any.</summary>
    public MessageText TextIn(string language, string second) =>
        Texts.FirstOrDefault(text => text.Language == language)
        ?? Texts.FirstOrDefault(text => text.Language == second)
        ?? Texts.FirstOrDefault(text => text.Language == "en")
        ?? Texts[0];
}

/// <summary>Reads the rules of messages.</summary>
public static class MessageRuleStore
{
    internal static async Task<IReadOnlyList<ListedMessage>> RulesAsync(NpgsqlConnection connection)
    {
        await using SqlMapper.GridReader grid = await connection.QueryMultipleAsync(
            """
            SELECT id, trigger, channel, recipient, offset_minutes, late_minutes, location_id, service_ids, is_new, is_online,
                only_if_not_back, staff_ids, is_on, position, version
            FROM message_rule ORDER BY position, id;
            SELECT rule_id, language, subject, body FROM message_text ORDER BY language
            """
        );
        RuleRow[] rules = [.. await grid.ReadAsync<RuleRow>()];
        ILookup<Guid, MessageText> texts = (await grid.ReadAsync<(Guid, string, string, string)>()).ToLookup(
            row => row.Item1,
            row => new MessageText(row.Item2, row.Item3, row.Item4)
        );
        return [.. rules.Select(row => row.Listed([.. texts[row.Id]]))];
    }

    private sealed class RuleRow
    {
        public Guid Id { get; init; }
        public string Trigger { get; init; } = "";
        public string Channel { get; init; } = "";
        public string Recipient { get; init; } = "";
        public int OffsetMinutes { get; init; }
        public int LateMinutes { get; init; }
        public Guid? LocationId { get; init; }
        public Guid[] ServiceIds { get; init; } = [];
        public bool? IsNew { get; init; }
        public bool? IsOnline { get; init; }
        public bool OnlyIfNotBack { get; init; }
        public Guid[] StaffIds { get; init; } = [];
        public bool IsOn { get; init; }
        public int Position { get; init; }
        public long Version { get; init; }

        internal ListedMessage Listed(IReadOnlyList<MessageText> texts) =>
            new(
                new MessageRule
                {
                    Id = Id,
                    Trigger = Enum.Parse<MessageTrigger>(Trigger),
                    Channel = Enum.Parse<Channel>(Channel),
                    Recipient = Enum.Parse<Recipient>(Recipient),
                    OffsetMinutes = OffsetMinutes,
                    LateMinutes = LateMinutes,
                    OnlyIfNotBack = OnlyIfNotBack,
                    Filter = new MessageFilter
                    {
                        LocationId = LocationId,
                        ServiceIds = ServiceIds.ToHashSet(),
                        New = IsNew,
                        Online = IsOnline,
                    },
                    IsOn = IsOn,
                },
                texts,
                StaffIds,
                Position,
                Version
            );
    }
}

/// <summary>Writes the rules of messages.</summary>
public sealed partial class SetupWriter
{
    /// <summary>Saves a rule with all it says.</summary>
    public async Task SaveAsync(ListedMessage listed)
    {
        ArgumentNullException.ThrowIfNull(listed);
        MessageRule rule = listed.Rule;
        await _connection.ExecuteAsync(
            """
            INSERT INTO message_rule (id, trigger, channel, recipient, offset_minutes, late_minutes, location_id, service_ids, is_new,
                is_online, only_if_not_back, staff_ids, is_on, position)
            VALUES (@Id, @Trigger, @Channel, @Recipient, @OffsetMinutes, @LateMinutes, @LocationId, @ServiceIds, @New, @Online,
                @OnlyIfNotBack, @StaffIds, @IsOn, @Order)
            ON CONFLICT (id) DO UPDATE SET trigger = @Trigger, channel = @Channel, recipient = @Recipient,
                offset_minutes = @OffsetMinutes, late_minutes = @LateMinutes, location_id = @LocationId, service_ids = @ServiceIds,
                is_new = @New, is_online = @Online, only_if_not_back = @OnlyIfNotBack, staff_ids = @StaffIds, is_on = @IsOn,
                position = @Order, version = message_rule.version + 1
            """,
            new
            {
                rule.Id,
                Trigger = rule.Trigger.ToString(),
                Channel = rule.Channel.ToString(),
                Recipient = rule.Recipient.ToString(),
                rule.OffsetMinutes,
                rule.LateMinutes,
                rule.OnlyIfNotBack,
                rule.Filter.LocationId,
                ServiceIds = rule.Filter.ServiceIds.ToArray(),
                rule.Filter.New,
                rule.Filter.Online,
                StaffIds = listed.StaffIds.ToArray(),
                rule.IsOn,
                listed.Order,
            }
        );
        await _connection.ExecuteAsync("DELETE FROM message_text WHERE rule_id = @Id", new { rule.Id });
        await _connection.ExecuteAsync(
            "INSERT INTO message_text (rule_id, language, subject, body) SELECT @Id, * FROM unnest(@Languages, @Subjects, @Bodies)",
            new
            {
                rule.Id,
                Languages = listed.Texts.Select(text => text.Language).ToArray(),
                Subjects = listed.Texts.Select(text => text.Subject).ToArray(),
                Bodies = listed.Texts.Select(text => text.Body).ToArray(),
            }
        );
    }

    /// <summary>Takes a rule out; what was sent by it stays.</summary>
    public Task RemoveMessageAsync(Guid id) => _connection.ExecuteAsync("DELETE FROM message_rule WHERE id = @id", new { id });

    /// <summary>Sets when nobody is disturbed.</summary>
    public Task SaveAsync(QuietHours quiet)
    {
        ArgumentNullException.ThrowIfNull(quiet);
        return _connection.ExecuteAsync(
            "UPDATE business SET quiet_from = @From, quiet_until = @Until, version = version + 1",
            new { quiet.From, quiet.Until }
        );
    }
}
