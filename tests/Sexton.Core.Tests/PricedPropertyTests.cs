using CsCheck;
using Sexton.Core.Asking;
using Sexton.Core.Cart;
using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Orders;
using Sexton.Core.Plan;
using Sexton.Core.Projections;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Tests;

/// <summary>What holds of every shop whose answers cost something, and of every cart for it.</summary>
public sealed class PricedPropertyTests
{
    private static readonly Gen<Tried> Shops = Gen.Int.Select(static seed => new Tried(seed));

    [Fact]
    public void Most_shops_have_a_cart_that_can_be_ordered() =>
        Enumerable.Range(0, 50).Count(static seed => new Tried(seed).Ready is not null).ShouldBeGreaterThan(40);

    [Fact]
    public void Used_buffers_give_the_same() =>
        Shops.Sample(shop =>
        {
            var used = new Evaluation();
            used.Run(shop.Plan, shop.Products, shop.Other, Fixture.Today);
            used.Run(shop.Plan, shop.Products, shop.Cart, Fixture.Today);
            Fixture.Said(used).ShouldBe(Fixture.Said(shop.Evaluate(shop.Cart)));
        });

    [Fact]
    public void Answers_that_are_not_asked_cost_nothing_use_nothing_and_stand_in_no_code() =>
        Shops.Sample(shop =>
        {
            var evaluation = shop.Evaluate(shop.Cart);
            var asked = evaluation.Asked.Select(static a => a.Slot.ToString()).ToHashSet(StringComparer.Ordinal);
            AnswerSet Of(AnswerSet answers, Func<string, string> slot) => AnswerSet.Of(answers.Where(a => asked.Contains(slot(a.Key))));
            var without = shop.Cart with
            {
                Answers = Of(shop.Cart.Answers, static key => "order/" + key),
                Lines =
                [
                    .. shop.Cart.Lines.Select(line =>
                        line with
                        {
                            Answers = Of(line.Answers, key => $"line/{line.Id}/{key}"),
                            Units = [.. line.Units.Select(u => u with { Answers = Of(u.Answers, key => $"unit/{line.Id}/{u.Id}/{key}") })],
                        }
                    ),
                ],
            };
            Fixture.Said(shop.Evaluate(without)).ShouldBe(Fixture.Said(evaluation));
        });

    [Fact]
    public void The_order_of_lines_changes_no_row() =>
        Shops.Sample(shop =>
        {
            var turned = shop.Cart with { Lines = [.. shop.Cart.Lines.Reverse()] };
            Sorted(turned).ShouldBe(Sorted(shop.Cart));

            // Of two lines under one code the later one is told.
            string Sorted(CartContent cart) =>
                string.Join(
                    '\n',
                    Fixture
                        .Said(shop.Evaluate(cart))
                        .Split('|')
                        .Where(static said => !said.StartsWith(ShopperMessages.CodeShared, StringComparison.Ordinal))
                        .Order(StringComparer.Ordinal)
                );
        });

    [Fact]
    public void An_order_keeps_what_its_cart_came_to_and_every_place_shows_it_whole() =>
        Shops.Sample(shop =>
        {
            if (shop.Ready is not { } evaluation)
            {
                return;
            }

            var order = OrderSnapshot.Of(evaluation, 1, Fixture.Words(shop.Plan.Content));
            order
                .Prices.Rows.Select(static r =>
                    (r.LineId, r.UnitId, r.Field, r.Choice, r.Quantity, r.UnitMinor, r.SumMinor, r.TaxPpm, r.TaxMinor)
                )
                .ShouldBe(
                    evaluation.Rows.Select(static r =>
                        (r.LineId, r.UnitId, r.Field?.Key, r.Choice, r.Quantity, r.UnitMinor, r.SumMinor, r.TaxPpm, r.TaxMinor)
                    )
                );
            order.Prices.TotalMinor.ShouldBe(evaluation.TotalMinor);
            order
                .Prices.Taxes.Select(static t => (t.RatePpm, t.TaxMinor))
                .ShouldBe(
                    evaluation.Taxes.Where(static t => t.RatePpm > 0).Select(static t => (t.RatePpm, t.TaxMinor)),
                    ignoreOrder: false
                );
            foreach (var place in shop.Plan.Destinations.All)
            {
                var shown = order.Prices.RowsAt(shop.Within(place.Key), place.Key);
                shown.Sum(static r => r.SumMinor).ShouldBe(order.Prices.Rows.Sum(static r => r.SumMinor));
                shown.Sum(static r => r.TaxMinor).ShouldBe(order.Prices.Rows.Sum(static r => r.TaxMinor));
            }
        });

    [Fact]
    public void Rules_read_in_an_order_what_they_read_in_its_cart() =>
        Shops.Sample(shop =>
        {
            if (shop.Ready is not { } evaluation)
            {
                return;
            }

            var order = OrderSnapshot.Of(evaluation, 1, Fixture.Words(shop.Plan.Content));
            PropertyTests.ShouldReadAlike(shop.Plan, new OrderFacts(order), evaluation.Facts);
        });

    /// <summary>A shop with two carts, made by a seed, which is what a failure tells.</summary>
    private sealed class Tried
    {
        private readonly int _seed;

        public Tried(int seed)
        {
            _seed = seed;
            var shops = new PricedShops(seed);
            var (register, products) = shops.Next();
            (Plan, Products) = (Fixture.Plan(register), products);
            (Cart, Other) = (shops.Cart(Plan), shops.Cart(Plan));
            Ready = Enumerable.Range(0, 20).Select(_ => Evaluate(shops.Cart(Plan))).FirstOrDefault(static e => e.Problems.Count == 0);
        }

        public RegisterPlan Plan { get; }

        public ProductIndex Products { get; }

        public CartContent Cart { get; }

        public CartContent Other { get; }

        /// <summary>A cart that can become an order; null where twenty could not.</summary>
        public Evaluation? Ready { get; }

        public Evaluation Evaluate(CartContent cart) => Evaluation.Of(Plan, Products, cart, Fixture.Today);

        /// <summary>The same register, in which every other field's prices stay within the goods at a place.</summary>
        public RegisterPlan Within(string place) =>
            Fixture.Plan(
                Plan.Content with
                {
                    Fields = [.. Plan.Content.Fields.Select((f, i) => i % 2 == 0 || f.BuiltIn ? f : f with { PriceWithin = [place] })],
                }
            );

        public override string ToString() => $"seed {_seed}";
    }
}
