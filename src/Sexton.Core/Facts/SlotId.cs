namespace Sexton.Core.Facts;

/// <summary>
/// The place of one answer: "order/FIELD", "line/LINE/FIELD" or "unit/LINE/UNIT/FIELD". What renders an artefact writes it beside the
/// answer, and what reads the artefact back looks only there.
/// </summary>
public readonly record struct SlotId
{
    private readonly string _id;

    private SlotId(string id) => _id = id;

    /// <summary>The slot of an answer.</summary>
    /// <param name="lineId">The id of the line, or null for an answer of the order.</param>
    /// <param name="unitId">The id of the unit within its line, or null for an answer of the line or order.</param>
    /// <param name="fieldKey">The key of the field.</param>
    /// <example><code>SlotId.Of("a", "u1", "guest_name").ToString() // "unit/a/u1/guest_name"</code></example>
    public static SlotId Of(string? lineId, string? unitId, string fieldKey) =>
        new(
            lineId is null ? "order/" + fieldKey
            : unitId is null ? $"line/{lineId}/{fieldKey}"
            : $"unit/{lineId}/{unitId}/{fieldKey}"
        );

    /// <summary>A slot id as it was written.</summary>
    public static SlotId Parse(string id) => new(id);

    /// <inheritdoc/>
    public override string ToString() => _id;
}
