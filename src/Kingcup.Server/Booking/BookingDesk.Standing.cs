using Kingcup.Core.Availability;
using Kingcup.Core.Services;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>The book as it is read under the locks, what does not fit in it, and what the database says at the end.</summary>
public sealed partial class BookingDesk
{
    /// <summary>The book as it stands under the lock, with the setup of that moment.</summary>
    /// <param name="Setup">The setup.</param>
    /// <param name="House">The location of the visit.</param>
    /// <param name="Day">The day of the visit.</param>
    /// <param name="Week">What those have in the day's week who are assigned by it.</param>
    private sealed record StandingBook(Setup Setup, House House, DayBook Day, WeekLoad Week);

    /// <summary>What has to be read to place a visit on a date: its day, and what those have in its week who are assigned by it.</summary>
    private static BookQuestion QuestionOf(House house, VisitWish wish, LocalDate date)
    {
        IReadOnlyCollection<Guid> assigned = new StartFinder(house, wish).AssignedByLoadOn(date);
        return new BookQuestion
        {
            Days = BookReader.Asked(house, date, date),
            Held = assigned.Count == 0 ? null : new HeldAsked(assigned, BookReader.WeekOf(house, date)),
        };
    }

    private async Task<StandingBook> StandingAsync(
        NpgsqlConnection connection,
        Setup seen,
        LockedBook locked,
        Guid locationId,
        VisitWish wish,
        LocalDate date,
        Instant now,
        IReadOnlySet<Guid>? apart = null
    )
    {
        Setup setup = seen;
        House house = setup.HouseOf(locationId)!;
        (BookWindow window, IReadOnlyList<TakenTime> held) = (locked.Window, locked.Held);
        if (locked.SetupRevision != seen.Revision)
        {
            // Changed between the first look and the lock: by its present state, and what that makes of the question.
            setup = await book.LockedSetupAsync(connection, locked.SetupRevision);
            house = setup.HouseOf(locationId)!;
            BookQuestion question = QuestionOf(house, wish, date);
            window = await BookStore.WindowAsync(connection, question.Days!, now);
            held = question.Held is null ? [] : await BookStore.HeldAsync(connection, question.Held, now);
        }

        // What is kept for whoever asks is not in their own way.
        if (apart is { Count: > 0 })
        {
            bool IsOthers(TakenTime claim) => claim.OccupationId is not { } id || !apart.Contains(id);
            window = window with { Taken = [.. window.Taken.Where(IsOthers)] };
            held = [.. held.Where(IsOthers)];
        }

        WeekLoad week = WeekLoad.Of(held, BookReader.WeekOf(house, date));
        return new StandingBook(setup, house, BookReader.LayOut(setup, house, date, 1, window)[0], week);
    }

    /// <summary>The plan over something that may be booked over, once it was read what; null where that is not possible.</summary>
    private static async Task<KnowingPlan?> OverAsync(
        NpgsqlConnection connection,
        SeenWarnings? warnings,
        StartFinder finder,
        DayBook day,
        int start,
        WeekLoad? week
    ) => warnings is null ? null : finder.PlanKnowingly(day, start, await warnings.AllowedAsync(connection), week);

    private static string[] WordsOf(KnowingPlan over, House house) =>
        [.. ReasonWords.Of(over.Warnings, house).Select(reason => reason.Text)];

    /// <summary>The answer to a start that does not fit: why, and the nearest that do.</summary>
    private static async Task<Refused> DoesNotFitAsync(
        NpgsqlConnection connection,
        StandingBook standing,
        StartFinder finder,
        int start,
        Audience? audience,
        Instant now
    )
    {
        (DayBook day, House house) = (standing.Day, standing.House);
        IReadOnlyList<Refusal> refusals = audience is null
            ? finder.WhyNotFeasible(day, start)
            : finder.WhyNotOffered(day, start, audience, now);
        LocalDate next = day.Day.Date.PlusDays(1);
        BookWindow ahead = await BookStore.WindowAsync(connection, BookReader.Asked(house, next, next.PlusDays(6)), now);
        IReadOnlyList<DayBook> days = [day, .. BookReader.LayOut(standing.Setup, house, next, 7, ahead)];
        List<Instant> free =
        [
            .. days.SelectMany(other =>
                    (audience is null ? finder.Feasible(other) : finder.Offered(other, audience, now)).Select(other.Day.At)
                )
                .Where(at => at >= now),
        ];
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

    /// <summary>Commits; what only the database can know is the same clear answer.</summary>
    private static async Task CommitAsync(BookTransaction transaction)
    {
        try
        {
            await transaction.CommitAsync();
        }
        catch (PostgresException exception) when (exception.ConstraintName == BookStore.DoubleBooking)
        {
            throw new Refused(StatusCodes.Status409Conflict, "start-taken", "That time has just been taken. Choose another.", "start");
        }
        catch (PostgresException exception)
            when (exception.SqlState == PostgresErrorCodes.ForeignKeyViolation && exception.ConstraintName == "visit_payer_id_fkey")
        {
            throw Refused.Invalid("payerId", "There is no such client.");
        }
        catch (PostgresException exception)
            when (exception.SqlState == PostgresErrorCodes.ForeignKeyViolation && exception.ConstraintName == "visit_person_client_id_fkey")
        {
            throw Refused.Invalid("people", "One of those who come is no client of yours. Choose another, or enter a name.");
        }
        catch (PostgresException exception)
            when (exception.SqlState == PostgresErrorCodes.ForeignKeyViolation
                && exception.TableName is "ledger_entry" or "payment" or "card_work")
        {
            throw new Refused(
                StatusCodes.Status409Conflict,
                "has-money",
                "Money was taken or asked for with this visit, so it stays in the book. Cancel it instead; what is due goes back."
            );
        }
        catch (RowChangedException)
        {
            // Under the locks this does not happen; were one ever left out, nothing is written, and it is worth trying again.
            throw Refused.Busy();
        }
    }
}
