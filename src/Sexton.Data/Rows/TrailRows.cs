using System.ComponentModel.DataAnnotations.Schema;
using Sexton.Core.Orders;
using Sexton.Core.Routing;
using Sexton.Core.Trail;

namespace Sexton.Data.Rows;

/// <summary>
/// What one destination is to get of one order, or of one line or unit of it where the destination goes by these: what is wanted, in flight and settled, and
/// when it is tried next.
/// </summary>
public sealed class LaneRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>The line, or "" where the destination goes by orders.</summary>
    public required string LineId { get; init; }

    /// <summary>The unit within its line, or "" where the destination goes by orders or lines.</summary>
    public required string UnitId { get; init; }

    /// <summary>The number of the newest payload that is wanted, from 1; 0 while nothing happened that is told there.</summary>
    public required int Wanted { get; set; }

    /// <summary>The number of the payload that is in flight or was last; with order and destination the idempotency key.</summary>
    public required int Sequence { get; set; }

    /// <summary>Where that payload stands.</summary>
    public required DeliveryState State { get; set; }

    /// <summary>How many tries were made of it.</summary>
    public required int Tries { get; set; }

    /// <summary>Not before then it is tried next.</summary>
    public required DateTimeOffset NextTryAt { get; set; }

    /// <summary>Until when the worker that claimed it has it.</summary>
    public DateTimeOffset? LeaseUntil { get; set; }

    /// <summary>Counts claims; a worker that was overtaken may no longer write.</summary>
    public required int Fence { get; set; }

    /// <summary>When the bytes began to be handed over to a receiver that cannot tell doubles apart; null before.</summary>
    public DateTimeOffset? HandedOverAt { get; set; }

    /// <summary>Whether an acknowledgement was lost once, so that no further copy is sent.</summary>
    public required bool WasUncertain { get; set; }

    /// <summary>What the other side gave in return for the payload: its number, or its acknowledgement.</summary>
    public string? Receipt { get; set; }

    /// <summary>When everything that is wanted was settled; null before.</summary>
    public DateTimeOffset? SettledAt { get; set; }

    /// <summary>What it is released by.</summary>
    public Release Release { get; init; }

    /// <summary>The item code that the other side has no match for, so that it waits; null where it waits for none.</summary>
    public string? MissingCode { get; set; }

    /// <summary>Until when it waits for the papers that it carries; null where it did not have to.</summary>
    public DateTimeOffset? HeldUntil { get; set; }

    /// <summary>When whoever answers for the destination was told that it is stuck; null before, and once it is tried again.</summary>
    public DateTimeOffset? ToldAt { get; set; }

    /// <summary>The part of the order that goes along it.</summary>
    [NotMapped]
    public OrderPart Part => new(LineId, UnitId);

    /// <summary>The time of a lane that waits for somebody.</summary>
    public static readonly DateTimeOffset Held = DateTimeOffset.MaxValue;

    /// <summary>Lets what was not tried yet wait for its release, or go: what was due already stays due since then.</summary>
    /// <param name="notBefore">When it may go; null for at once.</param>
    /// <param name="now">The time.</param>
    public void WaitFor(DateTimeOffset? notBefore, DateTimeOffset now) =>
        (State, NextTryAt) = notBefore is { } time
            ? (DeliveryState.NotReleased, time)
            : (DeliveryState.Waiting, State == DeliveryState.Waiting ? NextTryAt : now);
}

/// <summary>That somebody said that a line of an order is prepared.</summary>
public sealed class PreparedLineRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The line.</summary>
    public required string LineId { get; init; }

    /// <summary>The account that said so.</summary>
    public required string Account { get; init; }

    /// <summary>The name by which others know who it was.</summary>
    public required string Name { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }
}

/// <summary>One payload of a lane: what was to arrive, what went or came back, and what was found in it.</summary>
public sealed class PayloadRow
{
    /// <summary>The lane.</summary>
    public required long LaneId { get; init; }

    /// <summary>Its number in the lane, from 1.</summary>
    public required int Sequence { get; init; }

    /// <summary>The revision of the order that it is of.</summary>
    public required int Revision { get; init; }

    /// <summary>The projection as sent, as JSON, sealed.</summary>
    public required byte[] Projection { get; set; }

    /// <summary>SHA-256 of the artefact.</summary>
    public byte[]? Hash { get; set; }

    /// <summary>The bytes as sent or read back, sealed; null before, and when their time is over.</summary>
    public byte[]? Artefact { get; set; }

    /// <summary>What was found wherever nothing else stands in the findings; <see cref="Finding.None"/> before it was read back.</summary>
    public required Finding Agreed { get; set; }

    /// <summary>How many slots agreed, in all parts together.</summary>
    public required int AgreedCount { get; set; }

    /// <summary>When it was last written.</summary>
    public required DateTimeOffset At { get; set; }

    /// <summary>What happened, where it tells an event; null where it says how the order is.</summary>
    public OrderEvent? Event { get; init; }

    /// <summary>Of what the event is: the line, or where it arrived; null where it is of the order.</summary>
    public string? About { get; init; }

    /// <summary>When it happened; null where it tells no event.</summary>
    public DateTimeOffset? HappenedAt { get; init; }
}

/// <summary>One try of a payload.</summary>
public sealed class TryRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>The lane.</summary>
    public required long LaneId { get; init; }

    /// <summary>The payload.</summary>
    public required int Sequence { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>How it ended, as a state of the delivery.</summary>
    public required DeliveryState Outcome { get; init; }

    /// <summary>What happened, in a sentence.</summary>
    public required string Detail { get; init; }
}

/// <summary>What one part of an artefact showed of one answer, where it is not what was expected.</summary>
public sealed class FindingRow
{
    /// <summary>The lane.</summary>
    public required long LaneId { get; init; }

    /// <summary>The payload.</summary>
    public required int Sequence { get; init; }

    /// <summary>The slot.</summary>
    public required string Slot { get; init; }

    /// <summary>The part of the artefact.</summary>
    public required string Part { get; init; }

    /// <summary>The text expected and the one found, as JSON, sealed.</summary>
    public required byte[] Texts { get; set; }

    /// <summary>What follows.</summary>
    public required Finding Finding { get; init; }
}

/// <summary>That a page of an order was served.</summary>
public sealed class PageViewRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The key of the page.</summary>
    public required string Destination { get; init; }

    /// <summary>The revision of the order that was shown last.</summary>
    public required int Revision { get; set; }

    /// <summary>The page as last served: its bytes, sealed; empty when their time is over.</summary>
    public required byte[] Artefact { get; set; }

    /// <summary>What the page should carry, as JSON, sealed.</summary>
    public required byte[] Projection { get; set; }

    /// <summary>When it was first served.</summary>
    public required DateTimeOffset FirstAt { get; init; }

    /// <summary>When it was last served.</summary>
    public required DateTimeOffset LastAt { get; set; }

    /// <summary>How often.</summary>
    public required int Times { get; set; }
}
