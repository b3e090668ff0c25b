using System.Collections.Concurrent;
using Kingcup.Core.Availability;
using Kingcup.Core.Time;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Booking;

/// <summary>
/// The setup and the book days as this server remembers them. Nothing here is trusted without asking: every use first reads
/// the revisions from the database, and only what has the present revision is used again.
/// </summary>
public sealed class BookReader
{
    private const int MostDays = 4000;
    private readonly ConcurrentDictionary<(Guid Location, LocalDate Date), Remembered> _days = new();
    private volatile Setup? _setup;

    private sealed record Remembered(Setup Setup, long Revision, DayBook Day);

    /// <summary>The present setup.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="locked">Whether the caller's transaction holds the lock of the setup, shared or alone.</param>
    public async Task<Setup> SetupAsync(NpgsqlConnection connection, bool locked = false)
    {
        Setup? known = _setup;
        if (known is not null && known.Revision == await SetupReader.RevisionAsync(connection)) return known;
        return _setup = locked ? await SetupReader.ReadAsync(connection) : await SetupReader.LoadAsync(connection);
    }

    /// <summary>Book days in a row.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="setup">The setup to lay them out by.</param>
    /// <param name="house">The house.</param>
    /// <param name="from">The first date.</param>
    /// <param name="count">How many.</param>
    /// <param name="locked">Dates whose lock this transaction has taken: their revision has been counted on, but nothing written yet.</param>
    public async Task<IReadOnlyList<DayBook>> DaysAsync(
        NpgsqlConnection connection, Setup setup, House house, LocalDate from, int count, IReadOnlyCollection<LocalDate>? locked = null)
    {
        IReadOnlyDictionary<LocalDate, long> revisions = await BookStore.RevisionsAsync(connection, from.PlusDays(-1), from.PlusDays(count));
        // A day's window reaches into its neighbours, so it is as new as all three. Revisions only grow.
        long RevisionOf(LocalDate date) =>
            Enumerable.Range(-1, 3).Sum(offset => revisions.GetValueOrDefault(date.PlusDays(offset)) - (locked?.Contains(date.PlusDays(offset)) == true ? 1 : 0));

        DayBook?[] days = new DayBook?[count];
        List<int> stale = [];
        for (int i = 0; i < count; i++)
        {
            LocalDate date = from.PlusDays(i);
            bool known = _days.TryGetValue((house.Location.Id, date), out Remembered? remembered)
                && ReferenceEquals(remembered.Setup, setup) && remembered.Revision == RevisionOf(date);
            if (known) days[i] = remembered!.Day;
            else stale.Add(i);
        }

        if (stale.Count > 0)
        {
            Interval window = new(
                new BookDay(from.PlusDays(stale[0]), house.Location.Zone).At(DaySet.First),
                new BookDay(from.PlusDays(stale[^1]), house.Location.Zone).At(DaySet.Last + 1));
            IReadOnlyList<TakenTime> taken = await BookStore.TakenAsync(connection, window);
            if (_days.Count > MostDays) _days.Clear();
            foreach (int i in stale)
            {
                LocalDate date = from.PlusDays(i);
                days[i] = LayOut(setup, house, date, taken);
                _days[(house.Location.Id, date)] = new Remembered(setup, RevisionOf(date), days[i]!);
            }
        }

        return days!;
    }

    /// <summary>The load of the week around a date, where the practitioner is assigned by it; null where it does not matter.</summary>
    public async Task<WeekLoad?> WeekAsync(
        NpgsqlConnection connection, Setup setup, House house, StartFinder finder, LocalDate date, IReadOnlyCollection<LocalDate>? locked = null) =>
        finder.AsksForLoad ? WeekLoad.Of(await DaysAsync(connection, setup, house, date.PlusDays(1 - (int)date.DayOfWeek), 7, locked)) : null;

    /// <summary>The same day as if a visit were not in it, for moving that visit.</summary>
    public static DayBook Without(DayBook day, StoredVisit visit)
    {
        HashSet<Guid> own = [.. visit.Lines.Select(line => line.Id)];
        return new DayBook(day.House, day.Day.Date, day.Taken.Where(claim => claim.AppointmentId is not { } id || !own.Contains(id)), day.Blocked);
    }

    private static DayBook LayOut(Setup setup, House house, LocalDate date, IReadOnlyList<TakenTime> taken)
    {
        BookDay day = new(date, house.Location.Zone);
        Interval window = new(day.At(DaySet.First), day.At(DaySet.Last + 1));
        bool Meets(Interval other) => other.Start < window.End && window.Start < other.End;
        return new DayBook(house, date, taken.Where(claim => Meets(claim.During)), setup.Blocks.Around(day));
    }
}
