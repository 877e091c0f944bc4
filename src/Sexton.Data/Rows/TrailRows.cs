using Sexton.Core.Projections;
using Sexton.Core.Routing;
using Sexton.Core.Trail;

namespace Sexton.Data.Rows;

/// <summary>The lane of one order to one message or system.</summary>
public sealed class DeliveryRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>The number of the payload that is wanted; with order and destination the idempotency key.</summary>
    public required int Sequence { get; init; }

    /// <summary>Where it stands.</summary>
    public required DeliveryState State { get; set; }

    /// <summary>How many tries were made.</summary>
    public required int Tries { get; set; }

    /// <summary>When it is tried next.</summary>
    public required DateTimeOffset NextTryAt { get; set; }

    /// <summary>Until when the worker that claimed it has it.</summary>
    public DateTimeOffset? LeaseUntil { get; set; }

    /// <summary>Counts claims; a worker that was overtaken may no longer write.</summary>
    public required int Fence { get; set; }

    /// <summary>When the bytes began to be handed over to a receiver that cannot tell doubles apart; null before.</summary>
    public DateTimeOffset? HandedOverAt { get; set; }

    /// <summary>Whether an acknowledgement was lost once, so that no further copy is sent.</summary>
    public required bool WasUncertain { get; set; }

    /// <summary>The projection as sent, as JSON; null before the first try.</summary>
    public string? Projection { get; set; }

    /// <summary>The bytes as sent or read back; null before.</summary>
    public byte[]? Artefact { get; set; }

    /// <summary>What the other side gave in return: its number, or its acknowledgement.</summary>
    public string? Receipt { get; set; }

    /// <summary>When it was settled.</summary>
    public DateTimeOffset? SettledAt { get; set; }
}

/// <summary>One try of a delivery.</summary>
public sealed class DeliveryTryRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>How it ended, as a state of the delivery.</summary>
    public required DeliveryState Outcome { get; init; }

    /// <summary>What happened, in a sentence.</summary>
    public required string Detail { get; init; }
}

/// <summary>That a page of an order was served.</summary>
public sealed class PageViewRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The key of the page.</summary>
    public required string Destination { get; init; }

    /// <summary>The page as last served: its bytes.</summary>
    public required byte[] Artefact { get; set; }

    /// <summary>What the page should carry, as JSON.</summary>
    public required string Projection { get; set; }

    /// <summary>When it was first served.</summary>
    public required DateTimeOffset FirstAt { get; init; }

    /// <summary>When it was last served.</summary>
    public required DateTimeOffset LastAt { get; set; }

    /// <summary>How often.</summary>
    public required int Times { get; set; }
}

/// <summary>What one part of an artefact showed of one answer.</summary>
public sealed class FindingRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>The slot.</summary>
    public required string Slot { get; init; }

    /// <summary>The part of the artefact.</summary>
    public required string Part { get; init; }

    /// <summary>The text expected.</summary>
    public required string Expected { get; init; }

    /// <summary>The text found; null when the slot was not there.</summary>
    public required string? Found { get; init; }

    /// <summary>What follows.</summary>
    public required Finding Finding { get; init; }

    /// <summary>When it was read back.</summary>
    public required DateTimeOffset At { get; init; }
}
