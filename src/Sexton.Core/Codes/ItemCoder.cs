using System.Collections.Immutable;
using System.Runtime.CompilerServices;
using System.Text;
using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Pricing;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;

namespace Sexton.Core.Codes;

/// <summary>Puts item codes together: the code of the goods, and what the answers of the line contribute.</summary>
/// <param name="plan">The register.</param>
public sealed class ItemCoder(RegisterPlan plan)
{
    private readonly ConditionalWeakTable<Product, PartRule[]> _rules = [];

    /// <summary>The code of a line of an evaluation.</summary>
    public string CodeOf(Evaluation evaluation, int line)
    {
        var (goods, place) = (evaluation.Goods(line), new Place(line, -1));
        var code = new CodeText(stackalloc char[CodeText.Usual]);
        foreach (var part in RulesOf(goods.Product))
        {
            part.Append(ref code, goods, part.Field is null ? null : evaluation.ValueOf(part.Field, place));
        }

        return code.ToString();
    }

    /// <summary>The code of goods with answers that somebody could give.</summary>
    /// <param name="goods">What the line is of.</param>
    /// <param name="answers">The canonical answers, by field; a field without an answer is left out.</param>
    public string CodeOf(Goods goods, IReadOnlyList<KeyValuePair<PlannedField, AnswerValue>> answers)
    {
        var code = new CodeText(stackalloc char[CodeText.Usual]);
        foreach (var part in RulesOf(goods.Product))
        {
            part.Append(ref code, goods, answers.FirstOrDefault(a => a.Key == part.Field).Value);
        }

        return code.ToString();
    }

    /// <summary>Whether a kind of answer can contribute: what is typed freely could be anything, and would be in the code.</summary>
    public static bool CanContribute(PlannedField field) =>
        field.Level == Level.Line && (field.Field.Code!.Part.Length > 0 || StandsForItself(field.Rule));

    /// <summary>Whether the answers of a rule can stand in a code as they are, or by the codes of their choices.</summary>
    public static bool StandsForItself(AnswerRule rule) =>
        !rule.Choices.IsEmpty || (rule.Fact is FactKind.Number or FactKind.Day && !rule.PricedBy.Contains(PriceBy.Amount));

    private PartRule[] RulesOf(Product product) => _rules.TryGetValue(product, out var rules) ? rules : MakeRules(product);

    // Apart, so that finding them makes no closure.
    private PartRule[] MakeRules(Product product) => _rules.GetValue(product, p =>
    {
        var rule = plan.Content.Codes.For(p.Code);
        return [.. InOrder(rule).Where(field => field?.IsAskedOf(p) != false).Select(field => new PartRule(field, field?.Field.Code!.Rule.Or(rule) ?? rule))];
    });

    // The goods are the null among them.
    private IEnumerable<PlannedField?> InOrder(CodeRule rule)
    {
        var order = rule.Order.Contains(CodeRule.Goods) ? rule.Order : rule.Order.Insert(0, CodeRule.Goods);
        var named = order.Where(k => k == CodeRule.Goods || plan.CodeFields.Any(f => f.Field.Key == k)).Select(k => k == CodeRule.Goods ? null : plan.Find(k));
        return named.Concat(plan.CodeFields.Where(f => !order.Contains(f.Field.Key)));
    }

    /// <summary>How one part is made, of the goods or of a field: all that does not hang on the answer is worked out before.</summary>
    private sealed class PartRule(PlannedField? of, CodeRule rule)
    {
        private readonly string _whenEmpty = Cased(rule.WhenEmpty!, rule.Case);
        private readonly string _given = Cased(of?.Field.Code?.Part ?? "", rule.Case);
        private readonly ImmutableArray<(string Key, string Part)> _choices = [.. of?.Rule.Choices.Select(c => (c.Key, Cased(c.Code, rule.Case))) ?? []];

        public PlannedField? Field => of;

        public void Append(ref CodeText code, Goods goods, AnswerValue? value)
        {
            if (of is null)
            {
                code.Append(rule.Separator!, Cased(goods.Code, rule.Case));
            }
            else if (value is null || value.Truth == false)
            {
                code.Append(rule.Separator!, _whenEmpty);
            }
            else if (_choices.IsEmpty)
            {
                code.Append(rule.Separator!, _given.Length > 0 ? _given : Cased(value.ToString(), rule.Case));
            }
            else
            {
                // Several picks are one part, in the order of the list.
                var separator = rule.Separator!;
                foreach (var (key, part) in _choices)
                {
                    if (part.Length > 0 && BoundPrice.Picked(value, key) > 0)
                    {
                        code.Append(separator, part);
                        separator = "";
                    }
                }
            }
        }

        private static string Cased(string part, CodeCase? to) => to switch
        {
            CodeCase.Upper => part.ToUpperInvariant(),
            CodeCase.Lower => part.ToLowerInvariant(),
            _ => part,
        };
    }

    /// <summary>A code as it grows.</summary>
    private ref struct CodeText(Span<char> room)
    {
        /// <summary>Room for nearly every code; a longer one is made another way.</summary>
        public const int Usual = 128;

        private readonly Span<char> _room = room;
        private StringBuilder? _longer;
        private int _length;

        public void Append(string separator, string part)
        {
            if (part.Length > 0)
            {
                Add(_length > 0 ? separator : "");
                Add(part);
            }
        }

        public override readonly string ToString() => _longer?.ToString() ?? new string(_room[.._length]);

        private void Add(string text)
        {
            if (_longer is null && _length + text.Length > _room.Length)
            {
                _longer = new StringBuilder().Append(_room[.._length]);
            }

            if (_longer is not null)
            {
                _longer.Append(text);
            }
            else
            {
                text.CopyTo(_room[_length..]);
            }

            _length += text.Length;
        }
    }
}
