using System.Security.Cryptography;
using System.Text.Json;
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

    /// <summary>Seals a projection.</summary>
    public static byte[] Seal(Projection projection, DataKey key) =>
        key.SealPacked(JsonSerializer.SerializeToUtf8Bytes(projection, DocumentJson.Options), ProjectionPurpose);

    /// <summary>Opens a projection.</summary>
    public static Projection OpenProjection(byte[] bytes, DataKey key) =>
        JsonSerializer.Deserialize<Projection>(key.Open(bytes, ProjectionPurpose), DocumentJson.Options)!;

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
