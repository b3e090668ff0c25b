using System.Globalization;

namespace Kingcup.Core.Business;

/// <summary>A colour of the business, and whether it can be read (WCAG 2.2, contrast).</summary>
public readonly record struct Colour
{
    /// <summary>Least contrast of text.</summary>
    public const double LeastContrast = 4.5;

    private readonly int _rgb;

    private Colour(int rgb) => _rgb = rgb;

    /// <summary>White, as text on the main colour is.</summary>
    public static Colour White { get; } = new(0xFFFFFF);

    /// <summary>Ink, as text on the accent colour is.</summary>
    public static Colour Ink { get; } = new(0x1D2B26);

    /// <summary>Reads "#17594A"; null when it is not a colour.</summary>
    public static Colour? Parse(string? text) =>
        text is { Length: 7 }
        && text[0] == '#'
        && int.TryParse(text.AsSpan(1), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out int rgb)
            ? new Colour(rgb)
            : null;

    /// <summary>The contrast with another colour, from 1 (none) to 21 (black on white).</summary>
    public double ContrastWith(Colour other)
    {
        double mine = Luminance, theirs = other.Luminance;
        return (Math.Max(mine, theirs) + 0.05) / (Math.Min(mine, theirs) + 0.05);
    }

    private double Luminance => (0.2126 * Linear(_rgb >> 16)) + (0.7152 * Linear(_rgb >> 8)) + (0.0722 * Linear(_rgb));

    private static double Linear(int channel)
    {
        double value = (channel & 0xFF) / 255.0;
        return value <= 0.04045 ? value / 12.92 : Math.Pow((value + 0.055) / 1.055, 2.4);
    }

    /// <inheritdoc/>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"#{_rgb:X6}");
}
