using System.Collections.Concurrent;
using Kingcup.Core.Availability;
using Kingcup.Core.Time;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>
/// The setup and the book days as this server remembers them. Nothing here is trusted without asking: every use first reads
/// the revisions from the database, and only what has the present revision is used again.
/// </summary>
public sealed class BookReader
{
    private const int MostDays = 4000;
    private readonly ConcurrentDictionary<(Guid Location, LocalDate Date), Remembered> _days = new();
    private volatile Setup? _setup;

    private sealed record Remembered(Setup Setup, Revisions Revisions, DayBook Day);

    /// <summary>The revisions of the three days that the window of one day is made of.</summary>
    private readonly record struct Revisions(long Before, long On, long After);

    /// <summary>The present setup.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="locked">Whether the caller's transaction holds the lock of the setup, shared or alone.</param>
    public async Task<Setup> SetupAsync(NpgsqlConnection connection, bool locked = false)
    {
        Setup? known = _setup;
        if (known is not null && known.Revision == await SetupReader.RevisionAsync(connection)) return known;
        // What a transaction reads that holds the lock may be its own writing, so nothing of it is remembered.
        return locked ? await SetupReader.ReadAsync(connection) : _setup = await SetupReader.LoadAsync(connection);
    }

    /// <summary>Book days in a row, as this server remembers them where nothing has changed since. Never inside a transaction that writes.</summary>
    /// <param name="connection">An open connection outside any transaction.</param>
    /// <param name="setup">The setup to lay them out by.</param>
    /// <param name="house">The house.</param>
    /// <param name="from">The first date.</param>
    /// <param name="count">How many.</param>
    public async Task<IReadOnlyList<DayBook>> DaysAsync(NpgsqlConnection connection, Setup setup, House house, LocalDate from, int count)
    {
        // Read before the claims: what is kept may then be newer than the revisions it is kept by, never older.
        IReadOnlyDictionary<LocalDate, long> known = await BookStore.RevisionsAsync(connection, from.PlusDays(-1), from.PlusDays(count));
        Revisions RevisionsOf(LocalDate date) => new(known.GetValueOrDefault(date.PlusDays(-1)), known.GetValueOrDefault(date), known.GetValueOrDefault(date.PlusDays(1)));

        DayBook?[] days = new DayBook?[count];
        List<LocalDate> stale = [];
        for (int i = 0; i < count; i++)
        {
            LocalDate date = from.PlusDays(i);
            if (_days.TryGetValue((house.Location.Id, date), out Remembered? remembered) && ReferenceEquals(remembered.Setup, setup) && remembered.Revisions == RevisionsOf(date))
                days[i] = remembered.Day;
            else stale.Add(date);
        }

        if (stale.Count == 0) return days!;
        IReadOnlyList<TakenTime> taken = await BookStore.TakenAsync(connection, WindowOf(house, stale[0], stale[^1]));
        if (_days.Count > MostDays) _days.Clear();
        foreach (LocalDate date in stale)
        {
            DayBook day = LayOut(setup, house, date, taken);
            days[Period.DaysBetween(from, date)] = day;
            _days[(house.Location.Id, date)] = new Remembered(setup, RevisionsOf(date), day);
        }

        return days!;
    }

    /// <summary>Book days in a row as the caller's transaction sees them. Nothing of it is remembered: it may never be committed.</summary>
    public static async Task<IReadOnlyList<DayBook>> FreshDaysAsync(NpgsqlConnection connection, Setup setup, House house, LocalDate from, int count)
    {
        IReadOnlyList<TakenTime> taken = await BookStore.TakenAsync(connection, WindowOf(house, from, from.PlusDays(count - 1)));
        return [.. Enumerable.Range(0, count).Select(i => LayOut(setup, house, from.PlusDays(i), taken))];
    }

    /// <summary>The load of the week around a date, where the practitioner is assigned by it; null where it does not matter.</summary>
    public async Task<WeekLoad?> WeekAsync(NpgsqlConnection connection, Setup setup, House house, StartFinder finder, LocalDate date) =>
        finder.AsksForLoad ? WeekLoad.Of(await DaysAsync(connection, setup, house, MondayOf(date), 7)) : null;

    /// <summary>The same inside a transaction that writes.</summary>
    public static async Task<WeekLoad?> FreshWeekAsync(NpgsqlConnection connection, Setup setup, House house, StartFinder finder, LocalDate date) =>
        finder.AsksForLoad ? WeekLoad.Of(await FreshDaysAsync(connection, setup, house, MondayOf(date), 7)) : null;

    private static LocalDate MondayOf(LocalDate date) => date.PlusDays(1 - (int)date.DayOfWeek);

    private static Interval WindowOf(House house, LocalDate first, LocalDate last) =>
        new(new BookDay(first.PlusDays(-1), house.Location.Zone).Start, new BookDay(last.PlusDays(1), house.Location.Zone).End);

    /// <summary>The same day as if a visit were not in it, for moving that visit.</summary>
    public static DayBook Without(DayBook day, StoredVisit visit) => day.Without(visit.Lines.Select(line => line.Id).ToHashSet());

    private static DayBook LayOut(Setup setup, House house, LocalDate date, IReadOnlyList<TakenTime> taken)
    {
        Interval window = WindowOf(house, date, date);
        bool Meets(Interval other) => other.Start < window.End && window.Start < other.End;
        return new DayBook(house, date, setup.Dated, taken.Where(claim => Meets(claim.During)));
    }
}
