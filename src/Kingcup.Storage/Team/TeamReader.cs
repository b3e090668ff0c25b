using Dapper;
using Kingcup.Core.Calendar;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using NodaTime;
using Npgsql;

namespace Kingcup.Storage;

/// <summary>Reads people, and when they are there.</summary>
internal static class TeamReader
{
    internal static async Task<IReadOnlyList<ListedPractitioner>> PractitionersAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, HeldRow> held = (
            await connection.QueryAsync<HeldRow>(
                "SELECT practitioner_id, qualification_id, from_date, until_date, evidence_id FROM held_qualification ORDER BY from_date"
            )
        ).ToLookup(row => row.PractitionerId);
        ILookup<Guid, (Guid Category, int Most)> limits = (
            await connection.QueryAsync<(Guid, Guid, int)>("SELECT practitioner_id, category_id, most_appointments FROM practitioner_limit")
        ).ToLookup(row => row.Item1, row => (row.Item2, row.Item3));
        return
        [
            .. (
                await connection.QueryAsync<PractitionerRow>(
                    """
                    SELECT id, name, position, version, retired_from, units, bio, phone, email, languages, tint, photo_id, bookable_online,
                        accepts_new_clients, most_appointments, most_minutes, needs_approval
                    FROM practitioner JOIN resource USING (id) ORDER BY position, name
                    """
                )
            ).Select(row => new ListedPractitioner(
                new Practitioner
                {
                    Id = row.Id,
                    Name = row.Name,
                    Order = row.Position,
                    Attention = row.Units,
                    Retired = row.RetiredFrom,
                    BookableOnline = row.BookableOnline,
                    AcceptsNewClients = row.AcceptsNewClients,
                    NeedsApproval = row.NeedsApproval,
                    Limits = new DailyLimits
                    {
                        Appointments = row.MostAppointments,
                        Minutes = row.MostMinutes,
                        PerCategory = limits[row.Id].ToDictionary(limit => limit.Category, limit => limit.Most),
                    },
                    Qualifications =
                    [
                        .. held[row.Id]
                            .Select(heldRow => new HeldQualification(heldRow.QualificationId, heldRow.FromDate, heldRow.UntilDate)),
                    ],
                }
            )
            {
                Bio = row.Bio,
                Phone = row.Phone,
                Email = row.Email,
                Languages = row.Languages,
                Tint = row.Tint,
                PhotoId = row.PhotoId,
                Version = row.Version,
                Evidence = held[row.Id]
                    .Where(heldRow => heldRow.EvidenceId is not null)
                    .ToDictionary(heldRow => (heldRow.QualificationId, heldRow.FromDate), heldRow => heldRow.EvidenceId!.Value),
            }),
        ];
    }

    internal static async Task<IReadOnlyList<Versioned<Rota>>> RotasAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, BreakRow> breaks = (
            await connection.QueryAsync<BreakRow>(
                "SELECT b.shift_id, b.from_time, b.until_time, b.reason FROM shift_break b JOIN shift s ON s.id = b.shift_id "
                    + "WHERE s.change_date IS NULL ORDER BY b.from_time"
            )
        ).ToLookup(row => row.ShiftId);
        ILookup<(Guid, LocalDate), ShiftRow> shifts = (
            await connection.QueryAsync<ShiftRow>(
                """
                SELECT id, practitioner_id, rota_from, week, weekday, change_date, location_id, from_time, until_time, service_ids,
                    category_ids FROM shift
                WHERE change_date IS NULL ORDER BY week, weekday, from_time
                """
            )
        ).ToLookup(row => (row.PractitionerId, row.RotaFrom!.Value));
        return
        [
            .. (
                await connection.QueryAsync<RotaRow>("SELECT practitioner_id, from_date, weeks, version FROM rota ORDER BY from_date")
            ).Select(row => new Versioned<Rota>(
                new Rota(
                    row.PractitionerId,
                    row.FromDate,
                    row.Weeks,
                    [
                        .. shifts[(row.PractitionerId, row.FromDate)]
                            .Select(shift => new RotaShift(
                                shift.Week!.Value,
                                (IsoDayOfWeek)shift.Weekday!.Value,
                                shift.With(breaks[shift.Id])
                            )),
                    ]
                ),
                row.Version
            )),
        ];
    }

    internal static async Task<IReadOnlyList<Versioned<RepeatingBlock>>> RepeatingBlocksAsync(NpgsqlConnection connection)
    {
        ILookup<Guid, DateRow> dates = (
            await connection.QueryAsync<DateRow>("SELECT block_id, date, from_time, until_time FROM repeating_block_date")
        ).ToLookup(row => row.BlockId);
        return
        [
            .. (
                await connection.QueryAsync<RepeatRow>(
                    "SELECT id, resource_id, first_date, rule, from_time, until_time, reason, version FROM repeating_block ORDER "
                        + "BY first_date, id"
                )
            ).Select(row => new Versioned<RepeatingBlock>(
                new RepeatingBlock(
                    row.Id,
                    row.ResourceId,
                    Repeat.Parse(row.Rule, row.FirstDate)
                        ?? throw new InvalidOperationException($"Block {row.Id} has a rule nobody can read."),
                    new Stretch(row.FromTime, row.UntilTime),
                    row.Reason
                )
                {
                    Changed = dates[row.Id]
                        .ToDictionary(
                            date => date.Date,
                            date => date.FromTime is { } from ? new Stretch(from, date.UntilTime!.Value) : (Stretch?)null
                        ),
                },
                row.Version
            )),
        ];
    }

    private sealed class HeldRow
    {
        public Guid PractitionerId { get; init; }
        public Guid QualificationId { get; init; }
        public LocalDate FromDate { get; init; }
        public LocalDate? UntilDate { get; init; }
        public Guid? EvidenceId { get; init; }
    }

    private sealed class PractitionerRow
    {
        public Guid Id { get; init; }
        public string Name { get; init; } = "";
        public int Position { get; init; }
        public long Version { get; init; }
        public short Units { get; init; }
        public LocalDate? RetiredFrom { get; init; }
        public string Bio { get; init; } = "";
        public string? Phone { get; init; }
        public string? Email { get; init; }
        public string[] Languages { get; init; } = [];
        public short Tint { get; init; }
        public Guid? PhotoId { get; init; }
        public bool BookableOnline { get; init; }
        public bool AcceptsNewClients { get; init; }
        public bool NeedsApproval { get; init; }
        public int? MostAppointments { get; init; }
        public int? MostMinutes { get; init; }
    }

    private sealed class RotaRow
    {
        public Guid PractitionerId { get; init; }
        public LocalDate FromDate { get; init; }
        public short Weeks { get; init; }
        public long Version { get; init; }
    }

    private sealed class RepeatRow
    {
        public long Version { get; init; }
        public Guid Id { get; init; }
        public Guid ResourceId { get; init; }
        public LocalDate FirstDate { get; init; }
        public string Rule { get; init; } = "";
        public LocalTime FromTime { get; init; }
        public LocalTime UntilTime { get; init; }
        public string Reason { get; init; } = "";
    }

    private sealed class DateRow
    {
        public Guid BlockId { get; init; }
        public LocalDate Date { get; init; }
        public LocalTime? FromTime { get; init; }
        public LocalTime? UntilTime { get; init; }
    }
}
