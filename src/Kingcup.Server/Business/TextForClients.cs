using System.Collections.Concurrent;
using Ganss.Xss;
using Markdig;

namespace Kingcup.Server.Business;

/// <summary>Turns what an owner wrote (Markdown) into HTML that is safe to show: plain formatting and links, nothing that runs.</summary>
internal static class TextForClients
{
    private static readonly MarkdownPipeline _pipeline = new MarkdownPipelineBuilder().DisableHtml().UseAutoLinks().Build();
    private static readonly ConcurrentDictionary<string, string> _known = new();

    /// <summary>HTML of a text.</summary>
    internal static string Html(string markdown)
    {
        if (markdown.Length == 0) return "";
        // The same few texts are asked for all day long.
        if (_known.Count > 2000) _known.Clear();
        return _known.GetOrAdd(markdown, static text => Safe().Sanitize(Markdown.ToHtml(text, _pipeline)));
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
