using System.Text.Json;
using Sexton.Core.Codes;
using Sexton.Core.Routing;

namespace Sexton.Core.Register.Edits;

/// <summary>Changes to the rules of item codes: "shop" for that of the shop, "products.CODE" for that of a product, "leaves" for how lines leave and "leaves.DESTINATION" for how they do for one.</summary>
public static class CodeEdit
{
    private const int LongestCode = 100;

    /// <summary>The rule under a path; null for a product without one.</summary>
    /// <exception cref="DraftEditException">There is no such setting.</exception>
    public static JsonElement Read(CodeRules rules, string path)
    {
        var (name, product) = EditValue.Split(path);
        return name switch
        {
            "shop" => EditValue.Json(rules.Shop),
            "products" when product.Length > 0 => EditValue.Json(rules.Products.GetValueOrDefault(product)),
            "leaves" when product.Length == 0 => EditValue.Json(rules.Leaving),
            "leaves" => rules.Leaves.TryGetValue(product, out var own) ? EditValue.Json(own) : EditValue.Json<string?>(null),
            _ => throw Unknown(path),
        };
    }

    /// <summary>The rules with one changed; a null takes that of a product or destination away.</summary>
    /// <param name="rules">The rules.</param>
    /// <param name="path">The path of the setting.</param>
    /// <param name="value">The value.</param>
    /// <param name="destinations">Where lines leave for.</param>
    /// <exception cref="DraftEditException">There is no such setting, or the value is no rule.</exception>
    public static CodeRules Apply(CodeRules rules, string path, JsonElement value, DestinationIndex destinations)
    {
        var (name, product) = EditValue.Split(path);
        if (name == "leaves")
        {
            return product.Length == 0 ? rules with { Leaving = EditValue.Word<LineLeaving>(value, path, LeavingEdit.Wrong) }
                : destinations.Find(product)?.Capacity.ItemCodes is null
                    ? throw new DraftEditException(path, $"“{product}” takes no item codes.")
                : rules with { Leaves = LeavingEdit.With(rules.Leaves, product, value, path) };
        }

        var rule = EditValue.Rule(value, path);
        if (
            rule is not null
            && (
                rule.Longest is < 1 or > LongestCode
                || (rule.Separator ?? "").Length > CodeRule.LongestPart
                || (rule.WhenEmpty ?? "").Length > CodeRule.LongestPart
            )
        )
        {
            throw new DraftEditException(
                path,
                $"A code has from 1 to {LongestCode} characters, and a separator or part at most {CodeRule.LongestPart}."
            );
        }

        return name switch
        {
            "shop" => rules with { Shop = rule ?? CodeRule.Open },
            "products" when product.Length > 0 => rules with
            {
                Products = rule is null ? rules.Products.Remove(product) : rules.Products.SetItem(product, rule),
            },
            _ => throw Unknown(path),
        };
    }

    private static DraftEditException Unknown(string path) => new(path, $"The rules of item codes have no setting “{path}”.");
}
