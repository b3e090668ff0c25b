using System.Collections.Concurrent;
using System.Text.Encodings.Web;
using System.Text.RegularExpressions;
using Fluid;
using Fluid.Ast;
using Fluid.Values;
using Kingcup.Core.Business;
using static Kingcup.Core.Business.Sentence;

namespace Kingcup.Server.Messages;

/// <summary>
/// What messages say: Liquid over the variables of <see cref="MessageVariables"/>. A sentence between <c>{% sentence %}</c> and
/// <c>{% endsentence %}</c> goes with its variables: where one of them is empty, none of it is said (rules, section 15).
/// </summary>
internal static partial class MessageTemplates
{
    // A text is short; whatever takes more steps than this goes round in circles.
    private const int MostSteps = 10_000;

    private const int MostKept = 500;
    private static readonly FluidParser _parser = NewParser();
    private static readonly TemplateOptions _options = new() { MaxSteps = MostSteps, MaxRecursion = 10 };
    private static readonly ConcurrentDictionary<string, IFluidTemplate> _parsed = new();

    /// <summary>What is wrong with a template, or null.</summary>
    internal static Sentence? Fault(string template)
    {
        if (!_parser.TryParse(template, out IFluidTemplate parsed, out string error))
            return Say($"This cannot be read: {error}");
        Names names = new();
        names.VisitTemplate(parsed);
        string? unknown = names.Found.FirstOrDefault(name => !MessageVariables.Known.Any(known => known.Name == name));
        if (unknown is not null) return Say($"There is no variable called {unknown}. Choose one from the list.");
        try
        {
            Fill(template, MessageVariables.Sample());
            return null;
        }
        catch (Exception exception) when (exception is InvalidOperationException or FluidException or FormatException)
        {
            return Say($"This cannot be filled in: {exception.Message}");
        }
    }

    /// <summary>Fills a template in.</summary>
    /// <param name="template">A template without faults.</param>
    /// <param name="values">The variables; one that is not in it is empty.</param>
    internal static string Fill(string template, IReadOnlyDictionary<string, string> values)
    {
        if (!_parsed.TryGetValue(template, out IFluidTemplate? parsed))
        {
            parsed = _parser.Parse(template);
            if (_parsed.Count >= MostKept) _parsed.Clear();
            _parsed[template] = parsed;
        }

        TemplateContext context = new(_options);
        foreach ((string name, string value) in values) context.SetValue(name, StringValue.Create(value));
        string text = parsed.Render(context, NullEncoder.Default);
        return Empty().Replace(text.ReplaceLineEndings("\n"), "\n\n").Trim();
    }

    private static FluidParser NewParser()
    {
        FluidParser parser = new();
        parser.RegisterEmptyBlock("sentence", SentenceAsync);
        return parser;
    }

    private static async ValueTask<Completion> SentenceAsync(
        IReadOnlyList<Statement> statements,
        TextWriter output,
        TextEncoder encoder,
        TemplateContext context
    )
    {
        foreach (OutputStatement said in statements.OfType<OutputStatement>())
        {
            if ((await said.Expression.EvaluateAsync(context)).ToStringValue().Length == 0) return Completion.Normal;
        }

        foreach (Statement statement in statements)
        {
            Completion completion = await statement.WriteToAsync(output, encoder, context);
            if (completion != Completion.Normal) return completion;
        }

        return Completion.Normal;
    }

    // Where a sentence is not said, its line is not there either.
    [GeneratedRegex(@"[ \t]*\n([ \t]*\n)+")]
    private static partial Regex Empty();

    /// <summary>The variables a template names.</summary>
    private sealed class Names : AstVisitor
    {
        private readonly HashSet<string> _own = [];

        internal List<string> Found { get; } = [];

        protected override Statement VisitAssignStatement(AssignStatement assignStatement)
        {
            _own.Add(assignStatement.Identifier);
            return base.VisitAssignStatement(assignStatement);
        }

        protected override Expression VisitMemberExpression(MemberExpression memberExpression)
        {
            if (memberExpression.Segments[0] is IdentifierSegment { Identifier: var name } && !_own.Contains(name)) Found.Add(name);
            return base.VisitMemberExpression(memberExpression);
        }
    }
}
