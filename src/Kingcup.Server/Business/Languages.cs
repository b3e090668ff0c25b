using System.Collections.Concurrent;
using System.Globalization;
using System.Text.Json;
using Kingcup.Core.Business;
using Kingcup.Server.Availability;
using Microsoft.Extensions.FileProviders;

namespace Kingcup.Server.Business;

/// <summary>
/// The languages the server can speak. What another one calls its sentences stands in <c>words/LANGUAGE.json</c>, which the build of the
/// screens makes of the file that translators write; without it the words are English, and dates and times are the country's all the
/// same.
/// </summary>
internal sealed partial class Languages(IWebHostEnvironment environment, BookReader book, ILogger<Languages> log)
{
    private readonly ConcurrentDictionary<string, Language> _known = new();

    /// <summary>Lets every answer be in the language of the business, as its setup was last read here.</summary>
    internal static Task SpeakAsync(HttpContext http, RequestDelegate next)
    {
        http.RequestServices.GetRequiredService<Languages>().Speak();
        return next(http);
    }

    /// <summary>Speaks the language of the business from here on.</summary>
    internal void Speak() =>
        Language.Speak(() => book.LastRead is { } setup ? Of(setup.Business.Locale) : Language.English);

    /// <summary>A language with its country, as de-IE.</summary>
    internal Language Of(string locale) => _known.GetOrAdd(locale, Read);

    /// <summary>Takes what the build wrote of a language apart.</summary>
    internal static Language Read(CultureInfo culture, Stream words)
    {
        using JsonDocument file = JsonDocument.Parse(words);
        return new Language(
            culture,
            file.RootElement.GetProperty("messages").EnumerateObject().ToDictionary(said => said.Name, said => MessageOf(said.Value)),
            [.. file.RootElement.GetProperty("forms").EnumerateArray().Select(form => form.GetString()!)]
        );
    }

    private Language Read(string locale)
    {
        try
        {
            CultureInfo culture = CultureInfo.GetCultureInfo(locale);
            IFileInfo file = environment.WebRootFileProvider.GetFileInfo($"/words/{locale.Split('-')[0]}.json");
            if (!file.Exists) return Language.For(culture);
            using Stream words = file.CreateReadStream();
            return Read(culture, words);
        }
        catch (Exception exception)
            when (exception
                    is IOException or CultureNotFoundException or JsonException or KeyNotFoundException or InvalidOperationException
            )
        {
            // Whoever asks is answered in English rather than not at all.
            Unread(log, exception, locale);
            return Language.English;
        }
    }

    [LoggerMessage(LogLevel.Warning, "The words of {Locale} cannot be read; the server speaks English")]
    private static partial void Unread(ILogger log, Exception exception, string locale);

    // A part is a text, ["0"] for a value, or ["0", "plural", { "one": [...], "other": [...] }]; in those "#" is the number.
    private static Message MessageOf(JsonElement parts) =>
        parts.ValueKind == JsonValueKind.String
            ? new Message([new Message.Part(parts.GetString(), null, null)])
            : new Message([.. parts.EnumerateArray().Select(PartOf)]);

    private static Message.Part PartOf(JsonElement part)
    {
        if (part.ValueKind == JsonValueKind.String)
            return part.GetString() is "#" ? new Message.Part(null, null, null) : new Message.Part(part.GetString(), null, null);
        int value = int.Parse(part[0].GetString()!, NumberStyles.None, CultureInfo.InvariantCulture);
        return part.GetArrayLength() < 3
            ? new Message.Part(null, value, null)
            : new Message.Part(null, value, part[2].EnumerateObject().ToDictionary(form => form.Name, form => MessageOf(form.Value)));
    }
}
