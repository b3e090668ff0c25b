using System.Security.Claims;
using Kingcup.Server.Api;
using Kingcup.Storage;
using NodaTime;
using Npgsql;

namespace Kingcup.Server.Calendar;

/// <summary>Whose shifts and blocked time somebody may see and change, and in whose wall time they are told.</summary>
internal static class OwnCalendar
{
    /// <summary>Owner and manager may change anybody's; a practitioner their own, if that was allowed.</summary>
    /// <exception cref="Refused">This person may not.</exception>
    internal static async Task AllowAsync(HttpContext http, NpgsqlConnection connection, Guid resourceId, bool reading = false)
    {
        if (!http.User.IsInRole("Practitioner")) return;
        StaffRow? staff = await StaffStore.FindAsync(connection, Guid.Parse(http.User.FindFirstValue(ClaimTypes.NameIdentifier)!));
        if (staff?.PractitionerId != resourceId || !(reading || staff.EditsOwnShifts)) throw NotAllowed();
    }

    internal static Refused NotAllowed() => new(StatusCodes.Status403Forbidden, "not-allowed", "Your role does not allow this.");

    /// <summary>Refuses a change based on another version than the present one; 0 stands for nothing there yet.</summary>
    /// <exception cref="Refused">The versions differ, or none was sent.</exception>
    internal static void Match(HttpContext http, long present)
    {
        if (http.Version() != present) throw Refused.Stale(present);
    }

    /// <summary>The location in whose time somebody's or something's blocks are told: where it stands, or they first work.</summary>
    internal static ListedLocation HomeOf(Setup setup, Guid resourceId)
    {
        Guid? at = setup.Parts.Rooms.FirstOrDefault(room => room.Room.Id == resourceId)?.LocationId
            ?? setup.Parts.Pools.FirstOrDefault(pool => pool.Pool.Id == resourceId)?.LocationId
            ?? setup
                .Parts.Rotas.Where(rota => rota.Value.PractitionerId == resourceId)
                .SelectMany(rota => rota.Value.Shifts)
                .FirstOrDefault()
                ?.Shift.LocationId;
        return setup.Locations.FirstOrDefault(location => location.Location.Id == at)
            ?? (setup.Locations.Count > 0 ? setup.Locations[0] : throw Refused.NotFound("There is no such location."));
    }

    /// <summary>The day before yesterday, in every zone: what lies before is past.</summary>
    internal static LocalDate Since(IClock clock) => clock.GetCurrentInstant().InUtc().Date.PlusDays(-2);
}
