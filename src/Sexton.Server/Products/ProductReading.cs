using System.Collections.Immutable;
using Sexton.Core.Catalogue;
using Sexton.Core.Catalogue.Brought;

namespace Sexton.Server.Products;

/// <summary>A file of products on its way through the rules, some products at a time.</summary>
internal sealed class ProductReading : IDisposable
{
    private const int AtATime = 1000;

    private readonly ProductFile _file;
    private readonly ProductsBrought _brought;
    private readonly List<ProductFault> _faults = [];
    private readonly IEnumerator<ProductPatch> _patches;

    /// <summary>Begins.</summary>
    /// <param name="file">The file, which is closed with this.</param>
    /// <param name="known">The products as they are.</param>
    /// <param name="rules">What a product must be.</param>
    public ProductReading(ProductFile file, ProductIndex known, ProductRules rules)
    {
        _file = file;
        var codes = file.Patches([]).Select(static p => p.Code).ToHashSet(StringComparer.Ordinal);
        Count = codes.Count;
        _brought = new ProductsBrought(known, rules, codes);
        _patches = file.Patches(_faults).GetEnumerator();
    }

    /// <summary>How many products it has.</summary>
    public int Count { get; }

    /// <summary>How many of them were read.</summary>
    public int Done { get; private set; }

    /// <summary>What it comes to, once all was read.</summary>
    public ProductImportOutcome Outcome => ProductImportOutcome.Of(_brought);

    /// <summary>Reads some more, and gives those that change; null once all was read.</summary>
    public IReadOnlyList<Product>? Next()
    {
        var (changed, before) = (new List<Product>(), Done);
        while (Done - before < AtATime && _patches.MoveNext())
        {
            Done++;
            if (_brought.Take(_patches.Current) is { } product)
            {
                changed.Add(product);
            }
        }

        if (Done > before)
        {
            return changed;
        }

        _faults.ForEach(_brought.Take);
        return null;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        _patches.Dispose();
        _file.Dispose();
    }
}

/// <summary>What a file of products would change, or what keeps it from being taken.</summary>
/// <param name="New">How many products would be new.</param>
/// <param name="Changed">How many would change.</param>
/// <param name="Same">How many would stay as they are.</param>
/// <param name="Differences">The first differences.</param>
/// <param name="DifferenceCount">How many there are in all.</param>
/// <param name="Faults">The first faults, in the order of the file.</param>
/// <param name="FaultCount">How many there are in all; with any of them nothing is taken.</param>
/// <param name="Digest">Tells these changes from others.</param>
internal sealed record ProductImportOutcome(
    int New,
    int Changed,
    int Same,
    ImmutableArray<ProductDifference> Differences,
    int DifferenceCount,
    ImmutableArray<ProductFault> Faults,
    int FaultCount,
    string Digest
)
{
    public static ProductImportOutcome Of(ProductsBrought brought) =>
        new(
            brought.New,
            brought.Changed,
            brought.Same,
            [.. brought.Differences],
            brought.DifferenceCount,
            [.. brought.Faults.OrderBy(static f => f.Row)],
            brought.FaultCount,
            brought.Digest
        );
}
