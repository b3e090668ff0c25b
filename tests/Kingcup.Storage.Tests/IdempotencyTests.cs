using Dapper;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests;

/// <summary>A key is one request's: its first answer is kept with what it made, or not at all.</summary>
public sealed class IdempotencyTests : IAsyncLifetime
{
    private TestDatabase _test = null!;

    public async ValueTask InitializeAsync() => _test = await TestDatabase.EmptyAsync();

    public ValueTask DisposeAsync() => _test.DisposeAsync();

    private static KeyToTake Key(string key, byte body = 1) => new("staff", key, [body]);

    [Fact]
    public async Task A_key_is_taken_once_and_its_answer_is_the_first_one()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        (await IdempotencyStore.FindAsync(connection, "staff", "one-key-1")).ShouldBeNull();
        (await IdempotencyStore.TakeAsync(connection, Key("one-key-1"), TestDatabase.Now)).ShouldBeTrue();
        await IdempotencyStore.KeepAsync(connection, Key("one-key-1"), 201, "/visits/1", "{}");
        (await IdempotencyStore.TakeAsync(connection, Key("one-key-1", body: 2), TestDatabase.Now)).ShouldBeFalse();
        RememberedAnswer first = (await IdempotencyStore.FindAsync(connection, "staff", "one-key-1"))!;
        (first.Status, first.Location, first.Body, first.Fingerprint[0]).ShouldBe((201, "/visits/1", "{}", (byte)1));
        // Somebody else's key of the same name is another.
        (await IdempotencyStore.FindAsync(connection, "public", "one-key-1")).ShouldBeNull();
    }

    [Fact]
    public async Task Of_many_who_take_a_key_at_once_one_has_it_and_the_others_wait_for_its_answer()
    {
        async Task<bool> TakeAsync(int i)
        {
            await using NpgsqlConnection connection = await _test.Database.OpenAsync();
            await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
            bool taken = await IdempotencyStore.TakeAsync(connection, Key("race-key-1"), TestDatabase.Now);
            if (taken) await IdempotencyStore.KeepAsync(connection, Key("race-key-1"), 200, null, $"{i}");
            else (await IdempotencyStore.FindAsync(connection, "staff", "race-key-1"))!.Status.ShouldBe(200);
            await transaction.CommitAsync();
            return taken;
        }

        (await Task.WhenAll(Enumerable.Range(0, 20).Select(TakeAsync))).Count(isTaken => isTaken).ShouldBe(1);
    }

    [Fact]
    public async Task A_key_whose_request_failed_is_free_again()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        await using (NpgsqlTransaction failing = await connection.BeginTransactionAsync())
        {
            (await IdempotencyStore.TakeAsync(connection, Key("failed-1"), TestDatabase.Now)).ShouldBeTrue();
            await failing.RollbackAsync();
        }

        (await IdempotencyStore.TakeAsync(connection, Key("failed-1"), TestDatabase.Now)).ShouldBeTrue();
    }

    [Fact]
    public async Task A_transaction_of_the_book_takes_and_keeps_a_key_with_what_it_writes()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        LocalDate date = new(2027, 3, 10);
        async Task<bool> RunAsync(bool commits)
        {
            await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, new Change("Nell", TestDatabase.Now));
            LockedBook locked = await transaction.LockAsync(new BookLocks { Key = Key("book-key-1"), Days = [date] }, new BookQuestion());
            if (locked.IsAnswered) return false;
            IdempotencyStore.Keep(transaction, Key("book-key-1"), 201, null, "{}");
            if (commits) await transaction.CommitAsync();
            return true;
        }

        (await RunAsync(commits: false)).ShouldBeTrue();
        (await RunAsync(commits: true)).ShouldBeTrue();
        (await RunAsync(commits: true)).ShouldBeFalse();
        (await BookStore.RevisionsAsync(connection, date, date))[date].ShouldBe(1);
    }

    [Fact]
    public async Task Whoever_comes_with_a_key_that_was_answered_reads_the_answer_though_what_else_was_asked_is_on_its_way()
    {
        await using TestDatabase demo = await TestDatabase.DemoAsync();
        LocalDate date = new(2027, 3, 11);
        Interval during = new(Instant.FromUtc(2027, 3, 11, 0, 0), Instant.FromUtc(2027, 3, 12, 0, 0));
        BookLocks locks = new() { Key = Key("book-key-2"), Days = [date] };
        BookQuestion question = new() { Days = new DaysAsked(date, date, during), Client = new ClientAsked(Guid.NewGuid()) };
        await using NpgsqlConnection first = await demo.Database.OpenAsync();
        await using (BookTransaction answered = await BookTransaction.BeginAsync(first, new Change("Nell", TestDatabase.Now)))
        {
            await answered.LockAsync(locks, new BookQuestion());
            IdempotencyStore.Keep(answered, Key("book-key-2"), 201, null, "{}");
            await answered.CommitAsync();
        }

        // So much is on that day that it arrives in parts.
        await first.ExecuteAsync(
            """
            INSERT INTO blocked_time (id, resource_id, during, reason)
            SELECT gen_random_uuid(), (SELECT id FROM resource LIMIT 1), tstzrange(@Start, @End), repeat('x', 60)
            FROM generate_series(1, 300)
            """,
            new { during.Start, during.End }
        );
        await using NpgsqlConnection second = await demo.Database.OpenAsync();
        await using BookTransaction again = await BookTransaction.BeginAsync(second, new Change("Nell", TestDatabase.Now));
        Task<LockedBook> asks;
        await using (NpgsqlTransaction other = await first.BeginTransactionAsync())
        {
            // What is asked of the client has to wait.
            await first.ExecuteAsync("LOCK TABLE client IN ACCESS EXCLUSIVE MODE");
            asks = again.LockAsync(locks, question);
            await using NpgsqlConnection watch = await demo.Database.OpenAsync();
            const string Waiting = "SELECT EXISTS (SELECT 1 FROM pg_stat_activity WHERE pid = @Pid AND wait_event_type = 'Lock')";
            while (!asks.IsCompleted && !await watch.ExecuteScalarAsync<bool>(Waiting, new { Pid = second.ProcessID }))
                await Task.Delay(10, TestContext.Current.CancellationToken);
        }

        (await asks).IsAnswered.ShouldBeTrue();
        (await IdempotencyStore.FindAsync(second, "staff", "book-key-2"))!.Body.ShouldBe("{}");
    }

    [Fact]
    public async Task Old_keys_are_forgotten_and_young_ones_are_not()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        await IdempotencyStore.TakeAsync(connection, Key("old-key-1"), TestDatabase.Now - Duration.FromDays(3));
        await IdempotencyStore.TakeAsync(connection, Key("young-key-1"), TestDatabase.Now);
        await IdempotencyStore.ForgetAsync(connection, TestDatabase.Now - Duration.FromDays(2));
        (await IdempotencyStore.FindAsync(connection, "staff", "old-key-1")).ShouldBeNull();
        (await IdempotencyStore.FindAsync(connection, "staff", "young-key-1")).ShouldNotBeNull();
    }
}
