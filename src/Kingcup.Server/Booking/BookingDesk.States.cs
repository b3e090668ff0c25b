using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Storage;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <content>Where a visit stands: arrived, done, a no-show, cancelled.</content>
public sealed partial class BookingDesk
{
    /// <summary>Changes where a visit stands: arrived, in treatment, done, no-show.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="state">The new state.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="fee">What is said of what it costs not to come, or null.</param>
    /// <exception cref="Refused">It cannot be changed so; nothing was changed.</exception>
    public Task<StoredVisit> SetStateAsync(Guid id, long version, VisitState state, Actor actor, FeeOrder? fee = null) =>
        StandAsync(id, version, state, null, actor, fee);

    /// <summary>Cancels a visit; it is kept with its reason and gives its time back.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="by">On whose account; a client's late one counts with their no-shows.</param>
    /// <param name="reason">Why.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="fee">What is said of what it costs, or null.</param>
    /// <param name="words">Of what was asked for and is declined, what is written to the client; null for nothing.</param>
    /// <exception cref="Refused">It cannot be cancelled; nothing was changed.</exception>
    public async Task<StoredVisit> CancelAsync(
        Guid id,
        long version,
        CancelledBy by,
        string reason,
        Actor actor,
        FeeOrder? fee = null,
        string? words = null
    )
    {
        Setup setup;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            setup = await book.SetupAsync(connection);
        return await StandAsync(
            id,
            version,
            VisitState.Cancelled,
            visit => Cancellation.Of(by, reason, clock.GetCurrentInstant(), BookingChecks.LastInTime(setup, visit)),
            actor,
            fee,
            words
        );
    }

    private Task<StoredVisit> StandAsync(
        Guid id,
        long version,
        VisitState state,
        Func<StoredVisit, Cancellation>? cancellation,
        Actor actor,
        FeeOrder? fee,
        string? words = null
    ) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            Change change = actor.ChangeAt(clock.GetCurrentInstant());
            // Days are locked before anything of the visit is changed, as everywhere; the visit is read again under the lock.
            StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
            IReadOnlyList<StoredProposal> proposed = await ProposedForAsync(connection, visit);
            Setup setup = await book.SetupAsync(connection);
            await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
            LockedBook locked = await transaction.LockAsync(
                new BookLocks { Days = [.. proposed.Select(DateOf).Append(visit.Visit.Date).Distinct()] },
                new BookQuestion { VisitId = id }
            );
            visit = BookingChecks.Present(locked.Visit, version);
            VisitStanding standing = new(visit.Visit.VisitState, visit.Visit.StateSince);
            if (!VisitStates.After(standing, visit.Visit.StartsAt, change.At, actor.TakesBackLater).Contains(state))
                throw new Refused(StatusCodes.Status409Conflict, "state", WhyNot(standing.State, state, visit.Visit.StartsAt, change.At));
            if (state == VisitState.Confirmed && visit.Visit.LapsesAt <= change.At) throw HasLapsed();
            foreach (StoredProposal proposal in proposed) BookStore.GiveBack(transaction, proposal);
            if (!VisitStates.HoldsTime(standing.State) && VisitStates.HoldsTime(state))
                await CheckPlaceAsync(connection, locked.SetupRevision, visit);
            Cancellation? why = cancellation?.Invoke(visit);
            StoredVisit stored = BookStore.SetState(
                transaction,
                visit,
                state,
                why,
                new DeskAnswer(LapsesOf(setup, state, change.At, visit.Visit.StartsAt), words)
            );
            await MoveMoneyAsync(transaction, visit, stored, fee);
            Remember(transaction, actor, state == VisitState.Cancelled ? StepKind.Cancelled : StepKind.State, visit, stored);
            await CommitAsync(transaction);
            return stored;
        });

    private static Sentence WhyNot(VisitState from, VisitState to, NodaTime.Instant start, NodaTime.Instant now)
    {
        if (VisitStates.BackFrom(from).Contains(to))
        {
            int within = (int)VisitStates.TakenBackWithin.TotalMinutes;
            return Say(
                $"It has been {Words(from)} for more than {Count(within, "minute", "minutes")}. A manager can still take that back."
            );
        }

        return to is VisitState.Done or VisitState.NoShow && now < start
            ? Say($"A visit that has not begun yet cannot become {Words(to)}.")
            : Say($"A visit that is {Words(from)} cannot become {Words(to)}.");
    }

    private static Sentence Words(VisitState state) => state switch
    {
        VisitState.Requested => Say("requested"),
        VisitState.Answered => Say("answered with other times"),
        VisitState.Confirmed => Say("confirmed"),
        VisitState.Arrived => Say("arrived"),
        VisitState.InTreatment => Say("in treatment"),
        VisitState.Done => Say("done"),
        VisitState.Cancelled => Say("cancelled"),
        _ => Say("a no-show"),
    };
}
