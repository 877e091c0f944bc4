using System.Collections.Immutable;
using System.Globalization;
using System.Text.RegularExpressions;
using Sexton.Core.Sentences;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>What a product must be, by itself and beside the others. Used for every way in which products come.</summary>
/// <param name="hasPicture">Whether there is a picture of a name.</param>
public sealed partial class ProductRules(Func<string, bool> hasPicture)
{
    /// <summary>The greatest lengths, in characters.</summary>
    public const int LongestCode = 100,
        LongestName = 200,
        LongestDescription = 2000,
        LongestWord = 100;

    internal const string NameIsMissing = "Give it a name: it is read in every language that has none of its own.";

    private const int MostVariants = 500;
    private const int MostGrams = 1_000_000_000;

    // What every product after the first is held against: under which codes things are sold, and what kind of value an attribute has.
    private readonly Dictionary<string, string> _sold = new(StringComparer.OrdinalIgnoreCase);
    private readonly Dictionary<string, string> _kinds = new(StringComparer.Ordinal);

    /// <summary>Takes note of a product that stays as it is, so that others are held against it.</summary>
    /// <param name="product">The product.</param>
    public void Know(Product product)
    {
        foreach (var (code, _) in CodesOf(product))
        {
            _sold.TryAdd(code, product.Code);
        }

        foreach (var (_, name, attribute) in AttributesOf(product))
        {
            _kinds.TryAdd(name, KindOf(attribute));
        }
    }

    /// <summary>What is wrong with a product: the path of the member, and a sentence with the remedy. The next are held against it.</summary>
    /// <param name="product">The product.</param>
    /// <param name="before">The product as it is; null for a new one. A picture that it has already is left to it.</param>
    public IEnumerable<(string Path, string Sentence)> Check(Product product, Product? before = null) =>
        Alone(product, before).Concat(OfVariants(product)).Concat(OfAttributes(product)).Concat(Codes(product));

    private IEnumerable<(string Path, string Sentence)> Alone(Product product, Product? before) =>
        Code("code", product.Code)
            .Concat(Named("name", product.Name))
            .Concat(Said("description", product.Description, LongestDescription, isLines: true))
            .Concat(Words("categories", product.Categories, "category"))
            .Concat(Words("tags", product.Tags, "tag"))
            .Concat(Said("unit_name", product.UnitName, LongestWord))
            .Concat(Said("picture_words", product.PictureWords, LongestDescription))
            .Concat(
                Wrong(
                    (product.Categories.IsEmpty, "categories", "Say in which category it stands."),
                    (!IsPrice(product.PriceMinor), "price_minor", $"A price is from 0 to {Number(Product.MostMinor)} minor units."),
                    (
                        product.WeightGrams is < 0 or > MostGrams,
                        "weight_grams",
                        $"A weight is a whole number of grams from 0 to {Number(MostGrams)}."
                    ),
                    (product.MostEach is < 1 or > Product.MostOfEach, "most_each", $"Say a number from 1 to {Number(Product.MostOfEach)}."),
                    (product.TaxPpm is < 0 or > TaxRules.MostPpm, "tax_ppm", "A tax rate is from 0 to 100 per cent."),
                    (
                        !TaxRate.Untaxed.Contains(product.UntaxedAs) || (product.TaxPpm != 0 && product.UntaxedAs != TaxCategory.Zero),
                        "untaxed_as",
                        "Only a tax rate of 0 is zero, exempt or outside the tax. Leave it empty, or give it the rate 0."
                    ),
                    (
                        product.Picture.Length > 0 && product.Picture != before?.Picture && !hasPicture(product.Picture),
                        "picture",
                        $"There is no picture “{product.Picture}”. Put it in first, or leave it empty."
                    )
                )
            );

    private static IEnumerable<(string Path, string Sentence)> OfVariants(Product product)
    {
        if (product.Variants.Length > MostVariants)
        {
            yield return ("variants", $"A product has at most {Number(MostVariants)} variants. Make several products of it.");
        }

        foreach (var (variant, at) in product.Variants.Select(static (v, i) => (v, $"variants.{Number(i)}.")))
        {
            foreach (
                var wrong in Code(at + "code", variant.Code)
                    .Concat(Named(at + "name", variant.Name))
                    .Concat(
                        Wrong(
                            (
                                !IsPrice(variant.PriceMinor),
                                at + "price_minor",
                                $"A price is from 0 to {Number(Product.MostMinor)} minor units."
                            ),
                            (
                                variant.WeightGrams is < 0 or > MostGrams,
                                at + "weight_grams",
                                $"A weight is a whole number of grams from 0 to {Number(MostGrams)}."
                            )
                        )
                    )
            )
            {
                yield return wrong;
            }
        }
    }

    private IEnumerable<(string Path, string Sentence)> OfAttributes(Product product)
    {
        foreach (var (path, name, attribute) in AttributesOf(product))
        {
            var kind = KindOf(attribute);
            if (!AttributeName().IsMatch(name))
            {
                yield return (
                    path,
                    $"“{name}” cannot be the name of an attribute. Use small letters, digits and “_”, beginning with a letter."
                );
            }
            else if (kind.Length == 0)
            {
                yield return (path, "An attribute is a text, a number, or yes or no. Write one of them.");
            }
            else if (attribute.Unit.Length > 0 && attribute.Value.Number is null)
            {
                yield return (path, "Only a number has a unit. Leave the unit out.");
            }
            else if (attribute.Value.Text is { } text && !IsWord(text))
            {
                yield return (path, OneLine(LongestWord));
            }
            else if (!_kinds.TryAdd(name, kind) && _kinds[name] is var known && known != kind)
            {
                yield return (path, $"“{name}” is {known} elsewhere, and {kind} here. Write it as elsewhere.");
            }
        }
    }

    // What is sold is told apart by its code wherever it goes, and not everywhere by the case of its letters.
    private IEnumerable<(string Path, string Sentence)> Codes(Product product)
    {
        foreach (var (code, path) in CodesOf(product))
        {
            if (!_sold.TryAdd(code, product.Code))
            {
                yield return (
                    path,
                    $"Another thing is sold under “{code}” already, upper and lower case being the same. Give it a code of its own."
                );
            }
        }
    }

    // A product whose one variant bears its code is sold under it once.
    private static IEnumerable<(string Code, string Path)> CodesOf(Product product) =>
        product
            .Variants.Select(static (v, i) => (v.Code, $"variants.{Number(i)}.code"))
            .Where(v => v.Code != product.Code || product.Variants.Count(o => o.Code == v.Code) > 1)
            .Prepend((product.Code, "code"));

    private static IEnumerable<(string Path, string Name, ProductAttribute Attribute)> AttributesOf(Product product) =>
        product
            .Attributes.Select(static a => ("attributes." + a.Key, a.Key, a.Value))
            .Concat(
                product.Variants.SelectMany(
                    static (v, i) => v.Attributes.Select(a => ($"variants.{Number(i)}.attributes.{a.Key}", a.Key, a.Value))
                )
            );

    private static string KindOf(ProductAttribute attribute) =>
        attribute.Value switch
        {
            { Number: not null } => attribute.Unit.Length > 0 ? $"a number of {attribute.Unit}" : "a number",
            { Truth: not null } => "yes or no",
            { Text: { Length: > 0 } } => "a text",
            _ => "",
        };

    private static IEnumerable<(string Path, string Sentence)> Code(string path, string code) =>
        Wrong((!IsWord(code), path, code.Length == 0 ? "Give it a code." : OneLine(LongestCode)));

    private static IEnumerable<(string Path, string Sentence)> Words(string path, ImmutableArray<string> words, string what) =>
        words
            .Select(
                (word, i) =>
                    !IsWord(word) ? OneLine(LongestWord)
                    : word.Contains(';', StringComparison.Ordinal)
                        ? $"A {what} has no semicolon, which stands between several. Call it otherwise."
                    : words.IndexOf(word) < i ? $"The {what} “{word}” stands there twice. Leave one of them out."
                    : null
            )
            .OfType<string>()
            .Select(sentence => (path, sentence));

    private static IEnumerable<(string Path, string Sentence)> Named(string path, LanguageMap name) =>
        Wrong((!name.Texts.ContainsKey(LanguageMap.Fallback), $"{path}.{LanguageMap.Fallback}", NameIsMissing))
            .Concat(Said(path, name, LongestName));

    private static IEnumerable<(string Path, string Sentence)> Said(string path, LanguageMap said, int longest, bool isLines = false)
    {
        foreach (var (language, text) in said.Texts)
        {
            if (!Wording.Languages.Any(l => l.Tag == language))
            {
                yield return (
                    $"{path}.{language}",
                    $"There is no language “{language}”. Use {string.Join(" and ", Wording.Languages.Select(static l => l.Tag))}."
                );
            }
            else if (text.Length == 0 || !Graphemes.FitIn(text, longest) || (!isLines && text.Contains('\n', StringComparison.Ordinal)))
            {
                yield return ($"{path}.{language}", isLines ? $"It has 1 to {Number(longest)} characters." : OneLine(longest));
            }
        }
    }

    private static IEnumerable<(string Path, string Sentence)> Wrong(params (bool IsWrong, string Path, string Sentence)[] rules) =>
        rules.Where(static r => r.IsWrong).Select(static r => (r.Path, r.Sentence));

    private static bool IsWord(string text) =>
        text.Length > 0
        && Graphemes.FitIn(text, LongestWord)
        && !text.Contains('\n', StringComparison.Ordinal)
        && CanonicalText.TryMake(text, out var canonical)
        && canonical == text;

    private static bool IsPrice(long minor) => minor is >= 0 and <= Product.MostMinor;

    private static string OneLine(int longest) => $"It is one line of 1 to {Number(longest)} characters.";

    private static string Number(long number) => number.ToString(CultureInfo.InvariantCulture);

    [GeneratedRegex(@"\A[a-z][a-z0-9_]{0,39}\z", RegexOptions.NonBacktracking | RegexOptions.ExplicitCapture)]
    private static partial Regex AttributeName();
}
