using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Money;
using Kingcup.Server.Plans;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>A time that somebody who chooses online wants kept for them.</summary>
public sealed record HoldOrder
{
    /// <summary>Where.</summary>
    public required Guid LocationId { get; init; }

    /// <summary>When it begins.</summary>
    public required Instant Start { get; init; }

    /// <summary>What is wanted.</summary>
    public required WantedVisit Wanted { get; init; }

    /// <summary>Who asks, as far as they have said.</summary>
    public required Audience Audience { get; init; }

    /// <summary>The promo code they have named; nothing for none.</summary>
    public string? Promo { get; init; }

    /// <summary>Whether they have shown who they are: what they give is asked by their record then.</summary>
    public bool IsShown { get; init; }

    /// <summary>Hash of what is asked for.</summary>
    public required byte[] Asked { get; init; }

    /// <summary>Hash of the device.</summary>
    public required byte[] Device { get; init; }

    /// <summary>Hash of the address range.</summary>
    public required byte[] Range { get; init; }
}

/// <summary>A time that is kept for whoever chooses it.</summary>
/// <param name="Held">What is kept.</param>
/// <param name="Setup">The setup it was found by.</param>
/// <param name="Due">What is given for it, as far as they have shown who they are.</param>
/// <param name="NeedsApproval">Whether it would only be asked for, as far as they have shown who they are.</param>
/// <param name="Promo">What became of the promo code they have named; null for none.</param>
public sealed record KeptTime(StoredProposal Held, Setup Setup, Guarantee Due, bool NeedsApproval, PublicPromo? Promo);

/// <summary>Times kept for whoever chooses online.</summary>
public sealed partial class BookingDesk
{
    private static readonly Actor _choosing = new("Booking page", "public") { IsClient = true };

    /// <summary>Keeps a time for a device for a few minutes; what it held before is given back in the same moment.</summary>
    /// <param name="order">What is wanted.</param>
    /// <param name="tokenHash">Hash of what names it to the device.</param>
    /// <param name="seen">The setup the order was checked by.</param>
    /// <exception cref="Refused">It is not offered, or too many times are held; nothing was changed.</exception>
    public async Task<KeptTime> HoldAsync(HoldOrder order, byte[] tokenHash, Setup seen)
    {
        while (true)
            if (await OnceMore.RunAsync(() => HoldOnceAsync(order, tokenHash, seen)) is { } held)
                return held;
    }

    /// <returns>Null where the device has taken a time on another day in between: that day has to be locked too.</returns>
    private async Task<KeptTime?> HoldOnceAsync(HoldOrder order, byte[] tokenHash, Setup seen)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        House house = seen.HouseOf(order.LocationId) ?? throw Refused.Invalid("locationId", "There is no such location.");
        BookingChecks.CheckWish(house, order.Wanted.Wish);
        Change change = _choosing.ChangeAt(clock.GetCurrentInstant());
        LocalDate date = BookingChecks.CheckStart(house, order.Start, change.At);
        // The days of what the device held before are locked with the new one.
        LocalDate[] days = [.. (await BookStore.HeldByAsync(connection, order.Device)).Select(DateOf).Append(date).Distinct()];

        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        LockedBook locked = await transaction.LockAsync(
            new BookLocks
            {
                Days = days,
                People = [$"device {Convert.ToHexString(order.Device)}", $"range {Convert.ToHexString(order.Range)}"],
            },
            QuestionOf(house, order.Wanted.Wish, date)
        );
        IReadOnlyList<StoredProposal> earlier = await BookStore.HeldByAsync(connection, order.Device);
        if (earlier.Any(held => !days.Contains(DateOf(held))))
            return null;
        StandingBook standing = await StandingAsync(
            connection,
            seen,
            locked,
            order.LocationId,
            order.Wanted.Wish,
            date,
            change.At,
            earlier.SelectMany(held => held.Occupations).ToHashSet()
        );
        BookingChecks.CheckWish(standing.House, order.Wanted.Wish);
        StartFinder finder = new(standing.House, order.Wanted.Wish);
        int start = standing.Day.Day.GrainOfStart(order.Start)!.Value;
        VisitPlan plan =
            finder.PlanOffered(standing.Day, start, order.Audience, change.At, standing.Week)
            ?? throw await DoesNotFitAsync(connection, standing, finder, start, order.Audience, change.At);

        if (!await AllowsOneMoreAsync(connection, standing, order.Device, order.Range, change.At))
            throw new Refused(
                StatusCodes.Status429TooManyRequests,
                "held-enough",
                "So many people are choosing right now that this time cannot be kept for you. Book it before somebody else does."
            );

        // A code that takes nothing off is told of, and keeps nobody from their time.
        PromoTried tried = Promos.Try(
            standing.Setup,
            order.Promo,
            Prices.Of(standing.Setup, plan, order.Wanted),
            [.. plan.Lines.Select(line => line.ServiceId)],
            order.LocationId,
            order.Start,
            change.At
        );
        foreach (StoredProposal held in earlier)
            BookStore.GiveBack(transaction, held);
        StoredProposal kept = BookStore.Propose(transaction, new NewProposal
        {
            Kind = ProposalKind.Hold,
            TokenHash = tokenHash,
            ExpiresAt = HoldRules.Until(change.At),
            Asked = order.Asked,
            SetupRevision = standing.Setup.Revision,
            DeviceHash = order.Device,
            RangeHash = order.Range,
            LocationId = order.LocationId,
            Visit = new LaidVisit
            {
                Date = date,
                Plan = plan,
                Price = tried.Price,
                LineIds = [.. plan.Lines.Select(_ => (Guid?)null)],
                Chosen = order.Wanted.Chosen,
                AddOns = order.Wanted.AddOns,
            },
        });
        await CommitAsync(transaction);
        Guarantee due = Guarantees.Of(standing.Setup, order.LocationId, kept.Visit, order.IsShown ? order.Audience : null, change.At);
        bool needsApproval = finder.NeedsApproval(standing.Day, order.Audience, change.At, plan, !due.AsksForSomething);
        return new KeptTime(kept, standing.Setup, due, needsApproval, tried.Said);
    }

    /// <summary>Whether one more time may be kept: so many are of one address range, and on one day, at the most.</summary>
    private static async Task<bool> AllowsOneMoreAsync(
        NpgsqlConnection connection,
        StandingBook standing,
        byte[] device,
        byte[] range,
        Instant now
    )
    {
        (int ofRange, int ofDay) = await BookStore.HeldByOthersAsync(
            connection,
            device,
            range,
            standing.House.Location.Id,
            standing.Day.Day.Date,
            now
        );
        return HoldRules.AllowOneMore(ofRange, ofDay, standing.Day.PractitionersOnShift);
    }

    /// <summary>Gives back a time that was kept for somebody; where there is none any more, nothing happens.</summary>
    /// <param name="tokenHash">Hash of what names it.</param>
    public Task GiveBackAsync(byte[] tokenHash) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            if (await BookStore.ProposalAsync(connection, tokenHash) is not { } seen)
                return false;
            await using BookTransaction transaction = await BookTransaction.BeginAsync(
                connection,
                _choosing.ChangeAt(clock.GetCurrentInstant())
            );
            LockedBook locked = await transaction.LockAsync(
                new BookLocks { Days = [DateOf(seen)] },
                new BookQuestion { ProposalToken = tokenHash }
            );
            // Whoever books what they hold and leaves in the same moment has booked it.
            if (locked.Proposal is not { Kind: ProposalKind.Hold, IsPaying: false } held)
                return false;
            BookStore.GiveBack(transaction, held);
            await CommitAsync(transaction);
            return true;
        });

    private static LocalDate DateOf(StoredProposal held) => held.Visit.Visit.Date;

    /// <summary>What is kept for whoever books, as far as it still is: on the day they book, not run out, and all of it.</summary>
    private static StoredProposal? KeptFor(BookingOrder order, LockedBook locked, LocalDate date, Instant now) =>
        locked.Proposal is { Kind: ProposalKind.Hold } held
        && held.ExpiresAt > now
        && DateOf(held) == date
        && held.Visit.Visit.LocationId == order.LocationId
            ? held
            : null;

    /// <summary>
    /// Whether what is kept is what is booked now, by the setup of now; otherwise it is given back, and the visit found anew.
    /// </summary>
    private static bool IsTheSame(StoredProposal held, BookingOrder order, StandingBook standing) =>
        order.Asked is not null
        && held.Asked.AsSpan().SequenceEqual(order.Asked)
        && held.SetupRevision == standing.Setup.Revision
        && Promos.IsWith(standing.Setup, held.Visit.Price, order.Promo);
}
