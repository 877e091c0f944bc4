namespace Sexton.Data.Rows;

/// <summary>A file that a shopper uploads. It goes with its cart, unless an order has it.</summary>
public sealed class FileRow
{
    /// <summary>A random id: the name under which it is uploaded, and by which answers in a cart refer to it.</summary>
    public required Guid Id { get; init; }

    /// <summary>The cart that holds it.</summary>
    public required Guid CartId { get; set; }

    /// <summary>The key of the file, wrapped.</summary>
    public required byte[] Key { get; set; }

    /// <summary>Its canonical name.</summary>
    public required string Name { get; init; }

    /// <summary>How many bytes were announced.</summary>
    public required long Announced { get; init; }

    /// <summary>How many bytes it has as kept; 0 until then. A picture that is written anew has other ones than came.</summary>
    public long Size { get; set; }

    /// <summary>How many of those announced came so far.</summary>
    public required long Received { get; set; }

    /// <summary>Whether it is brought upright and freed of what stands beside the picture, where it is one.</summary>
    public required bool Rewritten { get; init; }

    /// <summary>The SHA-256 of its bytes as kept; null until it is kept.</summary>
    public byte[]? Sha256 { get; set; }

    /// <summary>The key of the kind that its content tells; null for none that is known.</summary>
    public string? Kind { get; set; }

    /// <summary>The width of a picture in pixels, upright; 0 for what cannot be opened as one.</summary>
    public int Width { get; set; }

    /// <summary>The height of a picture.</summary>
    public int Height { get; set; }

    /// <summary>A small picture of it (JPEG), sealed; or null.</summary>
    public byte[]? Thumbnail { get; set; }

    /// <summary>When the upload began.</summary>
    public required DateTimeOffset CreatedAt { get; init; }

    /// <summary>When all of it was there and had been looked at; null until then.</summary>
    public DateTimeOffset? KeptAt { get; set; }
}

/// <summary>A piece of a file.</summary>
public sealed class FileChunkRow
{
    /// <summary>The file.</summary>
    public required Guid FileId { get; init; }

    /// <summary>Where in the file it begins.</summary>
    public required long Start { get; init; }

    /// <summary>The bytes, sealed.</summary>
    public required byte[] Bytes { get; init; }
}

/// <summary>An order has a file. Several can have the same one.</summary>
public sealed class OrderFileRow
{
    /// <summary>The order.</summary>
    public required Guid OrderId { get; init; }

    /// <summary>The file.</summary>
    public required Guid FileId { get; init; }
}
