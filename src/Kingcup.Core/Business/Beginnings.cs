using NodaTime;
using static Kingcup.Core.Business.Sentence;

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
    /// <summary>The beginnings, one of each trade, in the language of whoever asks.</summary>
    public static IReadOnlyList<Beginning> All =>
    [
        new(
            Trade.Hair,
            Week(IsoDayOfWeek.Tuesday, 9, 18, saturday: 15),
            [Say("Colour")],
            [new(Say("Chair 1"), [Say("chair"), Say("wash")]), new(Say("Chair 2"), [Say("chair"), Say("wash")])],
            [
                new(Say("Cut and finish"), Say("Hair"), 45, 5, 48, Say("chair")),
                new(Say("Dry cut"), Say("Hair"), 30, 5, 32, Say("chair")),
                new(Say("Wash and blow-dry"), Say("Hair"), 40, 5, 35, Say("wash")),
                new(Say("Root colour"), Say("Colour"), 90, 10, 78, Say("wash"), Say("Colour")),
                new(Say("Colour and cut"), Say("Colour"), 135, 10, 120, Say("wash"), Say("Colour")),
            ]
        ),
        new(
            Trade.Nails,
            Week(IsoDayOfWeek.Tuesday, 10, 19, saturday: 17),
            [Say("Podiatry")],
            [new(Say("Table 1"), [Say("table")]), new(Say("Foot chair"), [Say("foot bath")])],
            [
                new(Say("Manicure 45"), Say("Hands"), 45, 5, 36, Say("table")),
                new(Say("Lacquer that lasts 60"), Say("Hands"), 60, 5, 45, Say("table")),
                new(Say("Lacquer off 20"), Say("Hands"), 20, 5, 15, Say("table")),
                new(Say("Pedicure 60"), Say("Feet"), 60, 10, 52, Say("foot bath")),
                new(Say("Medical pedicure 60"), Say("Feet"), 60, 10, 64, Say("foot bath"), Say("Podiatry")),
            ]
        ),
        new(
            Trade.Skin,
            Week(IsoDayOfWeek.Tuesday, 10, 19, saturday: 17),
            [Say("Skin")],
            [new(Say("Room 1"), [Say("couch"), Say("lamp")]), new(Say("Room 2"), [Say("couch")])],
            [
                new(Say("Facial 50"), Say("Face"), 50, 10, 68, Say("couch"), Say("Skin")),
                new(Say("Deep cleansing 75"), Say("Face"), 75, 10, 92, Say("lamp"), Say("Skin")),
                new(Say("Brow shape 15"), Say("Brows and lashes"), 15, 5, 18, Say("couch")),
                new(Say("Brow and lash tint 30"), Say("Brows and lashes"), 30, 5, 34, Say("couch")),
                new(Say("Waxing, half leg 30"), Say("Waxing"), 30, 10, 32, Say("couch")),
            ]
        ),
        new(
            Trade.Massage,
            Week(IsoDayOfWeek.Tuesday, 10, 19, saturday: 17),
            [Say("Massage")],
            [new(Say("Room 1"), [Say("couch")]), new(Say("Room 2"), [Say("couch"), Say("shower")])],
            [
                new(Say("Massage 60"), Say("Massage"), 60, 10, 75, Say("couch"), Say("Massage")),
                new(Say("Massage 90"), Say("Massage"), 90, 10, 105, Say("couch"), Say("Massage")),
                new(Say("Back and shoulders 30"), Say("Massage"), 30, 10, 42, Say("couch"), Say("Massage")),
                new(Say("Hot stones 75"), Say("Massage"), 75, 15, 96, Say("couch"), Say("Massage")),
                new(Say("Body wrap 75"), Say("Body"), 75, 15, 90, Say("shower")),
            ]
        ),
        new(
            Trade.Therapy,
            Week(IsoDayOfWeek.Monday, 8, 18, saturday: null),
            [Say("Physiotherapy")],
            [new(Say("Room 1"), [Say("couch")]), new(Say("Exercise room"), [Say("mat")])],
            [
                new(Say("First consultation 45"), Say("Physiotherapy"), 45, 5, 70, Say("couch"), Say("Physiotherapy")),
                new(Say("Physiotherapy 25"), Say("Physiotherapy"), 25, 5, 45, Say("couch"), Say("Physiotherapy")),
                new(Say("Manual therapy 40"), Say("Physiotherapy"), 40, 5, 62, Say("couch"), Say("Physiotherapy")),
                new(Say("Lymph drainage 50"), Say("Physiotherapy"), 50, 5, 64, Say("couch"), Say("Physiotherapy")),
                new(Say("Guided exercise 30"), Say("Exercise"), 30, 5, 38, Say("mat")),
            ]
        ),
        new(
            Trade.Clinic,
            Week(IsoDayOfWeek.Monday, 9, 18, saturday: null),
            [Say("Laser safety")],
            [new(Say("Room 1"), [Say("couch")]), new(Say("Laser room"), [Say("couch"), Say("laser-safe")])],
            [
                new(Say("Consultation 30"), Say("Consultation"), 30, 5, 45, Say("couch")),
                new(Say("Laser patch test 15"), Say("Laser"), 15, 5, 20, Say("laser-safe"), Say("Laser safety")),
                new(Say("Laser small area 20"), Say("Laser"), 20, 10, 80, Say("laser-safe"), Say("Laser safety")),
                new(Say("Laser large area 45"), Say("Laser"), 45, 10, 160, Say("laser-safe"), Say("Laser safety")),
                new(Say("Peel 45"), Say("Skin"), 45, 10, 95, Say("couch")),
            ]
        ),
    ];

    /// <summary>The beginning of a trade.</summary>
    public static Beginning Of(Trade trade) => All.Single(beginning => beginning.Trade == trade);

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
