using System.Text.Encodings.Web;
using System.Text.Json;
using Sexton.Core.Invoicing;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Register;

namespace Sexton.Destinations.Sales;

/// <summary>
/// Writes a sale as the back office takes it: the shop's own answers in named members, every other answer as a note of the sale,
/// of its line, or of the one piece of a line that it is about; one that stands with the sale all the same says of which line or piece it is. Files stand beside the notes, each with the link by which it is fetched.
/// </summary>
/// <param name="json">Where it is written.</param>
/// <param name="order">What is written.</param>
/// <param name="linkToFile">The link to a file of an order, by the SHA-256 of the file.</param>
internal sealed class SaleWriter(Utf8JsonWriter json, SentOrder order, Func<Guid, string, string> linkToFile)
{
    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static byte[] Write(SentOrder order, Func<Guid, string, string> linkToFile)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes, Options))
        {
            new SaleWriter(json, order, linkToFile).WriteSale();
        }

        return bytes.ToArray();
    }

    private void WriteSale()
    {
        var own = order.Projection.Of(null).ToList();
        var remark = Remark.Write(own);
        json.WriteStartObject();
        json.WriteString("reference", order.Id);
        json.WriteNumber("shop_number", order.Number);
        json.WriteString("placed_at", order.PlacedAt);
        WriteTotals(order.Prices);
        json.WriteNumber("weight_grams", order.Content.WeightGrams);
        json.WriteStartObject("customer");
        WriteMember("name", own, BuiltInFields.Name);
        WriteMember("email", own, BuiltInFields.Email);
        WriteMember("telephone", own, BuiltInFields.Telephone);
        json.WriteEndObject();
        var shipTo = own.Find(static e => e.Field == BuiltInFields.DeliveryAddress);
        WriteMember("ship_to", own, BuiltInFields.DeliveryAddress);
        WriteBillTo(own, shipTo);
        WriteNotes(own, remark);
        WriteCharges(order.Prices.ExtrasOf(null));
        WriteComponents(order.Content.Uses.Where(static u => u is { LineId: null, IsSold: true }));
        json.WriteStartArray("lines");
        foreach (var line in SaleLine.Of(order))
        {
            WriteLine(line);
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    // Who reads a sale need not know which of the two addresses was given: it carries both.
    private void WriteBillTo(List<Entry> own, Entry? shipTo)
    {
        if (own.Exists(static e => e.Field == BuiltInFields.InvoiceAddress))
        {
            WriteMember("bill_to", own, BuiltInFields.InvoiceAddress);
        }
        else if (shipTo is not null)
        {
            json.WriteString("bill_to", shipTo.Text);
        }
    }

    private void WriteTotals(PriceList prices)
    {
        json.WriteString("currency", prices.Currency);
        json.WriteNumber("total_minor", prices.TotalMinor);
        json.WriteBoolean("amounts_include_tax", prices.IncludeTax);
        json.WriteStartArray("taxes");
        foreach (var tax in prices.Taxes)
        {
            json.WriteStartObject();
            json.WriteNumber("rate_ppm", tax.RatePpm);
            json.WriteNumber("base_minor", tax.BaseMinor);
            json.WriteNumber("tax_minor", tax.TaxMinor);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private void WriteLine(SaleLine line)
    {
        json.WriteStartObject();
        json.WriteString("reference", line.Reference);
        json.WriteString("part_of", line.PartOf);
        json.WriteString("item", line.Item);
        json.WriteString("description", line.Description);
        json.WriteNumber("quantity", line.Quantity);
        if (line.Goods is not null)
        {
            WriteAmounts(line.Goods);
        }

        WriteCharges(line.Charges);
        WriteComponents(line.Components);
        WriteNotes(line.Notes, Remark.Write(line.Notes));
        WritePieces(line.Pieces);

        json.WriteEndObject();
    }

    private void WriteComponents(IEnumerable<OrderUsage> uses)
    {
        json.WriteStartArray("components");
        foreach (var use in uses)
        {
            json.WriteStartObject();
            json.WriteString("item", use.Item);
            json.WriteString("description", use.Name);
            json.WriteNumber("quantity", use.Quantity);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    // What comes on top of the goods of a line, or of all of them.
    private void WriteCharges(IEnumerable<OrderPrice> rows)
    {
        json.WriteStartArray("charges");
        foreach (var row in rows)
        {
            json.WriteStartObject();
            json.WriteString("label", row.Label);
            if (row.Field is not null)
            {
                json.WriteString("key", row.Field);
            }

            if (row.UnitId is not null)
            {
                json.WriteString("piece", row.UnitId);
            }

            json.WriteNumber("quantity", row.Quantity);
            WriteAmounts(row);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private void WriteAmounts(OrderPrice row)
    {
        json.WriteNumber("unit_minor", row.UnitMinor);
        json.WriteNumber("sum_minor", row.SumMinor);
        json.WriteNumber("tax_ppm", row.TaxPpm);
        if (row.TaxPpm == 0)
        {
            json.WriteString("tax_category", Ubl.CodeOf(row.TaxCategory));
        }

        json.WriteNumber("tax_minor", row.TaxMinor);
    }

    // Takes the entry out of the list: what is left over becomes a note.
    private void WriteMember(string member, List<Entry> entries, string field)
    {
        if (entries.Find(e => e.Field == field) is { } entry)
        {
            json.WriteString(member, entry.Text);
            entries.Remove(entry);
        }
    }

    private void WritePieces(IReadOnlyList<SalePiece> pieces)
    {
        json.WriteStartArray("pieces");
        foreach (var piece in pieces)
        {
            json.WriteStartObject();
            json.WriteString("reference", piece.Unit);
            json.WriteString("name", piece.Name);
            WriteNotes(piece.Notes, Remark.Write(piece.Notes));
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private void WriteNotes(IReadOnlyCollection<Entry> entries, string remark)
    {
        if (remark.Length > 0)
        {
            json.WriteString("remark", remark);
        }

        WriteValues(entries);
        json.WriteStartArray("notes");
        foreach (var entry in entries.Where(static e => e.Files.IsEmpty && !e.AsValue))
        {
            BeginNote(entry);
            json.WriteString("text", entry.Text);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteStartArray("attachments");
        foreach (var entry in entries.Where(static e => !e.Files.IsEmpty))
        {
            BeginNote(entry);
            json.WriteStartArray("files");
            foreach (var file in entry.Files)
            {
                AttachedFile.Write(json, file, linkToFile(order.Id, file.Sha256));
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    // What is found by its name; nothing where nothing is.
    private void WriteValues(IEnumerable<Entry> entries)
    {
        // What several lines say alike of the whole order is said once.
        var values = entries
            .Where(static e => e.Files.IsEmpty && e.AsValue)
            .DistinctBy(static e => (e.WithOrder ? e.Field : e.Slot.ToString(), e.Name, e.Text))
            .ToList();
        if (values.Count == 0)
        {
            return;
        }

        SameNames.Refuse(values);
        json.WriteStartObject("values");
        foreach (var entry in values)
        {
            json.WriteString(entry.Name, entry.Text);
        }

        json.WriteEndObject();
    }

    private void BeginNote(Entry entry)
    {
        json.WriteStartObject();
        json.WriteString("key", entry.Field);
        if (entry.WithOrder)
        {
            json.WriteString("line", entry.LineId);
            if (entry.UnitId is not null)
            {
                json.WriteString("piece", entry.UnitId);
            }
        }

        json.WriteString("label", entry.Name);
    }
}
