using Sexton.Core.Catalogue;
using Sexton.Core.Facts;
using Sexton.Core.Plan;
using Sexton.Core.Types;
using Sexton.Core.Values;

namespace Sexton.Core.Cart;

/// <summary>What a register says of a cart before it is asked: its units, its files, and how its lines are compared.</summary>
public static class CartInPlan
{
    extension(RegisterPlan plan)
    {
        /// <summary>
        /// The line with each one of its quantity, where each is asked; without them where it is not. A stand-in cart or a form may send fewer; nobody may send more.
        /// </summary>
        /// <param name="products">What the shop sells.</param>
        /// <param name="line">The line.</param>
        /// <exception cref="CartException">There are more units than the quantity.</exception>
        public CartLine WithUnits(ProductIndex products, CartLine line) =>
            plan.GoodsAskedEach(products, line) is { } goods
                ? line.WithUnits(plan.MostEach(goods.Product))
                : line with
                {
                    Units = [],
                    MostEach = null,
                };

        /// <summary>The line as a cart keeps it: each one of its quantity, also while none is asked, in case they are asked again.</summary>
        /// <param name="products">What the shop sells.</param>
        /// <param name="line">The line.</param>
        /// <exception cref="CartException">Each is asked, and there are more units than the quantity.</exception>
        public CartLine Kept(ProductIndex products, CartLine line) =>
            plan.GoodsAskedEach(products, line) is { } goods ? line.WithUnits(plan.MostEach(goods.Product)) : line.WithDormantUnits();

        /// <summary>The cart with each one of the quantity of its lines, in the same way.</summary>
        /// <exception cref="CartException">There are more units than the quantity.</exception>
        public CartContent WithUnits(ProductIndex products, CartContent cart) =>
            cart with
            {
                Lines = [.. cart.Lines.Select(line => plan.WithUnits(products, line))],
            };

        /// <summary>
        /// The answers of a line as lines are compared: each brought to its canonical value, what was left untouched as what is proposed, what was emptied as not given.
        /// </summary>
        /// <param name="line">The line.</param>
        /// <param name="today">Today, in the time zone of the shop.</param>
        public AnswerSet CanonicalOf(CartLine line, DateOnly today)
        {
            var context = new StandaloneContext(today);
            var known = plan.LineColumns.Select(field =>
                KeyValuePair.Create(field.Key, Canonical(field, line.Answers.Find(field.Key) ?? field.Field.Default, context))
            );
            var others = line
                .Answers.Where(a => plan.Find(a.Key)?.Level != Level.Line)
                .Select(static a => KeyValuePair.Create(a.Key, (AnswerValue?)a.Value));
            return AnswerSet.Of(
                known
                    .Concat(others)
                    .Where(static a => a.Value is { IsBlank: false })
                    .Select(static a => KeyValuePair.Create(a.Key, a.Value!))
            );
        }

        // What a line is of, where each one of it is asked.
        private Goods? GoodsAskedEach(ProductIndex products, CartLine line) =>
            products.Find(line.ProductCode, line.VariantCode) is { } goods && plan.AsksPerUnit(goods.Product) ? goods : null;

        private static AnswerValue? Canonical(PlannedField field, AnswerValue? raw, IAnswerContext context) =>
            raw is null || raw.IsBlank || field.Rule.HoldsFiles ? raw
            : field.Rule.Read(raw, context) is { Refusal: null } reading ? reading.Value
            : raw;

        /// <summary>The keys of answers of a cart that no field or section of this register has.</summary>
        public IEnumerable<string> UnknownKeys(CartContent cart) =>
            cart
                .Lines.SelectMany(static l => l.Units.Select(static u => u.Answers).Prepend(l.Answers))
                .Prepend(cart.Answers)
                .SelectMany(static a => a.Select(static p => p.Key))
                .Where(key => plan.Content.Find(key) is null && plan.Content.FindSection(key) is null)
                .Distinct(StringComparer.Ordinal);

        /// <summary>The ids of the files that a cart refers to, in answers asked or not.</summary>
        public IReadOnlyList<string> FilesIn(CartContent cart) =>
            plan.FileFields.IsEmpty
                ? []
                : [.. cart.Lines.SelectMany(plan.FilesIn).Concat(plan.FilesIn(cart.Answers)).Distinct(StringComparer.Ordinal)];

        /// <summary>The same of one line and its units.</summary>
        public IEnumerable<string> FilesIn(CartLine line) =>
            line.Units.Select(static u => u.Answers).Prepend(line.Answers).SelectMany(plan.FilesIn);

        private IEnumerable<string> FilesIn(AnswerSet answers) => plan.FileFields.SelectMany(f => answers.Find(f)?.Picks ?? []);
    }
}
