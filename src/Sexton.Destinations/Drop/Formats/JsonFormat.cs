using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Sexton.Core.Codes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Destinations.Sales;

namespace Sexton.Destinations.Drop.Formats;

/// <summary>A sale as programs get it, in JSON; many as a list.</summary>
/// <param name="linkToFile">The link by which a program fetches a file of an order, by the SHA-256 of the file.</param>
internal sealed class JsonFormat(Func<Guid, string, string> linkToFile) : DropFormat
{
    private static readonly JsonSerializerOptions Relaxed = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public override string Extension => ".json";

    public override Capacity Capacity { get; } = new() { ItemCodes = ItemCodeLimits.Generous };

    public override byte[] Write(SentOrder order) => SaleWriter.Write(order, linkToFile);

    public override byte[] WriteMany(IReadOnlyList<SentOrder> orders)
    {
        using var bytes = new MemoryStream();
        for (var i = 0; i < orders.Count; i++)
        {
            bytes.Write(i == 0 ? "[\n"u8 : ",\n"u8);
            bytes.Write(Write(orders[i]));
        }

        bytes.Write("\n]\n"u8);
        return bytes.ToArray();
    }

    public override IReadOnlyDictionary<Guid, byte[]> SectionsOf(byte[] file, IReadOnlyList<SentOrder> orders)
    {
        var sales = ReadJson
            .Named(ReadJson.Document(file), "reference")
            .ToDictionary(static s => s.Name, static s => s.Node!, StringComparer.Ordinal);
        return orders
            .Where(o => sales.ContainsKey(o.Id.ToString()))
            .ToDictionary(static o => o.Id, o => Encoding.UTF8.GetBytes(sales[o.Id.ToString()].ToJsonString(Relaxed)));
    }

    public override IReadOnlyDictionary<SlotId, string> Read(byte[] file, Projection sent) =>
        SaleReader.Read(ReadJson.Document(file), sent);

    public override ArtefactPart PartOf(byte[] file, Projection sent, string slot)
    {
        var sale = ReadJson.Document(file);
        return IndentedJson.Part(PartName, sale, SaleReader.NodeOf(sale, sent, slot));
    }
}
