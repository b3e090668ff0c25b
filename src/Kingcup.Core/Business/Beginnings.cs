using NodaTime;

namespace Kingcup.Core.Business;

/// <summary>What a business does, as its owner says it first.</summary>
public enum Trade
{
    /// <summary>Cuts and colours hair.</summary>
    Hair,

    /// <summary>Hands and feet.</summary>
    Nails,

    /// <summary>Faces, brows, skin.</summary>
    Skin,

    /// <summary>Massage and wellness.</summary>
    Massage,

    /// <summary>Physiotherapy and the like.</summary>
    Therapy,

    /// <summary>Treatments that need a licence.</summary>
    Clinic,
}

/// <summary>A service a business may begin with.</summary>
/// <param name="Name">Name.</param>
/// <param name="Category">The category it stands in.</param>
/// <param name="Minutes">How long it takes; a multiple of 5.</param>
/// <param name="BufferMinutes">Kept after it; a multiple of 5.</param>
/// <param name="Price">Price in whole units of the currency.</param>
/// <param name="Feature">What its room has to have, or null.</param>
/// <param name="Qualification">What whoever does it has to hold, or null.</param>
public sealed record BeginningService(
    string Name,
    string Category,
    int Minutes,
    int BufferMinutes,
    int Price,
    string? Feature = null,
    string? Qualification = null
);

/// <summary>A room a business may begin with.</summary>
/// <param name="Name">Name on the door.</param>
/// <param name="Features">What it has.</param>
public sealed record BeginningRoom(string Name, IReadOnlyList<string> Features);

/// <summary>
/// What a business of a trade usually begins with, so that its owner changes what differs instead of entering everything. Its
/// services can all be booked in its rooms by somebody who holds its qualifications.
/// </summary>
/// <param name="Trade">The trade.</param>
/// <param name="Hours">Opening hours.</param>
/// <param name="Qualifications">Qualifications somebody may have to hold.</param>
/// <param name="Rooms">Rooms.</param>
/// <param name="Services">Five services.</param>
public sealed record Beginning(
    Trade Trade,
    IReadOnlyList<OpeningHours> Hours,
    IReadOnlyList<string> Qualifications,
    IReadOnlyList<BeginningRoom> Rooms,
    IReadOnlyList<BeginningService> Services
);

/// <summary>The beginnings of all trades.</summary>
public static class Beginnings
{
    private static readonly Beginning[] _all =
    [
        new(
            Trade.Hair,
            Week(IsoDayOfWeek.Tuesday, 9, 18, saturday: 15),
            ["Colour"],
            [new("Chair 1", ["chair", "wash"]), new("Chair 2", ["chair", "wash"])],
            [
                new("Cut and finish", "Hair", 45, 5, 48, "chair"),
                new("Dry cut", "Hair", 30, 5, 32, "chair"),
                new("Wash and blow-dry", "Hair", 40, 5, 35, "wash"),
                new("Root colour", "Colour", 90, 10, 78, "wash", "Colour"),
                new("Colour and cut", "Colour", 135, 10, 120, "wash", "Colour"),
            ]
        ),
        new(
            Trade.Nails,
            Week(IsoDayOfWeek.Tuesday, 10, 19, saturday: 17),
            ["Podiatry"],
            [new("Table 1", ["table"]), new("Foot chair", ["foot bath"])],
            [
                new("Manicure 45", "Hands", 45, 5, 36, "table"),
                new("Lacquer that lasts 60", "Hands", 60, 5, 45, "table"),
                new("Lacquer off 20", "Hands", 20, 5, 15, "table"),
                new("Pedicure 60", "Feet", 60, 10, 52, "foot bath"),
                new("Medical pedicure 60", "Feet", 60, 10, 64, "foot bath", "Podiatry"),
            ]
        ),
        new(
            Trade.Skin,
            Week(IsoDayOfWeek.Tuesday, 10, 19, saturday: 17),
            ["Skin"],
            [new("Room 1", ["couch", "lamp"]), new("Room 2", ["couch"])],
            [
                new("Facial 50", "Face", 50, 10, 68, "couch", "Skin"),
                new("Deep cleansing 75", "Face", 75, 10, 92, "lamp", "Skin"),
                new("Brow shape 15", "Brows and lashes", 15, 5, 18, "couch"),
                new("Brow and lash tint 30", "Brows and lashes", 30, 5, 34, "couch"),
                new("Waxing, half leg 30", "Waxing", 30, 10, 32, "couch"),
            ]
        ),
        new(
            Trade.Massage,
            Week(IsoDayOfWeek.Tuesday, 10, 19, saturday: 17),
            ["Massage"],
            [new("Room 1", ["couch"]), new("Room 2", ["couch", "shower"])],
            [
                new("Massage 60", "Massage", 60, 10, 75, "couch", "Massage"),
                new("Massage 90", "Massage", 90, 10, 105, "couch", "Massage"),
                new("Back and shoulders 30", "Massage", 30, 10, 42, "couch", "Massage"),
                new("Hot stones 75", "Massage", 75, 15, 96, "couch", "Massage"),
                new("Body wrap 75", "Body", 75, 15, 90, "shower"),
            ]
        ),
        new(
            Trade.Therapy,
            Week(IsoDayOfWeek.Monday, 8, 18, saturday: null),
            ["Physiotherapy"],
            [new("Room 1", ["couch"]), new("Exercise room", ["mat"])],
            [
                new("First consultation 45", "Physiotherapy", 45, 5, 70, "couch", "Physiotherapy"),
                new("Physiotherapy 25", "Physiotherapy", 25, 5, 45, "couch", "Physiotherapy"),
                new("Manual therapy 40", "Physiotherapy", 40, 5, 62, "couch", "Physiotherapy"),
                new("Lymph drainage 50", "Physiotherapy", 50, 5, 64, "couch", "Physiotherapy"),
                new("Guided exercise 30", "Exercise", 30, 5, 38, "mat"),
            ]
        ),
        new(
            Trade.Clinic,
            Week(IsoDayOfWeek.Monday, 9, 18, saturday: null),
            ["Laser safety"],
            [new("Room 1", ["couch"]), new("Laser room", ["couch", "laser-safe"])],
            [
                new("Consultation 30", "Consultation", 30, 5, 45, "couch"),
                new("Laser patch test 15", "Laser", 15, 5, 20, "laser-safe", "Laser safety"),
                new("Laser small area 20", "Laser", 20, 10, 80, "laser-safe", "Laser safety"),
                new("Laser large area 45", "Laser", 45, 10, 160, "laser-safe", "Laser safety"),
                new("Peel 45", "Skin", 45, 10, 95, "couch"),
            ]
        ),
    ];

    /// <summary>The beginnings, one of each trade.</summary>
    public static IReadOnlyList<Beginning> All => _all;

    /// <summary>The beginning of a trade.</summary>
    public static Beginning Of(Trade trade) => _all.Single(beginning => beginning.Trade == trade);

    /// <summary>The same hours from a first day to Friday, and on Saturday until an earlier hour, or not at all.</summary>
    private static List<OpeningHours> Week(IsoDayOfWeek first, int from, int until, int? saturday)
    {
        List<OpeningHours> week = [];
        for (IsoDayOfWeek day = first; day <= IsoDayOfWeek.Friday; day++)
            week.Add(new OpeningHours(day, new Time.Stretch(new LocalTime(from, 0), new LocalTime(until, 0))));
        if (saturday is { } earlier)
            week.Add(new OpeningHours(IsoDayOfWeek.Saturday, new Time.Stretch(new LocalTime(9, 0), new LocalTime(earlier, 0))));
        return week;
    }
}
