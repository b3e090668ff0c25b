using Kingcup.Server.Api;
using SkiaSharp;

namespace Kingcup.Server.Business;

/// <summary>Pictures somebody sends, drawn anew.</summary>
internal static class Pictures
{
    // What a picture of so many pixels takes to be read is known, and only one is read at a time.
    private const int MostPixels = 50_000_000,
        MostDecoded = 25_000_000,
        Quality = 86;
    private static readonly SemaphoreSlim _one = new(1);

    /// <summary>A picture upright, no longer than an edge, without anything else the file held (where and when it was taken).</summary>
    /// <param name="bytes">JPEG, PNG, WebP or GIF.</param>
    /// <param name="edge">Pixels of its longer edge at the most.</param>
    /// <param name="type">"image/webp" or "image/jpeg", which it becomes.</param>
    /// <param name="stop">When nobody waits for it any more.</param>
    /// <returns>Null where it is no picture.</returns>
    /// <exception cref="Refused">It has too many pixels.</exception>
    internal static async Task<byte[]?> ShrinkAsync(byte[] bytes, int edge, string type, CancellationToken stop)
    {
        await _one.WaitAsync(stop);
        try
        {
            return Shrink(bytes, edge, type == "image/jpeg" ? SKEncodedImageFormat.Jpeg : SKEncodedImageFormat.Webp);
        }
        finally
        {
            _one.Release();
        }
    }

    private static byte[]? Shrink(byte[] bytes, int edge, SKEncodedImageFormat format)
    {
        using MemoryStream stream = new(bytes);
        using SKCodec? codec = SKCodec.Create(stream);
        if (codec is null || codec.Info.Width < 1 || codec.Info.Height < 1)
            return null;
        // A photograph is read no larger than it is needed, where its format can do that.
        float wanted = Math.Min(1f, (float)edge / Math.Max(codec.Info.Width, codec.Info.Height));
        SKSizeI read = codec.GetScaledDimensions(wanted);
        if (
            (long)codec.Info.Width * codec.Info.Height > MostPixels
            || (long)read.Width * read.Height > MostDecoded
        )
            throw Refused.Invalid("file", "The picture has too many pixels: make it smaller, or choose a JPEG.");
        using SKBitmap? decoded = SKBitmap.Decode(codec, new SKImageInfo(read.Width, read.Height));
        if (decoded is null)
            return null;
        bool turned =
            codec.EncodedOrigin
            is SKEncodedOrigin.RightTop
                or SKEncodedOrigin.LeftBottom
                or SKEncodedOrigin.LeftTop
                or SKEncodedOrigin.RightBottom;
        int degrees = codec.EncodedOrigin switch
        {
            SKEncodedOrigin.RightTop or SKEncodedOrigin.LeftTop => 90,
            SKEncodedOrigin.BottomRight or SKEncodedOrigin.BottomLeft => 180,
            SKEncodedOrigin.LeftBottom or SKEncodedOrigin.RightBottom => 270,
            _ => 0,
        };
        float scale = Math.Min(1f, (float)edge / Math.Max(decoded.Width, decoded.Height));
        int width = Math.Max(1, (int)Math.Round(decoded.Width * scale)),
            height = Math.Max(1, (int)Math.Round(decoded.Height * scale));
        using SKSurface surface = SKSurface.Create(
            new SKImageInfo(turned ? height : width, turned ? width : height, SKColorType.Rgba8888, SKAlphaType.Premul)
        );
        SKCanvas canvas = surface.Canvas;
        // What can be seen through becomes white where the new format knows only what cannot.
        if (format == SKEncodedImageFormat.Jpeg) canvas.Clear(SKColors.White);
        canvas.Translate((turned ? height : width) / 2f, (turned ? width : height) / 2f);
        canvas.RotateDegrees(degrees);
        canvas.Translate(-width / 2f, -height / 2f);
        using SKImage image = SKImage.FromBitmap(decoded);
        canvas.DrawImage(image, new SKRect(0, 0, width, height), new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
        using SKImage drawn = surface.Snapshot();
        using SKData data = drawn.Encode(format, Quality);
        return data.ToArray();
    }
}
