using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;

namespace Sexton.Destinations.Sales;

/// <summary>
/// Finds the slots in a sale as the back office gives it back. Each slot stands in one spot: a member of the customer, the address,
/// the note or attachment with its key, of the piece with its reference, or of the lines that are part of one. Whatever else is there, or is not what it should be, has no slot in it.
/// </summary>
internal static class SaleReader
{
    /// <summary>The texts by slot; a note that stands twice stands in no one spot, and counts as not there.</summary>
    /// <param name="record">The record.</param>
    /// <param name="sent">What was sent, which says what stands under which name.</param>
    public static IReadOnlyDictionary<SlotId, string> Read(JsonNode? record, Projection sent) =>
        Readings(record, sent).ToDictionary(static p => p.Key, static p => p.Value.Text);

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
        if (sent.Slots.Contains(SlotId.Of(null, null, "invoice_address")))
        {
            Put(found, rests, "invoice_address", sale?["bill_to"]);
        }

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

    // What stands with the sale, a line or a piece of one: each note and attachment by its key, each value by its name.
    private static void Notes(Dictionary<SlotId, Reading> found, string? lineId, string? unitId, JsonNode? holder, Projection sent)
    {
        // What is too long for a note goes on in the remark beside it.
        var rests = Remark.Read(ReadJson.Text(ReadJson.Member(holder, "remark")) ?? "");
        var here = (
            lineId is null ? sent.Of(null)
            : unitId is null ? sent.Of(lineId)
            : sent.Of(lineId, unitId)
        ).ToDictionary(static e => e.Slot);
        foreach (var entry in here.Values.Where(static e => e.AsValue))
        {
            var value = ReadJson.Member(ReadJson.Member(holder, "values"), entry.Name);
            if (ReadJson.Text(value) is { } text)
            {
                found[entry.Slot] = new Reading(Entry.ProofOf(text, rests.GetValueOrDefault(Remark.KeyOf(entry))), value!);
            }
        }

        var notes = (ReadJson.Member(holder, "notes") as JsonArray ?? []).Select(n =>
            (Slot: SlotOf(n, lineId, unitId), Text: ReadJson.Text(ReadJson.Member(n, "text")), Node: n)
        );
        var attachments = (ReadJson.Member(holder, "attachments") as JsonArray ?? []).Select(a =>
            (Slot: SlotOf(a, lineId, unitId), Text: ReadJson.Files(ReadJson.Member(a, "files")), Node: a)
        );

        // What was to stand elsewhere does not stand where it should.
        var elsewhere = sent.Slots.Except(here.Keys).ToHashSet();
        foreach (
            var same in notes
                .Concat(attachments)
                .Where(n => n.Slot is { } slot && n.Text is not null && !elsewhere.Contains(slot))
                .GroupBy(static n => n.Slot!.Value)
                .Where(static g => g.Count() == 1)
        )
        {
            var (_, text, node) = same.Single();
            var rest =
                here.TryGetValue(same.Key, out var entry) && entry.Files.IsEmpty ? rests.GetValueOrDefault(Remark.KeyOf(entry)) : null;
            found[same.Key] = new Reading(Entry.ProofOf(text!, rest), node!);
        }
    }

    // A note of the sale says itself of which line or piece it is, where it is of one.
    private static SlotId? SlotOf(JsonNode? note, string? lineId, string? unitId) =>
        ReadJson.Text(ReadJson.Member(note, "key")) is not { } key ? null
        : lineId is null ? SlotId.Of(ReadJson.Text(ReadJson.Member(note, "line")), ReadJson.Text(ReadJson.Member(note, "piece")), key)
        : SlotId.Of(lineId, unitId, key);

    private sealed record Reading(string Text, JsonNode Node);
}
