using System.Globalization;
using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;

namespace Sexton.Core.Codes;

/// <summary>
/// Item codes of a cart that must not come to an order: too long, refused where they go, or those of something else. The draft is checked for them, not for every
/// combination of answers; here the very ones are at hand, before anything is paid.
/// </summary>
internal static class CodesInCart
{
    /// <summary>Adds the problems to an evaluation.</summary>
    public static void Check(Evaluation cart, ProductIndex products)
    {
        if (cart.Plan.CodeFields.IsEmpty)
        {
            return;
        }

        var codes = new Dictionary<string, int>(StringComparer.OrdinalIgnoreCase);
        for (var line = 0; line < cart.LineCount; line++)
        {
            if (!cart.IsSold(line))
            {
                continue;
            }

            var (goods, code) = (cart.Goods(line), cart.ItemCodeOf(line));
            var longest = cart.Plan.Content.Codes.For(goods.Product.Code).Longest!.Value;
            var refusal = code.Length > longest || DestinationIndex.All.Any(d => d.ItemCodes?.Wrong(code) is not null) ? new Refusal(Sentences.CodeRefused, code, code.Length.ToString(CultureInfo.InvariantCulture))
                : IsAnothers(code, goods, products) || (codes.TryGetValue(code, out var other) && !IsSame(cart, line, other)) ? new Refusal(Sentences.CodeShared, code)
                : (Refusal?)null;
            codes.TryAdd(code, line);
            if (refusal is { } found)
            {
                cart.AddProblem(found, LastAnswered(cart, line), new Place(line, -1));
            }
        }
    }

    private static bool IsAnothers(string code, Goods goods, ProductIndex products) =>
        !string.Equals(code, goods.Code, StringComparison.OrdinalIgnoreCase) && products.FindItem(code) is { } other && other.Code != goods.Code;

    // The same goods with the same answers to whatever makes the code: one thing, in two lines for another reason.
    private static bool IsSame(Evaluation cart, int one, int other) => cart.Goods(one).Code == cart.Goods(other).Code
        && cart.Plan.CodeFields.All(f => Equals(cart.ValueOf(f, new Place(one, -1)), cart.ValueOf(f, new Place(other, -1))));

    private static PlannedField? LastAnswered(Evaluation cart, int line) => cart.Plan.CodeFields.LastOrDefault(f => cart.ValueOf(f, new Place(line, -1)) is not null);
}
