using Kingcup.Core.Calendar;
using Kingcup.Core.Services;
using Kingcup.Core.Team;
using Kingcup.Core.Time;
using Kingcup.Server.Api;
using Kingcup.Server.Business;
using Kingcup.Storage;
using NodaTime;

namespace Kingcup.Server.Team;

/// <summary>A pause in a shift.</summary>
/// <param name="From">Beginning.</param>
/// <param name="Until">End.</param>
/// <param name="Reason">What the book writes on it.</param>
public sealed record BreakDocument(LocalTime From, LocalTime Until, string? Reason);

/// <summary>A shift of a day.</summary>
/// <param name="LocationId">Where.</param>
/// <param name="From">Beginning.</param>
/// <param name="Until">End; 00:00:00 is the end of the day.</param>
/// <param name="Breaks">Pauses.</param>
/// <param name="ServiceIds">Services it is kept for; none, with no category either, for all.</param>
/// <param name="CategoryIds">Categories it is kept for.</param>
public sealed record ShiftDocument(
    Guid LocationId,
    LocalTime From,
    LocalTime Until,
    IReadOnlyList<BreakDocument>? Breaks = null,
    IReadOnlyList<Guid>? ServiceIds = null,
    IReadOnlyList<Guid>? CategoryIds = null
)
{
    internal Shift Shift =>
        new(
            LocationId,
            new Stretch(From, Until),
            [
                .. (Breaks ?? []).Select(pause => new Break(
                    new Stretch(pause.From, pause.Until),
                    string.IsNullOrWhiteSpace(pause.Reason) ? "Break" : pause.Reason.Trim()
                )),
            ]
        )
        {
            Services = (ServiceIds ?? []).ToHashSet(),
            Categories = (CategoryIds ?? []).ToHashSet(),
        };

    /// <summary>Finds where it is at no location there is, or kept for nothing there is.</summary>
    internal void Check(Checks checks, Setup setup, string prefix)
    {
        checks.Require(setup.HouseOf(LocationId) is not null, $"{prefix}locationId", "There is no such location.");
        foreach ((int i, Guid id) in (ServiceIds ?? []).Index())
            checks.Require(
                setup.Parts.Services.Any(listed => listed.Service.Id == id),
                $"{prefix}serviceIds[{i}]",
                "There is no such service."
            );
        foreach ((int i, Guid id) in (CategoryIds ?? []).Index())
            checks.Require(
                setup.Categories.Any(listed => listed.Category.Id == id),
                $"{prefix}categoryIds[{i}]",
                "There is no such category."
            );
    }

    internal static ShiftDocument Of(Shift shift) =>
        new(
            shift.LocationId,
            shift.During.From,
            shift.During.Until,
            [.. shift.Breaks.Select(item => new BreakDocument(item.During.From, item.During.Until, item.Reason))],
            [.. shift.Services],
            [.. shift.Categories]
        );
}

/// <summary>A shift of a rota.</summary>
/// <param name="Week">Week of the cycle, 0 for the first.</param>
/// <param name="Weekday">Day of the week.</param>
/// <param name="Shift">The shift.</param>
public sealed record RotaShiftDocument(int Week, Weekday Weekday, ShiftDocument Shift);

/// <summary>A rota from a date on.</summary>
/// <param name="From">The first date on which it holds; weeks are counted from the Monday of its week.</param>
/// <param name="Weeks">Length of the cycle in weeks.</param>
/// <param name="Shifts">Shifts of the cycle.</param>
/// <param name="Version">To be sent as If-Match with a change; 0 where there is none yet.</param>
public sealed record RotaDocument(LocalDate From, int Weeks, IReadOnlyList<RotaShiftDocument>? Shifts, long Version = 0)
{
    internal static RotaDocument Of(Versioned<Rota> rota) => Of(rota.Value, rota.Version);

    internal static RotaDocument Of(Rota rota, long version = 0) =>
        new(
            rota.From,
            rota.Weeks,
            [.. rota.Shifts.Select(shift => new RotaShiftDocument(shift.Week, (Weekday)shift.Weekday, ShiftDocument.Of(shift.Shift)))],
            version
        );

    internal Rota Check(Checks checks, Setup setup, Guid practitionerId)
    {
        checks.Require(Weeks is >= 1 and <= 52, "weeks", "A rota repeats over 1 to 52 weeks.");
        checks.Require(From.Year is >= 2000 and <= 2100, "from", "Choose a date between the years 2000 and 2100.");
        checks.Require((Shifts?.Count ?? 0) <= 52 * 7 * 6, "shifts", "Those are too many shifts.");
        foreach (
            IGrouping<(int Week, Weekday Weekday), (int Index, RotaShiftDocument Item)> day in (Shifts ?? [])
                .Index()
                .GroupBy(pair => (pair.Item.Week, pair.Item.Weekday))
        )
        {
            List<(int Index, RotaShiftDocument Item)> all = [.. day];
            foreach ((int index, RotaShiftDocument shift) in all)
            {
                checks.Require(shift.Week >= 0 && shift.Week < Weeks, $"shifts[{index}].week", "That week is not in the cycle.");
                shift.Shift.Check(checks, setup, $"shifts[{index}].shift.");
            }

            checks.Add(ShiftCheck.Of([.. all.Select(pair => pair.Item.Shift.Shift)], at => $"shifts[{all[at].Index}].shift."));
        }

        return new Rota(
            practitionerId,
            From,
            Math.Max(1, Weeks),
            [.. (Shifts ?? []).Select(shift => new RotaShift(shift.Week, (IsoDayOfWeek)shift.Weekday, shift.Shift.Shift))]
        );
    }
}

/// <summary>A dated replacement of the rota.</summary>
/// <param name="Date">Which day; the address says it.</param>
/// <param name="Shifts">The shifts of the day; none means off.</param>
/// <param name="WorksDuringClosure">Whether they stand although the location is closed.</param>
/// <param name="Reason">Why.</param>
/// <param name="Version">To be sent as If-Match with a change; 0 where there is none yet.</param>
public sealed record ShiftChangeDocument(
    LocalDate? Date,
    IReadOnlyList<ShiftDocument>? Shifts,
    bool WorksDuringClosure = false,
    string? Reason = null,
    long Version = 0
)
{
    internal static ShiftChangeDocument Of(Versioned<ShiftChange> change) => Of(change.Value, change.Version);

    internal static ShiftChangeDocument Of(ShiftChange change, long version = 0) =>
        new(change.Date, [.. change.Shifts.Select(ShiftDocument.Of)], change.WorksDuringClosure, change.Reason, version);
}

/// <summary>Time taken out of a practitioner, a room or equipment, once or repeating.</summary>
public sealed record BlockDocument
{
    /// <summary>Identity; given by the server.</summary>
    public required Guid? Id { get; init; }

    /// <summary>The practitioner, room or pool.</summary>
    public required Guid ResourceId { get; init; }

    /// <summary>The location in whose wall time it is told; where it stands or they first work, when nothing is said.</summary>
    public required Guid? LocationId { get; init; }

    /// <summary>Blocked time, a practitioner away, or time in which clients book nothing online and staff still do.</summary>
    public required BlockKind Kind { get; init; }

    /// <summary>Why.</summary>
    public required string? Reason { get; init; }

    /// <summary>Once: from when, local.</summary>
    public LocalDateTime? Start { get; init; }

    /// <summary>Once: until when, local.</summary>
    public LocalDateTime? End { get; init; }

    /// <summary>Repeating: how.</summary>
    public RepeatDocument? Repeat { get; init; }

    /// <summary>To be sent as If-Match with a change; 0 for a new one.</summary>
    public long Version { get; init; }
}

/// <summary>How blocked time repeats.</summary>
/// <param name="First">The date it is counted from.</param>
/// <param name="Rule">The rule (RFC 5545), as FREQ=WEEKLY;BYDAY=MO.</param>
/// <param name="From">From when on each date.</param>
/// <param name="Until">Until when.</param>
/// <param name="Changed">Dates left out (no times) or at another time.</param>
public sealed record RepeatDocument(
    LocalDate First,
    string? Rule,
    LocalTime From,
    LocalTime Until,
    IReadOnlyList<ChangedDateDocument>? Changed = null
);

/// <summary>A date of a repeating block that is different.</summary>
/// <param name="Date">The date.</param>
/// <param name="From">From when, or null when it is left out.</param>
/// <param name="Until">Until when, or null.</param>
public sealed record ChangedDateDocument(LocalDate Date, LocalTime? From = null, LocalTime? Until = null);
