using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests;

/// <summary>What the database guarantees whatever the programs above it believe.</summary>
public sealed class BookStoreTests : IAsyncLifetime
{
    private static readonly Instant _start = TestDatabase.Now + Duration.FromDays(1);
    private static readonly Change _change = new("Test", TestDatabase.Now);
    private TestDatabase _test = null!;
    private Setup _setup = null!;
    private ClientRow _client = null!;

    public async ValueTask InitializeAsync()
    {
        _test = await TestDatabase.DemoAsync();
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        _setup = await SetupReader.LoadAsync(connection);
        _client = new ClientRow { Id = Guid.CreateVersion7(), GivenName = "Ada", FamilyName = "Marsh", Email = "ada@example.com", Phone = "+353209100001", CreatedAt = TestDatabase.Now };
        await ClientStore.AddAsync(connection, _client, _change);
    }

    public ValueTask DisposeAsync() => _test.DisposeAsync();

    private NewVisit Visit(Instant start, int minutes = 60, int unit = 0)
    {
        Guid resource = _setup.Practitioners[0].Id, service = _setup.Parts.Services[0].Service.Id;
        Interval during = new(start, start + Duration.FromMinutes(minutes));
        VisitPlan plan = new(start, during.End, [new PlannedLine(service, start, during.End, [resource], null)], [new PlannedClaim(0, resource, unit, during, during, 0)]);
        return new NewVisit(Guid.CreateVersion7(), Core.Booking.VisitReference.New(), _setup.Locations[0].Location.Id, _client.Id, new LocalDate(2027, 3, 2), plan, [8400], [false], "Desk", "",
            Core.Booking.VisitState.Confirmed, [[]]);
    }

    private async Task<string?> TryAsync(Func<NpgsqlConnection, Task> write)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        await using NpgsqlTransaction transaction = await connection.BeginTransactionAsync();
        try
        {
            await write(connection);
            await transaction.CommitAsync();
            return null;
        }
        catch (PostgresException exception)
        {
            return exception.ConstraintName ?? exception.SqlState;
        }
    }

    private Task<string?> AddAsync(NewVisit visit) => TryAsync(connection => BookStore.AddAsync(connection, visit, true, _change));

    [Fact]
    public async Task Two_claims_on_one_unit_never_overlap_and_neighbours_do_not_touch()
    {
        (await AddAsync(Visit(_start))).ShouldBeNull();
        (await AddAsync(Visit(_start + Duration.FromMinutes(55)))).ShouldBe(BookStore.DoubleBooking);
        (await AddAsync(Visit(_start + Duration.FromMinutes(60)))).ShouldBeNull();
        (await AddAsync(Visit(_start - Duration.FromMinutes(60)))).ShouldBeNull();
    }

    private static NewVisit Over(NewVisit visit) =>
        visit with { Plan = visit.Plan with { Claims = [.. visit.Plan.Claims.Select(claim => claim with { Overbooked = true, OutsideShift = true, OverBlocks = [_block, _other] })] } };

    private static readonly Guid _block = Guid.NewGuid(), _other = Guid.NewGuid();

    [Fact]
    public async Task An_overbooked_claim_stands_beside_another_and_is_read_as_it_was_written()
    {
        NewVisit first = Visit(_start), over = Over(Visit(_start + Duration.FromMinutes(30)));
        (await AddAsync(first)).ShouldBeNull();
        (await AddAsync(over)).ShouldBeNull();
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        ClaimRow claim = (await BookStore.FindAsync(connection, over.Id))!.Claims.Single();
        (claim.Overbooked, claim.OutsideShift).ShouldBe((true, true));
        claim.OverBlocks.ShouldBe([_block, _other]);
        (await BookStore.FindAsync(connection, first.Id))!.Claims.Single().OverBlocks.ShouldBeEmpty();
        // Both hold their time for whoever asks.
        (await BookStore.TakenAsync(connection, new Interval(_start, _start + Duration.FromHours(2)))).Count.ShouldBe(2);
    }

    [Fact]
    public async Task An_overbooked_claim_is_one_like_any_other_once_nothing_overlaps_it()
    {
        NewVisit first = Visit(_start), over = Over(Visit(_start + Duration.FromMinutes(30))), late = Over(Visit(_start + Duration.FromMinutes(60)));
        foreach (NewVisit visit in new[] { first, over, late }) (await AddAsync(visit)).ShouldBeNull();
        async Task<bool[]> Marks()
        {
            await using NpgsqlConnection connection = await _test.Database.OpenAsync();
            return [(await BookStore.FindAsync(connection, over.Id))!.Claims.Single().Overbooked, (await BookStore.FindAsync(connection, late.Id))!.Claims.Single().Overbooked];
        }

        async Task CancelAsync(NewVisit visit) => (await TryAsync(async connection => (await BookStore.SetStateAsync(
            connection, (await BookStore.FindAsync(connection, visit.Id))!, Core.Booking.VisitState.Cancelled,
            new Core.Booking.Cancellation(Core.Booking.CancelledBy.Business, "ill", false), _change)).ShouldBeTrue())).ShouldBeNull();

        await CancelAsync(first);
        // The two that are left overlap each other still.
        (await Marks()).ShouldBe([true, true]);
        await CancelAsync(over);
        (await Marks())[1].ShouldBeFalse();
        (await AddAsync(Visit(_start + Duration.FromMinutes(90)))).ShouldBe(BookStore.DoubleBooking);
    }

    [Fact]
    public async Task Fifty_writers_without_any_lock_make_one_booking()
    {
        string?[] outcomes = await Task.WhenAll(Enumerable.Range(0, 50).Select(_ => AddAsync(Visit(_start))));
        outcomes.Count(one => one is null).ShouldBe(1);
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        // The losers left nothing behind: no visit without a claim, no history of what never was.
        (await connection.ExecuteScalarAsync<int>("SELECT count(*)::int FROM visit")).ShouldBe(1);
        (await connection.ExecuteScalarAsync<int>("SELECT count(*)::int FROM history WHERE subject_kind = 'visit'")).ShouldBe(1);
    }

    [Fact]
    public async Task A_cancelled_visit_gives_its_time_back_and_stays()
    {
        NewVisit visit = Visit(_start);
        await AddAsync(visit);
        (await TryAsync(async connection =>
        {
            StoredVisit stored = (await BookStore.FindAsync(connection, visit.Id))!;
            (await BookStore.SetStateAsync(connection, stored, Core.Booking.VisitState.Cancelled, new Core.Booking.Cancellation(Core.Booking.CancelledBy.Client, "ill", true), _change)).ShouldBeTrue();
        })).ShouldBeNull();
        (await AddAsync(Visit(_start))).ShouldBeNull();
        await using NpgsqlConnection check = await _test.Database.OpenAsync();
        (await BookStore.FindAsync(check, visit.Id))!.Visit.CancelReason.ShouldBe("ill");
    }

    [Fact]
    public async Task A_stale_version_changes_nothing()
    {
        NewVisit visit = Visit(_start);
        await AddAsync(visit);
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        StoredVisit seen = (await BookStore.FindAsync(connection, visit.Id))!;
        (await BookStore.SetStateAsync(connection, seen, Core.Booking.VisitState.Arrived, null, _change)).ShouldBeTrue();
        (await BookStore.SetStateAsync(connection, seen, Core.Booking.VisitState.NoShow, null, _change)).ShouldBeFalse();
        (await BookStore.FindAsync(connection, visit.Id))!.Visit.State.ShouldBe("Arrived");
    }

    [Fact]
    public async Task The_history_cannot_be_rewritten()
    {
        await AddAsync(Visit(_start));
        (await TryAsync(connection => connection.ExecuteAsync("UPDATE history SET actor = 'nobody'"))).ShouldBe("23001");
        (await TryAsync(connection => connection.ExecuteAsync("DELETE FROM history"))).ShouldBe("23001");
        (await TryAsync(connection => connection.ExecuteAsync("TRUNCATE history;"))).ShouldBe("23001");
    }

    [Theory]
    [InlineData(3, 60, "23514")]
    [InlineData(0, 63, "23514")]
    public async Task A_claim_off_the_grain_is_refused(int offset, int minutes, string state)
    {
        string? outcome = await AddAsync(Visit(_start + Duration.FromMinutes(offset), minutes));
        outcome.ShouldNotBeNull();
        (outcome == state || outcome.StartsWith("claim_", StringComparison.Ordinal)).ShouldBeTrue(outcome);
    }

    [Fact]
    public async Task A_claim_names_only_units_that_are_there() =>
        (await AddAsync(Visit(_start, unit: 1))).ShouldBe("claim_resource_id_unit_fkey");

    [Theory]
    [InlineData("209100001")]
    [InlineData("020 910 0001")]
    [InlineData("ada marsh")]
    [InlineData("MARSH")]
    [InlineData("ada@exa")]
    public async Task Clients_are_found_by_name_number_and_address(string search)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        (await ClientStore.SearchAsync(connection, search, 10)).ShouldHaveSingleItem().Id.ShouldBe(_client.Id);
    }

    [Theory]
    [InlineData("%")]
    [InlineData("ada_")]
    [InlineData("quill")]
    public async Task Signs_of_the_search_language_are_only_letters(string search)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        (await ClientStore.SearchAsync(connection, search, 10)).ShouldBeEmpty();
    }

    [Fact]
    public async Task Every_change_of_the_setup_counts_its_revision_on()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        long before = (await SetupReader.RevisionAsync(connection))!.Value;
        await connection.ExecuteAsync("UPDATE room SET turnaround_minutes = 20");
        (await SetupReader.RevisionAsync(connection)).ShouldBe(before + 1);
        (await SetupReader.LoadAsync(connection)).HouseOf(_setup.Locations[0].Location.Id)!.Rooms.ShouldAllBe(room => room.TurnaroundMinutes == 20);
    }

    [Fact]
    public async Task A_setup_comes_back_as_it_was_written()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        Setup again = await SetupReader.LoadAsync(connection);
        Core.Services.Service peel = again.Services.Single(one => one.Service.Name == "Peel with lamp").Service;
        peel.Phases.Select(phase => (phase.Minutes, phase.AttendedBy.Count)).ShouldBe([(20, 1), (25, 0), (15, 1)]);
        Core.Services.Service duo = again.Services.Single(one => one.Service.Name == "Duo massage 60").Service;
        duo.Roles.Count.ShouldBe(2);
        duo.Room!.Units.ShouldBe(2);
        again.Locations.Count.ShouldBe(2);
        again.ShiftsOn(again.Practitioners.Single(one => one.Name.StartsWith("Maren", StringComparison.Ordinal)).Id, new LocalDate(2027, 3, 2)).Single().Breaks.Single().Reason.ShouldBe("Lunch");
    }

    [Fact]
    public async Task Migrations_can_be_applied_by_two_servers_at_once_and_again()
    {
        await using TestDatabase other = await TestDatabase.EmptyAsync();
        await Task.WhenAll(Task.Run(() => other.Database.Migrate()), Task.Run(() => other.Database.Migrate()));
        await using NpgsqlConnection connection = await other.Database.OpenAsync();
        (await SetupReader.RevisionAsync(connection)).ShouldBeNull();
    }
}
