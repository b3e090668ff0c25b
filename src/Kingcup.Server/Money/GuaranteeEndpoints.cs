using Kingcup.Core.Business;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Booking;
using Kingcup.Server.Business;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Money;

/// <summary>What clients give when they book, and what cancelling costs.</summary>
internal static class GuaranteeEndpoints
{
    private const int MostLines = 8;

    private static readonly SetupList<GuaranteeDocument, ListedGuarantee> _rules = new()
    {
        Kind = "guarantee",
        NotThere = "There is no such rule.",
        All = setup => setup.Parts.Guarantees,
        IdOf = rule => rule.Id,
        VersionOf = rule => rule.Version,
        Tell = (_, rule) => GuaranteeDocument.Of(rule),
        Check = (request, checks, change, id, before) =>
            Task.FromResult(request.Check(checks, change.Setup, id, before?.Order ?? change.Setup.Parts.Guarantees.Count + 1)),
        Save = (change, rule) => change.Writer.SaveAsync(rule),
    };

    internal static void Map(RouteGroupBuilder api)
    {
        RouteGroupBuilder group = api.MapGroup("/setup").RequireAuthorization(Rights.EditSetup).WithTags("Money").Problems();
        _rules.Map(
            group,
            "/guarantees",
            "The rules of what clients give when they book, in order.",
            "Adds a rule.",
            "Changes a rule."
        );
        group
            .MapDelete("/guarantees/{id:guid}", RemoveAsync)
            .Changes()
            .WithSummary("Takes a rule out; what was agreed by it stays agreed. Needs If-Match.");
        group
            .MapPost("/guarantees/try", TryAsync)
            .WithSummary("What the rules ask of a made-up client for a made-up visit, and what cancelling it costs when.");
        group
            .MapGet(
                "/locations/{id:guid}/policy",
                (Guid id, Database database, BookReader book) =>
                    book.ReadAsync(database, setup => PolicyDocument.Of(setup, BusinessEndpoints.Location(setup, id).Location.Id))
            )
            .WithSummary("What cancelling costs at a location.");
        group
            .MapPut("/locations/{id:guid}/policy", SavePolicyAsync)
            .Changes()
            .WithSummary("Sets what cancelling costs whoever books from now on. Needs If-Match.");
    }

    private static async Task<NoContent> RemoveAsync(Guid id, HttpContext http, SetupDesk desk)
    {
        await desk.ChangeAsync(
            http,
            async change =>
            {
                ListedGuarantee rule = _rules.Find(change.Setup, id);
                SetupChange.Match(http, rule.Version);
                await change.Writer.RemoveGuaranteeAsync(id);
                await change.RecordAsync("guarantee", id, "Removed", GuaranteeDocument.Of(rule), null);
                return true;
            }
        );
        return TypedResults.NoContent();
    }

    private static Task<Ok<PolicyDocument>> SavePolicyAsync(
        Guid id,
        PolicyDocument request,
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
                SetupChange.Match(http, BusinessEndpoints.Location(change.Setup, id).Version);
                Checks checks = new();
                CancellationPolicy policy = request.Check(checks);
                checks.Done();
                await change.Writer.SavePolicyAsync(id, policy, change.Change.At);
                await change.RecordAsync("policy", id, "Changed", PolicyDocument.Of(change.Setup, id), request);
            },
            setup => PolicyDocument.Of(setup, id)
        );

    private static async Task<Ok<GuaranteeTryAnswer>> TryAsync(
        GuaranteeTryRequest request,
        Database database,
        BookReader book,
        IClock clock
    )
    {
        Checks checks = new();
        checks.Limits(request);
        checks.Require(request.Lines is { Count: >= 1 and <= MostLines }, "lines", $"Choose one to {MostLines} services.");
        CancellationPolicy? drawn = request.Policy?.Check(checks);
        checks.Done();
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        ListedLocation listed = BusinessEndpoints.Location(setup, request.LocationId);
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        VisitPrice price = Prices.Usual(setup, wanted);
        DateTimeZone zone = listed.Location.Zone;
        LocalDate today = clock.GetCurrentInstant().InZone(zone).Date;
        Guarantee guarantee = Guarantees.Of(
            setup,
            request.LocationId,
            [.. wanted.Wish.Lines.Select(line => setup.ServiceOf(line.ServiceId)!)],
            price,
            new GuaranteeQuestion
            {
                Start = request.Start,
                Today = today,
                Price = price.Total,
                IsNew = request.IsNew,
                NoShows = [.. Enumerable.Repeat(today.PlusDays(-1).AtMidnight(), request.NoShows)],
            }
        );
        long[] lines = [.. price.Lines.Select(line => line.Total)];
        PaidSoFar paid = new(lines, guarantee.Deposit, guarantee.NeedsCard || guarantee.Deposit > 0);
        CancellationPolicy policy = drawn ?? setup.PolicyOf(request.LocationId)?.Policy ?? CancellationPolicy.None;
        Instant start = request.Start.InZoneLeniently(zone).ToInstant();
        string currency = setup.Business.Currency;
        LocalDateTime Local(Instant at) => at.InZone(zone).LocalDateTime;
        return TypedResults.Ok(new GuaranteeTryAnswer
        {
            Price = new MoneyAnswer(price.Total, currency),
            Deposit = new MoneyAnswer(guarantee.Deposit, currency),
            Rest = new MoneyAnswer(price.Total - guarantee.Deposit, currency),
            NeedsCard = guarantee.NeedsCard,
            RuleIds = [.. guarantee.Lines.Select(line => IdOf(setup, line.Rule))],
            Because =
            [
                .. guarantee.Lines.Select(
                    (line, i) => (string)Because(setup, line.Rule, wanted.Wish.Lines[i].ServiceId, request.LocationId)
                ),
            ],
            Steps =
            [
                .. PolicyWords
                    .Steps(policy, start, paid)
                    .Select(step => new CancellationStepAnswer
                    {
                        From = step.From is { } from ? Local(from) : null,
                        Until = Local(step.Until),
                        Fee = FeeAnswer.Of(step.Fee, currency),
                    }),
            ],
            NoShow = FeeAnswer.Of(CancellationFee.OfNoShow(policy, paid), currency),
            Clients = [.. PolicyWords.Of(policy, start, zone, lines, currency).Select(sentence => (string)sentence)],
        });
    }

    private static Guid? IdOf(Setup setup, GuaranteeRule? rule) =>
        rule is null ? null : setup.Parts.Guarantees.First(listed => ReferenceEquals(listed.Rule, rule)).Id;

    private static Sentence Because(Setup setup, GuaranteeRule? rule, Guid serviceId, Guid locationId)
    {
        Service service = setup.ServiceOf(serviceId)!;
        if (rule is null) return Say($"For {service.Name} no rule holds, so nothing is asked.");
        int others = setup.GuaranteesOf(locationId, service).Count(other => other.Place == rule.Place && !ReferenceEquals(other, rule));
        Sentence place = rule.Place switch
        {
            GuaranteePlace.Service => Say($"the rule for {service.Name} itself"),
            GuaranteePlace.Category => Say(
                $"the rule for {setup.Categories.First(category => category.Category.Id == service.CategoryId).Category.Name}"
            ),
            _ => Say($"the rule of {BusinessEndpoints.Location(setup, locationId).Location.Name}"),
        };
        return others == 0
            ? Say($"For {service.Name} it is {place}: no nearer one holds.")
            : Say($"For {service.Name} it is {place}: no nearer one holds, and of those at that place it asks for most.");
    }
}
