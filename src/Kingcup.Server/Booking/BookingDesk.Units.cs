using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Business;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;
using Npgsql;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Booking;

/// <content>Units of rooms and equipment by hand: which of the chairs, which of the lamps.</content>
public sealed partial class BookingDesk
{
    /// <summary>A change of one unit, worked out: what changes, and whose visits.</summary>
    private sealed record Exchange(IReadOnlyList<UnitRow> Claims, IReadOnlyList<StoredVisit> Visits, Sentence? Refused);

    /// <summary>On which units the lines of a visit are, and where they could be instead.</summary>
    /// <param name="id">The visit.</param>
    /// <exception cref="Refused">It is not there.</exception>
    public async Task<IReadOnlyList<UnitChoiceAnswer>> UnitsAsync(Guid id)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        Setup setup = await book.SetupAsync(connection);
        StoredVisit visit = await BookStore.FindAsync(connection, id) ?? throw Refused.NotFound("There is no such visit.");
        IReadOnlyList<UnitHeldAnswer> held = DayPicture.UnitsOf(setup, visit);
        List<UnitChoiceAnswer> choices = [];
        foreach (UnitHeldAnswer one in held)
        {
            List<UnitOption> others = [];
            IReadOnlyList<UnitRow> all = await AroundAsync(connection, visit, one.ResourceId);
            foreach (int unit in Enumerable.Range(0, one.Of))
            {
                if (held.Any(other => other.Line == one.Line && other.ResourceId == one.ResourceId && other.Unit == unit)) continue;
                Exchange exchange = await ExchangeAsync(connection, visit, all, new UnitRequest(one.Line, one.ResourceId, one.Unit, unit));
                others.Add(new UnitOption(unit, [.. Moves(exchange, one.Unit + unit)], exchange.Refused?.ToString()));
            }

            choices.Add(new UnitChoiceAnswer(one, others));
        }

        return choices;

        IEnumerable<UnitMove> Moves(Exchange exchange, int sum) =>
            from other in exchange.Visits
            where other.Visit.Id != id
            let claim = exchange.Claims.First(claim => claim.VisitId == other.Visit.Id)
            select new UnitMove($"{other.Visit.GivenName} {other.Visit.FamilyName}", other.Visit.StartsAt, sum - claim.Unit);
    }

    /// <summary>Puts a line on another unit of its room or pool; whoever is there changes to the one it leaves.</summary>
    /// <param name="id">The visit.</param>
    /// <param name="version">The version the change is based on.</param>
    /// <param name="request">Which line, and where to.</param>
    /// <param name="actor">Who does it.</param>
    /// <exception cref="Refused">It cannot be there; nothing was changed.</exception>
    public Task<StoredVisit> ChangeUnitAsync(Guid id, long version, UnitRequest request, Actor actor) =>
        OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            StoredVisit visit = BookingChecks.Present(await BookStore.FindAsync(connection, id), version);
            Change change = actor.ChangeAt(clock.GetCurrentInstant());
            await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
            LocalDate date = visit.Visit.Date;
            LockedBook locked = await transaction.LockAsync(
                // What is held beside it may go on over midnight.
                new BookLocks { Days = [date.PlusDays(-1), date, date.PlusDays(1)] },
                new BookQuestion { VisitId = id }
            );
            visit = BookingChecks.Present(locked.Visit, version);
            // How many there are, as it stands under the lock.
            Setup setup = await book.LockedSetupAsync(connection, locked.SetupRevision);
            if (!VisitStates.CanChange(visit.Visit.VisitState))
                throw new Refused(StatusCodes.Status409Conflict, "state", "A visit that is over cannot be changed.");
            IReadOnlyList<UnitHeldAnswer> held = DayPicture.UnitsOf(setup, visit);
            UnitHeldAnswer? present = held.FirstOrDefault(one =>
                one.Line == request.Line && one.ResourceId == request.ResourceId && one.Unit == request.From
            );
            if (present is null)
                throw Refused.Invalid("from", "The visit is not there any more. Look at it again.");
            if (request.To < 0 || request.To >= present.Of || held.Any(one => one.ResourceId == request.ResourceId && one.Unit == request.To
                && one.Line == request.Line))
                throw Refused.Invalid("to", Say($"Choose another one of 1 to {present.Of}."));
            Exchange exchange = await ExchangeAsync(connection, visit, await AroundAsync(connection, visit, request.ResourceId), request);
            if (exchange.Refused is { } refused)
                throw new Refused(StatusCodes.Status409Conflict, "unit", refused, "to");
            IReadOnlyList<StoredVisit> stand = BookStore.ExchangeUnits(
                transaction,
                exchange.Visits,
                request.ResourceId,
                exchange.Claims,
                request.From + request.To
            );
            if (actor.StaffId is { } staffId)
                StepStore.Add(
                    transaction,
                    staffId,
                    StepKind.Changed,
                    [.. stand.Zip(exchange.Visits, (now, before) => new StepVisit(now.Visit.Id, now.Visit.Version, before))]
                );
            await CommitAsync(transaction);
            return stand.First(one => one.Visit.Id == id);
        });

    /// <summary>All that is held of a room or pool on the day of a visit and those beside it.</summary>
    private Task<IReadOnlyList<UnitRow>> AroundAsync(NpgsqlConnection connection, StoredVisit visit, Guid resourceId) =>
        BookStore.UnitsAsync(
            connection,
            resourceId,
            new Interval(visit.Visit.StartsAt - Duration.FromDays(1), visit.Visit.EndsAt + Duration.FromDays(1)),
            clock.GetCurrentInstant()
        );

    private static async Task<Exchange> ExchangeAsync(
        NpgsqlConnection connection,
        StoredVisit visit,
        IReadOnlyList<UnitRow> all,
        UnitRequest request
    )
    {
        AppointmentRow line = visit.Lines[request.Line];
        int[] own =
        [
            .. Enumerable
                .Range(0, all.Count)
                .Where(i =>
                    all[i].VisitId == visit.Visit.Id
                    && all[i].Unit == request.From
                    && all[i].During.Start < line.EndsAt
                    && all[i].During.End > line.StartsAt
                ),
        ];
        List<UnitRow> claims = [.. UnitExchange.Chain([.. all.Select(row => row.Held)], own, request.To).Select(i => all[i])];
        Guid[] ids = [.. claims.Select(claim => claim.VisitId).OfType<Guid>().Where(other => other != visit.Visit.Id).Distinct()];
        List<StoredVisit> visits = [visit, .. ids.Length == 0 ? [] : await BookStore.TheseAsync(connection, ids)];
        if (claims.Exists(claim => claim.VisitId is null))
            return new Exchange(claims, visits, Say("Somebody is choosing that time just now. Try again in a few minutes."));
        StoredVisit? fixedThere = visits.Find(other => other != visit && !VisitStates.CanMove(other.Visit.VisitState));
        return new Exchange(
            claims,
            visits,
            fixedThere is null ? null : Say($"{fixedThere.Visit.GivenName} {fixedThere.Visit.FamilyName} is there already.")
        );
    }
}
