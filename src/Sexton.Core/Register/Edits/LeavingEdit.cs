using System.Collections.Immutable;
using System.Text.Json;
using Sexton.Core.Codes;
using Sexton.Core.Routing;
using Sexton.Core.Types.Settings;
using Sexton.Core.Values;

namespace Sexton.Core.Register.Edits;

/// <summary>Changes to how lines leave for a destination: "products.CODE" and "fields.KEY". A null takes one away.</summary>
internal static class LeavingEdit
{
    /// <summary>What is said of a way that there is not.</summary>
    public const string Wrong = "A line leaves together, beside or instead.";

    private const int LongestProduct = 100;

    public static JsonElement Read(Destination destination, string path, string rest)
    {
        var (of, key) = EditValue.Split(rest);
        var rules = of switch
        {
            "products" => destination.ProductsLeave,
            "fields" => destination.FieldsLeave,
            _ => throw DestinationEdit.Unknown(path),
        };
        return rules.TryGetValue(key, out var leaving) ? EditValue.Json(leaving) : EditValue.Json<string?>(null);
    }

    public static Destination Apply(Destination destination, string path, string rest, JsonElement value, DestinationKind? kind)
    {
        if (kind?.CapacityOf(new SettingReader(kind.Settings, destination.Settings)).ItemCodes is null)
        {
            throw new DraftEditException(path, $"“{destination.Name}” takes no item codes.");
        }

        var (of, key) = EditValue.Split(rest);
        return of switch
        {
            "products" when key.Length is > 0 and <= LongestProduct => destination with
            {
                ProductsLeave = With(destination.ProductsLeave, key, value, path),
            },
            "fields" when FieldKey.IsValid(key) => destination with { FieldsLeave = With(destination.FieldsLeave, key, value, path) },
            _ => throw DestinationEdit.Unknown(path),
        };
    }

    /// <summary>Rules with one set; a null takes it away.</summary>
    public static ImmutableSortedDictionary<string, LineLeaving> With(
        ImmutableSortedDictionary<string, LineLeaving> rules,
        string key,
        JsonElement value,
        string path
    ) => value.ValueKind == JsonValueKind.Null ? rules.Remove(key) : rules.SetItem(key, EditValue.Word<LineLeaving>(value, path, Wrong));
}
