namespace Sexton.Core.Files;

/// <summary>What no field can go beyond.</summary>
public static class FileLimits
{
    /// <summary>The greatest number of files of one answer.</summary>
    public const int MostFiles = 20;

    /// <summary>The greatest size of a file, in millions of bytes.</summary>
    public const int MostMegabytes = 200;

    /// <summary>The greatest number of pixels of a picture that is brought upright: what does not burden the server's memory.</summary>
    public const int MostPixels = 50_000_000;
}
