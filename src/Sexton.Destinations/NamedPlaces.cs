using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using Sexton.Core.Values;

namespace Sexton.Destinations;

/// <summary>The named places in what a manager lets an e-mail or a paper say: "{number}", "{shop}", and the key of a field whose answer stands there.</summary>
internal static partial class NamedPlaces
{
    /// <summary>The number of the order.</summary>
    public const string Number = "number";

    /// <summary>The name of the shop.</summary>
    public const string Shop = "shop";

    /// <summary>What is called a product, where it goes line by line.</summary>
    public const string Product = "product";

    /// <summary>Which one of a line it is, where it goes one by one: "Seat 1 of 3".</summary>
    public const string Unit = "unit";

    /// <summary>The number of the invoice, where it is one.</summary>
    public const string Invoice = "invoice";

    /// <summary>The names of the places that are no fields.</summary>
    public static readonly ImmutableArray<string> Own = [Number, Shop, Product, Unit];

    /// <summary>What stands in them: of answers those that go there, of the order and of the line and unit that goes.</summary>
    /// <param name="order">What goes.</param>
    /// <param name="shop">The name of the shop.</param>
    public static Dictionary<string, string> Of(SentOrder order, string shop)
    {
        var places = order
            .Projection.Entries.Where(e =>
                e.LineId is null || (e.LineId == order.Part.LineId && (e.UnitId ?? "") == (e.UnitId is null ? "" : order.Part.UnitId))
            )
            .ToDictionary(static e => e.Field, static e => e.Text, StringComparer.Ordinal);
        places[Number] = order.Number.ToString(CultureInfo.InvariantCulture);
        places[Shop] = shop;
        places[Invoice] = order.Issued?.Number ?? "";
        if (order.Part.LineId.Length > 0)
        {
            var line = order.Lines[0];
            places[Product] = line.ProductName;
            places[Unit] = order.Part.UnitId.Length > 0 ? line.NameOf(order.Part.UnitId, order.To.LanguageOf(order.Content.Language)) : "";
        }

        return places;
    }

    /// <summary>The names in a text.</summary>
    public static IEnumerable<string> In(LanguageMap text) =>
        text.Texts.Values.SelectMany(static t => Place().Matches(t)).Select(static m => m.Groups["name"].Value);

    /// <summary>A text with its places filled; one that nothing stands in is empty.</summary>
    /// <param name="text">The text.</param>
    /// <param name="values">What stands in the places.</param>
    public static string Fill(string text, IReadOnlyDictionary<string, string> values) =>
        Place().Replace(text, m => values.GetValueOrDefault(m.Groups["name"].Value, ""));

    [GeneratedRegex(@"\{(?<name>[a-z][a-z0-9_]*)\}", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex Place();
}
