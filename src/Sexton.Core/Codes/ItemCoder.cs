using System.Collections.Immutable;
using System.Text;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Codes;

/// <summary>Puts item codes together: the code of the goods, and what the answers of the line contribute.</summary>
/// <param name="plan">The register.</param>
public sealed class ItemCoder(RegisterPlan plan)
{
    /// <summary>The code of a line.</summary>
    /// <param name="goods">What the line is of.</param>
    /// <param name="answerOf">The canonical answer of the line to a field; null where it is not asked or left empty.</param>
    public string CodeOf(Goods goods, Func<PlannedField, AnswerValue?> answerOf)
    {
        var rule = plan.Content.Codes.For(goods.Product.Code);
        var code = new StringBuilder();
        foreach (var field in InOrder(rule))
        {
            if (field is null)
            {
                Append(code, Cased(goods.Code, rule.Case), rule.Separator!);
                continue;
            }

            var own = field.Field.Code!.Rule.Or(rule);
            Append(code, Cased(PartOf(field, answerOf(field)) ?? own.WhenEmpty!, own.Case), own.Separator!);
        }

        return code.ToString();
    }

    /// <summary>What an answer contributes; null where there is none that does.</summary>
    public static string? PartOf(PlannedField field, AnswerValue? value)
    {
        if (value is null || value.Truth == false)
        {
            return null;
        }

        if (!field.Rule.Choices.IsEmpty)
        {
            var picked = string.Concat(field.Rule.Choices.Where(c => Pricing.BoundPrice.Picked(value, c.Key) > 0).Select(static c => c.Code));
            return picked.Length > 0 ? picked : "";
        }

        return field.Field.Code!.Part.Length > 0 ? field.Field.Code.Part : value.ToString();
    }

    /// <summary>Whether a kind of answer can contribute: what is typed freely could be anything, and would be in the code.</summary>
    public static bool CanContribute(PlannedField field) =>
        field.Level == Level.Line && (field.Field.Code!.Part.Length > 0 || StandsForItself(field.Rule));

    /// <summary>Whether the answers of a rule can stand in a code as they are, or by the codes of their choices.</summary>
    public static bool StandsForItself(AnswerRule rule) =>
        !rule.Choices.IsEmpty || (rule.Fact is FactKind.Number or FactKind.Day && !rule.PricedBy.Contains(Pricing.PriceBy.Amount));

    // The goods are the null among them.
    private IEnumerable<PlannedField?> InOrder(CodeRule rule)
    {
        var order = rule.Order.Contains(CodeRule.Goods) ? rule.Order : rule.Order.Insert(0, CodeRule.Goods);
        var named = order.Where(k => k == CodeRule.Goods || plan.CodeFields.Any(f => f.Field.Key == k)).Select(k => k == CodeRule.Goods ? null : plan.Find(k));
        return named.Concat(plan.CodeFields.Where(f => !order.Contains(f.Field.Key)));
    }

    private static void Append(StringBuilder code, string part, string separator)
    {
        if (part.Length > 0)
        {
            code.Append(code.Length > 0 ? separator : "").Append(part);
        }
    }

    private static string Cased(string part, CodeCase? to) => to switch
    {
        CodeCase.Upper => part.ToUpperInvariant(),
        CodeCase.Lower => part.ToLowerInvariant(),
        _ => part,
    };
}
