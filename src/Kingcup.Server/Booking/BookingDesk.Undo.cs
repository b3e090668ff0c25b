using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <content>Undoing what somebody did, and taking out what was entered by mistake.</content>
public sealed partial class BookingDesk
{
    /// <summary>Takes a visit out of the book that was entered by mistake; its history stays.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="actor">Who does it.</param>
    /// <exception cref="Refused">It is not there, or has been changed.</exception>
    public Task DeleteAsync(Guid id, long version, Actor actor) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
            IReadOnlyList<StoredProposal> proposed = await ProposedForAsync(connection, visit);
            await using BookTransaction transaction = await BookTransaction.BeginAsync(
                connection,
                actor.ChangeAt(clock.GetCurrentInstant())
            );
            LockedBook locked = await transaction.LockAsync(
                new BookLocks { Days = [.. proposed.Select(DateOf).Append(visit.Visit.Date).Distinct()] },
                new BookQuestion { VisitId = id }
            );
            visit = BookingChecks.Present(locked.Visit, version);
            foreach (StoredProposal proposal in proposed) BookStore.GiveBack(transaction, proposal);
            BookStore.Delete(transaction, visit, "Deleted");
            await CommitAsync(transaction);
            return 0;
        });

    /// <summary>Undoes something somebody did, as long as nobody has changed since what it changed and the time is still free.</summary>
    /// <param name="stepId">What they did.</param>
    /// <param name="actor">Who they are; nobody undoes what others did.</param>
    /// <returns>The visits as they stand now, without those that are gone.</returns>
    /// <exception cref="Refused">It cannot be undone, and why; nothing was changed.</exception>
    public Task<IReadOnlyList<StoredVisit>> UndoAsync(Guid stepId, Actor actor) => OnceMore.RunAsync(() => UndoOnceAsync(stepId, actor));

    private async Task<IReadOnlyList<StoredVisit>> UndoOnceAsync(Guid stepId, Actor actor)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        IReadOnlyList<StepVisit> traces = await StepStore.VisitsAsync(connection, stepId);
        IReadOnlyList<StoredVisit> seen = await BookStore.TheseAsync(connection, [.. traces.Select(trace => trace.VisitId)]);
        IReadOnlyList<StoredProposal> proposed = await ProposedForAsync(connection, seen);
        Change change = actor.ChangeAt(clock.GetCurrentInstant());
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        LockedBook locked = await transaction.LockAsync(
            new BookLocks
            {
                Days =
                [
                    .. seen.Select(visit => visit.Visit.Date)
                        .Concat(proposed.Select(DateOf))
                        .Concat(traces.Select(trace => trace.Before?.Visit.Date).OfType<LocalDate>())
                        .Distinct(),
                ],
            },
            new BookQuestion()
        );
        StepRow step = await StepStore.LockAsync(connection, actor.StaffId!.Value, stepId)
            ?? throw Refused.NotFound("There is nothing like that to be undone.");
        Dictionary<Guid, StoredVisit> present = (
            await BookStore.TheseAsync(connection, [.. traces.Select(trace => trace.VisitId)])
        ).ToDictionary(visit => visit.Visit.Id);
        UndoAnswer answer = Undoing.Of(
            step.UndoneAt is not null,
            step.Later,
            traces.Select(trace => new StepTrace(trace.Version, present.GetValueOrDefault(trace.VisitId)?.Visit.Version))
        );
        if (answer != UndoAnswer.Undoes)
            throw new Refused(StatusCodes.Status409Conflict, "undo", Words(answer));
        // What was proposed has gone to others; it is not put to anybody again.
        if (traces.Any(trace => trace.Before?.Visit.VisitState == VisitState.Answered))
            throw new Refused(StatusCodes.Status409Conflict, "undo", "The times that were proposed are not kept any more. Answer anew.");
        List<StoredVisit> stand = [];
        foreach (StoredProposal proposal in proposed) BookStore.GiveBack(transaction, proposal);
        BookStore.LetGo(transaction, [.. traces.Where(trace => trace.Before is not null).Select(trace => present[trace.VisitId])]);
        foreach (StepVisit trace in traces)
        {
            StoredVisit visit = present[trace.VisitId];
            if (trace.Before is not { } before)
            {
                BookStore.Delete(transaction, visit, "Undone");
                continue;
            }

            if (VisitStates.HoldsTime(before.Visit.VisitState))
                await CheckPlaceAsync(connection, locked.SetupRevision, before);
            StoredVisit back = BookStore.PutBack(transaction, visit, before);
            await MoveMoneyAsync(transaction, visit, back, null);
            stand.Add(back);
        }

        StepStore.Undone(
            transaction,
            stepId,
            [
                .. traces
                    .Where(trace => trace.Before is not null)
                    .Select(trace => (trace.VisitId, trace.Before!.Visit.Version, trace.Version + 1)),
            ]
        );
        await CommitAsync(transaction);
        return stand;
    }

    /// <summary>Refuses to put a visit where its people, rooms or equipment are not any more; who else has come meanwhile, the database
    /// says.</summary>
    private async Task CheckPlaceAsync(NpgsqlConnection connection, long? revision, StoredVisit visit)
    {
        Setup setup = await book.LockedSetupAsync(connection, revision);
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        CalendarWindow calendar = await NeedsPlace.DatesAsync(connection, [visit]);
        if (NeedsPlace.Of(setup, calendar.With(setup), [visit]) is not [var lost])
            return;
        Refused refused = new(
            StatusCodes.Status409Conflict,
            "place-gone",
            "It cannot go back there: what it had is not free any more. Choose another time for it.",
            "start"
        );
        refused.More["reasons"] = ReasonWords.Of([.. lost.Reasons], house);
        throw refused;
    }

    private static Sentence Words(UndoAnswer answer) => answer switch
    {
        UndoAnswer.AlreadyUndone => Say("That has been undone already."),
        UndoAnswer.TooLongAgo => Say($"Only the last {Count(Undoing.MostSteps, "thing", "things")} you did can be undone."),
        _ => Say("Somebody has changed the visit since. Open it to see how it stands now."),
    };
}
