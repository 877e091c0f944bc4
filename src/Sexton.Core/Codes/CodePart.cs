using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Codes;

/// <summary>How one part of an item code is made, of the goods or of a field: all that does not hang on the answer is worked out before.</summary>
/// <param name="of">The field; null for the goods.</param>
/// <param name="code">What its answers contribute; null for the goods.</param>
/// <param name="rule">The rule of the part, complete.</param>
internal sealed class CodePart(RuledField? of, FieldCode? code, CodeRule rule)
{
    /// <summary>The field; null for the goods.</summary>
    public RuledField? Field => of;

    /// <summary>What stands before it, where anything does.</summary>
    public string Separator => rule.Separator!;

    /// <summary>What stands for an answer that is not there.</summary>
    public string WhenEmpty { get; } = Cased(rule.WhenEmpty!, rule.Case);

    /// <summary>What any answer contributes; "" where it is the answer itself, or its choices.</summary>
    public string Given { get; } = Cased(code?.Part ?? "", rule.Case);

    /// <summary>What each choice contributes, in the order of the list; empty where it is not by choices.</summary>
    public ImmutableArray<(string Key, string Text)> Choices { get; } =
        code?.Part.Length > 0 ? [] : [.. of?.Rule.Choices.Select(c => (c.Key, Cased(c.Code, rule.Case))) ?? []];

    /// <summary>The same for two parts that are made alike.</summary>
    public string Likeness { get; } = string.Join('\u0001', of?.Key, rule.Separator, rule.Case, rule.WhenEmpty);

    /// <summary>The code of goods as it stands in it.</summary>
    public string TextOf(Goods goods) => Cased(goods.Code, rule.Case);

    /// <summary>Adds what an answer contributes.</summary>
    /// <param name="code">The code before it.</param>
    /// <param name="goods">What the line is of.</param>
    /// <param name="value">The canonical answer, or null.</param>
    public void Append(ref CodeText code, Goods goods, AnswerValue? value)
    {
        if (of is null)
        {
            code.Append(Separator, TextOf(goods));
        }
        else if (value is null || value.Truth == false)
        {
            code.Append(Separator, WhenEmpty);
        }
        else if (Choices.IsEmpty)
        {
            code.Append(Separator, Given.Length > 0 ? Given : Cased(value.ToString(), rule.Case));
        }
        else
        {
            // Several picks are one part, in the order of the list.
            var separator = Separator;
            foreach (var (key, text) in Choices)
            {
                if (text.Length > 0 && of.Rule.TimesTaken(value, key) is > 0 and var times)
                {
                    code.Append(separator, text, times);
                    separator = "";
                }
            }
        }
    }

    /// <summary>Whether two canonical answers are one by the rule: a "no" is no answer, and where any answer contributes the same, it does not matter which.</summary>
    public bool IsSame(AnswerValue? one, AnswerValue? other)
    {
        var (isEmpty, isOtherEmpty) = (one is null || one.Truth == false, other is null || other.Truth == false);
        return isEmpty || isOtherEmpty || Given.Length > 0 ? isEmpty == isOtherEmpty : one!.Equals(other);
    }

    private static string Cased(string part, CodeCase? to) =>
        to switch
        {
            CodeCase.Upper => part.ToUpperInvariant(),
            CodeCase.Lower => part.ToLowerInvariant(),
            _ => part,
        };
}
