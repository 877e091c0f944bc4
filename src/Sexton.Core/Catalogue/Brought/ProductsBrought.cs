using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using Sexton.Core.Values;

namespace Sexton.Core.Catalogue.Brought;

/// <summary>Something that a file of products would make otherwise.</summary>
/// <param name="Code">The product.</param>
/// <param name="Variant">The variant; "" for the product itself.</param>
/// <param name="Column">What, by the name of the column; "" for the product or variant as a whole.</param>
/// <param name="Before">What it says now; "" for nothing.</param>
/// <param name="After">What it would say; "" for nothing.</param>
public sealed record ProductDifference(string Code, string Variant, string Column, string Before, string After);

/// <summary>
/// What a file of products comes to, product by product: what it would change, and what keeps it from being taken. It holds no more
/// than the first of either, however long the file is.
/// </summary>
public sealed class ProductsBrought
{
    /// <summary>How many differences and how many faults are kept; the others are counted.</summary>
    public const int Kept = 500;

    private static readonly JsonSerializerOptions Strict = new(DocumentJson.Options)
    {
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
    };

    // Stands where a text is missing, while the rest is looked at.
    private const string Dash = "-";

    private readonly ProductIndex _known;
    private readonly ProductRules _rules;
    private readonly ProductTable _table;
    private readonly Dictionary<string, int> _rows = new(StringComparer.Ordinal);
    private readonly IncrementalHash _digest = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
    private readonly List<ProductDifference> _differences = [];
    private readonly List<ProductFault> _faults = [];

    /// <summary>Begins with the catalogue as it is.</summary>
    /// <param name="known">The catalogue.</param>
    /// <param name="rules">What a product must be; used for this file alone.</param>
    /// <param name="codes">The codes of the products that the file is about.</param>
    public ProductsBrought(ProductIndex known, ProductRules rules, IReadOnlySet<string> codes)
    {
        (_known, _rules, _table) = (known, rules, new ProductTable(known.Currency));
        foreach (var product in known.All.Where(p => !codes.Contains(p.Code)))
        {
            rules.Know(product);
        }
    }

    /// <summary>How many products would be new.</summary>
    public int New { get; private set; }

    /// <summary>How many would change.</summary>
    public int Changed { get; private set; }

    /// <summary>How many would stay as they are.</summary>
    public int Same { get; private set; }

    /// <summary>The first differences.</summary>
    public IReadOnlyList<ProductDifference> Differences => _differences;

    /// <summary>How many differences there are in all.</summary>
    public int DifferenceCount { get; private set; }

    /// <summary>The first faults; with any of them nothing is taken.</summary>
    public IReadOnlyList<ProductFault> Faults => _faults;

    /// <summary>How many faults there are in all.</summary>
    public int FaultCount { get; private set; }

    /// <summary>Tells one set of changes from another.</summary>
    public string Digest => Convert.ToHexStringLower(_digest.GetCurrentHash());

    /// <summary>Takes what is wrong with the file beside its products.</summary>
    public void Take(ProductFault fault)
    {
        FaultCount++;
        if (_faults.Count < Kept)
        {
            _faults.Add(fault);
        }
    }

    /// <summary>Takes the next product.</summary>
    /// <returns>The product as it would be; null where it stays as it is, or cannot be taken.</returns>
    public Product? Take(ProductPatch patch)
    {
        if (patch.Code.Length == 0)
        {
            Take(patch.FaultAt("code", "Give it a code."));
            return null;
        }

        var before = _known.Find(patch.Code);
        if (!_rows.TryAdd(patch.Code, patch.Row))
        {
            Take(patch.FaultAt("code", $"“{patch.Code}” stands there twice, first at {_rows[patch.Code]}. Leave one of them out."));
            return null;
        }

        var faults = new List<ProductFault>(patch.Faults);
        var after = Patched(before, patch, faults);
        faults.ForEach(Take);
        if (after is null || faults.Count > 0)
        {
            return null;
        }

        var differs = before is null ? Begun(after) : Compare(before, after);
        (New, Changed, Same) =
            before is null ? (New + 1, Changed, Same)
            : differs ? (New, Changed + 1, Same)
            : (New, Changed, Same + 1);
        return differs ? after : null;
    }

    // The product as it would be, as far as it can be read; what is wrong is added, once for each place.
    private Product? Patched(Product? before, ProductPatch patch, List<ProductFault> faults)
    {
        var document = before is null ? [] : JsonSerializer.SerializeToNode(before, DocumentJson.Options)!.AsObject();
        MergePatch.Apply(document, patch.Said);
        document["code"] = patch.Code;
        if (patch.Variants is { } variants)
        {
            document["variants"] = Patched(document["variants"] as JsonArray, variants);
        }

        // What is wrong beside what is missing is told as well.
        foreach (var need in Missing(document).ToList())
        {
            Add(need.Path, need.Sentence);
            need.Of[need.Member] = need.StandIn;
        }

        if (Parsed(document, Add) is not { } after)
        {
            return null;
        }

        foreach (var (path, sentence) in _rules.Check(after, before))
        {
            Add(path, sentence);
        }

        return after;

        void Add(string path, string sentence)
        {
            var fault = patch.FaultAt(path, sentence);
            if (!faults.Exists(f => f.Row == fault.Row && $"{f.Column}.".StartsWith($"{fault.Column}.", StringComparison.Ordinal)))
            {
                faults.Add(fault);
            }
        }
    }

    private static JsonArray Patched(JsonArray? known, ImmutableArray<VariantPatch> variants)
    {
        var byCode = (known ?? []).OfType<JsonObject>().ToDictionary(static v => v["code"]!.GetValue<string>(), StringComparer.Ordinal);
        return
        [
            .. variants.Select(v =>
            {
                var variant = byCode.TryGetValue(v.Code, out var own) ? own.DeepClone().AsObject() : [];
                MergePatch.Apply(variant, v.Said);
                variant["code"] = v.Code;
                return variant;
            }),
        ];
    }

    // What every product and every variant must say, and this one does not.
    private static IEnumerable<Need> Missing(JsonObject document) =>
        Needed(document, "")
            .Concat(
                document["categories"] is null
                    ? [new(document, "categories", new JsonArray(Dash), "categories", "Say in which category it stands.")]
                    : []
            )
            .Concat(
                (document["variants"] as JsonArray ?? []).SelectMany(
                    static (v, at) =>
                        v is JsonObject variant
                            ? Needed(variant, $"variants.{at}.")
                                .Concat(
                                    variant["code"] is null ? [new(variant, "code", Dash, $"variants.{at}.code", "Give it a code.")] : []
                                )
                            : []
                )
            );

    // A name that is no map is told when it is read.
    private static IEnumerable<Need> Needed(JsonObject of, string at)
    {
        var path = $"{at}name.{LanguageMap.Fallback}";
        if (of["name"] is null)
        {
            yield return new(of, "name", new JsonObject { [LanguageMap.Fallback] = Dash }, path, ProductRules.NameIsMissing);
        }
        else if (of["name"] is JsonObject name && name[LanguageMap.Fallback] is null)
        {
            yield return new(name, LanguageMap.Fallback, Dash, path, ProductRules.NameIsMissing);
        }

        if (of["price_minor"] is null)
        {
            yield return new(of, "price_minor", 0, at + "price_minor", "Give it a price.");
        }
    }

    private static Product? Parsed(JsonObject document, Action<string, string> wrong)
    {
        try
        {
            return document.Deserialize<Product>(Strict);
        }
        catch (JsonException e)
        {
            wrong(PathOf(e.Path), Sentence(e));
            return null;
        }
    }

    private static string Sentence(JsonException e) =>
        e.Message.Contains("could not be mapped", StringComparison.Ordinal)
            ? "There is no member of that name. Leave it out, or name it as it goes out."
            : "It is not of the kind that stands there. Write it as it goes out.";

    // "$.variants[2].price_minor" of a path as .NET writes it.
    private static string PathOf(string? path) =>
        (path ?? "$").TrimStart('$').Replace('[', '.').Replace("]", "", StringComparison.Ordinal).TrimStart('.');

    private bool Begun(Product product)
    {
        Add(product.Code, "", "", "", _table.Brief(product));
        _digest.AppendData(JsonSerializer.SerializeToUtf8Bytes(product, DocumentJson.Options));
        return true;
    }

    private bool Compare(Product before, Product after)
    {
        var count = DifferenceCount;
        var was = _table.Cells(before).ToDictionary(static c => (c.Variant, c.Column), static c => c.Text);
        foreach (var (variant, column, text) in _table.Cells(after))
        {
            if (!was.Remove((variant, column), out var old) || old != text)
            {
                Add(after.Code, variant, column, old ?? "", text);
            }
        }

        foreach (var ((variant, column), text) in was)
        {
            Add(after.Code, variant, column, text, "");
        }

        var (codes, order) = (before.Variants.Select(static v => v.Code), after.Variants.Select(static v => v.Code));
        if (!codes.SequenceEqual(order, StringComparer.Ordinal))
        {
            Add(after.Code, "", ProductColumns.Variant, string.Join(", ", codes), string.Join(", ", order));
        }

        return DifferenceCount > count;
    }

    private void Add(string code, string variant, string column, string before, string after)
    {
        DifferenceCount++;
        foreach (var text in (ReadOnlySpan<string>)[code, variant, column, before, after])
        {
            _digest.AppendData(Encoding.UTF8.GetBytes(text));
            _digest.AppendData([0]);
        }

        if (_differences.Count < Kept)
        {
            _differences.Add(new(code, variant, column, before, after));
        }
    }

    // Something that must be said and is not: of what, and what stands in for it while the rest is looked at.
    private sealed record Need(JsonObject Of, string Member, JsonNode StandIn, string Path, string Sentence);
}
