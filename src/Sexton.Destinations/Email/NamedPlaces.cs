using System.Text.RegularExpressions;
using Sexton.Core.Values;

namespace Sexton.Destinations.Email;

/// <summary>The named places in what a manager lets an e-mail say: "{number}", "{shop}", and the key of a field whose answer stands there.</summary>
internal static partial class NamedPlaces
{
    /// <summary>The number of the order.</summary>
    public const string Number = "number";

    /// <summary>The name of the shop.</summary>
    public const string Shop = "shop";

    /// <summary>What is called a product, where a message is about one line.</summary>
    public const string Product = "product";

    /// <summary>Which one of a line it is, where a message is about one: "Seat 1 of 3".</summary>
    public const string Unit = "unit";

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
