using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;

namespace Kingcup.Core.Tests.Business;

/// <summary>A message of the server with the file it is written in.</summary>
/// <param name="Pattern">Its English with numbered values.</param>
/// <param name="File">Path from the root of the repository.</param>
internal sealed record Spoken(string Pattern, string File);

/// <summary>Finds every sentence that core, storage and server say, and what becomes one without standing in the code.</summary>
internal sealed class SpokenText
{
    private static readonly string[] _floors = ["src/Kingcup.Core", "src/Kingcup.Storage", "src/Kingcup.Server"];
    private static readonly string[] _values = ["string", "int", "long", "LocalDate", "LocalTime", "Sentence", "Sentence.Counted", "Sum"];
    private readonly List<Spoken> _messages = [];
    private readonly List<string> _wrong = [];
    private readonly string _root;

    private SpokenText(string root) => _root = root;

    /// <summary>The messages, each once for each file.</summary>
    internal IEnumerable<Spoken> Messages => _messages.Distinct().OrderBy(message => message.Pattern, StringComparer.Ordinal);

    /// <summary>Places where a text becomes a sentence that nobody could translate.</summary>
    internal IReadOnlyList<string> Wrong => _wrong;

    /// <summary>Reads the code.</summary>
    internal static SpokenText Read(string root)
    {
        SyntaxTree[] files =
        [
            .. _floors
                .SelectMany(floor => Directory.GetFiles(Path.Combine(root, floor), "*.cs", SearchOption.AllDirectories))
                .Where(file =>
                    !file.Contains("/obj/", StringComparison.Ordinal) || file.EndsWith(".GlobalUsings.g.cs", StringComparison.Ordinal)
                )
                .DistinctBy(file => file.Contains("/obj/", StringComparison.Ordinal) ? Path.GetFileName(file) : file)
                .Select(file => CSharpSyntaxTree.ParseText(File.ReadAllText(file), CSharpParseOptions.Default, file)),
        ];
        string[] known = ((string)AppContext.GetData("TRUSTED_PLATFORM_ASSEMBLIES")!).Split(Path.PathSeparator);
        CSharpCompilation code = CSharpCompilation.Create(
            "Kingcup",
            files,
            known.Where(path => !Path.GetFileName(path).StartsWith("Kingcup.", StringComparison.Ordinal))
                .Select(path => MetadataReference.CreateFromFile(path)),
            new CSharpCompilationOptions(OutputKind.ConsoleApplication, nullableContextOptions: NullableContextOptions.Enable)
        );
        SpokenText spoken = new(root);
        foreach (SyntaxTree file in files)
        {
            SemanticModel model = code.GetSemanticModel(file);
            foreach (ExpressionSyntax expression in file.GetRoot().DescendantNodes().OfType<ExpressionSyntax>())
                spoken.Look(expression, model);
        }

        return spoken;
    }

    private void Look(ExpressionSyntax expression, SemanticModel model)
    {
        TypeInfo type = model.GetTypeInfo(expression);
        if (type.ConvertedType?.Name != "Sentence" || type.Type?.Name == "Sentence" || expression.Parent is ParenthesizedExpressionSyntax)
            return;
        Conversion conversion = model.GetConversion(expression);
        if (conversion.IsInterpolatedStringHandler)
            Keep(PatternOf(expression, model), expression);
        else if (conversion is { IsUserDefined: true, MethodSymbol.Name: "op_Implicit" })
            Text(expression, model);
    }

    // A text in the code, or a choice between some.
    private void Text(ExpressionSyntax expression, SemanticModel model)
    {
        switch (expression)
        {
            case ConditionalExpressionSyntax choice:
                Text(choice.WhenTrue, model);
                Text(choice.WhenFalse, model);
                break;
            case SwitchExpressionSyntax choice:
                foreach (SwitchExpressionArmSyntax arm in choice.Arms)
                    Text(arm.Expression, model);
                break;
            case ParenthesizedExpressionSyntax inner:
                Text(inner.Expression, model);
                break;
            case not null when model.GetConstantValue(expression) is { HasValue: true, Value: string text }:
                Keep(text, expression);
                break;
            default:
                Refuse(expression!);
                break;
        }
    }

    private string PatternOf(ExpressionSyntax expression, SemanticModel model)
    {
        int value = 0;
        return string.Concat(Pieces(expression).Select(piece => piece switch
        {
            InterpolatedStringTextSyntax text => text.TextToken.ValueText,
            InterpolationSyntax hole => Hole(hole, model, value++),
            _ => "",
        }));
    }

    private static IEnumerable<InterpolatedStringContentSyntax> Pieces(ExpressionSyntax expression) => expression switch
    {
        InterpolatedStringExpressionSyntax text => text.Contents,
        BinaryExpressionSyntax sum => [.. Pieces(sum.Left), .. Pieces(sum.Right)],
        ParenthesizedExpressionSyntax inner => Pieces(inner.Expression),
        _ => [],
    };

    private string Hole(InterpolationSyntax hole, SemanticModel model, int value)
    {
        if (hole.Expression is InvocationExpressionSyntax { ArgumentList.Arguments: [_, var one, var other] } call
            && model.GetSymbolInfo(call).Symbol?.Name == "Count"
            && model.GetConstantValue(one.Expression).Value is string single
            && model.GetConstantValue(other.Expression).Value is string several)
            return $"{{{value}, plural, one {{# {single}}} other {{# {several}}}}}";
        ITypeSymbol? found = model.GetTypeInfo(hole.Expression).Type;
        string type = found?.ToDisplayString(SymbolDisplayFormat.MinimallyQualifiedFormat).TrimEnd('?') ?? "";
        if (!_values.Contains(type) || type == "Sentence.Counted" || hole.FormatClause is not null)
            Refuse(hole.Expression);
        return $"{{{value}}}";
    }

    private void Keep(string pattern, ExpressionSyntax at)
    {
        if (pattern.Length > 0 && pattern != "{0}")
            _messages.Add(new Spoken(pattern, Path.GetRelativePath(_root, at.SyntaxTree.FilePath)));
    }

    private void Refuse(ExpressionSyntax expression)
    {
        FileLinePositionSpan at = expression.GetLocation().GetLineSpan();
        string file = Path.GetRelativePath(_root, at.Path);
        _wrong.Add($"{file}:{at.StartLinePosition.Line + 1}: {expression.ToString().ReplaceLineEndings(" ")}");
    }
}
