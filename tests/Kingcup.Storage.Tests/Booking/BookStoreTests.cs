using Dapper;
using Kingcup.Core.Availability;
using Kingcup.Core.Booking;
using Kingcup.Core.Money;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests.Booking;

/// <summary>What the database guarantees whatever the programs above it believe.</summary>
public sealed class BookStoreTests : IAsyncLifetime
{
    private static readonly Instant _start = TestDatabase.Now + Duration.FromDays(1);
    private static readonly Change _change = new("Test", TestDatabase.Now);
    private TestDatabase _test = null!;
    private Setup _setup = null!;
    private ClientRow _client = null!;
    private Guid _staffId;

    public async ValueTask InitializeAsync()
    {
        _test = await TestDatabase.DemoAsync();
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        _setup = await SetupReader.LoadAsync(connection);
        _client = new ClientRow
        {
            Id = Guid.CreateVersion7(),
            GivenName = "Ada",
            FamilyName = "Marsh",
            Email = "ada@example.com",
            Phone = "+353209100001",
            CreatedAt = TestDatabase.Now,
        };
        await ClientStore.AddAsync(connection, _client, _change);
        _staffId = await connection.ExecuteScalarAsync<Guid>("SELECT id FROM staff ORDER BY email LIMIT 1");
    }

    public ValueTask DisposeAsync() => _test.DisposeAsync();

    private NewVisit Visit(Instant start, int minutes = 60, int unit = 0)
    {
        Guid resource = _setup.Practitioners[0].Id, service = _setup.Parts.Services[0].Service.Id;
        Interval during = new(start, start + Duration.FromMinutes(minutes));
        VisitPlan plan = new(
            start,
            during.End,
            [new PlannedLine(service, start, during.End, [resource], null)],
            [new PlannedClaim(0, resource, unit, during, during, 0)]
        );
        return new NewVisit
        {
            Id = Guid.CreateVersion7(),
            Reference = VisitReference.New(),
            LocationId = _setup.Locations[0].Location.Id,
            Client = _client,
            Date = new LocalDate(2027, 3, 2),
            Plan = plan,
            Price = new VisitPrice([new PricedLine([new PricePart(PricePartKind.List, 8400)], 1350)]),
            Chosen = [default],
            AddOns = [[]],
            Source = "Desk",
            IsFirst = true,
        };
    }

    private async Task<string?> ChangeAsync(Func<BookTransaction, Task> write)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        await using BookTransaction transaction = await BookTransaction.BeginAsync(connection, _change);
        try
        {
            await write(transaction);
            await transaction.CommitAsync();
            return null;
        }
        catch (PostgresException exception)
        {
            return exception.ConstraintName ?? exception.SqlState;
        }
        catch (RowChangedException)
        {
            return "changed";
        }
    }

    private async Task<StoredVisit> FindAsync(Guid id)
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        return (await BookStore.FindAsync(connection, id))!;
    }

    private Task<string?> SetStateAsync(StoredVisit visit, VisitState state, Cancellation? cancellation = null) =>
        ChangeAsync(transaction =>
        {
            BookStore.SetState(transaction, visit, state, cancellation);
            return Task.CompletedTask;
        });

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

    private Task<string?> AddAsync(NewVisit visit) => ChangeAsync(transaction =>
    {
        BookStore.Add(transaction, visit);
        return Task.CompletedTask;
    });

    [Fact]
    public async Task Two_claims_on_one_unit_never_overlap_and_neighbours_do_not_touch()
    {
        (await AddAsync(Visit(_start))).ShouldBeNull();
        (await AddAsync(Visit(_start + Duration.FromMinutes(55)))).ShouldBe(BookStore.DoubleBooking);
        (await AddAsync(Visit(_start + Duration.FromMinutes(60)))).ShouldBeNull();
        (await AddAsync(Visit(_start - Duration.FromMinutes(60)))).ShouldBeNull();
    }

    private static async Task<IReadOnlyList<TakenTime>> TakenAsync(Database database, Instant now)
    {
        await using NpgsqlConnection connection = await database.OpenAsync();
        DaysAsked days = new(new LocalDate(2027, 3, 2), new LocalDate(2027, 3, 2), new Interval(_start, _start + Duration.FromHours(2)));
        return (await BookStore.WindowAsync(connection, days, now)).Taken;
    }

    private static NewVisit Over(NewVisit visit) =>
        visit with
        {
            Plan = visit.Plan! with
            {
                Claims =
                [
                    .. visit.Plan.Claims.Select(claim =>
                        claim with
                        {
                            Overbooked = true,
                            OutsideShift = true,
                            OverBlocks = [_block, _other],
                        }
                    ),
                ],
            },
        };

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
        (await TakenAsync(_test.Database, TestDatabase.Now)).Count.ShouldBe(2);
    }

    [Fact]
    public async Task An_overbooked_claim_is_one_like_any_other_once_nothing_overlaps_it()
    {
        NewVisit first = Visit(_start),
            over = Over(Visit(_start + Duration.FromMinutes(30))),
            late = Over(Visit(_start + Duration.FromMinutes(60)));
        foreach (NewVisit visit in new[] { first, over, late })
            (await AddAsync(visit)).ShouldBeNull();
        async Task<bool[]> Marks()
        {
            await using NpgsqlConnection connection = await _test.Database.OpenAsync();
            return
            [
                (await BookStore.FindAsync(connection, over.Id))!.Claims.Single().Overbooked,
                (await BookStore.FindAsync(connection, late.Id))!.Claims.Single().Overbooked,
            ];
        }

        async Task CancelAsync(NewVisit visit) =>
            (
                await SetStateAsync(await FindAsync(visit.Id), VisitState.Cancelled, new Cancellation(CancelledBy.Business, "ill", false))
            ).ShouldBeNull();

        await CancelAsync(first);
        // The two that are left overlap each other still.
        (await Marks()).ShouldBe([true, true]);
        await CancelAsync(over);
        (await Marks())[1].ShouldBeFalse();
        (await AddAsync(Visit(_start + Duration.FromMinutes(90)))).ShouldBe(BookStore.DoubleBooking);
        await using NpgsqlConnection check = await _test.Database.OpenAsync();
        HistoryRow settled = (await History.OfAsync(check, late.Id))[^1];
        (settled.Action, settled.Before!.Contains(_setup.Practitioners[0].Id.ToString(), StringComparison.Ordinal)).ShouldBe(
            ("No clash any more", true)
        );
    }

    [Fact]
    public async Task A_line_lasts_through_a_move_with_what_hangs_on_it_and_only_its_claims_are_others()
    {
        NewVisit visit = Visit(_start);
        (await AddAsync(visit)).ShouldBeNull();
        StoredVisit before = await FindAsync(visit.Id);
        NewVisit there = Visit(_start + Duration.FromMinutes(120));
        (await ChangeAsync(transaction =>
        {
            BookStore.Lay(
                transaction,
                before,
                new LaidVisit
                {
                    Date = there.Date,
                    Plan = there.Plan!,
                    Price = visit.Price,
                    LineIds = [before.Lines[0].Id],
                    Chosen = before.Chosen,
                    AddOns = [[]],
                }
            );
            return Task.CompletedTask;
        })).ShouldBeNull();
        StoredVisit after = await FindAsync(visit.Id);
        after.Lines.Single().Id.ShouldBe(before.Lines.Single().Id);
        (after.Visit.Version, after.Visit.StartsAt, after.Lines.Single().StartsAt).ShouldBe(
            (before.Visit.Version + 1, there.Plan!.Start, there.Plan.Start)
        );
        after.Price.Lines.Single().Parts.ShouldBe(visit.Price.Lines.Single().Parts);
        after.Claims.Single().During.ShouldBe(there.Plan.Claims.Single().During);
        // Its old time is free, its new one is not.
        (await AddAsync(Visit(_start))).ShouldBeNull();
        (await AddAsync(Visit(_start + Duration.FromMinutes(150)))).ShouldBe(BookStore.DoubleBooking);
    }

    [Fact]
    public async Task A_visit_put_back_is_what_it_was_and_one_that_was_taken_out_leaves_only_its_history()
    {
        NewVisit visit = Visit(_start);
        (await AddAsync(visit)).ShouldBeNull();
        StoredVisit before = await FindAsync(visit.Id);
        NewVisit there = Visit(_start + Duration.FromMinutes(120), minutes: 30);
        VisitPlan two = there.Plan! with
        {
            Lines =
            [
                there.Plan.Lines[0],
                there.Plan.Lines[0] with { Start = there.Plan.End, End = there.Plan.End + Duration.FromMinutes(30) },
            ],
            End = there.Plan.End + Duration.FromMinutes(30),
        };
        LaidVisit laid = new()
        {
            Date = there.Date,
            Plan = two,
            Price = new VisitPrice([visit.Price.Lines[0], visit.Price.Lines[0]]),
            // The line that stands comes second, a new one before it.
            LineIds = [null, before.Lines[0].Id],
            Chosen = [new LineChosen(true, false, 30), default],
            AddOns = [[], []],
            Action = "Changed",
        };
        (await ChangeAsync(transaction =>
        {
            StoredVisit now = BookStore.Lay(transaction, before, laid);
            StepStore.Add(transaction, _staffId, StepKind.Changed, [new StepVisit(visit.Id, now.Visit.Version, before)]);
            return Task.CompletedTask;
        })).ShouldBeNull();
        StoredVisit changed = await FindAsync(visit.Id);
        changed.Lines.Select(line => (line.Id == before.Lines[0].Id, line.SetMinutes)).ShouldBe([(false, 30), (true, null)]);

        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        StepRow step = (await StepStore.OfAsync(connection, _staffId)).Single();
        StepVisit trace = (await StepStore.VisitsAsync(connection, step.Id)).Single();
        trace.Version.ShouldBe(changed.Visit.Version);
        (await ChangeAsync(transaction =>
        {
            BookStore.PutBack(transaction, changed, trace.Before!);
            StepStore.Undone(transaction, step.Id, [(visit.Id, before.Visit.Version, before.Visit.Version + 2)]);
            return Task.CompletedTask;
        })).ShouldBeNull();
        StoredVisit back = await FindAsync(visit.Id);
        back.Visit.ShouldBe(before.Visit with { Version = before.Visit.Version + 2 });
        back.Lines.Single().ShouldBeEquivalentTo(before.Lines.Single());
        back.Claims.Single().ShouldBeEquivalentTo(before.Claims.Single());
        back.Price.Total.ShouldBe(before.Price.Total);
        // Once is enough: the step says so, and the visit is no longer at that version.
        (await ChangeAsync(transaction =>
        {
            StepStore.Undone(transaction, step.Id, [(visit.Id, before.Visit.Version, before.Visit.Version + 2)]);
            return Task.CompletedTask;
        })).ShouldBe("changed");

        (await ChangeAsync(transaction =>
        {
            BookStore.Delete(transaction, back, "Deleted");
            return Task.CompletedTask;
        })).ShouldBeNull();
        (await BookStore.FindAsync(connection, visit.Id)).ShouldBeNull();
        (await History.OfAsync(connection, visit.Id)).Select(entry => entry.Action).ShouldBe(["Booked", "Changed", "Undone", "Deleted"]);
        (await AddAsync(Visit(_start))).ShouldBeNull();
    }

    [Fact]
    public async Task Only_the_last_twenty_things_of_each_person_are_kept()
    {
        NewVisit visit = Visit(_start);
        (await AddAsync(visit)).ShouldBeNull();
        for (int i = 0; i < Undoing.MostSteps + 3; i++)
        {
            int version = i;
            await ChangeAsync(transaction =>
            {
                StepStore.Add(transaction, _staffId, StepKind.State, [new StepVisit(visit.Id, version, null)]);
                return Task.CompletedTask;
            });
        }

        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        IReadOnlyList<StepRow> steps = await StepStore.OfAsync(connection, _staffId);
        steps.Select(step => step.Later).ShouldBe(Enumerable.Range(0, Undoing.MostSteps));
        (await connection.ExecuteScalarAsync<long>("SELECT count(*) FROM step")).ShouldBe(Undoing.MostSteps);
        (await StepStore.VisitsAsync(connection, steps[0].Id)).Single().Version.ShouldBe(Undoing.MostSteps + 2);
    }

    [Fact]
    public async Task What_a_transaction_says_it_has_written_is_what_is_read_afterwards()
    {
        NewVisit visit = Visit(_start) with
        {
            People = [new VisitPersonRow { Person = 1, Name = "Bea Marsh" }],
            AddOns =
            [
                [
                    new LineAddOn
                    {
                        AddOnId = _setup.Parts.AddOns[0].AddOn.Id,
                        Count = 2,
                        Minutes = 20,
                        Price = 1900,
                    },
                ],
            ],
            Price = new VisitPrice([
                new PricedLine(
                    [
                        new(PricePartKind.List, 8400),
                        new(PricePartKind.Own, -400),
                        new(PricePartKind.AddOn, 1900, _setup.Parts.AddOns[0].AddOn.Id),
                    ],
                    1350
                ),
            ]),
            Note = "Left shoulder",
        };
        StoredVisit? said = null;
        (await ChangeAsync(transaction =>
        {
            said = BookStore.Add(transaction, visit);
            return Task.CompletedTask;
        })).ShouldBeNull();
        StoredVisit read = await FindAsync(visit.Id);
        read.Visit.ShouldBe(said!.Visit);
        System.Text.Json.JsonSerializer.Serialize(read.Lines).ShouldBe(System.Text.Json.JsonSerializer.Serialize(said.Lines));
        read.Claims.Select(claim => (claim.OccupationId, claim.ResourceId, claim.Unit, claim.During))
            .ShouldBe(said.Claims.Select(claim => (claim.OccupationId, claim.ResourceId, claim.Unit, claim.During)));
        read.AddOns.ShouldBe(said.AddOns);
        read.Price.Lines.Single().Parts.ShouldBe(said.Price.Lines.Single().Parts);
        (read.Price.Total, read.Price.Lines[0].Tax, read.People.Single().Name).ShouldBe((9900, 1178, "Bea Marsh"));
    }

    [Fact]
    public async Task A_hold_that_has_run_out_blocks_nobody_though_nothing_has_swept_it()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        Instant expires = TestDatabase.Now + Duration.FromMinutes(10);
        async Task HoldAsync(Instant start) =>
            await connection.ExecuteAsync(
                """
                WITH held AS (INSERT INTO occupation (id, kind, location_id, expires_at)
                    VALUES (gen_random_uuid(), 'Hold', @Location, @expires) RETURNING id)
                INSERT INTO claim (id, occupation_id, location_id, service_id, resource_id, unit, role, during, core)
                SELECT gen_random_uuid(), id, @Location, @Service, @Resource, 0, 0, tstzrange(@start, @End), tstzrange(@start, @End)
                    FROM held
                """,
                new
                {
                    Location = _setup.Locations[0].Location.Id,
                    Service = _setup.Parts.Services[0].Service.Id,
                    Resource = _setup.Practitioners[0].Id,
                    expires,
                    start,
                    End = start + Duration.FromHours(1),
                }
            );
        await HoldAsync(_start);
        await HoldAsync(_start + Duration.FromMinutes(60));
        // While it stands it is like any other time, and says until when.
        (await AddAsync(Visit(_start))).ShouldBe(BookStore.DoubleBooking);
        (await TakenAsync(_test.Database, TestDatabase.Now)).Select(taken => taken.ExpiresAt).ShouldBe([expires, expires]);
        (await TakenAsync(_test.Database, expires)).ShouldBeEmpty();
        await using BookTransaction later = await BookTransaction.BeginAsync(connection, _change with { At = expires });
        BookStore.Add(later, Visit(_start));
        await later.CommitAsync();
        // Only what was in the way was taken out of it.
        (
            await connection.QueryAsync<bool>(
                "SELECT k.live FROM claim k JOIN occupation o ON o.id = k.occupation_id WHERE o.kind = 'Hold' ORDER BY lower(k.during)"
            )
        ).ShouldBe([false, true]);
    }

    [Fact]
    public async Task Visits_ahead_are_found_by_what_they_hold_what_they_are_for_and_where_they_are()
    {
        NewVisit visit = Visit(_start);
        (await AddAsync(visit)).ShouldBeNull();
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        async Task<Guid[]> WithAsync(Guid? resource = null, Guid? service = null, Guid? location = null, Duration later = default)
        {
            Guid[] Of(Guid? id) => id is { } known ? [known] : [];
            IReadOnlyList<StoredVisit> found = await BookStore.WithAnyAsync(
                connection, Of(resource), Of(service), Of(location), TestDatabase.Now + later);
            return [.. found.Select(stored => stored.Visit.Id)];
        }

        (await WithAsync(resource: _setup.Practitioners[0].Id)).ShouldBe([visit.Id]);
        (await WithAsync(service: _setup.Parts.Services[0].Service.Id)).ShouldBe([visit.Id]);
        (await WithAsync(location: _setup.Locations[0].Location.Id)).ShouldBe([visit.Id]);
        (await WithAsync(_setup.Practitioners[1].Id, _setup.Parts.Services[1].Service.Id, _setup.Locations[1].Location.Id)).ShouldBeEmpty();
        (await WithAsync()).ShouldBeEmpty();
        // What is over cannot lose its place any more.
        (await WithAsync(resource: _setup.Practitioners[0].Id, later: Duration.FromDays(2))).ShouldBeEmpty();
        Interval during = visit.Plan!.Claims.Single().During;
        async Task<int> MetAsync(Guid? resource, Guid? location, Interval stretch) =>
            (await BookStore.MeetingAsync(connection, [new StretchOfTime(resource, location, stretch)], TestDatabase.Now)).Count;
        (await MetAsync(_setup.Practitioners[0].Id, null, during)).ShouldBe(1);
        (await MetAsync(null, _setup.Locations[0].Location.Id, during)).ShouldBe(1);
        (await MetAsync(_setup.Practitioners[1].Id, null, during)).ShouldBe(0);
        (await MetAsync(_setup.Practitioners[0].Id, null, new Interval(during.End, during.End + Duration.FromHours(1)))).ShouldBe(0);
    }

    [Fact]
    public async Task Ten_thousand_blocks_of_the_past_are_not_read_for_a_day_of_today()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        long revision = (await SetupReader.RevisionAsync(connection))!.Value;
        await connection.ExecuteAsync(
            """
            INSERT INTO blocked_time (id, resource_id, during, reason)
            SELECT gen_random_uuid(), @Resource, tstzrange(timestamptz '2020-01-01' + n * interval '6 hours',
                timestamptz '2020-01-01' + n * interval '6 hours' + interval '15 minutes'), 'call'
            FROM generate_series(1, 10000) AS n
            """,
            new { Resource = _setup.Practitioners[0].Id });
        await connection.ExecuteAsync("ANALYZE blocked_time");
        // Neither do they touch the setup.
        (await SetupReader.RevisionAsync(connection)).ShouldBe(revision);
        CalendarWindow window = await CalendarReader.WindowAsync(connection, new LocalDate(2027, 3, 1), new LocalDate(2027, 3, 3));
        window.Blocks.ShouldAllBe(block => block.Value.Reason != "call");
        string plan = string.Join(
            '\n',
            await connection.QueryAsync<string>(
                "EXPLAIN (ANALYZE, COSTS OFF, TIMING OFF, SUMMARY OFF) SELECT id FROM blocked_time WHERE during && "
                    + "tstzrange('2027-03-01', '2027-03-04')"
            )
        );
        plan.ShouldContain("Index");
    }

    [Fact]
    public async Task Fifty_writers_without_any_lock_make_one_booking()
    {
        string?[] outcomes = await Task.WhenAll(Enumerable.Range(0, 50).Select(_ => AddAsync(Visit(_start))));
        outcomes.Count(outcome => outcome is null).ShouldBe(1);
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
        (
            await SetStateAsync(await FindAsync(visit.Id), VisitState.Cancelled, new Cancellation(CancelledBy.Client, "ill", true))
        ).ShouldBeNull();
        (await AddAsync(Visit(_start))).ShouldBeNull();
        await using NpgsqlConnection check = await _test.Database.OpenAsync();
        (await BookStore.FindAsync(check, visit.Id))!.Visit.CancelReason.ShouldBe("ill");
    }

    [Fact]
    public async Task A_stale_version_changes_nothing()
    {
        NewVisit visit = Visit(_start);
        await AddAsync(visit);
        StoredVisit seen = await FindAsync(visit.Id);
        (await SetStateAsync(seen, VisitState.Arrived)).ShouldBeNull();
        (await SetStateAsync(seen, VisitState.NoShow)).ShouldBe("changed");
        (await FindAsync(visit.Id)).Visit.State.ShouldBe("Arrived");
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        (await History.OfAsync(connection, visit.Id)).Count.ShouldBe(2);
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
        (await SetupReader.LoadAsync(connection))
            .HouseOf(_setup.Locations[0].Location.Id)!
            .Rooms.ShouldAllBe(room => room.TurnaroundMinutes == 20);
    }

    [Fact]
    public async Task A_setup_comes_back_as_it_was_written()
    {
        await using NpgsqlConnection connection = await _test.Database.OpenAsync();
        Setup again = await SetupReader.LoadAsync(connection);
        Core.Services.Service peel = again.Services.Single(service => service.Service.Name == "Peel with lamp").Service;
        peel.Phases.Select(phase => (phase.Minutes, phase.AttendedBy.Count)).ShouldBe([(20, 1), (25, 0), (15, 1)]);
        Core.Services.Service duo = again.Services.Single(service => service.Service.Name == "Duo massage 60").Service;
        duo.Roles.Count.ShouldBe(2);
        duo.Room!.Units.ShouldBe(2);
        again.Locations.Count.ShouldBe(2);
        again
            .Rotas.On(
                again.Practitioners.Single(practitioner => practitioner.Name.StartsWith("Maren", StringComparison.Ordinal)).Id,
                new LocalDate(2027, 3, 2)
            )
            .Single()
            .Breaks.Single()
            .Reason.ShouldBe("Lunch");
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
