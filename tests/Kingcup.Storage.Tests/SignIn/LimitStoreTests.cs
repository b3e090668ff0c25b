using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests.SignIn;

/// <summary>Limits are counted in the database: what one server lets through another one knows.</summary>
public sealed class LimitStoreTests : IAsyncLifetime
{
    private static readonly Duration _window = Duration.FromMinutes(15);
    private static readonly byte[] _ada = [1], _eve = [2], _home = [10], _cafe = [11];
    private TestDatabase _test = null!;

    public async ValueTask InitializeAsync() => _test = await TestDatabase.EmptyAsync();

    public ValueTask DisposeAsync() => _test.DisposeAsync();

    private async Task<T> AskAsync<T>(Func<NpgsqlConnection, Task<T>> ask)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        return await ask(connection);
    }

    private Task<int> TryAsync(byte[] account, byte[] range, Duration later = default) => AskAsync(connection =>
        LimitStore.CountSignInAsync(connection, account, range, TestDatabase.Now + later, _window));

    private Task<int> TakeAsync(int wanted, int most = 10, byte[]? range = null, long minute = 7, string policy = "read") => AskAsync(
        connection => LimitStore.TakeRequestsAsync(connection, policy, range ?? _home, minute, wanted, most));

    [Fact]
    public async Task Tries_are_counted_for_an_account_from_a_range_and_for_no_other()
    {
        (await TryAsync(_ada, _home)).ShouldBe(1);
        (await TryAsync(_ada, _home)).ShouldBe(2);
        // Somebody who guesses from elsewhere does not lock the owner out, nor anybody beside them.
        (await TryAsync(_ada, _cafe)).ShouldBe(1);
        (await TryAsync(_eve, _home)).ShouldBe(1);
    }

    [Fact]
    public async Task Tries_of_many_connections_at_once_are_counted_one_by_one()
    {
        int[] counted = await Task.WhenAll(Enumerable.Range(0, 30).Select(_ => TryAsync(_eve, _cafe)));
        counted.Order().ShouldBe(Enumerable.Range(1, 30));
    }

    [Fact]
    public async Task The_window_begins_with_the_first_try_and_a_later_one_does_not_stretch_it()
    {
        (await TryAsync(_ada, [12])).ShouldBe(1);
        (await TryAsync(_ada, [12], Duration.FromMinutes(14))).ShouldBe(2);
        (await TryAsync(_ada, [12], Duration.FromMinutes(15))).ShouldBe(1);
    }

    [Fact]
    public async Task A_good_password_forgets_the_tries_of_its_range_and_an_operator_those_of_all()
    {
        foreach (byte range in new byte[] { 20, 21 }) await TryAsync([5], [range]);
        await AskAsync(async connection =>
        {
            await LimitStore.ForgetSignInAsync(connection, [5], [20]);
            return true;
        });
        (await TryAsync([5], [20])).ShouldBe(1);
        (await TryAsync([5], [21])).ShouldBe(2);
        await AskAsync(async connection =>
        {
            await LimitStore.ForgetSignInAsync(connection, [5], null);
            return true;
        });
        (await TryAsync([5], [21])).ShouldBe(1);
    }

    [Fact]
    public async Task Permits_run_out_and_are_given_anew_each_minute_to_each_range_and_policy()
    {
        (await TakeAsync(4)).ShouldBe(4);
        (await TakeAsync(4)).ShouldBe(4);
        // Two are left, and four are asked for: whoever wants them asks again for fewer.
        (await TakeAsync(4)).ShouldBe(0);
        (await TakeAsync(2)).ShouldBe(2);
        (await TakeAsync(1)).ShouldBe(0);
        (await TakeAsync(1, range: _cafe)).ShouldBe(1);
        (await TakeAsync(1, minute: 8)).ShouldBe(1);
        (await TakeAsync(1, policy: "book")).ShouldBe(1);
    }

    [Fact]
    public async Task Many_servers_together_take_no_more_permits_than_there_are()
    {
        int[] taken = await Task.WhenAll(Enumerable.Range(0, 40).Select(_ => TakeAsync(5, most: 60, range: [30])));
        taken.Sum().ShouldBe(60);
    }

    [Fact]
    public async Task Whoever_wants_more_than_there_are_at_all_gets_all_of_them_once()
    {
        (await TakeAsync(500, most: 60, range: [31])).ShouldBe(60);
        (await TakeAsync(1, most: 60, range: [31])).ShouldBe(0);
    }

    [Fact]
    public async Task What_is_over_is_forgotten_and_what_still_counts_is_not()
    {
        await TakeAsync(10, range: [40], minute: 100);
        await TakeAsync(10, range: [40], minute: 101);
        await TryAsync([6], [40]);
        await AskAsync(async connection =>
        {
            await LimitStore.ForgetAsync(connection, 101, TestDatabase.Now);
            return true;
        });
        (await TakeAsync(1, range: [40], minute: 100)).ShouldBe(1);
        (await TakeAsync(1, range: [40], minute: 101)).ShouldBe(0);
        (await TryAsync([6], [40])).ShouldBe(2);
    }

    [Fact]
    public async Task Of_servers_that_make_a_secret_at_once_all_keep_the_same()
    {
        byte[][] made = await Task.WhenAll(Enumerable.Range(0, 12).Select(i => AskAsync(connection =>
            LimitStore.SecretAsync(connection, "test", Enumerable.Repeat((byte)i, 32).ToArray()))));
        made.Select(Convert.ToHexString).Distinct().Count().ShouldBe(1);
        byte[] another = [.. Enumerable.Repeat((byte)99, 32)];
        (await AskAsync(connection => LimitStore.SecretAsync(connection, "another", another))).ShouldBe(another);
    }
}
