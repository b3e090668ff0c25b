using System.Security.Cryptography;

namespace Kingcup.Core.Booking;

/// <summary>The short reference a client reads out on the telephone.</summary>
public static class VisitReference
{
    // No vowels (no words by accident) and nothing that sounds or looks like another character.
    private const string Alphabet = "BCDFGHJKMPRTWX2346789";

    /// <summary>Length of a reference.</summary>
    public const int Length = 8;

    /// <summary>Draws a new reference; there are about 37 thousand million.</summary>
    public static string New() => RandomNumberGenerator.GetString(Alphabet, Length);
}
