using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Asking;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Pricing;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>
/// A hundred thousand generated carts under generated prices, written out with every row that the core made of them. A second calculation,
/// slow and in exact fractions, judges them in tests/e2e/prices.spec.ts; it shares nothing with this one but the words of the design.
/// </summary>
public sealed class PriceReferenceTests
{
    private const int Registers = 500;
    private const int CartsOfEach = 200;

    [Fact]
    public void Priced_carts_are_written_out_row_by_row()
    {
        using var writer = new StreamWriter(ReferenceFiles.PathOf("prices.jsonl"));
        var (shops, evaluation) = (new PricedShops(20261126), new Evaluation());
        var (carts, rows, refused, components, shared, asked, dormant) = (0, 0, 0, 0, 0, 0, 0);
        for (var r = 0; r < Registers; r++)
        {
            var (register, shop) = shops.Next();
            var plan = Fixture.Plan(register);
            writer.WriteLine(
                Written(
                    new
                    {
                        currency = shop.Currency,
                        include_tax = shop.Tax.PricesIncludeTax,
                        standard_ppm = shop.Tax.StandardPpm,
                        coupons = shop.Coupons,
                        fields = plan.Content.Fields.Where(static f => !f.BuiltIn),
                        sections = plan.Content.Sections,
                        codes = plan.Content.Codes.Shop,
                        items = new[] { "TREE", "POT-S" }
                            .Select(i => shop.FindItem(i)!.Value)
                            .Select(static g => new
                            {
                                code = g.Code,
                                price = g.PriceMinor,
                                tax_ppm = g.Product.TaxPpm,
                                weight = g.WeightGrams,
                            }),
                    }
                )
            );
            for (var c = 0; c < CartsOfEach; c++)
            {
                evaluation.Run(plan, shop, shops.Cart(plan), Fixture.Today);
                refused += evaluation.Problems.Any(static p => p.Refusal.Key == ShopperMessages.TwoPrices) ? 1 : 0;

                // Plain, since a hundred thousand expressions would be compiled.
                evaluation.Problems.Any(static p => p.Refusal.Key == ShopperMessages.PriceOutOfRange).ShouldBeFalse();

                // Whatever is taken off, nobody is paid for buying, and no tax is below nothing.
                evaluation.TotalMinor.ShouldBeGreaterThanOrEqualTo(0);
                evaluation.Taxes.All(static t => t.TaxMinor >= 0 && t.BaseMinor >= 0).ShouldBeTrue();
                (
                    evaluation.Rows.Sum(static row => row.SumMinor)
                    + (shop.Tax.PricesIncludeTax ? 0 : evaluation.Taxes.Sum(static t => t.TaxMinor))
                ).ShouldBe(evaluation.TotalMinor);
                components += evaluation.Rows.Count(static row => row.Kind == PriceRowKind.Component);
                shared += evaluation.Rows.Count(static row => row.Kind == PriceRowKind.Answer && row.Place.Line < 0 && row.SumMinor < 0);
                asked += evaluation.Asked.Count(static a => !a.Field.Field.BuiltIn && a.Value is not null);
                dormant += Enumerable
                    .Range(0, evaluation.Facts.LineCount)
                    .Sum(i =>
                        plan.LineFields.Count(f =>
                            evaluation.Facts.LineAt(i).Answers.Find(f.Field.Key) is not null
                            && !evaluation.Facts.IsAsked(f, new Place(i, -1))
                        )
                    );
                carts++;
                rows += evaluation.Rows.Count;
                writer.WriteLine(Written(evaluation));
            }
        }

        carts.ShouldBe(Registers * CartsOfEach, "no cart is left out");
        refused.ShouldBeInRange(100, 10_000);
        components.ShouldBeGreaterThan(5_000);
        shared.ShouldBeGreaterThan(5_000);
        asked.ShouldBeGreaterThan(carts * 5);
        dormant.ShouldBeGreaterThan(carts, "conditions and sections that always hold show little");
        rows.ShouldBeGreaterThan(carts * 4, "carts without priced answers show little");
    }

    private static string Written(object value) => JsonSerializer.Serialize(value, DocumentJson.Options);

    // What a judge needs of a cart: what was entered, in its canonical form, asked or not; the price, rate and weight of the goods; and what was made of it.
    private static string Written(Evaluation cart)
    {
        var lines = Enumerable
            .Range(0, cart.Facts.LineCount)
            .Select(i => new
            {
                product = cart.Facts.Goods(i).Product.Code,
                code = cart.Facts.Goods(i).Code,
                quantity = cart.Facts.LineAt(i).Quantity,
                price = cart.Facts.Goods(i).PriceMinor,
                weight = cart.Facts.Goods(i).WeightGrams,
                tax_ppm = cart.Facts.Goods(i).Product.TaxPpm,
                variant = cart.Facts.Goods(i).Variant?.Code,
                answers = Entered(cart.Plan.LineFields, cart.Facts.LineAt(i).Answers),
                units = cart.Facts.LineAt(i).Units.Take(cart.Facts.UnitsOf(i)).Select(u => Entered(cart.Plan.UnitFields, u.Answers)),
            });
        var rows = cart.Rows.Select(static r =>
            new object?[]
            {
                r.Kind.ToString(),
                r.LineId is null ? -1 : r.Place.Line,
                r.UnitId is null ? -1 : r.Place.Unit,
                r.Field?.Key,
                r.Choice,
                r.Quantity,
                r.UnitMinor,
                r.SumMinor,
                r.TaxPpm,
                r.TaxMinor,
            }
        );
        return Written(
            new
            {
                group = cart.Facts.Group,
                coupon = cart.Cart.Coupon,
                lines,
                answers = Entered(cart.Plan.OrderFields, cart.Cart.Answers),
                rows,
                total = cart.TotalMinor,
                weight = cart.WeightGrams,
                codes = Enumerable.Range(0, cart.Facts.LineCount).Select(cart.ItemCodeOf),
                refused = cart.Problems.Any(static p => p.Refusal.Key == ShopperMessages.TwoPrices),
            }
        );
    }

    // What was emptied is null; what was left as it was proposed is not there.
    private static JsonObject Entered(IEnumerable<PlannedField> fields, AnswerSet answers) =>
        new(
            fields
                .Where(f => !f.Field.BuiltIn && answers.Find(f.Field.Key) is not null)
                .Select(f =>
                    KeyValuePair.Create(
                        f.Field.Key,
                        answers.Find(f.Field.Key) is { IsBlank: false } raw
                            ? JsonSerializer.SerializeToNode(f.Rule.Read(raw, Whenever.Instance).Value, DocumentJson.Options)
                            : null
                    )
                )
        );

    private sealed class Whenever : IAnswerContext
    {
        public static readonly Whenever Instance = new();

        public DateOnly Today => Fixture.Today;

        public bool Offers(int choice) => true;
    }
}
