using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>How a visit that stands is to lie.</summary>
/// <param name="Wanted">What is wanted of it from now on.</param>
/// <param name="Present">The same by those who do it now and in the rooms it is in, where they can; null to look for nothing but what is
/// wanted.</param>
/// <param name="LineIds">For each line which of those that stand it is, or null for a new one.</param>
/// <param name="Chosen">For each line what was chosen by hand.</param>
/// <param name="Kind">What whoever does it does.</param>
public sealed record Laying(
    WantedVisit Wanted,
    VisitWish? Present,
    IReadOnlyList<Guid?> LineIds,
    IReadOnlyList<LineChosen> Chosen,
    StepKind Kind
);

/// <content>Laying a visit anew: at another time, with other people, in other rooms, with other lines.</content>
public sealed partial class BookingDesk
{
    /// <summary>Moves a visit to another start, and if a practitioner is named to that one.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="start">The new start.</param>
    /// <param name="practitionerId">Who is to take the first line; null keeps whoever fits, the present one first.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="warnings">What may be booked over where nothing else fits; null for nothing.</param>
    /// <exception cref="Refused">It cannot be moved as asked; nothing was changed.</exception>
    public Task<StoredVisit> MoveAsync(
        Guid id, long version, Instant start, Guid? practitionerId, Actor actor, SeenWarnings? warnings = null) =>
        OnceMore.RunAsync(() => LayOnceAsync(id, version, start, (_, visit) => Moving(visit, practitionerId), actor, warnings));

    /// <summary>Lays a visit anew with the lines that are given: those that go on, new ones; what is not named is taken out.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="request">Where it goes and what it is to be.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="warnings">What may be booked over where nothing else fits; null for nothing.</param>
    /// <exception cref="Refused">It cannot be laid as asked; nothing was changed.</exception>
    public Task<StoredVisit> LayAsync(Guid id, long version, LayRequest request, Actor actor, SeenWarnings? warnings = null) =>
        OnceMore.RunAsync(
            () => LayOnceAsync(id, version, request.Start, (setup, visit) => LayingOf(setup, visit, request), actor, warnings)
        );

    private static Laying Moving(StoredVisit visit, Guid? practitionerId)
    {
        VisitWish wish = BookingChecks.WishOf(visit, practitionerId);
        return new Laying(
            new WantedVisit(wish, visit.AddOnsByLine),
            practitionerId is null ? BookingChecks.PresentStaff(visit) : null,
            [.. visit.Lines.Select(line => (Guid?)line.Id)],
            visit.Chosen,
            StepKind.Moved
        );
    }

    private static Laying LayingOf(Setup setup, StoredVisit visit, LayRequest request)
    {
        IReadOnlyList<DeskLineRequest> lines = request.Lines ?? [];
        Checks checks = new();
        foreach ((int i, DeskLineRequest line) in lines.Index())
        {
            checks.Require(
                (line.Person ?? 0) <= visit.People.Count,
                $"lines[{i}].person",
                "Only those who come with this visit can have a line of it."
            );
            if (line.Id is not { } id)
                continue;
            checks.Require(visit.Lines.Any(own => own.Id == id), $"lines[{i}].id", "The visit has no such line. Look at it again.");
            checks.Require(lines.Count(other => other.Id == id) == 1, $"lines[{i}].id", "That line is there twice.");
        }

        checks.Done();
        WantedVisit wanted = WantedVisit.Of(setup, lines);
        return new Laying(
            wanted,
            null,
            [.. lines.Select(line => line.Id)],
            wanted.Chosen,
            lines.Count == visit.Lines.Count && lines.All(line => line.Id is not null) ? StepKind.Moved : StepKind.Changed
        );
    }

    private async Task<StoredVisit> LayOnceAsync(
        Guid id,
        long version,
        Instant start,
        Func<Setup, StoredVisit, Laying> laying,
        Actor actor,
        SeenWarnings? warnings,
        FeeOrder? own = null
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        Change change = actor.ChangeAt(clock.GetCurrentInstant());
        bool staysThere = start == visit.Visit.StartsAt;
        CheckMayLie(visit, staysThere);
        LocalDate date = staysThere ? visit.Visit.Date : BookingChecks.CheckStart(house, start, change.At);
        VisitWish wish = laying(setup, visit).Wanted.Wish;
        BookingChecks.CheckWish(house, wish, visit);

        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        LockedBook locked = await transaction.LockAsync(
            new BookLocks { Days = [visit.Visit.Date, date] },
            QuestionOf(house, wish, date) with { VisitId = id, Client = new ClientAsked(visit.Visit.ClientId) });
        // Under the lock: nobody can have changed it in between.
        visit = BookingChecks.Present(locked.Visit, version);
        StandingBook standing = await StandingAsync(connection, setup, locked, visit.Visit.LocationId, wish, date, change.At);
        (setup, house) = (standing.Setup, standing.House);
        Laying laid = laying(setup, visit);
        DayBook day = BookReader.Without(standing.Day, visit);
        int grain = day.Day.GrainOfStart(start)!.Value;
        StartFinder finder = new(house, laid.Wanted.Wish);
        // The present practitioner goes with the visit where they can.
        StartFinder? present = laid.Present is { } stands ? new StartFinder(house, stands) : null;
        Audience audience = BookingChecks.AudienceOf(locked.Client!, locked.ClientVisits, null, change.At);
        if (own is not null) CheckOwnMove(setup, visit, locked.Client!, change.At);
        VisitPlan? plan = own is null
            ? present?.PlanFeasible(day, grain) ?? finder.PlanFeasible(day, grain, standing.Week)
            : present?.PlanOffered(day, grain, audience, change.At, null)
                ?? finder.PlanOffered(day, grain, audience, change.At, standing.Week);
        KnowingPlan? over = plan is null
            ? await OverAsync(connection, warnings, present ?? finder, day, grain, null)
            : new KnowingPlan(plan, Waivers.None, []);
        if (over is null)
            throw await DoesNotFitAsync(connection, standing with { Day = day }, finder, grain, own is null ? null : audience, change.At);
        if (own is null) over = Told(over, finder, day, grain, audience, locked.ClientVisits, change.At, warnings);
        else if (ClientHistory.At(locked.ClientVisits, over.Plan.Start, over.Plan.End).Any()) throw Refused.NotOnline();
        Core.Money.VisitPrice price = Prices.Laid(setup, visit, over.Plan, laid.Wanted, laid.LineIds);
        if (own?.PriceSeen is { } seen && seen != price.Total)
            throw new Refused(
                StatusCodes.Status409Conflict,
                "price-changed",
                "The price there has changed since you looked. Choose the time once more.",
                "priceSeen"
            );
        StoredVisit stored = BookStore.Lay(
            transaction,
            visit,
            new LaidVisit
            {
                Date = date,
                Plan = over.Plan,
                Price = price,
                LineIds = laid.LineIds,
                Chosen = laid.Chosen,
                AddOns = laid.Wanted.AddOns,
                Over = WordsOf(over, house),
                Action = laid.Kind == StepKind.Moved ? "Moved" : "Changed",
            }
        );
        if (own is not null) await TakeMoveFeeAsync(transaction, visit, own);
        Remember(transaction, actor, laid.Kind, visit, stored);
        await CommitAsync(transaction);
        return stored;
    }

    /// <summary>A visit that has begun is not moved, and one that is over not changed.</summary>
    private static void CheckMayLie(StoredVisit visit, bool staysThere)
    {
        VisitState state = visit.Visit.VisitState;
        if (!VisitStates.CanMove(state) && !(staysThere && VisitStates.CanChange(state)))
        {
            throw new Refused(
                StatusCodes.Status409Conflict,
                "state",
                staysThere
                    ? "A visit that is over cannot be changed. Take back where it stands first."
                    : "Only a visit that has not begun can be moved."
            );
        }
    }

    private static void Remember(BookTransaction transaction, Actor actor, StepKind kind, StoredVisit before, StoredVisit after)
    {
        if (actor.StaffId is { } staffId)
            StepStore.Add(transaction, staffId, kind, [new StepVisit(after.Visit.Id, after.Visit.Version, before)]);
    }
}
