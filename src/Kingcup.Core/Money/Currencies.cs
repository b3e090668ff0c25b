namespace Kingcup.Core.Money;

/// <summary>What ISO 4217 says of currencies.</summary>
public static class Currencies
{
    private static readonly string[] _none =
    [
        "BIF",
        "CLP",
        "DJF",
        "GNF",
        "ISK",
        "JPY",
        "KMF",
        "KRW",
        "PYG",
        "RWF",
        "UGX",
        "UYI",
        "VND",
        "VUV",
        "XAF",
        "XOF",
        "XPF",
    ];
    private static readonly string[] _three = ["BHD", "IQD", "JOD", "KWD", "LYD", "OMR", "TND"];

    /// <summary>Decimals of a currency: 2 for most, 0 or 3 for some.</summary>
    /// <param name="code">ISO 4217, such as "EUR".</param>
    public static int DecimalsOf(string code) => _none.Contains(code) ? 0 : _three.Contains(code) ? 3 : 2;

    /// <summary>An amount with a point and the decimals of its currency, as files write it: "84.00".</summary>
    /// <param name="amount">In minor units, 0 or more.</param>
    /// <param name="code">ISO 4217.</param>
    public static string Plain(long amount, string code)
    {
        int decimals = DecimalsOf(code);
        string digits = amount.ToString(System.Globalization.CultureInfo.InvariantCulture).PadLeft(decimals + 1, '0');
        return decimals == 0 ? digits : $"{digits[..^decimals]}.{digits[^decimals..]}";
    }
}
