namespace Sexton.Data.Rows;

/// <summary>A shopper's cart.</summary>
public sealed class CartRow
{
    /// <summary>A random id; whoever knows it has the cart.</summary>
    public required Guid Id { get; init; }

    /// <summary>The key of the cart, wrapped; empty once it was ordered.</summary>
    public required byte[] Key { get; set; }

    /// <summary>The cart, as JSON, sealed; empty once it was ordered.</summary>
    public required byte[] Content { get; set; }

    /// <summary>The files that its answers refer to.</summary>
    public Guid[] Files { get; set; } = [];

    /// <summary>Counts changes, so that two tabs do not overwrite each other unseen.</summary>
    public required int Revision { get; set; }

    /// <summary>The step that the shopper reached.</summary>
    public required string StepReached { get; set; }

    /// <summary>The cart page as last served, its bytes, sealed; null before it was.</summary>
    public byte[]? Shown { get; set; }

    /// <summary>What <see cref="Shown"/> should carry, as JSON, sealed.</summary>
    public byte[]? ShownProjection { get; set; }

    /// <summary>When <see cref="Shown"/> was served.</summary>
    public DateTimeOffset? ShownAt { get; set; }

    /// <summary>The order that it became, or null.</summary>
    public Guid? OrderId { get; set; }

    /// <summary>When it was last changed.</summary>
    public required DateTimeOffset ChangedAt { get; set; }
}

/// <summary>Where an attempt stands.</summary>
public enum AttemptState
{
    /// <summary>Committed; the payment provider is asked or about to be.</summary>
    Paying,

    /// <summary>It became an order.</summary>
    Placed,

    /// <summary>The provider declined.</summary>
    Declined,

    /// <summary>It ran out before the money was taken, or the money was given back.</summary>
    Expired,
}

/// <summary>One try at turning a cart into an order.</summary>
public sealed class AttemptRow
{
    /// <summary>The id; also the key under which the provider is asked, and the id of the order.</summary>
    public required Guid Id { get; init; }

    /// <summary>The cart.</summary>
    public required Guid CartId { get; init; }

    /// <summary>The key that the shopper's page made for this try.</summary>
    public required string ClientKey { get; init; }

    /// <summary>SHA-256 of what was sent with it; another body under the same key is refused.</summary>
    public required byte[] BodyHash { get; init; }

    /// <summary>The key of the attempt, which becomes that of its order, wrapped; empty once it ended.</summary>
    public required byte[] Key { get; set; }

    /// <summary>The evaluation that was frozen, as JSON, sealed; empty once it is placed or ended.</summary>
    public required byte[] Content { get; set; }

    /// <summary>The cart page as it was shown last, sealed; null where it was not, and once the attempt is placed or ended.</summary>
    public byte[]? Shown { get; set; }

    /// <summary>What <see cref="Shown"/> should carry, as JSON, sealed.</summary>
    public byte[]? ShownProjection { get; set; }

    /// <summary>When <see cref="Shown"/> was served.</summary>
    public DateTimeOffset? ShownAt { get; set; }

    /// <summary>The total, in minor units.</summary>
    public required long TotalMinor { get; init; }

    /// <summary>The account of the shopper, or null without one.</summary>
    public Guid? ShopperId { get; init; }

    /// <summary>The one-time token that stands for the card; "" where nothing is charged, and once it is placed or ended.</summary>
    public required string PaymentToken { get; set; }

    /// <summary>Where it stands.</summary>
    public required AttemptState State { get; set; }

    /// <summary>The provider's number for the charge, once known.</summary>
    public string? Charge { get; set; }

    /// <summary>When it was made.</summary>
    public required DateTimeOffset CreatedAt { get; init; }

    /// <summary>When it runs out.</summary>
    public required DateTimeOffset ExpiresAt { get; init; }

    /// <summary>Until when somebody is at it; then another may take it up.</summary>
    public required DateTimeOffset LeaseUntil { get; set; }
}
