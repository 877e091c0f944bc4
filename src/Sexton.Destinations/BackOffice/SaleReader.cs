using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;

namespace Sexton.Destinations.BackOffice;

/// <summary>
/// Finds the slots in a sale as the back office gives it back. Each slot stands in one spot: a member of the customer, the address,
/// the note or attachment with its key, of the piece with its reference, or of the lines that are part of one. Whatever else is there, or is not what it should be, has no slot in it.
/// </summary>
internal static class SaleReader
{
    /// <summary>The texts by slot; a note that stands twice stands in no one spot, and counts as not there.</summary>
    /// <param name="record">The record.</param>
    /// <param name="sent">What was sent, which says what stands under which name.</param>
    public static IReadOnlyDictionary<SlotId, string> Read(byte[] record, Projection sent) =>
        Readings(ReadJson.Document(record), sent).ToDictionary(static p => p.Key, static p => p.Value.Text);

    /// <summary>The value in a record that stands for a slot, or null.</summary>
    public static JsonNode? NodeOf(JsonNode? record, Projection sent, string slot) =>
        Readings(record, sent).FirstOrDefault(p => p.Key.ToString() == slot).Value?.Node;

    private static Dictionary<SlotId, Reading> Readings(JsonNode? record, Projection sent)
    {
        var found = new Dictionary<SlotId, Reading>();
        var sale = record as JsonObject;
        var rests = Remark.Read(ReadJson.Text(sale?["remark"]) ?? "");
        Put(found, rests, "name", ReadJson.Member(sale?["customer"], "name"));
        Put(found, rests, "email", ReadJson.Member(sale?["customer"], "email"));
        Put(found, rests, "telephone", ReadJson.Member(sale?["customer"], "telephone"));
        Put(found, rests, "delivery_address", sale?["ship_to"]);
        Notes(found, null, null, sale, sent);
        foreach (var (reference, line) in ReadJson.Named(sale?["lines"], "reference"))
        {
            // A component stands in a line of its own, and carries what is about it of the line that it is part of.
            var of = ReadJson.Text(ReadJson.Member(line, "part_of")) ?? reference;
            Notes(found, of, null, line, sent);
            foreach (var (unit, piece) in ReadJson.Named(ReadJson.Member(line, "pieces"), "reference"))
            {
                Notes(found, of, unit, piece, sent);
            }
        }

        return found;
    }

    private static void Put(Dictionary<SlotId, Reading> found, IReadOnlyDictionary<string, string> rests, string field, JsonNode? node)
    {
        if (ReadJson.Text(node) is { } text)
        {
            found[SlotId.Of(null, null, field)] = new Reading(Entry.ProofOf(text, rests.GetValueOrDefault(field)), node!);
        }
    }

    private static void Notes(Dictionary<SlotId, Reading> found, string? lineId, string? unitId, JsonNode? holder, Projection sent)
    {
        // What is too long for a note goes on in the remark beside it.
        var rests = Remark.Read(ReadJson.Text(ReadJson.Member(holder, "remark")) ?? "");
        var notes = (ReadJson.Member(holder, "notes") as JsonArray ?? []).Select(n =>
            (
                Key: ReadJson.Text(ReadJson.Member(n, "key")),
                Text: ReadJson.Text(ReadJson.Member(n, "text")) is { } text
                    ? Entry.ProofOf(text, rests.GetValueOrDefault(ReadJson.Text(ReadJson.Member(n, "key")) ?? ""))
                    : null,
                Node: n
            )
        );
        foreach (var entry in sent.Entries.Where(e => e.AsValue && e.LineId == lineId && e.UnitId == unitId))
        {
            var value = ReadJson.Member(ReadJson.Member(holder, "values"), entry.Name);
            if (ReadJson.Text(value) is { } text)
            {
                found[entry.Slot] = new Reading(Entry.ProofOf(text, rests.GetValueOrDefault(entry.Field)), value!);
            }
        }

        var attachments = (ReadJson.Member(holder, "attachments") as JsonArray ?? []).Select(static a =>
            (Key: ReadJson.Text(ReadJson.Member(a, "key")), Text: ReadJson.Files(ReadJson.Member(a, "files")), Node: a)
        );
        foreach (
            var same in notes
                .Concat(attachments)
                .Where(static n => n.Key is not null && n.Text is not null)
                .GroupBy(static n => n.Key!, StringComparer.Ordinal)
                .Where(static g => g.Count() == 1)
        )
        {
            found[SlotId.Of(lineId, unitId, same.Key)] = new Reading(same.Single().Text!, same.Single().Node!);
        }
    }

    private sealed record Reading(string Text, JsonNode Node);
}
