using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Register;
using Sexton.Core.Types;

namespace Sexton.Core.Orders;

/// <summary>Makes of an evaluation what an attempt freezes.</summary>
public static class OrderSnapshot
{
    /// <summary>The order that a cart without problems becomes.</summary>
    /// <param name="evaluation">The evaluation.</param>
    /// <param name="version">The number of the version under which it was made.</param>
    /// <param name="words">Names things for the reasons of what was not asked.</param>
    /// <exception cref="InvalidOperationException">The cart has problems.</exception>
    /// <example><code>OrderSnapshot.Of(evaluation, version: 7, words) // of a cart without problems</code></example>
    public static OrderContent Of(Evaluation evaluation, int version, ConditionWords words)
    {
        if (evaluation.Problems.Count > 0)
        {
            throw new InvalidOperationException("A cart with problems cannot become an order.");
        }

        var language = evaluation.Cart.Language;
        return new OrderContent
        {
            Version = version,
            Language = language,
            Group = evaluation.Facts.Group,
            Country = evaluation.Facts.Country,
            Day = evaluation.Facts.Today,
            Lines = [.. Enumerable.Range(0, evaluation.Facts.LineCount).Select(i => Line(evaluation, i))],
            Answers =
            [
                .. evaluation
                    .Asked.Where(static a => !a.Field.Type.AsksNothing)
                    .Select(a => new OrderAnswer(a.LineId, a.UnitId, a.Field.Key, a.Field.Label.In(language), a.Value, a.TextIn(language))
                    {
                        SystemText = a.SystemTextIn(language),
                        Sensitive = a.Field.Field.Sensitive,
                        Personal = a.Field.Field.Personal,
                    }),
            ],
            NotAsked =
            [
                .. new NotAskedReasons(evaluation.Facts, words)
                    .All()
                    .Where(static n => (n.ByCondition || n.Answered) && !n.Field.Type.AsksNothing)
                    .Select(static n => new NotAskedAnswer(n.LineId, n.UnitId, n.Field.Key, n.Field.NameForStaff, n.Why, n.Answered)),
            ],
            Lookups =
            [
                .. evaluation
                    .Asked.Select(a => new OrderLookup(a.LineId, a.UnitId, a.Field.Key, evaluation.FindingOf(a)))
                    .Where(static l => l.Finding != RegistryFinding.NotAsked),
            ],
            Uses =
            [
                .. evaluation.Uses.Select(u => new OrderUsage(
                    u.Item,
                    u.NameIn(language),
                    u.Quantity,
                    evaluation.Facts.LineIdAt(u.Place),
                    evaluation.Facts.UnitIdAt(u.Place),
                    u.Field?.Key,
                    u.Goods is not null,
                    u.Choice
                )),
            ],
            Uploads =
            [
                .. evaluation
                    .Asked.Where(static a => a.Field.Rule.HoldsFiles && a.Value is not null)
                    .SelectMany(a => evaluation.RawOf(a)!.Picks!.Value)
                    .Distinct(StringComparer.Ordinal),
            ],
            WeightGrams = evaluation.WeightGrams,
            Prices = PriceList.Of(evaluation),
            Coupon = evaluation.Cart.Coupon,
        };
    }

    private static OrderLine Line(Evaluation evaluation, int at)
    {
        var (line, goods, language) = (evaluation.Facts.LineAt(at), evaluation.Facts.Goods(at), evaluation.Cart.Language);
        var (product, variant) = goods;
        var attributes = variant is null ? product.Attributes : product.Attributes.SetItems(variant.Attributes);
        var facts = new LineFacts(
            product.Code,
            variant?.Code,
            product.Categories,
            product.Tags,
            attributes,
            product.Ships,
            goods.PriceMinor
        );
        var (wording, called) = (evaluation.Plan.Wording, product.UnitName.In(language));
        var isUsual = wording.IsUsual(UnitNames.Sentence) && (called.Length > 0 || wording.IsUsual("unit.plain"));
        return new OrderLine(line.Id, goods.Code, goods.NameIn(language), line.Quantity, facts)
        {
            Units = evaluation.Facts.UnitsOf(at) == 0 ? [] : [.. line.Units.Select(static u => u.Id)],
            ItemCode = evaluation.ItemCodeOf(at),
            UnitName = isUsual ? called : UnitNames.PlainOr(called, wording, language),
            UnitSentence = isUsual ? "" : wording[UnitNames.Sentence].In(language),
        };
    }
}
