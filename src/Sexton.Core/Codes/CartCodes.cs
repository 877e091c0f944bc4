using System.Globalization;
using Sexton.Core.Asking;
using Sexton.Core.Catalogue;
using Sexton.Core.Conditions;
using Sexton.Core.Register;
using Sexton.Core.Register.Types;
using Sexton.Core.Routing;

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

    /// <summary>Makes the codes, and adds the problems to the evaluation.</summary>
    public void Run(Evaluation cart, ProductIndex products)
    {
        _codes.Clear();
        _lines.Clear();
        for (var line = 0; line < cart.LineCount; line++)
        {
            _codes.Add(!cart.IsSold(line) ? "" : cart.Plan.Coder.CodeOf(cart, line));
        }

        for (var line = 0; line < _codes.Count && !cart.Plan.CodeFields.IsEmpty; line++)
        {
            if (cart.IsSold(line))
            {
                if (Wrong(cart, products, line) is { } found)
                {
                    cart.AddProblem(found, LastAnswered(cart, line), new Place(line, -1));
                }

                _lines.TryAdd(_codes[line], line);
            }
        }
    }

    private Refusal? Wrong(Evaluation cart, ProductIndex products, int line)
    {
        var (goods, code) = (cart.Goods(line), _codes[line]);
        if (code.Length > cart.Plan.Coder.LongestOf(goods.Product) || IsRefused(code))
        {
            return new Refusal(Sentences.CodeRefused, code, code.Length.ToString(CultureInfo.InvariantCulture));
        }

        return IsAnothers(code, goods, products) || (_lines.TryGetValue(code, out var other) && !IsSame(cart, line, other))
            ? new Refusal(Sentences.CodeShared, code)
            : null;
    }

    private static bool IsRefused(string code)
    {
        foreach (var destination in DestinationIndex.All)
        {
            if (destination.ItemCodes?.Wrong(code) is not null)
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
    private static bool IsSame(Evaluation cart, int one, int other) =>
        cart.Goods(one).Code == cart.Goods(other).Code
        && cart.Plan.Coder.PartsOf(cart.Goods(one).Product)
            .All(p => p.Field is null || p.IsSame(cart.ValueOf(p.Field, new Place(one, -1)), cart.ValueOf(p.Field, new Place(other, -1))));

    private static PlannedField? LastAnswered(Evaluation cart, int line) =>
        cart.Plan.CodeFields.LastOrDefault(f => cart.ValueOf(f, new Place(line, -1)) is not null);
}
