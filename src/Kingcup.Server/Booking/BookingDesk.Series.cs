using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Core.Clients;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Money;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <content>Visits that repeat: what each of a row meets, all of them booked in one go, this one and the following cancelled.</content>
public sealed partial class BookingDesk
{
    /// <summary>What every visit of a row would meet, and how that can be solved.</summary>
    /// <exception cref="Refused">The repeat, or what is wanted, cannot be so.</exception>
    public async Task<IReadOnlyList<OccurrenceAnswer>> TrySeriesAsync(RepeatTryRequest request)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(request.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        WantedVisit wanted = WantedVisit.Of(setup, request.Lines);
        BookingChecks.CheckWish(house, wanted.Wish);
        Instant now = clock.GetCurrentInstant();
        LocalDate first = BookingChecks.CheckStart(house, request.Start, now);
        Checks checks = new();
        Repeating? repeat = checks.Take(request.Repeat, "repeat", "Say how the visit repeats.")?.ToCore();
        checks.Add(repeat?.Faults(first).Select(fault => fault with { Field = "repeat." + fault.Field }) ?? []);
        checks.Done();
        ClientRow? client = request.ClientId is { } id ? await ClientStore.FindAsync(connection, id) : null;
        IReadOnlyList<ClientVisit> visits = client is null ? [] : await BookStore.OfClientAsync(connection, client.Id, null);
        LocalTime time = request.Start.InZone(house.Location.Zone).TimeOfDay;
        StartFinder finder = new(house, wanted.Wish);
        List<OccurrenceAnswer> all = [];
        foreach (LocalDate date in repeat!.Dates(first))
        {
            // The same time by the clock; one that does not exist lies so much later.
            Instant start = date == first ? request.Start : date.At(time).InZoneLeniently(house.Location.Zone).ToInstant();
            DayBook day = (await book.DaysAsync(connection, setup, house, date, 1))[0];
            VisitPlan? plan = finder.PlanFeasible(day, day.Day.GrainOfStart(start)!.Value);
            all.Add(Occurrence(house, wanted.Wish, finder, day, start, plan, visits));
        }

        return all;
    }

    private static OccurrenceAnswer Occurrence(
        House house,
        VisitWish wish,
        StartFinder finder,
        DayBook day,
        Instant start,
        VisitPlan? plan,
        IReadOnlyList<ClientVisit> visits
    )
    {
        int grain = day.Day.GrainOfStart(start)!.Value;
        List<Reason> told = plan is null
            ? [.. finder.WhyNotFeasible(day, grain).SelectMany(refusal => refusal.Reasons)]
            :
            [
                .. ClientHistory
                    .At(visits, plan.Start, plan.End)
                    .Select(other => new Reason(
                        Gate.Client,
                        ReasonCode.OwnVisit,
                        other.ServiceId,
                        house.Services.GetValueOrDefault(other.ServiceId)?.Name
                    )
                    {
                        OwnerKind = OwnerKind.Client,
                        From = other.Start,
                        Until = other.End,
                    }),
            ];
        VisitPlan? other = plan is not null || wish.Lines[0].PractitionerId is null
            ? null
            : new StartFinder(house, By(wish, null)).PlanFeasible(day, grain);
        int? nearest = plan is not null
            ? null
            : finder.Feasible(day).Select(at => (int?)at).MinBy(at => (Math.Abs(at!.Value - grain), at));
        return new OccurrenceAnswer
        {
            Date = day.Day.Date,
            Start = start,
            Fits = plan is not null,
            Reasons = ReasonWords.Of(told, house),
            Nearest = nearest is { } near ? day.Day.At(near) : null,
            Other = other is null
                ? null
                : new NamedAnswer(
                    other.Lines[0].Practitioners[0],
                    house.Practitioners.First(who => who.Id == other.Lines[0].Practitioners[0]).Name
                ),
        };
    }

    private static VisitWish By(VisitWish wish, Guid? practitionerId) =>
        wish with
        {
            Lines = [.. wish.Lines.Select((line, i) => i == 0 ? line with { PractitionerId = practitionerId } : line)],
        };

    /// <summary>Books all visits of a row, or none.</summary>
    /// <param name="order">What is to be booked; its start is that of the first.</param>
    /// <param name="occurrences">When each begins, and by whom.</param>
    /// <param name="actor">Who books them.</param>
    /// <param name="key">The idempotency key, or null.</param>
    /// <param name="answer">The answer, to be kept with the key.</param>
    /// <exception cref="Refused">One of them cannot be booked as asked; nothing was changed.</exception>
    public Task<IReadOnlyList<StoredVisit>> BookSeriesAsync(
        BookingOrder order,
        IReadOnlyList<OccurrenceRequest> occurrences,
        Actor actor,
        RequestKey? key,
        Func<Setup, IReadOnlyList<StoredVisit>, Answered> answer
    ) =>
        OnceMore.RunAsync(
            () => BookSeriesOnceAsync(order, occurrences, actor, key, answer),
            also: exception => exception.ConstraintName == BookStore.ReferenceTaken
        );

    private async Task<IReadOnlyList<StoredVisit>> BookSeriesOnceAsync(
        BookingOrder order,
        IReadOnlyList<OccurrenceRequest> occurrences,
        Actor actor,
        RequestKey? key,
        Func<Setup, IReadOnlyList<StoredVisit>, Answered> answer
    )
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(order.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        BookingChecks.CheckWish(house, order.Wanted.Wish);
        Change change = actor.ChangeAt(clock.GetCurrentInstant());
        Checks checks = new();
        checks.Require(
            occurrences.Count is >= 2 and <= Repeating.MostTimes,
            "occurrences",
            $"A row has 2 to {Repeating.MostTimes} visits."
        );
        checks.Require(
            occurrences.Select(one => one.Start).Distinct().Count() == occurrences.Count,
            "occurrences",
            "Two of them begin at the same time. Leave one out."
        );
        checks.Done();
        List<(OccurrenceRequest Asked, LocalDate Date)> dates =
        [
            .. occurrences.OrderBy(one => one.Start).Select(one => (one, BookingChecks.CheckStart(house, one.Start, change.At))),
        ];
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        LockedBook locked = await transaction.LockAsync(
            new BookLocks { Key = key?.ToTake, Days = [.. dates.Select(one => one.Date).Distinct()] },
            new BookQuestion { Client = order.Client }
        );
        if (locked.IsAnswered) throw await key!.AnsweredBeforeAsync(connection);
        setup = locked.SetupRevision == setup.Revision ? setup : await book.LockedSetupAsync(connection, locked.SetupRevision);
        house = setup.HouseOf(order.LocationId)!;
        BookingChecks.CheckWish(house, order.Wanted.Wish);
        ClientRow client = locked.Client ?? order.NewClient ?? throw Refused.Invalid("clientId", "There is no such client.");
        if (locked.Client is null) ClientStore.Add(transaction, client);
        Audience audience = BookingChecks.AudienceOf(client, locked.ClientVisits, null, change.At);
        Guid seriesId = Guid.CreateVersion7();
        List<StoredVisit> stored = [];
        List<TakenTime> laid = [];
        foreach ((OccurrenceRequest asked, LocalDate date) in dates)
        {
            DayBook day = await RowDayAsync(connection, setup, house, date, [], laid);
            VisitWish wish = asked.PractitionerId is { } who ? By(order.Wanted.Wish, who) : order.Wanted.Wish;
            StartFinder finder = new(house, wish);
            int grain = day.Day.GrainOfStart(asked.Start)!.Value;
            WantedVisit wanted = order.Wanted with { Wish = wish };
            VisitPlan plan = finder.PlanFeasible(day, grain)
                ?? throw NotAll(
                    finder,
                    day,
                    grain,
                    "One of the visits does not fit any more, so none was booked. Look at the dates again.",
                    $"occurrences[{stored.Count}].start"
                );
            laid.AddRange(TakenBy(plan, house));
            stored.Add(
                BookStore.Add(
                    transaction,
                    new NewVisit
                    {
                        Id = Guid.CreateVersion7(),
                        Reference = References(),
                        LocationId = order.LocationId,
                        Client = client,
                        Date = date,
                        Plan = plan,
                        Price = Prices.Of(setup, plan, wanted),
                        Chosen = wanted.Chosen,
                        AddOns = wanted.AddOns,
                        Source = order.Source,
                        Note = order.Note,
                        IsFirst = stored.Count == 0 && locked.ClientVisits.Count == 0 && audience.IsNew,
                        SeriesId = seriesId,
                        PolicyId = setup.PolicyOf(order.LocationId)?.Id,
                    }
                )
            );
        }

        if (actor.StaffId is { } staffId)
        {
            StepStore.Add(
                transaction,
                staffId,
                StepKind.Booked,
                [.. stored.Select(one => new StepVisit(one.Visit.Id, one.Visit.Version, null))]
            );
        }

        key?.Keep(transaction, answer(setup, stored));
        await CommitAsync(transaction);
        return stored;
    }

    private static Refused NotAll(StartFinder finder, DayBook day, int grain, Sentence sentence, string field)
    {
        Refused refused = new(StatusCodes.Status409Conflict, "start-taken", sentence, field);
        refused.More["reasons"] = ReasonWords.Of(finder.WhyNotFeasible(day, grain), day.House);
        return refused;
    }

    /// <summary>Cancels a visit of a row with those that follow it, or all that have not begun, in one go.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version of it the change is based on.</param>
    /// <param name="request">How far it reaches, and why.</param>
    /// <param name="actor">Who does it.</param>
    /// <exception cref="Refused">It is none of a row, or cannot be cancelled; nothing was changed.</exception>
    public Task<IReadOnlyList<StoredVisit>> CancelSeriesAsync(Guid id, long version, SeriesCancelRequest request, Actor actor) =>
        OnceMore.RunAsync<IReadOnlyList<StoredVisit>>(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            Setup setup = await book.SetupAsync(connection);
            StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
            if (visit.Visit.SeriesId is not { } seriesId)
                throw new Refused(StatusCodes.Status409Conflict, "series", "This visit does not repeat. Cancel it alone.");
            Change change = actor.ChangeAt(clock.GetCurrentInstant());
            Instant from = request.All ? change.At : visit.Visit.StartsAt;
            IReadOnlyList<StoredVisit> seen = await BookStore.SeriesAsync(connection, seriesId, from);
            await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
            await transaction.LockAsync(
                new BookLocks { Days = [.. seen.Select(one => one.Visit.Date).Append(visit.Visit.Date).Distinct()] },
                new BookQuestion()
            );
            IReadOnlyList<StoredVisit> present = await BookStore.SeriesAsync(connection, seriesId, from);
            List<StoredVisit> ahead = [.. present.Where(one => VisitStates.CanMove(one.Visit.VisitState))];
            // One that was moved to a day nobody has locked is looked at again.
            if (ahead.Any(one => seen.All(other => other.Visit.Id != one.Visit.Id || other.Visit.Date != one.Visit.Date)))
                throw Refused.Busy();
            BookingChecks.Present(ahead.FirstOrDefault(one => one.Visit.Id == id), version);
            List<StoredVisit> cancelled = [];
            foreach (StoredVisit one in ahead)
            {
                Cancellation why = Cancellation.Of(request.By, request.Reason!, change.At, BookingChecks.LastInTime(setup, one));
                StoredVisit stored = BookStore.SetState(transaction, one, VisitState.Cancelled, why);
                await MoveMoneyAsync(transaction, one, stored, null);
                cancelled.Add(stored);
            }

            if (actor.StaffId is { } staffId)
            {
                StepStore.Add(
                    transaction,
                    staffId,
                    StepKind.Cancelled,
                    [.. ahead.Zip(cancelled, (before, after) => new StepVisit(after.Visit.Id, after.Visit.Version, before))]
                );
            }

            await CommitAsync(transaction);
            return cancelled;
        });
}
