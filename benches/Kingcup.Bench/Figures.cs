using System.Text.Json;
using System.Text.Json.Nodes;

namespace Kingcup.Bench;

/// <summary>The figures of a run, kept as JSON: name, value, unit, what to aim for, and what it is relative to.</summary>
internal sealed class Figures(string path)
{
    private static readonly JsonSerializerOptions _indented = new() { WriteIndented = true };
    private readonly JsonArray _all = File.Exists(path) ? JsonNode.Parse(File.ReadAllText(path))!.AsArray() : [];

    /// <summary>Adds a figure in place of the one of an earlier run, and says it.</summary>
    internal void Add(string name, double value, string unit, string? aim = null, string? relativeTo = null)
    {
        foreach (JsonNode? old in _all.Where(figure => figure!["name"]!.GetValue<string>() == name).ToList())
            _all.Remove(old);
        _all.Add(
            new JsonObject
            {
                ["name"] = name,
                ["value"] = Math.Round(value, 3),
                ["unit"] = unit,
                ["aim"] = aim,
                ["relativeTo"] = relativeTo,
            }
        );
        Console.WriteLine(
            $"{name}: {value:0.##} {unit}{(relativeTo is null ? "" : $" of {relativeTo}")}{(aim is null ? "" : $" (aim: {aim})")}"
        );
    }

    /// <summary>Writes them.</summary>
    internal void Save() => File.WriteAllText(path, _all.ToJsonString(_indented) + "\n");
}
