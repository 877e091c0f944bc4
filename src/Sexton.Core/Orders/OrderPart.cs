using System.Runtime.InteropServices;

namespace Sexton.Core.Orders;

/// <summary>The part of an order that goes to a destination at a time: all of it, a line, or a unit of a line.</summary>
/// <param name="LineId">The line, or "" for all of the order.</param>
/// <param name="UnitId">The unit within its line, or "".</param>
[StructLayout(LayoutKind.Auto)]
public readonly record struct OrderPart(string LineId, string UnitId)
{
    /// <summary>All of the order.</summary>
    public static readonly OrderPart Whole = new("", "");

    /// <summary>Whether an answer belongs to it: its own, or one of the line or order around it.</summary>
    /// <param name="lineId">The line of the answer, or null for one of the order.</param>
    /// <param name="unitId">The unit of the answer, or null.</param>
    public bool Has(string? lineId, string? unitId) =>
        LineId.Length == 0 || lineId is null || (lineId == LineId && (UnitId.Length == 0 || unitId is null || unitId == UnitId));

    /// <summary>Whether another part lies within it, or is the same.</summary>
    /// <param name="other">The other part.</param>
    public bool Contains(OrderPart other) =>
        LineId.Length == 0 || (other.LineId == LineId && (UnitId.Length == 0 || other.UnitId == UnitId));

    /// <summary>It as the end of a key: "", "/LINE" or "/LINE/UNIT".</summary>
    public override string ToString() =>
        LineId.Length == 0 ? ""
        : UnitId.Length == 0 ? "/" + LineId
        : $"/{LineId}/{UnitId}";
}
