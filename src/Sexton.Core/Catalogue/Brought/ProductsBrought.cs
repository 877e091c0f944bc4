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

        var faults = FaultCount;
        var after = Patched(before, patch);
        if (after is null || FaultCount > faults)
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

    private Product? Patched(Product? before, ProductPatch patch)
    {
        foreach (var fault in patch.Faults)
        {
            Take(fault);
        }

        var document = before is null ? [] : JsonSerializer.SerializeToNode(before, DocumentJson.Options)!.AsObject();
        MergePatch.Apply(document, patch.Said);
        document["code"] = patch.Code;
        if (patch.Variants is { } variants)
        {
            document["variants"] = Patched(document["variants"] as JsonArray, variants);
        }

        if (patch.Faults.IsEmpty && Missing(document, patch) && Parsed(document, patch) is { } after)
        {
            foreach (var (path, sentence) in _rules.Check(after, before))
            {
                Take(patch.FaultAt(path, sentence));
            }

            return after;
        }

        return null;
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

    // What every product and every variant says; true where nothing is missing.
    private bool Missing(JsonObject document, ProductPatch patch)
    {
        var faults = FaultCount;
        NeedName(document, "");
        Need(document, "categories", "", "Say in which category it stands.");
        Need(document, "price_minor", "", "Give it a price.");
        foreach (var (variant, at) in (document["variants"] as JsonArray ?? []).Select(static (v, i) => (v as JsonObject, i)))
        {
            if (variant is not null)
            {
                Need(variant, "code", $"variants.{at}.", "Give it a code.");
                NeedName(variant, $"variants.{at}.");
                Need(variant, "price_minor", $"variants.{at}.", "Give it a price.");
            }
        }

        return FaultCount == faults;

        void Need(JsonObject of, string name, string at, string sentence)
        {
            if (of[name] is null)
            {
                Take(patch.FaultAt(at + name, sentence));
            }
        }

        // A map that is none is told when it is read.
        void NeedName(JsonObject of, string at)
        {
            if (of["name"] is null || (of["name"] is JsonObject name && name[LanguageMap.Fallback] is null))
            {
                Take(patch.FaultAt($"{at}name.{LanguageMap.Fallback}", ProductRules.NameIsMissing));
            }
        }
    }

    private Product? Parsed(JsonObject document, ProductPatch patch)
    {
        try
        {
            return document.Deserialize<Product>(Strict);
        }
        catch (JsonException e)
        {
            Take(patch.FaultAt(PathOf(e.Path), Sentence(e)));
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
        Add(product.Code, "", "", "", string.Join(" · ", Read()));
        _digest.AppendData(JsonSerializer.SerializeToUtf8Bytes(product, DocumentJson.Options));
        return true;

        IEnumerable<string> Read()
        {
            var cells = _table.Cells(product).Where(static c => c.Variant.Length == 0).ToList();
            string[] shown = ["name." + LanguageMap.Fallback, "categories", "price"];
            return shown.Select(name => cells.Find(c => c.Column == name).Text).Where(static t => t is { Length: > 0 });
        }
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
}
