using System.Text.Encodings.Web;
using System.Text.Json;
using Sexton.Core.Orders;
using Sexton.Core.Register;
using Sexton.Core.Routing;

namespace Sexton.Destinations.BackOffice;

/// <summary>
/// Writes a sale as the back office takes it: the shop's own answers in named members, every other answer as a note of the sale,
/// of its line, or of the one piece of a line that it is about.
/// </summary>
internal static class SaleWriter
{
    private static readonly JsonWriterOptions Options = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    public static byte[] Write(SentOrder order)
    {
        using var bytes = new MemoryStream();
        using (var json = new Utf8JsonWriter(bytes, Options))
        {
            var own = order.Projection.Of(null).ToList();
            json.WriteStartObject();
            json.WriteString("reference", order.Id);
            json.WriteNumber("shop_number", order.Number);
            json.WriteString("placed_at", order.PlacedAt);
            WriteTotals(json, order.Content.Prices);
            json.WriteNumber("weight_grams", order.Content.WeightGrams);
            json.WriteStartObject("customer");
            WriteMember(json, "name", own, BuiltInFields.Name);
            WriteMember(json, "email", own, BuiltInFields.Email);
            WriteMember(json, "telephone", own, BuiltInFields.Telephone);
            json.WriteEndObject();
            WriteMember(json, "ship_to", own, BuiltInFields.DeliveryAddress);
            WriteNotes(json, own);
            WriteCharges(json, order.Content.Prices.ExtrasOf(null));
            WriteComponents(json, order.Content.Uses.Where(static u => u is { LineId: null, IsSold: true }));
            json.WriteStartArray("lines");
            foreach (var line in SaleLine.Of(order))
            {
                WriteLine(json, order, line);
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        return bytes.ToArray();
    }

    private static void WriteTotals(Utf8JsonWriter json, PriceList prices)
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

    private static void WriteLine(Utf8JsonWriter json, SentOrder order, SaleLine line)
    {
        json.WriteStartObject();
        json.WriteString("reference", line.Reference);
        json.WriteString("part_of", line.PartOf);
        json.WriteString("item", line.Item);
        json.WriteString("description", line.Description);
        json.WriteNumber("quantity", line.Quantity);
        if (line.Goods is not null)
        {
            WriteAmounts(json, line.Goods);
        }

        WriteCharges(json, line.Charges);
        WriteComponents(json, line.Components);
        WriteNotes(json, line.Notes);
        if (line.Pieces is not null)
        {
            WritePieces(json, order, line.Pieces);
        }

        json.WriteEndObject();
    }

    private static void WriteComponents(Utf8JsonWriter json, IEnumerable<OrderUse> uses)
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
    private static void WriteCharges(Utf8JsonWriter json, IEnumerable<OrderPrice> rows)
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
            WriteAmounts(json, row);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteAmounts(Utf8JsonWriter json, OrderPrice row)
    {
        json.WriteNumber("unit_minor", row.UnitMinor);
        json.WriteNumber("sum_minor", row.SumMinor);
        json.WriteNumber("tax_ppm", row.TaxPpm);
        json.WriteNumber("tax_minor", row.TaxMinor);
    }

    // Takes the entry out of the list: what is left over becomes a note.
    private static void WriteMember(Utf8JsonWriter json, string member, List<Entry> entries, string field)
    {
        if (entries.Find(e => e.Field == field) is { } entry)
        {
            json.WriteString(member, entry.Text);
            entries.Remove(entry);
        }
    }

    private static void WritePieces(Utf8JsonWriter json, SentOrder order, OrderLine line)
    {
        json.WriteStartArray("pieces");
        foreach (var unit in line.Units)
        {
            json.WriteStartObject();
            json.WriteString("reference", unit);
            json.WriteString("name", line.NameOf(unit));
            WriteNotes(json, order.Projection.Of(line.Id, unit));
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    private static void WriteNotes(Utf8JsonWriter json, IEnumerable<Entry> entries)
    {
        json.WriteStartArray("notes");
        foreach (var entry in entries)
        {
            json.WriteStartObject();
            json.WriteString("key", entry.Field);
            json.WriteString("label", entry.Name);
            json.WriteString("text", entry.Text);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }
}
