using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using Sexton.Core.Orders;
using Sexton.Core.Projections;
using Sexton.Core.Trail;
using Sexton.Core.Values;
using Sexton.Data.Rows;
using Sexton.Data.Sealing;

namespace Sexton.Data.Queue;

/// <summary>Payloads, what was served of pages, and findings, as they lie in their rows: sealed under the key of the order.</summary>
public static class StoredPayload
{
    private const string ProjectionPurpose = "projection",
        ArtefactPurpose = "artefact",
        FindingPurpose = "finding";

    /// <summary>
    /// Seals a projection. An entry that is an answer of the order word for word is kept by its position among them: with a destination or ten nearly all are, and
    /// each would be there as often.
    /// </summary>
    /// <param name="projection">The projection.</param>
    /// <param name="answers">The answers of the revision that it is of, in their order; none to keep it by itself.</param>
    /// <param name="key">The key of the order or cart.</param>
    public static byte[] Seal(Projection projection, IReadOnlyList<OrderAnswer> answers, DataKey key)
    {
        var positions = new Dictionary<Entry, int>();
        for (var i = 0; i < answers.Count; i++)
        {
            foreach (var entry in EntriesOf(answers[i]))
            {
                positions.TryAdd(entry, (2 * i) + (entry.Text == answers[i].Text ? 0 : 1));
            }
        }

        var (kept, last) = (new JsonArray(), 0);
        foreach (var entry in projection.Entries)
        {
            if (positions.TryGetValue(entry, out var at))
            {
                // From one to the next, so that a run of them is the same number over and over, which packs to nothing.
                kept.Add(at - last);
                last = at;
            }
            else
            {
                kept.Add(JsonSerializer.SerializeToNode(entry, DocumentJson.Options));
            }
        }

        return key.SealPacked(JsonSerializer.SerializeToUtf8Bytes(kept), ProjectionPurpose);
    }

    /// <summary>Opens a projection.</summary>
    /// <param name="bytes">What sealing gave.</param>
    /// <param name="answers">The answers that it was sealed with.</param>
    /// <param name="key">The key of the order or cart.</param>
    public static Projection OpenProjection(byte[] bytes, IReadOnlyList<OrderAnswer> answers, DataKey key)
    {
        var (entries, last) = (ImmutableArray.CreateBuilder<Entry>(), 0);
        foreach (var kept in JsonSerializer.Deserialize<JsonArray>(key.Open(bytes, ProjectionPurpose))!)
        {
            if (kept is JsonValue step)
            {
                last += step.GetValue<int>();
                entries.Add(EntriesOf(answers[last / 2]).ElementAt(last % 2));
            }
            else
            {
                entries.Add(kept.Deserialize<Entry>(DocumentJson.Options)!);
            }
        }

        return new Projection(entries.ToImmutable());
    }

    // As people get it and, where that differs, as systems do.
    private static IEnumerable<Entry> EntriesOf(OrderAnswer answer)
    {
        var files = answer.Value?.Files ?? [];
        yield return new Entry(answer.LineId, answer.UnitId, answer.Field, answer.Label, answer.Text) { Files = files };
        if (answer.SystemText is { } other)
        {
            yield return new Entry(answer.LineId, answer.UnitId, answer.Field, answer.Label, other) { Files = files };
        }
    }

    /// <summary>Seals an artefact.</summary>
    public static byte[] SealArtefact(byte[] artefact, DataKey key) => key.SealPacked(artefact, ArtefactPurpose);

    /// <summary>Opens an artefact.</summary>
    public static byte[] OpenArtefact(byte[] bytes, DataKey key) => key.Open(bytes, ArtefactPurpose);

    /// <summary>What is kept of an artefact for ever.</summary>
    public static byte[] HashOf(byte[] artefact) => SHA256.HashData(artefact);

    /// <summary>The row of a finding.</summary>
    public static FindingRow Row(LaneRow lane, SlotFinding finding, DataKey key) =>
        new()
        {
            LaneId = lane.Id,
            Sequence = lane.Sequence,
            Slot = finding.Slot,
            Part = finding.Part,
            Texts = key.SealPacked(JsonSerializer.SerializeToUtf8Bytes(new Texts(finding.Expected, finding.Found)), FindingPurpose),
            Finding = finding.Finding,
        };

    /// <summary>The finding of a row.</summary>
    /// <param name="row">The row.</param>
    /// <param name="key">The key of the order; null once it was erased.</param>
    public static SlotFinding Read(FindingRow row, DataKey? key)
    {
        var texts = key is null ? new Texts("", null) : JsonSerializer.Deserialize<Texts>(key.Open(row.Texts, FindingPurpose))!;
        return new SlotFinding(row.Slot, row.Part, texts.Expected, texts.Found, row.Finding);
    }

    private sealed record Texts(string Expected, string? Found);
}
