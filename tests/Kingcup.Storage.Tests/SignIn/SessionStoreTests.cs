using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests.SignIn;

/// <summary>Sessions end when they are ended, when they are not used, and in the end in any case.</summary>
public sealed class SessionStoreTests : IAsyncLifetime
{
    private static readonly Instant _now = TestDatabase.Now;
    private static readonly Duration _idle = Duration.FromHours(12);
    private TestDatabase _test = null!;
    private NpgsqlConnection _connection = null!;
    private Guid _owner, _desk;

    public async ValueTask InitializeAsync()
    {
        _test = await TestDatabase.DemoAsync(empty: true);
        _connection = await _test.Database.OpenAsync();
        _owner = (await StaffStore.FindByEmailAsync(_connection, "owner@harrowmere.test"))!.Id;
        _desk = (await StaffStore.FindByEmailAsync(_connection, "desk@harrowmere.test"))!.Id;
    }

    public async ValueTask DisposeAsync()
    {
        await _connection.DisposeAsync();
        await _test.DisposeAsync();
    }

    private async Task<Guid> BeginAsync(Guid staff, Duration ago = default)
    {
        SessionRow session = new()
        {
            Id = Guid.CreateVersion7(),
            StaffId = staff,
            CreatedAt = _now - ago,
            SeenAt = _now - ago,
            ExpiresAt = _now - ago + Duration.FromDays(14),
            Device = "Chromium on Linux",
        };
        await SessionStore.AddAsync(_connection, session);
        return session.Id;
    }

    private async Task<bool> IsGoodAsync(Guid id, Duration later = default)
    {
        Instant at = _now + later;
        bool found = await SessionStore.FindAsync(_connection, id, at, at - _idle) is not null;
        // Asked one by one or many at once, the answer is the same.
        (await SessionStore.GoodAsync(_connection, [id, Guid.NewGuid()], at, at - _idle)).Contains(id).ShouldBe(found);
        return found;
    }

    [Fact]
    public async Task A_session_is_good_while_it_is_used_and_over_when_it_is_not()
    {
        Guid id = await BeginAsync(_desk);
        (await IsGoodAsync(id)).ShouldBeTrue();
        (await IsGoodAsync(id, _idle - Duration.FromMinutes(1))).ShouldBeTrue();
        (await IsGoodAsync(id, _idle)).ShouldBeFalse();
        await SessionStore.SeeAsync(_connection, id, _now + Duration.FromHours(11));
        (await IsGoodAsync(id, Duration.FromHours(20))).ShouldBeTrue();
    }

    [Fact]
    public async Task However_much_it_is_used_it_ends_in_the_end()
    {
        Guid id = await BeginAsync(_desk);
        await SessionStore.SeeAsync(_connection, id, _now + Duration.FromDays(14) - Duration.FromMinutes(5));
        (await IsGoodAsync(id, Duration.FromDays(14) - Duration.FromMinutes(1))).ShouldBeTrue();
        (await IsGoodAsync(id, Duration.FromDays(14))).ShouldBeFalse();
    }

    [Fact]
    public async Task An_ended_session_is_over_at_once_and_no_use_brings_it_back()
    {
        Guid id = await BeginAsync(_desk);
        await SessionStore.EndAsync(_connection, id, _now);
        (await IsGoodAsync(id)).ShouldBeFalse();
        await SessionStore.SeeAsync(_connection, id, _now + Duration.FromMinutes(1));
        (await IsGoodAsync(id, Duration.FromMinutes(2))).ShouldBeFalse();
    }

    [Fact]
    public async Task Ending_the_others_leaves_this_one_and_everybody_elses()
    {
        Guid here = await BeginAsync(_owner), there = await BeginAsync(_owner, Duration.FromHours(1)), colleague = await BeginAsync(_desk);
        (await SessionStore.OfAsync(_connection, _owner, _now, _now - _idle)).Select(session => session.Id).ShouldBe([here, there]);
        await SessionStore.EndAllAsync(_connection, _owner, here, _now);
        (await SessionStore.OfAsync(_connection, _owner, _now, _now - _idle)).Select(session => session.Id).ShouldBe([here]);
        (await IsGoodAsync(colleague)).ShouldBeTrue();
        await SessionStore.EndAllAsync(_connection, _owner, null, _now);
        (await IsGoodAsync(here)).ShouldBeFalse();
    }

    [Fact]
    public async Task The_end_of_a_session_is_told_to_every_server_by_its_identity()
    {
        Guid id = await BeginAsync(_desk);
        await using NpgsqlConnection listening = await _test.Database.OpenAsync();
        TaskCompletionSource<string> heard = new();
        listening.Notification += (_, notice) => heard.TrySetResult(notice.Payload);
        await using (NpgsqlCommand listen = new($"LISTEN {SessionStore.Channel}", listening)) await listen.ExecuteNonQueryAsync();
        await SessionStore.EndAsync(_connection, id, _now);
        using CancellationTokenSource patience = new(TimeSpan.FromSeconds(20));
        await listening.WaitAsync(patience.Token);
        (await heard.Task).ShouldBe(id.ToString());
    }

    [Fact]
    public async Task A_closed_account_has_no_good_session_though_none_was_ended()
    {
        Guid id = await BeginAsync(_desk);
        StaffRow staff = (await StaffStore.FindAsync(_connection, _desk))!;
        StaffRow closed = new()
        {
            Id = staff.Id,
            Email = staff.Email,
            Name = staff.Name,
            Role = staff.Role,
            SignedOff = true,
            Version = staff.Version,
        };
        await StaffStore.SaveAsync(_connection, closed);
        (await SessionStore.FindAsync(_connection, id, _now, _now - _idle)).ShouldBeNull();
    }

    [Fact]
    public async Task A_code_of_the_second_factor_is_good_once()
    {
        await StaffStore.SetTotpAsync(_connection, _owner, [1, 2, 3]);
        await StaffStore.ConfirmTotpAsync(_connection, _owner);
        (await StaffStore.UseTotpStepAsync(_connection, _owner, 100)).ShouldBeTrue();
        (await StaffStore.UseTotpStepAsync(_connection, _owner, 100)).ShouldBeFalse();
        (await StaffStore.UseTotpStepAsync(_connection, _owner, 99)).ShouldBeFalse();
        (await StaffStore.UseTotpStepAsync(_connection, _owner, 101)).ShouldBeTrue();
        // Of two servers that are shown the same code at once, one takes it.
        await using NpgsqlConnection other = await _test.Database.OpenAsync();
        bool[] taken = await Task.WhenAll(
            StaffStore.UseTotpStepAsync(_connection, _owner, 200),
            StaffStore.UseTotpStepAsync(other, _owner, 200)
        );
        taken.Count(isTaken => isTaken).ShouldBe(1);
    }

    [Fact]
    public async Task A_link_to_choose_a_password_is_good_once_and_not_for_ever()
    {
        byte[] hash = [7, 7, 7];
        await StaffStore.AddLinkAsync(_connection, _desk, hash, _now + Duration.FromHours(1));
        (await StaffStore.UseLinkAsync(_connection, [8], _now)).ShouldBeNull();
        (await StaffStore.UseLinkAsync(_connection, hash, _now)).ShouldBe(_desk);
        (await StaffStore.UseLinkAsync(_connection, hash, _now)).ShouldBeNull();
        await StaffStore.AddLinkAsync(_connection, _desk, [9, 9], _now + Duration.FromHours(1));
        (await StaffStore.UseLinkAsync(_connection, [9, 9], _now + Duration.FromHours(1))).ShouldBeNull();
    }
}
