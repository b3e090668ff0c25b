using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Clients;
using Kingcup.Core.Money;
using Kingcup.Core.Services;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>Who does something at the desk.</summary>
/// <param name="Name">A name people recognise in the history.</param>
/// <param name="Scope">Whose idempotency keys these are.</param>
public sealed record Actor(string Name, string Scope);

/// <summary>A visit to be booked.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="Start">When it begins.</param>
/// <param name="Wish">What is wanted.</param>
/// <param name="Client">Who comes: found or made in the same transaction.</param>
/// <param name="Source">"Desk" or "Online".</param>
/// <param name="Note">A note for the desk.</param>
/// <param name="AddOns">For each line what is added to it; its minutes are in the wish already.</param>
/// <param name="Links">Services whose direct link the client came with.</param>
public sealed record BookingOrder(
    Guid LocationId,
    Instant Start,
    VisitWish Wish,
    Func<NpgsqlConnection, Change, Task<ClientRow>> Client,
    string Source,
    string Note = "",
    IReadOnlyList<IReadOnlyList<LineAddOn>>? AddOns = null,
    IReadOnlySet<Guid>? Links = null)
{
    /// <summary>The terms the client has accepted, or null.</summary>
    public long? TermsId { get; init; }

    /// <summary>What the client answered, or null.</summary>
    public IReadOnlyList<VisitAnswerRow>? Answers { get; init; }

    /// <summary>Where an online booking came from; null at the desk.</summary>
    public BookingOrigin? Origin { get; init; }
}

/// <summary>Where an online booking came from.</summary>
/// <param name="Email">E-mail address of whoever books.</param>
/// <param name="Phone">Their number.</param>
/// <param name="Range">Hash of their address range.</param>
/// <param name="Device">Hash of their device.</param>
public sealed record BookingOrigin(string Email, string Phone, byte[] Range, byte[] Device)
{
    /// <summary>What is locked so that two bookings at once of the same person, device or range count one after another.</summary>
    internal IEnumerable<string> Locks => [$"email {Email}", $"phone {Phone}", $"device {Convert.ToHexString(Device)}", $"range {Convert.ToHexString(Range)}"];
}

/// <summary>
/// The operations that change the book: each is one transaction. The core decides on the day as it stands under the day's lock,
/// the database has the last word.
/// </summary>
public sealed class BookingDesk(Database database, BookReader book, IClock clock)
{
    /// <summary>How far ahead staff may book, in days.</summary>
    public const int StaffHorizonDays = 730;

    /// <summary>Draws references; another one is drawn where one is taken.</summary>
    internal Func<string> References { get; init; } = VisitReference.New;

    /// <summary>Books a visit.</summary>
    /// <param name="order">What is to be booked.</param>
    /// <param name="actor">Who books it.</param>
    /// <param name="key">The idempotency key, or null.</param>
    /// <param name="knowing">What may be booked over where nothing else fits; null for nothing.</param>
    /// <param name="answer">The answer, to be kept with the key.</param>
    /// <exception cref="Refused">It cannot be booked as asked; nothing was changed.</exception>
    public Task<StoredVisit> BookAsync(BookingOrder order, Actor actor, RequestKey? key = null, Knowing? knowing = null, Func<Setup, StoredVisit, Answered>? answer = null) =>
        OnceMore.RunAsync(() => BookOnceAsync(order, actor, key, knowing, answer), also: exception => exception.ConstraintName == BookStore.ReferenceTaken);

    private async Task<StoredVisit> BookOnceAsync(BookingOrder order, Actor actor, RequestKey? key, Knowing? knowing, Func<Setup, StoredVisit, Answered>? answer)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        House house = setup.HouseOf(order.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        CheckWish(house, order.Wish);
        Change change = new(actor.Name, clock.GetCurrentInstant());
        LocalDate date = CheckStart(house, order.Start, change.At);

        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        if (key is not null) await key.TakeAsync(connection, change.At);
        await BookStore.LockDaysAsync(connection, [date]);
        if (order.Origin is { } origin) await ClientStore.LockAsync(connection, origin.Locks);
        // Now that nobody can change the setup: by its present state.
        setup = await book.SetupAsync(connection, locked: true);
        house = setup.HouseOf(order.LocationId)!;
        CheckWish(house, order.Wish);
        ClientRow client = await order.Client(connection, change);
        IReadOnlyList<ClientVisit> visits = await BookStore.OfClientAsync(connection, client.Id, null);
        Audience audience = AudienceOf(client, visits, order.Links, change.At);
        DayBook day = (await BookReader.FreshDaysAsync(connection, setup, house, date, 1))[0];
        StartFinder finder = new(house, order.Wish);
        int start = StartOn(day, order.Start);
        bool isOnline = order.Source == "Online";
        WeekLoad? week = await BookReader.FreshWeekAsync(connection, setup, house, finder, date);
        VisitPlan? fits = isOnline ? finder.PlanOffered(day, start, audience, change.At, week) : finder.PlanFeasible(day, start, week);
        KnowingPlan? over = fits is null ? await OverAsync(connection, knowing, finder, day, start, week) : new KnowingPlan(fits, Waivers.None, []);
        if (over is null) throw await DoesNotFitAsync(connection, setup, house, order.Wish, day, start, isOnline ? audience : null, change.At);
        if (isOnline) await CheckClientAsync(connection, setup, order, over.Plan, visits, change.At);
        else over = Told(over, finder, day, start, audience, visits, change.At, knowing);

        VisitPlan plan = over.Plan;
        NewVisit visit = new(
            Guid.CreateVersion7(), References(), order.LocationId, client.Id, date, plan,
            Prices(house, plan), [.. order.Wish.Lines.Select(line => line.PractitionerId is not null)], order.Source, order.Note,
            isOnline && finder.NeedsApproval(day, audience, change.At) ? VisitState.Requested : VisitState.Confirmed,
            order.AddOns ?? [.. order.Wish.Lines.Select(_ => (IReadOnlyList<LineAddOn>)[])])
        {
            Over = WordsOf(over, house),
            TermsId = order.TermsId,
            Answers = order.Answers ?? [],
            RangeHash = order.Origin?.Range,
            DeviceHash = order.Origin?.Device,
        };
        StoredVisit stored = await GuardedAsync(() => BookStore.AddAsync(connection, visit, visits.Count == 0 && audience.IsNew, change));
        if (key is not null && answer is not null) await key.KeepAsync(connection, answer(setup, stored));
        await transaction.CommitAsync();
        return stored;
    }

    /// <summary>
    /// What binds a client who books online besides the gates (rules, section 7): they are never at two places at once, and have so many
    /// bookings open at the most. Whoever only typed somebody's name learns nothing of them from the answer.
    /// </summary>
    private static async Task CheckClientAsync(NpgsqlConnection connection, Setup setup, BookingOrder order, VisitPlan plan, IReadOnlyList<ClientVisit> visits, Instant now)
    {
        if (ClientHistory.At(visits, plan.Start, plan.End).Any()) throw Refused.NotOnline();
        if (order.Origin is not { } origin) return;
        (int ofPerson, int ofDevice, int ofRange) = await BookStore.OpenOnlineAsync(connection, origin.Email, origin.Phone, origin.Device, origin.Range, now);
        if (!setup.Parts.BookingPage.MostOpen.AllowOneMore(ofPerson, ofDevice, ofRange)) throw Refused.NotOnline();
    }

    /// <summary>Adds what staff are told about the client and may go on after: a visit that has to come first, their own other visit then.</summary>
    private static KnowingPlan Told(
        KnowingPlan over, StartFinder finder, DayBook day, int start, Audience audience, IReadOnlyList<ClientVisit> visits, Instant now, Knowing? knowing)
    {
        KnowingPlan told = over with { Warnings = [.. over.Warnings, .. ClientWarnings(finder, day, start, over.Plan, audience, visits, now)] };
        knowing?.Require(told, day.House);
        return told;
    }

    /// <summary>What staff are told about a client before they book a plan.</summary>
    internal static IEnumerable<Reason> ClientWarnings(
        StartFinder finder, DayBook day, int start, VisitPlan plan, Audience audience, IReadOnlyList<ClientVisit> visits, Instant now) =>
    [
        .. finder.MissingBefore(day, start, audience, now),
        .. ClientHistory.At(visits, plan.Start, plan.End).Select(other =>
            new Reason(Gate.Client, ReasonCode.OwnVisit, other.ServiceId, day.House.Services.GetValueOrDefault(other.ServiceId)?.Name) { OwnerKind = OwnerKind.Client, From = other.Start, Until = other.End }),
    ];

    /// <summary>Moves a visit to another start, and if a practitioner is named to that one.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="start">The new start.</param>
    /// <param name="practitionerId">Who is to take the first line; null keeps whoever fits, the present one first.</param>
    /// <param name="actor">Who does it.</param>
    /// <param name="knowing">What may be booked over where nothing else fits; null for nothing.</param>
    /// <exception cref="Refused">It cannot be moved as asked; nothing was changed.</exception>
    public Task<StoredVisit> MoveAsync(Guid id, long version, Instant start, Guid? practitionerId, Actor actor, Knowing? knowing = null) =>
        OnceMore.RunAsync(() => MoveOnceAsync(id, version, start, practitionerId, actor, knowing));

    private async Task<StoredVisit> MoveOnceAsync(Guid id, long version, Instant start, Guid? practitionerId, Actor actor, Knowing? knowing)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        StoredVisit visit = await PresentAsync(connection, id, version);
        if (!VisitStates.CanMove(visit.Visit.VisitState))
            throw new Refused(StatusCodes.Status409Conflict, "state", "Only a visit that has not begun can be moved.");
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        Change change = new(actor.Name, clock.GetCurrentInstant());
        LocalDate date = CheckStart(house, start, change.At);
        VisitWish wish = WishOf(visit, practitionerId);
        CheckWish(house, wish, standing: visit);

        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        await BookStore.LockDaysAsync(connection, [visit.Visit.Date, date]);
        // Under the lock: nobody can have moved it in between, or changed the setup.
        setup = await book.SetupAsync(connection, locked: true);
        house = setup.HouseOf(visit.Visit.LocationId)!;
        visit = await PresentAsync(connection, id, version);
        DayBook day = BookReader.Without((await BookReader.FreshDaysAsync(connection, setup, house, date, 1))[0], visit);
        int grain = StartOn(day, start);
        VisitPlan? plan = null;
        // The present practitioner goes with the visit where they can.
        StartFinder present = new(house, PresentStaff(visit)), finder = new(house, wish);
        if (practitionerId is null) plan = present.PlanFeasible(day, grain);
        plan ??= finder.PlanFeasible(day, grain, await BookReader.FreshWeekAsync(connection, setup, house, finder, date));
        KnowingPlan? over = plan is null ? await OverAsync(connection, knowing, practitionerId is null ? present : finder, day, grain, null) : new KnowingPlan(plan, Waivers.None, []);
        if (over is null) throw await DoesNotFitAsync(connection, setup, house, wish, day, grain, null, change.At);
        ClientRow client = (await ClientStore.FindAsync(connection, visit.Visit.ClientId))!;
        IReadOnlyList<ClientVisit> others = await BookStore.OfClientAsync(connection, client.Id, visit.Visit.Id);
        over = Told(over, finder, day, grain, AudienceOf(client, others, null, change.At), others, change.At, knowing);
        StoredVisit stored = await GuardedAsync(() => BookStore.MoveAsync(
            connection, visit, date, over.Plan, PricesAfterMove(house, visit, over.Plan), [.. visit.Lines.Select(line => line.PractitionerAsked)], change, WordsOf(over, house)))
            ?? throw Refused.Stale(visit.Visit.Version);
        await transaction.CommitAsync();
        return stored;
    }

    /// <summary>Changes where a visit stands: arrived, in treatment, done, no-show.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="state">The new state.</param>
    /// <param name="actor">Who does it.</param>
    /// <exception cref="Refused">It cannot be changed so; nothing was changed.</exception>
    public Task<StoredVisit> SetStateAsync(Guid id, long version, VisitState state, Actor actor) => StandAsync(id, version, state, null, actor);

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
        await using (NpgsqlConnection connection = await database.OpenAsync()) setup = await book.SetupAsync(connection);
        return await StandAsync(id, version, VisitState.Cancelled, visit => Cancellation.Of(by, reason, clock.GetCurrentInstant(), LastInTime(setup, visit)), actor);
    }

    /// <summary>The last instant at which the client of a visit still cancels in time.</summary>
    internal static Instant LastInTime(Setup setup, StoredVisit visit)
    {
        House house = setup.HouseOf(visit.Visit.LocationId)!;
        return Cancellation.LastInTime(visit.Visit.StartsAt, visit.Lines.Select(line => visit.Visit.ClientCancelNoticeHours ?? house.RulesOf(setup.ServiceOf(line.ServiceId)!).Values.CancelNoticeHoursFor(visit.Visit.IsFirst)));
    }

    private Task<StoredVisit> StandAsync(Guid id, long version, VisitState state, Func<StoredVisit, Cancellation>? cancellation, Actor actor) => OnceMore.RunAsync(async () =>
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Change change = new(actor.Name, clock.GetCurrentInstant());
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        // Days are locked before anything of the visit is changed, as everywhere; the date is read again under the lock.
        StoredVisit visit = await PresentAsync(connection, id, version);
        await BookStore.LockDaysAsync(connection, [visit.Visit.Date]);
        visit = await PresentAsync(connection, id, version);
        if (!VisitStates.After(visit.Visit.VisitState, visit.Visit.StartsAt, change.At).Contains(state))
        {
            throw new Refused(StatusCodes.Status409Conflict, "state", state is VisitState.Done or VisitState.NoShow && change.At < visit.Visit.StartsAt
                ? $"A visit that has not begun yet cannot become {Words(state)}."
                : $"A visit that is {Words(visit.Visit.VisitState)} cannot become {Words(state)}.");
        }

        bool changed = await BookStore.SetStateAsync(connection, visit, state, cancellation?.Invoke(visit), change);
        StoredVisit stored = (await BookStore.FindAsync(connection, id))!;
        if (!changed) throw Refused.Stale(stored.Visit.Version);
        await transaction.CommitAsync();
        return stored;
    });

    /// <summary>The plan over something that may be booked over, once it was read what; null where that is not possible.</summary>
    private static async Task<KnowingPlan?> OverAsync(NpgsqlConnection connection, Knowing? knowing, StartFinder finder, DayBook day, int start, WeekLoad? week)
    {
        return knowing is null ? null : finder.PlanKnowingly(day, start, await knowing.AllowedAsync(connection), week);
    }

    private static string[] WordsOf(KnowingPlan? over, House house) => over is null ? [] : [.. ReasonWords.Of(over.Warnings, house).Select(one => one.Text)];

    /// <summary>What is known of a client as far as the gates look at it.</summary>
    internal static Audience AudienceOf(ClientRow client, IReadOnlyList<ClientVisit> visits, IReadOnlySet<Guid>? links, Instant now) => new()
    {
        IsNew = ClientHistory.IsNew(client.KnownBefore, visits, now),
        Own = client.Own,
        MayBookOnline = client.MayBookOnline,
        Missed = [.. ClientHistory.Missed(visits)],
        Links = links ?? new HashSet<Guid>(),
        Visits = [.. visits.Where(visit => ClientHistory.Holds(visit) && visit.State != VisitState.Requested).Select(visit => new EarlierVisit(visit.ServiceId, visit.End, visit.State == VisitState.Done))],
    };

    /// <summary>What a stored visit wants again, lines in order.</summary>
    internal static VisitWish WishOf(StoredVisit visit, Guid? practitionerId) => new([.. visit.Lines.Select((line, i) => new LineWish(
        line.ServiceId,
        i == 0 && practitionerId is not null ? practitionerId : line.PractitionerAsked && practitionerId is null ? LeadOf(visit, line) : null,
        ExtraMinutes(visit, line)))]);

    private static int ExtraMinutes(StoredVisit visit, AppointmentRow line) => visit.AddOns.Where(one => one.AppointmentId == line.Id).Sum(one => one.Minutes);

    internal static Guid? LeadOf(StoredVisit visit, AppointmentRow line) =>
        visit.Claims.FirstOrDefault(claim => claim.AppointmentId == line.Id && claim.Role == 0)?.ResourceId;

    /// <summary>Refuses a wish that names what is not there. A visit that stands in the book keeps services that are no longer done.</summary>
    internal static void CheckWish(House house, VisitWish wish, StoredVisit? standing = null)
    {
        Checks checks = new();
        checks.Require(wish.Lines.Count is >= 1 and <= 6, "lines", "Choose one to six services.");
        foreach ((int i, LineWish line) in wish.Lines.Index())
        {
            bool known = checks.Require(house.Services.TryGetValue(line.ServiceId, out Service? found) && (!found.IsArchived || standing?.Lines.Any(other => other.ServiceId == line.ServiceId) == true), $"lines[{i}].serviceId", "There is no such service.");
            if (line.PractitionerId is not { } chosen) continue;
            bool exists = checks.Require(house.Practitioners.Any(one => one.Id == chosen), $"lines[{i}].practitionerId", "There is no such practitioner.");
            if (!known || !exists) continue;
            Service service = house.Services[line.ServiceId];
            checks.Require(
                house.Practitioners.Where(one => one.Id == chosen).Any(one => MayEver(service.Roles[0], one)),
                $"lines[{i}].practitionerId", $"{house.Practitioners.First(one => one.Id == chosen).Name} does not do {service.Name}. Choose somebody who does, or no preference.");
        }

        checks.Done();
    }

    /// <summary>Whether somebody may take a role on any date at all.</summary>
    private static bool MayEver(StaffRule rule, Core.Team.Practitioner one) => rule.EverAllows(one, LocalDate.MinIsoValue);

    private static LocalDate CheckStart(House house, Instant start, Instant now)
    {
        LocalDate date = start.InZone(house.Location.Zone).Date;
        if (new BookDay(date, house.Location.Zone).GrainOfStart(start) is null)
            throw Refused.Invalid("start", $"Starts lie on whole {Grain.Minutes} minutes.");
        if (start < now - Duration.FromMinutes(Grain.Minutes)) throw Refused.Invalid("start", "That time has passed. Choose a later one.");
        if (date > now.InZone(house.Location.Zone).Date.PlusDays(StaffHorizonDays)) throw Refused.Invalid("start", "That is more than two years ahead.");
        return date;
    }

    private static int StartOn(DayBook day, Instant start) => day.Day.GrainOfStart(start)!.Value;

    private static VisitWish PresentStaff(StoredVisit visit) => new([.. visit.Lines.Select(line => new LineWish(line.ServiceId, LeadOf(visit, line), ExtraMinutes(visit, line)))]);

    private static IReadOnlyList<long> Prices(House house, VisitPlan plan) =>
        [.. plan.Lines.Select(line => LinePrice.Of(house.Services[line.ServiceId], line.Practitioners[0]))];

    /// <summary>A price once agreed stays, unless another practitioner takes the line.</summary>
    internal static IReadOnlyList<long> PricesAfterMove(House house, StoredVisit visit, VisitPlan plan) =>
        [.. plan.Lines.Select((line, i) => line.Practitioners[0] == LeadOf(visit, visit.Lines[i])
            ? visit.Lines[i].Price
            : LinePrice.Of(house.Services[line.ServiceId], line.Practitioners[0]))];

    private static async Task<StoredVisit> PresentAsync(NpgsqlConnection connection, Guid id, long version)
    {
        StoredVisit visit = await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("visit");
        return visit.Visit.Version == version ? visit : throw Refused.Stale(visit.Visit.Version);
    }

    /// <summary>The answer to a start that does not fit: why, and the nearest that do.</summary>
    private static async Task<Refused> DoesNotFitAsync(
        NpgsqlConnection connection, Setup setup, House house, VisitWish wish, DayBook day, int start, Audience? audience, Instant now)
    {
        StartFinder finder = new(house, wish);
        IReadOnlyList<Refusal> refusals = audience is null ? finder.WhyNotFeasible(day, start) : finder.WhyNotOffered(day, start, audience, now);
        IReadOnlyList<DayBook> days = [day, .. await BookReader.FreshDaysAsync(connection, setup, house, day.Day.Date.PlusDays(1), 7)];
        List<Instant> free = [.. days.SelectMany(one => (audience is null ? finder.Feasible(one) : finder.Offered(one, audience, now)).Select(one.Day.At))
            .Where(at => at >= now)];
        Instant wanted = day.Day.At(start);
        bool taken = refusals.All(refusal => refusal.Gate is Gate.Practitioner or Gate.RoomAndEquipment);
        Refused refused = new(
            StatusCodes.Status409Conflict,
            taken ? "start-taken" : "start-not-offered",
            taken ? "That time is not free any more. The nearest times that are free are given here." : "That time cannot be booked.",
            "start");
        refused.More["reasons"] = audience is not null ? ClientReasons.Of(refusals, house) : ReasonWords.Of(refusals, house);
        refused.More["nearest"] = free.OrderBy(at => Duration.FromTicks(Math.Abs((at - wanted).TotalTicks))).Take(6).Order()
            .Select(at => new StartAt(at, at.InZone(house.Location.Zone).LocalDateTime)).ToArray();
        return refused;
    }

    /// <summary>The database's own refusal of a double booking is the same clear answer.</summary>
    private static async Task<T> GuardedAsync<T>(Func<Task<T>> write)
    {
        try
        {
            return await write();
        }
        catch (PostgresException exception) when (exception.ConstraintName == BookStore.DoubleBooking)
        {
            throw new Refused(StatusCodes.Status409Conflict, "start-taken", "That time has just been taken. Choose another.", "start");
        }
    }

    private static string Words(VisitState state) => state switch
    {
        VisitState.InTreatment => "in treatment",
        VisitState.NoShow => "a no-show",
        _ => state.ToString().ToLowerInvariant(),
    };
}

/// <summary>A start, as an instant and as the clock of the location shows it.</summary>
/// <param name="Start">The instant.</param>
/// <param name="Local">Local date and time.</param>
public sealed record StartAt(Instant Start, LocalDateTime Local);
