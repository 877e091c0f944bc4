using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Projections;
using Sexton.Core.Values;

namespace Sexton.Destinations;

/// <summary>Reads JSON that another system wrote, and that may be anything.</summary>
internal static class ReadJson
{
    // What stands twice stands in no one spot.
    private static readonly JsonDocumentOptions Options = new() { AllowDuplicateProperties = false };

    /// <summary>The document of some bytes, or null when they are none.</summary>
    public static JsonNode? Document(ReadOnlySpan<byte> bytes)
    {
        try
        {
            return JsonNode.Parse(bytes, null, Options);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    /// <summary>The text of a node, or null when it is none.</summary>
    public static string? Text(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;

    /// <summary>A member of a node, or null when it has none.</summary>
    public static JsonNode? Member(JsonNode? node, string name) => (node as JsonObject)?[name];

    /// <summary>What must be found of files, as the other side has them: what it fetched, and not what it was told of; null where there is no list.</summary>
    public static string? Files(JsonNode? files) =>
        files is not JsonArray list
            ? null
            : Entry.ProofOf(
                list.Select(static f => new FileValue(
                    Text(Member(f, "name")) ?? "",
                    Member(f, "size") is JsonValue size && size.TryGetValue<long>(out var bytes) ? bytes : 0,
                    Text(Member(f, "sha256")) ?? ""
                ))
            );

    /// <summary>The items of a list by a name; what has no name, or shares it with another, cannot be told apart and is left out.</summary>
    /// <param name="list">The list.</param>
    /// <param name="name">The member that names an item.</param>
    public static IEnumerable<(string Name, JsonNode? Node)> Named(JsonNode? list, string name) =>
        (list as JsonArray ?? [])
            .Select(n => (Name: Text(Member(n, name)), Node: n))
            .Where(static n => n.Name is not null)
            .GroupBy(static n => n.Name!, StringComparer.Ordinal)
            .Where(static g => g.Count() == 1)
            .Select(static g => (g.Key, g.Single().Node));
}
