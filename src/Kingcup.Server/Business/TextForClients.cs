using System.Collections.Concurrent;
using System.Net;
using Ganss.Xss;
using Kingcup.Server.Api;
using Markdig;

namespace Kingcup.Server.Business;

/// <summary>Turns what an owner wrote (Markdown) into HTML that is safe to show: plain formatting and links, nothing that runs.</summary>
internal static class TextForClients
{
    // More brackets or quotation marks in a row than this are no text anybody wrote.
    private const int MostMarks = 40;
    private static readonly MarkdownPipeline _pipeline = new MarkdownPipelineBuilder().DisableHtml().UseAutoLinks().Build();
    private static readonly ConcurrentDictionary<string, string> _known = new();

    /// <summary>HTML of a text. A text that cannot be rendered is shown as it is.</summary>
    internal static string Html(string markdown)
    {
        if (markdown.Length == 0) return "";
        // The same few texts are asked for all day long.
        if (_known.Count > 2000) _known.Clear();
        return _known.GetOrAdd(markdown, static text => Rendered(text) ?? $"<p>{WebUtility.HtmlEncode(text)}</p>");
    }

    /// <summary>Notes a text that cannot be rendered, before it is kept.</summary>
    internal static void Check(Checks checks, string? markdown, string field) =>
        checks.Require(
            string.IsNullOrEmpty(markdown) || Rendered(markdown) is not null,
            field,
            "This text has too many marks inside each other to be shown. Take some out."
        );

    private static string? Rendered(string text)
    {
        if (DeepestMarks(text) > MostMarks) return null;
        try
        {
            return Safe().Sanitize(Markdown.ToHtml(text, _pipeline));
        }
        catch (Exception exception)
            when (exception is ArgumentException or InvalidOperationException or IndexOutOfRangeException or FormatException)
        {
            return null;
        }
    }

    /// <summary>The most marks in a row that could open something inside something.</summary>
    private static int DeepestMarks(string text)
    {
        int most = 0, here = 0;
        foreach (char mark in text)
        {
            here = mark is '[' or '!' or '>' or '<' or '(' or ' ' ? here + (mark == ' ' ? 0 : 1) : 0;
            most = Math.Max(most, here);
        }

        return most;
    }

    private static HtmlSanitizer Safe()
    {
        HtmlSanitizer made = new();
        made.AllowedTags.Clear();
        foreach (string tag in new[] { "p", "br", "strong", "em", "ul", "ol", "li", "a", "blockquote", "code" }) made.AllowedTags.Add(tag);
        made.AllowedAttributes.Clear();
        made.AllowedAttributes.Add("href");
        made.AllowedSchemes.Clear();
        foreach (string scheme in new[] { "https", "http", "mailto", "tel" }) made.AllowedSchemes.Add(scheme);
        made.KeepChildNodes = true;
        return made;
    }
}
