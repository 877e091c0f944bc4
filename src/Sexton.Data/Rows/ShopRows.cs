namespace Sexton.Data.Rows;

/// <summary>A way out to another system.</summary>
public sealed class ConnectionRow
{
    /// <summary>The stable key.</summary>
    public required string Key { get; init; }

    /// <summary>What the shop calls it.</summary>
    public required string Name { get; set; }

    /// <summary>The address below which the other system is reached; ends with "/".</summary>
    public required string Address { get; set; }

    /// <summary>The secret that is shown there (RFC 6750), wrapped by the key of the installation; null for none.</summary>
    public byte[]? Secret { get; set; }

    /// <summary>The one before, which is shown where that one is not known yet; null for none.</summary>
    public byte[]? SecretBefore { get; set; }

    /// <summary>When the secret was given; null for none.</summary>
    public DateTimeOffset? SecretAt { get; set; }

    /// <summary>The fingerprint of the host key that is trusted, as SHA-256 in base 64, where it is reached by SFTP; null for none.</summary>
    public string? HostKey { get; set; }

    /// <summary>Counts changes.</summary>
    public required int Revision { get; set; }
}

/// <summary>What another system calls an item of the shop.</summary>
public sealed class ItemCodeThereRow
{
    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>The item code of the shop.</summary>
    public required string Item { get; init; }

    /// <summary>The code there.</summary>
    public required string Code { get; set; }
}

/// <summary>That somebody gave a line of an order to a maker.</summary>
public sealed class GivenLineRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The line.</summary>
    public required string LineId { get; init; }

    /// <summary>The key of the maker.</summary>
    public required string Destination { get; set; }

    /// <summary>The account that gave it.</summary>
    public required string Account { get; set; }

    /// <summary>The name by which others know who it was.</summary>
    public required string Name { get; set; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; set; }
}

/// <summary>That nothing is sent to a destination until somebody resumes it.</summary>
public sealed class PausedDestinationRow
{
    /// <summary>The key of the destination.</summary>
    public required string Destination { get; init; }

    /// <summary>Why.</summary>
    public required string Note { get; init; }

    /// <summary>The account that paused it.</summary>
    public required string Account { get; init; }

    /// <summary>The name by which others know who it was.</summary>
    public required string Name { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>When whoever answers for it was told; null before, and where a person paused it.</summary>
    public DateTimeOffset? ToldAt { get; set; }
}

/// <summary>That a delivery that is stuck was handed over to a person.</summary>
public sealed class HandedOverRow
{
    /// <summary>The lane.</summary>
    public required long LaneId { get; init; }

    /// <summary>The account of whoever has it now.</summary>
    public required Guid To { get; set; }

    /// <summary>What is to be done about it.</summary>
    public required string Note { get; set; }

    /// <summary>The name of whoever handed it over.</summary>
    public required string By { get; set; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; set; }
}

/// <summary>That a person answers for a destination.</summary>
public sealed class AnswersForRow
{
    /// <summary>The key of the destination; "" for every one for which nobody else answers.</summary>
    public required string Destination { get; init; }

    /// <summary>The account.</summary>
    public required Guid Account { get; init; }
}

/// <summary>A setting of the shop that was given here, and counts instead of the one that the installation began with.</summary>
public sealed class ShopSettingRow
{
    /// <summary>Its name.</summary>
    public required string Name { get; init; }

    /// <summary>Its value, as JSON.</summary>
    public required string Value { get; set; }
}

/// <summary>A change of something of the shop: who, when, what.</summary>
public sealed class ShopChangeRow
{
    /// <summary>Counts up.</summary>
    public long Id { get; init; }

    /// <summary>When.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>The account that changed it.</summary>
    public required string Account { get; init; }

    /// <summary>The name by which others know who it was.</summary>
    public required string Name { get; init; }

    /// <summary>What was changed, in a sentence.</summary>
    public required string What { get; init; }
}

/// <summary>A picture of the shop's own.</summary>
public sealed class ShopPictureRow
{
    /// <summary>What it is for.</summary>
    public required string Name { get; init; }

    /// <summary>Its media type.</summary>
    public required string MediaType { get; set; }

    /// <summary>Its bytes.</summary>
    public required byte[] Bytes { get; set; }

    /// <summary>Changes with each change of it.</summary>
    public required Guid Stamp { get; set; }
}
