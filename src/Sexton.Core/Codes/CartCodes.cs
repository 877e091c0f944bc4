using System.Collections.Immutable;
using System.Globalization;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Types;

namespace Sexton.Core.Codes;

/// <summary>
/// The item codes of a cart, made once, and those among them that must not come to an order: too long, refused where they go, or those of something else. What
/// nobody saw in the draft is found here, before anything is paid.
/// </summary>
internal sealed class CartCodes
{
    private readonly Dictionary<string, int> _lines = new(StringComparer.OrdinalIgnoreCase);
    private readonly List<string> _codes = [];

    /// <summary>The code of a line that is sold.</summary>
    public string this[int line] => _codes[line];

    /// <summary>Makes the codes, and tells what is wrong with them.</summary>
    /// <param name="facts">The cart, asked and checked.</param>
    /// <param name="coder">Puts item codes together.</param>
    /// <param name="products">What the shop sells.</param>
    /// <param name="limits">What the destinations take.</param>
    /// <param name="problems">Takes what must not come to an order.</param>
    public void Run(IFacts facts, ItemCoder coder, ProductIndex products, ImmutableArray<ItemCodeLimits> limits, IProblemSink problems)
    {
        _codes.Clear();
        _lines.Clear();
        for (var line = 0; line < facts.LineCount; line++)
        {
            _codes.Add(!facts.IsSold(line) ? "" : coder.CodeOf(facts, line));
        }

        for (var line = 0; line < _codes.Count && coder.HasFields; line++)
        {
            if (facts.IsSold(line))
            {
                if (Wrong(facts, coder, products, limits, line) is { } found)
                {
                    problems.Add(found, LastAnswered(facts, coder, line), Place.OfLine(line));
                }

                _lines.TryAdd(_codes[line], line);
            }
        }
    }

    private Refusal? Wrong(IFacts facts, ItemCoder coder, ProductIndex products, ImmutableArray<ItemCodeLimits> limits, int line)
    {
        var (goods, code) = (facts.Goods(line), _codes[line]);
        if (code.Length > coder.LongestOf(goods.Product) || IsRefused(code, limits))
        {
            return new Refusal(ShopperMessages.CodeRefused, code, code.Length.ToString(CultureInfo.InvariantCulture));
        }

        return IsAnothers(code, goods, products) || (_lines.TryGetValue(code, out var other) && !IsSame(facts, coder, line, other))
            ? new Refusal(ShopperMessages.CodeShared, code)
            : null;
    }

    private static bool IsRefused(string code, ImmutableArray<ItemCodeLimits> limits)
    {
        foreach (var limit in limits)
        {
            if (limit.Wrong(code) is not null)
            {
                return true;
            }
        }

        return false;
    }

    private static bool IsAnothers(string code, Goods goods, ProductIndex products) =>
        !string.Equals(code, goods.Code, StringComparison.OrdinalIgnoreCase)
        && products.FindItemInAnyCase(code) is { } other
        && other.Code != goods.Code;

    // The same goods with the same answers, as far as they contribute: one thing, in two lines for another reason.
    private static bool IsSame(IFacts facts, ItemCoder coder, int one, int other) =>
        facts.Goods(one).Code == facts.Goods(other).Code
        && coder
            .PartsOf(facts.Goods(one).Product)
            .All(p => p.Field is null || p.IsSame(facts.ValueOf(p.Field, Place.OfLine(one)), facts.ValueOf(p.Field, Place.OfLine(other))));

    private static RuledField? LastAnswered(IFacts facts, ItemCoder coder, int line) =>
        coder.Fields.LastOrDefault(f => facts.ValueOf(f, Place.OfLine(line)) is not null);
}
