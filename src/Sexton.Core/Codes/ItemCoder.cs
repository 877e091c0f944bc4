using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Codes;

/// <summary>Puts item codes together: the code of the goods, and what the answers of the line contribute.</summary>
/// <param name="plan">The register.</param>
public sealed class ItemCoder(RegisterPlan plan)
{
    private readonly ConditionalWeakTable<Product, ProductCode> _made = [];

    /// <summary>The code of a line of an evaluation.</summary>
    public string CodeOf(Evaluation evaluation, int line)
    {
        var (goods, place) = (evaluation.Goods(line), new Place(line, -1));
        var parts = PartsOf(goods.Product);
        if (parts is [var only])
        {
            return only.TextOf(goods);
        }

        var code = new CodeText(stackalloc char[CodeText.Usual]);
        foreach (var part in parts)
        {
            part.Append(ref code, goods, part.Field is null ? null : evaluation.ValueOf(part.Field, place));
        }

        return code.ToString();
    }

    /// <summary>Whether a kind of answer can contribute: what is typed freely could be anything, and would be in the code.</summary>
    public static bool CanContribute(PlannedField field) =>
        field.Level == Level.Line && (field.Field.Code!.Part.Length > 0 || StandsForItself(field.Rule));

    /// <summary>Whether the answers of a rule can stand in a code as they are, or by the codes of their choices.</summary>
    public static bool StandsForItself(AnswerRule rule) =>
        rule.Choices.IsEmpty ? rule.Range is not null || rule.Fact == FactKind.Day : rule.Fact != FactKind.Day;

    /// <summary>The parts of the codes of a product, in their order.</summary>
    internal ImmutableArray<CodePart> PartsOf(Product product) => Of(product).Parts;

    /// <summary>The greatest length of a code of a product.</summary>
    internal int LongestOf(Product product) => Of(product).Longest;

    private ProductCode Of(Product product) => _made.TryGetValue(product, out var made) ? made : Make(product);

    // Apart, so that finding it makes no closure.
    private ProductCode Make(Product product) =>
        _made.GetValue(
            product,
            p =>
            {
                var rule = plan.Content.Codes.For(p.Code);
                return new ProductCode(
                    [
                        .. InOrder(rule)
                            .Where(field => field?.IsAskedOf(p) != false)
                            .Select(field => new CodePart(field, field?.Field.Code!.Rule.Or(rule) ?? rule)),
                    ],
                    rule.Longest!.Value
                );
            }
        );

    // The goods are the null among them.
    private IEnumerable<PlannedField?> InOrder(CodeRule rule)
    {
        var order = rule.Order.Contains(CodeRule.Goods) ? rule.Order : rule.Order.Insert(0, CodeRule.Goods);
        var named = order
            .Where(k => k == CodeRule.Goods || plan.CodeFields.Any(f => f.Field.Key == k))
            .Select(k => k == CodeRule.Goods ? null : plan.Find(k));
        return named.Concat(plan.CodeFields.Where(f => !order.Contains(f.Field.Key)));
    }

    // Worked out once for each product.
    private sealed record ProductCode(ImmutableArray<CodePart> Parts, int Longest);
}
