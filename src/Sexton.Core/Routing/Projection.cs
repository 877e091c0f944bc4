using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Sexton.Core.Orders;
using Sexton.Core.Register;

namespace Sexton.Core.Routing;

/// <summary>What one destination gets of one order: a list of entries.</summary>
/// <param name="Entries">The entries, lines first in their order, then the order's own answers.</param>
public sealed record Projection(ImmutableArray<Entry> Entries)
{
    /// <summary>The entries of a line, or those of the order for null.</summary>
    public IEnumerable<Entry> Of(string? lineId) => Entries.Where(e => string.Equals(e.LineId, lineId, StringComparison.Ordinal));
}

/// <summary>One answer as one destination gets it.</summary>
/// <param name="LineId">The line, or null for an answer of the order.</param>
/// <param name="Field">The key of the field.</param>
/// <param name="Name">What the answer is called there.</param>
/// <param name="Text">The text that must stand there, exactly.</param>
public sealed record Entry(string? LineId, string Field, string Name, string Text)
{
    /// <summary>The slot where it stands.</summary>
    [JsonIgnore]
    public SlotId Slot => SlotId.Of(LineId, Field);
}

/// <summary>Projects an order onto a destination.</summary>
public static class Projector
{
    /// <summary>
    /// What a destination gets: the answers given, by the order's own version, whose field goes there by the current one.
    /// An answer left empty has no entry.
    /// </summary>
    /// <param name="order">The order as placed.</param>
    /// <param name="current">The current version of the register, which says what goes where.</param>
    /// <param name="destination">The key of the destination.</param>
    public static Projection Project(OrderContent order, RegisterContent current, string destination)
    {
        var routed = current.Fields.Where(f => f.GoesTo.Contains(destination)).Select(f => f.Key).ToHashSet(StringComparer.Ordinal);
        var given = order.Answers.Where(a => a.Value is not null && routed.Contains(a.Field)).ToLookup(a => a.LineId, StringComparer.Ordinal);
        var inOrder = order.Lines.SelectMany(line => given[line.Id]).Concat(given[null]);
        return new Projection([.. inOrder.Select(static a => new Entry(a.LineId, a.Field, a.Label, a.Text))]);
    }
}
