using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Money;
using Kingcup.Server.Plans;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>
/// The operations that change the book: each is one transaction. The core decides on the day as it stands under the day's lock,
/// the database has the last word.
/// </summary>
public sealed partial class BookingDesk(Database database, BookReader book, IClock clock)
{
    /// <summary>How far ahead staff may book, in days.</summary>
    public const int StaffHorizonDays = 730;

    /// <summary>Draws references; another one is drawn where one is taken.</summary>
    public Func<string> References { get; init; } = VisitReference.New;

    /// <summary>Books a visit.</summary>
    /// <param name="order">What is to be booked.</param>
    /// <param name="actor">Who books it.</param>
    /// <param name="key">The idempotency key, or null.</param>
    /// <param name="warnings">What may be booked over where nothing else fits; null for nothing.</param>
    /// <param name="answer">The answer, to be kept with the key.</param>
    /// <param name="seen">The setup the order was checked by, as it was read a moment ago; null to have it read.</param>
    /// <exception cref="Refused">It cannot be booked as asked; nothing was changed.</exception>
    public Task<StoredVisit> BookAsync(
        BookingOrder order,
        Actor actor,
        RequestKey? key = null,
        SeenWarnings? warnings = null,
        Func<Setup, StoredVisit, Answered>? answer = null,
        Setup? seen = null
    ) =>
        OnceMore.RunAsync(
            () => BookOnceAsync(order, actor, key, warnings, answer, seen),
            also: exception => exception.ConstraintName == BookStore.ReferenceTaken
        );

    private async Task<StoredVisit> BookOnceAsync(
        BookingOrder order, Actor actor, RequestKey? key, SeenWarnings? warnings, Func<Setup, StoredVisit, Answered>? answer, Setup? seen)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        // Whether it is still the present one is asked again under the lock.
        Setup setup = seen ?? await book.SetupAsync(connection);
        Change change = actor.ChangeAt(clock.GetCurrentInstant());
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        Placing placing = await PlaceAsync(transaction, order, key, warnings, setup);
        if (placing.Due is { AsksForSomething: true } due) throw PaymentDue(placing.Setup, due);
        if (placing.IsNewClient) ClientStore.Add(transaction, placing.Client);
        AgreeIfTheirs(transaction, placing.Client, order.IsShown ? placing.Client : order.NewClient, order.Agreed);
        if (placing.Held is not null && placing.Taken is null) BookStore.GiveBack(transaction, placing.Held);
        NewVisit visit = NewOf(order, placing) with { Plan = placing.Over.Plan, Over = WordsOf(placing.Over, placing.Standing.House) };
        StoredVisit stored = placing.Taken is { } taken ? BookStore.TakeUp(transaction, visit, taken) : BookStore.Add(transaction, visit);
        if (actor.StaffId is { } staffId)
            StepStore.Add(transaction, staffId, StepKind.Booked, [new StepVisit(stored.Visit.Id, stored.Visit.Version, null)]);
        if (key is not null && answer is not null) key.Keep(transaction, answer(placing.Setup, stored));
        await CommitAsync(transaction);
        return stored;
    }

    /// <summary>A visit that may be booked as it was asked for, found under the locks.</summary>
    private sealed record Placing
    {
        public required StandingBook Standing { get; init; }
        public required ClientRow Client { get; init; }
        public required bool IsNewClient { get; init; }
        public required KnowingPlan Over { get; init; }
        public required VisitPrice Price { get; init; }

        // What the client holds, and whether that is what they book.
        public required StoredProposal? Held { get; init; }
        public required StoredProposal? Taken { get; init; }
        public required VisitState State { get; init; }
        public required Instant Now { get; init; }
        public required bool IsFirst { get; init; }

        // What is given for it; null at the desk.
        public required Guarantee? Due { get; init; }
        public Setup Setup => Standing.Setup;
    }

    /// <summary>Somebody who has typed the address and the name of a client agrees for them only where the number is theirs too.</summary>
    private static void AgreeIfTheirs(
        BookTransaction transaction,
        ClientRow client,
        ClientRow? typed,
        IReadOnlyList<(string Kind, string Words)> agreed
    )
    {
        if (typed?.Phone == client.Phone) ClientRecordStore.Agree(transaction, client.Id, agreed);
    }

    private NewVisit NewOf(BookingOrder order, Placing placing) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Reference = References(),
            LocationId = order.LocationId,
            Client = placing.Client,
            PayerId = order.PayerId,
            People = order.People,
            Date = placing.Standing.Day.Day.Date,
            Plan = placing.Over.Plan,
            Price = placing.Price,
            Chosen = order.Wanted.Chosen,
            AddOns = order.Wanted.AddOns,
            Source = order.Source,
            Note = order.Note,
            ClientNote = order.ClientNote,
            State = placing.State,
            LapsesAt = LapsesOf(placing.Setup, placing.State, placing.Now, placing.Over.Plan.Start),
            IsFirst = placing.IsFirst,
            TermsId = order.TermsId,
            PolicyId = placing.Setup.PolicyOf(order.LocationId)?.Id,
            Answers = order.Answers,
            RangeHash = order.Origin?.Range,
            DeviceHash = order.Origin?.Device,
        };

    /// <summary>Takes the locks, and finds out whether a visit may be booked as it is asked for.</summary>
    /// <exception cref="Refused">It may not.</exception>
    private async Task<Placing> PlaceAsync(
        BookTransaction transaction, BookingOrder order, RequestKey? key, SeenWarnings? warnings, Setup seen)
    {
        NpgsqlConnection connection = transaction.Connection;
        Instant now = transaction.Change.At;
        Setup setup = seen;
        House house = setup.HouseOf(order.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        BookingChecks.CheckWish(house, order.Wanted.Wish);
        LocalDate date = BookingChecks.CheckStart(house, order.Start, now);
        LockedBook locked = await transaction.LockAsync(
            new BookLocks { Key = key?.ToTake, Days = [date], People = order.Origin is { } origin ? origin.KnownBy() : [] },
            QuestionOf(house, order.Wanted.Wish, date) with
            {
                Client = order.Client,
                Origin = order.Origin,
                ProposalToken = order.HoldToken,
            });
        if (locked.IsAnswered) throw await key!.AnsweredBeforeAsync(connection);
        StoredProposal? held = KeptFor(order, locked, date, now);
        StandingBook standing = await StandingAsync(
            connection, setup, locked, order.LocationId, order.Wanted.Wish, date, now, held?.Occupations);
        (setup, house) = (standing.Setup, standing.House);
        BookingChecks.CheckWish(house, order.Wanted.Wish);

        ClientRow client = locked.Client ?? order.NewClient ?? throw Refused.Invalid("clientId", "There is no such client.");
        IReadOnlyList<ClientVisit> visits = locked.ClientVisits;
        Audience audience = BookingChecks.AudienceOf(client, visits, order.Links, now);
        DayBook day = standing.Day;
        StartFinder finder = new(house, order.Wanted.Wish);
        int start = day.Day.GrainOfStart(order.Start)!.Value;
        WeekLoad week = standing.Week;
        VisitPlan? fits = order.IsOnline
            ? finder.PlanOffered(day, start, audience, now, week)
            : finder.PlanFeasible(day, start, week);
        KnowingPlan? over = fits is null
            ? await OverAsync(connection, warnings, finder, day, start, week)
            : new KnowingPlan(fits, Waivers.None, []);
        if (over is null)
            throw await DoesNotFitAsync(connection, standing, finder, start, order.IsOnline ? audience : null, now);
        if (order.IsOnline)
            CheckClient(setup, over.Plan, visits, locked.OpenOnline, order.IsShown);
        else
            over = Told(over, finder, day, start, audience, visits, now, warnings);

        StoredProposal? taken = held is not null && IsTheSame(held, order, standing) ? held : null;
        VisitPrice price = PriceOf(setup, order, over.Plan, taken, now);
        Guarantee? due = order.IsOnline ? Guarantees.Of(setup, order, price, order.IsShown ? audience : null, now) : null;
        CheckPrice(setup, order, price, due);
        // Whoever has only typed their name learns nothing of themselves; whoever has to give more than a stranger does not book so.
        if (due is not null && !order.IsShown && Guarantees.AsksForMore(setup, order, price, audience, due, now)) throw Refused.NotOnline();
        return new Placing
        {
            Standing = standing,
            Client = client,
            IsNewClient = locked.Client is null,
            Over = over,
            Price = price,
            Held = held,
            Taken = taken,
            State = due is not null && finder.NeedsApproval(day, audience, now, over.Plan, !due.AsksForSomething)
                ? VisitState.Requested
                : VisitState.Confirmed,
            Now = now,
            IsFirst = visits.Count == 0 && audience.IsNew,
            Due = due,
        };
    }

    /// <summary>What is asked for costs: as it was said with the time that is kept, with the promo code that was named.</summary>
    /// <exception cref="Refused">The code takes nothing off.</exception>
    private static VisitPrice PriceOf(Setup setup, BookingOrder order, VisitPlan plan, StoredProposal? taken, Instant now) =>
        taken?.Visit.Price
        ?? Promos
            .Try(
                setup,
                order.Promo,
                Prices.Of(setup, plan, order.Wanted),
                [.. plan.Lines.Select(line => line.ServiceId)],
                order.LocationId,
                order.Start,
                now
            )
            .Required();

    /// <summary>
    /// What binds a client who books online besides the gates (rules, section 7): they are never at two places at once, and have so many
    /// bookings open at the most. Whoever only typed somebody's name learns nothing of them from the answer.
    /// </summary>
    private static void CheckClient(
        Setup setup,
        VisitPlan plan,
        IReadOnlyList<ClientVisit> visits,
        (int OfPerson, int OfDevice, int OfRange) open,
        bool isShown
    )
    {
        if (ClientHistory.At(visits, plan.Start, plan.End).Any()) throw isShown ? Elsewhere() : Refused.NotOnline();
        if (!setup.Parts.BookingPage.MostOpen.AllowOneMore(open.OfPerson, open.OfDevice, open.OfRange)) throw Refused.NotOnline();
    }

    /// <summary>What whoever has shown who they are is told of their own other booking.</summary>
    private static Refused Elsewhere() =>
        new(StatusCodes.Status409Conflict, "elsewhere", "You have another booking then. Choose another time.", "start");

    /// <summary>Refuses to take another price, or more at once, than the client has read, or by a policy they have not read.</summary>
    private static void CheckPrice(Setup setup, BookingOrder order, VisitPrice price, Guarantee? due)
    {
        if (order.PolicySeen is { } read && read != (setup.PolicyOf(order.LocationId)?.Id ?? 0))
            throw new Refused(
                StatusCodes.Status409Conflict,
                "policy-changed",
                "What cancelling costs has changed since you looked. Read it once more, then book.",
                "policy"
            );
        bool isSame = order.PriceSeen is not { } seen || seen == price.Total;
        bool isDue = order.DueSeen is not { } dueSeen || dueSeen == (due?.Deposit ?? 0);
        if (isSame && isDue) return;
        Refused refused = new(
            StatusCodes.Status409Conflict,
            "price-changed",
            "The price has changed since you looked. Read it once more, then book.",
            "price"
        );
        refused.More["price"] = new MoneyAnswer(price.Total, setup.Business.Currency);
        refused.More["due"] = new MoneyAnswer(due?.Deposit ?? 0, setup.Business.Currency);
        throw refused;
    }

    /// <summary>Adds what staff are told about the client and may go on after: a visit that has to come first, their own other visit
    /// then.</summary>
    private static KnowingPlan Told(
        KnowingPlan over,
        StartFinder finder,
        DayBook day,
        int start,
        Audience audience,
        IReadOnlyList<ClientVisit> visits,
        Instant now,
        SeenWarnings? warnings
    )
    {
        KnowingPlan told = over with
        {
            Warnings = [.. over.Warnings, .. BookingChecks.ClientWarnings(finder, day, start, over.Plan, audience, visits, now)],
        };
        warnings?.Require(told, day.House);
        return told;
    }
}
