using System.Collections.Concurrent;
using Kingcup.Core.Availability;
using Kingcup.Core.Calendar;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Availability;

/// <summary>
/// The setup and the book days as this server remembers them. Nothing here is trusted without asking: every use first reads
/// the revisions from the database, and only what has the present revision is used again, until something in it runs out.
/// </summary>
public sealed class BookReader(IClock clock) : IDisposable
{
    private const int MostDays = 4000;
    private readonly ConcurrentDictionary<(Guid Location, LocalDate Date), Remembered> _days = new();
    private readonly SemaphoreSlim _reading = new(1, 1);
    private volatile Setup? _setup;

    private sealed record Remembered(Setup Setup, Revisions Revisions, DayBook Day);

    /// <summary>The revisions of the three days that the window of one day is made of.</summary>
    private readonly record struct Revisions(long Before, long On, long After);

    /// <summary>The present setup. Many who ask at once have it read once.</summary>
    /// <param name="connection">An open connection outside any transaction that changes the setup.</param>
    public async Task<Setup> SetupAsync(NpgsqlConnection connection)
    {
        long? present = await SetupReader.RevisionAsync(connection);
        Setup? known = _setup;
        if (known is not null && known.Revision == present) return known;
        await _reading.WaitAsync();
        try
        {
            // Whoever waited finds what the first has read, at least as new as what they have seen.
            if (_setup is { } read && !ReferenceEquals(read, known) && read.Revision >= present) return read;
            return _setup = await SetupReader.LoadAsync(connection);
        }
        finally
        {
            _reading.Release();
        }
    }

    /// <summary>The present setup for a request that brings a key, with which its revision was read.</summary>
    internal async Task<Setup> SetupAsync(Database database, RequestKey? key)
    {
        if (_setup is { } known && known.Revision == key?.SetupRevision) return known;
        await using NpgsqlConnection connection = await database.OpenAsync();
        return await SetupAsync(connection);
    }

    /// <summary>The setup as it was last read here, or null before that. It may be older than what is stored.</summary>
    public Setup? LastRead => _setup;

    /// <summary>The setup as a transaction sees it that holds its lock. It may be its own writing, so nothing of it is
    /// remembered.</summary>
    /// <param name="connection">An open connection in the transaction.</param>
    /// <param name="revision">The present revision.</param>
    public async Task<Setup> LockedSetupAsync(NpgsqlConnection connection, long? revision) =>
        _setup is { } known && known.Revision == revision ? known : await SetupReader.ReadAsync(connection);

    /// <summary>Book days in a row, as this server remembers them where nothing has changed since. Never inside a transaction that
    /// writes.</summary>
    /// <param name="connection">An open connection outside any transaction.</param>
    /// <param name="setup">The setup to lay them out by.</param>
    /// <param name="house">The house.</param>
    /// <param name="from">The first date.</param>
    /// <param name="count">How many.</param>
    public async Task<IReadOnlyList<DayBook>> DaysAsync(NpgsqlConnection connection, Setup setup, House house, LocalDate from, int count)
    {
        Instant now = clock.GetCurrentInstant();
        // Read before the claims: what is kept may then be newer than the revisions it is kept by, never older.
        IReadOnlyDictionary<LocalDate, long> known = await BookStore.RevisionsAsync(connection, from.PlusDays(-1), from.PlusDays(count));
        Revisions RevisionsOf(LocalDate date) =>
            new(known.GetValueOrDefault(date.PlusDays(-1)), known.GetValueOrDefault(date), known.GetValueOrDefault(date.PlusDays(1)));
        bool IsPresent(Remembered kept, LocalDate date) =>
            ReferenceEquals(kept.Setup, setup)
            && kept.Revisions == RevisionsOf(date)
            && (kept.Day.TrueUntil is not { } until || now < until);

        DayBook?[] days = new DayBook?[count];
        List<LocalDate> stale = [];
        for (int i = 0; i < count; i++)
        {
            LocalDate date = from.PlusDays(i);
            if (_days.TryGetValue((house.Location.Id, date), out Remembered? kept) && IsPresent(kept, date)) days[i] = kept.Day;
            else stale.Add(date);
        }

        if (stale.Count == 0) return days!;
        BookWindow window = await BookStore.WindowAsync(connection, Asked(house, stale[0], stale[^1]), now);
        DatedCalendar dated = window.Calendar.With(setup);
        if (_days.Count > MostDays) _days.Clear();
        foreach (LocalDate date in stale)
        {
            DayBook day = LayOut(house, date, dated, window.Taken);
            days[Period.DaysBetween(from, date)] = day;
            _days[(house.Location.Id, date)] = new Remembered(setup, RevisionsOf(date), day);
        }

        return days!;
    }

    /// <summary>The load of the week around a date, where the practitioner is assigned by it; null where it does not matter.</summary>
    public async Task<WeekLoad?> WeekAsync(NpgsqlConnection connection, Setup setup, House house, StartFinder finder, LocalDate date) =>
        finder.AsksForLoad ? WeekLoad.Of(await DaysAsync(connection, setup, house, MondayOf(date), 7)) : null;

    /// <summary>The Monday of a date's week.</summary>
    internal static LocalDate MondayOf(LocalDate date) => date.PlusDays(1 - (int)date.DayOfWeek);

    /// <summary>The local week of a date, Monday to Sunday.</summary>
    internal static Interval WeekOf(House house, LocalDate date)
    {
        LocalDate monday = MondayOf(date);
        return new Interval(new BookDay(monday, house.Location.Zone).Start, new BookDay(monday.PlusDays(6), house.Location.Zone).End);
    }

    /// <summary>What has to be read of the book to lay out the days from <paramref name="first"/> to <paramref name="last"/>: a day reaches
    /// over those beside it.</summary>
    internal static DaysAsked Asked(House house, LocalDate first, LocalDate last)
    {
        DateTimeZone zone = house.Location.Zone;
        (LocalDate from, LocalDate until) = (first.PlusDays(-1), last.PlusDays(1));
        return new DaysAsked(from, until, new Interval(new BookDay(from, zone).Start, new BookDay(until, zone).End));
    }

    /// <summary>Days in a row laid out from a window that reaches over those beside them.</summary>
    internal static IReadOnlyList<DayBook> LayOut(Setup setup, House house, LocalDate from, int count, BookWindow window)
    {
        DatedCalendar dated = window.Calendar.With(setup);
        return [.. Enumerable.Range(0, count).Select(i => LayOut(house, from.PlusDays(i), dated, window.Taken))];
    }

    /// <summary>The same day as if a visit were not in it, for moving that visit.</summary>
    public static DayBook Without(DayBook day, StoredVisit visit) => day.Without(visit.Lines.Select(line => line.Id).ToHashSet());

    /// <inheritdoc/>
    public void Dispose() => _reading.Dispose();

    private static DayBook LayOut(House house, LocalDate date, DatedCalendar dated, IReadOnlyList<TakenTime> taken)
    {
        Interval window = Asked(house, date, date).During;
        return new DayBook(house, date, dated, taken.Where(claim => claim.During.Start < window.End && window.Start < claim.During.End));
    }
}
