using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Sexton.Core.Values;

/// <summary>How registers, carts and orders are written as JSON: snake case, enumerations by name, characters as they are.</summary>
public static class DocumentJson
{
    /// <summary>The options for all of Sexton's stored documents and its API.</summary>
    public static readonly JsonSerializerOptions Options = Configure(new JsonSerializerOptions());

    /// <summary>Sets options to this format.</summary>
    public static JsonSerializerOptions Configure(JsonSerializerOptions options)
    {
        options.PropertyNamingPolicy = JsonNamingPolicy.SnakeCaseLower;
        options.PropertyNameCaseInsensitive = false;
        options.NumberHandling = JsonNumberHandling.Strict;
        // The documents are answers of an API or rows of a database, never pieces of a page.
        options.Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping;
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.SnakeCaseLower, allowIntegerValues: false));
        return options;
    }
}
