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
            json.WriteString("currency", order.Content.Currency);
            json.WriteNumber("total_minor", order.Content.TotalMinor);
            json.WriteStartObject("customer");
            WriteMember(json, "name", own, BuiltInFields.Name);
            WriteMember(json, "email", own, BuiltInFields.Email);
            WriteMember(json, "telephone", own, BuiltInFields.Telephone);
            json.WriteEndObject();
            WriteMember(json, "ship_to", own, BuiltInFields.DeliveryAddress);
            WriteNotes(json, own);
            json.WriteStartArray("lines");
            foreach (var line in order.Content.Lines)
            {
                json.WriteStartObject();
                json.WriteString("reference", line.Id);
                json.WriteString("item", line.ProductCode);
                json.WriteString("description", line.ProductName);
                json.WriteNumber("quantity", line.Quantity);
                json.WriteNumber("unit_minor", line.UnitMinor);
                json.WriteNumber("sum_minor", line.SumMinor);
                WriteNotes(json, order.Projection.Of(line.Id));
                WritePieces(json, order, line);
                json.WriteEndObject();
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        return bytes.ToArray();
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
