using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>Products as JSON: an object with <c>format</c> and <c>products</c>, of which each is a merge patch (RFC 7396) with its <c>code</c>.</summary>
public static class ProductList
{
    /// <summary>The format and its version.</summary>
    public const string Format = "sexton-products/1";

    private const string Products = "products";

    /// <summary>Writes the list.</summary>
    /// <param name="to">Takes it, in UTF-8.</param>
    /// <param name="products">The products.</param>
    public static void Write(Stream to, IEnumerable<Product> products)
    {
        using var json = new Utf8JsonWriter(to, new JsonWriterOptions { Indented = true, Encoder = DocumentJson.Options.Encoder });
        json.WriteStartObject();
        json.WriteString("format", Format);
        json.WriteStartArray(Products);
        foreach (var product in products)
        {
            JsonSerializer.Serialize(json, product, DocumentJson.Options);
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    /// <summary>What a list says of each product.</summary>
    /// <param name="list">The list, as it was parsed.</param>
    /// <param name="faults">Takes what is wrong with the list, and with products that have no code.</param>
    public static IEnumerable<ProductPatch> Read(JsonElement list, ICollection<ProductFault> faults)
    {
        if (
            list.ValueKind != JsonValueKind.Object
            || !list.TryGetProperty("format", out var format)
            || format.ValueKind != JsonValueKind.String
            || !format.ValueEquals(Format)
            || !list.TryGetProperty(Products, out var products)
            || products.ValueKind != JsonValueKind.Array
        )
        {
            faults.Add(
                new(0, "format", $"It must be an object with “format”: “{Format}” and “products”: […]. Begin with the list as it goes out.")
            );
            yield break;
        }

        var number = 0;
        foreach (var product in products.EnumerateArray())
        {
            number++;
            if (
                product.ValueKind != JsonValueKind.Object
                || !product.TryGetProperty("code", out var code)
                || code.ValueKind != JsonValueKind.String
            )
            {
                faults.Add(new(number, "code", "A product is an object with its “code”. Give it one."));
                continue;
            }

            var (said, wrong) = (new JsonObject(), new List<string>());
            foreach (var member in product.EnumerateObject())
            {
                said[member.Name] = Canonical(member.Value, member.Name, wrong);
            }

            yield return new ProductPatch(code.GetString()!, number, said)
            {
                Faults =
                [
                    .. wrong.Select(path => new ProductFault(number, path, "It has a character that cannot be kept. Type it again.")),
                ],
            };
        }
    }

    private static JsonNode? Canonical(JsonElement element, string path, List<string> wrong)
    {
        switch (element.ValueKind)
        {
            case JsonValueKind.Null:
                return null;
            case JsonValueKind.Object:
                var members = new JsonObject();
                foreach (var member in element.EnumerateObject())
                {
                    members[member.Name] = Canonical(member.Value, $"{path}.{member.Name}", wrong);
                }

                return members;
            case JsonValueKind.Array:
                return new JsonArray([.. element.EnumerateArray().Select((e, i) => Canonical(e, $"{path}.{i}", wrong))]);
            case JsonValueKind.String:
                if (!IsText(element, out var text))
                {
                    wrong.Add(path);
                }

                return text;
            default:
                return JsonValue.Create(element.Clone());
        }
    }

    // Half a character, written as an escape, cannot even be read as a string.
    private static bool IsText(JsonElement element, out string text)
    {
        try
        {
            return CanonicalText.TryMake(element.GetString()!, out text);
        }
        catch (InvalidOperationException)
        {
            text = "";
            return false;
        }
    }
}
