using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests.Calendar;

/// <summary>What holds on dates comes back as it was written, is read by window, and counts its versions.</summary>
public sealed class CalendarStoreTests : IAsyncLifetime
{
    private static readonly LocalDate _date = new(2027, 3, 10);
    private TestDatabase _test = null!;
    private NpgsqlConnection _connection = null!;
    private Setup _setup = null!;

    public async ValueTask InitializeAsync()
    {
        _test = await TestDatabase.DemoAsync();
        _connection = await _test.Database.OpenAsync();
        _setup = await SetupReader.LoadAsync(_connection);
    }

    public async ValueTask DisposeAsync()
    {
        await _connection.DisposeAsync();
        await _test.DisposeAsync();
    }

    private Guid Practitioner => _setup.Practitioners[0].Id;

    private Guid Mill => _setup.Locations[0].Location.Id;

    private async Task WriteAsync(Func<CalendarWriter, Task> write, params LocalDate[] dates)
    {
        await using BookTransaction transaction = await BookTransaction.BeginAsync(_connection, new Change("Nell", TestDatabase.Now));
        await transaction.LockAsync(new BookLocks { Days = dates.Length == 0 ? [_date] : dates }, new BookQuestion());
        await write(transaction.Calendar);
        await transaction.CommitAsync();
    }

    private Task<CalendarWindow> ReadAsync(LocalDate from, LocalDate? until = null, Guid? about = null) =>
        CalendarReader.WindowAsync(_connection, from, until ?? from, about);

    private ShiftChange Change(string reason, params Shift[] shifts) => new(Practitioner, _date, shifts, true, reason);

    [Fact]
    public async Task A_shift_change_keeps_its_shifts_breaks_and_what_they_are_kept_for()
    {
        Guid service = _setup.Parts.Services[0].Service.Id, category = _setup.Categories[0].Category.Id;
        Shift morning = new(Mill, Stretch.Between(8, 0, 12, 30), [new Break(Stretch.Between(10, 0, 10, 15), "tea")])
        {
            Services = new HashSet<Guid> { service },
            Categories = new HashSet<Guid> { category },
        };
        Shift late = new(Mill, Stretch.Between(18, 0, 24, 0), []);
        await WriteAsync(writer => writer.SaveAsync(Change("course", morning, late)));
        Versioned<ShiftChange> read = (await ReadAsync(_date, about: Practitioner)).Changes.ShouldHaveSingleItem();
        (read.Version, read.Value.Reason, read.Value.WorksDuringClosure).ShouldBe((1, "course", true));
        read.Value.Shifts.Select(shift => shift.During).ShouldBe([morning.During, late.During]);
        read.Value.Shifts[0].Breaks.ShouldBe(morning.Breaks);
        read.Value.Shifts[0].Services.ShouldBe([service]);
        read.Value.Shifts[0].Categories.ShouldBe([category]);
        read.Value.Shifts[1].IsKept.ShouldBeFalse();

        // Saved again it takes the place of what was there; taken back the rota holds again.
        await WriteAsync(writer => writer.SaveAsync(Change("off")));
        read = (await ReadAsync(_date, about: Practitioner)).Changes.ShouldHaveSingleItem();
        (read.Version, read.Value.Shifts.Count).ShouldBe((2, 0));
        await WriteAsync(writer => writer.RemoveChangeAsync(Practitioner, _date));
        (await ReadAsync(_date, about: Practitioner)).Changes.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_block_over_midnight_is_in_the_window_of_both_days_and_of_no_other()
    {
        Guid id = Guid.CreateVersion7(), room = _setup.Parts.Rooms[0].Room.Id;
        Interval during = new(Instant.FromUtc(2027, 3, 10, 22, 0), Instant.FromUtc(2027, 3, 11, 3, 0));
        await WriteAsync(writer => writer.SaveBlockAsync(id, new BlockedTime(room, during, "damp")), _date, _date.PlusDays(1));
        async Task<bool> IsInAsync(LocalDate from, LocalDate until) =>
            (await ReadAsync(from, until, room)).Blocks.Any(block => block.Value.BlockId == id);
        (await IsInAsync(_date, _date)).ShouldBeTrue();
        (await IsInAsync(_date.PlusDays(1), _date.PlusDays(1))).ShouldBeTrue();
        (await IsInAsync(_date.PlusDays(-30), _date.PlusDays(30))).ShouldBeTrue();
        (await IsInAsync(_date.PlusDays(4), _date.PlusDays(9))).ShouldBeFalse();
        (await IsInAsync(_date.PlusDays(-9), _date.PlusDays(-4))).ShouldBeFalse();
        (await ReadAsync(_date, about: Guid.NewGuid())).Blocks.ShouldBeEmpty();

        Versioned<BlockedTime> read = (await CalendarReader.BlockAsync(_connection, id))!;
        (read.Version, read.Value.During, read.Value.Reason, read.Value.ResourceId).ShouldBe((1, during, "damp", room));
        Interval moved = new(during.Start, during.Start + Duration.FromHours(1));
        await WriteAsync(writer => writer.SaveBlockAsync(id, new BlockedTime(room, moved, "dry soon")), _date);
        read = (await CalendarReader.BlockAsync(_connection, id))!;
        (read.Version, read.Value.During, read.Value.Reason).ShouldBe((2, moved, "dry soon"));
        await WriteAsync(writer => writer.RemoveBlockAsync(id));
        (await CalendarReader.BlockAsync(_connection, id)).ShouldBeNull();
    }

    [Fact]
    public async Task Closures_of_one_date_are_the_books_and_yearly_ones_the_setups()
    {
        LocalDate feast = new(2027, 8, 2);
        await WriteAsync(writer => writer.SaveAsync(new Closure(Mill, _date, false, "boiler", "Back tomorrow")), _date);
        await WriteAsync(writer => writer.SaveAsync(new Closure(Mill, feast, true, "feast")), feast);
        CalendarWindow window = await ReadAsync(new LocalDate(2027, 1, 1), new LocalDate(2027, 12, 31), Mill);
        window.Closures.Select(closure => closure.Value.Date).ShouldContain(_date);
        window.Closures.Select(closure => closure.Value.Date).ShouldNotContain(feast);
        Closure boiler = window.Closures.Single(closure => closure.Value.Date == _date).Value;
        (boiler.Reason, boiler.ForClients).ShouldBe(("boiler", "Back tomorrow"));
        _setup = await SetupReader.LoadAsync(_connection);
        _setup.Parts.YearlyClosures.Select(closure => closure.Value.Date).ShouldContain(feast);
        // Both together are what a date is looked at by, years later too.
        DatedCalendar dated = window.With(_setup);
        dated.ClosureOn(Mill, _date).ShouldNotBeNull();
        dated.ClosureOn(Mill, feast.PlusYears(3)).ShouldNotBeNull();
        dated.ClosureOn(Mill, _date.PlusYears(1)).ShouldBeNull();
        await WriteAsync(writer => writer.RemoveClosureAsync(Mill, _date));
        (await ReadAsync(_date, about: Mill)).Closures.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_stopped_day_has_its_reason_and_its_version()
    {
        await WriteAsync(writer => writer.SaveStopAsync(Mill, _date, "inventory"));
        await WriteAsync(writer => writer.SaveStopAsync(Mill, _date, "wedding"));
        Versioned<OnlineStop> stop = (await ReadAsync(_date, about: Mill)).Stops.ShouldHaveSingleItem();
        (stop.Value.Reason, stop.Version).ShouldBe(("wedding", 2));
        (await CalendarReader.ClosedDaysAsync(_connection, _date)).Stops.Select(day => day.Value.Date).ShouldContain(_date);
        (await CalendarReader.ClosedDaysAsync(_connection, _date.PlusDays(1))).Stops.Select(day => day.Value.Date).ShouldNotContain(_date);
        await WriteAsync(writer => writer.RemoveStopAsync(Mill, _date));
        (await ReadAsync(_date, about: Mill)).Stops.ShouldBeEmpty();
    }

    [Fact]
    public async Task Who_works_where_on_changed_days_is_told_from_a_date_on()
    {
        Guid elsewhere = _setup.Locations[^1].Location.Id;
        await WriteAsync(writer => writer.SaveAsync(Change("fair", new Shift(elsewhere, Stretch.Between(9, 0, 12, 0), []))));
        (await CalendarReader.PlacesAsync(_connection, _date))[Practitioner].ShouldContain(elsewhere);
        (await CalendarReader.PlacesAsync(_connection, _date.PlusDays(1)))[Practitioner].ShouldNotContain(elsewhere);
    }

    [Fact]
    public async Task Days_locked_by_one_are_waited_for_by_another_and_counted_by_both()
    {
        await using NpgsqlConnection other = await _test.Database.OpenAsync();
        long before = (await BookStore.RevisionsAsync(_connection, _date, _date)).GetValueOrDefault(_date);
        BookTransaction first = await BookTransaction.BeginAsync(_connection, new Change("Nell", TestDatabase.Now));
        await first.LockAsync(new BookLocks { Days = [_date] }, new BookQuestion());
        BookTransaction second = await BookTransaction.BeginAsync(other, new Change("Ada", TestDatabase.Now));
        Task<LockedBook> waiting = second.LockAsync(new BookLocks { Days = [_date] }, new BookQuestion());
        waiting.IsCompleted.ShouldBeFalse();
        await first.CommitAsync();
        await first.DisposeAsync();
        await waiting;
        await second.CommitAsync();
        await second.DisposeAsync();
        (await BookStore.RevisionsAsync(_connection, _date, _date))[_date].ShouldBe(before + 2);
    }

    [Fact]
    public async Task What_was_rolled_back_counts_no_revision_and_leaves_nothing()
    {
        long before = (await BookStore.RevisionsAsync(_connection, _date, _date)).GetValueOrDefault(_date);
        BookTransaction transaction = await BookTransaction.BeginAsync(_connection, new Change("Nell", TestDatabase.Now));
        await transaction.LockAsync(new BookLocks { Days = [_date] }, new BookQuestion());
        await transaction.Calendar.SaveStopAsync(Mill, _date, "never mind");
        await transaction.DisposeAsync();
        (await BookStore.RevisionsAsync(_connection, _date, _date)).GetValueOrDefault(_date).ShouldBe(before);
        (await ReadAsync(_date, about: Mill)).Stops.ShouldBeEmpty();
    }
}
