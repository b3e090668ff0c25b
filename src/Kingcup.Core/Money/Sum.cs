using System.Collections.Concurrent;
using System.Globalization;

namespace Kingcup.Core.Money;

/// <summary>A sum of money, so that a sentence can say it.</summary>
/// <param name="Amount">Minor units.</param>
/// <param name="Currency">ISO 4217, such as "EUR".</param>
public readonly record struct Sum(long Amount, string Currency)
{
    private static readonly ConcurrentDictionary<(string Culture, string Currency), NumberFormatInfo> _formats = new();

    // The sign a currency has in its own country: "€", "£".
    private static readonly Lazy<Dictionary<string, string>> _signs = new(() =>
        CultureInfo
            .GetCultures(CultureTypes.SpecificCultures)
            .Select(culture => new RegionInfo(culture.Name))
            .GroupBy(region => region.ISOCurrencySymbol)
            .ToDictionary(currency => currency.Key, currency => currency.First().CurrencySymbol)
    );

    /// <summary>The sum as a country writes it: "€84.00", "84,00 €".</summary>
    public string In(CultureInfo culture)
    {
        ArgumentNullException.ThrowIfNull(culture);
        string currency = Currency;
        NumberFormatInfo format = _formats.GetOrAdd((culture.Name, currency), _ => FormatOf(culture, currency));
        decimal units = 1;
        for (int i = 0; i < format.CurrencyDecimalDigits; i++) units *= 10;
        return (Amount / units).ToString("C", format);
    }

    private static NumberFormatInfo FormatOf(CultureInfo culture, string currency)
    {
        NumberFormatInfo format = (NumberFormatInfo)culture.NumberFormat.Clone();
        format.CurrencyDecimalDigits = Currencies.DecimalsOf(currency);
        bool isOwn = !culture.IsNeutralCulture && culture.Name.Length > 0 && new RegionInfo(culture.Name).ISOCurrencySymbol == currency;
        if (!isOwn) format.CurrencySymbol = _signs.Value.GetValueOrDefault(currency, currency);
        return format;
    }
}
