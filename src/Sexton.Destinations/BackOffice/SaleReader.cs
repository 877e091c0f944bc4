using System.Text.Json.Nodes;
using Sexton.Core.Routing;

namespace Sexton.Destinations.BackOffice;

/// <summary>
/// Finds the slots in a sale as the back office gives it back. Each slot has one place: a member of the customer, the address,
/// the note with its key, of the line with its reference.
/// </summary>
internal static class SaleReader
{
    /// <summary>The texts by slot; a note that stands twice has no one place, and counts as not there.</summary>
    public static IReadOnlyDictionary<SlotId, string> Read(byte[] record)
    {
        var sale = JsonNode.Parse(record)!.AsObject();
        var found = new Dictionary<SlotId, string>();
        Put(found, "name", sale["customer"]?["name"]);
        Put(found, "email", sale["customer"]?["email"]);
        Put(found, "telephone", sale["customer"]?["telephone"]);
        Put(found, "delivery_address", sale["ship_to"]);
        Notes(found, null, sale["notes"]);
        foreach (var line in sale["lines"]?.AsArray() ?? [])
        {
            Notes(found, line!["reference"]!.GetValue<string>(), line["notes"]);
        }

        return found;
    }

    private static void Put(Dictionary<SlotId, string> found, string field, JsonNode? text)
    {
        if (text is not null)
        {
            found[SlotId.Of(null, field)] = text.GetValue<string>();
        }
    }

    private static void Notes(Dictionary<SlotId, string> found, string? lineId, JsonNode? notes)
    {
        foreach (var same in (notes?.AsArray() ?? []).GroupBy(n => n!["key"]!.GetValue<string>(), StringComparer.Ordinal))
        {
            if (same.Count() == 1)
            {
                found[SlotId.Of(lineId, same.Key)] = same.Single()!["text"]!.GetValue<string>();
            }
        }
    }
}
