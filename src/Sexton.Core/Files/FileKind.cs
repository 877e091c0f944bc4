using System.Collections.Immutable;

namespace Sexton.Core.Files;

/// <summary>A kind of file.</summary>
/// <param name="Key">The stable key.</param>
/// <param name="Name">What people call it.</param>
/// <param name="MediaType">Its media type, as registered with IANA.</param>
/// <param name="Endings">The endings of names that go with it, the usual one first.</param>
/// <param name="IsPicture">Whether it is a picture that can be shown and brought upright.</param>
public sealed record FileKind(string Key, string Name, string MediaType, ImmutableArray<string> Endings, bool IsPicture = false);

/// <summary>The kinds of file that can be told by their content.</summary>
public static class FileKinds
{
    /// <summary>All of them, in the order in which they are offered.</summary>
    public static readonly ImmutableArray<FileKind> All =
    [
        new("jpeg", "JPEG", "image/jpeg", [".jpg", ".jpeg"], IsPicture: true),
        new("png", "PNG", "image/png", [".png"], IsPicture: true),
        new("webp", "WebP", "image/webp", [".webp"], IsPicture: true),
        new("pdf", "PDF", "application/pdf", [".pdf"]),
        new("svg", "SVG", "image/svg+xml", [".svg"]),
        new("tiff", "TIFF", "image/tiff", [".tif", ".tiff"]),
        new("docx", "Word document", "application/vnd.openxmlformats-officedocument.wordprocessingml.document", [".docx"]),
        new("odt", "OpenDocument text", "application/vnd.oasis.opendocument.text", [".odt"]),
        new("xlsx", "Excel workbook", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", [".xlsx"]),
        new("ods", "OpenDocument spreadsheet", "application/vnd.oasis.opendocument.spreadsheet", [".ods"]),
        new("text", "plain text", "text/plain", [".txt", ".csv"]),
        new("zip", "ZIP", "application/zip", [".zip"]),
    ];

    /// <summary>Those that are pictures.</summary>
    public static readonly ImmutableArray<FileKind> Pictures = [.. All.Where(static k => k.IsPicture)];

    /// <summary>The kind with a key, or null.</summary>
    public static FileKind? Find(string? key) => All.FirstOrDefault(k => k.Key == key);
}
