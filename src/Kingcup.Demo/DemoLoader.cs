using System.Diagnostics;
using Dapper;
using Kingcup.Server.SignIn;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Demo;

/// <summary>Loads the demo business into an empty database.</summary>
public static class DemoLoader
{
    /// <summary>The password of every demo sign-in.</summary>
    public const string Password = "marsh-marigold";

    /// <summary>The demo sign-ins: role, e-mail address, name.</summary>
    public static IReadOnlyList<(string Role, string Email, string Name)> SignIns { get; } =
    [
        ("Owner", "owner@harrowmere.test", "Hester Marlow"),
        ("Manager", "manager@harrowmere.test", "Piers Aldane"),
        ("Desk", "desk@harrowmere.test", "Nell Ashby"),
        ("Practitioner", "ines@harrowmere.test", "Ines Calloway"),
        ("Bookkeeper", "books@harrowmere.test", "Odran Teale"),
    ];

    /// <summary>Migrates, and where the database is empty loads the demo business or a business with nothing in it.</summary>
    /// <param name="connectionString">Where.</param>
    /// <param name="empty">Whether to load a business without locations, people or services.</param>
    /// <param name="clock">Where the clock is to stand, or null for the present.</param>
    /// <param name="say">Where progress is told.</param>
    /// <param name="days">False leaves the book and the clients out, for tests that fill it themselves.</param>
    public static async Task PrepareAsync(string connectionString, bool empty, Instant? clock, Action<string> say, bool days = true)
    {
        await using Database database = new(connectionString);
        database.Migrate();
        await using NpgsqlConnection connection = await database.OpenAsync();
        Instant now = clock ?? SystemClock.Instance.GetCurrentInstant();
        if (await SetupReader.RevisionAsync(connection) is null)
        {
            Stopwatch watch = Stopwatch.StartNew();
            await using (SetupTransaction transaction = await SetupTransaction.BeginAsync(connection, new Change("Kingcup", now)))
            {
                if (empty) await transaction.Writer.SaveAsync(new BusinessRow { Name = "My business", IsDemo = true });
                else await new DemoBusiness(now.InZone(DateTimeZoneProviders.Tzdb[DemoBusiness.Zone]).Date).WriteAsync(transaction);
                // A business with nothing in it has no account either: its first page makes the owner's.
                if (!empty) await AddStaffAsync(connection);
                await transaction.CommitAsync();
            }

            if (!empty && days)
            {
                say("Loading the demo business …");
                await using Database quick = new(connectionString + ";Options=-c synchronous_commit=off");
                int visits = await DemoBook.FillAsync(quick, now);
                await connection.ExecuteAsync("ANALYZE", commandType: System.Data.CommandType.Text);
                say($"Loaded {visits} visits of {DemoBook.Clients} clients in {watch.Elapsed.TotalSeconds:0.0} s.");
            }

            if (!empty)
            {
                // What was booked before had no policy, as in a business that has just set its first.
                await using SetupTransaction transaction = await SetupTransaction.BeginAsync(connection, new Change("Kingcup", now));
                await transaction.LockChangesAsync();
                await transaction.LockAsync();
                await DemoMoney.WriteAsync(transaction, now);
                await transaction.CommitAsync();
            }
        }

        if (clock is { } at) await SetClockAsync(connection, at);
    }

    /// <summary>Has the clock of the business stand at a moment, and tick on from there.</summary>
    public static Task SetClockAsync(NpgsqlConnection connection, Instant at)
    {
        long ahead = (long)(at - SystemClock.Instance.GetCurrentInstant()).TotalSeconds;
        return connection.ExecuteAsync("UPDATE business SET clock_ahead_seconds = @ahead", new { ahead });
    }

    /// <summary>Adds the demo sign-ins.</summary>
    /// <param name="connection">An open connection.</param>
    /// <param name="linked">Whether the practitioner among them is the demo business's Ines.</param>
    public static async Task AddStaffAsync(NpgsqlConnection connection, bool linked = true)
    {
        string hash = Passwords.Hash(Password);
        foreach ((string role, string email, string name) in SignIns)
        {
            await StaffStore.AddAsync(connection, new StaffRow
            {
                Id = DemoBusiness.Id("staff " + email),
                Email = email,
                Name = name,
                Role = role,
                PractitionerId = linked && role == "Practitioner" ? DemoBusiness.Person("Ines") : null,
                PasswordHash = hash,
                EditsOwnShifts = role == "Practitioner",
                KeepsOwnVisits = role == "Practitioner",
            });
        }
    }
}
