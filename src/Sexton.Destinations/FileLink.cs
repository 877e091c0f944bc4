using System.Globalization;
using Sexton.Core.Values;

namespace Sexton.Destinations;

/// <summary>
/// A link to a file that says which file it is: the size and the SHA-256 stand in the part after "#", as "sha256=…&amp;size=…". Browsers keep
/// that part to themselves, so that it changes nothing about what is fetched, and whoever fetches it can compare. (Python's package indexes have
/// given hashes in this way for long: PEP 503.)
/// </summary>
public static class FileLink
{
    /// <summary>Adds what the file is to a link.</summary>
    public static string Write(string link, FileValue file) =>
        string.Create(CultureInfo.InvariantCulture, $"{link}#sha256={file.Sha256}&size={file.Size}");

    /// <summary>The file of a link; null when the link does not say.</summary>
    /// <param name="name">The name that stands beside it.</param>
    /// <param name="link">The link.</param>
    public static FileValue? Read(string name, string link)
    {
        var said = link[(link.IndexOf('#', StringComparison.Ordinal) + 1)..].Split('&');
        return
            said is [var hash, var size]
            && hash.StartsWith("sha256=", StringComparison.Ordinal)
            && size.StartsWith("size=", StringComparison.Ordinal)
            && long.TryParse(size[5..], NumberStyles.None, CultureInfo.InvariantCulture, out var bytes)
            ? new FileValue(name, bytes, hash[7..])
            : null;
    }
}
