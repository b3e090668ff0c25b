using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Availability;
using Kingcup.Server.Business;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Calendar;

/// <summary>A change of what holds on dates, checked and ready to be written.</summary>
internal sealed record CalendarPlan
{
    /// <summary>The days it lies on, before and after.</summary>
    internal IReadOnlyCollection<LocalDate> Days { get; init; } = [];

    /// <summary>Where visits booked ahead may lose their place to it.</summary>
    internal IReadOnlyCollection<StretchOfTime> Meets { get; init; } = [];

    /// <summary>Whether it comes back for ever, before or after, and so belongs to the setup.</summary>
    internal bool IsStanding { get; init; }

    /// <summary>Writes it, under the locks.</summary>
    internal required Func<CalendarChange, Task> WriteAsync { get; init; }
}

/// <summary>A change of what holds on dates under way, in its transaction and under its locks.</summary>
/// <param name="Connection">The connection of the transaction, for what is read beside.</param>
/// <param name="Writer">Writes.</param>
/// <param name="Setup">The setup as it stands.</param>
/// <param name="By">Who changes it, and when.</param>
internal sealed record CalendarChange(NpgsqlConnection Connection, CalendarWriter Writer, Setup Setup, Change By)
{

    /// <summary>Writes an entry of the history: what was done to what, and how it stood before and after.</summary>
    internal Task RecordAsync(string kind, Guid id, string action, object? before, object? after) =>
        History.RecordAsync(Connection, new Subject(kind, id), action, before, after, By);
}

/// <summary>
/// The operations that change what holds on dates: shift changes, blocked time, closures, stopped days. Each is one transaction that
/// locks the days it lies on and nothing else, and looks at those visits only that it can hit. What comes back for ever is changed as
/// the setup is.
/// </summary>
internal sealed class CalendarDesk(Database database, BookReader book, SetupDesk setups, IClock clock)
{
    private const int MostDayNotices = 60;

    /// <summary>Makes a change for the person signed in.</summary>
    /// <param name="http">The request.</param>
    /// <param name="plan">Checks what is asked by the setup as it stands.</param>
    /// <param name="answer">The answer, where the request comes with a key to keep it with.</param>
    /// <exception cref="Refused">It cannot be made so; nothing was changed.</exception>
    internal async Task ChangeAsync(HttpContext http, Func<Setup, NpgsqlConnection, Task<CalendarPlan>> plan, Answered? answer = null)
    {
        Change change = new(http.Actor().Name, clock.GetCurrentInstant());
        string accept = http.Request.Headers[Hits.AcceptHeader].ToString();
        RequestKey? key = http.Key();
        await OnceMore.RunAsync(async () =>
        {
            await using NpgsqlConnection connection = await database.OpenAsync();
            Setup setup = await book.SetupAsync(connection);
            CalendarPlan planned = await plan(setup, connection);
            if (planned.IsStanding) await ChangeSetupAsync(planned, change, accept, key, answer);
            else await ChangeDaysAsync(connection, setup, planned, change, accept, key, answer);
            return true;
        });
    }

    private Task<bool> ChangeSetupAsync(CalendarPlan plan, Change change, string accept, RequestKey? key, Answered? answer) =>
        setups.ChangeAsync(
            change,
            accept,
            async made =>
            {
                await made.Transaction.CountDaysAsync(plan.Days);
                await plan.WriteAsync(new CalendarChange(made.Connection, made.Transaction.Calendar, made.Setup, change));
                return true;
            },
            key: key,
            answer: answer is null ? null : (_, _) => answer
        );

    private async Task ChangeDaysAsync(
        NpgsqlConnection connection,
        Setup seen,
        CalendarPlan plan,
        Change change,
        string accept,
        RequestKey? key,
        Answered? answer
    )
    {
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, change);
        // A visit may reach over midnight: the days beside stay as they are meanwhile.
        LockedBook locked = await transaction.LockAsync(
            new BookLocks
            {
                Key = key?.ToTake,
                Days = plan.Days,
                Beside = [.. plan.Days.SelectMany(date => new[] { date.PlusDays(-1), date.PlusDays(1) })],
            },
            new BookQuestion()
        );
        if (locked.IsAnswered)
            throw await key!.AnsweredBeforeAsync(connection);
        Setup setup = locked.SetupRevision == seen.Revision ? seen : await book.LockedSetupAsync(connection, locked.SetupRevision);
        IReadOnlyList<StoredVisit> met = await BookStore.MeetingAsync(connection, plan.Meets, change.At);
        CalendarWindow before = await NeedsPlace.DatesAsync(connection, met);
        await plan.WriteAsync(new CalendarChange(connection, transaction.Calendar, setup, change));
        CalendarWindow after = await NeedsPlace.DatesAsync(connection, met);
        Hits.Require(setup, NeedsPlace.Of(setup, before.With(setup), met), NeedsPlace.Of(setup, after.With(setup), met), accept);
        if (plan.Days.Count > MostDayNotices)
            transaction.Tell(LiveNotices.Setup);
        else
            foreach (ListedLocation location in setup.Locations)
                foreach (LocalDate date in plan.Days)
                    transaction.Tell(LiveNotices.Day(location.Location.Id, date));
        if (key is not null && answer is not null)
            key.Keep(transaction, answer);
        await transaction.CommitAsync();
    }

    /// <summary>A date in every zone the business has locations in, as one stretch of time.</summary>
    internal static Interval Everywhere(Setup setup, LocalDate date)
    {
        List<BookDay> days =
        [
            .. setup
                .Locations.Select(location => location.Location.Zone)
                .Distinct()
                .DefaultIfEmpty(DateTimeZone.Utc)
                .Select(zone => new BookDay(date, zone)),
        ];
        return new Interval(days.Min(day => day.Start), days.Max(day => day.End));
    }

    /// <summary>The dates a stretch of time touches in any of those zones.</summary>
    internal static IReadOnlyCollection<LocalDate> DatesOf(Setup setup, Interval during)
    {
        HashSet<LocalDate> dates = [];
        foreach (DateTimeZone zone in setup.Locations.Select(location => location.Location.Zone).Distinct())
        {
            LocalDate last = (during.End - Duration.Epsilon).InZone(zone).Date;
            for (LocalDate date = during.Start.InZone(zone).Date; date <= last; date = date.PlusDays(1)) dates.Add(date);
        }

        return dates;
    }
}
