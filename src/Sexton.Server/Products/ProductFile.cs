using System.Text;
using System.Text.Json;
using CsvHelper;
using Sexton.Core.Catalogue.Brought;
using Sexton.Server.Common;

namespace Sexton.Server.Products;

/// <summary>A file of products: CSV (RFC 4180) or JSON, in UTF-8.</summary>
/// <param name="file">The file.</param>
/// <param name="isJson">Whether it is JSON.</param>
/// <param name="currency">The currency of prices (ISO 4217).</param>
internal sealed class ProductFile(byte[] file, bool isJson, string currency) : IDisposable
{
    private JsonDocument? _list;

    /// <summary>What it says of each product. Can be asked again.</summary>
    /// <param name="faults">Takes what is wrong with the file beside its products.</param>
    public IEnumerable<ProductPatch> Patches(ICollection<ProductFault> faults) => isJson ? OfList(faults) : OfTable(faults);

    /// <inheritdoc/>
    public void Dispose() => _list?.Dispose();

    private IEnumerable<ProductPatch> OfList(ICollection<ProductFault> faults)
    {
        try
        {
            _list ??= JsonDocument.Parse(file.AsMemory(MarkLength));
        }
        catch (JsonException e)
        {
            var line = (int)(e.LineNumber ?? 0) + 1;
            faults.Add(
                new ProductFault(0, "", $"It is no JSON from line {line} on. Mend it there, or begin with the list as it goes out.")
            );
            return [];
        }

        return ProductList.Read(_list.RootElement, faults);
    }

    private IEnumerable<ProductPatch> OfTable(ICollection<ProductFault> faults)
    {
        using var text = new StreamReader(
            new MemoryStream(file, MarkLength, file.Length - MarkLength),
            new UTF8Encoding(false, throwOnInvalidBytes: true),
            false
        );
        using var patches = new ProductTable(currency).Read(CsvTable.Read(text), faults).GetEnumerator();
        while (Next(patches, faults))
        {
            yield return patches.Current;
        }
    }

    private static bool Next(IEnumerator<ProductPatch> patches, ICollection<ProductFault> faults)
    {
        try
        {
            return patches.MoveNext();
        }
        catch (DecoderFallbackException)
        {
            faults.Add(new ProductFault(0, "", "Its characters are not written in UTF-8. Save it as CSV in UTF-8, and bring it in again."));
        }
        catch (CsvHelperException e)
        {
            faults.Add(new ProductFault(e.Context?.Parser?.RawRow ?? 0, "", "It is no CSV from there on. Save it as CSV again."));
        }

        return false;
    }

    // What spreadsheets put before the text to say that it is UTF-8.
    private int MarkLength => file.AsSpan().StartsWith(Encoding.UTF8.Preamble) ? Encoding.UTF8.Preamble.Length : 0;
}
