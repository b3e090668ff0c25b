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
    /// <exception cref="Refused">It cannot be changed so; nothing was changed.</exception>
    public Task<StoredVisit> SetStateAsync(Guid id, long version, VisitState state, Actor actor) =>
        StandAsync(id, version, state, null, actor);

    /// <summary>Cancels a visit; it is kept with its reason and gives its time back.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="by">On whose account; a client's late one counts with their no-shows.</param>
    /// <param name="reason">Why.</param>
    /// <param name="actor">Who does it.</param>
    /// <exception cref="Refused">It cannot be cancelled; nothing was changed.</exception>
    public async Task<StoredVisit> CancelAsync(Guid id, long version, CancelledBy by, string reason, Actor actor)
    {
        Setup setup;
        await using (NpgsqlConnection connection = await database.OpenAsync())
            setup = await book.SetupAsync(connection);
        return await StandAsync(
            id,
            version,
            VisitState.Cancelled,
            visit => Cancellation.Of(by, reason, clock.GetCurrentInstant(), BookingChecks.LastInTime(setup, visit)),
            actor
        );
    }

    private Task<StoredVisit> StandAsync(
        Guid id,
        long version,
        VisitState state,
        Func<StoredVisit, Cancellation>? cancellation,
        Actor actor
    ) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            Change change = new(actor.Name, clock.GetCurrentInstant());
            // Days are locked before anything of the visit is changed, as everywhere; the visit is read again under the lock.
            StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
            await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
            LockedBook locked = await transaction.LockAsync(new BookLocks { Days = [visit.Visit.Date] }, new BookQuestion { VisitId = id });
            visit = BookingChecks.Present(locked.Visit, version);
            if (!VisitStates.After(visit.Visit.VisitState, visit.Visit.StartsAt, change.At).Contains(state))
            {
                throw new Refused(
                    StatusCodes.Status409Conflict,
                    "state",
                    state is VisitState.Done or VisitState.NoShow && change.At < visit.Visit.StartsAt
                        ? Say($"A visit that has not begun yet cannot become {Words(state)}.")
                        : Say($"A visit that is {Words(visit.Visit.VisitState)} cannot become {Words(state)}.")
                );
            }

            StoredVisit stored = BookStore.SetState(transaction, visit, state, cancellation?.Invoke(visit));
            await CommitAsync(transaction);
            return stored;
        });

    private static Sentence Words(VisitState state) => state switch
    {
        VisitState.Requested => Say("requested"),
        VisitState.Confirmed => Say("confirmed"),
        VisitState.Arrived => Say("arrived"),
        VisitState.InTreatment => Say("in treatment"),
        VisitState.Done => Say("done"),
        VisitState.Cancelled => Say("cancelled"),
        _ => Say("a no-show"),
    };
}
