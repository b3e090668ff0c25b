using System.Text.Json;
using Dapper;
using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Extra shifts as they are kept.</summary>
/// <param name="Id">Identity.</param>
/// <param name="Extra">What was asked.</param>
/// <param name="AddedAt">When they were added.</param>
/// <param name="AddedBy">By whom.</param>
/// <param name="Days">How many days of people they made.</param>
/// <param name="Standing">How many of these are still as they were made.</param>
public sealed record KeptExtraShifts(Guid Id, ExtraShifts Extra, Instant AddedAt, string AddedBy, int Days, int Standing);

/// <summary>A day that extra shifts made.</summary>
/// <param name="PractitionerId">Whose.</param>
/// <param name="Date">Which.</param>
/// <param name="Before">The shift change that held before, or null where the rota did.</param>
/// <param name="BeforeExtraId">By which extra shifts that one was made, if by any.</param>
/// <param name="MadeBy">By which extra shifts the day is made now; null where it was changed by hand since.</param>
/// <param name="Stands">Whether nothing has changed the day since.</param>
public sealed record ExtraDay(Guid PractitionerId, LocalDate Date, ShiftChange? Before, Guid? BeforeExtraId, Guid? MadeBy, bool Stands);

/// <summary>Reads extra shifts.</summary>
public static class ExtraShiftsStore
{
    /// <summary>Those that are not over by a date, the newest first.</summary>
    public static async Task<IReadOnlyList<KeptExtraShifts>> SinceAsync(NpgsqlConnection connection, LocalDate since) =>
        [
            .. (
                await connection.QueryAsync<ExtraRow>(
                    """
                    SELECT e.*, (SELECT count(*) FROM extra_shifts_day d WHERE d.extra_id = e.id) AS days,
                        (SELECT count(*) FROM shift_change c WHERE c.extra_id = e.id) AS standing
                    FROM extra_shifts e WHERE e.until_date >= @since ORDER BY e.added_at DESC, e.id
                    """,
                    new { since }
                )
            ).Select(row => row.Kept()),
        ];

    /// <summary>The days that extra shifts made, or none where there are no such extra shifts.</summary>
    public static async Task<IReadOnlyList<ExtraDay>> DaysAsync(NpgsqlConnection connection, Guid id) =>
        [
            .. (
                await connection.QueryAsync<DayRow>(
                    """
                    SELECT d.practitioner_id, d.date, d.before::text, d.before_extra_id, c.extra_id AS made_by
                    FROM extra_shifts_day d LEFT JOIN shift_change c ON c.practitioner_id = d.practitioner_id AND c.date = d.date
                    WHERE d.extra_id = @id ORDER BY d.date, d.practitioner_id
                    """,
                    new { id }
                )
            ).Select(row => row.Day(id)),
        ];

    private sealed class ExtraRow
    {
        public Guid Id { get; init; }
        public LocalDate FromDate { get; init; }
        public LocalDate UntilDate { get; init; }
        public short[] Weekdays { get; init; } = [];
        public Guid LocationId { get; init; }
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
        public Guid[] ServiceIds { get; init; } = [];
        public Guid[] CategoryIds { get; init; } = [];
        public Guid[] PractitionerIds { get; init; } = [];
        public bool Instead { get; init; }
        public string? Reason { get; init; }
        public Instant AddedAt { get; init; }
        public string AddedBy { get; init; } = "";
        public long Days { get; init; }
        public long Standing { get; init; }

        public KeptExtraShifts Kept() =>
            new(
                Id,
                new ExtraShifts(
                    FromDate,
                    UntilDate,
                    Weekdays.Select(day => (IsoDayOfWeek)day).ToHashSet(),
                    new Shift(LocationId, new Stretch(FromTime, UntilTime), [])
                    {
                        Services = ServiceIds.ToHashSet(),
                        Categories = CategoryIds.ToHashSet(),
                    },
                    PractitionerIds,
                    Instead,
                    Reason
                ),
                AddedAt,
                AddedBy,
                (int)Days,
                (int)Standing
            );
    }

    private sealed class DayRow
    {
        public Guid PractitionerId { get; init; }
        public LocalDate Date { get; init; }
        public string? Before { get; init; }
        public Guid? BeforeExtraId { get; init; }
        public Guid? MadeBy { get; init; }

        public ExtraDay Day(Guid id) =>
            new(
                PractitionerId,
                Date,
                Before is null ? null : DayBefore.Read(Before, PractitionerId, Date),
                BeforeExtraId,
                MadeBy,
                MadeBy == id
            );
    }
}

/// <summary>How a day was before extra shifts, as it is kept beside them.</summary>
internal sealed record DayBefore(IReadOnlyList<DayBefore.Worked> Shifts, bool WorksDuringClosure, string? Reason)
{
    private static readonly JsonSerializerOptions _json = new JsonSerializerOptions(JsonSerializerDefaults.Web).ConfigureForNodaTime(
        DateTimeZoneProviders.Tzdb
    );

    internal static string Write(ShiftChange change) =>
        JsonSerializer.Serialize(
            new DayBefore([.. change.Shifts.Select(Worked.Of)], change.WorksDuringClosure, change.Reason),
            _json
        );

    internal static ShiftChange Read(string text, Guid practitionerId, LocalDate date)
    {
        DayBefore day = JsonSerializer.Deserialize<DayBefore>(text, _json)!;
        return new ShiftChange(practitionerId, date, [.. day.Shifts.Select(shift => shift.Shift())], day.WorksDuringClosure, day.Reason);
    }

    internal sealed record Worked(
        Guid LocationId,
        LocalTime From,
        LocalTime Until,
        IReadOnlyList<Pause> Breaks,
        IReadOnlyList<Guid> Services,
        IReadOnlyList<Guid> Categories
    )
    {
        internal static Worked Of(Shift shift) =>
            new(
                shift.LocationId,
                shift.During.From,
                shift.During.Until,
                [.. shift.Breaks.Select(pause => new Pause(pause.During.From, pause.During.Until, pause.Reason))],
                [.. shift.Services],
                [.. shift.Categories]
            );

        internal Shift Shift() =>
            new(LocationId, new Stretch(From, Until), [.. Breaks.Select(pause => pause.Break())])
            {
                Services = Services.ToHashSet(),
                Categories = Categories.ToHashSet(),
            };
    }

    internal sealed record Pause(LocalTime From, LocalTime Until, string Reason)
    {
        internal Break Break() => new(new Stretch(From, Until), Reason);
    }
}
