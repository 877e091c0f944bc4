using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Facts;
using Sexton.Core.Projections;
using Sexton.Core.Values;

namespace Sexton.Destinations.BackOffice;

/// <summary>
/// Finds the slots in a sale as the back office gives it back. Each slot stands in one spot: a member of the customer, the address,
/// the note or attachment with its key, of the piece with its reference, or of the lines that are part of one. Whatever else is there, or is not what it should be, has no slot in it.
/// </summary>
internal static class SaleReader
{
    /// <summary>The texts by slot; a note that stands twice stands in no one spot, and counts as not there.</summary>
    public static IReadOnlyDictionary<SlotId, string> Read(byte[] record) =>
        Readings(Parse(record)).ToDictionary(static p => p.Key, static p => p.Value.Text);

    /// <summary>The value in a record that stands for a slot, or null.</summary>
    public static JsonNode? NodeOf(JsonNode? record, string slot) =>
        Readings(record).FirstOrDefault(p => p.Key.ToString() == slot).Value?.Node;

    private static Dictionary<SlotId, Reading> Readings(JsonNode? record)
    {
        var found = new Dictionary<SlotId, Reading>();
        var sale = record as JsonObject;
        var rests = Remark.Read(Text(sale?["remark"]) ?? "");
        Put(found, rests, "name", Member(sale?["customer"], "name"));
        Put(found, rests, "email", Member(sale?["customer"], "email"));
        Put(found, rests, "telephone", Member(sale?["customer"], "telephone"));
        Put(found, rests, "delivery_address", sale?["ship_to"]);
        Notes(found, null, null, sale);
        foreach (var (reference, line) in Referenced(sale?["lines"]))
        {
            // A component stands in a line of its own, and carries what is about it of the line that it is part of.
            var of = Text(Member(line, "part_of")) ?? reference;
            Notes(found, of, null, line);
            foreach (var (unit, piece) in Referenced(Member(line, "pieces")))
            {
                Notes(found, of, unit, piece);
            }
        }

        return found;
    }

    /// <summary>The text of a node, or null when it is none.</summary>
    public static string? Text(JsonNode? node) => node is JsonValue value && value.TryGetValue<string>(out var text) ? text : null;

    /// <summary>The document of some bytes, or null when they are none.</summary>
    public static JsonNode? Parse(ReadOnlySpan<byte> bytes)
    {
        try
        {
            return JsonNode.Parse(bytes);
        }
        catch (JsonException)
        {
            return null;
        }
    }

    // What has no reference, or shares one with another, cannot be told apart.
    private static IEnumerable<(string Reference, JsonNode? Node)> Referenced(JsonNode? list) =>
        (list as JsonArray ?? [])
            .Select(static n => (Reference: Text(Member(n, "reference")), Node: n))
            .Where(static n => n.Reference is not null)
            .GroupBy(static n => n.Reference!, StringComparer.Ordinal)
            .Where(static g => g.Count() == 1)
            .Select(static g => (g.Key, g.Single().Node));

    private static JsonNode? Member(JsonNode? node, string name) => (node as JsonObject)?[name];

    private static void Put(Dictionary<SlotId, Reading> found, IReadOnlyDictionary<string, string> rests, string field, JsonNode? node)
    {
        if (Text(node) is { } text)
        {
            found[SlotId.Of(null, null, field)] = new Reading(Entry.ProofOf(text, rests.GetValueOrDefault(field)), node!);
        }
    }

    private static void Notes(Dictionary<SlotId, Reading> found, string? lineId, string? unitId, JsonNode? holder)
    {
        // What is too long for a note goes on in the remark beside it.
        var rests = Remark.Read(Text(Member(holder, "remark")) ?? "");
        var notes = (Member(holder, "notes") as JsonArray ?? []).Select(n =>
            (
                Key: Text(Member(n, "key")),
                Text: Text(Member(n, "text")) is { } text
                    ? Entry.ProofOf(text, rests.GetValueOrDefault(Text(Member(n, "key")) ?? ""))
                    : null,
                Node: n
            )
        );
        var attachments = (Member(holder, "attachments") as JsonArray ?? []).Select(static a =>
            (Key: Text(Member(a, "key")), Text: Files(Member(a, "files")), Node: a)
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

    // As the other side has them: what it fetched, and not what it was told of.
    private static string? Files(JsonNode? files) =>
        files is not JsonArray list
            ? null
            : Entry.ProofOf(
                list.Select(static f => new FileValue(
                    Text(Member(f, "name")) ?? "",
                    Member(f, "size") is JsonValue size && size.TryGetValue<long>(out var bytes) ? bytes : 0,
                    Text(Member(f, "sha256")) ?? ""
                ))
            );

    private sealed record Reading(string Text, JsonNode Node);
}
