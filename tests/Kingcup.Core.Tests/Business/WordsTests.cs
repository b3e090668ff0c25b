using System.Text.Json;
using Shouldly;
using Xunit;

namespace Kingcup.Core.Tests.Business;

/// <summary>What the server says can be said in another language.</summary>
public sealed class WordsTests
{
    private static readonly JsonSerializerOptions _written = new()
    {
        WriteIndented = true,
        PropertyNamingPolicy = JsonNamingPolicy.CamelCase,
    };
    private static readonly SpokenText _spoken = SpokenText.Read(ArchitectureTests.Root());

    [Fact]
    public void Everything_said_stands_in_the_code() => _spoken.Wrong.ShouldBeEmpty();

    [Fact]
    public void Everything_said_is_gathered_for_those_who_translate()
    {
        string file = Path.Combine(ArchitectureTests.Root(), "src/web/words/server.json");
        string now = JsonSerializer.Serialize(_spoken.Messages, _written) + "\n";
        if (Environment.GetEnvironmentVariable("KINGCUP_GATHER_WORDS") == "1")
            File.WriteAllText(file, now);
        File.ReadAllText(file).ShouldBe(now, "Run scripts/words.sh.");
    }
}
