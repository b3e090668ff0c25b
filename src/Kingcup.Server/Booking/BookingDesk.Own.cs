using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <content>What clients do with their own visits, by the same rules as when they booked.</content>
public sealed partial class BookingDesk
{
    private static readonly Actor _own = new("Client, online", "own") { IsClient = true };

    /// <summary>Moves a client's own visit to another time they are offered.</summary>
    /// <param name="id">The visit; whoever asks has been shown to be its client.</param>
    /// <param name="version">The version they have seen.</param>
    /// <param name="start">The new start.</param>
    /// <param name="fee">What it costs, as they have read it.</param>
    /// <exception cref="Refused">It cannot be moved so; nothing was changed.</exception>
    internal Task<StoredVisit> MoveOwnAsync(Guid id, long version, Instant start, FeeOrder fee) =>
        OnceMore.RunAsync(() => LayOnceAsync(id, version, start, (_, visit) => Moving(visit, null), _own, null, fee));

    /// <summary>Cancels a client's own visit.</summary>
    /// <param name="id">The visit; whoever asks has been shown to be its client.</param>
    /// <param name="version">The version they have seen.</param>
    /// <param name="fee">What it costs, as they have read it.</param>
    /// <exception cref="Refused">It cannot be cancelled; nothing was changed.</exception>
    internal Task<StoredVisit> CancelOwnAsync(Guid id, long version, FeeOrder fee) =>
        CancelAsync(id, version, CancelledBy.Client, "Cancelled online", _own, fee);

    /// <summary>The last instant at which the client of a visit may still move it online.</summary>
    internal static Instant LastToMove(Setup setup, StoredVisit visit, ClientRow? client)
    {
        Core.Availability.House house = setup.HouseOf(visit.Visit.LocationId)!;
        return Cancellation.LastInTime(
            visit.Visit.StartsAt,
            visit.Lines.Select(line =>
                client?.MoveNoticeHours
                ?? house.RulesOf(setup.ServiceOf(line.ServiceId)!).Values.MoveNoticeHoursFor(visit.Visit.IsFirst)
            )
        );
    }

    /// <summary>What it costs a client to move their visit now.</summary>
    internal static async Task<(CancellationFee Fee, VisitMoney Money)> MoveFeeOfAsync(
        NpgsqlConnection connection,
        StoredVisit visit,
        Instant now
    )
    {
        VisitMoney money = await CardWorkStore.MoneyAsync(connection, visit.Visit.Id);
        CancellationPolicy policy = visit.Visit.PolicyId is { } id
            ? await GuaranteeStore.PolicyAsync(connection, id)
            : CancellationPolicy.None;
        PaidSoFar paid = new([.. visit.Price.Lines.Select(line => line.Total)], money.Deposit, money.CardId is not null);
        return (CancellationFee.OfMove(policy, visit.Visit.StartsAt, now, visit.Visit.Moves, paid), money);
    }

    private static void CheckOwnMove(Setup setup, StoredVisit visit, ClientRow client, Instant now)
    {
        if (visit.Visit.VisitState == VisitState.Confirmed && now <= LastToMove(setup, visit, client)) return;
        throw new Refused(
            StatusCodes.Status409Conflict,
            "not-movable",
            "This booking cannot be moved online any more. Call us, or cancel it."
        );
    }

    private static async Task TakeMoveFeeAsync(BookTransaction transaction, StoredVisit visit, FeeOrder order)
    {
        (CancellationFee fee, VisitMoney money) = await MoveFeeOfAsync(transaction.Connection, visit, transaction.Change.At);
        CheckFeeSeen(order, fee);
        BookStore.CountMove(transaction, visit);
        if (fee.Fee == 0) return;
        LedgerStore.Post(
            transaction,
            LedgerEntry.OfFee(fee, []),
            new LedgerSource(visit.Visit.LocationId, LedgerReason.MoveFee, visit.Visit.PayerId, visit.Visit.Id, null)
        );
        if (fee.FromCard == 0) return;
        CardWorkStore.Add(
            transaction,
            new CardWork
            {
                Id = Guid.CreateVersion7(),
                Kind = "Charge",
                Reason = nameof(LedgerReason.MoveFee),
                VisitId = visit.Visit.Id,
                CardId = money.CardId,
                Amount = fee.FromCard,
                Currency = await PaymentStore.CurrencyAsync(transaction.Connection),
                DueAt = transaction.Change.At,
            }
        );
    }
}
