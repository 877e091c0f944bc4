using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Codes;

namespace Sexton.Core.Checks.PossibleCodes;

/// <summary>Goods whose codes are made alike, but for the code of the goods.</summary>
/// <param name="Parts">The parts, in their order.</param>
/// <param name="Longest">The greatest length of a code.</param>
/// <param name="Scenarios">What can be answered, in one way or another: for each part of a field what is left open of it, in the order of the parts. No two of them share an order.</param>
/// <param name="Goods">The goods.</param>
internal sealed record CodeShape(
    ImmutableArray<CodePart> Parts,
    int Longest,
    ImmutableArray<ImmutableArray<PossibleAnswers>> Scenarios,
    List<Goods> Goods
)
{
    /// <summary>All goods that are sold, by their shapes.</summary>
    /// <param name="coder">Makes the codes.</param>
    /// <param name="products">What is sold.</param>
    /// <param name="suppose">What can be answered to goods; the parts of fields in their order.</param>
    public static IReadOnlyCollection<CodeShape> Of(
        ItemCoder coder,
        ProductIndex products,
        Func<Goods, ImmutableArray<CodePart>, ImmutableArray<ImmutableArray<PossibleAnswers>>> suppose
    )
    {
        var shapes = new Dictionary<string, CodeShape>(StringComparer.Ordinal);
        foreach (var product in products.All.OrderBy(static p => p.Code, StringComparer.Ordinal))
        {
            var (parts, longest) = (coder.PartsOf(product), coder.LongestOf(product));
            foreach (var goods in product.Variants.Select(v => new Goods(product, v)).DefaultIfEmpty(new Goods(product, null)))
            {
                var scenarios = suppose(goods, [.. parts.Where(static p => p.Field is not null)]);
                var likeness = string.Join(
                    '\u0002',
                    parts.Select(static p => p.Likeness).Append($"{longest}").Concat(scenarios.Select(static s => string.Join('\u0001', s)))
                );
                if (!shapes.TryGetValue(likeness, out var shape))
                {
                    shapes[likeness] = shape = new CodeShape(parts, longest, scenarios, []);
                }

                shape.Goods.Add(goods);
            }
        }

        return shapes.Values;
    }
}
