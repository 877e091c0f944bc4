using System.IO.Compression;
using System.Text;
using System.Xml;

namespace Sexton.Core.Files;

/// <summary>
/// Tells the kind of a file by its content: by the signature at its beginning, and by what must stand at its end where a file that was cut off
/// would otherwise pass. Signatures: JPEG ISO/IEC 10918-1, PNG W3C, WebP RFC 9649, PDF ISO 32000, TIFF 6.0, ZIP as described by ISO/IEC 21320-1.
/// </summary>
public static class FileTypeDetector
{
    // What is asked of a text's beginning to hold a root element.
    private const int Head = 4096;
    private const int PdfEnd = 1024;
    private const int LongestMediaType = 200;

    private static readonly UTF8Encoding Utf8 = new(encoderShouldEmitUTF8Identifier: false, throwOnInvalidBytes: true);

    /// <summary>The key of the kind, or null when it is none of those known.</summary>
    /// <param name="file">The bytes; can be read from anywhere, and is left open.</param>
    /// <example><code>FileTypeDetector.Tell(File.OpenRead("plan.pdf")) // "pdf", whatever its name; null where its end is missing</code></example>
    public static string? Tell(Stream file)
    {
        var head = new byte[(int)Math.Min(Head, file.Length)];
        file.Position = 0;
        file.ReadExactly(head);
        ReadOnlySpan<byte> start = head;
        return start.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]) ? "jpeg"
            : start.StartsWith((ReadOnlySpan<byte>)[0x89, (byte)'P', (byte)'N', (byte)'G', 0x0D, 0x0A, 0x1A, 0x0A]) ? "png"
            : start.StartsWith("RIFF"u8) && start.Length >= 12 && start[8..].StartsWith("WEBP"u8) ? "webp"
            : start.StartsWith("%PDF-"u8)
                ? IsWholePdf(file) ? "pdf"
                    : null
            : start.StartsWith("II*\0"u8) || start.StartsWith("MM\0*"u8)
                ? TiffIntegrity.Is(file, bigEndian: start[0] == 'M') ? "tiff"
                    : null
            : start.StartsWith("PK\u0003\u0004"u8) ? InsideZip(file)
            : !IsText(file) ? null
            : IsSvg(file) ? "svg"
            : "text";
    }

    private static bool IsWholePdf(Stream file)
    {
        var end = new byte[(int)Math.Min(PdfEnd, file.Length)];
        file.Position = file.Length - end.Length;
        file.ReadExactly(end);
        return end.AsSpan().IndexOf("%%EOF"u8) >= 0;
    }

    // The directory of a ZIP stands at its end: one that was cut off has none.
    private static string? InsideZip(Stream file)
    {
        try
        {
            file.Position = 0;
            using var zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true);
            return zip.GetEntry("mimetype") is { Length: < LongestMediaType } type ? OpenDocument(type)
                : zip.GetEntry("[Content_Types].xml") is null ? "zip"
                : zip.GetEntry("word/document.xml") is not null ? "docx"
                : zip.GetEntry("xl/workbook.xml") is not null ? "xlsx"
                : "zip";
        }
        catch (InvalidDataException)
        {
            return null;
        }
    }

    // OpenDocument 1.3, part 2, 3.3: the first entry says what it is.
    private static string OpenDocument(ZipArchiveEntry type)
    {
        using var reader = new StreamReader(type.Open(), Encoding.ASCII);
        var start = new char[LongestMediaType];
        var said = new string(start, 0, reader.ReadBlock(start));
        return FileKinds.All.FirstOrDefault(k => k.Key is "odt" or "ods" && k.MediaType == said)?.Key ?? "zip";
    }

    // Text is UTF-8 without control characters but those that lay it out.
    private static bool IsText(Stream file)
    {
        file.Position = 0;
        var buffer = new char[8192];
        try
        {
            using var reader = new StreamReader(file, Utf8, detectEncodingFromByteOrderMarks: false, leaveOpen: true);
            for (int read; (read = reader.Read(buffer)) > 0; )
            {
                foreach (var c in buffer.AsSpan(0, read))
                {
                    if (char.IsControl(c) && c is not ('\t' or '\n' or '\r' or '\f'))
                    {
                        return false;
                    }
                }
            }

            return file.Length > 0;
        }
        catch (DecoderFallbackException)
        {
            return false;
        }
    }

    private static bool IsSvg(Stream file)
    {
        file.Position = 0;
        try
        {
            using var xml = XmlReader.Create(
                file,
                new XmlReaderSettings
                {
                    DtdProcessing = DtdProcessing.Ignore,
                    XmlResolver = null,
                    CloseInput = false,
                }
            );
            xml.MoveToContent();
            if (xml is not { LocalName: "svg", NamespaceURI: "http://www.w3.org/2000/svg" })
            {
                return false;
            }

            // To the end: one that was cut off does not close what it opened.
            while (xml.Read())
            {
                // Only whether it can be read.
            }

            return true;
        }
        catch (XmlException)
        {
            return false;
        }
    }
}
