using System.Globalization;
using Kingcup.Core.Availability;
using NodaTime;

namespace Kingcup.Server.Availability;

/// <summary>Times of day as answers carry them. Each is written once; answers hold thousands of them.</summary>
internal static class ClockText
{
    private static readonly string[] _minutes =
    [
        .. Enumerable.Range(0, 24 * 60)
            .Select(minute => new LocalTime(minute / 60, minute % 60).ToString("HH:mm", CultureInfo.InvariantCulture)),
    ];

    /// <summary>A time of day, as 09:05.</summary>
    internal static string Of(LocalTime time) => _minutes[(time.Hour * 60) + time.Minute];

    /// <summary>What the clock shows at a grain of a day.</summary>
    internal static string Of(DayBook day, int grain) => Of(day.Day.WallOf(grain));
}
