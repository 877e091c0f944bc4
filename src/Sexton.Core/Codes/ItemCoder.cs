using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Types;

namespace Sexton.Core.Codes;

/// <summary>Puts item codes together: the code of the goods, and what the answers of the line contribute.</summary>
/// <param name="rules">The rules of the shop and of single products.</param>
/// <param name="fields">The fields that contribute, as displayed, each with what it does.</param>
public sealed class ItemCoder(CodeRules rules, ImmutableArray<(RuledField Field, FieldCode Code)> fields)
{
    private readonly ConditionalWeakTable<Product, ProductCode> _made = [];

    /// <summary>The code of a line of an facts.</summary>
    public string CodeOf(IFacts facts, int line)
    {
        var (goods, place) = (facts.Goods(line), new Place(line, -1));
        var parts = PartsOf(goods.Product);
        if (parts is [var only])
        {
            return only.TextOf(goods);
        }

        var code = new CodeText(stackalloc char[CodeText.Usual]);
        foreach (var part in parts)
        {
            part.Append(ref code, goods, part.Field is null ? null : facts.ValueOf(part.Field, place));
        }

        return code.ToString();
    }

    /// <summary>Whether a kind of answer can contribute: what is typed freely could be anything, and would be in the code.</summary>
    public static bool CanContribute(RuledField field, FieldCode code) =>
        field.Level == Level.Line && (code.Part.Length > 0 || StandsForItself(field.Rule));

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
                var rule = rules.For(p.Code);
                return new ProductCode(
                    [
                        .. InOrder(rule)
                            .Where(part => part.Field?.IsAskedOf(p) != false)
                            .Select(part => new CodePart(part.Field, part.Code, part.Code?.Rule.Or(rule) ?? rule)),
                    ],
                    rule.Longest!.Value
                );
            }
        );

    /// <summary>Whether any field contributes.</summary>
    internal bool HasFields => !fields.IsEmpty;

    /// <summary>The fields that contribute, as displayed.</summary>
    internal IEnumerable<RuledField> Fields => fields.Select(static f => f.Field);

    // The goods are the one without a field.
    private IEnumerable<(RuledField? Field, FieldCode? Code)> InOrder(CodeRule rule)
    {
        var order = rule.Order.Contains(CodeRule.Goods) ? rule.Order : rule.Order.Insert(0, CodeRule.Goods);
        var named = order
            .Select(key => (key, At: fields.IndexOf(fields.FirstOrDefault(f => f.Field.Key == key))))
            .Where(static n => n.key == CodeRule.Goods || n.At >= 0)
            .Select(n => n.key == CodeRule.Goods ? (null, (FieldCode?)null) : ((RuledField?)fields[n.At].Field, fields[n.At].Code));
        return named.Concat(fields.Where(f => !order.Contains(f.Field.Key)).Select(static f => ((RuledField?)f.Field, (FieldCode?)f.Code)));
    }

    // Worked out once for each product.
    private sealed record ProductCode(ImmutableArray<CodePart> Parts, int Longest);
}
