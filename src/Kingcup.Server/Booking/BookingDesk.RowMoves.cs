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
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <content>Moving this visit of a row and the following, or all of them: what each would meet, then all in one go.</content>
public sealed partial class BookingDesk
{
    /// <summary>Where each visit of a row would go, and what it would meet there.</summary>
    /// <param name="id">The visit that is moved.</param>
    /// <param name="request">Where it is to go, and how far that reaches.</param>
    /// <exception cref="Refused">It is none of a row, or cannot be moved so.</exception>
    public async Task<IReadOnlyList<RowMoveAnswer>> TryRowMoveAsync(Guid id, RowMoveTryRequest request)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        StoredVisit visit = await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit.");
        CheckMayLie(visit, staysThere: false);
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        Instant now = clock.GetCurrentInstant();
        BookingChecks.CheckStart(house, request.Start, now);
        RowShift shift = RowShift.Between(visit.Visit.Date, request.Start.InZone(house.Location.Zone).LocalDateTime);
        IReadOnlyList<StoredVisit> row = await AheadAsync(connection, visit, request.All, now);
        HashSet<Guid> moved = [.. row.SelectMany(one => one.Lines.Select(line => line.Id))];
        HashSet<Guid> rowIds = [.. row.Select(one => one.Visit.Id)];
        IReadOnlyList<ClientVisit> others =
        [
            .. (await BookStore.OfClientAsync(connection, visit.Visit.ClientId, null)).Where(other => !rowIds.Contains(other.VisitId)),
        ];
        List<TakenTime> laid = [];
        List<RowMoveAnswer> answers = [];
        foreach (StoredVisit one in row)
        {
            Instant start = one.Visit.Id == id ? request.Start : shift.Of(one.Visit.Date, house.Location.Zone);
            LocalDate date = start.InZone(house.Location.Zone).Date;
            DayBook day = await RowDayAsync(connection, setup, house, date, moved, laid);
            VisitWish wish = RowWish(one, request.PractitionerId);
            BookingChecks.CheckWish(house, wish, one);
            StartFinder finder = new(house, wish);
            VisitPlan? plan = start < now ? null : finder.PlanFeasible(day, day.Day.GrainOfStart(start)!.Value);
            if (plan is not null) laid.AddRange(TakenBy(plan, house));
            OccurrenceAnswer there = start < now
                ? Passed(date, start)
                : Occurrence(house, wish, finder, day, start, plan, others);
            answers.Add(new RowMoveAnswer(one.Visit.Id, one.Visit.Version, one.Visit.StartsAt, there));
        }

        return answers;
    }

    /// <summary>Moves visits of one row, all of them or none; it is one thing to be undone.</summary>
    /// <param name="id">A visit of the row.</param>
    /// <param name="request">Which, and where each goes.</param>
    /// <param name="actor">Who does it.</param>
    /// <exception cref="Refused">One of them cannot be moved as asked; nothing was changed.</exception>
    public Task<IReadOnlyList<StoredVisit>> MoveRowAsync(Guid id, RowMoveRequest request, Actor actor) =>
        OnceMore.RunAsync(() => MoveRowOnceAsync(id, request, actor));

    private async Task<IReadOnlyList<StoredVisit>> MoveRowOnceAsync(Guid id, RowMoveRequest request, Actor actor)
    {
        IReadOnlyList<RowMoveOne> asked = [.. (request.Visits ?? []).OrderBy(one => one.Start)];
        Checks checks = new();
        checks.Require(asked.Count is >= 1 and <= Repeating.MostTimes, "visits", $"Choose 1 to {Repeating.MostTimes} visits.");
        checks.Require(
            asked.Select(one => one.VisitId).Distinct().Count() == asked.Count,
            "visits",
            "One of the visits is there twice."
        );
        checks.Done();
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        StoredVisit named = await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit.");
        House house = setup.HouseOf(named.Visit.LocationId)!;
        Change change = actor.ChangeAt(clock.GetCurrentInstant());
        LocalDate[] dates = [.. asked.Select(one => BookingChecks.CheckStart(house, one.Start, change.At))];
        Guid[] ids = [.. asked.Select(one => one.VisitId)];
        IReadOnlyList<StoredVisit> seen = await BookStore.TheseAsync(connection, ids);
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        LockedBook locked = await transaction.LockAsync(
            new BookLocks { Days = [.. seen.Select(one => one.Visit.Date).Concat(dates).Distinct()] },
            new BookQuestion()
        );
        setup = locked.SetupRevision == setup.Revision ? setup : await book.LockedSetupAsync(connection, locked.SetupRevision);
        house = setup.HouseOf(named.Visit.LocationId)!;
        Dictionary<Guid, StoredVisit> present = (await BookStore.TheseAsync(connection, ids)).ToDictionary(one => one.Visit.Id);
        foreach (RowMoveOne one in asked)
        {
            StoredVisit stands = BookingChecks.Present(present.GetValueOrDefault(one.VisitId), one.Version);
            if (named.Visit.SeriesId is null || stands.Visit.SeriesId != named.Visit.SeriesId) throw NoRow();
            CheckMayLie(stands, staysThere: false);
        }

        HashSet<Guid> moved = [.. present.Values.SelectMany(one => one.Lines.Select(line => line.Id))];
        BookStore.LetGo(transaction, present.Values);
        List<TakenTime> laid = [];
        List<StoredVisit> stored = [];
        foreach ((int i, RowMoveOne one) in asked.Index())
        {
            StoredVisit visit = present[one.VisitId];
            DayBook day = await RowDayAsync(connection, setup, house, dates[i], moved, laid);
            VisitWish wish = RowWish(visit, one.PractitionerId);
            BookingChecks.CheckWish(house, wish, visit);
            StartFinder finder = new(house, wish);
            int grain = day.Day.GrainOfStart(one.Start)!.Value;
            VisitPlan plan = finder.PlanFeasible(day, grain)
                ?? throw NotAll(
                    finder,
                    day,
                    grain,
                    "One of the visits does not fit any more, so none was moved. Look at the dates again.",
                    $"visits[{i}].start"
                );
            laid.AddRange(TakenBy(plan, house));
            WantedVisit wanted = new(wish, visit.AddOnsByLine);
            Guid?[] lineIds = [.. visit.Lines.Select(line => (Guid?)line.Id)];
            stored.Add(
                BookStore.Lay(
                    transaction,
                    visit,
                    new LaidVisit
                    {
                        Date = dates[i],
                        Plan = plan,
                        Price = Prices.Laid(setup, visit, plan, wanted, lineIds),
                        LineIds = lineIds,
                        Chosen = visit.Chosen,
                        AddOns = wanted.AddOns,
                        Over = [],
                        Action = "Moved",
                    }
                )
            );
        }

        if (actor.StaffId is { } staffId)
        {
            StepStore.Add(
                transaction,
                staffId,
                StepKind.Moved,
                [.. stored.Select(one => new StepVisit(one.Visit.Id, one.Visit.Version, present[one.Visit.Id]))]
            );
        }

        await CommitAsync(transaction);
        return stored;
    }

    /// <summary>Those of a row that can still be moved, by start.</summary>
    private static async Task<IReadOnlyList<StoredVisit>> AheadAsync(
        NpgsqlConnection connection,
        StoredVisit visit,
        bool all,
        Instant now
    )
    {
        if (visit.Visit.SeriesId is not { } seriesId) throw NoRow();
        IReadOnlyList<StoredVisit> row = await BookStore.SeriesAsync(connection, seriesId, all ? now : visit.Visit.StartsAt);
        return [.. row.Where(one => VisitStates.CanMove(one.Visit.VisitState)).OrderBy(one => one.Visit.StartsAt)];
    }

    /// <summary>A day without the visits that move, and with those that have been laid by now.</summary>
    private async Task<DayBook> RowDayAsync(
        NpgsqlConnection connection,
        Setup setup,
        House house,
        LocalDate date,
        HashSet<Guid> moved,
        List<TakenTime> laid
    )
    {
        BookWindow window = await BookStore.WindowAsync(connection, BookReader.Asked(house, date, date), clock.GetCurrentInstant());
        IEnumerable<TakenTime> others = window.Taken.Where(taken => taken.OccupationId is not { } own || !moved.Contains(own));
        return BookReader.LayOut(setup, house, date, 1, window with { Taken = [.. others, .. laid] })[0];
    }

    /// <summary>A visit of a row where it goes: by whoever does it now, or by whoever is to do its first line.</summary>
    private static VisitWish RowWish(StoredVisit visit, Guid? practitionerId)
    {
        VisitWish present = BookingChecks.PresentStaff(visit);
        return practitionerId is { } who ? By(present, who) : present;
    }

    private static IEnumerable<TakenTime> TakenBy(VisitPlan plan, House house) =>
        plan.Claims.Select(claim => new TakenTime(
            claim.ResourceId,
            claim.Unit,
            claim.During,
            house.Location.Id,
            null,
            plan.Lines[claim.Line].ServiceId
        ));

    private static OccurrenceAnswer Passed(LocalDate date, Instant start) =>
        new()
        {
            Date = date,
            Start = start,
            Fits = false,
            Reasons = [new ReasonText(Gate.Date, ReasonCode.TooSoon, Say("That time has passed.").ToString(), null, null)],
            Nearest = null,
            Other = null,
        };

    private static Refused NoRow() => new(StatusCodes.Status409Conflict, "series", "This visit does not repeat. Move it alone.");
}
