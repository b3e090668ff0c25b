using NodaTime;

namespace Kingcup.Core.Forms;

/// <summary>
/// How many files may wait for a booking that they answer a question of. Anybody may send one, so few are taken of one device and of
/// one address range, and no more in all than the business can keep; those of visits no longer count.
/// </summary>
public static class AnswerFiles
{
    /// <summary>Most bytes of one file.</summary>
    public const int MostBytes = 10 * 1024 * 1024;

    /// <summary>Most files that wait, of one device, of one address range, and of all.</summary>
    public const int MostOfDevice = 8, MostOfRange = 30, MostOfAll = 500;

    /// <summary>How long after it was sent a file answers a question.</summary>
    public static readonly Duration Taken = Duration.FromDays(1);

    /// <summary>How long a file no visit needs is kept: a payment begun with it in the last moment may take a day to be settled.</summary>
    public static readonly Duration Kept = Duration.FromDays(3);

    /// <summary>Whether one more is taken.</summary>
    /// <param name="ofDevice">How many of the device wait.</param>
    /// <param name="ofRange">How many of the address range wait.</param>
    /// <param name="ofAll">How many wait.</param>
    public static bool TakesOneMore(int ofDevice, int ofRange, int ofAll) =>
        ofDevice < MostOfDevice && ofRange < MostOfRange && ofAll < MostOfAll;
}
