using NodaTime;

namespace Kingcup.Core.Forms;

/// <summary>
/// What may wait for a booking whose question it answers. Anybody may send a file, so few are taken of one device and of one address
/// range, and no more in all than the business can keep; those of visits no longer count.
/// </summary>
public static class AnswerFiles
{
    /// <summary>Most bytes of one file.</summary>
    public const int MostBytes = 10 * 1024 * 1024;

    /// <summary>Most files that wait, of one device and of one address range.</summary>
    public const int MostOfDevice = 8, MostOfRange = 30;

    /// <summary>Most bytes that wait, of one address range and of all.</summary>
    public const long MostBytesOfRange = 10L * MostBytes, MostBytesOfAll = 200L * MostBytes;

    /// <summary>How long after it was sent a file answers a question.</summary>
    public static readonly Duration Taken = Duration.FromDays(1);

    /// <summary>How long a file no visit needs is kept: a payment begun with it in the last moment may take a day to be settled.</summary>
    public static readonly Duration Kept = Duration.FromDays(3);

    /// <summary>Whether one more is taken.</summary>
    /// <param name="waiting">What waits already.</param>
    /// <param name="bytes">How large it is.</param>
    public static bool Takes(WaitingFiles waiting, int bytes)
    {
        ArgumentNullException.ThrowIfNull(waiting);
        return waiting.OfDevice < MostOfDevice
            && waiting.OfRange < MostOfRange
            && waiting.BytesOfRange + bytes <= MostBytesOfRange
            && waiting.BytesOfAll + bytes <= MostBytesOfAll;
    }
}

/// <summary>What waits for a booking.</summary>
/// <param name="OfDevice">Files of the device.</param>
/// <param name="OfRange">Files of the address range.</param>
/// <param name="BytesOfRange">Bytes of the address range.</param>
/// <param name="BytesOfAll">Bytes of all.</param>
public sealed record WaitingFiles(int OfDevice, int OfRange, long BytesOfRange, long BytesOfAll);
