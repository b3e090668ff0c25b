using System.Data;
using Kingcup.Core.Business;
using Kingcup.Core.Messages;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Messages;

/// <summary>
/// Makes messages of what has happened, and of what is due around visits. One server does it at a time, in one transaction: what has
/// happened is gone once its messages stand, so whoever dies in the middle leaves all of it to the next.
/// </summary>
internal sealed partial class MessagePlanner(
    Database database,
    BookReader book,
    MessageWriter writer,
    IClock clock,
    ILogger<MessagePlanner> log
)
{
    private const int MostAtOnce = 200;

    private static readonly Duration _aside = Duration.FromDays(1);

    /// <summary>Quiet hours move a reminder by so much at the most: by two of them where the clock changes between.</summary>
    private static readonly Duration _mostMoved = Duration.FromHours(49);

    /// <summary>Makes messages of what has happened; what cannot be told is put aside for a day, so that it stops nothing else.</summary>
    /// <returns>Whether there may be more.</returns>
    internal async Task<bool> TellAsync()
    {
        try
        {
            return await TellAsync(MostAtOnce, _ => { });
        }
        catch (Exception exception) when (exception is not (NpgsqlException or TimeoutException or OperationCanceledException))
        {
            NotTold(log, exception);
        }

        // One by one from here on: what is put aside is what was tried, whatever another server does meanwhile.
        IReadOnlyList<MessageEventRow> tried = [];
        try
        {
            await TellAsync(1, ready => tried = ready);
        }
        catch (Exception exception) when (exception is not (NpgsqlException or TimeoutException or OperationCanceledException))
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            await MessageEventStore.PutAsideAsync(
                connection,
                [.. tried.Select(happened => happened.Place)],
                clock.GetCurrentInstant() + _aside
            );
        }

        return tried.Count > 0;
    }

    [LoggerMessage(LogLevel.Error, "Something that has happened could not be told")]
    private static partial void NotTold(ILogger log, Exception exception);

    private async Task<bool> TellAsync(int most, Action<IReadOnlyList<MessageEventRow>> tries)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        Instant now = clock.GetCurrentInstant();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead);
        if (!await MessageStore.PlansAsync(connection)) return false;
        IReadOnlyList<MessageEventRow> events = await MessageEventStore.ReadyAsync(connection, now, most);
        if (events.Count == 0) return false;
        tries(events);
        Round round = await Round.ReadAsync(
            connection,
            setup,
            events.Select(happened => happened.VisitId).OfType<Guid>(),
            [.. events.Where(happened => happened.IsOfGone).Select(happened => MessageEventStore.Gone(happened.About!))],
            now
        );
        List<MessageRow> messages = [];
        ILookup<Guid, MessageEventRow> ofVisits = events.Where(happened => happened.Kind == "Visit").ToLookup(row => row.VisitId!.Value);
        List<News> news = [.. ofVisits.Select(visit => NewsOf(round, [.. visit])).OfType<News>()];
        await MessageStore.DropAsync(connection, [.. ofVisits.Select(visit => visit.Key)], now);
        // A row of visits that was booked or cancelled at once is told of once.
        foreach (IGrouping<(Guid, Guid, MessageTrigger), News> told in news.GroupBy(told => told.Together))
            messages.AddRange(await OfVisitAsync(connection, round, [.. told.OrderBy(one => one.Visit.Visit.StartsAt)]));
        foreach (MessageEventRow happened in events.Where(happened => happened.Kind is "Fee" or "Refund" or "Deposit"))
            messages.AddRange(await OfMoneyAsync(connection, round, happened));
        foreach (MessageEventRow happened in events.Where(happened => happened.Kind == "Unfinished"))
            messages.AddRange(await OfUnfinishedAsync(connection, round, happened));
        await MessageStore.AddAsync(connection, messages);
        await MessageEventStore.ForgetAsync(connection, [.. events.Select(happened => happened.Place)]);
        await transaction.CommitAsync();
        return events.Count == most;
    }

    /// <summary>
    /// Makes messages of what is due around visits: one server goes through all of it, so that none of two leaves something to the other
    /// that leaves it too.
    /// </summary>
    internal async Task RemindAsync()
    {
        await using NpgsqlConnection watch = await database.OpenAsync();
        await using NpgsqlTransaction watching = await watch.BeginTransactionAsync();
        if (!await MessageStore.RemindsAsync(watch)) return;
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        foreach (ListedMessage listed in setup.Parts.Messages.Where(listed => listed.Rule is { IsOn: true, IsTimed: true }))
        {
            try
            {
                TimedVisit? last = null;
                do last = await RemindAsync(connection, setup, listed, last);
                while (last is not null);
            }
            catch (Exception exception) when (exception is not (NpgsqlException or TimeoutException or OperationCanceledException))
            {
                // A rule that cannot be followed holds up no other.
                NotTold(log, exception);
            }
        }
    }

    /// <returns>The last visit that was looked at, or null where there are no more.</returns>
    private async Task<TimedVisit?> RemindAsync(NpgsqlConnection connection, Setup setup, ListedMessage listed, TimedVisit? after)
    {
        Instant now = clock.GetCurrentInstant();
        MessageRule rule = listed.Rule;
        Duration offset = Duration.FromMinutes(rule.OffsetMinutes);
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        IReadOnlyList<TimedVisit> unplanned = await MessageStore.UnplannedAsync(
            connection,
            rule,
            rule.Trigger == MessageTrigger.BeforeStart
                ? new Interval(now, now + offset + _mostMoved)
                : new Interval(now - offset - _mostMoved - Duration.FromMinutes(rule.LateMinutes), now - offset),
            after,
            MostAtOnce
        );
        Dictionary<Guid, PlannedMessage> planned = unplanned
            .Where(visit => rule.IsWanted(visit.IsBack))
            .Select(visit => (visit.VisitId, Plan: PlanOf(setup, rule, visit, now)))
            .Where(visit => visit.Plan.Fate != MessageFate.Ahead)
            .ToDictionary(visit => visit.VisitId, visit => visit.Plan);
        if (planned.Count > 0)
        {
            Round round = await Round.ReadAsync(connection, setup, planned.Keys, [], now);
            await MessageStore.AddAsync(
                connection,
                [.. round.Visits.Values.SelectMany(visit => Timed(round, listed, visit, planned[visit.Visit.Id]))]
            );
            await transaction.CommitAsync();
        }

        return unplanned.Count == MostAtOnce ? unplanned[^1] : null;
    }

    private IEnumerable<MessageRow> Timed(Round round, ListedMessage listed, StoredVisit visit, PlannedMessage planned)
    {
        if (!listed.Rule.Filter.Lets(SubjectOf(visit, visit.Visit.Source == "Online"))) return [];
        return Write(round, listed, visit, new MessageAbout { Address = writer.Address, HasLink = true })
            .Select(message => message with { AboutStart = visit.Visit.StartsAt })
            .Select(message =>
                planned.Fate == MessageFate.Due
                    ? message
                    : message with
                    {
                        State = "LeftOut",
                        Address = null,
                        SettledAt = round.Now,
                        DueAt = planned.At,
                        Because = planned.Fate == MessageFate.TooSoon ? "too-soon" : "too-late",
                    }
            );
    }

    /// <summary>What becomes of a timed rule for a visit.</summary>
    internal static PlannedMessage PlanOf(Setup setup, MessageRule rule, TimedVisit visit, Instant now) =>
        rule.Plan(
            new Interval(visit.Start, visit.End),
            visit.BookedAt,
            setup.HouseOf(visit.LocationId)!.Location.Zone,
            setup.Business.Quiet,
            now
        );

    /// <summary>What rules ask of a visit.</summary>
    /// <param name="visit">The visit.</param>
    /// <param name="byClient">Whether the client did it online.</param>
    internal static MessageSubject SubjectOf(StoredVisit visit, bool byClient) =>
        new(visit.Visit.LocationId, [.. visit.Lines.Select(line => line.ServiceId)], visit.Visit.IsFirst, byClient);

    private static News? NewsOf(Round round, IReadOnlyList<MessageEventRow> events)
    {
        MessageEventRow first = events[0],
            last = events[^1];
        MessageTrigger? told =
            events.LastOrDefault(happened => happened.ByClient)?.Stands is { } left
                ? VisitNews.Of(first.Stood, left, last.Stands, round.Now)
                : VisitNews.Of(first.Stood, last.Stands, round.Now);
        if (told is not { } trigger) return null;
        StoredVisit? visit = last.About is { } gone
            ? MessageEventStore.Gone(gone)
            : round.Visits.GetValueOrDefault(last.VisitId!.Value);
        return visit is null
            ? null
            : new News(trigger, visit, last.ByClient, first.Stood?.Start, IsGone: last.About is not null);
    }

    private async Task<IEnumerable<MessageRow>> OfVisitAsync(NpgsqlConnection connection, Round round, IReadOnlyList<News> together)
    {
        News news = together[0];
        Guid id = news.Visit.Visit.Id;
        MessageMoney money = news.IsGone ? new MessageMoney() : await MessageMoneyOf.ReadAsync(connection, id);
        IReadOnlyList<StoredProposal> proposed =
            news.Trigger == MessageTrigger.Proposed ? await BookStore.ProposedAsync(connection, [id]) : [];
        MessageAbout about = new()
        {
            Money = money,
            Proposed = proposed,
            OldStart = news.Trigger == MessageTrigger.Moved ? news.OldStart : null,
            Others = [.. together.Skip(1).Select(other => other.Visit.Visit.StartsAt)],
            Address = writer.Address,
            HasLink = true,
        };
        return RulesOf(round.Setup, news.Trigger, SubjectOf(news.Visit, news.ByClient))
            .SelectMany(listed => Write(round, listed, news.Visit, about, isGone: news.IsGone))
            .ToArray();
    }

    private async Task<IEnumerable<MessageRow>> OfMoneyAsync(NpgsqlConnection connection, Round round, MessageEventRow happened)
    {
        if (!round.Visits.TryGetValue(happened.VisitId!.Value, out StoredVisit? visit)) return [];
        MessageAbout about = new() { Address = writer.Address, HasLink = true };
        MessageTrigger trigger;
        switch (happened.Kind)
        {
            case "Deposit":
                // What was taken back, or paid, before it was told of is not asked for.
                if (await PaymentStore.LinkOfAsync(connection, visit.Visit.Id, round.Now) is not { } link) return [];
                trigger = MessageTrigger.DepositAsked;
                about = about with { Money = new MessageMoney { Asked = link.Amount }, AskedUntil = link.ExpiresAt };
                break;
            case "Fee":
                trigger = MessageTrigger.Fee;
                about = about with { Money = await MessageMoneyOf.ReadAsync(connection, visit.Visit.Id) };
                break;
            default:
                trigger = MessageTrigger.Refund;
                about = about with { Money = new MessageMoney { Refund = happened.Amount!.Value } };
                break;
        }

        return RulesOf(round.Setup, trigger, SubjectOf(visit, happened.ByClient))
            .SelectMany(listed => Write(round, listed, visit, about))
            .ToArray();
    }

    private async Task<IEnumerable<MessageRow>> OfUnfinishedAsync(NpgsqlConnection connection, Round round, MessageEventRow happened)
    {
        Unfinished unfinished = Unfinished.Read(happened.About!);
        // Somebody who is reached by telephone only is not written to.
        if (unfinished.Email.Length == 0) return [];
        if (await MessageEventStore.HasBookedAsync(connection, unfinished.Email, happened.At)) return [];
        // However often somebody begins with an address that need not be theirs, it is written to once a day.
        Instant day = round.Now - Duration.FromDays(1);
        if (await MessageStore.WroteSinceAsync(connection, MessageTrigger.Unfinished, unfinished.Email, day)) return [];
        string spoken = round.Setup.Business.Language;
        Dictionary<string, string> values = MessageVariables.Of(
            round.Setup,
            unfinished,
            writer.LanguageOf(round.Setup, spoken),
            writer.Address
        );
        if (values.Count == 0) return [];
        MessageSubject subject = new(unfinished.LocationId, unfinished.ServiceIds, IsNew: false, IsOnline: true);
        Addressee to = new(unfinished.GivenName, unfinished.Email, null, spoken);
        return RulesOf(round.Setup, MessageTrigger.Unfinished, subject)
            .Select(listed => MessageWriter.Write(listed, to, round.Setup, values, round.Now))
            .ToArray();
    }

    private static IEnumerable<ListedMessage> RulesOf(Setup setup, MessageTrigger trigger, MessageSubject subject) =>
        setup.Parts.Messages.Where(listed =>
            listed.Rule.IsOn && listed.Rule.Trigger == trigger && listed.Rule.Filter.Lets(subject)
        );

    private IEnumerable<MessageRow> Write(Round round, ListedMessage listed, StoredVisit visit, MessageAbout about, bool isGone = false)
    {
        foreach (Addressee to in MessageWriter.WhoGets(listed, round.Setup, visit, round.Clients, round.Staff))
        {
            Language language = writer.LanguageOf(round.Setup, to.Language);
            Dictionary<string, string> values = MessageVariables.Of(
                round.Setup,
                visit,
                to.Client,
                language,
                about with { HasLink = about.HasLink && to.Client is not null }
            );
            yield return MessageWriter.Write(listed, to, round.Setup, values, round.Now) with
            {
                VisitId = isGone ? null : visit.Visit.Id,
                Calendar = MessageWriter.CalendarOf(listed.Rule, round.Setup, visit, values),
            };
        }
    }

    /// <summary>What is told of a visit.</summary>
    /// <param name="Trigger">What it is.</param>
    /// <param name="Visit">The visit.</param>
    /// <param name="ByClient">Whether the client did it online.</param>
    /// <param name="OldStart">When it began as it was told last, or null.</param>
    /// <param name="IsGone">Whether it was taken out of the book.</param>
    private sealed record News(MessageTrigger Trigger, StoredVisit Visit, bool ByClient, Instant? OldStart, bool IsGone)
    {
        /// <summary>What is told together: visits of one row, booked or cancelled at once.</summary>
        internal (Guid, Guid, MessageTrigger) Together =>
            Trigger is MessageTrigger.Booked or MessageTrigger.Cancelled && Visit.Visit.SeriesId is { } series
                ? (Visit.Visit.ClientId, series, Trigger)
                : (Visit.Visit.ClientId, Visit.Visit.Id, Trigger);
    }

    /// <summary>What is read once for all messages of a round.</summary>
    private sealed record Round(
        Setup Setup,
        IReadOnlyDictionary<Guid, StoredVisit> Visits,
        IReadOnlyDictionary<Guid, AddressedClient> Clients,
        IReadOnlyDictionary<Guid, Addressee> Staff,
        Instant Now
    )
    {
        internal static async Task<Round> ReadAsync(
            NpgsqlConnection connection,
            Setup setup,
            IEnumerable<Guid> visitIds,
            IReadOnlyCollection<StoredVisit> gone,
            Instant now
        )
        {
            Dictionary<Guid, StoredVisit> visits = (
                await BookStore.TheseAsync(connection, [.. visitIds.Distinct()])
            ).ToDictionary(visit => visit.Visit.Id);
            return new Round(
                setup,
                visits,
                await MessageStore.ClientsAsync(
                    connection,
                    [.. visits.Values.Concat(gone).SelectMany(visit => new[] { visit.Visit.ClientId, visit.Visit.PayerId }).Distinct()]
                ),
                (await MessageStore.StaffAsync(connection)).ToDictionary(
                    staff => staff.Id,
                    staff => new Addressee(staff.Name, staff.Email, null, setup.Business.Language) { StaffId = staff.Id }
                ),
                now
            );
        }
    }
}
