using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;
using Sexton.Core.Values;

namespace Sexton.Destinations.Pages;

/// <summary>
/// Reads a page's answer back from the bytes that were served: a JSON body whose "entries" carry a "slot" and a "text", and "files" where the
/// answer is some.
/// </summary>
public static class PageReader
{
    /// <summary>The name of the one part of a page.</summary>
    public const string Part = "page";

    /// <summary>The texts by slot. A slot that stands twice stands in no one spot, and counts as not there.</summary>
    public static IReadOnlyDictionary<SlotId, string> Read(byte[] served)
    {
        using var page = JsonDocument.Parse(served);
        return page
            .RootElement.GetProperty("entries")
            .EnumerateArray()
            .GroupBy(e => e.GetProperty("slot").GetString()!, StringComparer.Ordinal)
            .Where(g => g.Count() == 1)
            .ToDictionary(g => SlotId.Parse(g.Key), g => Found(g.Single()));
    }

    /// <summary>The parts of what was served, as a person looks at them: the one that there is.</summary>
    /// <param name="served">The body.</param>
    /// <param name="slot">The slot that is looked for, as text.</param>
    public static IReadOnlyList<ArtefactPart> PartsOf(byte[] served, string slot)
    {
        var page = JsonNode.Parse(served);
        var entry = page?["entries"]?.AsArray().SingleOrDefault(e => e?["slot"]?.GetValue<string>() == slot);
        return [IndentedJson.Part(Part, page, entry)];
    }

    private static string Found(JsonElement entry) =>
        entry.TryGetProperty("files", out var files) && files.GetArrayLength() > 0
            ? Entry.ProofOf(
                files
                    .EnumerateArray()
                    .Select(static f => new FileValue(
                        f.GetProperty("name").GetString()!,
                        f.GetProperty("size").GetInt64(),
                        f.GetProperty("sha256").GetString()!
                    ))
            )
            : entry.GetProperty("text").GetString()!;

    /// <summary>Compares what was served with what should have been.</summary>
    public static IEnumerable<SlotFinding> ReadBack(byte[] served, Projection expected) =>
        SlotFinding.Judge(expected, Part, Read(served), Evidence.Shown);
}
