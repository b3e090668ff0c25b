using System.Security.Cryptography;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Server.Api;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <summary>A time that is to be proposed.</summary>
/// <param name="Start">When it begins.</param>
/// <param name="PractitionerId">Who is to take the first line; null for whoever the client asked for, or else fits.</param>
public sealed record TimeToPropose(Instant Start, Guid? PractitionerId);

/// <content>
/// What clients have asked for: answered with other times, chosen among these, or lapsed because nobody said anything. What is proposed
/// is kept as anything is that somebody has for a while.
/// </content>
public sealed partial class BookingDesk
{
    private static readonly Actor _lapse = new("Kingcup", "lapse");

    /// <summary>Answers a request with other times, which are kept until the client has chosen one.</summary>
    /// <param name="id">What was asked for.</param>
    /// <param name="version">The version the answer is based on.</param>
    /// <param name="times">The times, one to <see cref="RequestRules.MostTimes"/>, none of which meets another.</param>
    /// <param name="words">What is written to the client, or empty.</param>
    /// <param name="actor">Who answers.</param>
    /// <exception cref="Refused">It cannot be answered so; nothing was changed.</exception>
    public Task<StoredVisit> ProposeAsync(Guid id, long version, IReadOnlyList<TimeToPropose> times, string words, Actor actor) =>
        OnceMore.RunAsync(() => ProposeOnceAsync(id, version, times, words, actor));

    private async Task<StoredVisit> ProposeOnceAsync(
        Guid id, long version, IReadOnlyList<TimeToPropose> times, string words, Actor actor)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        Change change = actor.ChangeAt(clock.GetCurrentInstant());
        LocalDate[] dates = [.. times.Select(time => BookingChecks.CheckStart(house, time.Start, change.At))];
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        LockedBook locked = await transaction.LockAsync(
            new BookLocks { Days = [.. dates.Append(visit.Visit.Date).Distinct()] },
            new BookQuestion { VisitId = id, Client = new ClientAsked(visit.Visit.ClientId) }
        );
        visit = BookingChecks.Present(locked.Visit, version);
        CheckIsAsked(visit, VisitState.Requested, change.At);
        RequestRules rules = (await book.LockedSetupAsync(connection, locked.SetupRevision)).Parts.BookingPage.Requests;
        List<NewProposal> proposals = [];
        foreach ((int i, TimeToPropose time) in times.Index())
        {
            proposals.Add(await PlanProposalAsync(connection, setup, locked, visit, time, dates[i], i, proposals, rules, change.At));
        }

        StoredVisit answered = BookStore.SetState(
            transaction,
            visit,
            VisitState.Answered,
            null,
            new DeskAnswer(proposals.Max(proposal => proposal.ExpiresAt), words)
        );
        foreach (NewProposal proposal in proposals) BookStore.Propose(transaction, proposal);
        Remember(transaction, actor, StepKind.State, visit, answered);
        await CommitAsync(transaction);
        return answered;
    }

    private async Task<NewProposal> PlanProposalAsync(
        NpgsqlConnection connection, Setup seen, LockedBook locked, StoredVisit visit, TimeToPropose time, LocalDate date, int place,
        IReadOnlyList<NewProposal> earlier, RequestRules rules, Instant now)
    {
        string field = $"times[{place}].start";
        House house = seen.HouseOf(visit.Visit.LocationId)!;
        Laying laying = Moving(visit, time.PractitionerId);
        BookingChecks.CheckWish(house, laying.Wanted.Wish, visit);
        BookQuestion question = QuestionOf(house, laying.Wanted.Wish, date);
        LockedBook there = locked with
        {
            Window = await BookStore.WindowAsync(connection, question.Days!, now),
            Held = question.Held is null ? [] : await BookStore.HeldAsync(connection, question.Held, now),
        };
        StandingBook standing = await StandingAsync(
            connection, seen, there, visit.Visit.LocationId, laying.Wanted.Wish, date, now,
            visit.Lines.Select(line => line.Id).ToHashSet());
        DayBook day = standing.Day;
        int grain = day.Day.GrainOfStart(time.Start)!.Value;
        StartFinder finder = new(standing.House, laying.Wanted.Wish);
        VisitPlan? plan = laying.Present is { } present ? new StartFinder(standing.House, present).PlanFeasible(day, grain) : null;
        plan ??= finder.PlanFeasible(day, grain, standing.Week);
        if (plan is null) throw await DoesNotFitAsync(connection, standing, finder, grain, null, now);
        if (ClientHistory.At(locked.ClientVisits, plan.Start, plan.End).Any())
            throw Refused.Invalid(field, "The client has another visit then. Choose another time.");
        if (earlier.Any(other => other.Visit.Plan.Claims.Any(claim => plan.Claims.Any(own => Meet(own, claim)))))
            throw Refused.Invalid(field, "It meets another of the times you propose. Choose times that do not.");
        return new NewProposal
        {
            Kind = ProposalKind.Proposal,
            VisitId = visit.Visit.Id,
            TokenHash = RandomNumberGenerator.GetBytes(32),
            ExpiresAt = rules.ChosenUntil(now, plan.Start),
            Asked = SHA256.HashData(visit.Visit.Id.ToByteArray()),
            SetupRevision = standing.Setup.Revision,
            LocationId = visit.Visit.LocationId,
            Visit = new LaidVisit
            {
                Date = date,
                Plan = plan,
                Price = Prices.Laid(standing.Setup, visit, plan, laying.Wanted, laying.LineIds),
                LineIds = laying.LineIds,
                Chosen = laying.Chosen,
                AddOns = laying.Wanted.AddOns,
            },
        };
    }

    private static bool Meet(PlannedClaim one, PlannedClaim other) =>
        one.ResourceId == other.ResourceId
        && one.Unit == other.Unit
        && one.During.Start < other.During.End
        && other.During.Start < one.During.End;

    private static void CheckIsAsked(StoredVisit visit, VisitState state, Instant now)
    {
        if (visit.Visit.VisitState != state)
        {
            throw new Refused(
                StatusCodes.Status409Conflict,
                "state",
                state == VisitState.Answered
                    ? "There is nothing to choose from any more. Look at the booking again."
                    : "Only what was asked for and not answered yet can be answered."
            );
        }

        if (visit.Visit.LapsesAt <= now) throw HasLapsed();
    }

    /// <summary>When what stands so from now on lapses if nobody says anything; null for what nobody has to agree to.</summary>
    private static Instant? LapsesOf(Setup setup, VisitState state, Instant now, Instant start) =>
        state == VisitState.Requested ? setup.Parts.BookingPage.Requests.AnsweredUntil(now, start) : null;

    private static Refused HasLapsed() =>
        new(StatusCodes.Status409Conflict, "lapsed", "It was not settled in time and has lapsed. Book it anew.");

    /// <summary>Chooses one of the times that were proposed.</summary>
    /// <param name="id">What was asked for.</param>
    /// <param name="version">The version the choice is based on.</param>
    /// <param name="proposalId">The time that is chosen.</param>
    /// <param name="priceSeen">What it costs as whoever chooses has read it, in minor units; null where nothing was read.</param>
    /// <param name="actor">Who chooses; null for the client, online.</param>
    /// <exception cref="Refused">It is kept no more; nothing was changed.</exception>
    public Task<StoredVisit> ChooseAsync(Guid id, long version, Guid proposalId, long? priceSeen, Actor? actor = null) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
            IReadOnlyList<StoredProposal> proposed = await BookStore.ProposedAsync(connection, [id]);
            Change change = (actor ?? _own).ChangeAt(clock.GetCurrentInstant());
            await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
            LockedBook locked = await transaction.LockAsync(
                new BookLocks { Days = [.. proposed.Select(DateOf).Append(visit.Visit.Date).Distinct()] },
                new BookQuestion { VisitId = id, Client = new ClientAsked(visit.Visit.ClientId) }
            );
            visit = BookingChecks.Present(locked.Visit, version);
            CheckIsAsked(visit, VisitState.Answered, change.At);
            StoredProposal chosen =
                proposed.FirstOrDefault(proposal => proposal.Id == proposalId)
                ?? throw Refused.NotFound("That time was not proposed.");
            if (chosen.ExpiresAt <= change.At)
                throw new Refused(StatusCodes.Status409Conflict, "lapsed", "That time is not kept any more. Choose another.");
            if (priceSeen is { } seen && seen != chosen.Visit.Price.Total)
                throw Refused.Invalid("priceSeen", "That is not what it costs. Look at the times again.");
            VisitRow at = chosen.Visit.Visit;
            if (ClientHistory.At(locked.ClientVisits, at.StartsAt, at.EndsAt).Any())
            {
                throw new Refused(
                    StatusCodes.Status409Conflict,
                    "elsewhere",
                    actor is null ? "You have another booking then. Choose another time." : "The client has another visit then."
                );
            }

            foreach (StoredProposal proposal in proposed) BookStore.GiveBack(transaction, proposal);
            StoredVisit stored = BookStore.Choose(transaction, visit, chosen);
            await CommitAsync(transaction);
            return stored;
        });

    /// <summary>Lets lapse what nobody has said anything to in time; where somebody has meanwhile, nothing happens.</summary>
    /// <param name="id">What was asked for.</param>
    internal Task LapseAsync(Guid id) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            if (await BookStore.FindAsync(connection, id) is not { } visit) return false;
            IReadOnlyList<StoredProposal> proposed = await BookStore.ProposedAsync(connection, [id]);
            Change change = _lapse.ChangeAt(clock.GetCurrentInstant());
            await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
            LockedBook locked = await transaction.LockAsync(
                new BookLocks { Days = [.. proposed.Select(DateOf).Append(visit.Visit.Date).Distinct()] },
                new BookQuestion { VisitId = id }
            );
            // Another server, or whoever has just answered, was quicker; or it was answered anew, and lapses later.
            if (locked.Visit is not { } asked || asked.Visit.Version != visit.Visit.Version || !(asked.Visit.LapsesAt <= change.At))
                return false;
            foreach (StoredProposal proposal in proposed) BookStore.GiveBack(transaction, proposal);
            StoredVisit stored = BookStore.SetState(
                transaction,
                asked,
                VisitState.Cancelled,
                new Cancellation(
                    CancelledBy.Nobody,
                    asked.Visit.VisitState == VisitState.Answered
                        ? Say("None of the times proposed was chosen in time.")
                        : Say("It was not answered in time."),
                    false
                )
            );
            await MoveMoneyAsync(transaction, asked, stored, null);
            await CommitAsync(transaction);
            return true;
        });

    /// <summary>What was proposed for a visit: whoever changes the visit locks these days too, and gives them back first.</summary>
    private static async Task<IReadOnlyList<StoredProposal>> ProposedForAsync(
        NpgsqlConnection connection, params IEnumerable<StoredVisit> visits) =>
        await BookStore.ProposedAsync(
            connection,
            [.. visits.Where(visit => visit.Visit.VisitState == VisitState.Answered).Select(visit => visit.Visit.Id)]
        );
}
