namespace Sexton.Data.Rows;

/// <summary>The account of a shopper, signed in to by a one-time link and without a password.</summary>
public sealed class ShopperRow
{
    /// <summary>The id.</summary>
    public required Guid Id { get; init; }

    /// <summary>The e-mail address, in small letters.</summary>
    public required string Email { get; init; }

    /// <summary>The key of the shopper group; "" for that of everybody who is not known.</summary>
    public required string Group { get; set; }

    /// <summary>When it was made.</summary>
    public required DateTimeOffset CreatedAt { get; init; }

    /// <summary>Changes when the shopper signs out: whoever signed in before it changed is signed in no longer.</summary>
    public Guid Stamp { get; set; }
}

/// <summary>A one-time link that was sent to a shopper.</summary>
public sealed class SignInLinkRow
{
    /// <summary>SHA-256 of its token; the token itself is known only to who got the e-mail.</summary>
    public required byte[] TokenHash { get; init; }

    /// <summary>The e-mail address that it was sent to, in small letters.</summary>
    public required string Email { get; init; }

    /// <summary>When it runs out.</summary>
    public required DateTimeOffset ExpiresAt { get; init; }

    /// <summary>When it was used, or null.</summary>
    public DateTimeOffset? UsedAt { get; set; }
}
