using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Sexton.Destinations;

/// <summary>Shows a JSON document to a person: indented, its characters as they are, with the lines of one value marked.</summary>
public sealed class IndentedJson
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
        return new ArtefactPart(name, PartForm.Bytes, Encoding.UTF8.GetString(shown._bytes.ToArray()), shown._lines);
    }

    private void Write(JsonNode? node)
    {
        var isMarked = node is not null && ReferenceEquals(node, _marked);
        var first = isMarked ? LinesSoFar() : 0;
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

    private int LinesSoFar()
    {
        _json.Flush();
        return _bytes.ToArray().Count(static b => b == (byte)'\n');
    }
}
