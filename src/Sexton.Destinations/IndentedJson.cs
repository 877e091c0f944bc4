using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Sexton.Destinations;

/// <summary>Shows a JSON document to a person: indented, its characters as they are, with the lines of one value marked.</summary>
public sealed partial class IndentedJson
{
    private static readonly JsonWriterOptions Options = new() { Indented = true, Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    private readonly MemoryStream _bytes = new();
    private readonly Utf8JsonWriter _json;
    private readonly JsonNode? _marked;
    private List<int> _lines = [];

    private IndentedJson(JsonNode? marked) => (_marked, _json) = (marked, new Utf8JsonWriter(_bytes, Options));

    /// <summary>A part of an artefact that is a JSON document.</summary>
    /// <param name="name">What it is called.</param>
    /// <param name="document">The document.</param>
    /// <param name="marked">The value in it whose lines are marked, or null.</param>
    public static ArtefactPart Part(string name, JsonNode? document, JsonNode? marked)
    {
        var shown = new IndentedJson(marked);
        shown.Write(document);
        shown._json.Flush();
        return new ArtefactPart(name, PartForm.Bytes, Unescaped(Encoding.UTF8.GetString(shown._bytes.ToArray())), shown._lines);
    }

    private void Write(JsonNode? node)
    {
        var isMarked = node is not null && ReferenceEquals(node, _marked);
        // An item of a list begins the line that its first character will be written on; a member is on the line of its name.
        var first = isMarked ? LinesSoFar() + (node!.Parent is JsonArray ? 1 : 0) : 0;
        switch (node)
        {
            case JsonObject members:
                _json.WriteStartObject();
                foreach (var (name, value) in members)
                {
                    _json.WritePropertyName(name);
                    Write(value);
                }

                _json.WriteEndObject();
                break;
            case JsonArray items:
                _json.WriteStartArray();
                foreach (var item in items)
                {
                    Write(item);
                }

                _json.WriteEndArray();
                break;
            case null:
                _json.WriteNullValue();
                break;
            default:
                node.WriteTo(_json);
                break;
        }

        if (isMarked)
        {
            _lines = [.. Enumerable.Range(first, LinesSoFar() - first + 1)];
        }
    }

    // The writer escapes whatever is beyond the first 65,536 characters, such as pictographs; a backslash that was written stands for itself.
    private static string Unescaped(string json) =>
        EscapedPairs()
            .Replace(json, static m => m.Groups["high"] is { Success: true } high ? $"{Unit(high)}{Unit(m.Groups["low"])}" : m.Value);

    private static char Unit(Group hexadecimal) => (char)Convert.ToUInt16(hexadecimal.Value, 16);

    [GeneratedRegex(
        @"\\\\|\\u(?<high>d[89ab][0-9a-f]{2})\\u(?<low>d[c-f][0-9a-f]{2})",
        RegexOptions.IgnoreCase | RegexOptions.NonBacktracking
    )]
    private static partial Regex EscapedPairs();

    private int LinesSoFar()
    {
        _json.Flush();
        return _bytes.ToArray().Count(static b => b == (byte)'\n');
    }
}
