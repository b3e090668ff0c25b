using System.IO.Compression;
using Dapper;
using Kingcup.Testing;
using NodaTime;
using Npgsql;
using Shouldly;
using Xunit;

namespace Kingcup.Storage.Tests;

/// <summary>A filled database of an earlier version, as the demo made it, is brought up to date with everything in it.</summary>
public sealed class MigrationTests
{
    private static async Task<string> DumpAsync(string name)
    {
        await using Stream packed = typeof(MigrationTests).Assembly.GetManifestResourceStream(name)!;
        await using GZipStream plain = new(packed, CompressionMode.Decompress);
        using StreamReader reader = new(plain);
        string text = await reader.ReadToEndAsync();
        // Lines for the command-line client, which a connection does not know.
        return string.Join('\n', text.Split('\n').Where(line => !line.StartsWith('\\')));
    }

    private static Task<(int Visits, int Lines, int Claims, int Clients, int History, long Price)> CountAsync(
        NpgsqlConnection connection
    ) =>
        connection.QuerySingleAsync<(int, int, int, int, int, long)>(
            """
            SELECT (SELECT count(*)::int FROM public.visit), (SELECT count(*)::int FROM public.appointment), (SELECT count(*)::int
                FROM public.claim WHERE live),
                (SELECT count(*)::int FROM public.client), (SELECT count(*)::int FROM public.history), (SELECT sum(price)::bigint
                    FROM public.appointment)
            """);

    [Fact]
    public async Task A_filled_database_of_version_4_keeps_every_visit_and_can_be_read()
    {
        await using TestDatabase test = await TestDatabase.BareAsync();
        (int Visits, int Lines, int Claims, int Clients, int History, long Price) before;
        // The dump leaves its connection without a search path, so nobody gets that one again.
        await using (NpgsqlConnection connection = new(test.ConnectionString + ";Pooling=false"))
        {
            await connection.OpenAsync();
            await connection.ExecuteAsync(await DumpAsync("version4.sql.gz"), commandTimeout: 300);
            before = await CountAsync(connection);
            before.Visits.ShouldBeGreaterThan(3000);
        }

        test.Database.Migrate();
        await using NpgsqlConnection after = await test.Database.OpenAsync();
        (await CountAsync(after)).ShouldBe(before);

        Setup setup = await SetupReader.LoadAsync(after);
        setup.Practitioners.ShouldAllBe(practitioner => practitioner.Attention == 1);
        setup.Parts.BookingPage.MostOpenOnline.ShouldBe(5);
        setup
            .Parts.Rotas.SelectMany(rota => rota.Value.Shifts)
            .ShouldAllBe(shift => shift.Shift.Services.Count == 0 && shift.Shift.Categories.Count == 0);
        (Guid location, LocalDate date) = await after.QueryFirstAsync<(Guid, LocalDate)>(
            "SELECT location_id, date FROM visit WHERE state <> 'Cancelled' GROUP BY location_id, date ORDER BY count(*) DESC LIMIT 1"
        );
        IReadOnlyList<StoredVisit> day = await BookStore.DayAsync(after, location, date);
        day.Count.ShouldBeGreaterThan(20);
        day.ShouldAllBe(visit => visit.Lines.Count > 0 && visit.Claims.Count > 0);
        StaffRow owner = (await StaffStore.FindByEmailAsync(after, "owner@harrowmere.test"))!;
        (owner.Role, owner.TotpConfirmed, owner.PasswordHash.Length > 0).ShouldBe(("Owner", false, true));
    }

    [Fact]
    public async Task Every_place_that_names_a_client_is_found_by_an_index_so_that_a_client_can_go()
    {
        await using TestDatabase test = await TestDatabase.BareAsync();
        test.Database.Migrate();
        await using NpgsqlConnection connection = await test.Database.OpenAsync();
        // A foreign key is looked through for each row that goes; an index has to begin with its column.
        IEnumerable<(string Place, bool IsFound)> places = await connection.QueryAsync<(string, bool)>(
            """
            SELECT c.conrelid::regclass || '.' || a.attname, EXISTS (SELECT 1 FROM pg_index i
                WHERE i.indrelid = c.conrelid AND i.indkey[0] = a.attnum)
            FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
            WHERE c.contype = 'f' AND c.confrelid = 'client'::regclass
            """);
        places.Count().ShouldBeGreaterThanOrEqualTo(5);
        places.Where(place => !place.IsFound).Select(place => place.Place).ShouldBeEmpty();
    }
}
